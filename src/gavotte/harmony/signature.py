"""Whether a signature can be believed: much is written out without one, in C, whatever the chords are in.

The chords of the whole length are weighed in each of the 24 keys, as ``keys`` weighs them bar by bar. A signature is
doubted where another key explains them clearly better from end to end, with a cadence into its tonic or the last chord
at home there; or where the chords have the form of a blues on another tonic.
"""

from __future__ import annotations

from fractions import Fraction

from gavotte.harmony.ground import Ground
from gavotte.harmony.home import is_blues_form, other_key
from gavotte.solo.document import KeyRegion
from gavotte.theory.key import Key

_FEWEST_CHORDS, _FEWEST_BARS = 4, 4
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
    key = other_key(changes, written)
    return None if key is None else KeyRegion(Fraction(0), key)


def _as_blues(ground: Ground, written: KeyRegion) -> KeyRegion | None:
    """The key of a blues whose form begins with the chords, where it is not that of the signature."""
    if is_blues_form(ground.bar_roots, written.key.tonic.pitch_class):
        return None
    first = ground.changes[0].chord
    if not is_blues_form(ground.bar_roots, first.root.pitch_class):
        return None
    return KeyRegion(Fraction(0), Key(first.root, "minor" if first.third == "b3" else "major"), True)
