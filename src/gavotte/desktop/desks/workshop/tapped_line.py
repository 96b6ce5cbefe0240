"""A rhythm as lengths to be written, or tapped in on a button or by its key."""

from __future__ import annotations

from fractions import Fraction

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QPushButton, QVBoxLayout, QWidget

from gavotte.desktop.playback.rhythm_taps import Press, RhythmTaps
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.line import Line
from gavotte.vocabulary.tapping import tapped_lengths


class TappedLine(QWidget):
    """Signal: ``changed(lengths)``, as a text."""

    changed = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        self.line = Line()
        self.line.setAccessibleName(translate("Gavotte", "Lengths in quarter notes"))
        self.tap = QPushButton(translate("Gavotte", "Tap it"))
        self.tap.setToolTip(translate("Gavotte", "Press it once, then on every note; it ends when you pause"))
        self.taps = RhythmTaps(lambda: None, self)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        column.addWidget(self.line)
        column.addWidget(self.tap)
        self.setFocusProxy(self.line)
        self.line.editingFinished.connect(lambda: self.changed.emit(self.line.text().strip()))
        self.tap.pressed.connect(lambda: self.taps.tap(Fraction(0), None))
        self.taps.counted.connect(self._count)
        self.taps.tapped.connect(self._tapped)

    def show_lengths(self, text: str) -> None:
        """Show the lengths there are."""
        if self.line.text() != text:
            self.line.setText(text)

    def _count(self, number: int) -> None:
        words = translate("Gavotte", "Tapped: {number}") if number else translate("Gavotte", "Now tap every note")
        self.tap.setText(words.format(number=number))

    def _tapped(self, presses: list[Press]) -> None:
        self.tap.setText(translate("Gavotte", "Tap it"))
        lengths = tapped_lengths([press.onset for press in presses])
        if lengths:
            self.changed.emit(" ".join(map(str, lengths)))
