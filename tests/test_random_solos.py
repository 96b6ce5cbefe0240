"""Solos no one would play, through every room: what is made of them must hang together."""

from __future__ import annotations

import random
from dataclasses import replace

import pytest
from tests.random_solos import LENGTHS, METERS, F, random_solo

from gavotte.engraving.engraver import Engraver, line_breaks
from gavotte.formats.document import SOLO_DOCUMENT
from gavotte.formats.midi_write import write_midi
from gavotte.formats.musicxml import open_score
from gavotte.formats.musicxml_write import write_musicxml
from gavotte.formats.note_table import write_note_table
from gavotte.labelling.labeller import label_solo
from gavotte.notation.written import Notation
from gavotte.solo.document import MeterRegion, Note, Solo
from gavotte.solo.written import as_written
from gavotte.theory.pitch import spell
from gavotte.vocabulary.lick import LICK_DOCUMENT, keep_lick
from gavotte.workshop.keys import KeyOrder
from gavotte.workshop.sheet import key_sheet

pytestmark = pytest.mark.slow
ENGRAVER = Engraver()


@pytest.mark.parametrize("seed", range(40))
def test_every_room_takes_every_solo(seed: int) -> None:
    solo = random_solo(seed)
    labels = label_solo(solo)
    assert [label.note for label in labels] == [note.id for note in solo.notes]
    assert SOLO_DOCUMENT.read(SOLO_DOCUMENT.write(solo)) == solo
    again = open_score(write_musicxml(solo)).solo().solo
    assert [(n.onset, n.duration, n.pitch) for n in again.notes] == [(n.onset, n.duration, n.pitch) for n in solo.notes]
    assert [(c.onset, c.text) for c in again.chords] == [(c.onset, c.text) for c in solo.chords]
    assert write_midi(solo).startswith(b"MThd")
    assert write_note_table(solo, {label.note: label for label in labels}).count("\n") == len(solo.notes) + 1
    written = label_solo(as_written(solo))
    assert [label.degree for label in written] == [label.degree for label in labels]
    assert place_all(solo) == [note.id for note in solo.notes]


@pytest.mark.parametrize("seed", range(40))
def test_a_notation_made_from_the_one_before_is_the_one_made_anew(seed: int) -> None:
    solo, chance = random_solo(seed), random.Random(seed)
    notation = Notation(solo)
    for _ in range(12):
        solo = edited(solo, chance)
        fresh, notation = Notation(solo), Notation(solo, notation)
        assert [notation.bar(i) for i in range(len(notation))] == [fresh.bar(i) for i in range(len(fresh))]
        assert [notation.chords(i) for i in range(len(notation))] == [fresh.chords(i) for i in range(len(fresh))]


def edited(solo: Solo, chance: random.Random) -> Solo:
    """The solo with something gone, added, longer, moved, or barred otherwise."""
    notes, place = list(solo.notes), chance.randrange(len(solo.notes))
    match chance.randrange(6):
        case 0 if len(notes) > 1:
            del notes[place : place + chance.randint(1, len(notes) - 1)]
        case 1:
            shift = chance.choice([F(1), F(1, 2), F(7)])
            notes[place:] = [replace(note, onset=note.onset + shift) for note in notes[place:]]
        case 2:
            notes[place] = replace(notes[place], duration=chance.choice([F(1, 4), F(3), F(11)]))
        case 3:
            end = max(note.end for note in notes)
            notes.append(Note(f"x{chance.random()}", max(end, F(0)), chance.choice(LENGTHS), notes[-1].pitch))
        case 4:
            return replace(solo, meters=(MeterRegion(F(0), chance.choice(METERS)),))
        case _:
            notes[place] = replace(notes[place], pitch=spell(chance.randint(50, 80), 0))
    return replace(solo, notes=tuple(notes))


@pytest.mark.parametrize("seed", range(40))
def test_any_stretch_makes_a_lick_in_twelve_keys(seed: int) -> None:
    solo, chance = random_solo(seed), random.Random(seed)
    first = chance.randrange(len(solo.notes))
    last = min(len(solo.notes) - 1, first + chance.randint(0, 11))
    lick = keep_lick(solo, "id", label_solo(solo), f"n{first}", f"n{last}")
    assert LICK_DOCUMENT.read(LICK_DOCUMENT.write(lick)) == lick
    assert lick.name
    sheet, labels = key_sheet(lick, chance.choice(list(KeyOrder)))
    assert len(labels) == len(sheet.notes) == 12 * (last - first + 1)
    if seed % 4 == 0:
        assert place_all(sheet) == [note.id for note in sheet.notes]


def place_all(solo: Solo) -> list[str]:
    """The notes an engraved solo shows, in order."""
    notation = Notation(solo)
    lines = [line for first, last in line_breaks(notation) for line in ENGRAVER.line(notation, first, last, {})]
    return [placed.note.id for line in lines for placed in line.notes]
