"""The caret of step entry: a stroke where the next note begins, and under it how far the note will reach."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from PyQt6.QtCore import QLineF, QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPen, QPolygonF
from PyQt6.QtWidgets import QGraphicsItem, QStyleOptionGraphicsItem, QWidget

from gavotte.desktop.page.line_item import LineItem
from gavotte.desktop.theme.palette import Palette
from gavotte.engraving.shapes import STAFF_SPACE as SP

_ACCIDENTAL = 1.15 * SP
"""Room a sharp or flat takes before its head."""


@dataclass(frozen=True, slots=True)
class Caret:
    """Where the next note begins and how long it will be, in quarter notes; whether it moves what follows."""

    time: Fraction
    length: Fraction
    insert: bool = False


class CaretItem(QGraphicsItem):
    """Paints a caret on its line, in scene coordinates."""

    def __init__(self, line: LineItem, caret: Caret, palette: Palette) -> None:
        super().__init__()
        start, end = float(caret.time), float(caret.time + caret.length)
        music = line.line
        line_end = float(music.source.bars[-1].bar.end)
        self.left = music.x_at(start) if start < line_end else music.barlines[-1]
        stop = music.x_at(end) if end < line_end else music.barlines[-1]
        y = line.pos().y()
        top, bottom = y + music.staff[0], y + music.staff[1]
        # A head is wider than its left edge, where its time is.
        left = self.left - 0.35 * SP
        if any(event.onset == caret.time and event.accidental for event in music.source.events.values()):
            left -= _ACCIDENTAL
        self._reach = QRectF(left, top - 0.6 * SP, max(stop - self.left, 1.2 * SP), bottom - top + 1.2 * SP)
        self._stroke = QLineF(left, top - 1.6 * SP, left, bottom + 1.6 * SP)
        self._insert = caret.insert
        self._accent = QColor(palette.accent)
        self.setZValue(-3)

    def boundingRect(self) -> QRectF:
        return self._reach.adjusted(-SP, -1.6 * SP, SP, 1.6 * SP)

    def paint(
        self, painter: QPainter | None, option: QStyleOptionGraphicsItem | None, widget: QWidget | None = None
    ) -> None:
        assert painter is not None
        band = QColor(self._accent)
        band.setAlphaF(0.14)
        painter.fillRect(self._reach, band)
        painter.setPen(QPen(self._accent, 0.28 * SP))
        painter.drawLine(self._stroke)
        foot = self._stroke.p2()
        if self._insert:
            # A wedge that pushes to the right.
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(self._accent)
            tip = QPointF(foot.x() + 1.1 * SP, foot.y() - 0.5 * SP)
            painter.drawPolygon(QPolygonF([foot - QPointF(0, SP), tip, foot]))
