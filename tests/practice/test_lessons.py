"""Lessons for the ear."""

from __future__ import annotations

from collections import Counter

import pytest

from gavotte.demo.solos import DEMO_SOLOS
from gavotte.labelling.labeller import labelled
from gavotte.practice.lessons import Confusions, Lesson, chosen, questions_of

FOUND = labelled(DEMO_SOLOS[0]())


@pytest.mark.parametrize("lesson", [Lesson.DEGREE, Lesson.LANDING, Lesson.APPROACH, Lesson.COLLECTION])
def test_every_question_has_its_answer_among_different_choices(lesson: Lesson) -> None:
    questions = questions_of(FOUND, lesson, 1)
    assert questions
    for question in questions:
        assert question.lesson is lesson
        assert question.right in question.choices
        assert 2 <= len(set(question.choices)) == len(question.choices) <= 4
        assert question.why
        assert question.place.startswith(FOUND.solo.title)
        assert question.whole.notes
        assert question.whole.chords


def test_the_note_a_line_lands_on_is_not_heard_before_it_is_named() -> None:
    for question in questions_of(FOUND, Lesson.LANDING, 1):
        assert question.heard.notes == question.whole.notes[:-1]
        assert question.heard.end >= question.whole.end


def test_an_approach_is_asked_by_its_step() -> None:
    for question in questions_of(FOUND, Lesson.APPROACH, 1):
        first, second = question.heard.notes
        step = second.pitch.midi - first.pitch.midi
        assert ("half" in question.right) == (abs(step) == 1)
        assert ("below" in question.right) == (step > 0)


def test_the_right_answer_stands_anywhere() -> None:
    places = Counter(q.choices.index(q.right) for q in questions_of(FOUND, Lesson.DEGREE, 3))
    assert len(places) == 4


def test_what_was_mistaken_comes_sooner() -> None:
    questions = questions_of(FOUND, Lesson.DEGREE, 1)
    answers = Counter(question.right for question in questions)
    rare = min(answers, key=lambda right: answers[right])
    confusions = Confusions()
    usual = sum(chosen(questions, confusions, seed).right == rare for seed in range(300))  # type: ignore[union-attr]
    for _ in range(5):
        confusions = confusions.with_answer(Lesson.DEGREE, rare, "1")
    assert confusions.count(Lesson.DEGREE, rare, "1") == 5
    assert confusions.mistaken()[0].right == rare
    sooner = sum(chosen(questions, confusions, seed).right == rare for seed in range(300))  # type: ignore[union-attr]
    assert sooner > 2 * usual + 5
    known = Confusions()
    for _ in range(9):
        known = known.with_answer(Lesson.DEGREE, rare, rare)
    assert known.mistaken() == []
    assert chosen([], known, 1) is None
