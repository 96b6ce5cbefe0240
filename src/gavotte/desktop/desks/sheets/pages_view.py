"""The sheet as it will come out: its pages under one another, each painted when it is looked at."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, QMarginsF, QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QColor,
    QFocusEvent,
    QKeyEvent,
    QMouseEvent,
    QPageLayout,
    QPainter,
    QPaintEvent,
    QPixmap,
    QResizeEvent,
    QWheelEvent,
)
from PyQt6.QtWidgets import QAbstractScrollArea, QFrame, QScrollBar, QWidget

from gavotte.desktop.painting import painting
from gavotte.desktop.paper.flow import FlowPages
from gavotte.desktop.paper.setup import MARGIN_MM
from gavotte.desktop.theme.palette import DAY, PRINT, Palette
from gavotte.desktop.translation import translate

_AROUND, _BETWEEN = 16, 16
_SMALLEST, _LARGEST, _STEP = 0.4, 3.0, 1.2
_MARK = 4
_MOST_KEPT = 12


class PagesView(QAbstractScrollArea):
    """Shows the pages of a sheet, and which stretch of them belongs to the piece that is worked on.

    Signals: ``pointed(number)``, an element (by its number) was clicked; ``turned``, another page is in sight.
    """

    pointed = pyqtSignal(int)
    turned = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(translate("Gavotte", "The sheet’s pages"))
        self.pages: FlowPages | None = None
        self._palette: Palette = DAY
        self._zoom = 1.0
        self._chosen: frozenset[int] = frozenset()
        self._drawn: dict[int, QPixmap] = {}
        self._place = (0, 0.0)
        bar = self.verticalScrollBar()
        assert bar is not None
        bar.valueChanged.connect(lambda _: self._scrolled())

    def sizeHint(self) -> QSize:
        return QSize(520, 640)

    # -- what is shown ------------------------------------------------------------------------------

    def show_pages(self, pages: FlowPages | None) -> None:
        """Show these pages, from where one is."""
        self.pages = pages
        self._forget()
        self._scrolled()

    def set_palette(self, palette: Palette) -> None:
        """Surround the paper in a theme's colours."""
        self._palette = palette
        self._update()

    def set_zoom(self, by: int) -> None:
        """Larger (1), smaller (-1), or as wide as there is room (0)."""
        self._zoom = min(_LARGEST, max(_SMALLEST, self._zoom * _STEP**by)) if by else 1.0
        self._lay_anew()

    def _lay_anew(self) -> None:
        """Show the pages in another size; what stood at the top stays there."""
        page, share = self._place
        self._forget()
        self._bar.setValue(round((page + share) * (self._page_size.height() + _BETWEEN)))

    def choose(self, elements: frozenset[int], into_sight: bool = True) -> None:
        """Mark the elements (by their numbers) of the piece that is worked on, and bring the first into sight."""
        self._chosen = elements
        if into_sight and self.pages is not None and elements:
            for index, page in enumerate(self.pages.pages):
                places = [place for place in page.places if place.element in elements]
                if places:
                    self._bring(index, places[0].top)
                    break
        self._update()

    @property
    def index(self) -> int:
        """The page in the middle of what is seen."""
        if self.pages is None:
            return 0
        middle = self._offset + self._port.height() / 2
        return max(0, min(len(self.pages.pages) - 1, int((middle - _AROUND) // (self._page_size.height() + _BETWEEN))))

    @property
    def count(self) -> int:
        """How many pages there are."""
        return len(self.pages.pages) if self.pages is not None else 0

    def turn_to(self, index: int) -> None:
        """Bring a page into sight."""
        if 0 <= index < self.count:
            self._bar.setValue(round(index * (self._page_size.height() + _BETWEEN)))

    # -- where things are ---------------------------------------------------------------------------

    @property
    def _port(self) -> QWidget:
        port = self.viewport()
        assert port is not None
        return port

    @property
    def _bar(self) -> QScrollBar:
        bar = self.verticalScrollBar()
        assert bar is not None
        return bar

    @property
    def _offset(self) -> int:
        return int(self._bar.value())

    @property
    def _paper(self) -> QRectF:
        """The paper in millimetres."""
        assert self.pages is not None
        return self.pages.setup.page_layout.fullRect(QPageLayout.Unit.Millimeter)

    @property
    def _scale(self) -> float:
        """Pixels to a millimetre."""
        return max(0.2, (self._port.width() - 2 * _AROUND) / self._paper.width() * self._zoom)

    @property
    def _page_size(self) -> QSize:
        if self.pages is None:
            return QSize(0, 0)
        return QSize(round(self._paper.width() * self._scale), round(self._paper.height() * self._scale))

    def _seen(self) -> range:
        """The pages that are seen of."""
        whole = self._page_size.height() + _BETWEEN
        first = max(0, (self._offset - _AROUND) // whole)
        return range(first, min(self.count, (self._offset + self._port.height() - _AROUND) // whole + 1))

    def _page_area(self, index: int) -> QRectF:
        """Where a page lies on the view."""
        size = self._page_size
        side = self.horizontalScrollBar()
        left = max(float(_AROUND), (self._port.width() - size.width()) / 2) - (side.value() if side is not None else 0)
        return QRectF(left, _AROUND + index * (size.height() + _BETWEEN) - self._offset, size.width(), size.height())

    def _bring(self, index: int, top: float) -> None:
        """Bring a place of a page into sight, unless it is."""
        assert self.pages is not None
        y = self._page_area(index).top() + (MARGIN_MM + top * self.pages.setup.mm_per_unit) * self._scale
        if not 0 <= y < 0.8 * self._port.height():
            self._bar.setValue(round(self._offset + y - 0.12 * self._port.height()))

    def _fit(self) -> None:
        """Set how far there is to scroll."""
        size = self._page_size
        whole = 2 * _AROUND + self.count * (size.height() + _BETWEEN) - _BETWEEN
        self._bar.setRange(0, max(0, whole - self._port.height()))
        self._bar.setPageStep(self._port.height())
        self._bar.setSingleStep(40)
        side = self.horizontalScrollBar()
        if side is not None:
            side.setRange(0, max(0, size.width() + 2 * _AROUND - self._port.width()))
            side.setPageStep(self._port.width())

    def _forget(self) -> None:
        self._drawn.clear()
        self._fit()
        self._update()

    def _update(self) -> None:
        self._port.update()

    def _scrolled(self) -> None:
        whole = self._page_size.height() + _BETWEEN
        page = int(self._offset // whole)
        self._place = page, self._offset / whole - page
        self.setAccessibleDescription(
            translate("Gavotte", "Page {page} of {count}").format(page=self.index + 1, count=self.count)
        )
        self.turned.emit()

    # -- events -------------------------------------------------------------------------------------

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._lay_anew()

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        super().focusInEvent(event)
        self._update()

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        self._update()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        steps = {
            Qt.Key.Key_Right: 1, Qt.Key.Key_Left: -1, Qt.Key.Key_Home: -self.count, Qt.Key.Key_End: self.count,
        }  # fmt: skip
        if event.key() in steps:
            self.turn_to(max(0, min(self.count - 1, self.index + steps[Qt.Key(event.key())])))
        else:
            super().keyPressEvent(event)

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        assert event is not None
        if event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.set_zoom(1 if event.angleDelta().y() > 0 else -1)
        else:
            super().wheelEvent(event)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if event.button() is Qt.MouseButton.LeftButton:
            number = self.element_at(event.position())
            if number is not None:
                self.pointed.emit(number)

    def element_at(self, at: QPointF) -> int | None:
        """The element at a place of the view, None where there is none."""
        if self.pages is None:
            return None
        for index in self._seen():
            area = self._page_area(index)
            if area.contains(at):
                y = ((at.y() - area.top()) / self._scale - MARGIN_MM) / self.pages.setup.mm_per_unit
                x = ((at.x() - area.left()) / self._scale - MARGIN_MM) / self.pages.setup.mm_per_unit
                found = [place for place in self.pages.pages[index].places if place.holds(x, y)]
                return found[-1].element if found else None
        return None

    # -- painting -----------------------------------------------------------------------------------

    def viewportEvent(self, event: QEvent | None) -> bool:
        if isinstance(event, QPaintEvent):
            self._paint()
            return True
        return super().viewportEvent(event)

    def _paint(self) -> None:
        palette = self._palette
        with painting(self._port) as painter:
            painter.fillRect(self._port.rect(), QColor(palette.well))
            if self.pages is None:
                return
            may_draw = True
            for index in self._seen():
                area = self._page_area(index)
                painter.fillRect(area, QColor(PRINT.page))
                if index not in self._drawn and may_draw:
                    self._drawn[index] = self._draw(index)
                    may_draw = False
                if index in self._drawn:
                    painter.drawPixmap(area.topLeft(), self._drawn[index])
                else:
                    # One page at a time: the others with the next paintings.
                    self._update()
                painter.setPen(QColor(palette.rule))
                painter.drawRect(area)
                self._paint_mark(painter, index, area)
            if self.hasFocus():
                painter.setPen(QColor(palette.accent))
                painter.drawRect(self._port.rect().adjusted(0, 0, -1, -1))

    def _draw(self, index: int) -> QPixmap:
        """A page as a picture of what is seen of it."""
        assert self.pages is not None
        for far in [known for known in self._drawn if abs(known - index) > _MOST_KEPT]:
            del self._drawn[far]
        ratio, size = self.devicePixelRatioF(), self._page_size
        picture = QPixmap(round(size.width() * ratio), round(size.height() * ratio))
        picture.setDevicePixelRatio(ratio)
        picture.fill(QColor(PRINT.page))
        with painting(picture) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            inside = QRectF(0, 0, size.width(), size.height()).marginsRemoved(QMarginsF(*[MARGIN_MM * self._scale] * 4))
            painter.translate(inside.topLeft())
            painter.scale(inside.width() / self.pages.width, inside.width() / self.pages.width)
            self.pages.paint_page(painter, index)
        return picture

    def _paint_mark(self, painter: QPainter, index: int, area: QRectF) -> None:
        """A bar beside what belongs to the chosen piece."""
        assert self.pages is not None
        unit = self.pages.setup.mm_per_unit * self._scale
        places = [place for place in self.pages.pages[index].places if place.element in self._chosen]
        if not places:
            return
        top, bottom = min(place.top for place in places), max(place.bottom for place in places)
        y = area.top() + MARGIN_MM * self._scale + top * unit
        x = area.left() + 0.5 * MARGIN_MM * self._scale
        painter.fillRect(QRectF(x, y, _MARK, max(4.0, (bottom - top) * unit)), QColor(self._palette.accent))
