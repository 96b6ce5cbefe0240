from __future__ import annotations

import csv
import io
from fractions import Fraction

from gavotte.demo.solos import DEMO_SOLOS
from gavotte.formats.note_table import COLUMNS, write_note_table
from gavotte.labelling.answers import with_reading
from gavotte.labelling.labeller import label_solo
from gavotte.solo.document import Function, Reading, ReadingKind
from gavotte.solo.edits import with_decision
from gavotte.theory.pitch import PitchName


def test_a_row_a_note_with_all_of_its_label() -> None:
    solo = with_decision(DEMO_SOLOS[1](), "n4", Function.OUTSIDE, "unexplained")
    labels = {label.note: label for label in label_solo(solo)}
    rows = list(csv.DictReader(io.StringIO(write_note_table(solo, labels))))
    assert len(rows) == len(solo.notes)
    assert tuple(rows[0]) == COLUMNS
    for row, note in zip(rows, solo.notes, strict=True):
        label = labels[note.id]
        assert Fraction(row["onset"]) == note.onset
        assert (row["pitch"], int(row["midi"])) == (str(note.pitch), note.pitch.midi)
        assert (row["function"], row["device"], row["degree"]) == (label.function, label.device, label.degree)
        assert row["target"] == (label.target or "")
        assert row["reason"] == label.reason
    assert rows[4]["decided"] == "1"
    assert (rows[0]["bar"], rows[0]["beat"]) == ("0", "4")
    assert (rows[3]["bar"], rows[3]["beat"], rows[3]["marks"]) == ("1", "2", "slide")


def test_notes_without_labels_leave_their_cells_empty() -> None:
    rows = list(csv.DictReader(io.StringIO(write_note_table(DEMO_SOLOS[0](), {}))))
    assert {row["function"] for row in rows} == {None}


def test_a_reading_stands_in_the_rows_it_covers() -> None:
    solo = DEMO_SOLOS[0]()
    first, last = solo.notes[4].id, solo.notes[9].id
    read = with_reading(solo, Reading(first, last, ReadingKind.KEY_CENTRE, PitchName("F"), "mixed blues"))
    rows = list(csv.DictReader(io.StringIO(write_note_table(read, {label.note: label for label in label_solo(read)}))))
    covered = [row["reading"] for row in rows]
    assert set(covered[4:10]) == {"F mixed blues"}
    assert covered[3] == covered[10] == ""
