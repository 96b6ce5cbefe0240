"""The demo's recordings, played in beside the interface one after the other: the window is there at once."""

from __future__ import annotations

from PyQt6.QtCore import QObject, pyqtSignal

from gavotte.demo.recordings import record, to_be_recorded
from gavotte.desktop.activity import Activities
from gavotte.desktop.solo.tape import Tape
from gavotte.desktop.translation import translate
from gavotte.library.errors import LibraryError
from gavotte.library.store import Library
from gavotte.recording.recording import Recording
from gavotte.sounding.synth import SynthError


class DemoRecordings(QObject):
    """Gives each solo of a demo library the recording it has not got yet; cancelled, the rest follow at the next start.

    Signal: ``failed(message)``.
    """

    failed = pyqtSignal(str)

    def __init__(self, library: Library, tape: Tape, activities: Activities, parent: QObject) -> None:
        super().__init__(parent)
        self._library, self._tape, self._activities = library, tape, activities
        self._waiting = to_be_recorded(library)

    @property
    def is_complete(self) -> bool:
        """Whether nothing is left to be played in."""
        return not self._waiting and not self._activities.of(self)

    def begin(self) -> None:
        """Play in the next one, and so on."""
        if not self._waiting:
            return
        solo_id, solo = self._waiting.pop(0)
        folder = self._library.folder
        self._activities.walk(
            self,
            lambda: record(solo, folder),
            lambda recording: self._take(solo_id, recording),
            self._fail,
            translate("Gavotte", "Playing in {title}").format(title=solo.title),
            self._waiting.clear,
        )

    def _take(self, solo_id: str, recording: Recording) -> None:
        try:
            if self._library.recording(solo_id) is None:
                self._library.save_recording(solo_id, recording)
                self._tape.found(solo_id)
        except LibraryError as error:
            self.failed.emit(str(error))
        self.begin()

    def _fail(self, error: Exception) -> None:
        self._waiting.clear()
        # Without a synthesiser the demo has no recordings; everything else can be tried.
        if not isinstance(error, SynthError):
            words = translate("Gavotte", "The demo's recordings can't be played in: {error}")
            self.failed.emit(words.format(error=error))
