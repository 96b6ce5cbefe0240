"""Tablature under the staff, and the key that finds positions on the strings."""

from __future__ import annotations

import xml.etree.ElementTree as ET
from dataclasses import replace

import pytest
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot
from tests.conftest import make_solo

from gavotte.desktop.page.page_view import PageView
from gavotte.desktop.paper.setup import PageSetup
from gavotte.desktop.shell.window import MainWindow
from gavotte.engraving.engraver import Engraver
from gavotte.formats.musicxml_write import write_musicxml
from gavotte.labelling.labeller import label_solo
from gavotte.solo.document import Instrument, Solo
from gavotte.solo.instruments import instrument_named
from gavotte.solo.strings import fret_of, usual_tuning
from gavotte.solo.written import as_written

SHIFT_CONTROL = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier


def instrument(name: str) -> Instrument:
    known = instrument_named(name)
    assert known is not None
    return known


def guitar_solo() -> Solo:
    """Two bars on guitar, of which the first has strings."""
    solo = make_solo([("Dm7", "D4/4 F4 A4 C5"), ("G7", "B4/4 G4 F4 D4")], key="C major")
    strings = [4, 4, 3, 2]
    notes = [replace(n, string=s) for n, s in zip(solo.notes[:4], strings, strict=True)]
    return replace(solo, instrument=instrument("Guitar"), notes=(*notes, *solo.notes[4:]))


def frets(view: PageView) -> list[tuple[int, int]]:
    return [fret for line in view.lines if line.tablature is not None for fret in line.tablature.frets]


@pytest.fixture
def view(qtbot: QtBot) -> PageView:
    made = PageView(Engraver())
    qtbot.addWidget(made)
    made.resize(1000, 700)
    made.show()
    return made


def show(qtbot: QtBot, view: PageView, solo: Solo) -> None:
    view.show_solo(solo, {label.note: label for label in label_solo(solo)})
    qtbot.waitUntil(lambda: view.is_complete)


def test_notes_with_a_string_have_a_fret_where_tablature_is_wished(qtbot: QtBot, view: PageView) -> None:
    show(qtbot, view, guitar_solo())
    assert frets(view) == []
    height = view.lines[0].height
    view.set_tablature(True)
    qtbot.waitUntil(lambda: view.is_complete)
    assert frets(view) == [(4, 12), (4, 15), (3, 14), (2, 13)]
    assert view.lines[0].height > height
    view.set_tablature(False)
    qtbot.waitUntil(lambda: view.is_complete)
    assert frets(view) == []


def test_the_frets_are_the_same_in_written_pitch(qtbot: QtBot, view: PageView) -> None:
    view.set_tablature(True)
    show(qtbot, view, guitar_solo())
    sounding = frets(view)
    show(qtbot, view, as_written(guitar_solo()))
    assert frets(view) == sounding


def test_an_instrument_without_strings_has_none(qtbot: QtBot, view: PageView) -> None:
    view.set_tablature(True)
    show(qtbot, view, replace(guitar_solo(), instrument=instrument("Piano")))
    assert frets(view) == []


def test_a_line_whose_notes_have_no_string_keeps_its_height(qtbot: QtBot, view: PageView) -> None:
    bare = replace(guitar_solo(), notes=tuple(replace(note, string=0) for note in guitar_solo().notes))
    show(qtbot, view, bare)
    height = view.lines[0].height
    view.set_tablature(True)
    qtbot.waitUntil(lambda: view.is_complete)
    assert view.lines[0].height == height


def test_paper_has_tablature_unless_it_is_switched_off() -> None:
    guitar, trumpet = instrument("Guitar"), instrument("Trumpet")
    assert PageSetup().line_parts(True, guitar).tuning == usual_tuning(guitar)
    assert PageSetup().line_parts(True, trumpet).tuning is None
    assert PageSetup(tablature=False).line_parts(True, guitar).tuning is None


def test_musicxml_has_string_and_fret() -> None:
    root = ET.fromstring(write_musicxml(guitar_solo()))
    found = [(technical.findtext("string"), technical.findtext("fret")) for technical in root.iter("technical")]
    assert found == [("4", "12"), ("4", "15"), ("3", "14"), ("2", "13")]


def test_a_key_finds_positions_and_the_next_ones_and_undo_takes_them_back(qtbot: QtBot, window: MainWindow) -> None:
    library = window.studio.library
    guitar = next(entry.id for entry in library.solos() if library.solo(entry.id).instrument.name == "Guitar")
    window.open_solo(guitar)
    window.show_desk("write")
    desk, session = window.desks["write"], window.session
    qtbot.waitUntil(lambda: session.solo_id == guitar and window.activities.is_idle, timeout=20000)
    before = session.solo
    assert before is not None

    def strings() -> tuple[int, ...]:
        assert session.solo is not None
        return tuple(note.string for note in session.solo.notes)

    seen = []
    for _ in range(2):
        now = session.solo
        desk.page.setFocus()
        qtbot.keyClick(desk.page, Qt.Key.Key_P, SHIFT_CONTROL)
        qtbot.waitUntil(lambda then=now: session.solo is not then, timeout=20000)  # type: ignore[misc]
        seen.append(strings())
    assert seen[0] != seen[1]
    assert window.studio.view.tablature
    tuning = usual_tuning(session.solo.instrument)
    assert tuning is not None
    for note in session.solo.notes:
        assert fret_of(note.pitch.midi, note.string, tuning) is not None
    session.undo_stack.undo()
    session.undo_stack.undo()
    assert session.solo == before


def test_an_instrument_without_strings_is_told(qtbot: QtBot, window: MainWindow) -> None:
    library = window.studio.library
    trumpet = next(entry.id for entry in library.solos() if library.solo(entry.id).instrument.name == "Trumpet")
    window.open_solo(trumpet)
    window.show_desk("write")
    qtbot.waitUntil(lambda: window.session.solo_id == trumpet)
    said: list[str] = []
    window.studio.asks.telling.connect(said.append)
    before = window.session.solo
    window.desks["write"].positions.find()
    assert any("no strings" in words for words in said)
    assert window.session.solo is before
