"""A sheet laid out in pages: title block, lines, and reasons as footnotes. Lengths are in engraver units.

Layout and painting go step by step, so that long music shows its progress and can be stopped. What is painted is
the same on the screen, in a PDF and on a printer.
"""

from __future__ import annotations

from collections.abc import Callable, Generator
from dataclasses import dataclass, field
from fractions import Fraction

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QFont, QFontMetricsF, QPageLayout, QPainter, QPen
from PyQt6.QtWidgets import QGraphicsScene

from gavotte.desktop.page.land import ROW, TOP, Land
from gavotte.desktop.page.line_item import LineItem
from gavotte.desktop.paper.setup import PageSetup, Reasons
from gavotte.desktop.paper.sheet import Sheet
from gavotte.desktop.paper.told import land_of, telling
from gavotte.desktop.theme.palette import PRINT
from gavotte.desktop.theme.type import font
from gavotte.desktop.translation import translate
from gavotte.engraving.engraver import Engraver, LineFormat, line_breaks
from gavotte.engraving.mei import staff_for
from gavotte.engraving.shapes import STAFF_SPACE as SP
from gavotte.notation.written import Notation
from gavotte.solo.document import Solo
from gavotte.solo.label import Label

_BETWEEN_LINES = 1.6 * SP
_TITLE_MM, _SUBTITLE_MM, _FOOT_MM, _REASON_MM = 7.4, 3.4, 2.7, 2.6
_COLUMN_GAP_MM = 6.0
_TEXT_MM, _LEAST_TEXT_MM = 2.9, 60.0
_LAND_WIDTH, _A_LINE_MM = 900, 26.0
"""Pixels the landscape is laid out in, and the room a heading wants behind it for a line."""
_WRAPPED = Qt.TextFlag.TextWordWrap | Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop


@dataclass
class Page:
    """One page: (top, line) from above, (place, heading, words) of the analysis, (number, reason) at the foot.

    ``headings`` are (top, words) over the pictures, ``lands`` parts of the landscape: its top on the page, and from
    where to where it is shown, in pixels of its own. ``contents`` are (top, words, number of a page), the number ""
    for a heading.
    """

    lines: list[tuple[float, LineItem]] = field(default_factory=list)
    footnotes: list[tuple[int, str]] = field(default_factory=list)
    foot_height: float = 0.0
    texts: list[tuple[QRectF, str, str]] = field(default_factory=list)
    headings: list[tuple[float, str]] = field(default_factory=list)
    lands: list[tuple[float, Land, int, int]] = field(default_factory=list)
    contents: list[tuple[float, str, str]] = field(default_factory=list)
    # A line's item lives in its scene; the scene must be kept.
    scenes: list[QGraphicsScene] = field(default_factory=list)


class SheetPages:
    """The pages of a sheet, once ``steps`` has run to its end."""

    def __init__(self, sheet: Sheet, setup: PageSetup) -> None:
        self.sheet, self.setup = sheet, setup
        self.pages: list[Page] = []
        paper = setup.page_layout.paintRect(QPageLayout.Unit.Millimeter)
        self._unit = setup.mm_per_unit
        self.width, self.height = paper.width() / self._unit, paper.height() / self._unit
        self._column = (self.width - self._mm(_COLUMN_GAP_MM)) / 2
        self._reason_font = self._font(_REASON_MM)
        self._y = 0.0

    def _mm(self, millimetres: float) -> float:
        return millimetres / self._unit

    def _font(self, millimetres: float, weight: int = 400) -> QFont:
        return font(self._mm(millimetres), weight)

    # -- layout -------------------------------------------------------------------------------------

    def steps(self, engraver: Engraver) -> Generator[float, None, None]:
        """Set line after line, yielding the share that is done. Raises EngravingError."""
        sheet, setup = self.sheet, self.setup
        self.pages = [Page()]
        self._y = self._title_height
        room = self._room_for_contents() if sheet.contents else []
        if room:
            self.pages = [*room, Page()]
            self._y = 0.0
        yield from self._set_lines(sheet.solo, sheet.labels, engraver, self._add)
        if room:
            self._number_contents(room)
        if setup.text:
            yield from self._add_told(engraver)

    def _set_lines(
        self, solo: Solo, labels: dict[str, Label], engraver: Engraver, add: Callable[[LineItem], None]
    ) -> Generator[float, None, None]:
        """Set the lines of some music and ``add`` each, yielding the share that is done."""
        setup = self.setup
        notation = Notation(solo)
        yield 0.0
        degrees, parts = setup.degrees_of(labels), setup.line_parts(self.sheet.numbered, solo.instrument)
        shape, staff = LineFormat(self.width, setup.bars), staff_for(solo)
        breaks = line_breaks(notation, setup.bars)
        for number, (first, last) in enumerate(breaks, 1):
            for line in engraver.line(notation, first, last, degrees, staff, shape):
                add(LineItem(line, labels, solo, PRINT, parts))
            yield number / len(breaks)

    # -- contents -----------------------------------------------------------------------------------

    def _room_for_contents(self) -> list[Page]:
        """The pages of the contents, their numbers still to come."""
        pages, y = [Page()], self._title_height + self._mm(4)
        row, context = self._mm(2.0 * _TEXT_MM), ""
        for entry in self.sheet.contents:
            new = entry.context != context
            if y + (3 if new else 1) * row > self._floor_of(pages[-1]):
                pages.append(Page())
                y = 0.0
            if new:
                context = entry.context
                y += row / 2
                pages[-1].contents.append((y, f"{context[0].upper()}{context[1:]}", ""))
                y += row
            pages[-1].contents.append((y, entry.name, str(entry.onset)))
            y += row
        return pages

    def _number_contents(self, room: list[Page]) -> None:
        """Give each entry the number of the page its lick begins on."""
        begins = sorted(
            (item.line.source.bars[0].bar.onset, number)
            for number, page in enumerate(self.pages, 1)
            for _, item in page.lines
        )
        for page in room:
            for k, (y, words, onset) in enumerate(page.contents):
                if onset:
                    before = [number for start, number in begins if start <= Fraction(onset)]
                    page.contents[k] = (y, words, str(before[-1] if before else len(room) + 1))

    def _paint_contents(self, painter: QPainter, page: Page) -> None:
        for y, words, number in page.contents:
            face = self._font(_TEXT_MM, 400 if number else 700)
            metrics = QFontMetricsF(face)
            painter.setFont(face)
            painter.setPen(QColor(PRINT.ink))
            edge = self.width - metrics.horizontalAdvance(number)
            baseline = y + metrics.ascent()
            shown = metrics.elidedText(words, Qt.TextElideMode.ElideRight, edge - self._mm(8))
            painter.drawText(QPointF(0, baseline), shown)
            painter.drawText(QPointF(edge, baseline), number)
            if number:
                painter.setPen(QPen(QColor(PRINT.faint_ink), self._mm(0.15), Qt.PenStyle.DotLine))
                start = metrics.horizontalAdvance(shown) + self._mm(2)
                painter.drawLine(QPointF(start, baseline), QPointF(edge - self._mm(2), baseline))

    # -- the analysis -------------------------------------------------------------------------------

    def _add_told(self, engraver: Engraver) -> Generator[float, None, None]:
        """The arc and the skeleton as pictures, and the analysis as text."""
        told = yield from telling(self.sheet.solo)
        if told.structure is not None and told.skeleton is not None:
            land = land_of(told.structure, _LAND_WIDTH)
            self._head(translate("Gavotte", "The arc"), (TOP + ROW) * self.width / _LAND_WIDTH)
            self._add_land(land)
            yield 1.0
            self._head(translate("Gavotte", "The skeleton: what is left on the strong beats"), self._mm(_A_LINE_MM))
            labels = {label.note: label for label in told.skeleton.labels}
            yield from self._set_lines(told.skeleton.solo, labels, engraver, self._add_unexplained)
        self._add_texts(told.texts)

    @property
    def _floor(self) -> float:
        """How far down the page that is filled can be filled."""
        return self._floor_of(self.pages[-1])

    def _floor_of(self, page: Page) -> float:
        return self.height - self._mm(2.2 * _FOOT_MM) - page.foot_height

    def _head(self, words: str, behind: float) -> None:
        """Put a heading under what is there; on a new page where it and what comes behind it find no room."""
        height = self._mm(2.4 * _SUBTITLE_MM)
        if self._y + height + behind > self._floor:
            self.pages.append(Page())
            self._y = 0.0
        self.pages[-1].headings.append((self._y, words))
        self._y += height

    def _add_land(self, land: Land) -> None:
        """The landscape under what is there, as many of its rows on each page as find room."""
        scale = self.width / land.width
        whole_page = (self.height - self._mm(2.2 * _FOOT_MM)) / scale
        for start, stop in land.parts((self._floor - self._y) / scale, whole_page):
            if self._y + (stop - start) * scale > self._floor and self._y > 0:
                self.pages.append(Page())
                self._y = 0.0
            self.pages[-1].lands.append((self._y, land, start, stop))
            self._y += (stop - start) * scale
        self._y += _BETWEEN_LINES

    def _paint_lands(self, painter: QPainter, page: Page) -> None:
        painter.setFont(self._font(_SUBTITLE_MM, 700))
        painter.setPen(QColor(PRINT.ink))
        for y, words in page.headings:
            painter.drawText(QPointF(0, y + self._mm(1.2 * _SUBTITLE_MM)), words)
        for y, land, start, stop in page.lands:
            scale = self.width / land.width
            painter.save()
            painter.translate(0, y - start * scale)
            painter.scale(scale, scale)
            painter.setClipRect(QRectF(0, start, land.width, stop - start))
            land.paint(painter, start, stop - 1)
            painter.restore()

    def _add_texts(self, waiting: list[tuple[str, str]]) -> None:
        """The analysis, phrase by phrase and bar by bar, in two columns, below the last line or on pages of its own."""
        bottom = self.height - self._mm(2.2 * _FOOT_MM)
        top = self._y + self._mm(2)
        if bottom - self.pages[-1].foot_height - top < self._mm(_LEAST_TEXT_MM):
            self.pages.append(Page())
            top = 0.0
        while waiting:
            page = self.pages[-1]
            floor = bottom - page.foot_height
            for x in (0.0, self._column + self._mm(_COLUMN_GAP_MM)):
                y = top
                while waiting:
                    height = self._text_height(*waiting[0])
                    if y + height > floor and y > top:
                        break
                    page.texts.append((QRectF(x, y, self._column, height), *waiting.pop(0)))
                    y += height
            if waiting:
                self.pages.append(Page())
                top = 0.0

    def _text_height(self, heading: str, words: str) -> float:
        room = QRectF(0, 0, self._column, 10 * self.height)
        bold = QFontMetricsF(self._font(_TEXT_MM, 700)).boundingRect(room, int(_WRAPPED), heading).height()
        plain = QFontMetricsF(self._font(_TEXT_MM)).boundingRect(room, int(_WRAPPED), words).height()
        return bold + plain + self._mm(2.4)

    def _paint_texts(self, painter: QPainter, page: Page) -> None:
        painter.setPen(QColor(PRINT.ink))
        for place, heading, words in page.texts:
            face = self._font(_TEXT_MM, 700)
            painter.setFont(face)
            painter.drawText(place, int(_WRAPPED), heading)
            below = QFontMetricsF(face).boundingRect(place, int(_WRAPPED), heading).height()
            painter.setFont(self._font(_TEXT_MM))
            painter.drawText(place.adjusted(0, below, 0, 0), int(_WRAPPED), words)

    @property
    def _title_height(self) -> float:
        return self._mm(_TITLE_MM + 2.2 * _SUBTITLE_MM + 3) if self.setup.title else 0.0

    def _add(self, item: LineItem) -> None:
        """Put a line under the last one, on a new page where there is no room for it and its reasons."""
        page = self.pages[-1]
        numbers, footnotes = self._reasons(item, page.footnotes)
        foot = self._foot_height(footnotes)
        if page.lines and self._y + item.height + foot > self.height - self._mm(2.2 * _FOOT_MM):
            page = Page()
            self.pages.append(page)
            self._y = 0.0
            numbers, footnotes = self._reasons(item, [])
            foot = self._foot_height(footnotes)
        item.set_footnotes(numbers)
        page.footnotes, page.foot_height = footnotes, foot
        self._put(item)

    def _add_unexplained(self, item: LineItem) -> None:
        """Put a line whose notes were explained before under what is there."""
        if self._y > 0 and self._y + item.height > self._floor:
            self.pages.append(Page())
            self._y = 0.0
        self._put(item)

    def _put(self, item: LineItem) -> None:
        page = self.pages[-1]
        scene = QGraphicsScene()
        scene.addItem(item)
        item.setPos(0, -item.top)
        page.lines.append((self._y, item))
        page.scenes.append(scene)
        self._y += item.height + _BETWEEN_LINES

    def _reasons(self, item: LineItem, before: list[tuple[int, str]]) -> tuple[dict[str, int], list[tuple[int, str]]]:
        """Which notes of a line get which number, and the page's footnotes with theirs. One reason is said once."""
        if self.setup.reasons is Reasons.NONE:
            return {}, []
        known = {text: number for number, text in before}
        footnotes, numbers = list(before), {}
        for placed in item.line.notes:
            label = item.labels.get(placed.note.id)
            if label is None or not label.reason or not self.setup.reasons.wanted(label):
                continue
            if label.reason not in known:
                known[label.reason] = len(footnotes) + 1
                footnotes.append((known[label.reason], label.reason))
            numbers[placed.note.id] = known[label.reason]
        return numbers, footnotes

    # -- footnotes ----------------------------------------------------------------------------------

    def _number_room(self) -> float:
        return QFontMetricsF(self._reason_font).horizontalAdvance("000 ")

    def _reason_height(self, text: str) -> float:
        room = QRectF(0, 0, self._column - self._number_room(), 10 * self.height)
        return QFontMetricsF(self._reason_font).boundingRect(room, int(_WRAPPED), text).height() + self._mm(0.4)

    def _columns(self, footnotes: list[tuple[int, str]]) -> list[list[tuple[int, str, float]]]:
        """Two columns as even as they get, of (number, reason, height)."""
        measured = [(number, text, self._reason_height(text)) for number, text in footnotes]
        left: list[tuple[int, str, float]] = []
        rest = sum(height for *_, height in measured)
        height = 0.0
        while measured and height < rest:
            left.append(measured.pop(0))
            height += left[-1][2]
            rest -= left[-1][2]
        return [left, measured]

    def _foot_height(self, footnotes: list[tuple[int, str]]) -> float:
        if not footnotes:
            return 0.0
        return max(sum(h for *_, h in column) for column in self._columns(footnotes)) + self._mm(4)

    # -- painting -----------------------------------------------------------------------------------

    def paint_page(self, painter: QPainter, index: int) -> None:
        """Paint a page where the painter's origin is; the painter counts in engraver units."""
        page = self.pages[index]
        if index == 0 and self.setup.title:
            self._paint_title(painter)
        for (top, item), scene in zip(page.lines, page.scenes, strict=True):
            area = QRectF(0, 0, self.width, item.height)
            scene.render(painter, QRectF(0, top, self.width, item.height), area)
        self._paint_lands(painter, page)
        self._paint_contents(painter, page)
        self._paint_texts(painter, page)
        self._paint_footnotes(painter, page)
        self._paint_foot(painter, index)

    def _paint_title(self, painter: QPainter) -> None:
        painter.setPen(QColor(PRINT.ink))
        face = self._font(_TITLE_MM, 700)
        painter.setFont(face)
        title = QFontMetricsF(face).elidedText(self.sheet.solo.title, Qt.TextElideMode.ElideRight, self.width)
        painter.drawText(QPointF(0, self._mm(0.8 * _TITLE_MM)), title)
        face = self._font(_SUBTITLE_MM)
        painter.setFont(face)
        painter.setPen(QColor(PRINT.faint_ink))
        words = QFontMetricsF(face).elidedText(self.sheet.subtitle, Qt.TextElideMode.ElideRight, self.width)
        painter.drawText(QPointF(0, self._mm(_TITLE_MM + 1.5 * _SUBTITLE_MM)), words)

    def _paint_footnotes(self, painter: QPainter, page: Page) -> None:
        if not page.footnotes:
            return
        top = self.height - self._mm(2.2 * _FOOT_MM) - page.foot_height
        painter.setPen(QColor(PRINT.faint_ink))
        painter.drawLine(QPointF(0, top + self._mm(1)), QPointF(self._mm(40), top + self._mm(1)))
        painter.setPen(QColor(PRINT.ink))
        bold = self._font(_REASON_MM, 700)
        room = self._number_room()
        for x, column in zip(
            (0.0, self._column + self._mm(_COLUMN_GAP_MM)), self._columns(page.footnotes), strict=True
        ):
            y = top + self._mm(2.4)
            for number, text, height in column:
                painter.setFont(bold)
                painter.drawText(QRectF(x, y, room * 0.75, height), int(Qt.AlignmentFlag.AlignRight), str(number))
                painter.setFont(self._reason_font)
                painter.drawText(QRectF(x + room, y, self._column - room, height), int(_WRAPPED), text)
                y += height

    def _paint_foot(self, painter: QPainter, index: int) -> None:
        face = self._font(_FOOT_MM)
        painter.setFont(face)
        painter.setPen(QColor(PRINT.faint_ink))
        y = self.height - self._mm(0.6)
        number = str(index + 1) if len(self.pages) == 1 else f"{index + 1} / {len(self.pages)}"
        metrics = QFontMetricsF(face)
        painter.drawText(QPointF(self.width - metrics.horizontalAdvance(number), y), number)
        if index > 0 or not self.setup.title:
            title = metrics.elidedText(self.sheet.solo.title, Qt.TextElideMode.ElideRight, 0.8 * self.width)
            painter.drawText(QPointF(0, y), title)
