"""Asks the questions of an ear lesson, and keeps what was mistaken."""

from __future__ import annotations

import random
from collections.abc import Callable

from PyQt6.QtCore import QObject

from gavotte.desktop.desk.studio import Studio
from gavotte.desktop.desks.practice.ears_panel import EarsPanel
from gavotte.desktop.translation import translate
from gavotte.formats.document import DocumentKind
from gavotte.formats.errors import FormatError
from gavotte.labelling.labeller import labelled
from gavotte.library.errors import LibraryError
from gavotte.library.reader import LibraryReader
from gavotte.practice.lessons import Confusions, Question, chosen, questions_of

CONFUSIONS_DOCUMENT = DocumentKind("gavotte-confusions", 1, "confusions", Confusions)
_SOURCES = 6


class Ears(QObject):
    """``question`` is the one that is asked, ``confusions`` what was answered so far. ``chance`` decides."""

    def __init__(self, studio: Studio, panel: EarsPanel, parent: QObject) -> None:
        super().__init__(parent)
        self._studio, self.panel = studio, panel
        self.question: Question | None = None
        self.confusions = Confusions()
        self.chance = random.Random()
        self.is_answered = False
        self._read_once = False
        panel.lesson_changed.connect(lambda _: self.ask())
        panel.hear_wanted.connect(self.hear)
        panel.answered.connect(self.answer)
        panel.next_wanted.connect(self.ask)

    def begin(self) -> None:
        """The lessons are looked at: ask, where nothing is asked yet."""
        if not self._read_once:
            self._read_once = True
            try:
                self.confusions = self._studio.library.kept(CONFUSIONS_DOCUMENT) or Confusions()
            except (LibraryError, FormatError):
                # What was mistaken before is worth no message: it is counted anew.
                self.confusions = Confusions()
            self.panel.show_mistaken(self.confusions.mistaken())
        if self.question is None:
            self.ask()

    def ask(self) -> None:
        """Ask another question, made of solos and licks of the library."""
        lesson, seed, confusions = self.panel.wanted, self.chance.randrange(1 << 30), self.confusions
        studio = self._studio

        def work() -> Question | None:
            with studio.library.read_apart() as reader:
                return _question(reader, lambda found: questions_of(found, lesson, seed), confusions, seed)

        def take(question: Question | None) -> None:
            self.question, self.is_answered = question, False
            none = translate("Gavotte", "There are no labelled solos or licks yet to ask about.")
            self.panel.show_question(question, none)
            if question is not None and self.panel.isVisible():
                self.hear()

        studio.activities.cancel(self)
        studio.activities.beside(self, work, take, lambda error: studio.asks.notice(str(error)))

    def hear(self) -> None:
        """Let the question be heard; once it is answered, all of it."""
        if self.question is not None:
            music = self.question.whole if self.is_answered else self.question.heard
            self._studio.playing.play_apart(music)

    def answer(self, words: str) -> None:
        """Say whether an answer is right."""
        question = self.question
        if question is None or self.is_answered or words not in question.choices:
            return
        self.is_answered = True
        self.confusions = self.confusions.with_answer(question.lesson, question.right, words)
        self.panel.show_answer(question, words)
        self.panel.show_mistaken(self.confusions.mistaken())
        try:
            self._studio.library.keep(CONFUSIONS_DOCUMENT, self.confusions)
        except LibraryError as error:
            self._studio.asks.notice(str(error))
        self.hear()


def _question(
    reader: LibraryReader, questions: Callable[..., list[Question]], confusions: Confusions, seed: int
) -> Question | None:
    """A question out of some of the library's solos and licks, which chance decides."""
    order = random.Random(seed)
    sources = [("solo", entry.id) for entry in reader.solos() if entry.notes]
    sources += [("lick", entry.id) for entry in reader.licks()]
    order.shuffle(sources)
    made: list[Question] = []
    for number, (kind, source_id) in enumerate(sources):
        try:
            solo = reader.solo(source_id) if kind == "solo" else reader.lick(source_id).solo
        except (LibraryError, FormatError):
            continue
        made += questions(labelled(solo))
        if number + 1 >= _SOURCES and made:
            break
    return chosen(made, confusions, seed)
