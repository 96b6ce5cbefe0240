"""Adding what a desk shows to what is practised, from wherever one is."""

from __future__ import annotations

from dataclasses import dataclass, replace

from PyQt6.QtCore import QObject
from PyQt6.QtGui import QUndoStack

from gavotte.desktop.asks import Asks
from gavotte.desktop.errands.library_edits import LibraryEdits
from gavotte.desktop.translation import translate
from gavotte.library.practising import Practising
from gavotte.library.store import Library
from gavotte.practice.item import Kind, PracticeItem
from gavotte.practice.lessons import Lesson
from gavotte.solo.document import Solo
from gavotte.sounding.timeline import DEFAULT_TEMPO

_IN_ALL_KEYS = (Kind.LICK, Kind.EXERCISE)
_LONGEST_GOAL, _SHORTEST_GOAL = 400, 30


@dataclass(frozen=True)
class ToBePractised:
    """Music with a name, what it is, and the id of the solo or lick it comes from; or a lesson."""

    name: str
    kind: Kind
    music: Solo
    source_id: str = ""
    lesson: Lesson | None = None


class ToPractise(QObject):
    """Puts music among what is practised, as a step that can be undone."""

    def __init__(self, library: Library, edits: LibraryEdits, asks: Asks, parent: QObject) -> None:
        super().__init__(parent)
        self._kept, self._edits, self._asks = Practising(library), edits, asks
        self.undo_stack = QUndoStack(self)

    def add(self, wanted: ToBePractised | None) -> str | None:
        """Add it; gives its id, None where there is nothing or it fails."""
        if wanted is None or not _is_something(wanted):
            self._asks.tell(translate("Gavotte", "There is nothing here to practise"))
            return None
        item = item_of(wanted)
        added: list[str] = []

        def do() -> None:
            if added:
                self._kept.restore(added[0])
            else:
                added.append(self._kept.add(item))

        words = translate("Gavotte", "Practise “{name}”").format(name=item.name)
        if not self._edits.step(words, do, lambda: self._kept.delete(added[0]), self.undo_stack):
            return None
        self._asks.notice(
            translate("Gavotte", "“{name}” is among what you practise.").format(name=item.name),
            translate("Gavotte", "Practise it now"),
            lambda: self._asks.go("practice", added[0]),
            self.undo_stack.indexChanged,
        )
        return added[0]


def _is_something(wanted: ToBePractised) -> bool:
    if wanted.kind is Kind.LESSON:
        return True
    return bool(wanted.music.notes or (wanted.kind is Kind.CHANGES and wanted.music.chords))


def item_of(wanted: ToBePractised) -> PracticeItem:
    """The item music becomes: a lick in twelve keys, anything else in its own; its tempo is the goal."""
    beat = wanted.music.meters[0].meter.beats[0].length
    goal = round(float((wanted.music.tempo or DEFAULT_TEMPO) / beat))
    goal = max(_SHORTEST_GOAL, min(_LONGEST_GOAL, goal))
    music = replace(wanted.music, phrases=(), decisions=()) if wanted.kind is not Kind.SOLO else wanted.music
    item = PracticeItem(wanted.name, wanted.kind, music, goal, source_id=wanted.source_id, lesson=wanted.lesson)
    return item.with_keys(12) if wanted.kind in _IN_ALL_KEYS else item
