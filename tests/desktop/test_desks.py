from __future__ import annotations

import itertools
import json
import subprocess
import sys
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import pytest
from PyQt6.QtCore import QEvent, Qt
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot
from tests.conftest import DATA, make_solo
from tests.desktop.conftest import OpenWindow, stop_what_goes_on
from tests.formats.test_musicxml import harmony, note, score

from gavotte.cli import main
from gavotte.desktop.errands.details_dialog import DetailsDialog
from gavotte.desktop.errands.exporting import (
    EXPORT_FORMATS,
    NOTE_TABLE,
    PAPER,
    SCORE,
    SCORE_WITH_DEGREES,
    ExportFormat,
    suggested_name,
)
from gavotte.desktop.shell.window import MainWindow
from gavotte.desktop.solo.session import LABEL_AT_ONCE
from gavotte.desktop.widgets.rows import EDGE_ROLE, ID_ROLE
from gavotte.formats.musicxml_write import write_musicxml
from gavotte.labelling.questions import Asked
from gavotte.library.errors import LibraryError
from gavotte.solo.document import Function, Instrument


def test_the_card_tells_all_about_the_selected_note(at_ferry: MainWindow) -> None:
    session, card = at_ferry.session, at_ferry.desks["label"].card
    ring = next(i for i, label in session.labels.items() if label.device == "enclosure")
    session.selection.select(ring, ring)
    label = session.labels[ring]
    assert session.solo is not None
    shown = session.solo.note(ring).pitch
    assert card.note.text() == f"{shown.shown}{shown.octave}"
    assert card.place.text().startswith("Bar ")
    assert card.reason.text() == label.reason
    assert card.functions[Function.APPROACH].isChecked()
    assert card.device.currentText() == "enclosure"
    assert len(card.alternative_buttons) == len(label.alternatives)
    assert card.target.isVisible()
    assert "chord tones" in card.strip.accessibleName()


def test_pointing_at_the_target_shows_it_and_clicking_goes_there(qtbot: QtBot, at_ferry: MainWindow) -> None:
    session, card, page = at_ferry.session, at_ferry.desks["label"].card, at_ferry.desks["label"].page
    start = next(i for i, label in session.labels.items() if label.function is Function.PASSING)
    session.selection.select(start, start)
    target = session.labels[start].target
    assert target is not None
    QApplication.sendEvent(card.target, QEvent(QEvent.Type.Enter))
    assert page.line_with(target).lane._target == target  # type: ignore[union-attr]
    QApplication.sendEvent(card.target, QEvent(QEvent.Type.Leave))
    assert page.line_with(target).lane._target is None  # type: ignore[union-attr]
    qtbot.mouseClick(card.target, Qt.MouseButton.LeftButton)
    assert session.selection.current == target


def test_an_alternative_or_a_device_can_be_chosen(qtbot: QtBot, at_ferry: MainWindow) -> None:
    session, card = at_ferry.session, at_ferry.desks["label"].card
    start = next(i for i, label in session.labels.items() if label.alternatives)
    session.selection.select(start, start)
    other = session.labels[start].alternatives[0]
    qtbot.mouseClick(card.alternative_buttons[0], Qt.MouseButton.LeftButton)
    label = session.labels[start]
    assert (label.function, label.device, label.decided) == (other.function, other.device, True)
    assert card.take_back.isVisible()
    card.device.setCurrentIndex(card.device.count() - 1)
    card.device.activated.emit(card.device.count() - 1)
    assert session.labels[start].device == card.device.currentData()
    qtbot.mouseClick(card.take_back, Qt.MouseButton.LeftButton)
    assert not session.labels[start].decided


def test_doubts_are_counted_and_gone_round(qtbot: QtBot, at_ferry: MainWindow) -> None:
    session, review = at_ferry.session, at_ferry.desks["label"].review
    qtbot.waitUntil(lambda: review.is_complete)
    items = [(item.first, item.last) for item in review.questions]
    assert len(items) > 3
    assert at_ferry.desks["label"].doubts.text().startswith(str(len(items)))
    assert f"{len(items)} to look at" in at_ferry.rail.buttons["label"].text()
    seen = []
    for _ in items:
        qtbot.mouseClick(at_ferry.desks["label"].doubts, Qt.MouseButton.LeftButton)
        seen.append((session.selection.anchor, session.selection.current))
    assert sorted(seen, key=items.index) == items
    qtbot.keyClick(at_ferry.desks["label"].page, Qt.Key.Key_Backtab, Qt.KeyboardModifier.ShiftModifier)
    assert (session.selection.anchor, session.selection.current) == seen[-2]
    for first, last in items:
        session.selection.select(first, last)
        session.decide(Function.OUTSIDE)
    qtbot.waitUntil(lambda: review.is_complete)
    assert not [item for item in review.questions if item.slip is not None]


def test_deleting_a_solo_can_be_undone(qtbot: QtBot, window: MainWindow) -> None:
    solos = window.desks["shelf"].solos
    title = solos.currentItem().text()
    count = solos.count()
    solos.setFocus()
    qtbot.keyClick(solos, Qt.Key.Key_Delete)
    assert solos.count() == count - 1
    assert title in window.notice.text.text()
    qtbot.mouseClick(window.notice.action, Qt.MouseButton.LeftButton)
    assert title in [solos.item(i).text() for i in range(solos.count())]
    qtbot.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier)
    assert solos.count() == count - 1


def test_deleting_the_open_solo_closes_it(at_ferry: MainWindow) -> None:
    solo_id = at_ferry.session.solo_id
    assert solo_id is not None
    at_ferry.show_desk("shelf")
    at_ferry.studio.edits.delete_solo(solo_id)
    assert at_ferry.session.solo is None
    at_ferry.show_desk("label")
    assert not at_ferry.desks["label"].page.isVisible()


def test_licks_are_listed_renamed_and_deleted(qtbot: QtBot, window: MainWindow) -> None:
    window.show_desk("vocabulary")
    desk = window.desks["vocabulary"]
    qtbot.waitUntil(lambda: desk.page.is_complete)
    count = desk.licks.count()
    desk.name.setText("The one I want in twelve keys")
    qtbot.keyClick(desk.name, Qt.Key.Key_Return)
    assert desk.licks.rows[0].name == "The one I want in twelve keys"
    qtbot.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert desk.licks.rows[0].name != "The one I want in twelve keys"
    desk.licks.setFocus()
    qtbot.keyClick(desk.licks, Qt.Key.Key_Delete)
    assert desk.licks.count() == count - 1
    qtbot.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert desk.licks.count() == count


def test_a_lick_is_shown_in_its_own_key_and_in_all(qtbot: QtBot, window: MainWindow) -> None:
    window.show_desk("vocabulary")
    desk = window.desks["vocabulary"]
    qtbot.waitUntil(lambda: desk.page.is_complete)
    own = [item.line.source.bars[0].key for item in desk.page.lines]
    assert len(set(own)) == 1
    assert not desk.order.isVisible()
    qtbot.mouseClick(desk.all_keys, Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: desk.page.is_complete)
    circle = [item.line.source.bars[0].key.tonic.pitch_class for item in desk.page.lines]
    assert [(b - a) % 12 for a, b in itertools.pairwise(circle)] == [5] * 11
    desk.order.setCurrentIndex(1)
    qtbot.waitUntil(lambda: desk.page.is_complete)
    rising = [item.line.source.bars[0].key.tonic.pitch_class for item in desk.page.lines]
    assert [(b - a) % 12 for a, b in itertools.pairwise(rising)] == [1] * 11


def test_the_source_of_a_lick_can_be_opened_while_it_is_there(window: MainWindow) -> None:
    window.show_desk("vocabulary")
    lick = window.studio.library.lick(window.desks["vocabulary"].licks.current_id() or "")
    window.desks["vocabulary"].source.click()
    assert window.session.solo_id == lick.source.solo_id
    window.studio.edits.delete_solo(lick.source.solo_id)
    window.show_desk("vocabulary")
    window.desks["vocabulary"].source.click()
    assert "no longer on the shelf" in window.notice.text.text()


def test_an_empty_library_says_what_to_do(open_window: OpenWindow, tmp_path: Path) -> None:
    window = open_window(tmp_path / "new")
    assert window.desks["shelf"].first_import.isVisible()
    assert not window.desks["shelf"].solos.isVisible()
    window.show_desk("vocabulary")
    assert window.desks["vocabulary"]._empty.isVisible()
    window.show_desk("label")
    assert window.desks["label"]._nothing.isVisible()
    for command in window.actions_of.desks["label"]:
        assert not window.actions_of.action(command.id).isEnabled(), command.id


def test_a_score_of_several_lines_asks_which(qtbot: QtBot, open_window: OpenWindow, tmp_path: Path) -> None:
    bar = (
        harmony("C", "major")
        + "".join(note(p, 6) for p in ("E5", "F5", "G5", "A5"))
        + "<backup><duration>24</duration></backup>"
        + note("C3", 24, voice="2")
    )
    path = tmp_path / "two lines.musicxml"
    path.write_bytes(score(bar))
    window = open_window(tmp_path / "new")
    window.import_files([path])
    qtbot.waitUntil(lambda: window.studio.importer.dialog is not None)
    dialog = window.studio.importer.dialog
    assert dialog is not None
    assert dialog.voices.count() == 2
    dialog.voices.setCurrentRow(1)
    dialog.accept()
    qtbot.waitUntil(lambda: window.session.solo is not None)
    assert window.session.solo is not None
    assert [str(n.pitch) for n in window.session.solo.notes] == ["C3"]


@pytest.mark.parametrize(
    ("name", "content", "words"),
    [
        ("a.mid", b"MThd", "cut off"),
        ("a.pdf", b"%PDF", "MusicXML"),
        ("a.xml", b"<html/>", "not a score"),
        ("a.mxl", b"PK junk", "can't be opened"),
        ("a.musicxml", b"", "empty"),
    ],
)
def test_bad_files_are_explained(
    qtbot: QtBot, open_window: OpenWindow, tmp_path: Path, name: str, content: bytes, words: str
) -> None:
    (tmp_path / name).write_bytes(content)
    window = open_window(tmp_path / "new")
    window.import_files([tmp_path / name, tmp_path / "missing.xml"])
    qtbot.waitUntil(lambda: window.notice.text.text().startswith("missing.xml"))
    with qtbot.waitSignal(window.studio.importer.failed) as heard:
        window.import_files([tmp_path / name])
    assert name in heard.args[0]
    assert words in heard.args[0]
    assert window.studio.library.solos() == []


def test_long_solos_are_labelled_beside_the_interface(qtbot: QtBot, open_window: OpenWindow, tmp_path: Path) -> None:
    window = open_window(tmp_path / "new")
    long = make_solo([("Dm7", "D5/8 E5 F5 G5 A5 G5 F5 E5")] * 60)
    assert len(long.notes) > LABEL_AT_ONCE
    solo_id = window.studio.library.add_solo(long)
    with qtbot.waitSignal(window.session.labelled):
        window.open_solo(solo_id)
    assert len(window.session.labels) == len(long.notes)


def test_a_failed_save_is_told_and_tried_again(
    qtbot: QtBot, at_ferry: MainWindow, monkeypatch: pytest.MonkeyPatch
) -> None:
    session = at_ferry.session

    def refuse(*_: object) -> None:
        raise LibraryError("The disk is full.")

    with monkeypatch.context() as patch:
        patch.setattr(session.library, "save_solo_row", refuse)
        session.decide(Function.OUTSIDE)
        at_ferry.studio.saver.save()
    assert "disk is full" in at_ferry.notice.text.text()
    assert not at_ferry.studio.saver.is_saved
    at_ferry.studio.saver.save()
    assert at_ferry.studio.saver.is_saved


def test_the_window_remembers_its_theme(open_window: OpenWindow, demo_folder: Path) -> None:
    first = open_window(demo_folder)
    first.actions_of.action("view.look_stage").trigger()
    first.close()
    assert open_window(demo_folder).palette_in_use.name == "Stage"


def test_controls_tell_their_names_and_keys(at_ferry: MainWindow) -> None:
    for button in (
        *at_ferry.rail.buttons.values(),
        at_ferry.desks["label"].keep,
        at_ferry.desks["label"].doubts,
        *at_ferry.desks["label"].card.functions.values(),
        at_ferry.desks["shelf"].import_button,
    ):
        assert button.toolTip()
    for widget in (
        at_ferry.desks["label"].page,
        at_ferry.desks["shelf"].solos,
        at_ferry.desks["shelf"].licks,
        at_ferry.desks["vocabulary"].name,
    ):
        assert widget.accessibleName()


def test_keeping_needs_at_least_two_notes(at_ferry: MainWindow) -> None:
    at_ferry.session.selection.select("n3", "n3")
    assert not at_ferry.actions_of.action("label.keep").isEnabled()
    at_ferry.studio.keeping.keep()
    assert at_ferry.studio.keeping.dialog is None


def test_the_label_command_prints_labels_and_nothing_else(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    assert main(["label", str(DATA / "passages.json")]) == 0
    out, err = capsys.readouterr()
    assert out.startswith("[")
    assert err == ""
    (tmp_path / "bad.json").write_text("{")
    assert main(["label", str(tmp_path / "bad.json")]) == 1
    out, err = capsys.readouterr()
    assert out == ""
    assert "bad.json" in err
    assert main(["label", str(tmp_path / "missing.json")]) == 1


def test_written_pitch_is_shown_and_concert_pitch_is_kept(qtbot: QtBot, at_ferry: MainWindow) -> None:
    session, page, card = at_ferry.session, at_ferry.desks["label"].page, at_ferry.desks["label"].card
    session.selection.select("n2", "n2")
    concert = card.note.text()
    functions = {note: label.function for note, label in session.labels.items()}
    assert "concert pitch" in at_ferry.desks["label"].about.text()
    qtbot.keyClick(at_ferry, Qt.Key.Key_T, Qt.KeyboardModifier.ControlModifier)
    qtbot.waitUntil(lambda: page.is_complete)
    assert (concert, card.note.text()) == ("A4", "B4")
    assert card.chord.text().startswith("GΔ7")
    assert "written pitch" in at_ferry.desks["label"].about.text()
    assert {note: label.function for note, label in session.labels.items()} == functions
    session.decide(Function.OUTSIDE)
    assert session.solo is not None
    assert str(session.solo.note("n2").pitch) == "A4"
    session.selection.select("n2", "n6")
    lick = session.lick()
    assert lick is not None
    assert str(lick.solo.notes[0].pitch) == "A4"
    assert "Fmaj7" in {label.chord for label in lick.labels}


def test_everything_is_read_for_ones_own_instrument(qtbot: QtBot, at_ferry: MainWindow) -> None:
    session, label = at_ferry.session, at_ferry.desks["label"]
    assert session.solo is not None
    played_on = session.solo.instrument.name
    sounding = [note.pitch.midi for note in session.solo.notes]
    at_ferry.actions_of.action("view.reader").trigger()
    preferences = at_ferry.preferences_dialog
    assert preferences is not None
    qtbot.waitUntil(preferences.reader.hasFocus)
    for reader, clef, apart in (("Trombone", "F4", {-24, -12, 0}), ("Alto saxophone", "G2", {-3, 9, 21})):
        preferences.reader.setCurrentIndex(preferences.reader.findData(reader))
        preferences.reader.activated.emit(preferences.reader.currentIndex())
        qtbot.waitUntil(lambda: label.page.is_complete)
        shown = session.shown
        assert shown is not None
        assert shown.instrument.clef == clef
        assert {note.pitch.midi - midi for note, midi in zip(shown.notes, sounding, strict=True)} <= apart
        assert f"{played_on}, written for {reader.lower()}" in label.about.text()
    preferences.accept()
    assert "Written pitch for alto saxophone" in at_ferry.actions_of.action("view.written").text()
    # A letter is a pitch as it is read.
    at_ferry.show_desk("write")
    writer = at_ferry.desks["write"].writer
    writer.go_to(session.solo.notes[0].onset)
    at_ferry.desks["write"].page.setFocus()
    qtbot.keyClick(at_ferry.desks["write"].page, Qt.Key.Key_3)
    qtbot.keyClick(at_ferry.desks["write"].page, Qt.Key.Key_C)
    note = session.solo.notes[0]
    assert (session.shown.note(note.id).pitch.midi - note.pitch.midi) % 12 == 9
    assert session.shown.note(note.id).pitch.letter == "C"
    at_ferry.show_desk("vocabulary")
    vocabulary = at_ferry.desks["vocabulary"]
    for all_keys in (False, True):
        vocabulary.all_keys.setChecked(all_keys)
        sheet = vocabulary.sheet()
        assert sheet is not None
        assert sheet.solo.instrument.name == "Alto saxophone"
    at_ferry.studio.view.set_reader("")
    sheet = vocabulary.sheet()
    assert sheet is not None
    assert sheet.solo.instrument.name == "Clarinet"


def test_licks_are_shown_in_written_pitch_too(qtbot: QtBot, window: MainWindow) -> None:
    desk = window.desks["vocabulary"]
    window.show_desk("vocabulary")
    desk.licks.setCurrentRow(next(k for k, row in enumerate(desk.licks.rows) if "Ferry" in row.detail))
    qtbot.waitUntil(lambda: desk.page.is_complete)
    concert = desk.page.lines[0].line.notes[0].note.pitch
    window.actions_of.action("view.written").trigger()
    qtbot.waitUntil(lambda: desk.page.is_complete)
    assert desk.page.lines[0].line.notes[0].note.pitch.midi == concert.midi + 2
    first = desk.sheet().solo.notes[0]
    desk.page.selection_wanted.emit(first.id, first.id)
    assert desk.page.accessibleName().startswith(f"{first.pitch.shown}{first.pitch.octave}")
    assert " of Bm7" in desk.page.accessibleName()
    desk.all_keys.click()
    qtbot.waitUntil(lambda: desk.page.is_complete)
    assert str(desk.page.lines[0].line.source.bars[0].key) == "G major"
    qtbot.keyClick(desk.page, Qt.Key.Key_Home)
    assert desk.page.accessibleName().startswith("G major: ")
    in_second = next(note for note in desk.sheet().solo.notes if note.id.startswith("1:"))
    desk.page.selection_wanted.emit(in_second.id, in_second.id)
    spoken = desk.page.accessibleName()
    assert spoken.startswith("C major: ")
    assert " of Em7" in spoken
    assert "bar 1, beat 1" in spoken


def export(qtbot: QtBot, window: MainWindow, path: Path, wanted: ExportFormat) -> None:
    sheet = window.sheet()
    assert sheet is not None
    with qtbot.waitSignal(window.studio.exporter.exported, timeout=20000):
        window.studio.exporter.export(sheet, path, wanted)


@pytest.mark.parametrize("wanted", EXPORT_FORMATS, ids=lambda wanted: wanted.name)
def test_the_open_solo_goes_out_in_every_format(
    qtbot: QtBot, at_ferry: MainWindow, tmp_path: Path, wanted: ExportFormat
) -> None:
    export(qtbot, at_ferry, tmp_path / "out", wanted)
    data = (tmp_path / f"out{wanted.suffix}").read_bytes()
    assert (b"<lyric" in data) == (wanted is SCORE_WITH_DEGREES)
    assert data.startswith(
        {
            ".pdf": b"%PDF",
            ".csv": b"note,bar",
            ".musicxml": b"<?xml",
            ".mid": b"MThd",
            ".png": b"\x89PNG",
            ".svg": b"<?xml",
            ".md": b"# Lamplight",
        }[wanted.suffix]
    )
    assert [path.name for path in tmp_path.iterdir() if path.name.startswith(".out")] == []


def test_the_sheet_for_printing_is_vector_and_has_its_pages(qtbot: QtBot, at_ferry: MainWindow, tmp_path: Path) -> None:
    export(qtbot, at_ferry, tmp_path / "solo.pdf", PAPER)
    solo = (tmp_path / "solo.pdf").read_bytes()
    assert solo.count(b"/Type /Page\n") == 2
    assert b"/Subtype /Image" not in solo
    at_ferry.show_desk("vocabulary")
    at_ferry.desks["vocabulary"].all_keys.click()
    export(qtbot, at_ferry, tmp_path / "keys.pdf", PAPER)
    assert (tmp_path / "keys.pdf").read_bytes().count(b"/Type /Page\n") >= 2


def test_a_sheet_being_set_shows_progress_and_can_be_stopped(
    qtbot: QtBot, at_ferry: MainWindow, tmp_path: Path
) -> None:
    sheet = at_ferry.sheet()
    assert sheet is not None
    with qtbot.waitSignal(at_ferry.activities.changed):
        at_ferry.studio.exporter.export(sheet, tmp_path / "solo.pdf", PAPER)
    assert at_ferry.activity_bar.isVisible()
    stop_what_goes_on(at_ferry)
    assert not at_ferry.activity_bar.isVisible()
    assert list(tmp_path.glob("*.pdf")) == []


@pytest.mark.parametrize("written", [False, True])
def test_what_went_out_comes_back(qtbot: QtBot, at_ferry: MainWindow, tmp_path: Path, written: bool) -> None:
    solo = at_ferry.session.solo
    assert solo is not None
    at_ferry.studio.view.set_written(written)
    export(qtbot, at_ferry, tmp_path / "out", SCORE)
    with qtbot.waitSignal(at_ferry.session.replaced, timeout=10000):
        at_ferry.import_files([tmp_path / "out.musicxml"])
    again = at_ferry.session.solo
    assert [(n.onset, n.duration, n.pitch, n.marks) for n in again.notes] == [
        (n.onset, n.duration, n.pitch, n.marks) for n in solo.notes
    ]


def test_a_file_that_cannot_be_written_is_explained(qtbot: QtBot, at_ferry: MainWindow, tmp_path: Path) -> None:
    sheet = at_ferry.sheet()
    assert sheet is not None
    with qtbot.waitSignal(at_ferry.studio.exporter.failed, timeout=10000):
        at_ferry.studio.exporter.export(sheet, tmp_path / "no such folder" / "out.csv", NOTE_TABLE)
    assert "could not be written" in at_ferry.notice.text.text()


@pytest.mark.parametrize(("title", "name"), [("A/B: what?", "A-B- what-.csv"), ("...", "Solo.csv"), ("♭9", "♭9.csv")])
def test_file_names_come_from_titles(title: str, name: str) -> None:
    assert suggested_name(replace(make_solo([("C", "C5/1")]), title=title), NOTE_TABLE) == name


def test_details_change_what_is_heard_and_can_be_undone(qtbot: QtBot, window: MainWindow) -> None:
    blues_id = next(entry.id for entry in window.studio.library.solos() if "Blues" in entry.title)
    window.open_solo(blues_id)
    session = window.session
    blue = [note for note, label in session.labels.items() if label.device == "blue"]
    assert blue
    qtbot.keyClick(window, Qt.Key.Key_D, Qt.KeyboardModifier.ControlModifier)
    dialog = window.details_dialog
    assert dialog is not None
    (first,) = dialog.keys.rows
    assert (dialog.title_field.text(), first.tonic.currentText(), first.blues.isChecked()) == (
        "Two-Bucket Blues",
        "B♭",
        True,
    )
    dialog.title_field.setText("One Bucket")
    first.blues.setChecked(False)
    dialog.instrument.setCurrentIndex(dialog.instrument.findText("Trombone"))
    dialog.accept()
    assert window.desks["label"].title.text() == "One Bucket"
    assert session.solo is not None
    assert session.solo.instrument.name == "Trombone"
    assert session.undo_stack.undoText() == "Change the details"
    assert all(session.labels[note].device != "blue" for note in blue)
    qtbot.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert window.desks["label"].title.text() == "Two-Bucket Blues"
    assert all(session.labels[note].device == "blue" for note in blue)


def test_details_of_an_unknown_instrument_and_key_are_kept(qtbot: QtBot, window: MainWindow) -> None:
    odd = replace(make_solo([("C", "C5/1")], key="B# aeolian"), instrument=Instrument("Serpent", 0, 0, "F4", 30, 60))
    dialog = DetailsDialog(window, odd)
    qtbot.addWidget(dialog)
    assert dialog.solo.instrument == odd.instrument
    assert dialog.solo == odd


def test_the_label_command_ends_quietly_when_nobody_reads_on() -> None:
    process = subprocess.Popen(
        [sys.executable, "-m", "gavotte", "label", str(DATA / "passages.json")],
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE,
    )
    assert process.stdout is not None
    assert process.stderr is not None
    process.stdout.read(10)
    process.stdout.close()
    assert process.stderr.read() == b""
    assert process.wait() == 0


def test_details_hold_year_album_tempo_meter_and_every_key(qtbot: QtBot, at_ferry: MainWindow) -> None:
    at_ferry.change_details()
    dialog = at_ferry.details_dialog
    assert dialog is not None
    dialog.year.setValue(1961)
    dialog.album.setText("Quay Sessions")
    dialog.tempo.setValue(120)
    dialog.keys.more.click()
    second = dialog.keys.rows[1]
    second.bar.setValue(17)
    second.tonic.setCurrentText("A♭")
    dialog.accept()
    session = at_ferry.session
    assert session.solo is not None
    assert (session.solo.year, session.solo.album, session.solo.beats_a_minute) == (1961, "Quay Sessions", 120)
    assert [(region.onset, str(region.key)) for region in session.solo.keys] == [(0, "F major"), (64, "Ab major")]
    at_ferry.show_desk("shelf")
    at_ferry.studio.saver.save()
    entry = next(entry for entry in at_ferry.studio.library.solos() if entry.id == session.solo_id)
    assert (entry.year, entry.album, entry.tempo) == (1961, "Quay Sessions", 120)
    at_ferry.change_details()
    dialog = at_ferry.details_dialog
    assert dialog is not None
    assert round(dialog.keys.rows[1].bar.value()) == 17
    dialog.keys.rows[1].away.click()
    dialog.accept()
    assert [str(region.key) for region in session.solo.keys] == ["F major"]


def test_the_meter_is_changed_and_every_note_stays(qtbot: QtBot, at_ferry: MainWindow) -> None:
    session = at_ferry.session
    assert session.solo is not None
    before = session.solo
    at_ferry.change_details()
    dialog = at_ferry.details_dialog
    assert dialog is not None
    dialog.meter.setCurrentIndex(dialog.meter.findText("3/4"))
    dialog.accept()
    assert str(session.solo.meters[0].meter) == "3/4"
    assert session.solo.notes == before.notes
    session.undo_stack.undo()
    assert session.solo == before


def test_the_key_is_changed_on_the_page(qtbot: QtBot, at_ferry: MainWindow) -> None:
    at_ferry.show_desk("write")
    write, session = at_ferry.desks["write"], at_ferry.session
    write.writer.go_to(Fraction(33))
    qtbot.keyClick(write.page, Qt.Key.Key_K, Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier)
    dialog = write.key_dialog
    assert dialog is not None
    dialog.tonic.setCurrentText("D")
    dialog.accept()
    assert session.solo is not None
    assert [(region.onset, str(region.key)) for region in session.solo.keys] == [(0, "F major"), (32, "D major")]
    qtbot.waitUntil(lambda: write.page.is_complete)
    keys = {str(bar.key) for item in write.page.lines for bar in item.line.source.bars}
    assert keys == {"F major", "D major"}


def test_a_signature_its_chords_contradict_is_asked_about(
    qtbot: QtBot, open_window: OpenWindow, tmp_path: Path
) -> None:
    bars = [("Cm7", "C5/4 Eb5 G5 Bb5"), ("F7", "A5/4 G5 F5 Eb5"), ("Bbmaj7", "D5/2 F5"), ("Bbmaj7", "Bb4/1")] * 2
    path = tmp_path / "plain.musicxml"
    path.write_bytes(write_musicxml(replace(make_solo(bars), title="Plain")))
    window = open_window(tmp_path / "new")
    with qtbot.waitSignal(window.session.replaced, timeout=10000):
        window.import_files([path])
    assert "its chords are those of B♭ major" in window.notice.text.text()
    review = window.desks["label"].review
    qtbot.waitUntil(lambda: review.is_complete)
    assert review.questions[0].asked is Asked.SIGNATURE
    assert window.notice.action.text() == "Take B♭ major"
    window.notice.action.click()
    assert window.session.solo is not None
    assert str(window.session.solo.keys[0].key) == "Bb major"
    assert all(question.asked is not Asked.SIGNATURE for question in review.questions)
    window.session.undo_stack.undo()
    window.desks["label"].answer(False)
    qtbot.waitUntil(lambda: review.current is not None)
    assert review.current.asked is Asked.SIGNATURE
    window.desks["label"].answer(False)
    assert str(window.session.solo.keys[0].key) == "C major"
    assert all(question.asked is not Asked.SIGNATURE for question in review.questions)


def test_the_shelf_and_the_label_desk_count_the_same(qtbot: QtBot, window: MainWindow) -> None:
    rows, review = window.desks["shelf"].solos, window.desks["label"].review
    said = {rows.item(k).data(ID_ROLE): rows.item(k).data(EDGE_ROLE) for k in range(rows.count())}
    for solo_id, words in said.items():
        window.open_solo(solo_id)
        qtbot.waitUntil(lambda wanted=solo_id: window.session.solo_id == wanted and review.is_complete)  # type: ignore[misc]
        window.show_desk("label")

        def agrees(wanted: str = words) -> bool:
            number = len(review.questions)
            return wanted == (f"{number} to look at" if number else "all clear")

        # What is in doubt is known a moment after the solo is there.
        qtbot.waitUntil(agrees)
        assert window.rail.buttons["label"].toolTip() == f"Label, {words} (F4)"


def test_a_lick_of_a_newer_version_says_so_and_no_other_is_shown_for_it(window: MainWindow) -> None:
    library = window.studio.library
    window.show_desk("vocabulary")
    desk = window.desks["vocabulary"]
    newer, other = (entry.id for entry in library.licks()[:2])
    with library._writing() as db:
        document = json.loads(db.execute("SELECT document FROM licks WHERE id=?", (newer,)).fetchone()[0])
        written = json.dumps({**document, "version": 99}).encode()
        db.execute("UPDATE licks SET document=? WHERE id=?", (written, newer))
    desk.licks.select_id(other)
    assert desk.page.isVisible()
    desk.licks.select_id(newer)
    assert "newer Gavotte" in window.notice.text.text()
    assert not desk.page.isVisible()
    desk.delete_current()
    assert newer not in {entry.id for entry in library.licks()}
    desk.licks.select_id(other)
    assert desk.page.isVisible()
