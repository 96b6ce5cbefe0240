"""The demo's players have the habits that are told of them, and what is worked out of their solos finds these."""

from __future__ import annotations

import pytest
from tests.conftest import whole

from gavotte.demo.more_solos import MORE_LICKS, MORE_SOLOS, TUNES, played
from gavotte.demo.phrasebook import Pair, Player, solo_of
from gavotte.demo.players import HABITS
from gavotte.demo.shorthand import ShorthandError
from gavotte.labelling.labeller import labelled
from gavotte.solo.bars import BarGrid
from gavotte.solo.checks import check
from gavotte.theory.meter import COMMON_TIME
from gavotte.vocabulary.cells import cells_of
from gavotte.vocabulary.corpus import Corpus, labelled_line
from gavotte.vocabulary.dictionary import Dictionary, dictionary_of

SOLOS = [make() for make in MORE_SOLOS]


def told_of(player: str) -> Dictionary:
    own = [labelled(solo) for solo in SOLOS if solo.player == player]
    return dictionary_of(Corpus([labelled_line(found) for found in own]))


def share(player: str, heading: str, words: str) -> float:
    chapter = next(chapter for chapter in told_of(player).chapters if chapter.heading == heading)
    return next((entry.share for entry in chapter.entries if entry.words == words), 0.0)


@pytest.mark.parametrize("solo", SOLOS, ids=lambda solo: solo.title)
def test_the_solos_can_be_played_and_are_whole(solo: object) -> None:
    assert check(solo) == ()  # type: ignore[arg-type]
    low, high = solo.instrument.lowest, solo.instrument.highest  # type: ignore[attr-defined]
    assert all(low <= note.pitch.midi <= high for note in solo.notes)  # type: ignore[attr-defined]
    leaps = [abs(b.pitch.midi - a.pitch.midi) for a, b in zip(solo.notes, solo.notes[1:], strict=False)]  # type: ignore[attr-defined]
    assert max(leaps) <= 12


def test_there_are_enough_of_them_in_several_keys_and_meters() -> None:
    assert sum(sum(bar.number > 0 for bar in BarGrid(solo).bars) for solo in SOLOS) == 400
    assert {solo.player for solo in SOLOS} == set(HABITS)
    assert len({str(solo.keys[0].key) for solo in SOLOS}) == 7
    assert {str(solo.meters[0].meter) for solo in SOLOS} == {"4/4", "3/4"}
    assert {kept.tune for kept in MORE_LICKS} == set(range(len(TUNES)))


def test_each_player_ends_phrases_as_told() -> None:
    ends = "Phrases end on"
    for player, degree in (("Odo Vantongeren", "the 9"), ("Ilka Rosenquill", "the 1"), ("Perpetua Lindqvarn", "the 5")):
        assert share(player, ends, degree) == max(share(other, ends, degree) for other in HABITS)


def test_ways_to_approach_are_found_again() -> None:
    ways = "Ways to approach"
    assert share("Odo Vantongeren", ways, "from both sides to a note") > 0.4
    assert share("Ilka Rosenquill", ways, "from a half step below") > 0.4
    assert share("Perpetua Lindqvarn", "Approached degrees", "the 5") > 0.7


def test_the_climb_on_dominants_is_among_the_cells() -> None:
    own = [solo for solo in SOLOS if solo.player == "Odo Vantongeren"]
    cells = whole(cells_of(own))
    found = [labelled(solo) for solo in own]
    climbs = [
        cell
        for cell in cells
        for place in cell.places[:1]
        if [label.degree for label in found[place.line].labels[place.first : place.first + 4]] == ["3", "5", "b7", "b9"]
    ]
    assert climbs


def test_a_phrase_that_does_not_fill_its_bars_is_refused() -> None:
    for text in ("1/4 3 5 ; 1/1", "1/4 3 5 x ; 1/1"):
        player = Player("Nobody", {"home": (text,)}, 55, 80)
        with pytest.raises(ShorthandError):
            solo_of(player, [Pair("home", "C6", "C6")], 1, COMMON_TIME.bar_length, 0)


def test_phrases_lie_as_they_are_written() -> None:
    player = Player("Somebody", {"home": ("1/4 3^ 5^ 1v ; 7v/2 1/2",)}, 55, 80)
    written = solo_of(player, [Pair("home", "C6", "C6")], 1, COMMON_TIME.bar_length, 0)
    pitches = [note.pitch.midi for note in written.notes]
    assert pitches[0] < pitches[1] < pitches[2] > pitches[3] > pitches[4] < pitches[5]
    assert played(TUNES[0]).notes == SOLOS[0].notes
