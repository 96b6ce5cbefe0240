"""Taking music out of the library: a sheet for printing or an open format. Files are written whole or not at all."""

from __future__ import annotations

import os
import tempfile
from dataclasses import dataclass
from pathlib import Path

from PyQt6.QtCore import QObject, QSettings, pyqtSignal
from PyQt6.QtGui import QPageSize
from PyQt6.QtWidgets import QFileDialog, QWidget

from gavotte.desktop.sheet_pdf import Sheet, SheetJob
from gavotte.engraving.engraver import Engraver
from gavotte.formats.midi_write import write_midi
from gavotte.formats.musicxml_write import write_musicxml
from gavotte.formats.note_table import write_note_table
from gavotte.solo.document import Solo
from gavotte.theory.chord_symbol import shown_degree


@dataclass(frozen=True)
class ExportFormat:
    """A format a solo can be exported in: what it is called, and its files' ending."""

    name: str
    suffix: str

    @property
    def file_filter(self) -> str:
        """What a file dialog shows."""
        return f"{self.name} (*{self.suffix})"


SCORE = ExportFormat("MusicXML score", ".musicxml")
SCORE_WITH_DEGREES = ExportFormat("MusicXML score with degrees as lyrics", ".musicxml")
NOTE_TABLE = ExportFormat("Table of notes and labels", ".csv")
PAPER_A4 = ExportFormat("Sheet for printing, A4", ".pdf")
PAPER_LETTER = ExportFormat("Sheet for printing, Letter", ".pdf")
MIDI = ExportFormat("MIDI file: solo, chords and click", ".mid")
EXPORT_FORMATS = (PAPER_A4, PAPER_LETTER, SCORE, SCORE_WITH_DEGREES, MIDI, NOTE_TABLE)
_PAPER = {PAPER_A4: QPageSize.PageSizeId.A4, PAPER_LETTER: QPageSize.PageSizeId.Letter}


class Exporter(QObject):
    """Writes sheets to files. Signals: ``exported(message)``, ``failed(message)``, ``busy(text)`` ("" when done)."""

    exported = pyqtSignal(str)
    failed = pyqtSignal(str)
    busy = pyqtSignal(str)

    def __init__(self, engraver: Engraver, settings: QSettings, window: QWidget) -> None:
        super().__init__(window)
        self._engraver, self._settings, self._window = engraver, settings, window
        self._job: SheetJob | None = None

    def choose(self, sheet: Sheet) -> None:
        """Ask for a file and a format, and export."""
        folder = Path(str(self._settings.value("folder", str(Path.home()))))
        filters = {wanted.file_filter: wanted for wanted in EXPORT_FORMATS}
        start = str(folder / suggested_name(sheet.solo, EXPORT_FORMATS[0]))
        name, chosen = QFileDialog.getSaveFileName(self._window, "Export", start, ";;".join(filters))
        if name:
            path, wanted = Path(name), filters.get(chosen, EXPORT_FORMATS[0])
            known = {item.suffix for item in EXPORT_FORMATS}
            self.export(sheet, path.with_suffix(wanted.suffix) if path.suffix in known else path, wanted)

    def export(self, sheet: Sheet, path: Path, wanted: ExportFormat) -> None:
        """Write a sheet to a file; a PDF is painted beside everything else."""
        if not path.name.endswith(wanted.suffix):
            path = path.with_name(path.name + wanted.suffix)
        if wanted not in _PAPER:
            self._write(path, exported(sheet, wanted))
            return
        self.cancel()
        self._job = SheetJob(
            sheet,
            self._engraver,
            _PAPER[wanted],
            lambda share: self.busy.emit(f"Setting {path.name}: {round(100 * share)} %"),
            lambda pdf: self._painted(path, pdf),
            self,
        )

    def cancel(self) -> None:
        """Stop the sheet that is being painted, if there is one."""
        if self._job is not None:
            self._job.cancel()
            self._job = None
            self.busy.emit("")

    def _painted(self, path: Path, pdf: bytes) -> None:
        self._job = None
        self.busy.emit("")
        self._write(path, pdf)

    def _write(self, path: Path, data: bytes) -> None:
        try:
            write_whole(path, data)
        except OSError as error:
            self.failed.emit(f"{path.name} could not be written: {error.strerror or error}. Choose another folder.")
            return
        self._settings.setValue("folder", str(path.parent))
        self.exported.emit(f"Exported as {path.name}")


def exported(sheet: Sheet, wanted: ExportFormat) -> bytes:
    """The sheet's music in a data format."""
    solo, labels = sheet.as_data
    if wanted is NOTE_TABLE:
        return write_note_table(solo, labels).encode("utf-8")
    if wanted is MIDI:
        return write_midi(solo)
    lyrics = {note: shown_degree(label.degree) for note, label in labels.items()}
    return write_musicxml(solo, lyrics if wanted is SCORE_WITH_DEGREES else None)


def write_whole(path: Path, data: bytes) -> None:
    """Write a file so that it is either the old one or the whole new one. Raises OSError."""
    handle, name = tempfile.mkstemp(dir=path.parent, prefix=f".{path.name}.")
    try:
        with os.fdopen(handle, "wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        os.chmod(name, 0o644)
        os.replace(name, path)
    except BaseException:
        Path(name).unlink(missing_ok=True)
        raise


def suggested_name(solo: Solo, wanted: ExportFormat) -> str:
    """A file name from the title, without what file systems refuse."""
    title = "".join("-" if c in '/\\:*?"<>|' or ord(c) < 32 else c for c in solo.title).strip(" .")
    return f"{title or 'Solo'}{wanted.suffix}"
