"""Moving notes by named intervals."""

from __future__ import annotations

import pytest
from tests.conftest import make_solo

from gavotte.theory.interval import Interval
from gavotte.theory.pitch import PitchName
from gavotte.writing.intervals import Move, between_roots, moved_by, root_at, usual_moves
from gavotte.writing.passages import PASSAGE_DOCUMENT, Passage

SOLO = make_solo([("Cmaj7", "C5/4 E5 G5 B5"), ("F7", "A4/1")])
IDS = [note.id for note in SOLO.notes[:4]]


def pitches(move: Move) -> list[str]:
    return [str(note.pitch) for note in moved_by(SOLO, IDS, move).notes]


def test_exactly_in_the_scale_and_what_is_not_chosen_stays() -> None:
    assert pitches(Move(Interval(3, 5))) == ["F5", "A5", "C6", "E6", "A4"]
    assert pitches(Move(Interval(-2, -3))) == ["A4", "C#5", "E5", "G#5", "A4"]
    assert pitches(Move(Interval(3, 0), in_scale=True)) == ["F5", "A5", "C6", "E6", "A4"]
    assert pitches(Move(Interval(1, 0), in_scale=True)) == ["D5", "F5", "A5", "C6", "A4"]


def test_a_name_that_cant_be_written_becomes_one_that_can() -> None:
    solo = make_solo([("C7", "D##5/1")])
    moved = moved_by(solo, ["n0"], Move(Interval(3, 7)))
    assert moved.notes[0].pitch.midi == solo.notes[0].pitch.midi + 7


@pytest.mark.parametrize(
    ("old", "new", "semitones"), [("C", "F", 5), ("C", "G", -5), ("C", "F#", 6), ("G", "Bb", 3), ("Bb", "G", -3)]
)
def test_roots_are_reached_by_the_nearer_way(old: str, new: str, semitones: int) -> None:
    move = between_roots(PitchName.parse(old), PitchName.parse(new))
    assert move.interval.semitones == semitones
    assert str(PitchName.parse(old).transposed(move.interval)) == new


def test_the_root_in_force() -> None:
    assert str(root_at(SOLO, SOLO.notes[2].onset)) == "C"
    assert str(root_at(SOLO, SOLO.notes[4].onset)) == "F"
    assert root_at(make_solo([("N.C.", "C5/1")]), SOLO.notes[0].onset) is None


def test_no_move_is_offered_twice_and_a_passage_of_before_is_still_read() -> None:
    moves = usual_moves()
    assert len(set(moves)) == len(moves)
    old = b'{"format":"gavotte-passage","version":1,"passage":{"notes":[],"length":"4"}}'
    assert PASSAGE_DOCUMENT.read(old) == Passage((), SOLO.notes[4].onset)
