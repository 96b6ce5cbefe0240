"""The enclosure: two to four short notes directly before the target, on both sides of it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from gavotte.giving_way import give_way
from gavotte.labelling.costs import costs_of
from gavotte.labelling.explanation import Explanation, Figure
from gavotte.labelling.figures.arpeggio import tops_arpeggio
from gavotte.labelling.figures.double_approach import closes_by_semitones
from gavotte.labelling.figures.implied_run import IMPLIED_RUN, yielding_run
from gavotte.labelling.figures.kind import FigureKind, Told
from gavotte.labelling.frame import Frame
from gavotte.labelling.framed_note import FramedNote
from gavotte.labelling.wording import note_words, target_words
from gavotte.solo.document import Function
from gavotte.solo.school import School

NAME = "enclosure"
_WHOLE_TONE = 2
_SIZES = (2, 3, 4)


def enclosures(frame: Frame, school: School, first: int, last: int) -> Iterator[Figure]:
    """The enclosures whose notes lie between ``first`` and ``last``.

    All their notes lie within a whole tone of the target. The longest figure made of non-chord tones alone is taken;
    failing that, the shortest that fits.
    """
    for target in range(first + 2, min(last + 1, len(frame.notes))):
        give_way()
        nearest = frame.notes[target - 1]
        if not 0 < abs(nearest.pitch - frame.notes[target].pitch) <= _WHOLE_TONE:
            continue
        if not frame.is_resting_point(target):
            continue
        fitting = [size for size in _SIZES if size <= target - first and _encloses(frame, target, size)]
        if not fitting:
            continue
        foreign = [size for size in fitting if not any(frame.notes[k].is_tone for k in range(target - size, target))]
        size = max(foreign) if foreign else min(fitting)
        members = tuple(range(target - size, target))
        fit = 0.93 if foreign else 0.8
        figure = frame.notes[target - size : target]
        if size == _SIZES[0] and all(note.is_tone or note.in_scale for note in figure):
            # Two notes of the scale enclose only by where their target falls.
            fit -= 0.1
        extra = 0.0 if foreign else costs_of(school).tone_in_enclosure
        explains = {
            k: Explanation(Function.APPROACH, "enclosure", fit, target=target, figure=NAME)
            for k in members
            if not frame.notes[k].is_tone
        }
        yield Figure(NAME, members, explains, target=target, extra=extra)


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
    if closes_by_semitones(distances):
        return False
    # The top of an arpeggio encloses nothing, unless the arpeggio goes on to a run that yields to the enclosure.
    tops = any(tops_arpeggio(frame, note.index) for note in figure)
    if tops and not (size == 2 and yielding_run(frame, figure[0].index, target)):
        return False
    one_scale_note = size == 2 and len(foreign) == 1 and foreign[0].in_scale
    return not one_scale_note or goal.strong or frame.on_chord_change(goal)


def _resolves_inside(figure: Sequence[FramedNote], k: int) -> bool:
    """Whether a note already steps into a chord tone of the figure: then that one is its target."""
    note, following = figure[k], figure[k + 1]
    return not note.is_tone and following.is_tone and abs(note.pitch - following.pitch) <= _WHOLE_TONE


def _reason(frame: Frame, note: FramedNote, explanation: Explanation) -> str:
    goal = target_words(frame, explanation.target)
    return f"{note_words(note)} is part of the ring of notes above and below that closes in on {goal}."


def _short(frame: Frame, note: FramedNote, explanation: Explanation) -> str:
    return f"part of an enclosure of {frame.notes[explanation.target or 0].note.pitch.shown}"


def _phrase(told: Told) -> str:
    return f"{told.names} {'close' if told.size > 1 else 'closes'} in on {told.goal}"


def _feature(goal: str) -> str:
    return f"enclosure of {goal}" if goal else "enclosure"


ENCLOSURE = FigureKind(
    NAME,
    "Enclosure",
    5,
    enclosures,
    ("enclosure",),
    _reason,
    _short,
    _phrase,
    _feature,
    surprise={"enclosure": 0.4},
    # A chord tone inside a run that spells another chord is no side of an enclosure.
    not_inside=(IMPLIED_RUN.name,),
)
