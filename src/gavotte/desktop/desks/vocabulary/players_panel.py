"""Players' dictionaries: what a player does how often, beside another one."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import QModelIndex, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QPainter, QPen
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QListWidget,
    QListWidgetItem,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QVBoxLayout,
    QWidget,
)

from gavotte.desktop.theme.palette import DAY, Palette
from gavotte.desktop.theme.type import BODY, SMALL, font
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.choice import Choice
from gavotte.desktop.widgets.header import rule
from gavotte.desktop.words import counted
from gavotte.vocabulary.dictionary import Dictionary, Entry, differs, side_by_side

_ENTRY, _HEADING = 30, 40
_BESIDE = 230
_MIDDLE = 210
"""Pixels in the middle for what is told."""


@dataclass(frozen=True)
class _Told:
    """A row: a heading, or an entry of the player with that of the other beside it."""

    words: str
    mine: Entry | None = None
    other: Entry | None = None

    @property
    def query(self) -> str:
        entry = self.mine or self.other
        return "" if entry is None else entry.query

    @property
    def spoken(self) -> str:
        if self.mine is None and self.other is None:
            return self.words
        return ", ".join([self.words, *(_share_words(entry) for entry in (self.mine, self.other) if entry is not None)])


def _share_words(entry: Entry) -> str:
    low, high = entry.bounds
    return translate("Gavotte", "{count} of {total}, {low} to {high} %").format(
        count=entry.count, total=entry.total, low=round(100 * low), high=round(100 * high)
    )


class _Painted(QStyledItemDelegate):
    def __init__(self, view: DictionaryList) -> None:
        super().__init__(view)
        self._view = view

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        told = self._view.told[index.row()]
        return QSize(200, _HEADING if told.mine is None and told.other is None else _ENTRY)

    def paint(self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        assert painter is not None
        told, palette, rect = self._view.told[index.row()], self._view.palette_in_use, option.rect
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if told.mine is None and told.other is None:
            painter.setPen(QColor(palette.text))
            painter.setFont(font(BODY, 700))
            painter.drawText(
                rect.adjusted(0, 0, 0, -6), Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignBottom, told.words
            )
            painter.restore()
            return
        if option.state & QStyle.StateFlag.State_Selected:
            painter.fillRect(rect, QColor(palette.selection))
        elif option.state & QStyle.StateFlag.State_MouseOver:
            painter.fillRect(rect, QColor(palette.chrome))
        apart = told.mine is not None and told.other is not None and differs(told.mine, told.other)
        middle = QRectF(rect.center().x() - _MIDDLE / 2, rect.top(), _MIDDLE, rect.height())
        painter.setPen(QColor(palette.accent if apart else palette.text))
        painter.setFont(font(BODY, 700 if apart else 400))
        words = painter.fontMetrics().elidedText(told.words, Qt.TextElideMode.ElideRight, _MIDDLE - 8)
        painter.drawText(middle, Qt.AlignmentFlag.AlignCenter, words)
        room = middle.left() - rect.left() - 16
        for entry, side in ((told.mine, -1), (told.other, 1)):
            if entry is not None:
                self._paint_side(painter, entry, middle, side, room, palette)
        painter.restore()

    @staticmethod
    def _paint_side(painter: QPainter, entry: Entry, middle: QRectF, side: int, room: float, palette: Palette) -> None:
        """A bar from the middle outwards, and a line over it for where the player's own share may lie."""
        start = middle.left() if side < 0 else middle.right()
        width = room - 96

        def x(share: float) -> float:
            return start + side * share * width

        y = middle.center().y()
        box = QRectF(min(start, x(entry.share)), y - 5, abs(x(entry.share) - start), 10)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(palette.accent) if side < 0 else QColor(palette.quiet_text))
        painter.drawRect(box)
        low, high = entry.bounds
        painter.setPen(QPen(QColor(palette.ink), 1.4))
        painter.drawLine(int(x(low)), int(y), int(x(high)), int(y))
        for at in (low, high):
            painter.drawLine(int(x(at)), int(y) - 4, int(x(at)), int(y) + 4)
        painter.setFont(font(SMALL))
        painter.setPen(QColor(palette.quiet_text))
        words = f"{round(100 * entry.share)} % ({entry.count})"
        edge = x(max(high, entry.share)) + side * 8
        words_box = QRectF(edge if side > 0 else edge - 88, middle.top(), 88, middle.height())
        how = Qt.AlignmentFlag.AlignLeft if side > 0 else Qt.AlignmentFlag.AlignRight
        painter.drawText(words_box, how | Qt.AlignmentFlag.AlignVCenter, words)


class DictionaryList(QListWidget):
    """Lists what is told of one or two players. Signal: ``query_wanted(query)``, the places of an entry."""

    query_wanted = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        self.palette_in_use: Palette = DAY
        self.told: list[_Told] = []
        self.setItemDelegate(_Painted(self))
        self.setMouseTracking(True)
        self.setAccessibleName(translate("Gavotte", "The dictionary"))
        self.setVerticalScrollMode(QListWidget.ScrollMode.ScrollPerPixel)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.itemActivated.connect(lambda item: self._ask(self.row(item)))

    def _ask(self, row: int) -> None:
        if 0 <= row < len(self.told) and self.told[row].query:
            self.query_wanted.emit(self.told[row].query)

    def show_told(self, told: list[_Told]) -> None:
        """List rows."""
        self.clear()
        self.told = told
        for row in told:
            item = QListWidgetItem(row.words)
            item.setData(Qt.ItemDataRole.AccessibleTextRole, row.spoken)
            if not row.query:
                item.setFlags(Qt.ItemFlag.NoItemFlags)
            else:
                item.setToolTip(f"{row.spoken}\n{translate('Gavotte', 'Enter or a double click lists the places')}")
            self.addItem(item)


class PlayersPanel(QWidget):
    """One player's dictionary, with another's beside it.

    Signals: ``beside_wanted(player)``, whose to show beside it; ``query_wanted(query)``, list the player's places.
    """

    beside_wanted = pyqtSignal(str)
    query_wanted = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        self.name = QLabel()
        self.name.setObjectName("title")
        self.about = QLabel()
        self.about.setObjectName("quiet")
        self.beside = Choice()
        self.beside.setAccessibleName(translate("Gavotte", "Player beside"))
        self.beside.setMinimumWidth(_BESIDE)
        self.beside.setToolTip(translate("Gavotte", "Whose dictionary stands beside it"))
        self.entries = DictionaryList()
        head = QHBoxLayout()
        head.setContentsMargins(20, 16, 20, 10)
        head.setSpacing(12)
        head.addWidget(self.name)
        head.addWidget(self.about, 1, Qt.AlignmentFlag.AlignBottom)
        head.addWidget(self.beside)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(head)
        column.addWidget(rule())
        column.addWidget(self.entries, 1)
        legend = QLabel(
            translate(
                "Gavotte",
                "Bars: how often. Thin lines: where the true share lies, 19 times of 20. In colour: hardly by chance.",
            )
        )
        legend.setObjectName("quiet")
        legend.setWordWrap(True)
        legend.setContentsMargins(20, 6, 20, 10)
        column.addWidget(legend)
        self.beside.activated.connect(lambda _: self.beside_wanted.emit(self.other))
        self.entries.query_wanted.connect(self.query_wanted)

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self.entries.palette_in_use = palette
        viewport = self.entries.viewport()
        if viewport is not None:
            viewport.update()

    @property
    def other(self) -> str:
        """Whose dictionary stands beside, "" for nobody's."""
        return str(self.beside.currentData() or "")

    def show_players(self, player: str, players: list[str]) -> None:
        """Offer the other players."""
        chosen = self.other
        self.beside.blockSignals(True)
        self.beside.clear()
        self.beside.addItem(translate("Gavotte", "Beside nobody"), "")
        for other in players:
            if other != player:
                self.beside.addItem(translate("Gavotte", "Beside {player}").format(player=other), other)
        self.beside.setCurrentIndex(max(0, self.beside.findData(chosen)))
        self.beside.blockSignals(False)

    def show_dictionaries(self, player: str, mine: Dictionary, other: Dictionary | None) -> None:
        """Show a player's dictionary, and another's beside it."""
        self.name.setText(player)
        self.about.setText(
            translate("Gavotte", "{solos}, {notes} named").format(
                solos=counted(mine.solos, "solo"), notes=counted(mine.notes, "note")
            )
        )
        told: list[_Told] = []
        for heading, pairs in side_by_side(mine, other):
            told.append(_Told(heading))
            told += [_Told(pair.mine.words, pair.mine, pair.other) for pair in pairs]
        self.entries.show_told(told)
