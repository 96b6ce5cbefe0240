"""Where on a record an item is heard: the stretch of the solo it was taken from."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from gavotte.practice.item import PracticeItem
from gavotte.recording.beat_map import Alignment
from gavotte.solo.document import Solo

_LEAD, _RING = 0.05, 0.15
"""Seconds that are heard before the first note and behind the last one."""


@dataclass(frozen=True, slots=True)
class OnRecord:
    """From ``start`` to ``end`` seconds of the record; the item's first note is at ``onset`` of its solo and the record
    plays at ``tempo`` there (quarter notes a minute).
    """

    start: float
    end: float
    onset: Fraction
    tempo: float


def on_record(item: PracticeItem, solo: Solo, alignment: Alignment) -> OnRecord | None:
    """Where an item is heard on the record of the solo it comes from; None where the solo has it no longer."""
    places = solo.places
    notes = item.music.notes
    if not notes or notes[0].id not in places:
        return None
    first = places[notes[0].id]
    there = solo.notes[first : first + len(notes)]
    if [note.pitch.midi for note in there] != [note.pitch.midi for note in notes]:
        return None
    end = max(note.end for note in there)
    start_s, end_s = alignment.seconds(there[0].onset), alignment.seconds(end)
    if end_s <= start_s:
        return None
    tempo = 60 * float(end - there[0].onset) / (end_s - start_s)
    return OnRecord(max(0.0, start_s - _LEAD), end_s + _RING, there[0].onset, tempo)
