"""The signs of marks as they stand on the page, painted beside a small notehead."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QIcon, QPainter, QPainterPath, QPen, QPolygonF

from gavotte.desktop.theme.icons import painted_icon
from gavotte.desktop.theme.type import font
from gavotte.solo.document import Articulation, Pick

SIZE = 24
_HEAD = QPointF(12, 17)


def mark_icon(what: object, colour: str) -> QIcon:
    """The sign of an articulation, a pick stroke or the transcriber's doubt ("doubt") in a colour."""

    def paint(painter: QPainter) -> None:
        pen = QPen(QColor(colour), 1.6)
        pen.setCapStyle(Qt.PenCapStyle.RoundCap)
        pen.setJoinStyle(Qt.PenJoinStyle.RoundJoin)
        painter.setPen(pen)
        _SIGNS[what](painter, QColor(colour))

    return painted_icon(SIZE, paint)


def _head(painter: QPainter, colour: QColor, at: QPointF = _HEAD) -> None:
    painter.save()
    painter.translate(at)
    painter.rotate(-20)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(colour)
    painter.drawEllipse(QPointF(0, 0), 3.8, 2.7)
    painter.restore()


def _line(painter: QPainter, *points: tuple[float, float]) -> None:
    painter.drawPolyline(QPolygonF([QPointF(x, y) for x, y in points]))


def _curve(painter: QPainter, start: tuple[float, float], over: tuple[float, float], end: tuple[float, float]) -> None:
    path = QPainterPath(QPointF(*start))
    path.quadTo(*over, *end)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawPath(path)


def _text(painter: QPainter, text: str, box: QRectF, size: int = 11, italic: bool = False) -> None:
    painter.setFont(font(size, 700, italic=italic))
    painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)


def _accent(painter: QPainter, colour: QColor) -> None:
    _line(painter, (7, 4), (17, 7), (7, 10))
    _head(painter, colour)


def _marcato(painter: QPainter, colour: QColor) -> None:
    _line(painter, (8.5, 11), (12, 3), (15.5, 11))
    _head(painter, colour)


def _staccato(painter: QPainter, colour: QColor) -> None:
    painter.setBrush(colour)
    painter.drawEllipse(QPointF(12, 9), 1.1, 1.1)
    _head(painter, colour)


def _tenuto(painter: QPainter, colour: QColor) -> None:
    _line(painter, (7.5, 9), (16.5, 9))
    _head(painter, colour)


def _ghost(painter: QPainter, colour: QColor) -> None:
    _head(painter, colour, QPointF(12, 12))
    _curve(painter, (6, 6.5), (2.5, 12), (6, 17.5))
    _curve(painter, (18, 6.5), (21.5, 12), (18, 17.5))


def _bend(painter: QPainter, colour: QColor) -> None:
    _head(painter, colour, QPointF(7, 17))
    _curve(painter, (12, 17), (18, 16), (18, 5))
    _line(painter, (15, 8.5), (18, 4), (21, 8.5))


def _scoop(painter: QPainter, colour: QColor) -> None:
    _curve(painter, (3.5, 20), (5, 12.5), (11, 11.5))
    _head(painter, colour, QPointF(16, 11))


def _fall(painter: QPainter, colour: QColor) -> None:
    _head(painter, colour, QPointF(7, 9))
    _curve(painter, (12, 9), (18.5, 9.5), (20, 20))


def _slide(painter: QPainter, colour: QColor) -> None:
    _head(painter, colour, QPointF(5, 17.5))
    _line(painter, (9.5, 15), (14.5, 9.5))
    _head(painter, colour, QPointF(19, 7))


def _trill(painter: QPainter, colour: QColor) -> None:
    _text(painter, "tr", QRectF(0, 1, 24, 11), 12, italic=True)
    _head(painter, colour, QPointF(12, 18))


def _joined(letter: str) -> Callable[[QPainter, QColor], None]:
    def paint(painter: QPainter, colour: QColor) -> None:
        _text(painter, letter, QRectF(0, 0, 24, 9), 9)
        _curve(painter, (5, 14), (12, 7.5), (19, 14))
        _head(painter, colour, QPointF(5, 19))
        _head(painter, colour, QPointF(19, 19))

    return paint


def _harmonic(painter: QPainter, colour: QColor) -> None:
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawEllipse(QPointF(12, 7), 2.6, 2.6)
    _head(painter, colour)


def _pick_down(painter: QPainter, colour: QColor) -> None:
    _line(painter, (8, 11), (8, 4), (16, 4), (16, 11))
    _head(painter, colour, QPointF(12, 18))


def _pick_up(painter: QPainter, colour: QColor) -> None:
    _line(painter, (8.5, 3), (12, 11), (15.5, 3))
    _head(painter, colour, QPointF(12, 18))


def _doubt(painter: QPainter, colour: QColor) -> None:
    _text(painter, "?", QRectF(0, 0, 24, 12), 13)
    _head(painter, colour, QPointF(12, 18))


_SIGNS: dict[object, Callable[[QPainter, QColor], None]] = {
    Articulation.ACCENT: _accent,
    Articulation.MARCATO: _marcato,
    Articulation.STACCATO: _staccato,
    Articulation.TENUTO: _tenuto,
    Articulation.GHOST: _ghost,
    Articulation.BEND: _bend,
    Articulation.SCOOP: _scoop,
    Articulation.FALL: _fall,
    Articulation.SLIDE: _slide,
    Articulation.TRILL: _trill,
    Articulation.HAMMER_ON: _joined("H"),
    Articulation.PULL_OFF: _joined("P"),
    Articulation.HARMONIC: _harmonic,
    Pick.DOWN: _pick_down,
    Pick.UP: _pick_up,
    "doubt": _doubt,
}
