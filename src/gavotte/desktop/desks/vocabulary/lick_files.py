"""Licks to and from files: asked for, read and written beside the interface."""

from __future__ import annotations

from collections.abc import Generator, Sequence
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QObject, QSettings, pyqtSignal
from PyQt6.QtWidgets import QFileDialog, QWidget

from gavotte.desktop.activity import Activities
from gavotte.desktop.translation import translate
from gavotte.formats.errors import FormatError
from gavotte.formats.opening import MIDI_SUFFIXES, SCORE_SUFFIXES
from gavotte.formats.whole_file import write_whole
from gavotte.library.lick_files import SUFFIX, licks_of_file, write_licks
from gavotte.vocabulary.lick import Lick


class LickFiles(QObject):
    """Signals: ``taken_in(licks)``, ``written(path)``, ``failed(message)``."""

    taken_in = pyqtSignal(list)
    written = pyqtSignal(object)
    failed = pyqtSignal(str)

    def __init__(self, settings: QSettings, activities: Activities, window: QWidget) -> None:
        super().__init__(window)
        self._settings, self._activities, self._window = settings, activities, window

    def _folder(self) -> Path:
        return Path(str(self._settings.value("folder", str(Path.home()))))

    def choose(self) -> None:
        """Ask for files and take in the licks in them."""
        endings = " ".join(f"*{s}" for s in (SUFFIX, *SCORE_SUFFIXES, *MIDI_SUFFIXES))
        names, _ = QFileDialog.getOpenFileNames(
            self._window,
            translate("Gavotte", "Import licks"),
            str(self._folder()),
            translate("Gavotte", "Licks ({endings})").format(endings=endings),
        )
        if names:
            self._settings.setValue("folder", str(Path(names[0]).parent))
            self.take([Path(name) for name in names])

    def choose_folder(self) -> None:
        """Ask for a folder and take in the licks in its files."""
        name = QFileDialog.getExistingDirectory(
            self._window, translate("Gavotte", "Import a folder of licks"), str(self._folder())
        )
        if name:
            self._settings.setValue("folder", name)
            self.take([Path(name)])

    def take(self, paths: Sequence[Path]) -> None:
        """Take in the licks of files and of folders; what can't be read is told, and the others are taken."""

        def steps() -> Generator[float, None, tuple[list[Lick], list[str]]]:
            files = [file for path in paths for file in _files_in(path)]
            licks: list[Lick] = []
            wrong = []
            for number, path in enumerate(files, 1):
                try:
                    licks += licks_of_file(path)
                except FormatError as error:
                    wrong.append(f"{path.name}: {error}")
                except OSError as error:
                    wrong.append(f"{path.name}: {error.strerror or error}")
                yield number / len(files)
            return licks, wrong

        words = translate("Gavotte", "Reading licks")
        self._activities.walk(self, steps, self._took, lambda error: self.failed.emit(str(error)), words, apart=True)

    def _took(self, found: tuple[list[Lick], list[str]]) -> None:
        licks, wrong = found
        if licks or not wrong:
            self.taken_in.emit(licks)
        if wrong:
            told = "\n".join(wrong[:_MOST_TOLD])
            more = len(wrong) - _MOST_TOLD
            words = translate("Gavotte", "Not taken in:\n{told}").format(told=told)
            if more > 0:
                words += "\n" + translate("Gavotte", "and {number} more.").format(number=more)
            self.failed.emit(words)

    def export(self, licks: Sequence[Lick]) -> None:
        """Ask for a file and write licks to it."""
        start = str(self._folder() / f"{translate('Gavotte', 'Vocabulary')}{SUFFIX}")
        name, _ = QFileDialog.getSaveFileName(
            self._window,
            translate("Gavotte", "Export licks"),
            start,
            translate("Gavotte", "Licks ({endings})").format(endings=f"*{SUFFIX}"),
        )
        if name:
            self.write(licks, Path(name))

    def write(self, licks: Sequence[Lick], path: Path) -> None:
        """Write licks to a file, whole or not at all."""
        if not path.name.lower().endswith(".json"):
            path = path.with_name(path.name + SUFFIX)

        def failed(error: Exception) -> None:
            reason = error.strerror if isinstance(error, OSError) and error.strerror else error
            words = translate("Gavotte", "{name} could not be written: {reason}. Choose another folder.")
            self.failed.emit(words.format(name=path.name, reason=reason))

        words = translate("Gavotte", "Writing {name}").format(name=path.name)
        work = partial(_written, path, tuple(licks))
        self._activities.beside(self, work, lambda _: self.written.emit(path), failed, words, apart=True)


_MOST_TOLD = 5


def _files_in(path: Path) -> list[Path]:
    """A file; or of a folder the files in it that can hold licks."""
    if not path.is_dir():
        return [path]
    endings = (SUFFIX, *SCORE_SUFFIXES, *MIDI_SUFFIXES)
    return sorted(file for file in path.iterdir() if file.name.lower().endswith(endings))


def _written(path: Path, licks: Sequence[Lick]) -> None:
    write_whole(path, write_licks(licks))
