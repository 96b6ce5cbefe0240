"""The engine: plays a performance block by block, at any tempo, in a loop if wished.

It knows no clock and no sound card: whoever calls ``read`` decides how time passes. All methods may be called
from different threads.
"""

from __future__ import annotations

import threading
from bisect import bisect_left
from collections.abc import Iterable
from dataclasses import replace
from math import ceil
from typing import TYPE_CHECKING

from gavotte.sounding.events import Cue, CueKind, Performance, Sound, Voice, cues_of
from gavotte.sounding.synth import SAMPLE_RATE, Synth

if TYPE_CHECKING:
    from gavotte.sounding.synth import Block

SLOWEST, FASTEST = 0.25, 1.3
"""How far the tempo can be turned down and up by hand."""

_LEAST, _MOST = 0.05, 8.0


class Engine:
    """Plays one performance at a time on a synthesiser."""

    def __init__(self, synth: Synth) -> None:
        self._synth = synth
        self._lock = threading.RLock()
        self._cues: list[Cue] = []
        self._held: list[Sound] = []
        self._chords_program = 0
        self._index = 0
        self._position = self._start = self._stop = 0.0
        self._loop = False
        self._rate = 1.0
        self._count: list[Cue] = []
        self._count_left = 0.0
        self._playing = False

    @property
    def synth(self) -> Synth:
        """What is played on."""
        return self._synth

    def use(self, synth: Synth) -> None:
        """Play on another synthesiser from now on."""
        with self._lock:
            self._synth, self._chords_program = synth, 0

    @property
    def is_playing(self) -> bool:
        """Whether there is more to come."""
        return self._playing

    @property
    def position(self) -> float:
        """Nominal seconds of what comes next; during a count-in, how far before the start it is."""
        with self._lock:
            return self._position - self._count_left

    @property
    def is_counting_in(self) -> bool:
        """Whether the count before the start is going on."""
        return self._count_left > 0

    def start(
        self,
        performance: Performance,
        start: float,
        stop: float,
        loop: bool = False,
        count: Iterable[Sound] = (),
        count_seconds: float = 0.0,
    ) -> None:
        """Play from ``start`` to ``stop`` (nominal seconds), once or in a loop, after a count-in."""
        with self._lock:
            self._synth.silence()
            self._synth.program(performance.program)
            if performance.chords_program != self._chords_program:
                self._chords_program = performance.chords_program
                self._synth.program(self._chords_program, Voice.CHORDS)
            self._cues, self._held = performance.cues, performance.held
            self._start, self._stop, self._loop = start, stop, loop and stop > start
            self._count, self._count_left = cues_of(count), count_seconds
            # The count is timed backwards from the start, so that it follows the tempo like everything else.
            self._count = [replace(cue, time=cue.time - count_seconds) for cue in self._count]
            self._go_to(start)
            self._playing = True

    def stop(self) -> None:
        """Stop at once."""
        with self._lock:
            self._playing = False
            self._synth.silence()

    def set_rate(self, rate: float) -> None:
        """Play at a share of the tempo, also while playing."""
        with self._lock:
            self._rate = max(_LEAST, min(_MOST, rate))

    def set_loop(self, loop: bool) -> None:
        """Go round, or end at the next end."""
        with self._lock:
            self._loop = loop and self._stop > self._start

    def sound_once(self, key: int, loudness: int = 84, program: int | None = None) -> None:
        """Begin a single note (a preview); ``hush`` ends it."""
        with self._lock:
            if program is not None:
                self._synth.program(program)
            self._synth.bend(Voice.SOLO, 0.0)
            self._synth.note_on(Voice.SOLO, key, loudness)

    def hush(self, key: int) -> None:
        """End a previewed note."""
        with self._lock:
            self._synth.note_off(Voice.SOLO, key)

    def level(self, voice: Voice, level: float) -> None:
        """Set a voice's level, 0 to 1."""
        with self._lock:
            self._synth.level(voice, level)

    def read(self, frames: int) -> Block:
        """The next block of sound: float32, shape (frames, 2). Silence, with what still rings, after the end."""
        import numpy as np

        blocks: list[Block] = []
        with self._lock:
            while frames > 0:
                if not self._playing:
                    blocks.append(self._synth.render(frames))
                    break
                step = min(frames, self._frames_to_next())
                if step:
                    blocks.append(self._synth.render(step))
                    self._advance(step * self._rate / SAMPLE_RATE)
                    frames -= step
                self._fire()
        return np.concatenate(blocks) if blocks else np.zeros((0, 2), np.float32)

    def _go_to(self, position: float) -> None:
        self._position = position
        self._index = bisect_left(self._cues, position - 1e-9, key=lambda cue: cue.time)
        for sound in self._held:
            if sound.start < position - 1e-9 and position < sound.end:
                self._synth.note_on(sound.voice, sound.key, sound.loudness)

    def _frames_to_next(self) -> int:
        """Frames until something happens."""
        if self._count_left > 0:
            now = -self._count_left
            then = self._count[0].time if self._count else 0.0
        else:
            now = self._position
            then = self._cues[self._index].time if self._index < len(self._cues) else self._stop
            then = min(then, self._stop)
        return max(0, ceil((then - now) * SAMPLE_RATE / self._rate - 1e-6))

    def _advance(self, seconds: float) -> None:
        if self._count_left > 0:
            self._count_left = max(0.0, self._count_left - seconds)
        else:
            self._position += seconds

    def _fire(self) -> None:
        """Tell the synthesiser all that is due, and turn round or end where the end is reached."""
        edge = 1e-6
        if self._count_left > 0 or self._count:
            while self._count and self._count[0].time <= -self._count_left + edge:
                self._tell(self._count.pop(0))
            if self._count_left > edge:
                return
            self._count, self._count_left = [], 0.0
        while self._index < len(self._cues) and self._cues[self._index].time <= self._position + edge:
            cue = self._cues[self._index]
            if cue.kind != CueKind.ON or cue.time < self._stop - edge:
                self._tell(cue)
            self._index += 1
        if self._position >= self._stop - edge:
            self._synth.silence()
            if self._loop:
                self._go_to(self._start)
            else:
                self._playing = False

    def _tell(self, cue: Cue) -> None:
        if cue.kind == CueKind.ON:
            self._synth.note_on(cue.voice, cue.key, int(cue.value))
        elif cue.kind == CueKind.OFF:
            self._synth.note_off(cue.voice, cue.key)
        else:
            self._synth.bend(cue.voice, cue.value)
