"""Taking music out of the library: a sheet for printing or an open format. Files are written whole or not at all."""

from __future__ import annotations

import errno
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QObject, QSettings, pyqtSignal
from PyQt6.QtWidgets import QFileDialog, QWidget

from gavotte.desktop.activity import Activities
from gavotte.desktop.paper.setup import read_setup
from gavotte.desktop.paper.sheet import Sheet
from gavotte.desktop.translation import QT_TRANSLATE_NOOP, said, translate
from gavotte.engraving.engraver import Engraver
from gavotte.formats.whole_file import plain_name, write_whole
from gavotte.labelling.hand_out import markdown
from gavotte.phrasing.structure import Structure
from gavotte.solo.document import Solo


@dataclass(frozen=True)
class ExportFormat:
    """A format a solo can be exported in: what it is called, its files' ending, and its letter in the menu."""

    name: str
    suffix: str
    letter: str

    @property
    def words(self) -> str:
        """What the menu calls it."""
        return said(self.name).replace(self.letter, f"&{self.letter}", 1) + "…"

    @property
    def file_filter(self) -> str:
        """What a file dialog shows."""
        return f"{said(self.name)} (*{self.suffix})"


SCORE = ExportFormat(QT_TRANSLATE_NOOP("Gavotte", "MusicXML score"), ".musicxml", "M")
SCORE_WITH_DEGREES = ExportFormat(
    QT_TRANSLATE_NOOP("Gavotte", "MusicXML score with degrees as lyrics"), ".musicxml", "d"
)
NOTE_TABLE = ExportFormat(QT_TRANSLATE_NOOP("Gavotte", "Table of notes and labels"), ".csv", "T")
PAPER = ExportFormat(QT_TRANSLATE_NOOP("Gavotte", "Sheet for printing"), ".pdf", "S")
PNG = ExportFormat(QT_TRANSLATE_NOOP("Gavotte", "Picture of the selection"), ".png", "P")
SVG = ExportFormat(QT_TRANSLATE_NOOP("Gavotte", "Drawing of the selection"), ".svg", "w")
MIDI = ExportFormat(QT_TRANSLATE_NOOP("Gavotte", "MIDI file: solo, chords and click"), ".mid", "I")
ANALYSIS = ExportFormat(QT_TRANSLATE_NOOP("Gavotte", "Analysis as text, bar by bar"), ".md", "A")
EXPORT_FORMATS = (PAPER, SCORE, SCORE_WITH_DEGREES, ANALYSIS, MIDI, NOTE_TABLE, PNG, SVG)


def format_for(path: Path, chosen: ExportFormat) -> ExportFormat:
    """What a file is written as: what its ending says, where that is one of ours; else what was chosen."""
    if path.suffix.lower() == chosen.suffix:
        return chosen
    return next((known for known in EXPORT_FORMATS if known.suffix == path.suffix.lower()), chosen)


class Exporter(QObject):
    """Writes sheets to files. Signals: ``exported(path)``, ``failed(message)``."""

    exported = pyqtSignal(object)
    failed = pyqtSignal(str)

    def __init__(self, engraver: Engraver, settings: QSettings, activities: Activities, window: QWidget) -> None:
        super().__init__(window)
        self._engraver, self._settings, self._activities, self._window = engraver, settings, activities, window

    def choose(self, sheet: Sheet, wanted: ExportFormat | None = None) -> None:
        """Ask for a file, and for a format unless one is ``wanted``, and export."""
        folder = Path(str(self._settings.value("folder", str(Path.home()))))
        filters = {known.file_filter: known for known in ([wanted] if wanted else EXPORT_FORMATS)}
        usual = wanted or EXPORT_FORMATS[0]
        start = str(folder / suggested_name(sheet.solo, usual))
        name, found = QFileDialog.getSaveFileName(
            self._window, translate("Gavotte", "Export"), start, ";;".join(filters)
        )
        if name:
            path = Path(name)
            self.export(sheet, path, format_for(path, filters.get(found, usual)))

    def export(self, sheet: Sheet, path: Path, wanted: ExportFormat) -> None:
        """Write a sheet to a file; it is painted between events, or written beside them."""
        if not path.name.lower().endswith(wanted.suffix):
            path = path.with_name(path.name + wanted.suffix)
        if wanted is ANALYSIS:
            self._tell(sheet, path)
            return
        steps, failed = self._painted(sheet, path, wanted), partial(self._not_done, path)
        if steps is None:
            self._write(path, lambda: exported(sheet, wanted))
        else:
            words = translate("Gavotte", "Setting {name}").format(name=path.name)
            self._activities.step(self, steps, lambda: None, failed, words)

    def _tell(self, sheet: Sheet, path: Path) -> None:
        """Write the analysis as text, with its pictures beside it: worked out in a worker, then set between events."""
        # What paints is loaded with the first export, as below.
        from gavotte.desktop.paper.analysis import analysis_of, pictured_text, skeleton_steps
        from gavotte.desktop.paper.picture import arc_picture

        failed = partial(self._not_done, path)
        words = translate("Gavotte", "Setting {name}").format(name=path.name)

        def set_pictures(structure: Structure) -> Iterator[float]:
            skeleton = yield from skeleton_steps(structure, sheet, read_setup(self._settings), self._engraver)
            arc = arc_picture(structure)
            self._write_all(path, lambda: pictured_text(structure, path.stem, skeleton, arc))

        def go_on(structure: Structure) -> None:
            if structure.phrases:
                self._activities.step(self, set_pictures(structure), lambda: None, failed, words)
            else:
                self._write(path, lambda: markdown(structure.found).encode("utf-8"))

        self._activities.beside(self, lambda: analysis_of(sheet), go_on, failed, words)

    def _write_all(self, path: Path, made: Callable[[], dict[str, bytes]]) -> None:
        """Write a file and those that belong to it, by the endings behind its name; nothing of somebody else's is
        written over.
        """

        def write() -> None:
            files = {path.with_name(f"{path.stem}{ending}"): data for ending, data in made().items()}
            for other in files:
                if other != path and other.exists() and _OURS not in other.read_bytes()[:_HEAD]:
                    raise FileExistsError(errno.EEXIST, f"another file is called {other.name}")
            for other, data in files.items():
                write_whole(other, data)

        self._put(path, write)

    def _painted(self, sheet: Sheet, path: Path, wanted: ExportFormat) -> Iterator[float] | None:
        """The steps in which a format is painted, or None where it is no painting."""
        # What paints and writes is loaded with the first export: it would lengthen every start.
        from gavotte.desktop.paper.pages import SheetPages
        from gavotte.desktop.paper.pdf import set_as_pdf
        from gavotte.desktop.paper.picture import picture_steps

        setup = read_setup(self._settings)
        write = partial(self._write, path)
        if wanted is PAPER:
            return set_as_pdf(SheetPages(sheet, setup), self._engraver, lambda data: write(lambda: data))
        if wanted in (PNG, SVG):
            return picture_steps(sheet, setup, self._engraver, wanted is SVG, write)
        return None

    def _not_done(self, path: Path, error: Exception) -> None:
        if isinstance(error, OSError):
            words = translate("Gavotte", "{name} could not be written: {reason}. Choose another folder.")
        else:
            words = translate("Gavotte", "{name} was not written: {error}")
        reason = error.strerror if isinstance(error, OSError) and error.strerror else error
        self.failed.emit(words.format(name=path.name, error=error, reason=reason))

    def _write(self, path: Path, made: Callable[[], bytes]) -> None:
        """Make what goes into a file and write it, beside the interface."""
        self._put(path, lambda: write_whole(path, made()))

    def tell_of(self, path: Path) -> None:
        """Say that a file was written, by whoever, and remember its folder."""
        self._settings.setValue("folder", str(path.parent))
        self.exported.emit(path)

    def _put(self, path: Path, write: Callable[[], object]) -> None:
        def done(_: object) -> None:
            self.tell_of(path)

        words = translate("Gavotte", "Writing {name}").format(name=path.name)
        self._activities.beside(self, write, done, partial(self._not_done, path), words, apart=True)


_OURS, _HEAD = b"<title>Gavotte", 4000
"""By what a drawing of our own is known, within its first bytes."""


def exported(sheet: Sheet, wanted: ExportFormat) -> bytes:
    """The sheet's music in a data format."""
    from gavotte.formats.midi_write import write_midi
    from gavotte.formats.musicxml_write import write_musicxml
    from gavotte.formats.note_table import write_note_table

    solo, labels = sheet.as_data
    if wanted is NOTE_TABLE:
        return write_note_table(solo, labels).encode("utf-8")
    if wanted is MIDI:
        return write_midi(solo)
    lyrics = {note: label.shown_degree for note, label in labels.items()}
    return write_musicxml(solo, lyrics if wanted is SCORE_WITH_DEGREES else None)


def suggested_name(solo: Solo, wanted: ExportFormat) -> str:
    """A file name from the title, without what file systems refuse."""
    return f"{plain_name(solo.title) or 'Solo'}{wanted.suffix}"
