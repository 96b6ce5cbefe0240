"""The recordings of a library's solos: their files, and what is known of each."""

from __future__ import annotations

import shutil
from collections.abc import Iterable
from dataclasses import replace
from pathlib import Path

from gavotte.formats.document import DocumentKind
from gavotte.formats.whole_file import whole_file
from gavotte.library.errors import LibraryError
from gavotte.recording.recording import Recording

FOLDER = "recordings"
DECODED = "decoded"
"""What players and pictures are made from; it can be made again from the recordings at any time."""

RECORDING_DOCUMENT = DocumentKind("gavotte-recording", 1, "recording", Recording)


def file_of(library_folder: Path, recording: Recording) -> Path:
    """Where a recording's file should be."""
    return library_folder / recording.path if recording.copied else Path(recording.path)


def copied_into(library_folder: Path, recording: Recording) -> Recording:
    """The recording with its file copied into the library, whole or not at all. Raises LibraryError."""
    source = Path(recording.path)
    relative = Path(FOLDER) / f"{recording.sha256[:12]} {source.name}"
    goal = library_folder / relative
    try:
        goal.parent.mkdir(exist_ok=True)
        if not goal.exists():
            with whole_file(goal) as draft:
                shutil.copyfile(source, draft)
    except OSError as error:
        raise LibraryError(
            f"{source.name} could not be copied into the library: {error.strerror or error}. Nothing was changed; make "
            "room, or leave the recording where it is."
        ) from error
    return replace(recording, path=str(relative), copied=True)


def clear_decoded(library_folder: Path, recordings: Iterable[Recording]) -> None:
    """Delete what was decoded from recordings that no solo has any more. Raises OSError."""
    wanted = {recording.sha256 for recording in recordings}
    for file in (library_folder / DECODED).glob("*.pcm"):
        if file.stem not in wanted:
            file.unlink(missing_ok=True)
