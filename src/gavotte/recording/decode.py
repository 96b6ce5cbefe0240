"""Decoding a file into the form recordings are played and drawn from: 16-bit stereo at 44,100 Hz in a file of its own.

The whole of it never lies in memory. What is decoded is kept under the file's hash, so that it is decoded once.
"""

from __future__ import annotations

import errno
import hashlib
import os
import threading
from collections.abc import Generator
from dataclasses import dataclass
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from gavotte.recording.errors import RecordingError
from gavotte.recording.player import RATE
from gavotte.regular_file import regular_file

SUFFIXES = (".wav", ".flac", ".ogg", ".oga", ".opus", ".mp3", ".aif", ".aiff")
MAX_SECONDS = 60 * 60
_BLOCK = 1 << 16
_HASH_BLOCK = 1 << 20
_HASH_SHARE = 0.1
_SILENT, _CLIPPED_SHARE = 0.0005, 0.01


@dataclass(frozen=True)
class Decoded:
    """A decoded recording: its frames on disk, and what is to be said about it."""

    path: Path
    frames: int
    remarks: tuple[str, ...] = ()

    def samples(self) -> NDArray[np.int16]:
        """The frames, int16, shape (frames, 2), read from the file as they are needed."""
        return np.memmap(self.path, np.int16, "r", shape=(self.frames, 2))

    @property
    def sha256(self) -> str:
        """The hash of the file it was decoded from."""
        return self.path.stem

    @property
    def seconds(self) -> float:
        """How long it is."""
        return self.frames / RATE


def decode(path: Path, folder: Path) -> Generator[float, None, Decoded]:
    """Decode ``path`` into ``folder``, yielding the share that is done; returns what it holds.

    Raises RecordingError for what is no recording, or OSError.
    """
    import soundfile

    digest = hashlib.sha256()
    with regular_file(path) as file:
        size = os.fstat(file.fileno()).st_size
        if size == 0:
            raise RecordingError("The file is empty.")
        while block := file.read(_HASH_BLOCK):
            digest.update(block)
            if file.tell() > size:
                raise RecordingError("The file is still being written. Wait until it is whole.")
            yield _HASH_SHARE * file.tell() / size
    kept = folder / f"{digest.hexdigest()}.pcm"
    if kept.exists() and kept.stat().st_size:
        return Decoded(kept, kept.stat().st_size // 4)
    folder.mkdir(parents=True, exist_ok=True)
    draft = kept.with_suffix(f".{os.getpid()}-{threading.get_ident()}.part")
    try:
        with soundfile.SoundFile(str(path)) as source, draft.open("wb") as out:
            remarks = yield from _copy(source, out)
        frames = draft.stat().st_size // 4
        if frames == 0:
            raise RecordingError("There is no sound in the file; it may be cut off.")
        os.replace(draft, kept)
    except soundfile.LibsndfileError as error:
        # Of a damaged MP3 the decoder says that there is no file.
        why = "" if "does not exist" in error.error_string else f" ({error.error_string.rstrip('.')})"
        raise RecordingError(
            f"The file can't be decoded{why}. It may be damaged, or of another kind than "
            "its name says; Gavotte reads WAV, FLAC, OGG, Opus, MP3 and AIFF."
        ) from error
    except OSError as error:
        if error.errno != errno.ENOSPC:
            raise
        raise RecordingError(
            "The disk is full. Make room (about 10 MB a minute) and open the recording again."
        ) from error
    finally:
        draft.unlink(missing_ok=True)
    return Decoded(kept, frames, remarks)


def _copy(source: object, out: object) -> Generator[float, None, tuple[str, ...]]:
    import soundfile
    import soxr

    assert isinstance(source, soundfile.SoundFile)
    rate, expected = source.samplerate, source.frames
    if expected > MAX_SECONDS * rate:
        raise RecordingError("The recording lasts more than an hour; cut out the part you want to work on.")
    resample = soxr.ResampleStream(rate, RATE, 2, dtype="float32") if rate != RATE else None
    read, loudest, clipped = 0, 0.0, 0
    while True:
        block = source.read(_BLOCK, dtype="float32", always_2d=True)
        last = len(block) < _BLOCK
        read += len(block)
        stereo = np.repeat(block, 2, axis=1) if block.shape[1] == 1 else block[:, :2]
        stereo = np.nan_to_num(np.ascontiguousarray(stereo))
        if len(stereo):
            loudest = max(loudest, float(np.abs(stereo).max()))
            clipped += int((np.abs(stereo) >= 0.999).sum())
        if resample is not None:
            stereo = resample.resample_chunk(stereo, last=last)
        out.write((np.clip(stereo, -1, 1) * 32767).astype("<i2").tobytes())  # type: ignore[attr-defined]
        yield _HASH_SHARE + (1 - _HASH_SHARE) * min(1.0, read / max(1, expected))
        if last:
            break
    remarks = []
    if read < 0.98 * expected:
        remarks.append(
            f"The file says it lasts {expected / rate:.0f} seconds, but only {read / rate:.0f} are there: it is cut."
        )
    if loudest < _SILENT:
        remarks.append("The recording is silent.")
    elif clipped > _CLIPPED_SHARE * 2 * read:
        remarks.append("The recording is overdriven: its peaks are cut off.")
    return tuple(remarks)
