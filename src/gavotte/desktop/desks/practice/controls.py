"""What is reached with an instrument in the hands: three large controls, where the run is, and how it went."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QSizePolicy, QVBoxLayout, QWidget

from gavotte.desktop.desks.practice.words import ANSWERS
from gavotte.desktop.translation import said, translate
from gavotte.desktop.widgets.elided import ElidedLabel
from gavotte.practice.plan import Answer

_HIGH, _ANSWERS_HIGH = 48, 40
_NARROW = 720
"""Pixels below which there is no room for recording beside the answers; its key works."""


class Controls(QWidget):
    """``play``, ``record`` and ``next`` are the large ones; ``answers`` by what they say.

    Signal: ``answered(answer)``.
    """

    answered = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("chrome")
        self.play = QPushButton(translate("Gavotte", "Play"))
        self.record = QPushButton(translate("Gavotte", "Record a take"))
        self.next = QPushButton(translate("Gavotte", "Next"))
        self.clean = QPushButton()
        self.clean.hide()
        self.play.setObjectName("primary")
        self.light = QLabel()
        self.light.setObjectName("warning")
        self.place = QLabel()
        self.place.setObjectName("title")
        self.detail = ElidedLabel()
        self.detail.setObjectName("quietBody")
        self.asked = QLabel(translate("Gavotte", "How did it go?"))
        self.asked.setObjectName("quiet")
        self.answers: dict[Answer, QPushButton] = {}
        for answer, words in ANSWERS.items():
            button = QPushButton(said(words))
            button.clicked.connect(lambda _, a=answer: self.answered.emit(a))
            self.answers[answer] = button
        self._lay_out()
        self.show_answers(False)

    def _lay_out(self) -> None:
        for button in (self.play, self.record, self.next, self.clean, *self.answers.values()):
            button.setMinimumHeight(_HIGH if button not in self.answers.values() else _ANSWERS_HIGH)
            button.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        self.play.setMinimumWidth(112)
        told = QVBoxLayout()
        told.setSpacing(0)
        told.addWidget(self.place)
        told.addWidget(self.detail)
        row = QHBoxLayout(self)
        row.setContentsMargins(16, 8, 16, 8)
        row.setSpacing(8)
        row.addWidget(self.play)
        row.addWidget(self.record)
        row.addWidget(self.next)
        row.addWidget(self.clean)
        row.addWidget(self.light, 0, Qt.AlignmentFlag.AlignVCenter)
        row.addSpacing(8)
        asking = QVBoxLayout()
        asking.setContentsMargins(0, 0, 0, 0)
        asking.setSpacing(4)
        asking.addWidget(self.asked)
        answers = QHBoxLayout()
        answers.setSpacing(8)
        for button in self.answers.values():
            answers.addWidget(button)
        asking.addLayout(answers)
        self._told = QWidget()
        self._told.setLayout(told)
        told.setContentsMargins(0, 0, 0, 0)
        row.addWidget(self._told, 1)
        row.addStretch(0)
        row.addLayout(asking)

    def show_clean(self, shown: bool, words: str) -> None:
        """Let the player say that a pass is clean, in place of going on; ``words`` say how many were."""
        self.clean.setText(words)
        if self.clean.isHidden() == shown:
            self.clean.setVisible(shown)
            self.next.setVisible(not shown and self.asked.isHidden())

    def show_answers(self, shown: bool) -> None:
        """Ask how it went, or not; what comes next follows from the answer."""
        self.asked.setVisible(shown)
        self._told.setVisible(not shown)
        self.next.setVisible(not shown)
        self._fit()
        for button in self.answers.values():
            button.setVisible(shown)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._fit()

    def _fit(self) -> None:
        self.record.setVisible(self.asked.isHidden() or self.width() >= _NARROW)

    def show_state(self, playing: bool, recording: bool, is_silent: bool = False) -> None:
        """What is going on; ``is_silent`` where no microphone is open while it records."""
        self.play.setText(translate("Gavotte", "Stop") if playing else translate("Gavotte", "Play"))
        self.record.setText(
            translate("Gavotte", "Stop recording") if recording else translate("Gavotte", "Record a take")
        )
        open_words = translate("Gavotte", "● The microphone is open")
        self.light.setText("" if not recording else translate("Gavotte", "● Recording") if is_silent else open_words)
