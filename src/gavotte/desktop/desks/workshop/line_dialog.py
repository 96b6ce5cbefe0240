"""A line written or played here: its chords, its key, and its notes as text; keys of a MIDI keyboard write too."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from fractions import Fraction

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QWidget

from gavotte.desktop.playback.midi_keyboard import MidiKeyboard
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.choice import Choice
from gavotte.desktop.widgets.dialog import Dialog
from gavotte.desktop.widgets.key_choice import chosen_key, mode_choice, tonic_choice
from gavotte.desktop.widgets.keyboard_strip import KeyboardStrip
from gavotte.desktop.widgets.line import Line
from gavotte.solo.document import Solo
from gavotte.solo.instruments import INSTRUMENTS
from gavotte.theory.pitch import PitchName
from gavotte.workshop.cell_text import CellTextError, played_word, read_cell
from gavotte.workshop.progressions import from_text

_EXAMPLE_CHORDS, _EXAMPLE_NOTES = "| C7 |", "E4/8 F F# G A Bb C5 Bb"


class LineDialog(Dialog):
    """``solo`` is the line, None while it can't be read."""

    def __init__(self, parent: QWidget, instrument: str, hear: Callable[[int], None]) -> None:
        super().__init__(parent, translate("Gavotte", "Write a line"), translate("Gavotte", "Take it"))
        self.solo: Solo | None = None
        self._hear = hear
        self.chords, self.notes = Line(), Line()
        self.tonic, self.mode, self.instrument = tonic_choice(PitchName("F")), mode_choice(), Choice()
        for known in INSTRUMENTS:
            self.instrument.addItem(known.name, known)
        self.instrument.setCurrentIndex(max(0, self.instrument.findText(instrument)))
        self.said = QLabel()
        self.said.setObjectName("quietBody")
        self.said.setWordWrap(True)
        self.said.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.said.setMinimumHeight(2 * self.said.fontMetrics().lineSpacing() + 4)
        self.strip = KeyboardStrip(60)
        self.keyboard = MidiKeyboard(self)
        row = QHBoxLayout()
        row.setSpacing(8)
        for words, control in (
            (translate("Gavotte", "Tonic"), self.tonic),
            (translate("Gavotte", "Mode"), self.mode),
            (translate("Gavotte", "Instrument"), self.instrument),
        ):
            control.setAccessibleName(words)
            control.setToolTip(words)
            row.addWidget(control)
        row.addStretch(1)
        for words, widget in (
            (translate("Gavotte", "Chords, bar by bar"), self.chords),
            (translate("Gavotte", "Notes: letter, octave where it is not the nearest, value behind /"), self.notes),
        ):
            label = QLabel(words)
            label.setObjectName("quiet")
            label.setBuddy(widget)
            widget.setAccessibleName(words)
            self.content.addWidget(label)
            self.content.addWidget(widget)
        self.content.addWidget(self.strip)
        self.content.addLayout(row)
        self.content.addWidget(self.said)
        self.chords.setText(_EXAMPLE_CHORDS)
        self.notes.setText(_EXAMPLE_NOTES)
        self.chords.textChanged.connect(self._read)
        self.notes.textChanged.connect(self._read)
        for choice in (self.tonic, self.mode, self.instrument):
            choice.currentIndexChanged.connect(self._read)
        self.strip.played.connect(self._played)
        self.keyboard.played.connect(self._played)
        for name in self.keyboard.devices()[:1]:
            self.keyboard.open(name)
        self.finished.connect(lambda _: self.keyboard.close())
        self.notes.selectAll()
        self.notes.setFocus()
        self._read()

    def _played(self, midi: int) -> None:
        """A key that was pressed is written behind what is there; what is selected gives way."""
        self._hear(midi)
        fifths = chosen_key(self.tonic, self.mode).fifths
        if self.notes.selectedText():
            self.notes.del_()
        before = self.notes.text()[: self.notes.cursorPosition()]
        self.notes.insert(("" if not before or before.endswith(" ") else " ") + played_word(midi, fifths))

    def _read(self) -> None:
        key = chosen_key(self.tonic, self.mode)
        name = translate("Gavotte", "A line of your own")
        empty = Solo(name, instrument=self.instrument.currentData(), tempo=Fraction(120))
        try:
            ground = from_text(self.chords.text(), key, empty)
            notes = read_cell(self.notes.text())
        except (CellTextError, ValueError) as error:
            self.solo = None
            self.said.setText(str(error))
        else:
            self.solo = replace(ground, notes=notes, form_end=Fraction(0))
            self.said.setText(translate("Gavotte", "{count} notes").format(count=len(notes)))
        self.yes.setEnabled(self.solo is not None)
