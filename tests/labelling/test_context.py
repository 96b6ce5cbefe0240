"""A figure is heard as the same whatever bar comes before it, unless that bar's notes belong to it."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction
from typing import NamedTuple

from hypothesis import given, settings
from hypothesis import strategies as st
from tests.labelling.lines import LINES, solo_of

from gavotte.labelling.labeller import label_solo
from gavotte.solo.bars import Bar, BarGrid
from gavotte.solo.document import ChordEvent, Note, Solo
from gavotte.theory.pitch import spell

_LEAP = 5


def starts(solo: Solo) -> list[Bar]:
    """The bars that begin with a note."""
    onsets = {note.onset for note in solo.notes}
    return [bar for bar in BarGrid(solo).bars if bar.onset in onsets]


SOLOS = [solo for solo in map(solo_of, LINES) if starts(solo) and not solo.pickup]


class Before(NamedTuple):
    """A bar of eighths before a line: the moves between them, from the line backwards, and its chord."""

    moves: tuple[int, ...]
    chord: str


# The line is leapt to, so that nothing passes or leads into it.
LEAPS = st.integers(_LEAP, 12) | st.integers(-12, -_LEAP)
BARS = st.builds(
    lambda leap, moves, chord: Before((leap, *moves), chord),
    LEAPS,
    st.lists(st.integers(-5, 5), min_size=11, max_size=11),
    st.sampled_from(("Cmaj7", "F7", "Bbm7", "A7alt")),
)


def after(solo: Solo, number: int, before: Before) -> Solo:
    """A line from one of its bars on, heard in its own key, with another bar before it."""
    bar = starts(solo)[number % len(starts(solo))]
    length = bar.end - bar.onset
    by = length - bar.onset
    notes = tuple(replace(note, onset=note.onset + by) for note in solo.notes if note.onset >= bar.onset)
    under = max((event for event in solo.chords if event.onset <= bar.onset), key=lambda event: event.onset)
    later = [replace(event, onset=event.onset + by) for event in solo.chords if event.onset > bar.onset]
    count = int(length * 2)
    pitch = notes[0].pitch.midi
    first: list[Note] = []
    for i, move in enumerate(before.moves[:count]):
        pitch += move
        first.append(Note(f"before-{i}", Fraction(count - 1 - i, 2), Fraction(1, 2), spell(pitch, 0)))
    chords = (ChordEvent("before", Fraction(0), before.chord), replace(under, onset=length), *later)
    return replace(solo, notes=(*first[::-1], *notes), chords=chords, heard_keys=solo.keys)


def heard(solo: Solo) -> dict[str, tuple[object, ...]]:
    """What the notes of the line are called and where they lead, but for those in a figure with the bar before."""
    labels = label_solo(solo)
    reaching = {label.group for label in labels if label.note.startswith("before")} - {None}
    return {
        label.note: (label.function, label.device, label.degree, label.target)
        for label in labels
        if not label.note.startswith("before") and label.group not in reaching
    }


@given(st.integers(0, len(SOLOS) - 1), st.integers(0, 7), BARS, BARS)
@settings(max_examples=300)
def test_a_line_is_heard_as_the_same_after_any_bar(line: int, bar: int, one: Before, other: Before) -> None:
    here, there = (heard(after(SOLOS[line], bar, before)) for before in (one, other))
    both = here.keys() & there.keys()
    assert {note: here[note] for note in both} == {note: there[note] for note in both}
