"""From what was heard to a proposal in written notes."""

from __future__ import annotations

import itertools
from dataclasses import replace
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.conftest import make_solo

from gavotte.demo.solos import DEMO_SOLOS
from gavotte.recording.beat_map import Alignment, BeatMap
from gavotte.recording.line import DraftNote
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Articulation, Solo
from gavotte.sounding.events import Voice
from gavotte.sounding.performance import perform
from gavotte.writing.drafting import is_proposed, overlaid, proposed, proposed_anew, with_phrase

BEAT = 0.5


def way_for(solo: Solo, beats: int = 64) -> Alignment:
    return Alignment(BeatMap(tuple(1.0 + BEAT * k for k in range(beats)), 0), BarGrid(solo))


def heard(*notes: tuple[float, float, int]) -> list[DraftNote]:
    """Notes by beat, length in beats, and MIDI number."""
    return [DraftNote(1 + BEAT * onset, 1 + BEAT * (onset + length), midi, 0.97) for onset, length, midi in notes]


EMPTY = make_solo([("Cmaj7", "r/1"), ("Ab7", "r/1"), ("G7", "r/1")])


def test_uneven_playing_becomes_plain_notes_spelled_by_the_chord() -> None:
    proposal = proposed(
        EMPTY, heard((0.02, 0.45, 64), (0.53, 0.4, 67), (1.01, 0.95, 72), (4.03, 0.9, 66)), way_for(EMPTY)
    ).proposal
    assert [[(str(n.pitch), n.onset, n.duration) for n in phrase.notes] for phrase in proposal] == [
        [("E4", 0, Fraction(1, 2)), ("G4", Fraction(1, 2), Fraction(1, 2)), ("C5", 1, 1)],
        [("Gb4", 4, 1)],
    ]
    assert all(is_proposed(note.id) for phrase in proposal for note in phrase.notes)


def test_doubt_and_bends_are_written() -> None:
    notes = heard((0, 1, 64), (1, 1, 65))
    notes = [replace(notes[0], confidence=0.5), replace(notes[1], bend=1.0)]
    (phrase,) = proposed(EMPTY, notes, way_for(EMPTY)).proposal
    assert phrase.uncertain == 1
    assert phrase.notes[0].uncertain
    assert [(m.articulation, m.semitones) for m in phrase.notes[1].marks] == [(Articulation.BEND, 1)]


def test_an_accepted_phrase_takes_the_place_of_what_was_there() -> None:
    solo = make_solo([("Cmaj7", "C5/4 D5 E5 F5"), ("Ab7", "C5/1")])
    (phrase,) = proposed(solo, heard((1, 1, 67), (2, 1, 69)), way_for(solo)).proposal
    over = overlaid(solo, (phrase,))
    assert [str(note.pitch) for note in over.notes] == ["C5", "G4", "A4", "F5", "C5"]
    taken = with_phrase(solo, phrase)
    assert [str(note.pitch) for note in taken.notes] == ["C5", "G4", "A4", "F5", "C5"]
    assert not any(is_proposed(note.id) for note in taken.notes)
    assert len({note.id for note in taken.notes}) == 5


def test_what_was_heard_before_the_solo_begins_is_left_out() -> None:
    assert proposed(EMPTY, heard((-4, 1, 60)), way_for(EMPTY)).proposal == ()
    assert proposed(EMPTY, [], way_for(EMPTY)).proposal == ()


@pytest.mark.parametrize("make", DEMO_SOLOS, ids=lambda make: make.__name__)
def test_a_solo_heard_perfectly_is_written_nearly_as_it_was(make: object) -> None:
    """Played with swing by Gavotte and heard without a mistake, onsets come back where they were written."""
    solo = make()  # type: ignore[operator]
    performance, timeline = perform(solo)
    notes = [
        DraftNote(sound.start, sound.end, sound.key, 1.0) for sound in performance.sounds if sound.voice is Voice.SOLO
    ]
    grid = BarGrid(solo)
    onsets = [bar.onset + beat.offset for bar in grid.bars if bar.number > 0 for beat in bar.meter.beats]
    beats = BeatMap(tuple(timeline.seconds(onset) for onset in onsets), 0)
    proposal = proposed(replace(solo, notes=()), notes, Alignment(beats, grid)).proposal
    found = {note.onset for phrase in proposal for note in phrase.notes}
    wanted = {note.onset for note in solo.notes if not note.grace}
    assert len(found & wanted) >= 0.95 * len(wanted)
    assert len(proposal) > 1


TIMES = st.lists(st.tuples(st.floats(0, 30), st.floats(0.05, 2), st.integers(50, 80)), max_size=30)


@given(TIMES)
def test_whatever_is_heard_the_proposal_is_one_line(times: list[tuple[float, float, int]]) -> None:
    ordered = sorted(times)
    cut = [
        (onset, min(length, ordered[k + 1][0] - onset) if k + 1 < len(ordered) else length, midi)
        for k, (onset, length, midi) in enumerate(ordered)
    ]
    proposal = proposed(EMPTY, heard(*cut), way_for(EMPTY)).proposal
    notes = [note for phrase in proposal for note in phrase.notes]
    for note, following in itertools.pairwise(notes):
        assert note.onset < following.onset
        assert note.end <= following.onset
    taken = EMPTY
    for phrase in proposal:
        taken = with_phrase(taken, phrase)
    assert [(n.onset, n.pitch.midi) for n in taken.notes] == [(n.onset, n.pitch.midi) for n in notes]


def test_bars_that_are_written_can_be_left_alone() -> None:
    solo = make_solo([("Cmaj7", "C5/4 D5 E5 F5"), ("Ab7", "r/1")])
    notes = heard((0, 1, 72), (2, 1, 76), (4, 1, 72), (5, 1, 75))
    (phrase,) = proposed(solo, notes, way_for(solo), only_empty=True).proposal
    assert [note.onset for note in phrase.notes] == [4, 5]
    full = make_solo([("Cmaj7", "C5/1")])
    assert proposed(full, heard((0, 1, 72)), way_for(full), only_empty=True).proposal == ()


def test_a_note_before_a_rest_ends_where_it_is_easy_to_read() -> None:
    (phrase,) = proposed(EMPTY, heard((0.02, 1.13, 64)), way_for(EMPTY)).proposal
    assert phrase.notes[0].duration == 1


def test_what_was_heard_is_written_over_other_beats() -> None:
    way = way_for(EMPTY)
    proposal = proposed(EMPTY, heard((0, 1, 64), (1, 1, 67), (4, 2, 72)), way).proposal
    later = Alignment(replace(way.beats, downbeat=1), way.grid)
    moved = proposed_anew(EMPTY, proposal[1:], later).proposal
    assert [(note.onset, note.duration, note.pitch.midi) for phrase in moved for note in phrase.notes] == [(3, 2, 72)]
    halved = Alignment(BeatMap(way.beats.times[::2], 0), way.grid)
    moved = proposed_anew(EMPTY, proposal, halved).proposal
    assert [note.onset for phrase in moved for note in phrase.notes] == [0, Fraction(1, 2), 2]


def test_a_phrase_of_which_nobody_knows_what_was_heard_stays() -> None:
    first, second = proposed(EMPTY, heard((0, 1, 64), (4, 2, 72)), way_for(EMPTY)).proposal
    later = Alignment(replace(way_for(EMPTY).beats, downbeat=1), way_for(EMPTY).grid)
    anew = proposed_anew(EMPTY, (replace(first, heard=()), second), later).proposal
    assert [note.onset for phrase in anew for note in phrase.notes] == [0, 3]
    assert len({note.id for phrase in anew for note in phrase.notes}) == 2


def test_how_much_a_line_swings_is_told() -> None:
    swung = [(float(k // 2) + (0.66 if k % 2 else 0.0), 0.3, 60 + k % 7) for k in range(24)]
    assert float(proposed(EMPTY, heard(*swung), way_for(EMPTY)).swing) == pytest.approx(2, abs=0.15)
    even = [(k / 2, 0.4, 60 + k % 7) for k in range(24)]
    assert proposed(EMPTY, heard(*even), way_for(EMPTY)).swing == 1
