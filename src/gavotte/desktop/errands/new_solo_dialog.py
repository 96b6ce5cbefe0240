"""Beginning a new solo: what it is called, who plays what, key, meter and form, and its recording."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QFormLayout, QHBoxLayout, QLabel, QLineEdit, QPushButton, QWidget

from gavotte.desktop.core_words import FORM_WORDS
from gavotte.desktop.translation import said, translate
from gavotte.desktop.widgets.choice import Choice, Tick
from gavotte.desktop.widgets.dialog import Dialog
from gavotte.desktop.widgets.elided import ElidedLabel
from gavotte.desktop.widgets.key_choice import chosen_key, mode_choice, tonic_choice
from gavotte.desktop.widgets.meters import meter_choice
from gavotte.desktop.widgets.number import Number
from gavotte.solo.document import Solo
from gavotte.solo.instruments import INSTRUMENTS
from gavotte.theory.meter import Meter
from gavotte.writing.beginning import begun
from gavotte.writing.choruses import MOST_CHORUSES
from gavotte.writing.forms import FORMS


class NewSoloDialog(Dialog):
    """``solo`` is the solo to begin; ``recording`` its file, if one was chosen, and ``copy`` whether to copy it.

    Signal: ``recording_wanted``, to be asked for a file.
    """

    recording_wanted = pyqtSignal()

    def __init__(self, parent: QWidget, recording: Path | None = None) -> None:
        super().__init__(parent, translate("Gavotte", "A new solo"), translate("Gavotte", "Begin"))
        self.recording: Path | None = None
        self.title_field = QLineEdit()
        self.player = QLineEdit()
        self.instrument = Choice()
        for instrument in INSTRUMENTS:
            self.instrument.addItem(instrument.name)
        self.tonic, self.mode = tonic_choice(), mode_choice()
        self.meter = meter_choice()
        self.pickup = Number(0, 15, 0.5, 1)
        self.tempo = Number(0, 400, 1)
        self.tempo.setSpecialValueText(translate("Gavotte", "not known"))
        self.form = Choice()
        self.form.addItem(translate("Gavotte", "None yet"))
        for form, words in zip(FORMS, FORM_WORDS, strict=True):
            self.form.addItem(said(words), form)
        self.choruses = Number(1, MOST_CHORUSES, 1)
        self.file = ElidedLabel()
        self.choose = QPushButton(translate("Gavotte", "Choose…"))
        self.choose.clicked.connect(self.recording_wanted)
        self.copy = Tick(translate("Gavotte", "Copy it into the library"))
        self.copy.setChecked(True)
        self._lay_out()
        self.form.activated.connect(self._follow_form)
        self.title_field.textChanged.connect(self._show_ready)
        self.pickup.valueChanged.connect(self._show_ready)
        self.meter.activated.connect(self._show_ready)
        self.show_recording(recording)
        self._show_ready()
        self.title_field.setFocus()

    def _lay_out(self) -> None:
        form = QFormLayout()
        form.setSpacing(8)
        rows: tuple[tuple[str, tuple[tuple[QWidget, str], ...]], ...] = (
            (translate("Gavotte", "Title"), ((self.title_field, ""),)),
            (translate("Gavotte", "Player"), ((self.player, ""),)),
            (translate("Gavotte", "Instrument"), ((self.instrument, ""),)),
            (translate("Gavotte", "Key"), ((self.tonic, ""), (self.mode, ""))),
            (
                translate("Gavotte", "Meter"),
                ((self.meter, ""), (self.pickup, translate("Gavotte", "quarter notes of pickup"))),
            ),
            (translate("Gavotte", "Tempo"), ((self.tempo, translate("Gavotte", "beats a minute")),)),
            (
                translate("Gavotte", "Form"),
                ((self.form, ""), (self.choruses, translate("Gavotte", "choruses"))),
            ),
            (translate("Gavotte", "Recording"), ((self.file, ""), (self.choose, ""))),
        )
        wide = {self.title_field, self.player, self.instrument, self.mode, self.form, self.file}
        for words, fields in rows:
            row = QHBoxLayout()
            row.setSpacing(8)
            for widget, behind in fields:
                widget.setAccessibleName(behind or words)
                row.addWidget(widget, 1 if widget in wide else 0)
                if behind:
                    row.addWidget(QLabel(behind))
            if wide.isdisjoint(widget for widget, _ in fields):
                row.addStretch(1)
            form.addRow(words, row)
        self.tonic.setAccessibleName(translate("Gavotte", "Key: the keynote"))
        self.mode.setAccessibleName(translate("Gavotte", "Key: major, minor or mode"))
        form.addRow("", self.copy)
        self.problem = QLabel()
        self.problem.setObjectName("quiet")
        self.problem.setWordWrap(True)
        self.content.addLayout(form)
        self.content.addWidget(self.problem)

    def show_recording(self, path: Path | None) -> None:
        """Show the file that was chosen; an empty title becomes its name."""
        self.recording = path
        self.file.setText(path.name if path is not None else translate("Gavotte", "none"))
        self.copy.setVisible(path is not None)
        if path is not None and not self.title_field.text():
            self.title_field.setText(path.stem.replace("_", " "))
            self.title_field.selectAll()

    def _follow_form(self) -> None:
        """A minor form wants a minor key."""
        form = self.form.currentData()
        if form is not None:
            wanted = "minor" if form.minor else "major"
            self.mode.setCurrentIndex(self.mode.findData(wanted))

    def _meter(self) -> Meter:
        meter: Meter = self.meter.currentData()
        return meter

    def _show_ready(self) -> None:
        meter, pickup = self._meter(), Fraction(self.pickup.value()).limit_denominator(4)
        fits = pickup < meter.bar_length
        self.yes.setEnabled(bool(self.title_field.text().strip()) and fits)
        if not fits:
            self.problem.setText(
                translate("Gavotte", "A pickup is shorter than a bar: less than {length} quarter notes here.").format(
                    length=meter.bar_length
                )
            )
        else:
            self.problem.setText(
                "" if self.title_field.text().strip() else translate("Gavotte", "Give the solo a title.")
            )

    @property
    def solo(self) -> Solo:
        """The solo as the fields describe it."""
        meter, beats = self._meter(), round(self.tempo.value())
        return begun(
            self.title_field.text().strip(),
            INSTRUMENTS[self.instrument.currentIndex()],
            chosen_key(self.tonic, self.mode),
            meter,
            player=self.player.text().strip(),
            tempo=beats * meter.beats[0].length if beats else None,
            pickup=Fraction(self.pickup.value()).limit_denominator(4),
            form=self.form.currentData(),
            choruses=round(self.choruses.value()),
        )
