"""The ridge under the page: the land of the solo, as many rows of it as fit, with what is selected and played."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction

from PyQt6.QtCore import QSize, Qt, pyqtSignal
from PyQt6.QtGui import QMouseEvent, QPaintEvent, QResizeEvent
from PyQt6.QtWidgets import QFrame, QScrollArea, QWidget

from gavotte.desktop.page.breath_item import Breaths
from gavotte.desktop.page.land import ROW, TOP, Land
from gavotte.desktop.painting import painting
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import translate
from gavotte.desktop.undisturbed import Undisturbed
from gavotte.phrasing.arc import Arc
from gavotte.solo.document import Note

_MOST_SHOWN = 3
"""Rows that are seen at once."""


class _LandView(QWidget):
    """The land. Signal: ``time_chosen(time)``, a place that was clicked (quarter notes)."""

    time_chosen = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__()
        self.land = Land()

    def set_palette(self, palette: Palette) -> None:
        """Paint in a theme's colours."""
        self.land.palette_in_use = palette
        self.update()

    def show_arc(self, arc: Arc, notes: Sequence[Note]) -> None:
        """Show another arc."""
        self.land.show_arc(arc, notes)
        self.setFixedHeight(self.land.height)
        self.update()

    def show_breaths(self, breaths: Breaths) -> None:
        """Show phrases and a thread under the land."""
        self.land.breaths = breaths
        self.update()

    def show_playhead(self, time: float | None) -> None:
        """Show where the music is (quarter notes); None takes the playhead away."""
        if time != self.land.playhead:
            self.land.playhead = time
            self.update()

    def show_here(self, here: tuple[Fraction, Fraction] | None) -> None:
        """Show what is selected, by its onset and end."""
        if here != self.land.here:
            self.land.here = here
            self.update()

    def place(self, time: float) -> tuple[float, int]:
        """Where a time lies: its x, and its row."""
        return self.land.place(time)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        self.land.width = self.width()
        super().resizeEvent(event)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        time = self.land.time_at(event.position().x(), event.position().y())
        if time is not None:
            self.time_chosen.emit(time)

    @Undisturbed()
    def paintEvent(self, event: QPaintEvent | None) -> None:
        assert event is not None
        seen = event.rect()
        with painting(self) as painter:
            self.land.paint(painter, seen.top(), seen.bottom() + 1)


class Ridge(QScrollArea):
    """The land, as many rows of it as fit. Signal: ``time_chosen(time)``, a place that was clicked (quarter notes)."""

    time_chosen = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__()
        self.setWidgetResizable(True)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setAccessibleName(translate("Gavotte", "The arc of the solo"))
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.land = _LandView()
        self.setWidget(self.land)
        self.land.time_chosen.connect(self.time_chosen)
        self._wanted = TOP + ROW

    def sizeHint(self) -> QSize:
        return QSize(400, self._wanted)

    def set_palette(self, palette: Palette) -> None:
        """Paint in a theme's colours."""
        self.land.set_palette(palette)

    def show_arc(self, arc: Arc, notes: Sequence[Note]) -> None:
        """Show another arc."""
        self.land.show_arc(arc, notes)
        rows = max((bar.row for bar in arc.bars), default=0) + 1
        self._wanted = TOP + ROW * min(rows, _MOST_SHOWN)
        self.setFixedHeight(self._wanted)

    def show_playhead(self, time: float | None) -> None:
        """Show where the music is, and keep its row in view."""
        self.land.show_playhead(time)
        if time is not None:
            _, row = self.land.place(time)
            self.ensureVisible(0, TOP + row * ROW + ROW // 2, 0, ROW // 2)

    def show_here(self, here: tuple[Fraction, Fraction] | None) -> None:
        """Show what is selected, and keep its row in view."""
        self.land.show_here(here)
        if here is not None:
            _, row = self.land.place(float(here[0]))
            self.ensureVisible(0, TOP + row * ROW + ROW // 2, 0, ROW // 2)
