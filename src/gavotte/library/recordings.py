"""The recordings of a library's solos: their files, and what is known of each."""

from __future__ import annotations

import re
import shutil
from collections.abc import Iterable
from dataclasses import replace
from pathlib import Path

from gavotte.formats.document import DocumentKind, with_version
from gavotte.formats.whole_file import whole_file
from gavotte.library.errors import LibraryError
from gavotte.recording.recording import Recording

FOLDER = "recordings"
_LONGEST_NAME = 200
DECODED = "decoded"
"""What players and pictures are made from; it can be made again from the recordings at any time."""

_MOST_FRAMES = 2**31
_HASH = re.compile("[0-9a-f]{64}")


def _checked(recording: Recording) -> Recording:
    """The recording, once it is certain that it is one. Raises ValueError."""
    if _HASH.fullmatch(recording.sha256) is None:
        raise ValueError("its hash is none")
    if not 0 <= recording.frames <= _MOST_FRAMES or abs(recording.cents) > _MOST_CENTS:
        raise ValueError("its length or tuning is impossible")
    times = recording.beats.times
    if any(not -_MOST_SECONDS <= time <= _MOST_SECONDS for time in (*times, *(recording.loop or ()))):
        raise ValueError("its beats lie beyond any recording")
    if not 1 <= recording.beats.swing <= _MOST_SWING:
        raise ValueError("its swing is impossible")
    if "\0" in recording.path + recording.name:
        raise ValueError("its file has an impossible name")
    return recording


_MOST_CENTS, _MOST_SECONDS, _MOST_SWING = 2400, 100_000, 5

RECORDING_DOCUMENT = DocumentKind("gavotte-recording", 2, "recording", Recording, {1: with_version(2)}, _checked)


def file_of(library_folder: Path, recording: Recording) -> Path:
    """Where a recording's file should be.

    One that was copied lies in the library's own folder of recordings, whatever its path says: what comes from an
    archive or another database leads nowhere else.
    """
    if not recording.copied:
        return Path(recording.path)
    folder = library_folder / FOLDER
    file = library_folder / recording.path
    if file.parent.resolve() == folder.resolve() and not file.is_symlink():
        return file
    return folder / f"not here {Path(recording.path).name}"


def own_name(recording: Recording) -> str:
    """What a recording's file is called in the library: no other recording is called so."""
    name = Path(recording.name).name.encode("utf-8", "replace")[-_LONGEST_NAME:].decode("utf-8", "ignore")
    return f"{recording.sha256[:12]} {name}"


def copied_into(library_folder: Path, recording: Recording) -> Recording:
    """The recording with its file copied into the library, whole or not at all. Raises LibraryError."""
    source = Path(recording.path)
    relative = Path(FOLDER) / own_name(recording)
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
