"""The double approach: two successive semitones from one side into the target, the first of them leapt to."""

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

NAME = "double approach"


def double_approaches(frame: Frame, school: School, first: int, last: int) -> Iterator[Figure]:
    """The double approaches whose two notes lie between ``first`` and ``last``."""
    for target in range(first + 2, min(last + 1, len(frame.notes))):
        give_way()
        before, second, goal = frame.notes[target - 2 : target + 1]
        distances = [before.pitch - goal.pitch, second.pitch - goal.pitch]
        if (
            closes_by_semitones(distances)
            and before.leaps_in
            and not (before.is_tone or second.is_tone or before.held or second.held)
            and not (before.rest_after or second.rest_after)
            and frame.is_resting_point(target)
        ):
            device = "double-below" if distances[0] < 0 else "double-above"
            explains = {
                k: Explanation(Function.APPROACH, device, 0.93, target=target, figure=NAME)
                for k in (target - 2, target - 1)
            }
            yield Figure(NAME, (target - 2, target - 1), explains, target=target)


def closes_by_semitones(distances: Sequence[int]) -> bool:
    """Whether the last two of these distances from a target are successive semitones on one side of it."""
    return tuple(distances[-2:]) in ((2, 1), (-2, -1))


def _reason(frame: Frame, note: FramedNote, explanation: Explanation) -> str:
    side, goal = explanation.device.removeprefix("double-"), target_words(frame, explanation.target)
    return f"{note_words(note)} belongs to two half steps from {side} that lead into {goal}."


def _short(frame: Frame, note: FramedNote, explanation: Explanation) -> str:
    return f"a half step into {frame.notes[explanation.target or 0].note.pitch.shown}"


def _phrase(told: Told) -> str:
    return f"{told.names} lead by two half steps from {told.device.removeprefix('double-')} into {told.goal}"


def _feature(goal: str) -> str:
    return f"double approach to {goal}" if goal else "double approach"


DOUBLE_APPROACH = FigureKind(
    NAME,
    "Double approach",
    5,
    double_approaches,
    ("double-below", "double-above"),
    _reason,
    _short,
    _phrase,
    _feature,
    surprise={"double-below": 0.7, "double-above": 0.7},
)
