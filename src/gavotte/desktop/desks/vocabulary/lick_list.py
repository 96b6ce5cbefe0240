"""The list of what answers: licks, then places of solos, each with its mini lane."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QItemSelection, QModelIndex, QRect, QRectF, QSize, QStringListModel, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QFontMetrics, QPainter
from PyQt6.QtWidgets import QListView, QStyledItemDelegate, QStyleOptionViewItem

from gavotte.desktop.page.mini_lane import HEIGHT, paint_mini_lane
from gavotte.desktop.theme.palette import DAY, Palette
from gavotte.desktop.theme.type import BODY, SMALL, font
from gavotte.desktop.widgets.by_word import Typed, found_by_word
from gavotte.desktop.widgets.rows import paint_ground
from gavotte.library.lines import Index

_ROW_SIZE, _HEADING_SIZE = QSize(120, 72), QSize(120, 30)
_MANY = 500
"""With more rows than this all have one height, so that they are laid out without asking each."""


@dataclass(frozen=True)
class Row:
    """A row: a lick or a place of a solo (``owner`` is its id), or a ``heading`` over those that follow.

    ``first`` and ``last`` are the rows of its line that answer, ``last`` -1 for the end of it.
    """

    name: str
    detail: str = ""
    edge: str = ""
    owner: str = ""
    is_lick: bool = False
    is_heading: bool = False
    first: int = 0
    last: int = 0
    marked: frozenset[int] = frozenset()

    @property
    def spoken(self) -> str:
        """What is read out."""
        return ", ".join(part for part in (self.name, self.detail, self.edge) if part)


class _Rows(QStringListModel):
    # A list of words, so that laying out thousands of rows asks nothing of Python: a thread at work would be waited for
    # at every row.
    def __init__(self) -> None:
        super().__init__()
        self.rows: tuple[Row, ...] = ()
        self.licks = 0

    def show(self, rows: Sequence[Row]) -> None:
        self.rows = tuple(rows)
        self.licks = sum(row.is_lick for row in rows)
        self.setStringList([row.name for row in rows])

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        row = self.rows[index.row()]
        if role == Qt.ItemDataRole.DisplayRole:
            return row.name
        if role == Qt.ItemDataRole.ToolTipRole:
            return "" if row.is_heading else f"{row.name}\n{row.detail}"
        if role == Qt.ItemDataRole.AccessibleTextRole:
            return row.spoken
        return None

    def flags(self, index: QModelIndex) -> Qt.ItemFlag:
        if self.rows[index.row()].is_heading:
            return Qt.ItemFlag.NoItemFlags
        return Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable


class _Painted(QStyledItemDelegate):
    def __init__(self, view: LickList) -> None:
        super().__init__(view)
        self._view = view

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        is_low = not self._view.uniformItemSizes() and self._view.rows[index.row()].is_heading
        return _HEADING_SIZE if is_low else _ROW_SIZE

    def paint(self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        assert painter is not None
        row, palette, rect = self._view.rows[index.row()], self._view.palette_in_use, option.rect
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if row.is_heading:
            painter.setPen(QColor(palette.quiet_text))
            painter.setFont(font(SMALL, 600))
            painter.drawText(rect.adjusted(12, 0, -12, -6), Qt.AlignmentFlag.AlignBottom, row.name)
        else:
            self._paint_row(painter, row, rect, option, palette)
        painter.restore()

    def _paint_row(
        self, painter: QPainter, row: Row, rect: QRect, option: QStyleOptionViewItem, palette: Palette
    ) -> None:
        paint_ground(painter, option, palette)
        edge_width = 0
        if row.edge:
            painter.setFont(font(SMALL))
            painter.setPen(QColor(palette.quiet_text))
            edge_width = QFontMetrics(font(SMALL)).horizontalAdvance(row.edge) + 12
            painter.drawText(rect.adjusted(0, 7, -12, 0), Qt.AlignmentFlag.AlignRight, row.edge)
        room = rect.width() - 24
        for text, top, face, colour, width in (
            (row.name, 6, font(BODY, 500), palette.text, room - edge_width),
            (row.detail, 28, font(SMALL), palette.quiet_text, room),
        ):
            painter.setPen(QColor(colour))
            painter.setFont(face)
            shown = QFontMetrics(face).elidedText(text, Qt.TextElideMode.ElideRight, width)
            painter.drawText(rect.adjusted(12, top, 0, 0), Qt.AlignmentFlag.AlignLeft, shown)
        notes = self._view.notes_of(row)
        if notes is not None:
            end = len(notes) if row.last < 0 else row.last + 1
            lane = QRectF(rect.left() + 12, rect.top() + 47, rect.width() - 24, HEIGHT)
            marked = frozenset(k - row.first for k in row.marked)
            paint_mini_lane(painter, lane, notes[row.first : end], palette, marked)


class LickList(QListView):
    """Lists rows, one of which is chosen. ``notes_of`` gives the notes of a row's line, None where they are not known.

    Signals: ``row_chosen(row)``, -1 where none is; ``selection_changed``, others are selected with it.
    """

    row_chosen = pyqtSignal(int)
    selection_changed = pyqtSignal()

    def __init__(self, name: str) -> None:
        super().__init__()
        self.palette_in_use: Palette = DAY
        self.notes_of: Callable[[Row], NDArray[np.void] | None] = lambda _: None
        self._rows = _Rows()
        self._typed = Typed()
        self._filling = False
        self.setModel(self._rows)
        self.setItemDelegate(_Painted(self))
        self.setAccessibleName(name)
        self.setMouseTracking(True)
        self.setSelectionMode(QListView.SelectionMode.ExtendedSelection)
        self.setVerticalScrollMode(QListView.ScrollMode.ScrollPerPixel)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setResizeMode(QListView.ResizeMode.Adjust)

    @property
    def rows(self) -> tuple[Row, ...]:
        """What is listed."""
        return self._rows.rows

    def set_palette(self, palette: Palette) -> None:
        """Paint in a theme's colours."""
        self.palette_in_use = palette
        self.paint_again()

    def paint_again(self) -> None:
        """The lines of the rows are known now, or others."""
        viewport = self.viewport()
        if viewport is not None:
            viewport.update()

    def show_rows(self, rows: Sequence[Row]) -> None:
        """List rows; the one that was chosen stays so where it is still there, else the first is, without a signal."""
        before = self.current()
        self._filling = True
        self.setUniformItemSizes(len(rows) > _MANY or not any(row.is_heading for row in rows))
        self._rows.show(rows)
        wanted = None if before is None else self._number_of(before.owner, before.first)
        if wanted is None:
            wanted = next((k for k, row in enumerate(rows) if not row.is_heading), -1)
        self.setCurrentRow(wanted)
        self._filling = False

    def _number_of(self, owner: str, first: int | None = None) -> int | None:
        fits = [k for k, row in enumerate(self.rows) if row.owner == owner and not row.is_heading]
        exact = [k for k in fits if self.rows[k].first == first]
        return next(iter(exact or fits), None)

    def count(self) -> int:
        """How many licks are listed."""
        return self._rows.licks

    def currentRow(self) -> int:
        """The number of the chosen row, -1 where none is."""
        return self.currentIndex().row()

    def setCurrentRow(self, number: int) -> None:
        """Choose a row by its number; none for -1."""
        self.setCurrentIndex(self._rows.index(number) if number >= 0 else QModelIndex())

    def choose_none(self) -> None:
        """Choose no row, without a signal."""
        self._filling = True
        self.setCurrentRow(-1)
        self._filling = False

    def current(self) -> Row | None:
        """The chosen row."""
        number = self.currentRow()
        return self.rows[number] if 0 <= number < len(self.rows) and not self.rows[number].is_heading else None

    def selected_ids(self) -> tuple[str, ...]:
        """The ids of all licks that are selected, in the order of the list."""
        numbers = sorted(index.row() for index in self.selectedIndexes())
        return tuple(self.rows[number].owner for number in numbers if self.rows[number].is_lick)

    def selectionChanged(self, selected: QItemSelection, deselected: QItemSelection) -> None:
        super().selectionChanged(selected, deselected)
        if not self._filling:
            self.selection_changed.emit()

    def current_id(self) -> str | None:
        """The id of the chosen lick, None where none is."""
        row = self.current()
        return row.owner if row is not None and row.is_lick else None

    def select_id(self, owner: str | None) -> bool:
        """Choose the row of a lick by its id; False where it is not listed."""
        number = None if owner is None else self._number_of(owner)
        if number is None:
            return False
        self.setCurrentRow(number)
        return True

    def currentChanged(self, current: QModelIndex, previous: QModelIndex) -> None:
        super().currentChanged(current, previous)
        if not self._filling:
            self.row_chosen.emit(current.row())

    def keyboardSearch(self, search: str | None) -> None:
        number = found_by_word([row.name for row in self.rows], self._typed.add(search or ""))
        if number is not None:
            self.setCurrentRow(number)


def notes_of(index: Index, row: Row) -> NDArray[np.void] | None:
    """The notes of a row's line, None where the index does not know it (yet)."""
    lines = index.licks if row.is_lick else index.solos
    number = lines.number_of.get(row.owner)
    return None if number is None else lines.corpus.lines[number].notes
