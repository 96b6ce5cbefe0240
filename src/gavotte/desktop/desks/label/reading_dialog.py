"""Dialogs that set by hand how some bars are heard: against a key centre or other chords, or in another key."""

from __future__ import annotations

from fractions import Fraction

from PyQt6.QtWidgets import QButtonGroup, QFormLayout, QHBoxLayout, QLabel, QLineEdit, QPushButton, QWidget

from gavotte.desktop.desks.label.core_words import COLLECTION_WORDS
from gavotte.desktop.translation import said, translate
from gavotte.desktop.widgets.choice import Choice
from gavotte.desktop.widgets.dialog import Dialog
from gavotte.desktop.widgets.key_choice import tonic_choice
from gavotte.desktop.words import counted
from gavotte.labelling.labeller import Labelled
from gavotte.labelling.readings import reading_name
from gavotte.solo.document import ChordEvent, Note, Reading, ReadingKind
from gavotte.theory.chord import Chord
from gavotte.theory.chord_symbol import ChordSymbolError, parse_chord_symbol, write_chord_symbol
from gavotte.theory.pitch import PitchName
from gavotte.theory.scale import COLLECTIONS, collection_pitch_classes


class ReadingDialog(Dialog):
    """``reading`` is the reading of the notes from ``first`` to ``last`` (ids) as it stands in the dialog."""

    def __init__(self, parent: QWidget, found: Labelled, first: str, last: str) -> None:
        super().__init__(parent, translate("Gavotte", "How are these notes heard?"), translate("Gavotte", "Read it so"))
        self._first, self._last = first, last
        notes = found.solo.notes
        ids = [note.id for note in notes]
        self._notes: tuple[Note, ...] = notes[ids.index(first) : ids.index(last) + 1]
        span = found.frame.span_of(found.frame.notes[ids.index(first)])
        row = QHBoxLayout()
        row.setSpacing(4)
        group = QButtonGroup(self)
        self.kinds: dict[ReadingKind, QPushButton] = {}
        for kind, words in (
            (ReadingKind.KEY_CENTRE, translate("Gavotte", "By a key centre")),
            (ReadingKind.IMPLIED, translate("Gavotte", "Over other chords")),
            (ReadingKind.CHANGES, translate("Gavotte", "By the changes")),
        ):
            button = QPushButton(words)
            button.setCheckable(True)
            button.clicked.connect(self._show)
            group.addButton(button)
            row.addWidget(button, 1)
            self.kinds[kind] = button
        self.kinds[ReadingKind.KEY_CENTRE].setChecked(True)
        self.tonic = tonic_choice(span.key.key.tonic)
        self.collection = Choice()
        for name in COLLECTIONS:
            self.collection.addItem(said(COLLECTION_WORDS[name]), name)
        self.collection.setCurrentIndex(self.collection.findData("blues"))
        self.collection.setAccessibleName(translate("Gavotte", "Collection"))
        self.chords = QLineEdit(span.text)
        self.chords.setAccessibleName(translate("Gavotte", "Chords"))
        self.chords.setPlaceholderText(translate("Gavotte", "Ebm7 Ab7"))
        self.chords.setToolTip(translate("Gavotte", "Chord symbols with spaces between; they share the notes evenly"))
        self.figures = QLabel()
        self.figures.setObjectName("quiet")
        self.figures.setWordWrap(True)
        form = QFormLayout()
        form.setSpacing(8)
        centre = QHBoxLayout()
        centre.setSpacing(8)
        centre.addWidget(self.tonic)
        centre.addWidget(self.collection, 1)
        form.addRow(translate("Gavotte", "Key centre"), centre)
        form.addRow(translate("Gavotte", "Chords"), self.chords)
        self.content.addLayout(row)
        self.content.addLayout(form)
        self.content.addWidget(self.figures)
        self.tonic.currentIndexChanged.connect(self._show)
        self.collection.currentIndexChanged.connect(self._show)
        self.chords.textChanged.connect(self._show)
        self._show()

    @property
    def kind(self) -> ReadingKind:
        """What the notes are to be heard against."""
        return next(kind for kind, button in self.kinds.items() if button.isChecked())

    @property
    def reading(self) -> Reading | None:
        """The reading, None while its chords can't be read."""
        kind = self.kind
        if kind is ReadingKind.KEY_CENTRE:
            tonic = PitchName.parse(self.tonic.currentData())
            return Reading(self._first, self._last, kind, tonic, self.collection.currentData())
        if kind is ReadingKind.CHANGES:
            return Reading(self._first, self._last, kind)
        try:
            symbols = self._symbols()
        except ChordSymbolError:
            return None
        return Reading(self._first, self._last, kind, chords=self._placed(symbols)) if symbols else None

    def _symbols(self) -> list[Chord]:
        symbols = [parse_chord_symbol(text) for text in self.chords.text().split()]
        if not all(isinstance(symbol, Chord) for symbol in symbols):
            raise ChordSymbolError(self.chords.text(), 0, translate("Gavotte", "these must be chords"))
        return [symbol for symbol in symbols if isinstance(symbol, Chord)]

    def _placed(self, symbols: list[Chord]) -> tuple[ChordEvent, ...]:
        """The chords, each from the first note of its share on."""
        size = len(self._notes)
        starts = [self._notes[min(size - 1, k * size // len(symbols))].onset for k in range(len(symbols))]
        events = []
        for k, (onset, symbol) in enumerate(zip(starts, symbols, strict=True)):
            events.append(ChordEvent(f"implied-{self._first}-{k}", onset, write_chord_symbol(symbol)))
        return tuple(events)

    def _show(self) -> None:
        kind = self.kind
        for widget in (self.tonic, self.collection):
            widget.setEnabled(kind is ReadingKind.KEY_CENTRE)
        self.chords.setEnabled(kind is ReadingKind.IMPLIED)
        reading = self.reading
        self.yes.setEnabled(reading is not None)
        self.figures.setText(self._figures(reading))

    def _figures(self, reading: Reading | None) -> str:
        total = counted(len(self._notes), "note")
        if reading is None:
            try:
                self._symbols()
            except ChordSymbolError as error:
                return str(error)
            return translate("Gavotte", "Write a chord symbol, or several with spaces between.")
        if reading.kind is ReadingKind.CHANGES:
            return translate("Gavotte", "The {notes} are heard against the written chords.").format(notes=total)
        if reading.kind is ReadingKind.KEY_CENTRE:
            assert reading.tonic is not None
            classes = collection_pitch_classes(reading.collection, reading.tonic.pitch_class)
            inside = sum(note.pitch.pitch_class in classes for note in self._notes)
            return translate("Gavotte", "{inside} of {notes} lie in {name}.").format(
                inside=inside, notes=total, name=reading_name(reading)
            )
        inside = sum(note.pitch.pitch_class in _tones_at(reading, note.onset) for note in self._notes)
        return translate("Gavotte", "{inside} of {notes} are tones of these chords.").format(inside=inside, notes=total)


def _tones_at(reading: Reading, onset: Fraction) -> frozenset[int]:
    event = next((event for event in reversed(reading.chords) if event.onset <= onset), reading.chords[0])
    symbol = event.symbol
    return symbol.tone_classes if isinstance(symbol, Chord) else frozenset()
