"""The panel beside the page of the Label desk: the note, the queue, harmony, text and school, one at a time."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QButtonGroup, QHBoxLayout, QPushButton, QStackedWidget, QVBoxLayout, QWidget

from gavotte.desktop.header import rule
from gavotte.desktop.labelling.harmony_panel import HarmonyPanel
from gavotte.desktop.labelling.note_card import NoteCard
from gavotte.desktop.labelling.queue_panel import QueuePanel
from gavotte.desktop.labelling.review import Review
from gavotte.desktop.labelling.school_panel import SchoolPanel
from gavotte.desktop.labelling.text_panel import TextPanel
from gavotte.desktop.session import SoloSession
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import translate

WIDTH = 340


class LabelSide(QWidget):
    """Signal: ``page_changed``, another one of them is shown."""

    page_changed = pyqtSignal()

    def __init__(self, session: SoloSession, review: Review, folder: Path) -> None:
        super().__init__()
        self.setObjectName("card")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.setFixedWidth(WIDTH)
        self.card = NoteCard()
        self.queue = QueuePanel(session, review)
        self.harmony = HarmonyPanel(session)
        self.text = TextPanel(session)
        self.school = SchoolPanel(session, folder)
        self._stack = QStackedWidget()
        self.tabs: dict[str, QPushButton] = {}
        tabs = QHBoxLayout()
        tabs.setContentsMargins(10, 8, 10, 8)
        tabs.setSpacing(0)
        group = QButtonGroup(self)
        for name, words, page in (
            ("note", translate("Gavotte", "Note"), self.card),
            ("queue", translate("Gavotte", "Queue"), self.queue),
            ("harmony", translate("Gavotte", "Harmony"), self.harmony),
            ("text", translate("Gavotte", "Text"), self.text),
            ("school", translate("Gavotte", "School"), self.school),
        ):
            button = QPushButton(words)
            button.setObjectName("tab")
            button.setCheckable(True)
            button.clicked.connect(lambda _, n=name: self.show_page(n))
            group.addButton(button)
            tabs.addWidget(button)
            self.tabs[name] = button
            self._stack.addWidget(page)
        tabs.addStretch(1)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(tabs)
        column.addWidget(rule())
        column.addWidget(self._stack, 1)
        self.show_page("note")

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self.card.set_palette(palette)
        self.queue.rows.set_palette(palette)
        self.text.rows.set_palette(palette)

    def show_page(self, name: str) -> None:
        """Show the note, the queue, the harmony, the text or the school."""
        self.tabs[name].setChecked(True)
        self._stack.setCurrentIndex(list(self.tabs).index(name))
        self.refresh()
        self.page_changed.emit()

    @property
    def page_shown(self) -> str:
        """Which of them is shown."""
        return list(self.tabs)[self._stack.currentIndex()]

    def refresh(self) -> None:
        """Show the solo as it is now on the page that is looked at; the others cost nothing."""
        match self.page_shown:
            case "harmony":
                self.harmony.refresh()
            case "text":
                self.text.refresh()
            case "school":
                self.school.refresh()

    def show_selection(self) -> None:
        """Follow the selected note."""
        if self.page_shown == "harmony":
            self.harmony.show_selection()
        elif self.page_shown == "text":
            self.text.show_selection()

    def show_number_of_items(self, number: int) -> None:
        """How many things there are to look at."""
        word = translate("Gavotte", "Queue")
        self.tabs["queue"].setText(f"{word} ({number})" if number else word)
