from __future__ import annotations

from dataclasses import replace

import pytest
from tests.conftest import make_solo

from gavotte.demo.solos import DEMO_SOLOS
from gavotte.labelling.labeller import label_solo
from gavotte.solo.instruments import INSTRUMENTS, instrument_named
from gavotte.solo.written import as_written, read_by
from gavotte.theory.pitch import Pitch


@pytest.mark.parametrize(("name", "key", "first", "chord"), [
    ("Trumpet", "G major", "D5", "Dm7"), ("Alto saxophone", "D major", "A5", "Am7"), ("Flute", "F major", "C5", "Cm7"),
    ("Tenor saxophone", "G major", "D6", "Dm7"), ("Guitar", "F major", "C6", "Cm7"),
])  # fmt: skip
def test_players_read_their_own_pitch(name: str, key: str, first: str, chord: str) -> None:
    instrument = instrument_named(name)
    assert instrument is not None
    solo = replace(make_solo([("Cm7", "C5/4 Eb5 G5 Bb5")], key="F major"), instrument=instrument)
    written = as_written(solo)
    assert (str(written.keys[0].key), str(written.notes[0].pitch), written.chords[0].text) == (key, first, chord)
    assert as_written(written) == written


@pytest.mark.parametrize("key", ["B major", "F# major", "Db major", "Eb minor", "G# minor", "C# major"])
@pytest.mark.parametrize("instrument", INSTRUMENTS, ids=lambda instrument: instrument.name)
def test_far_keys_are_written_enharmonically(key: str, instrument: object) -> None:
    solo = replace(make_solo([("C7", "C5/4 E5 G5 Bb5")], key=key), instrument=instrument)  # type: ignore[arg-type]
    written = as_written(solo)
    assert abs(written.keys[0].key.fifths) <= max(6, abs(solo.keys[0].key.fifths))
    shift = written.notes[0].pitch.midi - solo.notes[0].pitch.midi
    assert shift == -solo.instrument.transposition_semitones
    assert written.instrument.lowest - solo.instrument.lowest == shift


@pytest.mark.parametrize(("own", "reader", "key", "first", "staff"), [
    # A tenor player reads a trumpet's line an octave lower, a trombone's a ninth above its sound.
    ("Trumpet", "Tenor saxophone", "G major", "D5", "G2"), ("Trombone", "Tenor saxophone", "G major", "D6", "G2"),
    ("Tenor saxophone", "Trumpet", "G major", "D6", "G2"), ("Alto saxophone", "Trombone", "F major", "C4", "F4"),
    ("Trumpet", "Trumpet", "G major", "D5", "G2"), ("Flute", "Alto saxophone", "D major", "A4", "G2"),
])  # fmt: skip
def test_whatever_a_solo_was_played_on_it_is_read_for_ones_own_instrument(
    own: str, reader: str, key: str, first: str, staff: str
) -> None:
    played_on, read_for = instrument_named(own), instrument_named(reader)
    assert played_on is not None
    solo = replace(make_solo([("Cm7", "C5/4 Eb5 G5 Bb5")], key="F major"), instrument=played_on)
    written = as_written(read_by(solo, read_for))
    assert (str(written.keys[0].key), str(written.notes[0].pitch)) == (key, first)
    assert (written.instrument.name, written.instrument.clef) == (reader, staff)
    assert as_written(read_by(solo, None)) == as_written(solo)
    if read_for is not None and own != reader:
        # What the part reaches on paper is what the player's own parts reach.
        usual = as_written(replace(solo, instrument=read_for)).instrument
        assert (written.instrument.lowest, written.instrument.highest) == (usual.lowest, usual.highest)


@pytest.mark.parametrize("name", ["Alto saxophone", "Tenor saxophone", "Flute"])
def test_an_edit_turns_what_it_touched_and_nothing_else(name: str) -> None:
    instrument = instrument_named(name)
    assert instrument is not None
    line = [("Cm7", "C5/4 Eb5 G5 Bb5"), ("F7", "A5/4 G5 F5 Eb5"), ("Bbmaj7", "D5/1")]
    solo = replace(make_solo(line, key="F major"), instrument=instrument)
    before = as_written(solo)
    sharp = replace(solo.notes[4], pitch=Pitch.parse("G##5"))
    edited = replace(solo, notes=(*solo.notes[:3], sharp, *solo.notes[5:]))
    after = as_written(edited)
    # Under another title nothing is known of it.
    assert replace(as_written(replace(edited, title="anew")), title=solo.title) == after
    same = [note.id for note in after.notes if before.places.get(note.id) is not None and before.note(note.id) is note]
    assert same == [note.id for note in after.notes if note.id != sharp.id]
    other_chords = replace(edited, chords=edited.chords[:1])
    assert [chord.text for chord in as_written(other_chords).chords] == [after.chords[0].text]
    assert as_written(solo) == before


@pytest.mark.parametrize("make", DEMO_SOLOS)
def test_labels_are_the_same_in_either_pitch(make: object) -> None:
    solo = make()  # type: ignore[operator]
    concert, written = label_solo(solo), label_solo(as_written(solo))
    assert [(x.function, x.device, x.degree, x.target) for x in concert] == [
        (x.function, x.device, x.degree, x.target) for x in written
    ]
