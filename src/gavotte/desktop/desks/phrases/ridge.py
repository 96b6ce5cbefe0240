"""The ridge: the whole solo as one landscape, chorus under chorus. Its height is register, its thickness density, its
hatching tension; gaps are rests, the peak is marked, and the phrases breathe under it.
"""

from __future__ import annotations

import itertools
from bisect import bisect_right
from collections.abc import Sequence
from fractions import Fraction

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QMouseEvent, QPainter, QPainterPath, QPaintEvent, QPen
from PyQt6.QtWidgets import QFrame, QScrollArea, QWidget

from gavotte.desktop.page.breath_item import Breath, Breaths, paint_knot
from gavotte.desktop.painting import painting
from gavotte.desktop.theme.palette import DAY, Palette
from gavotte.desktop.theme.type import SMALL, font
from gavotte.desktop.translation import translate
from gavotte.desktop.undisturbed import Undisturbed
from gavotte.phrasing.arc import Arc, ArcBar
from gavotte.solo.document import Note

_ROW, _TOP, _LEFT, _RIGHT = 62, 18, 40, 16
_LAND = 34
"""Pixels the land has in height; the phrases and threads lie below it."""
_MOST_SHOWN = 3
"""Rows that are seen at once."""
_THIN, _THICK = 3.0, 3.4
"""Pixels of the land where next to nothing happens, and those each note a beat adds."""
_HATCH, _TENSE = 4, 0.08


class _Land(QWidget):
    """The land itself. Signal: ``time_chosen(time)``, a place that was clicked (quarter notes)."""

    time_chosen = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__()
        self.palette_in_use: Palette = DAY
        self._arc: Arc | None = None
        self._rows: list[list[ArcBar]] = []
        self._parts: dict[int, str] = {}
        self._notes: Sequence[Note] = ()
        self._onsets: list[float] = []
        self._breaths = Breaths()
        self._columns = 1
        self._first_column = 0
        self._playhead: float | None = None
        self._here: tuple[Fraction, Fraction] | None = None
        self._low, self._high = 48.0, 72.0

    def show_arc(self, arc: Arc, notes: Sequence[Note]) -> None:
        """Show another arc."""
        self._arc, self._notes = arc, notes
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
        self.setFixedHeight(_TOP + _ROW * max(1, len(self._rows)))
        self.update()

    def show_breaths(self, breaths: Breaths) -> None:
        """Show phrases and a thread under the land."""
        self._breaths = breaths
        self.update()

    def show_playhead(self, time: float | None) -> None:
        """Show where the music is (quarter notes); None takes the playhead away."""
        if time != self._playhead:
            self._playhead = time
            self.update()

    def show_here(self, here: tuple[Fraction, Fraction] | None) -> None:
        """Show what is selected, by its onset and end."""
        if here != self._here:
            self._here = here
            self.update()

    # -- where things lie ---------------------------------------------------------------------------

    @property
    def _bar_width(self) -> float:
        return (self.width() - _LEFT - _RIGHT) / self._columns

    def place(self, time: float) -> tuple[float, int]:
        """Where a time lies: its x, and its row."""
        arc = self._arc
        if arc is None or not arc.bars:
            return float(_LEFT), 0
        bar = arc.bars[max(0, bisect_right(self._onsets, time) - 1)]
        share = min(1.0, max(0.0, (time - float(bar.onset)) / max(1e-9, float(bar.end - bar.onset))))
        return _LEFT + (bar.column - self._first_column + share) * self._bar_width, bar.row

    def _time_at(self, x: float, y: float) -> Fraction | None:
        row = int((y - _TOP) // _ROW)
        if not 0 <= row < len(self._rows):
            return None
        column = (x - _LEFT) / self._bar_width + self._first_column
        bar = next((bar for bar in self._rows[row] if bar.column <= column < bar.column + 1), None)
        return None if bar is None else bar.onset

    def _y(self, pitch: float, row: int) -> float:
        span = max(12.0, self._high - self._low)
        return _TOP + row * _ROW + 4 + (1 - (pitch - self._low) / span) * (_LAND - 8)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        time = self._time_at(event.position().x(), event.position().y())
        if time is not None:
            self.time_chosen.emit(time)

    # -- painting -----------------------------------------------------------------------------------

    @Undisturbed()
    def paintEvent(self, event: QPaintEvent | None) -> None:
        assert event is not None
        seen = event.rect()
        with painting(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.fillRect(seen, QColor(self.palette_in_use.page))
            first, last = (seen.top() - _TOP) // _ROW, (seen.bottom() - _TOP) // _ROW
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
        top = _TOP + number * _ROW
        painter.setFont(font(SMALL))
        painter.setPen(QColor(palette.quiet_text))
        numbered = next((bar.number for bar in row if bar.number > 0), 0)
        if numbered:
            painter.drawText(QRectF(0, top + 8, _LEFT - 8, 18), Qt.AlignmentFlag.AlignRight, str(numbered))
        arc = self._arc
        assert arc is not None
        if self._here is not None:
            self._paint_here(painter, row, top)
        for bar in row:
            x = _LEFT + (bar.column - self._first_column) * self._bar_width
            if bar.column % 4 == 0:
                painter.setPen(QPen(QColor(palette.rule), 1))
                painter.drawLine(QPointF(x, top), QPointF(x, top + _ROW - 8))
        for index, name in self._parts.items():
            if arc.bars[index].row == number:
                x = _LEFT + (arc.bars[index].column - self._first_column) * self._bar_width
                painter.setFont(font(SMALL, 700))
                painter.setPen(QColor(palette.accent))
                painter.drawText(QPointF(x + 3, top - 4 if number == 0 else top + 9), name)

    def _paint_here(self, painter: QPainter, row: list[ArcBar], top: int) -> None:
        assert self._here is not None
        start, end = self._here
        for bar in row:
            if bar.onset < end and bar.end > start:
                x0, _ = self.place(float(max(start, bar.onset)))
                share = (min(end, bar.end) - bar.onset) / (bar.end - bar.onset)
                x1 = _LEFT + (bar.column - self._first_column + float(share)) * self._bar_width
                painter.fillRect(QRectF(x0, top, x1 - x0, _ROW - 8), QColor(self.palette_in_use.selection))

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
        painter.save()
        painter.setClipPath(upper)
        for bar in bars:
            if bar.tension >= _TENSE:
                left = _LEFT + (bar.column - self._first_column) * width
                step = max(2.0, _HATCH / (0.4 + 2.2 * bar.tension))
                painter.setPen(QPen(QColor(self.palette_in_use.ink), 1.1))
                x = left
                while x < left + width + _ROW:
                    start, end = QPointF(x, _TOP + number * _ROW), QPointF(x - _LAND / 2, _TOP + number * _ROW + _LAND)
                    if left <= end.x() and x <= left + width + _LAND / 2:
                        painter.drawLine(start, end)
                    x += step
        painter.restore()

    def _paint_breaths(self, painter: QPainter, first: int, last: int) -> None:
        palette = self.palette_in_use
        for breath in self._breaths.phrases:
            if breath.last >= len(self._notes):
                continue
            current = breath.number == self._breaths.current
            pen = QPen(QColor(palette.accent if current else palette.faint_ink), 3.0 if current else 1.6)
            pen.setCapStyle(Qt.PenCapStyle.RoundCap)
            painter.setPen(pen)
            self._paint_span(painter, breath, _LAND + 7, first, last)
        for knot in self._breaths.knots:
            if knot.last < len(self._notes):
                x, row = self.place(float(self._notes[knot.first].onset))
                if first <= row <= last:
                    at = QPointF(x + 3, _TOP + row * _ROW + _LAND + 16)
                    paint_knot(painter, at, 4.0, knot.kind, QColor(palette.accent), QColor(palette.page))

    def _paint_span(self, painter: QPainter, breath: Breath, below: float, first: int, last: int) -> None:
        x0, row0 = self.place(float(self._notes[breath.first].onset))
        end = float(self._notes[breath.last].end) - 1e-6
        x1, row1 = self.place(max(end, float(self._notes[breath.first].onset)))
        x1 = max(x0 + 2, x1 - 3)
        right = self.width() - _RIGHT
        for row in range(max(row0, first), min(row1, last) + 1):
            left, until = (x0 if row == row0 else _LEFT), (x1 if row == row1 else right)
            y = _TOP + row * _ROW + below
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
        if self._playhead is None or self._arc is None:
            return
        x, row = self.place(self._playhead)
        painter.setPen(QPen(QColor(self.palette_in_use.accent), 2))
        top = _TOP + row * _ROW
        painter.drawLine(QPointF(x, top), QPointF(x, top + _ROW - 8))


def _curve(path: QPainterPath, points: Sequence[tuple[float, float]], join: bool = False) -> None:
    """Lead a path on through points, softly."""
    if join:
        path.lineTo(*points[0])
    else:
        path.moveTo(*points[0])
    for (x0, y0), (x1, y1) in itertools.pairwise(points):
        middle = (x0 + x1) / 2
        path.cubicTo(middle, y0, middle, y1, x1, y1)


class Ridge(QScrollArea):
    """The land, as many rows of it as fit. Signal: ``time_chosen(time)``, a place that was clicked (quarter notes)."""

    time_chosen = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__()
        self.setWidgetResizable(True)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setAccessibleName(translate("Gavotte", "The arc of the solo"))
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.land = _Land()
        self.setWidget(self.land)
        self.land.time_chosen.connect(self.time_chosen)
        self._wanted = _TOP + _ROW

    def sizeHint(self) -> QSize:
        return QSize(400, self._wanted)

    def set_palette(self, palette: Palette) -> None:
        """Paint in a theme's colours."""
        self.land.palette_in_use = palette
        self.land.update()

    def show_arc(self, arc: Arc, notes: Sequence[Note]) -> None:
        """Show another arc."""
        self.land.show_arc(arc, notes)
        rows = max((bar.row for bar in arc.bars), default=0) + 1
        self._wanted = _TOP + _ROW * min(rows, _MOST_SHOWN)
        self.setFixedHeight(self._wanted)

    def show_playhead(self, time: float | None) -> None:
        """Show where the music is, and keep its row in view."""
        self.land.show_playhead(time)
        if time is not None:
            _, row = self.land.place(time)
            self.ensureVisible(0, _TOP + row * _ROW + _ROW // 2, 0, _ROW // 2)

    def show_here(self, here: tuple[Fraction, Fraction] | None) -> None:
        """Show what is selected, and keep its row in view."""
        self.land.show_here(here)
        if here is not None:
            _, row = self.land.place(float(here[0]))
            self.ensureVisible(0, _TOP + row * _ROW + _ROW // 2, 0, _ROW // 2)
