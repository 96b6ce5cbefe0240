"""Lessons for the ear, made of one's own solos and licks.

A question lets a few notes be heard and asks what a note is against its chord, where the line lands before it does,
from where a note was led to, which collection a run is out of; or the note a line lands on is to be sung or played.
What was mistaken for what is counted by pair, and questions on which that can happen again come sooner.
"""

from __future__ import annotations

import itertools
import random
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from fractions import Fraction

from gavotte.labelling.labeller import Labelled
from gavotte.phrasing.telling import listed
from gavotte.solo.document import Function, Note, Solo
from gavotte.solo.moving import excerpt
from gavotte.theory.chord import Chord
from gavotte.theory.chord_symbol import read_or_keep, shown_chord
from gavotte.theory.degrees import shown_degree
from gavotte.theory.scale import COLLECTIONS, collection_pitch_classes

_LEAST = Fraction(1, 2)
_INSIDE = (Function.CHORD, Function.EXTENSION, Function.PASSING)
"""What a note of a run can be that is out of one collection."""

_LONGEST_RUN, _LEAST_CLASSES = 10, 5
_LEAD_IN = 5
"""Notes before the landing that are heard."""

CHOICES = 4
_COMMON = ("1", "3", "5", "b7", "9", "b3", "13", "4", "7", "b9", "6", "11")
_FROM = ("a half step below", "a half step above", "a whole step below", "a whole step above")
_STEPS = {1: _FROM[0], -1: _FROM[1], 2: _FROM[2], -2: _FROM[3]}


class Lesson(StrEnum):
    """What is asked."""

    DEGREE = "degree"
    LANDING = "landing"
    APPROACH = "approach"
    COLLECTION = "collection"
    SING = "sing"
    LABEL = "label"


@dataclass(frozen=True)
class Question:
    """What is ``heard`` (for a landing without its last note), what is ``right`` among the ``choices``, in words; what
    the user hears afterwards (``whole``), and ``why`` it is so. Without choices ``target`` (a MIDI number) is to be
    sung or played.
    """

    lesson: Lesson
    heard: Solo
    whole: Solo
    right: str
    choices: tuple[str, ...]
    why: str
    place: str
    target: int | None = None


@dataclass(frozen=True, slots=True)
class Confusion:
    """What was taken for what, how often; where both are the same it was known."""

    lesson: Lesson
    right: str
    answer: str
    count: int


@dataclass(frozen=True, slots=True)
class Confusions:
    """All that was answered so far."""

    counts: tuple[Confusion, ...] = ()

    def count(self, lesson: Lesson, right: str, answer: str) -> int:
        """How often one was taken for the other."""
        return next(
            (one.count for one in self.counts if (one.lesson, one.right, one.answer) == (lesson, right, answer)), 0
        )

    def with_answer(self, lesson: Lesson, right: str, answer: str) -> Confusions:
        """The counts after another answer."""
        count = self.count(lesson, right, answer)
        others = tuple(one for one in self.counts if (one.lesson, one.right, one.answer) != (lesson, right, answer))
        return Confusions((*others, Confusion(lesson, right, answer, count + 1)))

    def mistaken(self) -> list[Confusion]:
        """What was mistaken, the most frequent first."""
        wrong = [one for one in self.counts if one.right != one.answer]
        return sorted(wrong, key=lambda one: -one.count)


def questions_of(found: Labelled, lesson: Lesson, seed: int) -> list[Question]:
    """Every question of a kind that a labelled line has; the seed decides among wrong choices. A bar to be labelled is
    no question: see ``label_lesson.py``.
    """
    chance = random.Random(seed)
    makers = {
        Lesson.DEGREE: _degree,
        Lesson.LANDING: _landing,
        Lesson.APPROACH: _approach,
        Lesson.COLLECTION: _collection,
        Lesson.SING: _to_sing,
    }
    if lesson not in makers:
        return []
    made = (makers[lesson](found, index, chance) for index in range(len(found.solo.notes)))
    return [question for question in made if question is not None]


def chosen(questions: Sequence[Question], confusions: Confusions, seed: int) -> Question | None:
    """The next question: by chance, those on which something was mistaken before several times as likely."""
    if not questions:
        return None
    weights = [_weight(question, confusions) for question in questions]
    return random.Random(seed).choices(questions, weights)[0]


def _weight(question: Question, confusions: Confusions) -> float:
    known = confusions.count(question.lesson, question.right, question.right)
    mistaken = sum(
        one.count
        for one in confusions.counts
        if one.lesson is question.lesson and one.right != one.answer and question.right in (one.right, one.answer)
    )
    return (1 + 3 * mistaken) / (1 + 0.3 * known)


def _place(found: Labelled, note: Note) -> str:
    return ", ".join(filter(None, (found.solo.title, found.frame.grid.place(note.onset))))


def _alone(found: Labelled, first: Note, last: Note) -> Solo:
    """The stretch with its chords, ready to be heard."""
    return replace(excerpt(found.solo, first.id, last.id), decisions=(), phrases=())


def _choices(right: str, others: Iterable[str], chance: random.Random) -> tuple[str, ...]:
    wrong = list(dict.fromkeys(other for other in others if other != right))
    picked = [right, *chance.sample(wrong, min(CHOICES - 1, len(wrong)))]
    chance.shuffle(picked)
    return tuple(picked)


def _degree(found: Labelled, index: int, chance: random.Random) -> Question | None:
    """A note over its chord: which degree is it?"""
    note, label = found.solo.notes[index], found.labels[index]
    if note.grace or note.duration < _LEAST or not label.chord or not label.degree:
        return None
    here = {other.degree for other in found.labels if other.degree}
    others = [*sorted(here), *_COMMON]
    right = shown_degree(label.degree)
    music = _alone(found, note, note)
    choices = _choices(right, (shown_degree(other) for other in others), chance)
    return Question(Lesson.DEGREE, music, music, right, choices, label.reason, _place(found, note))


def _landing(found: Labelled, index: int, chance: random.Random) -> Question | None:
    """A line whose last note is not heard: on which degree does it land?"""
    notes = found.solo.notes
    note, label = notes[index], found.labels[index]
    ends = index + 1 == len(notes) or notes[index + 1].onset - note.onset >= 1
    if index < _LEAD_IN or note.grace or not ends or note.duration < _LEAST or not label.chord or not label.degree:
        return None
    line = notes[index - _LEAD_IN : index + 1]
    if any(b.onset - a.end >= 1 for a, b in itertools.pairwise(line)):
        return None
    whole = _alone(found, line[0], note)
    # The chord it lands on is heard; the note is not.
    heard = replace(whole, notes=whole.notes[:-1], form_end=whole.end)
    right = shown_degree(label.degree)
    choices = _choices(right, (shown_degree(other) for other in _COMMON), chance)
    return Question(Lesson.LANDING, heard, whole, right, choices, label.reason, _place(found, note))


def _to_sing(found: Labelled, index: int, chance: random.Random) -> Question | None:
    """A line whose last note is not heard: sing or play it."""
    landing = _landing(found, index, chance)
    if landing is None:
        return None
    note = found.solo.notes[index]
    return replace(landing, lesson=Lesson.SING, choices=(), target=note.pitch.midi)


def _collection(found: Labelled, index: int, chance: random.Random) -> Question | None:
    """A run over one chord: which collection on its root is it out of?"""
    notes, labels = found.solo.notes, found.labels
    chord = labels[index].chord
    if not chord or (index and labels[index - 1].chord == chord):
        return None
    end = index
    while end < len(notes) and labels[end].chord == chord and not notes[end].grace and end - index < _LONGEST_RUN:
        end += 1
    run = notes[index:end]
    classes = {note.pitch.pitch_class for note in run}
    symbol = read_or_keep(chord)
    inside = all(label.function in _INSIDE for label in labels[index:end])
    if len(classes) < _LEAST_CLASSES or not inside or not isinstance(symbol, Chord):
        return None
    root = symbol.root
    fitting = [kind for kind in COLLECTIONS if classes <= collection_pitch_classes(kind, root.pitch_class)]
    if not fitting:
        return None
    others = [kind for kind in COLLECTIONS if kind not in fitting]
    music = _alone(found, run[0], run[-1])
    choices = _choices(fitting[0], others, chance)
    names = listed([note.name.shown for note in sorted({n.pitch.pitch_class: n.pitch for n in run}.values(),
                    key=lambda pitch: (pitch.pitch_class - root.pitch_class) % 12)])  # fmt: skip
    why = f"Its notes are {names}, over {shown_chord(symbol)}."
    return Question(Lesson.COLLECTION, music, music, fitting[0], choices, why, _place(found, run[0]))


def _approach(found: Labelled, index: int, chance: random.Random) -> Question | None:
    """Two notes, the first leading to the second: from where?"""
    notes = found.solo.notes
    label = found.labels[index]
    if index + 1 >= len(notes) or label.function is not Function.APPROACH or label.target != notes[index + 1].id:
        return None
    step = notes[index + 1].pitch.midi - notes[index].pitch.midi
    if step not in _STEPS or notes[index].grace:
        return None
    music = _alone(found, notes[index], notes[index + 1])
    choices = _choices(_STEPS[step], _FROM, chance)
    return Question(Lesson.APPROACH, music, music, _STEPS[step], choices, label.reason, _place(found, notes[index]))
