"""Marks that the page draws itself: slides, bends, falls, hammer-ons, trills, fingers, strings, picks, doubt."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QFontMetricsF, QPainter, QPainterPath, QPen, QPolygonF
from PyQt6.QtWidgets import QGraphicsItem, QStyleOptionGraphicsItem, QWidget

from gavotte.desktop.theme.type import font
from gavotte.engraving.engraver import LINE_WIDTH, EngravedLine, PlacedNote
from gavotte.engraving.shapes import STAFF_SPACE as SP
from gavotte.solo.document import Articulation, Note, Pick

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


_ROW = 1.5 * SP
"""Room one sign of the hands takes."""


def _rows_of(note: Note) -> int:
    return bool(note.finger) + bool(note.string) + (note.pick is not None)


def _without_string(placed: PlacedNote) -> PlacedNote:
    return replace(placed, note=replace(placed.note, string=0)) if placed.note.string else placed


def _is_handled(note: Note) -> bool:
    return _rows_of(note) > 0


def _stroke(painter: QPainter, pick: Pick, x: float, y: float) -> None:
    """The sign of a stroke of the pick: an open frame down, a wedge up."""
    half, height = 0.45 * SP, 0.85 * SP
    if pick is Pick.DOWN:
        corners = [(-half, 0.0), (-half, -height), (half, -height), (half, 0.0)]
    else:
        corners = [(-half, -height), (0.0, 0.0), (half, -height)]
    painter.drawPolyline(QPolygonF([QPointF(x + dx, y + dy) for dx, dy in corners]))


class ArticulationItem(QGraphicsItem):
    """All articulations of a line that the engraver does not draw; ``strings`` are left out where frets tell them."""

    def __init__(
        self, line: EngravedLine, colour: QColor, doubt: QColor, parent: QGraphicsItem, strings: bool = True
    ) -> None:
        super().__init__(parent)
        notes = line.notes if strings else [_without_string(placed) for placed in line.notes]
        self._notes = [
            (note, notes[i - 1] if i else None, notes[i + 1] if i + 1 < len(notes) else None)
            for i, note in enumerate(notes)
            if note.note.uncertain
            or _is_handled(note.note)
            or any(mark.articulation in _DRAWN for mark in note.note.marks)
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
        heights = [self._handled_at(placed) - _rows_of(placed.note) * _ROW for placed, *_ in self._notes]
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
            self._handled(painter, placed)
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

    def _handled_at(self, placed: PlacedNote) -> float:
        """The foot of what hands do: above the note's other marks."""
        rise = max((_RISE.get(mark.articulation, 0.0) for mark in placed.note.marks), default=0.0)
        rise = max(rise, 1.3) if placed.note.uncertain else rise
        return self._above(placed) - rise * SP

    def _handled(self, painter: QPainter, placed: PlacedNote) -> None:
        """Finger, string (in a ring) and pick stroke, one above the other."""
        note, y = placed.note, self._handled_at(placed)
        face = font(1.1 * SP, 500)
        painter.setFont(face)
        metrics = QFontMetricsF(face)
        if note.finger:
            painter.drawText(QPointF(placed.x - metrics.horizontalAdvance(note.finger) / 2, y), note.finger)
            y -= _ROW
        if note.string:
            text = str(note.string)
            painter.drawText(QPointF(placed.x - metrics.horizontalAdvance(text) / 2, y), text)
            painter.drawEllipse(QPointF(placed.x, y - 0.4 * SP), 0.68 * SP, 0.68 * SP)
            y -= _ROW
        if note.pick is not None:
            _stroke(painter, note.pick, placed.x, y)

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
