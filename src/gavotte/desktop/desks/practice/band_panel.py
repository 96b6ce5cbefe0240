"""The band an item is played with: groove, what it stands on, how much is played, intro, ending, and the seed."""

from __future__ import annotations

import random
from dataclasses import replace

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QGridLayout, QHBoxLayout, QLabel, QPushButton, QWidget

from gavotte.desktop.desks.practice.words import ENDINGS, FEELS, GROOVES, INTENSITIES, INTROS
from gavotte.desktop.translation import said, translate
from gavotte.desktop.widgets.choice import Choice, Tick
from gavotte.desktop.widgets.header import rule
from gavotte.desktop.widgets.number import Number
from gavotte.desktop.widgets.scrolled_panel import ScrolledPanel
from gavotte.practice.band import BandWishes, Ending, Intro
from gavotte.practice.item import PracticeItem
from gavotte.sounding.backing import Feel, Intensity
from gavotte.sounding.groove import groove_of, grooves_for

HIGHEST_SEED = 9999


class BandPanel(ScrolledPanel):
    """Signals: ``item_changed(item)``, its band is wished otherwise; ``file_wanted``, the band is to be taken away."""

    item_changed = pyqtSignal(object)
    file_wanted = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self._item: PracticeItem | None = None
        self.groove, self.feel, self.intensity = Choice(), Choice(), Choice()
        self.intro, self.ending = Choice(), Choice()
        for choice, words in ((self.feel, FEELS), (self.intensity, INTENSITIES), (self.intro, INTROS),
                              (self.ending, ENDINGS)):  # fmt: skip
            for value, text in words.items():
                choice.addItem(said(text), value)
        self.seed = Number(0, HIGHEST_SEED, 1)
        self.seed.setKeyboardTracking(False)
        self.seed.setAccessibleName(translate("Gavotte", "Seed"))
        self.seed.setToolTip(translate("Gavotte", "The seed: the same number gives the same band"))
        self.another = QPushButton(translate("Gavotte", "Another band"))
        self.another.setToolTip(translate("Gavotte", "Another bass line, other rhythms: another seed"))
        self.each_time = Tick(translate("Gavotte", "Another one each time it begins"))
        self.file = QPushButton(translate("Gavotte", "Take it away…"))
        self._lay_out()
        for choice in (self.groove, self.feel, self.intensity, self.intro, self.ending):
            choice.activated.connect(lambda _: self._tell())
        self.seed.valueChanged.connect(lambda _: self._tell())
        self.each_time.toggled.connect(lambda _: self._tell())
        self.another.clicked.connect(self.draw)
        self.file.clicked.connect(self.file_wanted)

    def _lay_out(self) -> None:
        column = self.column
        self.add_heading(translate("Gavotte", "The band"))
        grid = QGridLayout()
        grid.setHorizontalSpacing(12)
        grid.setVerticalSpacing(8)
        grid.setColumnStretch(1, 1)
        rows: tuple[tuple[str, QWidget], ...] = (
            (translate("Gavotte", "Style"), self.groove),
            (translate("Gavotte", "Bass"), self.feel),
            (translate("Gavotte", "Playing"), self.intensity),
            (translate("Gavotte", "Before"), self.intro),
            (translate("Gavotte", "Behind"), self.ending),
        )
        for row, (words, widget) in enumerate(rows):
            label = QLabel(words)
            label.setBuddy(widget)
            widget.setAccessibleName(words)
            grid.addWidget(label, row, 0)
            grid.addWidget(widget, row, 1)
        column.addLayout(grid)
        column.addWidget(rule())
        seed = QHBoxLayout()
        seed.setSpacing(8)
        label = QLabel(translate("Gavotte", "Seed"))
        label.setBuddy(self.seed)
        seed.addWidget(label)
        self.seed.setFixedWidth(96)
        seed.addWidget(self.seed)
        seed.addWidget(self.another)
        seed.addStretch(1)
        column.addLayout(seed)
        column.addWidget(self.each_time)
        column.addWidget(rule())
        about = QLabel(
            translate("Gavotte", "As a sound or MIDI file: the whole run, as it would be heard now, without the click.")
        )
        about.setObjectName("quietBody")
        about.setWordWrap(True)
        column.addWidget(about)
        last = QHBoxLayout()
        last.addWidget(self.file)
        last.addStretch(1)
        column.addLayout(last)
        column.addStretch(1)

    def show_item(self, item: PracticeItem) -> None:
        """Show the band of an item."""
        self._item = item
        band, meter = item.band, item.music.meters[0].meter
        self.groove.blockSignals(True)
        self.groove.clear()
        own = translate("Gavotte", "{groove}, as the tune says").format(groove=said(GROOVES[groove_of(item.music)]))
        self.groove.addItem(own, None)
        for groove in grooves_for(meter):
            self.groove.addItem(said(GROOVES[groove]), groove)
        self.groove.blockSignals(False)
        for choice, value in ((self.groove, band.groove), (self.feel, band.feel), (self.intensity, band.intensity),
                              (self.intro, band.intro), (self.ending, band.ending)):  # fmt: skip
            choice.setCurrentIndex(next((k for k in range(choice.count()) if choice.itemData(k) == value), 0))
        self.show_seed(band.seed)
        self.each_time.blockSignals(True)
        self.each_time.setChecked(band.is_new_each_time)
        self.each_time.blockSignals(False)

    def show_seed(self, seed: int) -> None:
        """Show the seed of the band that is heard."""
        self.seed.blockSignals(True)
        self.seed.setValue(seed)
        self.seed.blockSignals(False)

    def draw(self) -> None:
        """Another band."""
        self.seed.setValue(random.randrange(1, HIGHEST_SEED + 1))

    def _tell(self) -> None:
        if self._item is None:
            return
        feel: Feel = self.feel.currentData()
        intensity: Intensity = self.intensity.currentData()
        intro: Intro = self.intro.currentData()
        ending: Ending = self.ending.currentData()
        band = BandWishes(
            self.groove.currentData(),
            feel,
            intensity,
            int(self.seed.value()),
            self.each_time.isChecked(),
            intro,
            ending,
        )
        if band != self._item.band:
            self._item = replace(self._item, band=band)
            self.item_changed.emit(self._item)
