"""What is made out of what was known before an edit is what would be worked out anew."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from fractions import Fraction

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.random_solos import random_solo

from gavotte.engraving.mei import staff_for
from gavotte.labelling.labeller import labelled
from gavotte.solo import places
from gavotte.solo.bars import bars_written
from gavotte.solo.differences import differing
from gavotte.solo.document import Function, Note, Solo
from gavotte.solo.edits import with_decision
from gavotte.solo.note_labels import NoteLabels
from gavotte.solo.places import places_of
from gavotte.theory.pitch import Pitch, spell
from gavotte.writing.placing import fresh_ids, placed

F = Fraction
LINE = Solo("", notes=tuple(Note(f"n{i}", F(i), F(1), spell(40 + i % 30, 0)) for i in range(40)))
EDITS = st.lists(st.tuples(st.floats(0, 1), st.integers(0, 5), st.integers(0, 5)), max_size=8)


@pytest.fixture(autouse=True)
def no_line_is_short(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(places, "_LONG", 0)
    monkeypatch.setattr(places, "_FEW", 12)


def edits_of(solo: Solo, edits: list[tuple[float, int, int]]) -> list[Solo]:
    """The solo after each of some edits: notes taken out at a place, others put in."""
    steps, number = [solo], 0
    for where, gone, come in edits:
        line = steps[-1].notes
        first = int(where * len(line))
        onset = line[first].onset if first < len(line) else line[-1].onset + 1 if line else F(0)
        fresh = []
        for k in range(come):
            fresh.append(Note(f"x{number}", onset + F(k, 8), F(1, 8), Pitch("C", 0, 3)))
            number += 1
        steps.append(replace(steps[-1], notes=(*line[:first], *fresh, *line[first + gone :])))
    return steps


@given(EDITS)
@settings(max_examples=150)
def test_places_and_what_is_counted_are_those_of_the_line(edits: list[tuple[float, int, int]]) -> None:
    for solo in edits_of(LINE, edits):
        assert dict(places_of(solo.notes)) == {note.id: place for place, note in enumerate(solo.notes)}
        assert all((f"n{i}" in places_of(solo.notes)) == any(n.id == f"n{i}" for n in solo.notes) for i in range(40))
        assert len(places_of(solo.notes)) == len(solo.notes)
        assert bars_written(solo) == len({int(note.onset // 4) for note in solo.notes})
        middle = sorted(note.pitch.midi for note in solo.notes)[len(solo.notes) // 2] if solo.notes else 67
        assert staff_for(solo).clef_shape == ("F" if middle < 54 else "G")


def test_a_new_note_never_has_the_name_of_one_that_was_taken_out() -> None:
    shorter = replace(LINE, notes=LINE.notes[:-2])
    assert fresh_ids(LINE, 2) == ["n40", "n41"]
    assert fresh_ids(shorter, 1) == ["n40"]
    assert fresh_ids(Solo(""), 1) == ["n0"]
    decided = with_decision(LINE, "n3", Function.OUTSIDE, "outside")
    gone = replace(decided, notes=(), decisions=(replace(decided.decisions[0], note="n77"),))
    assert fresh_ids(gone, 1) == ["n78"]


def test_notes_are_exchanged_wherever_they_stood() -> None:
    moved = [replace(LINE.notes[i], onset=F(100 + i)) for i in (3, 0, 39)]
    solo = placed(LINE, *moved)
    assert [note.id for note in solo.notes[-3:]] == ["n0", "n3", "n39"]
    assert sorted(note.id for note in solo.notes) == sorted(note.id for note in LINE.notes)


def by_note(solo: Solo) -> NoteLabels:
    return NoteLabels(labelled(solo).labels)


def one_out(solo: Solo) -> Solo:
    return replace(solo, notes=solo.notes[:5] + solo.notes[6:])


def one_decided(solo: Solo) -> Solo:
    return with_decision(solo, solo.notes[7].id, Function.OUTSIDE, "outside")


@pytest.mark.parametrize("edit", [one_out, one_decided])
def test_labels_know_in_what_they_differ(edit: Callable[[Solo], Solo]) -> None:
    solo = next(solo for solo in map(random_solo, range(1, 50)) if len(solo.notes) > 20)
    before = labelled(solo)
    after = labelled(edit(solo), like=before)
    old, new = NoteLabels(before.labels), NoteLabels(after.labels, like=NoteLabels(before.labels))
    assert new == by_note(edit(solo))
    expected = {name for name in old.keys() | new.keys() if old.get(name) is not new.get(name)}
    assert new.others_than(old) == expected
    assert new.others_than(dict(old)) == expected
    assert expected


@given(st.lists(st.integers(0, 3), max_size=30), st.lists(st.integers(0, 3), max_size=30))
def test_what_differs_lies_between_what_is_the_same(old: list[int], new: list[int]) -> None:
    start, old_stop, new_stop = differing(old, new)
    assert old[:start] == new[:start]
    assert old[old_stop:] == new[new_stop:]
    if old_stop > start and new_stop > start:
        assert old[start] != new[start]
        assert old[old_stop - 1] != new[new_stop - 1]
