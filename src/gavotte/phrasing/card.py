"""What is to be said of a phrase: where it stands, how dense and how high it is, what it lands on, what sets it off."""

from __future__ import annotations

import itertools
import statistics
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from gavotte.labelling.labeller import Labelled
from gavotte.phrasing.phrases import Phrase
from gavotte.solo.document import Function


class Start(StrEnum):
    """How a phrase begins."""

    ON_THE_BEAT = "on the beat"
    OFF_THE_BEAT = "off the beat"
    PICKUP = "with a pickup"


@dataclass(frozen=True, slots=True)
class Card:
    """A phrase in figures. Times are in quarter notes, pitches MIDI numbers, notes indexes.

    ``rest_before`` is the silence before it, ``per_beat`` how many notes begin in a beat on average, ``rests`` the
    share of it that is silent, ``middle`` the mean of its pitches, ``functions`` how many notes have each function,
    ``syncopated`` how many begin off the beat and hold over the next one, ``tension`` the mean tension of its first,
    second and last third, ``contour`` which way it goes, in words.
    """

    start: Start
    length: Fraction
    rest_before: Fraction
    per_beat: float
    rests: float
    low: int
    high: int
    middle: float
    first: int
    last: int
    highest: int
    longest: int
    functions: tuple[tuple[Function, int], ...]
    syncopated: int
    tension: tuple[float, float, float]
    contour: str


_A_PICKUP, _STILL_SOUNDING = Fraction(3, 2), 16


def card_of(found: Labelled, phrase: Phrase) -> Card:
    """The figures of a phrase."""
    notes, grid = found.solo.notes, found.frame.grid
    inside = [i for i in range(phrase.first, phrase.last + 1) if not notes[i].grace] or [phrase.first]
    first, last = inside[0], inside[-1]
    length = max(notes[i].end for i in inside) - notes[first].onset
    beat = Fraction(found.frame.notes[first].beat_length).limit_denominator(96)
    # In a line only the last few notes can still sound.
    earlier = notes[max(0, phrase.first - _STILL_SOUNDING) : phrase.first]
    before = max((note.end for note in earlier), default=min(Fraction(0), notes[first].onset))
    pitches = [notes[i].pitch.midi for i in inside]
    counted = Counter(found.labels[i].function for i in inside)
    return Card(
        start=_start(found, first, grid.at(notes[first].onset).end),
        length=length,
        rest_before=max(Fraction(0), notes[first].onset - before),
        per_beat=len(inside) / float(max(length, beat) / beat),
        rests=max(0.0, 1 - float(sum((notes[i].duration for i in inside), Fraction(0)) / length)) if length else 0.0,
        low=min(pitches),
        high=max(pitches),
        middle=statistics.fmean(pitches),
        first=first,
        last=last,
        highest=max(inside, key=lambda i: notes[i].pitch.midi),
        longest=max(inside, key=lambda i: notes[i].duration),
        functions=tuple((function, counted[function]) for function in Function if counted[function]),
        syncopated=sum(_is_syncopated(found, i) for i in inside),
        tension=_thirds([found.labels[i].tension for i in inside]),
        contour=contour_words(pitches),
    )


def _is_syncopated(found: Labelled, index: int) -> bool:
    """Whether a note begins off the beat and holds over the next one."""
    framed = found.frame.notes[index]
    if framed.on_beat:
        return False
    note, bar = framed.note, found.frame.grid.at(framed.note.onset)
    offset = note.onset - bar.onset
    _, beat = bar.meter.beat_at(offset)
    return note.end - bar.onset > beat.offset + beat.length


def _thirds(tensions: Sequence[float]) -> tuple[float, float, float]:
    """The mean of the first, second and last third; a short phrase has fewer, of which some count twice."""
    count = len(tensions)
    cuts = [0, -(-count // 3), max(-(-count // 3), count - count // 3), count]
    first, second, last = (tensions[a:b] or tensions[max(0, a - 1) : a + 1] for a, b in itertools.pairwise(cuts))
    return statistics.fmean(first), statistics.fmean(second), statistics.fmean(last)


def _start(found: Labelled, first: int, bar_end: Fraction) -> Start:
    note = found.frame.notes[first]
    leads = bar_end - note.note.onset <= _A_PICKUP and first + 1 < len(found.solo.notes)
    if leads and found.solo.notes[first + 1].onset - note.note.onset < _A_PICKUP and not note.strong:
        return Start.PICKUP
    return Start.ON_THE_BEAT if note.on_beat else Start.OFF_THE_BEAT


_INTERVALS = (
    "a half step", "a half step", "a step", "a third", "a third", "a fourth", "a tritone", "a fifth", "a sixth",
    "a sixth", "a seventh", "a seventh", "an octave", "a ninth", "a ninth", "a tenth", "a tenth", "an eleventh",
    "an octave and a tritone", "a twelfth", "a thirteenth", "a thirteenth", "a fourteenth", "a fourteenth",
    "two octaves",
)  # fmt: skip


def interval_words(semitones: int) -> str:
    """How wide an interval is, as it is said: "a fifth"."""
    size = abs(semitones)
    return _INTERVALS[size] if size < len(_INTERVALS) else "over two octaves"


def contour_words(pitches: Sequence[int]) -> str:
    """Which way a line goes, over its farthest note to its end, and how where that is by step or in one leap: "falls a
    fifth at once, then climbs a sixth by step".
    """
    low, high = min(pitches), max(pitches)
    if low == high:
        return "stays on one note"
    start, end, last = pitches[0], pitches[-1], len(pitches) - 1
    up, down = high - max(start, end), min(start, end) - low
    if up > down:
        turn = pitches.index(high)
    elif down > 0:
        turn = pitches.index(low)
    else:
        return _leg(pitches, 0, last)
    return f"{_leg(pitches, 0, turn)}, then {_leg(pitches, turn, last)}"


def _leg(pitches: Sequence[int], first: int, last: int) -> str:
    """One way of a line: "climbs a sixth by step"."""
    move = pitches[last] - pitches[first]
    if move == 0:
        return "stays there"
    words = f"{'climbs' if move > 0 else 'falls'} {interval_words(move)}"
    moves = [b - a for a, b in itertools.pairwise(pitches[first : last + 1])]
    if len(moves) == 1 and abs(move) > _A_STEP:
        return f"{words} at once"
    one_way = all(step * move >= 0 and abs(step) <= _A_STEP for step in moves)
    return f"{words} by step" if one_way and len(moves) > 1 else words


_A_STEP = 2


def set_off_by(card: Card, before: Card | None) -> tuple[str, ...]:
    """What sets a phrase off from the one before it: "busier", "higher", "longer", in that order."""
    if before is None:
        return ()
    said = []
    for here, there, more, less in (
        (card.per_beat, before.per_beat, "busier", "sparser"),
        (card.length, before.length, "longer", "shorter"),
    ):
        if float(here) >= _MUCH * float(there):
            said.append(more)
        elif float(there) >= _MUCH * float(here):
            said.append(less)
    middle, was = (card.low + card.high) / 2, (before.low + before.high) / 2
    if abs(middle - was) >= _A_FOURTH:
        said.append("higher" if middle > was else "lower")
    return tuple(said)


_A_FOURTH, _MUCH = 5, 1.5
