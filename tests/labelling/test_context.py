"""A figure is heard as the same whatever bar comes before it, unless that bar's notes belong to it."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

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


@st.composite
def lines_after_two_bars(draw: st.DrawFn) -> tuple[Solo, Solo]:
    """A line from one of its bars on, twice: each time another bar of random notes and another chord comes before."""
    solo = draw(st.sampled_from(SOLOS))
    bar = draw(st.sampled_from(starts(solo)))
    length = bar.end - bar.onset
    by = length - bar.onset
    notes = tuple(replace(note, onset=note.onset + by) for note in solo.notes if note.onset >= bar.onset)
    under = max((event for event in solo.chords if event.onset <= bar.onset), key=lambda event: event.onset)
    chords = (
        replace(under, onset=length),
        *(replace(event, onset=event.onset + by) for event in solo.chords if event.onset > bar.onset),
    )
    made = []
    for _ in range(2):
        first = notes[0].pitch.midi
        count = int(length * 2)
        pitches = draw(st.lists(st.integers(first - 12, first + 12), min_size=count, max_size=count))
        # The line is leapt to, so that nothing passes or leads into it.
        pitches[-1] = first + draw(st.sampled_from((-1, 1))) * draw(st.integers(_LEAP, 12))
        before = [
            Note(f"before-{i}", Fraction(i, 2), Fraction(1, 2), spell(pitch, 0)) for i, pitch in enumerate(pitches)
        ]
        chord = ChordEvent("before", Fraction(0), draw(st.sampled_from(("Cmaj7", "F7", "Bbm7", "A7alt"))))
        made.append(replace(solo, notes=(*before, *notes), chords=(chord, *chords)))
    return made[0], made[1]


def heard(solo: Solo) -> dict[str, tuple[object, ...]]:
    """What the notes of the line are called and where they lead, but for those in a figure with the bar before."""
    labels = label_solo(solo)
    reaching = {label.group for label in labels if label.note.startswith("before")} - {None}
    return {
        label.note: (label.function, label.device, label.degree, label.target)
        for label in labels
        if not label.note.startswith("before") and label.group not in reaching
    }


@given(lines_after_two_bars())
@settings(max_examples=300)
def test_a_line_is_heard_as_the_same_after_any_bar(solos: tuple[Solo, Solo]) -> None:
    one, other = map(heard, solos)
    both = one.keys() & other.keys()
    assert {note: one[note] for note in both} == {note: other[note] for note in both}
