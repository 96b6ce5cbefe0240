"""The harmonic contexts a line can be played in, recognised from chords and keys heard, each under one name.

A place may have several: the V-I of a blues' last bars is of both. ``CONTEXTS`` lists every name, in the order in which
they are offered.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction

from gavotte.giving_way import give_way
from gavotte.harmony.changes import Change, falls_a_fifth, falls_a_semitone, is_two_five
from gavotte.harmony.foreignness import chord_quality
from gavotte.harmony.ground import Ground
from gavotte.harmony.progressions import blues_choruses, cliche, cycle, turnaround
from gavotte.solo.by_identity import kept_by_identity
from gavotte.theory.key import Key

BLUES_BARS = {
    "blues, bars 1–4": (0, 4),
    "blues, bars 4–5": (3, 5),
    "blues, bars 7–8": (6, 8),
    "blues, bars 9–12": (8, 12),
}
"""Stretches of a blues that have a vocabulary of their own, by the bars they hold, counted from 0."""
STATIC = {"minor": "static minor", "dominant": "static dominant", "major": "static major"}
CONTEXTS = (
    "long ii-V-I", "short ii-V-I", "long minor ii-V-i", "short minor ii-V-i", "long ii-V", "short ii-V",
    "long minor ii-V", "short minor ii-V", "V-I", "V-i", "turnaround", "I to IV", "IV to ♯iv° to I", *BLUES_BARS,
    "dominant cycle", "back door", "tritone substitute", "line cliché", *STATIC.values(),
)  # fmt: skip
"""Every context there is a name for."""
_STATIC_BARS = 2


@dataclass(frozen=True, slots=True)
class ContextSpan:
    """A stretch of the changes that has a name, in quarter notes."""

    onset: Fraction
    end: Fraction
    name: str


@kept_by_identity(24)
def context_spans(ground: Ground) -> tuple[ContextSpan, ...]:
    """Every named stretch of the changes, by where it begins; they may overlap. Of a longer one no part is listed that
    goes by a name of its own as well (the ii-V of a ii-V-I).
    """
    found: list[ContextSpan] = []
    changes = ground.changes
    for index in range(len(changes)):
        give_way()
        rest = changes[index:] if len(changes) - index <= _FAR else changes[index : index + _FAR]
        key = ground.key_at(changes[index].onset).key
        bar = ground.grid.at(changes[index].onset)
        for size, name in _named(rest, key, bar.meter.bar_length):
            span = ContextSpan(rest[0].onset, rest[size - 1].end, name)
            if not any(_holds(other, span) for other in found[-_NEAR:]):
                found.append(span)
    return tuple(sorted([*found, *_of_blues(ground)], key=lambda span: (span.onset, -span.end)))


_FAR, _NEAR = 12, 4
"""How many changes a context has at most, and how many contexts before may hold another one."""


def _holds(longer: ContextSpan, shorter: ContextSpan) -> bool:
    """Whether a shorter span is but a part of a longer one that says all of it."""
    inside = longer.onset <= shorter.onset and shorter.end <= longer.end
    return inside and (longer.name == shorter.name or (longer.name in _WHOLE and shorter.name in _PARTS))


_WHOLE, _PARTS = CONTEXTS[:4], CONTEXTS[4:10]


def _named(changes: Sequence[Change], key: Key, bar: Fraction) -> Iterator[tuple[int, str]]:
    """What begins with the first of some changes: how many of them, and its name."""
    first = changes[0]
    two_five = _two_five(changes, bar)
    if two_five is not None:
        yield two_five
    elif _cadences(changes):
        yield 2, "V-i" if changes[1].chord.third == "b3" else "V-I"
    for matcher, name in ((cycle, "dominant cycle"), (turnaround, "turnaround"), (cliche, "line cliché")):
        answer = matcher(changes, key)
        if answer is not None:
            yield answer[0], name
    yield from _home_otherwise(changes, key)
    quality = chord_quality(first.chord)
    if first.length >= _STATIC_BARS * bar and quality in STATIC:
        yield 1, STATIC[quality]


def _cadences(changes: Sequence[Change]) -> bool:
    """Whether the first of some changes is a dominant that falls to what is none."""
    if len(changes) < 2 or not changes[0].chord.is_dominant or changes[1].chord.is_dominant:
        return False
    return falls_a_fifth(changes[0].chord, changes[1].chord)


def _two_five(changes: Sequence[Change], bar: Fraction) -> tuple[int, str] | None:
    if len(changes) < 2 or not is_two_five(changes[0].chord, changes[1].chord):
        return None
    size = "long" if changes[0].length >= bar else "short"
    minor = "minor " if changes[0].chord.is_half_diminished else ""
    if len(changes) > 2 and falls_a_fifth(changes[1].chord, changes[2].chord) and not changes[2].chord.is_dominant:
        return 3, f"{size} minor ii-V-i" if changes[2].chord.third == "b3" else f"{size} ii-V-I"
    return 2, f"{size} {minor}ii-V"


def _home_otherwise(changes: Sequence[Change], key: Key) -> Iterator[tuple[int, str]]:
    """The ways home, and away from it, that are no fifths: by the back door, by a half step, to IV and back."""
    steps = [(change.chord.root.pitch_class - key.tonic.pitch_class) % 12 for change in changes[:3]]
    chords = [change.chord for change in changes[:3]]
    if len(changes) < 2:
        return
    for start in (0, 1):
        if len(steps) < start + 2:
            continue
        dominant, home = chords[start], steps[start + 1]
        prepared = start == 0 or (steps[0] == 5 and chords[0].third == "b3")
        if dominant.is_dominant and steps[start] == 10 and home in (0, 4) and prepared and not key.is_minor:
            yield start + 2, "back door"
        prepared = start == 0 or (steps[0] == 2 and chords[0].third == "b3")
        slides = falls_a_semitone(dominant, chords[start + 1])
        if dominant.is_dominant and slides and prepared and not chords[start + 1].is_dominant:
            yield start + 2, "tritone substitute"
    if steps[:2] == [0, 5] and chords[0].third != "b3":
        yield 2, "I to IV"
    if len(steps) > 2 and steps[0] == 5 and steps[1] == 6 and chords[1].is_diminished and steps[2] in (0, 7):
        yield 3, "IV to ♯iv° to I"


def _of_blues(ground: Ground) -> Iterator[ContextSpan]:
    bars = [bar for bar in ground.grid.bars if bar.number > 0]
    numbers = {bar.onset: number for number, bar in enumerate(bars)}
    for onset, _ in blues_choruses(ground):
        first = numbers[onset]
        for name, (start, end) in BLUES_BARS.items():
            yield ContextSpan(bars[first + start].onset, bars[first + end - 1].end, name)


def contexts_between(spans: Sequence[ContextSpan], start: Fraction, end: Fraction) -> tuple[str, ...]:
    """The contexts of a line that sounds from ``start`` to ``end``: those it goes through, and those it stays within.

    It goes through a span where it sounds over more than half of it, and stays within one where more than half of the
    line does. The first is the one that fits best.
    """
    fitting: list[tuple[float, str]] = []
    length = max(end - start, Fraction(1, 64))
    for span in spans:
        shared = min(end, span.end) - max(start, span.onset)
        if shared <= 0:
            continue
        through, within = shared / (span.end - span.onset), shared / length
        if (through > _MOST and within > _MOST) or (within > _NEARLY_ALL and span.name not in _CADENCES):
            fitting.append((-float(through * within), span.name))
    return tuple(dict.fromkeys(name for _, name in sorted(fitting)))


_MOST, _NEARLY_ALL = Fraction(1, 2), Fraction(3, 4)
_CADENCES = frozenset(CONTEXTS[: CONTEXTS.index("V-i") + 1])
"""What a line goes through from end to end, or is not of."""
