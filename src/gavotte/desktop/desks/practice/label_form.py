"""A bar to be labelled by hand: a choice for each of its notes."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QGridLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from gavotte.desktop.translation import said, translate
from gavotte.desktop.widgets.choice import Choice
from gavotte.desktop.words import FUNCTION_WORDS
from gavotte.practice.label_lesson import BarToLabel
from gavotte.solo.document import Function, Solo


class LabelForm(QWidget):
    """``choices`` are the notes' in their order. Signal: ``compare_wanted``, all is said."""

    compare_wanted = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.choices: list[Choice] = []
        self.compare = QPushButton(translate("Gavotte", "Compare"))
        self.compare.setObjectName("primary")
        self.compare.clicked.connect(self.compare_wanted)
        self._rows = QWidget()
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(8)
        self._column.addWidget(self._rows)
        self._column.addWidget(self.compare)

    def show_bar(self, bar: BarToLabel, read: Callable[[Solo], Solo]) -> None:
        """Ask for the functions of a bar's notes, named as they are read."""
        old, self._rows = self._rows, QWidget()
        self._column.replaceWidget(old, self._rows)
        old.deleteLater()
        grid = QGridLayout(self._rows)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setHorizontalSpacing(10)
        grid.setVerticalSpacing(4)
        grid.setColumnStretch(2, 1)
        self.choices = []
        names = [note.pitch.name.shown for note in read(bar.music).notes if not note.grace]
        for row, (place, name) in enumerate(zip(bar.places, names, strict=False)):
            choice = Choice()
            for function in Function:
                choice.addItem(said(FUNCTION_WORDS[function]), function)
            choice.setAccessibleName(f"{place}: {name}")
            grid.addWidget(QLabel(place), row, 0)
            strong = QLabel(name)
            strong.setObjectName("heading")
            grid.addWidget(strong, row, 1)
            grid.addWidget(choice, row, 2)
            self.choices.append(choice)
        self.compare.setVisible(True)
        if self.choices:
            QWidget.setTabOrder(self.choices[-1], self.compare)

    @property
    def said(self) -> list[Function]:
        """What was said of each note."""
        return [choice.currentData() for choice in self.choices]

    def close_form(self) -> None:
        """Nothing more is to be said."""
        self.compare.setVisible(False)
        for choice in self.choices:
            choice.setEnabled(False)
