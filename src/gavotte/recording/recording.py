"""A solo's recording as the library keeps it: where its file is, and what was found out about it."""

from __future__ import annotations

from dataclasses import dataclass, field

from gavotte.recording.beat_map import BeatMap


@dataclass(frozen=True)
class Recording:
    """``path`` is inside the library's folder where the file was ``copied``, else absolute. ``frames`` count at RATE.

    ``cents`` is how far its pitch is moved when it is played (an old record that runs sharp), ``loop`` the last loop in
    seconds.
    """

    name: str
    path: str
    copied: bool
    sha256: str
    frames: int
    beats: BeatMap = field(default_factory=BeatMap)
    cents: float = 0.0
    loop: tuple[float, float] | None = None
