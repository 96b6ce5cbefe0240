"""Many licks at once: keeping places that answer, taking licks in from files, writing them out, the book of them."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtWidgets import QWidget

from gavotte.desktop.desk.studio import Studio
from gavotte.desktop.desks.vocabulary.keep_dialog import KeepDialog
from gavotte.desktop.desks.vocabulary.lick_files import LickFiles
from gavotte.desktop.desks.vocabulary.lick_list import Row
from gavotte.desktop.desks.vocabulary.lick_view import LickView
from gavotte.desktop.desks.vocabulary.looking import Looking
from gavotte.desktop.desks.vocabulary.search_panel import SearchPanel
from gavotte.desktop.desks.vocabulary.tonic_dialog import TonicDialog
from gavotte.desktop.paper.sheet import Sheet
from gavotte.desktop.translation import translate
from gavotte.desktop.words import counted
from gavotte.vocabulary.lick import Lick, music_of
from gavotte.workshop.book import book_of
from gavotte.workshop.sheet import lick_in_key


class InAndOut(QObject):
    """``dialog`` is the list to tick that was shown last, ``key_dialog`` what asked for the key of a book.

    Signal: ``kept(lick id)``, the first of what was kept.
    """

    kept = pyqtSignal(str)

    def __init__(self, studio: Studio, search: SearchPanel, view: LickView, looking: Looking, window: QWidget) -> None:
        super().__init__(window)
        self._studio, self._search, self._view, self._looking, self._window = studio, search, view, looking, window
        self.dialog: KeepDialog | None = None
        self.key_dialog: TonicDialog | None = None
        self.files = LickFiles(studio.settings, studio.activities, window)
        self.files.taken_in.connect(self._taken_in)
        self.files.written.connect(studio.exporter.exported)
        self.files.failed.connect(studio.asks.notice)

    # -- places -------------------------------------------------------------------------------------

    def keep_places(self) -> None:
        """Keep the places that answer, after they were ticked."""
        rows = self._search.places
        if not rows:
            return
        dialog = self.dialog = KeepDialog(self._window, rows)
        dialog.accepted.connect(lambda: self._keep_ticked(dialog.ticked))
        dialog.open()

    def _keep_ticked(self, rows: tuple[Row, ...]) -> None:
        def keep(licks: list[Lick]) -> None:
            kept = self._studio.edits.keep_licks(licks)
            if kept:
                self.kept.emit(kept[0])
                self._studio.asks.tell(translate("Gavotte", "Kept {licks}").format(licks=counted(len(kept), "lick")))

        self._looking.look_at_places([(row.owner, row.first, row.last) for row in rows], keep)

    # -- files --------------------------------------------------------------------------------------

    @property
    def listed(self) -> tuple[str, ...]:
        """The ids of the licks that are listed."""
        return tuple(row.owner for row in self._search.licks.rows if row.is_lick)

    def export_book(self) -> None:
        """Put the licks that are listed into one book: a sheet by context, with its contents in front."""

        self._export_book(None)

    def export_book_in_key(self) -> None:
        """The same with every lick in one key, which is asked for."""
        dialog = self.key_dialog = TonicDialog(self._window)
        dialog.accepted.connect(lambda: self._export_book(dialog.tonic))
        dialog.open()

    def _export_book(self, tonic: int | None) -> None:
        def choose(licks: list[Lick]) -> None:
            if licks:
                self._studio.exporter.choose(self.book(licks, tonic))

        self._looking.read(self.listed, choose)

    def book(self, licks: Sequence[Lick], tonic: int | None = None) -> Sheet:
        """Some licks as one sheet, as they are read; with ``tonic`` (a pitch class, as it sounds) all in that key."""
        title = translate("Gavotte", "Vocabulary")
        licks = licks if tonic is None else [lick_in_key(lick, tonic) for lick in licks]
        concert = book_of(licks, title)
        written = self._studio.view.written
        shown = book_of([self._view.to_read(lick) for lick in licks], title) if written else concert
        words = translate("Gavotte", "{licks} by what they are played over").format(licks=counted(len(licks), "lick"))
        return Sheet(
            shown[0],
            {label.note: label for label in shown[1]},
            words,
            numbered=False,
            concert=(concert[0], {label.note: label for label in concert[1]}) if written else None,
            contents=shown[2],
        )

    def export_licks(self) -> None:
        """Write the licks that are listed to one file, to be read by another Gavotte."""
        self._looking.read(self.listed, self.files.export)

    def import_licks(self) -> None:
        """Take in licks: files of Gavotte's, and scores and MIDI files each of which is one."""
        self.files.choose()

    def import_folder(self) -> None:
        """Take in the licks of all files in a folder."""
        self.files.choose_folder()

    def _taken_in(self, licks: list[Lick]) -> None:
        def keep(known: list[Lick]) -> None:
            there = {music_of(lick) for lick in known}
            fresh = [lick for lick in licks if music_of(lick) not in there]
            kept = self._studio.edits.keep_licks(fresh) if fresh else ()
            if kept:
                self.kept.emit(kept[0])
            if kept or not fresh:
                self._studio.asks.tell(_taken_words(len(kept), len(licks) - len(fresh)))

        self._looking.read(tuple(lick.id for lick in self._studio.library.licks()), keep)


def _taken_words(kept: int, doubles: int) -> str:
    words = translate("Gavotte", "Took in {licks}.").format(licks=counted(kept, "lick"))
    if doubles:
        words += " " + translate("Gavotte", "{licks} stood here already.").format(licks=counted(doubles, "lick"))
    return words
