"""The local scale of a chord: the scale an ear expects over it, from the symbol, what follows, and the key."""

from __future__ import annotations

from gavotte.solo.document import KeyRegion
from gavotte.theory.chord import Chord
from gavotte.theory.scale import Scale

_ALTERED_FIFTHS = {"#5", "b5"}
_ALTERED_NINTHS = {"b9", "#9"}


def local_scale(chord: Chord, following: Chord | None, key: KeyRegion) -> Scale:
    """The local scale of ``chord`` (as read), before ``following``, in ``key``.

    The symbol's own alterations decide first, then where the chord leads, then the blues, then its kind.
    """
    kind = _from_alterations(chord)
    if kind is None and following is not None and _leads_to_minor(chord, following):
        return Scale.named("harmonic minor", following.root.pitch_class, following.root.shown)
    kind = kind or _from_resolution(chord, following) or _from_blues(chord, key)
    if kind is None:
        if chord.tone_classes <= key.key.pitch_classes and not _has_its_own(chord):
            return Scale(key.key.shown, key.key.pitch_classes)
        kind = _from_kind(chord)
    return Scale.named(kind, chord.root.pitch_class, chord.root.shown)


def _from_alterations(chord: Chord) -> str | None:
    if chord.altered:
        return "altered"
    if chord.is_dominant:
        if chord.fifth in _ALTERED_FIFTHS and _ALTERED_NINTHS & set(chord.tensions):
            return "altered"
        if chord.fifth == "#5":
            return "whole tone"
        if "#11" in chord.tensions:
            return "lydian dominant"
    if chord.is_major and "#11" in chord.tensions:
        return "lydian"
    return None


def _leads_to_minor(chord: Chord, following: Chord) -> bool:
    fall = (chord.root.pitch_class - following.root.pitch_class) % 12
    return chord.is_dominant and fall == 7 and following.is_minor


def _from_resolution(chord: Chord, following: Chord | None) -> str | None:
    if not chord.is_dominant or following is None:
        return None
    half_step_down = (chord.root.pitch_class - following.root.pitch_class) % 12 == 1
    return "lydian dominant" if half_step_down else None


def _from_blues(chord: Chord, key: KeyRegion) -> str | None:
    return "mixolydian" if key.blues and chord.is_dominant else None


def _has_its_own(chord: Chord) -> bool:
    """Whether a chord brings its scale along even where all its tones lie in the key: ø, °, m(maj7) and m6."""
    melodic = chord.third == "b3" and (chord.sixth or chord.seventh == "7")
    return chord.is_half_diminished or chord.is_diminished or melodic


def _from_kind(chord: Chord) -> str:
    if chord.is_dominant or chord.third in ("4", "2"):
        return "mixolydian"
    if chord.is_half_diminished:
        return "locrian with 9"
    if chord.is_diminished:
        return "whole-half diminished"
    if chord.third == "b3":
        return "melodic minor" if chord.seventh == "7" or chord.sixth else "dorian"
    return "lydian" if chord.seventh == "7" else "major"
