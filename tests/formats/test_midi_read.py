"""Reading MIDI: what was written comes back the same; what was played becomes a simple rhythm."""

from __future__ import annotations

import io
import itertools
import random
from dataclasses import replace
from fractions import Fraction

import mido
import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.conftest import DATA, make_solo

from gavotte.demo.solos import DEMO_SOLOS
from gavotte.formats.errors import FormatError
from gavotte.formats.midi_read import open_midi
from gavotte.formats.midi_write import write_midi
from gavotte.formats.musicxml import open_score
from gavotte.formats.musicxml_write import write_musicxml
from gavotte.formats.passage import read_passages
from gavotte.labelling.labeller import label_solo
from gavotte.notation.quantise import quantise
from gavotte.solo.document import KeyRegion, Section, Solo, TempoChange
from gavotte.theory.key import Key

PASSAGES = [p.solo for p in read_passages((DATA / "passages.json").read_text(encoding="utf-8"))]
SOLOS = [*PASSAGES, *(make() for make in DEMO_SOLOS)]


def heard(solo: Solo) -> list[tuple[Fraction, Fraction, int, bool]]:
    """Onset, duration, MIDI number of each note, and whether it is a grace note."""
    return [(n.onset, n.duration, n.pitch.midi, n.grace) for n in solo.notes]


def track(*messages: mido.Message | mido.MetaMessage) -> mido.MidiTrack:
    return mido.MidiTrack(messages)


def midi(*tracks: mido.MidiTrack, ticks: int = 480, kind: int = 1) -> bytes:
    out = io.BytesIO()
    mido.MidiFile(type=kind, ticks_per_beat=ticks, tracks=list(tracks)).save(file=out)
    return out.getvalue()


def performed(times: list[tuple[float, float, int]], *meta: mido.MetaMessage, channel: int = 0) -> bytes:
    """A file of notes (onset and length in quarter notes, key)."""
    events = [(round(on * 480), 1, mido.Message("note_on", note=key, channel=channel)) for on, _, key in times]
    events += [(round((on + n) * 480), 0, mido.Message("note_off", note=key, channel=channel)) for on, n, key in times]
    events += [(message.time, -1, message) for message in meta]
    now, messages = 0, []
    for time, _, message in sorted(events, key=lambda event: event[:2]):
        messages.append(message.copy(time=time - now))
        now = time
    return midi(track(*messages))


@pytest.mark.parametrize("solo", SOLOS, ids=lambda solo: solo.title[:20])
def test_the_round_trip_through_both_formats_loses_nothing_they_carry(solo: Solo) -> None:
    through_xml = open_score(write_musicxml(solo)).solo().solo
    back = open_midi(write_midi(through_xml)).solo().solo
    assert heard(back) == heard(solo)
    assert [(c.onset, c.text) for c in back.chords] == [(c.onset, c.text) for c in solo.chords]
    assert (back.title, back.pickup, back.tempo) == (solo.title, solo.pickup, solo.tempo or 120)
    assert [str(m.meter) for m in back.meters] == [str(m.meter) for m in solo.meters]
    assert [k.key.fifths for k in back.keys] == [k.key.fifths for k in solo.keys]
    assert [(s.onset, s.label) for s in back.sections] == [(s.onset, s.label) for s in solo.sections]


def test_nearly_every_note_is_spelled_as_its_composer_did() -> None:
    notes = [note for solo in SOLOS for note in solo.notes]
    back = [note for solo in SOLOS for note in open_midi(write_midi(solo)).solo().solo.notes]
    same = sum(mine.pitch == other.pitch for mine, other in zip(back, notes, strict=True))
    assert same / len(notes) > 0.9


def test_tempo_changes_and_minor_keys_come_back() -> None:
    solo = replace(
        make_solo([("Cm7", "C5/4 Eb5 G5 Eb5"), ("Fm7", "F5/4 Ab5 C6 Ab5")]),
        tempo=Fraction(100),
        tempo_changes=(TempoChange(Fraction(4), Fraction(80)),),
        keys=(KeyRegion(Fraction(0), Key.parse("C minor")),),
    )
    back = open_midi(write_midi(solo)).solo().solo
    assert (back.tempo, back.tempo_changes) == (solo.tempo, solo.tempo_changes)
    assert back.keys[0].key == Key.parse("C minor")


ON_AND_OFF = ("note_on", "note_off")
SCALE = [60, 62, 64, 65, 67, 69, 71, 72]


def test_swung_eighths_are_written_even_and_triplets_stay() -> None:
    chance = random.Random(4)
    times, at = [], 0.0
    for bar in range(6):
        for beat in range(4):
            parts = (0, 1 / 3, 2 / 3) if (bar + beat) % 5 == 4 else (0, 0.64)
            ends = (*parts[1:], 1)
            times += [
                (bar * 4 + beat + part + chance.gauss(0, 0.012), (end - part) * 0.9, SCALE[int(at) % 8])
                for part, end in zip(parts, ends, strict=True)
            ]
            at += 1
    times = [(max(0.0, on), length, key) for on, length, key in times]
    imported = open_midi(performed(times)).solo()
    expected = []
    for bar in range(6):
        for beat in range(4):
            thirds = (bar + beat) % 5 == 4
            parts = [Fraction(k, 3) for k in range(3)] if thirds else [Fraction(0), Fraction(1, 2)]
            expected += [bar * 4 + beat + part for part in parts]
    assert [note.onset for note in imported.solo.notes] == expected
    assert imported.solo.swing is not None
    assert 1.6 < imported.solo.swing < 2.0
    assert any("Swung" in remark for remark in imported.remarks)
    # Legato lines have no rests between their notes.
    assert all(a.end == b.onset for a, b in itertools.pairwise(imported.solo.notes))


def test_played_sixteenths_and_eighths_find_their_places() -> None:
    chance = random.Random(9)
    grid = [Fraction(k, 2) for k in range(8)] + [4 + Fraction(k, 4) for k in range(8)] + [Fraction(6), Fraction(7)]
    times = [(max(0.0, float(t) + chance.gauss(0, 0.015)), 0.2, 60 + i % 12) for i, t in enumerate(grid)]
    assert [note.onset for note in open_midi(performed(times)).solo().solo.notes] == grid


@given(st.lists(st.integers(1, 12), min_size=1, max_size=40), st.integers(0, 10**6))
def test_quantised_notes_keep_their_order_and_never_overlap(steps: list[int], seed: int) -> None:
    chance = random.Random(seed)
    at, played = Fraction(0), []
    for step in steps:
        length = Fraction(step, 7) * Fraction(round(chance.uniform(0.3, 1) * 100), 100)
        played.append((at, at + length))
        at += Fraction(step, 7)
    times = quantise(played).times
    assert len(times) == len(played)
    for (onset, length), (following, _) in itertools.pairwise(times):
        assert onset <= following
        assert onset + length <= following or onset == following


def test_chords_in_lyrics_are_read_and_other_words_reported() -> None:
    lyrics = [mido.MetaMessage("lyrics", text=text, time=480 * 4 * k) for k, text in enumerate(("Dm7", "G7", "hey"))]
    imported = open_midi(performed([(k, 0.9, 60 + k) for k in range(12)], *lyrics)).solo()
    assert [(c.onset, c.text) for c in imported.solo.chords] == [(0, "Dm7"), (4, "G7")]
    assert "“hey” was not read" in " ".join(imported.remarks)


def test_letters_on_markers_are_sections() -> None:
    markers = [mido.MetaMessage("marker", text=text, time=480 * 4 * k) for k, text in enumerate("AAB")]
    solo = open_midi(performed([(k, 0.9, 60 + k) for k in range(12)], *markers)).solo().solo
    assert solo.sections == tuple(Section(Fraction(4 * k), text) for k, text in enumerate("AAB"))
    assert solo.chords == ()


def test_lines_are_offered_with_the_likely_lead_first() -> None:
    solo = track(
        mido.MetaMessage("track_name", name="Tenor sax"),
        *(
            m
            for k in (60, 62, 64)
            for m in (mido.Message("note_on", note=k), mido.Message("note_off", note=k, time=480))
        ),
    )
    chords = track(
        mido.MetaMessage("track_name", name="Keys"),
        *(mido.Message("note_on", note=k, channel=1) for k in (48, 52, 55, 59)),
        *(mido.Message("note_off", note=k, channel=1, time=480) for k in (48, 52, 55, 59)),
    )
    drums = track(mido.Message("note_on", note=38, channel=9), mido.Message("note_off", note=38, channel=9, time=99))
    score = open_midi(midi(track(), chords, solo, drums))
    assert [voice.part_name for voice in score.voices] == ["Tenor sax", "Keys"]
    assert score.solo().solo.instrument.name == "Tenor saxophone"
    highest = score.solo(score.voices[1])
    assert [note.pitch.midi for note in highest.solo.notes] == [59]
    assert any("left out" in remark for remark in highest.remarks)


def test_a_pickup_in_the_second_half_of_the_first_bar() -> None:
    solo = open_midi(performed([(3, 0.5, 60), (3.5, 0.5, 62), (4, 1, 64)])).solo().solo
    assert solo.pickup == 1
    assert [note.onset for note in solo.notes] == [-1, Fraction(-1, 2), 0]


@pytest.mark.parametrize(
    ("data", "message"),
    [
        (b"", "no readable MIDI"),
        (b"MThd\x00\x00", "no readable MIDI"),
        (midi(track(mido.Message("note_on", note=38, channel=9))), "only percussion"),
        (midi(track()), "no notes"),
        (midi(track(mido.Message("note_on", note=60), mido.Message("note_off", note=60, time=9)), kind=2), "type 2"),
    ],
)
def test_files_that_hold_no_solo_are_refused_with_a_reason(data: bytes, message: str) -> None:
    with pytest.raises(FormatError, match=message):
        open_midi(data)


def test_impossible_key_signatures_do_not_stop_the_reading() -> None:
    data = performed([(0, 1, 60), (1, 1, 62)], mido.MetaMessage("key_signature", key="C"))
    broken = data.replace(b"\xff\x59\x02\x00\x00", b"\xff\x59\x02\x30\x07")
    assert broken != data
    assert len(open_midi(broken).solo().solo.notes) == 2


WHOLE = write_midi(DEMO_SOLOS[0]())


@given(st.integers(0, 10**6))
def test_bytes_changed_at_random_are_read_or_refused(seed: int) -> None:
    chance = random.Random(seed)
    data = bytearray(WHOLE[: chance.randint(1, len(WHOLE))])
    for _ in range(chance.randint(0, 6)):
        data[chance.randrange(len(data))] = chance.randrange(256)
    try:
        solo = open_midi(bytes(data)).solo().solo
    except FormatError:
        return
    assert len(label_solo(solo)) == len(solo.notes)


def test_a_meter_written_where_the_line_begins_counts_for_its_pickup() -> None:
    signature = mido.MetaMessage("time_signature", numerator=5, denominator=4, time=4 * 480)
    notes = [(4.0, 1.0, 69), *((5.0 + beat, 1.0, 74) for beat in range(10))]
    solo = open_midi(performed(notes, signature)).solo().solo
    assert solo.pickup == 1
    assert [str(region.meter) for region in solo.meters] == ["5/4"]
    assert [note.onset for note in solo.notes[:3]] == [-1, 0, 1]
