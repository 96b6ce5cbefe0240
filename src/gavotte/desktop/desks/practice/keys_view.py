"""The keys of an item as twelve bars in the order of fifths: as high as the tempo that was reached."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from gavotte.desktop.desks.practice.words import Read, as_it_is, key_words
from gavotte.desktop.painting import painting
from gavotte.desktop.theme.palette import DAY, Palette
from gavotte.desktop.theme.type import SMALL, font
from gavotte.desktop.translation import translate
from gavotte.practice.item import PracticeItem

_HEIGHT, _FOOT, _HEAD = 132, 22, 20


class KeysView(QWidget):
    """Signal: ``chosen(number)``, a key was clicked."""

    chosen = pyqtSignal(int)

    def __init__(self) -> None:
        super().__init__()
        self.palette_in_use: Palette = DAY
        self._item: PracticeItem | None = None
        self._number = 0
        self._names: tuple[str, ...] = ()
        self._tempos: Mapping[int, int] = {}
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setMinimumHeight(_HEIGHT)

    def sizeHint(self) -> QSize:
        return QSize(300, _HEIGHT)

    def set_palette(self, palette: Palette) -> None:
        """Paint in a theme's colours."""
        self.palette_in_use = palette
        self.update()

    def show_item(self, item: PracticeItem | None, number: int, read: Read = as_it_is) -> None:
        """Show an item's keys as they are read, one of them on the stand."""
        if item is not None:
            self._names = tuple(key_words(item, k, read) for k in range(12))
        self._item, self._number = item, number
        self._tempos = {card.number: card.tempo for card in item.cards} if item is not None else {}
        told = [
            translate("Gavotte", "{key} {tempo}").format(key=self._names[k], tempo=tempo)
            for k, tempo in self._tempos.items()
            if tempo
        ]
        self.setAccessibleName(translate("Gavotte", "Tempo reached in each key"))
        self.setAccessibleDescription(", ".join(told) or translate("Gavotte", "None yet"))
        self.update()

    def _column(self, number: int) -> QRectF:
        wide = self.width() / 12
        return QRectF(number * wide, 0, wide, self.height())

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if self._item is None:
            return
        palette, goal = self.palette_in_use, self._item.goal
        high = max([goal, *self._tempos.values()]) * 1.08
        ground = self.height() - _FOOT
        room = ground - _HEAD
        with painting(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.setFont(font(SMALL))
            for number in range(12):
                column = self._column(number).adjusted(3, 0, -3, 0)
                is_there = number in self._tempos
                current = number == self._number
                painter.setPen(QColor(palette.text if is_there else palette.rule))
                name = QRectF(column.left() - 4, ground + 2, column.width() + 8, _FOOT - 2)
                painter.setFont(font(SMALL, 700 if current else 400))
                painter.drawText(name, Qt.AlignmentFlag.AlignCenter, self._names[number])
                painter.setPen(QPen(QColor(palette.accent if current else palette.rule), 2 if current else 1))
                painter.drawLine(QPointF(column.left(), ground), QPointF(column.right(), ground))
                tempo = self._tempos.get(number, 0)
                if tempo:
                    top = ground - room * tempo / high
                    bar = QRectF(column.left() + 2, top, column.width() - 4, ground - top)
                    painter.fillRect(bar, QColor(palette.accent if tempo >= goal else palette.faint_ink))
                    painter.setPen(QColor(palette.quiet_text))
                    painter.setFont(font(SMALL - 1))
                    painter.drawText(
                        QRectF(column.left() - 6, top - 15, column.width() + 12, 14),
                        Qt.AlignmentFlag.AlignCenter,
                        str(tempo),
                    )
            line = ground - room * goal / high
            painter.setPen(QPen(QColor(palette.quiet_text), 1, Qt.PenStyle.DashLine))
            painter.drawLine(QPointF(0, line), QPointF(self.width(), line))

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        number = int(event.position().x() * 12 / max(1, self.width()))
        if number in self._tempos:
            self.chosen.emit(number)
