"""The sound files of takes: packed once they are recorded, and read where they were recorded elsewhere."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from gavotte.desktop.activity import Activities
from gavotte.desktop.translation import translate
from gavotte.formats.whole_file import whole_file
from gavotte.recording.decode import Decoded, decode
from gavotte.recording.player import RATE


def keep_sound(
    activities: Activities,
    owner: object,
    samples: Path,
    packed: Path,
    then: Callable[[], None],
    failed: Callable[[str], None],
) -> None:
    """Pack recorded samples into a FLAC file, whole or not at all; the samples stay where that fails."""

    def work() -> None:
        import soundfile

        count = samples.stat().st_size // 4
        sound = np.memmap(samples, np.int16, "r", shape=(count, 2)) if count else np.zeros((0, 2), np.int16)
        packed.parent.mkdir(parents=True, exist_ok=True)
        with whole_file(packed) as draft:
            soundfile.write(draft, sound[:, :1], RATE, format="FLAC", subtype="PCM_16")
        samples.unlink(missing_ok=True)

    def fail(error: Exception) -> None:
        words = translate("Gavotte", "The take's sound can't be packed: {error}. Its samples are kept in {file}.")
        failed(words.format(error=error, file=samples))

    activities.beside(owner, work, lambda _: then(), fail, apart=True)


def open_sound(
    activities: Activities,
    owner: object,
    path: Path,
    folder: Path,
    then: Callable[[NDArray[np.int16]], None],
    failed: Callable[[str], None],
) -> None:
    """Decode a sound file, with what is to be said about it."""

    def take(decoded: Decoded) -> None:
        for remark in decoded.remarks:
            failed(remark)
        then(decoded.samples())

    activities.walk(
        owner,
        lambda: decode(path, folder),
        take,
        lambda error: failed(f"{path.name}: {error}"),
        translate("Gavotte", "Opening the take"),
        lambda: None,
        apart=True,
    )
