"""Asks the questions of an ear lesson, and keeps what was mistaken."""

from __future__ import annotations

import random
from collections.abc import Callable
from typing import TypeVar

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from gavotte.desktop.desk.studio import Studio
from gavotte.desktop.desks.practice.ears_panel import LESSONS, EarsPanel
from gavotte.desktop.errands.to_practise import ToBePractised
from gavotte.desktop.playback.microphone import Microphone, SimulatedMicrophone
from gavotte.desktop.translation import said, translate
from gavotte.desktop.words import counted
from gavotte.formats.document import DocumentKind
from gavotte.formats.errors import FormatError
from gavotte.labelling.labeller import Labelled, labelled
from gavotte.library.errors import LibraryError
from gavotte.library.reader import LibraryReader
from gavotte.practice.item import Kind
from gavotte.practice.label_lesson import BarToLabel, bars_to_label, compared_with, one_of
from gavotte.practice.lessons import Confusions, Lesson, Question, chosen, questions_of
from gavotte.practice.singing import Sung, sung
from gavotte.recording.player import RATE
from gavotte.solo.document import Solo

CONFUSIONS_DOCUMENT = DocumentKind("gavotte-confusions", 1, "confusions", Confusions)
_SOURCES = 6
SING_MS = 3000
"""How long the microphone is open for what is sung."""

FoundT = TypeVar("FoundT")


class Ears(QObject):
    """``question`` is the one that is asked, ``bar`` the one to be labelled, ``confusions`` what was answered so far.
    ``chance`` decides; ``microphone`` gives a source to listen with, None where a keyboard is chosen.

    Signals: ``page_wanted(solo, labels)``, this is to be read (labels None: without them); ``page_left``;
    ``answered(lesson)``.
    """

    page_wanted = pyqtSignal(object, object)
    page_left = pyqtSignal()
    answered = pyqtSignal(object)

    def __init__(
        self, studio: Studio, panel: EarsPanel, microphone: Callable[[], Microphone | None], parent: QObject
    ) -> None:
        super().__init__(parent)
        self._studio, self.panel, self._microphone = studio, panel, microphone
        self.bar: BarToLabel | None = None
        self._source: Microphone | None = None
        self._blocks: list[NDArray[np.int16]] = []
        self._until = QTimer(self)
        self._until.setSingleShot(True)
        self._until.setInterval(SING_MS)
        self._until.timeout.connect(self._sung)
        panel.sing_wanted.connect(self.sing)
        panel.practise_wanted.connect(self.practise)
        panel.compare_wanted.connect(self.compare)
        self.question: Question | None = None
        self.confusions = Confusions()
        self.chance = random.Random()
        self.is_answered = False
        self._read_once = False
        panel.lesson_changed.connect(lambda _: self.ask())
        panel.hear_wanted.connect(self.hear)
        panel.answered.connect(self.answer)
        panel.next_wanted.connect(self.ask)

    def take_up(self, lesson: Lesson) -> None:
        """Ask questions of a lesson."""
        row = self.panel.lesson.findData(lesson)
        if row >= 0 and row != self.panel.lesson.currentIndex():
            self.panel.lesson.setCurrentIndex(row)

    def practise(self) -> None:
        """Have the lesson that is chosen come back like anything else that is practised."""
        lesson = self.panel.wanted
        name = translate("Gavotte", "Lesson: {name}").format(name=said(LESSONS[lesson]))
        self._studio.practice.add(ToBePractised(name, Kind.LESSON, Solo(name), lesson=lesson))

    def leave(self) -> None:
        """The lessons are no longer looked at."""
        self.stop()
        if self.bar is not None:
            self.bar = None
            self.page_left.emit()

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
        if self.question is None and self.bar is None:
            self.ask()

    def ask(self) -> None:
        """Ask another question, made of solos and licks of the library."""
        lesson, seed, confusions = self.panel.wanted, self.chance.randrange(1 << 30), self.confusions
        studio = self._studio
        self.stop()
        if self.bar is not None:
            self.bar = None
            self.page_left.emit()
        if lesson is Lesson.LABEL:
            self._ask_for_labels(seed)
            return

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

    def _ask_for_labels(self, seed: int) -> None:
        """Ask for the labels of a bar out of the library."""
        studio = self._studio

        def work() -> BarToLabel | None:
            with studio.library.read_apart() as reader:
                return one_of(_gathered(reader, bars_to_label, seed), seed)

        def take(bar: BarToLabel | None) -> None:
            self.question, self.bar, self.is_answered = None, bar, False
            if bar is None:
                self.panel.show_question(None, translate("Gavotte", "There are no bars yet that could be labelled."))
                return
            self.panel.show_bar(bar, studio.view.shown)
            self.page_wanted.emit(bar.music, None)

        studio.activities.cancel(self)
        studio.activities.beside(self, work, take, lambda error: studio.asks.notice(str(error)))

    def compare(self) -> None:
        """Hold what was said of the bar against the labeller."""
        bar = self.bar
        if bar is None or self.is_answered:
            return
        self.is_answered = True
        opinions = compared_with(bar, self.panel.form.said)
        for opinion in opinions:
            right, mine = str(opinion.label.function), str(opinion.said)
            self.confusions = self.confusions.with_answer(Lesson.LABEL, right, mine)
        self.panel.show_opinions(bar, opinions)
        self._keep()
        self.page_wanted.emit(bar.music, bar)

    def sing(self) -> None:
        """Open the microphone for a moment: the target is to be sung or played."""
        question = self.question
        if question is None or question.target is None or self._source is not None:
            return
        source = self._microphone()
        if source is None:
            self._studio.asks.notice(translate("Gavotte", "Choose a microphone at Take: it listens to what you sing."))
            return
        self._studio.transport.stop()
        if isinstance(source, SimulatedMicrophone):
            source.prepare(_hummed(question.target))
        self._source, self._blocks = source, []
        source.heard.connect(self._blocks.append)
        source.stopped.connect(self._lost)
        if not source.open():
            self.stop()
            return
        if isinstance(source, SimulatedMicrophone):
            source.begin_in(0.0)
        self.panel.show_listening(True)
        self._until.start()

    def _lost(self, message: str) -> None:
        self.stop()
        self._studio.asks.notice(message)

    def stop(self) -> None:
        """Close the microphone."""
        self._until.stop()
        source, self._source = self._source, None
        if source is not None:
            source.heard.disconnect()
            source.stopped.disconnect(self._lost)
            source.close()
            self.panel.show_listening(False)

    def _sung(self) -> None:
        """Find out what was sung."""
        blocks, question = self._blocks, self.question
        self.stop()
        if question is None or question.target is None or not blocks:
            return
        samples = np.repeat(np.concatenate(blocks)[:, None], 2, axis=1)
        target = question.target

        def take(found: Sung | None) -> None:
            if self.question is not question:
                return
            if found is None:
                told = translate("Gavotte", "Nothing was heard for long enough. Sing or play one note, and hold it.")
                self.panel.told.setText(told)
                return
            self.is_answered = True
            is_on, cents = found.is_on(target), found.cents_from(target)
            if is_on:
                words = translate("Gavotte", "Yes, {right} ({cents:+.0f} cents).")
            else:
                words = translate("Gavotte", "It is {right}; yours lies {semitones} {way}.")
            told = words.format(
                right=question.right,
                cents=cents,
                semitones=counted(max(1, round(abs(cents) / 100)), "half step"),
                way=translate("Gavotte", "above it") if cents > 0 else translate("Gavotte", "below it"),
            )
            answer = question.right if is_on else f"{round(cents / 100):+d}"
            self.confusions = self.confusions.with_answer(Lesson.SING, question.right, answer)
            self.panel.show_sung(question, told)
            self.panel.show_mistaken(self.confusions.mistaken())
            self._keep()
            self.hear()

        self._studio.activities.walk(
            self, lambda: sung(samples), take, lambda error: self._studio.asks.notice(str(error))
        )

    def _keep(self) -> None:
        """Keep what was answered."""
        self.panel.show_mistaken(self.confusions.mistaken())
        self.answered.emit(self.panel.wanted)
        try:
            self._studio.library.keep(CONFUSIONS_DOCUMENT, self.confusions)
        except LibraryError as error:
            self._studio.asks.notice(str(error))

    def hear(self) -> None:
        """Let the question be heard; once it is answered, all of it."""
        if self.bar is not None:
            self._studio.playing.play_apart(self.bar.music)
        elif self.question is not None:
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
        self._keep()
        self.hear()


def _question(
    reader: LibraryReader, questions: Callable[..., list[Question]], confusions: Confusions, seed: int
) -> Question | None:
    """A question out of some of the library's solos and licks, which chance decides."""
    return chosen(_gathered(reader, questions, seed), confusions, seed)


def _hummed(midi: int) -> NDArray[np.int16]:
    """A note as somebody might hum it, for the simulated microphone: 16-bit stereo."""
    times = np.arange(round(1.5 * RATE)) / RATE
    hertz = 440 * 2 ** ((midi - 69) / 12)
    tone = sum(np.sin(2 * np.pi * hertz * k * times) / k**1.5 for k in range(1, 8))
    swell = np.minimum(1.0, np.minimum(times / 0.1, (1.5 - times) / 0.2))
    mono = np.asarray(9000 * tone * swell, np.int16)
    return np.repeat(mono[:, None], 2, axis=1)


def _gathered(reader: LibraryReader, of: Callable[[Labelled], list[FoundT]], seed: int) -> list[FoundT]:
    """What is found in some of the library's solos and licks, which chance decides."""
    order = random.Random(seed)
    sources = [("solo", entry.id) for entry in reader.solos() if entry.notes]
    sources += [("lick", entry.id) for entry in reader.licks()]
    order.shuffle(sources)
    made: list[FoundT] = []
    for number, (kind, source_id) in enumerate(sources):
        try:
            solo = reader.solo(source_id) if kind == "solo" else reader.lick(source_id).solo
        except (LibraryError, FormatError):
            continue
        made += of(labelled(solo))
        if number + 1 >= _SOURCES and made:
            break
    return made
