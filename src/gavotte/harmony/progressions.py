"""What chords do together: ii-Vs and where they lead, turnarounds, cycles, clichés, vamps, the form of a blues.

Each matcher looks at the changes from one place on and answers with how many of them it takes and what they are called.
At every place the matcher that takes most wins, an earlier one among equals. To add a progression, write its matcher
and put it into ``MATCHERS``.
"""

from __future__ import annotations

import itertools
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction

from gavotte.harmony.changes import Change, falls_a_fifth, falls_a_semitone, is_two_five
from gavotte.harmony.ground import Ground
from gavotte.harmony.home import BLUES_BARS, is_blues_form
from gavotte.harmony.numerals import numeral, place_words
from gavotte.theory.key import Key

_VAMP_BARS = 4


@dataclass(frozen=True, slots=True)
class Progression:
    """Chords from ``onset`` to ``end`` that do one thing, and what players call it."""

    onset: Fraction
    end: Fraction
    name: str
    numerals: tuple[str, ...]


Found = tuple[int, str]
Matcher = Callable[[Sequence[Change], Key], Found | None]


def progressions_of(ground: Ground) -> tuple[Progression, ...]:
    """All the chords, parted into what they do, in order."""
    changes = ground.changes
    found: list[Progression] = []
    index = 0
    while index < len(changes):
        key = ground.key_at(changes[index].onset).key
        rest = changes[index:]
        answers = [answer for matcher in MATCHERS if (answer := matcher(rest, key)) is not None]
        size, name = max(answers, key=lambda answer: answer[0]) if answers else _alone(rest, key)
        taken = rest[:size]
        numerals = tuple(numeral(change.chord, key) for change in taken)
        found.append(Progression(taken[0].onset, taken[-1].end, name, numerals))
        index += size
    return tuple(found)


def summary(ground: Ground) -> str:
    """The progression by function, as one would carry it in the head: "home; ii-V to IV; backdoor home; turnaround"."""
    names = [progression.name for progression in progressions_of(ground)]
    choruses = len(blues_choruses(ground))
    parts = [f"twelve-bar blues, {choruses} choruses" if choruses > 1 else "twelve-bar blues"] if choruses else []
    for name, group in itertools.groupby(names):
        times = len(list(group))
        parts.append(name if times == 1 else f"{name} ({times} times)")
    return "; ".join(parts)


# -- matchers -------------------------------------------------------------------------------------------


def _step(change: Change, key: Key) -> int:
    return (change.chord.root.pitch_class - key.tonic.pitch_class) % 12


def _is_tonic(change: Change, key: Key) -> bool:
    return _step(change, key) == 0 and not change.chord.is_half_diminished and not change.chord.is_diminished


def cycle(changes: Sequence[Change], key: Key) -> Found | None:
    """Three dominants or more, each falling a fifth (or sliding down a half step) to the next."""
    chain = [changes[0]] if changes[0].chord.is_dominant else []
    for change in changes[1:]:
        if not chain or not change.chord.is_dominant:
            break
        if not (falls_a_fifth(chain[-1].chord, change.chord) or falls_a_semitone(chain[-1].chord, change.chord)):
            break
        chain.append(change)
    return (len(chain), "cycle of dominants") if len(chain) >= 3 else None


def turnaround(changes: Sequence[Change], key: Key) -> Found | None:
    """I, then VI (or ♭III°, ♯i°), ii and V, all quick."""
    if len(changes) < 4 or any(change.length > 4 for change in changes[:4]):
        return None
    steps = [_step(change, key) for change in changes[:4]]
    opens = steps[0] in (0, 4) and steps[1] in (1, 3, 9)
    return (4, "turnaround") if opens and steps[2] in (2, 8) and steps[3] in (7, 1) else None


def backdoor(changes: Sequence[Change], key: Key) -> Found | None:
    """iv and ♭VII7, or ♭VII7 alone, home to I, or to iii in its stead."""
    steps = [_step(change, key) for change in changes[:3]]
    for start in (1, 0):
        if len(changes) < start + 2 or key.is_minor:
            continue
        minor_four = start == 0 or (steps[0] == 5 and changes[0].chord.third == "b3")
        if not minor_four or steps[start] != 10 or not changes[start].chord.is_dominant:
            continue
        if steps[start + 1] == 0:
            return start + 2, "home by the back door"
        if steps[start + 1] == 4:
            return start + 1, "the back door to iii"
    return None


def two_five(changes: Sequence[Change], key: Key) -> Found | None:
    """ii-V, and I where it follows; elsewhere named by the degree it leads to."""
    if len(changes) < 2 or not is_two_five(changes[0].chord, changes[1].chord):
        return None
    target = (_step(changes[1], key) + 5) % 12
    minor = "minor " if changes[0].chord.is_half_diminished else ""
    after = changes[2] if len(changes) > 2 else None
    if after is not None and falls_a_fifth(changes[1].chord, after.chord):
        if target == 0:
            return 3, f"{minor}ii-V-{'i' if after.chord.third == 'b3' else 'I'}"
        return 2, f"{minor}ii-V to {numeral(after.chord, key)}"
    if after is not None and falls_a_semitone(changes[1].chord, after.chord):
        return 2, f"{minor}ii-V sliding down to {numeral(after.chord, key)}"
    return 2, f"{minor}ii-V" if target == 0 else f"{minor}ii-V of {place_words(target)}, left open"


def slide(changes: Sequence[Change], key: Key) -> Found | None:
    """A tritone substitute: ii and ♭II7, or ♭II7 alone, a half step down to I."""
    for start in (1, 0):
        if len(changes) < start + 2:
            continue
        dominant, home = changes[start], changes[start + 1]
        prepared = start == 0 or (_step(changes[0], key) == 2 and changes[0].chord.third == "b3")
        if prepared and dominant.chord.is_dominant and _step(dominant, key) == 1 and _is_tonic(home, key):
            return start + 2, "home by a tritone substitute"
    return None


def cadence(changes: Sequence[Change], key: Key) -> Found | None:
    """V-I, or the dominant of another degree with the chord it leads to still to come."""
    if len(changes) < 2 or not (changes[0].chord.is_dominant or changes[0].chord.is_suspended):
        return None
    first, second = changes[0], changes[1]
    if not falls_a_fifth(first.chord, second.chord):
        return None
    if _step(first, key) == 7 and _is_tonic(second, key):
        return 2, "V-i" if second.chord.third == "b3" else "V-I"
    if _step(first, key) == 0 and _step(second, key) == 5:
        return 1, "I7 to IV"
    return 1, f"V of {numeral(second.chord, key)}"


def cliche(changes: Sequence[Change], key: Key) -> Found | None:
    """One voice moving over a root that stays: m, m(maj7), m7, m6, or a triad with 5, ♯5, 6, ♭7."""
    root = changes[0].chord.root
    row = list(itertools.takewhile(lambda change: change.chord.root == root, changes))
    if len(row) < 3 or any(change.chord.is_dominant for change in row[:-1]):
        return None
    return len(row), f"line cliché on {numeral(row[0].chord, key)}"


def passing_diminished(changes: Sequence[Change], key: Key) -> Found | None:
    """A diminished chord between two chords a whole step apart, or leading up a half step."""
    if len(changes) < 2 or not changes[0].chord.is_diminished:
        return None
    moves = (changes[1].chord.root.pitch_class - changes[0].chord.root.pitch_class) % 12
    if moves == 1:
        return 1, f"diminished, leading up to {numeral(changes[1].chord, key)}"
    return (1, f"diminished, leading down to {numeral(changes[1].chord, key)}") if moves == 11 else None


def vamp(changes: Sequence[Change], key: Key) -> Found | None:
    """One chord for four bars and more, or two that alternate."""
    first = changes[0]
    if first.length >= 4 * _VAMP_BARS:
        return 1, f"vamp on {numeral(first.chord, key)}"
    if len(changes) < 4:
        return None
    pair = (first.chord, changes[1].chord)
    row = list(itertools.takewhile(lambda pair_of: pair_of[1].chord == pair[pair_of[0] % 2], enumerate(changes)))
    if len(row) < 4:
        return None
    return len(row), f"vamp on {numeral(pair[0], key)} and {numeral(pair[1], key)}"


MATCHERS: tuple[Matcher, ...] = (
    cycle, turnaround, backdoor, slide, two_five, cliche, vamp, cadence, passing_diminished,
)  # fmt: skip


def _alone(changes: Sequence[Change], key: Key) -> Found:
    first = changes[0]
    return (1, "home") if _is_tonic(first, key) else (1, numeral(first.chord, key))


# -- the blues ------------------------------------------------------------------------------------------


def blues_choruses(ground: Ground) -> tuple[tuple[Fraction, Fraction], ...]:
    """Where twelve bars have the form of a blues: I, IV in bar 5, I in bar 7, V by bar 10. Onset and end of each."""
    return tuple(_choruses(ground))


def _choruses(ground: Ground) -> Iterator[tuple[Fraction, Fraction]]:
    bars = [bar for bar in ground.grid.bars if bar.number > 0]
    start = heard = 0
    while start + BLUES_BARS <= len(bars):
        while heard + 1 < len(ground.keys) and ground.keys[heard + 1].onset <= bars[start].onset:
            heard += 1
        tonic = ground.keys[heard].key.tonic.pitch_class
        is_blues = is_blues_form(ground.bar_roots[start : start + BLUES_BARS], tonic)
        if is_blues:
            yield bars[start].onset, bars[start + BLUES_BARS - 1].end
        start += BLUES_BARS if is_blues else 1
