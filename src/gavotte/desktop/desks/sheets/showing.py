"""The open sheet, laid out beside the work for the version that is looked at."""

from __future__ import annotations

from collections.abc import Generator

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from gavotte.desktop.activity import Activities
from gavotte.desktop.paper.flow import FlowPages, setup_of
from gavotte.desktop.paper.set_lines import LineSetter
from gavotte.desktop.translation import translate
from gavotte.engraving.engraver import Engraver
from gavotte.sheets.composing import Composer
from gavotte.sheets.elements import Composed
from gavotte.sheets.sheet import TeachingSheet, Version

_SOON_MS = 120


class Showing(QObject):
    """``pages`` are those of the sheet as it was laid out last, None for none.

    What is worked out of the music is done in a worker, then the pages are set in small steps. Signals: ``shown``,
    there are other pages; ``failed(message)``.
    """

    shown = pyqtSignal()
    failed = pyqtSignal(str)

    def __init__(self, engraver: Engraver, activities: Activities, parent: QObject) -> None:
        super().__init__(parent)
        self._activities = activities
        self.composer, self.setter = Composer(), LineSetter(engraver)
        self.pages: FlowPages | None = None
        self._sheet: TeachingSheet | None = None
        self._of: tuple[TeachingSheet, Version] | None = None
        self.version = Version.CONCERT
        self._leaving = object()
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.timeout.connect(self._compose)

    @property
    def is_current(self) -> bool:
        """Whether the pages are those of the sheet as it is."""
        return not self._soon.isActive() and not self._activities.of(self)

    def show(self, sheet: TeachingSheet | None, version: Version) -> None:
        """Lay a sheet out in a moment, for the readers of a version."""
        if sheet is None:
            self.stop()
            self._sheet, self._of = None, None
            self.composer = Composer()
            self._take(None)
            return
        if self._of is not None and self._of[0] is sheet and self._of[1] is version:
            return
        self._sheet, self.version = sheet, version
        self._of = sheet, version
        self._soon.start(_SOON_MS)

    def stop(self) -> None:
        """Lay nothing out any more; the next ``show`` begins anew."""
        self._soon.stop()
        self._activities.cancel(self)
        self._of = None

    def _compose(self) -> None:
        sheet, version, composer = self._sheet, self.version, self.composer
        if sheet is None:
            return
        self._activities.cancel(self)
        words = translate("Gavotte", "Setting the sheet")

        def steps() -> Generator[float, None, Composed]:
            return composer.composed(sheet, version)

        self._activities.walk(self, steps, lambda composed: self._flow(sheet, composed), self._not_done, words)

    def _flow(self, sheet: TeachingSheet, composed: Composed) -> None:
        pages = FlowPages(composed, setup_of(sheet), self.setter)
        words = translate("Gavotte", "Setting the sheet")
        self._activities.step(self, pages.steps(), lambda: self._take(pages), self._not_done, words)

    def _take(self, pages: FlowPages | None) -> None:
        """Show other pages. Those before are let go of page by page: many lines at once take a while to go."""
        before, self.pages = self.pages, pages
        self.shown.emit()
        if before is not None:
            self._activities.step(self._leaving, before.let_go(), lambda: None, self._not_done)

    def _not_done(self, error: Exception) -> None:
        self._of = None
        self.failed.emit(translate("Gavotte", "The sheet can’t be set: {error}").format(error=error))

    def elements_of(self, piece_id: str) -> frozenset[int]:
        """The elements (by their numbers) of a piece on the pages."""
        if self.pages is None:
            return frozenset()
        found, start = set(), 0
        for part in self.pages.composed.parts:
            if part.piece == piece_id:
                found |= set(range(start, start + len(part.elements)))
            start += len(part.elements)
        return frozenset(found)

    def piece_of(self, element: int) -> str:
        """The piece an element (by its number) belongs to, "" where there is none."""
        start = 0
        for part in self.pages.composed.parts if self.pages is not None else ():
            start += len(part.elements)
            if element < start:
                return part.piece
        return ""

    def page_of(self, piece_id: str) -> int | None:
        """The page (from 0) a piece begins on, None where it has none."""
        elements = self.elements_of(piece_id)
        if self.pages is None or not elements:
            return None
        for index, page in enumerate(self.pages.pages):
            if any(place.element in elements for place in page.places):
                return index
        return None
