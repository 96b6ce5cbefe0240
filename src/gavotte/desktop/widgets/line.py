"""A line to type in, which undoes what is typed in it, and leaves everything else to the window."""

from __future__ import annotations

from PyQt6.QtCore import QEvent
from PyQt6.QtGui import QKeyEvent, QKeySequence
from PyQt6.QtWidgets import QLineEdit


class Line(QLineEdit):
    """A line edit whose Undo and Redo go on to the window where nothing was typed."""

    def event(self, event: QEvent | None) -> bool:
        if isinstance(event, QKeyEvent) and event.type() in (QEvent.Type.ShortcutOverride, QEvent.Type.KeyPress):
            idle = (
                event.matches(QKeySequence.StandardKey.Undo) and not self.isUndoAvailable(),
                event.matches(QKeySequence.StandardKey.Redo) and not self.isRedoAvailable(),
            )
            if any(idle):
                event.ignore()
                return False
        return super().event(event)
