"""What two values do not share."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st
from tests.conftest import make_solo

from gavotte.solo.differences import changed_times, differing, not_shared
from gavotte.solo.edits import with_notes_moved

ITEMS = st.lists(st.sampled_from([object() for _ in range(8)]), max_size=8, unique=True)


@given(ITEMS, ITEMS)
def test_what_lies_outside_the_differing_part_is_shared(old: list[object], new: list[object]) -> None:
    start, old_stop, new_stop = differing(old, new)
    assert old[:start] == new[:start]
    assert old[old_stop:] == new[new_stop:]
    assert start <= old_stop
    assert start <= new_stop
    if start < min(old_stop, new_stop):
        assert old[start] is not new[start]
        assert old[old_stop - 1] is not new[new_stop - 1]


@given(ITEMS, ITEMS)
def test_not_shared_is_what_only_one_of_two_holds(old: list[object], new: list[object]) -> None:
    others = set(not_shared(old, new))
    assert others >= set(old) ^ set(new)
    assert not any(item in old and item in new for item in others)


def test_an_edit_changes_the_time_of_what_it_touches_alone() -> None:
    solo = make_solo([("Dm7", "D5/4 E5 F5 G5"), ("G7", "B4/4 D5 F5 Ab5")])
    moved = with_notes_moved(solo, [solo.notes[5].id], 1)
    assert set(changed_times(solo, moved)) == {(Fraction(5), Fraction(6))}
    recoloured = replace(solo, chords=(solo.chords[0], replace(solo.chords[1], text="G7b9")))
    assert set(changed_times(solo, recoloured)) == {(Fraction(4), Fraction(4))}
    assert changed_times(solo, solo) == []
