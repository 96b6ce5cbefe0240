"""What is looked for beside the interface for the lick that is shown: its relatives, and how it stands to its solo."""

from __future__ import annotations

from collections.abc import Callable, Generator, Sequence
from contextlib import suppress
from datetime import datetime
from functools import partial

from PyQt6.QtCore import QObject, pyqtSignal

from gavotte.desktop.activity import Activities
from gavotte.desktop.errands.indexer import Indexer
from gavotte.desktop.translation import translate
from gavotte.desktop.words import counted
from gavotte.formats.errors import FormatError
from gavotte.labelling.labeller import Labelled, labelled
from gavotte.library.errors import LibraryError
from gavotte.library.lines import Index, line_of_lick
from gavotte.library.reader import LibraryReader, SoloEntry
from gavotte.library.relatives import Relative, relatives_of
from gavotte.library.store import Library
from gavotte.vocabulary.corpus import LabelledLine, labelled_line
from gavotte.vocabulary.following import Link, followed, link_to
from gavotte.vocabulary.lick import Lick, keep_lick

_Labelled = tuple[Labelled, LabelledLine]
_MOST_KNOWN = 4
_AT_ONCE = 1000
"""Notes up to which a solo is labelled at once."""
_UNDER = 4
"""As many relatives are laid under a lick at most."""


class _Known:
    """The solos that were labelled last, as they were when they were changed last: nothing is labelled twice in a
    row.
    """

    def __init__(self) -> None:
        self._solos: dict[tuple[str, datetime], _Labelled] = {}

    def of(self, solo: SoloEntry) -> _Labelled | None:
        """A solo with its labels and its line, where it is known."""
        return self._solos.get((solo.id, solo.modified))

    def keep(self, solo: SoloEntry, found: _Labelled) -> None:
        """Know a solo; the one that was first known is forgotten for it."""
        kept = {**self._solos, (solo.id, solo.modified): found}
        # Another thread may be looking: what it looks through is not changed under its hands.
        self._solos = dict(list(kept.items())[-_MOST_KNOWN:])

    def labelled(self, reader: LibraryReader, solo: SoloEntry) -> _Labelled:
        """A solo with its labels and its line, labelled now where it is not known. Raises LibraryError or
        FormatError.
        """
        found = self.of(solo)
        if found is None:
            found = _labelled(reader, solo.id)
            self.keep(solo, found)
        return found


class Looking(QObject):
    """``line`` is that of the lick whose relatives were found last.

    Signals: ``relatives_found(relatives)``, ``link_found(link)`` (None where its solo is not on the shelf),
    ``under_found(licks)``, what is to be laid under it; ``failed(message)``.
    """

    relatives_found = pyqtSignal(tuple)
    link_found = pyqtSignal(object)
    under_found = pyqtSignal(tuple)
    failed = pyqtSignal(str)

    def __init__(self, library: Library, activities: Activities, indexer: Indexer, parent: QObject) -> None:
        super().__init__(parent)
        self._library, self._activities, self._indexer = library, activities, indexer
        self.line: LabelledLine | None = None
        self._known = _Known()
        self._places = QObject(self)

    def look(self, lick: Lick, lick_id: str) -> None:
        """Look for what belongs to a lick; what was looked for before is dropped."""
        self._activities.cancel(self)
        work = partial(_found, self._library, self._indexer.index, lick, lick_id, self._known)
        self._activities.beside(self, work, self._take, self._fail)

    def _take(self, found: tuple[LabelledLine, tuple[Relative, ...], Link | None, tuple[Lick, ...]]) -> None:
        self.line, relatives, link, under = found
        self.relatives_found.emit(relatives)
        self.link_found.emit(link)
        self.under_found.emit(under)

    def _fail(self, error: Exception) -> None:
        if isinstance(error, (LibraryError, FormatError)):
            self.failed.emit(str(error))

    def lick_at(self, solo: SoloEntry, first: int, last: int, then: Callable[[Lick], None]) -> None:
        """Make the lick a place of a solo would be, by the rows of its line; ``then`` is called with it: at once, or
        soon where the solo is long and was not looked at just before. Raises LibraryError or FormatError where at
        once.
        """
        known = self._known.of(solo)
        self._activities.cancel(self._places)

        def take(found: _Labelled) -> None:
            self._known.keep(solo, found)
            then(_lick_in(*found, solo.id, first, last))

        if known is not None:
            take(known)
        elif solo.notes <= _AT_ONCE:
            take(_labelled(self._library, solo.id))
        else:

            def work() -> _Labelled:
                with self._library.read_apart() as reader:
                    return _labelled(reader, solo.id)

            self._activities.beside(self._places, work, take, self._fail)

    def look_at_places(self, places: Sequence[tuple[str, int, int]], then: Callable[[list[Lick]], None]) -> None:
        """Make licks of places, each a solo's id with the rows of its line, beside the interface."""
        words = translate("Gavotte", "Keeping {places}").format(places=counted(len(places), "place"))

        def steps() -> Generator[float, None, list[Lick]]:
            with self._library.read_apart() as reader:
                return (yield from _licks_at(reader, places))

        self._activities.walk(places, steps, then, self._fail, words)

    def read(self, ids: Sequence[str], then: Callable[[list[Lick]], None]) -> None:
        """Read licks by their ids, as far as they can be read, beside the interface."""

        def steps() -> Generator[float, None, list[Lick]]:
            licks = []
            with self._library.read_apart() as reader:
                for number, lick_id in enumerate(ids, 1):
                    with suppress(LibraryError, FormatError):
                        licks.append(reader.lick(lick_id))
                    yield number / len(ids)
            return licks

        self._activities.walk(then, steps, then, self._fail, translate("Gavotte", "Reading licks"))

    def follow(self, lick: Lick, then: Callable[[Lick], None]) -> None:
        """Make of a lick what its solo has there now, beside the interface."""

        def work() -> Lick:
            with self._library.read_apart() as reader:
                solo = reader.solo(lick.source.solo_id)
            return followed(lick, solo, labelled(solo).labels)

        self._activities.cancel(self._places)
        self._activities.beside(self._places, work, then, self._fail)


def _found(
    library: Library, index: Index, lick: Lick, lick_id: str, known: _Known
) -> tuple[LabelledLine, tuple[Relative, ...], Link | None, tuple[Lick, ...]]:
    """The line of a lick, its relatives, how it stands to its solo, and what is to be laid under it."""
    line = line_of_lick(lick)
    relatives = relatives_of(index, line, lick_id, lick.source.solo_id)
    with library.read_apart() as reader:
        solos = {solo.id: solo for solo in reader.solos()}
        link: Link | None = None
        with suppress(LibraryError, FormatError):
            if lick.source.solo_id in solos:
                link = link_to(lick, known.labelled(reader, solos[lick.source.solo_id])[0].solo)
        under = []
        for relative in relatives[:_UNDER]:
            with suppress(LibraryError, FormatError):
                if relative.is_lick:
                    under.append(reader.lick(relative.owner))
                elif relative.owner in solos:
                    found = known.labelled(reader, solos[relative.owner])
                    under.append(_lick_in(*found, relative.owner, relative.first, relative.last))
    return line, relatives, link, tuple(under)


def _licks_at(reader: LibraryReader, places: Sequence[tuple[str, int, int]]) -> Generator[float, None, list[Lick]]:
    licks = []
    by_solo: dict[str, list[tuple[int, int]]] = {}
    for solo_id, first, last in places:
        by_solo.setdefault(solo_id, []).append((first, last))
    for solo_id, rows in by_solo.items():
        found = labelled(reader.solo(solo_id))
        line = labelled_line(found)
        for first, last in rows:
            licks.append(_lick_in(found, line, solo_id, first, last))
            yield len(licks) / len(places)
    return licks


def _lick_in(found: Labelled, line: LabelledLine, solo_id: str, first: int, last: int) -> Lick:
    places = line.notes["place"]
    last = min(last, len(places) - 1)
    ids = [found.solo.notes[int(places[row])].id for row in (min(first, last), last)]
    return keep_lick(found.solo, solo_id, found.labels, ids[0], ids[1])


def _labelled(reader: LibraryReader, solo_id: str) -> _Labelled:
    found = labelled(reader.solo(solo_id))
    return found, labelled_line(found)
