"""A teaching sheet laid out in pages: headings, text in columns, music and drawings flow over them.

No line of music is cut, no heading stands alone at the foot of a page. Lengths are in engraver units. Layout goes step
by step, so that long sheets show their progress and can be stopped.
"""

from __future__ import annotations

from collections import deque
from collections.abc import Callable, Generator, Iterator, Sequence
from dataclasses import dataclass, field
from functools import partial
from itertools import accumulate

from PyQt6.QtCore import QByteArray, QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QFont, QFontMetricsF, QPageLayout, QPainter, QPen
from PyQt6.QtSvg import QSvgRenderer

from gavotte.desktop.paper.set_lines import LineSetter, SetLine
from gavotte.desktop.paper.setup import PageSetup
from gavotte.desktop.paper.text_lines import TextLine, text_lines
from gavotte.desktop.theme.palette import PRINT
from gavotte.desktop.theme.type import font
from gavotte.desktop.translation import translate
from gavotte.engraving.shapes import STAFF_SPACE as SP
from gavotte.sheets.elements import Composed, Drawing, Element, Heading, Music, PageEnd, Paragraph, Style
from gavotte.sheets.sheet import TeachingSheet

_TITLE_MM, _SUBTITLE_MM, _TEXT_MM, _SMALL_MM, _FOOT_MM = 7.4, 3.4, 3.1, 2.7, 2.6
_HEADING_MM = {1: 4.4, 2: 3.5}
_OVER_HEADING_MM = {1: 7.0, 2: 4.0}
_UNDER_HEADING_MM = 2.0
_BETWEEN_PARAGRAPHS_MM, _BETWEEN_LINES = 1.8, 1.6 * SP
_COLUMN_GAP_MM, _HEAD_ROOM_MM, _FOOT_ROOM_MM = 7.0, 7.0, 6.5
_FEW_LINES = 5
"""Text of so many lines stays in one column."""
_WIDEST_MM = 130.0
_TALLEST = 0.62
"""What share of a page a drawing takes at most."""

Paint = Callable[[QPainter], None]


@dataclass(frozen=True, slots=True)
class Entry:
    """A heading in the outline: its words, level, page (from 0), and how far down it stands there."""

    words: str
    level: int
    page: int
    y: float


@dataclass(frozen=True, slots=True)
class Place:
    """The room an element, by its number, takes on a page."""

    element: int
    top: float
    bottom: float
    left: float
    right: float

    def holds(self, x: float, y: float) -> bool:
        """Whether a point of the page lies in it."""
        return self.left <= x <= self.right and self.top <= y <= self.bottom


@dataclass
class FlowPage:
    """What is painted on a page, and where what stands."""

    painted: list[Paint] = field(default_factory=list)
    places: list[Place] = field(default_factory=list)


@dataclass(frozen=True)
class _Waiting:
    """Lines that stay with what comes behind them: a ``heading``, or for None words; with the room over and under them,
    and the number of their element.
    """

    lines: tuple[TextLine, ...]
    over: float
    under: float
    number: int
    heading: Heading | None = None


def setup_of(sheet: TeachingSheet) -> PageSetup:
    """The paper and staff of a sheet."""
    return PageSetup(paper=sheet.paper, staff=sheet.staff)


class FlowPages:
    """The pages of a sheet, once ``steps`` has run to its end; ``outline`` are their headings."""

    def __init__(self, composed: Composed, setup: PageSetup, setter: LineSetter) -> None:
        self.composed, self.setup, self._setter = composed, setup, setter
        self.pages: list[FlowPage] = [FlowPage()]
        self.outline: list[Entry] = []
        paper = setup.page_layout.paintRect(QPageLayout.Unit.Millimeter)
        self._unit = setup.mm_per_unit
        self.width, self.height = paper.width() / self._unit, paper.height() / self._unit
        self._column = (self.width - self._mm(_COLUMN_GAP_MM)) / 2
        self._ink, self._faint = QColor(PRINT.ink), QColor(PRINT.faint_ink)
        self._y = 0.0
        self._waiting: list[_Waiting] = []
        self._contents: list[tuple[int, float]] = []
        counts = (len(part.elements) for part in composed.parts)
        self._begins = frozenset(accumulate(counts, initial=0))
        """With which elements (by their numbers) pieces begin: their texts are not run together."""

    @property
    def title(self) -> str:
        """What the sheet is called."""
        return self.composed.title

    def _mm(self, millimetres: float) -> float:
        return millimetres / self._unit

    def _font(self, millimetres: float, weight: int = 400) -> QFont:
        return font(self._mm(millimetres), weight)

    @property
    def _floor(self) -> float:
        return self.height - self._mm(_FOOT_ROOM_MM)

    @property
    def _top(self) -> float:
        """Where a page begins to be filled: the first under its title, the others under their head."""
        return self._mm(_HEAD_ROOM_MM)

    @property
    def page(self) -> FlowPage:
        """The page that is filled."""
        return self.pages[-1]

    # -- layout -------------------------------------------------------------------------------------

    def steps(self) -> Generator[float, None, None]:
        """Lay all out, yielding the share that is done. Raises EngravingError."""
        elements = self.composed.elements
        self._title()
        if self.composed.contents:
            self._make_room_for_contents(elements)
        number = 0
        while number < len(elements):
            yield number / len(elements)
            number = yield from self._place(elements, number)
        self._put_waiting()
        self._setter.forget_others()
        yield 1.0

    def _place(self, elements: Sequence[Element], number: int) -> Generator[float, None, int]:
        """Place an element, and what belongs to it; gives the number of the next one."""
        element = elements[number]
        match element:
            case Heading():
                self._wait(element, number)
            case Paragraph(style=Style.QUESTION):
                self._wait_in_words(element, number)
            case Paragraph():
                end = number + 1
                while end < len(elements) and end not in self._begins and isinstance(elements[end], Paragraph):
                    end += 1
                paragraphs = [one for one in elements[number:end] if isinstance(one, Paragraph)]
                yield from self._texts(paragraphs, number, number / len(elements))
                return end
            case PageEnd():
                self._put_waiting()
                if self._y > self._top or self.page.painted:
                    self._new_page()
            case Drawing():
                self._drawing(element, number)
            case Music():
                lines = yield from self._setter.lines(element, self.width, number / len(elements))
                for line in lines:
                    self._music(line, number)
        return number + 1

    def _new_page(self) -> None:
        self.pages.append(FlowPage())
        self._y = self._top

    def _make_room(self, height: float) -> None:
        """Put what waits, on a new page where it and what comes behind it find no room here."""
        waiting = sum(self._height_of(one) for one in self._waiting)
        if self._y + waiting + height > self._floor and self._y > self._top:
            self._new_page()
        self._put_waiting()

    def _put_waiting(self) -> None:
        waiting, self._waiting = self._waiting, []
        for one in waiting:
            if self._y + self._height_of(one) > self._floor and self._y > self._top:
                self._new_page()
            self._y += one.over if self._y > self._top else 0.0
            if one.heading is not None:
                self.outline.append(Entry(one.heading.words, one.heading.level, len(self.pages) - 1, self._y))
            top = self._y
            for line in one.lines:
                self.page.painted.append(partial(line.paint, x=0.0, y=self._y))
                self._y += line.height
            self._took(one.number, top, self._y)
            self._y += one.under

    def _took(self, number: int, top: float, bottom: float, x: float = 0.0, width: float | None = None) -> None:
        """Remember where an element stands."""
        right = self.width if width is None else x + width
        self.page.places.append(Place(number, top, bottom, x, right))

    def _height_of(self, one: _Waiting) -> float:
        over = one.over if self._y > self._top else 0.0
        return over + sum(line.height for line in one.lines) + one.under

    def _wait(self, heading: Heading, number: int) -> None:
        """Have a heading wait for what comes behind it."""
        face = self._font(_HEADING_MM[heading.level], 700)
        lines = tuple(text_lines(heading.words, face, self.width, self._ink, 0.0))
        over, under = self._mm(_OVER_HEADING_MM[heading.level]), self._mm(_UNDER_HEADING_MM)
        self._waiting.append(_Waiting(lines, over, under, number, heading))

    def _wait_in_words(self, paragraph: Paragraph, number: int) -> None:
        """Have a question wait for its music."""
        lines = tuple(self._lines_of(paragraph, min(self.width, self._mm(_WIDEST_MM))))
        self._waiting.append(_Waiting(lines, 0.0, self._mm(_BETWEEN_PARAGRAPHS_MM), number))

    def _music(self, line: SetLine, number: int) -> None:
        self._make_room(line.height)
        self.page.painted.append(partial(line.paint, y=self._y, width=self.width))
        self._took(number, self._y, self._y + line.height)
        self._y += line.height + _BETWEEN_LINES

    def _drawing(self, drawing: Drawing, number: int) -> None:
        renderer = QSvgRenderer(QByteArray(drawing.svg.encode("utf-8")))
        box = renderer.viewBoxF()
        if not renderer.isValid() or box.width() <= 0 or box.height() <= 0:
            return
        scale = min(self.width / box.width(), _TALLEST * self.height / box.height())
        wide, high = box.width() * scale, box.height() * scale
        self._make_room(high)
        area = QRectF((self.width - wide) / 2, self._y, wide, high)
        self.page.painted.append(partial(_paint_drawing, renderer=renderer, area=area))
        self._took(number, self._y, self._y + high)
        self._y += high + self._mm(_BETWEEN_PARAGRAPHS_MM)

    # -- text ---------------------------------------------------------------------------------------

    def _texts(self, paragraphs: Sequence[Paragraph], number: int, share: float) -> Generator[float, None, None]:
        """Paragraphs: few lines in one column, more in two that end alike."""
        lines: list[TextLine] = []
        widest = min(self.width, self._mm(_WIDEST_MM))
        for paragraph in paragraphs:
            lines += self._lines_of(paragraph, widest)
            if len(lines) > _FEW_LINES:
                break
        if len(lines) <= _FEW_LINES:
            self._column_of(lines, number)
        else:
            lines = []
            for paragraph in paragraphs:
                lines += self._lines_of(paragraph, self._column)
                yield share
            yield from self._two_columns(lines, number, share)
        self._y += self._mm(_BETWEEN_PARAGRAPHS_MM)

    def _lines_of(self, paragraph: Paragraph, width: float) -> Iterator[TextLine]:
        size = _TEXT_MM if paragraph.style in (Style.BODY, Style.QUESTION) else _SMALL_MM
        colour = self._faint if paragraph.style is Style.CAPTION else self._ink
        tight = 0.5 if paragraph.style is Style.REASON else 1.0
        before = tight * self._mm(_BETWEEN_PARAGRAPHS_MM)
        return text_lines(paragraph.words, self._font(size), width, colour, before)

    def _column_of(self, lines: Sequence[TextLine], number: int) -> None:
        self._make_room(sum(line.before + line.height for line in lines))
        self._paint_column(lines, 0.0, number, self.width)
        self._y += sum(line.before + line.height for line in lines)

    def _paint_column(self, lines: Sequence[TextLine], x: float, number: int, width: float) -> None:
        y = self._y
        for line in lines:
            y += line.before if y > self._y else 0.0
            self.page.painted.append(partial(line.paint, x=x, y=y))
            y += line.height
        if lines:
            self._took(number, self._y, y, x, width)

    def _two_columns(self, lines: list[TextLine], number: int, share: float) -> Generator[float, None, None]:
        rest = deque(lines)
        first = sum(line.before + line.height for line in lines[: 2 * _FEW_LINES])
        self._make_room(first / 2)
        while rest:
            room = self._floor - self._y
            left, right = _columns(rest, room)
            self._paint_column(left, 0.0, number, self._column)
            self._paint_column(right, self._column + self._mm(_COLUMN_GAP_MM), number, self._column)
            self._y += max(_height(left), _height(right))
            if rest:
                self._new_page()
            yield share

    # -- title and contents -------------------------------------------------------------------------

    def _title(self) -> None:
        composed = self.composed
        face = self._font(_TITLE_MM, 700)
        for line in text_lines(composed.title, face, self.width, self._ink, 0.0):
            self.page.painted.append(partial(line.paint, x=0.0, y=self._y))
            self._y += line.height
        about, face = composed.about, self._font(_SUBTITLE_MM)
        for line in text_lines(about, face, self.width, self._faint, 0.0) if about else ():
            self.page.painted.append(partial(line.paint, x=0.0, y=self._y))
            self._y += line.height
        self._y = max(self._y + self._mm(3), self._top + 1)

    def _make_room_for_contents(self, elements: Sequence[Element]) -> None:
        """Where the contents stand; their pages are known when all is laid out."""
        row = self._mm(1.7 * _TEXT_MM)
        for element in elements:
            if isinstance(element, Heading) and element.level == 1:
                if self._y + row > self._floor:
                    self._new_page()
                self._contents.append((len(self.pages) - 1, self._y))
                self._y += row
        self._y += self._mm(3)

    def contents(self) -> list[tuple[int, QRectF, Entry]]:
        """Each entry of the contents: on which page it stands, where there, and what it leads to."""
        row = self._mm(1.7 * _TEXT_MM)
        firsts = [entry for entry in self.outline if entry.level == 1]
        return [
            (page, QRectF(0, y, self.width, row), entry)
            for (page, y), entry in zip(self._contents, firsts, strict=False)
        ]

    def let_go(self) -> Generator[float, None, None]:
        """Let go of what is painted, page by page: nobody looks at these pages any more."""
        for number, page in enumerate(self.pages, 1):
            page.painted.clear()
            yield number / len(self.pages)

    # -- painting -----------------------------------------------------------------------------------

    def paint_page(self, painter: QPainter, index: int) -> None:
        """Paint a page where the painter's origin is; the painter counts in engraver units."""
        painter.setPen(self._ink)
        for paint in self.pages[index].painted:
            paint(painter)
        self._paint_contents(painter, index)
        self._paint_edges(painter, index)

    def _paint_contents(self, painter: QPainter, index: int) -> None:
        face = self._font(_TEXT_MM)
        metrics = QFontMetricsF(face)
        for page, area, entry in self.contents():
            if page != index:
                continue
            painter.setFont(face)
            painter.setPen(self._ink)
            number = str(entry.page + 1)
            edge, baseline = self.width - metrics.horizontalAdvance(number), area.top() + metrics.ascent()
            shown = metrics.elidedText(entry.words, Qt.TextElideMode.ElideRight, edge - self._mm(8))
            painter.drawText(QPointF(0, baseline), shown)
            painter.drawText(QPointF(edge, baseline), number)
            painter.setPen(QPen(self._faint, self._mm(0.15), Qt.PenStyle.DotLine))
            start = metrics.horizontalAdvance(shown) + self._mm(2)
            painter.drawLine(QPointF(start, baseline), QPointF(edge - self._mm(2), baseline))

    def _paint_edges(self, painter: QPainter, index: int) -> None:
        """The head of every page but the first, and the foot: the line about source and use, and the page's number."""
        face = self._font(_FOOT_MM)
        metrics = QFontMetricsF(face)
        painter.setFont(face)
        painter.setPen(self._faint)
        half = 0.6 * self.width
        if index or self.composed.header:
            head = metrics.elidedText(self.composed.header or self.title, Qt.TextElideMode.ElideRight, half)
            right = self.composed.readers if index else ""
            y = metrics.ascent() if index else -self._mm(2.0)
            painter.drawText(QPointF(0, y), head)
            painter.drawText(QPointF(self.width - metrics.horizontalAdvance(right), y), right)
        number = translate("Gavotte", "{page} / {count}").format(page=index + 1, count=len(self.pages))
        y = self.height - self._mm(0.6)
        painter.drawText(QPointF(self.width - metrics.horizontalAdvance(number), y), number)
        room = self.width - metrics.horizontalAdvance(number) - self._mm(8)
        painter.drawText(QPointF(0, y), metrics.elidedText(self.composed.rights, Qt.TextElideMode.ElideRight, room))


def _height(lines: Sequence[TextLine]) -> float:
    """What lines take in a column: over the first one there is no room."""
    return sum(line.height + (line.before if k else 0.0) for k, line in enumerate(lines))


def _columns(rest: deque[TextLine], room: float) -> tuple[list[TextLine], list[TextLine]]:
    """Take as many lines as two columns have room for; where that is all of them both end alike."""
    first = _filled(rest, room)
    second = _filled(rest, room)
    if rest:
        return first, second
    lines = [*first, *second]
    half = _evenly(lines, room)
    return lines[:half], lines[half:]


def _filled(rest: deque[TextLine], room: float) -> list[TextLine]:
    """Take as many lines as find room; what belongs together stays so."""
    taken: list[TextLine] = []
    height = 0.0
    while rest:
        height += rest[0].height + (rest[0].before if taken else 0.0)
        if height > room and taken:
            break
        taken.append(rest.popleft())
    while rest and len(taken) > 1 and taken[-1].holds:
        rest.appendleft(taken.pop())
    return taken


def _evenly(lines: list[TextLine], room: float) -> int:
    """After how many lines the second column begins so that both end as alike as can be."""
    best = room + 1.0, len(lines)
    for half in range(1, len(lines) + 1):
        if half < len(lines) and lines[half - 1].holds:
            continue
        best = min(best, (max(_height(lines[:half]), _height(lines[half:])), half))
    return best[1]


def _paint_drawing(painter: QPainter, renderer: QSvgRenderer, area: QRectF) -> None:
    renderer.render(painter, area)
