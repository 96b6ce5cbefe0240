"""What surfaces of the Compare desk's pictures are filled with: patterns told apart in grey and in print."""

from __future__ import annotations

from PyQt6.QtCore import QLineF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPen

from gavotte.desktop.theme.palette import Palette
from gavotte.solo.document import Function

_STEP = 4.0


def fill_side(painter: QPainter, area: QRectF, is_here: bool, palette: Palette, strong: bool = True) -> None:
    """Fill a surface of the first set whole, one of the other with slanted lines; paler where it is not ``strong``."""
    colour = QColor(palette.accent if is_here else palette.text)
    colour.setAlphaF(1.0 if strong else 0.5)
    if is_here:
        painter.fillRect(area, colour)
    else:
        _slanted(painter, area, colour, _STEP, True)
        _frame(painter, area, colour)


def fill_function(painter: QPainter, area: QRectF, function: Function, palette: Palette) -> None:
    """Fill a surface as a function: whole, lying lines, empty, slanted lines, crossed lines."""
    colour = palette.function(function)
    if function is Function.CHORD:
        painter.fillRect(area, colour)
    elif function is Function.EXTENSION:
        painter.setPen(QPen(colour, 1.2))
        y = area.bottom() - _STEP / 2
        while y > area.top():
            painter.drawLine(QLineF(area.left(), y, area.right(), y))
            y -= _STEP
    elif function is Function.APPROACH:
        _slanted(painter, area, colour, _STEP, True)
    elif function is Function.OUTSIDE:
        _slanted(painter, area, colour, _STEP, True)
        _slanted(painter, area, colour, _STEP, False)
    _frame(painter, area, colour)


def _frame(painter: QPainter, area: QRectF, colour: QColor) -> None:
    painter.setPen(QPen(colour, 1))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawRect(area)


def _slanted(painter: QPainter, area: QRectF, colour: QColor, step: float, rises: bool) -> None:
    """Lines at 45 degrees, ended at the surface's edges: what is written as SVG knows no clipping."""
    painter.setPen(QPen(colour, 1))
    width, height = area.width(), area.height()
    start = step / 2
    while start < width + height:
        x0, y0 = min(start, width), max(0.0, start - width)
        x1, y1 = max(0.0, start - height), min(start, height)
        if rises:
            line = QLineF(area.left() + x0, area.top() + y0, area.left() + x1, area.top() + y1)
        else:
            line = QLineF(area.right() - x0, area.top() + y0, area.right() - x1, area.top() + y1)
        painter.drawLine(line)
        start += step
