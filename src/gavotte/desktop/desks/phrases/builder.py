"""What the structure of the open solo is: worked out beside the interface, by what an edit touched."""

from __future__ import annotations

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from gavotte.desktop.activity import Activities
from gavotte.desktop.solo.session import SoloSession
from gavotte.desktop.translation import translate
from gavotte.phrasing.structure import Structure, structure_of

_DELAY_MS = 120
_SHORT = 400
"""Notes up to which looking for motifs takes no time to speak of."""
_LONG = 3000
"""Notes from which on it is said that something is worked out."""


class Builder(QObject):
    """``structure`` is that of the open solo, None where it is not known (yet). After an edit of a long solo it
    ``is_rough`` at first: its motifs are those of before, as far as they are still there.

    Signals: ``changed``, it is another one; ``failed(message)``.
    """

    changed = pyqtSignal()
    failed = pyqtSignal(str)

    def __init__(self, session: SoloSession, activities: Activities, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._session, self._activities = session, activities
        self._structure: Structure | None = None
        self._is_wanted = False
        self.is_rough = False
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(_DELAY_MS)
        self._soon.timeout.connect(self._build)
        session.replaced.connect(self._replaced)
        session.labelled.connect(self._again)

    @property
    def structure(self) -> Structure | None:
        """The structure of the solo as it is shown, or as it was before the last edit where that is not done yet."""
        return self._structure

    @property
    def is_current(self) -> bool:
        """Whether it is that of the solo as it is shown now, motifs and all."""
        return self.is_shown and not self.is_rough

    @property
    def is_shown(self) -> bool:
        """Whether it is that of the solo as it is shown now; its motifs may still be looked for."""
        return self._structure is not None and self._structure.found is self._session.found

    def here(self) -> int | None:
        """The note where the user is, by its place in what is built; None where there is none."""
        structure, current = self._structure, self._session.selection.current
        if structure is None or current is None:
            return None
        return structure.found.solo.places.get(current)

    def phrase(self) -> tuple[Structure, int] | None:
        """The structure and the phrase that is looked at, by its number from 0."""
        structure = self._structure
        if structure is None or not structure.phrases:
            return None
        here = self.here()
        number = structure.phrase_at(here) if here is not None else 0
        return structure, number if number is not None else 0

    def want(self, wanted: bool) -> None:
        """Whether anybody looks at it: what nobody looks at is not worked out."""
        self._is_wanted = wanted
        if wanted and not self.is_current and not self._activities.of(self):
            self._build()

    def _replaced(self) -> None:
        self._structure, self.is_rough = None, False
        self.changed.emit()
        self._again()

    def _again(self) -> None:
        self._activities.cancel(self)
        if self._is_wanted:
            self._soon.start()

    def _build(self) -> None:
        self._activities.cancel(self)
        found, like = self._session.found, self._structure
        if found is None:
            return

        words = translate("Gavotte", "Finding the phrases") if len(found.solo.notes) >= _LONG else ""

        def failed(error: Exception) -> None:
            self.failed.emit(str(error))

        def take(structure: Structure, is_rough: bool = False) -> None:
            if self._session.found is found:
                self._structure, self.is_rough = structure, is_rough
                self.changed.emit()

        def look_for_motifs(structure: Structure) -> None:
            # Motifs that were rough before stay so until they have been looked for, whatever was edited since.
            is_rough = was_rough or like is None or structure.line is not like.line
            take(structure, is_rough)
            if is_rough and self._session.found is found:
                self._activities.beside(self, lambda: structure_of(found), take, failed, words)

        was_rough = self.is_rough
        if like is not None and len(found.solo.notes) > _SHORT:
            self._activities.beside(self, lambda: structure_of(found, like, quick=True), look_for_motifs, failed, words)
        else:
            known = None if was_rough else like
            self._activities.beside(self, lambda: structure_of(found, known), take, failed, words)
