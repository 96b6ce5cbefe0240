"""The deck: plays a recording on the sound card, or silently without one, and says where it is."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import QObject, QSettings, QTimer, pyqtSignal

from gavotte.desktop.playback.outputs import Output
from gavotte.desktop.playback.sound_out import SoundOut
from gavotte.recording.errors import RecordingError
from gavotte.recording.filters import Side
from gavotte.recording.player import FASTEST, RATE, SLOWEST, Click, Ladder, RecordingPlayer, Samples

_FOLLOW_MS = 16
PASSES = 3


@dataclass
class Settings:
    """How a recording is played. ``semitones`` and ``cents`` add up; ``band`` in Hz."""

    speed: float = 1.0
    semitones: int = 0
    cents: float = 0.0
    side: Side = Side.BOTH
    band: tuple[float, float] | None = None
    pause: float = 0.0
    ladder: bool = False
    click: bool = False
    loop: bool = True


class Deck(QObject):
    """Plays the open solo's recording: at which speed, pitch, side and loop.

    Signals: ``playing_changed``, ``moved(frame)``, ``settings_changed``, ``sound_changed``, ``failed(message)``.
    """

    playing_changed = pyqtSignal(bool)
    moved = pyqtSignal(float)
    settings_changed = pyqtSignal()
    sound_changed = pyqtSignal()
    failed = pyqtSignal(str)

    def __init__(self, settings: QSettings, parent: QObject) -> None:
        super().__init__(parent)
        self._kept = settings
        self.settings = Settings(
            speed=float(settings.value("listen/speed", 1.0)),
            pause=float(settings.value("listen/pause", 0.0)),
            click=settings.value("listen/click", False, type=bool),
        )
        self._speed_before = self.settings.speed
        self._speed_of = str(settings.value("listen/speed_of", ""))
        self.player: RecordingPlayer | None = None
        self.region: tuple[int, int] | None = None
        self._clicks: list[Click] = []
        self._way_out = SoundOut(settings, self)
        self._way_out.failed.connect(self.failed)
        self._way_out.changed.connect(self.sound_changed)
        self._is_playing = False
        self._follow = QTimer(self)
        self._follow.setInterval(_FOLLOW_MS)
        self._follow.timeout.connect(self._look)

    @property
    def output(self) -> Output | None:
        """Where the sound goes, while there is a recording."""
        return self._way_out.output

    @property
    def is_playing(self) -> bool:
        """Whether it plays."""
        return self._is_playing

    @property
    def is_heard(self) -> bool:
        """Whether there is a sound card to hear it on."""
        return self._way_out.is_heard

    @property
    def heard_frame(self) -> float:
        """The frame that is heard now: what is on its way to the ear has not got there yet. 0 without a recording."""
        if self.player is None:
            return 0.0
        return max(0.0, self.player.position - self._way_out.latency * self.player.speed * RATE)

    # -- what is played -----------------------------------------------------------------------------

    def load(self, samples: Samples | None) -> None:
        """Play other samples from now on, or none."""
        self.close()
        self.region = None
        if samples is None:
            self.player = None
            return
        self.player = RecordingPlayer(samples)
        self._apply()

    def close(self) -> None:
        """Stop and let the sound card go."""
        self.stop()
        self._way_out.close()

    def set_clicks(self, clicks: list[Click]) -> None:
        """Click at these places, when clicks are wanted."""
        self._clicks = clicks
        self._apply()

    def turn_to(self, solo_id: str) -> None:
        """Another solo is open. Speed and pitch begin anew with it; the one of the last time keeps its speed."""
        if solo_id != self._speed_of:
            self._speed_of = solo_id
            self._kept.setValue("listen/speed_of", solo_id)
            self.change(ladder=False, speed=1.0, semitones=0, cents=0.0)

    def change(self, **values: object) -> None:
        """Change some of the settings. The ladder's speed goes with it: what it was before comes back."""
        if values.get("ladder") and not self.settings.ladder:
            self._speed_before = self.settings.speed
        elif "ladder" in values and not values["ladder"] and self.settings.ladder:
            values.setdefault("speed", self._speed_before)
        for name, value in values.items():
            setattr(self.settings, name, value)
        self.settings.speed = min(FASTEST, max(SLOWEST, self.settings.speed))
        for name in ("speed", "pause", "click"):
            self._kept.setValue(f"listen/{name}", getattr(self.settings, name))
        if "ladder" in values and self.player is not None:
            self._guard(lambda player: player.set_ladder(Ladder(passes=PASSES) if self.settings.ladder else None))
            if self.settings.ladder:
                self.settings.speed = self.player.speed
        self._apply()
        self.settings_changed.emit()

    def _apply(self) -> None:
        settings = self.settings

        def put(player: RecordingPlayer) -> None:
            player.set_speed(settings.speed)
            player.set_pitch(100 * settings.semitones + settings.cents)
            player.set_side(settings.side)
            player.set_band(settings.band)
            player.set_pause(settings.pause)
            player.set_clicks(self._clicks, 0.8 if settings.click else 0.0)
            player.set_level(0.8 if settings.click else 1.0)

        self._guard(put)

    def _guard(self, do: object) -> bool:
        """Do something with the player; what goes wrong is told."""
        if self.player is None:
            return False
        try:
            do(self.player)  # type: ignore[operator]
        except RecordingError as error:
            self.failed.emit(str(error))
            return False
        return True

    # -- playing ------------------------------------------------------------------------------------

    def set_region(self, region: tuple[int, int] | None) -> None:
        """The stretch to play: with the loop on, round and round. None is everything."""
        self.region = region
        self._put_region()

    def _put_region(self) -> None:
        if self.player is None:
            return
        start, stop = self.region or (0, self.player.frames)
        loop = self.settings.loop and self.region is not None
        self._guard(lambda player: player.set_region(start, stop, loop))

    def set_loop(self, loop: bool) -> None:
        """Go round the region, or through it and on."""
        self.change(loop=loop)
        self._put_region()

    def toggle(self) -> None:
        """Play from where it is, or stop."""
        if self._is_playing:
            self.stop()
        elif self.player is not None:
            self.play(round(self.player.position))

    def play(self, frame: int) -> None:
        """Play from a frame; from the region's start where the frame lies behind everything or outside a loop."""
        player = self.player
        if player is None:
            return
        self._way_out.open(player)
        self._put_region()
        inside = self.region is None or self.region[0] <= frame < self.region[1]
        at_end = frame >= player.frames - RATE // 20
        start = self.region[0] if self.region is not None and not inside else 0 if at_end else frame
        if not self._guard(lambda player: player.play(start)):
            return
        self._way_out.start()
        self._is_playing = True
        self._follow.start()
        self.playing_changed.emit(True)

    def stop(self) -> None:
        """Stop where it is."""
        if not self._is_playing:
            return
        self._is_playing = False
        self._follow.stop()
        self._way_out.stop()
        if self.player is not None:
            self.player.stop()
        self.playing_changed.emit(False)

    def seek(self, frame: int) -> None:
        """Go to a frame, playing or not."""
        self._guard(lambda player: player.seek(frame))
        self.moved.emit(float(frame))

    def _look(self) -> None:
        player = self.player
        if player is None:
            return
        self.moved.emit(self.heard_frame)
        if player.speed != self.settings.speed and self.settings.ladder:
            self.settings.speed = player.speed
            self.settings_changed.emit()
        if not player.is_playing:
            self.stop()
