"""Two lines laid under one another, degree under degree: what is the same is joined, what differs stands out."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from gavotte.desktop.page.mini_lane import paint_function
from gavotte.desktop.painting import painting
from gavotte.desktop.theme.palette import DAY, Palette
from gavotte.desktop.theme.type import BODY, SMALL, font
from gavotte.desktop.translation import translate
from gavotte.theory.degrees import shown_degree
from gavotte.vocabulary.alignment import Aligned
from gavotte.vocabulary.corpus import DEGREES, FUNCTIONS, LabelledLine
from gavotte.vocabulary.likeness import Column, Match, columns

_LEFT, _TOP, _ROW, _BETWEEN = 16, 4, 50, 10
_WIDEST, _NARROWEST = 44.0, 22.0


class LaidView(QWidget):
    """Shows a line above and another one below, in the columns of their alignment."""

    def __init__(self) -> None:
        super().__init__()
        self.palette_in_use: Palette = DAY
        self._lines: tuple[LabelledLine, LabelledLine] | None = None
        self._columns: tuple[Column, ...] = ()
        self.setMinimumHeight(_TOP + 2 * _ROW + _BETWEEN + 8)

    def sizeHint(self) -> QSize:
        return QSize(480, _TOP + 2 * _ROW + _BETWEEN + 12)

    def set_palette(self, palette: Palette) -> None:
        """Paint in a theme's colours."""
        self.palette_in_use = palette
        self.update()

    def show_pair(self, first: LabelledLine, second: LabelledLine, aligned: Aligned) -> None:
        """Show two lines as they are aligned."""
        self._lines = (first, second)
        self._columns = columns(first, second, aligned)
        rows = [" ".join(_degree(line, row) for row in range(len(line.notes))) for line in self._lines]
        self.setAccessibleName(
            translate("Gavotte", "{first}, and under it {other}").format(first=rows[0], other=rows[1])
        )
        width = int(2 * _LEFT + _NARROWEST * len(self._columns))
        self.setMinimumWidth(width)
        self.update()

    def clear(self) -> None:
        """Show nothing."""
        self._lines, self._columns = None, ()
        self.setMinimumWidth(0)
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        with painting(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.fillRect(self.rect(), QColor(self.palette_in_use.well))
            if self._lines is None or not self._columns:
                return
            step = min(_WIDEST, max(_NARROWEST, (self.width() - 2 * _LEFT) / len(self._columns)))
            for k, column in enumerate(self._columns):
                self._paint_column(painter, column, _LEFT + (k + 0.5) * step, step)
            for which in (0, 1):
                self._paint_chords(painter, which, step)

    def _paint_column(self, painter: QPainter, column: Column, x: float, step: float) -> None:
        assert self._lines is not None
        palette = self.palette_in_use
        top, bottom = _TOP, _TOP + _ROW + _BETWEEN
        if column.match is Match.SAME:
            painter.setPen(Qt.PenStyle.NoPen)
            band = QColor(palette.selection)
            painter.setBrush(band)
            painter.drawRoundedRect(QRectF(x - step / 2 + 1, top + 16, step - 2, bottom - top + _ROW - 16), 4, 4)
        elif column.match is not None and column.first is not None:
            # A shape over another chord is joined by a line, what is another note by dots.
            shape = column.match is Match.SHAPE
            painter.setPen(QPen(QColor(palette.rule), 2, Qt.PenStyle.SolidLine if shape else Qt.PenStyle.DotLine))
            painter.drawLine(QPointF(x, top + _ROW + 2), QPointF(x, bottom + 16))
        for line, row, y in zip(self._lines, (column.first, column.second), (top, bottom), strict=True):
            if row is None:
                painter.setPen(QPen(QColor(palette.rule), 1.4))
                painter.drawLine(QPointF(x - 5, y + _ROW - 8), QPointF(x + 5, y + _ROW - 8))
                continue
            differs = column.match is not Match.SAME
            painter.setPen(QColor(palette.accent if differs else palette.ink))
            painter.setFont(font(BODY, 700 if differs else 500))
            box = QRectF(x - step / 2, y + _ROW - 20, step, 20)
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, _degree(line, row))
            note = line.notes[row]
            target = int(note["target"])
            paint_function(painter, x, y + _ROW - 20, FUNCTIONS[note["function"]], palette, target < 0 or target > row)

    def _paint_chords(self, painter: QPainter, which: int, step: float) -> None:
        assert self._lines is not None
        line = self._lines[which]
        y = _TOP + which * (_ROW + _BETWEEN)
        painter.setPen(QColor(self.palette_in_use.quiet_text))
        painter.setFont(font(SMALL))
        before, edge = -1, 0.0
        for k, column in enumerate(self._columns):
            row = column.first if which == 0 else column.second
            if row is None:
                continue
            chord = int(line.notes["chord"][row])
            x = _LEFT + k * step + 2
            if chord != before and x >= edge:
                words = line.chords[chord][1]
                painter.drawText(QPointF(x, y + 12), words)
                edge = x + painter.fontMetrics().horizontalAdvance(words) + 6
                before = chord


def _degree(line: LabelledLine, row: int) -> str:
    code = int(line.notes["degree"][row])
    return shown_degree(DEGREES[code]) if code >= 0 else "?"
