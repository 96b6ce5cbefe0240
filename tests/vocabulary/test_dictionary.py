"""What a player does how often, with bounds; a lick that follows its solo."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.conftest import make_solo

from gavotte.labelling.labeller import label_solo, labelled
from gavotte.theory.pitch import Pitch
from gavotte.vocabulary.corpus import Corpus, labelled_line
from gavotte.vocabulary.dictionary import Dictionary, Entry, dictionary_of, differs, side_by_side
from gavotte.vocabulary.following import Link, followed, link_to
from gavotte.vocabulary.lick import Lick, keep_lick
from gavotte.vocabulary.query import read_query

ENDS_ON_NINE = [("Cmaj7", "C5/8 E5 G5 B5 D5/2")] * 6


def told_of(bars: list[tuple[str, str]]) -> Dictionary:
    return dictionary_of(Corpus([labelled_line(labelled(make_solo(bars)))]))


def chapter(dictionary: Dictionary, heading: str) -> dict[str, Entry]:
    return {entry.words: entry for c in dictionary.chapters if c.heading == heading for entry in c.entries}


def test_a_habit_shows_with_its_number() -> None:
    told = told_of(ENDS_ON_NINE)
    assert (told.solos, told.notes) == (1, 30)
    assert chapter(told, "What the notes do")["chord tones"].count == 24
    assert chapter(told, "Colours")["the 9 on a major chord"].count == 6
    assert chapter(told, "Plays over")["static major"].share == 1.0
    for each in told.chapters:
        for entry in each.entries:
            assert 0 < entry.count <= entry.total
            assert read_query(entry.query)


def test_bounds_are_those_of_wilson() -> None:
    low, high = Entry("", 8, 10, "").bounds
    assert (round(low, 3), round(high, 3)) == (0.490, 0.943)
    assert Entry("", 0, 0, "").bounds == (0.0, 1.0)


@given(st.integers(0, 60), st.integers(1, 60))
def test_bounds_hold_the_share_and_grow_narrower_with_more(count: int, total: int) -> None:
    count = min(count, total)
    few, many = Entry("", count, total, ""), Entry("", 10 * count, 10 * total, "")
    assert 0.0 <= few.bounds[0] <= few.share <= few.bounds[1] <= 1.0
    assert many.bounds[1] - many.bounds[0] < few.bounds[1] - few.bounds[0]


def test_two_players_side_by_side_are_told_under_the_same_words() -> None:
    mine, other = told_of(ENDS_ON_NINE), told_of([("Cmaj7", "C5/8 E5 G5 B5 C6/2")] * 6)
    pairs = {
        pair.mine.words: pair for heading, row in side_by_side(mine, other) for pair in row if "Phrases end" in heading
    }
    assert pairs
    functions = {p.mine.words: p for h, row in side_by_side(mine, other) for p in row if h == "What the notes do"}
    assert functions["colours"].other is not None
    assert functions["colours"].other.count == 0
    assert all(pair.other is None for _, row in side_by_side(mine) for pair in row)
    assert differs(Entry("", 50, 60, ""), Entry("", 5, 60, ""))
    assert not differs(Entry("", 1, 2, ""), Entry("", 0, 2, ""))


# -- a lick and its solo --------------------------------------------------------------------------------

SOLO = make_solo([("Dm7", "D5/8 F5 A5 C6 A5 F5 D5 C5"), ("G7", "B4/8 D5 F5 Ab5 G5 F5 F#5 Eb5"), ("Cmaj7", "E5/2 r/2")])


def lick() -> Lick:
    return keep_lick(SOLO, "id", label_solo(SOLO), "n8", "n15")


def test_a_lick_that_leads_on_says_where() -> None:
    goal = lick().leads_to
    assert goal is not None
    assert (goal.pitch, goal.words) == ("E", "the 3 of CΔ7")
    whole = keep_lick(SOLO, "id", label_solo(SOLO), "n8", "n16")
    assert whole.leads_to is None
    assert whole.landing == "ends on the 3rd of CΔ7"
    assert keep_lick(SOLO, "id", label_solo(SOLO), "n0", "n3").landing.startswith("ends on the ♭7 of Dm7")


def test_a_cell_over_one_chord_goes_into_a_tone_of_it() -> None:
    still = make_solo([("G7", "C5/8 A4 B4/4 r/2")])
    assert keep_lick(still, "id", label_solo(still), "n0", "n2").goal == "into the 3rd of a dominant"


def test_what_is_corrected_in_the_solo_is_seen_and_taken_over() -> None:
    kept = replace(lick(), tags=("mine",), rating=4, status="mine", words="slowly")
    assert link_to(kept, SOLO) is Link.SAME
    notes = tuple(replace(n, pitch=Pitch.parse("A5")) if n.id == "n11" else n for n in SOLO.notes)
    corrected = replace(SOLO, notes=notes)
    assert link_to(kept, corrected) is Link.CHANGED
    now = followed(kept, corrected, label_solo(corrected))
    assert str(now.solo.note("n11").pitch) == "A5"
    assert (now.tags, now.rating, now.status, now.words) == (("mine",), 4, "mine", "slowly")
    assert link_to(now, corrected) is Link.SAME
    assert followed(kept.renamed("Mine"), corrected, label_solo(corrected)).name == "Mine"
    assert link_to(kept, replace(SOLO, notes=tuple(n for n in SOLO.notes if n.id != "n8"))) is Link.GONE


@pytest.mark.parametrize("said", [{"status": "old"}, {"rating": 7}, {"span": (3.0, 1.0)}])
def test_a_document_with_what_cannot_be_said_of_a_lick_is_refused(said: dict[str, object]) -> None:
    from gavotte.formats.errors import FormatError
    from gavotte.vocabulary.lick import LICK_DOCUMENT

    with pytest.raises(FormatError, match="damaged"):
        LICK_DOCUMENT.read(LICK_DOCUMENT.write(replace(lick(), **said)))  # type: ignore[arg-type]
