"""The note a teacher keeps on each strong beat when a line is reduced to its skeleton."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Mapping, Sequence
from fractions import Fraction

from gavotte.giving_way import give_way
from gavotte.labelling.labeller import Labelled
from gavotte.phrasing.line import number
from gavotte.solo.document import Function, Note
from gavotte.solo.label import Label

_AN_EIGHTH, _A_MOMENT = 0.5, 1e-9
_YIELDING = (Function.PASSING, Function.APPROACH)


def strong_beats(found: Labelled) -> tuple[Fraction, ...]:
    """The onset of each strong beat from bar 1 on, in quarter notes; none in a pickup."""
    return tuple(
        bar.onset + beat.offset if beat.offset else bar.onset
        for bar in found.frame.grid.bars
        if bar.number > 0
        for beat in bar.meter.beats
        if beat.strong and beat.offset < bar.length
    )


def kept_on_strong_beats(found: Labelled) -> tuple[int | None, ...]:
    """For each strong beat the index of the note that is kept there, None where nothing sounds.

    A passing or approach note struck on the beat gives it to its target; a held note keeps it, and so does an
    extension. An early note that is let go before the beat it anticipates still has it. In a rest the first note within
    an eighth takes it.
    """
    return kept_at(found, strong_beats(found))


def kept_at(found: Labelled, beats: Sequence[Fraction]) -> tuple[int | None, ...]:
    """The same for any beats, by their onsets in quarter notes."""
    notes, labels = found.solo.notes, found.labels
    places = found.solo.places
    sounding = [i for i, note in enumerate(notes) if not note.grace]
    # Binary fractions are quick; equal times are the same ones.
    onsets = [number(notes[i].onset) for i in sounding]
    return tuple(_kept(number(beat), notes, labels, places, sounding, onsets) for beat in beats)


def _kept(
    beat: float,
    notes: Sequence[Note],
    labels: Sequence[Label],
    places: Mapping[str, int],
    sounding: Sequence[int],
    onsets: Sequence[float],
) -> int | None:
    give_way()
    following = bisect_right(onsets, beat)
    last = sounding[following - 1] if following else None
    if last is not None and onsets[following - 1] == beat:
        return _yielded(last, labels, places)
    if last is not None and number(notes[last].end) > beat + _A_MOMENT:
        return last
    if last is not None and labels[last].device == "anticipation":
        return last
    first = bisect_left(onsets, beat)
    if first < len(sounding) and onsets[first] <= beat + _AN_EIGHTH + _A_MOMENT:
        return sounding[first]
    return None


def _yielded(index: int, labels: Sequence[Label], places: Mapping[str, int]) -> int:
    """The note, or where it leads if it only leads on."""
    label = labels[index]
    if label.function in _YIELDING and label.target is not None:
        return places[label.target]
    return index
