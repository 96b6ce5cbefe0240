"""How a phrase meets each change of chord: on which note, in time, early or late, and what prepared it."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from gavotte.labelling.labeller import Labelled
from gavotte.labelling.wording import chord_words, degree_words
from gavotte.phrasing.phrases import Phrase
from gavotte.phrasing.telling import prepared_words, quarters
from gavotte.solo.document import Function, Note
from gavotte.theory.degrees import shown_degree


class Meeting(StrEnum):
    """How a note meets a new chord."""

    IN_TIME = "in time"
    EARLY = "early"
    LATE = "late"
    HELD = "held over"
    REST = "in a rest"


@dataclass(frozen=True, slots=True)
class Arrival:
    """What a phrase has where a chord begins. ``span`` is the chord's index in ``found.frame.spans``.

    ``note`` is the index of the note that is met, None in a rest; ``degree`` what it is against the new chord, as it is
    shown; ``apart`` how far from the change it begins, in quarter notes. ``degree_before`` is what the note before it
    was against its own chord, "" where none leads there.
    """

    span: int
    meeting: Meeting
    note: int | None = None
    degree: str = ""
    apart: Fraction = Fraction(0)
    degree_before: str = ""


def arrivals_of(found: Labelled, phrase: Phrase) -> tuple[Arrival, ...]:
    """One arrival for each written chord that begins while the phrase lasts, in order."""
    notes = found.solo.notes
    inside = [i for i in range(phrase.first, phrase.last + 1) if not notes[i].grace]
    if not inside:
        return ()
    start, end = notes[inside[0]].onset, max(notes[i].end for i in inside)
    spans = found.frame.spans
    first = bisect_left(spans, start, key=lambda span: span.onset)
    last = bisect_left(spans, end, key=lambda span: span.onset)
    return tuple(_arrivals(found, inside, max(1, first), last))


def _arrivals(found: Labelled, inside: list[int], first: int, last: int) -> Iterator[Arrival]:
    notes = found.solo.notes
    onsets = [notes[i].onset for i in inside]
    for number in range(first, last):
        span = found.frame.spans[number]
        if not span.written:
            continue
        k = _met(notes, inside, onsets, span.onset)
        if k is None:
            yield Arrival(number, Meeting.REST)
            continue
        index = inside[k]
        note, label = notes[index], found.labels[index]
        apart = abs(note.onset - span.onset)
        if note.onset < span.onset and label.device != "anticipation":
            degree = shown_degree(span.chord.degree_of(note.pitch.pitch_class), found.frame.school.naming)
            yield Arrival(number, Meeting.HELD, index, degree, apart)
            continue
        meeting = Meeting.IN_TIME if not apart else Meeting.EARLY if note.onset < span.onset else Meeting.LATE
        leads = k > 0 and not found.frame.notes[index].rest_before
        before = found.labels[inside[k - 1]].shown_degree if leads else ""
        yield Arrival(number, meeting, index, label.shown_degree, apart, before)


def _met(notes: tuple[Note, ...], inside: list[int], onsets: list[Fraction], onset: Fraction) -> int | None:
    """Which of a phrase's notes sounds or begins at a time, else the first within a beat after it; None in a rest."""
    k = bisect_right(onsets, onset) - 1
    if k >= 0 and onset < notes[inside[k]].end:
        return k
    return k + 1 if k + 1 < len(inside) and onsets[k + 1] - onset < 1 else None


def arrival_lines(found: Labelled, phrase: Phrase) -> tuple[tuple[str, str], ...]:
    """How a phrase meets each change of chord: where and which ("Bar 4, G7"), and on what ("B, the 3rd: ♭7 to 3, by a
    half step from above").
    """
    return tuple(
        (_arrival_place(found, arrival), _arrival_words(found, arrival)) for arrival in arrivals_of(found, phrase)
    )


def _arrival_place(found: Labelled, arrival: Arrival) -> str:
    span = found.frame.spans[arrival.span]
    number = found.frame.grid.at(span.onset).number
    return f"{f'Bar {number}' if number > 0 else 'Pickup'}, {chord_words(span)}"


def _arrival_words(found: Labelled, arrival: Arrival) -> str:
    if arrival.note is None:
        return "a rest"
    name = found.solo.notes[arrival.note].pitch.shown
    goal = f"{name}, the {degree_words(arrival.degree, arrival.degree)}"
    if arrival.meeting is Meeting.HELD:
        return f"{goal}, held over"
    label = found.labels[arrival.note]
    if label.target is not None and label.function in (Function.APPROACH, Function.PASSING):
        goal += f" on its way to {found.solo.note(label.target).pitch.shown}"
    if arrival.degree_before:
        how = prepared_words(found, arrival.note)
        by_step = "step" in how or how == "by the same note"
        moved = f"{arrival.degree_before} to {arrival.degree}" if by_step else ""
        goal += f": {', '.join(filter(None, (moved, how)))}" if how else ""
    if arrival.meeting is not Meeting.IN_TIME:
        goal += f"; {_apart_words(arrival.apart)} {arrival.meeting.value}"
    return goal


def _apart_words(apart: Fraction) -> str:
    return "a quarter note" if apart == 1 else quarters(apart)
