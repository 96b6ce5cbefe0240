"""The details of a solo: what it is called, who plays it on what, where it comes from, tempo, meter and keys."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

from PyQt6.QtWidgets import QFormLayout, QHBoxLayout, QLabel, QLineEdit, QVBoxLayout, QWidget

from gavotte.desktop.errands.key_rows import KeyRows
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.choice import Choice, Tick
from gavotte.desktop.widgets.dialog import Dialog
from gavotte.desktop.widgets.meters import meter_choice
from gavotte.desktop.widgets.number import Number
from gavotte.labelling.answers import as_blues
from gavotte.solo.document import Instrument, Solo
from gavotte.solo.edits import with_first_meter, with_keys
from gavotte.solo.instruments import CLEFS, INSTRUMENTS
from gavotte.solo.tags import read_tags, written_tags
from gavotte.theory.meter import Meter

_FASTEST, _LATEST = 400, 2100


class DetailsDialog(Dialog):
    """Shows a solo's details; ``solo`` is the solo with what was changed."""

    def __init__(self, parent: QWidget, solo: Solo) -> None:
        super().__init__(parent, translate("Gavotte", "Details of the solo"), translate("Gavotte", "Change"))
        self._solo = solo
        self.title_field = QLineEdit(solo.title)
        self.player = QLineEdit(solo.player)
        self.style_field = QLineEdit(solo.style)
        self.album = QLineEdit(solo.album)
        self.source = QLineEdit(solo.source)
        self.source.setToolTip(translate("Gavotte", "What you transcribe from: a record, a side, a take"))
        self.tags = QLineEdit(written_tags(solo.tags))
        self.tags.setPlaceholderText(translate("Gavotte", "Your own words, with commas between"))
        self.tags.setToolTip(translate("Gavotte", "Solos are chosen by them at the Compare desk"))
        unknown = translate("Gavotte", "not known")
        self.year = Number(0, _LATEST, 1)
        self.tempo = Number(0, _FASTEST, 1, 1)
        for field, value in ((self.year, solo.year), (self.tempo, solo.beats_a_minute)):
            field.setSpecialValueText(unknown)
            field.setValue(value or 0)
        # What was there is only replaced by what is typed: a tempo may be finer than the field shows.
        self._shown_tempo = self.tempo.value()
        self.meter = meter_choice(solo.meters[0].meter)
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
        self.is_head = Tick(translate("Gavotte", "This is the tune’s head, not a solo on it"))
        self.is_head.setToolTip(translate("Gavotte", "Solos that keep, ornament or quote it are found by it"))
        self.is_head.setChecked(solo.is_head)
        self.keys = KeyRows(solo)
        self._lay_out()
        self.title_field.textChanged.connect(self._show_ready)
        self.meter.activated.connect(self._show_ready)
        self._show_ready()

    def _lay_out(self) -> None:
        self.setMinimumWidth(640)
        form = QFormLayout()
        form.setSpacing(8)
        tempo, meter = translate("Gavotte", "Tempo"), translate("Gavotte", "Meter")
        rows: tuple[tuple[str, QWidget | QHBoxLayout], ...] = (
            (translate("Gavotte", "Title"), self.title_field),
            (translate("Gavotte", "Player"), self.player),
            (translate("Gavotte", "Instrument"), _beside(self.instrument, translate("Gavotte", "Clef"), self.clef)),
            (translate("Gavotte", "Album"), _beside(self.album, translate("Gavotte", "Year"), self.year)),
            (translate("Gavotte", "Source"), self.source),
            (translate("Gavotte", "Style"), self.style_field),
            (translate("Gavotte", "Tags"), self.tags),
            (tempo, _beside(self.tempo, translate("Gavotte", "beats a minute"), None)),
            (meter, _beside(self.meter, self._where_meter_changes(), None)),
        )
        for widget, word in (
            (self.title_field, translate("Gavotte", "Title")),
            (self.player, translate("Gavotte", "Player")),
            (self.instrument, translate("Gavotte", "Instrument")),
            (self.clef, translate("Gavotte", "Clef")),
            (self.album, translate("Gavotte", "Album")),
            (self.year, translate("Gavotte", "Year")),
            (self.source, translate("Gavotte", "Source")),
            (self.style_field, translate("Gavotte", "Style")),
            (self.tags, translate("Gavotte", "Tags")),
            (self.tempo, tempo),
            (self.meter, meter),
        ):
            widget.setAccessibleName(word)
        for word, content in rows:
            form.addRow(word, content)
        keys = QVBoxLayout()
        keys.addWidget(self.keys)
        form.addRow(translate("Gavotte", "Keys"), keys)
        form.addRow("", self.is_head)
        self.note = QLabel()
        self.note.setObjectName("quiet")
        self.note.setWordWrap(True)
        self.content.addLayout(form)
        self.content.addWidget(self.note)

    def _where_meter_changes(self) -> str:
        """For a solo that changes its meter: only the first is changed here."""
        if len(self._solo.meters) < 2:
            return ""
        return translate("Gavotte", "up to where it changes")

    def _show_ready(self) -> None:
        fits = self._solo.pickup < self._meter.bar_length
        self.yes.setEnabled(bool(self.title_field.text().strip()) and fits)
        self.note.setText(
            translate(
                "Gavotte", "In a blues the key's ♭3, ♭5 and ♭7 are at home over every chord. Labels follow at once."
            )
            if fits
            else translate(
                "Gavotte", "The pickup of {length} quarter notes does not fit into a bar of {meter}."
            ).format(length=self._solo.pickup, meter=self._meter)
        )

    @property
    def _meter(self) -> Meter:
        meter: Meter = self.meter.currentData()
        return meter

    @property
    def _tempo(self) -> Fraction | None:
        """In quarter notes a minute, as the solo keeps it."""
        if self.tempo.value() == self._shown_tempo and self._meter == self._solo.meters[0].meter:
            return self._solo.tempo
        beats = Fraction(self.tempo.value()).limit_denominator(10)
        return beats * self._meter.beats[0].length if beats else None

    @property
    def solo(self) -> Solo:
        """The solo with the details as they stand in the dialog."""
        before = self._solo
        named = replace(
            before,
            title=self.title_field.text().strip() or before.title,
            player=self.player.text().strip(),
            style=self.style_field.text().strip(),
            album=self.album.text().strip(),
            source=self.source.text().strip(),
            tags=read_tags(self.tags.text()),
            year=round(self.year.value()) or None,
            is_head=self.is_head.isChecked(),
            tempo=self._tempo,
            instrument=replace(self._instruments[self.instrument.currentIndex()], chosen_clef=self.clef.currentData()),
        )
        regions = self.keys.regions
        if regions != tuple(replace(region, onset=max(Fraction(0), region.onset)) for region in before.keys):
            named = with_keys(named, regions)
            was_blues = any(region.blues for region in before.keys)
            if was_blues and not any(region.blues for region in regions) and not named.heard_keys:
                # It would still be heard as a blues from its chords, but its user has just said that it is none.
                named = as_blues(named, False)
        return with_first_meter(named, self._meter)


def _beside(widget: QWidget, words: str, other: QWidget | None) -> QHBoxLayout:
    """A field with words and another field behind it."""
    row = QHBoxLayout()
    row.setSpacing(8)
    row.addWidget(widget, 1 if other is not None else 0)
    row.addWidget(QLabel(words))
    if other is not None:
        row.addWidget(other)
    else:
        row.addStretch(1)
    return row
