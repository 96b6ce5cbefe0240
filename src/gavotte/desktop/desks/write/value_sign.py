"""Note values and other signs of the writer, painted from plain shapes."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPainterPath, QPen

FLAGS = {1: 0, 2: 0, 4: 0, 8: 1, 16: 2, 32: 3}


def paint_value(
    painter: QPainter, centre: QPointF, base: int, colour: QColor, dots: int = 0, size: float = 7.0
) -> None:
    """A note of a value (1 is a whole, 8 an eighth), its middle at ``centre``; ``size`` is a staff space in pixels."""
    stem = base > 1
    head = QPointF(centre.x(), centre.y() + (1.3 * size if stem else 0.0))
    painter.save()
    painter.translate(head)
    painter.rotate(-22)
    painter.setPen(QPen(colour, 0.26 * size))
    painter.setBrush(colour if base > 2 else Qt.BrushStyle.NoBrush)
    painter.drawEllipse(QPointF(0, 0), 0.62 * size, 0.42 * size)
    painter.restore()
    if stem:
        x, top = head.x() + 0.56 * size, head.y() - 3.0 * size
        painter.setPen(QPen(colour, 0.2 * size))
        painter.drawLine(QPointF(x, head.y() - 0.15 * size), QPointF(x, top))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour)
        for k in range(FLAGS.get(base, 0)):
            y = top + 0.75 * k * size
            flag = QPainterPath(QPointF(x, y))
            flag.cubicTo(x + 0.2 * size, y + 0.8 * size, x + 1.3 * size, y + 0.9 * size, x + 0.8 * size, y + 2.0 * size)
            flag.cubicTo(x + 1.0 * size, y + 1.2 * size, x + 0.3 * size, y + 1.1 * size, x, y + 0.8 * size)
            painter.drawPath(flag)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(colour)
    for k in range(dots):
        painter.drawEllipse(
            QPointF(head.x() + (1.2 + 0.55 * k) * size, head.y() - 0.2 * size), 0.19 * size, 0.19 * size
        )


def paint_rest(painter: QPainter, centre: QPointF, colour: QColor, size: float = 7.0) -> None:
    """A quarter rest, from a zigzag of two strokes."""
    x, y = centre.x(), centre.y()
    path = QPainterPath(QPointF(x - 0.35 * size, y - 1.4 * size))
    path.lineTo(x + 0.4 * size, y - 0.5 * size)
    path.quadTo(x - 0.35 * size, y - 0.1 * size, x + 0.45 * size, y + 0.75 * size)
    path.cubicTo(x - 0.5 * size, y + 0.35 * size, x - 0.6 * size, y + 1.1 * size, x + 0.1 * size, y + 1.5 * size)
    pen = QPen(colour, 0.34 * size)
    pen.setCapStyle(Qt.PenCapStyle.RoundCap)
    pen.setJoinStyle(Qt.PenJoinStyle.RoundJoin)
    painter.setPen(pen)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawPath(path)


def paint_tie(painter: QPainter, centre: QPointF, colour: QColor, size: float = 7.0) -> None:
    """Two notes, and the curve that holds the first one on."""
    for side in (-1, 1):
        paint_value(
            painter, QPointF(centre.x() + side * 1.2 * size, centre.y() - 0.3 * size), 4, colour, size=0.8 * size
        )
    left, right = centre.x() - 1.3 * size, centre.x() + 1.3 * size
    y = centre.y() + 1.5 * size
    curve = QPainterPath(QPointF(left, y))
    curve.quadTo(centre.x(), y + 1.3 * size, right, y)
    curve.quadTo(centre.x(), y + 0.8 * size, left, y)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(colour)
    painter.drawPath(curve)


def paint_bracket(painter: QPainter, box: QRectF, number: str, colour: QColor) -> None:
    """A tuplet's number in its bracket."""
    painter.setPen(QPen(colour, 1.4))
    y, middle = box.center().y(), box.center().x()
    for start, end in ((box.left(), middle - 7), (middle + 7, box.right())):
        painter.drawLine(QPointF(start, y), QPointF(end, y))
    for x in (box.left(), box.right()):
        painter.drawLine(QPointF(x, y), QPointF(x, y + 5))
    painter.drawText(box.adjusted(0, -6, 0, 6), Qt.AlignmentFlag.AlignCenter, number)
