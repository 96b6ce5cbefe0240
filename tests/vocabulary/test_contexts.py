"""Harmonic contexts, recognised from chords and keys."""

from __future__ import annotations

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.conftest import make_solo
from tests.random_solos import random_solo

from gavotte.harmony.ground import ground_of
from gavotte.vocabulary.contexts import BLUES_BARS, CONTEXTS, context_spans, contexts_between
from gavotte.vocabulary.lick import contexts_of


def names(bars: list[tuple[str, str]], **settings: object) -> set[str]:
    return {span.name for span in context_spans(ground_of(make_solo(bars, **settings)))}  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("chords", "name"),
    [
        (["Dm7", "G7", "Cmaj7"], "long ii-V-I"),
        (["Dm7 G7", "Cmaj7"], "short ii-V-I"),
        (["Dm7b5", "G7", "Cm6"], "long minor ii-V-i"),
        (["Dm7b5 G7", "Cm6"], "short minor ii-V-i"),
        (["Dm7", "G7", "Em7"], "long ii-V"),
        (["Dm7b5 G7", "Em7"], "short minor ii-V"),
        (["G7", "Cmaj7"], "V-I"),
        (["G7", "Cm6"], "V-i"),
        (["Cmaj7 A7", "Dm7 G7"], "turnaround"),
        (["C7", "F7"], "I to IV"),
        (["F7", "F#dim7", "C7"], "IV to ♯iv° to I"),
        (["E7", "A7", "D7"], "dominant cycle"),
        (["Fm7", "Bb7", "Cmaj7"], "back door"),
        (["Dm7", "Db7", "Cmaj7"], "tritone substitute"),
        (["Cm Cm(maj7)", "Cm7 Cm6"], "line cliché"),
        (["Dm7", "Dm7"], "static minor"),
        (["G7", "G7"], "static dominant"),
        (["Cmaj7", "Cmaj7"], "static major"),
    ],
)
def test_each_context_is_recognised(chords: list[str], name: str) -> None:
    assert name in names([(symbols, "C5/1") for symbols in chords])


def test_the_bars_of_a_blues_have_names_of_their_own() -> None:
    roots = ["C7", "F7", "C7", "C7", "F7", "F7", "C7", "A7", "Dm7", "G7", "C7", "G7"]
    spans = context_spans(ground_of(make_solo([(symbol, "C5/1") for symbol in roots], blues=True)))
    blues = {span.name: (int(span.onset / 4), int(span.end / 4)) for span in spans if span.name in BLUES_BARS}
    assert blues == BLUES_BARS


def test_of_a_two_five_one_no_part_is_told_beside_it() -> None:
    assert not names([("Dm7", "C5/1"), ("G7", "C5/1"), ("Cmaj7", "C5/1")]) & {"long ii-V", "V-I"}


def test_a_line_has_the_contexts_it_goes_through() -> None:
    solo = make_solo([("Dm7", "D5/1"), ("G7", "B4/1"), ("Cmaj7", "C5/1"), ("Cmaj7", "C5/1")])
    spans = context_spans(ground_of(solo))
    assert contexts_between(spans, Fraction(0), Fraction(9))[0] == "long ii-V-I"
    assert contexts_between(spans, Fraction(0), Fraction(3)) == ()
    assert contexts_between(spans, Fraction(9), Fraction(14)) == ("static major",)
    assert contexts_of(make_solo([])) == ()


@given(st.integers(0, 300))
def test_spans_lie_within_the_changes_and_have_known_names(seed: int) -> None:
    ground = ground_of(random_solo(seed))
    for span in context_spans(ground):
        assert span.name in CONTEXTS
        assert ground.changes[0].onset <= span.onset < span.end or span.name in BLUES_BARS
