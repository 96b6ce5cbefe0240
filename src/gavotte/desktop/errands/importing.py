"""Taking a file into the library: read beside the interface, ask where there is a choice, put on the shelf."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import Any

from PyQt6.QtCore import QObject, QSettings, pyqtSignal
from PyQt6.QtWidgets import QFileDialog, QWidget

from gavotte.desktop.activity import Activities
from gavotte.desktop.errands.voice_dialog import VoiceDialog
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import translate
from gavotte.formats.errors import FormatError
from gavotte.formats.opening import MIDI_SUFFIXES, SCORE_SUFFIXES, open_source
from gavotte.formats.source import Imported, Source, VoiceSummary
from gavotte.labelling.labeller import labelled
from gavotte.labelling.questions import number_to_look_at
from gavotte.library.errors import LibraryError
from gavotte.library.store import Library
from gavotte.library.tables import SOLOS


class Importer(QObject):
    """Imports one file after another. Signals: ``imported(solo id, title, remarks)``, ``failed(message)``."""

    imported = pyqtSignal(str, str, tuple)
    failed = pyqtSignal(str)

    def __init__(self, library: Library, settings: QSettings, activities: Activities, window: QWidget) -> None:
        super().__init__(window)
        self._library, self._settings, self._activities, self._window = library, settings, activities, window
        self._waiting: list[Path] = []
        self.palette_in_use: Palette | None = None
        self.dialog: VoiceDialog | None = None

    def take(self, paths: list[Path]) -> None:
        """Import these files."""
        self._waiting += paths
        if not self._activities.of(self) and self.dialog is None:
            self._next()

    def choose(self) -> None:
        """Ask for files and import them."""
        folder = str(self._settings.value("folder", str(Path.home())))
        names, _ = QFileDialog.getOpenFileNames(
            self._window,
            translate("Gavotte", "Import a solo"),
            folder,
            translate("Gavotte", "Solos ({endings})").format(
                endings=" ".join(f"*{s}" for s in SCORE_SUFFIXES + MIDI_SUFFIXES)
            ),
        )
        if names:
            self._settings.setValue("folder", str(Path(names[0]).parent))
            self.take([Path(name) for name in names])

    def _next(self) -> None:
        if not self._waiting:
            return
        path = self._waiting.pop(0)
        self._begin(path, lambda: open_source(path), lambda score: self._opened(path, score))

    def _begin(self, path: Path, work: Callable[[], Any], then: Callable[[Any], None]) -> None:
        """Work on a file; where the user stops it, the files still waiting are forgotten too."""
        words = translate("Gavotte", "Reading {name}").format(name=path.name)
        self._activities.beside(self, work, then, partial(self._fail, path), words, self._waiting.clear, True)

    def _opened(self, path: Path, score: Source) -> None:
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
        self._next()

    def _read(self, path: Path, score: Source, voice: VoiceSummary, as_heard: bool) -> None:
        def work() -> tuple[Imported, dict[str, object], int]:
            imported = score.solo(voice, path.stem, as_heard)
            return imported, SOLOS.values(imported.solo), number_to_look_at(labelled(imported.solo))

        self._begin(path, work, lambda found: self._store(path, *found))

    def _store(self, path: Path, imported: Imported, row: dict[str, object], to_look_at: int) -> None:
        try:
            solo_id = self._library.add_solo_row(row, to_look_at)
        except LibraryError as error:
            self._fail(path, error)
            return
        self.imported.emit(solo_id, imported.solo.title, imported.remarks)
        self._next()

    def _fail(self, path: Path, error: Exception) -> None:
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
