"""The tonal setting a solo seems to have where its file does not say: minor or major, blues or not."""

from __future__ import annotations

from dataclasses import replace

from gavotte.solo.document import KeyRegion, Solo
from gavotte.theory.chord import Chord
from gavotte.theory.key import Key


def with_setting(solo: Solo) -> Solo:
    """The solo with its first key region's mode and blues setting read off the chords.

    A signature is taken as minor where the last chord (or the first) is the minor tonic; the setting is a
    blues where I and IV are both dominant sevenths, or both minor under a title that says so.
    """
    region = solo.keys[0]
    chords = [event.symbol for event in solo.chords]
    named = [chord for chord in chords if isinstance(chord, Chord)]
    if not named:
        return solo
    key = _with_mode(region.key, named)
    return replace(solo, keys=(KeyRegion(region.onset, key, _is_blues(key, named, solo.title)), *solo.keys[1:]))


def _with_mode(key: Key, chords: list[Chord]) -> Key:
    if key.mode != "major":
        return key
    relative = Key.from_fifths(key.fifths, "minor")
    tonics = {(chord.root.pitch_class, chord.is_minor) for chord in (chords[0], chords[-1])}
    home_minor = (relative.tonic.pitch_class, True) in tonics
    home_major = (key.tonic.pitch_class, False) in tonics
    return relative if home_minor and not home_major else key


def _is_blues(key: Key, chords: list[Chord], title: str) -> bool:
    tonic = key.tonic.pitch_class
    dominants = {(chord.root.pitch_class - tonic) % 12 for chord in chords if chord.is_dominant}
    starts_home = chords[0].root.pitch_class == tonic
    if starts_home and chords[0].is_dominant and {0, 5} <= dominants:
        return True
    minors = {(chord.root.pitch_class - tonic) % 12 for chord in chords if chord.is_minor}
    return "blues" in title.lower() and {0, 5} <= minors
