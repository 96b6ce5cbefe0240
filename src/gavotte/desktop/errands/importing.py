"""Taking a file into the library: read beside the interface, ask where there is a choice, put on the shelf."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtWidgets import QWidget

from gavotte.desktop.activity import Job, run_beside
from gavotte.desktop.errands.voice_dialog import VoiceDialog
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import translate
from gavotte.formats.errors import FormatError
from gavotte.formats.opening import open_source
from gavotte.formats.source import Imported, Source, VoiceSummary
from gavotte.labelling.labeller import label_solo
from gavotte.library.errors import LibraryError
from gavotte.library.store import Library


class Importer(QObject):
    """Imports one file after another. Signals: ``imported(solo id, title, remarks)``, ``failed(message)``,
    ``busy(text)`` ("" when done).
    """

    imported = pyqtSignal(str, str, tuple)
    failed = pyqtSignal(str)
    busy = pyqtSignal(str)

    def __init__(self, library: Library, window: QWidget) -> None:
        super().__init__(window)
        self._library, self._window = library, window
        self._waiting: list[Path] = []
        self._job: Job | None = None
        self.palette_in_use: Palette | None = None
        self.dialog: VoiceDialog | None = None

    def take(self, paths: list[Path]) -> None:
        """Import these files."""
        self._waiting += paths
        if self._job is None and self.dialog is None:
            self._next()

    def cancel(self) -> None:
        """Stop reading, and forget the files still waiting."""
        self._waiting.clear()
        if self._job is not None:
            self._job.cancel()
            self._job = None
            self.busy.emit("")

    def _next(self) -> None:
        if not self._waiting:
            return
        path = self._waiting.pop(0)
        self.busy.emit(translate("Gavotte", "Reading {name} …").format(name=path.name))
        self._job = run_beside(
            lambda: open_source(path),
            lambda score: self._opened(path, score),
            lambda error: self._fail(path, error),
        )

    def _opened(self, path: Path, score: Source) -> None:
        self._job = None
        if len(score.voices) == 1 and not score.has_repeats:
            self._read(path, score, score.voices[0], as_heard=True)
            return
        assert self.palette_in_use is not None
        self.dialog = VoiceDialog(self._window, score, self.palette_in_use)
        self.dialog.accepted.connect(lambda: self._chosen(path, score))
        self.dialog.rejected.connect(self._declined)
        self.dialog.open()

    def _chosen(self, path: Path, score: Source) -> None:
        assert self.dialog is not None
        voice, as_heard = self.dialog.chosen, self.dialog.as_heard.isChecked()
        self.dialog = None
        self._read(path, score, voice, as_heard)

    def _declined(self) -> None:
        self.dialog = None
        self.busy.emit("")
        self._next()

    def _read(self, path: Path, score: Source, voice: VoiceSummary, as_heard: bool) -> None:
        def work() -> tuple[Imported, int]:
            imported = score.solo(voice, path.stem, as_heard)
            doubts = sum(label.in_doubt for label in label_solo(imported.solo))
            return imported, doubts

        self._job = run_beside(work, lambda found: self._store(path, *found), lambda e: self._fail(path, e))

    def _store(self, path: Path, imported: Imported, doubts: int) -> None:
        self._job = None
        try:
            solo_id = self._library.add_solo(imported.solo, doubts)
        except LibraryError as error:
            self._fail(path, error)
            return
        self.busy.emit("")
        self.imported.emit(solo_id, imported.solo.title, imported.remarks)
        self._next()

    def _fail(self, path: Path, error: Exception) -> None:
        self._job = None
        self.busy.emit("")
        if isinstance(error, (FormatError, LibraryError)):
            self.failed.emit(
                translate("Gavotte", "{name} was not imported. {error}").format(name=path.name, error=error)
            )
        elif isinstance(error, OSError):
            self.failed.emit(
                translate("Gavotte", "{name} can't be read: {reason}.").format(
                    name=path.name, reason=error.strerror or error
                )
            )
        else:
            self.failed.emit(
                translate("Gavotte", "{name} was not imported: something in it was not expected ({error!r}).").format(
                    name=path.name, error=error
                )
            )
        self._next()
