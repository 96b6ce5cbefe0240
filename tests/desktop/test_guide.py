"""The guide: what it says is there, and it is read where it is wanted; and the first steps."""

from __future__ import annotations

import ast
import re
from collections.abc import Callable
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt, QUrl
from PyQt6.QtGui import QKeySequence, QTextDocument
from pytestqt.qtbot import QtBot

from gavotte.cli import main
from gavotte.desktop.shell.guide import GuideWindow
from gavotte.desktop.shell.guide_pages import INDEX, chapters, guide_folder, holding, page
from gavotte.desktop.shell.window import MainWindow

OpenWindow = Callable[[Path], MainWindow]
SOURCE = Path(__file__).parents[2] / "src" / "gavotte"
FOLDER = guide_folder() or Path()
FILES = [chapter.file for chapter in chapters(FOLDER)]
KEYS_OF_LISTS = {"Return", "Shift+Down"}
"""Keys every list knows, which are no commands."""


def texts(file: str) -> str:
    return (FOLDER / file).read_text(encoding="utf-8")


def normal(keys: str) -> str:
    return QKeySequence(keys).toString()


def plain(words: str) -> str:
    return words.replace("&", "").rstrip("….:").strip()


@pytest.fixture(scope="module")
def words_shown() -> set[str]:
    """Everything the interface may say, from its sources."""
    found = set()
    for path in SOURCE.rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            if isinstance(node, ast.Call) and getattr(node.func, "id", "") in ("translate", "QT_TRANSLATE_NOOP"):
                for given in node.args[1:2]:
                    if isinstance(given, ast.Constant) and isinstance(given.value, str):
                        found.add(plain(given.value))
    return found


def test_every_desk_has_a_chapter_in_the_order_of_the_work(window: MainWindow) -> None:
    desks = [chapter.desk for chapter in chapters(FOLDER) if chapter.desk in window.desks]
    assert desks == list(window.desks)
    assert {path.name for path in FOLDER.glob("*.md")} == {INDEX, *FILES}


def test_every_key_in_the_guide_is_one(window: MainWindow) -> None:
    commands = window.actions_of
    everywhere = {normal(key) for command in commands.everywhere for key in command.keys}
    of_desk = {name: {normal(k) for command in made for k in command.keys} for name, made in commands.desks.items()}
    anywhere = everywhere.union(*of_desk.values())
    for chapter in chapters(FOLDER):
        known = everywhere | of_desk[chapter.desk] if chapter.desk in of_desk else anywhere
        known |= {normal(keys) for keys in KEYS_OF_LISTS}
        named = {normal(key) for key in re.findall(r"<kbd>(.+?)</kbd>", texts(chapter.file))}
        # What is kept at any desk may be named in the chapter that it is about.
        left = named - known - (of_desk["label"] if chapter.desk == "vocabulary" else set())
        assert left == set(), chapter.file


def test_every_label_in_the_guide_stands_in_the_window(words_shown: set[str]) -> None:
    for file in (INDEX, *FILES):
        for label in re.findall(r"\*\*(.+?)\*\*", texts(file), re.DOTALL):
            words = plain(" ".join(label.split()))
            # The steps of the first ten minutes are headed by their names.
            assert words in words_shown, f"{file}: {label}"


def test_every_command_in_the_guide_exists(capsys: pytest.CaptureFixture[str]) -> None:
    text = texts("14-commands.md")
    table = re.findall(r"^\| `(\w+)` \|", text, re.MULTILINE)
    lines = re.findall(r"^    gavotte (\w+) (.+)$", text, re.MULTILINE)
    assert {command for command, _ in lines} == set(table)
    for command in table:
        with pytest.raises(SystemExit) as ended:
            main([command, "--help"])
        assert ended.value.code == 0
        shown = capsys.readouterr().out
        assert "examples:" in shown
        assert "exit status: 0" in shown
        for option in re.findall(r"--[a-z-]+", " ".join(rest for name, rest in lines if name == command)):
            assert option in shown, f"{command} {option}"


def test_the_chapter_of_all_keys_is_made_of_the_commands(window: MainWindow) -> None:
    assert texts("15-keys.md") == window.keys_chapter(), "./run screenshots writes it anew"


def test_links_and_pictures_lead_somewhere_and_nothing_to_the_network() -> None:
    for file in (INDEX, *FILES):
        text = texts(file)
        for target in re.findall(r"\]\(([^)]+)\)", text):
            assert (FOLDER / target).resolve().is_file(), f"{file}: {target}"
        assert "http" not in text


def test_the_guide_is_installed_with_the_application() -> None:
    settings = (SOURCE.parents[1] / "pyproject.toml").read_text(encoding="utf-8")
    assert '"share/gavotte/guide" = ["docs/guide/*.md"]' in settings
    assert '"share/gavotte/screenshots"' in settings


def test_pages_outside_the_guide_are_not_read() -> None:
    with pytest.raises(ValueError, match="no page"):
        page(FOLDER, "../../README.md")
    assert [chapter.file for chapter in holding(FOLDER, "ladder degrees hatched")] == ["10-compare.md"]
    assert "`` ` ``" in page(FOLDER, "15-keys.md")


@pytest.fixture
def guide(qtbot: QtBot, window: MainWindow) -> GuideWindow:
    window.show_guide()
    assert window.guide is not None
    qtbot.waitExposed(window.guide)
    return window.guide


def test_what_is_this_opens_the_desks_chapter(window: MainWindow) -> None:
    for name in ("shelf", "compare", "practice"):
        window.show_desk(name)
        window.actions_of.action("help.what").trigger()
        assert window.guide is not None
        assert window.guide.isVisible()
        assert window.guide.shown.endswith(f"-{name}.md")
        assert window.guide.chapters.current_id() == window.guide.shown
    window.guide.close()
    window.show_desk("label")
    window.what_button.click()
    assert window.guide.shown == "05-label.md"
    assert "function lane" in window.guide.page.toPlainText()


def test_the_guide_is_searched_and_gone_through(qtbot: QtBot, guide: GuideWindow) -> None:
    assert guide.shown == INDEX
    assert guide.chapters.count() == len(FILES)
    qtbot.keyClicks(guide.search, "guide tones")
    assert guide.chapters.count() < len(FILES)
    assert guide.shown in {chapter.file for chapter in holding(FOLDER, "guide tones")}
    assert guide.page.textCursor().selectedText().casefold() == "guide"
    qtbot.keyClick(guide.search, Qt.Key.Key_Return)
    guide.page.anchorClicked.emit(QUrl("10-compare.md"))
    assert guide.shown == "10-compare.md"
    assert guide.chapters.count() == len(FILES)
    guide.page.anchorClicked.emit(QUrl("https://nowhere.invalid/x.md"))
    assert guide.shown == "10-compare.md"


def test_pictures_are_shown_from_the_guides_own_folders_alone(guide: GuideWindow) -> None:
    kind = QTextDocument.ResourceType.ImageResource.value
    picture = guide.page.loadResource(kind, QUrl("../screenshots/label.png"))
    assert not picture.isNull()  # type: ignore[attr-defined]
    assert picture.width() == 560  # type: ignore[attr-defined]
    for outside in ("/etc/hostname", "../../packaging/icons/48/org.gavotte.Gavotte.png"):
        assert guide.page.loadResource(kind, QUrl(outside)).isNull()  # type: ignore[attr-defined]


# -- first steps ------------------------------------------------------------------------------------------------


def test_the_first_steps_lead_from_hearing_to_practising(qtbot: QtBot, window: MainWindow) -> None:
    steps = window.first_steps
    steps.begin()
    assert steps.isVisible()
    label, vocabulary = window.desks["label"], window.desks["vocabulary"]
    qtbot.waitUntil(lambda: window.desk is label and label.page.is_complete, timeout=60000)
    page = label.page
    assert "1 of 6" in steps.heading.text()
    page.setFocus()
    qtbot.keyClick(page, Qt.Key.Key_Space)
    qtbot.waitUntil(lambda: steps.is_done, timeout=20000)
    qtbot.keyClick(page, Qt.Key.Key_Space)
    steps.next_button.click()
    assert not steps.is_done
    page.setFocus()
    qtbot.keyClick(page, Qt.Key.Key_Right)
    assert steps.is_done
    steps.next_button.click()
    page.setFocus()
    qtbot.keyClick(page, Qt.Key.Key_5)
    assert steps.is_done
    window.session.undo_stack.undo()
    steps.next_button.click()
    page.setFocus()
    for _ in range(4):
        qtbot.keyClick(page, Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    licks = window.studio.library.counts()[1]
    qtbot.keyClick(page, Qt.Key.Key_K)
    dialog = window.studio.keeping.dialog
    assert dialog is not None
    qtbot.mouseClick(dialog.yes, Qt.MouseButton.LeftButton)
    assert window.studio.library.counts()[1] == licks + 1
    qtbot.waitUntil(lambda: steps.is_done, timeout=20000)
    steps.next_button.click()
    assert window.desk is vocabulary
    qtbot.waitUntil(lambda: window.studio.activities.is_idle, timeout=60000)
    window.actions_of.action("vocabulary.all_keys").trigger()
    assert steps.is_done
    steps.next_button.click()
    assert steps.next_button.text() == "Done"
    window.actions_of.action("edit.practise").trigger()
    assert steps.is_done
    assert window.studio.library.documents("practice")
    steps.next_button.click()
    assert not steps.isVisible()


def test_they_can_be_left_and_never_come_back_unasked(
    window: MainWindow, open_window: OpenWindow, demo_folder: Path
) -> None:
    window.first_steps.offer()
    assert window.first_steps.isVisible()
    window.first_steps.go_on()
    window.first_steps.leave_button.click()
    assert not window.first_steps.isVisible()
    window.first_steps.offer()
    assert not window.first_steps.isVisible()
    window.close()
    again = open_window(demo_folder)
    again.first_steps.offer()
    assert not again.first_steps.isVisible()
    again.actions_of.action("help.steps").trigger()
    assert again.first_steps.isVisible()


def test_without_a_solo_they_say_what_is_missing(open_window: OpenWindow, tmp_path: Path) -> None:
    window = open_window(tmp_path / "empty")
    window.first_steps.offer()
    assert not window.first_steps.isVisible()
    window.first_steps.begin()
    assert "need a solo" in window.notice.text.text()
    assert not window.first_steps.isVisible()
