"""Drafting: the machine listens to the open solo's recording and says which notes it hears."""

from __future__ import annotations

from collections.abc import Callable, Generator

from PyQt6.QtCore import QObject, pyqtSignal

from gavotte.desktop.activity import Activities
from gavotte.desktop.solo.tape import Tape
from gavotte.desktop.translation import translate
from gavotte.recording.draft import Draft, Expected, find_draft, player_of
from gavotte.solo.document import Instrument


class Drafter(QObject):
    """Has the machine draft a solo from its recording, beside the interface.

    Signals: ``drafted(found)``, ``failed(message)``, ``stopped``, where the user wants no more of it.
    """

    drafted = pyqtSignal(object)
    failed = pyqtSignal(str)
    stopped = pyqtSignal()

    def __init__(self, tape: Tape, activities: Activities, parent: QObject) -> None:
        super().__init__(parent)
        self._tape, self._activities = tape, activities

    @property
    def is_drafting(self) -> bool:
        """Whether it listens just now."""
        return bool(self._activities.of(self))

    def draft(
        self,
        instrument: Instrument,
        start: float,
        end: float,
        then: Callable[[Draft], object],
        expected: Expected | None = None,
    ) -> None:
        """Draft what is played on an instrument from ``start`` to ``end`` seconds, a little by what is ``expected``.

        ``then`` is done with the draft, still beside the interface; what it gives is what was found.
        """
        decoded = self._tape.decoded
        if decoded is None:
            return
        self.cancel()
        samples = decoded.samples()
        player = player_of(instrument)

        def steps() -> Generator[float, None, object]:
            draft = yield from find_draft(samples, player, start, end, expected)
            return then(draft)

        self._activities.walk(
            self,
            steps,
            self.drafted.emit,
            self._failed,
            translate("Gavotte", "Drafting the notes"),
            self.stopped.emit,
        )

    def _failed(self, error: Exception) -> None:
        self.failed.emit(translate("Gavotte", "The notes can't be drafted: {error}").format(error=error))

    def cancel(self) -> None:
        """Stop listening."""
        self._activities.cancel(self)
