"""Under the lane: the line that breathes with the phrases, and the threads that join what comes back."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPainterPath, QPen
from PyQt6.QtWidgets import QGraphicsItem, QStyleOptionGraphicsItem, QWidget

from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.theme.type import font
from gavotte.engraving.shapes import STAFF_SPACE as SP
from gavotte.phrasing.division import Division
from gavotte.phrasing.relations import Kind
from gavotte.phrasing.structure import Structure

BREATHS = 3.9 * SP
"""Room the breathing line and the threads take under the lane."""
_LINE, _THREAD = 0.9 * SP, 3.05 * SP
_BEFORE, _BEHIND, _BREATH = 0.7 * SP, 0.9 * SP, 0.5 * SP


@dataclass(frozen=True, slots=True)
class Breath:
    """A phrase on the page: its number, its notes by place in the line, the id of its first one, whether the user
    decided where it begins, and where each further gesture of it begins.
    """

    number: int
    first: int
    last: int
    note: str
    decided: bool = False
    gestures: tuple[int, ...] = ()


@dataclass(frozen=True, slots=True)
class Knot:
    """Something that comes back, at one place: its notes by place in the line, and what it is beside the first.

    ``kind`` is None for the first itself.
    """

    first: int
    last: int
    kind: Kind | None


@dataclass(frozen=True, slots=True)
class Breaths:
    """What is shown under the lane: phrases, which of them is looked at, and the thread of one motif."""

    phrases: tuple[Breath, ...] = ()
    current: int | None = None
    knots: tuple[Knot, ...] = ()


def breaths_of(structure: Structure | Division) -> tuple[Breath, ...]:
    """The phrases of a solo as they are shown."""
    notes = structure.found.solo.notes
    decided = {mark.note for mark in structure.found.solo.phrase_starts if mark.begins}
    return tuple(
        Breath(
            number,
            phrase.first,
            phrase.last,
            notes[phrase.first].id,
            notes[phrase.first].id in decided,
            tuple(gesture.first for gesture in gestures[1:]),
        )
        for number, (phrase, gestures) in enumerate(zip(structure.phrases, structure.gestures, strict=True), 1)
    )


class BreathItem(QGraphicsItem):
    """Paints both for one line; y 0 is where the lane's room ends. ``notes`` are its notes (ids) with their x."""

    def __init__(
        self, notes: Sequence[tuple[str, float]], right: float, palette: Palette, parent: QGraphicsItem
    ) -> None:
        super().__init__(parent)
        self._notes, self._palette = tuple(notes), palette
        self._places: tuple[int, ...] = ()
        self._x: dict[int, float] = {}
        self._left, self._right = 420.0, right
        self._shown = Breaths()
        self._phrases: list[tuple[Breath, float, float, bool, bool]] = []
        self._box = QRectF(self._left - SP, -0.4 * SP, right - self._left + 2 * SP, BREATHS + 0.6 * SP)

    def show_breaths(self, shown: Breaths, places: Mapping[str, int]) -> None:
        """Show phrases and a thread; ``places`` say where in the solo each note (id) is now."""
        here = {places[note]: x for note, x in self._notes if note in places}
        if shown == self._shown and here == self._x:
            return
        self._shown, self._x, self._places = shown, here, tuple(here)
        self._phrases = [] if not self._places else list(self._laid_out(shown.phrases))
        self.update()

    def _laid_out(self, phrases: Sequence[Breath]) -> list[tuple[Breath, float, float, bool, bool]]:
        """The phrases of this line, from where to where they are drawn, and whether they begin and end in it."""
        first, last = self._places[0], self._places[-1]
        here = [phrase for phrase in phrases if phrase.first <= last and phrase.last >= first]
        found = []
        for phrase in here:
            begins, ends = phrase.first >= first, phrase.last <= last
            left = self._x.get(phrase.first, self._left) - _BEFORE if begins else self._left
            right = self._x.get(phrase.last, self._right) + _BEHIND if ends else self._right
            found.append((phrase, left, right, begins, ends))
        # A gap where the breath is, however near the notes are.
        for k in range(len(found) - 1):
            phrase, left, right, begins, ends = found[k]
            limit = found[k + 1][1] - _BREATH
            found[k] = (phrase, left, max(left, min(right, limit)), begins, ends)
        return found

    def start_at(self, x: float, y: float) -> Breath | None:
        """The phrase whose beginning is at a place of the line, None where none is."""
        if not -0.2 * SP <= y <= BREATHS:
            return None
        for phrase, left, _, begins, _ in self._phrases:
            if begins and abs(x - left) <= 0.8 * SP:
                return phrase
        return None

    def phrase_at(self, x: float, y: float) -> Breath | None:
        """The phrase whose line is at a place, None where none is."""
        if not -0.2 * SP <= y <= BREATHS:
            return None
        return next((phrase for phrase, left, right, _, _ in self._phrases if left <= x <= right), None)

    def boundingRect(self) -> QRectF:
        return self._box

    def paint(
        self, painter: QPainter | None, option: QStyleOptionGraphicsItem | None, widget: QWidget | None = None
    ) -> None:
        assert painter is not None
        for phrase, left, right, begins, ends in self._phrases:
            self._paint_phrase(painter, phrase, left, right, begins, ends)
        self._paint_thread(painter)

    def _paint_phrase(
        self, painter: QPainter, phrase: Breath, left: float, right: float, begins: bool, ends: bool
    ) -> None:
        current = phrase.number == self._shown.current
        colour = QColor(self._palette.accent if current else self._palette.faint_ink)
        pen = QPen(colour, 34 if current else 20)
        pen.setCapStyle(Qt.PenCapStyle.RoundCap)
        painter.setPen(pen)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        path = QPainterPath(QPointF(left, _LINE))
        if begins:
            # It rises out of the breath, and sinks into the next one.
            path = QPainterPath(QPointF(left, _LINE - 0.55 * SP))
            path.quadTo(left, _LINE, left + 0.5 * SP, _LINE)
        path.lineTo(max(left, right - (0.5 * SP if ends else 0.0)), _LINE)
        if ends:
            path.quadTo(right, _LINE, right, _LINE - 0.35 * SP)
        painter.drawPath(path)
        for place in phrase.gestures:
            if place in self._x:
                x = self._x[place] - _BEFORE
                painter.drawLine(QPointF(x, _LINE - 0.4 * SP), QPointF(x, _LINE))
        if begins:
            painter.setFont(font(1.3 * SP, 700 if current else 500))
            painter.setPen(colour)
            painter.drawText(QPointF(left + 0.3 * SP, _LINE + 1.2 * SP), str(phrase.number))
            if phrase.decided:
                painter.setPen(Qt.PenStyle.NoPen)
                painter.setBrush(colour)
                painter.drawEllipse(QPointF(left, _LINE - 0.75 * SP), 0.28 * SP, 0.28 * SP)

    def _paint_thread(self, painter: QPainter) -> None:
        if not self._shown.knots or not self._places:
            return
        first, last = self._places[0], self._places[-1]
        colour = QColor(self._palette.accent)
        knots = self._shown.knots
        from_before = any(knot.first < first for knot in knots)
        goes_on = any(knot.last > last for knot in knots)
        here = [knot for knot in knots if knot.first <= last and knot.last >= first]
        left = min((self._x.get(knot.first, self._left) for knot in here), default=self._right)
        right = max((self._x.get(knot.last, self._right) for knot in here), default=self._left)
        left, right = self._left if from_before else left, self._right if goes_on else right
        if left < right:
            painter.setPen(QPen(colour, 10, Qt.PenStyle.DotLine))
            painter.drawLine(QPointF(left, _THREAD), QPointF(right, _THREAD))
        for knot in here:
            x0 = self._x.get(knot.first, self._left)
            x1 = self._x.get(knot.last, self._right)
            pen = QPen(colour, 26)
            pen.setCapStyle(Qt.PenCapStyle.RoundCap)
            painter.setPen(pen)
            painter.drawLine(QPointF(x0, _THREAD), QPointF(x1, _THREAD))
            if knot.first >= first:
                paint_knot(painter, QPointF(x0, _THREAD), 0.62 * SP, knot.kind, colour, QColor(self._palette.page))


def paint_knot(painter: QPainter, at: QPointF, size: float, kind: Kind | None, colour: QColor, page: QColor) -> None:
    """A knot whose shape tells the relation: a disc for the first and for the same again, a wedge for what is moved, a
    bar for what comes later, a ring for what is changed, an hourglass for what is turned.
    """
    pen = QPen(colour, size / 3)
    pen.setJoinStyle(Qt.PenJoinStyle.MiterJoin)
    painter.setPen(pen)
    painter.setBrush(colour)
    x, y = at.x(), at.y()
    path = QPainterPath()
    match kind:
        case None:
            path.addEllipse(at, 1.25 * size, 1.25 * size)
            path.addEllipse(at, 0.5 * size, 0.5 * size)
        case Kind.SAME:
            path.addEllipse(at, size, size)
        case Kind.MOVED:
            path.moveTo(x - size, y + size)
            path.lineTo(x, y - 1.1 * size)
            path.lineTo(x + size, y + size)
            path.closeSubpath()
        case Kind.LATER:
            path.addRect(x - 0.9 * size, y - size, 0.5 * size, 2 * size)
            path.addRect(x + 0.3 * size, y - size, 0.5 * size, 2 * size)
        case Kind.CHANGED:
            painter.setBrush(page)
            path.addEllipse(at, size, size)
        case Kind.TURNED:
            path.moveTo(x - size, y - size)
            path.lineTo(x + size, y - size)
            path.lineTo(x - size, y + size)
            path.lineTo(x + size, y + size)
            path.closeSubpath()
    painter.drawPath(path)
