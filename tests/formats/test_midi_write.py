from __future__ import annotations

import io
import itertools
from dataclasses import replace
from fractions import Fraction

import mido
import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.conftest import DATA, make_solo

from gavotte.demo.solos import DEMO_SOLOS
from gavotte.formats.midi_write import TICKS, write_midi
from gavotte.formats.passage import read_passages
from gavotte.solo.document import Solo
from gavotte.theory.chord_symbol import parse_chord
from gavotte.theory.voicing import voicings

PASSAGES = [p.solo for p in read_passages((DATA / "passages.json").read_text(encoding="utf-8"))]


def sounding(data: bytes, track: int) -> list[tuple[Fraction, Fraction, int]]:
    """(onset, duration, key) of a track's notes, in quarter notes from the file's start."""
    file = mido.MidiFile(file=io.BytesIO(data))
    now, started, notes = 0, {}, []
    for message in file.tracks[track]:
        now += message.time
        if message.type == "note_on":
            assert message.note not in started, "no note starts while it sounds"
            started[message.note] = now
        elif message.type == "note_off":
            begin = started.pop(message.note)
            notes.append((Fraction(begin, TICKS), Fraction(now - begin, TICKS), message.note))
    assert not started
    return sorted(notes)


@pytest.mark.parametrize("solo", PASSAGES, ids=lambda solo: solo.title[:20])
def test_notes_sound_when_and_as_long_as_they_are_written(solo: Solo) -> None:
    shift = solo.meters[0].meter.bar_length if solo.pickup else 0
    expected = [(n.onset + shift, n.duration, n.pitch.midi) for n in solo.notes]
    assert sounding(write_midi(solo), 1) == expected


@pytest.mark.parametrize("make", DEMO_SOLOS)
def test_tracks_texts_and_tempo(make: object) -> None:
    solo = make()  # type: ignore[operator]
    file = mido.MidiFile(file=io.BytesIO(write_midi(solo)))
    assert [track.name for track in file.tracks] == [solo.title, solo.instrument.name, "Chords", "Click"]
    conductor = {m.type: m for m in reversed(file.tracks[0])}
    assert round(mido.tempo2bpm(conductor["set_tempo"].tempo)) == solo.tempo
    assert [m.text for m in file.tracks[0] if m.type == "marker"] == [s.label for s in solo.sections]
    assert [m.text for m in file.tracks[0] if m.type == "text"] == [c.text for c in solo.chords]
    bars = [onset for onset, _, key in sounding(write_midi(solo), 3) if key == 75]
    meter = solo.meters[0].meter
    strong = [meter.bar_length + beat.offset for beat in meter.beats if beat.strong]
    assert bars[: len(strong) + 1] == [*strong, 2 * meter.bar_length], "strong beats click after the pickup's bar"
    first = next(message for message in file.tracks[0] if message.type == "time_signature")
    assert (first.numerator, first.denominator, first.time) == (meter.count, meter.unit, 0)


def test_odd_titles_keys_and_meters_are_written() -> None:
    solo = replace(make_solo([("C7", "C5/4 E5 G5 E5 C5")], meter="5/4", key="G# major"), title="Żółć ♭")
    assert sounding(write_midi(solo), 1)[0] == (0, 1, 72)


@given(
    st.lists(
        st.sampled_from(
            ["C", "Dm7", "G7", "Ebmaj7#11", "F#m7b5", "B7alt", "Bb/C", "Adim7", "C6/9", "E5", "Gsus2", "D7#5"]
        ),
        min_size=1,
    )
)
def test_voicings_hold_the_chord_and_move_little(names: list[str]) -> None:
    chords = [parse_chord(name) for name in names]
    found = voicings(chords)
    for chord, notes in zip(chords, found, strict=True):
        bass = (chord.bass or chord.root).pitch_class
        assert notes[0] % 12 == bass
        assert {note % 12 for note in notes} <= chord.pitch_classes | {(chord.root.pitch_class + 8) % 12}
        assert notes[1] >= 52
        assert notes[-1] <= 78
    for before, after in itertools.pairwise(found):
        centre = [sum(notes[1:]) / len(notes[1:]) for notes in (before, after)]
        assert abs(centre[1] - centre[0]) <= 7
