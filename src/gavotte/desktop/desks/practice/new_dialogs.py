"""Dialogs for things to practise that come from no solo: changes to play over, and a scale exercise."""

from __future__ import annotations

from PyQt6.QtWidgets import QFormLayout, QHBoxLayout, QLabel, QLineEdit, QWidget

from gavotte.desktop.core_words import FORM_WORDS
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import said, translate
from gavotte.desktop.widgets.choice import Choice
from gavotte.desktop.widgets.chord_editor import ChordEditor
from gavotte.desktop.widgets.dialog import Dialog
from gavotte.desktop.widgets.key_choice import chosen_key, mode_choice, tonic_choice
from gavotte.desktop.widgets.meters import meter_choice
from gavotte.desktop.widgets.number import Number
from gavotte.desktop.words import counted
from gavotte.practice.exercises import changes_of, scale_exercise
from gavotte.solo.document import Instrument, Solo
from gavotte.solo.instruments import INSTRUMENTS
from gavotte.theory.meter import Meter
from gavotte.theory.pitch import PitchName
from gavotte.theory.scale import COLLECTIONS
from gavotte.workshop.operation import OperationError
from gavotte.workshop.operations.scales import THROUGH
from gavotte.writing.forms import FORMS, form_in_key

_TEMPO = 120
_EDITOR_HIGH = 132


class _NewDialog(Dialog):
    """``music`` is what its fields describe, None where that can't be made; ``goal`` the tempo in beats a minute."""

    def __init__(self, parent: QWidget, title: str, instrument: Instrument) -> None:
        super().__init__(parent, title, translate("Gavotte", "Practise it"))
        self.name = QLineEdit()
        self.instrument = Choice()
        for known in INSTRUMENTS:
            self.instrument.addItem(known.name)
        self.instrument.setCurrentIndex(INSTRUMENTS.index(instrument) if instrument in INSTRUMENTS else 0)
        self.tempo = Number(30, 400, 4)
        self.tempo.setValue(_TEMPO)
        self.verdict = QLabel()
        self.verdict.setObjectName("quiet")
        self.verdict.setWordWrap(True)
        self.rows = QFormLayout()
        self.rows.setSpacing(8)
        self.music: Solo | None = None

    @property
    def goal(self) -> int:
        """The tempo that is aimed at."""
        return round(self.tempo.value())

    @property
    def chosen_instrument(self) -> Instrument:
        """Who plays."""
        return INSTRUMENTS[self.instrument.currentIndex()]

    def _row(self, words: str, *widgets: QWidget, behind: str = "") -> None:
        row = QHBoxLayout()
        row.setSpacing(8)
        for widget in widgets:
            widget.setAccessibleName(words)
            row.addWidget(widget)
        if behind:
            row.addWidget(QLabel(behind))
        row.addStretch(1)
        self.rows.addRow(words, row)

    def _last_rows(self) -> None:
        self._row(translate("Gavotte", "Instrument"), self.instrument)
        self._row(translate("Gavotte", "Goal"), self.tempo, behind=translate("Gavotte", "beats a minute"))
        self.content.addLayout(self.rows)
        self.content.addWidget(self.verdict)


class ChangesDialog(_NewDialog):
    """Asks for changes: a form in a key, or a chord line of one's own; and the style."""

    def __init__(self, parent: QWidget, instrument: Instrument, palette: Palette) -> None:
        super().__init__(parent, translate("Gavotte", "Changes to play over"), instrument)
        self.tonic, self.mode, self.meter = tonic_choice(), mode_choice(), meter_choice()
        self.form = Choice()
        for form, words in zip(FORMS, FORM_WORDS, strict=True):
            self.form.addItem(said(words), form)
        self.form.addItem(translate("Gavotte", "Chords of my own"), None)
        self.chords = ChordEditor()
        self.chords.set_palette(palette)
        self.chords.setFixedHeight(_EDITOR_HIGH)
        self.name.setPlaceholderText(translate("Gavotte", "as the form is called"))
        self.rows.addRow(translate("Gavotte", "Name"), self.name)
        self._row(translate("Gavotte", "Form"), self.form)
        self._row(translate("Gavotte", "Key"), self.tonic, self.mode)
        self._row(translate("Gavotte", "Meter"), self.meter)
        self.rows.addRow(translate("Gavotte", "Chords"), self.chords)
        self._last_rows()
        for choice in (self.form, self.tonic):
            choice.activated.connect(lambda _: self._take_form())
        self.mode.activated.connect(lambda _: self._check())
        self.meter.activated.connect(lambda _: self._check())
        self.instrument.activated.connect(lambda _: self._check())
        self.chords.textChanged.connect(self._check)
        self._take_form()

    def _take_form(self) -> None:
        """Put the form's chords into the field, in the key."""
        form = self.form.currentData()
        if form is not None:
            self.mode.setCurrentIndex(self.mode.findData("minor" if form.minor else "major"))
            self.chords.setPlainText(form_in_key(form, chosen_key(self.tonic, self.mode)))
        self._check()

    def _check(self) -> None:
        meter: Meter = self.meter.currentData()
        text = self.chords.toPlainText()
        line = changes_of(text, self.chosen_instrument, chosen_key(self.tonic, self.mode), meter)
        self.chords.solo = line.solo
        self.chords.mark_problems(line.problems)
        has = bool(line.solo.chords) and not line.problems
        self.yes.setEnabled(has)
        if line.problems:
            self.verdict.setText(line.problems[0].why)
        else:
            words = translate("Gavotte", "{bars}.") if has else translate("Gavotte", "Write chords between bar lines.")
            self.verdict.setText(words.format(bars=counted(line.bars, "bar").capitalize()))
        form = self.form.currentData()
        if not has:
            self.music = None
            return
        usual = self.form.currentText() if form is not None else translate("Gavotte", "Changes")
        key = chosen_key(self.tonic, self.mode)
        self.name.setPlaceholderText(translate("Gavotte", "{form} in {key}").format(form=usual, key=key.shown))
        self.music = line.solo

    @property
    def called(self) -> str:
        """What it is to be called."""
        return self.name.text().strip() or self.name.placeholderText()


class ScaleDialog(_NewDialog):
    """Asks for a scale and the pattern it is played in."""

    def __init__(self, parent: QWidget, instrument: Instrument) -> None:
        super().__init__(parent, translate("Gavotte", "A scale exercise"), instrument)
        self.scale = Choice()
        for scale in COLLECTIONS:
            self.scale.addItem(scale, scale)
        self.scale.setCurrentIndex(COLLECTIONS.index("major"))
        self.tonic = tonic_choice()
        self.pattern, self.order = _options("pattern", {"cell"}), _options("order")
        self.values, self.compass = _options("values", {"own"}), _options("compass")
        self.pattern.setCurrentIndex(self.pattern.findData("scale"))
        self.compass.setCurrentIndex(self.compass.findData("2"))
        self._row(translate("Gavotte", "Scale"), self.tonic, self.scale)
        self._row(translate("Gavotte", "Pattern"), self.pattern, self.order)
        self._row(translate("Gavotte", "Values"), self.values)
        self._row(translate("Gavotte", "Compass"), self.compass)
        self._last_rows()
        for choice in (self.scale, self.tonic, self.pattern, self.order, self.values, self.compass, self.instrument):
            choice.activated.connect(lambda _: self._make())
        self._make()

    def _make(self) -> None:
        try:
            self.music = scale_exercise(
                self.chosen_instrument, PitchName.parse(self.tonic.currentData()), self.scale.currentData(),
                self.pattern.currentData(), self.order.currentData(), self.values.currentData(),
                self.compass.currentData(),
            )  # fmt: skip
        except OperationError as error:
            self.music = None
            self.verdict.setText(str(error))
        else:
            self.verdict.setText(f"{counted(len(self.music.notes), 'note').capitalize()}.")
        self.yes.setEnabled(self.music is not None)

    @property
    def called(self) -> str:
        """What it is to be called."""
        scale = f"{self.tonic.currentText()} {self.scale.currentText()}"
        is_plain = self.pattern.currentData() == "scale"
        return scale if is_plain else f"{scale}, {self.pattern.currentText()}"


def _options(name: str, without: frozenset[str] | set[str] = frozenset()) -> Choice:
    """A choice among the values of an option of the step that makes the exercise."""
    choice = Choice()
    for value, words in THROUGH.option(name).choices:
        if value not in without:
            choice.addItem(words, value)
    return choice
