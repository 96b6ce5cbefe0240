"""Which tones a chord welcomes as colours, which it does not, and which are blue in a key."""

from __future__ import annotations

from gavotte.solo.document import KeyRegion
from gavotte.theory.chord import Chord
from gavotte.theory.scale import Scale

ALTERED_TENSIONS = frozenset({"b9", "#9", "#11", "b13"})
_BLUE_STEPS = frozenset({3, 6, 10})
_DOMINANT = frozenset({"b9", "9", "#9", "#11", "b13", "13"})
_DIMINISHED = frozenset({"9", "11", "b13", "7"})


def is_tension(chord: Chord, degree: str, scale: Scale) -> bool:
    """Whether ``degree`` is an available tension of ``chord`` (as read) with this local scale."""
    return (
        degree in chord.tensions
        or degree in _available(chord)
        or (degree in ("6", "7", "b7") and chord.is_triad and _sounds(chord, degree) in scale)
        or (degree == "13" and chord.is_minor and _sounds(chord, degree) in scale)
    )


def _available(chord: Chord) -> frozenset[str]:
    if chord.is_suspended:
        return frozenset({"b9", "9", "13", "3"})
    if chord.is_dominant:
        return _DOMINANT
    if chord.is_half_diminished:
        return frozenset({"9", "11", "b13"})
    if chord.is_diminished:
        return _DIMINISHED
    if chord.third == "b3":
        return frozenset({"9", "11", "7"} if chord.sixth else {"9", "11"})
    if chord.third == "":
        return frozenset({"9", "11", "13"})
    return frozenset({"9", "#11", "13", "7", "6"} if chord.seventh != "b7" else {"9", "#11", "13"})


def _sounds(chord: Chord, degree: str) -> int:
    semitones = {"6": 9, "13": 9, "7": 11, "b7": 10}[degree]
    return (chord.root.pitch_class + semitones) % 12


def is_altered(chord: Chord, degree: str) -> bool:
    """Whether ``degree`` is an altered tone of a dominant chord."""
    return chord.is_dominant and degree in ALTERED_TENSIONS


def is_clash(chord: Chord, degree: str) -> bool:
    """Whether the chord does not welcome ``degree``, though players use it on purpose. The list is complete."""
    if degree == "11":
        return chord.third == "3" and "11" not in chord.tensions
    if degree in ("b9", "b13") and chord.is_minor:
        return True
    if degree == "b9" and chord.is_half_diminished:
        return True
    return degree == "7" and chord.seventh == "b7"


def extension_device(chord: Chord, degree: str) -> str:
    """The device of a colour: "altered", "clash" or "natural"."""
    if is_altered(chord, degree) or (chord.is_suspended and degree == "b9"):
        return "altered"
    return "clash" if is_clash(chord, degree) else "natural"


def is_blue(chord: Chord, pitch_class: int, key: KeyRegion) -> bool:
    """Whether a pitch class is a blue note here: the key's ♭3, ♭5 or ♭7 in a blues, over any chord but V and
    secondary dominants.
    """
    if not key.blues or pitch_class in chord.tone_classes:
        return False
    tonic = key.key.tonic.pitch_class
    return (pitch_class - tonic) % 12 in _BLUE_STEPS and not _leads_elsewhere(chord, tonic)


def _leads_elsewhere(chord: Chord, tonic: int) -> bool:
    """Whether a dominant is V or a secondary dominant: not one of the blues' own I7, IV7, ♭VI7, ♭VII7."""
    return chord.is_dominant and (chord.root.pitch_class - tonic) % 12 not in (0, 5, 8, 10)
