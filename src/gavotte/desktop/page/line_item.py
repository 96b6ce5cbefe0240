"""One line of the page: staff with notes, chord symbols and bar number above, function lane below."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPainterPath, QPen
from PyQt6.QtWidgets import (
    QGraphicsItem,
    QGraphicsPathItem,
    QGraphicsSimpleTextItem,
    QStyleOptionGraphicsItem,
    QWidget,
)

from gavotte.desktop.page.articulation_item import ArticulationItem
from gavotte.desktop.page.blank_lane import BlankLane
from gavotte.desktop.page.breath_item import BREATHS, BreathItem
from gavotte.desktop.page.chord_item import CHORD_SIZE, ChordItem
from gavotte.desktop.page.element_path import element_path
from gavotte.desktop.page.lane_item import (
    BELOW_GROUND,
    SECOND_ROW,
    TIGHT,
    LaneItem,
    LaneNote,
    has_second_row,
    room_above,
)
from gavotte.desktop.page.paths import rect
from gavotte.desktop.page.tab_item import Fret, TabItem, frets_of, room_of
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.theme.type import font
from gavotte.engraving.engraver import EngravedLine
from gavotte.engraving.shapes import STAFF_SPACE as SP
from gavotte.engraving.shapes import Box, Element
from gavotte.harmony.ground import ground_of
from gavotte.solo.document import Solo
from gavotte.solo.form import form_marks
from gavotte.solo.label import Label
from gavotte.solo.strings import Tuning


@dataclass(frozen=True)
class LineParts:
    """What of a line is shown, besides its notes."""

    lane: bool = True
    degrees: bool = True
    chords: bool = True
    bar_numbers: bool = True
    footnotes: bool = False
    numerals: bool = False
    breaths: bool = False
    blank: bool = False
    """A lane to be filled in: its ground, and a rule under each note to write a degree on."""
    tuning: Tuning | None = None
    """The strings of the tablature under the staff, None for none; it stands where a note of the line has a string."""

    @property
    def below_ground(self) -> float:
        """Room the lane takes below its ground line, in engraver units."""
        if self.footnotes:
            return BELOW_GROUND + 1.3 * SP
        return BELOW_GROUND if self.degrees or self.blank else 1.0 * SP

    @property
    def under_staff(self) -> bool:
        """Whether anything stands under the staff."""
        return self.lane or self.degrees or self.footnotes or self.blank


ALL_PARTS = LineParts()
"""What the page of a solo shows."""

_WORDS_ROOM = 2.0 * SP
_BLANK_ROOM = 4.5 * SP
_NUMERAL_ROOM = 1.5 * SP
_QUIET_KINDS = {"barLine", "clef", "keySig", "meterSig", "rest", "mRest"}


def _layer(kind: str) -> int:
    """Where something lies that is no note's own: the staff 0, what stands on it 1, what joins notes 2."""
    if kind == "staff":
        return 0
    return 1 if kind in _QUIET_KINDS else 2


class LineItem(QGraphicsItem):
    """A line; its position is where its own y 0 (the engraver's) lies on the page."""

    def __init__(
        self,
        line: EngravedLine,
        labels: dict[str, Label],
        solo: Solo,
        palette: Palette,
        parts: LineParts = ALL_PARTS,
    ) -> None:
        super().__init__()
        self.setFlag(QGraphicsItem.GraphicsItemFlag.ItemHasNoContents)
        # What is looked for elsewhere on the page passes over a line as a whole.
        self.setFlag(QGraphicsItem.GraphicsItemFlag.ItemContainsChildrenInShape)
        self.line, self._palette, self._parts, self._solo = line, palette, parts, solo
        self.labels = self._mine(labels)
        bars = line.source.bars
        self._sections = [
            (next(i for i, written in enumerate(bars) if mark.onset < written.bar.end), mark)
            for mark in form_marks(solo)
            if bars[0].bar.onset <= mark.onset < bars[-1].bar.end
        ]
        self._texts = [text for text in solo.texts if bars[0].bar.onset <= text.onset < bars[-1].bar.end]
        self._reach = QRectF()
        self.note_items: dict[str, QGraphicsPathItem] = {}
        self._heads: list[tuple[Box, str]] = []
        self._joins: list[QGraphicsPathItem] = []
        self.lane: LaneItem | None = None
        self._selected: frozenset[str] = frozenset()
        self._pending: frozenset[str] = frozenset()
        self._kept: frozenset[str] | None = None
        high, low = line.ink
        frets = frets_of(line, parts.tuning) if parts.tuning is not None else []
        ink, doubt = QColor(palette.ink), QColor(palette.warning)
        high = min(high, ArticulationItem(line, ink, doubt, self, strings=not frets).top)
        numerals = _NUMERAL_ROOM if parts.numerals and parts.chords else 0.0
        self._chord_y = min(high, line.staff[0] - SP) - 0.75 * SP - numerals
        self._room = _BLANK_ROOM if parts.blank else room_above(list(self.labels.values())) if parts.lane else 0.0
        self._under_notes = max(low, line.staff[1] + SP)
        tablature = room_of(parts.tuning) if parts.tuning is not None and frets else 0.0
        self.ground = self._under_notes + tablature + 0.3 * SP + self._room
        under = parts.under_staff
        second = SECOND_ROW if has_second_row(self.labels.values()) else 0.0
        self._bottom = (
            self.ground + parts.below_ground + second if under else max(low, line.staff[1]) + tablature + 1.2 * SP
        )
        self.breaths = self._build_breaths()
        self._build_staff()
        self._build_chords()
        self._build_margin()
        self._build_texts()
        self._build_tie_stubs()
        self._build_lane()
        self.tablature = self._build_tablature(frets)
        # Arcs, bends and selections reach a little over the line's own room.
        self._reach = QRectF(0, self.top, line.barlines[-1], self.height).adjusted(-8 * SP, -5 * SP, 8 * SP, 5 * SP)

    @property
    def top(self) -> float:
        """Upper end of the line's room, in its own coordinates."""
        above = self._chord_y - 1.35 * CHORD_SIZE if self._parts.chords else self._chord_y - 1.2 * SP
        return above - (2.0 * SP if self._sections else 0.0) - (_WORDS_ROOM if self._texts else 0.0)

    @property
    def height(self) -> float:
        """Room the line takes on the page."""
        return self._bottom - self.top

    def boundingRect(self) -> QRectF:
        return self._reach

    def paint(
        self, painter: QPainter | None, option: QStyleOptionGraphicsItem | None, widget: QWidget | None = None
    ) -> None:
        """Nothing: the children paint."""

    def _mine(self, labels: dict[str, Label]) -> dict[str, Label]:
        """The labels of the notes that start in this line."""
        return {placed.note.id: labels[placed.note.id] for placed in self.line.notes if placed.note.id in labels}

    def has_room_for(self, labels: dict[str, Label]) -> bool:
        """Whether the lane of these labels fits between this line's staff and ground."""
        mine = list(self._mine(labels).values())
        rows = has_second_row(mine) == has_second_row(self.labels.values())
        return rows and room_above(mine, TIGHT) <= self._room

    def set_labels(self, labels: dict[str, Label]) -> None:
        """Redraw the lane if the labels of this line's notes are other ones now."""
        mine = self._mine(labels)
        if mine == self.labels:
            return
        self.labels = mine
        if self.lane is not None:
            scene = self.lane.scene()
            self.lane.setParentItem(None)
            if scene is not None:
                scene.removeItem(self.lane)
        self._build_lane()

    def set_selected(self, note_ids: frozenset[str]) -> None:
        """Colour the selected notes of this line."""
        # What is selected can be the whole solo; a line has few notes.
        mine = frozenset(note for note in self.note_items if note in note_ids)
        if mine == self._selected:
            return
        changed = self._selected ^ mine
        self._selected = mine
        self._colour(changed)
        if self.lane is not None:
            self.lane.set_selected(self._selected)

    def set_pending(self, note_ids: frozenset[str]) -> None:
        """Colour the notes that are only proposed."""
        mine = frozenset(note for note in self.note_items if note in note_ids)
        changed = self._pending ^ mine
        self._pending = mine
        self._colour(changed)

    def set_kept(self, note_ids: frozenset[str] | None) -> None:
        """Show all but these notes faintly; None shows all of them."""
        self._kept = note_ids
        self._colour(self.note_items)
        if self.lane is not None:
            self.lane.set_kept(note_ids)

    def _colour(self, notes: Iterable[str]) -> None:
        palette = self._palette
        for note_id in notes:
            name = palette.accent if note_id in self._selected else palette.ink
            faint = note_id in self._pending or (self._kept is not None and note_id not in self._kept)
            if faint and note_id not in self._selected:
                name = palette.faint_ink
            self.note_items[note_id].setBrush(QColor(name))

    def set_footnotes(self, numbers: dict[str, int]) -> None:
        """Number notes for the reasons at the foot of the page."""
        if self.lane is not None:
            self.lane.set_footnotes(numbers)

    def note_box(self, note_id: str) -> QRectF | None:
        """The room from chord symbols to degrees around a note, in scene coordinates."""
        item = self.note_items.get(note_id)
        if item is None:
            return None
        x = item.sceneBoundingRect().center().x()
        return QRectF(x - SP, self.pos().y() + self.top, 2 * SP, self.height)

    def head_of(self, note_id: str) -> QPointF | None:
        """The middle of a note's head in this line, None where it does not begin here."""
        head = next((head for head, owner in self._heads if owner == note_id), None)
        return None if head is None else QPointF(*head.centre)

    def note_at(self, x: float, y: float) -> str | None:
        """The note whose head, or the room of half a space around it, is at a place of this line."""
        near = [
            (abs(head.centre[0] - x) + abs(head.centre[1] - y), note_id)
            for head, note_id in self._heads
            if rect(head).adjusted(-60, -90, 60, 90).contains(x, y)
        ]
        return min(near)[1] if near else None

    def _build_staff(self) -> None:
        """The staff, what belongs to it, what joins notes, and each note as an item that takes a colour of its own."""
        ink, staff = QColor(self._palette.ink), QColor(self._palette.staff)
        owners = {element: placed.note.id for placed in self.line.notes for element in placed.elements}
        owners.update(self.line.carried_parts)
        of_note: dict[str, list[Element]] = {}
        layers: tuple[list[Element], list[Element], list[Element]] = ([], [], [])
        for element in self.line.drawing.elements:
            if element.box is None:
                continue
            if element.id in owners:
                note_id = owners[element.id]
                of_note.setdefault(note_id, []).append(element)
                if element.head is not None:
                    self._heads.append((element.head, note_id))
            else:
                layers[_layer(element.kind)].append(element)
        for elements, colour, height in zip(layers, (staff, ink, ink), (0, 0, 1), strict=True):
            if not elements:
                continue
            item = self._inked(elements, colour, height)
            if height:
                self._joins.append(item)
        for note_id, elements in of_note.items():
            self.note_items[note_id] = self._inked(elements, ink, 2)

    def hide_notes(self, notes: frozenset[str]) -> None:
        """Draw these notes (ids) and what joins them no longer; what stands in the lane stays."""
        mine = notes & self.note_items.keys()
        for note_id, item in self.note_items.items():
            item.setVisible(note_id not in notes)
        for join in self._joins:
            join.setVisible(not mine)

    def _inked(self, elements: list[Element], colour: QColor, height: int) -> QGraphicsPathItem:
        item = QGraphicsPathItem(element_path(elements, self.line.drawing), self)
        item.setPen(QPen(Qt.PenStyle.NoPen))
        item.setBrush(colour)
        item.setZValue(height)
        return item

    def _build_chords(self) -> None:
        if not self._parts.chords:
            return
        edge = 0.0
        solo = self._solo
        numbered = ground_of(solo).numbered if self._parts.numerals else ()
        numerals = {entry.change.onset: entry.shown for entry in numbered}
        for placed in self.line.chords:
            item = ChordItem(placed.chord.symbol, QColor(self._palette.ink), self)
            x = max(placed.x, edge)
            item.setPos(x, self._chord_y)
            edge = x + item.width + 0.4 * SP
            if placed.chord.onset in numerals:
                self._numeral(numerals[placed.chord.onset], x)

    def _numeral(self, text: str, x: float) -> None:
        item = QGraphicsSimpleTextItem(text, self)
        item.setFont(font(1.5 * SP, 500))
        item.setBrush(QColor(self._palette.quiet_text))
        item.setPos(x, self._chord_y + 0.15 * SP)

    def _build_margin(self) -> None:
        """Bar number at the start of the line, section letters where sections start."""
        first = self.line.source.bars[0].bar
        if first.number > 1 and self._parts.bar_numbers:
            number = QGraphicsSimpleTextItem(str(first.number), self)
            number.setFont(font(1.5 * SP))
            number.setBrush(QColor(self._palette.faint_ink))
            number.setPos(420, self.line.staff[0] - 3.2 * SP)
        lefts = [0.0, *self.line.barlines]
        for index, section in self._sections:
            self._section(section.label, 420.0 if index == 0 else lefts[min(index, len(lefts) - 1)])

    def _section(self, label: str, x: float) -> None:
        text = QGraphicsSimpleTextItem(label, self)
        text.setFont(font(1.9 * SP, 700))
        text.setBrush(QColor(self._palette.accent))
        text.setPos(x, self.top - 0.2 * SP)

    def _build_texts(self) -> None:
        """Words over a bar, between its chords and its section."""
        above = self._chord_y - (1.35 * CHORD_SIZE if self._parts.chords else 1.2 * SP)
        edge = 0.0
        for text in self._texts:
            item = QGraphicsSimpleTextItem(text.words, self)
            item.setFont(font(1.35 * SP, italic=True))
            item.setBrush(QColor(self._palette.ink))
            x = max(self.line.x_at(float(text.onset)) - 0.6 * SP, edge)
            item.setPos(x, above - _WORDS_ROOM)
            edge = x + item.boundingRect().width() + SP

    def _build_tie_stubs(self) -> None:
        """Ties that run over the line's end or come from the line before."""
        events = list(self.line.source.events.items())
        for event_id, event in (events[0], events[-1]):
            element = self.line.drawing.by_id(event_id)
            if event.note is None or element is None or element.head is None:
                continue
            if event.tied_on and event_id == events[-1][0]:
                self._stub(element.head.right, element.head.bottom, self.line.barlines[-1])
            if event.tied_from and event_id == events[0][0]:
                self._stub(element.head.x - 2.0 * SP, element.head.bottom, element.head.x)

    def _stub(self, left: float, y: float, right: float) -> None:
        path = QPainterPath(QPointF(left, y + 0.1 * SP))
        path.quadTo((left + right) / 2, y + 0.75 * SP, right, y + 0.1 * SP)
        item = QGraphicsPathItem(path, self)
        item.setPen(QPen(QColor(self._palette.ink), 26))

    def _build_lane(self) -> None:
        self.lane = None
        if self._parts.blank:
            xs = [placed.x for placed in self.line.notes if not placed.note.grace]
            BlankLane(xs, self._stretches(), self._palette, self).setPos(0, self.ground)
            return
        if not self._parts.under_staff:
            return
        notes = [
            LaneNote(placed.note.id, placed.x, self.labels[placed.note.id])
            for placed in self.line.notes
            if placed.note.id in self.labels
        ]
        self.lane = LaneItem(notes, self._stretches(), self._palette, self, self._parts.lane, self._parts.degrees)
        self.lane.setPos(0, self.ground)
        self.lane.setZValue(-1)
        self.lane.set_selected(self._selected)
        self.lane.set_kept(self._kept)

    def _build_tablature(self, frets: list[Fret]) -> TabItem | None:
        if not frets or self._parts.tuning is None:
            return None
        left = self._stretches()[0][0] - 1.2 * SP
        item = TabItem(frets, self.line.barlines, left, self._parts.tuning, self._palette, self)
        item.setPos(0, self._under_notes)
        return item

    def _build_breaths(self) -> BreathItem | None:
        if not self._parts.breaths:
            return None
        notes = [(placed.note.id, placed.x) for placed in self.line.notes]
        item = BreathItem(notes, self.line.barlines[-1], self._palette, self)
        item.setPos(0, self._bottom)
        item.setZValue(-1)
        self._bottom += BREATHS
        return item

    def _stretches(self) -> list[tuple[float, float]]:
        """The ground line in pieces: one for each chord of the line."""
        left = min((placed.head.x for placed in self.line.notes), default=1500.0) - 0.6 * SP
        right = self.line.barlines[-1] if self.line.barlines else left
        starts = [placed.x - 0.35 * SP for placed in self.line.chords]
        starts = [left, *(x for x in starts if x > left + SP)]
        ends = [x - 0.3 * SP for x in starts[1:]] + [right]
        return list(zip(starts, ends, strict=True))
