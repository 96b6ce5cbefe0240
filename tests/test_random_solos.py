"""Solos no one would play, through every room: what is made of them must hang together."""

from __future__ import annotations

import random
from dataclasses import replace
from fractions import Fraction

import pytest

from gavotte.engraving.engraver import Engraver, line_breaks
from gavotte.formats.document import SOLO_DOCUMENT
from gavotte.formats.midi_write import write_midi
from gavotte.formats.musicxml import open_score
from gavotte.formats.musicxml_write import write_musicxml
from gavotte.formats.note_table import write_note_table
from gavotte.labelling.labeller import label_solo
from gavotte.notation.written import Notation
from gavotte.solo.document import ChordEvent, KeyRegion, MeterRegion, Note, Solo
from gavotte.solo.instruments import INSTRUMENTS
from gavotte.solo.written import as_written
from gavotte.theory.key import Key
from gavotte.theory.meter import Meter
from gavotte.theory.pitch import spell
from gavotte.vocabulary.lick import LICK_DOCUMENT, keep_lick
from gavotte.workshop.keys import KeyOrder
from gavotte.workshop.sheet import key_sheet

pytestmark = pytest.mark.slow
ENGRAVER = Engraver()
F = Fraction
METERS = [Meter(4, 4), Meter(3, 4), Meter(5, 4), Meter(6, 8), Meter(12, 8), Meter(7, 4), Meter(2, 2)]
KEYS = ["C major", "Bb major", "E minor", "F# major", "Eb minor", "D dorian"]
CHORDS = [
    *("Dm7", "G7", "Cmaj7", "Am7", "D7b9", "Bm7b5", "E7alt", "F6", "Bb7", "Eb7#11"),
    *("Adim7", "C7sus4", "Fm6", "Abmaj7", "F#m7b5", "C/E", "Gm7/C", "B7#5", "N.C.", "Gb13b9"),
]
LENGTHS = [F(1, 2)] * 5 + [F(1, 4), F(1, 3), F(1), F(3, 2), F(1, 6), F(2, 3), F(5, 2)]
MOVES = [-5, -4, -3, -2, -2, -1, -1, 0, 1, 1, 2, 2, 3, 4, 5]


def random_solo(seed: int) -> Solo:
    chance = random.Random(seed)
    meter, pickup = chance.choice(METERS), chance.choice([F(0), F(0), F(1)])
    notes: list[Note] = []
    time, pitch = -pickup, 67
    for number in range(chance.randint(1, 60)):
        if chance.random() < 0.1:
            time += chance.choice([F(1, 2), F(1), F(1, 3)])
        pitch = min(84, max(52, pitch + chance.choice(MOVES)))
        length = chance.choice(LENGTHS)
        notes.append(Note(f"n{number}", time, length, spell(pitch, chance.choice([0, -3, 2]))))
        time += length
    chords: list[ChordEvent] = []
    onset = F(0)
    while onset < time and chance.random() < 0.97:
        chords.append(ChordEvent(f"c{len(chords)}", onset, chance.choice(CHORDS)))
        onset += chance.choice([meter.bar_length, meter.bar_length / 2])
    key = Key.parse(chance.choice(KEYS))
    return Solo(
        f"Solo {seed}",
        instrument=chance.choice(INSTRUMENTS),
        pickup=pickup,
        meters=(MeterRegion(F(0), meter),),
        keys=(KeyRegion(F(0), key, chance.random() < 0.3),),
        chords=tuple(chords),
        notes=tuple(notes),
    )


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
