"""Asks for a named interval to move notes by."""

from __future__ import annotations

from PyQt6.QtWidgets import QLabel, QWidget

from gavotte.desktop.translation import QT_TRANSLATE_NOOP, said, translate
from gavotte.desktop.widgets.choice import Choice
from gavotte.desktop.widgets.dialog import Dialog
from gavotte.writing.intervals import Move, usual_moves

_SCALE_WORDS = {
    1: QT_TRANSLATE_NOOP("Gavotte", "Second {way}, in the scale"),
    2: QT_TRANSLATE_NOOP("Gavotte", "Third {way}, in the scale"),
    3: QT_TRANSLATE_NOOP("Gavotte", "Fourth {way}, in the scale"),
    4: QT_TRANSLATE_NOOP("Gavotte", "Fifth {way}, in the scale"),
    5: QT_TRANSLATE_NOOP("Gavotte", "Sixth {way}, in the scale"),
    6: QT_TRANSLATE_NOOP("Gavotte", "Seventh {way}, in the scale"),
    7: QT_TRANSLATE_NOOP("Gavotte", "Octave {way}"),
}


class IntervalDialog(Dialog):
    """``move`` is what was chosen. ``onto`` is the way to the chord at the caret, with its name, where there is one."""

    def __init__(self, parent: QWidget, title: str, yes: str, onto: tuple[str, Move] | None = None) -> None:
        super().__init__(parent, title, yes)
        self.interval = Choice()
        self.interval.setAccessibleName(translate("Gavotte", "Interval"))
        if onto is not None:
            self.interval.addItem(translate("Gavotte", "Onto {chord}, root to root").format(chord=onto[0]), onto[1])
        for move in usual_moves():
            # An octave is the same both ways.
            if not (move.in_scale and abs(move.interval.steps) == 7):
                self.interval.addItem(_words(move), move)
        caption = QLabel(translate("Gavotte", "Type a word of it: “fourth”, “minor third down”"))
        caption.setObjectName("quiet")
        self.content.addWidget(caption)
        self.content.addWidget(self.interval)
        self.interval.setFocus()

    @property
    def move_chosen(self) -> Move:
        """How the notes are to be moved."""
        chosen: Move = self.interval.currentData()
        return chosen


def _words(move: Move) -> str:
    way = translate("Gavotte", "up") if move.interval.steps > 0 else translate("Gavotte", "down")
    steps = abs(move.interval.steps)
    if move.in_scale or steps == 7:
        return said(_SCALE_WORDS[steps]).format(way=way)
    name = move.interval.name
    return f"{name[:1].upper()}{name[1:]} {way}"
