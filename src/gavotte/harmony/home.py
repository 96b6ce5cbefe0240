"""Where the chords are at home, whatever the signature says: the key they contradict it for, and whether it is a blues.

Much is written out without a signature, in C, and no file says that a tune is a blues. A signature is outvoted where
another key explains the chords clearly better from end to end, and they come home there. A blues is heard by its form
(I, IV in bar 5, I in bar 7, V by bar 10) or by what only a blues does: a dominant chord as the tonic.
"""

from __future__ import annotations

import itertools
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from gavotte.harmony.changes import Change, falls_a_fifth, is_two_five
from gavotte.harmony.foreignness import cadences, chord_quality, foreign_step
from gavotte.solo.document import KeyRegion
from gavotte.theory.chord import Chord
from gavotte.theory.key import Key
from gavotte.theory.pitch import PitchName, spell

FEWEST_CHORDS = 3
MOST_AT_HOME = 0.12
"""How foreign, of 1, the chords may be on average in a key that is heard against the signature."""
CLEARLY, CLEARLY_SHORT = 0.2, 0.3
"""By how much more foreign they must be in the key of the signature, over four bars and more, and over fewer."""
ENOUGH_OF_A_BLUES = 2.0
"""How much must speak for a dominant chord as the tonic: see ``_speaking_for``."""
BLUES_BARS = 12
_LONG_BARS, _LONG_CHORDS, _BAR = 4, 4, 4
_FOURTH, _FIFTH, _FLAT_SIXTH = 5, 7, 8

Bars = Sequence[frozenset[int]]
"""For each bar the roots (pitch classes) of its chords."""


@dataclass(frozen=True, slots=True)
class Home:
    """The key the chords are at home in, and what it is heard from."""

    region: KeyRegion
    why: str


def home_of(changes: Sequence[Change], bars: Bars, written: KeyRegion) -> Home | None:
    """The key some changes are in from end to end, or that it is a blues, where the signature says otherwise.

    None where the signature fits, where it names a mode, or where it says already that this is a blues.
    """
    if len(changes) < FEWEST_CHORDS or written.blues or written.key.mode not in ("major", "minor"):
        return None
    return _blues(changes, bars, written) or _other_key(changes, written)


def is_blues_form(bars: Bars, tonic: int) -> bool:
    """Whether the first twelve bars are a blues on a tonic (pitch class); not where there are fewer."""
    home, four, five = tonic, (tonic + _FOURTH) % 12, (tonic + _FIFTH) % 12
    return (
        len(bars) >= BLUES_BARS
        and home in bars[0]
        and four in bars[4]
        and home in bars[6]
        and five in bars[8] | bars[9]
    )


# -- another key ----------------------------------------------------------------------------------------


def _other_key(changes: Sequence[Change], written: KeyRegion) -> Home | None:
    key = other_key(changes, written)
    if key is None:
        return None
    return Home(
        KeyRegion(written.onset, key), f"the chords are at home in {key.shown}, not in {written.key.shown} as written"
    )


def other_key(changes: Sequence[Change], written: KeyRegion) -> Key | None:
    """The key that explains the changes clearly better than the written one, None where none does."""
    home = written.key.tonic.pitch_class, written.key.is_minor
    weights = _weights(changes)
    here = _foreign_on_average(weights, *home)
    keys = sorted(_resting(changes))
    if not keys:
        return None
    likely = min(keys, key=lambda key: _foreign_on_average(weights, *key))
    there = _foreign_on_average(weights, *likely)
    bars = sum(weights.values()) / _BAR
    is_long = bars >= _LONG_BARS and len(changes) >= _LONG_CHORDS
    relative = (likely[0] - home[0]) % 12 == (9 if likely[1] else 3) and likely[1] != home[1]
    if there > MOST_AT_HOME or here - there < (CLEARLY if is_long else CLEARLY_SHORT) or relative:
        return None
    return Key(tonic_name(changes, likely[0]), "minor" if likely[1] else "major")


def _weights(changes: Sequence[Change]) -> Mapping[tuple[int, str], float]:
    """How long each kind of chord sounds on each root, in quarter notes."""
    weights: defaultdict[tuple[int, str], float] = defaultdict(float)
    for change in changes:
        weights[change.chord.root.pitch_class, chord_quality(change.chord)] += float(change.length)
    return weights


def _foreign_on_average(weights: Mapping[tuple[int, str], float], tonic: int, minor: bool) -> float:
    """How foreign the chords are in a key on average, each by how long it lasts."""
    foreign = sum(
        length * foreign_step((root - tonic) % 12, quality, minor, False) for (root, quality), length in weights.items()
    )
    return foreign / sum(weights.values())


def _resting(changes: Sequence[Change]) -> set[tuple[int, bool]]:
    """The keys (tonic, and whether minor) that a cadence leads into, or the first or last chord is the tonic of."""
    keys = {_as_key(change.chord) for change in (changes[0], changes[-1]) if not change.chord.is_dominant}
    for before, change in itertools.pairwise(changes):
        chord = change.chord
        if not chord.is_dominant and cadences(before.chord, chord, *_as_key(chord)):
            keys.add(_as_key(chord))
    return keys


def _as_key(chord: Chord) -> tuple[int, bool]:
    return chord.root.pitch_class, chord.third == "b3"


def tonic_name(changes: Sequence[Change], tonic: int) -> PitchName:
    """The tonic as its own chord spells it, else in flats."""
    roots = (change.chord.root for change in changes)
    return next((root for root in roots if root.pitch_class == tonic), spell(60 + tonic, -3).name)


# -- the blues ------------------------------------------------------------------------------------------


def _blues(changes: Sequence[Change], bars: Bars, written: KeyRegion) -> Home | None:
    by_form = _by_form(changes, bars, written)
    if by_form is not None:
        return by_form
    speaking = _speaking_for(changes, written.key.tonic.pitch_class)
    likely = max(sorted(speaking), key=lambda tonic: speaking[tonic], default=None)
    if likely is not None and speaking[likely] >= ENOUGH_OF_A_BLUES:
        key = Key(tonic_name(changes, likely), "major")
        return Home(KeyRegion(written.onset, key, True), f"{key.tonic.shown}7 is at home here, as in a blues")
    minor = _minor_blues(changes)
    if minor is not None:
        return Home(KeyRegion(written.onset, minor, True), "♭VI7 and V7 lead home, as in a minor blues")
    minor = _between_one_and_four(changes)
    if minor is not None:
        return Home(KeyRegion(written.onset, minor, True), "i and iv alone go back and forth, as in a minor blues")
    return None


def _by_form(changes: Sequence[Change], bars: Bars, written: KeyRegion) -> Home | None:
    """A blues by the form of its first twelve bars, on the written tonic or that of the first chord."""
    first = changes[0].chord
    for tonic in (written.key.tonic, first.root):
        own = [c.chord for c in changes if c.chord.root.pitch_class == tonic.pitch_class]
        four = [c.chord for c in changes if (c.chord.root.pitch_class - tonic.pitch_class) % 12 == _FOURTH]
        minor = bool(own) and own[0].third == "b3"
        earthy = any(chord.third == "b3" if minor else chord.is_dominant for chord in four)
        if earthy and is_blues_form(bars, tonic.pitch_class):
            key = Key(tonic_name(changes, tonic.pitch_class), "minor" if minor else "major")
            return Home(KeyRegion(written.onset, key, True), "the twelve bars have the form of a blues")
    return None


def _speaking_for(changes: Sequence[Change], written: int) -> dict[int, float]:
    """For each dominant chord (its root as a pitch class) how much speaks for it as the tonic of a blues.

    It comes first or last, IV7 goes back to it, V7 leads to it, a ii-V ends on it, the signature is on it. It is no
    tonic where another chord stands on its root, where it leads on as a dominant does, or where the chord it would lead
    to is at home too: a major chord anywhere, or any but a dominant at either end.
    """
    dominants: set[int] = set()
    never: set[int] = set()
    goes_back: set[int] = set()
    leads: set[int] = set()
    two_five: set[int] = set()
    last = len(changes) - 1
    for index, change in enumerate(changes):
        chord, root = change.chord, change.chord.root.pitch_class
        before = changes[index - 1].chord if index else None
        if chord.is_dominant:
            dominants.add(root)
            if before is not None and before.is_dominant:
                if (before.root.pitch_class - root) % 12 == _FOURTH:
                    goes_back.add(root)
                elif falls_a_fifth(before, chord):
                    leads.add(root)
                    if index > 1 and is_two_five(changes[index - 2].chord, before):
                        two_five.add(root)
            continue
        if not (chord.is_triad and chord.is_major):
            never.add(root)
        if chord.is_major or index in (0, last) or (before is not None and falls_a_fifth(before, chord)):
            never.add((root - _FOURTH) % 12)
    ends = [changes[0].chord.root.pitch_class, changes[-1].chord.root.pitch_class]
    return {
        root: ends.count(root)
        + 0.5 * (root == written)
        + (root in goes_back)
        + 0.5 * (root in leads)
        + (root in two_five)
        for root in dominants - never
    }


def _minor_blues(changes: Sequence[Change]) -> Key | None:
    """The key in which ♭VI7 and V7 lead to i at the end."""
    six, five, one = (change.chord for change in changes[-3:])
    flat_six = six.is_dominant and (six.root.pitch_class - one.root.pitch_class) % 12 == _FLAT_SIXTH
    leads = five.is_dominant and falls_a_fifth(five, one) and one.third == "b3" and not one.is_half_diminished
    return Key(one.root, "minor") if flat_six and leads and not one.is_diminished else None


def _between_one_and_four(changes: Sequence[Change]) -> Key | None:
    """The key in which minor sevenths on i and iv alone go back and forth, from i and back to it."""
    first = changes[0].chord
    if changes[-1].chord.root.pitch_class != first.root.pitch_class:
        return None
    steps = {(change.chord.root.pitch_class - first.root.pitch_class) % 12 for change in changes}
    sevenths = all(change.chord.third == "b3" and change.chord.seventh == "b7" for change in changes)
    plain = sevenths and not any(change.chord.is_half_diminished for change in changes)
    return Key(first.root, "minor") if plain and steps == {0, _FOURTH} else None
