"""The page of the Practice desk: what became of each note of a take stands at its head."""

from __future__ import annotations

from collections.abc import Mapping
from weakref import WeakKeyDictionary

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPen
from PyQt6.QtWidgets import QGraphicsItem, QStyleOptionGraphicsItem, QWidget

from gavotte.desktop.page.line_item import LineItem, LineParts
from gavotte.desktop.page.page_view import PageView
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.theme.type import font
from gavotte.engraving.engraver import EngravedLine, Engraver
from gavotte.engraving.shapes import STAFF_SPACE as SP
from gavotte.practice.focus import is_sure
from gavotte.practice.take import TakeNote, Verdict
from gavotte.theory.pitch import spell

_LATE, _MOST_LATE = 0.03, 0.12
"""Seconds from which early and late are shown, and from which on a mark is as long as it gets."""


class _Marks(QGraphicsItem):
    """The marks of one line: a cross with the name that was heard for a wrong note, a dashed ring for a missed one, a
    bar to the left or right of the head for an early or late one; dots under it where it was not heard for sure.
    """

    def __init__(self, heads: list[tuple[QPointF, TakeNote]], top: float, palette: Palette, parent: LineItem) -> None:
        super().__init__(parent)
        self._heads, self._top, self._palette = heads, top, palette
        self._box = parent.boundingRect()
        self.setZValue(3)

    def boundingRect(self) -> QRectF:
        return self._box

    def paint(
        self, painter: QPainter | None, option: QStyleOptionGraphicsItem | None, widget: QWidget | None = None
    ) -> None:
        assert painter is not None
        warning, accent = QColor(self._palette.warning), QColor(self._palette.accent)
        for at, note in self._heads:
            if note.verdict is Verdict.WRONG:
                self._cross(painter, at, note, warning)
            elif note.verdict is Verdict.MISSED:
                painter.setPen(QPen(warning, 22, Qt.PenStyle.DashLine))
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.drawEllipse(at, 1.1 * SP, 1.0 * SP)
            if note.late is not None and abs(note.late) >= _LATE and note.verdict is Verdict.RIGHT:
                length = min(1.0, abs(note.late) / _MOST_LATE) * 2.2 * SP
                side = 1 if note.late > 0 else -1
                pen = QPen(accent, 52)
                pen.setCapStyle(Qt.PenCapStyle.FlatCap)
                painter.setPen(pen)
                x = at.x() + side * 0.8 * SP
                painter.drawLine(QPointF(x, at.y()), QPointF(x + side * length, at.y()))
            if not is_sure(note):
                painter.setPen(Qt.PenStyle.NoPen)
                painter.setBrush(QColor(self._palette.faint_ink))
                for k in (-1, 0, 1):
                    painter.drawEllipse(QPointF(at.x() + 0.45 * k * SP, at.y() + 1.3 * SP), 0.13 * SP, 0.13 * SP)

    def _cross(self, painter: QPainter, at: QPointF, note: TakeNote, colour: QColor) -> None:
        size = 0.85 * SP
        pen = QPen(colour, 30)
        pen.setCapStyle(Qt.PenCapStyle.RoundCap)
        painter.setPen(pen)
        painter.drawLine(QPointF(at.x() - size, at.y() - size), QPointF(at.x() + size, at.y() + size))
        painter.drawLine(QPointF(at.x() - size, at.y() + size), QPointF(at.x() + size, at.y() - size))
        if note.heard is not None:
            painter.setFont(font(1.5 * SP, 700))
            name = spell(note.heard, 0).name.shown
            y = max(self._top + 1.4 * SP, at.y() - 2.0 * SP)
            painter.drawText(
                QRectF(at.x() - 3 * SP, y - 1.4 * SP, 6 * SP, 1.8 * SP), Qt.AlignmentFlag.AlignCenter, name
            )


class PracticePage(PageView):
    """Shows a run, and a take of it."""

    def __init__(self, engraver: Engraver) -> None:
        super().__init__(engraver, parts=LineParts())
        self._judged: Mapping[str, TakeNote] = {}
        self._in_lane: frozenset[str] = frozenset()
        self.has_playhead = True
        self._drawn: WeakKeyDictionary[LineItem, _Marks] = WeakKeyDictionary()

    def show_take(self, notes: Mapping[str, TakeNote]) -> None:
        """Show what became of notes (by their ids); none for no take."""
        if notes == self._judged:
            return
        self._judged = dict(notes)
        for item in self.lines:
            self._mark(item)

    @property
    def marked(self) -> Mapping[str, TakeNote]:
        """What is shown of a take."""
        return self._judged

    def show_in_lane(self, notes: frozenset[str]) -> None:
        """Of these notes (ids) show only what stands in the lane."""
        if notes != self._in_lane:
            self._in_lane = notes
            for item in self.lines:
                item.hide_notes(notes)

    def show_playhead(self, time: float | None) -> None:
        super().show_playhead(time if self.has_playhead else None)

    def _make_item(self, line: EngravedLine) -> LineItem:
        item = super()._make_item(line)
        if self._in_lane:
            item.hide_notes(self._in_lane)
        self._mark(item)
        return item

    def _mark(self, item: LineItem) -> None:
        old = self._drawn.pop(item, None)
        scene = old.scene() if old is not None else None
        if old is not None and scene is not None:
            scene.removeItem(old)
        heads = []
        for note_id in item.note_items:
            head = item.head_of(note_id) if note_id in self._judged else None
            if head is not None:
                heads.append((head, self._judged[note_id]))
        if heads:
            self._drawn[item] = _Marks(heads, item.top, self.palette_in_use, item)
