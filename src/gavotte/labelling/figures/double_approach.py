"""The double approach: two successive semitones from one side into the target, the first of them leapt to."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from gavotte.labelling.explanation import Explanation, Figure, FigureKind
from gavotte.labelling.frame import Frame
from gavotte.solo.document import Function
from gavotte.solo.school import School

RULE = 5


def double_approaches(frame: Frame, school: School, first: int, last: int) -> Iterator[Figure]:
    """The double approaches whose two notes lie between ``first`` and ``last``."""
    for target in range(first + 2, min(last + 1, len(frame.notes))):
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
                k: Explanation(Function.APPROACH, device, 0.93, target=target) for k in (target - 2, target - 1)
            }
            yield Figure(RULE, FigureKind.DOUBLE_APPROACH, (target - 2, target - 1), explains, target=target)


def closes_by_semitones(distances: Sequence[int]) -> bool:
    """Whether the last two of these distances from a target are successive semitones on one side of it."""
    return tuple(distances[-2:]) in ((2, 1), (-2, -1))
