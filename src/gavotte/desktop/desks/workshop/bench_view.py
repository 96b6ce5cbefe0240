"""Source above, result below, and between them what came of each note."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QSplitter, QVBoxLayout, QWidget

from gavotte.desktop.desks.workshop.join_view import JoinView
from gavotte.desktop.desks.workshop.working import Made
from gavotte.desktop.page.line_item import LineParts
from gavotte.desktop.page.page_view import PageView
from gavotte.desktop.page.spoken import spoken_selection
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.elided import ElidedLabel
from gavotte.desktop.words import counted
from gavotte.engraving.engraver import Engraver
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Solo

_SMALLER = 0.6
"""How large the source is shown beside the result."""
_HEIGHTS = [190, 520]
_SHORT, _SHORTER = 16, 0.7
"""Up to how many quarter notes a result is short, and how large it is shown then."""


class BenchView(QWidget):
    """``page`` shows the result, ``source`` what it was made of. ``selected`` are the result's selected notes (ids).

    Signal: ``selection_changed``.
    """

    selection_changed = pyqtSignal()

    def __init__(self, engraver: Engraver) -> None:
        super().__init__()
        self.source = PageView(engraver, parts=LineParts(bar_numbers=False))
        self.page = PageView(engraver, parts=LineParts(bar_numbers=True))
        self.source.setAccessibleName(translate("Gavotte", "Source"))
        self.page.setAccessibleName(translate("Gavotte", "Result"))
        self.join = JoinView()
        self.words = ElidedLabel()
        self.selected: tuple[str, ...] = ()
        self.made: Made | None = None
        self._zoom = 1.0
        self._shown: tuple[Solo | None, Solo | None] = (None, None)
        below = QWidget()
        column = QVBoxLayout(below)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        said = QVBoxLayout()
        said.setContentsMargins(20, 6, 16, 6)
        said.addWidget(self.words)
        column.addWidget(self.join)
        column.addLayout(said)
        column.addWidget(self.page, 1)
        above = QWidget()
        upper = QVBoxLayout(above)
        upper.setContentsMargins(0, 0, 0, 0)
        upper.setSpacing(0)
        upper.addWidget(self.source, 1)
        self._parts = QSplitter(Qt.Orientation.Vertical)
        self._parts.setChildrenCollapsible(False)
        self._parts.addWidget(above)
        self._parts.addWidget(below)
        self._parts.setStretchFactor(0, 0)
        self._parts.setStretchFactor(1, 1)
        self._parts.setSizes(_HEIGHTS)
        self.source.setMinimumHeight(150)
        self.page.setMinimumHeight(120)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.addWidget(self._parts)
        self.page.selection_wanted.connect(self.select)

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        for part in (self.source, self.page, self.join):
            part.set_palette(palette)

    def set_zoom(self, zoom: float) -> None:
        """Show both pages larger or smaller."""
        self._zoom = zoom
        self.source.set_zoom(_SMALLER * zoom)
        self._fit()

    def _fit(self) -> None:
        """Show a result of a line or less a little smaller: it would fill the width, and its lane would be hidden."""
        self.page.set_zoom(self._wanted_zoom)

    @property
    def _wanted_zoom(self) -> float:
        short = self.concert is not None and self.concert.end <= _SHORT
        return _SHORTER * self._zoom if short else self._zoom

    def set_numerals(self, shown: bool) -> None:
        """Show roman numerals on both pages, or not."""
        self.source.set_numerals(shown)
        self.page.set_numerals(shown)

    def set_tablature(self, shown: bool) -> None:
        """Show tablature on both pages, or not."""
        self.source.set_tablature(shown)
        self.page.set_tablature(shown)

    @property
    def concert(self) -> Solo | None:
        """The result as it sounds."""
        return None if self.made is None else self.made.worked.result.solo

    def show_made(self, made: Made | None) -> None:
        """Show what was made; what is the same as before stays."""
        self.made = made
        if made is None:
            self.source.clear()
            self.page.clear()
            self.join.clear()
            self._shown, self.selected = (None, None), ()
            return
        before = self._shown
        self._shown = (made.source.solo, made.result.solo)
        if made.source.solo is not before[0]:
            self.source.show_solo(made.source.solo, made.source.labels)
        if made.result.solo is not before[1]:
            if self._wanted_zoom != self.page.zoom:
                # What was there need not be laid out anew to go.
                self.page.clear()
                self._fit()
            self.page.show_solo(made.result.solo, made.result.labels, keep_place=True)
            places = made.worked.result.solo.places
            self.selected = tuple(note for note in self.selected if note in places)
            self._show_selection(self.selected[-1] if self.selected else None)
        self.join.show_pieces(made.worked.source, made.worked.result, made.cost)
        self._tell()

    # -- the selection ------------------------------------------------------------------------------

    def select(self, anchor: str, current: str) -> None:
        """Select the result's notes from one to another (ids)."""
        solo = self.concert
        if solo is None or anchor not in solo.places or current not in solo.places:
            return
        low, high = sorted((solo.places[anchor], solo.places[current]))
        self.selected = tuple(note.id for note in solo.notes[low : high + 1])
        self._show_selection(current, anchor)

    def lift(self) -> bool:
        """Select nothing; False where nothing was."""
        had, self.selected = bool(self.selected), ()
        self._show_selection(None)
        return had

    def _show_selection(self, current: str | None, anchor: str | None = None) -> None:
        self.page.set_selection(anchor or current, current, frozenset(self.selected))
        self.join.show_current(current)
        made = self.made
        if made is not None and current is not None and current in made.result.solo.places:
            solo = made.result.solo
            words = spoken_selection(solo, BarGrid(solo), made.result.labels, self.selected, current)
            self.page.setAccessibleName(f"{words}, {self.join.told(current)}")
        else:
            self.page.setAccessibleName(translate("Gavotte", "Result"))
        self._tell(current)
        self.selection_changed.emit()

    def _tell(self, current: str | None = None) -> None:
        """Say what it cost, or what became of the note where the user is."""
        made = self.made
        if made is None:
            self.words.setText("")
            return
        label = made.result.labels.get(current) if current is not None else None
        if label is None or current is None:
            said = made.cost.words if made.worked.steps else ""
            bits = made.worked.result.bits
            if bits:
                # An étude is made of others than the source: what it keeps of that says nothing.
                words = translate("Gavotte", "{licks} of your vocabulary")
                said = ", ".join(filter(None, (words.format(licks=counted(len(bits), "lick")), made.cost.hard_words)))
            self.words.setText(said[:1].upper() + said[1:])
            return
        pitch = made.result.solo.note(current).pitch.shown
        words = translate("Gavotte", "{pitch}: {told}. {reason}")
        self.words.setText(words.format(pitch=pitch, told=self.join.told(current), reason=label.reason))
