"""Gavotte's own icons, drawn as vector paths on a 24 × 24 grid with a line of 1.8."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QIcon, QPainter, QPainterPath, QPen, QPixmap

from gavotte.desktop.painting import painting
from gavotte.desktop.theme.palette import DAY


def _shelf() -> tuple[QPainterPath, QPainterPath]:
    line, solid = QPainterPath(), QPainterPath()
    line.moveTo(3, 20)
    line.lineTo(21, 20)
    solid.addRect(QRectF(5, 6, 3, 12))
    solid.addRect(QRectF(9.5, 9, 3, 9))
    tilted = QPainterPath(QPointF(14.5, 8))
    for x, y in ((17.3, 7), (20.6, 17), (17.8, 18)):
        tilted.lineTo(x, y)
    tilted.closeSubpath()
    solid.addPath(tilted)
    return line, solid


def _label() -> tuple[QPainterPath, QPainterPath]:
    """The lane in small: a block on the ground, one lifted, a ring between them."""
    line, solid = QPainterPath(), QPainterPath()
    line.moveTo(2, 19)
    line.lineTo(22, 19)
    solid.addRect(QRectF(3.5, 13, 5, 6))
    line.addEllipse(QPointF(12, 13), 1.8, 1.8)
    line.moveTo(18, 19)
    line.lineTo(18, 11)
    solid.addRect(QRectF(15.5, 5.5, 5, 5))
    return line, solid


def _vocabulary() -> tuple[QPainterPath, QPainterPath]:
    """A phrase: three notes under one slur."""
    line, solid = QPainterPath(), QPainterPath()
    line.moveTo(3.5, 11)
    line.cubicTo(7, 2.5, 17, 2.5, 20.5, 8)
    for x, y in ((4.8, 18), (12, 15.5), (19.2, 13)):
        solid.addEllipse(QPointF(x, y), 2.9, 2.3)
    return line, solid


def _workshop() -> tuple[QPainterPath, QPainterPath]:
    """A note, and what is made of it: the same one turned over a line."""
    line, solid = QPainterPath(), QPainterPath()
    line.moveTo(2.5, 12)
    line.lineTo(21.5, 12)
    solid.addEllipse(QPointF(6.2, 8.6), 2.9, 2.2)
    line.moveTo(8.7, 8.2)
    line.lineTo(8.7, 2.5)
    solid.addEllipse(QPointF(16.6, 15.4), 2.9, 2.2)
    line.moveTo(14.1, 15.8)
    line.lineTo(14.1, 21.5)
    return line, solid


def _practice() -> tuple[QPainterPath, QPainterPath]:
    """A round that climbs: the same way again, each time a little higher."""
    line, solid = QPainterPath(), QPainterPath()
    line.moveTo(3, 20)
    line.cubicTo(12, 22, 22, 18, 18, 14.5)
    line.cubicTo(14, 11.5, 5, 14, 7, 10.5)
    line.cubicTo(8.5, 8, 13, 8.5, 16, 6.5)
    solid.addEllipse(QPointF(18.6, 4.6), 2.6, 2.1)
    return line, solid


def _compare() -> tuple[QPainterPath, QPainterPath]:
    """An axis, and bars of different lengths on its two sides."""
    line, solid = QPainterPath(), QPainterPath()
    line.moveTo(12, 3)
    line.lineTo(12, 21)
    for y, left, right in ((5.0, 7.5, 3.0), (10.5, 3.0, 6.5), (16.0, 5.5, 8.5)):
        solid.addRect(QRectF(10.4 - left, y, left, 3))
        solid.addRect(QRectF(13.6, y, right, 3))
    return line, solid


def _sheets() -> tuple[QPainterPath, QPainterPath]:
    """A page with a turned corner, two lines of music on it, handed on."""
    line, solid = QPainterPath(), QPainterPath()
    line.moveTo(14.5, 2.8)
    for x, y in ((5, 2.8), (5, 21.2), (19, 21.2), (19, 7.3), (14.5, 2.8)):
        line.lineTo(x, y)
    line.moveTo(14.5, 2.8)
    line.lineTo(14.5, 7.3)
    line.lineTo(19, 7.3)
    for y in (11.5, 16.8):
        line.moveTo(8, y)
        line.lineTo(16, y)
    for x, y in ((9.6, 11.5), (14.2, 10.2), (10.6, 16.8), (14.6, 18.0)):
        solid.addEllipse(QPointF(x, y), 1.5, 1.2)
    return line, solid


def _phrases() -> tuple[QPainterPath, QPainterPath]:
    """A line that breathes: two arches over the ground with a gap between them, and the peak over one."""
    line, solid = QPainterPath(), QPainterPath()
    line.moveTo(2.5, 18)
    line.cubicTo(4, 10, 8, 10, 10, 18)
    line.moveTo(13, 18)
    line.cubicTo(15, 6.5, 19.5, 6.5, 21.5, 18)
    solid.addEllipse(QPointF(17.2, 5), 2.1, 2.1)
    return line, solid


def _write() -> tuple[QPainterPath, QPainterPath]:
    """A note on a line, and the stroke where the next one goes."""
    line, solid = QPainterPath(), QPainterPath()
    line.moveTo(2, 17.5)
    line.lineTo(22, 17.5)
    solid.addEllipse(QPointF(7, 17.5), 3.6, 2.7)
    line.moveTo(10.1, 17)
    line.lineTo(10.1, 5)
    line.moveTo(17, 3.5)
    line.lineTo(17, 21.5)
    return line, solid


def _listen() -> tuple[QPainterPath, QPainterPath]:
    """A wave between two lines: what is looped."""
    line, solid = QPainterPath(), QPainterPath()
    for x in (3.0, 21.0):
        line.moveTo(x, 4)
        line.lineTo(x, 20)
    for x, half in ((6.5, 2.0), (9.25, 5.5), (12.0, 7.5), (14.75, 4.5), (17.5, 2.5)):
        solid.addRoundedRect(QRectF(x - 0.9, 12 - half, 1.8, 2 * half), 0.9, 0.9)
    return line, solid


def _mark() -> tuple[QPainterPath, QPainterPath]:
    """The application's sign: a note whose head stands on a ground line and whose flag is a wedge."""
    line, solid = QPainterPath(), QPainterPath()
    line.moveTo(4, 21)
    line.lineTo(20, 21)
    line.moveTo(13, 17)
    line.lineTo(13, 4)
    solid.addEllipse(QPointF(9.6, 17), 3.6, 2.8)
    wedge = QPainterPath(QPointF(13, 3))
    wedge.lineTo(20, 7)
    wedge.lineTo(13, 11)
    wedge.closeSubpath()
    solid.addPath(wedge)
    return line, solid


def _play() -> tuple[QPainterPath, QPainterPath]:
    line, solid = QPainterPath(), QPainterPath(QPointF(6, 4))
    solid.lineTo(20, 12)
    solid.lineTo(6, 20)
    solid.closeSubpath()
    return line, solid


def _stop() -> tuple[QPainterPath, QPainterPath]:
    line, solid = QPainterPath(), QPainterPath()
    solid.addRect(QRectF(6, 6, 12, 12))
    return line, solid


def _loop() -> tuple[QPainterPath, QPainterPath]:
    """Two repeat barlines facing each other."""
    line, solid = QPainterPath(), QPainterPath()
    for x in (7.5, 16.5):
        line.moveTo(x, 5)
        line.lineTo(x, 19)
    solid.addRect(QRectF(2.5, 4.2, 2.6, 15.6))
    solid.addRect(QRectF(18.9, 4.2, 2.6, 15.6))
    for x in (10.4, 13.6):
        for y in (9.5, 14.5):
            solid.addEllipse(QPointF(x, y), 1.2, 1.2)
    return line, solid


_DRAWINGS = {
    "shelf": _shelf,
    "listen": _listen,
    "write": _write,
    "label": _label,
    "phrases": _phrases,
    "vocabulary": _vocabulary,
    "workshop": _workshop,
    "practice": _practice,
    "compare": _compare,
    "sheets": _sheets,
    "mark": _mark,
    "play": _play,
    "stop": _stop,
    "loop": _loop,
}


def icon(name: str, colour: str, size: int = 24) -> QIcon:
    """The icon ``name`` in a colour."""
    return painted_icon(size, lambda painter: _draw(painter, name, colour, size))


def paint_application_icon(painter: QPainter, size: float) -> None:
    """The application's sign on its paper, for desktops of any colour."""
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(DAY.page))
    painter.drawRoundedRect(QRectF(0.04 * size, 0.04 * size, 0.92 * size, 0.92 * size), 0.18 * size, 0.18 * size)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.translate(0.17 * size, 0.15 * size)
    _draw(painter, "mark", DAY.accent, 0.68 * size)


def _draw(painter: QPainter, name: str, colour: str, size: float) -> None:
    line, solid = _DRAWINGS[name]()
    painter.scale(size / 24, size / 24)
    pen = QPen(QColor(colour), 1.8)
    pen.setCapStyle(Qt.PenCapStyle.RoundCap)
    painter.setPen(pen)
    painter.drawPath(line)
    painter.fillPath(solid, QColor(colour))


def painted_icon(size: int, paint: Callable[[QPainter], None]) -> QIcon:
    """An icon of ``size`` pixels that ``paint`` draws, sharp at twice its size too."""
    result = QIcon()
    for scale in (1, 2):
        pixmap = QPixmap(size * scale, size * scale)
        pixmap.fill(Qt.GlobalColor.transparent)
        with painting(pixmap) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.scale(scale, scale)
            paint(painter)
        pixmap.setDevicePixelRatio(scale)
        result.addPixmap(pixmap)
    return result
