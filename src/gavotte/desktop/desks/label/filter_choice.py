"""Which notes of the page are shown in full: all, the skeleton, or those of one function or device."""

from __future__ import annotations

from collections.abc import Mapping

from gavotte.desktop.translation import said, translate
from gavotte.desktop.widgets.choice import Choice
from gavotte.desktop.words import FUNCTION_WORDS, device_words
from gavotte.labelling.labeller import Labelled
from gavotte.phrasing.skeleton import strong_notes
from gavotte.solo.label import DEVICES, Label

WIDTH = 160
EVERYTHING, SKELETON, DOUBTS = "everything", "skeleton", "doubts"


class FilterChoice(Choice):
    """Offers what to filter by. The data of an entry is WIDTH = 160
    EVERYTHING, SKELETON, DOUBTS, a function or a device."""

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName(translate("Gavotte", "Which notes are shown in full"))
        self.setToolTip(translate("Gavotte", "Show some notes in full and the others faintly (V goes to the skeleton)"))
        self.addItem(translate("Gavotte", "All notes"), EVERYTHING)
        self.addItem(translate("Gavotte", "Skeleton: strong beats"), SKELETON)
        self.addItem(translate("Gavotte", "In doubt"), DOUBTS)
        for function, devices in DEVICES.items():
            self.insertSeparator(self.count())
            self.addItem(said(FUNCTION_WORDS[function]), str(function))
            for device in devices:
                if device != str(function):
                    self.addItem("    " + device_words(device), f"{function}/{device}")
        self.setMaxVisibleItems(30)
        self.setFixedWidth(WIDTH)
        view = self.view()
        assert view is not None
        view.setMinimumWidth(view.sizeHintForColumn(0) + 32)

    @property
    def wanted(self) -> str:
        """What is filtered by."""
        return str(self.currentData())

    def choose(self, wanted: str) -> None:
        """Filter by something else."""
        self.setCurrentIndex(max(0, self.findData(wanted)))

    def kept(self, found: Labelled, labels: Mapping[str, Label]) -> frozenset[str] | None:
        """The notes shown in full, None for all of them."""
        wanted = self.wanted
        if wanted == EVERYTHING:
            return None
        if wanted == SKELETON:
            return strong_notes(found)
        if wanted == DOUBTS:
            return frozenset(note for note, label in labels.items() if label.in_doubt)
        function, _, device = wanted.partition("/")
        return frozenset(
            note
            for note, label in labels.items()
            if str(label.function) == function and (not device or label.device == device)
        )
