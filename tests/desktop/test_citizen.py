"""Gavotte as one program among others on a desktop: one window, preferences, keys, backups, mishaps."""

from __future__ import annotations

import gc
import logging
import os
import stat
import sys
import tempfile
import weakref
from collections.abc import Callable, Generator, Iterator
from functools import partial
from pathlib import Path
from urllib.parse import quote_from_bytes

import pytest
from PyQt6.QtCore import QObject, QSettings, Qt, QUrl
from PyQt6.QtWidgets import QLabel
from pytestqt.qtbot import QtBot
from tests.conftest import make_solo
from tests.desktop.conftest import OpenWindow, stop_what_goes_on

from gavotte.demo.build import build_demo
from gavotte.demo.recordings import to_be_recorded
from gavotte.demo.solos import DEMO_SOLOS
from gavotte.desktop import app
from gavotte.desktop.demo_recordings import DemoRecordings
from gavotte.desktop.garbage import GarbageCollector
from gavotte.desktop.playback.sound_out import SoundOut
from gavotte.desktop.shell import single
from gavotte.desktop.shell.mishaps import LOG, MishapHandler, start_log
from gavotte.desktop.shell.preferences import PreferencesDialog
from gavotte.desktop.shell.report import report_on
from gavotte.desktop.shell.single import Answer, Doorman, hand_over
from gavotte.desktop.shell.window import MainWindow, local_path
from gavotte.desktop.theme.look import FOLLOW_SYSTEM, palette_for
from gavotte.desktop.theme.palette import DAY, STAGE
from gavotte.formats.musicxml_write import write_musicxml
from gavotte.library.errors import LibraryInUseError
from gavotte.library.reader import DATABASE
from gavotte.library.store import Library
from gavotte.recording.recording import Recording
from gavotte.solo.document import Function, Solo


def handed_over(qtbot: QtBot, window: MainWindow, folder: Path, files: list[Path]) -> Answer:
    """What a later start hears that gives files to the open window."""
    done: list[Answer] = []
    window.activities.beside(window, lambda: hand_over(folder, files), done.append, lambda error: None)
    qtbot.waitUntil(lambda: len(done) == 1, timeout=15_000)
    return done[0]


@pytest.fixture
def doorman(window: MainWindow) -> Iterator[Doorman]:
    made = Doorman(window.studio.library, window)
    assert made.listen()
    yield made
    made.close()


def test_a_later_start_hands_its_files_to_the_open_window(
    qtbot: QtBot, window: MainWindow, demo_folder: Path, doorman: Doorman
) -> None:
    with qtbot.waitSignal(doorman.called) as called:
        assert handed_over(qtbot, window, demo_folder, [demo_folder / "a.mid"]) is Answer.TAKEN
    assert called.args == [[demo_folder / "a.mid"]]
    doorman.close()
    assert hand_over(demo_folder, []) is Answer.NOBODY


def test_many_files_and_any_names_are_handed_over(
    qtbot: QtBot, window: MainWindow, demo_folder: Path, doorman: Doorman, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("TMPDIR", str(demo_folder))
    monkeypatch.setenv("XDG_RUNTIME_DIR", "/nowhere")
    files = [demo_folder / f"{'x' * 150} {number}.mid" for number in range(20_000)] + [Path(os.fsdecode(b"/\xff.mid"))]
    with qtbot.waitSignal(doorman.called) as called:
        assert handed_over(qtbot, window, demo_folder, files) is Answer.TAKEN
    assert called.args == [files]


def test_nothing_is_told_to_a_process_of_another_user(
    qtbot: QtBot, window: MainWindow, demo_folder: Path, doorman: Doorman, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(single, "_is_same_user", lambda _: False)
    doorman.called.connect(lambda _: pytest.fail("another user was heard"))
    assert handed_over(qtbot, window, demo_folder, [demo_folder / "a.mid"]) is Answer.NOBODY


def test_a_socket_where_others_can_go_is_not_believed(window: MainWindow, tmp_path: Path) -> None:
    (tmp_path / "open").mkdir(mode=0o777)
    (tmp_path / "open").chmod(0o777)
    window.studio.library.leave_word(str(tmp_path / "open" / "socket"))
    assert hand_over(window.studio.library.folder, []) is Answer.NOBODY


def test_a_runtime_folder_of_others_is_not_used(monkeypatch: pytest.MonkeyPatch) -> None:
    # The path of a socket has room for few signs: fewer than the tests' own folders need.
    with tempfile.TemporaryDirectory(prefix="g") as name:
        Path(name).chmod(0o755)
        monkeypatch.setenv("XDG_RUNTIME_DIR", name)
        monkeypatch.setattr("tempfile.tempdir", name)
        first = single.runtime_folder()
        assert first.parent == Path(name)
        assert stat.S_IMODE(first.stat().st_mode) == 0o700
        assert single.runtime_folder() == first
        first.chmod(0o777)
        assert single.runtime_folder() != first


def test_a_window_that_does_not_answer_has_the_files_all_the_same(
    qtbot: QtBot, window: MainWindow, demo_folder: Path, doorman: Doorman, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(single, "_ANSWER_MS", 50)
    # Asked from the window's own thread, which therefore can't answer.
    assert hand_over(demo_folder, [demo_folder / "a.mid"]) is Answer.UNANSWERED
    with qtbot.waitSignal(doorman.called) as called:
        pass
    assert called.args == [[demo_folder / "a.mid"]]


def test_a_doorman_that_hears_nothing_says_so(window: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    def refuse() -> Path:
        raise OSError("no room")

    monkeypatch.setattr(single, "runtime_folder", refuse)
    made, told = Doorman(window.studio.library, window), []
    made.failed.connect(told.append)
    assert not made.listen()
    assert "no room" in told[0]


def test_files_of_a_later_start_are_imported(qtbot: QtBot, window: MainWindow, tmp_path: Path) -> None:
    window.open_solo(window.desks["shelf"].solos.current_id() or "")
    path = tmp_path / "again.musicxml"
    path.write_bytes(write_musicxml(make_solo([("C7", "C5/4 E5 G5 E5")])))
    before = window.desks["shelf"].solos.count()
    with qtbot.waitSignal(window.session.replaced, timeout=10000):
        window.welcome([path])
    assert window.rail.buttons["shelf"].text() == f"Shelf\n{before + 1} solos"
    assert window.isActiveWindow()


def test_a_library_that_is_open_elsewhere_is_refused_without_a_doorman(demo_folder: Path) -> None:
    with Library(demo_folder):
        assert "open in another window" in str(app._open_or_hand_over(demo_folder, []))
        with pytest.raises(LibraryInUseError):
            build_demo(demo_folder, fresh=True)
        assert (demo_folder / DATABASE).exists()


@pytest.mark.mishap
@pytest.mark.parametrize("yes", [True, False])
def test_a_damaged_library_goes_on_from_its_backup(
    demo_folder: Path, monkeypatch: pytest.MonkeyPatch, yes: bool
) -> None:
    with Library(demo_folder) as library:
        library.back_up_now()
        solos = library.solos()
    file = demo_folder / DATABASE
    damaged = file.read_bytes()[:5000]
    file.write_bytes(damaged)
    asked: list[str] = []
    monkeypatch.setattr(app, "ask_for_backup", lambda why, backup: asked.append(why) or yes)
    found = app._open_or_hand_over(demo_folder, [])
    assert asked
    if yes:
        assert isinstance(found, Library)
        assert found.solos() == solos
        found.close()
    else:
        assert isinstance(found, str)
        assert file.read_bytes() == damaged


@pytest.mark.mishap
def test_a_damaged_library_without_backup_says_what_to_do(tmp_path: Path) -> None:
    (tmp_path / DATABASE).write_bytes(b"nothing of the kind" * 400)
    assert "Move the file away" in str(app._open_or_hand_over(tmp_path, []))


def test_recent_solos_come_back_in_order(open_window: OpenWindow, demo_folder: Path) -> None:
    window = open_window(demo_folder)
    ids = [entry.id for entry in window.studio.library.solos()]
    for solo_id in (ids[0], ids[1], ids[0]):
        window.open_solo(solo_id)
    window.studio.edits.delete_solo(ids[1])
    assert [solo_id for solo_id, _ in window.recent_solos()] == [ids[0]]
    window.studio.edits.undo_stack.undo()
    window.list_recent()
    texts = [action.text() for action in window.recent.actions()]
    assert texts == [title for _, title in window.recent_solos()]
    assert [solo_id for solo_id, _ in window.recent_solos()] == [ids[0], ids[1]]
    window.recent.actions()[1].trigger()
    assert window.session.solo_id == ids[1]


def test_the_look_is_chosen_kept_and_can_follow_the_desktop(open_window: OpenWindow, demo_folder: Path) -> None:
    window = open_window(demo_folder)
    assert window.actions_of.action(f"view.look_{FOLLOW_SYSTEM.lower()}").isChecked()
    assert window.palette_in_use is palette_for(FOLLOW_SYSTEM)
    window.show_preferences()
    dialog = window.preferences_dialog
    assert dialog is not None
    dialog.look.setCurrentIndex(2)
    dialog.look.activated.emit(2)
    assert window.palette_in_use is STAGE
    assert window.actions_of.action("view.look_stage").isChecked()
    dialog.accept()
    window.close()
    window.studio.library.close()
    again = open_window(demo_folder)
    assert again.palette_in_use is STAGE
    again.set_look("Day")
    assert again.palette_in_use is DAY


def test_a_dark_desktop_gets_the_stage(monkeypatch: pytest.MonkeyPatch, window: MainWindow) -> None:
    class Hints:
        scheme = Qt.ColorScheme.Dark

        def colorScheme(self) -> Qt.ColorScheme:
            return self.scheme

    hints = Hints()
    monkeypatch.setattr("gavotte.desktop.theme.look.QGuiApplication.styleHints", lambda: hints)
    window.set_look(FOLLOW_SYSTEM)
    assert window.palette_in_use is STAGE
    hints.scheme = Qt.ColorScheme.Light
    window._show_look()
    assert window.palette_in_use is DAY


def test_a_file_that_is_no_soundfont_is_explained(window: MainWindow, tmp_path: Path) -> None:
    (tmp_path / "odd.sf2").write_text("no sound in here")
    window.studio.transport.warm_up()
    window.show_preferences()
    dialog = window.preferences_dialog
    assert dialog is not None
    dialog.use_soundfont(str(tmp_path / "odd.sf2"))
    assert "odd.sf2" in window.notice.text.text()
    dialog.usual.click()
    assert dialog.soundfont.text() == "The usual one"
    assert "odd.sf2" not in window.studio.transport.sound_words


def test_one_key_shows_the_keys_of_the_desk(qtbot: QtBot, at_ferry: MainWindow) -> None:
    def words() -> str:
        return " ".join(label.text() for label in at_ferry.key_map.findChildren(QLabel))

    qtbot.keyClick(at_ferry.desks["label"].page, "?")
    assert at_ferry.key_map.isVisible()
    for word in ("Call it passing", "Keep as lick", "Play or stop", "Undo", "Select several notes", "F1 … F9, F11"):
        assert word in words()
    qtbot.keyClick(at_ferry.key_map, "1")
    assert not at_ferry.key_map.isVisible()
    assert at_ferry.desks["label"].page.hasFocus()
    assert at_ferry.session.solo is not None
    assert at_ferry.session.solo.decisions == ()
    at_ferry.show_desk("shelf")
    at_ferry.show_keys()
    assert "Call it passing" not in words()
    assert "Delete" in words()
    assert "Import a solo" in at_ferry.key_map.accessibleDescription()


def test_the_page_is_read_out_note_by_note(at_ferry: MainWindow) -> None:
    page, session = at_ferry.desks["label"].page, at_ferry.session
    session.selection.select("n2", "n2")
    name = page.accessibleName()
    assert name.startswith("A4, ")
    assert "bar 1" in name
    assert "3 of F" in name
    assert page.accessibleDescription() == session.labels["n2"].reason
    session.selection.select("n2", "n5")
    assert page.accessibleName().startswith("4 notes selected, ")


def test_going_back_to_a_backup_and_forth_again(qtbot: QtBot, at_ferry: MainWindow) -> None:
    session = at_ferry.session
    at_ferry.studio.library.back_up_now()
    session.selection.select("n2", "n2")
    session.decide(Function.OUTSIDE)
    solo_id = session.solo_id or ""
    at_ferry.show_library()
    dialog = at_ferry.library_dialog
    assert dialog is not None
    assert not dialog.yes.isDefault()
    count = dialog.backups.count()
    dialog.yes.click()
    assert at_ferry._stack.currentWidget() is at_ferry.desks["shelf"]
    assert not at_ferry.session.undo_stack.canUndo()
    at_ferry.open_solo(solo_id)
    assert session.solo is not None
    assert session.solo.decisions == ()
    at_ferry.show_library()
    dialog = at_ferry.library_dialog
    assert dialog is not None
    assert dialog.backups.count() == count + 1
    dialog.go_back()
    at_ferry.open_solo(solo_id)
    assert [d.note for d in session.solo.decisions] == ["n2"]


def test_a_library_goes_out_and_into_another(
    qtbot: QtBot, open_window: OpenWindow, demo_folder: Path, tmp_path: Path
) -> None:
    window = open_window(demo_folder)
    window.show_library()
    dialog = window.library_dialog
    assert dialog is not None
    with qtbot.waitSignal(dialog.told, timeout=20000):
        dialog.export_to(tmp_path / "all.gavotte.zip")
    other = open_window(tmp_path / "other")
    other.show_library()
    dialog = other.library_dialog
    assert dialog is not None
    with qtbot.waitSignal(dialog.told, timeout=20000):
        dialog.add_from(tmp_path / "all.gavotte.zip")
    assert other.desks["shelf"].solos.count() == window.desks["shelf"].solos.count()
    assert other.desks["vocabulary"].licks.count() == window.desks["vocabulary"].licks.count()
    other.show_library()
    dialog = other.library_dialog
    assert dialog is not None
    (tmp_path / "odd.zip").write_bytes(b"PK nothing")
    with qtbot.waitSignal(dialog.failed, timeout=20000) as failed:
        dialog.add_from(tmp_path / "odd.zip")
    assert "odd.zip" in failed.args[0]


def test_writing_a_library_can_be_stopped(window: MainWindow, qtbot: QtBot, tmp_path: Path) -> None:
    window.show_library()
    dialog = window.library_dialog
    assert dialog is not None
    with qtbot.waitSignal(window.activities.changed):
        dialog.export_to(tmp_path / "all.gavotte.zip")
    stop_what_goes_on(window)
    assert not window.activity_bar.isVisible()
    assert [path for path in tmp_path.iterdir() if "all" in path.name] == []


@pytest.mark.mishap
def test_a_mishap_is_logged_and_the_work_saved_first(at_ferry: MainWindow, tmp_path: Path) -> None:
    log = tmp_path / "logs" / "gavotte.log"
    start_log(log)
    session = at_ferry.session
    session.selection.select("n2", "n2")
    session.decide(Function.OUTSIDE)
    assert not at_ferry.studio.saver.is_saved
    told: list[bool] = []
    copied: list[Callable[[], None]] = []

    def tell(text: str, action: str, then: Callable[[], None]) -> None:
        told.append(at_ferry.studio.saver.is_saved and "saved first" in text)
        copied.append(then)

    handler = MishapHandler(at_ferry.rescue.keep_safe, tell, partial(report_on, at_ferry.studio.library), log)
    try:
        raise ZeroDivisionError("of all things")
    except ZeroDivisionError:
        handler.catch(*sys.exc_info())  # type: ignore[arg-type]
    assert told == [True]
    assert "of all things" in log.read_text()
    assert "Traceback" in log.read_text()


@pytest.mark.mishap
def test_a_mishap_while_saving_is_told_honestly(tmp_path: Path) -> None:
    told: list[str] = []

    def keep_safe() -> str:
        raise OSError("full")

    def tell(text: str, action: str, then: Callable[[], None]) -> None:
        told.append(text)

    MishapHandler(keep_safe, tell, str, tmp_path / "log").catch(ValueError, ValueError("odd"), None)
    assert "could not be saved" in told[0]


def test_a_log_that_cannot_be_written_goes_to_the_terminal(tmp_path: Path) -> None:
    (tmp_path / "file").write_text("")
    start_log(tmp_path / "file" / "gavotte.log")
    assert isinstance(LOG.handlers[0], logging.StreamHandler)


def test_escape_hides_the_message(qtbot: QtBot, at_ferry: MainWindow) -> None:
    for desk in ("shelf", "label"):
        at_ferry.show_desk(desk)
        at_ferry.notice.say("Something was said.")
        qtbot.keyClick(at_ferry.desk.focus(), Qt.Key.Key_Escape)
        assert not at_ferry.notice.isVisible()


def test_a_demo_is_there_at_once_and_its_recordings_follow(
    qtbot: QtBot, window: MainWindow, monkeypatch: pytest.MonkeyPatch
) -> None:
    played: list[str] = []

    def steps(solo: Solo, folder: Path) -> Generator[float, None, Recording]:
        played.append(solo.title)
        yield 0.5
        return Recording("a.flac", "recordings/a.flac", True, "0" * 64, 44100)

    monkeypatch.setattr("gavotte.desktop.demo_recordings.record", steps)
    library = window.studio.library
    recorded = len(DEMO_SOLOS) + 1
    recordings = DemoRecordings(library, window.studio.tape, window.activities, window)
    recordings.begin()
    assert "Playing in" in window.activity_bar.words
    qtbot.waitUntil(lambda: recordings.is_complete)
    assert len(played) == len(set(played)) == recorded
    assert len(library.recordings()) == recorded
    assert to_be_recorded(library) == []


def test_playing_the_demo_in_can_be_stopped_and_goes_on_at_the_next_start(
    qtbot: QtBot, window: MainWindow, monkeypatch: pytest.MonkeyPatch
) -> None:
    def steps(solo: Solo, folder: Path) -> Generator[float, None, Recording]:
        while True:
            yield 0.5

    monkeypatch.setattr("gavotte.desktop.demo_recordings.record", steps)
    library = window.studio.library
    recordings = DemoRecordings(library, window.studio.tape, window.activities, window)
    recordings.begin()
    stop_what_goes_on(window)
    assert recordings.is_complete
    assert not window.activity_bar.isVisible()
    assert len(to_be_recorded(library)) == len(DEMO_SOLOS) + 1


def test_circles_of_values_are_freed_at_a_quiet_moment(qtbot: QtBot) -> None:
    class Held:
        pass

    parent = QObject()
    collector = GarbageCollector(parent)
    collector.begin()
    try:
        assert not gc.isenabled()
        held = Held()
        held.itself = held  # type: ignore[attr-defined]
        known = weakref.ref(held)
        del held
        pile: list[list[int]] = [[] for _ in range(3000)]
        collector.look()
        assert known() is None, "what is new is looked through when it is much"
        old = Held()
        old.itself = old  # type: ignore[attr-defined]
        aged = weakref.ref(old)
        gc.collect(1)
        del old
        pile += [[] for _ in range(3000)]
        collector.look()
        assert aged() is not None, "while something goes on what is old has to wait"
        collector.look()
        assert aged() is not None, "and so it has while somebody may be at work"
        for _ in range(125):
            collector.look()
        assert aged() is None
        late = Held()
        late.itself = late  # type: ignore[attr-defined]
        later = weakref.ref(late)
        gc.collect(1)
        del late
        collector._wants_whole, collector._seconds_a_value, collector._still = True, 1.0, 0
        for _ in range(25):
            collector.look()
        assert later() is not None, "what would be felt waits until nobody has done anything for a minute"
        for _ in range(125):
            collector.look()
        assert later() is None
    finally:
        collector.end()
    assert gc.isenabled()
    assert len(pile) == 6000


def test_a_dropped_file_of_any_name_is_found(tmp_path: Path) -> None:
    for name in (b"caf\xe9 #1 100%.mid", "木.mid".encode(), b"a b?.mid"):
        path = os.fsencode(tmp_path) + b"/" + name
        url = QUrl.fromEncoded(b"file://" + quote_from_bytes(path).encode())
        assert os.fsencode(local_path(url)) == path


def test_a_dialog_goes_when_the_next_of_its_kind_is_opened(qtbot: QtBot, at_ferry: MainWindow) -> None:
    for _ in range(4):
        at_ferry.show_preferences()
        assert at_ferry.preferences_dialog is not None
        at_ferry.preferences_dialog.reject()
    qtbot.waitUntil(lambda: len(at_ferry.findChildren(PreferencesDialog)) == 1)


def test_a_sound_is_let_go_with_its_output(qtbot: QtBot, tmp_path: Path) -> None:
    class Tone:
        """Something that sounds."""

        def read(self, frames: int) -> None:
            """Nothing."""

    parent = QObject()
    out = SoundOut(QSettings(str(tmp_path / "s.ini"), QSettings.Format.IniFormat), parent)
    known = []
    for _ in range(3):
        tone = Tone()
        known.append(weakref.ref(tone))
        out.open(tone)
        out.start()
        out.close()
        del tone
    gc.collect()
    assert [ref() for ref in known] == [None] * 3
