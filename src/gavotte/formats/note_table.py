"""A solo's notes as a table (CSV): a row a note with its time, pitch and label, for spreadsheets and statistics."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterator, Mapping

from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Solo
from gavotte.solo.label import Label

COLUMNS = (
    "note", "bar", "beat", "onset", "duration", "pitch", "midi", "grace", "marks", "uncertain", "chord", "scale",
    "degree", "function", "device", "target", "group", "implied", "confidence", "decided", "tension", "reason",
    "reading",
)  # fmt: skip
"""Column names. ``onset`` and ``duration`` are quarter notes as exact fractions, ``target`` is a note, ``group`` the
first note of its figure, ``reading`` what a note is heard against where that is not the chord.
"""


def write_note_table(solo: Solo, labels: Mapping[str, Label]) -> str:
    """The table as text, with a heading row; cells of a note without a label stay empty."""
    out = io.StringIO()
    table = csv.writer(out, lineterminator="\n")
    table.writerow(COLUMNS)
    table.writerows(note_rows(solo, labels))
    return out.getvalue()


def note_rows(solo: Solo, labels: Mapping[str, Label]) -> Iterator[list[object]]:
    """The table's rows without their heading."""
    grid = BarGrid(solo)
    for note in solo.notes:
        bar, offset = grid.locate(note.onset)
        beat, start = bar.meter.beat_at(offset)
        place = beat + 1 + (offset - start.offset) / start.length
        label = labels.get(note.id)
        marks = " ".join(
            f"{mark.articulation}:{mark.semitones}" if mark.semitones is not None else str(mark.articulation)
            for mark in note.marks
        )
        row: list[object] = [
            note.id, bar.number, place, note.onset, note.duration, note.pitch, note.pitch.midi, int(note.grace),
            marks, int(note.uncertain),
        ]  # fmt: skip
        if label is not None:
            row += [
                label.chord, label.scale, label.degree, label.function, label.device, label.target or "",
                "" if label.group is None else label.group, label.implied or "", label.confidence,
                int(label.decided), label.tension, label.reason, label.heard,
            ]  # fmt: skip
        yield row
