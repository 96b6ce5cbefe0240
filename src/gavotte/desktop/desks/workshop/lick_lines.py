"""The lines operations can use beside the piece: the open solo, and the vocabulary's licks, read when one is used."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence

from gavotte.library.reader import LickEntry
from gavotte.library.stock import stock_of
from gavotte.library.store import Library
from gavotte.solo.document import Solo
from gavotte.workshop.etude import Stock
from gavotte.workshop.operations.chords import OPEN_SOLO

_MOST = 300


class Stocked:
    """All licks as they can be laid, read from the library when they are first asked for."""

    def __init__(self, library: Library) -> None:
        self._library = library
        self._stock: tuple[Stock, ...] | None = None

    @property
    def is_read(self) -> bool:
        """Whether they have been read."""
        return self._stock is not None

    def __call__(self) -> tuple[Stock, ...]:
        if self._stock is None:
            with self._library.read_apart() as reader:
                self._stock = stock_of(reader)
        return self._stock


class LickLines(Mapping[str, Solo]):
    """Lines by name. A lick's name has its source behind it where several are called alike."""

    def __init__(self, library: Library, licks: Sequence[LickEntry], open_solo: Solo | None) -> None:
        self._library, self._open = library, open_solo
        self._ids: dict[str, str] = {}
        self._read: dict[str, Solo] = {}
        for lick in licks[:_MOST]:
            name = lick.name if lick.name not in self._ids else f"{lick.name} ({lick.source})"
            self._ids[name] = lick.id

    def __getitem__(self, name: str) -> Solo:
        if name == OPEN_SOLO and self._open is not None:
            return self._open
        if name not in self._read:
            with self._library.read_apart() as reader:
                self._read[name] = reader.lick(self._ids[name]).solo
        return self._read[name]

    def __iter__(self) -> Iterator[str]:
        return iter(self._ids)

    def __len__(self) -> int:
        return len(self._ids)
