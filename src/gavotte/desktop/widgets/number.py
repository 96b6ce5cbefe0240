"""A number to type or to step, with Gavotte's own arrows."""

from __future__ import annotations

from PyQt6.QtCore import QPointF
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QDoubleSpinBox

from gavotte.desktop.painting import painting


class Number(QDoubleSpinBox):
    """A field from ``low`` to ``high`` in steps; its arrows are drawn in the text's colour."""

    def __init__(self, low: float, high: float, step: float, decimals: int = 0, unit: str = "") -> None:
        super().__init__()
        self.setDecimals(decimals)
        self.setRange(low, high)
        self.setSingleStep(step)
        if unit:
            self.setSuffix(f" {unit}")

    def paintEvent(self, event: QPaintEvent | None) -> None:
        super().paintEvent(event)
        with painting(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.setPen(QPen(self.palette().color(self.foregroundRole()), 1.6))
            x, middle = self.width() - 15.0, self.height() / 2
            for tip, foot in ((middle - 7, middle - 3), (middle + 7, middle + 3)):
                painter.drawPolyline(QPointF(x - 4, foot), QPointF(x, tip), QPointF(x + 4, foot))
