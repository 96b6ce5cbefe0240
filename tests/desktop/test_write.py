"""The Write desk: a new solo begun, written by keyboard, corrected, marked, given chords, checked."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QGuiApplication
from PyQt6.QtWidgets import QWidget
from pytestqt.qtbot import QtBot
from tests.conftest import make_solo
from tests.desktop.conftest import OpenWindow
from tests.desktop.test_listen import BEAT, attach, pass_seconds, write_recording

from gavotte.desktop.core_words import FORM_WORDS, TUNING_WORDS
from gavotte.desktop.desks.write.key_pad import ROWS
from gavotte.desktop.page.articulation_item import ArticulationItem
from gavotte.desktop.shell.window import MainWindow
from gavotte.recording.beat_map import BeatMap
from gavotte.recording.player import RATE
from gavotte.solo.document import Articulation, Pick, Solo
from gavotte.solo.strings import TUNINGS
from gavotte.writing.entry import Way
from gavotte.writing.forms import FORMS

NONE = Qt.KeyboardModifier.NoModifier
SHIFT, CTRL, ALT = (getattr(Qt.KeyboardModifier, f"{name}Modifier") for name in ("Shift", "Control", "Alt"))


def begin(qtbot: QtBot, window: MainWindow, form: int = 0, **fields: object) -> None:
    """A new solo by its dialog."""
    window.show_desk("shelf")
    window.desks["shelf"].new_button.click()
    dialog = window.studio.beginning.new_dialog
    assert dialog is not None
    dialog.title_field.setText(str(fields.get("title", "Night ferry")))
    dialog.form.setCurrentIndex(form)
    instrument = dialog.instrument.findText(str(fields.get("instrument", "Concert instrument")))
    dialog.instrument.setCurrentIndex(instrument)
    dialog.pickup.setValue(float(str(fields.get("pickup", 0))))
    dialog.accept()
    to_page(qtbot, window)


def to_page(qtbot: QtBot, window: MainWindow) -> None:
    window.activateWindow()
    window.desks["write"].page.setFocus()
    qtbot.waitUntil(window.desks["write"].page.hasFocus)
    qtbot.waitUntil(lambda: window.desks["write"].page.is_complete)


@pytest.fixture
def writing(qtbot: QtBot, window: MainWindow) -> MainWindow:
    """The window at the Write desk with a twelve-bar form and nothing written."""
    begin(qtbot, window, form=1)
    return window


def type_keys(qtbot: QtBot, window: MainWindow, keys: str) -> None:
    for key in keys:
        qtbot.keyClick(window.desks["write"].page, key)


def press(qtbot: QtBot, window: MainWindow, key: Qt.Key, modifier: Qt.KeyboardModifier = NONE) -> None:
    qtbot.keyClick(window.desks["write"].page, key, modifier)


def solo_of(window: MainWindow) -> Solo:
    assert window.session.solo is not None
    return window.session.solo


def shown(window: MainWindow) -> list[str]:
    return [f"{note.pitch}@{note.onset}+{note.duration}" for note in solo_of(window).notes]


def test_a_solo_is_begun_with_a_form_and_written_by_one_hand(qtbot: QtBot, writing: MainWindow) -> None:
    assert [event.text for event in solo_of(writing).chords][:3] == ["C7", "F7", "C7"]
    type_keys(qtbot, writing, "2cegx3r1e")
    assert shown(writing) == ["C5@0+1/2", "E5@1/2+1/2", "Gb5@1+1/2", "E5@5/2+1/4"]
    # Every note is labelled as it is written.
    assert {note.id for note in solo_of(writing).notes} == set(writing.session.labels)
    assert writing.desks["write"].page.caret is not None
    assert "bar" in writing.rail.buttons["write"].text()


def test_what_was_begun_is_there_on_the_next_start(
    qtbot: QtBot, open_window: OpenWindow, window: MainWindow, demo_folder: Path
) -> None:
    begin(qtbot, window, form=1)
    type_keys(qtbot, window, "ceg")
    before = solo_of(window)
    window.close()
    again = open_window(demo_folder)
    assert again.session.solo == before
    assert again.desks["write"].isVisible()


def test_dots_ties_triplets_and_octaves(qtbot: QtBot, writing: MainWindow) -> None:
    type_keys(qtbot, writing, "3vcvvd")
    assert shown(writing) == ["C5@0+3/2", "D5@3/2+1"]
    writing.session.undo_stack.setIndex(0)
    type_keys(qtbot, writing, "3c2t")
    assert shown(writing) == ["C5@0+3/2"]
    type_keys(qtbot, writing, "zdef")
    assert shown(writing)[1:] == ["D5@3/2+1/3", "E5@11/6+1/3", "F5@13/6+1/3"]
    type_keys(qtbot, writing, "w")
    assert shown(writing)[-1] == "F6@13/6+1/3"
    type_keys(qtbot, writing, "qq")
    assert shown(writing)[-1] == "F4@13/6+1/3"


def test_backspace_takes_back_and_undo_goes_where_something_changed(qtbot: QtBot, writing: MainWindow) -> None:
    type_keys(qtbot, writing, "cde")
    press(qtbot, writing, Qt.Key.Key_Backspace)
    assert shown(writing) == ["C5@0+1/2", "D5@1/2+1/2"]
    assert writing.desks["write"].writer.entry.caret == 1
    press(qtbot, writing, Qt.Key.Key_Z, CTRL)
    assert len(shown(writing)) == 3
    press(qtbot, writing, Qt.Key.Key_Z, CTRL)
    press(qtbot, writing, Qt.Key.Key_Z, CTRL)
    assert shown(writing) == ["C5@0+1/2"]
    assert writing.desks["write"].writer.entry.caret == Fraction(1, 2)


def test_the_page_grows_under_the_caret(qtbot: QtBot, window: MainWindow) -> None:
    begin(qtbot, window)
    assert [len(line.line.source.bars) for line in window.desks["write"].page.lines] == [1]
    type_keys(qtbot, window, "5cccccc")
    bars = [len(line.line.source.bars) for line in window.desks["write"].page.lines]
    assert sum(bars) == 7
    assert bars[0] == 4
    assert len(shown(window)) == 6


def test_inserting_moves_what_follows(qtbot: QtBot, writing: MainWindow) -> None:
    type_keys(qtbot, writing, "3cd")
    press(qtbot, writing, Qt.Key.Key_Home)
    type_keys(qtbot, writing, "ie")
    assert shown(writing) == ["E4@0+1", "C5@1+1", "D5@2+1"]
    assert writing.desks["write"].panel.insert.isChecked()
    writing.desks["write"].panel.insert.click()
    assert not writing.desks["write"].writer.entry.insert


def test_notes_are_selected_moved_and_changed(qtbot: QtBot, writing: MainWindow) -> None:
    type_keys(qtbot, writing, "cde")
    press(qtbot, writing, Qt.Key.Key_Left, SHIFT)
    press(qtbot, writing, Qt.Key.Key_Left, SHIFT)
    assert len(writing.session.selection.notes()) == 3
    press(qtbot, writing, Qt.Key.Key_Up, ALT)
    assert [text.split("@")[0] for text in shown(writing)] == ["C#5", "Eb5", "F5"]
    press(qtbot, writing, Qt.Key.Key_Down, ALT)
    press(qtbot, writing, Qt.Key.Key_Up, ALT | SHIFT)
    assert [text.split("@")[0] for text in shown(writing)] == ["D5", "E5", "F5"]
    press(qtbot, writing, Qt.Key.Key_Right, ALT)
    assert shown(writing) == ["D5@1/2+1/2", "E5@1+1/2", "F5@3/2+1/2"]
    press(qtbot, writing, Qt.Key.Key_3, ALT)
    assert shown(writing) == ["D5@1/2+1", "E5@3/2+1", "F5@5/2+1"]
    type_keys(qtbot, writing, "k")
    assert len(shown(writing)) == 6
    press(qtbot, writing, Qt.Key.Key_A, CTRL)
    type_keys(qtbot, writing, "j")
    assert shown(writing) == ["D5@1/2+3"]
    type_keys(qtbot, writing, "sn")
    assert shown(writing) == ["Eb5@1/2+3"]


def test_cut_copy_and_paste(qtbot: QtBot, writing: MainWindow) -> None:
    type_keys(qtbot, writing, "cde")
    type_keys(qtbot, writing, "p")
    press(qtbot, writing, Qt.Key.Key_C, CTRL)
    press(qtbot, writing, Qt.Key.Key_End)
    press(qtbot, writing, Qt.Key.Key_V, CTRL)
    assert shown(writing)[3:] == ["C5@3/2+1/2", "D5@2+1/2", "E5@5/2+1/2"]
    press(qtbot, writing, Qt.Key.Key_X, CTRL)
    assert len(shown(writing)) == 3
    board = QGuiApplication.clipboard()
    assert board is not None
    board.clear()
    press(qtbot, writing, Qt.Key.Key_V, CTRL)
    assert "clipboard" in writing.statusBar().currentMessage()  # type: ignore[union-attr]


def test_deleting_leaves_silence_or_closes_up(qtbot: QtBot, writing: MainWindow) -> None:
    type_keys(qtbot, writing, "cdef")
    press(qtbot, writing, Qt.Key.Key_Home)
    press(qtbot, writing, Qt.Key.Key_Delete)
    assert shown(writing) == ["D5@1/2+1/2", "E5@1+1/2", "F5@3/2+1/2"]
    press(qtbot, writing, Qt.Key.Key_Right)
    press(qtbot, writing, Qt.Key.Key_Delete, SHIFT)
    assert shown(writing) == ["E5@1/2+1/2", "F5@1+1/2"]


def test_rhythm_first_then_pitches(qtbot: QtBot, writing: MainWindow) -> None:
    press(qtbot, writing, Qt.Key.Key_8)
    assert writing.desks["write"].panel.ways[Way.RHYTHM].isChecked()
    type_keys(qtbot, writing, "322")
    assert [(note.duration, note.uncertain) for note in solo_of(writing).notes] == [
        (1, True), (Fraction(1, 2), True), (Fraction(1, 2), True),
    ]  # fmt: skip
    press(qtbot, writing, Qt.Key.Key_Home)
    press(qtbot, writing, Qt.Key.Key_9)
    type_keys(qtbot, writing, "ceg")
    assert [note.pitch.letter for note in solo_of(writing).notes] == ["C", "E", "G"]
    assert not any(note.uncertain for note in solo_of(writing).notes)


def test_the_caret_goes_by_bar_line_and_click(qtbot: QtBot, writing: MainWindow) -> None:
    writer = writing.desks["write"].writer
    press(qtbot, writing, Qt.Key.Key_Right, CTRL)
    assert writer.entry.caret == 4
    press(qtbot, writing, Qt.Key.Key_Down)
    assert writer.entry.caret >= 16
    press(qtbot, writing, Qt.Key.Key_Up)
    assert 0 <= writer.entry.caret <= 8
    page = writing.desks["write"].page
    line = page.lines[1]
    place = page.mapFromScene(line.line.x_at(24.0), line.pos().y() + sum(line.line.staff) / 2)
    viewport = page.viewport()
    assert viewport is not None
    qtbot.mouseClick(viewport, Qt.MouseButton.LeftButton, pos=place)
    assert writer.entry.caret == 24
    assert writing.desks["write"].about.text().startswith("Bar 7, beat 1")


def test_in_written_pitch_letters_are_read_as_the_player_reads(qtbot: QtBot, window: MainWindow) -> None:
    begin(qtbot, window, form=1, instrument="Trumpet")
    window.studio.view.set_written(True)
    to_page(qtbot, window)
    type_keys(qtbot, window, "d")
    assert window.session.shown is not None
    assert window.session.shown.notes[0].pitch.letter == "D"
    assert solo_of(window).notes[0].pitch.letter == "C"
    window.desks["write"].strip.keyboard.played.emit(74, 0)
    assert window.session.shown.notes[1].pitch.midi == 74
    assert solo_of(window).notes[1].pitch.midi == 72


def test_the_other_pitch_leaves_caret_value_and_way_as_they_are(qtbot: QtBot, window: MainWindow) -> None:
    begin(qtbot, window, form=1, instrument="Trumpet")
    type_keys(qtbot, window, "2cegv9")
    writer = window.desks["write"].writer
    writer.go_to(Fraction(1, 2))
    before = writer.entry
    assert (before.caret, before.dots, before.way) == (Fraction(1, 2), 1, Way.PITCHES)
    press(qtbot, window, Qt.Key.Key_T, CTRL)
    assert window.session.shown is not None
    assert window.session.shown.notes[0].pitch.letter == "D"
    assert writer.entry == before
    press(qtbot, window, Qt.Key.Key_T, CTRL)
    assert writer.entry == before
    # What is undone is what was written: the other pitch is no step of its own.
    press(qtbot, window, Qt.Key.Key_T, CTRL)
    press(qtbot, window, Qt.Key.Key_Z, CTRL)
    assert [note.pitch.letter for note in solo_of(window).notes] == ["C", "E"]
    assert [note.pitch.letter for note in window.session.shown.notes] == ["D", "F"]


def test_marks_by_key_and_by_button(qtbot: QtBot, writing: MainWindow) -> None:
    type_keys(qtbot, writing, "ce")
    press(qtbot, writing, Qt.Key.Key_A, SHIFT)
    press(qtbot, writing, Qt.Key.Key_D, SHIFT)
    note = solo_of(writing).notes[-1]
    assert note.has(Articulation.ACCENT)
    assert note.pick is Pick.DOWN
    panel = writing.desks["write"].panel
    panel.tabs["marks"].click()
    marks = panel.marks
    assert marks.buttons[Articulation.ACCENT].isChecked()
    marks.bend.setCurrentIndex(1)
    marks.bend.activated.emit(1)
    marks.finger.setText("3")
    marks.finger.editingFinished.emit()
    marks.string.setCurrentIndex(2)
    marks.string.activated.emit(2)
    marks.words.setText("lay back")
    marks.words.editingFinished.emit()
    note = solo_of(writing).notes[-1]
    assert [mark.semitones for mark in note.marks if mark.articulation is Articulation.BEND] == [Fraction(1, 2)]
    assert (note.finger, note.string) == ("3", 2)
    assert [(text.onset, text.words) for text in solo_of(writing).texts] == [(0, "lay back")]
    drawn = [item for item in writing.desks["write"].page.items() if isinstance(item, ArticulationItem) and item._notes]
    assert drawn
    marks.buttons["doubt"].click()
    assert solo_of(writing).notes[-1].uncertain


def test_chords_are_typed_checked_completed_and_used(qtbot: QtBot, writing: MainWindow) -> None:
    writing.desks["write"].panel.tabs["chords"].click()
    chords = writing.desks["write"].panel.chords
    chords.editor.setPlainText("| Dm7 G7 | Hmaj7 |")
    assert "H" in chords.verdict.text()
    assert not chords.use.isEnabled()
    assert len(chords.editor.extraSelections()) == 1
    chords.editor.setPlainText("| Dm7 G7 | Cmaj7 | % |")
    assert chords.verdict.text() == "3 bars"
    chords.use.click()
    assert [event.text for event in solo_of(writing).chords] == ["Dm7", "G7", "Cmaj7"]
    assert writing.desks["write"].page.hasFocus()
    chords.editor.setFocus()
    chords.editor.moveCursor(chords.editor.textCursor().MoveOperation.End)
    qtbot.keyClicks(chords.editor, " Fm")
    assert "Fm7" in chords.editor._names.stringList()
    chords.editor._complete("Fm7")
    assert chords.editor.toPlainText().endswith("Fm7")
    chords.drop.click()
    assert not chords.editor.toPlainText().endswith("Fm7")


def test_choruses_are_copied_one_is_changed_and_a_chord_moved(qtbot: QtBot, writing: MainWindow) -> None:
    writing.desks["write"].panel.tabs["chords"].click()
    chords = writing.desks["write"].panel.chords
    assert chords.bars.value() == 12
    chords.count.setValue(3)
    chords.copy.click()
    assert solo_of(writing).form_end == 144
    assert chords.editor.toPlainText().count("\n\n") == 2
    text = chords.editor.toPlainText()
    first, second, third = text.split("\n\n")
    chords.editor.setPlainText("\n\n".join((first, second.replace("| G7 | F7 |", "| Db7 | F7 |"), third)))
    chords.apply()
    assert [event.text for event in solo_of(writing).chords].count("Db7") == 1
    to_page(qtbot, writing)
    writing.desks["write"].writer.go_to(Fraction(17))
    press(qtbot, writing, Qt.Key.Key_Right, CTRL | ALT)
    assert 17 in [event.onset for event in solo_of(writing).chords]
    press(qtbot, writing, Qt.Key.Key_Left, CTRL | ALT)
    assert 16 in [event.onset for event in solo_of(writing).chords]


def test_what_moves_between_two_chords_is_said(qtbot: QtBot, writing: MainWindow) -> None:
    chords = writing.desks["write"].panel.chords
    chords.editor.setPlainText("| Dm7 | G7 |")
    chords.apply()
    writing.desks["write"].writer.go_to(Fraction(0))
    assert chords.moves_title.text() == "Dm7 → G7"
    assert "C → B (a semitone down)" in chords.moves.text()
    assert "D, F stay" in chords.moves.text()


def test_checks_are_listed_with_a_jump(qtbot: QtBot, window: MainWindow) -> None:
    begin(qtbot, window, form=1, instrument="Trumpet")
    type_keys(qtbot, window, "3ccqq")
    panel = window.desks["write"].panel
    panel.tabs["checks"].click()
    qtbot.waitUntil(lambda: "(" in panel.tabs["checks"].text())
    window.desks["write"].writer.go_to(Fraction(8))
    low = next(
        panel.checks.rows.item(row)
        for row in range(panel.checks.rows.count())
        if "below" in panel.checks.rows.item(row).text()  # type: ignore[union-attr]
    )
    panel.checks.rows.itemActivated.emit(low)
    assert window.desks["write"].writer.entry.caret == 1


def test_keyboard_fretboard_and_midi_write_notes(qtbot: QtBot, window: MainWindow) -> None:
    begin(qtbot, window, form=1, instrument="Guitar")
    strip = window.desks["write"].strip
    board = strip.fretboard
    assert board.isVisible()
    place = board.fret_box(2, 5).center().toPoint()
    qtbot.mouseClick(board, Qt.MouseButton.LeftButton, pos=place)
    assert (solo_of(window).notes[0].pitch.midi, solo_of(window).notes[0].string) == (64, 2)
    strip.kind.setCurrentIndex(0)
    strip.kind.activated.emit(0)
    assert strip.keyboard.isVisible()
    key = strip.keyboard.key_box(60).center().toPoint() + QPoint(0, 30)
    qtbot.mouseClick(strip.keyboard, Qt.MouseButton.LeftButton, pos=key)
    strip.midi.play(62)
    assert [note.pitch.midi for note in solo_of(window).notes[1:]] == [60, 62]
    # A key that is let go, or pressed without force, writes nothing.
    message = type("Message", (), {"type": "note_on", "note": 64, "velocity": 0})()
    strip.midi._received(message)
    assert len(solo_of(window).notes) == 3


def test_other_strings_are_kept_and_bad_ones_refused(qtbot: QtBot, window: MainWindow) -> None:
    begin(qtbot, window, form=1, instrument="Guitar")
    strip = window.desks["write"].strip
    assert not strip.use_tuning("E2 H2")
    assert "String 2" in window.notice.text.text()
    assert strip.use_tuning("D2 A2 D3 G3 B3 E4")
    assert strip.fretboard.tuning.strings[0] == 38
    window.desks["write"].strip.show_solo(solo_of(window))
    assert strip.fretboard.tuning.strings[0] == 38


def test_a_device_that_cannot_be_opened_is_told(window: MainWindow) -> None:
    assert not window.desks["write"].strip.midi.open("No such keyboard")
    assert "No such keyboard can't be opened" in window.notice.text.text()


def test_the_pad_can_be_clicked(qtbot: QtBot, writing: MainWindow) -> None:
    pad = writing.desks["write"].panel.pad
    for name in ("3", "C", "E", "X", "W", "V", "T", "R", "Z", "5"):
        qtbot.mouseClick(pad, Qt.MouseButton.LeftButton, pos=pad.box_of(name).center().toPoint())
    assert shown(writing) == ["C5@0+1", "Eb6@1+5/2"]
    assert {cap.key for row in ROWS for cap in row} >= set("ABCDEFGQWRTSXZV12345`")


def test_a_recording_dropped_on_the_shelf_begins_a_solo(qtbot: QtBot, window: MainWindow, tmp_path: Path) -> None:
    window.show_desk("shelf")
    window.import_files([write_recording(tmp_path / "late_set.wav", 8.0)])
    dialog = window.studio.beginning.new_dialog
    assert dialog is not None
    assert dialog.title_field.text() == "late set"
    dialog.form.setCurrentIndex(1)
    dialog.accept()
    qtbot.waitUntil(lambda: window.desks["listen"].has_recording)
    assert window.desks["listen"].isVisible()
    assert solo_of(window).title == "late set"


def test_a_pickup_longer_than_a_bar_is_refused(qtbot: QtBot, window: MainWindow) -> None:
    window.desks["shelf"].new_button.click()
    dialog = window.studio.beginning.new_dialog
    assert dialog is not None
    assert not dialog.yes.isEnabled()
    dialog.title_field.setText("Short one")
    assert dialog.yes.isEnabled()
    dialog.pickup.setValue(4)
    assert not dialog.yes.isEnabled()
    assert "less than 4" in dialog.problem.text()
    dialog.pickup.setValue(1)
    dialog.form.setCurrentIndex(dialog.form.findText("Minor blues"))
    dialog.form.activated.emit(dialog.form.currentIndex())
    assert dialog.solo.keys[0].key.is_minor
    assert dialog.solo.pickup == 1
    dialog.reject()


def test_the_recording_is_heard_at_the_caret(qtbot: QtBot, at_ferry: MainWindow, tmp_path: Path) -> None:
    attach(qtbot, at_ferry, write_recording(tmp_path / "take.wav"))
    at_ferry.desks["listen"].find_beats()
    qtbot.waitUntil(lambda: len(at_ferry.studio.tape.beats.times) > 20)
    at_ferry.show_desk("write")
    to_page(qtbot, at_ferry)
    assert at_ferry.desks["write"].recording.isVisible()
    at_ferry.desks["write"].writer.go_to(Fraction(4))
    type_keys(qtbot, at_ferry, "h")
    assert at_ferry.studio.deck.is_playing
    region = at_ferry.studio.deck.region
    assert region is not None
    assert region[1] - region[0] == pytest.approx(4 * 60 / 148 * 44100, rel=0.05)
    type_keys(qtbot, at_ferry, "h")
    assert not at_ferry.studio.deck.is_playing


def test_typing_in_fields_writes_no_notes(qtbot: QtBot, writing: MainWindow) -> None:
    writing.desks["write"].panel.tabs["marks"].click()
    field: QWidget = writing.desks["write"].panel.marks.words
    field.setFocus()
    qtbot.keyClicks(field, "bag")
    assert shown(writing) == []


def test_a_solo_of_other_meters_is_written_on(qtbot: QtBot, window: MainWindow) -> None:
    odd = make_solo([("Dm7", "D5/8 E5 F5 G5 A5"), ("G7", "r/2 r/8")], meter="5/8", grouping="3+2")
    solo_id = window.session.library.add_solo(odd)
    window.open_solo(solo_id)
    window.show_desk("write")
    to_page(qtbot, window)
    press(qtbot, window, Qt.Key.Key_End)
    type_keys(qtbot, window, "2bag4f")
    assert shown(window)[5:] == ["B5@5/2+1/2", "A5@3+1/2", "G5@7/2+1/2", "F5@4+2"]
    assert len(window.desks["write"].page.lines[0].line.source.bars) == 3


def test_every_form_and_tuning_has_words_to_translate() -> None:
    assert tuple(form.name for form in FORMS) == FORM_WORDS
    assert tuple(tuning.name for tuning in TUNINGS) == TUNING_WORDS


def test_a_rhythm_is_tapped_in_the_solos_tempo_and_pitches_are_poured_in(qtbot: QtBot, writing: MainWindow) -> None:
    now = [10.0]
    writing.desks["write"].taps._clock = lambda: now[0]
    type_keys(qtbot, writing, "y")
    assert "Tap Y on each note" in writing.statusBar().currentMessage()
    now[0] += 2
    for pause in (0.5, 0.25, 0.25, 0.5):
        type_keys(qtbot, writing, "y")
        now[0] += pause
    assert "4 notes played" in writing.statusBar().currentMessage()
    writing.desks["write"].taps.finish()
    assert [(note.onset, note.uncertain) for note in solo_of(writing).notes] == [
        (0, True), (1, True), (Fraction(3, 2), True), (2, True),
    ]  # fmt: skip
    assert writing.session.undo_stack.count() == 1
    assert writing.desks["write"].panel.ways[Way.PITCHES].isChecked()
    type_keys(qtbot, writing, "cegb")
    assert [note.pitch.letter for note in solo_of(writing).notes] == ["C", "E", "G", "B"]


def test_a_rhythm_is_tapped_with_what_is_played(qtbot: QtBot, writing: MainWindow) -> None:
    desk = writing.desks["write"]
    type_keys(qtbot, writing, "y")
    for place in (4.02, 5.0, 5.97, 4.5):
        writing.studio.transport.playhead_moved.emit(place)
        type_keys(qtbot, writing, "y")
    # Going round the loop hands the first taps on.
    assert [note.onset for note in solo_of(writing).notes] == [4, 5, 6]
    writing.studio.transport.playing_changed.emit(False)
    assert desk._heard_time() is None


def test_a_line_is_played_in_by_letters_and_keys_in_one_pass(qtbot: QtBot, writing: MainWindow) -> None:
    desk, now = writing.desks["write"], [10.0]
    desk.taps._clock = lambda: now[0]
    type_keys(qtbot, writing, "y")
    for letter in "ceg":
        type_keys(qtbot, writing, letter)
        now[0] += 0.5
    for midi in (70, 69):
        desk.strip.midi.play(midi)
        now[0] += 0.23
        desk.strip.midi.let_go(midi)
        now[0] += 0.27
    assert "5 notes played" in writing.statusBar().currentMessage()
    assert not solo_of(writing).notes
    desk.taps.finish()
    assert [(note.pitch.midi % 12, note.onset, note.uncertain) for note in solo_of(writing).notes] == [
        (0, 0, False), (4, 1, False), (7, 2, False), (10, 3, False), (9, 4, False),
    ]  # fmt: skip
    assert [note.duration for note in solo_of(writing).notes][3:] == [Fraction(1, 2)] * 2
    assert writing.session.undo_stack.count() == 1
    # From then on a letter is written at the caret again.
    type_keys(qtbot, writing, "f")
    assert len(solo_of(writing).notes) == 6


def test_a_line_is_played_in_along_the_recording_and_the_caret_goes_along(
    qtbot: QtBot, at_ferry: MainWindow, tmp_path: Path
) -> None:
    attach(qtbot, at_ferry, write_recording(tmp_path / "take.wav"))
    at_ferry.studio.tape.edit_beats("Test", BeatMap(tuple(1.0 + BEAT * k for k in range(40)), 0))
    at_ferry.show_desk("write")
    desk, deck = at_ferry.desks["write"], at_ferry.studio.deck
    to_page(qtbot, at_ferry)
    before = len(solo_of(at_ferry).notes)
    desk.writer.go_to(Fraction(4))
    type_keys(qtbot, at_ferry, "y")
    assert deck.is_playing
    assert deck.player.position / RATE == pytest.approx(1.0, abs=0.02), "a bar before the caret"
    pass_seconds(at_ferry, 4 * BEAT + 0.01)
    for letter in "cdef":
        assert desk.page.playhead_x is not None
        type_keys(qtbot, at_ferry, letter)
        pass_seconds(at_ferry, BEAT)
    assert desk.writer.entry.caret == 8
    desk.taps._rested()
    # The last note was as long as the value that is chosen; what stood behind it stands there.
    bar = [note for note in solo_of(at_ferry).notes if 4 <= note.onset <= 7]
    assert [(note.pitch.letter, note.onset, note.uncertain) for note in bar] == [
        ("C", 4, False), ("D", 5, False), ("E", 6, False), ("F", 7, False),
    ]  # fmt: skip
    assert desk.taps.is_tapping, "the recording goes on, and so does playing in"
    deck.stop()
    assert not desk.taps.is_tapping
    assert desk.page.playhead_x is None
    assert at_ferry.session.undo_stack.count() == 1
    at_ferry.session.undo_stack.undo()
    assert len(solo_of(at_ferry).notes) == before


def test_a_loop_the_caret_stands_in_goes_round_while_it_is_played_in(
    qtbot: QtBot, at_ferry: MainWindow, tmp_path: Path
) -> None:
    attach(qtbot, at_ferry, write_recording(tmp_path / "take.wav"))
    at_ferry.studio.tape.edit_beats("Test", BeatMap(tuple(1.0 + BEAT * k for k in range(40)), 0))
    at_ferry.studio.hearing.choose(1.0 + 4 * BEAT, 1.0 + 8 * BEAT)
    at_ferry.show_desk("write")
    desk, deck = at_ferry.desks["write"], at_ferry.studio.deck
    to_page(qtbot, at_ferry)
    desk.writer.go_to(Fraction(5))
    type_keys(qtbot, at_ferry, "y")
    pass_seconds(at_ferry, 0.01)
    for letters in ("ce", "dg"):
        for letter in letters:
            type_keys(qtbot, at_ferry, letter)
            pass_seconds(at_ferry, 2 * BEAT)
    desk.taps._rested()
    # The second time round stands, over the first.
    bar = [note for note in solo_of(at_ferry).notes if note.onset in (4, 6)]
    assert [note.pitch.letter for note in bar] == ["D", "G"]
    assert at_ferry.studio.hearing.region is not None
    deck.stop()


def test_the_output_is_chosen_in_the_preferences(writing: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("gavotte.desktop.shell.preferences.device_names", list)
    writing.show_preferences()
    dialog = writing.preferences_dialog
    assert dialog is not None
    assert not dialog.device.isEnabled()
    assert dialog.device.currentText() == "No sound card"
    dialog.accept()
    monkeypatch.setattr("gavotte.desktop.shell.preferences.device_names", lambda: ["Loudspeakers", "Headphones"])
    writing.studio.transport.warm_up()
    assert writing.studio.transport.output is not None
    writing.show_preferences()
    dialog = writing.preferences_dialog
    assert dialog is not None
    dialog.device.setCurrentIndex(2)
    dialog.device.activated.emit(2)
    assert writing.studio.transport.output is None, "the next sound opens the one that was chosen"
    writing.studio.transport.warm_up()
    assert writing.studio.transport.output is not None
    dialog.accept()
    writing.show_preferences()
    assert writing.preferences_dialog is not None
    assert writing.preferences_dialog.device.currentText() == "Headphones"
    writing.preferences_dialog.accept()


def test_a_rest_ends_what_accidentals_are_for(qtbot: QtBot, writing: MainWindow) -> None:
    type_keys(qtbot, writing, "crs")
    assert shown(writing) == ["C5@0+1/2"]
    assert "Select a note" in writing.statusBar().currentMessage()  # type: ignore[union-attr]
    type_keys(qtbot, writing, "d4s")
    assert shown(writing)[-1].startswith("D#5")


def test_tapping_is_left_by_escape(qtbot: QtBot, writing: MainWindow) -> None:
    before = solo_of(writing)
    type_keys(qtbot, writing, "yy")
    assert "1 note played" in writing.statusBar().currentMessage()
    qtbot.keyClick(writing, Qt.Key.Key_Escape)
    assert not writing.desks["write"].taps.is_tapping
    writing.show_desk("label")
    assert solo_of(writing) is before


def test_a_wrong_note_is_mended_by_its_right_letter(qtbot: QtBot, writing: MainWindow) -> None:
    desk = writing.desks["write"]
    type_keys(qtbot, writing, "4c3de4f")
    before = [(note.onset, note.duration) for note in solo_of(writing).notes]
    for _ in range(3):
        qtbot.keyClick(desk.page, Qt.Key.Key_Left)
    assert "its length stays" in desk.panel.hint.text()
    type_keys(qtbot, writing, "g")
    assert [(note.onset, note.duration) for note in solo_of(writing).notes] == before
    assert [note.pitch.letter for note in solo_of(writing).notes] == ["C", "G", "E", "F"]
