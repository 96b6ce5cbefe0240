"""Lessons for the ear: something is heard, and named."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QGridLayout, QHBoxLayout, QLabel, QPushButton

from gavotte.desktop.desks.practice.label_form import LabelForm
from gavotte.desktop.translation import QT_TRANSLATE_NOOP, said, translate
from gavotte.desktop.widgets.choice import Choice
from gavotte.desktop.widgets.header import rule
from gavotte.desktop.widgets.scrolled_panel import ScrolledPanel
from gavotte.desktop.words import FUNCTION_WORDS, counted
from gavotte.practice.label_lesson import BarToLabel, Opinion
from gavotte.practice.lessons import CHOICES, Confusion, Lesson, Question
from gavotte.solo.document import Solo

LESSONS = {
    Lesson.DEGREE: QT_TRANSLATE_NOOP("Gavotte", "A note over its chord"),
    Lesson.LANDING: QT_TRANSLATE_NOOP("Gavotte", "Where does it land?"),
    Lesson.APPROACH: QT_TRANSLATE_NOOP("Gavotte", "From where is it led to?"),
    Lesson.COLLECTION: QT_TRANSLATE_NOOP("Gavotte", "Which collection?"),
    Lesson.SING: QT_TRANSLATE_NOOP("Gavotte", "Sing or play where it lands"),
    Lesson.LABEL: QT_TRANSLATE_NOOP("Gavotte", "Label a bar by hand"),
}
_ASKED = {
    Lesson.DEGREE: QT_TRANSLATE_NOOP("Gavotte", "Which degree of the chord is the note?"),
    Lesson.LANDING: QT_TRANSLATE_NOOP("Gavotte", "The last note is missing. On which degree does the line land?"),
    Lesson.APPROACH: QT_TRANSLATE_NOOP("Gavotte", "From where is the second note led to?"),
    Lesson.COLLECTION: QT_TRANSLATE_NOOP("Gavotte", "Which collection on the chord’s root is the line out of?"),
    Lesson.SING: QT_TRANSLATE_NOOP("Gavotte", "The last note is missing. Sing or play it; any octave will do."),
    Lesson.LABEL: QT_TRANSLATE_NOOP("Gavotte", "What does each note of this bar do?"),
}
_MOST = 4


class EarsPanel(ScrolledPanel):
    """``answers`` are the choices, ``form`` is where a bar is labelled. Signals: ``lesson_changed(lesson)``;
    ``hear_wanted``; ``answered(words)``; ``sing_wanted``; ``compare_wanted``; ``next_wanted``;
    ``practise_wanted``, the lesson is to come back.
    """

    sing_wanted = pyqtSignal()
    compare_wanted = pyqtSignal()
    practise_wanted = pyqtSignal()

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
        self.keep = QPushButton(translate("Gavotte", "Practise this lesson"))
        self.keep.setToolTip(translate("Gavotte", "It comes back like anything else that is practised"))
        self.keep.clicked.connect(self.practise_wanted)
        self.answers = [QPushButton() for _ in range(CHOICES)]
        self.sing = QPushButton(translate("Gavotte", "Sing or play now"))
        self.sing.setMinimumHeight(40)
        self.light = QLabel()
        self.light.setObjectName("warning")
        self.form = LabelForm()
        column = self.column
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
        column.addWidget(self.sing)
        column.addWidget(self.light)
        column.addWidget(self.form)
        column.addWidget(self.told)
        row = QHBoxLayout()
        row.addWidget(self.next)
        row.addWidget(self.keep)
        row.addStretch(1)
        column.addLayout(row)
        column.addWidget(rule())
        column.addWidget(self.mistaken)
        column.addStretch(1)
        self.lesson.currentIndexChanged.connect(lambda _: self.lesson_changed.emit(self.wanted))
        self.hear.clicked.connect(self.hear_wanted)
        self.next.clicked.connect(self.next_wanted)
        self.sing.clicked.connect(self.sing_wanted)
        self.form.compare_wanted.connect(self.compare_wanted)
        self._show_forms(None)

    @property
    def wanted(self) -> Lesson:
        """The lesson that is chosen."""
        lesson: Lesson = self.lesson.currentData()
        return lesson

    def _show_forms(self, lesson: Lesson | None) -> None:
        self.sing.setVisible(lesson is Lesson.SING)
        self.light.setVisible(False)
        self.form.setVisible(lesson is Lesson.LABEL)

    def show_bar(self, bar: BarToLabel, read: Callable[[Solo], Solo]) -> None:
        """Ask for the labels of a bar."""
        self.asked.setText(f"{said(_ASKED[Lesson.LABEL])} {bar.place}.")
        for button in self.answers:
            button.setVisible(False)
        self.form.show_bar(bar, read)
        self._show_forms(Lesson.LABEL)
        self.hear.setVisible(True)
        self.next.setVisible(True)
        self.told.setText("")

    def show_opinions(self, bar: BarToLabel, opinions: Sequence[Opinion]) -> None:
        """Say where both agree, and what the labeller argues where they don't: either may be right."""
        self.form.close_form()
        differing = [opinion for opinion in opinions if not opinion.agrees]
        agreed = len(opinions) - len(differing)
        lines = [
            translate("Gavotte", "You agree on {agreed} of {notes}.").format(
                agreed=agreed, notes=counted(len(opinions), "note")
            )
        ]
        for opinion in differing:
            words = translate("Gavotte", "{place}: the labeller says {function}. {reason}")
            lines.append(
                words.format(
                    place=bar.places[opinion.number].capitalize(),
                    function=said(FUNCTION_WORDS[opinion.label.function]).lower(),
                    reason=opinion.label.reason,
                )
            )
            if opinion.argument:
                may = translate("Gavotte", "You may be right: {reason}")
                lines.append(may.format(reason=opinion.argument))
        self.told.setText("\n".join(lines))

    def show_listening(self, on: bool) -> None:
        """Show that the microphone is open, or no longer."""
        self.light.setText(translate("Gavotte", "● The microphone is open"))
        self.light.setVisible(on)
        self.sing.setEnabled(not on)

    def show_sung(self, question: Question, words: str) -> None:
        """Say what became of what was sung, and what the note is."""
        place = question.place[:1].upper() + question.place[1:]
        self.told.setText(f"{words} {question.why}\n{place}.")

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
        self._show_forms(question.lesson if question is not None else None)
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
