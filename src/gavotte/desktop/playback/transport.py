"""The transport: plays what is on the page from a place to a place, and says where it is."""

from __future__ import annotations

from dataclasses import dataclass, field
from fractions import Fraction

from PyQt6.QtCore import QObject, QSettings, QTimer, pyqtSignal

from gavotte.desktop.activity import Activities, Activity
from gavotte.desktop.playback.outputs import Output
from gavotte.desktop.playback.sound_out import SoundOut
from gavotte.desktop.translation import QT_TRANSLATE_NOOP, translate
from gavotte.solo.document import Solo
from gavotte.solo.instruments import GM_PROGRAMS
from gavotte.sounding.backing import USUAL_BACKING, Backing
from gavotte.sounding.click import Click, count_in_seconds, count_in_sounds
from gavotte.sounding.engine import FASTEST, SLOWEST, Engine
from gavotte.sounding.events import Performance, Voice
from gavotte.sounding.groove import swing_of
from gavotte.sounding.performance import perform
from gavotte.sounding.synth import FluidSynth, SilentSynth, Synth, SynthError, find_soundfont
from gavotte.sounding.timeline import Timeline

VOICE_WORDS = {
    Voice.SOLO: QT_TRANSLATE_NOOP("Gavotte", "Solo"),
    Voice.BASS: QT_TRANSLATE_NOOP("Gavotte", "Bass"),
    Voice.CHORDS: QT_TRANSLATE_NOOP("Gavotte", "Chords"),
    Voice.DRUMS: QT_TRANSLATE_NOOP("Gavotte", "Drums"),
    Voice.CLICK: QT_TRANSLATE_NOOP("Gavotte", "Click"),
}
_USUAL_LEVELS = {Voice.SOLO: 0.85, Voice.BASS: 0.7, Voice.CHORDS: 0.5, Voice.DRUMS: 0.45, Voice.CLICK: 0.0}
_COUNT_LEVEL = 0.7
_FOLLOW_MS = 25
_PREVIEW_MS = 450
_AHEAD_MS = 400

_loaded: dict[str, Synth] = {}


def _load(soundfont: str) -> Synth:
    """The synthesiser with a SoundFont, loaded once. Raises SynthError."""
    if soundfont not in _loaded:
        _loaded[soundfont] = FluidSynth(find_soundfont(soundfont))
    return _loaded[soundfont]


@dataclass(frozen=True)
class Stretch:
    """What to play: from ``start`` to ``stop`` in quarter notes."""

    start: Fraction
    stop: Fraction


@dataclass
class _Prepared:
    solo: Solo | None = None
    swing: Fraction | None = None
    click: Click = Click.BEATS
    backing: Backing = USUAL_BACKING
    performance: Performance | None = None
    timeline: Timeline | None = None
    job: Activity | None = field(default=None)


def _ready(solo: Solo, swing: Fraction | None, click: Click, backing: Backing) -> tuple[Performance, Timeline]:
    """What a solo sounds like, with all that is to be told to play it put together."""
    performance, timeline = perform(solo, swing, click, backing)
    _ = performance.cues
    return performance, timeline


class Transport(QObject):
    """Plays solos. Signals: ``playing_changed``, ``playhead_moved(quarter notes)``, ``counting(beats left)``,
    ``sound_changed`` (what is heard, see ``sound_words``), ``failed(message)``.
    """

    playing_changed = pyqtSignal(bool)
    playhead_moved = pyqtSignal(float)
    sound_changed = pyqtSignal()
    settings_changed = pyqtSignal()
    failed = pyqtSignal(str)

    def __init__(self, settings: QSettings, activities: Activities, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._settings, self._activities = settings, activities
        self._engine = Engine(SilentSynth())
        self._way_out = SoundOut(settings, self)
        self._way_out.failed.connect(self.failed)
        self._way_out.changed.connect(self.sound_changed)
        self._prepared = _Prepared()
        self._pending: tuple[Solo, Stretch] | None = None
        self._backing = USUAL_BACKING
        self._synth_words = ""
        self._is_playing = False
        self._preview_key: int | None = None
        self.rate = float(settings.value("playback/rate", 1.0))
        self._rate_of = str(settings.value("playback/rate_of", ""))
        swing = str(settings.value("playback/swing", ""))
        self.swing: Fraction | None = Fraction(swing) if swing else None
        click = str(settings.value("playback/click", Click.BEATS))
        self.click = Click(click) if click in set(Click) else Click.BEATS
        self.loop = settings.value("playback/loop", False, type=bool)
        self.count_in = settings.value("playback/count_in", False, type=bool)
        self.levels = {
            voice: float(settings.value(f"playback/level/{voice.name.lower()}", usual))
            for voice, usual in _USUAL_LEVELS.items()
        }
        self.pace = 1.0
        self._engine.set_rate(self.rate)
        self._follow = QTimer(self)
        self._follow.setInterval(_FOLLOW_MS)
        self._follow.timeout.connect(self._look)
        self._closed = False
        self._expected: Solo | None = None
        self._ahead = QTimer(self)
        self._ahead.setSingleShot(True)
        self._ahead.setInterval(_AHEAD_MS)
        self._ahead.timeout.connect(self._prepare_ahead)
        self._hush = QTimer(self)
        self._hush.setSingleShot(True)
        self._hush.setInterval(_PREVIEW_MS)
        self._hush.timeout.connect(self._end_preview)

    # -- sound --------------------------------------------------------------------------------------

    @property
    def engine(self) -> Engine:
        """What plays."""
        return self._engine

    @property
    def output(self) -> Output | None:
        """Where it goes, once anything has been played or warmed up."""
        return self._way_out.output

    @property
    def latency(self) -> float:
        """Seconds between what is played and what is heard of it."""
        return self._way_out.latency

    @property
    def is_playing(self) -> bool:
        """Whether something is being played."""
        return self._is_playing

    def warm_up(self) -> None:
        """Load synthesiser and output, so that the first note comes at once."""
        if self.output is not None or self._closed:
            return
        self._way_out.open(self._engine)
        if isinstance(self._engine.synth, SilentSynth):
            self._load_synth()
        self.sound_changed.emit()

    def warm_up_beside(self) -> None:
        """Warm up while the interface goes on: the synthesiser is loaded in a worker thread."""
        chosen = self._soundfont
        self._activities.beside(self, lambda: _load(chosen), lambda _: self.warm_up(), lambda _: self.warm_up())

    @property
    def _soundfont(self) -> str:
        return str(self._settings.value("playback/soundfont", ""))

    def _load_synth(self) -> None:
        try:
            self._engine.use(_load(self._soundfont))
            self._synth_words = ""
        except SynthError as error:
            self._engine.use(SilentSynth())
            self._synth_words = str(error)
        for voice, level in self.levels.items():
            self._engine.level(voice, level)

    def use_soundfont(self, path: str) -> None:
        """Play with another SoundFont; "" is the usual one."""
        self.stop()
        self._settings.setValue("playback/soundfont", path)
        if self.output is None:
            self.warm_up()
        else:
            self._load_synth()
            self.sound_changed.emit()
        if self._synth_words:
            self.failed.emit(self._synth_words)

    @property
    def sound_words(self) -> str:
        """What a user should know about the sound; "" where everything is as it should be."""
        if self.output is None:
            return ""
        if self._synth_words:
            return translate("Gavotte", "Playing silently. {synth_words}").format(synth_words=self._synth_words)
        return "" if self._way_out.is_heard else translate("Gavotte", "No sound card: playing silently")

    def reopen(self) -> None:
        """Another output was chosen: it is taken when something sounds next."""
        self.stop()
        self._way_out.close()

    def close(self) -> None:
        """Stop and let the output go, for good."""
        self._closed = True
        self.stop()
        self._hush.stop()
        self._ahead.stop()
        if self._prepared.job is not None:
            self._prepared.job.cancel()
        self._way_out.close()

    # -- settings -----------------------------------------------------------------------------------

    def turn_to(self, solo_id: str) -> None:
        """Another solo is open: it begins at its own tempo; the one of the last time keeps what was set."""
        if solo_id != self._rate_of:
            self._rate_of = solo_id
            self._keep("rate_of", solo_id)
            self.set_rate(1.0)

    def set_rate(self, rate: float) -> None:
        """Play at a share of the tempo."""
        self.rate = max(SLOWEST, min(FASTEST, round(rate, 2)))
        self._engine.set_rate(self.speed)
        self._keep("rate", self.rate)

    def set_pace(self, pace: float) -> None:
        """Play so many times as fast as the share of the tempo says, until it stops."""
        self.pace = pace
        self._engine.set_rate(self.speed)

    @property
    def speed(self) -> float:
        """How many times as fast as written it is played."""
        return self.rate * self.pace

    def set_loop(self, loop: bool) -> None:
        """Play in a loop, or once."""
        self.loop = loop
        self._engine.set_loop(loop)
        self._keep("loop", loop)

    def set_count_in(self, count_in: bool) -> None:
        """Count a bar before the start, or not."""
        self.count_in = count_in
        self._keep("count_in", count_in)

    def set_swing(self, swing: Fraction | None) -> None:
        """Play eighths as long to short as this, or (None) as the solo's style has them."""
        self.swing = swing
        self._keep("swing", str(swing) if swing is not None else "")

    def set_click(self, click: Click) -> None:
        """Let the click be heard on other beats."""
        self.click = click
        self._keep("click", str(click))

    def set_level(self, voice: Voice, level: float) -> None:
        """Set how loud a voice is, 0 to 1."""
        self.levels[voice] = level
        self._engine.level(voice, level)
        self._keep(f"level/{voice.name.lower()}", level)

    def _keep(self, name: str, value: object) -> None:
        self._settings.setValue(f"playback/{name}", value)
        self.settings_changed.emit()

    def swing_used(self, solo: Solo) -> Fraction:
        """The swing a solo is played with."""
        return self.swing if self.swing is not None else swing_of(solo)

    # -- playing ------------------------------------------------------------------------------------

    def play(self, solo: Solo, stretch: Stretch, backing: Backing = USUAL_BACKING) -> None:
        """Play a stretch of a solo (in concert pitch) with a band. What is playing stops."""
        self.stop()
        self._backing = backing
        self.warm_up()
        self._ahead.stop()
        if self._is_prepared_for(solo) and self._prepared.performance is not None:
            self._begin(stretch)
            return
        self._pending = (solo, stretch)
        if not self._is_prepared_for(solo):
            self._prepare(solo)

    def prepare(self, solo: Solo, backing: Backing = USUAL_BACKING) -> None:
        """Work out what will sound ahead of time, once the page has had its time."""
        self._expected, self._backing = solo, backing
        self._ahead.start()

    def _is_prepared_for(self, solo: Solo) -> bool:
        """Whether what a solo sounds like is known, or being worked out."""
        prepared = self._prepared
        asked = (self.swing, self.click, self._backing)
        return prepared.solo is solo and (prepared.swing, prepared.click, prepared.backing) == asked

    def _prepare_ahead(self) -> None:
        if self._expected is not None and not self._is_prepared_for(self._expected):
            self._prepare(self._expected)

    def _prepare(self, solo: Solo) -> None:
        if self._prepared.job is not None:
            self._prepared.job.cancel()
        swing, click, backing = self.swing, self.click, self._backing
        prepared = self._prepared = _Prepared(solo, swing, click, backing)

        def take(found: tuple[Performance, Timeline]) -> None:
            prepared.performance, prepared.timeline = found
            prepared.job = None
            if self._pending is not None and self._pending[0] is solo:
                stretch, self._pending = self._pending[1], None
                self._begin(stretch)

        prepared.job = self._activities.beside(
            self,
            lambda: _ready(solo, swing, click, backing),
            take,
            lambda error: self.failed.emit(translate("Gavotte", "This can't be played: {error}.").format(error=error)),
        )

    def _begin(self, stretch: Stretch) -> None:
        performance, timeline = self._prepared.performance, self._prepared.timeline
        assert performance is not None
        assert timeline is not None
        start = timeline.seconds(stretch.start)
        stop = performance.end if stretch.stop >= timeline.end else timeline.seconds(stretch.stop)
        if stretch.start <= timeline.start:
            start = performance.start
        count = count_in_sounds(timeline, stretch.start) if self.count_in else []
        seconds = count_in_seconds(timeline, stretch.start) if self.count_in else 0.0
        if count:
            self._engine.level(Voice.CLICK, max(_COUNT_LEVEL, self.levels[Voice.CLICK]))
        self._engine.start(performance, start, stop, self.loop, count, seconds)
        self._way_out.start()
        self._is_playing = True
        self._follow.start()
        self.playing_changed.emit(True)
        self._look()

    def stop(self) -> None:
        """Stop playing."""
        self._pending = None
        if not self._is_playing:
            return
        self._is_playing = False
        self._follow.stop()
        self._engine.stop()
        self._way_out.stop()
        self.set_pace(1.0)
        self.playing_changed.emit(False)

    def _look(self) -> None:
        """Move the playhead to what is heard now."""
        if not self._engine.is_playing:
            self.stop()
            return
        if not self._engine.is_counting_in and self.count_in:
            self._engine.level(Voice.CLICK, self.levels[Voice.CLICK])
        timeline = self._prepared.timeline
        if timeline is not None:
            heard = self._engine.position - self._way_out.latency * self.speed
            self.playhead_moved.emit(timeline.quarters(heard))

    # -- previews -----------------------------------------------------------------------------------

    def preview(self, key: int, instrument: str) -> None:
        """Let a single note (a MIDI number) sound shortly, unless something is playing."""
        if self._is_playing:
            return
        self.warm_up()
        self._end_preview()
        self._preview_key = key
        self._engine.sound_once(key, program=GM_PROGRAMS.get(instrument, 0))
        self._way_out.start()
        self._hush.start()

    def _end_preview(self) -> None:
        self._hush.stop()
        if self._preview_key is None:
            return
        self._engine.hush(self._preview_key)
        self._preview_key = None
        if not self._is_playing:
            self._way_out.stop()
