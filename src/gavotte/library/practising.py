"""What a library keeps of practice: items, the log, and takes with what was said of them.

Deleting sets a date, as it does for solos, so it can be undone. A take's sound lies in the folder ``takes``.
"""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any, TypeVar

from gavotte.formats.document import DocumentKind, with_version
from gavotte.formats.errors import FormatError
from gavotte.library.store import Library
from gavotte.practice.item import PracticeItem
from gavotte.practice.log import LogEntry
from gavotte.practice.take import Take
from gavotte.solo.bounds import within_bounds
from gavotte.solo.document import Solo

ValueT = TypeVar("ValueT")

FOLDER = "takes"
_MOST_TEMPO = 1000


@dataclass(frozen=True)
class KeptTake:
    """A take: the item it belongs to, the number of the key, when it was played (ISO 8601), the music that was to be
    played, what became of it, and the name of its sound in the folder of takes ("" where it was a keyboard's).
    """

    item: str
    number: int
    at: str
    music: Solo
    take: Take
    sound: str = ""


def _checked_item(item: PracticeItem) -> PracticeItem:
    within_bounds(item.music)
    numbers = [card.number for card in item.cards]
    if not numbers or len(set(numbers)) < len(numbers) or not all(0 <= number < 12 for number in numbers):
        raise ValueError("its keys are no keys")
    if not 0 < item.goal <= _MOST_TEMPO:
        raise ValueError("its goal is no tempo")
    for card in item.cards:
        for time in (card.memory.due, card.memory.last):
            if time and datetime.fromisoformat(time).tzinfo is None:
                raise ValueError("a time has no time zone")
    return item


def _checked_entry(entry: LogEntry) -> LogEntry:
    _ = entry.day
    return entry


def _checked_take(take: KeptTake) -> KeptTake:
    within_bounds(take.music)
    if "/" in take.sound or "\\" in take.sound or take.sound.startswith("."):
        raise ValueError("its sound lies elsewhere")
    return take


PRACTICE_DOCUMENT = DocumentKind("gavotte-practice", 2, "practice", PracticeItem, {1: with_version(2)}, _checked_item)
LOG_DOCUMENT = DocumentKind("gavotte-log", 1, "entry", LogEntry, {}, _checked_entry)
TAKE_DOCUMENT = DocumentKind("gavotte-take", 1, "take", KeptTake, {}, _checked_take)

KINDS: dict[str, DocumentKind[Any]] = {
    "practice": PRACTICE_DOCUMENT,
    "practice_log": LOG_DOCUMENT,
    "takes": TAKE_DOCUMENT,
}
"""What the tables of practice hold."""


class Practising:
    """Items, log and takes of a library. Every method raises LibraryError; reading raises FormatError for damage."""

    def __init__(self, library: Library) -> None:
        self.library = library
        self._known: dict[str, tuple[bytes, PracticeItem]] = {}

    # -- items --------------------------------------------------------------------------------------

    def items(self) -> list[tuple[str, PracticeItem]]:
        """Everything there is to practise, with its id, in the order in which it was added. What is damaged is left
        out here; nothing is taken out of the library.
        """
        rows = self.library.documents("practice")
        self.learn(rows)
        return [(row, self._known[row][1]) for row, document in rows if self._is_known(row, document)]

    def unknown(self) -> list[tuple[str, bytes]]:
        """The documents of items that have not been read yet as they are now."""
        return [(row, data) for row, data in self.library.documents("practice") if not self._is_known(row, data)]

    def learn(self, rows: Sequence[tuple[str, bytes]]) -> None:
        """Read documents of items; it may be done beside, for it asks nothing of the library."""
        unread = [(row, document) for row, document in rows if not self._is_known(row, document)]
        documents = dict(unread)
        self._known.update({row: (documents[row], item) for row, item in _read(PRACTICE_DOCUMENT, unread)})

    def _is_known(self, row: str, document: bytes) -> bool:
        return row in self._known and self._known[row][0] == document

    def add(self, item: PracticeItem) -> str:
        """Add something to practise; gives its id."""
        item_id = uuid.uuid4().hex
        self.library.add_document("practice", item_id, "", PRACTICE_DOCUMENT.write(item))
        return item_id

    def save(self, item_id: str, item: PracticeItem) -> None:
        """Write an item anew."""
        self.library.save_document("practice", item_id, PRACTICE_DOCUMENT.write(item))

    def delete(self, item_id: str) -> None:
        """Take an item away; its log and takes stay."""
        self.library.set_document_deleted("practice", item_id, True)

    def restore(self, item_id: str) -> None:
        """Put a deleted item back."""
        self.library.set_document_deleted("practice", item_id, False)

    # -- the log ------------------------------------------------------------------------------------

    def log(self) -> list[tuple[str, LogEntry]]:
        """The log, the latest first."""
        entries = _read(LOG_DOCUMENT, self.library.documents("practice_log"))
        # Of those of one moment the one that was added last comes first.
        latest = list(enumerate(entries))
        latest.sort(key=lambda one: (datetime.fromisoformat(one[1][1].at).timestamp(), one[0]), reverse=True)
        return [entry for _, entry in latest]

    def add_entry(self, entry: LogEntry) -> str:
        """Write something into the log; gives its id."""
        entry_id = uuid.uuid4().hex
        self.library.add_document("practice_log", entry_id, entry.item, LOG_DOCUMENT.write(entry))
        return entry_id

    def save_entry(self, entry_id: str, entry: LogEntry) -> None:
        """Write an entry anew."""
        self.library.save_document("practice_log", entry_id, LOG_DOCUMENT.write(entry))

    def delete_entry(self, entry_id: str) -> None:
        """Take an entry out of the log."""
        self.library.set_document_deleted("practice_log", entry_id, True)

    def restore_entry(self, entry_id: str) -> None:
        """Put a deleted entry back."""
        self.library.set_document_deleted("practice_log", entry_id, False)

    # -- takes --------------------------------------------------------------------------------------

    def takes(self, item_id: str) -> list[tuple[str, KeptTake]]:
        """The takes of an item, the latest first."""
        return _read(TAKE_DOCUMENT, self.library.documents("takes", item_id))[::-1]

    def add_take(self, take: KeptTake) -> str:
        """Keep a take; gives its id."""
        take_id = uuid.uuid4().hex
        self.library.add_document("takes", take_id, take.item, TAKE_DOCUMENT.write(take))
        return take_id

    def delete_take(self, take_id: str) -> None:
        """Take a take away; its sound stays until it is cleared."""
        self.library.set_document_deleted("takes", take_id, True)

    def restore_take(self, take_id: str) -> None:
        """Put a deleted take back."""
        self.library.set_document_deleted("takes", take_id, False)


def _read(kind: DocumentKind[ValueT], rows: Sequence[tuple[str, bytes]]) -> list[tuple[str, ValueT]]:
    found = []
    for row_id, document in rows:
        try:
            found.append((row_id, kind.read(document)))
        except FormatError:
            continue
    return found


def now_here() -> datetime:
    """This moment, in the user's own time zone."""
    return datetime.now(UTC).astimezone()
