"""Two places of the solo under one another: where their notes lie in time and height, and which of them differ."""

from __future__ import annotations

from collections.abc import Collection

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from gavotte.desktop.painting import painting
from gavotte.desktop.theme.palette import DAY, Palette
from gavotte.desktop.theme.type import SMALL, font
from gavotte.desktop.translation import translate
from gavotte.phrasing.motifs import Instance
from gavotte.solo.document import Note, Solo

_HEIGHT, _LEFT, _RIGHT = 132, 12, 12
_ROOM = 34
"""Pixels in height for the notes of one place; their names stand under them."""


class PairView(QWidget):
    """Shows two places; notes that are reached otherwise in the second are hollow."""

    def __init__(self) -> None:
        super().__init__()
        self.setFixedHeight(_HEIGHT)
        self.palette_in_use: Palette = DAY
        self._rows: list[list[Note]] = []
        self._differs: frozenset[str] = frozenset()

    def set_palette(self, palette: Palette) -> None:
        """Paint in a theme's colours."""
        self.palette_in_use = palette
        self.update()

    def show_pair(self, solo: Solo, first: Instance, other: Instance, differs: Collection[int]) -> None:
        """Show the notes of two places (indexes), and which of the second differ."""
        places = (first, other)
        self._rows = [[note for note in solo.notes[p.first : p.last + 1] if not note.grace] for p in places]
        self._differs = frozenset(solo.notes[index].id for index in differs)
        named = [" ".join(note.pitch.name.shown for note in row) for row in self._rows]
        self.setAccessibleName(
            translate("Gavotte", "{first}, and under it {other}").format(first=named[0], other=named[1])
        )
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        with painting(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.fillRect(self.rect(), QColor(self.palette_in_use.well))
            length = max((float(row[-1].end - row[0].onset) for row in self._rows if row), default=1.0)
            for k, row in enumerate(self._rows):
                self._paint_row(painter, row, 8.0 + k * (_HEIGHT / 2), length)

    def _paint_row(self, painter: QPainter, row: list[Note], top: float, length: float) -> None:
        if not row:
            return
        palette = self.palette_in_use
        width = (self.width() - _LEFT - _RIGHT) / max(length, 0.25)
        low = min(note.pitch.midi for note in row)
        span = max(7, max(note.pitch.midi for note in row) - low)
        before: QPointF | None = None
        edge = 0.0
        for note in row:
            x = _LEFT + float(note.onset - row[0].onset) * width
            y = top + _ROOM - (note.pitch.midi - low) / span * (_ROOM - 6)
            long = max(5.0, float(note.duration) * width - 3)
            differs = note.id in self._differs
            colour = QColor(palette.accent if differs else palette.ink)
            if before is not None:
                painter.setPen(QPen(QColor(palette.rule), 1.2))
                painter.drawLine(before, QPointF(x, y))
            painter.setPen(QPen(colour, 1.6))
            painter.setBrush(Qt.BrushStyle.NoBrush if differs else colour)
            painter.drawRoundedRect(QRectF(x, y - 3, long, 6), 3, 3)
            before = QPointF(x + long, y)
            painter.setFont(font(SMALL, 700 if differs else 400))
            name = note.pitch.name.shown
            if x >= edge:
                painter.drawText(QPointF(x, top + _ROOM + 18), name)
                edge = x + painter.fontMetrics().horizontalAdvance(name) + 3
