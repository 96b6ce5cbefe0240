"""The feel a band plays in, read off a solo's style and meter."""

from __future__ import annotations

from enum import StrEnum
from fractions import Fraction

from gavotte.solo.document import Solo
from gavotte.theory.meter import Meter


class Groove(StrEnum):
    """How the band plays."""

    SWING = "swing"
    BALLAD = "ballad"
    BOSSA = "bossa"
    STRAIGHT = "straight"
    TWELVE_EIGHT = "12/8"
    SIX_EIGHT = "6/8"
    WALTZ = "waltz"
    FIVE_FOUR = "5/4"


USUAL_SWING = {
    Groove.SWING: Fraction(9, 5),
    Groove.BALLAD: Fraction(9, 5),
    Groove.BOSSA: Fraction(1),
    Groove.STRAIGHT: Fraction(1),
    Groove.TWELVE_EIGHT: Fraction(1),
    Groove.SIX_EIGHT: Fraction(1),
    Groove.WALTZ: Fraction(3, 2),
    Groove.FIVE_FOUR: Fraction(3, 2),
}
"""How many times as long the first of two eighths is as the second, where neither solo nor user say."""

_BOSSA_WORDS = ("bossa", "samba")
_STRAIGHT_WORDS = ("straight", "even", "latin", *_BOSSA_WORDS, "rock", "funk", "modal", "ballad 8")


def grooves_for(meter: Meter) -> tuple[Groove, ...]:
    """The grooves a band can play in a meter, the usual one first."""
    if meter.is_compound:
        return (Groove.SIX_EIGHT,) if meter.count == 6 else (Groove.TWELVE_EIGHT,)
    if meter.count == 5:
        return (Groove.FIVE_FOUR,)
    if meter.count == 3:
        return (Groove.WALTZ,)
    return (Groove.SWING, Groove.BALLAD, Groove.BOSSA, Groove.STRAIGHT)


def groove_of(solo: Solo) -> Groove:
    """The groove for a solo: by its first meter, then by the words of its style."""
    possible = grooves_for(solo.meters[0].meter)
    style = solo.style.lower()
    if len(possible) == 1:
        return possible[0]
    if any(word in style for word in _BOSSA_WORDS):
        return Groove.BOSSA
    if any(word in style for word in _STRAIGHT_WORDS):
        return Groove.STRAIGHT
    return Groove.BALLAD if "ballad" in style else Groove.SWING


def swing_of(solo: Solo) -> Fraction:
    """The swing a solo is played with unless the user says otherwise."""
    if solo.swing is not None:
        return solo.swing
    groove = groove_of(solo)
    even = groove in (Groove.FIVE_FOUR, Groove.WALTZ) and any(word in solo.style.lower() for word in _STRAIGHT_WORDS)
    return Fraction(1) if even else USUAL_SWING[groove]
