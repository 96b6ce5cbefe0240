"""Today as a short line of items: each with its key, why it is there, and for how long."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from PyQt6.QtCore import QModelIndex, QRect, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QFontMetrics, QPainter
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QListWidget,
    QListWidgetItem,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QWidget,
)

from gavotte.desktop.desks.practice.words import Read, as_it_is, key_words, why_words
from gavotte.desktop.theme.palette import DAY, Palette
from gavotte.desktop.theme.type import BODY, SMALL, font
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.number import Number
from gavotte.practice.item import PracticeItem
from gavotte.practice.plan import Planned

_WIDTH, _HEIGHT = 208, 56
_NAME, _WHY, _CHOSEN = (Qt.ItemDataRole.UserRole + k for k in range(3))


class _Delegate(QStyledItemDelegate):
    """Paints an item of today: a rule above it, thicker where it is on the stand."""

    def __init__(self, parent: QListWidget) -> None:
        super().__init__(parent)
        self.palette_in_use: Palette = DAY

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        return QSize(_WIDTH, _HEIGHT)

    def paint(self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        assert painter is not None
        palette, rect = self.palette_in_use, option.rect.adjusted(4, 2, -4, -2)
        painter.save()
        selected = bool(option.state & QStyle.StateFlag.State_Selected)
        if selected:
            painter.fillRect(rect, QColor(palette.selection))
        elif option.state & QStyle.StateFlag.State_MouseOver:
            painter.fillRect(rect, QColor(palette.well))
        focused = selected and bool(option.state & QStyle.StateFlag.State_HasFocus)
        bar = QRect(rect.left(), rect.top(), rect.width(), 4 if focused else 2)
        painter.fillRect(bar, QColor(palette.accent if selected else palette.rule))
        room = rect.width() - 16
        for text, face, colour, top in (
            (index.data(_NAME), font(BODY, 500), palette.text, 9),
            (index.data(_WHY), font(SMALL), palette.quiet_text, 32),
        ):
            painter.setFont(face)
            painter.setPen(QColor(colour))
            words = QFontMetrics(face).elidedText(text or "", Qt.TextElideMode.ElideRight, room)
            painter.drawText(rect.adjusted(8, top, 0, 0), Qt.AlignmentFlag.AlignLeft, words)
        painter.restore()


class TodayStrip(QWidget):
    """``list`` has what is planned, ``minutes`` how long there is.

    Signals: ``chosen(item, number)``; ``minutes_changed(minutes)``.
    """

    chosen = pyqtSignal(str, int)
    minutes_changed = pyqtSignal(float)

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("chrome")
        self.list = QListWidget()
        self.list.setAccessibleName(translate("Gavotte", "Today"))
        self.list.setObjectName("strip")
        self.list.setFlow(QListWidget.Flow.LeftToRight)
        self.list.setFixedHeight(_HEIGHT + 14)
        self.list.setMouseTracking(True)
        self.list.setHorizontalScrollMode(QListWidget.ScrollMode.ScrollPerPixel)
        self.list.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.setFrameShape(QListWidget.Shape.NoFrame)
        self._delegate = _Delegate(self.list)
        self.list.setItemDelegate(self._delegate)
        self.minutes = Number(5, 240, 5, 0, translate("Gavotte", "min"))
        self.minutes.setToolTip(translate("Gavotte", "How long there is today"))
        self.minutes.setAccessibleName(translate("Gavotte", "Minutes today"))
        self.minutes.setKeyboardTracking(False)
        self.none = QLabel()
        self.none.setObjectName("quietBody")
        self.none.setWordWrap(True)
        row = QHBoxLayout(self)
        row.setContentsMargins(16, 4, 16, 4)
        row.setSpacing(12)
        row.addWidget(self.list, 1)
        row.addWidget(self.none, 1)
        row.addWidget(self.minutes, 0, Qt.AlignmentFlag.AlignVCenter)
        self._rows: list[tuple[str, int]] = []
        self.list.currentRowChanged.connect(self._choose)
        self.minutes.valueChanged.connect(self.minutes_changed)

    def set_palette(self, palette: Palette) -> None:
        """Paint in a theme's colours."""
        self._delegate.palette_in_use = palette
        self.list.update()

    def show_plan(
        self,
        plan: Sequence[tuple[str, Planned]],
        items: Mapping[str, PracticeItem],
        chosen: tuple[str, int] | None,
        minutes: float,
        none: str,
        read: Read = as_it_is,
    ) -> None:
        """Show what is planned, keys as they are ``read``; ``none`` is said where nothing is."""
        self.list.blockSignals(True)
        self.list.clear()
        self._rows = []
        for name, planned in plan:
            item = items[name]
            row = QListWidgetItem()
            title, why = (
                item.name,
                " · ".join(filter(None, (key_words(item, planned.number, read), why_words(planned)))),
            )
            row.setData(_NAME, title)
            row.setData(_WHY, why)
            row.setToolTip(f"{title}\n{why}")
            row.setData(Qt.ItemDataRole.AccessibleTextRole, f"{title}, {why}")
            self.list.addItem(row)
            self._rows.append((name, planned.number))
        if chosen in self._rows:
            self.list.setCurrentRow(self._rows.index(chosen))
        self.list.blockSignals(False)
        self.list.setVisible(bool(plan))
        self.none.setVisible(not plan)
        self.none.setText(none)
        self.minutes.blockSignals(True)
        self.minutes.setValue(minutes)
        self.minutes.blockSignals(False)

    def _choose(self, row: int) -> None:
        if 0 <= row < len(self._rows):
            self.chosen.emit(*self._rows[row])
