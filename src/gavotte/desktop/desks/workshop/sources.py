"""What is taken onto the bench: the selection of the open solo, a lick, or a line that is written or played."""

from __future__ import annotations

from PyQt6.QtCore import QObject
from PyQt6.QtWidgets import QWidget

from gavotte.desktop.desk.studio import Studio
from gavotte.desktop.desks.workshop.bench import Bench
from gavotte.desktop.desks.workshop.bench_store import BenchStore
from gavotte.desktop.desks.workshop.line_dialog import LineDialog
from gavotte.desktop.desks.workshop.small_dialogs import LickChoice
from gavotte.desktop.theme.palette import DAY, Palette
from gavotte.desktop.translation import translate
from gavotte.formats.errors import FormatError
from gavotte.library.errors import LibraryError
from gavotte.solo.document import Solo
from gavotte.vocabulary.lick import Lick

_MOST_NOTES = 2000


class Sources(QObject):
    """``dialog`` is the one that was opened last."""

    def __init__(self, studio: Studio, bench: Bench, store: BenchStore, desk: QWidget) -> None:
        super().__init__(desk)
        self._studio, self._bench, self._store, self._desk = studio, bench, store, desk
        self.palette_in_use: Palette = DAY
        self.dialog: LineDialog | LickChoice | None = None

    def has_selection(self) -> bool:
        """Whether notes of the open solo are selected."""
        return len(self._studio.session.selection.notes()) > 1

    def take_selection(self) -> None:
        """Take the selected notes of the open solo."""
        asks, number = self._studio.asks, len(self._studio.session.selection.notes())
        if number > _MOST_NOTES:
            words = translate("Gavotte", "{number} notes are selected; a line of up to {most} can be worked on")
            asks.tell(words.format(number=number, most=_MOST_NOTES))
            return
        lick = self._studio.session.lick()
        if lick is None or number < 2:
            asks.tell(translate("Gavotte", "Select two notes or more of a solo to work on them"))
            return
        self._take_lick(lick)

    def take_lick(self, lick_id: str) -> None:
        """Take a lick of the vocabulary."""
        try:
            self._take_lick(self._studio.library.lick(lick_id))
        except (LibraryError, FormatError) as error:
            self._studio.asks.notice(str(error))

    def take_what_arrived(self) -> None:
        """Take the line another desk sent here."""
        lick = self._studio.bench.arrived()
        if lick is not None:
            self._take_lick(lick)

    def _take_lick(self, lick: Lick) -> None:
        player = translate("Gavotte", ", by {player}").format(player=lick.source.player) if lick.source.player else ""
        self._take(lick.solo, lick.name, f"{lick.source.title}, {lick.source.place}{player}")

    def _take(self, solo: Solo, name: str, comes: str) -> None:
        # What was there the last time is laid down first, so that it is a step back.
        self._store.lay_what_was()
        self._bench.take(solo, name, comes)

    def choose_lick(self) -> None:
        """Choose a lick to take."""
        library = self._studio.library
        dialog = LickChoice(self._desk.window() or self._desk, library.licks(), library.licks_with_words)
        dialog.rows.set_palette(self.palette_in_use)
        self.dialog = dialog
        dialog.accepted.connect(lambda: self.take_lick(dialog.chosen) if dialog.chosen else None)
        dialog.open()

    def write_line(self) -> None:
        """Write or play a line to take."""
        solo = self._studio.session.solo
        instrument = solo.instrument.name if solo is not None else ""
        dialog = LineDialog(self._desk.window() or self._desk, instrument, self._studio.playing.hear_pitch)
        dialog.strip.palette_in_use = self.palette_in_use
        self.dialog = dialog

        def take() -> None:
            if dialog.solo is not None:
                self._take(dialog.solo, dialog.solo.title, translate("Gavotte", "written here"))

        dialog.accepted.connect(take)
        dialog.open()
