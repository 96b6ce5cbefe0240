"""How the run goes: the way through, passes, tempo, what the page shows; and what is practised of the item."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QGridLayout, QHBoxLayout, QLabel, QPushButton, QWidget

from gavotte.desktop.desks.practice.words import CLICKS, CLIMBS, FADINGS, WAYS
from gavotte.desktop.translation import said, translate
from gavotte.desktop.widgets.choice import Choice, Tick
from gavotte.desktop.widgets.header import rule
from gavotte.desktop.widgets.line import Line
from gavotte.desktop.widgets.number import Number
from gavotte.desktop.widgets.scrolled_panel import ScrolledPanel
from gavotte.practice.climbing import When
from gavotte.practice.item import MOST_KEYS, PracticeItem
from gavotte.practice.run import Fading, RunWishes, Way
from gavotte.sounding.click import Click

SLOWEST, FASTEST = 30, 400


class RunPanel(ScrolledPanel):
    """Signals: ``wishes_changed``, the run shall go otherwise; ``item_changed(item)``, the goal is another one;
    ``remove_wanted``, the item is no longer to be practised; ``click_wanted(click)``, where the click is to be heard
    (None: nowhere); ``playhead_hidden(hidden)``.
    """

    wishes_changed = pyqtSignal()
    item_changed = pyqtSignal(object)
    remove_wanted = pyqtSignal()
    click_wanted = pyqtSignal(object)
    playhead_hidden = pyqtSignal(bool)

    def __init__(self) -> None:
        super().__init__()
        self._item: PracticeItem | None = None
        self.way, self.fading = Choice(), Choice()
        for way in Way:
            self.way.addItem(said(WAYS[way]), way)
        for fading in Fading:
            self.fading.addItem(said(FADINGS[fading]), fading)
        self.passes, self.tempo = Number(1, 12, 1), Number(SLOWEST, FASTEST, 2)
        self.step = Number(0, 40, 1)
        self.when, self.need = Choice(), Number(1, 20, 1)
        for when, words in CLIMBS.items():
            self.when.addItem(said(words), when)
        self.when.setAccessibleName(translate("Gavotte", "When it becomes faster"))
        self.need.setValue(2)
        self.passes.setValue(4)
        self.click = Choice()
        self.click.setAccessibleName(translate("Gavotte", "The click"))
        for click, words in CLICKS.items():
            self.click.addItem(said(words), click)
        self.playhead = Tick(translate("Gavotte", "Hide the playhead"))
        self.soloist = Tick(translate("Gavotte", "Hear the solo while I play"))
        self.keys, self.goal = Number(1, MOST_KEYS, 1), Number(SLOWEST, FASTEST, 4)
        self.by_heart = Tick(translate("Gavotte", "To be played by heart"))
        self.rests = Tick(translate("Gavotte", "Leave it out for now"))
        self.words = Line()
        self.words.setPlaceholderText(translate("Gavotte", "The goal in words: land on the 3rd"))
        self.remove = QPushButton(translate("Gavotte", "No longer practise it"))
        self.remove.clicked.connect(self.remove_wanted)
        self._lay_out()
        for number in (self.passes, self.tempo, self.step, self.need):
            number.setKeyboardTracking(False)
            number.valueChanged.connect(lambda _: self.wishes_changed.emit())
        for choice in (self.way, self.fading, self.when):
            choice.currentIndexChanged.connect(lambda _: self.wishes_changed.emit())
        self.when.currentIndexChanged.connect(lambda _: self._fit())
        self._fit()
        self.click.activated.connect(lambda _: self.click_wanted.emit(self.click.currentData()))
        self.soloist.toggled.connect(lambda _: self.wishes_changed.emit())
        self.playhead.toggled.connect(self.playhead_hidden)
        for number in (self.keys, self.goal):
            number.setKeyboardTracking(False)
            number.valueChanged.connect(lambda _: self._tell_item())
        self.by_heart.toggled.connect(lambda _: self._tell_item())
        self.rests.toggled.connect(lambda _: self._tell_item())
        self.words.editingFinished.connect(self._tell_item)

    def _lay_out(self) -> None:
        column = self.column
        self.add_heading(translate("Gavotte", "This run"))
        column.addWidget(self.way)
        column.addLayout(
            _grid(
                (translate("Gavotte", "Passes"), self.passes),
                (translate("Gavotte", "Tempo at first"), self.tempo),
                (translate("Gavotte", "Faster by"), self.step),
            )
        )
        climb = QHBoxLayout()
        climb.setSpacing(8)
        climb.addWidget(self.when, 1)
        self.need.setFixedWidth(72)
        self.need.setAccessibleName(translate("Gavotte", "How many"))
        climb.addWidget(self.need)
        column.addLayout(climb)
        column.addWidget(self.fading)
        column.addWidget(self.click)
        column.addWidget(self.soloist)
        column.addWidget(self.playhead)
        column.addWidget(rule())
        self.add_heading(translate("Gavotte", "The goal"))
        column.addLayout(_grid((translate("Gavotte", "Tempo"), self.goal), (translate("Gavotte", "Keys"), self.keys)))
        column.addWidget(self.words)
        column.addWidget(self.by_heart)
        column.addWidget(self.rests)
        last = QHBoxLayout()
        last.addWidget(self.remove)
        last.addStretch(1)
        column.addLayout(last)
        column.addStretch(1)

    def _fit(self) -> None:
        self.need.setVisible(self.when.currentData() is not When.PASSES)

    def show_item(self, item: PracticeItem, tempo: int) -> None:
        """Show an item; ``tempo`` is where its run begins."""
        self._item = item
        values = ((self.tempo, tempo), (self.keys, len(item.cards)), (self.goal, item.goal))
        ticks = ((self.by_heart, item.from_memory), (self.rests, item.rests))
        for number, value in values:
            number.blockSignals(True)
            number.setValue(value)
            number.blockSignals(False)
        for tick, on in ticks:
            tick.blockSignals(True)
            tick.setChecked(on)
            tick.blockSignals(False)
        if self.words.text() != item.words:
            self.words.setText(item.words)

    def show_click(self, click: Click | None) -> None:
        """Show where the click is heard, None for nowhere."""
        self.click.setCurrentIndex(next(k for k in range(self.click.count()) if self.click.itemData(k) == click))

    @property
    def wishes(self) -> RunWishes:
        """How the run is wished."""
        return RunWishes(
            self.way.currentData(),
            int(self.passes.value()),
            int(self.tempo.value()),
            int(self.step.value()),
            FASTEST,
            self.fading.currentData(),
            self.soloist.isChecked(),
            self.when.currentData(),
            int(self.need.value()),
        )

    def set_wishes(self, values: Sequence[str]) -> None:
        """Go back to what was kept: way, passes, step, fading, soloist, when it climbs, how many that needs,
        whether the playhead hides.
        """
        if len(values) != 8:
            return
        for choice, value in ((self.way, values[0]), (self.fading, values[3]), (self.when, values[5])):
            row = next((k for k in range(choice.count()) if str(choice.itemData(k)) == value), -1)
            if row >= 0:
                choice.setCurrentIndex(row)
        for number, value in ((self.passes, values[1]), (self.step, values[2]), (self.need, values[6])):
            if value.isdigit():
                number.setValue(int(value))
        self.soloist.setChecked(values[4] == "1")
        self.playhead.setChecked(values[7] == "1")

    def kept_wishes(self) -> tuple[str, ...]:
        """What is kept until the next start."""
        wishes = self.wishes
        return (
            str(wishes.way), str(wishes.passes), str(wishes.step), str(wishes.fading),
            "1" if wishes.with_soloist else "0", str(wishes.when), str(wishes.need),
            "1" if self.playhead.isChecked() else "0",
        )  # fmt: skip

    def _tell_item(self) -> None:
        if self._item is None:
            return
        changed = replace(
            self._item.with_keys(int(self.keys.value())),
            goal=int(self.goal.value()),
            words=self.words.text().strip(),
            from_memory=self.by_heart.isChecked(),
            rests=self.rests.isChecked(),
        )
        if changed != self._item:
            self._item = changed
            self.item_changed.emit(changed)


def _grid(*rows: tuple[str, QWidget]) -> QGridLayout:
    grid = QGridLayout()
    grid.setHorizontalSpacing(12)
    grid.setVerticalSpacing(6)
    grid.setColumnStretch(0, 1)
    for row, (words, widget) in enumerate(rows):
        label = QLabel(words)
        label.setBuddy(widget)
        widget.setAccessibleName(words)
        widget.setFixedWidth(96)
        grid.addWidget(label, row, 0)
        grid.addWidget(widget, row, 1)
    return grid
