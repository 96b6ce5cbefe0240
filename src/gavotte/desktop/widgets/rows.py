"""Rows for lists: a name, a quiet line under it, and a word at the right edge; or a heading and words that wrap."""

from __future__ import annotations

from collections.abc import Collection
from functools import lru_cache

from PyQt6.QtCore import QModelIndex, QRect, QSize, Qt
from PyQt6.QtGui import QColor, QFontMetrics, QPainter
from PyQt6.QtWidgets import QListWidget, QListWidgetItem, QStyle, QStyledItemDelegate, QStyleOptionViewItem

from gavotte.desktop.theme.palette import DAY, Palette
from gavotte.desktop.theme.type import BODY, SMALL, font
from gavotte.desktop.widgets.by_word import Typed, found_by_word

ID_ROLE, DETAIL_ROLE, EDGE_ROLE, URGENT_ROLE, OWN_ROLE = (Qt.ItemDataRole.UserRole + k for k in range(5))
ROW_HEIGHT = 56


def paint_ground(painter: QPainter, option: QStyleOptionViewItem, palette: Palette) -> None:
    """Paint what lies under the words of a row: whether it is chosen, has the keys, or is pointed at, and its rule."""
    rect = option.rect
    selected = bool(option.state & QStyle.StateFlag.State_Selected)
    if selected:
        painter.fillRect(rect, QColor(palette.selection))
    elif option.state & QStyle.StateFlag.State_MouseOver:
        painter.fillRect(rect, QColor(palette.chrome))
    painter.setPen(QColor(palette.rule))
    painter.drawLine(rect.bottomLeft(), rect.bottomRight())
    if selected and option.state & QStyle.StateFlag.State_HasFocus:
        painter.fillRect(QRect(rect.left(), rect.top(), 3, rect.height()), QColor(palette.accent))


class RowDelegate(QStyledItemDelegate):
    """Paints the rows."""

    def __init__(self, parent: QListWidget) -> None:
        super().__init__(parent)
        self.palette_in_use: Palette = DAY

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        return QSize(120, ROW_HEIGHT)

    def paint(self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        assert painter is not None
        palette = self.palette_in_use
        painter.save()
        rect = option.rect
        paint_ground(painter, option, palette)
        edge = index.data(EDGE_ROLE) or ""
        edge_width = 0
        if edge:
            painter.setFont(font(SMALL))
            edge_width = QFontMetrics(font(SMALL)).horizontalAdvance(edge) + 12
            painter.setPen(QColor(palette.warning if index.data(URGENT_ROLE) else palette.quiet_text))
            painter.drawText(rect.adjusted(0, 8, -12, 0), Qt.AlignmentFlag.AlignRight, edge)
        room = rect.width() - 24
        painter.setPen(QColor(palette.text))
        painter.setFont(font(BODY, 500))
        name = QFontMetrics(font(BODY, 500)).elidedText(
            index.data(Qt.ItemDataRole.DisplayRole) or "", Qt.TextElideMode.ElideRight, room - edge_width
        )
        painter.drawText(rect.adjusted(12, 6, 0, 0), Qt.AlignmentFlag.AlignLeft, name)
        painter.setPen(QColor(palette.quiet_text))
        painter.setFont(font(SMALL))
        detail = QFontMetrics(font(SMALL)).elidedText(index.data(DETAIL_ROLE) or "", Qt.TextElideMode.ElideRight, room)
        painter.drawText(rect.adjusted(12, 30, 0, 0), Qt.AlignmentFlag.AlignLeft, detail)
        painter.restore()


_EDGE, _GAP = 12, 8
_WRAPPED = int(Qt.TextFlag.TextWordWrap | Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop)


@lru_cache(4096)
def _height(face: tuple[float, int, bool], words: str, width: int) -> int:
    """How high wrapped words are, set in a face: its size in pixels, weight, and whether it is italic."""
    return QFontMetrics(font(*face)).boundingRect(QRect(0, 0, width, 10_000), _WRAPPED, words).height()


class _WordsDelegate(QStyledItemDelegate):
    """Paints rows of a heading and words under it that wrap, as high as they need to be."""

    def __init__(self, parent: WordList) -> None:
        super().__init__(parent)
        self._list = parent

    def _parts(self, index: QModelIndex) -> list[tuple[tuple[float, int, bool], str]]:
        heading, _, words = (index.data(Qt.ItemDataRole.DisplayRole) or "").partition("\n")
        if not words:
            return [((BODY, 400, False), heading)]
        own = bool(index.data(OWN_ROLE))
        return [((SMALL, 500, False), heading), ((BODY, 400, own), words)]

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        width = self._list.room - 2 * _EDGE
        heights = [_height(face, words, width) for face, words in self._parts(index)]
        return QSize(self._list.room, sum(heights) + 2 * _GAP + 2)

    def paint(self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        assert painter is not None
        painter.save()
        palette, rect = self._list.palette_in_use, option.rect
        if option.state & QStyle.StateFlag.State_Selected:
            painter.fillRect(rect, QColor(palette.selection))
        elif option.state & QStyle.StateFlag.State_MouseOver:
            painter.fillRect(rect, QColor(palette.chrome))
        painter.setPen(QColor(palette.rule))
        painter.drawLine(rect.bottomLeft(), rect.bottomRight())
        room = rect.adjusted(_EDGE, _GAP, -_EDGE, 0)
        parts = self._parts(index)
        for face, text in parts:
            heading = len(parts) > 1 and text == parts[0][1]
            painter.setPen(QColor(palette.quiet_text if heading else palette.text))
            painter.setFont(font(*face))
            height = _height(face, text, room.width())
            painter.drawText(room, _WRAPPED, text)
            room = room.adjusted(0, height + 2, 0, 0)
        painter.restore()


class _Searched(QListWidget):
    """A list whose entries are found by the first letters of any of their words."""

    def __init__(self) -> None:
        super().__init__()
        self._typed = Typed()

    def keyboardSearch(self, search: str | None) -> None:
        entries = [item.text() if (item := self.item(row)) is not None else "" for row in range(self.count())]
        row = found_by_word(entries, self._typed.add(search or ""))
        if row is not None:
            self.setCurrentRow(row)


class WordList(_Searched):
    """A list of headings with words under them, wrapped to its width."""

    def __init__(self, name: str) -> None:
        super().__init__()
        self.palette_in_use: Palette = DAY
        self.setAccessibleName(name)
        self.setMouseTracking(True)
        self.setVerticalScrollMode(QListWidget.ScrollMode.ScrollPerPixel)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOn)
        self.setResizeMode(QListWidget.ResizeMode.Adjust)
        self.setItemDelegate(_WordsDelegate(self))

    @property
    def room(self) -> int:
        """The width a row has."""
        viewport = self.viewport()
        return viewport.width() if viewport is not None else self.width()

    def set_palette(self, palette: Palette) -> None:
        """Paint in a theme's colours."""
        self.palette_in_use = palette
        viewport = self.viewport()
        if viewport is not None:
            viewport.update()

    def add_words(self, heading: str, words: str, own: bool = False) -> None:
        """Append a row; ``own`` sets the user's own words apart."""
        item = QListWidgetItem(f"{heading}\n{words}" if heading else words)
        item.setData(OWN_ROLE, own)
        self.addItem(item)


class RowList(_Searched):
    """A list of two-line rows, each with an id."""

    def __init__(self, name: str) -> None:
        super().__init__()
        self.setAccessibleName(name)
        self.setMouseTracking(True)
        self.setVerticalScrollMode(QListWidget.ScrollMode.ScrollPerPixel)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._delegate = RowDelegate(self)
        self.setItemDelegate(self._delegate)

    def set_palette(self, palette: Palette) -> None:
        """Paint in a theme's colours."""
        self._delegate.palette_in_use = palette
        viewport = self.viewport()
        if viewport is not None:
            viewport.update()

    def add_row(self, row_id: str, name: str, detail: str, edge: str = "", urgent: bool = False) -> None:
        """Append a row."""
        item = QListWidgetItem(name)
        item.setData(ID_ROLE, row_id)
        item.setData(DETAIL_ROLE, detail)
        item.setData(EDGE_ROLE, edge)
        item.setData(URGENT_ROLE, urgent)
        item.setToolTip(f"{name}\n{detail}")
        item.setData(Qt.ItemDataRole.AccessibleTextRole, ", ".join(part for part in (name, detail, edge) if part))
        self.addItem(item)

    def current_id(self) -> str | None:
        """The id of the current row."""
        item = self.currentItem()
        return None if item is None else str(item.data(ID_ROLE))

    def chosen_id(self) -> str | None:
        """The id of the selected row, if there is one."""
        return self.current_id() if self.selectedItems() else None

    def chosen_ids(self) -> tuple[str, ...]:
        """The ids of all selected rows, from the top down."""
        items = (self.item(row) for row in range(self.count()))
        return tuple(str(item.data(ID_ROLE)) for item in items if item is not None and item.isSelected())

    def also_choose(self, ids: Collection[str]) -> None:
        """Select the rows of these ids beside the current one."""
        for row in range(self.count()):
            item = self.item(row)
            if item is not None and item.data(ID_ROLE) in ids:
                item.setSelected(True)

    def select_id(self, row_id: str | None) -> bool:
        """Make the row with this id current; False where there is none."""
        for index in range(self.count()):
            item = self.item(index)
            if item is not None and item.data(ID_ROLE) == row_id:
                self.setCurrentRow(index)
                return True
        return False
