"""A drop-down choice and a tick box with Gavotte's own arrow and tick."""

from __future__ import annotations

from PyQt6.QtCore import QPointF
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QCheckBox, QComboBox, QStyle, QStyleOptionButton


class Choice(QComboBox):
    """A combo box whose arrow is drawn in the text's colour."""

    def paintEvent(self, event: QPaintEvent | None) -> None:
        super().paintEvent(event)
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(self.palette().color(self.foregroundRole()), 1.6))
        x, y = self.width() - 15.0, self.height() / 2 - 1.5
        painter.drawPolyline(QPointF(x - 4, y), QPointF(x, y + 4), QPointF(x + 4, y))


class Tick(QCheckBox):
    """A check box whose tick is drawn in the text's colour."""

    def paintEvent(self, event: QPaintEvent | None) -> None:
        super().paintEvent(event)
        style = self.style()
        if not self.isChecked() or style is None:
            return
        option = QStyleOptionButton()
        self.initStyleOption(option)
        box = style.subElementRect(QStyle.SubElement.SE_CheckBoxIndicator, option, self)
        x, y, size = box.x(), box.y(), box.width()
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(self.palette().color(self.foregroundRole()), 2))
        painter.drawPolyline(
            QPointF(x + 0.24 * size, y + 0.52 * size),
            QPointF(x + 0.43 * size, y + 0.72 * size),
            QPointF(x + 0.78 * size, y + 0.28 * size),
        )
