"""Drafting at the Write desk: the unfinished demo is heard, proposed, taken by phrase, left, and taken whole."""

from __future__ import annotations

import shutil
import sqlite3
from fractions import Fraction
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot
from tests.conftest import whole
from tests.desktop.conftest import OpenWindow, stop_what_goes_on
from tests.desktop.test_write import press, shown, solo_of, to_page

from gavotte.demo.arcade import arcade, begun_arcade
from gavotte.demo.recordings import record
from gavotte.desktop.shell.window import MainWindow
from gavotte.library.store import Library
from gavotte.recording.beat_map import with_downbeat
from gavotte.writing.drafting import ProposedPhrase, is_proposed

CTRL = Qt.KeyboardModifier.ControlModifier


@pytest.fixture(scope="module")
def begun_folder(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A library with the unfinished demo and its recording."""
    folder = tmp_path_factory.mktemp("begun") / "library"
    with Library(folder) as library:
        solo_id = library.add_solo(begun_arcade())
        library.save_recording(solo_id, whole(record(arcade(), folder)))
    return folder


@pytest.fixture
def begun(qtbot: QtBot, open_window: OpenWindow, begun_folder: Path, tmp_path: Path) -> MainWindow:
    """The window at the Write desk with the unfinished demo as it was begun, its recording read."""
    shutil.copytree(begun_folder, tmp_path / "library")
    window = open_window(tmp_path / "library")
    window.open_solo(window.desks["shelf"].solos.current_id() or "")
    window.show_desk("write")
    qtbot.waitUntil(lambda: window.desks["listen"].has_recording, timeout=20000)
    to_page(qtbot, window)
    return window


def draft(qtbot: QtBot, window: MainWindow) -> None:
    window.desks["write"].panel.tabs["draft"].click()
    with qtbot.waitSignal(window.desks["write"].drafts.drafter.drafted, timeout=60000):
        window.desks["write"].panel.draft.whole.click()
        assert "Drafting" in window.activity_bar.words
    qtbot.waitUntil(lambda: window.desks["write"].page.is_complete)


def test_the_rest_of_a_solo_is_drafted_and_taken_by_phrase(qtbot: QtBot, begun: MainWindow) -> None:
    before = shown(begun)
    draft(qtbot, begun)
    drafts, panel = begun.desks["write"].drafts, begun.desks["write"].panel.draft
    proposed = [note for phrase in drafts.proposal for note in phrase.notes]
    wanted = {(note.onset, note.pitch.midi) for note in arcade().notes if note.onset >= 32}
    assert all(note.onset >= 32 for note in proposed), "what is written is left alone"
    assert len({(note.onset, note.pitch.midi) for note in proposed} & wanted) >= 0.9 * len(wanted)
    assert panel.rows.count() == len(drafts.proposal) > 2
    # It lies over the page, and is no part of the solo.
    assert shown(begun) == before
    on_page = {note for line in begun.desks["write"].page.lines for note in line.note_items}
    assert {note.id for note in proposed} <= on_page
    last = len(drafts.proposal) - 1
    panel.rows.setCurrentRow(last)
    phrase = drafts.proposal[last]
    assert begun.desks["write"].writer.entry.caret == phrase.start
    begun.desks["write"].page.setFocus()
    press(qtbot, begun, Qt.Key.Key_Return, CTRL)
    assert shown(begun)[: len(before)] == before
    assert len(shown(begun)) == len(before) + len(phrase.notes)
    assert not any(is_proposed(note.id) for note in solo_of(begun).notes)
    press(qtbot, begun, Qt.Key.Key_Backspace, CTRL)
    assert len(drafts.proposal) == last - 1
    press(qtbot, begun, Qt.Key.Key_Z, CTRL)
    assert shown(begun) == before
    # The phrase that was taken is to be decided again, the one that was left is not.
    assert drafts.proposal[-1] == phrase
    assert len(drafts.proposal) == last
    press(qtbot, begun, Qt.Key.Key_Z, CTRL | Qt.KeyboardModifier.ShiftModifier)
    assert phrase not in drafts.proposal


def test_drafted_phrases_outlive_a_restart(qtbot: QtBot, open_window: OpenWindow, begun: MainWindow) -> None:
    draft(qtbot, begun)
    drafts = begun.desks["write"].drafts
    drafts.leave()
    left, solo_id, folder = drafts.proposal, begun.session.solo_id, begun.studio.library.folder
    assert solo_id is not None
    begun.close()
    again = open_window(folder)
    assert again.session.solo_id == solo_id
    drafts = again.desks["write"].drafts
    qtbot.waitUntil(lambda: drafts.proposal == left)
    panel = again.desks["write"].panel
    assert panel.page_shown == "draft"
    assert panel.draft.rows.count() == len(left) > 1
    lines = again.desks["write"].page
    qtbot.waitUntil(lambda: any(left[0].notes[0].id in line.note_items for line in lines.lines))
    # What was heard of them is known still: they can be written over other beats.
    qtbot.waitUntil(lambda: again.desks["listen"].has_recording, timeout=20000)
    tape = again.studio.tape
    tape.edit_beats("Test", with_downbeat(tape.beats, tape.beats.downbeat + 1))
    tape.edit_beats("Test", with_downbeat(tape.beats, tape.beats.downbeat + 3))
    qtbot.waitUntil(lambda: not again.studio.activities.of(drafts))
    first = left[-1].notes[0]
    assert (first.onset - 4, first.pitch.midi) in {
        (note.onset, note.pitch.midi) for phrase in drafts.proposal for note in phrase.notes
    }
    drafts.take_all()
    again.close()
    once_more = open_window(folder)
    assert once_more.desks["write"].drafts.proposal == ()
    assert once_more.studio.library.draft_document(solo_id) is None


def test_damaged_drafted_phrases_are_told(qtbot: QtBot, open_window: OpenWindow, begun: MainWindow) -> None:
    solo_id, library = begun.session.solo_id, begun.studio.library
    assert solo_id is not None
    library.save_draft(solo_id, (ProposedPhrase(arcade().notes[:2]),))
    with sqlite3.connect(library.path) as db:
        db.execute("UPDATE drafts SET document=CAST('{}' AS BLOB)")
    begun.close()
    again = open_window(library.folder)
    qtbot.waitUntil(again.notice.isVisible)
    assert "drafted phrases can't be shown" in again.notice.text.text()
    assert again.desks["write"].drafts.proposal == ()
    again.studio.library.save_draft(solo_id, ())


def test_a_phrase_is_heard_before_it_is_taken_and_all_are_taken_at_once(qtbot: QtBot, begun: MainWindow) -> None:
    draft(qtbot, begun)
    phrase = begun.desks["write"].drafts.phrase()
    assert phrase is not None
    begun.desks["write"].page.setFocus()
    press(qtbot, begun, Qt.Key.Key_H)
    region = begun.studio.hearing.region
    assert begun.studio.deck.is_playing
    assert region is not None
    assert region[1] - region[0] == pytest.approx(float(phrase.end - phrase.start) * 60 / 138, rel=0.1)
    press(qtbot, begun, Qt.Key.Key_H)
    assert begun.desks["write"].panel.draft.loop.isEnabled()
    begun.desks["write"].panel.draft.take_all.click()
    assert begun.desks["write"].drafts.proposal == ()
    assert len(solo_of(begun).notes) > 130
    begun.session.undo_stack.undo()
    draft(qtbot, begun)
    begun.desks["write"].panel.draft.leave_all.click()
    assert begun.desks["write"].drafts.proposal == ()


def test_what_was_drafted_is_written_over_other_beats_until_it_is_taken(qtbot: QtBot, begun: MainWindow) -> None:
    draft(qtbot, begun)
    drafts, tape = begun.desks["write"].drafts, begun.studio.tape

    def places() -> set[tuple[Fraction, int]]:
        return {(note.onset, note.pitch.midi) for phrase in drafts.proposal for note in phrase.notes}

    before = places()
    later = {(onset - 1, midi) for onset, midi in before}
    tape.edit_beats("Test", with_downbeat(tape.beats, tape.beats.downbeat + 1))
    qtbot.waitUntil(lambda: places() != before)
    assert len(places() & later) >= 0.9 * len(before)
    assert "new beats" in begun.statusBar().currentMessage()
    names = {note.id for phrase in drafts.proposal for note in phrase.notes}
    page = begun.desks["write"].page
    qtbot.waitUntil(lambda: names <= {note for line in page.lines for note in line.note_items})
    tape.undo_stack.undo()
    qtbot.waitUntil(lambda: len(places() & before) >= 0.9 * len(before))
    # What is taken is the user's, and stays where it is.
    begun.desks["write"].take_phrase()
    assert "left to decide" in begun.statusBar().currentMessage()
    taken = shown(begun)
    tape.edit_beats("Test", with_downbeat(tape.beats, tape.beats.downbeat + 1))
    qtbot.waitUntil(lambda: not begun.studio.activities.of(drafts))
    assert shown(begun) == taken


def test_drafting_can_be_cancelled(qtbot: QtBot, begun: MainWindow) -> None:
    begun.desks["write"].panel.tabs["draft"].click()
    begun.desks["write"].panel.draft.whole.click()
    assert begun.desks["write"].drafts.drafter.is_drafting
    stop_what_goes_on(begun)
    assert not begun.desks["write"].drafts.drafter.is_drafting
    assert begun.desks["write"].panel.draft.whole.isEnabled()
    assert begun.activity_bar.words == ""


def test_without_recording_or_beats_the_panel_says_what_is_missing(qtbot: QtBot, window: MainWindow) -> None:
    window.open_solo(window.desks["shelf"].solos.current_id() or "")
    window.show_desk("write")
    panel = window.desks["write"].panel.draft
    assert "Ctrl+R" in panel.about.text()
    assert not panel.whole.isEnabled()
    assert not panel.buttons.isVisibleTo(window.desks["write"].panel)
