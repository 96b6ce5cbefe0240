"""What is worked out of all solos together, beside the interface: the cells that recur, and players' dictionaries."""

from __future__ import annotations

from collections.abc import Generator, Mapping

from PyQt6.QtCore import QObject, pyqtSignal

from gavotte.desktop.activity import Activities
from gavotte.desktop.errands.indexer import Indexer
from gavotte.desktop.translation import translate
from gavotte.library.errors import LibraryError
from gavotte.library.heads import head_cells
from gavotte.library.lines import Index
from gavotte.library.mining import LibraryCell, library_cells
from gavotte.library.reader import SoloEntry
from gavotte.vocabulary.corpus import Corpus
from gavotte.vocabulary.dictionary import Dictionary, dictionary_of

HEADS = "\n"
"""In a player's stead: what is looked for are the heads of tunes. No player is called so."""


class Overview(QObject):
    """``cells`` are those that were found last, ``index`` is the library they were found in.

    Signals: ``cells_found``; ``dictionaries_found(player, mine, other)``; ``failed(message)``; ``left``, looking for
    cells was stopped.
    """

    cells_found = pyqtSignal()
    dictionaries_found = pyqtSignal(str, object, object)
    failed = pyqtSignal(str)
    left = pyqtSignal()

    def __init__(self, activities: Activities, indexer: Indexer, parent: QObject) -> None:
        super().__init__(parent)
        self._activities, self._indexer = activities, indexer
        self.cells: tuple[LibraryCell, ...] = ()
        self.index: Index | None = None
        self._telling = QObject(self)

    @property
    def is_looking(self) -> bool:
        """Whether cells are being looked for."""
        return bool(self._activities.of(self))

    @property
    def is_behind(self) -> bool:
        """Whether the library has changed since the cells were found."""
        return self.index is not None and self.index.solos.ids != self._indexer.index.solos.ids

    def find_cells(self, player: str, solos: Mapping[str, SoloEntry]) -> None:
        """Look for the cells of all solos, of a player's, or (``HEADS``) for what solos take up of the tunes' heads."""
        self._activities.cancel(self)
        index = self._indexer.index

        def steps() -> Generator[float, None, tuple[LibraryCell, ...]]:
            if player == HEADS:
                return (yield from head_cells(index, solos))
            return (yield from library_cells(solos, index.solos, player))

        def take(cells: tuple[LibraryCell, ...]) -> None:
            self.cells, self.index = cells, index
            self.cells_found.emit()

        words = translate("Gavotte", "Looking for what recurs")
        self._activities.walk(self, steps, take, self._fail, words, self.left.emit)

    def tell(self, player: str, other: str, solos: Mapping[str, SoloEntry]) -> None:
        """Work out the dictionary of a player, and of another one where there is one."""
        self._activities.cancel(self._telling)
        index = self._indexer.index

        def work() -> tuple[Dictionary, Dictionary | None]:
            return _dictionary(index, player, solos), _dictionary(index, other, solos) if other else None

        def take(found: tuple[Dictionary, Dictionary | None]) -> None:
            self.dictionaries_found.emit(player, *found)

        self._activities.beside(self._telling, work, take, self._fail)

    def _fail(self, error: Exception) -> None:
        if isinstance(error, LibraryError):
            self.failed.emit(str(error))


def _dictionary(index: Index, player: str, solos: Mapping[str, SoloEntry]) -> Dictionary:
    """The dictionary of a player: of all solos by them."""
    lines = zip(index.solos.ids, index.solos.corpus.lines, strict=True)
    own = [line for solo_id, line in lines if solo_id in solos and solos[solo_id].player == player]
    return dictionary_of(Corpus(own))
