"""The tables as they are now, each declared once: what its columns are called and what stands in them.

``schema`` leads older libraries here. What is listed and searched has a column; everything is in the document.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Generic, TypeVar

from gavotte.formats.document import SOLO_DOCUMENT, DocumentKind
from gavotte.library.recordings import RECORDING_DOCUMENT
from gavotte.recording.recording import Recording
from gavotte.sheets.checking import SHEET_DOCUMENT
from gavotte.sheets.sheet import TeachingSheet
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Solo
from gavotte.solo.tags import written_tags
from gavotte.vocabulary.harmony import context
from gavotte.vocabulary.lick import LICK_DOCUMENT, Lick

ValueT = TypeVar("ValueT")


@dataclass(frozen=True)
class Table(Generic[ValueT]):
    """A table of documents: its ``key`` column, and for each column that follows from a value what stands in it.

    Beside these it has the ``document`` itself, and the columns ``kept``, which are set on their own (when a row was
    made, changed, deleted, what else is known of it).
    """

    name: str
    key: str
    kind: DocumentKind[ValueT]
    columns: dict[str, Callable[[ValueT], object]]
    kept: tuple[str, ...]

    @property
    def all_columns(self) -> tuple[str, ...]:
        """Every column of the table."""
        return (self.key, *self.columns, "document", *self.kept)

    def values(self, value: ValueT) -> dict[str, object]:
        """What stands in the columns for a value, its document with them."""
        filled = {name: of(value) for name, of in self.columns.items()}
        return {**filled, "document": self.kind.write(value)}


def insert(table: Table[ValueT], columns: dict[str, object]) -> tuple[str, tuple[object, ...]]:
    """The statement that makes a row, and its values."""
    places = ", ".join("?" * len(columns))
    return f"INSERT INTO {table.name} ({', '.join(columns)}) VALUES ({places})", tuple(columns.values())


def update(table: Table[ValueT], key: str, columns: dict[str, object]) -> tuple[str, tuple[object, ...]]:
    """The statement that changes columns of a row, and its values."""
    changes = ", ".join(f"{name}=?" for name in columns)
    return f"UPDATE {table.name} SET {changes} WHERE {table.key}=?", (*columns.values(), key)


SOLOS: Table[Solo] = Table(
    "solos",
    "id",
    SOLO_DOCUMENT,
    {
        "title": lambda solo: solo.title,
        "player": lambda solo: solo.player,
        "style": lambda solo: solo.style,
        "year": lambda solo: solo.year,
        "album": lambda solo: solo.album,
        "tempo": lambda solo: solo.beats_a_minute,
        "meter": lambda solo: str(solo.meters[0].meter),
        "key": lambda solo: str(solo.keys[0].key),
        "bars": lambda solo: sum(bar.number > 0 for bar in BarGrid(solo).bars),
        "notes": lambda solo: len(solo.notes),
        "is_head": lambda solo: int(solo.is_head),
        "source": lambda solo: solo.source,
        "tags": lambda solo: written_tags(solo.tags),
    },
    ("to_look_at", "created", "modified", "deleted"),
)
"""``to_look_at`` is how much of a solo wants a look at the Label desk, NULL where that was not worked out yet."""

LICKS: Table[Lick] = Table(
    "licks",
    "id",
    LICK_DOCUMENT,
    {
        "name": lambda lick: lick.name,
        "player": lambda lick: lick.source.player,
        "source": lambda lick: f"{lick.source.title}, {lick.source.place}",
        "context": lambda lick: context(lick.solo),
        "degrees": lambda lick: " ".join(label.degree for label in lick.labels),
        "key": lambda lick: str(lick.solo.keys[0].key),
        "notes": lambda lick: len(lick.solo.notes),
        "contexts": lambda lick: "; ".join(lick.contexts),
        "tags": lambda lick: written_tags(lick.tags),
        "words": lambda lick: lick.words,
        "status": lambda lick: lick.status,
        "rating": lambda lick: lick.rating,
    },
    ("solo_id", "created", "modified", "deleted"),
)

SHEETS: Table[TeachingSheet] = Table(
    "sheets",
    "id",
    SHEET_DOCUMENT,
    {"title": lambda sheet: sheet.title, "pieces": lambda sheet: len(sheet.pieces)},
    ("created", "modified", "deleted"),
)

RECORDINGS: Table[Recording] = Table("recordings", "solo_id", RECORDING_DOCUMENT, {}, ("modified",))
