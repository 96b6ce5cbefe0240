"""Whether a signature can be believed: much is written out without one, in C, whatever the chords are in.

The chords of the whole length are weighed in each of the 24 keys, as ``keys`` weighs them bar by bar. A signature is
doubted where another key explains them clearly better from end to end, with a cadence into its tonic or the last chord
at home there; or where the chords have the form of a blues on another tonic.
"""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from fractions import Fraction

from gavotte.harmony.changes import Change
from gavotte.harmony.ground import Ground
from gavotte.harmony.keys import cadences, foreignness
from gavotte.harmony.progressions import blues_on
from gavotte.solo.document import KeyRegion
from gavotte.theory.key import Key
from gavotte.theory.pitch import PitchName, spell

_FEWEST_CHORDS, _FEWEST_BARS = 4, 4
_MOST_AT_HOME = 0.12
"""How foreign, of 1, the chords may be on average in a key that is proposed."""
_CLEARLY = 0.2
"""By how much more foreign they must be in the key of the signature."""
_BAR = 4


def contradicted(ground: Ground) -> KeyRegion | None:
    """The key the chords are in from end to end where the one signature there is says another; None where it fits."""
    if len(ground.written) != 1 or ground.set_by_hand:
        return None
    written, changes = ground.written[0], ground.changes
    bars = sum(float(change.length) for change in changes) / _BAR
    if len(changes) < _FEWEST_CHORDS or bars < _FEWEST_BARS:
        return None
    blues = _as_blues(ground, written)
    if blues is not None:
        return blues
    home = written.key.tonic.pitch_class, written.key.is_minor
    here = _foreign(changes, *home, written.blues)
    keys = [(tonic, minor) for tonic in range(12) for minor in (False, True) if _rests(changes, tonic, minor)]
    if not keys:
        return None
    likely = min(keys, key=lambda key: _foreign(changes, *key))
    there = _foreign(changes, *likely)
    relative = (likely[0] - home[0]) % 12 == (9 if likely[1] else 3) and likely[1] != home[1]
    if there > _MOST_AT_HOME or here - there < _CLEARLY or relative:
        return None
    return KeyRegion(Fraction(0), Key(_tonic(changes, likely[0]), "minor" if likely[1] else "major"))


def _as_blues(ground: Ground, written: KeyRegion) -> KeyRegion | None:
    """The key of a blues whose form begins with the chords, where it is not that of the signature."""
    if blues_on(ground, written.key.tonic.pitch_class):
        return None
    first = ground.changes[0].chord
    if first.root.pitch_class == written.key.tonic.pitch_class or not blues_on(ground, first.root.pitch_class):
        return None
    return KeyRegion(Fraction(0), Key(first.root, "minor" if first.third == "b3" else "major"), True)


def _foreign(changes: Sequence[Change], tonic: int, minor: bool, blues: bool = False) -> float:
    """How foreign the chords are in a key on average, each by how long it lasts."""
    length = sum(float(change.length) for change in changes)
    return sum(foreignness(c.chord, tonic, minor, blues) * float(c.length) for c in changes) / length


def _rests(changes: Sequence[Change], tonic: int, minor: bool) -> bool:
    """Whether a cadence leads into the key's tonic, or the last chord is at home there."""
    last = changes[-1].chord
    at_home = last.root.pitch_class == tonic and (last.third == "b3") == minor and not last.is_dominant
    return at_home or any(cadences(a.chord, b.chord, tonic, minor) for a, b in itertools.pairwise(changes))


def _tonic(changes: Sequence[Change], tonic: int) -> PitchName:
    """The tonic as its own chord spells it, else in flats."""
    roots = (change.chord.root for change in changes)
    return next((root for root in roots if root.pitch_class == tonic), spell(60 + tonic, -3).name)
