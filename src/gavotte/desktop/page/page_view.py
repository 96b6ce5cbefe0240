"""The page as a widget: shows a solo line by line, selects notes, zooms.

Lines are set one at a time between events, those that are seen first and then what lies near them, so the interface
stays awake and of a long solo only what is looked at is laid out. An edit sets only the lines it touches anew.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction

from PyQt6.QtCore import QEvent, QObject, QRectF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent, QWheelEvent
from PyQt6.QtWidgets import QFrame, QGraphicsLineItem, QGraphicsScene, QGraphicsView, QWidget

from gavotte.desktop.page.caret_item import Caret, CaretItem
from gavotte.desktop.page.line_item import ALL_PARTS, LineItem, LineParts
from gavotte.desktop.page.rows import MARGIN, Row, Rows
from gavotte.desktop.theme.palette import DAY, Palette
from gavotte.desktop.translation import translate
from gavotte.desktop.undisturbed import Undisturbed
from gavotte.engraving.engraver import PAGE_LINES, EngravedLine, Engraver, line_breaks, line_format
from gavotte.engraving.mei import Staff, staff_for
from gavotte.engraving.shapes import STAFF_SPACE as SP
from gavotte.notation.written import Notation
from gavotte.solo.differences import changed_times
from gavotte.solo.document import Solo
from gavotte.solo.label import Label
from gavotte.solo.note_labels import NoteLabels
from gavotte.solo.strings import usual_tuning

_CLEARED_AT_ONCE = 4
_FEW = 300
"""Notes: where more have other labels, every row is asked whether it holds some."""


def _same_layout(old: Solo, new: Solo) -> bool:
    """Whether two values of a solo have the same bars, keys and sections, so that lines can be compared."""
    return all(
        getattr(old, part) == getattr(new, part)
        for part in ("meters", "keys", "odd_bars", "pickup", "sections", "chorus", "instrument")
    )


def _relabelled(old: dict[str, Label], new: dict[str, Label]) -> set[str]:
    """The notes whose label is another one now, told apart by identity."""
    if old is new:
        return set()
    if isinstance(new, NoteLabels):
        return new.others_than(old)
    return {note for note, label in new.items() if old.get(note) is not label} | (old.keys() - new.keys())


class _Degrees(Mapping[str, str]):
    """What stands under notes, by their ids, read from their labels when it is asked for."""

    def __init__(self, labels: Mapping[str, Label]) -> None:
        self._labels = labels

    def __getitem__(self, note: str) -> str:
        return self._labels[note].shown_degree

    def __iter__(self) -> Iterator[str]:
        return iter(self._labels)

    def __len__(self) -> int:
        return len(self._labels)


_AFTER_EDIT_MS = 20
"""From a line that an edit set anew until the next one is set."""


class _PageScene(QGraphicsScene):
    """A page with its rows."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self.rows = Rows()
        # An index of all items would be made anew whenever the page grows or shrinks; lines that are not seen are
        # passed over as a whole, so none is needed.
        self.setItemIndexMethod(QGraphicsScene.ItemIndexMethod.NoIndex)

    @Undisturbed()
    def event(self, event: QEvent | None) -> bool:
        # What is to be painted anew is found by asking every line how far it reaches: each would wait for the workers.
        return super().event(event)


@dataclass(frozen=True, slots=True)
class _Held:
    """What is at the top of the view and stays there: the row of a bar, so many pixels below it.

    ``bar`` is None for the top of the page.
    """

    bar: int | None = None
    below: float = 0.0


class PageView(QGraphicsView):
    """Shows a solo with its labels.

    Signals: ``selection_wanted(anchor, current)``, the note ids the user chose; ``place_wanted(time)``, a place
    without a note that was clicked (quarter notes); ``group_wanted(group)``, the bracket of a figure that was;
    ``zoom_wanted(steps)``, larger or smaller.
    """

    selection_wanted = pyqtSignal(str, str)
    place_wanted = pyqtSignal(object)
    group_wanted = pyqtSignal(str)
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
        self._held: _Held | None = None
        self._engraver, self._parts = engraver, parts
        self._tablature = False
        self._solo: Solo | None = None
        self._notation: Notation | None = None
        self._labels: dict[str, Label] = {}
        self._staff = Staff("G", 2, 0)
        self._anchor: str | None = None
        self._current: str | None = None
        self._selected: frozenset[str] = frozenset()
        self._pending: frozenset[str] = frozenset()
        self._kept: frozenset[str] | None = None
        self._target: str | None = None
        self._wanted: str | Fraction | None = None
        self._waits = False
        self._zoom = 1.0
        self._shape = PAGE_LINES
        self._playhead: QGraphicsLineItem | None = None
        self._played_row: Row | None = None
        self._caret: CaretItem | None = None
        self._caret_at: Caret | None = None
        self._timer = QTimer(self)
        self._timer.setInterval(0)
        self._timer.timeout.connect(self._set_next)
        self._left_behind: list[tuple[_PageScene, list[LineItem]]] = []
        self._clearing = QTimer(self)
        self._clearing.setInterval(0)
        self._clearing.timeout.connect(self._clear_behind)
        self.verticalScrollBar().valueChanged.connect(self._look_around)  # type: ignore[union-attr]

    # -- what is shown ------------------------------------------------------------------------------

    @property
    def lines(self) -> list[LineItem]:
        """The lines that are set, from the top."""
        return self._rows.items

    @property
    def is_complete(self) -> bool:
        """Whether every line has been set that is seen, or near what is seen."""
        return self._next_due() is None

    def line_with(self, note_id: str) -> LineItem | None:
        """The line a note starts in; None where that is not set yet, or there is no such note."""
        time = self._time_of(note_id)
        row = None if time is None else self._row_at(time)
        return None if row is None else row.item

    @property
    def _rows(self) -> Rows:
        return self._page_scene.rows

    @Undisturbed()
    def set_palette(self, palette: Palette) -> None:
        """Show the page in another theme's colours."""
        self.palette_in_use = palette
        self._page_scene.setBackgroundBrush(QColor(palette.page))
        if self._solo is not None and self._notation is not None:
            self._make_anew(self._solo, self._notation)

    def _make_anew(self, solo: Solo, notation: Notation) -> None:
        """Make the items anew, of lines that stay as they were engraved."""
        rows = [
            Row(row.first, row.last, None if row.is_stale else row.line, expected=self._rows.height(row))
            for row in self._rows
        ]
        self._begin(solo, self._labels, notation, rows, keep_place=True)

    def clear(self) -> None:
        """Show nothing."""
        self._forget()
        if self._page_scene is self.scene():
            self._page_scene = self._new_scene()
        self._turn_over()

    def _forget(self) -> None:
        self._timer.stop()
        self._solo = None
        self._playhead = self._played_row = self._caret = None

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
        if self._held is not None:
            self._hold(self._held)
            self._held = None

    def _leave_behind(self, scene: _PageScene) -> None:
        """Take a page that is not looked at any more away, line by line: of a long solo it takes a while."""
        self._left_behind.append((scene, scene.rows.items))
        self._clearing.start()

    def _clear_behind(self) -> None:
        scene, items = self._left_behind[-1]
        for _ in range(min(_CLEARED_AT_ONCE, len(items))):
            scene.removeItem(items.pop())
        if not items:
            self._left_behind.pop()
            scene.rows = Rows()
            scene.deleteLater()
        if not self._left_behind:
            self._clearing.stop()

    # -- where it is looked at ----------------------------------------------------------------------

    @property
    def _scale(self) -> float:
        """Pixels to an engraver unit."""
        return self.transform().m22()

    def _seen(self) -> tuple[float, float]:
        """From where to where the page that is being set is seen, in engraver units."""
        height = self.viewport().height() / self._scale  # type: ignore[union-attr]
        top = self.verticalScrollBar().value() / self._scale  # type: ignore[union-attr]
        if self._held is not None:
            row = None if self._held.bar is None else self._rows.of_bar(self._held.bar)
            top = 0.0 if row is None else row.top + self._held.below / self._scale
        return top, top + height

    def _place_seen(self) -> _Held:
        """What is at the top of the view."""
        value = self.verticalScrollBar().value()  # type: ignore[union-attr]
        row = self._rows.at_height(value / self._scale)
        return _Held(row.first, value - row.top * self._scale) if row is not None and value else _Held()

    def _hold(self, place: _Held) -> None:
        """Look at a place again, wherever its row lies by now."""
        row = None if place.bar is None else self._rows.of_bar(place.bar)
        value = 0 if row is None else round(row.top * self._scale + place.below)
        self.verticalScrollBar().setValue(value)  # type: ignore[union-attr]

    def _look_around(self) -> None:
        """Another part of the page is looked at: set what is not set there yet."""
        if self._solo is not None and not self._timer.isActive():
            self._timer.start(0)

    def _row_at(self, time: Fraction) -> Row | None:
        """The row that holds a time; the last one for times after it."""
        return None if self._notation is None else self._rows.of_bar(self._notation.grid.index_at(time))

    def _time_of(self, note_id: str | None) -> Fraction | None:
        """When a note of what is shown begins (quarter notes), None where there is no such note."""
        solo = self._solo
        return solo.note(note_id).onset if solo is not None and note_id is not None and note_id in solo.places else None

    # -- setting lines ------------------------------------------------------------------------------

    def show_solo(self, solo: Solo, labels: dict[str, Label], keep_place: bool = False) -> None:
        """Show a solo from its first line on."""
        notation = self._engraver.notation(solo)
        self._begin(solo, labels, notation, self._fresh_rows(notation), keep_place)

    def _fresh_rows(self, notation: Notation) -> list[Row]:
        return [Row(first, last) for first, last in line_breaks(notation, self._shape.bars)]

    def _begin(
        self, solo: Solo, labels: dict[str, Label], notation: Notation, rows: Sequence[Row], keep_place: bool
    ) -> None:
        self._forget()
        if not keep_place:
            self._held = _Held()
        elif self._held is None:
            self._held = self._place_seen()
        if self._page_scene is not self.scene():
            self._leave_behind(self._page_scene)
        self._page_scene = self._new_scene()
        self._take(solo, labels, notation, staff_for(solo))
        self._page_scene.rows = Rows(rows)
        if not rows:
            self._turn_over()
        # Lines are set between events: nobody waits for what is not on the screen yet. What was there before is
        # looked at until the first is set, from which the height of the page can be guessed.
        self._timer.start(0)

    def update_solo(self, solo: Solo, labels: dict[str, Label]) -> None:
        """Show an edited solo: lines whose notation changed are set anew, others get their new labels."""
        if solo is self._solo and labels is self._labels:
            return
        old, before, staff = self._solo, self._notation, self._staff
        if old is None or before is None or not _same_layout(old, solo) or staff_for(solo) != staff:
            self.show_solo(solo, labels, keep_place=True)
            return
        notation = before if solo is old else self._engraver.notation(solo, before)
        relabelled = _relabelled(self._labels, labels)
        other_degrees = self._other_degrees(relabelled, labels)
        self._take(solo, labels, notation, staff)
        due: set[Row] = set()
        if notation.grid.bars != before.grid.bars:
            due.update(self._change_end(before, notation))
        index_at = notation.grid.index_at
        bars: set[int] = set()
        for low, high in changed_times(old, solo):
            bars.update(range(index_at(low), index_at(high) + 1))
        due.update(self._rows_of(bars))
        for row in self._rows_of_notes(relabelled, solo, notation) if len(relabelled) <= _FEW else self._rows:
            # What is not engraved yet gets its labels when it is.
            line = row.line if row.item is None else row.item.line
            if line is None or row in due:
                continue
            if any(placed.note.id in other_degrees for placed in line.notes):
                due.add(row)
            elif row.item is not None and any(placed.note.id in relabelled for placed in line.notes):
                if row.item.has_room_for(labels):
                    row.item.set_labels(labels)
                else:
                    due.add(row)
        for row in due:
            row.is_stale, row.line = row.item is not None, None
        self._set_first(due)
        self._show_selection()
        self._place_caret()

    def _rows_of_notes(self, notes: Iterable[str], solo: Solo, notation: Notation) -> set[Row]:
        """The rows in which notes (by id) stand that the solo has."""
        here = (solo.note(note) for note in notes if note in solo.places)
        return self._rows_of(bar for note in here for bar in notation.grid.sounding(note.onset, note.duration))

    def _rows_of(self, bars: Iterable[int]) -> set[Row]:
        """The rows that hold bars, by index."""
        return {row for row in map(self._rows.of_bar, bars) if row is not None}

    def _other_degrees(self, relabelled: Iterable[str], labels: dict[str, Label]) -> set[str]:
        """Those of the notes with other labels under which something else stands now."""
        if not self._parts.degrees:
            return set()
        before, now = _Degrees(self._labels), _Degrees(labels)
        return {note for note in relabelled if before.get(note) != now.get(note)}

    def _set_first(self, due: set[Row]) -> None:
        """Of some rows set now the first that is seen, or the first that was set before; the others between events."""
        if not due:
            return
        top, bottom = self._seen()
        in_order = [row for row in self._rows if row in due]
        seen = (row for row in in_order if row.top < bottom and row.top + self._rows.height(row) > top)
        first = next(seen, None) or next((row for row in in_order if row.item is not None), None)
        if first is not None and self.scene() is self._page_scene:
            self._set_row(first)
        # First what was set is painted, and the next key taken.
        self._waits = True
        self._timer.start(_AFTER_EDIT_MS)

    def _change_end(self, before: Notation, notation: Notation) -> list[Row]:
        """Bars were added or dropped: the rows from the first that is another one on are others; gives those."""
        bars = self._shape.bars
        old, new = line_breaks(before, bars), line_breaks(notation, bars)
        same = 0
        while same < min(len(old), len(new)) - 1 and old[same] == new[same]:
            same += 1
        # The last line has a barline of its own and may be a short one.
        start = new[min(same, len(old) - 1)][0] if old else 0
        gone = [row for row in self._rows if row.first >= start]
        for row in gone:
            if row.item is not None:
                self._page_scene.removeItem(row.item)
        rows = [Row(first, last) for first, last in new if first >= start]
        self._rows.replace(gone, rows)
        self._rows.lay_out()
        return rows

    def _take(self, solo: Solo, labels: dict[str, Label], notation: Notation, staff: Staff) -> None:
        self._solo, self._labels, self._notation, self._staff = solo, labels, notation, staff

    def _engrave(self, first: int, last: int) -> list[EngravedLine]:
        assert self._notation is not None
        degrees = _Degrees(self._labels if self._parts.degrees else {})
        return self._engraver.line(self._notation, first, last, degrees, self._staff, self._shape)

    def _next_due(self) -> Row | None:
        if self._solo is None:
            return None
        return self._rows.next_due(*self._seen(), self._wanted_row())

    @Undisturbed()
    def _set_next(self) -> None:
        """Set one line; where none is due any more, rest."""
        if self._waits:
            # The edit may have taken longer than that: what it left to paint comes before the next line all the same.
            self._waits = False
            self._timer.start(_AFTER_EDIT_MS)
            return
        self._timer.setInterval(0)
        row = self._next_due()
        if row is None:
            self._timer.stop()
        else:
            self._set_row(row)

    def _set_row(self, row: Row) -> None:
        """Set the line of a row, or set it anew; one that doesn't fit becomes two or more."""
        lines = [row.line] if row.line is not None else self._engrave(row.first, row.last)
        place = self._place_seen() if self._held is None else None
        if row.item is not None:
            self._page_scene.removeItem(row.item)
        rows = [Row(line.first, line.last, line, self._make_item(line)) for line in lines]
        for fresh in rows:
            self._page_scene.addItem(fresh.item)
        self._rows.replace([row], rows)
        self._rows.lay_out()
        self._fit_scene()
        if self.scene() is not self._page_scene:
            self._turn_over()
        elif place is not None:
            self._hold(place)
        if len(self._rows) == 1:
            self._apply_zoom()
        self._place_caret()
        self._show_wanted()

    def _at_once(self, row: Row) -> LineItem:
        """The line of a row, set now where it was still to be set, or set anew."""
        if row.is_due:
            self._set_row(row)
            row = self._rows.of_bar(row.first) or row
        assert row.item is not None
        return row.item

    def _make_item(self, line: EngravedLine) -> LineItem:
        assert self._solo is not None
        tuning = usual_tuning(self._solo.instrument) if self._tablature else None
        parts = replace(self._parts, tuning=tuning) if tuning is not None else self._parts
        item = LineItem(line, self._labels, self._solo, self.palette_in_use, parts)
        item.set_pending(self._pending)
        if self._kept is not None:
            item.set_kept(self._kept)
        item.set_selected(self._selected)
        if item.lane is not None and self._target in item.note_items:
            item.lane.set_target(self._target)
        return item

    def _fit_scene(self) -> None:
        """The scene's height, with the lines still to come guessed from those that are there."""
        self._page_scene.setSceneRect(QRectF(0, 0, self._page_width(), self._rows.bottom + MARGIN))

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
                self._make_anew(self._solo, self._notation)

    def set_tablature(self, shown: bool) -> None:
        """Show tablature under the staff of an instrument with strings, or not."""
        if shown != self._tablature:
            self._tablature = shown
            if self._solo is not None and self._notation is not None:
                self._make_anew(self._solo, self._notation)

    def show_target(self, note_id: str | None) -> None:
        """Ring a note's mark as a target, or none."""
        self._target = note_id
        for item in self.lines:
            if item.lane is not None:
                item.lane.set_target(note_id if note_id in item.note_items else None)

    def show_playhead(self, time: float | None) -> None:
        """Show where the music is (quarter notes), following it down the page; None takes the playhead away."""
        row = None if time is None else self._row_at(Fraction(time))
        if row is None or time is None or row.item is None:
            if self._playhead is not None:
                self._playhead.hide()
            self._played_row = None
            if row is not None and time is not None:
                self._want(Fraction(time))
            return
        if self._playhead is None:
            self._playhead = QGraphicsLineItem()
            pen = QPen(QColor(self.palette_in_use.accent), 0.3 * SP)
            pen.setCapStyle(Qt.PenCapStyle.RoundCap)
            self._playhead.setPen(pen)
            self._playhead.setOpacity(0.7)
            self._playhead.setZValue(-2)
            self._page_scene.addItem(self._playhead)
        line, y = row.item, row.item.pos().y()
        x = line.line.x_at(time)
        self._playhead.setLine(x, y + line.line.staff[0] - 2 * SP, x, y + line.top + line.height)
        self._playhead.show()
        if row is not self._played_row:
            self._played_row = row
            self.ensureVisible(QRectF(0, y + line.top, 1, line.height), 0, 24)

    def show_caret(self, caret: Caret | None) -> None:
        """Show where the next note is written, scrolling there; None takes the caret away."""
        self._caret_at = caret
        self._place_caret()
        if self._caret is not None:
            self.ensureVisible(self._caret.sceneBoundingRect(), 40, 24)
        elif caret is not None:
            self._want(caret.time)

    @property
    def caret(self) -> CaretItem | None:
        """The caret as it is drawn, None where there is none."""
        return self._caret

    def _place_caret(self) -> None:
        if self._caret is not None:
            self._page_scene.removeItem(self._caret)
            self._caret = None
        caret = self._caret_at
        row = self._row_at(caret.time) if caret is not None else None
        if caret is None or row is None or row.item is None:
            return
        self._caret = CaretItem(row.item, caret, self.palette_in_use)
        self._page_scene.addItem(self._caret)

    @property
    def playhead_x(self) -> float | None:
        """Where the playhead stands in its line, in engraver units; None where there is none."""
        return self._playhead.line().x1() if self._playhead is not None and self._playhead.isVisible() else None

    def time_in_next_line(self, time: Fraction, step: int) -> Fraction | None:
        """The time at the same place of the line below (1) or above (-1)."""
        row = self._row_at(time)
        if row is None:
            return None
        x = self._at_once(row).line.x_at(float(time))
        other = self._neighbour(time, step)
        return None if other is None else self._at_once(other).line.time_at(x)

    def _neighbour(self, time: Fraction, step: int) -> Row | None:
        """The row some steps below that of a time, or above; None beyond the first and last."""
        row = self._row_at(time)
        index = -1 if row is None else self._rows.index(row) + step
        return self._rows[index] if 0 <= index < len(self._rows) else None

    def _show_selection(self) -> None:
        for item in self.lines:
            item.set_selected(self._selected)

    def _want(self, wanted: str | Fraction) -> None:
        """Set the line of a note or time before all others, and look at it then."""
        self._wanted = wanted
        self._look_around()

    def _wanted_row(self) -> Row | None:
        """The row of the note or time that is wanted, None where none is."""
        time = self._time_of(self._wanted) if isinstance(self._wanted, str) else self._wanted
        return None if time is None else self._row_at(time)

    def _show_wanted(self) -> None:
        row = self._wanted_row()
        if row is not None and row.item is not None:
            self._wanted = None
            self.ensureVisible(QRectF(0, row.top, 1, row.item.height), 0, 12)

    def ensure_note_visible(self, note_id: str) -> None:
        """Scroll so that a note's line is in view; later, if the line is still to be set."""
        item = self.line_with(note_id)
        box = item.note_box(note_id) if item is not None else None
        if box is None:
            self._want(note_id)
        else:
            self._wanted = None
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

    def _group_at(self, x: int, y: int) -> str | None:
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
        time = self._time_of(note_id)
        row = None if time is None else self._row_at(time)
        if time is None or row is None:
            return None
        self._at_once(row)
        # A line that did not fit has become two.
        row = self._row_at(time) or row
        x = next((placed.x for placed in self._at_once(row).line.notes if placed.note.id == note_id), None)
        if x is None:
            return note_id
        steps = step
        while (other := self._neighbour(time, steps)) is not None:
            notes = self._at_once(other).line.notes
            if notes:
                return min(notes, key=lambda placed: abs(placed.x - x)).note.id
            steps += step
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
            self._begin(self._solo, self._labels, self._notation, self._fresh_rows(self._notation), keep_place=True)
            if self._current is not None:
                self.ensure_note_visible(self._current)

    def _page_width(self) -> float:
        """Width of the page in engraver units: one line, or less for a single short one."""
        line = self._rows[0].item if len(self._rows) == 1 else None
        if line is not None and line.line.barlines:
            return max(0.55 * self._shape.width, line.line.barlines[-1] + 1.5 * SP)
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
        self.verticalScrollBar().setValue(round(top * self._scale))  # type: ignore[union-attr]
        self._look_around()
