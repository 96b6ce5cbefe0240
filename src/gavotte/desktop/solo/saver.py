"""The saver: what the user made and the library has not got yet. It stays here until it is written."""

from __future__ import annotations

import errno
import logging
import os
import stat
from dataclasses import dataclass
from pathlib import Path

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from gavotte.desktop.activity import Activities
from gavotte.desktop.translation import translate
from gavotte.formats.document import SOLO_DOCUMENT
from gavotte.formats.whole_file import write_whole
from gavotte.library.errors import LibraryError
from gavotte.library.recordings import RECORDING_DOCUMENT
from gavotte.library.store import Library
from gavotte.library.tables import SHEETS, SOLOS
from gavotte.recording.recording import Recording
from gavotte.sheets.checking import SHEET_DOCUMENT
from gavotte.sheets.sheet import TeachingSheet
from gavotte.solo.document import Solo
from gavotte.writing.drafting import Proposal

LOG = logging.getLogger("gavotte")

SAVE_DELAY_MS = 800
"""From the first change that is not in the library until it is written; later changes do not put that off."""
_SHORT = 2000
"""Notes of a solo that is put together for the library in a few milliseconds."""
AGAIN_MS = 5000
"""Until it is tried again where it failed."""
RESCUED_SOLO, RESCUED_RECORDING, RESCUED_SHEET = ".solo.json", ".recording.json", ".sheet.json"

Row = dict[str, object]
"""What stands in the columns of a table for a value."""


@dataclass(frozen=True)
class _Held:
    """What is to be written, by its id."""

    solos: dict[str, Solo]
    sheets: dict[str, TeachingSheet]


@dataclass(frozen=True)
class _Rows:
    """The same as rows of the library's tables."""

    solos: dict[str, Row]
    sheets: dict[str, Row]


class Saver(QObject):
    """Holds solos, teaching sheets, what is known of recordings, and drafts until they are written, or can be.

    Signals: ``saved``, everything is in the library; ``changed``, there is something to write, or it can't be written
    just now; ``failed(message)``, once for as long as it fails.
    """

    saved = pyqtSignal()
    changed = pyqtSignal()
    failed = pyqtSignal(str)

    def __init__(self, library: Library, activities: Activities, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._library, self._activities = library, activities
        self._solos: dict[str, Solo] = {}
        self._recordings: dict[str, Recording | None] = {}
        self._sheets: dict[str, TeachingSheet] = {}
        self._drafts: dict[str, Proposal] = {}
        self.failing = ""
        """Why the last attempt failed; empty where it did not."""
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.timeout.connect(self._save_beside)

    @property
    def is_saved(self) -> bool:
        """Whether everything is in the library that can't be made again, as a draft can."""
        return not self._solos and not self._recordings and not self._sheets

    @property
    def titles(self) -> list[str]:
        """What the solos and sheets are called that are not in the library as they are now."""
        others = [solo_id for solo_id in self._recordings if solo_id not in self._solos]
        known = {entry.id: entry.title for entry in self._library.solos()} if others else {}
        titles = [solo.title for solo in self._solos.values()] + [sheet.title for sheet in self._sheets.values()]
        return titles + [known.get(other, "") for other in others]

    # -- what is held -------------------------------------------------------------------------------

    def held(self, solo_id: str) -> Solo | None:
        """A solo as it was last, where that is not written yet."""
        return self._solos.get(solo_id)

    def held_sheet(self, sheet_id: str) -> TeachingSheet | None:
        """A teaching sheet as it was last, where that is not written yet."""
        return self._sheets.get(sheet_id)

    def recording(self, solo_id: str) -> Recording | None:
        """What is known of a solo's recording, written or not. Raises LibraryError or FormatError."""
        if solo_id in self._recordings:
            return self._recordings[solo_id]
        return self._library.recording(solo_id)

    def save_solo(self, solo_id: str, solo: Solo) -> None:
        """Write a solo soon."""
        self._solos[solo_id] = solo
        self._begin_soon()
        self.changed.emit()

    def save_sheet(self, sheet_id: str, sheet: TeachingSheet) -> None:
        """Write a teaching sheet soon."""
        self._sheets[sheet_id] = sheet
        self._begin_soon()
        self.changed.emit()

    def _begin_soon(self) -> None:
        if not self._soon.isActive() and not self._activities.of(self):
            self._soon.start(SAVE_DELAY_MS)

    def save_recording(self, solo_id: str, recording: Recording | None) -> None:
        """Write what is known of a solo's recording, or that it has none; now, or as soon as it can be."""
        self._recordings[solo_id] = recording
        self._write(_Held({}, {}), _Rows({}, {}))

    def save_draft(self, solo_id: str, draft: Proposal) -> None:
        """Write the drafted phrases of a solo soon."""
        self._drafts[solo_id] = draft
        self._begin_soon()

    # -- writing ------------------------------------------------------------------------------------

    def save(self) -> bool:
        """Write everything now; False where something could not be, which is held on to."""
        self._soon.stop()
        self._activities.cancel(self)
        if self.is_saved and not self._drafts:
            return True
        held = self._held()
        return self._write(held, _rows(held))

    def _held(self) -> _Held:
        return _Held(dict(self._solos), dict(self._sheets))

    def hurry(self) -> None:
        """Write everything now where that takes no time to speak of, else begin at once."""
        music = [*self._solos.values(), *(source.solo for sheet in self._sheets.values() for source in sheet.sources)]
        if sum(len(solo.notes) for solo in music) <= _SHORT:
            self.save()
        else:
            self._soon.stop()
            self._activities.cancel(self)
            self._save_beside()

    def _save_beside(self) -> None:
        """Write everything; what goes into the library is put together beside the interface, before all other work."""
        held = self._held()

        def take(rows: _Rows) -> None:
            self._write(held, rows)

        self._activities.beside(self, lambda: _rows(held), take, self._not_written, apart=True)

    def _write(self, held: _Held, rows: _Rows) -> bool:
        """Write what was put together of what was held, and every recording; False where it failed."""
        try:
            for solo_id, row in rows.solos.items():
                self._library.save_solo_row(solo_id, row)
                if self._solos.get(solo_id) is held.solos[solo_id]:
                    self._solos.pop(solo_id)
            for sheet_id, row in rows.sheets.items():
                self._library.save_sheet_row(sheet_id, row)
                if self._sheets.get(sheet_id) is held.sheets[sheet_id]:
                    self._sheets.pop(sheet_id)
            self._write_recordings()
            for solo_id, draft in tuple(self._drafts.items()):
                self._library.save_draft(solo_id, draft)
                self._drafts.pop(solo_id)
        except LibraryError as error:
            self._not_written(error)
            return False
        self._written()
        return True

    def _write_recordings(self) -> None:
        for solo_id, recording in tuple(self._recordings.items()):
            if recording is None:
                self._library.remove_recording(solo_id)
            else:
                self._library.save_recording(solo_id, recording)
            self._recordings.pop(solo_id)

    def _written(self) -> None:
        self.failing = ""
        if self.is_saved:
            self._soon.stop()
            self.saved.emit()
        elif not self._soon.isActive() and not self._activities.of(self):
            # What was changed while the rest was put together has waited a while already.
            self._soon.start(SAVE_DELAY_MS // 2)
        self.changed.emit()

    def _not_written(self, error: Exception) -> None:
        is_new = not self.failing
        self.failing = str(error)
        self._soon.start(AGAIN_MS)
        if is_new:
            words = translate("Gavotte", "{error} Your work is still open here and is saved again every few seconds.")
            self.failed.emit(words.format(error=error))
        self.changed.emit()

    # -- where it can't be written at all -----------------------------------------------------------

    def rescue(self, folders: list[Path]) -> Path | None:
        """Write what is not in the library to files in the first of the folders that takes them; gives that folder.

        None where none does, or there is nothing to write.
        """
        if self.is_saved:
            return None
        files = {f"{solo_id}{RESCUED_SOLO}": SOLO_DOCUMENT.write(solo) for solo_id, solo in self._solos.items()}
        files |= {f"{name}{RESCUED_SHEET}": SHEET_DOCUMENT.write(sheet) for name, sheet in self._sheets.items()}
        for solo_id, recording in self._recordings.items():
            if recording is not None:
                files[f"{solo_id}{RESCUED_RECORDING}"] = RECORDING_DOCUMENT.write(recording)
        for folder in folders:
            try:
                _make_own(folder)
                for name, data in files.items():
                    write_whole(folder / name, data)
            except OSError as error:
                LOG.warning("Nothing can be rescued to %s: %s", folder, error)
            else:
                return folder
        return None


def _rows(held: _Held) -> _Rows:
    """What stands in the library's columns for what is held."""
    return _Rows(
        {solo_id: SOLOS.values(solo) for solo_id, solo in held.solos.items()},
        {sheet_id: SHEETS.values(sheet) for sheet_id, sheet in held.sheets.items()},
    )


def _make_own(folder: Path) -> None:
    """Make a folder that is this user's alone. Raises OSError where somebody else's is there already."""
    for part in (folder.parent, folder):
        part.mkdir(mode=0o700, parents=True, exist_ok=True)
        found = part.lstat()
        if not stat.S_ISDIR(found.st_mode) or found.st_uid != os.getuid():
            raise PermissionError(errno.EPERM, "it belongs to somebody else", str(part))
