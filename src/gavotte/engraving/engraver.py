"""The engraver: verovio behind one call that sets a line and returns its shapes."""

from __future__ import annotations

import itertools
from collections import deque
from collections.abc import Mapping
from dataclasses import dataclass
from fractions import Fraction
from functools import cached_property

import verovio

from gavotte.engraving.mei import Line, Staff, line_mei, staff_for
from gavotte.engraving.shapes import STAFF_SPACE, Box, Drawing, ShapeReader
from gavotte.notation.written import Notation
from gavotte.solo.document import ChordEvent, Note, Solo
from gavotte.solo.form import form_marks

LINE_WIDTH = 21000.0
"""Width of a line in engraver units, margins included."""

BARS_PER_LINE = 4

_OPTIONS = {
    "pageWidth": 2100,
    "pageHeight": 2970,
    "adjustPageHeight": True,
    "breaks": "auto",
    "minLastJustification": 0,
    "header": "none",
    "footer": "none",
    "svgRemoveXlink": True,
    "svgViewBox": True,
    "svgFormatRaw": True,
    "pageMarginLeft": 40,
    "pageMarginRight": 20,
    "pageMarginTop": 20,
    "pageMarginBottom": 20,
    "mnumInterval": 0,
    "lyricSize": 6.0,
    "lyricWordSpace": 0.5,
    "smuflTextFont": "none",
    "spacingNonLinear": 0.6,
    "spacingLinear": 0.25,
}


@dataclass(frozen=True)
class LineFormat:
    """How wide a full line is, in engraver units, and how many bars go on it."""

    width: float = LINE_WIDTH
    bars: int = BARS_PER_LINE


PAGE_LINES = LineFormat()
"""The lines of the page on the screen."""


def line_format(zoom: float) -> LineFormat:
    """The lines of a page shown larger (or smaller) by a factor, as wide as its view: fewer bars (or more) on each."""
    return LineFormat(LINE_WIDTH / zoom, max(1, round(BARS_PER_LINE / zoom)))


class EngravingError(RuntimeError):
    """The engraver could not set a line."""


@dataclass(frozen=True)
class PlacedNote:
    """Where a note stands in its line: the head of its first written part, all its parts, and its bar."""

    note: Note
    x: float
    head: Box
    elements: tuple[str, ...]


@dataclass(frozen=True)
class PlacedChord:
    """A chord symbol and the x it starts at."""

    chord: ChordEvent
    x: float


@dataclass(frozen=True)
class EngravedLine:
    """One line of the page: bars ``first`` up to ``last``, what was drawn, and where notes and chords stand."""

    first: int
    last: int
    drawing: Drawing
    source: Line

    @cached_property
    def notes(self) -> tuple[PlacedNote, ...]:
        """The notes that start in this line, in order."""
        parts: dict[str, list[str]] = {}
        for event_id, event in self.source.events.items():
            if event.note is not None:
                parts.setdefault(event.note.id, []).append(event_id)
        placed = []
        for event_id, event in self.source.events.items():
            if event.note is None or event.tied_from:
                continue
            element = self.drawing.by_id(event_id)
            if element is None or element.head is None:
                continue
            placed.append(PlacedNote(event.note, element.head.centre[0], element.head, tuple(parts[event.note.id])))
        return tuple(placed)

    @cached_property
    def carried_parts(self) -> dict[str, str]:
        """Elements of notes that started in an earlier line: element id -> note id."""
        return {
            event_id: event.note.id
            for event_id, event in self.source.events.items()
            if event.note is not None and event.tied_from
        }

    @cached_property
    def chords(self) -> tuple[PlacedChord, ...]:
        """The chord symbols of this line, in order."""
        lefts = [self._first_bar_left, *(x + 0.6 * STAFF_SPACE for x in self.barlines)]
        placed = []
        for index, chord in self.source.chords:
            bar = self.source.bars[index].bar
            points = self._points[index]
            onset = float(chord.onset)
            here = next((x for time, x in points if time == onset), None)
            if here is None and chord.onset <= bar.onset:
                here = lefts[index]
            if here is None:
                ends = [(float(bar.onset), lefts[index]), *points, (float(bar.end), self.barlines[index])]
                here = _between(sorted(ends), onset)
            placed.append(PlacedChord(chord, here))
        return tuple(placed)

    @cached_property
    def _points(self) -> list[list[tuple[float, float]]]:
        """For each bar, the times and left edges of its noteheads and rests (a whole bar's rest left out)."""
        points: list[list[tuple[float, float]]] = [[] for _ in self.source.bars]
        for event_id, (index, event) in self.source.places.items():
            element = self.drawing.by_id(event_id)
            grace = event.note is not None and event.note.grace
            if element is not None and element.head is not None and not grace and not event.whole_bar:
                points[index].append((float(event.onset), element.head.x))
        return points

    def x_at(self, time: float) -> float:
        """Where a time (quarter notes) lies in the line: at the noteheads, and evenly between them."""
        bars = [written.bar for written in self.source.bars]
        index = next((i for i, bar in enumerate(bars) if time < bar.end), len(bars) - 1)
        left = self._first_bar_left if index == 0 else self.barlines[index - 1]
        ends = ((float(bars[index].end), self.barlines[index]), (float(bars[index].onset), left))
        points = {**dict(ends), **dict(self._points[index])}
        return _between(sorted(points.items()), max(time, float(bars[index].onset)))

    def time_at(self, x: float) -> Fraction:
        """The time nearest to a place in the line: that of a note, a rest or a beat."""
        times = {event.onset for _, event in self.source.places.values()}
        for written in self.source.bars:
            bar = written.bar
            starts = (bar.onset - bar.lead_in + beat.offset for beat in bar.meter.beats)
            times |= {start for start in starts if bar.onset <= start < bar.end}
        return min(sorted(times), key=lambda time: abs(self.x_at(float(time)) - x))

    @property
    def _first_bar_left(self) -> float:
        """Where the first bar's music may begin: right of clef, signature and meter."""
        heads = [
            e.box.right
            for e in self.drawing.elements
            if e.box is not None
            and e.kind in ("clef", "keySig", "meterSig")
            and (not self.barlines or e.box.right < self.barlines[0])
        ]
        return max(heads, default=0.0) + 0.8 * STAFF_SPACE

    @cached_property
    def staff(self) -> tuple[float, float]:
        """y of the top and bottom staff line."""
        rects = [r for e in self.drawing.elements if e.kind == "staff" for r in e.rects if r.width > r.height]
        ys = sorted(rect.y for rect in rects[:5])
        return ys[0], ys[-1]

    @cached_property
    def ink(self) -> tuple[float, float]:
        """y of the highest and the lowest ink."""
        boxes = [element.box for element in self.drawing.elements if element.box is not None]
        return min(box.y for box in boxes), max(box.bottom for box in boxes)

    @cached_property
    def barlines(self) -> tuple[float, ...]:
        """x of each bar's right barline."""
        lines = [e for e in self.drawing.elements if e.kind == "barLine" and e.box is not None]
        return tuple(line.box.centre[0] for line in lines if line.box is not None)


def _between(points: list[tuple[float, float]], time: float) -> float:
    """The x of a time among (time, x) points in order, which lie on both sides of it."""
    for (t0, x0), (t1, x1) in itertools.pairwise(points):
        if t0 <= time <= t1 and t1 > t0:
            return x0 + (x1 - x0) * (time - t0) / (t1 - t0)
    return points[-1][1]


_NOTATIONS = 4
"""Solos whose notation is remembered: what the pages of a window show."""


class Engraver:
    """Sets lines of a solo. One is enough for the whole application: starting it takes time."""

    def __init__(self) -> None:
        verovio.enableLog(verovio.LOG_OFF)
        self._toolkit = verovio.toolkit()
        self._toolkit.setOptions(_OPTIONS)
        self._reader = ShapeReader()
        self._width = 0
        self._notations: deque[Notation] = deque(maxlen=_NOTATIONS)

    def notation(self, solo: Solo, like: Notation | None = None) -> Notation:
        """The notation of a solo; pages that show the same one share it. ``like`` is that of a value before."""
        known = next((notation for notation in self._notations if notation.solo is solo), None)
        if known is None:
            known = Notation(solo, like)
            self._notations.append(known)
        return known

    def line(
        self,
        notation: Notation,
        first: int,
        last: int,
        degrees: Mapping[str, str],
        staff: Staff | None = None,
        shape: LineFormat = PAGE_LINES,
        with_meter: bool = False,
    ) -> list[EngravedLine]:
        """Set bars ``first`` up to ``last``; a line too dense for its width comes back as two or more.

        ``with_meter`` has it begin with its meter, wherever in the solo it stands.
        """
        staff = staff or staff_for(notation.solo)
        source = line_mei(notation, first, last, staff, degrees, with_meter)
        share = _share_of_width(notation, first, last, shape.bars)
        drawing = self._draw(source, share * shape.width)
        if drawing.systems > 1 and share < 1:
            drawing = self._draw(source, shape.width)
        if drawing.systems > 1 and last - first > 1:
            half = first + max(1, min(drawing.bars_in_first_system, (last - first + 1) // 2))
            return [
                line
                for start, stop in ((first, half), (half, last))
                for line in self.line(notation, start, stop, degrees, staff, shape, with_meter and start == first)
            ]
        return [EngravedLine(first, last, drawing, source)]

    def _draw(self, source: Line, line_width: float) -> Drawing:
        """What verovio makes of a line on a page that is ``line_width`` engraver units wide."""
        width = round(line_width / 10)
        if width != self._width:
            self._width = width
            self._toolkit.setOptions({"pageWidth": width})
        if not self._toolkit.loadData(source.mei):
            first, last = source.bars[0].bar.number, source.bars[-1].bar.number
            raise EngravingError(f"Bars {first} to {last} could not be engraved.")
        return self._reader.read(self._toolkit.renderToSVG(1))


def _share_of_width(notation: Notation, first: int, last: int, bars: int) -> float:
    """The last line of a solo is only as wide as its bars are long; ``bars`` of four beats make a full line."""
    if last < len(notation):
        return 1.0
    length = float(sum(bar.length for bar in notation.grid.bars[first:last]))
    return min(1.0, 0.1 + 0.9 * length / (4 * bars))


def line_breaks(
    notation: Notation, per_line: int = BARS_PER_LINE, first: int = 0, last: int | None = None
) -> list[tuple[int, int]]:
    """Which bars go on which line: ``per_line`` each, a new line where a section starts, the pickup with bar 1.

    Of the bars from index ``first`` up to ``last``, where not all are wanted.
    """
    bars = notation.grid.bars[:last]
    sections = {notation.grid.index_at(mark.onset) for mark in form_marks(notation.solo)}
    lines: list[tuple[int, int]] = []
    start = first
    full = 0
    for index in range(first, len(bars)):
        bar = bars[index]
        if index > start and full and (full == per_line or (index in sections and bar.number != 1)):
            lines.append((start, index))
            start, full = index, 0
        full += bar.number != 0
    lines.append((start, len(bars)))
    return lines
