"""The panel beside the page: how the run goes, the take, everything there is to practise, the log, the ears."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import datetime

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from gavotte.desktop.desks.practice.band_panel import BandPanel
from gavotte.desktop.desks.practice.ears_panel import EarsPanel
from gavotte.desktop.desks.practice.keys_view import KeysView
from gavotte.desktop.desks.practice.log_panel import LogPanel
from gavotte.desktop.desks.practice.run_panel import RunPanel
from gavotte.desktop.desks.practice.take_panel import TakePanel
from gavotte.desktop.desks.practice.words import KINDS, Read, as_it_is, next_words
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import said, translate
from gavotte.desktop.widgets.header import rule
from gavotte.desktop.widgets.rows import RowList
from gavotte.desktop.widgets.tabbed import Tabbed
from gavotte.desktop.words import counted
from gavotte.practice.item import PracticeItem
from gavotte.practice.plan import next_time

WIDTH = 340


class PracticeSide(Tabbed):
    """``run``, ``band``, ``take``, ``all``, ``log`` and ``ears``; ``keys`` shows the keys of what is on the stand.

    Signals: ``item_chosen(id)``, one of everything there is; ``changes_wanted`` and ``scale_wanted``, something new is
    to be added.
    """

    item_chosen = pyqtSignal(str)
    changes_wanted = pyqtSignal()
    scale_wanted = pyqtSignal()

    def __init__(self) -> None:
        super().__init__(WIDTH)
        self.run, self.band, self.take, self.log = RunPanel(), BandPanel(), TakePanel(), LogPanel()
        self.ears = EarsPanel()
        self.keys = KeysView()
        self.changes = QPushButton(translate("Gavotte", "Changes…"))
        self.scale = QPushButton(translate("Gavotte", "A scale…"))
        self.all = RowList(translate("Gavotte", "Everything there is to practise"))
        run_page = QWidget()
        column = QVBoxLayout(run_page)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        heading = self._keys_heading = QLabel(translate("Gavotte", "Tempo reached in each key"))
        heading.setObjectName("quiet")
        heading.setContentsMargins(16, 10, 16, 0)
        around = QVBoxLayout()
        around.setContentsMargins(16, 0, 16, 4)
        around.addWidget(self.keys)
        column.addWidget(heading)
        column.addLayout(around)
        column.addWidget(self.run, 1)
        self.add_pages(
            (
                ("run", translate("Gavotte", "Run"), run_page),
                ("band", translate("Gavotte", "Band"), self.band),
                ("take", translate("Gavotte", "Take"), self.take),
                ("all", translate("Gavotte", "All"), self._everything()),
                ("log", translate("Gavotte", "Log"), self.log),
                ("ears", translate("Gavotte", "Ears"), self.ears),
            )
        )
        self.all.itemClicked.connect(self._choose)
        self.all.itemActivated.connect(self._choose)

    def _everything(self) -> QWidget:
        """The list of everything, and below it what adds to it."""
        page = QWidget()
        column = QVBoxLayout(page)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.all, 1)
        column.addWidget(rule())
        row = QHBoxLayout()
        row.setContentsMargins(12, 8, 12, 8)
        row.setSpacing(8)
        for button, wanted in ((self.changes, self.changes_wanted), (self.scale, self.scale_wanted)):
            button.clicked.connect(wanted)
            row.addWidget(button)
        row.addStretch(1)
        column.addLayout(row)
        return page

    def show_keys(self, item: PracticeItem | None, number: int, read: Read = as_it_is) -> None:
        """Show the keys of what is on the stand, where there are several."""
        several = item is not None and len(item.cards) > 1
        self.keys.show_item(item, number, read)
        self.keys.setVisible(several)
        self._keys_heading.setVisible(several)

    def _choose(self) -> None:
        current = self.all.current_id()
        if current is not None:
            self.item_chosen.emit(current)

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        for panel in (self.take, self.log, self.keys, self.all):
            panel.set_palette(palette)

    def show_items(self, items: Mapping[str, PracticeItem], current: str | None, now: datetime) -> None:
        """List everything there is."""
        self.all.blockSignals(True)
        self.all.clear()
        for name, item in items.items():
            times = [left for card in item.cards if (left := next_time(card, now)) is not None]
            when = translate("Gavotte", "left out") if item.rests else next_words(min(times, default=None))
            parts = [said(KINDS[item.kind]), counted(len(item.cards), "key") if len(item.cards) > 1 else "", when]
            self.all.add_row(name, item.name, " · ".join(filter(None, parts)))
            if name == current:
                self.all.setCurrentRow(self.all.count() - 1)
        self.all.blockSignals(False)

    def focus_of_page(self) -> QWidget:
        return {
            "run": self.run.way,
            "band": self.band.groove,
            "take": self.take.source,
            "all": self.all,
            "log": self.log.search,
            "ears": self.ears.hear,
        }[self.page_shown]
