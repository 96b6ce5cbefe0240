"""What is looked at and where it is heard: a sentence, and the examples laid under one another on a page."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from gavotte.desktop.desk.studio import Studio
from gavotte.desktop.desks.compare.examples import ExamplePlace, Laid, laid_out
from gavotte.desktop.page.page_view import PageView
from gavotte.desktop.paper.sheet import Sheet
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.header import rule
from gavotte.library.played_takes import is_take

_ZOOM = 0.62


class Heard(QWidget):
    """``laid`` are the examples, None for none; ``selected`` the notes of them that are chosen (ids).

    Signal: ``changed``, there are other examples.
    """

    changed = pyqtSignal()

    def __init__(self, studio: Studio) -> None:
        super().__init__()
        self._studio = studio
        self.told = QLabel()
        self.told.setWordWrap(True)
        self.go = QPushButton(translate("Gavotte", "Go there"))
        self.page = PageView(studio.engraver)
        self.page.set_zoom(_ZOOM)
        self.laid: Laid | None = None
        self.selected: tuple[str, ...] = ()
        row = QHBoxLayout()
        row.setContentsMargins(16, 8, 16, 8)
        row.setSpacing(8)
        row.addWidget(self.told, 1)
        row.addWidget(self.go)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(row)
        column.addWidget(rule())
        column.addWidget(self.page, 1)
        self.go.clicked.connect(lambda: self.go_there())
        self.page.selection_wanted.connect(self.select)
        self.page.zoom_wanted.connect(studio.view.zoom_by)

    def look_at(self, told: str, title: str, places: Callable[[], list[ExamplePlace]] | None) -> None:
        """Say what is looked at, and lay out, beside the interface, where it is heard; nowhere for None."""
        self.told.setText(told)
        self._studio.activities.cancel(self)
        if places is None:
            self._take(None)
            return
        library = self._studio.library

        def work() -> Laid | None:
            with library.read_apart() as reader:
                return laid_out(reader, title, places())

        self._studio.activities.beside(self, work, self._take, lambda error: self._studio.asks.notice(str(error)))

    def _take(self, laid: Laid | None) -> None:
        self.laid, self.selected = laid, ()
        self.go.setEnabled(laid is not None)
        self.show_again()
        self.changed.emit()

    def show_again(self) -> None:
        """Show the examples in the pitch and size they are to be read in now."""
        view = self._studio.view
        self.page.set_zoom(_ZOOM * view.zoom)
        if self.laid is None:
            self.page.clear()
            return
        counted = self.laid.counted
        # What is not counted stands back.
        self.page.set_kept(counted if len(counted) < len(self.laid.solo.notes) else None)
        self.page.show_solo(view.shown(self.laid.solo), self.laid.labels)
        self.page.set_selection(None, None, frozenset())

    def sheet(self) -> Sheet | None:
        """The examples for export and paper."""
        if self.laid is None:
            return None
        shown = self._studio.view.shown(self.laid.solo)
        return Sheet(shown, self.laid.labels, self.told.text(), numbered=False)

    def select(self, anchor: str, current: str) -> None:
        """Select notes of the examples (ids): they are played alone, and led to."""
        if self.laid is None:
            return
        places = self.laid.solo.places
        if anchor in places and current in places:
            low, high = sorted((places[anchor], places[current]))
            self.selected = tuple(note.id for note in self.laid.solo.notes[low : high + 1])
            self.page.set_selection(anchor, current, frozenset(self.selected))

    def lift(self) -> bool:
        """Lift the selection; False where there is none."""
        if not self.selected:
            return False
        self.selected = ()
        self.page.set_selection(None, None, frozenset())
        return True

    def go_there(self) -> None:
        """Open the solo of the example that is selected, or of the first; of a take the desk it was played at."""
        if self.laid is None:
            return
        number = int(self.selected[0].partition(":")[0]) if self.selected else 0
        owner = self.laid.sources[number][0]
        if is_take(owner):
            self._studio.asks.go("practice")
        else:
            self._studio.asks.open_solo(owner)
