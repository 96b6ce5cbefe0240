"""Asks for the chords at the caret."""

from __future__ import annotations

from fractions import Fraction

from PyQt6.QtWidgets import QLabel, QLineEdit, QWidget

from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.dialog import Dialog
from gavotte.solo.document import Solo
from gavotte.writing.chord_line import ChordLine, write_chords_at


class ChordDialog(Dialog):
    """One chord for the caret's beat, or several for the rest of its bar. ``line`` is what was made of them."""

    def __init__(self, parent: QWidget, solo: Solo, time: Fraction, where: str) -> None:
        super().__init__(parent, translate("Gavotte", "Chords here"), translate("Gavotte", "Write"))
        self._solo, self._time = solo, time
        self.line: ChordLine | None = None
        caption = QLabel(translate("Gavotte", "{where}. Several chords share the rest of the bar.").format(where=where))
        caption.setObjectName("quiet")
        self.field = QLineEdit()
        self.field.setAccessibleName(translate("Gavotte", "Chords, with a space between them"))
        self.verdict = QLabel()
        self.verdict.setObjectName("quiet")
        self.verdict.setWordWrap(True)
        for widget in (caption, self.field, self.verdict):
            self.content.addWidget(widget)
        self.field.textChanged.connect(self._check)
        self._check("")
        self.field.setFocus()

    def _check(self, text: str) -> None:
        self.line = write_chords_at(self._solo, self._time, text)
        problems = self.line.problems if text.strip() else ()
        self.verdict.setText(problems[0].why if problems else "")
        self.yes.setEnabled(not self.line.problems)
