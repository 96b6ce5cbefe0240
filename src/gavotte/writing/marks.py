"""Marks: how notes are played, which finger, string and pick, and words over a bar."""

from __future__ import annotations

from collections.abc import Callable, Collection
from dataclasses import replace
from fractions import Fraction

from gavotte.solo.document import Articulation, Mark, Note, Pick, Solo, Text

_EXCLUSIVE = (
    {Articulation.STACCATO, Articulation.TENUTO},
    {Articulation.ACCENT, Articulation.MARCATO},
    {Articulation.HAMMER_ON, Articulation.PULL_OFF},
    {Articulation.BEND, Articulation.SCOOP},
)
"""Marks that take each other's place."""

LONGEST_WORDS = 120
"""Words over a bar are no longer than this."""


def _with_notes(solo: Solo, ids: Collection[str], change: Callable[[Note], Note]) -> Solo:
    return replace(solo, notes=tuple(change(note) if note.id in ids else note for note in solo.notes))


def all_have(solo: Solo, ids: Collection[str], articulation: Articulation) -> bool:
    """Whether each of some notes carries a mark; False where there are none."""
    notes = [note for note in solo.notes if note.id in ids]
    return bool(notes) and all(note.has(articulation) for note in notes)


def toggled(solo: Solo, ids: Collection[str], articulation: Articulation) -> Solo:
    """A mark put on all of some notes, or taken off where all have it. It takes the place of what it excludes."""
    if all_have(solo, ids, articulation):
        return _with_notes(
            solo, ids, lambda n: replace(n, marks=tuple(m for m in n.marks if m.articulation is not articulation))
        )
    semitones = Fraction(2) if articulation is Articulation.BEND else None
    return _with_notes(solo, ids, lambda note: _marked(note, Mark(articulation, semitones)))


def _marked(note: Note, mark: Mark) -> Note:
    gone = {mark.articulation}
    for group in _EXCLUSIVE:
        if mark.articulation in group:
            gone |= group
    kept = tuple(known for known in note.marks if known.articulation not in gone)
    return replace(note, marks=(*kept, mark))


def with_bend(solo: Solo, ids: Collection[str], semitones: Fraction) -> Solo:
    """Some notes bent up by ``semitones`` (quarter tones are halves); 0 takes the bend away."""
    if semitones == 0:
        return _with_notes(
            solo,
            ids,
            lambda n: replace(n, marks=tuple(m for m in n.marks if m.articulation is not Articulation.BEND)),
        )
    return _with_notes(solo, ids, lambda note: _marked(note, Mark(Articulation.BEND, semitones)))


def with_doubt_toggled(solo: Solo, ids: Collection[str]) -> Solo:
    """Some notes marked as heard uncertainly, or as certain where all were marked."""
    notes = [note for note in solo.notes if note.id in ids]
    doubt = not all(note.uncertain for note in notes)
    return _with_notes(solo, ids, lambda note: replace(note, uncertain=doubt))


def with_finger(solo: Solo, ids: Collection[str], finger: str) -> Solo:
    """Some notes with a fingering; "" takes it away."""
    return _with_notes(solo, ids, lambda note: replace(note, finger=finger.strip()))


def with_string(solo: Solo, ids: Collection[str], string: int) -> Solo:
    """Some notes on a string, counted from the highest; 0 takes it away."""
    return _with_notes(solo, ids, lambda note: replace(note, string=string))


def with_pick_toggled(solo: Solo, ids: Collection[str], pick: Pick) -> Solo:
    """Some notes with a pick stroke, or without where all had it."""
    notes = [note for note in solo.notes if note.id in ids]
    stroke = None if notes and all(note.pick is pick for note in notes) else pick
    return _with_notes(solo, ids, lambda note: replace(note, pick=stroke))


def words_at(solo: Solo, onset: Fraction) -> str:
    """The words that stand over a time, "" where none do."""
    return next((text.words for text in solo.texts if text.onset == onset), "")


def with_words(solo: Solo, onset: Fraction, words: str) -> Solo:
    """Words over a time in place of what stood there; "" takes them away."""
    others = [text for text in solo.texts if text.onset != onset]
    words = " ".join(words.split())[:LONGEST_WORDS]
    if words:
        others.append(Text(onset, words))
    return replace(solo, texts=tuple(sorted(others, key=lambda text: text.onset)))
