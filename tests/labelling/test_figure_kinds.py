"""Kinds of figure say all of themselves: one more is one module and one line, and decisions leave figures whole."""

from __future__ import annotations

import itertools
from collections.abc import Iterator

import pytest
from tests.conftest import make_solo

from gavotte.desktop.words import figure_words
from gavotte.labelling.explanation import Explanation, Figure
from gavotte.labelling.figures import FIGURES, figure_kind
from gavotte.labelling.figures.kind import FigureKind, Told
from gavotte.labelling.frame import Frame
from gavotte.labelling.framed_note import FramedNote
from gavotte.labelling.hand_out import bar_texts, markdown
from gavotte.labelling.labeller import labelled
from gavotte.labelling.overview import groups
from gavotte.solo.document import Function
from gavotte.solo.edits import with_decision
from gavotte.solo.label import DEVICES
from gavotte.solo.school import School
from gavotte.vocabulary.naming import propose_name


def sighs(frame: Frame, school: School, first: int, last: int) -> Iterator[Figure]:
    """Two added notes that fall by a whole step each from a chord tone to a chord tone."""
    for i in range(first + 1, last - 2):
        four = frame.notes[i - 1 : i + 3]
        falls = [b.pitch - a.pitch for a, b in itertools.pairwise(four)]
        if falls == [-2, -2, -2] and not four[1].is_tone and not four[2].is_tone:
            explains = {
                k: Explanation(Function.PASSING, "sigh", 0.9, target=i + 2, figure="double sigh") for k in (i, i + 1)
            }
            yield Figure("double sigh", (i - 1, i, i + 1), explains, target=i + 2)


def sigh_reason(frame: Frame, note: FramedNote, explanation: Explanation) -> str:
    return f"{note.note.pitch.shown} sighs."


def sigh_phrase(told: Told) -> str:
    return f"{told.names} sigh down to {told.goal}"


SIGH = FigureKind(
    "double sigh",
    "Double sigh",
    2.5,
    sighs,
    ("sigh",),
    sigh_reason,
    sigh_reason,
    sigh_phrase,
    feature=lambda goal: f"sigh to {goal}",
    surprise={"sigh": 0.1},
)


def test_a_kind_of_figure_is_one_module_and_one_line(monkeypatch: pytest.MonkeyPatch) -> None:
    solo = make_solo([("C#dim7", "G5/8 F5 Eb5 Db5 Bb4 G4 E4 C#4")])
    assert all(label.figure != "double sigh" for label in labelled(solo).labels)
    kinds = [*FIGURES, SIGH]
    monkeypatch.setattr("gavotte.labelling.figures.FIGURES", kinds)
    monkeypatch.setattr("gavotte.labelling.search.FIGURES", kinds)
    found = labelled(solo)
    sighed = [label for label in found.labels if label.figure == "double sigh"]
    assert [(label.function, label.device, label.reason) for label in sighed if label.device == "sigh"] == [
        (Function.PASSING, "sigh", "F sighs."),
        (Function.PASSING, "sigh", "E♭ sighs."),
    ]
    (group,) = [group for group in groups(found).values() if group.kind == "double sigh"]
    assert figure_words(group) == "Double sigh"
    assert "sigh down to D♭" in bar_texts(found)[0].words
    assert "sigh to" in propose_name(found.solo, found.labels)


def test_kinds_of_figures_are_told_apart() -> None:
    assert len({kind.name for kind in FIGURES}) == len(FIGURES)
    known = {device for devices in DEVICES.values() for device in devices}
    for kind in FIGURES:
        assert set(kind.devices) <= known
        assert set(kind.surprise) <= set(kind.devices)
        assert all(figure_kind(other) is not None for other in kind.not_inside)


def test_a_decision_on_one_note_leaves_the_figure_what_it_is() -> None:
    solo = make_solo([("Cmaj7", "G5/8 F5 D#5 E5 G5/2")])
    before = labelled(solo)
    assert [label.device for label in before.labels[1:3]] == ["enclosure", "enclosure"]
    decided = labelled(with_decision(solo, "n1", Function.EXTENSION, "natural"))
    assert [group.kind for group in groups(decided).values()] == ["enclosure"]
    (group,) = groups(decided).values()
    assert group.notes == ("n2",)
    assert decided.labels[1].group is None
    text = markdown(decided)
    assert "colours of" not in text
    assert "D♯ closes in on E" in text
