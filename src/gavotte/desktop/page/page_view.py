"""The page as a widget: shows a solo line by line, selects notes, zooms.

The first lines are set at once; the others follow one at a time between events, so the interface stays
awake. An edit sets only the lines it touches anew.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from fractions import Fraction
from typing import TypeVar

from PyQt6.QtCore import QObject, QRectF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent, QWheelEvent
from PyQt6.QtWidgets import QFrame, QGraphicsLineItem, QGraphicsScene, QGraphicsView, QWidget

from gavotte.desktop.page.caret_item import Caret, CaretItem
from gavotte.desktop.page.line_item import ALL_PARTS, LineItem, LineParts
from gavotte.desktop.theme.palette import DAY, Palette
from gavotte.desktop.translation import translate
from gavotte.desktop.undisturbed import Undisturbed
from gavotte.engraving.engraver import PAGE_LINES, EngravedLine, Engraver, line_breaks, line_format
from gavotte.engraving.mei import Staff, staff_for
from gavotte.engraving.shapes import STAFF_SPACE as SP
from gavotte.notation.written import Notation
from gavotte.solo.document import ChordEvent, Note, Solo, Text
from gavotte.solo.label import Label

_MARGIN = 3 * SP
_CLEARED_AT_ONCE = 4


def _same_layout(old: Solo, new: Solo) -> bool:
    """Whether two values of a solo have the same bars, keys and sections, so that lines can be compared."""
    return all(
        getattr(old, part) == getattr(new, part)
        for part in ("meters", "keys", "odd_bars", "pickup", "sections", "chorus", "instrument")
    )


def changed_times(old: Solo, new: Solo) -> list[tuple[Fraction, Fraction]]:
    """When (onset, end) the notes and chords sound that two values of a solo do not share.

    An edit keeps the values it does not touch, so they are told apart by identity, which is quick.
    """
    notes = _not_shared(old.notes, new.notes)
    chords = _not_shared(old.chords, new.chords)
    texts = _not_shared(old.texts, new.texts)
    points = [chord.onset for chord in chords] + [text.onset for text in texts]
    return [(note.onset, note.end) for note in notes] + [(point, point) for point in points]


ItemT = TypeVar("ItemT", Note, ChordEvent, Text)


def _not_shared(old: tuple[ItemT, ...], new: tuple[ItemT, ...]) -> list[ItemT]:
    if old is new:
        return []
    in_old, in_new = set(map(id, old)), set(map(id, new))
    return [item for item in old if id(item) not in in_new] + [item for item in new if id(item) not in in_old]


class _PageScene(QGraphicsScene):
    """A page with its lines."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self.lines: list[LineItem] = []


class PageView(QGraphicsView):
    """Shows a solo with its labels.

    Signals: ``selection_wanted(anchor, current)``, the note ids the user chose; ``place_wanted(time)``, a place
    without a note that was clicked (quarter notes); ``group_wanted(number)``, the bracket of a figure that was;
    ``zoom_wanted(steps)``, larger or smaller.
    """

    selection_wanted = pyqtSignal(str, str)
    place_wanted = pyqtSignal(object)
    group_wanted = pyqtSignal(int)
    zoom_wanted = pyqtSignal(int)

    def __init__(self, engraver: Engraver, parent: QWidget | None = None, parts: LineParts = ALL_PARTS) -> None:
        super().__init__(parent)
        self.setObjectName("page")
        self.setAccessibleName(translate("Gavotte", "The page"))
        self.setRenderHint(QPainter.RenderHint.Antialiasing)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setAlignment(Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignHCenter)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setViewportUpdateMode(QGraphicsView.ViewportUpdateMode.MinimalViewportUpdate)
        self.palette_in_use: Palette = DAY
        self._page_scene: _PageScene = self._new_scene()
        self.setScene(self._page_scene)
        self._place: int | None = None
        self._engraver, self._parts = engraver, parts
        self._solo: Solo | None = None
        self._notation: Notation | None = None
        self._labels: dict[str, Label] = {}
        self._degrees: dict[str, str] = {}
        self._staff = Staff("G", 2, 0)
        self._queue: list[tuple[int, int] | EngravedLine] = []
        self._stale: set[LineItem] = set()
        self._line_of: dict[str, LineItem] = {}
        self._anchor: str | None = None
        self._current: str | None = None
        self._selected: frozenset[str] = frozenset()
        self._pending: frozenset[str] = frozenset()
        self._kept: frozenset[str] | None = None
        self._wanted_in_view: str | None = None
        self._zoom = 1.0
        self._shape = PAGE_LINES
        self._playhead: QGraphicsLineItem | None = None
        self._played_line: LineItem | None = None
        self._caret: CaretItem | None = None
        self._caret_at: Caret | None = None
        self._timer = QTimer(self)
        self._timer.setInterval(0)
        self._timer.timeout.connect(self._set_next_line)
        self._left_behind: list[_PageScene] = []
        self._clearing = QTimer(self)
        self._clearing.setInterval(0)
        self._clearing.timeout.connect(self._clear_behind)

    # -- what is shown ------------------------------------------------------------------------------

    @property
    def lines(self) -> list[LineItem]:
        """The lines that are set, from the top."""
        return self._page_scene.lines

    @property
    def is_complete(self) -> bool:
        """Whether every line has been set."""
        return not self._queue and not self._stale

    @Undisturbed()
    def set_palette(self, palette: Palette) -> None:
        """Show the page in another theme's colours."""
        self.palette_in_use = palette
        self._page_scene.setBackgroundBrush(QColor(palette.page))
        if self._solo is not None and self._notation is not None:
            # What is engraved stays engraved; only the items are made anew, in other colours.
            lines = [*(item.line for item in self.lines), *self._queue]
            self._begin(self._solo, self._labels, self._notation, lines, keep_place=True)

    def clear(self) -> None:
        """Show nothing."""
        self._forget()
        if self._page_scene.lines:
            self._page_scene = self._new_scene()
        self._turn_over()

    def _forget(self) -> None:
        self._timer.stop()
        self._queue = []
        self._stale = set()
        self._line_of = {}
        self._solo = None
        self._playhead = self._played_line = self._caret = None

    def _new_scene(self) -> _PageScene:
        scene = _PageScene(self)
        # A few hundred lines are looked through at once; an index would be made anew at every edit, item by item.
        scene.setItemIndexMethod(QGraphicsScene.ItemIndexMethod.NoIndex)
        scene.setBackgroundBrush(QColor(self.palette_in_use.page))
        return scene

    def _turn_over(self) -> None:
        """Put the page that is being set in place of the one that is looked at."""
        before = self.scene()
        if before is self._page_scene:
            return
        self.setScene(self._page_scene)
        self._apply_zoom()
        if isinstance(before, _PageScene):
            self._leave_behind(before)
        if self._place is not None:
            self.verticalScrollBar().setValue(self._place)  # type: ignore[union-attr]
            self._place = None

    def _leave_behind(self, scene: _PageScene) -> None:
        """Take a page that is not looked at any more away, line by line: of a long solo it takes a while."""
        self._left_behind.append(scene)
        self._clearing.start()

    def _clear_behind(self) -> None:
        scene = self._left_behind[-1]
        for _ in range(min(_CLEARED_AT_ONCE, len(scene.lines))):
            scene.removeItem(scene.lines.pop())
        if not scene.lines:
            self._left_behind.pop()
            scene.deleteLater()
        if not self._left_behind:
            self._clearing.stop()

    def show_solo(self, solo: Solo, labels: dict[str, Label], keep_place: bool = False) -> None:
        """Show a solo from its first line on."""
        notation = Notation(solo)
        self._begin(solo, labels, notation, line_breaks(notation, self._shape.bars), keep_place)

    def _begin(
        self,
        solo: Solo,
        labels: dict[str, Label],
        notation: Notation,
        lines: Sequence[tuple[int, int] | EngravedLine],
        keep_place: bool,
    ) -> None:
        self._forget()
        if self._place is None or not keep_place:
            self._place = self.verticalScrollBar().value() if keep_place else 0  # type: ignore[union-attr]
        if self._page_scene is not self.scene():
            self._leave_behind(self._page_scene)
        self._page_scene = self._new_scene()
        self._take(solo, labels, notation, staff_for(solo))
        self._queue = list(lines)
        if not self._queue:
            self._turn_over()
        # Lines are set between events: nobody waits for what is not on the screen yet. What was there before is
        # looked at until the first is set, from which the height of the page can be guessed.
        self._timer.start()

    def update_solo(self, solo: Solo, labels: dict[str, Label]) -> None:
        """Show an edited solo: lines whose notation changed are set anew, others get their new labels."""
        if solo is self._solo and labels is self._labels:
            return
        old, old_degrees = self._solo, self._degrees
        before, staff = self._notation, self._staff
        if old is None or before is None or not _same_layout(old, solo) or staff_for(solo) != staff:
            self.show_solo(solo, labels, keep_place=True)
            return
        notation = before if solo is old else Notation(solo, before)
        # Lines still to come are set from the new value, unless they were engraved already or the bars are others.
        is_engraved = any(isinstance(line, EngravedLine) for line in self._queue)
        if is_engraved or (self._queue and notation.grid.bars != before.grid.bars):
            self.show_solo(solo, labels, keep_place=True)
            return
        old_labels = self._labels
        self._take(solo, labels, notation, staff)
        touched = changed_times(old, solo)
        if notation.grid.bars != before.grid.bars:
            self._set_end_anew(before, notation)
        for item in self.lines:
            start, end = item.line.source.bars[0].bar.onset, item.line.source.bars[-1].bar.end
            mine = [placed.note.id for placed in item.line.notes]
            other_degrees = any(old_degrees.get(note) != self._degrees.get(note) for note in mine)
            changed = other_degrees or any(low < end and start <= high for low, high in touched)
            same_labels = all(labels.get(note) is old_labels.get(note) for note in mine)
            if changed or not (same_labels or item.has_room_for(labels)):
                self._stale.add(item)
            elif not same_labels:
                item.set_labels(labels)
        if not self._set_first_stale_line():
            return
        self._show_selection()
        self._place_caret()

    def _set_first_stale_line(self) -> bool:
        """Set the first changed line that is looked at anew, others between events; False where all were set anew."""
        seen = self.mapToScene(self.viewport().rect()).boundingRect()  # type: ignore[union-attr]
        stale = [item for item in self.lines if item in self._stale]
        near = [i for i in stale if i.pos().y() + i.top < seen.bottom() and i.pos().y() + i.top + i.height > seen.top()]
        first = next(iter(near or stale), None)
        if first is not None and not self._set_line_anew(self.lines.index(first), first.line.first, first.line.last):
            return False
        if self._stale:
            self._timer.start()
        return True

    def _set_end_anew(self, before: Notation, notation: Notation) -> None:
        """Bars were added or dropped: the lines from the first that is another one on are set anew."""
        bars = self._shape.bars
        old, new = line_breaks(before, bars), line_breaks(notation, bars)
        same = 0
        while same < min(len(old), len(new)) - 1 and old[same] == new[same]:
            same += 1
        # The last line has a barline of its own and may be a short one.
        start = new[min(same, len(old) - 1)][0] if old else 0
        for item in [item for item in self.lines if item.line.first >= start]:
            self.lines.remove(item)
            self._stale.discard(item)
            self._page_scene.removeItem(item)
            self._line_of = {note: line for note, line in self._line_of.items() if line is not item}
        self._queue = [lines for lines in new if lines[0] >= start]
        while self._queue:
            self._set_next_line()

    def _take(self, solo: Solo, labels: dict[str, Label], notation: Notation, staff: Staff) -> None:
        self._solo, self._labels, self._notation, self._staff = solo, labels, notation, staff
        shown = labels if self._parts.degrees else {}
        self._degrees = {note: label.shown_degree for note, label in shown.items()}

    def _engrave(self, first: int, last: int) -> list[EngravedLine]:
        assert self._notation is not None
        return self._engraver.line(self._notation, first, last, self._degrees, self._staff, self._shape)

    @Undisturbed()
    def _set_next_line(self) -> None:
        if not self._queue:
            self._set_next_stale_line()
            return
        following = self._queue.pop(0)
        for line in [following] if isinstance(following, EngravedLine) else self._engrave(*following):
            item = self._make_item(line)
            item.setPos(0, self._bottom() - item.top)
            self._page_scene.addItem(item)
            self.lines.append(item)
        self._fit_scene()
        if self.scene() is not self._page_scene:
            self._turn_over()
        if self._wanted_in_view in self._line_of:
            self.ensure_note_visible(self._wanted_in_view)
        if not self._queue:
            if not self._stale:
                self._timer.stop()
            self._place_caret()
            if len(self.lines) == 1:
                self._apply_zoom()

    def _set_next_stale_line(self) -> None:
        stale = next((item for item in self.lines if item in self._stale), None)
        if stale is not None and not self._set_line_anew(self.lines.index(stale), stale.line.first, stale.line.last):
            return
        if stale is None or not self._stale:
            self._stale = set()
            self._timer.stop()
            self._show_selection()
            self._place_caret()

    def _make_item(self, line: EngravedLine) -> LineItem:
        assert self._solo is not None
        item = LineItem(line, self._labels, self._solo, self.palette_in_use, self._parts)
        for placed in line.notes:
            self._line_of[placed.note.id] = item
        item.set_pending(self._pending)
        if self._kept is not None:
            item.set_kept(self._kept)
        item.set_selected(self._selected)
        return item

    def _set_line_anew(self, index: int, first: int, last: int) -> bool:
        """Replace a line; False where it did not fit any more and the whole page was set anew."""
        old = self.lines[index]
        self._stale.discard(old)
        lines = self._engrave(first, last)
        if len(lines) != 1:
            assert self._solo is not None
            self.show_solo(self._solo, self._labels, keep_place=True)
            return False
        item = self._make_item(lines[0])
        item.setPos(0, old.pos().y() + old.top - item.top)
        shift = item.height - old.height
        self._page_scene.removeItem(old)
        self._page_scene.addItem(item)
        self.lines[index] = item
        if shift:
            for later in self.lines[index + 1 :]:
                later.moveBy(0, shift)
            self._fit_scene()
        return True

    def _bottom(self) -> float:
        if not self.lines:
            return _MARGIN / 2
        last = self.lines[-1]
        return last.pos().y() + last.top + last.height + 1.2 * SP

    def _fit_scene(self) -> None:
        """The scene's height, with the lines still to come guessed from those that are there."""
        bottom = self._bottom()
        expected = bottom / max(1, len(self.lines)) * len(self._queue)
        self._page_scene.setSceneRect(QRectF(0, 0, self._page_width(), bottom + expected + _MARGIN))

    # -- selection ----------------------------------------------------------------------------------

    def set_selection(self, anchor: str | None, current: str | None, selected: frozenset[str]) -> None:
        """Show a selection that runs from ``anchor`` to ``current``."""
        self._anchor, self._current, self._selected = anchor, current, selected
        self._show_selection()
        if current is not None:
            self.ensure_note_visible(current)

    def set_pending(self, pending: frozenset[str]) -> None:
        """Show some notes as proposed, not yet written."""
        self._pending = pending
        for item in self.lines:
            item.set_pending(pending)

    def set_kept(self, kept: frozenset[str] | None) -> None:
        """Show all but these notes faintly; None shows all of them."""
        if kept == self._kept:
            return
        self._kept = kept
        for item in self.lines:
            item.set_kept(kept)

    def set_numerals(self, shown: bool) -> None:
        """Show roman numerals under the chord symbols, or not."""
        if shown != self._parts.numerals:
            self._parts = replace(self._parts, numerals=shown)
            if self._solo is not None and self._notation is not None:
                lines = [*(item.line for item in self.lines), *self._queue]
                self._begin(self._solo, self._labels, self._notation, lines, keep_place=True)

    def show_target(self, note_id: str | None) -> None:
        """Ring a note's mark as a target, or none."""
        for item in self.lines:
            if item.lane is not None:
                item.lane.set_target(note_id if note_id in item.note_items else None)

    def show_playhead(self, time: float | None) -> None:
        """Show where the music is (quarter notes), following it down the page; None takes the playhead away."""
        line = None if time is None else self._line_at(time)
        if line is None or time is None:
            if self._playhead is not None:
                self._playhead.hide()
            self._played_line = None
            return
        if self._playhead is None:
            self._playhead = QGraphicsLineItem()
            pen = QPen(QColor(self.palette_in_use.accent), 0.3 * SP)
            pen.setCapStyle(Qt.PenCapStyle.RoundCap)
            self._playhead.setPen(pen)
            self._playhead.setOpacity(0.7)
            self._playhead.setZValue(-2)
            self._page_scene.addItem(self._playhead)
        x, y = line.line.x_at(time), line.pos().y()
        self._playhead.setLine(x, y + line.line.staff[0] - 2 * SP, x, y + line.top + line.height)
        self._playhead.show()
        if line is not self._played_line:
            self._played_line = line
            self.ensureVisible(QRectF(0, y + line.top, 1, line.height), 0, 24)

    def show_caret(self, caret: Caret | None) -> None:
        """Show where the next note is written, scrolling there; None takes the caret away."""
        self._caret_at = caret
        self._place_caret()
        if self._caret is not None:
            self.ensureVisible(self._caret.sceneBoundingRect(), 40, 24)

    @property
    def caret(self) -> CaretItem | None:
        """The caret as it is drawn, None where there is none."""
        return self._caret

    def _place_caret(self) -> None:
        if self._caret is not None:
            self._page_scene.removeItem(self._caret)
            self._caret = None
        caret = self._caret_at
        line = self._line_at(float(caret.time)) if caret is not None else None
        if caret is None or line is None:
            return
        self._caret = CaretItem(line, caret, self.palette_in_use)
        self._page_scene.addItem(self._caret)

    @property
    def playhead_x(self) -> float | None:
        """Where the playhead stands in its line, in engraver units; None where there is none."""
        return self._playhead.line().x1() if self._playhead is not None and self._playhead.isVisible() else None

    def _line_at(self, time: float) -> LineItem | None:
        """The line that holds a time; the last one's for times after it."""
        for item in self.lines:
            if time < item.line.source.bars[-1].bar.end:
                return item
        return self.lines[-1] if self.lines and not self._queue else None

    def time_in_next_line(self, time: Fraction, step: int) -> Fraction | None:
        """The time at the same place of the line below (1) or above (-1)."""
        line = self._line_at(float(time))
        if line is None:
            return None
        index = self.lines.index(line) + step
        return self.lines[index].line.time_at(line.line.x_at(float(time))) if 0 <= index < len(self.lines) else None

    def _show_selection(self) -> None:
        for item in self.lines:
            item.set_selected(self._selected)

    def ensure_note_visible(self, note_id: str) -> None:
        """Scroll so that a note's line is in view; later, if the line is still to be set."""
        item = self._line_of.get(note_id)
        self._wanted_in_view = None if item is not None else note_id
        box = item.note_box(note_id) if item is not None else None
        if box is not None:
            self.ensureVisible(box, 40, 12)

    def note_at(self, x: int, y: int) -> str | None:
        """The note whose head or lane mark is at a viewport position."""
        point = self.mapToScene(x, y)
        for line in self.lines:
            local = point.y() - line.pos().y()
            if line.top <= local <= line.top + line.height:
                head = line.note_at(point.x(), local)
                if head is not None:
                    return head
                if local > line.line.staff[1] + 2 * SP:
                    near = min(line.line.notes, key=lambda p: abs(p.x - point.x()), default=None)
                    if near is not None and abs(near.x - point.x()) < 1.2 * SP:
                        return near.note.id
        return None

    def _group_at(self, x: int, y: int) -> int | None:
        """The figure whose bracket is at a viewport position."""
        point = self.mapToScene(x, y)
        for line in self.lines:
            if line.lane is not None and line.top <= point.y() - line.pos().y() <= line.top + line.height:
                return line.lane.group_at(point.x(), point.y() - line.pos().y() - line.ground)
        return None

    def _time_at(self, x: int, y: int) -> Fraction | None:
        """The time of a place on or near a staff."""
        point = self.mapToScene(x, y)
        for line in self.lines:
            local = point.y() - line.pos().y()
            if line.line.staff[0] - 4 * SP <= local <= line.line.staff[1] + 4 * SP:
                return line.line.time_at(point.x())
        return None

    @Undisturbed()
    def paintEvent(self, event: QPaintEvent | None) -> None:
        # Lanes and chord symbols are painted in Python, each of which would wait for the workers.
        super().paintEvent(event)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        position = event.position().toPoint()
        note = self.note_at(position.x(), position.y())
        group = self._group_at(position.x(), position.y())
        if group is not None and event.button() == Qt.MouseButton.LeftButton:
            self.group_wanted.emit(group)
        elif note is not None and event.button() == Qt.MouseButton.LeftButton:
            extend = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
            self.selection_wanted.emit(self._anchor if extend and self._anchor else note, note)
        elif event.button() == Qt.MouseButton.LeftButton:
            time = self._time_at(position.x(), position.y())
            if time is not None:
                self.place_wanted.emit(time)
        self.setFocus()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        position = event.position().toPoint()
        if event.buttons() & Qt.MouseButton.LeftButton and self._anchor:
            note = self.note_at(position.x(), position.y())
            if note is not None and note != self._current:
                self.selection_wanted.emit(self._anchor, note)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        extend = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        target = self._note_for_key(event.key())
        if target is None or event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            event.ignore()
            return
        self.selection_wanted.emit(self._anchor if extend and self._anchor else target, target)

    def _note_for_key(self, key: int) -> str | None:
        if self._solo is None or not self._solo.notes:
            return None
        ids = [note.id for note in self._solo.notes]
        here = self._solo.places.get(self._current or "")
        match key:
            case Qt.Key.Key_Home:
                return ids[0]
            case Qt.Key.Key_End:
                return ids[-1]
            case Qt.Key.Key_Right | Qt.Key.Key_Left:
                if here is None:
                    return ids[0]
                step = 1 if key == Qt.Key.Key_Right else -1
                return ids[min(max(here + step, 0), len(ids) - 1)]
            case Qt.Key.Key_Down | Qt.Key.Key_Up:
                if self._current is None:
                    return ids[0]
                return self._note_in_next_line(self._current, 1 if key == Qt.Key.Key_Down else -1)
        return None

    def _note_in_next_line(self, note_id: str, step: int) -> str | None:
        item = self._line_of.get(note_id)
        if item is None:
            return None
        x = next(placed.x for placed in item.line.notes if placed.note.id == note_id)
        index = self.lines.index(item) + step
        while 0 <= index < len(self.lines):
            notes = self.lines[index].line.notes
            if notes:
                return min(notes, key=lambda placed: abs(placed.x - x)).note.id
            index += step
        return note_id

    # -- zoom ---------------------------------------------------------------------------------------

    @property
    def zoom(self) -> float:
        """1 is the usual size, four bars a line."""
        return self._zoom

    def set_zoom(self, zoom: float) -> None:
        """Show the page larger or smaller: lines stay as wide as the view and hold fewer bars, or more."""
        if zoom == self._zoom:
            return
        self._zoom = zoom
        self._shape = line_format(zoom)
        if self._solo is not None and self._notation is not None:
            current = self._current
            lines = line_breaks(self._notation, self._shape.bars)
            self._begin(self._solo, self._labels, self._notation, lines, keep_place=True)
            if current is not None:
                self.ensure_note_visible(current)

    def _page_width(self) -> float:
        """Width of the page in engraver units: one line, or less for a single short one."""
        if len(self.lines) == 1 and not self._queue and self.lines[0].line.barlines:
            return max(0.55 * self._shape.width, self.lines[0].line.barlines[-1] + 1.5 * SP)
        return self._shape.width

    def _apply_zoom(self) -> None:
        width = max(200, self.width() - 16)
        scale = width / self._page_width()
        self.resetTransform()
        self.scale(scale, scale)

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        assert event is not None
        if event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.zoom_wanted.emit(1 if event.angleDelta().y() > 0 else -1)
            event.accept()
        else:
            super().wheelEvent(event)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        # What is at the top stays there: Qt would keep the middle.
        top = self.mapToScene(0, 0).y()
        super().resizeEvent(event)
        self._apply_zoom()
        self.verticalScrollBar().setValue(round(top * self.transform().m22()))  # type: ignore[union-attr]
