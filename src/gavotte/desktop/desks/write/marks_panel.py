"""The marks panel: how the selected notes are played, which finger, string and pick, and words over the bar."""

from __future__ import annotations

from fractions import Fraction

from PyQt6.QtCore import QSize, pyqtSignal
from PyQt6.QtWidgets import QGridLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from gavotte.desktop.desks.write.mark_sign import SIZE, mark_icon
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import QT_TRANSLATE_NOOP, said, translate
from gavotte.desktop.widgets.choice import Choice
from gavotte.desktop.widgets.line import Line
from gavotte.solo.document import Articulation, Note, Pick
from gavotte.solo.strings import MOST_STRINGS

MARKS: tuple[tuple[Articulation, str, str], ...] = (
    (Articulation.ACCENT, QT_TRANSLATE_NOOP("Gavotte", "Accent"), "Shift+A"),
    (Articulation.MARCATO, QT_TRANSLATE_NOOP("Gavotte", "Marcato"), "Shift+M"),
    (Articulation.STACCATO, QT_TRANSLATE_NOOP("Gavotte", "Staccato"), "Shift+S"),
    (Articulation.TENUTO, QT_TRANSLATE_NOOP("Gavotte", "Tenuto"), "Shift+T"),
    (Articulation.GHOST, QT_TRANSLATE_NOOP("Gavotte", "Ghost note"), "Shift+G"),
    (Articulation.BEND, QT_TRANSLATE_NOOP("Gavotte", "Bend"), "Shift+B"),
    (Articulation.SCOOP, QT_TRANSLATE_NOOP("Gavotte", "Scoop"), "Shift+O"),
    (Articulation.FALL, QT_TRANSLATE_NOOP("Gavotte", "Fall"), "Shift+F"),
    (Articulation.SLIDE, QT_TRANSLATE_NOOP("Gavotte", "Slide on"), "Shift+L"),
    (Articulation.TRILL, QT_TRANSLATE_NOOP("Gavotte", "Trill"), "Shift+R"),
    (Articulation.HAMMER_ON, QT_TRANSLATE_NOOP("Gavotte", "Hammer-on"), "Shift+H"),
    (Articulation.PULL_OFF, QT_TRANSLATE_NOOP("Gavotte", "Pull-off"), "Shift+P"),
    (Articulation.HARMONIC, QT_TRANSLATE_NOOP("Gavotte", "Harmonic"), "Shift+N"),
)
"""Every mark with its words and its key."""

PICKS: tuple[tuple[Pick, str, str], ...] = (
    (Pick.DOWN, QT_TRANSLATE_NOOP("Gavotte", "Pick down"), "Shift+D"),
    (Pick.UP, QT_TRANSLATE_NOOP("Gavotte", "Pick up"), "Shift+V"),
)

_BENDS: tuple[tuple[str, Fraction], ...] = (
    (QT_TRANSLATE_NOOP("Gavotte", "No bend"), Fraction(0)),
    (QT_TRANSLATE_NOOP("Gavotte", "A quarter tone"), Fraction(1, 2)),
    (QT_TRANSLATE_NOOP("Gavotte", "A semitone"), Fraction(1)),
    (QT_TRANSLATE_NOOP("Gavotte", "Three quarter tones"), Fraction(3, 2)),
    (QT_TRANSLATE_NOOP("Gavotte", "A whole tone"), Fraction(2)),
    (QT_TRANSLATE_NOOP("Gavotte", "Five quarter tones"), Fraction(5, 2)),
    (QT_TRANSLATE_NOOP("Gavotte", "A tone and a half"), Fraction(3)),
    (QT_TRANSLATE_NOOP("Gavotte", "Two tones"), Fraction(4)),
)


class MarksPanel(QWidget):
    """A button for every mark of a note, showing which the selected notes carry.

    Signals: ``mark_wanted(articulation)``, ``pick_wanted(pick)``, ``doubt_wanted``, ``bend_wanted(semitones)``,
    ``finger_wanted(text)``, ``string_wanted(number)``, ``words_wanted(text)``.
    """

    mark_wanted = pyqtSignal(object)
    pick_wanted = pyqtSignal(object)
    doubt_wanted = pyqtSignal()
    bend_wanted = pyqtSignal(object)
    finger_wanted = pyqtSignal(str)
    string_wanted = pyqtSignal(int)
    words_wanted = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        self.buttons: dict[object, QPushButton] = {}
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        column.setSpacing(8)
        self.about = QLabel()
        self.about.setObjectName("quietBody")
        column.addWidget(self.about)
        column.addLayout(self._mark_grid())
        column.addLayout(self._fields())
        column.addStretch(1)

    def _mark_grid(self) -> QGridLayout:
        grid = QGridLayout()
        grid.setSpacing(4)
        wanted: list[tuple[object, str, str]] = [*MARKS, *PICKS]
        wanted.append(("doubt", QT_TRANSLATE_NOOP("Gavotte", "Not sure of it"), "U"))
        for index, (what, words, _) in enumerate(wanted):
            button = QPushButton(said(words))
            button.setCheckable(True)
            button.setIconSize(QSize(SIZE, SIZE))
            button.setStyleSheet("text-align: left; padding: 3px 8px;")
            button.clicked.connect(lambda _, w=what: self._press(w))
            grid.addWidget(button, index // 2, index % 2)
            self.buttons[what] = button
        return grid

    def set_palette(self, palette: Palette) -> None:
        """Show the signs in a theme's colours."""
        for what, button in self.buttons.items():
            button.setIcon(mark_icon(what, palette.text))

    def _press(self, what: object) -> None:
        if isinstance(what, Articulation):
            self.mark_wanted.emit(what)
        elif isinstance(what, Pick):
            self.pick_wanted.emit(what)
        else:
            self.doubt_wanted.emit()

    def _fields(self) -> QGridLayout:
        grid = QGridLayout()
        grid.setHorizontalSpacing(12)
        grid.setVerticalSpacing(4)
        self.bend = Choice()
        for words, semitones in _BENDS:
            self.bend.addItem(said(words), semitones)
        self.bend.activated.connect(lambda _: self.bend_wanted.emit(self.bend.currentData()))
        self.finger = Line()
        self.finger.setMaxLength(3)
        self.finger.editingFinished.connect(self._keep_finger)
        self.string = Choice()
        self.string.addItem(translate("Gavotte", "None"), 0)
        for number in range(1, MOST_STRINGS + 1):
            self.string.addItem(str(number), number)
        self.string.activated.connect(lambda _: self.string_wanted.emit(self.string.currentData()))
        self.words = Line()
        self.words.setMaxLength(120)
        self.words.editingFinished.connect(self._keep_words)
        self._kept = {"finger": "", "words": ""}
        for row, (word, whole, widget) in enumerate(
            (
                (translate("Gavotte", "Bend"), translate("Gavotte", "Bent up by"), self.bend),
                (translate("Gavotte", "Finger"), translate("Gavotte", "Finger"), self.finger),
                (translate("Gavotte", "String"), translate("Gavotte", "String, from the highest"), self.string),
                (translate("Gavotte", "Words"), translate("Gavotte", "Words over the bar"), self.words),
            )
        ):
            widget.setAccessibleName(whole)
            widget.setToolTip(whole)
            grid.addWidget(QLabel(word), row, 0)
            grid.addWidget(widget, row, 1)
        grid.setColumnStretch(1, 1)
        return grid

    def keep(self) -> None:
        """Take what stands in the fields."""
        self._keep_finger()
        self._keep_words()

    def _keep_finger(self) -> None:
        if self.finger.text() != self._kept["finger"]:
            self._kept["finger"] = self.finger.text()
            self.finger_wanted.emit(self.finger.text())

    def _keep_words(self) -> None:
        if self.words.text() != self._kept["words"]:
            self._kept["words"] = self.words.text()
            self.words_wanted.emit(self.words.text())

    def show_notes(self, notes: list[Note], about: str, words: str) -> None:
        """Show what the selected notes have, and the words over their bar."""
        self.about.setText(about)
        for what, button in self.buttons.items():
            if isinstance(what, Articulation):
                on = bool(notes) and all(note.has(what) for note in notes)
            elif isinstance(what, Pick):
                on = bool(notes) and all(note.pick is what for note in notes)
            else:
                on = bool(notes) and all(note.uncertain for note in notes)
            button.setChecked(on)
            button.setEnabled(bool(notes))
        bends = {
            mark.semitones or Fraction(1)
            for note in notes
            for mark in note.marks
            if mark.articulation is Articulation.BEND
        }
        self.bend.setCurrentIndex(max(0, self.bend.findData(bends.pop())) if len(bends) == 1 else 0)
        fingers, strings = {note.finger for note in notes}, {note.string for note in notes}
        finger = fingers.pop() if len(fingers) == 1 else ""
        self._kept = {"finger": finger, "words": words}
        self.finger.setText(finger)
        self.string.setCurrentIndex(self.string.findData(strings.pop()) if len(strings) == 1 else 0)
        self.words.setText(words)
        for field in (self.bend, self.finger, self.string):
            field.setEnabled(bool(notes))
