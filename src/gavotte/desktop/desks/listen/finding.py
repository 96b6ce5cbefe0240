"""What the machine finds out about a recording by itself: its beats, and its tuning."""

from __future__ import annotations

from collections.abc import Callable, Generator, Sequence
from dataclasses import replace
from typing import TYPE_CHECKING, Any

from PyQt6.QtCore import QObject, pyqtSignal

from gavotte.desktop.activity import Activities, Activity
from gavotte.desktop.solo.tape import Tape
from gavotte.desktop.translation import translate
from gavotte.desktop.words import counted
from gavotte.recording.beat_map import BeatMap, with_taps
from gavotte.recording.decode import Decoded
from gavotte.steps import scaled, whole

# NumPy is loaded when something is worked out with it.
if TYPE_CHECKING:
    from gavotte.recording.beats import Onsets

_FEWEST_TAPS = 4
_IN_TUNE = 4.0
_LOOKING = 0.4
"""The picture's share of the work of looking; the rest is following the line."""


class Finder(QObject):
    """Finds beats and tuning on demand, and the picture of the pitches with the lead line in it.

    Signals: ``told(message)``, ``mentioned(message)``, which need not be read, ``found(message)``, of beats that may
    still be asked about, ``tuned(cents)``, ``seen(salience)``, ``followed(lead)``, ``failed(message)``.
    """

    told = pyqtSignal(str)
    mentioned = pyqtSignal(str)
    found = pyqtSignal(str)
    tuned = pyqtSignal(float)
    seen = pyqtSignal(object)
    followed = pyqtSignal(object)
    failed = pyqtSignal(str)

    def __init__(self, tape: Tape, activities: Activities, parent: QObject) -> None:
        super().__init__(parent)
        self._tape, self._activities = tape, activities
        self._looking: Activity | None = None
        self._asked: Activity | None = None
        self._known: tuple[str, Onsets] | None = None

    @property
    def is_looking(self) -> bool:
        """Whether pitches are still looked for."""
        return self._looking is not None and self._looking.is_running

    def cancel(self) -> None:
        """Stop everything that is being looked for."""
        self._activities.cancel(self)

    def find_beats(self, written_tempo: float | None, written_beats: int = 0) -> None:
        """Find the beats, at the tempo of those that are tapped, else the written one, else the likeliest.

        ``written_beats``: how many the solo's bars have.
        """
        decoded, before = self._tape.decoded, self._tape.beats
        if decoded is None:
            return
        tapped = before if len(before.times) >= _FEWEST_TAPS else BeatMap()

        def work() -> tuple[BeatMap, bool]:
            from gavotte.recording.beats import FRAME_SECONDS, find_beats, find_pulse, is_played
            from gavotte.recording.swing import measure_swing

            onsets = self._onsets(decoded)
            tempo = tapped.beats_a_minute(len(tapped.times) // 2) or written_tempo
            if tempo:
                times = find_beats(onsets.strength, tempo, tapped.times)
                is_certain = bool(tapped.times) or is_played(onsets, times)
            else:
                pulse = find_pulse(onsets, written_beats)
                times, is_certain = pulse.times, pulse.is_played
            return BeatMap(times, 0, measure_swing(times, onsets.strength, FRAME_SECONDS)), is_certain

        self._begin(translate("Gavotte", "Finding the beats"), work, lambda found: self._take(decoded, before, *found))

    def _take(self, decoded: Decoded, before: BeatMap, found: BeatMap, is_certain: bool) -> None:
        if self._tape.decoded is not decoded:
            return
        if not found.is_usable:
            self.failed.emit(translate("Gavotte", "No beats were found. Tap them: press T on every beat."))
            return
        if not is_certain:
            self.failed.emit(
                translate(
                    "Gavotte",
                    "Nobody plays the beat here, so it would only be guessed. Tap it: press T on every beat; taps are "
                    "evened out.",
                )
            )
            return
        if before.times:
            anchor = before.times[min(before.downbeat, len(before.times) - 1)]
            found = replace(found, downbeat=found.nearest(anchor) or 0)
        self._tape.edit_beats(translate("Gavotte", "Find the beats"), found)
        tempo = found.beats_a_minute(len(found.times) // 2) or 0.0
        words = translate(
            "Gavotte",
            "{number} beats were found, about {tempo} a minute. If bar 1 begins elsewhere, click its first beat "
            "and press D.",
        ).format(number=len(found.times), tempo=round(tempo))
        self.found.emit(words)

    def _onsets(self, decoded: Decoded) -> Onsets:
        """What starts where; worked out once for a recording (called beside the interface)."""
        if self._known is None or self._known[0] != decoded.sha256:
            from gavotte.recording.beats import find_onsets

            self._known = (decoded.sha256, whole(find_onsets(decoded.samples())))
        return self._known[1]

    def settle(self, taps: Sequence[float]) -> None:
        """Move beats that were just tapped onto what is heard near them, as a step of its own; measure the swing."""
        decoded, raw = self._tape.decoded, self._tape.beats
        if decoded is None or len(taps) < _FEWEST_TAPS:
            return

        def work() -> tuple[BeatMap, bool]:
            from gavotte.recording.beats import FRAME_SECONDS
            from gavotte.recording.swing import measure_swing
            from gavotte.recording.taps import settled

            envelope = self._onsets(decoded).strength
            times, is_heard = settled(taps, envelope, FRAME_SECONDS)
            beats = with_taps(raw, times)
            return replace(beats, swing=measure_swing(beats.times, envelope, FRAME_SECONDS)), is_heard

        self._begin(
            translate("Gavotte", "Settling the beats"), work, lambda found: self._take_settled(raw, taps, *found)
        )

    def _take_settled(self, raw: BeatMap, taps: Sequence[float], beats: BeatMap, is_heard: bool) -> None:
        if self._tape.beats != raw:
            # They were changed meanwhile: what was done last is meant.
            return
        away = [abs(tap - beats.times[beats.nearest(tap) or 0]) for tap in taps]
        self._tape.edit_beats(translate("Gavotte", "Settle the beats"), beats)
        words = (
            translate(
                "Gavotte",
                "{number} were tapped and moved onto what is heard, by {moved} ms on average. "
                "Undo brings the taps back.",
            )
            if is_heard
            else translate(
                "Gavotte", "{number} were tapped and evened out, by {moved} ms on average. Undo brings the taps back."
            )
        )
        self.mentioned.emit(words.format(number=counted(len(taps), "beat"), moved=round(1000 * sum(away) / len(away))))

    def measure_tuning(self) -> None:
        """Measure how far the recording is out of tune, and say by how much it is to be moved."""
        decoded = self._tape.decoded
        if decoded is None:
            return
        samples = decoded.samples()

        def work() -> float | None:
            from gavotte.recording.tuning import measure_tuning

            return whole(measure_tuning(samples))

        self._begin(translate("Gavotte", "Measuring the tuning"), work, lambda cents: self._tell_tuning(decoded, cents))

    def _tell_tuning(self, decoded: Decoded, cents: float | None) -> None:
        if self._tape.decoded is not decoded:
            return
        if cents is None:
            self.failed.emit(translate("Gavotte", "The tuning can't be measured: too little in it has a clear pitch."))
            return
        if abs(cents) < _IN_TUNE:
            self.tuned.emit(0.0)
            self.told.emit(translate("Gavotte", "The recording is in tune: it lies at A 440 to a few cents."))
            return
        self.tuned.emit(-float(round(cents)))
        words = (
            translate("Gavotte", "The recording is {number} cents sharp; it is played that much lower now.")
            if cents > 0
            else translate("Gavotte", "The recording is {number} cents flat; it is played that much higher now.")
        )
        self.told.emit(words.format(number=abs(round(cents))))

    def look(self) -> None:
        """Work out the picture of the pitches, step by step."""
        decoded = self._tape.decoded
        if decoded is None:
            return
        from gavotte.recording.salience import Salience, find_salience

        if self._looking is not None:
            self._looking.cancel()
        found: list[Salience] = []

        def steps() -> Generator[float, None, None]:
            found.append((yield from scaled(find_salience(decoded.samples()), 0.0, _LOOKING)))

        def done() -> None:
            # The picture is there to be used while the line is still followed.
            self._follow(decoded)
            self.seen.emit(found[0])

        self._looking = self._activities.step(self, steps(), done, self._not_done, self._looking_words)

    @property
    def _looking_words(self) -> str:
        return translate("Gavotte", "Looking for the pitches")

    def _follow(self, decoded: Decoded) -> None:
        """Follow the line of the voice that stands out, in a worker thread."""
        from gavotte.recording.lead import find_lead
        from gavotte.recording.salience import HIGHEST, LOWEST

        samples = decoded.samples()
        self._looking = self._activities.walk(
            self,
            lambda: scaled(find_lead(samples, LOWEST, HIGHEST), _LOOKING, 1.0),
            self.followed.emit,
            self._not_done,
            self._looking_words,
        )

    def _not_done(self, error: Exception) -> None:
        self.failed.emit(str(error))

    def _begin(self, words: str, work: Callable[[], Any], then: Callable[[Any], None]) -> None:
        if self._asked is not None:
            self._asked.cancel()
        self._asked = self._activities.beside(self, work, then, self._not_done, words)
