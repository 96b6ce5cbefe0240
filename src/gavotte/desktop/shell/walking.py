"""Walking: through what a desk shows by bars, phrases, sections and choruses, and straight to a bar."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QObject
from PyQt6.QtWidgets import QLabel, QWidget

from gavotte.desktop.desk.desk import Desk, Walked
from gavotte.desktop.translation import QT_TRANSLATE_NOOP, said, translate
from gavotte.desktop.widgets.dialog import Dialog
from gavotte.desktop.widgets.number import Number
from gavotte.solo.bars import BarGrid
from gavotte.writing.waymarks import Waymark, bar_numbered, next_waymark, waymarks

NO_MORE = {
    (Waymark.BAR, 1): QT_TRANSLATE_NOOP("Gavotte", "This is the last bar"),
    (Waymark.BAR, -1): QT_TRANSLATE_NOOP("Gavotte", "This is the first bar"),
    (Waymark.PHRASE, 1): QT_TRANSLATE_NOOP("Gavotte", "This is the last phrase"),
    (Waymark.PHRASE, -1): QT_TRANSLATE_NOOP("Gavotte", "This is the first phrase"),
    (Waymark.SECTION, 1): QT_TRANSLATE_NOOP("Gavotte", "No section follows"),
    (Waymark.SECTION, -1): QT_TRANSLATE_NOOP("Gavotte", "No section stands before"),
    (Waymark.CHORUS, 1): QT_TRANSLATE_NOOP("Gavotte", "This is the last chorus"),
    (Waymark.CHORUS, -1): QT_TRANSLATE_NOOP("Gavotte", "This is the first chorus"),
}


class BarDialog(Dialog):
    """Asks for the number of a bar."""

    def __init__(self, parent: QWidget, here: int, first: int, last: int) -> None:
        super().__init__(parent, translate("Gavotte", "Go to bar"), translate("Gavotte", "Go"))
        self.setMinimumWidth(320)
        self.number = Number(first, last, 1)
        self.number.setValue(here)
        self.number.selectAll()
        name = translate("Gavotte", "Bar, up to {last}").format(last=last)
        if not first:
            name = translate("Gavotte", "Bar, up to {last}; 0 is the pickup").format(last=last)
        self.number.setAccessibleName(name)
        caption = QLabel(name)
        caption.setObjectName("quiet")
        self.content.addWidget(caption)
        self.content.addWidget(self.number)
        self.number.setFocus()
        self.number.selectAll()


class Walking(QObject):
    """Goes through the music of the desk that is shown."""

    def __init__(self, window: QWidget, desk: Callable[[], Desk]) -> None:
        """``desk`` gives the desk that is shown."""
        super().__init__(window)
        self._window, self._desk = window, desk
        self.dialog: BarDialog | None = None

    def _walked(self, desk: Desk) -> Walked | None:
        walked = desk.walked()
        if walked is None:
            desk.studio.asks.tell(translate("Gavotte", "No bars are known here yet"))
        return walked

    def step(self, kind: Waymark, direction: int) -> None:
        """To the next bar (phrase, section, chorus), or the one before."""
        desk = self._desk()
        walked = self._walked(desk)
        if walked is None:
            return
        known = kind is Waymark.PHRASE and walked.phrases
        place = next_waymark(walked.phrases if known else waymarks(walked.solo, kind), walked.place, direction)
        if place is None:
            desk.studio.asks.tell(said(NO_MORE[kind, direction]))
        else:
            walked.go(place)

    def ask_for_bar(self) -> None:
        """Ask for a bar, and go there."""
        desk = self._desk()
        walked = self._walked(desk)
        if walked is None:
            return
        grid = BarGrid(walked.solo)
        here = grid.at(walked.place).number
        dialog = self.dialog = BarDialog(self._window, here, grid.bars[0].number, grid.bars[-1].number)

        def go() -> None:
            # What is shown may be something else by now.
            now = desk.walked()
            place = None if now is None else bar_numbered(now.solo, round(dialog.number.value()))
            if now is not None and place is not None:
                now.go(place)
            desk.focus().setFocus()

        dialog.accepted.connect(go)
        dialog.open()
