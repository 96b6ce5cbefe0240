"""How much a chord is at home in a key, and what leads home."""

from __future__ import annotations

from gavotte.harmony.changes import falls_a_fifth, falls_a_semitone
from gavotte.theory.chord import Chord

FOREIGN = 1.0
BORROWED = 0.35
SECONDARY = 0.3

_MAJOR: dict[int, tuple[str, ...]] = {
    0: ("major",), 2: ("minor", "sus"), 4: ("minor",), 5: ("major",), 7: ("dominant", "sus", "major"), 9: ("minor",),
    11: ("half",),
}  # fmt: skip
_MINOR: dict[int, tuple[str, ...]] = {
    0: ("minor",), 2: ("half",), 3: ("major",), 5: ("minor",), 7: ("dominant", "sus"), 8: ("major", "dominant"),
    10: ("dominant", "major", "sus"), 11: ("dim",),
}  # fmt: skip
_BORROWED_MAJOR = {(5, "minor"), (10, "dominant"), (1, "dominant"), (2, "half"), (8, "major"), (1, "major"),
                   (3, "major"), (10, "major"), (0, "dominant"), (5, "dominant"), (7, "minor")}  # fmt: skip
_BORROWED_MINOR = {(2, "minor"), (7, "minor"), (1, "major"), (1, "dominant"), (5, "dominant"), (9, "half"), (0, "half")}


def chord_quality(chord: Chord) -> str:
    """What a chord is to a key: "dominant", "sus", "half" or "dim" (diminished), "minor" or "major"."""
    if chord.is_dominant:
        return "dominant"
    if chord.is_suspended:
        return "sus"
    if chord.is_half_diminished:
        return "half"
    if chord.is_diminished:
        return "dim"
    return "minor" if chord.third == "b3" else "major"


def foreignness(chord: Chord, tonic: int, minor: bool, blues: bool = False) -> float:
    """How foreign a chord is in a key: 0 at home, 1 wholly foreign."""
    return foreign_step((chord.root.pitch_class - tonic) % 12, chord_quality(chord), minor, blues)


def foreign_step(step: int, quality: str, minor: bool, blues: bool) -> float:
    """The same of a chord ``step`` semitones above the tonic, by its quality."""
    if quality in (_MINOR if minor else _MAJOR).get(step, ()):
        return 0.0
    if blues and quality == "dominant" and step in (0, 5):
        return 0.0
    if (step, quality) in (_BORROWED_MINOR if minor else _BORROWED_MAJOR):
        return BORROWED
    if quality == "dominant" and (step + 5) % 12 in (_MINOR if minor else _MAJOR):
        return SECONDARY
    return BORROWED if quality == "dim" else FOREIGN


def cadences(first: Chord, second: Chord, tonic: int, minor: bool) -> bool:
    """Whether two chords are a dominant and the tonic of this key."""
    home = second.root.pitch_class == tonic and (second.third == "b3") == minor and not second.is_dominant
    leads = first.is_dominant or first.is_suspended
    return home and leads and (falls_a_fifth(first, second) or falls_a_semitone(first, second))
