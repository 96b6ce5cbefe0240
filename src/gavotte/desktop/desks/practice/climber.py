"""Lets the tempo climb while a run goes on, by clean passes or by minutes."""

from __future__ import annotations

from PyQt6.QtCore import QObject, pyqtSignal

from gavotte.desktop.desks.practice.taking import Taking
from gavotte.desktop.playback.transport import Transport
from gavotte.practice.climbing import Climb, Climbing, When, is_clean
from gavotte.practice.run import Part, Pass, Run
from gavotte.practice.take import Take
from gavotte.sounding.timeline import DEFAULT_TEMPO


class Climber(QObject):
    """``reached`` is the highest tempo that was played, ``clean`` how many passes in a row were clean so far.

    Signal: ``changed``.
    """

    changed = pyqtSignal()

    def __init__(self, transport: Transport, taking: Taking, parent: QObject) -> None:
        super().__init__(parent)
        self._transport, self._taking = transport, taking
        self._run: Run | None = None
        self._climb = Climb()
        self._at = Climbing(1)
        self._pass: int | None = None
        self._begun = self._seconds = 0.0
        self._is_clean = False
        self.reached = 0
        taking.passed.connect(self._judged)

    @property
    def climb(self) -> Climb:
        """How the tempo climbs."""
        return self._climb

    @property
    def clean(self) -> int:
        """Clean passes in a row at this tempo."""
        return self._at.clean

    @property
    def climbs(self) -> bool:
        """Whether the tempo climbs while the run goes on."""
        return self._run is not None and self._climb.when is not When.PASSES and self._climb.step > 0

    @property
    def tempo(self) -> int:
        """The tempo the climb stands at, in beats a minute."""
        return self._at.tempo

    def begin(self, run: Run, climb: Climb) -> None:
        """A run begins to be played."""
        self._run, self._climb = run, climb
        self._at = Climbing(run.turns[0].tempo)
        self._pass, self._begun, self._seconds = None, self._taking.recorder.now, 0.0
        self._is_clean = False
        self.reached = 0

    def heard(self, time: float, seconds: float) -> None:
        """The run is heard at a time (quarter notes), so many seconds after it began."""
        run = self._run
        if run is None:
            return
        number, self._seconds = run.pass_at(time), seconds
        self.reached = max(self.reached, round(run.passes[number].tempo * self._transport.speed))
        if number == self._pass:
            return
        before, self._pass = self._pass, number
        # The playhead is looked at now and then: the pass began a little earlier.
        past = (time - float(run.passes[number].start)) * 60 / (self._quarters(run) * self._transport.speed)
        now = self._taking.recorder.now - max(0.0, past)
        if before is not None and self.climbs:
            one = run.passes[before]
            if one.part is Part.MUSIC and one.is_played:
                self._over(one, now)
            self._go_on()
        self._begun = now

    @staticmethod
    def _quarters(run: Run) -> float:
        """Quarter notes a minute as written."""
        return float(run.shown.tempo or DEFAULT_TEMPO)

    def _over(self, one: Pass, now: float) -> None:
        """A pass is over."""
        run = self._run
        if run is None:
            return
        if self._taking.recorder.is_recording:
            tempo = self._quarters(run) * self._transport.speed
            self._taking.pass_over(one, self._begun, now, tempo)
            if self._climb.when is When.MINUTES:
                self._at = self._at.passed(self._climb, False, self._seconds)
            return
        self._at = self._at.passed(self._climb, self._is_clean, self._seconds)
        self._is_clean = False

    def _judged(self, take: Take) -> None:
        """The microphone or keyboard says whether a pass was clean."""
        if self.climbs and self._climb.when is When.CLEAN:
            self._at = self._at.passed(self._climb, is_clean(take), self._seconds)
            self.changed.emit()

    def was_clean(self) -> None:
        """The player says: this pass is clean."""
        if self.climbs and self._climb.when is When.CLEAN and self._transport.is_playing:
            self._is_clean = True
            self.changed.emit()

    @property
    def is_marked(self) -> bool:
        """Whether the pass that goes on was called clean."""
        return self._is_clean

    def _go_on(self) -> None:
        """The next pass begins, at the tempo that was reached."""
        run = self._run
        if run is not None:
            pace = self._at.tempo / run.turns[0].tempo
            if abs(pace - self._transport.pace) > 1e-9:
                self._transport.set_pace(pace)
                self.changed.emit()
