"""The layers of a line, what is left of it, and the guide tones that lead through it."""

from __future__ import annotations

import itertools

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.conftest import make_solo
from tests.random_solos import random_solo

from gavotte.labelling.labeller import labelled
from gavotte.phrasing.decisions import with_reduction
from gavotte.phrasing.guide_tones import threads_of
from gavotte.phrasing.phrases import phrases_of
from gavotte.phrasing.skeleton import Level, kept_notes, levels_of, reduced, strong_notes
from gavotte.phrasing.strong_beats import kept_on_strong_beats
from gavotte.solo.document import Solo

LINE = make_solo([("Dm7", "D4/8 E4 F4 C#5 D5 C5 A4 F4"), ("G7", "B4/8 C5 D5 F5 E5/4 D5/4"), ("Cmaj7", "E5/1")])


def names(solo: Solo, level: Level) -> str:
    found = labelled(solo)
    kept = kept_notes(found, levels_of(found), level)
    return " ".join(note.pitch.shown for note in solo.notes if note.id in kept)


def test_the_layers_of_a_line() -> None:
    assert names(LINE, Level.ALL) == "D E F C♯ D C A F B C D F E D E"
    assert names(LINE, Level.PLAIN) == "D F D C A F B D F E D E"
    assert names(LINE, Level.BEATS) == "D F D A B D E D E"
    assert names(LINE, Level.STRONG) == "D D B E E"
    assert names(LINE, Level.BARS) == "D B E"


@given(st.integers(0, 60))
def test_each_layer_holds_notes_of_the_one_above(seed: int) -> None:
    found = labelled(random_solo(seed))
    levels = levels_of(found)
    layers = [kept_notes(found, levels, level) for level in Level]
    assert all(below <= above for above, below in itertools.pairwise(layers))
    strong = {index for index in kept_on_strong_beats(found) if index is not None}
    assert all(levels[index] >= Level.STRONG for index in strong)


@pytest.mark.parametrize(("note", "level"), [("n0", 0), ("n3", 4)])
def test_the_user_corrects_a_layer(note: str, level: int) -> None:
    solo = with_reduction(LINE, note, level)
    assert levels_of(labelled(solo))[solo.places[note]] == level
    assert levels_of(labelled(with_reduction(solo, note, None))) == levels_of(labelled(LINE))


def test_what_is_left_is_held_to_the_next_note_and_sounds_alone() -> None:
    found = labelled(LINE)
    left = reduced(LINE, phrases_of(LINE), kept_notes(found, levels_of(found), Level.STRONG))
    assert [(note.pitch.shown, float(note.duration)) for note in left.notes] == [
        ("D", 2), ("D", 2), ("B", 2), ("E", 2), ("E", 4),
    ]  # fmt: skip
    assert left.chords == LINE.chords


def test_octave_leaps_are_folded() -> None:
    solo = make_solo([("C", "C4/4 E5/4 G3/4 C6/4")])
    left = reduced(solo, phrases_of(solo), {note.id for note in solo.notes}, folded=True)
    assert [note.pitch.midi for note in left.notes] == [60, 64, 67, 72]


@given(st.integers(0, 40))
def test_what_is_left_is_a_line(seed: int) -> None:
    found = labelled(random_solo(seed))
    left = reduced(found.solo, phrases_of(found.solo), kept_notes(found, levels_of(found), Level.BEATS))
    pairs = zip(left.notes, left.notes[1:], strict=False)
    assert all(a.end <= b.onset for a, b in pairs)
    assert all(note.duration > 0 for note in left.notes)


def test_a_thread_of_guide_tones() -> None:
    solo = make_solo(
        [("Dm7", "D4/4 F4/4 A4/4 C5/4"), ("G7", "B4/4 D5/4 G4/4 B4/4"), ("Cmaj7", "B4/2 C5/2"), ("Cmaj7", "E5/1")]
    )
    found = labelled(solo)
    [thread] = threads_of(found, levels_of(found))
    assert [solo.notes[i].pitch.shown for i in thread.notes] == ["C", "B", "B"]


def test_without_chords_there_are_no_guide_tones() -> None:
    solo = make_solo([("", "C4/4 E4 G4 B4"), ("", "C5/4 B4 A4 G4"), ("", "F4/1")])
    found = labelled(solo)
    assert threads_of(found, levels_of(found)) == ()


@pytest.mark.parametrize(
    ("bars", "setting", "kept"),
    [
        ([("Cmaj7", "E5/8 D5 C5 B4 A4 B4 C5/4"), ("Cmaj7", "r/4 D5/2 E5/4")], {}, {"n0", "n5", "n7"}),
        ([("G", "B4/4 D5 G5"), ("G", "B4/2.")], {"meter": "3/4"}, {"n0", "n3"}),
        ([("G", "B4/4 D5 G5 B5 G5")], {"meter": "5/4", "grouping": "2+3"}, {"n0", "n2"}),
    ],
)
def test_what_lies_on_strong_beats(bars: list[tuple[str, str]], setting: dict[str, str], kept: set[str]) -> None:
    found = labelled(make_solo(bars, **setting))  # type: ignore[arg-type]
    assert strong_notes(found) == kept


@given(st.integers(0, 40))
def test_the_strong_beats_are_a_level(seed: int) -> None:
    solo = random_solo(seed)
    for k, note in enumerate(solo.notes[:6]):
        solo = with_reduction(solo, note.id, k)
    found = labelled(solo)
    assert strong_notes(found) == kept_notes(found, levels_of(found), Level.STRONG)
