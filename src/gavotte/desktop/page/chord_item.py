"""A chord symbol set in type: root, quality a size smaller, the rest raised, the bass after a slash."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF
from PyQt6.QtGui import QColor, QFont, QFontMetricsF, QPainter
from PyQt6.QtWidgets import QGraphicsItem, QStyleOptionGraphicsItem, QWidget

from gavotte.desktop.theme.type import font
from gavotte.theory.chord import ChordSymbol
from gavotte.theory.chord_symbol import chord_display, shown_chord

CHORD_SIZE = 400.0
"""Height of the root's type in engraver units."""


class ChordItem(QGraphicsItem):
    """A chord symbol; its position is the left end of its baseline."""

    def __init__(self, symbol: ChordSymbol, colour: QColor, parent: QGraphicsItem, size: float = CHORD_SIZE) -> None:
        super().__init__(parent)
        root, quality, superscript, bass = chord_display(symbol)
        self._colour = colour
        self._runs: list[tuple[QFont, float, float, str]] = []
        x = 0.0
        for text, share, weight, rise in (
            (root, 1.0, 500, 0.0),
            (quality, 0.8, 400, 0.0),
            (superscript, 0.66, 400, 0.34),
            (bass, 0.86, 400, 0.0),
        ):
            if text:
                face = font(size * share, weight)
                self._runs.append((face, x, -rise * size, text))
                x += QFontMetricsF(face).horizontalAdvance(text) + size * 0.03
        self._width, self._size = x, size
        self.setToolTip(shown_chord(symbol))

    @property
    def width(self) -> float:
        """Advance width."""
        return self._width

    def boundingRect(self) -> QRectF:
        return QRectF(0, -self._size * 1.4, self._width, self._size * 1.8)

    def paint(
        self, painter: QPainter | None, option: QStyleOptionGraphicsItem | None, widget: QWidget | None = None
    ) -> None:
        assert painter is not None
        painter.setPen(self._colour)
        for face, x, y, text in self._runs:
            painter.setFont(face)
            painter.drawText(QPointF(x, y), text)
