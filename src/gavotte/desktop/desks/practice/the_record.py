"""The record an item comes from: heard as it is there, slowed to the tempo of the run and moved into its key."""

from __future__ import annotations

from collections.abc import Generator
from dataclasses import dataclass

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from gavotte.desktop.desk.studio import Studio
from gavotte.desktop.desks.practice.agenda import Agenda
from gavotte.desktop.playback.sound_out import SoundOut
from gavotte.desktop.translation import translate
from gavotte.formats.errors import FormatError
from gavotte.library.errors import LibraryError
from gavotte.library.recordings import DECODED, file_of
from gavotte.practice.item import Kind, PracticeItem
from gavotte.practice.on_record import OnRecord, on_record
from gavotte.practice.run import Run, Way
from gavotte.recording.beat_map import Alignment
from gavotte.recording.decode import decode
from gavotte.recording.errors import RecordingError
from gavotte.recording.player import RATE, RecordingPlayer, Samples
from gavotte.solo.bars import BarGrid

_LOOK_MS = 25
_SLOWEST, _FASTEST = 0.2, 1.3


@dataclass(frozen=True)
class _Found:
    """A record with the stretch of an item on it."""

    item_id: str
    samples: Samples
    alignment: Alignment
    stretch: OnRecord


class TheRecord(QObject):
    """Plays what is on the stand as it is on its record. Signals: ``changed``, it plays or no longer does;
    ``moved(quarter notes)``, what is heard, as a time of the run.
    """

    changed = pyqtSignal()
    moved = pyqtSignal(float)

    def __init__(self, studio: Studio, agenda: Agenda, parent: QObject) -> None:
        super().__init__(parent)
        self._studio, self._agenda = studio, agenda
        self._out = SoundOut(studio.settings, self)
        self._out.failed.connect(studio.asks.notice)
        self._player: RecordingPlayer | None = None
        self._found: _Found | None = None
        self._run: Run | None = None
        self._look = QTimer(self)
        self._look.setInterval(_LOOK_MS)
        self._look.timeout.connect(self._looked)

    @property
    def is_playing(self) -> bool:
        """Whether the record is heard."""
        return self._player is not None

    @property
    def speed(self) -> float:
        """At which share of its own speed it is heard."""
        return self._player.speed if self._player is not None else 1.0

    def toggle(self, run: Run, way: Way) -> None:
        """Play it, or stop."""
        if self.is_playing:
            self.stop()
            return
        item, chosen = self._agenda.item, self._agenda.chosen
        if item is None or chosen is None:
            return
        self._run = run
        if self._found is not None and self._found.item_id == chosen[0]:
            self._begin(item, chosen[1], way)
            return
        item_id, number = chosen

        def begin(found: _Found | str) -> None:
            if isinstance(found, str):
                self._studio.asks.notice(found)
                return
            self._found = found
            if self._agenda.chosen == chosen:
                self._begin(item, number, way)

        self._studio.activities.cancel(self)
        self._studio.activities.walk(
            self, lambda: self._find(item_id, item), begin, lambda error: self._studio.asks.notice(str(error)),
            translate("Gavotte", "Opening the record"), lambda: None, apart=True,
        )  # fmt: skip

    def _find(self, item_id: str, item: PracticeItem) -> Generator[float, None, _Found | str]:
        """The record of an item and the stretch it is on, or why there is nothing to hear; in a thread of its own."""
        none: str = translate("Gavotte", "“{name}” comes from no record with beats.").format(name=item.name)
        library = self._studio.library
        with library.read_apart() as reader:
            try:
                solo_id = item.source_id
                if item.kind is Kind.LICK and solo_id:
                    solo_id = reader.lick(solo_id).source.solo_id
                solo = reader.solo(solo_id) if solo_id else None
                recording = reader.recording(solo_id) if solo_id else None
            except (LibraryError, FormatError):
                return none
        if solo is None or recording is None or not recording.beats.is_usable or not item.music.notes:
            return none
        alignment = Alignment(recording.beats, BarGrid(solo))
        stretch = on_record(item, solo, alignment)
        if stretch is None:
            words = translate("Gavotte", "“{title}” no longer has these notes, so they can't be found on its record.")
            return str(words.format(title=solo.title))
        path = file_of(library.folder, recording)
        if not path.exists():
            words = translate("Gavotte", "The recording is not at {path}. Say at Listen where it is now.")
            return str(words.format(path=path))
        decoded = yield from decode(path, library.folder / DECODED)
        return _Found(item_id, decoded.samples(), alignment, stretch)

    def _begin(self, item: PracticeItem, number: int, way: Way) -> None:
        found, run = self._found, self._run
        if found is None or run is None:
            return
        transport = self._studio.transport
        transport.stop()
        stretch = found.stretch
        player = RecordingPlayer(found.samples)
        wished = float(item.beat) * run.turns[0].tempo * transport.rate / stretch.tempo
        speed = max(_SLOWEST, min(_FASTEST, wished))
        loops = transport.loop or way in (Way.ANSWER, Way.READ)
        try:
            player.set_speed(speed)
            above = (item.steps[number] + 6) % 12 - 6
            player.set_pitch(100.0 * above)
            player.set_region(round(stretch.start * RATE), round(stretch.end * RATE), loops)
            if way in (Way.ANSWER, Way.READ):
                # As much silence as there was music: the answer.
                player.set_pause((stretch.end - stretch.start) / speed)
            player.play()
        except RecordingError as error:
            self._studio.asks.notice(str(error))
            return
        self._player = player
        self._out.open(player)
        self._out.start()
        self._look.start()
        self.changed.emit()

    def _looked(self) -> None:
        player, found, run = self._player, self._found, self._run
        if player is None or found is None or run is None:
            return
        if not player.is_playing:
            self.stop()
            return
        seconds = player.position / RATE - self._out.latency * player.speed
        turn = next((one for one in run.turns if one.is_played), run.turns[0])
        first = next((note for note in run.shown.notes if turn.start <= note.onset < turn.end), None)
        if first is not None:
            self.moved.emit(float(first.onset) + found.alignment.quarters(seconds) - float(found.stretch.onset))

    def stop(self) -> None:
        """Silence."""
        self._studio.activities.cancel(self)
        if self._player is None:
            return
        self._player.stop()
        self._player = None
        self._look.stop()
        self._out.close()
        self.changed.emit()
