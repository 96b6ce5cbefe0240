"""A drop-down choice with Gavotte's own arrow."""

from __future__ import annotations

from PyQt6.QtCore import QPointF
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QComboBox


class Choice(QComboBox):
    """A combo box whose arrow is drawn in the text's colour."""

    def paintEvent(self, event: QPaintEvent | None) -> None:
        super().paintEvent(event)
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(self.palette().color(self.foregroundRole()), 1.6))
        x, y = self.width() - 15.0, self.height() / 2 - 1.5
        painter.drawPolyline(QPointF(x - 4, y), QPointF(x, y + 4), QPointF(x + 4, y))
