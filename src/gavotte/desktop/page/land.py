"""The land of a solo: the whole of it as one landscape, chorus under chorus. Its height is register, its thickness
density, its hatching tension; gaps are rests, the peak is marked, and the phrases breathe under it.
"""

from __future__ import annotations

import itertools
from bisect import bisect_right
from collections.abc import Sequence
from fractions import Fraction

from PyQt6.QtCore import QLineF, QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPainterPath, QPen

from gavotte.desktop.page.breath_item import Breath, Breaths, paint_knot
from gavotte.desktop.theme.palette import DAY, Palette
from gavotte.desktop.theme.type import SMALL, font
from gavotte.phrasing.arc import Arc, ArcBar
from gavotte.solo.document import Note

ROW, TOP = 62, 18
"""Pixels a row has in height, and the room over the first."""
_LEFT, _RIGHT = 40, 16
_LAND = 34
"""Pixels the land has in height; the phrases and threads lie below it."""
_THIN, _THICK = 3.0, 3.4
"""Pixels of the land where next to nothing happens, and those each note a beat adds."""
_HATCH, _TENSE, _SLANT = 4, 0.08, 2.5
_HALVINGS = 10

_Point = tuple[float, float, float]
"""A point of the land: its x, its y, and half of its thickness there."""


class Land:
    """The land as a picture: what is seen of it, and how it is painted at some ``width`` in pixels."""

    def __init__(self) -> None:
        self.palette_in_use: Palette = DAY
        self.width = 800
        self._arc: Arc | None = None
        self._rows: list[list[ArcBar]] = []
        self._parts: dict[int, str] = {}
        self._notes: Sequence[Note] = ()
        self._onsets: list[float] = []
        self.breaths = Breaths()
        self._columns = 1
        self._first_column = 0
        self.playhead: float | None = None
        self.here: tuple[Fraction, Fraction] | None = None
        self._low, self._high = 48.0, 72.0
        self._hatched: dict[tuple[Fraction, int], list[QLineF]] = {}

    def show_arc(self, arc: Arc, notes: Sequence[Note]) -> None:
        """Show another arc."""
        self._arc, self._notes = arc, notes
        self._hatched = {}
        self._parts = {part.first: part.name for part in arc.parts}
        rows: dict[int, list[ArcBar]] = {}
        for bar in arc.bars:
            rows.setdefault(bar.row, []).append(bar)
        self._rows = [rows[row] for row in sorted(rows)]
        self._onsets = [float(bar.onset) for bar in arc.bars]
        self._first_column = min((bar.column for bar in arc.bars), default=0)
        self._columns = max((bar.column for bar in arc.bars), default=0) - self._first_column + 1
        heights = [height for bar in arc.bars for height in (bar.low, bar.high) if height is not None]
        self._low, self._high = (min(heights), max(heights)) if heights else (48.0, 72.0)

    @property
    def height(self) -> int:
        """How high it is, in pixels."""
        return TOP + ROW * max(1, len(self._rows))

    def parts(self, room: float, whole_page: float) -> list[tuple[int, int]]:
        """From where to where it is shown on page after page, in pixels: whole rows, the first page having ``room``."""
        parts = [(0, 0)]
        for end in range(TOP + ROW, self.height + 1, ROW):
            start = parts[-1][0]
            if end - start <= (room if len(parts) == 1 else whole_page) or parts[-1][1] == start:
                parts[-1] = (start, end)
            else:
                parts.append((parts[-1][1], end))
        return parts

    # -- where things lie ---------------------------------------------------------------------------

    @property
    def _bar_width(self) -> float:
        return (self.width - _LEFT - _RIGHT) / self._columns

    def place(self, time: float) -> tuple[float, int]:
        """Where a time lies: its x, and its row."""
        arc = self._arc
        if arc is None or not arc.bars:
            return float(_LEFT), 0
        bar = arc.bars[max(0, bisect_right(self._onsets, time) - 1)]
        share = min(1.0, max(0.0, (time - float(bar.onset)) / max(1e-9, float(bar.end - bar.onset))))
        return _LEFT + (bar.column - self._first_column + share) * self._bar_width, bar.row

    def time_at(self, x: float, y: float) -> Fraction | None:
        row = int((y - TOP) // ROW)
        if not 0 <= row < len(self._rows):
            return None
        column = (x - _LEFT) / self._bar_width + self._first_column
        bar = next((bar for bar in self._rows[row] if bar.column <= column < bar.column + 1), None)
        return None if bar is None else bar.onset

    def _y(self, pitch: float, row: int) -> float:
        span = max(12.0, self._high - self._low)
        return TOP + row * ROW + 4 + (1 - (pitch - self._low) / span) * (_LAND - 8)

    # -- painting -----------------------------------------------------------------------------------

    def paint(self, painter: QPainter, top: float, bottom: float) -> None:
        """Paint what lies between two heights, in pixels."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(QRectF(0, top, self.width, bottom - top), QColor(self.palette_in_use.page))
        first, last = int((top - TOP) // ROW), int((bottom - TOP) // ROW)
        for number, row in enumerate(self._rows):
            if first <= number <= last:
                self._paint_frame(painter, row, number)
                self._paint_land(painter, row, number)
        if self._arc is not None:
            self._paint_breaths(painter, first, last)
            self._paint_climax(painter)
        self._paint_playhead(painter)

    def _paint_frame(self, painter: QPainter, row: list[ArcBar], number: int) -> None:
        palette = self.palette_in_use
        top = TOP + number * ROW
        painter.setFont(font(SMALL))
        painter.setPen(QColor(palette.quiet_text))
        numbered = next((bar.number for bar in row if bar.number > 0), 0)
        if numbered:
            painter.drawText(QRectF(0, top + 8, _LEFT - 8, 18), Qt.AlignmentFlag.AlignRight, str(numbered))
        arc = self._arc
        assert arc is not None
        if self.here is not None:
            self._paint_here(painter, row, top)
        for bar in row:
            x = _LEFT + (bar.column - self._first_column) * self._bar_width
            if bar.column % 4 == 0:
                painter.setPen(QPen(QColor(palette.rule), 1))
                painter.drawLine(QPointF(x, top), QPointF(x, top + ROW - 8))
        for index, name in self._parts.items():
            if arc.bars[index].row == number:
                x = _LEFT + (arc.bars[index].column - self._first_column) * self._bar_width
                painter.setFont(font(SMALL, 700))
                painter.setPen(QColor(palette.accent))
                painter.drawText(QPointF(x + 3, top - 4 if number == 0 else top + 9), name)

    def _paint_here(self, painter: QPainter, row: list[ArcBar], top: int) -> None:
        assert self.here is not None
        start, end = self.here
        for bar in row:
            if bar.onset < end and bar.end > start:
                x0, _ = self.place(float(max(start, bar.onset)))
                share = (min(end, bar.end) - bar.onset) / (bar.end - bar.onset)
                x1 = _LEFT + (bar.column - self._first_column + float(share)) * self._bar_width
                painter.fillRect(QRectF(x0, top, x1 - x0, ROW - 8), QColor(self.palette_in_use.selection))

    def _paint_land(self, painter: QPainter, row: list[ArcBar], number: int) -> None:
        """The land in stretches: where a bar is silent it is interrupted."""
        stretch: list[ArcBar] = []
        for bar in [*row, None]:
            if bar is not None and bar.middle is not None:
                stretch.append(bar)
                continue
            if stretch:
                self._paint_stretch(painter, stretch, number)
            stretch = []

    def _paint_stretch(self, painter: QPainter, bars: list[ArcBar], number: int) -> None:
        width = self._bar_width
        points = []
        for bar in bars:
            assert bar.middle is not None
            x = _LEFT + (bar.column - self._first_column + 0.5) * width
            points.append((x, self._y(bar.middle, number), (_THIN + _THICK * bar.per_beat) / 2))
        first, last = points[0], points[-1]
        points = [(first[0] - width / 2, first[1], _THIN / 2), *points, (last[0] + width / 2, last[1], _THIN / 2)]
        upper, lower = QPainterPath(), [(x, y + half) for x, y, half in points]
        _curve(upper, [(x, y - half) for x, y, half in points])
        _curve(upper, lower[::-1], join=True)
        upper.closeSubpath()
        land = QColor(self.palette_in_use.ink)
        land.setAlphaF(0.30)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(land)
        painter.drawPath(upper)
        painter.setPen(QPen(QColor(self.palette_in_use.ink), 1.1))
        for stroke in self._hatching(bars, points):
            painter.drawLine(stroke)

    def _hatching(self, bars: list[ArcBar], points: list[_Point]) -> list[QLineF]:
        """The strokes over tense bars, from edge to edge of the land: a drawing can't be clipped everywhere."""
        key = (bars[0].onset, self.width)
        if key not in self._hatched:
            lines = []
            for bar in bars:
                if bar.tension < _TENSE:
                    continue
                left = _LEFT + (bar.column - self._first_column) * self._bar_width
                step = max(2.0, _HATCH / (0.4 + 2.2 * bar.tension))
                for k in range(int(self._bar_width / step)):
                    x = left + (k + 0.5) * step
                    above, below = _edges(points, x + _SLANT), _edges(points, x - _SLANT)
                    lines.append(QLineF(x + _SLANT, above[0], x - _SLANT, below[1]))
            self._hatched[key] = lines
        return self._hatched[key]

    def _paint_breaths(self, painter: QPainter, first: int, last: int) -> None:
        palette = self.palette_in_use
        for breath in self.breaths.phrases:
            if breath.last >= len(self._notes):
                continue
            current = breath.number == self.breaths.current
            pen = QPen(QColor(palette.accent if current else palette.faint_ink), 3.0 if current else 1.6)
            pen.setCapStyle(Qt.PenCapStyle.RoundCap)
            painter.setPen(pen)
            self._paint_span(painter, breath, _LAND + 7, first, last)
        for knot in self.breaths.knots:
            if knot.last < len(self._notes):
                x, row = self.place(float(self._notes[knot.first].onset))
                if first <= row <= last:
                    at = QPointF(x + 3, TOP + row * ROW + _LAND + 16)
                    paint_knot(painter, at, 4.0, knot.kind, QColor(palette.accent), QColor(palette.page))

    def _paint_span(self, painter: QPainter, breath: Breath, below: float, first: int, last: int) -> None:
        x0, row0 = self.place(float(self._notes[breath.first].onset))
        end = float(self._notes[breath.last].end) - 1e-6
        x1, row1 = self.place(max(end, float(self._notes[breath.first].onset)))
        x1 = max(x0 + 2, x1 - 3)
        right = self.width - _RIGHT
        for row in range(max(row0, first), min(row1, last) + 1):
            left, until = (x0 if row == row0 else _LEFT), (x1 if row == row1 else right)
            y = TOP + row * ROW + below
            painter.drawLine(QPointF(left, y), QPointF(max(left, until), y))

    def _paint_climax(self, painter: QPainter) -> None:
        assert self._arc is not None
        index = self._arc.climax
        if index is None or index >= len(self._notes):
            return
        note = self._notes[index]
        x, row = self.place(float(note.onset))
        y = self._y(note.pitch.midi, row) - 4
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(self.palette_in_use.warning))
        path = QPainterPath(QPointF(x, y + 5))
        path.lineTo(x - 4.5, y - 3)
        path.lineTo(x + 4.5, y - 3)
        path.closeSubpath()
        painter.drawPath(path)

    def _paint_playhead(self, painter: QPainter) -> None:
        if self.playhead is None or self._arc is None:
            return
        x, row = self.place(self.playhead)
        painter.setPen(QPen(QColor(self.palette_in_use.accent), 2))
        top = TOP + row * ROW
        painter.drawLine(QPointF(x, top), QPointF(x, top + ROW - 8))


def _edges(points: Sequence[_Point], x: float) -> tuple[float, float]:
    """The upper and lower edge of the land at ``x``: where the curve through its points runs there."""
    k = min(max(1, bisect_right(points, (x, 0.0, 0.0))), len(points) - 1)
    (x0, y0, half0), (x1, y1, half1) = points[k - 1], points[k]
    share = min(1.0, max(0.0, (x - x0) / max(1e-9, x1 - x0)))
    low, high = 0.0, 1.0
    for _ in range(_HALVINGS):
        middle = (low + high) / 2
        low, high = (middle, high) if 1.5 * middle * (1 - middle) + middle**3 < share else (low, middle)
    gone = 3 * low**2 - 2 * low**3
    y, half = y0 + (y1 - y0) * gone, half0 + (half1 - half0) * gone
    return y - half, y + half


def _curve(path: QPainterPath, points: Sequence[tuple[float, float]], join: bool = False) -> None:
    """Lead a path on through points, softly."""
    if join:
        path.lineTo(*points[0])
    else:
        path.moveTo(*points[0])
    for (x0, y0), (x1, y1) in itertools.pairwise(points):
        middle = (x0 + x1) / 2
        path.cubicTo(middle, y0, middle, y1, x1, y1)
