"""Spelling notes that come as bare numbers: by the chord under them, then the key, then where the line goes.

The order is the usual one of engravers' handbooks (see E. Gould, *Behind Bars*, 2011, on accidentals in tonal music):
chord tones as the chord spells them, notes of the key as the signature has them, and chromatic notes raised
where the line goes up, lowered where it goes down.
"""

from __future__ import annotations

from bisect import bisect_right
from dataclasses import replace
from operator import attrgetter

from gavotte.solo.document import Note, Solo
from gavotte.theory.chord import Chord
from gavotte.theory.key import Key
from gavotte.theory.pitch import Pitch, PitchName, respelled, spell

_FAR = 8
"""Names further than this along the line of fifths from the key's middle (B♯ in C, F♭ in C) are avoided."""


def spelled(midi: int, chord: Chord | None, key: Key, following: int | None = None) -> Pitch:
    """A MIDI number as a pitch over a chord in a key; ``following`` is the next note's number."""
    plain = spell(midi, key.fifths)
    name = _chord_name(midi, chord, key) if chord is not None else None
    if name is not None:
        return respelled(plain, name)
    if abs(plain.name.fifths - key.fifths - 2) <= 3 or following is None:
        return plain
    step = following - midi
    if step == 1:
        return _with_fifths(plain, +1, key)
    if step == -1:
        return _with_fifths(plain, -1, key)
    return plain


def _chord_name(midi: int, chord: Chord, key: Key) -> PitchName | None:
    for degree in chord.degrees:
        name = chord.name_of(degree)
        if name.pitch_class == midi % 12:
            return name if abs(name.fifths - key.fifths - 2) <= _FAR and abs(name.alter) < 2 else None
    return None


def _with_fifths(plain: Pitch, side: int, key: Key) -> Pitch:
    """The pitch by its sharper (+1) or flatter (−1) name, if that is still near the key."""
    fifths = plain.name.fifths
    wanted_sharp = side > 0
    is_sharp = fifths > key.fifths + 5
    if wanted_sharp == is_sharp:
        return plain
    other = PitchName.from_fifths(fifths + (12 if wanted_sharp else -12))
    # A white key by the name of its neighbour is harder to read than any chromatic step: F E E♭, and no F♭.
    is_white = plain.alter == 0 and other.pitch_class not in key.pitch_classes
    near = abs(other.fifths - key.fifths - 2) <= _FAR and abs(other.alter) < 2
    return respelled(plain, other) if near and not is_white else plain


def respell_notes(solo: Solo, wanted: frozenset[str] | None = None) -> Solo:
    """The solo with its notes (or only those with the ids wanted) spelled by chord, key and line."""
    notes, places = list(solo.notes), solo.places
    of_wanted = range(len(notes)) if wanted is None else sorted(places[name] for name in wanted if name in places)
    for index in of_wanted:
        note = notes[index]
        following = notes[index + 1].pitch.midi if index + 1 < len(notes) else None
        key = solo.key_at(note.onset).key
        notes[index] = replace(note, pitch=spelled(note.pitch.midi, _chord_at(solo, note), key, following))
    return replace(solo, notes=tuple(notes))


def _chord_at(solo: Solo, note: Note) -> Chord | None:
    index = bisect_right(solo.chords, note.onset, key=attrgetter("onset")) - 1
    symbol = solo.chords[index].symbol if index >= 0 else None
    return symbol if isinstance(symbol, Chord) else None
