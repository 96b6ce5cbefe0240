"""Pitches as they are written down: by name in the nearest octave, moved along the scale, spelled otherwise."""

from __future__ import annotations

from collections.abc import Callable, Collection
from dataclasses import replace
from fractions import Fraction

from gavotte.notation.written import signature
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Instrument, Note, Solo
from gavotte.theory.key import Key
from gavotte.theory.pitch import LETTERS, Pitch, PitchName, respelled
from gavotte.writing.placing import note_before, notes_between

_WIDEST = 2
"""Nobody writes more than a double accidental."""


def named_pitch(solo: Solo, letter: str, time: Fraction, near: Pitch | None = None) -> Pitch:
    """The pitch a letter means at a time: as the bar has it so far, else as the signature, in the nearest octave.

    Nearest is to ``near``, or to the note before, at most a fourth away; a first note lies in the middle of the
    instrument.
    """
    before = note_before(solo, time)
    around = near or (before.pitch if before is not None else _middle(solo.instrument, letter))
    octave = around.octave
    step = LETTERS.index(letter) - LETTERS.index(around.letter)
    octave += 1 if step < -3 else -1 if step > 3 else 0
    pitch = Pitch(letter, _alter_in_bar(solo, letter, octave, time), octave)
    # A line that climbs on and on comes back an octave lower before it leaves what sounds.
    back = 1 if pitch.midi < 0 else -1 if pitch.midi > 127 else 0
    return replace(pitch, octave=octave + back)


def _middle(instrument: Instrument, letter: str) -> Pitch:
    middle = (instrument.lowest + instrument.highest) // 2
    octaves = [Pitch(letter, 0, octave) for octave in range(9)]
    return min(octaves, key=lambda pitch: abs(pitch.midi - middle))


def _alter_in_bar(solo: Solo, letter: str, octave: int, time: Fraction) -> int:
    bar = BarGrid(solo).at(time)
    # Behind the last bar a new one begins.
    before = notes_between(solo, bar.onset, time) if time < bar.end else ()
    earlier = [note.pitch for note in before if (note.pitch.letter, note.pitch.octave) == (letter, octave)]
    return earlier[-1].alter if earlier else signature(solo.key_at(time).key.fifths).get(letter, 0)


def altered(pitch: Pitch, by: int) -> Pitch:
    """The pitch a semitone up or down under the same letter, as far as a letter goes."""
    alter = pitch.alter + by
    return replace(pitch, alter=alter) if abs(alter) <= _WIDEST else pitch


def along_scale(pitch: Pitch, steps: int, key: Key) -> Pitch:
    """The pitch ``steps`` scale steps away in a key; what was raised or lowered there stays raised or lowered."""
    signed = signature(key.fifths)
    octave, index = divmod(pitch.staff_step + steps, 7)
    letter = LETTERS[index]
    own = pitch.alter - signed.get(pitch.letter, 0)
    alter = signed.get(letter, 0) + own
    return Pitch(letter, max(-_WIDEST, min(_WIDEST, alter)), octave)


def other_name(pitch: Pitch) -> Pitch:
    """The same sound under its next name: C♯, D♭, B𝄪, C♯ again."""
    index = LETTERS.index(pitch.letter)
    for step in (1, 2, 3, 4, 5, 6):
        letter = LETTERS[(index + step) % 7]
        for alter in (-1, 0, 1, -2, 2):
            name = PitchName(letter, alter)
            if name.pitch_class == pitch.pitch_class:
                return respelled(pitch, name)
    return pitch


def with_pitches(solo: Solo, ids: Collection[str], change: Callable[[Note], Pitch]) -> Solo:
    """The solo with other pitches for some notes; those that would leave 0 to 127 stay."""

    def changed(note: Note) -> Note:
        if note.id not in ids:
            return note
        pitch = change(note)
        return replace(note, pitch=pitch) if 0 <= pitch.midi <= 127 else note

    return replace(solo, notes=tuple(map(changed, solo.notes)))


def with_pitch(solo: Solo, note_id: str, pitch: Pitch) -> Solo:
    """The solo with another pitch for one note."""
    return with_pitches(solo, (note_id,), lambda _: pitch)


def moved_along_scale(solo: Solo, ids: Collection[str], steps: int) -> Solo:
    """The solo with some notes moved by scale steps of the key in force."""
    return with_pitches(solo, ids, lambda note: along_scale(note.pitch, steps, solo.key_at(note.onset).key))


def moved_by_octaves(solo: Solo, ids: Collection[str], octaves: int) -> Solo:
    """The solo with some notes moved by octaves; notes that would leave 0 to 127 stay."""
    return with_pitches(solo, ids, lambda note: replace(note.pitch, octave=note.pitch.octave + octaves))


def with_accidental(solo: Solo, ids: Collection[str], by: int) -> Solo:
    """The solo with some notes a semitone up or down under the same letter."""
    return with_pitches(solo, ids, lambda note: altered(note.pitch, by))


def with_other_names(solo: Solo, ids: Collection[str]) -> Solo:
    """The solo with some notes under their next names."""
    return with_pitches(solo, ids, lambda note: other_name(note.pitch))
