"""Figures: groups of notes that are heard as one on their way to a target.

Each finder returns every figure of its kind that the line allows; ``decision`` chooses among those that
overlap. A figure never explains a tone of the written chord: that stays a chord tone and joins the group.
"""

from __future__ import annotations

from collections.abc import Iterator

from gavotte.labelling.explanation import Explanation, Figure
from gavotte.labelling.frame import Frame, FramedNote
from gavotte.solo.document import Function

RULE_RUN, RULE_ENCLOSURE = 4, 5
_WHOLE_TONE = 2


def all_figures(frame: Frame) -> list[Figure]:
    """Every chromatic run, enclosure and double approach in a solo."""
    return [*chromatic_runs(frame), *enclosures(frame), *double_approaches(frame)]


def chromatic_runs(frame: Frame) -> Iterator[Figure]:
    """Three or more successive semitone moves in one direction, up to the last chord tone among them.

    The run starts on a chord tone or on a note reached by step.
    """
    notes = frame.notes
    i = 0
    while i < len(notes) - 1:
        j, direction = i, 0
        while _moves_by_semitone(notes, j) and direction in (0, notes[j + 1].pitch - notes[j].pitch):
            direction = notes[j + 1].pitch - notes[j].pitch
            j += 1
        start = i if notes[i].is_tone or notes[i].steps_in else i + 1
        end = next((k for k in range(j, start, -1) if notes[k].is_tone and not notes[k].note.grace), None)
        if end is not None and end - start >= 3:
            members = tuple(range(start, end + 1))
            explains = {
                k: Explanation(Function.APPROACH, "chromatic-passing", 0.93, target=end)
                for k in members
                if not notes[k].is_tone
            }
            if explains:
                yield Figure(RULE_RUN, "chromatic run", members, explains, target=end)
        i = max(j, i + 1)


def _moves_by_semitone(notes: list[FramedNote], i: int) -> bool:
    return i + 1 < len(notes) and not notes[i].rest_after and abs(notes[i + 1].pitch - notes[i].pitch) == 1


def enclosures(frame: Frame) -> Iterator[Figure]:
    """Two to four short notes around a target, on both sides of it and within a whole tone.

    The longest figure made of non-chord tones alone is taken; failing that, the shortest that fits.
    """
    for target in range(2, len(frame.notes)):
        last = frame.notes[target - 1]
        if not 0 < abs(last.pitch - frame.notes[target].pitch) <= _WHOLE_TONE or not frame.is_resting_point(target):
            continue
        fitting = [size for size in (2, 3, 4) if size <= target and _encloses(frame, target, size)]
        if not fitting:
            continue
        foreign = [size for size in fitting if not any(frame.notes[k].is_tone for k in range(target - size, target))]
        size = max(foreign) if foreign else min(fitting)
        members = tuple(range(target - size, target))
        confidence = 0.9 if foreign else 0.78
        explains = {
            k: Explanation(Function.APPROACH, "enclosure", confidence, target=target)
            for k in members
            if not frame.notes[k].is_tone
        }
        yield Figure(RULE_ENCLOSURE, "enclosure", members, explains, target=target)


def _encloses(frame: Frame, target: int, size: int) -> bool:
    figure = frame.notes[target - size : target]
    goal = frame.notes[target]
    distances = [note.pitch - goal.pitch for note in figure]
    foreign = [note for note in figure if not note.is_tone]
    if not foreign or any(d == 0 or abs(d) > _WHOLE_TONE for d in distances):
        return False
    if not (min(distances) < 0 < max(distances)):
        return False
    if any(note.held or note.rest_after for note in figure):
        return False
    if not any(abs(note.pitch - goal.pitch) == 1 for note in foreign):
        return False
    mixed = len(foreign) < size
    if mixed and any(_resolves_inside(figure, k) for k in range(size - 1)):
        return False
    if closes_by_semitones(distances) or any(_tops_arpeggio(frame, note.index) for note in figure):
        return False
    one_scale_note = size == 2 and len(foreign) == 1 and foreign[0].in_scale
    return not one_scale_note or goal.strong or frame.on_chord_change(goal)


def _resolves_inside(figure: list[FramedNote], k: int) -> bool:
    """Whether a note already steps into a chord tone of the figure: then that one is its target."""
    note, following = figure[k], figure[k + 1]
    return not note.is_tone and following.is_tone and abs(note.pitch - following.pitch) <= _WHOLE_TONE


def closes_by_semitones(distances: list[int]) -> bool:
    """Whether the last two notes are a double approach: two successive semitones from one side."""
    return tuple(distances[-2:]) in ((2, 1), (-2, -1))


def _tops_arpeggio(frame: Frame, i: int) -> bool:
    """Whether the note is the top of an arpeggio in thirds of three notes or more."""
    if i < 2 or i + 1 >= len(frame.notes):
        return False
    low, middle, top, following = (frame.notes[k].pitch for k in (i - 2, i - 1, i, i + 1))
    return middle - low in (3, 4) and top - middle in (3, 4) and following < top


def double_approaches(frame: Frame) -> Iterator[Figure]:
    """Two successive semitones from one side into a target, the first leapt to."""
    for target in range(2, len(frame.notes)):
        first, second, goal = frame.notes[target - 2 : target + 1]
        distances = [first.pitch - goal.pitch, second.pitch - goal.pitch]
        if (
            closes_by_semitones(distances)
            and first.leaps_in
            and not (first.is_tone or second.is_tone or first.held or second.held)
            and not (first.rest_after or second.rest_after)
            and frame.is_resting_point(target)
        ):
            device = "double-below" if distances[0] < 0 else "double-above"
            explains = {k: Explanation(Function.APPROACH, device, 0.9, target=target) for k in (target - 2, target - 1)}
            yield Figure(RULE_ENCLOSURE, "double approach", (target - 2, target - 1), explains, target=target)
