"""The panel beside the page of the Phrases desk: the phrase, and what comes back."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from gavotte.desktop.desks.phrases.motif_panel import MotifPanel
from gavotte.desktop.desks.phrases.phrase_card import PhraseCard
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.tabbed import Tabbed

WIDTH = 340


class PhrasesSide(Tabbed):
    """``card`` is the phrase's, ``motifs`` lists what comes back. Signal: ``page_changed``, the other one is shown."""

    page_changed = pyqtSignal()

    def __init__(self) -> None:
        super().__init__(WIDTH)
        self.card, self.motifs = PhraseCard(), MotifPanel()
        self.add_pages(
            (
                ("phrase", translate("Gavotte", "Phrase"), self.card),
                ("motifs", translate("Gavotte", "What comes back"), self.motifs),
            )
        )

    def show_page(self, name: str) -> None:
        """Show the phrase, or what comes back."""
        super().show_page(name)
        self.page_changed.emit()

    def focus_of_page(self) -> QWidget:
        """Where the keys go on the page that is shown."""
        if self.page_shown == "phrase":
            return self.card.field
        return self.motifs.themes if self.motifs.themes.isVisible() else self.motifs.places
