"""A drop-down choice and a tick box with Gavotte's own arrow and tick."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QKeyEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QCheckBox, QComboBox, QListView, QStyle, QStyleOptionButton, QWidget

from gavotte.desktop.painting import painting
from gavotte.desktop.widgets.by_word import Typed, found_by_word

_NO_TEXT = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier | Qt.KeyboardModifier.MetaModifier


class _Entries(QListView):
    """The entries of a combo box, opened."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self._typed = Typed()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.text() == " " and self._typed.is_going_on:
            self.keyboardSearch(" ")
        else:
            super().keyPressEvent(event)

    def keyboardSearch(self, search: str | None) -> None:
        model = self.model()
        if model is None:
            return
        rows = [str(model.index(row, 0).data() or "") for row in range(model.rowCount())]
        row = found_by_word(rows, self._typed.add(search or ""))
        if row is not None:
            self.setCurrentIndex(model.index(row, 0))


class Choice(QComboBox):
    """A combo box whose arrow is drawn in the text's colour, and whose entries are found by any of their words."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._typed = Typed()
        self.setView(_Entries(self))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        text = "" if event is None or event.modifiers() & _NO_TEXT else event.text()
        if event is None or not text.isprintable() or not text or (text == " " and not self._typed.is_going_on):
            super().keyPressEvent(event)
            return
        entries = [self.itemText(index) for index in range(self.count())]
        index = found_by_word(entries, self._typed.add(text))
        if index is not None and index != self.currentIndex():
            self.setCurrentIndex(index)
            self.activated.emit(index)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        super().paintEvent(event)
        with painting(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.setPen(QPen(self.palette().color(self.foregroundRole()), 1.6))
            x, y = self.width() - 15.0, self.height() / 2 - 1.5
            painter.drawPolyline(QPointF(x - 4, y), QPointF(x, y + 4), QPointF(x + 4, y))


class Tick(QCheckBox):
    """A check box whose tick is drawn in the text's colour."""

    def paintEvent(self, event: QPaintEvent | None) -> None:
        super().paintEvent(event)
        style = self.style()
        if not self.isChecked() or style is None:
            return
        option = QStyleOptionButton()
        self.initStyleOption(option)
        box = style.subElementRect(QStyle.SubElement.SE_CheckBoxIndicator, option, self)
        x, y, size = box.x(), box.y(), box.width()
        with painting(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.setPen(QPen(self.palette().color(self.foregroundRole()), 2))
            painter.drawPolyline(
                QPointF(x + 0.24 * size, y + 0.52 * size),
                QPointF(x + 0.43 * size, y + 0.72 * size),
                QPointF(x + 0.78 * size, y + 0.28 * size),
            )
