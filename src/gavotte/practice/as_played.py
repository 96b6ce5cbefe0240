"""A take as music: the line as it was played, to be labelled and shown like any other."""

from __future__ import annotations

import itertools
from dataclasses import replace
from fractions import Fraction

import numpy as np

from gavotte.labelling.labeller import labelled
from gavotte.practice.due import DueLine
from gavotte.practice.take import AddedNote, Take, Verdict
from gavotte.solo.document import Note, Solo
from gavotte.solo.label import Label
from gavotte.solo.note_labels import NoteLabels
from gavotte.theory.pitch import spell

_SIXTEENTH = Fraction(1, 4)
_ADDED = "added"
_AROUND = 4
"""Quarter notes around the line in which added notes belong to it."""


def as_played(line: DueLine, take: Take) -> Solo:
    """The solo with what was played in place of what is written: wrong pitches, gaps for what was missed, and what was
    added, to the nearest sixteenth.
    """
    written = {note.id: note for note in line.notes}
    notes = {}
    for judged in take.notes:
        if judged.verdict is Verdict.MISSED or judged.heard is None:
            continue
        note = written[judged.note]
        notes[note.onset] = (
            note if judged.verdict is Verdict.RIGHT else replace(note, pitch=spell(judged.heard, 0), marks=())
        )
    for number, extra in enumerate(take.added):
        onset = _written_time(line, take, extra)
        if onset is not None and onset not in notes:
            notes[onset] = Note(added_id(number), onset, _SIXTEENTH, spell(extra.midi, 0))
    ordered = [notes[onset] for onset in sorted(notes)]
    shortened = [
        replace(note, duration=min(note.duration, following.onset - note.onset), written=())
        if note.end > following.onset
        else note
        for note, following in itertools.pairwise(ordered)
    ]
    return replace(line.solo, notes=(*shortened, *ordered[-1:]), decisions=())


def labels_as_played(line: DueLine, take: Take) -> dict[str, Label]:
    """What each played note is against its chord, by the id of the written note (or of the added one)."""
    return NoteLabels(labelled(as_played(line, take)).labels)


def added_id(number: int) -> str:
    """What the note is called that an added one becomes."""
    return f"{_ADDED}{number}"


def written_place(line: DueLine, take: Take, seconds: float) -> float | None:
    """The written time (quarter notes) that was reached at a moment of the take; None where too little was heard."""
    places = [
        (judged.seconds, float(note.onset))
        for judged, note in zip(take.notes, line.notes, strict=True)
        if judged.seconds is not None
    ]
    places = [place for k, place in enumerate(places) if not k or place[0] > places[k - 1][0]]
    if len(places) < 2:
        return None
    times, onsets = np.array(places).T
    if times[0] <= seconds <= times[-1]:
        return float(np.interp(seconds, times, onsets))
    edge = 0 if seconds < times[0] else -1
    return float(onsets[edge] + (seconds - times[edge]) * take.tempo / 60)


def _written_time(line: DueLine, take: Take, extra: AddedNote) -> Fraction | None:
    """Where an added note lies in the solo, to the nearest sixteenth; None where nothing around it was heard."""
    place = written_place(line, take, extra.seconds)
    if place is None or not line.notes[0].onset - _AROUND <= place <= line.notes[-1].end + _AROUND:
        return None
    placed = Fraction(round(4 * place), 4)
    return placed if placed >= -line.solo.pickup else None
