"""What the structure of the open solo is: worked out beside the interface, by what an edit touched."""

from __future__ import annotations

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from gavotte.desktop.activity import Activities
from gavotte.desktop.solo.session import SoloSession
from gavotte.desktop.translation import translate
from gavotte.phrasing.structure import Structure, structure_of

_DELAY_MS = 120
_LONG = 3000
"""Notes from which on it is said that something is worked out."""


class Builder(QObject):
    """``structure`` is that of the open solo, None where it is not known (yet).

    Signals: ``changed``, it is another one; ``failed(message)``.
    """

    changed = pyqtSignal()
    failed = pyqtSignal(str)

    def __init__(self, session: SoloSession, activities: Activities, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._session, self._activities = session, activities
        self._structure: Structure | None = None
        self._is_wanted = False
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
        """Whether it is that of the solo as it is shown now."""
        return self._structure is not None and self._structure.found is self._session.found

    def want(self, wanted: bool) -> None:
        """Whether anybody looks at it: what nobody looks at is not worked out."""
        self._is_wanted = wanted
        if wanted and not self.is_current and not self._activities.of(self):
            self._build()

    def _replaced(self) -> None:
        self._structure = None
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

        def take(structure: Structure) -> None:
            if self._session.found is found:
                self._structure = structure
                self.changed.emit()

        words = translate("Gavotte", "Finding the phrases") if len(found.solo.notes) >= _LONG else ""
        self._activities.beside(
            self, lambda: structure_of(found, like), take, lambda error: self.failed.emit(str(error)), words
        )
