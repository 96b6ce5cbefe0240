"""The marks of the function lane: where each stands and its shape, in staff spaces above the ground.

Shape alone tells the function: a block on the ground is a chord tone, a block lifted on a stem an
extension, a ring a passing note, a wedge an approach, a hatched block above the dashed line outside.
"""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QBrush, QColor, QPainter, QPainterPath, QPen

from gavotte.desktop.theme.type import font
from gavotte.engraving.shapes import STAFF_SPACE as SP
from gavotte.solo.document import Function
from gavotte.solo.label import Label

BLOCK = 1.3 * SP
OUTSIDE_LINE = 2.75
"""Height of the dashed line, in staff spaces above the ground."""


def mark_height(label: Label) -> float:
    """Top of a label's mark above the ground, in staff spaces: the lane's outline."""
    match label.function:
        case Function.CHORD:
            return 1.25
        case Function.EXTENSION:
            return 2.1 + 0.9 * label.tension
        case Function.PASSING:
            return 1.35
        case Function.APPROACH:
            return 1.65
    return 4.0


def paint_mark(
    painter: QPainter, x: float, ground: float, label: Label, colour: QColor, page: QColor, points_right: bool
) -> None:
    """Paint the mark of a label whose note stands at ``x`` over a ground line at y ``ground``."""
    fill = QColor(colour)
    if label.in_doubt:
        fill.setAlphaF(0.4)
    top = ground - mark_height(label) * SP
    pen = QPen(colour, 16)
    painter.setPen(Qt.PenStyle.NoPen)
    match label.function:
        case Function.CHORD:
            painter.setBrush(fill)
            painter.drawRect(QRectF(x - BLOCK / 2, top, BLOCK, ground - top))
        case Function.EXTENSION:
            painter.setPen(QPen(colour, 26))
            painter.drawLine(QPointF(x, ground), QPointF(x, top + 0.9 * SP))
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(fill)
            painter.drawRect(QRectF(x - BLOCK / 2, top, BLOCK, 0.95 * SP))
        case Function.PASSING:
            painter.setPen(QPen(fill, 40))
            painter.setBrush(page)
            painter.drawEllipse(QPointF(x, ground - 0.95 * SP), 0.5 * SP, 0.5 * SP)
        case Function.APPROACH:
            painter.setBrush(fill)
            painter.drawPath(_wedge(x, ground - 1.0 * SP, points_right))
        case Function.OUTSIDE:
            box = QRectF(x - BLOCK / 2, top, BLOCK, 1.05 * SP)
            painter.setPen(pen)
            if label.device == "unexplained":
                painter.setBrush(page)
                painter.drawRect(box)
                painter.setFont(font(0.85 * SP, 700))
                painter.drawText(box, Qt.AlignmentFlag.AlignCenter, "?")
            else:
                painter.setBrush(page)
                painter.drawRect(box)
                painter.setBrush(QBrush(colour, Qt.BrushStyle.BDiagPattern))
                painter.drawRect(box)
                _hatch(painter, box, colour)
    if label.decided:
        _notch(painter, x, top, colour)


def _wedge(x: float, y: float, right: bool) -> QPainterPath:
    direction = 1 if right else -1
    path = QPainterPath(QPointF(x - direction * 0.55 * SP, y - 0.62 * SP))
    path.lineTo(x + direction * 0.68 * SP, y)
    path.lineTo(x - direction * 0.55 * SP, y + 0.62 * SP)
    path.closeSubpath()
    return path


def _hatch(painter: QPainter, box: QRectF, colour: QColor) -> None:
    painter.save()
    painter.setClipRect(box)
    painter.setPen(QPen(colour, 18))
    step = 0.24 * SP
    x = box.left() - box.height()
    while x < box.right():
        painter.drawLine(QPointF(x, box.bottom()), QPointF(x + box.height(), box.top()))
        x += step
    painter.restore()


def _notch(painter: QPainter, x: float, top: float, colour: QColor) -> None:
    """The user's own decision: a small tick over the mark."""
    painter.setPen(QPen(colour, 30))
    painter.drawLine(QPointF(x - 0.2 * SP, top - 0.42 * SP), QPointF(x, top - 0.2 * SP))
    painter.drawLine(QPointF(x, top - 0.2 * SP), QPointF(x + 0.34 * SP, top - 0.62 * SP))
