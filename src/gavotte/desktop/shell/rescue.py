"""Work the library can't take: kept in files elsewhere, asked about on closing, offered again at the next start."""

from __future__ import annotations

import hashlib
import logging
import os
import tempfile
from collections.abc import Callable
from contextlib import suppress
from enum import Enum, auto
from pathlib import Path

from PyQt6.QtWidgets import QMessageBox, QWidget

from gavotte.desktop.errands.open_sheet import OpenSheet
from gavotte.desktop.solo.saver import RESCUED_RECORDING, RESCUED_SHEET, RESCUED_SOLO, Saver
from gavotte.desktop.solo.session import SoloSession
from gavotte.desktop.solo.tape import Tape
from gavotte.desktop.translation import translate
from gavotte.formats.document import SOLO_DOCUMENT
from gavotte.formats.errors import FormatError
from gavotte.library.errors import LibraryError
from gavotte.library.recordings import RECORDING_DOCUMENT
from gavotte.recording.recording import Recording
from gavotte.sheets.checking import SHEET_DOCUMENT
from gavotte.sheets.sheet import TeachingSheet
from gavotte.solo.document import Solo

LOG = logging.getLogger("gavotte")


class Choice(Enum):
    """What is done about work that can't be saved when the window is closed."""

    AGAIN = auto()
    CLOSE = auto()
    STAY = auto()


def rescue_folders(settings_folder: Path, library_folder: Path) -> list[Path]:
    """Where work of a library may be rescued to: beside the settings, else among the temporary files."""
    own = hashlib.sha256(str(library_folder.resolve()).encode("utf-8", "surrogateescape")).hexdigest()[:12]
    temporary = Path(tempfile.gettempdir()) / f"gavotte-rescued-{os.getuid()}"
    return [settings_folder / "rescued" / own, temporary / own]


class Rescue:
    """Sees to it that no work is lost where the library can't be written."""

    def __init__(
        self,
        saver: Saver,
        session: SoloSession,
        tape: Tape,
        sheets: OpenSheet,
        folders: list[Path],
        say: Callable[[str, str, Callable[[], None]], None],
        taken_back: Callable[[], None],
    ) -> None:
        """``say`` shows a message with an action; ``taken_back`` is called when the library holds what was rescued."""
        self._library, self._saver, self._session, self._tape = session.library, saver, session, tape
        self._sheets = sheets
        self._folders, self._say, self._taken_back = folders, say, taken_back
        self.ask: Callable[[QWidget, str], Choice] = ask_what_to_do
        """How the user is asked what to do on closing."""
        saver.saved.connect(self._forget_written)
        self._written: list[Path] = []

    # -- keeping ------------------------------------------------------------------------------------

    def keep_safe(self) -> str:
        """Save everything, or rescue it; says what became of it, in a sentence."""
        if self._saver.save():
            return translate("Gavotte", "Your work was saved first.")
        folder = self._rescued()
        if folder is None:
            return translate("Gavotte", "Your work could not be saved; it is still open here.")
        words = translate("Gavotte", "Your work could not be saved in the library; a copy of it lies in {folder}.")
        return words.format(folder=folder)

    def may_close(self, window: QWidget) -> bool:
        """Save everything before the window goes; where that fails, rescue it and ask. False to stay."""
        while not self._saver.save():
            choice = self.ask(window, self._words(self._rescued()))
            if choice is not Choice.AGAIN:
                return choice is Choice.CLOSE
        return True

    def _rescued(self) -> Path | None:
        folder = self._saver.rescue(self._folders)
        if folder is not None and folder not in self._written:
            self._written.append(folder)
        return folder

    def _words(self, folder: Path | None) -> str:
        titles = ", ".join(f"“{title}”" for title in self._saver.titles if title)
        head = translate("Gavotte", "{titles} could not be saved. {why}").format(titles=titles, why=self._saver.failing)
        if folder is None:
            tail = translate("Gavotte", "No copy could be written anywhere else. If you close, what is new is lost.")
        else:
            tail = translate(
                "Gavotte", "A copy lies in {folder}. If you close, Gavotte offers it at the next start."
            ).format(folder=folder)
        return f"{head}\n\n{tail}"

    def _forget_written(self) -> None:
        """Everything is in the library after all."""
        for folder in self._written:
            for file in _files(folder):
                file.unlink(missing_ok=True)
        self._written = []

    # -- at the next start --------------------------------------------------------------------------

    def offer(self) -> None:
        """Offer what was rescued and is still not in the library."""
        waiting = [file for folder in self._folders for file in _files(folder) if not self._is_known(file)]
        titles = [title for file in waiting if (title := _title_in(file))]
        if not waiting:
            return
        if len(titles) == 1:
            words = translate("Gavotte", "“{title}” could not be saved the last time. What was new was kept.")
        else:
            words = translate(
                "Gavotte", "{number} solos and sheets could not be saved the last time. What was new was kept."
            )
        words = words.format(title=titles[0] if titles else "", number=len(titles))
        self._say(words, translate("Gavotte", "Take it back"), lambda: self._take_back(waiting))

    def _is_known(self, file: Path) -> bool:
        """Whether a file says what the library has by now; it is deleted then."""
        solo_id, kind = _solo_id(file)
        try:
            if kind == RESCUED_SOLO:
                known = self._library.solo(solo_id) == SOLO_DOCUMENT.read(file.read_bytes())
            elif kind == RESCUED_SHEET:
                known = self._library.sheet(solo_id) == SHEET_DOCUMENT.read(file.read_bytes())
            else:
                known = self._library.recording(solo_id) == RECORDING_DOCUMENT.read(file.read_bytes())
        except FormatError as error:
            LOG.warning("%s can't be read: %s", file.name, error)
            return True
        except (LibraryError, OSError):
            return False
        if known:
            with suppress(OSError):
                file.unlink()
        return known

    def _take_back(self, files: list[Path]) -> None:
        changed_since = {entry.id: entry.modified.timestamp() for entry in self._library.solos()}
        changed_since |= {entry.id: entry.modified.timestamp() for entry in self._library.sheets()}
        try:
            for file in files:
                solo_id, kind = _solo_id(file)
                solo = _solo_in(file)
                if kind == RESCUED_SHEET:
                    is_older = changed_since.get(solo_id, float("inf")) <= file.stat().st_mtime
                    self._take_sheet(solo_id, SHEET_DOCUMENT.read(file.read_bytes()), is_older)
                elif kind == RESCUED_RECORDING:
                    self._take_recording(solo_id, RECORDING_DOCUMENT.read(file.read_bytes()))
                elif solo is not None and changed_since.get(solo_id, float("inf")) <= file.stat().st_mtime:
                    self._take_solo(solo_id, solo)
                elif solo is not None:
                    # It was worked on since, or is gone: neither version takes the other's place.
                    self._library.add_solo(solo)
                if self._saver.save():
                    file.unlink()
        except (LibraryError, FormatError, OSError) as error:
            self._say(str(error), "", lambda: None)
        self._taken_back()

    def _take_solo(self, solo_id: str, solo: Solo) -> None:
        """Put a solo in its place: where it is open as an edit, or what is open would be written over it later."""
        if solo_id == self._session.solo_id:
            self._session.edit(translate("Gavotte", "Take back what was kept"), solo)
        else:
            self._saver.save_solo(solo_id, solo)

    def _take_sheet(self, sheet_id: str, sheet: TeachingSheet, library_is_older: bool) -> None:
        """Put a sheet in its place, or beside one that was worked on since."""
        if library_is_older:
            self._sheets.take(sheet_id, sheet)
        else:
            self._library.add_sheet(sheet)

    def _take_recording(self, solo_id: str, recording: Recording) -> None:
        if solo_id == self._tape.solo_id:
            self._tape.exchange(recording)
        else:
            self._saver.save_recording(solo_id, recording)


def _files(folder: Path) -> list[Path]:
    with suppress(OSError):
        return sorted(file for file in folder.iterdir() if file.name.endswith(_KINDS))
    return []


def _solo_id(file: Path) -> tuple[str, str]:
    """Whose work a file holds, and of which kind."""
    kind = next(kind for kind in _KINDS if file.name.endswith(kind))
    return file.name.removesuffix(kind), kind


_KINDS = (RESCUED_SOLO, RESCUED_RECORDING, RESCUED_SHEET)


def _title_in(file: Path) -> str:
    """The title of the solo or sheet in a file, "" where there is none."""
    with suppress(FormatError, OSError):
        if file.name.endswith(RESCUED_SHEET):
            return SHEET_DOCUMENT.read(file.read_bytes()).title
    solo = _solo_in(file)
    return "" if solo is None else solo.title


def _solo_in(file: Path) -> Solo | None:
    with suppress(FormatError, OSError):
        if file.name.endswith(RESCUED_SOLO):
            return SOLO_DOCUMENT.read(file.read_bytes())
    return None


def ask_what_to_do(window: QWidget, words: str) -> Choice:
    """Ask what to do about work that can't be saved."""
    box = QMessageBox(QMessageBox.Icon.Warning, "Gavotte", words, parent=window)
    again = box.addButton(translate("Gavotte", "Try again"), QMessageBox.ButtonRole.AcceptRole)
    close = box.addButton(translate("Gavotte", "Close"), QMessageBox.ButtonRole.DestructiveRole)
    box.addButton(translate("Gavotte", "Stay here"), QMessageBox.ButtonRole.RejectRole)
    box.setDefaultButton(again)
    box.exec()
    clicked = box.clickedButton()
    box.deleteLater()
    return Choice.AGAIN if clicked is again else Choice.CLOSE if clicked is close else Choice.STAY
