"""Every text goes through Qt's translation: with a language that brackets all of them, none is left bare."""

from __future__ import annotations

import re
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

import pytest
from PyQt6.QtCore import QLocale, QTranslator
from PyQt6.QtGui import QAction
from PyQt6.QtWidgets import QAbstractButton, QApplication, QComboBox, QLabel, QWidget
from pytestqt.qtbot import QtBot
from tests.desktop.conftest import OpenWindow

from gavotte.desktop.errands.exporting import EXPORT_FORMATS
from gavotte.desktop.shell.window import MainWindow
from gavotte.desktop.translation import install_translations
from gavotte.desktop.words import counted
from gavotte.solo.instruments import INSTRUMENTS
from gavotte.vocabulary.contexts import CONTEXTS
from gavotte.vocabulary.query import EXAMPLES

SOURCES = Path(__file__).parents[2] / "src" / "gavotte" / "desktop"


class Bracketing(QTranslator):
    """A language in which everything is in brackets."""

    def translate(
        self, context: str | None, text: str | None, disambiguation: str | None = None, n: int = -1
    ) -> str | None:
        return f"⟦{text}⟧" if context == "Gavotte" else None

    def isEmpty(self) -> bool:
        return False


@pytest.fixture
def bracketing(qapp: QApplication) -> Iterator[None]:
    language = Bracketing()
    qapp.installTranslator(language)
    yield
    qapp.removeTranslator(language)


@pytest.fixture
def bracketed(qtbot: QtBot, bracketing: None, open_window: OpenWindow, demo_folder: Path) -> MainWindow:
    window = open_window(demo_folder)
    window.open_solo(window.desks["shelf"].solos.current_id() or "")
    window.session.selection.select("n2", "n4")
    qtbot.waitUntil(lambda: window.desks["label"].page.is_complete)
    return window


def is_word(text: str) -> bool:
    """Whether somebody would have to translate it: no name of a note, a chord or a key on the keyboard."""
    return re.search(r"[a-z]{4}", text) is not None


def bare(root: QWidget, data: set[str]) -> list[str]:
    """The texts under a widget that did not go through translation."""
    texts: set[str] = set()
    for widget in [root, *root.findChildren(QWidget)]:
        texts |= {widget.toolTip(), widget.accessibleName(), widget.windowTitle()}
        if isinstance(widget, QLabel | QAbstractButton) and widget.objectName() != "keys":
            texts.add(widget.text())
        if isinstance(widget, QComboBox):
            texts |= {widget.itemText(index) for index in range(widget.count())}
    texts |= {action.text() for action in root.findChildren(QAction)}
    return sorted(text for text in texts if is_word(text) and "⟦" not in text and text not in data)


def data_of(window: MainWindow) -> set[str]:
    """Words that are the user's own, or come with a label."""
    solo = window.session.solo
    assert solo is not None
    library = window.studio.library
    found = {
        "Gavotte",
        solo.title,
        f"{solo.title} – Gavotte",
        solo.player,
        solo.style,
        str(library.folder),
    }
    found |= {label.reason for label in window.session.labels.values()}
    found |= {entry.name for entry in library.licks()} | {e.title for e in library.solos()}
    found |= {instrument.name for instrument in INSTRUMENTS}
    found.add(window.desks["write"].page.accessibleName())
    vocabulary = window.desks["vocabulary"]
    # Contexts and what is asked for are words of a language of their own.
    contexts = vocabulary.search.contexts
    found |= {contexts.itemText(k) for k in range(contexts.count()) if contexts.itemData(k) in CONTEXTS}
    found |= {*EXAMPLES, vocabulary.about.contexts.text(), vocabulary.about.goal.text()}
    found |= {solo.player for solo in library.solos()}
    grid = window.session.frame
    assert grid is not None
    places = {grid.grid.place(note.onset) for note in solo.notes}
    return found | {place[0].upper() + place[1:] for place in places}


def test_no_text_of_the_window_is_bare(bracketed: MainWindow) -> None:
    assert bare(bracketed, data_of(bracketed)) == []


def test_no_text_of_the_dialogs_is_bare(qtbot: QtBot, bracketed: MainWindow) -> None:
    data = data_of(bracketed)
    bracketed.show_paper()
    bracketed.show_library()
    bracketed.show_preferences()
    bracketed.change_details()
    bracketed.studio.keeping.keep()
    bracketed.show_keys()
    dialogs = (
        bracketed.paper_dialog,
        bracketed.library_dialog,
        bracketed.preferences_dialog,
        bracketed.studio.keeping.dialog,
        bracketed.key_map,
    )
    for dialog in dialogs:
        assert dialog is not None
        assert bare(dialog, data | {"major", "minor", "Letter"}) == []
    assert bracketed.paper_dialog is not None
    paper = bracketed.paper_dialog
    qtbot.waitUntil(lambda: paper.is_set)
    assert paper.place.text() == "⟦Page 1 of 2⟧"


@pytest.mark.usefixtures("bracketing")
def test_counted_things_and_formats_are_translated_where_they_are_shown() -> None:
    assert (counted(1, "solo"), counted(3, "solo")) == ("1 ⟦solo⟧", "3 ⟦solos⟧")
    assert all(wanted.file_filter.startswith("⟦") for wanted in EXPORT_FORMATS)


def test_the_texts_can_be_extracted(tmp_path: Path) -> None:
    out = tmp_path / "gavotte.ts"
    files = [str(path) for path in sorted(SOURCES.rglob("*.py"))]
    subprocess.run(
        [sys.executable, "-c", "from PyQt6.lupdate.pylupdate import main; main()", *files, "--ts", str(out)], check=True
    )
    found = out.read_text(encoding="utf-8")
    assert found.count("<source>") > 300
    for text in ("Keep as lick…", "Chord tone", "Play the selected notes, or everything, round and round"):
        assert f"<source>{text}</source>" in found


def test_a_language_without_a_translation_is_english(qapp: QApplication, tmp_path: Path) -> None:
    assert install_translations(qapp, QLocale("tlh"), tmp_path) == []
