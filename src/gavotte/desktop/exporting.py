"""Taking a solo out of the library as an open format; files are written whole or not at all."""

from __future__ import annotations

import os
import tempfile
from collections.abc import Mapping
from dataclasses import dataclass
from pathlib import Path

from gavotte.formats.musicxml_write import write_musicxml
from gavotte.formats.note_table import write_note_table
from gavotte.solo.document import Solo
from gavotte.solo.label import Label
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
EXPORT_FORMATS = (SCORE, SCORE_WITH_DEGREES, NOTE_TABLE)


def exported(solo: Solo, labels: Mapping[str, Label], wanted: ExportFormat) -> bytes:
    """The solo in a format."""
    if wanted is NOTE_TABLE:
        return write_note_table(solo, labels).encode("utf-8")
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
