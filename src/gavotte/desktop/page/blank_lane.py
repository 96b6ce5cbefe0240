"""A function lane to be filled in by hand: the ground of each chord, and a short rule to write each degree on."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPen
from PyQt6.QtWidgets import QGraphicsItem, QStyleOptionGraphicsItem, QWidget

from gavotte.desktop.theme.palette import Palette
from gavotte.engraving.shapes import STAFF_SPACE as SP

_RULE, _HALF = 2.3 * SP, 0.75 * SP


class BlankLane(QGraphicsItem):
    """Paints it; y 0 is the ground line. ``notes`` are where notes stand, ``stretches`` the chords' grounds, in x."""

    def __init__(
        self,
        notes: Sequence[float],
        stretches: Sequence[tuple[float, float]],
        palette: Palette,
        parent: QGraphicsItem,
    ) -> None:
        super().__init__(parent)
        self._notes, self._stretches, self._palette = tuple(notes), tuple(stretches), palette
        left = stretches[0][0] if stretches else 0.0
        right = stretches[-1][1] if stretches else 0.0
        self._box = QRectF(left - SP, -0.5 * SP, right - left + 2 * SP, _RULE + SP)

    def boundingRect(self) -> QRectF:
        return self._box

    def paint(
        self, painter: QPainter | None, option: QStyleOptionGraphicsItem | None, widget: QWidget | None = None
    ) -> None:
        assert painter is not None
        colour = QColor(self._palette.faint_ink)
        painter.setPen(QPen(colour, 14))
        for left, right in self._stretches:
            painter.drawLine(QPointF(left, 0), QPointF(right, 0))
        painter.setPen(QPen(colour, 12, Qt.PenStyle.SolidLine))
        for x in self._notes:
            painter.drawLine(QPointF(x - _HALF, _RULE), QPointF(x + _HALF, _RULE))
