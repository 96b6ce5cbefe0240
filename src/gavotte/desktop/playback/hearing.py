"""Hearing the open solo's recording: where its bars lie in it, and the stretch that goes round and round."""

from __future__ import annotations

from fractions import Fraction

from PyQt6.QtCore import QObject, pyqtSignal

from gavotte.desktop.playback.deck import Deck
from gavotte.desktop.solo.session import SoloSession
from gavotte.desktop.solo.tape import Tape
from gavotte.recording.beat_map import Alignment
from gavotte.recording.player import RATE
from gavotte.solo.bars import BarGrid

_SHORTEST = 0.02


class Hearing(QObject):
    """How the open solo and its recording belong together, and which stretch is chosen.

    ``alignment`` leads between written time and seconds, None where the recording has no beats yet.

    Signals: ``aligned``, the alignment is another one; ``region_changed``, the loop is.
    """

    aligned = pyqtSignal()
    region_changed = pyqtSignal()

    def __init__(self, session: SoloSession, tape: Tape, deck: Deck, parent: QObject) -> None:
        super().__init__(parent)
        self._session, self._tape, self.deck = session, tape, deck
        self.alignment: Alignment | None = None
        tape.loaded.connect(self._take_up)
        tape.changed.connect(self._align)
        session.replaced.connect(self._align)
        session.edited.connect(lambda *_: self._align())

    @property
    def has_recording(self) -> bool:
        """Whether there is something to hear."""
        return self._tape.decoded is not None

    def _take_up(self) -> None:
        """The tape holds another recording, or none."""
        tape = self._tape
        self.deck.load(tape.decoded.samples() if tape.decoded is not None else None)
        if tape.recording is not None and tape.decoded is not None:
            self.deck.change(cents=tape.recording.cents)
        self._set_region(tape.recording.loop if tape.recording is not None and tape.decoded is not None else None)
        self._align()

    def _align(self) -> None:
        solo, beats = self._session.solo, self._tape.beats
        mine = self._tape.solo_id == self._session.solo_id
        self.alignment = Alignment(beats, BarGrid(solo)) if solo is not None and beats.is_usable and mine else None
        self.aligned.emit()

    # -- the loop -----------------------------------------------------------------------------------

    @property
    def region(self) -> tuple[float, float] | None:
        """The loop in seconds, if there is one."""
        region = self.deck.region
        return None if region is None else (region[0] / RATE, region[1] / RATE)

    def choose(self, start: float, stop: float) -> None:
        """Make a stretch (seconds) the loop."""
        decoded = self._tape.decoded
        if decoded is None:
            return
        start, stop = max(0.0, start), min(decoded.seconds, stop)
        if stop - start < _SHORTEST:
            return
        self._set_region((start, stop))
        self._tape.keep(loop=(start, stop))

    def choose_nothing(self) -> None:
        """No loop: everything is played."""
        self._set_region(None)

    def _set_region(self, region: tuple[float, float] | None) -> None:
        self.deck.set_region(None if region is None else (round(region[0] * RATE), round(region[1] * RATE)))
        self.region_changed.emit()

    def again(self) -> None:
        """From the start of the loop, or of everything."""
        region = self.deck.region
        self.deck.play(region[0] if region is not None else 0)

    def heard_time(self) -> float | None:
        """The time (quarter notes, as it is played) of what is heard of the recording now, None while it rests."""
        if self.alignment is None or not self.deck.is_playing:
            return None
        return self.alignment.played(self.deck.heard_frame / RATE)

    def hear_bar(
        self, time: Fraction, selected: tuple[str, ...], span: tuple[Fraction, Fraction] | None = None
    ) -> bool:
        """A span, several selected notes, or the bar of a time, round and round; False where that can't be heard."""
        solo, alignment = self._session.solo, self.alignment
        if solo is None or alignment is None or not self.has_recording:
            return False
        notes = [solo.note(note) for note in selected]
        bar = alignment.grid.at(time)
        chosen = (notes[0].onset, max(note.end for note in notes)) if len(notes) > 1 else (bar.onset, bar.end)
        start, end = span if span is not None else chosen
        self.choose(alignment.seconds(start), alignment.seconds(end))
        self.deck.set_loop(True)
        self.again()
        return True
