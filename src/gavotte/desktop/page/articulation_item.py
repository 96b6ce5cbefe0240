"""Articulations that are drawn by the page: slides, bends, falls, scoops, hammer-ons, trills, doubt."""

from __future__ import annotations

from fractions import Fraction

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QFontMetricsF, QPainter, QPainterPath, QPen
from PyQt6.QtWidgets import QGraphicsItem, QStyleOptionGraphicsItem, QWidget

from gavotte.desktop.theme.type import font
from gavotte.engraving.engraver import LINE_WIDTH, EngravedLine, PlacedNote
from gavotte.engraving.shapes import STAFF_SPACE as SP
from gavotte.solo.document import Articulation

_DRAWN = {
    Articulation.SLIDE,
    Articulation.BEND,
    Articulation.FALL,
    Articulation.SCOOP,
    Articulation.HAMMER_ON,
    Articulation.PULL_OFF,
    Articulation.TRILL,
    Articulation.HARMONIC,
}
_RISE = {Articulation.BEND: 1.6, Articulation.HAMMER_ON: 1.4, Articulation.PULL_OFF: 1.4, Articulation.TRILL: 0.9}
"""How many staff spaces above its foot a mark reaches."""

_LETTERS = {Articulation.HAMMER_ON: "H", Articulation.PULL_OFF: "P", Articulation.TRILL: "tr"}


class ArticulationItem(QGraphicsItem):
    """All articulations of a line that the engraver does not draw."""

    def __init__(self, line: EngravedLine, colour: QColor, doubt: QColor, parent: QGraphicsItem) -> None:
        super().__init__(parent)
        notes = line.notes
        self._notes = [
            (note, notes[i - 1] if i else None, notes[i + 1] if i + 1 < len(notes) else None)
            for i, note in enumerate(notes)
            if note.note.uncertain or any(mark.articulation in _DRAWN for mark in note.note.marks)
        ]
        self._colour, self._doubt = colour, doubt
        self._staff_top = line.staff[0]
        top, bottom = line.ink
        self._box = QRectF(
            0, top - 3 * SP, (line.barlines[-1] if line.barlines else LINE_WIDTH) + 2 * SP, bottom - top + 6 * SP
        )

    @property
    def top(self) -> float:
        """How far up anything is drawn, in engraver units."""
        heights = [
            self._above(placed) - _RISE.get(mark.articulation, 0.0) * SP
            for placed, *_ in self._notes
            for mark in placed.note.marks
        ]
        return min(heights, default=self._staff_top)

    def boundingRect(self) -> QRectF:
        return self._box

    def paint(
        self, painter: QPainter | None, option: QStyleOptionGraphicsItem | None, widget: QWidget | None = None
    ) -> None:
        assert painter is not None
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for placed, before, after in self._notes:
            painter.setPen(QPen(self._colour, 24))
            for mark in placed.note.marks:
                self._paint(painter, mark.articulation, mark.semitones, placed, before, after)
            if placed.note.uncertain:
                painter.setPen(self._doubt)
                self._letter(painter, placed, "?")

    def _paint(
        self,
        painter: QPainter,
        articulation: Articulation,
        semitones: Fraction | None,
        placed: PlacedNote,
        before: PlacedNote | None,
        after: PlacedNote | None,
    ) -> None:
        head = placed.head
        x, y = head.centre
        match articulation:
            case Articulation.SLIDE if after is not None:
                ax, ay = after.head.x - 0.25 * SP, after.head.centre[1]
                painter.drawLine(QPointF(head.right + 0.25 * SP, y), QPointF(ax, ay))
            case Articulation.HAMMER_ON | Articulation.PULL_OFF if before is not None:
                self._joined(painter, before, placed, _LETTERS[articulation])
            case Articulation.TRILL:
                self._letter(painter, placed, "tr")
            case Articulation.HARMONIC:
                painter.drawEllipse(QPointF(x, self._above(placed) - 0.2 * SP), 0.3 * SP, 0.3 * SP)
            case Articulation.FALL:
                path = QPainterPath(QPointF(head.right + 0.2 * SP, y))
                path.quadTo(head.right + 1.0 * SP, y, head.right + 1.2 * SP, y + 1.6 * SP)
                painter.drawPath(path)
            case Articulation.SCOOP:
                path = QPainterPath(QPointF(head.x - 1.1 * SP, y + 1.3 * SP))
                path.quadTo(head.x - 0.9 * SP, y + 0.2 * SP, head.x - 0.2 * SP, y)
                painter.drawPath(path)
            case Articulation.BEND:
                self._bend(painter, placed, semitones or Fraction(1))

    def _above(self, placed: PlacedNote) -> float:
        return min(placed.head.y, self._staff_top) - 0.8 * SP

    def _letter(self, painter: QPainter, placed: PlacedNote, text: str) -> None:
        face = font(1.25 * SP, 500, italic=text == "tr")
        painter.setFont(face)
        advance = QFontMetricsF(face).horizontalAdvance(text)
        painter.drawText(QPointF(placed.x - advance / 2, self._above(placed)), text)

    def _joined(self, painter: QPainter, before: PlacedNote, placed: PlacedNote, letter: str) -> None:
        y = min(self._above(before), self._above(placed)) + 0.2 * SP
        middle = (before.x + placed.x) / 2
        path = QPainterPath(QPointF(before.x, y))
        path.quadTo(middle, y - 1.1 * SP, placed.x, y)
        painter.drawPath(path)
        face = font(1.0 * SP, 500)
        painter.setFont(face)
        painter.drawText(QPointF(middle - QFontMetricsF(face).horizontalAdvance(letter) / 2, y - 0.75 * SP), letter)

    def _bend(self, painter: QPainter, placed: PlacedNote, semitones: Fraction) -> None:
        y, x = placed.head.centre[1], placed.head.right + 0.15 * SP
        top = self._above(placed) - 0.3 * SP
        path = QPainterPath(QPointF(x, y))
        path.quadTo(x + 0.8 * SP, y, x + 0.8 * SP, top)
        path.moveTo(x + 0.5 * SP, top + 0.5 * SP)
        path.lineTo(x + 0.8 * SP, top)
        path.lineTo(x + 1.1 * SP, top + 0.5 * SP)
        painter.drawPath(path)
        tones = semitones / 2
        name = {Fraction(1): "full", Fraction(1, 2): "½", Fraction(1, 4): "¼", Fraction(3, 2): "1½"}.get(
            tones, f"{float(tones):g}"
        )
        painter.setFont(font(1.3 * SP, 500))
        painter.drawText(QPointF(x + 0.3 * SP, top - 0.25 * SP), name)
