"""The takes of what is on the stand: one of them shown on the page and told in words, heard, deleted."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from functools import partial

from PyQt6.QtCore import QObject, pyqtSignal

from gavotte.desktop.desk.studio import Studio
from gavotte.desktop.desks.practice.agenda import Agenda
from gavotte.desktop.desks.practice.made import Made
from gavotte.desktop.desks.practice.practice_page import PracticePage
from gavotte.desktop.desks.practice.side import PracticeSide
from gavotte.desktop.desks.practice.take_player import TakePlayer
from gavotte.desktop.translation import translate
from gavotte.labelling.labeller import labelled
from gavotte.library.practising import FOLDER, KeptTake
from gavotte.practice.due import due_line
from gavotte.practice.focus import work_next
from gavotte.practice.over_time import compared
from gavotte.practice.report import told_of
from gavotte.solo.document import Solo
from gavotte.solo.label import Label
from gavotte.solo.note_labels import NoteLabels


class ShownTakes(QObject):
    """``shown`` is the take that is looked at (None: the run), ``all`` are the item's with their ids.

    Signals: ``left``, no take is looked at any more; ``changed``, another one is.
    """

    left = pyqtSignal()
    changed = pyqtSignal()

    def __init__(
        self,
        studio: Studio,
        agenda: Agenda,
        page: PracticePage,
        side: PracticeSide,
        made: Callable[[], Made | None],
        parent: QObject,
    ) -> None:
        super().__init__(parent)
        self._studio, self._agenda, self._page, self._side, self._made = studio, agenda, page, side, made
        self.player = TakePlayer(studio.settings, self)
        self.shown: KeptTake | None = None
        self._shown_id: str | None = None
        self.all: list[tuple[str, KeptTake]] = []
        self.player.changed.connect(self.show_list)
        self.player.failed.connect(studio.asks.notice)

    def read(self) -> None:
        """List the takes of what is on the stand anew."""
        chosen = self._agenda.chosen
        self.all = self._agenda.kept.takes(chosen[0]) if chosen is not None else []
        if self._shown_id is not None and self._shown_id not in {name for name, _ in self.all}:
            self.show(None)
        self.show_list()

    def show_list(self) -> None:
        """Show the list as it is read now."""
        panel = self._side.take
        panel.show_takes(self.all, self._agenda.item, self._shown_id, self._studio.view.shown)
        panel.hear.setText(
            translate("Gavotte", "Silence") if self.player.is_playing else translate("Gavotte", "Hear it")
        )
        self._side.show_number("take", len(self.all))

    def choose(self, take_id: str) -> None:
        """Look at one of the list."""
        kept = next((kept for name, kept in self.all if name == take_id), None)
        if kept is not None:
            self.show(kept, take_id)

    def kept(self, take_id: str, kept: KeptTake) -> None:
        """A take has got its place in the library."""
        if self.shown is not None and self.shown.at == kept.at:
            self.shown, self._shown_id = kept, take_id
        self.read()

    def show_anew(self) -> None:
        """Show what is shown as it is read now."""
        self.show_list()
        if self.shown is not None:
            self.show(self.shown, self._shown_id)

    def show(self, kept: KeptTake | None, take_id: str | None = None) -> None:
        """Show a take on the page and in words; None shows the run again."""
        before, self.shown, self._shown_id = self.shown, kept, take_id
        panel = self._side.take
        self.show_list()
        if kept is None:
            panel.show_report((), False)
            if before is not None:
                self.left.emit()
            return
        shown = self._studio.view.shown
        earlier = self._first_like(kept)
        when = datetime.fromisoformat(earlier.at) if earlier is not None else None
        since = translate("Gavotte", "Since {day}").format(day=f"{when:%d %b, %H:%M}") if when is not None else ""

        def work() -> tuple[Solo, dict[str, Label], list[tuple[str, str]], bool]:
            line = due_line(kept.music)
            read = shown(kept.music)
            labels = NoteLabels(labelled(read).labels)
            told = told_of(line, kept.take)
            if earlier is not None:
                told.insert(1, (since, compared(earlier.take, kept.take)))
            return read, labels, told, work_next(line, kept.take) is not None

        def take(found: tuple[Solo, dict[str, Label], list[tuple[str, str]], bool]) -> None:
            if self.shown is None or self.shown.at != kept.at:
                return
            read, labels, lines, can_loop = found
            self._page.show_in_lane(frozenset())
            self._page.show_solo(read, labels)
            self._page.show_take({note.note: note for note in kept.take.notes})
            panel.show_report(lines, can_loop and self._is_of_run(kept))

        self._studio.activities.beside(panel, work, take, lambda error: self._studio.asks.notice(str(error)))
        self.changed.emit()

    def _first_like(self, kept: KeptTake) -> KeptTake | None:
        """The first take that was of the same notes in the same key, before this one."""
        like = [
            other
            for _, other in self.all
            if other.at < kept.at
            and other.number == kept.number
            and _own_ids(other) == _own_ids(kept)
            and other.take.sure > 0
        ]
        return min(like, key=lambda other: other.at, default=None)

    def _is_of_run(self, kept: KeptTake) -> bool:
        """Whether a take was of the run that is on the stand."""
        made = self._made()
        return made is not None and all(note.id in made.run.shown.places for note in kept.music.notes)

    @property
    def to_work_on(self) -> tuple[str, str] | None:
        """The first and last note (ids) of what the take says is to be worked on next."""
        kept = self.shown
        if kept is None or not self._is_of_run(kept):
            return None
        line = due_line(kept.music)
        trouble = work_next(line, kept.take)
        return None if trouble is None else (line.notes[trouble.first].id, line.notes[trouble.last].id)

    def hear(self) -> None:
        """Hear the take that is looked at, or stop it."""
        if self.player.is_playing:
            self.player.stop()
            return
        if self.shown is None or not self.shown.sound:
            self._studio.asks.tell(translate("Gavotte", "No sound was kept with this take"))
            return
        self._studio.transport.stop()
        self.player.play(self._studio.library.folder / FOLDER / self.shown.sound)

    def delete(self) -> None:
        """Delete the take that is looked at."""
        take_id, kept = self._shown_id, self._agenda.kept
        if take_id is not None:
            self.player.stop()
            words = translate("Gavotte", "Delete a take")
            restore: Callable[[], None] = partial(kept.restore_take, take_id)
            self._studio.edits.step(words, partial(kept.delete_take, take_id), restore, self._agenda.undo_stack)
            self.read()


def _own_ids(kept: KeptTake) -> list[str]:
    """The ids of a take's notes in the item, whatever pass of the run they were played in."""
    return [note.note.partition(":")[2] for note in kept.take.notes]
