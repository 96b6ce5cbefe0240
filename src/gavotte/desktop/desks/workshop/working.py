"""What is made on the bench: the chain is worked through beside the interface, and what was worked before is kept."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from PyQt6.QtCore import QObject, pyqtSignal

from gavotte.desktop.activity import Activities
from gavotte.desktop.desks.workshop.bench import Bench
from gavotte.desktop.desks.workshop.lick_lines import Stocked
from gavotte.desktop.translation import translate
from gavotte.solo.document import Solo
from gavotte.solo.label import Label
from gavotte.workshop.cost import Cost, cost_of
from gavotte.workshop.operation import Around, Step, Worked, worked
from gavotte.workshop.operations import OPERATIONS
from gavotte.workshop.operations.etudes import ETUDE
from gavotte.workshop.piece import Piece, labelled_once, piece_of
from gavotte.workshop.proposals import Proposal, proposals_for, variations


@dataclass(frozen=True)
class Shown:
    """Music as it is to be read, with its labels."""

    solo: Solo
    labels: dict[str, Label]


@dataclass(frozen=True)
class Made:
    """A chain worked through: what it cost, and source and result as they are to be read."""

    worked: Worked
    cost: Cost
    source: Shown
    result: Shown


class Working(QObject):
    """``made`` is what came of what lies on the bench, None while nothing lies there.

    Signals: ``done``, something else was made; ``proposed(proposals)``; ``varied(proposals)``; ``failed(message)``.
    """

    done = pyqtSignal()
    proposed = pyqtSignal(object)
    varied = pyqtSignal(object)
    failed = pyqtSignal(str)

    def __init__(self, activities: Activities, bench: Bench, read: Callable[[Solo], Solo], parent: QObject) -> None:
        super().__init__(parent)
        self._activities, self._bench, self._read = activities, bench, read
        self._proposing, self._varying = QObject(self), QObject(self)
        self._source: tuple[Solo, Piece] | None = None
        self.around = Around()
        self.made: Made | None = None

    @property
    def is_current(self) -> bool:
        """Whether what was made is of what lies on the bench now."""
        made, there = self.made, self._bench.there
        return made is not None and made.worked.steps == there.steps and made.worked.source.solo is there.source

    def work(self) -> None:
        """Work the chain through."""
        self._activities.cancel(self)
        there = self._bench.there
        if there.source is None or not there.source.notes:
            self.made = None
            self.done.emit()
            return
        source, before, around, read = self._source_piece(there.source), self.made, self.around, self._read

        def make() -> Made:
            made = worked(source, there.steps, OPERATIONS, around, None if before is None else before.worked)
            result = made.result
            return Made(made, cost_of(source, result), _shown(source.solo, read), _shown(result.solo, read))

        self._activities.beside(self, make, self._take, self._fail, self._reading_words())

    def _reading_words(self) -> str:
        """What is said where the vocabulary has to be read first, which takes a while."""
        is_read = not isinstance(self.around.stock, Stocked) or self.around.stock.is_read
        wanted = any(step.operation == ETUDE.name and step.is_on for step in self._bench.there.steps)
        return translate("Gavotte", "Reading the vocabulary") if wanted and not is_read else ""

    def _source_piece(self, solo: Solo) -> Piece:
        """The piece of a source: the same one as long as it is the same source."""
        if self._source is None or self._source[0] is not solo:
            self._source = (solo, piece_of(solo))
        return self._source[1]

    def propose(self, step: Step, place: int) -> None:
        """Look what a step at a place of the chain makes with each of its values."""
        self._activities.cancel(self._proposing)
        given, around = self._given(place), self.around
        if given is None:
            self.proposed.emit(())
            return
        piece = given
        self._activities.beside(
            self._proposing, lambda: proposals_for(piece, step, OPERATIONS, around), self.proposed.emit, self._fail
        )

    def vary(self, seed: int) -> None:
        """Look for six variations of what has been made."""
        self._activities.cancel(self._varying)
        if self.made is None:
            self.varied.emit(())
            return
        piece, around = self.made.worked.result, self.around
        words = translate("Gavotte", "Looking for variations")

        def look() -> tuple[Proposal, ...]:
            return variations(piece, seed, OPERATIONS, around=around)

        self._activities.beside(self._varying, look, self.varied.emit, self._fail, words)

    def _given(self, place: int) -> Piece | None:
        """What a step at a place of the chain is given."""
        if self.made is None or not self.is_current:
            return None
        stages = self.made.worked.stages
        return stages[place - 1].piece if place > 0 else self.made.worked.source

    def _take(self, made: Made) -> None:
        self.made = made
        self.done.emit()

    def _fail(self, error: Exception) -> None:
        self.failed.emit(str(error))


def _shown(solo: Solo, read: Callable[[Solo], Solo]) -> Shown:
    music = read(solo)
    return Shown(music, {label.note: label for label in labelled_once(music).labels})
