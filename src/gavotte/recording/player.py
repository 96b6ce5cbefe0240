"""The player: a recording at any speed with its pitch kept, looped without a gap, a part of it brought out.

It pulls nothing and knows no clock: whoever calls ``read`` decides how time passes. The seam of a loop lies in what is
fed to the stretcher, so it never drifts. All methods may be called from different threads.
"""

from __future__ import annotations

import threading
from bisect import bisect_left
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from gavotte.recording.filters import BandPass, Block, Side, on_side
from gavotte.recording.rubber_band import CRISP_BELOW, Stretcher

RATE = 44100
"""Frames a second, of the recordings as they are kept and of what is played."""

SLOWEST, FASTEST = 0.2, 1.3
_FEED = 512
_SEAM = round(0.008 * RATE)
"""Frames over which a loop's end goes over into its beginning."""

_CLICK_HZ, _STRONG_CLICK_HZ, _CLICK_SECONDS = 1500.0, 2200.0, 0.03


class Samples(Protocol):
    """A recording's frames: an array of int16, shape (frames, 2), in memory or in a file."""

    def __getitem__(self, index: slice, /) -> NDArray[np.int16]: ...

    def __len__(self) -> int: ...


@dataclass(frozen=True)
class Ladder:
    """Practice that gets faster: begin at ``start`` and add ``step`` after every ``passes`` passes, up to ``top``."""

    start: float = 0.5
    step: float = 0.05
    passes: int = 3
    top: float = 1.0


@dataclass(frozen=True)
class Click:
    """A click at ``seconds`` of the recording."""

    seconds: float
    strong: bool


class RecordingPlayer:
    """Plays one recording. Positions are frames of it; speeds are shares of its own."""

    def __init__(self, samples: Samples) -> None:
        """Ready at the start of ``samples``, stopped."""
        self._samples = samples
        self._lock = threading.RLock()
        self._stretcher: Stretcher | None = None
        self._band = BandPass(RATE)
        self._side = Side.BOTH
        self._speed, self._pitch = 1.0, 1.0
        self._start, self._stop, self._loop = 0, len(samples), False
        self._pause = 0.0
        self._ladder: Ladder | None = None
        self._passes = 0
        self._fed = 0
        self._silence = 0
        self._buffer: list[Block] = []
        self._ready = 0
        self._position = 0.0
        self._waiting = 0.0
        self._playing = False
        self._click_times: list[float] = []
        self._click_strong: list[bool] = []
        self._click_level = 0.0
        self._level = 1.0
        self._tail = np.zeros(0, np.float32)

    # -- state --------------------------------------------------------------------------------------

    @property
    def is_playing(self) -> bool:
        """Whether there is more to come."""
        return self._playing

    @property
    def frames(self) -> int:
        """How long the recording is."""
        return len(self._samples)

    @property
    def position(self) -> float:
        """The frame that is heard next."""
        return self._position

    @property
    def speed(self) -> float:
        """The speed in use; a ladder changes it."""
        return self._speed

    @property
    def passes(self) -> int:
        """How many times the loop has been played whole since it was begun."""
        return self._passes

    def set_speed(self, speed: float) -> None:
        """Play at a share of the recording's own speed, also while playing."""
        with self._lock:
            before, self._speed = self._speed, max(SLOWEST, min(FASTEST, speed))
            if self._stretcher is None:
                return
            if (before < CRISP_BELOW) != (self._speed < CRISP_BELOW):
                # Each of the two is done best by a stretcher of its own kind, which goes on from here.
                self._restart()
            else:
                self._stretcher.set_speed(self._speed)

    def set_pitch(self, cents: float) -> None:
        """Move the pitch by cents (100 to a semitone), also while playing."""
        with self._lock:
            before, self._pitch = self._pitch, 2 ** (cents / 1200)
            if self._stretcher is None:
                return
            if (before == 1.0) != (self._pitch == 1.0):
                # Each of the two is done best by a stretcher of its own kind, which goes on from here.
                self._restart()
            else:
                self._stretcher.set_pitch(self._pitch)

    def set_side(self, side: Side) -> None:
        """Hear a side of the stereo picture."""
        with self._lock:
            self._side = side

    def set_band(self, band: tuple[float, float] | None) -> None:
        """Hear a band of frequencies (Hz), or with None all of them."""
        with self._lock:
            self._band.set_band(band)

    def set_region(self, start: int, stop: int, loop: bool) -> None:
        """Play from ``start`` up to ``stop``, once or round and round, from where it is if that lies inside."""
        with self._lock:
            self._start, self._stop = max(0, start), min(len(self._samples), max(stop, start + 1))
            self._loop = loop
            self._passes = 0
            if self._playing and loop and not self._start <= self._position < self._stop:
                self.seek(self._start)

    def set_pause(self, seconds: float) -> None:
        """Wait between two passes of a loop."""
        with self._lock:
            self._pause = max(0.0, seconds)

    def set_ladder(self, ladder: Ladder | None) -> None:
        """Get faster from pass to pass, from the ladder's start on; None stays at the speed it is."""
        with self._lock:
            self._ladder = ladder
            self._passes = 0
            if ladder is not None:
                self.set_speed(ladder.start)

    def set_clicks(self, clicks: Sequence[Click], level: float) -> None:
        """Click at these places of the recording; level 0 to 1."""
        with self._lock:
            self._click_times = [click.seconds * RATE for click in clicks]
            self._click_strong = [click.strong for click in clicks]
            self._click_level = level

    def set_level(self, level: float) -> None:
        """How loud the recording is, 0 to 1."""
        self._level = max(0.0, min(1.0, level))

    # -- playing ------------------------------------------------------------------------------------

    def play(self, frame: int | None = None) -> None:
        """Start at a frame, by default at the start of the region."""
        with self._lock:
            self.seek(self._start if frame is None else frame)
            self._playing = True

    def stop(self) -> None:
        """Stop; the position stays."""
        with self._lock:
            self._playing = False

    def seek(self, frame: int) -> None:
        """Go on from another frame."""
        with self._lock:
            self._position = float(max(0, min(frame, len(self._samples))))
            self._silence, self._waiting = 0, 0.0
            self._restart()

    def _restart(self) -> None:
        """Go on from the present position with nothing of what was before in the pipe."""
        self._fed = max(0, min(round(self._position), len(self._samples)))
        self._buffer, self._ready = [], 0
        if self._stretcher is not None:
            self._stretcher.close()
            self._stretcher = None
        if self._is_changed:
            self._stretcher = Stretcher(RATE, _FEED, self._speed, self._pitch)

    @property
    def _is_changed(self) -> bool:
        return self._speed != 1.0 or self._pitch != 1.0

    def read(self, frames: int) -> Block:
        """The next block to be heard: float32, shape (frames, 2); silence once it has stopped."""
        with self._lock:
            if not self._playing:
                return np.zeros((frames, 2), np.float32)
            # At its own speed and pitch the recording passes untouched until something is changed.
            if self._stretcher is None and self._is_changed:
                self._stretcher = Stretcher(RATE, _FEED, self._speed, self._pitch)
            while self._ready < frames:
                self._feed()
            whole = np.concatenate(self._buffer)
            self._buffer, self._ready = [whole[frames:]], len(whole) - frames
            block = whole[:frames] * np.float32(self._level)
            return block + self._advance(frames)

    def _feed(self) -> None:
        block = self._source(_FEED)
        block = self._band.run(on_side(block, self._side))
        if self._stretcher is not None:
            self._stretcher.feed(block)
            block = self._stretcher.take()
        if len(block):
            self._buffer.append(block)
            self._ready += len(block)

    def _source(self, frames: int) -> Block:
        """The next frames of the recording, with the loop's seam and the pause in them."""
        parts: list[Block] = []
        while frames > 0:
            if self._silence:
                step = min(frames, self._silence)
                parts.append(np.zeros((step, 2), np.float32))
                self._silence -= step
                frames -= step
                continue
            end = self._stop if self._loop and self._fed < self._stop else len(self._samples)
            end = self._stop if not self._loop and self._fed < self._stop else end
            step = min(frames, end - self._fed)
            if step > 0:
                parts.append(self._taken(self._fed, step, end))
                self._fed += step
                frames -= step
            if self._fed >= end:
                if not self._loop:
                    parts.append(np.zeros((frames, 2), np.float32))
                    break
                self._fed = self._start
                # Silence is stretched like everything else.
                self._silence = round(self._pause * RATE * self._speed)
        return np.concatenate(parts)

    def _taken(self, start: int, count: int, end: int) -> Block:
        """Some frames of the recording; the last of a loop go over into what lies before its beginning, both equally
        loud.
        """
        block = _plain(self._samples, start, count)
        seam = min(_SEAM, (end - self._start) // 4)
        first = end - seam
        if self._pause and self._loop and self._start <= start < self._start + seam:
            # Out of silence, too, it comes without a click.
            block *= np.clip((np.arange(start, start + count) - self._start) / seam, 0, 1)[:, None].astype(np.float32)
        if not self._loop or end != self._stop or start + count <= first or seam < 2:
            return block
        low = max(start, first)
        angle = (np.arange(low, start + count, dtype=np.float32) - first + 0.5) * np.float32(np.pi / 2 / seam)
        if self._pause:
            coming: Block | float = 0.0
        else:
            coming = _plain(self._samples, self._start - (end - low), start + count - low)
        block[low - start :] = block[low - start :] * np.cos(angle)[:, None] + coming * np.sin(angle)[:, None]
        return block

    def _advance(self, frames: int) -> Block:
        """Move the position by what is heard; gives the clicks that fall into it."""
        clicks = np.zeros((frames, 2), np.float32)
        self._ring(clicks)
        done = 0
        while done < frames and self._playing:
            if self._waiting > 0:
                step = min(frames - done, int(np.ceil(self._waiting)))
                self._waiting -= step
                done += step
                continue
            end = float(self._stop if self._position < self._stop else len(self._samples))
            left = max(1, int(np.ceil((end - self._position) / self._speed)))
            step = min(frames - done, left)
            self._click(clicks, done, step)
            self._position += step * self._speed
            done += step
            if self._position >= end:
                self._come_round(end)
        return clicks

    def _come_round(self, end: float) -> None:
        if not self._loop:
            self._position = end
            self._playing = False
            return
        self._position = self._start + (self._position - end)
        self._waiting = self._pause * RATE
        self._passes += 1
        ladder = self._ladder
        if ladder is not None and self._passes % ladder.passes == 0:
            self.set_speed(min(ladder.top, self._speed + ladder.step))

    def _click(self, out: Block, offset: int, frames: int) -> None:
        if not self._click_level:
            return
        first = bisect_left(self._click_times, self._position)
        last = bisect_left(self._click_times, self._position + frames * self._speed)
        for index in range(first, last):
            at = offset + int((self._click_times[index] - self._position) / self._speed)
            sound = _click_sound(self._click_strong[index]) * np.float32(self._click_level)
            fits = min(len(sound), len(out) - at)
            out[at : at + fits] += sound[:fits, None]
            self._tail = sound[fits:]

    def _ring(self, out: Block) -> None:
        """What still rings of a click in the block before."""
        fits = min(len(self._tail), len(out))
        if fits:
            out[:fits] += self._tail[:fits, None]
            self._tail = self._tail[fits:]


def _plain(samples: Samples, start: int, count: int) -> Block:
    """Some frames as floats, silence before the first."""
    before = min(count, max(0, -start))
    taken = np.asarray(samples[max(0, start) : max(0, start + count)]).astype(np.float32) * np.float32(1 / 32768)
    return np.concatenate([np.zeros((before, 2), np.float32), taken]) if before else taken


def _click_sound(strong: bool) -> NDArray[np.float32]:
    times = np.arange(int(RATE * _CLICK_SECONDS)) / RATE
    hertz = _STRONG_CLICK_HZ if strong else _CLICK_HZ
    return (0.6 * np.sin(2 * np.pi * hertz * times) * np.exp(-times / 0.006)).astype(np.float32)
