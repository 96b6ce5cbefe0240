"""A line of frames out of pieces: whatever was put in and taken out, it is the line that would be made anew."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from fractions import Fraction

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from gavotte.labelling import framed_note
from gavotte.labelling.frame import Frame
from gavotte.labelling.framed_note import spliced
from gavotte.solo.document import ChordEvent, Note, Solo
from gavotte.theory.pitch import Pitch

LONG = Solo(
    "",
    notes=tuple(
        Note(f"n{i}", Fraction(i), Fraction(1, 2) if i % 5 == 4 else Fraction(1), Pitch("CDE"[i % 3], 0, 5))
        for i in range(60)
    ),
    chords=tuple(ChordEvent(f"c{i}", Fraction(4 * i), ("Dm7", "G7")[i % 2]) for i in range(15)),
)


@pytest.fixture(autouse=True)
def pieces_stay_apart(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(framed_note, "_SHORT", 4)


@given(st.lists(st.tuples(st.floats(0, 1), st.integers(0, 6), st.integers(0, 6), st.integers(-1, 1)), max_size=8))
@settings(max_examples=150)
def test_edits_on_edits_leave_every_frame_where_it_belongs(edits: list[tuple[float, int, int, int]]) -> None:
    frames = list(Frame(LONG).notes)
    line: Sequence[framed_note.FramedNote] = frames
    expected = [(note.note.id, note.span) for note in frames]
    for where, gone, come, spans in edits:
        first = int(where * len(line))
        last = min(len(line), first + gone)
        fresh = [replace_index(frames[k], first + k) for k in range(come)]
        line = spliced(line, (first, last), fresh, spans)
        behind = [(name, span + spans) for name, span in expected[last:]]
        expected = [*expected[:first], *((note.note.id, note.span) for note in fresh), *behind]
        assert [(note.note.id, note.span) for note in line] == expected
        assert [line[i].index for i in range(len(line))] == list(range(len(expected)))
        assert line[2:9] == list(line)[2:9]
        assert line[-3:] == list(line)[-3:]
        assert not line or line[-1] == list(line)[-1]


def replace_index(note: framed_note.FramedNote, index: int) -> framed_note.FramedNote:
    """The frame of a note as the one at ``index``."""
    return note._replace(index=index)


def test_a_place_outside_the_line_is_none() -> None:
    line = spliced(list(Frame(LONG).notes), (3, 4), [])
    for place in (59, -60):
        with pytest.raises(IndexError):
            line[place]


def test_behind_a_note_that_is_taken_out_everything_is_as_framed_anew() -> None:
    known = Frame(LONG)
    for place in (30, 10, 45, 5):
        shorter = replace(known.solo, notes=(*known.solo.notes[:place], *known.solo.notes[place + 1 :]))
        known = Frame(shorter, like=known)
        assert list(known.notes) == list(Frame(shorter).notes)
