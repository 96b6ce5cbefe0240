"""Voicings: a chord as sounding notes for two hands, following each other with little motion.

The left hand has the root; the right the tones that tell the chord (third or fourth, seventh or sixth, a written
tension) in the octave around middle C, moved as little as possible from chord to chord. See M. Levine,
*The Jazz Piano Book* (1989), on three-note voicings.
"""

from __future__ import annotations

from collections.abc import Iterable

from gavotte.theory.chord import DEGREE_SEMITONES, Chord

_LOWEST_ROOT = 36
_LOWEST, _HIGHEST = 52, 71


def voicings(chords: Iterable[Chord]) -> list[tuple[int, ...]]:
    """One voicing for each chord, as MIDI numbers from the bass up."""
    found: list[tuple[int, ...]] = []
    upper: tuple[int, ...] = ()
    for chord in chords:
        bass_name = chord.bass or chord.root
        bass = _LOWEST_ROOT + bass_name.pitch_class
        upper = _nearest(_telling_classes(chord), upper)
        found.append((bass, *upper))
    return found


def _telling_classes(chord: Chord) -> list[int]:
    """Pitch classes of the two or three tones that tell the chord."""
    degrees = [degree for degree in (chord.third, chord.seventh or ("6" if chord.sixth else "")) if degree]
    if len(degrees) < 2:
        degrees.append(chord.fifth or "5")
    if chord.altered:
        degrees.append("b13")
    elif chord.tensions:
        degrees.append(chord.tensions[-1])
    elif chord.fifth in ("b5", "#5") and chord.fifth not in degrees:
        degrees.append(chord.fifth)
    root = chord.root.pitch_class
    return list(dict.fromkeys((root + DEGREE_SEMITONES[degree]) % 12 for degree in degrees))


def _nearest(classes: list[int], before: tuple[int, ...]) -> tuple[int, ...]:
    """The close position of the classes whose notes lie nearest to the voicing before (or to the middle)."""
    middle = sum(before) / len(before) if before else (_LOWEST + _HIGHEST) / 2
    positions = []
    for lowest in classes:
        bottom = _LOWEST + (lowest - _LOWEST) % 12
        for start in (bottom, bottom + 12):
            notes = tuple(sorted(start + (pitch_class - lowest) % 12 for pitch_class in classes))
            if notes[-1] <= _HIGHEST + 7:
                positions.append(notes)
    return min(positions, key=lambda notes: abs(sum(notes) / len(notes) - middle))
