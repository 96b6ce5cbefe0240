"""Taking a take: the microphone is open while the run goes, it is listened to on the way, and judged at the end."""

from __future__ import annotations

import time
import uuid
from collections.abc import Callable, Generator
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QObject, pyqtSignal

from gavotte.desktop.activity import Activities
from gavotte.desktop.playback.microphone import Microphone, SimulatedMicrophone
from gavotte.desktop.playback.midi_keyboard import MidiKeyboard
from gavotte.desktop.translation import translate
from gavotte.practice.due import DueLine
from gavotte.practice.hearing import (
    PIECE_SECONDS,
    Piece,
    hear_piece,
    hear_pieces,
    hear_take,
    joined,
    judged_by_ear,
    taker_of,
)
from gavotte.practice.judging import nothing_of, take_of_notes
from gavotte.practice.take import Take
from gavotte.recording.capture import Capture
from gavotte.recording.draft import Player
from gavotte.recording.errors import RecordingError
from gavotte.recording.line import DraftNote
from gavotte.sounding.timeline import DEFAULT_TEMPO, Timeline
from gavotte.steps import scaled

_BEHIND, _EARLY = 0.6, 0.3
"""Seconds that must have been recorded past a piece before it is listened to; and how early a note of a pass may be."""


Instead = Callable[[NDArray[np.int16], float], Generator[float, None, object]]
"""What is made of samples, bar 1 at a second of them."""


class Recorder(QObject):
    """Records into the folder of takes. ``level`` is how loud it is now, 0 to 1.

    Signals: ``level_changed``; ``taken(take, path, remarks)``, judged, with the file of its samples (None where it has
    none here); ``made(what, path, remarks)``, the same where something else than a verdict was wished;
    ``passed(line, take)``, one pass of a run was judged while the next goes on; ``failed(message)``, something went
    wrong; ``stopped``, the source is closed.
    """

    level_changed = pyqtSignal()
    taken = pyqtSignal(object, object, object)
    made = pyqtSignal(object, object, object)
    passed = pyqtSignal(object, object)
    failed = pyqtSignal(str)
    stopped = pyqtSignal()

    def __init__(self, folder: Path, activities: Activities, parent: QObject) -> None:
        super().__init__(parent)
        self._folder, self._activities = folder, activities
        self._source: Microphone | None = None
        self._capture: Capture | None = None
        self._line: DueLine | None = None
        self._player: Player | None = None
        self._tempo: float | None = None
        self._start: float | None = None
        self._instead: Instead | None = None
        self._pieces: list[Piece] = []
        self._listening_for = QObject(self)
        self._by_pass = False
        self._last_pass: Take | None = None
        self.level = 0.0
        self._keyboard: MidiKeyboard | None = None
        self._down: dict[int, float] = {}
        self._keys: list[DraftNote] = []
        self.clock: Callable[[], float] = time.monotonic

    @property
    def is_recording(self) -> bool:
        """Whether a take is being recorded."""
        return self._source is not None or self._keyboard is not None

    @property
    def is_of_keys(self) -> bool:
        """Whether it is a keyboard's, and no microphone is open."""
        return self._keyboard is not None

    @property
    def is_judging(self) -> bool:
        """Whether a take is being judged."""
        return bool(self._activities.of(self))

    @property
    def now(self) -> float:
        """Seconds since the recording began."""
        if self._keyboard is not None:
            return self.clock()
        return self._capture.seconds if self._capture is not None else 0.0

    def begin(
        self,
        source: Microphone,
        line: DueLine,
        tempo: float,
        instead: Instead | None = None,
        by_pass: bool = False,
    ) -> bool:
        """Record from a source, what is to be played at a tempo (quarter notes a minute); False where that fails.

        ``instead`` makes something else of the samples than a verdict; it is told when bar 1 was to begin. ``by_pass``:
        each pass is judged by itself once it is over, and in the end the last one is the take.
        """
        self.cancel()
        try:
            self._capture = Capture(self._folder / f"{uuid.uuid4().hex}.part")
        except OSError as error:
            words = translate(
                "Gavotte", "No take can be recorded in {folder}: {error}. Make room, or allow writing there."
            )
            self.failed.emit(words.format(folder=self._folder, error=error.strerror or error))
            return False
        self._line, self._tempo, self._pieces, self._start = line, tempo, [], None
        self._instead, self._by_pass, self._last_pass = instead, by_pass, None
        self._player = taker_of(line)
        source.heard.connect(self._take_in)
        source.stopped.connect(self._lost)
        self._source = source
        if not source.open():
            self._let_go()
            self._drop_file()
            return False
        return True

    def begin_keys(self, keyboard: MidiKeyboard, line: DueLine, tempo: float, by_pass: bool = False) -> bool:
        """Record what is played on a keyboard that is open."""
        self.cancel()
        self._by_pass, self._last_pass = by_pass, None
        self._line, self._tempo, self._keyboard, self._start = line, tempo, keyboard, None
        self._down, self._keys = {}, []
        keyboard.played.connect(self._pressed)
        keyboard.released.connect(self._released)
        return True

    def begins_in(self, seconds: float) -> None:
        """The music begins so many seconds from now: what is to be played is looked for there."""
        if self._keyboard is not None:
            self._start = self.clock() + seconds
        elif self._capture is not None:
            self._start = self._capture.seconds + seconds
            if isinstance(self._source, SimulatedMicrophone):
                self._source.begin_in(seconds)

    def _pressed(self, midi: int) -> None:
        self._released(midi)
        self._down[midi] = self.clock()

    def _released(self, midi: int) -> None:
        start = self._down.pop(midi, None)
        if start is not None:
            self._keys.append(DraftNote(start, max(start + 0.01, self.clock()), midi, 1.0))

    def _end_keys(self) -> None:
        """Judge what was played on the keyboard."""
        keyboard, line, tempo, start = self._keyboard, self._line, self._tempo, self._start
        for midi in list(self._down):
            self._released(midi)
        self._let_keys_go()
        if keyboard is None or line is None:
            return
        if self._last_pass is not None:
            self.taken.emit(self._last_pass, None, ())
            return
        notes = sorted(self._keys, key=lambda note: note.start)
        self._activities.beside(
            self,
            lambda: take_of_notes(line, notes, tempo, start),
            lambda take: self.taken.emit(take, None, ()),
            self._not_judged,
        )

    def _let_keys_go(self) -> None:
        keyboard, self._keyboard = self._keyboard, None
        if keyboard is not None:
            keyboard.played.disconnect(self._pressed)
            keyboard.released.disconnect(self._released)
            self.stopped.emit()

    def _take_in(self, block: NDArray[np.int16]) -> None:
        if self._capture is None:
            return
        try:
            self._capture.append(block)
        except RecordingError as error:
            self.failed.emit(str(error))
            self.end()
            return
        self.level = float(np.abs(block.astype(np.int32)).max()) / 32767 if len(block) else 0.0
        self.level_changed.emit()
        self._listen_on_the_way()

    def _listen_on_the_way(self) -> None:
        """Listen to the next piece as soon as it is whole: then little is left to be heard at the end."""
        capture, player, number = self._capture, self._player, len(self._pieces)
        until = (number + 1) * PIECE_SECONDS
        if capture is None or player is None or self._instead or self._by_pass or capture.seconds < until + _BEHIND:
            return
        if self._activities.of(self._listening_for):
            return
        samples = capture.samples()
        self._activities.walk(
            self._listening_for,
            lambda: hear_piece(samples, player, until - PIECE_SECONDS, until),
            self._pieces.append,
            lambda _: None,
            "",
            lambda: None,
        )

    def pass_over(self, line: DueLine, onset: Fraction, start: float, end: float, tempo: float) -> None:
        """A pass from ``onset`` on (quarter notes) is over, played from ``start`` to ``end`` (see ``now``) at a tempo
        (quarter notes a minute).
        """
        if not self._by_pass or not line.notes:
            return
        first = float(line.solo.tempo or DEFAULT_TEMPO)
        begun = start - Timeline(line.solo).seconds(onset) * first / tempo
        if self._keyboard is not None:
            keys = sorted((note for note in self._keys if start - _EARLY <= note.start < end), key=lambda n: n.start)
            self._activities.beside(
                self._listening_for,
                lambda: take_of_notes(line, keys, tempo, begun),
                lambda take: self._passed(line, take),
                self._not_judged,
            )
            return
        capture, player = self._capture, self._player
        if capture is None or player is None or self._activities.of(self._listening_for):
            return
        until = min(end + _BEHIND, capture.seconds)

        def steps() -> Generator[float, None, Take]:
            samples = capture.samples()
            pieces = yield from scaled(hear_pieces(samples, player, max(0.0, start - _EARLY), until), 0.0, 0.9)
            take = yield from scaled(judged_by_ear(joined(pieces), line, tempo, begun), 0.9, 1.0)
            # What belongs to the passes before and behind was heard too.
            return replace(take, added=tuple(extra for extra in take.added if start <= extra.seconds < end))

        self._activities.walk(
            self._listening_for, steps, lambda take: self._passed(line, take), lambda _: None, "", lambda: None
        )

    def _passed(self, line: DueLine, take: Take) -> None:
        self._last_pass = take
        self.passed.emit(line, take)

    def _lost(self, message: str) -> None:
        self.failed.emit(message)
        self.end()

    def end(self) -> None:
        """Close the microphone, and judge what was recorded."""
        if self._keyboard is not None:
            self._end_keys()
        if self._source is None:
            return
        self._let_go()
        capture, line, player = self._capture, self._line, self._player
        tempo, begun = self._tempo, self._start
        if capture is None or line is None or player is None:
            return
        capture.close()
        if self._instead is not None:
            self._make(self._instead, capture)
            return
        if self._last_pass is not None:
            self._activities.cancel(self._listening_for)
            self.taken.emit(self._last_pass, capture.path, capture.remarks())
            return
        known = list(self._pieces)
        self._activities.cancel(self._listening_for)
        remarks = capture.remarks()

        def steps() -> Generator[float, None, Take]:
            samples, pieces = capture.samples(), list(known)
            start, end = len(pieces) * PIECE_SECONDS, capture.seconds
            if end - start > 0.1 or not pieces:
                if end < 0.3:
                    return nothing_of(line, tempo)
                pieces += yield from scaled(hear_pieces(samples, player, start, end), 0.0, 0.9)
            return (yield from scaled(judged_by_ear(joined(pieces), line, tempo, begun), 0.9, 1.0))

        self._activities.walk(
            self,
            steps,
            lambda take: self.taken.emit(take, capture.path, remarks),
            self._not_judged,
            translate("Gavotte", "Listening to the take"),
            self._drop_file,
        )

    def _make(self, instead: Instead, capture: Capture) -> None:
        """Make something else of what was recorded."""
        begun, remarks = self._start or 0.0, capture.remarks()
        self._activities.walk(
            self,
            lambda: instead(capture.samples(), begun),
            lambda what: self.made.emit(what, capture.path, remarks),
            self._not_judged,
            translate("Gavotte", "Writing down what was played"),
            self._drop_file,
        )

    def _not_judged(self, error: Exception) -> None:
        self.failed.emit(translate("Gavotte", "The take can't be judged: {error}").format(error=error))

    def judge_file(self, samples: NDArray[np.int16], line: DueLine, tempo: float) -> None:
        """Judge a take that was recorded elsewhere."""
        self._activities.walk(
            self,
            lambda: hear_take(samples, line, tempo),
            lambda take: self.taken.emit(take, None, ()),
            self._not_judged,
            translate("Gavotte", "Listening to the take"),
            lambda: None,
        )

    def cancel(self) -> None:
        """Throw away what is recorded or judged just now."""
        self._activities.cancel(self)
        self._activities.cancel(self._listening_for)
        self._let_keys_go()
        if self._source is not None:
            self._let_go()
            self._drop_file()

    def _let_go(self) -> None:
        source, self._source = self._source, None
        if source is not None:
            source.heard.disconnect(self._take_in)
            source.stopped.disconnect(self._lost)
            source.close()
        self.level = 0.0
        self.level_changed.emit()
        self.stopped.emit()

    def _drop_file(self) -> None:
        capture, self._capture = self._capture, None
        if capture is not None:
            capture.close()
            capture.path.unlink(missing_ok=True)
