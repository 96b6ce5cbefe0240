"""Names in texts: what stands in braces is named for whoever reads."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from gavotte.sheets.names import braced, higher, named_for
from gavotte.theory.interval import Interval

SECOND, SIXTH, FIFTH = Interval(1, 2), Interval(5, 9), Interval(4, 7)


def test_what_stands_in_braces_is_named_higher_and_nothing_else() -> None:
    text = "Over {Dm7} {G7♭9} the line (A to F) leads to {C}."
    assert named_for(text) == "Over Dm7 G7♭9 the line (A to F) leads to C."
    assert named_for(text, SECOND) == "Over Em7 A7♭9 the line (A to F) leads to D."
    assert named_for(text, SIXTH) == "Over Bm7 E7♭9 the line (A to F) leads to A."


def test_names_keep_what_stands_behind_the_root() -> None:
    assert higher("B♭Δ7", SECOND) == "CΔ7"
    assert higher("D7/F♯", SECOND) == "E7/G♯"
    assert higher("Bb7", FIFTH) == "F7"
    assert higher("E♭ major", SIXTH) == "C major"
    assert higher("F♯°7", SECOND) == "G♯°7"
    assert higher("C6/9", SECOND) == "D6/9"


def test_no_name_has_two_signs_in_a_text() -> None:
    assert higher("B♯", SECOND) == "D"
    assert higher("A♯", SIXTH) == "G"
    assert higher("F♯♯", SECOND) == "A"


def test_what_is_no_name_stays() -> None:
    assert named_for("{two bars}, {3}", SECOND) == "two bars, 3"
    assert named_for("{ } and {", SECOND) == "  and {"


def test_what_differs_elsewhere_is_put_in_braces() -> None:
    here, there = "B and G♯ close in on A, the root of Am7.", "C♯ and A♯ close in on B, the root of Bm7."
    assert braced(here, there) == "{B} and {G♯} close in on {A}, the root of {Am7}."
    assert braced("Bar 4 · C7 (V)", "Bar 4 · D7 (V)") == "Bar 4 · {C7} (V)"


def test_texts_that_are_built_otherwise_are_left_alone() -> None:
    assert braced("A rises to C.", "It rises a third to D.") == "A rises to C."


@given(st.lists(st.sampled_from(["A", "phrase", "(C7)", "G♭,", "lands", "“D”", "B♭m7."]), min_size=1))
def test_a_text_in_braces_reads_as_before(words: list[str]) -> None:
    text = " ".join(words)
    assert named_for(braced(text, " ".join(["x", *words][: len(words)]))) == text
