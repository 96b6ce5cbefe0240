"""Playing what a desk shows: from the selected note, just the selected notes, or a lick, with the page following."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from PyQt6.QtCore import QObject
from PyQt6.QtWidgets import QWidget

from gavotte.desktop.page.page_view import PageView
from gavotte.desktop.playback.transport import Stretch, Transport
from gavotte.desktop.playback.transport_bar import TransportBar
from gavotte.desktop.translation import translate
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Note, Solo
from gavotte.sounding.backing import Backing


@dataclass(frozen=True)
class Played:
    """What is played at a desk: its page (None where nothing follows), the solo in concert pitch, and the ids of the
    selected notes.

    ``keys_at`` are widgets beside the page where the keys for playing are heard too; ``backing`` is the band it is
    played with.
    """

    page: PageView | None
    solo: Callable[[], Solo | None]
    selected: Callable[[], tuple[str, ...]]
    keys_at: tuple[QWidget, ...] = ()
    backing: Callable[[], Backing] = Backing


class Playing(QObject):
    """Connects the transport and its bar with what is played at the desk that is shown."""

    def __init__(self, transport: Transport, bar: TransportBar, parent: QObject) -> None:
        super().__init__(parent)
        self._transport, self.bar = transport, bar
        self._played: Played | None = None
        self._grid: BarGrid | None = None
        bar.play_wanted.connect(self.toggle)
        transport.playhead_moved.connect(self._follow)
        transport.playing_changed.connect(self._changed)

    @property
    def _page(self) -> PageView | None:
        return None if self._played is None else self._played.page

    @property
    def _backing(self) -> Backing:
        return self._played.backing() if self._played is not None else Backing()

    def at_desk(self, played: Played | None) -> None:
        """Play for another desk from now on; None plays nothing."""
        if played is None or played.page is not self._page:
            self._transport.stop()
        self._played = played
        self.refresh()

    @property
    def is_apart(self) -> bool:
        """Whether what plays is not what the desk shows."""
        return self._grid is None

    @property
    def can_play(self) -> bool:
        """Whether there is music here."""
        return self._played is not None and self._played.solo() is not None

    def music_changed(self) -> None:
        """The music is another one now: what sounds stops."""
        self._transport.stop()
        self.refresh()

    def refresh(self) -> None:
        """Make ready to play what there is."""
        solo = self._played.solo() if self._played is not None else None
        self.bar.setVisible(solo is not None)
        self.bar.show_solo(solo)
        if solo is not None:
            self._transport.prepare(solo, self._backing)

    def toggle(self) -> None:
        """Play, or stop if something is playing."""
        if self._transport.is_playing:
            self._transport.stop()
        else:
            self.play()

    def play(self) -> None:
        """Play what is selected, from the start of it."""
        if self._transport.is_playing:
            self._transport.stop()
        solo = self._played.solo() if self._played is not None else None
        if solo is None:
            return
        self._grid = BarGrid(solo)
        self._transport.play(solo, self._stretch(solo, self._grid), self._backing)

    def play_apart(self, solo: Solo) -> None:
        """Play music that is not the page's, whole; the page shows no playhead then."""
        if self._transport.is_playing:
            self._transport.stop()
        self._grid = None
        bars = BarGrid(solo).bars
        self._transport.play(solo, Stretch(bars[0].onset, bars[-1].end))

    def _stretch(self, solo: Solo, grid: BarGrid) -> Stretch:
        """Several selected notes are played alone; from one note on to the end; else everything."""
        wanted = set(self._played.selected() if self._played is not None else ())
        chosen = [note for note in solo.notes if note.id in wanted]
        end = grid.bars[-1].end
        if not chosen:
            return Stretch(grid.bars[0].onset, end)
        stop = max(note.end for note in chosen) if len(chosen) > 1 else end
        return Stretch(chosen[0].onset, max(stop, chosen[0].onset))

    def preview(self, note: Note, solo: Solo) -> None:
        """Let a note sound."""
        self._transport.preview(note.pitch.midi, solo.instrument.name)

    def hear_pitch(self, midi: int) -> None:
        """Let a pitch sound on the instrument of what is played here."""
        solo = self._played.solo() if self._played is not None else None
        self._transport.preview(midi, solo.instrument.name if solo is not None else "")

    def _follow(self, time: float) -> None:
        if self._page is None or self._grid is None:
            return
        self._page.show_playhead(time)
        bar = next((bar for bar in self._grid.bars if time < bar.end), self._grid.bars[-1])
        counting = self._transport.engine.is_counting_in
        self.bar.show_place(
            translate("Gavotte", "Counting in")
            if counting
            else translate("Gavotte", "Bar {number}").format(number=bar.number)
            if bar.number
            else translate("Gavotte", "Pickup")
        )

    def _changed(self, playing: bool) -> None:
        if not playing and self._page is not None:
            self._page.show_playhead(None)
