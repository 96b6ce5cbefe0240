"""The panel beside the page of the Label desk: the note, the queue, harmony, text and school, one at a time."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from gavotte.desktop.desk.studio import Studio
from gavotte.desktop.desks.label.harmony_panel import HarmonyPanel
from gavotte.desktop.desks.label.note_card import NoteCard
from gavotte.desktop.desks.label.queue_panel import QueuePanel
from gavotte.desktop.desks.label.review import Review
from gavotte.desktop.desks.label.school_panel import SchoolPanel
from gavotte.desktop.desks.label.text_panel import TextPanel
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.tabbed import Tabbed

WIDTH = 340


class LabelSide(Tabbed):
    """Signal: ``page_changed``, another one of them is shown."""

    page_changed = pyqtSignal()

    def __init__(self, studio: Studio, review: Review) -> None:
        super().__init__(WIDTH)
        session = studio.session
        self.card = NoteCard()
        self.queue = QueuePanel(session, review)
        self.harmony = HarmonyPanel(session, studio.activities)
        self.text = TextPanel(session, studio.activities)
        self.school = SchoolPanel(session, studio.activities)
        self.add_pages(
            (
                ("note", translate("Gavotte", "Note"), self.card),
                ("queue", translate("Gavotte", "Queue"), self.queue),
                ("harmony", translate("Gavotte", "Harmony"), self.harmony),
                ("text", translate("Gavotte", "Text"), self.text),
                ("school", translate("Gavotte", "School"), self.school),
            )
        )

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self.card.set_palette(palette)
        self.queue.rows.set_palette(palette)
        self.text.rows.set_palette(palette)

    def show_page(self, name: str) -> None:
        """Show the note, the queue, the harmony, the text or the school."""
        super().show_page(name)
        self.refresh()
        self.page_changed.emit()

    def refresh(self) -> None:
        """Show the solo as it is now on the page that is looked at; the others cost nothing."""
        match self.page_shown:
            case "harmony":
                self.harmony.refresh()
            case "text":
                self.text.refresh()
            case "school":
                self.school.refresh()

    def focus_of_page(self) -> QWidget:
        """Where the keys go on the page that is shown."""
        beside: dict[str, QWidget] = {
            "note": self.card.device,
            "queue": self.queue.rows,
            "harmony": self.harmony.table,
            "text": self.text.field,
            "school": self.school.school,
        }
        return beside[self.page_shown]

    def show_selection(self) -> None:
        """Follow the selected note."""
        if self.page_shown == "harmony":
            self.harmony.show_selection()
        elif self.page_shown == "text":
            self.text.show_selection()
