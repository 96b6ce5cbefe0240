"""The line without repeats: a pitch struck again over the same chord as one note, for whoever looks past repetition."""

from __future__ import annotations

import copy
from dataclasses import dataclass, replace

from gavotte.labelling.explanation import Explanation, Figure
from gavotte.labelling.frame import Frame
from gavotte.labelling.framed_note import FramedNote, spliced


@dataclass(frozen=True)
class Line:
    """A frame in which notes struck again are one; ``places`` are the notes each of its own stands for."""

    frame: Frame
    first: int
    last: int
    places: tuple[tuple[int, ...], ...]

    def restored(self, figure: Figure) -> Figure:
        """A figure of this line as one of the whole line."""
        return replace(
            figure,
            members=tuple(i for member in figure.members for i in self._notes(member)),
            explains={i: self._aimed(told) for member, told in figure.explains.items() for i in self._notes(member)},
            target=None if figure.target is None else self._notes(figure.target)[0],
            spells={i: symbol for member, symbol in figure.spells.items() for i in self._notes(member)},
        )

    def _notes(self, place: int) -> tuple[int, ...]:
        return self.places[place - self.first]

    def _aimed(self, explanation: Explanation) -> Explanation:
        if explanation.target is None:
            return explanation
        return replace(explanation, target=self._notes(explanation.target)[0])


def without_repeats(frame: Frame, first: int, last: int) -> Line | None:
    """The notes from ``first`` up to ``last`` and the one after them as a line without repeats; None where none are."""
    groups: list[list[FramedNote]] = []
    for note in frame.notes[first : last + 1]:
        if groups and note.index < last and _strikes_again(groups[-1][-1], note):
            groups[-1].append(note)
        else:
            groups.append([note])
    if len(groups) == len(frame.notes[first : last + 1]):
        return None
    place = {note.index: first + k for k, group in enumerate(groups) for note in group}
    other = copy.copy(frame)
    alone = [_as_one(group, first + k, place) for k, group in enumerate(groups)]
    other.notes = spliced(frame.notes, (first, len(frame.notes)), alone)
    inside = sum(group[0].index < last for group in groups)
    places = tuple(tuple(note.index for note in group) for group in groups)
    return Line(other, first, first + inside, places)


def _strikes_again(note: FramedNote, following: FramedNote) -> bool:
    same = note.pitch == following.pitch and note.span == following.span
    return same and not note.rest_after and not note.note.grace and not following.note.grace


def _as_one(group: list[FramedNote], index: int, place: dict[int, int]) -> FramedNote:
    head, tail = group[0], group[-1]
    return head._replace(
        index=index,
        length=sum(note.length for note in group),
        held=head.dwells,
        rest_after=tail.rest_after,
        sounds_on=tail.sounds_on,
        before=None if head.before is None else place.get(head.before, head.before),
        after=None if tail.after is None else place.get(tail.after),
        move_out=tail.move_out,
        steps_out=tail.steps_out,
    )
