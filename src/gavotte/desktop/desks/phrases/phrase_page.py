"""The page of the Phrases desk: phrases and threads under the lane; a phrase is chosen, its beginning dragged there."""

from __future__ import annotations

import itertools
from weakref import WeakKeyDictionary

from PyQt6.QtCore import QPointF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QMouseEvent, QPainterPath, QPen
from PyQt6.QtWidgets import QGraphicsLineItem, QGraphicsPathItem

from gavotte.desktop.page.breath_item import Breath, Breaths
from gavotte.desktop.page.line_item import LineItem, LineParts
from gavotte.desktop.page.page_view import PageView
from gavotte.engraving.engraver import EngravedLine, Engraver
from gavotte.engraving.shapes import STAFF_SPACE as SP

_LEFT_EDGE, _COMES_IN = 420.0, 6 * SP


class PhrasePage(PageView):
    """Signals: ``phrase_wanted(number)``, a phrase that was clicked; ``start_dragged(note, to)``, the phrase that began
    with a note (id) shall begin with another.
    """

    phrase_wanted = pyqtSignal(int)
    start_dragged = pyqtSignal(str, str)

    def __init__(self, engraver: Engraver) -> None:
        super().__init__(engraver, parts=LineParts(breaths=True))
        self._breaths = Breaths()
        self._dragged: Breath | None = None
        self._drop: str | None = None
        self._mark: QGraphicsLineItem | None = None
        self._threads: tuple[tuple[str, ...], ...] = ()
        self._through: dict[str, list[tuple[str, str]]] = {}
        """The steps of threads by the notes they join."""
        self._drawn: WeakKeyDictionary[LineItem, QGraphicsPathItem] = WeakKeyDictionary()
        viewport = self.viewport()
        assert viewport is not None
        viewport.setMouseTracking(True)

    def show_breaths(self, breaths: Breaths) -> None:
        """Show phrases and a thread under the lane."""
        self._breaths = breaths
        for item in self.lines:
            self._show_in(item)

    def _show_in(self, item: LineItem) -> None:
        if item.breaths is not None and self._solo is not None:
            item.breaths.show_breaths(self._breaths, self._solo.places)

    def _make_item(self, line: EngravedLine) -> LineItem:
        item = super()._make_item(line)
        self._show_in(item)
        self._draw_threads(item)
        return item

    def show_threads(self, threads: tuple[tuple[str, ...], ...]) -> None:
        """Draw threads through the heads of notes (ids), each a line of its own."""
        if threads != self._threads:
            self._threads = threads
            self._through = {}
            for thread in threads:
                for a, b in itertools.pairwise(thread):
                    self._through.setdefault(a, []).append((a, b))
                    self._through.setdefault(b, []).append((a, b))
            for item in self.lines:
                self._draw_threads(item)

    def _draw_threads(self, item: LineItem) -> None:
        old = self._drawn.pop(item, None)
        scene = old.scene() if old is not None else None
        if old is not None and scene is not None:
            scene.removeItem(old)
        path = QPainterPath()
        right = item.line.barlines[-1]
        steps = {step: None for note in item.note_items for step in self._through.get(note, ())}
        for a, b in ((item.head_of(first), item.head_of(last)) for first, last in steps):
            # A thread that leads into another line leaves at the edge of this one, and comes in at its beginning.
            if a is not None:
                path.moveTo(a)
                path.lineTo(b if b is not None else QPointF(right, a.y()))
            elif b is not None:
                path.moveTo(QPointF(max(_LEFT_EDGE, b.x() - _COMES_IN), b.y()))
                path.lineTo(b)
        if path.isEmpty():
            return
        drawn = QGraphicsPathItem(path, item)
        pen = QPen(QColor(self.palette_in_use.accent), 30)
        pen.setCapStyle(Qt.PenCapStyle.RoundCap)
        drawn.setPen(pen)
        drawn.setOpacity(0.75)
        self._drawn[item] = drawn

    # -- with the mouse -----------------------------------------------------------------------------

    def _breath_at(self, event: QMouseEvent, start: bool) -> Breath | None:
        """The phrase whose line is at the mouse, or whose beginning."""
        point = self.mapToScene(event.position().toPoint())
        for item in self.lines:
            if item.breaths is not None:
                local = item.breaths.mapFromScene(point)
                found = item.breaths.start_at if start else item.breaths.phrase_at
                if (breath := found(local.x(), local.y())) is not None:
                    return breath
        return None

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if event.button() == Qt.MouseButton.LeftButton:
            start = self._breath_at(event, start=True)
            # The first phrase begins where the solo does.
            if start is not None and start.number > 1:
                self._dragged, self._drop = start, start.note
                self.setFocus()
                return
            phrase = self._breath_at(event, start=False)
            if phrase is not None:
                self.phrase_wanted.emit(phrase.number)
                self.setFocus()
                return
        super().mousePressEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if self._dragged is None:
            at_start = self._breath_at(event, start=True)
            viewport = self.viewport()
            assert viewport is not None
            grips = at_start is not None and at_start.number > 1
            viewport.setCursor(Qt.CursorShape.SplitHCursor if grips else Qt.CursorShape.ArrowCursor)
            super().mouseMoveEvent(event)
            return
        point = self.mapToScene(event.position().toPoint())
        for item in self.lines:
            if item.pos().y() + item.top <= point.y() <= item.pos().y() + item.top + item.height:
                near = min(item.line.notes, key=lambda placed: abs(placed.x - point.x()), default=None)
                if near is not None:
                    self._drop = near.note.id
                    self._show_mark(item, near.x)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        dragged, drop = self._dragged, self._drop
        self._dragged = self._drop = None
        self._hide_mark()
        if dragged is not None and drop is not None and drop != dragged.note:
            self.start_dragged.emit(dragged.note, drop)
        elif dragged is not None:
            self.phrase_wanted.emit(dragged.number)
        super().mouseReleaseEvent(event)

    def _show_mark(self, item: LineItem, x: float) -> None:
        """Where the phrase would begin."""
        self._hide_mark()
        # It stands on the page and not in the line, which may be set anew meanwhile.
        x, y = x - 0.7 * SP, item.pos().y()
        self._mark = QGraphicsLineItem(x, y + item.line.staff[0], x, y + item.top + item.height)
        self._mark.setPen(QPen(QColor(self.palette_in_use.accent), 30, Qt.PenStyle.DashLine))
        self._page_scene.addItem(self._mark)

    def _hide_mark(self) -> None:
        mark, self._mark = self._mark, None
        scene = mark.scene() if mark is not None else None
        if mark is not None and scene is not None:
            scene.removeItem(mark)

    def _forget(self) -> None:
        self._mark = self._dragged = None
        self._drawn = WeakKeyDictionary()
        super()._forget()
