from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.conftest import whole

from gavotte.recording.lead import Lead
from gavotte.recording.line import Heard, notes_of
from gavotte.recording.path import Stretch, best_path

NOBODY = Lead(np.zeros(0), np.zeros(0))


def heard(frames: int, *notes: tuple[int, int, tuple[int, ...], bool]) -> tuple[np.ndarray, np.ndarray]:
    """What is heard of notes: first frame, last, pitches one after another, and whether each begins clearly."""
    sounds, begins = np.full((frames, 12), 0.01, np.float32), np.full((frames, 12), 0.002, np.float32)
    for first, last, pitches, is_clear in notes:
        for pitch, part in zip(pitches, np.array_split(np.arange(first, last), len(pitches)), strict=True):
            sounds[part, pitch] = 0.95
        begins[first, pitches[0]] = 0.8 if is_clear else 0.002
    return sounds, begins


def found(frames: int, *notes: tuple[int, int, tuple[int, ...], bool]) -> list[Stretch]:
    return whole(best_path(*heard(frames, *notes)))


def test_notes_and_rests_are_told_apart() -> None:
    path = found(100, (10, 30, (3,), True), (30, 50, (5,), True), (60, 80, (5,), True))
    assert [(s.first, s.last, set(s.pitches.tolist())) for s in path] == [(10, 30, {3}), (30, 50, {5}), (60, 80, {5})]


def test_a_repeated_note_begins_again_where_something_is_struck() -> None:
    assert [(s.first, s.last) for s in found(60, (10, 30, (4,), True), (30, 50, (4,), True))] == [(10, 30), (30, 50)]
    assert [(s.first, s.last) for s in found(60, (10, 30, (4,), True), (30, 50, (4,), False))] == [(10, 50)]


def test_a_bend_up_and_back_is_one_note() -> None:
    (bent,) = found(80, (10, 70, (4, 5, 6, 5, 4), True))
    assert (bent.first, bent.last) == (10, 70)
    assert bent.pitches[0] == 4
    assert bent.pitches.max() == 6
    sounds, begins = heard(80, (10, 70, (4, 5, 6, 7, 6, 5, 4), True))
    notes = notes_of([bent], Heard(np.arange(80) * 0.0116, sounds, begins, 60), NOBODY, 0.0)
    assert [note.midi for note in notes] == [64]


def test_a_scoop_is_the_note_it_reaches() -> None:
    sounds, begins = heard(80, (10, 14, (4,), True), (14, 60, (5,), False))
    path = whole(best_path(sounds, begins))
    (note,) = notes_of(path, Heard(np.arange(80) * 0.0116, sounds, begins, 60), NOBODY, 0.0)
    assert note.midi == 65
    assert note.start == pytest.approx(0.116, abs=0.012)


def test_where_nothing_is_heard_there_are_no_notes() -> None:
    assert found(50) == []
    assert whole(best_path(np.zeros((0, 5), np.float32), np.zeros((0, 5), np.float32))) == []


@given(st.lists(st.tuples(st.integers(0, 11), st.integers(0, 3)), min_size=1, max_size=12), st.integers(0, 99))
def test_whatever_is_heard_notes_follow_one_another(notes: list[tuple[int, int]], seed: int) -> None:
    chance = np.random.default_rng(seed)
    sounds = chance.random((120, 12)).astype(np.float32) ** 3
    begins = chance.random((120, 12)).astype(np.float32) ** 6
    for number, (pitch, _) in enumerate(notes):
        sounds[8 * number : 8 * number + 6, pitch] = 0.95
    path = whole(best_path(sounds, begins))
    assert all(before.last <= after.first for before, after in pairwise(path))
    for stretch in path:
        assert len(stretch.pitches) == stretch.last - stretch.first > 0
        assert np.abs(np.diff(stretch.pitches)).max(initial=0) <= 1
    times = np.arange(120) * 0.0116
    for note in notes_of(path, Heard(times, sounds, begins, 40), NOBODY, 0.0):
        assert 0 <= note.confidence <= 1
        assert note.start < note.end
        assert all(midi != note.midi and 0 <= share <= 1 for midi, share in note.others)
