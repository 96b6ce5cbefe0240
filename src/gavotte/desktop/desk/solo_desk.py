"""A desk that shows the open solo on a page, and works on what is selected there."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction

from PyQt6.QtGui import QUndoStack
from PyQt6.QtWidgets import QAbstractButton, QWidget

from gavotte.desktop.desk.desk import Desk, Hint, Walked, page_hints
from gavotte.desktop.desk.studio import Studio
from gavotte.desktop.page.page_view import PageView
from gavotte.desktop.playback.playing import Played
from gavotte.desktop.widgets.nothing_open import NothingOpen
from gavotte.solo.document import Solo
from gavotte.writing.placing import first_note_from


class SoloDesk(Desk):
    """``page`` shows the open solo; where none is open there is what leads to one instead."""

    def __init__(self, studio: Studio, page: PageView) -> None:
        super().__init__(studio)
        self._session = studio.session
        self.page = page
        self._nothing = NothingOpen()
        page.selection_wanted.connect(studio.session.selection.select)
        page.zoom_wanted.connect(studio.view.zoom_by)
        self._nothing.shelf_wanted.connect(lambda: studio.asks.go("shelf"))
        self._nothing.new_wanted.connect(lambda: studio.beginning.new_solo())

    def command_buttons(self) -> dict[str, tuple[QAbstractButton, ...]]:
        return {"file.new": (self._nothing.new,)}

    def focus(self) -> QWidget:
        return self.page

    def escape(self) -> bool:
        return self._session.selection.lift()

    @property
    def undo_stack(self) -> QUndoStack:
        return self._session.undo_stack

    def music(self) -> Solo | None:
        """What is played here, in concert pitch."""
        return self._session.solo

    def played(self) -> Played:
        return Played(self.page, self.music, self._session.selection.notes)

    def pages(self) -> tuple[QWidget, ...]:
        return (self.page,)

    def phrase_starts(self) -> Sequence[Fraction]:
        """Where phrases begin (quarter notes), where the desk knows that better than the rests do."""
        return ()

    def walked(self) -> Walked | None:
        shown, current = self._session.shown, self._session.selection.current
        if shown is None or not shown.notes:
            return None
        here = current if current is not None and current in shown.places else shown.notes[0].id
        return Walked(shown, shown.note(here).onset, self.go_to_bar, self.phrase_starts())

    def go_to_bar(self, onset: Fraction) -> None:
        """Select the first note from a time on."""
        solo = self._session.shown
        note = first_note_from(solo, onset) if solo is not None else None
        if note is not None:
            self._session.selection.select(note.id, note.id)

    def zoom(self, by: int) -> None:
        self.studio.view.zoom_by(by)

    def hints(self) -> tuple[str, tuple[Hint, ...]]:
        return page_hints()

    def hear_note(self) -> None:
        """Let the current note sound."""
        solo, current = self._session.solo, self._session.selection.current
        if solo is not None and current is not None:
            self.studio.playing.preview(solo.note(current), solo)
