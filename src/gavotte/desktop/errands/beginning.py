"""Beginning solos and giving them recordings: the dialogs that ask, and what is done with the answers."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QObject, QSettings, pyqtSignal
from PyQt6.QtWidgets import QFileDialog, QWidget

from gavotte.desktop.errands.new_solo_dialog import NewSoloDialog
from gavotte.desktop.errands.recording_dialog import RecordingDialog
from gavotte.desktop.solo.session import SoloSession
from gavotte.desktop.solo.tape import Tape
from gavotte.desktop.translation import translate
from gavotte.library.errors import LibraryError
from gavotte.library.store import Library
from gavotte.recording.decode import SUFFIXES


class Beginning(QObject):
    """Begins new solos: from a form, an empty page or a recording.

    Signals: ``begun(solo_id)``, a new solo is in the library; ``listening_wanted`` to go to the recording;
    ``failed(message)``.
    """

    begun = pyqtSignal(str)
    listening_wanted = pyqtSignal()
    failed = pyqtSignal(str)

    def __init__(
        self, library: Library, session: SoloSession, tape: Tape, settings: QSettings, window: QWidget
    ) -> None:
        super().__init__(window)
        self._library, self._session, self._tape, self._settings, self._window = (
            library,
            session,
            tape,
            settings,
            window,
        )
        self.new_dialog: NewSoloDialog | None = None
        self.recording_dialog: RecordingDialog | None = None

    def new_solo(self, recording: Path | None = None) -> None:
        """Ask what a new solo is, and begin it."""
        dialog = self.new_dialog = NewSoloDialog(self._window, recording)
        dialog.recording_wanted.connect(lambda: self._ask(dialog.show_recording))
        dialog.accepted.connect(lambda: self._begin(dialog))
        dialog.open()

    def _begin(self, dialog: NewSoloDialog) -> None:
        try:
            solo_id = self._library.add_solo(dialog.solo)
        except LibraryError as error:
            self.failed.emit(str(error))
            # What was typed is still there, for another try.
            dialog.open()
            return
        self.begun.emit(solo_id)
        if dialog.recording is not None:
            self.listening_wanted.emit()
            self._tape.take(dialog.recording, dialog.copy.isChecked())

    def choose_recording(self) -> None:
        """Ask for the open solo's recording."""
        self._ask(self.use_recording)

    def find_recording(self) -> None:
        """Ask where a recording has gone."""
        self._ask(self._tape.find_at)

    def _ask(self, then: Callable[[Path], None]) -> None:
        folder = str(self._settings.value("recordings", str(Path.home())))
        endings = " ".join(f"*{suffix}" for suffix in SUFFIXES)
        name, _ = QFileDialog.getOpenFileName(
            self._window,
            translate("Gavotte", "Open a recording"),
            folder,
            f"{translate('Gavotte', 'Recordings')} ({endings})",
        )
        if name:
            self._settings.setValue("recordings", str(Path(name).parent))
            then(Path(name))

    def use_recording(self, path: Path) -> None:
        """Make a file the open solo's recording, after asking whether to copy it; without one a new solo's."""
        if self._session.solo is None:
            self.new_solo(path)
            return
        self.listening_wanted.emit()
        dialog = self.recording_dialog = RecordingDialog(self._window, path, self._session.solo.title)
        dialog.accepted.connect(lambda: self._tape.take(dialog.path, dialog.copy.isChecked()))
        dialog.open()
