"""A note in its frame, and a line of them that knows how to stand behind an edit."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterator, Sequence
from typing import TYPE_CHECKING, NamedTuple, overload

from gavotte.solo.document import Note

if TYPE_CHECKING:
    from gavotte.labelling.centre import Centre


class FramedNote(NamedTuple):
    """One note in its frame.

    ``before`` and ``after`` are the indexes of the nearest earlier and later notes at another pitch (a
    repeated pitch is looked past), None where there is none or a rest lies between; ``move_in`` and
    ``move_out`` the semitones from and to them. ``pitch`` is the MIDI number,
    ``place`` where in the bar it stands ("the and of 2"), ``until_change`` the time from its onset to the next
    chord (infinite where none follows), and ``sounds_on`` whether it sounds into that chord. ``dwells`` says that the
    note with those that strike it again over the chord is held, ``held`` that it is so by itself. ``centre`` is the
    collection the note is heard in where a stretch is read by its key centre, ``in_centre`` whether it belongs to it.
    """

    # A tuple is made in a fraction of the time a data class takes, and there is one for every note.
    index: int  # type: ignore[assignment]
    note: Note
    pitch: int
    span: int
    degree: str
    is_tone: bool
    in_scale: bool
    tension: bool
    clash: bool
    blue: bool
    strong: bool
    length: float
    beat_length: float
    place: str
    until_change: float
    sounds_on: bool
    held: bool
    dwells: bool
    rest_before: bool
    rest_after: bool
    before: int | None
    after: int | None
    move_in: int | None
    move_out: int | None
    steps_in: bool
    steps_out: bool
    centre: Centre | None = None
    in_centre: bool = False

    @property
    def on_beat(self) -> bool:
        """Whether it starts on a beat."""
        return self.place.startswith("beat")

    @property
    def leaps_in(self) -> bool:
        """Reached by more than a step, or after a rest, or first of all."""
        return not self.steps_in

    @property
    def leaps_out(self) -> bool:
        """Left by more than a step into a following note."""
        return self.move_out is not None and not self.steps_out

    @property
    def stands_out(self) -> bool:
        """Held, or reached or left by more than a step."""
        return self.held or self.leaps_in or self.leaps_out


_SPAN, _BEFORE, _AFTER = (FramedNote._fields.index(name) for name in ("span", "before", "after"))


def _shifted(note: FramedNote, by: int, spans: int) -> FramedNote:
    """The same frame ``by`` notes and ``spans`` chords farther on."""
    before = None if note.before is None else note.before + by
    after = None if note.after is None else note.after + by
    # By place: naming the fields takes five times as long.
    between = note[_SPAN + 1 : _BEFORE]
    return FramedNote._make(
        (note.index + by, *note[1:_SPAN], note.span + spans, *between, before, after, *note[_AFTER + 1 :])
    )


class _Piece(NamedTuple):
    """Some frames of an earlier line, from ``start`` up to ``stop`` in it, that stand ``by`` notes and ``spans`` chords
    farther on now.
    """

    frames: Sequence[FramedNote]
    start: int
    stop: int
    by: int = 0
    spans: int = 0

    def at(self, place: int) -> FramedNote:
        """The frame at a place of the earlier line."""
        note = self.frames[place]
        return _shifted(note, self.by, self.spans) if self.by or self.spans else note

    def all(self) -> Sequence[FramedNote]:
        """Its frames, in order."""
        frames = self.frames[self.start : self.stop]
        return [_shifted(note, self.by, self.spans) for note in frames] if self.by or self.spans else frames

    def part(self, first: int, last: int) -> _Piece:
        """The frames from ``first`` up to ``last``, counted from its beginning."""
        return self._replace(start=self.start + first, stop=min(self.stop, self.start + last))


_SHORT = 400
"""Pieces of fewer frames are put together."""


class _Pieces(Sequence[FramedNote]):
    """A line of frames out of pieces: an edit moves all that is behind it, and only who asks has them made anew."""

    def __init__(self, pieces: Sequence[_Piece]) -> None:
        joined: list[_Piece] = []
        for piece in pieces:
            if piece.start == piece.stop:
                continue
            before = joined[-1] if joined else None
            if before is not None and before.stop - before.start + piece.stop - piece.start < _SHORT:
                frames = [*before.all(), *piece.all()]
                joined[-1] = _Piece(frames, 0, len(frames))
            else:
                joined.append(piece)
        self.pieces = joined
        self._ends: list[int] = []
        length = 0
        for piece in joined:
            length += piece.stop - piece.start
            self._ends.append(length)

    def __len__(self) -> int:
        return self._ends[-1] if self._ends else 0

    @overload
    def __getitem__(self, index: int) -> FramedNote: ...
    @overload
    def __getitem__(self, index: slice) -> list[FramedNote]: ...
    def __getitem__(self, index: int | slice) -> FramedNote | list[FramedNote]:
        if isinstance(index, slice):
            first, last, step = index.indices(len(self))
            frames = [note for piece in self.between(first, last) for note in piece.all()]
            return frames if step == 1 else [self[i] for i in range(first, last, step)]
        index = index if index >= 0 else index + len(self)
        if index < 0:
            raise IndexError(index)
        number = bisect_right(self._ends, index)
        piece = self.pieces[number]
        return piece.at(index - self._ends[number] + piece.stop)

    def __iter__(self) -> Iterator[FramedNote]:
        for piece in self.pieces:
            yield from piece.all()

    def between(self, first: int, last: int) -> list[_Piece]:
        """The pieces from one place of the line up to another."""
        starts = [0, *self._ends]
        return [
            piece.part(max(0, first - start), last - start)
            for piece, start, end in zip(self.pieces, starts, self._ends, strict=False)
            if start < last and end > first
        ]


def spliced(
    line: Sequence[FramedNote], gone: tuple[int, int], come: list[FramedNote], spans: int = 0
) -> Sequence[FramedNote]:
    """A line with other frames in place of those from ``gone[0]`` up to ``gone[1]``.

    What stands behind them stands behind the new ones then, and ``spans`` chords farther on.
    """
    first, last = gone
    by = first + len(come) - last
    if not isinstance(line, _Pieces):
        if not by and not spans:
            return [*line[:first], *come, *line[last:]]
        line = _Pieces([_Piece(line, 0, len(line))])
    behind = [piece._replace(by=piece.by + by, spans=piece.spans + spans) for piece in line.between(last, len(line))]
    return _Pieces([*line.between(0, first), _Piece(come, 0, len(come)), *behind])
