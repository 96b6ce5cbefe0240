"""The panel beside the bench: the steps, what the step that is looked at could make, and six variations."""

from __future__ import annotations

from PyQt6.QtWidgets import QWidget

from gavotte.desktop.desks.workshop.bits_panel import BitsPanel
from gavotte.desktop.desks.workshop.chain_panel import ChainPanel
from gavotte.desktop.desks.workshop.proposals_panel import ProposalsPanel, VariationsPanel
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.tabbed import Tabbed

WIDTH = 340


class WorkshopSide(Tabbed):
    """``chain`` has the steps, ``choices`` what one of them could make, ``variations`` six of them,
    ``bits`` the licks of an étude.
    """

    def __init__(self) -> None:
        super().__init__(WIDTH)
        self.chain = ChainPanel()
        self.choices = ProposalsPanel(translate("Gavotte", "What the step could make"))
        self.variations = VariationsPanel()
        self.bits = BitsPanel()
        self.add_pages(
            (
                ("steps", translate("Gavotte", "Steps"), self.chain),
                ("choices", translate("Gavotte", "Choices"), self.choices),
                ("variations", translate("Gavotte", "Variations"), self.variations),
                ("bits", translate("Gavotte", "Licks"), self.bits),
            )
        )
        self.tabs["bits"].setVisible(False)

    def show_bits(self, there: bool) -> None:
        """Show the licks of an étude where there is one."""
        self.tabs["bits"].setVisible(there)
        if not there and self.page_shown == "bits":
            self.show_page("steps")

    def go_to(self, name: str) -> None:
        """Show a page and go into it; the licks of an étude only where there is one."""
        if name != "bits" or self.tabs["bits"].isVisible():
            super().go_to(name)

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        for panel in (self.chain, self.choices, self.variations, self.bits):
            panel.set_palette(palette)

    def focus_of_page(self) -> QWidget:
        """Where the keys go on the page that is shown."""
        if self.page_shown == "steps":
            return self.chain.steps if self.chain.steps.isVisible() else self.chain.add
        if self.page_shown == "bits":
            return self.bits.rows
        panel = self.choices if self.page_shown == "choices" else self.variations
        return panel.list
