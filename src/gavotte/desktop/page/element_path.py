"""Engraved elements as filled outlines, which Qt draws without asking Python."""

from __future__ import annotations

from collections.abc import Iterable

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QFontMetricsF, QPainterPath, QTransform

from gavotte.desktop.page.paths import painter_path, rect, stroked
from gavotte.desktop.theme.type import font
from gavotte.engraving.shapes import Drawing, Element, PathOp, Text


def element_path(elements: Iterable[Element], drawing: Drawing) -> QPainterPath:
    """One outline of all the elements' ink, to be filled.

    All parts run round the same way: where a stem crosses its head, the ink is filled and no hole is left.
    """
    whole = QPainterPath()
    whole.setFillRule(Qt.FillRule.WindingFill)
    for element in elements:
        for box in element.rects:
            whole.addRect(rect(box))
        for path in element.paths:
            whole.addPath(_clockwise(painter_path(path)))
        for path, width in element.strokes:
            whole.addPath(_clockwise(stroked(path, width)))
        for glyph in element.glyphs:
            place = QTransform(glyph.kx, 0, 0, glyph.ky, glyph.x, glyph.y)
            whole.addPath(place.map(_glyph(glyph.code, drawing.glyphs, glyph.kx * glyph.ky < 0)))
        for text in element.texts:
            _add_text(whole, text)
    return whole


def _add_text(path: QPainterPath, text: Text) -> None:
    face = font(text.size, italic=text.italic)
    advance = QFontMetricsF(face).horizontalAdvance(text.text)
    shift = {"middle": advance / 2, "end": advance}.get(text.anchor, 0.0)
    path.addText(text.x - shift, text.y, face, text.text)


def _clockwise(path: QPainterPath) -> QPainterPath:
    """The path run round as Qt runs round a rectangle."""
    return path if _area(path) >= 0 else path.toReversed()


def _area(path: QPainterPath) -> float:
    """Twice the area within a path's corners and handles; negative where it runs round the other way."""
    total = 0.0
    start_x = start_y = x = y = 0.0
    for index in range(path.elementCount()):
        point = path.elementAt(index)
        if point.isMoveTo():
            total += x * start_y - start_x * y
            start_x, start_y = point.x, point.y
        else:
            total += x * point.y - point.x * y
        x, y = point.x, point.y
    return total + x * start_y - start_x * y


_glyphs: dict[tuple[str, bool], QPainterPath] = {}


def _glyph(code: str, outlines: dict[str, list[PathOp]], mirrored: bool) -> QPainterPath:
    """The outline of a glyph in its own units, clockwise once it is placed (mirrored or not)."""
    path = _glyphs.get((code, mirrored))
    if path is None:
        plain = _clockwise(painter_path(outlines.get(code, [])))
        path = _glyphs[(code, mirrored)] = plain.toReversed() if mirrored else plain
    return path
