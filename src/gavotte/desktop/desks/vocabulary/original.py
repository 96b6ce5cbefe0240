"""A lick as it is heard on its solo's recording."""

from __future__ import annotations

from collections.abc import Generator
from contextlib import suppress

from PyQt6.QtCore import QObject, QSettings, pyqtSignal

from gavotte.desktop.activity import Activities
from gavotte.desktop.playback.deck import Deck
from gavotte.desktop.translation import translate
from gavotte.formats.errors import FormatError
from gavotte.library.errors import LibraryError
from gavotte.library.reader import LibraryReader
from gavotte.library.recordings import DECODED, file_of
from gavotte.library.store import Library
from gavotte.recording.beat_map import Alignment
from gavotte.recording.decode import Decoded, decode
from gavotte.recording.errors import RecordingError
from gavotte.recording.player import RATE
from gavotte.regular_file import is_regular
from gavotte.solo.bars import BarGrid
from gavotte.vocabulary.lick import Lick

_AROUND = 0.08
"""Seconds before and after the notes that are heard with them."""
Found = tuple[Decoded, tuple[float, float]]


class Original(QObject):
    """Plays the stretch of a recording a lick stands in. Signals: ``playing_changed``, ``failed(message)``."""

    playing_changed = pyqtSignal(bool)
    failed = pyqtSignal(str)

    def __init__(self, library: Library, settings: QSettings, activities: Activities, parent: QObject) -> None:
        super().__init__(parent)
        self._library, self._activities = library, activities
        self.deck = Deck(settings, self)
        # At its own speed, once: what is set at the Listen desk is not for here.
        self.deck.settings.speed, self.deck.settings.loop, self.deck.settings.click = 1.0, False, False
        self._end = 0.0
        self.deck.moved.connect(self._look)
        self.deck.playing_changed.connect(self.playing_changed)
        self.deck.failed.connect(self.failed)

    @property
    def is_playing(self) -> bool:
        """Whether a lick is heard."""
        return self.deck.is_playing

    def play(self, lick: Lick) -> None:
        """Let a lick be heard as it was played; where something is heard, stop it."""
        if self.deck.is_playing:
            self.deck.stop()
            return
        self._activities.cancel(self)
        folder = self._library.folder

        def steps() -> Generator[float, None, Found | None]:
            with self._library.read_apart() as reader:
                recording = reader.recording(lick.source.solo_id)
                span = span_of(reader, lick)
            if recording is None or span is None:
                return None
            path = file_of(folder, recording)
            if not is_regular(path):
                return None
            decoded = yield from decode(path, folder / DECODED)
            return decoded, span

        self._activities.walk(
            self, steps, self._begin, self._fail, translate("Gavotte", "Reading the recording"), apart=True
        )

    def _begin(self, found: Found | None) -> None:
        if found is None:
            self.failed.emit(
                translate(
                    "Gavotte",
                    "There is no recording of this lick, or nobody knows yet where it is in it: give its solo a "
                    "recording and its beats at the Listen desk.",
                )
            )
            return
        decoded, (start, end) = found
        self.deck.load(decoded.samples())
        self._end = (end + _AROUND) * RATE
        self.deck.play(round(max(0.0, start - _AROUND) * RATE))

    def _look(self, frame: float) -> None:
        if self.deck.is_playing and frame >= self._end:
            self.deck.stop()

    def stop(self) -> None:
        """Be silent, and let the sound card go."""
        self._activities.cancel(self)
        self.deck.close()

    def _fail(self, error: Exception) -> None:
        if isinstance(error, (LibraryError, FormatError, RecordingError, OSError)):
            self.failed.emit(str(error))


def span_of(reader: LibraryReader, lick: Lick) -> tuple[float, float] | None:
    """From when to when (seconds) a lick sounds in its solo's recording, by the beats as they are known now; else as it
    was known when it was kept.
    """
    with suppress(LibraryError, FormatError, KeyError, ValueError):
        recording, solo = reader.recording(lick.source.solo_id), reader.solo(lick.source.solo_id)
        if recording is not None and recording.beats.is_usable:
            alignment = Alignment(recording.beats, BarGrid(solo))
            first, last = (solo.note(lick.solo.notes[k].id) for k in (0, -1))
            start, end = alignment.seconds(first.onset), alignment.seconds(last.end)
            return max(0.0, start), max(0.0, end)
    return lick.span
