"""What there is to practise and what was practised: read from the library, changed in steps, planned for today."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from datetime import datetime

from PyQt6.QtCore import QObject, QSettings, pyqtSignal
from PyQt6.QtGui import QUndoStack

from gavotte.desktop.activity import Activities
from gavotte.desktop.errands.library_edits import LibraryEdits
from gavotte.desktop.translation import translate
from gavotte.library.practising import KeptTake, Practising, now_here
from gavotte.library.store import Library
from gavotte.practice.item import PracticeItem
from gavotte.practice.log import LogEntry
from gavotte.practice.plan import Answer, Planned, answered, today, waiting

Chosen = tuple[str, int]
"""The id of an item and the number of one of its keys."""

_MINUTES, _USUAL_MINUTES = "practice/minutes", 20.0
_OVER = "practice/over"
"""Where the settings keep the day that was ended before its minutes were."""


_AT_ONCE = 300_000
"""Bytes of documents that are read at once."""


class Agenda(QObject):
    """``items`` and ``log`` with their ids; ``chosen`` is what is on the stand, None for nothing.

    Signals: ``changed``, items, log or plan are others; ``chosen_changed``.
    """

    changed = pyqtSignal()
    chosen_changed = pyqtSignal()

    def __init__(
        self,
        library: Library,
        edits: LibraryEdits,
        undo_stack: QUndoStack,
        settings: QSettings,
        activities: Activities,
        parent: QObject,
    ) -> None:
        super().__init__(parent)
        self.kept = Practising(library)
        self._library, self._edits, self._settings, self._activities = library, edits, settings, activities
        self.undo_stack = undo_stack
        self.items: dict[str, PracticeItem] = {}
        self.log: list[tuple[str, LogEntry]] = []
        self.chosen: Chosen | None = None
        self.now: Callable[[], datetime] = now_here
        self._asked: list[Chosen] = []
        self.plan: tuple[tuple[str, Planned], ...] = ()

    @property
    def minutes(self) -> float:
        """The minutes there are."""
        return float(self._settings.value(_MINUTES, _USUAL_MINUTES))

    def set_minutes(self, minutes: float) -> None:
        """There are so many minutes."""
        self._settings.setValue(_MINUTES, minutes)
        self._plan_anew()

    @property
    def is_over(self) -> bool:
        """Whether the day was ended."""
        return str(self._settings.value(_OVER, "")) == self.now().date().isoformat()

    def set_over(self, over: bool) -> None:
        """End the day, or go on after all."""
        self._settings.setValue(_OVER, self.now().date().isoformat() if over else "")
        self._plan_anew()

    def read(self) -> None:
        """Read everything anew; a lot is read beside the interface first."""
        unread = self.kept.unknown()
        if sum(len(document) for _, document in unread) > _AT_ONCE:
            self._activities.cancel(self)
            self._activities.beside(self, lambda: self.kept.learn(unread), lambda _: self._take_in(), self._fail)
        else:
            self._take_in()

    def _fail(self, error: Exception) -> None:
        self._edits.failed.emit(str(error))

    def _take_in(self) -> None:
        self.items = dict(self.kept.items())
        self.log = self.kept.log()
        if self.chosen is not None and (
            self.chosen[0] not in self.items
            or self.chosen[1] not in {card.number for card in self.items[self.chosen[0]].cards}
        ):
            self.chosen = None
            self._plan_anew()
            self.chosen_changed.emit()
            return
        self._plan_anew()

    def _plan_anew(self) -> None:
        names = list(self.items)
        places = {name: place for place, name in enumerate(names)}
        now = self.now()
        day = now.date()
        played = {(places[e.item], e.number) for _, e in self.log if e.item in places and e.day == day}
        asked = [(places[name], number) for name, number in self._asked if name in places]
        asked = [one for one in asked if one not in played]
        planned = today(list(self.items.values()), now, self._minutes_left(day), asked, played)
        self.plan = () if self.is_over else tuple((names[one.item], one) for one in planned)
        self.changed.emit()

    def _minutes_left(self, day: object) -> float:
        """The minutes that are left of today's."""
        return max(0.0, self.minutes - sum(entry.seconds / 60 for _, entry in self.log if entry.day == day))

    @property
    def due(self) -> int:
        """How many keys are due."""
        return waiting(list(self.items.values()), self.now())

    @property
    def item(self) -> PracticeItem | None:
        """The item on the stand."""
        return self.items.get(self.chosen[0]) if self.chosen is not None else None

    def choose(self, item_id: str, number: int | None = None) -> None:
        """Put an item on the stand, in one of its keys, or in the one that waits longest."""
        item = self.items.get(item_id)
        if item is None:
            return
        if number is None:
            planned = next((one.number for name, one in self.plan if name == item_id), item.cards[0].number)
            number = planned
        if (item_id, number) != self.chosen:
            self.chosen = (item_id, number)
            self.chosen_changed.emit()

    def ask_for(self, item_id: str) -> None:
        """An item is wanted today whether it is due or not."""
        item = self.items.get(item_id)
        if item is not None:
            self._asked.append((item_id, item.cards[0].number))
            self._plan_anew()

    def next(self) -> bool:
        """Put what comes next today on the stand; False where nothing does."""
        others = [(name, one.number) for name, one in self.plan if (name, one.number) != self.chosen]
        if others:
            self.choose(*others[0])
        return bool(others)

    # -- changes ------------------------------------------------------------------------------------

    def change(self, words: str, item_id: str, item: PracticeItem) -> None:
        """Make an item another one."""
        before = self.items.get(item_id)
        if before is None or before == item:
            return
        self._step(words, lambda: self.kept.save(item_id, item), lambda: self.kept.save(item_id, before))

    def remove(self, item_id: str) -> None:
        """Take an item away; the log keeps what was played."""
        words = translate("Gavotte", "No longer practise “{name}”").format(name=self.items[item_id].name)
        self._step(words, lambda: self.kept.delete(item_id), lambda: self.kept.restore(item_id))

    def answer(self, answer: Answer, tempo: int, seconds: float, take: KeptTake | None, key: str) -> None:
        """It was played, and went like this: plan it again, and write it into the log."""
        if self.chosen is None or self.item is None:
            return
        (item_id, number), before, now = self.chosen, self.item, self.now()
        card = answered(before.card(number), answer, now)
        if answer >= Answer.WELL:
            card = replace(card, tempo=max(card.tempo, tempo))
        entry = LogEntry(
            now.isoformat(timespec="seconds"), item_id, before.name, key, number, round(seconds, 1), tempo, int(answer)
        )
        if take is not None:
            right = sum(note.verdict == "right" for note in take.take.notes)
            entry = replace(entry, right=right, notes=len(take.take.notes))
        added: list[str] = []

        def do() -> None:
            with self._library.as_one_step():
                self.kept.save(item_id, before.with_card(card))
                if added:
                    self.kept.restore_entry(added[0])
                else:
                    added.append(self.kept.add_entry(entry))

        def undo() -> None:
            with self._library.as_one_step():
                self.kept.save(item_id, before)
                self.kept.delete_entry(added[0])

        self._step(translate("Gavotte", "Answer for “{name}”").format(name=before.name), do, undo)

    def change_entry(self, entry_id: str, entry: LogEntry) -> None:
        """Write something else into the log."""
        before = next((own for own_id, own in self.log if own_id == entry_id), None)
        if before is not None and before != entry:
            words = translate("Gavotte", "Change the log")
            save = self.kept.save_entry
            self._step(words, lambda: save(entry_id, entry), lambda: save(entry_id, before))

    def delete_entry(self, entry_id: str) -> None:
        """Take an entry out of the log."""
        kept = self.kept
        words = translate("Gavotte", "Delete from the log")
        self._step(words, lambda: kept.delete_entry(entry_id), lambda: kept.restore_entry(entry_id))

    def _step(self, words: str, do: Callable[[], None], undo: Callable[[], None]) -> None:
        self._edits.step(words, do, undo, self.undo_stack)

    def entries_of(self, item_id: str) -> Sequence[LogEntry]:
        """What was played of an item, the latest first."""
        return [entry for _, entry in self.log if entry.item == item_id]
