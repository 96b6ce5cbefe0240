"""Nothing is lost: what can't be saved is held, tried again, rescued on closing, and offered at the next start."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import pytest
from PyQt6.QtCore import QThreadPool, QTimer
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot
from tests.desktop.conftest import OpenWindow

from gavotte.desktop.shell.report import report
from gavotte.desktop.shell.rescue import Choice
from gavotte.desktop.shell.window import MainWindow
from gavotte.desktop.solo.saver import SAVE_DELAY_MS
from gavotte.library.errors import LibraryError
from gavotte.library.store import Library
from gavotte.recording.recording import Recording
from gavotte.solo.document import Function, Solo

TAKE = Recording("take.wav", "/nowhere/take.wav", False, "0" * 64, 44100)


@contextmanager
def a_full_disk(monkeypatch: pytest.MonkeyPatch) -> Iterator[None]:
    """Nothing can be written to a library meanwhile."""

    @contextmanager
    def refuse(_: Library) -> Iterator[None]:
        raise LibraryError("The disk is full.")
        yield

    with monkeypatch.context() as patch:
        patch.setattr(Library, "_writing", refuse)
        yield


def entry_ids(window: MainWindow) -> list[str]:
    return [entry.id for entry in window.studio.library.solos()]


def titles(window: MainWindow) -> list[str]:
    return sorted(entry.title for entry in window.studio.library.solos())


def test_unsaved_work_outlives_opening_another_solo(at_ferry: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    session = at_ferry.session
    first, second = session.solo_id, entry_ids(at_ferry)[-1]
    assert first is not None
    with a_full_disk(monkeypatch):
        session.decide(Function.OUTSIDE)
        changed = session.solo
        at_ferry.open_solo(second)
        assert session.solo_id == second
        assert "saved again every few seconds" in at_ferry.notice.text.text()
        at_ferry.open_solo(first)
        assert session.solo == changed, "it is there as it was left"
        at_ferry.open_solo(second)
    assert at_ferry.studio.saver.save()
    assert at_ferry.studio.library.solo(first) == changed


def test_it_is_tried_again_by_itself(qtbot: QtBot, at_ferry: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("gavotte.desktop.solo.saver.AGAIN_MS", 10)
    session, saver = at_ferry.session, at_ferry.studio.saver
    told: list[str] = []
    saver.failed.connect(told.append)
    with a_full_disk(monkeypatch):
        session.decide(Function.OUTSIDE)
        saver.save()
        with qtbot.waitSignals([saver.changed] * 3):
            pass
        assert at_ferry._saved.text() == "Not saved: trying again"
    qtbot.waitUntil(lambda: saver.is_saved)
    assert session.solo_id is not None
    assert at_ferry.studio.library.solo(session.solo_id) == session.solo
    assert at_ferry._saved.text() == "Saved"
    assert len(told) == 1, "it is said once, not at every attempt"


def test_who_writes_without_a_pause_is_saved_all_the_same(qtbot: QtBot, at_ferry: MainWindow) -> None:
    session, saver = at_ferry.session, at_ferry.studio.saver
    writing = QTimer()
    writing.setInterval(SAVE_DELAY_MS // 8)
    turn = [Function.OUTSIDE, Function.PASSING]
    edits: list[int] = []

    def write() -> None:
        edits.append(len(edits))
        session.decide(turn[len(edits) % 2])

    writing.timeout.connect(write)
    with qtbot.waitSignal(saver.changed, timeout=5000, check_params_cb=lambda: bool(edits)):
        writing.start()
    solo_id = session.solo_id
    assert solo_id is not None
    before = at_ferry.studio.library.solo(solo_id)
    qtbot.waitUntil(lambda: at_ferry.studio.library.solo(solo_id) != before)
    assert writing.isActive()
    writing.stop()


def test_it_is_saved_in_time_while_every_worker_is_busy(qtbot: QtBot, at_ferry: MainWindow) -> None:
    pool = QThreadPool.globalInstance()
    assert pool is not None
    let_go = threading.Event()
    for _ in range(pool.maxThreadCount()):
        at_ferry.activities.beside(at_ferry, let_go.wait, lambda _: None, lambda _: None)
    try:
        at_ferry.session.decide(Function.OUTSIDE)
        qtbot.waitUntil(lambda: at_ferry.studio.saver.is_saved, timeout=4 * SAVE_DELAY_MS)
    finally:
        let_go.set()


def test_a_long_solo_is_written_beside_when_another_desk_is_shown(
    qtbot: QtBot, at_ferry: MainWindow, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("gavotte.desktop.solo.saver._SHORT", 1)
    session, saver = at_ferry.session, at_ferry.studio.saver
    assert session.solo_id is not None
    session.decide(Function.OUTSIDE)
    at_ferry.show_desk("write")
    assert not saver.is_saved
    qtbot.waitUntil(lambda: saver.is_saved, timeout=4 * SAVE_DELAY_MS)
    assert at_ferry.studio.library.solo(session.solo_id) == session.solo


def test_what_is_known_of_a_recording_is_tried_again_too(at_ferry: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    saver, solo_id = at_ferry.studio.saver, at_ferry.session.solo_id
    assert solo_id is not None
    with a_full_disk(monkeypatch):
        saver.save_recording(solo_id, TAKE)
        assert not saver.is_saved
        assert saver.recording(solo_id) == TAKE
        assert at_ferry._saved.text() == "Not saved: trying again"
    assert saver.save()
    assert at_ferry.studio.library.recording(solo_id) == TAKE


def unsaved(window: MainWindow) -> None:
    """Change the open solo, which can't be saved, and say so."""
    window.session.decide(Function.OUTSIDE)
    window.studio.saver.save()


def closed_with_unsaved(window: MainWindow, monkeypatch: pytest.MonkeyPatch) -> tuple[str, Solo]:
    """Close a window though its solo and what is known of a recording can't be saved; gives the solo and its id."""
    window.rescue.ask = lambda _, words: Choice.CLOSE
    solo_id = window.session.solo_id
    assert solo_id is not None
    with a_full_disk(monkeypatch):
        unsaved(window)
        changed = window.session.solo
        window.studio.saver.save_recording(solo_id, TAKE)
        assert window.close()
    window.studio.library.close()
    assert changed is not None
    return solo_id, changed


def test_closing_asks_and_stays_if_that_is_wanted(at_ferry: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    asked: list[str] = []

    def stay(_: object, words: str) -> Choice:
        asked.append(words)
        return Choice.STAY

    at_ferry.rescue.ask = stay
    with a_full_disk(monkeypatch):
        unsaved(at_ferry)
        assert not at_ferry.close()
    assert at_ferry.isVisible()
    assert "The disk is full." in asked[0]
    assert "A copy lies in" in asked[0]
    assert at_ferry.close()


def test_closing_tries_again_as_often_as_wanted(at_ferry: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    session, library = at_ferry.session, at_ferry.studio.library
    changed: list[object] = []
    with a_full_disk(monkeypatch):
        unsaved(at_ferry)
        changed.append(session.solo)
    solo_id = session.solo_id

    def room_is_made(_: object, words: str) -> Choice:
        return Choice.AGAIN

    at_ferry.rescue.ask = room_is_made
    assert at_ferry.close()
    assert solo_id is not None
    assert library.solo(solo_id) == changed[0]


def test_what_was_rescued_comes_back_at_the_next_start(
    open_window: OpenWindow, at_ferry: MainWindow, demo_folder: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    solo_id, changed = closed_with_unsaved(at_ferry, monkeypatch)
    again = open_window(demo_folder)
    assert again.studio.library.solo(solo_id) != changed
    again.greet()
    assert "Lamplight on the Ferry" in again.notice.text.text()
    again.notice.action.click()
    assert again.studio.library.solo(solo_id) == changed
    assert again.studio.library.recording(solo_id) == TAKE
    assert again.session.solo == changed, "the open solo is what was kept: nothing is written over it"
    again.notice.hide()
    again.greet()
    assert not again.notice.isVisible()


def test_what_was_worked_on_since_is_not_replaced(
    open_window: OpenWindow, at_ferry: MainWindow, demo_folder: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    solo_id, rescued = closed_with_unsaved(at_ferry, monkeypatch)
    again = open_window(demo_folder)
    again.open_solo(solo_id)
    again.session.selection.select("n5", "n5")
    again.session.decide(Function.PASSING)
    again.studio.saver.save()
    newer, before = again.session.solo, titles(again)
    again.greet()
    again.notice.action.click()
    assert again.studio.library.solo(solo_id) == newer
    assert len(titles(again)) == len(before) + 1
    assert rescued in [again.studio.library.solo(other) for other in entry_ids(again)]


def test_a_delete_that_fails_is_told_and_nothing_is_gone(at_ferry: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    edits, before = at_ferry.studio.edits, titles(at_ferry)
    with a_full_disk(monkeypatch):
        edits.delete_solo(entry_ids(at_ferry)[-1])
    assert "The disk is full. Nothing was changed." in at_ferry.notice.text.text()
    assert titles(at_ferry) == before
    assert edits.undo_stack.count() == 0


def test_an_undo_that_fails_can_be_done_later(at_ferry: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    edits, before = at_ferry.studio.edits, titles(at_ferry)
    edits.delete_solo(entry_ids(at_ferry)[-1])
    with a_full_disk(monkeypatch):
        edits.undo_stack.undo()
        QApplication.processEvents()
    assert edits.undo_stack.canUndo()
    assert len(titles(at_ferry)) == len(before) - 1
    edits.undo_stack.undo()
    assert titles(at_ferry) == before
    with a_full_disk(monkeypatch):
        edits.undo_stack.redo()
        QApplication.processEvents()
    assert titles(at_ferry) == before
    assert edits.undo_stack.canRedo()


@pytest.mark.parametrize("private", ["Lamplight on the Ferry", "/home/ada/tunes", "ada"])
def test_a_report_names_no_tune_and_no_folder(private: str) -> None:
    log = (
        "2026-01-01 10:00:00 CRITICAL Something went wrong\n"
        'Traceback (most recent call last):\n  File "/home/ada/src/gavotte/desktop/app.py", line 3, in run\n'
        "    window.show()\n"
        "ValueError: 'Lamplight on the Ferry' in /home/ada/tunes/ferry.musicxml, says ada: Lamplight on the Ferry\n"
    )
    text = report("Gavotte 1", log, ["/home/ada", "ada", "Lamplight on the Ferry"])
    assert private not in text
    assert "File desktop/app.py, line 3, in run" in text
    assert "ValueError" in text
    assert text.startswith("Gavotte 1")


def test_a_new_solo_that_cant_be_kept_is_asked_for_again_as_it_was_typed(
    at_ferry: MainWindow, monkeypatch: pytest.MonkeyPatch
) -> None:
    beginning = at_ferry.studio.beginning
    beginning.new_solo()
    dialog = beginning.new_dialog
    assert dialog is not None
    dialog.title_field.setText("Typed in vain")
    with a_full_disk(monkeypatch):
        dialog.accept()
        assert dialog.isVisible()
        assert "disk" in at_ferry.notice.text.text()
    dialog.accept()
    assert not dialog.isVisible()
    assert at_ferry.session.solo is not None
    assert at_ferry.session.solo.title == "Typed in vain"


def test_what_is_half_done_belongs_to_the_solo_it_was_begun_in(qtbot: QtBot, at_ferry: MainWindow) -> None:
    session, write = at_ferry.session, at_ferry.desks["write"]
    first, second = session.solo_id or "", entry_ids(at_ferry)[-1]
    untouched = at_ferry.studio.library.solo(second)
    before = session.solo
    at_ferry.show_desk("write")
    write.tap()
    write.tap()
    write.panel.tabs["marks"].click()
    write.panel.marks.words.setText("begun here")
    at_ferry.open_solo(second)
    assert session.solo == untouched
    assert not session.undo_stack.canUndo()
    kept = at_ferry.studio.library.solo(first)
    assert before is not None
    assert kept.notes != before.notes
    assert "begun here" in [text.words for text in kept.texts]


def test_the_text_of_a_bar_goes_to_the_solo_it_was_written_for(at_ferry: MainWindow) -> None:
    session, text = at_ferry.session, at_ferry.desks["label"].side.text
    first, second = session.solo_id or "", entry_ids(at_ferry)[-1]
    at_ferry.desks["label"].side.show_page("text")
    text.field.setFocus()
    text.field.setPlainText("My own words.")
    at_ferry.open_solo(second)
    assert session.solo is not None
    assert session.solo.remarks == ()
    assert [remark.words for remark in at_ferry.studio.library.solo(first).remarks] == ["My own words."]
