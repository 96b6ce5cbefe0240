"""Plain shapes as Qt's painter paths."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QPainterPath, QPainterPathStroker

from gavotte.engraving.shapes import Box, PathOp


def painter_path(operations: list[PathOp]) -> QPainterPath:
    """The painter path of path operations."""
    path = QPainterPath()
    path.setFillRule(Qt.FillRule.WindingFill)
    for name, v in operations:
        if name == "M":
            path.moveTo(v[0], v[1])
        elif name == "L":
            path.lineTo(v[0], v[1])
        elif name == "C":
            path.cubicTo(*v)
        elif name == "Q":
            path.quadTo(*v)
        else:
            path.closeSubpath()
    return path


def stroked(operations: list[PathOp], width: float) -> QPainterPath:
    """The outline of a path drawn with a pen of ``width``."""
    stroker = QPainterPathStroker()
    stroker.setWidth(width)
    return stroker.createStroke(painter_path(operations))


def rect(box: Box) -> QRectF:
    """A box as Qt's rectangle."""
    return QRectF(box.x, box.y, box.width, box.height)
