"""The function lane of one line: ground, marks, arcs to targets, brackets and degrees."""

from __future__ import annotations

import itertools
from collections.abc import Iterable
from dataclasses import dataclass

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QFontMetricsF, QPainter, QPainterPath, QPen
from PyQt6.QtWidgets import QGraphicsItem, QStyleOptionGraphicsItem, QWidget

from gavotte.desktop.page.lane_marks import OUTSIDE_LINE, mark_height, paint_mark
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.theme.type import font
from gavotte.engraving.shapes import STAFF_SPACE as SP
from gavotte.solo.document import Function
from gavotte.solo.label import Label
from gavotte.theory.chord_symbol import parse_chord_symbol, shown_chord

BELOW_GROUND = 3.0 * SP
"""Room the lane takes below its ground line."""
SECOND_ROW = 1.5 * SP
"""Room a second row of degrees takes, where a stretch is read otherwise than by the changes."""
BRACKETS = 2.2 * SP
"""Where, below the ground line, the brackets of figures begin."""

DEGREE_SIZE = 1.9 * SP
_FAINT = 0.18


@dataclass(frozen=True)
class LaneNote:
    """A note of the line: its x, and its label."""

    note_id: str
    x: float
    label: Label


SPARE, TIGHT = 0.9, 0.35
"""Staff spaces kept free over the highest mark when a line is set, and the least that will do after an edit."""


def has_second_row(labels: Iterable[Label]) -> bool:
    """Whether any of these labels has a degree in another reading."""
    return any(label.other for label in labels)


def room_above(labels: list[Label], spare: float = SPARE) -> float:
    """How far a lane with these labels reaches above its ground line, in engraver units."""
    tallest = max((mark_height(label) for label in labels), default=1.0)
    implied = any(label.heard or (label.function is Function.OUTSIDE and label.implied) for label in labels)
    return (max(tallest + spare, 3.2) + (1.4 if implied else 0.0)) * SP


class LaneItem(QGraphicsItem):
    """Paints the lane; y 0 is the ground line."""

    def __init__(
        self,
        notes: list[LaneNote],
        stretches: list[tuple[float, float]],
        palette: Palette,
        parent: QGraphicsItem,
        marks: bool = True,
        degrees: bool = True,
    ) -> None:
        super().__init__(parent)
        self._marks, self._degrees = marks, degrees
        self._footnotes: dict[str, int] = {}
        self._notes, self._stretches, self._palette = notes, stretches, palette
        self._x = {note.note_id: note.x for note in notes}
        self._selected: frozenset[str] = frozenset()
        self._target: str | None = None
        self._kept: frozenset[str] | None = None
        self._below = BELOW_GROUND + (SECOND_ROW if has_second_row(note.label for note in notes) else 0.0)
        self._right = stretches[-1][1] if stretches else 0.0
        self.above = room_above([note.label for note in notes])
        left = stretches[0][0] if stretches else 0.0
        self._box = QRectF(left - SP, -self.above, self._right - left + 2 * SP, self.above + self._below + 1.5 * SP)

    def set_selected(self, note_ids: frozenset[str]) -> None:
        """Show which notes are selected."""
        if note_ids != self._selected:
            self._selected = note_ids
            self.update()

    def set_kept(self, note_ids: frozenset[str] | None) -> None:
        """Show all but these notes faintly; None shows all of them."""
        if note_ids != self._kept:
            self._kept = note_ids
            self.update()

    def group_at(self, x: float, y: float) -> str | None:
        """The figure whose bracket is at a place of the lane, None where there is none."""
        if not BRACKETS <= y <= self._below + 0.6 * SP:
            return None
        for group, members in self._groups().items():
            if members[0].x - SP <= x <= members[-1].x + SP:
                return group
        return None

    def _groups(self) -> dict[str, list[LaneNote]]:
        groups: dict[str, list[LaneNote]] = {}
        for note in self._notes:
            if note.label.group is not None:
                groups.setdefault(note.label.group, []).append(note)
        return groups

    def set_footnotes(self, numbers: dict[str, int]) -> None:
        """Print a small number under the notes that have a footnote."""
        self._footnotes = numbers
        self.update()

    def set_target(self, note_id: str | None) -> None:
        """Ring the mark of a target."""
        if note_id != self._target:
            self._target = note_id
            self.update()

    def boundingRect(self) -> QRectF:
        return self._box

    def paint(
        self, painter: QPainter | None, option: QStyleOptionGraphicsItem | None, widget: QWidget | None = None
    ) -> None:
        assert painter is not None
        if self._marks:
            self._paint_marks(painter)
        for note in self._notes:
            painter.setOpacity(self._weight(note))
            if self._degrees:
                self._paint_degree(painter, note, self._palette.function(note.label.function))
                self._paint_other_degree(painter, note)
            if note.note_id in self._footnotes:
                self._paint_footnote(painter, note, self._footnotes[note.note_id])
        painter.setOpacity(1.0)
        if self._degrees:
            self._paint_brackets(painter)
            self._paint_readings(painter)
        self._paint_target(painter)

    def _weight(self, note: LaneNote) -> float:
        return 1.0 if self._kept is None or note.note_id in self._kept else _FAINT

    def _paint_marks(self, painter: QPainter) -> None:
        palette = self._palette
        page = QColor(palette.page)
        self._paint_selection(painter)
        self._paint_outline(painter)
        painter.setPen(QPen(QColor(palette.faint_ink), 14))
        for left, right in self._stretches:
            painter.drawLine(QPointF(left, 0), QPointF(right, 0))
        self._paint_outside_runs(painter)
        for note in self._notes:
            painter.setOpacity(self._weight(note))
            self._paint_arc(painter, note)
        for note in self._notes:
            painter.setOpacity(self._weight(note))
            colour = palette.function(note.label.function)
            target_x = self._x.get(note.label.target or "", note.x + 1)
            paint_mark(painter, note.x, 0.0, note.label, colour, page, target_x >= note.x)

    def _paint_selection(self, painter: QPainter) -> None:
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(self._palette.selection))
        chosen = [note.x for note in self._notes if note.note_id in self._selected]
        if chosen:
            width = chosen[-1] - chosen[0] + 2.2 * SP
            painter.drawRoundedRect(QRectF(chosen[0] - 1.1 * SP, -self.above, width, self.above + 2.25 * SP), 40, 40)

    def _paint_outline(self, painter: QPainter) -> None:
        """The tension curve: a quiet surface under the tops of the marks."""
        if len(self._notes) < 2:
            return
        path = QPainterPath(QPointF(self._notes[0].x, 0))
        last = self._notes[0]
        path.lineTo(last.x, -mark_height(last.label) * SP)
        for note in self._notes[1:]:
            y0, y1 = -mark_height(last.label) * SP, -mark_height(note.label) * SP
            middle = (last.x + note.x) / 2
            path.cubicTo(middle, y0, middle, y1, note.x, y1)
            last = note
        path.lineTo(last.x, 0)
        path.closeSubpath()
        shade = QColor(self._palette.ink)
        shade.setAlphaF(0.05)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(shade)
        painter.drawPath(path)

    def _paint_outside_runs(self, painter: QPainter) -> None:
        """The dashed line under outside notes, with each chord they imply over where it begins."""
        y = -OUTSIDE_LINE * SP
        run: list[LaneNote] = []
        named: tuple[str | None, str | None] | None = None
        for note in [*self._notes, None]:
            outside = note is not None and note.label.function is Function.OUTSIDE
            joins = outside and note is not None and (not run or _heard_as(run[-1]) == _heard_as(note))
            if joins and note is not None:
                run.append(note)
                continue
            if run:
                colour = self._palette.function(Function.OUTSIDE)
                pen = QPen(colour, 16, Qt.PenStyle.DashLine)
                painter.setPen(pen)
                painter.drawLine(QPointF(run[0].x - 0.8 * SP, y), QPointF(run[-1].x + 0.8 * SP, y))
                if run[0].label.implied and _heard_as(run[0]) != named:
                    named = _heard_as(run[0])
                    painter.setFont(font(1.6 * SP, 500))
                    name = shown_chord(parse_chord_symbol(run[0].label.implied))
                    painter.drawText(QPointF(run[0].x - 0.5 * SP, -4.4 * SP), name)
            run = [note] if outside and note is not None else []

    def _paint_arc(self, painter: QPainter, note: LaneNote) -> None:
        """A thin arc from an approach to its target."""
        if note.label.function is not Function.APPROACH or note.label.target is None:
            return
        # A target in the next line: the arc leaves towards the end of this one.
        target = self._x.get(note.label.target, self._right)
        start = QPointF(note.x, -1.7 * SP)
        lift = -(2.2 * SP + min(0.6 * SP, abs(target - note.x) * 0.1))
        path = QPainterPath(start)
        path.cubicTo(QPointF(note.x, lift), QPointF(target, lift), QPointF(target, -1.35 * SP))
        colour = self._palette.function(Function.APPROACH)
        painter.setPen(QPen(colour, 14))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPath(path)

    def _paint_degree(self, painter: QPainter, note: LaneNote, colour: QColor) -> None:
        face = font(DEGREE_SIZE, 500 if note.label.function is Function.CHORD else 400)
        text = note.label.shown_degree
        painter.setFont(face)
        painter.setPen(colour)
        advance = QFontMetricsF(face).horizontalAdvance(text)
        painter.drawText(QPointF(note.x - advance / 2, 1.95 * SP), text)

    def _paint_other_degree(self, painter: QPainter, note: LaneNote) -> None:
        """The degree in the other reading, smaller, in a row of its own."""
        if not note.label.other:
            return
        face = font(1.5 * SP, italic=True)
        painter.setFont(face)
        painter.setPen(QColor(self._palette.quiet_text))
        advance = QFontMetricsF(face).horizontalAdvance(note.label.other)
        painter.drawText(QPointF(note.x - advance / 2, BELOW_GROUND + 0.9 * SP), note.label.other)

    def _paint_readings(self, painter: QPainter) -> None:
        """Over a stretch that is read otherwise than by the changes, by what it is read."""
        y = -self.above + 1.3 * SP
        for heard, run in itertools.groupby(self._notes, key=lambda note: note.label.heard):
            notes = list(run)
            if not heard:
                continue
            painter.setPen(QPen(QColor(self._palette.accent), 18))
            painter.drawLine(
                QPointF(notes[0].x - 0.7 * SP, y + 0.35 * SP), QPointF(notes[-1].x + 0.7 * SP, y + 0.35 * SP)
            )
            painter.setFont(font(1.5 * SP, 500))
            painter.drawText(QPointF(notes[0].x - 0.5 * SP, y), heard)

    def _paint_footnote(self, painter: QPainter, note: LaneNote, number: int) -> None:
        face = font(1.35 * SP, 700)
        painter.setFont(face)
        painter.setPen(QColor(self._palette.faint_ink))
        advance = QFontMetricsF(face).horizontalAdvance(str(number))
        painter.drawText(QPointF(note.x - advance / 2, 3.95 * SP), str(number))

    def _paint_brackets(self, painter: QPainter) -> None:
        """Figures share a bracket under their degrees, open towards the target."""
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(QColor(self._palette.faint_ink), 16))
        for members in self._groups().values():
            left, right = members[0].x - 0.45 * SP, members[-1].x + 0.45 * SP
            targets = [self._x[m.label.target] for m in members if m.label.target and m.label.target in self._x]
            target = targets[0] if targets else None
            y = 2.5 * SP
            path = QPainterPath(QPointF(left, y - 0.25 * SP))
            path.lineTo(left, y)
            path.lineTo(right, y)
            if target is not None and target > right:
                path.lineTo(target, y)
                path.lineTo(target, y - 0.25 * SP)
            else:
                path.lineTo(right, y - 0.25 * SP)
            painter.drawPath(path)

    def _paint_target(self, painter: QPainter) -> None:
        x = self._x.get(self._target or "")
        if x is not None:
            painter.setPen(QPen(QColor(self._palette.accent), 36))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawEllipse(QPointF(x, -0.65 * SP), 1.2 * SP, 1.2 * SP)


def _heard_as(note: LaneNote) -> tuple[str | None, str | None]:
    """The figure of a note, and the chord it implies."""
    return note.label.group, note.label.implied
