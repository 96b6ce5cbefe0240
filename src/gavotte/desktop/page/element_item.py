"""One musical element (note, rest, beam, tie …) as an item of its own, so that it can be hit and coloured."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QFontMetricsF, QPainter, QPainterPath
from PyQt6.QtWidgets import QGraphicsItem, QStyleOptionGraphicsItem, QWidget

from gavotte.desktop.page.paths import glyph_path, painter_path, rect, stroked
from gavotte.desktop.theme.type import font
from gavotte.engraving.shapes import Drawing, Element


class ElementItem(QGraphicsItem):
    """Paints an engraved element in one colour. ``note_id`` is set for notes."""

    def __init__(self, element: Element, drawing: Drawing, colour: QColor, parent: QGraphicsItem) -> None:
        super().__init__(parent)
        self.element = element
        self.note_id: str | None = None
        self._colour = colour
        self._glyphs = [(glyph_path(g.code, drawing.glyphs), g.x, g.y, g.kx, g.ky) for g in element.glyphs]
        self._paths = [painter_path(p) for p in element.paths] + [stroked(p, w) for p, w in element.strokes]
        self._rects = [rect(box) for box in element.rects]
        # Asked for many times at every change of a scene: kept, not worked out.
        self._box = (rect(element.box) if element.box is not None else QRectF()).adjusted(-30, -30, 30, 30)

    def set_colour(self, colour: QColor) -> None:
        """Repaint in another colour."""
        if colour != self._colour:
            self._colour = colour
            self.update()

    def boundingRect(self) -> QRectF:
        return self._box

    def shape(self) -> QPainterPath:
        """A generous target: the notehead and half a space around it."""
        path = QPainterPath()
        if self.element.head is not None:
            path.addRect(rect(self.element.head).adjusted(-60, -90, 60, 90))
        return path

    def paint(
        self, painter: QPainter | None, option: QStyleOptionGraphicsItem | None, widget: QWidget | None = None
    ) -> None:
        assert painter is not None
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self._colour)
        for box in self._rects:
            painter.drawRect(box)
        for path in self._paths:
            painter.drawPath(path)
        for path, x, y, kx, ky in self._glyphs:
            painter.save()
            painter.translate(x, y)
            painter.scale(kx, ky)
            painter.drawPath(path)
            painter.restore()
        for text in self.element.texts:
            face = font(text.size, italic=text.italic)
            painter.setFont(face)
            painter.setPen(self._colour)
            advance = QFontMetricsF(face).horizontalAdvance(text.text)
            shift = {"middle": advance / 2, "end": advance}.get(text.anchor, 0.0)
            painter.drawText(QPointF(text.x - shift, text.y), text.text)
            painter.setPen(Qt.PenStyle.NoPen)
