"""A label and a button that shorten their text with an ellipsis where there is no room for it."""

from __future__ import annotations

from PyQt6.QtCore import QSize, Qt
from PyQt6.QtGui import QPaintEvent, QResizeEvent
from PyQt6.QtWidgets import QLabel, QPushButton, QSizePolicy

from gavotte.desktop.painting import painting

_BESIDE_WORDS = 24
"""Pixels of a button beside its words."""


class ElidedLabel(QLabel):
    """One quiet line; the whole text is in the tooltip."""

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("quietBody")
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)

    def setText(self, text: str | None) -> None:
        super().setText(text)
        self.setToolTip(text)

    def minimumSizeHint(self) -> QSize:
        return QSize(40, super().minimumSizeHint().height())

    def paintEvent(self, event: QPaintEvent | None) -> None:
        with painting(self) as painter:
            painter.setPen(self.palette().color(self.foregroundRole()))
            text = self.fontMetrics().elidedText(self.text(), Qt.TextElideMode.ElideRight, self.width())
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, text)


class ElidedButton(QPushButton):
    """A button whose words end in "…" where there is no room for all of them."""

    def __init__(self) -> None:
        super().__init__()
        self._words = ""

    def setText(self, text: str | None) -> None:
        self._words = text or ""
        self.setAccessibleName(self._words)
        self.updateGeometry()
        self._elide()

    def sizeHint(self) -> QSize:
        hint = super().sizeHint()
        frame = hint.width() - self.fontMetrics().horizontalAdvance(self.text())
        return QSize(self.fontMetrics().horizontalAdvance(self._words) + frame, hint.height())

    def minimumSizeHint(self) -> QSize:
        return QSize(60, super().minimumSizeHint().height())

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._elide()

    def _elide(self) -> None:
        room = self.width() - _BESIDE_WORDS
        super().setText(self.fontMetrics().elidedText(self._words, Qt.TextElideMode.ElideRight, room))
