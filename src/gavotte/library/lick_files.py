"""Licks in files: many as one JSON document (see docs/lick-format.md), and licks of other programs as MusicXML or MIDI.

The document is ``{"format": "gavotte-licks", "version": 1, "licks": […]}``, each lick as the library keeps it.
"""

from __future__ import annotations

import json
from collections.abc import Iterable
from pathlib import Path

from gavotte.formats.errors import FormatError
from gavotte.formats.opening import MAX_FILE_BYTES, open_source
from gavotte.labelling.labeller import label_solo
from gavotte.regular_file import read_regular
from gavotte.vocabulary.lick import LICK_DOCUMENT, Lick, keep_lick

SUFFIX = ".licks.json"
_FORMAT, _VERSION = "gavotte-licks", 1


def write_licks(licks: Iterable[Lick]) -> bytes:
    """Licks as one document."""
    listed = [json.loads(LICK_DOCUMENT.write(lick)) for lick in licks]
    document = {"format": _FORMAT, "version": _VERSION, "licks": listed}
    return (json.dumps(document, ensure_ascii=False, indent=1) + "\n").encode("utf-8")


def read_licks(data: bytes) -> tuple[Lick, ...]:
    """The licks of a document. Raises FormatError that says which of them is damaged."""
    try:
        document = json.loads(data)
    except (ValueError, RecursionError) as error:
        raise FormatError(f"The file is no list of licks: {error}.") from error
    if not isinstance(document, dict) or document.get("format") != _FORMAT:
        raise FormatError("The file is no list of Gavotte's licks.")
    version, listed = document.get("version"), document.get("licks")
    if not isinstance(version, int) or version > _VERSION:
        raise FormatError("These licks were exported by a newer Gavotte; update Gavotte to read them.")
    if not isinstance(listed, list):
        raise FormatError("The file says that it holds licks, but lists none.")
    licks = []
    for number, item in enumerate(listed, 1):
        try:
            licks.append(LICK_DOCUMENT.read(json.dumps(item).encode("utf-8")))
        except FormatError as error:
            raise FormatError(f"Lick {number} of {len(listed)}: {error}") from error
    return tuple(licks)


def licks_of_file(path: Path) -> tuple[Lick, ...]:
    """The licks of a file: a document of licks, or a score or MIDI file, each line of which is one.

    Raises FormatError, or OSError where it can't be read.
    """
    if path.suffix.lower() == ".json":
        return read_licks(read_regular(path, MAX_FILE_BYTES))
    source = open_source(path)
    licks = []
    for voice in source.voices:
        solo = source.solo(voice, path.stem, True).solo
        if solo.notes:
            lick = keep_lick(solo, "", label_solo(solo), solo.notes[0].id, solo.notes[-1].id)
            licks.append(lick)
    if not licks:
        raise FormatError("There is not a note in it.")
    return tuple(licks)
