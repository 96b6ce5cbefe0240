"""Opening a file by what is in it: MusicXML, plain or packed, or MIDI."""

from __future__ import annotations

from pathlib import Path

from gavotte.formats.errors import FormatError
from gavotte.formats.source import Source
from gavotte.regular_file import read_regular

SCORE_SUFFIXES = (".musicxml", ".xml", ".mxl")
MIDI_SUFFIXES = (".mid", ".midi")
MAX_FILE_BYTES = 64 * 1024 * 1024


def open_source(path: Path) -> Source:
    """Read a file of any format Gavotte takes in. Raises FormatError, or OSError where it can't be read at all."""
    suffix = path.suffix.lower()
    if suffix not in (*SCORE_SUFFIXES, *MIDI_SUFFIXES):
        raise FormatError(
            f"Gavotte reads MusicXML ({', '.join(SCORE_SUFFIXES)}) and MIDI ({', '.join(MIDI_SUFFIXES)}), "
            f"not “{path.suffix or path.name}” files."
        )
    # The readers are loaded with the first file: they would lengthen every start.
    from gavotte.formats.midi_read import open_midi
    from gavotte.formats.musicxml import open_score

    data = read_regular(path, MAX_FILE_BYTES)
    if data[:4] == b"MThd" or (suffix in MIDI_SUFFIXES and data[:4] == b"RIFF"):
        return open_midi(data)
    if suffix in MIDI_SUFFIXES:
        raise FormatError("The file does not begin as a MIDI file does. It may be damaged; export it again.")
    return open_score(data)
