"""The preview: one page as it will be printed, as large as there is room for."""

from __future__ import annotations

from PyQt6.QtCore import QMarginsF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent, QPageLayout, QPainter, QPaintEvent, QWheelEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from gavotte.desktop.painting import painting
from gavotte.desktop.paper.painted import PaintedPages
from gavotte.desktop.paper.setup import MARGIN_MM
from gavotte.desktop.theme.palette import PRINT, Palette
from gavotte.desktop.translation import translate


class Preview(QWidget):
    """Shows a page of a sheet. Signal: ``turned``, another page is shown."""

    turned = pyqtSignal()

    def __init__(self, palette: Palette) -> None:
        super().__init__()
        self._palette = palette
        self._pages: PaintedPages | None = None
        self.index = 0
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName(translate("Gavotte", "Preview"))

    def sizeHint(self) -> QSize:
        return QSize(440, 600)

    @property
    def count(self) -> int:
        """Number of pages there are."""
        return len(self._pages.pages) if self._pages is not None else 0

    def show_pages(self, pages: PaintedPages) -> None:
        """Show these pages, from where one is."""
        self._pages = pages
        self.turn_to(min(self.index, max(0, self.count - 1)))

    def turn_to(self, index: int) -> None:
        """Show another page, if there is one."""
        if 0 <= index < max(1, self.count):
            self.index = index
        self.setAccessibleDescription(
            translate("Gavotte", "Page {page} of {count}").format(page=self.index + 1, count=self.count)
        )
        self.update()
        self.turned.emit()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        step = {Qt.Key.Key_PageDown: 1, Qt.Key.Key_Right: 1, Qt.Key.Key_PageUp: -1, Qt.Key.Key_Left: -1}
        if event.key() in step:
            self.turn_to(self.index + step[Qt.Key(event.key())])
        else:
            super().keyPressEvent(event)

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        assert event is not None
        self.turn_to(self.index + (1 if event.angleDelta().y() < 0 else -1))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        pages = self._pages
        if pages is None:
            return
        paper = pages.setup.page_layout.fullRect(QPageLayout.Unit.Millimeter)
        scale = min((self.width() - 4) / paper.width(), (self.height() - 4) / paper.height())
        sheet = QRectF(0, 0, paper.width() * scale, paper.height() * scale)
        sheet.moveCenter(QRectF(self.rect()).center())
        with painting(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.fillRect(sheet, QColor(PRINT.page))
            painter.setPen(QColor(self._palette.accent if self.hasFocus() else self._palette.rule))
            painter.drawRect(sheet)
            if self.index >= self.count:
                return
            inside = sheet.marginsRemoved(QMarginsF(*[MARGIN_MM * scale] * 4))
            painter.translate(inside.topLeft())
            painter.scale(inside.width() / pages.width, inside.width() / pages.width)
            pages.paint_page(painter, self.index)
