"""The chromatic run: three or more successive semitone moves in one direction, up to the last chord tone in them."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from gavotte.giving_way import give_way
from gavotte.labelling.explanation import Explanation, Figure
from gavotte.labelling.figures.kind import FigureKind, Told
from gavotte.labelling.frame import Frame
from gavotte.labelling.framed_note import FramedNote
from gavotte.labelling.wording import note_words, target_words
from gavotte.solo.document import Function
from gavotte.solo.school import School

NAME = "chromatic run"
_FEWEST_MOVES = 3


def chromatic_runs(frame: Frame, school: School, first: int, last: int) -> Iterator[Figure]:
    """The runs among the notes from ``first`` up to ``last``.

    A run starts on a chord tone or on a note reached by step; its last chord tone is the target.
    """
    notes = frame.notes
    i = first
    while i < last - 1:
        give_way()
        j, direction = i, 0
        while j < last - 1 and _moves_by_semitone(notes, j) and direction in (0, notes[j + 1].pitch - notes[j].pitch):
            direction = notes[j + 1].pitch - notes[j].pitch
            j += 1
        start = i if notes[i].is_tone or notes[i].steps_in else i + 1
        end = next((k for k in range(j, start, -1) if notes[k].is_tone and not notes[k].note.grace), None)
        if end is not None and end - start >= _FEWEST_MOVES:
            members = tuple(range(start, end + 1))
            explains = {
                k: Explanation(Function.APPROACH, "chromatic-passing", 0.95, target=end, figure=NAME)
                for k in members
                if not notes[k].is_tone
            }
            if explains:
                yield Figure(NAME, members, explains, target=end)
        i = max(j, i + 1)


def _moves_by_semitone(notes: Sequence[FramedNote], i: int) -> bool:
    return i + 1 < len(notes) and not notes[i].rest_after and abs(notes[i + 1].pitch - notes[i].pitch) == 1


def _reason(frame: Frame, note: FramedNote, explanation: Explanation) -> str:
    up = note.move_out is not None and note.move_out > 0
    goal = target_words(frame, explanation.target)
    return f"{note_words(note)} runs {'up' if up else 'down'} by half steps to {goal}."


def _short(frame: Frame, note: FramedNote, explanation: Explanation) -> str:
    return f"a half step into {frame.notes[explanation.target or 0].note.pitch.shown}"


def _phrase(told: Told) -> str:
    return f"{told.names} run by half steps to {told.goal}"


CHROMATIC_RUN = FigureKind(
    NAME,
    "Chromatic run",
    4,
    chromatic_runs,
    ("chromatic-passing",),
    _reason,
    _short,
    _phrase,
    feature=lambda goal: "",
)
