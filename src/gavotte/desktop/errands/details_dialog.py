"""The details of a solo: what it is called, who plays what, and the key its notes are heard in."""

from __future__ import annotations

from dataclasses import replace

from PyQt6.QtWidgets import QFormLayout, QHBoxLayout, QLabel, QLineEdit, QWidget

from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.choice import Choice, Tick
from gavotte.desktop.widgets.dialog import Dialog
from gavotte.desktop.widgets.key_choice import chosen_key, mode_choice, tonic_choice
from gavotte.solo.document import Instrument, Solo
from gavotte.solo.edits import with_details
from gavotte.solo.instruments import CLEFS, INSTRUMENTS


class DetailsDialog(Dialog):
    """Shows a solo's details; ``solo`` is the solo with what was changed."""

    def __init__(self, parent: QWidget, solo: Solo) -> None:
        super().__init__(parent, translate("Gavotte", "Details of the solo"), translate("Gavotte", "Change"))
        self._solo = solo
        region = solo.keys[0]
        self.title_field = QLineEdit(solo.title)
        self.player = QLineEdit(solo.player)
        self.style_field = QLineEdit(solo.style)
        self.instrument = Choice()
        self._instruments: list[Instrument] = list(INSTRUMENTS)
        mine = replace(solo.instrument, chosen_clef="")
        if mine not in self._instruments:
            self._instruments.insert(0, mine)
        for instrument in self._instruments:
            self.instrument.addItem(instrument.name)
        self.instrument.setCurrentIndex(self._instruments.index(mine))
        self.clef = Choice()
        self.clef.addItem(translate("Gavotte", "The instrument's usual one"), "")
        for clef, word in CLEFS.items():
            self.clef.addItem(word, clef)
        self.clef.setCurrentIndex(max(0, self.clef.findData(solo.instrument.chosen_clef)))
        self.instrument.activated.connect(lambda _: self.clef.setCurrentIndex(0))
        self.tonic, self.mode = tonic_choice(region.key.tonic), mode_choice(region.key.mode)
        self.blues = Tick(translate("Gavotte", "A blues"))
        self.blues.setChecked(region.blues)
        self._lay_out()

    def _lay_out(self) -> None:
        form = QFormLayout()
        form.setSpacing(8)
        key = QHBoxLayout()
        key.setSpacing(8)
        key.addWidget(self.tonic)
        key.addWidget(self.mode, 1)
        rows = (
            (translate("Gavotte", "Title"), self.title_field),
            (translate("Gavotte", "Player"), self.player),
            (translate("Gavotte", "Instrument"), self.instrument),
            (translate("Gavotte", "Clef"), self.clef),
            (translate("Gavotte", "Style"), self.style_field),
        )
        for word, widget in rows:
            widget.setAccessibleName(word)
            form.addRow(word, widget)
        form.addRow(translate("Gavotte", "Key at the start"), key)
        form.addRow("", self.blues)
        note = QLabel(
            translate(
                "Gavotte", "In a blues the key's ♭3, ♭5 and ♭7 are at home over every chord. Labels follow at once."
            )
        )
        note.setObjectName("quiet")
        note.setWordWrap(True)
        self.content.addLayout(form)
        self.content.addWidget(note)
        self.title_field.textChanged.connect(lambda text: self.yes.setEnabled(bool(text.strip())))

    @property
    def solo(self) -> Solo:
        """The solo with the details as they stand in the dialog."""
        return with_details(
            self._solo,
            title=self.title_field.text().strip() or self._solo.title,
            player=self.player.text().strip(),
            style=self.style_field.text().strip(),
            instrument=replace(self._instruments[self.instrument.currentIndex()], chosen_clef=self.clef.currentData()),
            key=chosen_key(self.tonic, self.mode),
            blues=self.blues.isChecked(),
        )
