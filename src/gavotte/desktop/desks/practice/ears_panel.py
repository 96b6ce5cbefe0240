"""Lessons for the ear: something is heard, and named."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QGridLayout, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from gavotte.desktop.translation import QT_TRANSLATE_NOOP, said, translate
from gavotte.desktop.widgets.choice import Choice
from gavotte.desktop.widgets.header import rule
from gavotte.practice.lessons import CHOICES, Confusion, Lesson, Question

LESSONS = {
    Lesson.DEGREE: QT_TRANSLATE_NOOP("Gavotte", "A note over its chord"),
    Lesson.LANDING: QT_TRANSLATE_NOOP("Gavotte", "Where does it land?"),
    Lesson.APPROACH: QT_TRANSLATE_NOOP("Gavotte", "From where is it led to?"),
}
_ASKED = {
    Lesson.DEGREE: QT_TRANSLATE_NOOP("Gavotte", "Which degree of the chord is the note?"),
    Lesson.LANDING: QT_TRANSLATE_NOOP("Gavotte", "The last note is missing. On which degree does the line land?"),
    Lesson.APPROACH: QT_TRANSLATE_NOOP("Gavotte", "From where is the second note led to?"),
}
_MOST = 4


class EarsPanel(QWidget):
    """``answers`` are the choices. Signals: ``lesson_changed(lesson)``; ``hear_wanted``; ``answered(words)``;
    ``next_wanted``.
    """

    lesson_changed = pyqtSignal(object)
    hear_wanted = pyqtSignal()
    answered = pyqtSignal(str)
    next_wanted = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.lesson = Choice()
        self.lesson.setAccessibleName(translate("Gavotte", "Lesson"))
        for lesson, words in LESSONS.items():
            self.lesson.addItem(said(words), lesson)
        self.asked, self.told, self.mistaken = QLabel(), QLabel(), QLabel()
        self.asked.setObjectName("heading")
        self.mistaken.setObjectName("quiet")
        for label in (self.asked, self.told, self.mistaken):
            label.setWordWrap(True)
        self.hear = QPushButton(translate("Gavotte", "Hear it"))
        self.next = QPushButton(translate("Gavotte", "Another one"))
        self.next.setObjectName("primary")
        self.answers = [QPushButton() for _ in range(CHOICES)]
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        column.setSpacing(10)
        column.addWidget(self.lesson)
        column.addWidget(self.asked)
        column.addWidget(self.hear)
        grid = QGridLayout()
        grid.setSpacing(8)
        for number, button in enumerate(self.answers):
            button.setMinimumHeight(40)
            button.clicked.connect(lambda _, b=button: self.answered.emit(b.text()))
            grid.addWidget(button, number // 2, number % 2)
        column.addLayout(grid)
        column.addWidget(self.told)
        row = QHBoxLayout()
        row.addWidget(self.next)
        row.addStretch(1)
        column.addLayout(row)
        column.addWidget(rule())
        column.addWidget(self.mistaken)
        column.addStretch(1)
        self.lesson.currentIndexChanged.connect(lambda _: self.lesson_changed.emit(self.wanted))
        self.hear.clicked.connect(self.hear_wanted)
        self.next.clicked.connect(self.next_wanted)

    @property
    def wanted(self) -> Lesson:
        """The lesson that is chosen."""
        lesson: Lesson = self.lesson.currentData()
        return lesson

    def show_question(self, question: Question | None, none: str) -> None:
        """Ask a question; ``none`` is said where there is none."""
        self.asked.setText(said(_ASKED[question.lesson]) if question is not None else none)
        for button, words in zip(
            self.answers, (*question.choices, "", "", "", "") if question else [""] * 4, strict=False
        ):
            button.setText(words)
            button.setVisible(bool(words))
            button.setEnabled(True)
        self.hear.setVisible(question is not None)
        self.next.setVisible(question is not None)
        self.told.setText("")

    def show_answer(self, question: Question, answer: str) -> None:
        """Say whether it was right, and why it is so."""
        is_right = answer == question.right
        words = translate("Gavotte", "Yes, {right}.") if is_right else translate("Gavotte", "It is {right}.")
        place = question.place[:1].upper() + question.place[1:]
        self.told.setText(f"{words.format(right=question.right)} {question.why}\n{place}.")
        for button in self.answers:
            button.setEnabled(button.text() in (question.right, answer))

    def show_mistaken(self, mistaken: Sequence[Confusion]) -> None:
        """Say what was mistaken for what most often."""
        lines = [
            translate("Gavotte", "{right} taken for {answer}: {count}×").format(
                right=one.right, answer=one.answer, count=one.count
            )
            for one in mistaken[:_MOST]
        ]
        self.mistaken.setText("\n".join(lines))
