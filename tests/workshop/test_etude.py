from __future__ import annotations

from dataclasses import replace
from fractions import Fraction
from itertools import pairwise

import pytest
from tests.conftest import make_solo

from gavotte.solo.document import Solo
from gavotte.theory.key import Key
from gavotte.workshop.etude import EMPTY, SOURCE, Stock, Wishes, etude, stocked
from gavotte.workshop.operations.etudes import compass, read_held, written_held
from gavotte.workshop.progressions import from_text

BARS = {
    "two-five": ([("Cm7b5 F7b9", "C5/8 Eb5 Gb5 Bb5 A5 Gb5 F5 Eb5"), ("Bbm6", "Db5/4 r/2.")], "Bb minor"),
    "minor": ([("Dm7", "D5/8 F5 A5 C6 A5 F5 D5/4")], "C major"),
    "dominant": ([("G7", "B4/8 D5 F5 A5 G5 F5 D5/4")], "C major"),
    "home": ([("Cmaj7", "E5/8 D5 C5 B4 C5/2")], "C major"),
}
STOCK = tuple(
    one
    for name, (bars, key) in BARS.items()
    if (one := stocked(name, name, f"{name}, bar 1", make_solo(bars, key=key)))
)


def line(text: str) -> Solo:
    return from_text(text, Key.parse("C major"), make_solo([("C", "C5/1")], key="C major"))


def laid(text: str, **wishes: object) -> list[tuple[float, str]]:
    made = etude(line(text), STOCK, Wishes(**wishes))  # type: ignore[arg-type]
    return [(float(bit.onset), bit.id) for bit in made.bits]


def test_every_lick_goes_where_its_chords_are() -> None:
    assert laid("| Am7 | D7 | Gmaj7 |") == [(0, "minor"), (4, "dominant"), (8, "home")]
    assert laid("| Am7b5 D7b9 | Gm6 |") == [(0, "two-five")]


def test_notes_are_moved_to_the_chords_and_tell_where_they_come_from() -> None:
    made = etude(line("| Am7 | D7 | Gmaj7 |"), STOCK, Wishes())
    assert [label.degree for label in made.labelled.labels][:4] == ["1", "b3", "5", "b7"]
    assert [text.words for text in made.solo.texts] == ["minor", "dominant", "home"]
    assert made.solo.notes[0].id.startswith("0:")


def test_no_lick_comes_twice_unless_it_is_wished() -> None:
    text = "| Am7 | Dm7 | Gm7 | Cm7 |"
    assert len(laid(text)) == 1
    assert len(laid(text, repeats=True)) == 4


def test_joins_are_within_a_fifth_where_an_octave_allows_it() -> None:
    made = etude(line("| Am7 | D7 | Gmaj7 | Gm7 | C7 | Fmaj7 |"), STOCK, Wishes(repeats=True))
    starts = {bit.onset for bit in made.bits}
    joins = [(a, b) for a, b in pairwise(made.solo.notes) if b.onset in starts]
    assert joins
    assert all(abs(b.pitch.midi - a.pitch.midi) <= 7 for a, b in joins)


def test_what_is_held_stands_there_whatever_it_costs() -> None:
    text = "| Am7 | D7 | Gmaj7 |"
    assert laid(text, held={Fraction(4): EMPTY}) == [(0, "minor"), (8, "home")]
    own = stocked(SOURCE, "own", "the bench", make_solo([("D7", "F#5/4 A5 C6 F#5")], key="G major"))
    made = etude(line(text), STOCK, Wishes(held={Fraction(4): SOURCE}), own)
    assert [bit.id for bit in made.bits] == ["minor", SOURCE, "home"]


def test_others_that_could_stand_there_are_named() -> None:
    more = Stock("other", "other", "x", STOCK[1].changes, STOCK[1].notes)
    made = etude(line("| Am7 | D7 |"), (*STOCK, more), Wishes())
    assert {made.bits[0].id, *made.bits[0].others} == {"minor", "other"}


def test_the_same_seed_gives_the_same_etude() -> None:
    more = [Stock(f"m{k}", "m", "x", STOCK[1].changes, STOCK[1].notes) for k in range(9)]
    stock = (*STOCK, *more)
    text = line("| Am7 | Dm7 | Gm7 | Cm7 |")

    def ids(seed: int) -> list[str]:
        return [bit.id for bit in etude(text, stock, Wishes(seed=seed)).bits]

    assert ids(5) == ids(5)
    assert len({tuple(ids(seed)) for seed in range(6)}) > 1


def test_where_nothing_fits_it_says_so() -> None:
    with pytest.raises(ValueError, match="No lick of the vocabulary fits"):
        etude(line("| Bm7b5 |"), STOCK, Wishes())


def test_licks_as_dense_as_wished_are_taken() -> None:
    slow = stocked("slow", "slow", "x", make_solo([("Dm7", "D5/4 F5 A5 F5")], key="C major"))
    assert slow is not None
    stock = (*STOCK, slow)
    text = line("| Am7 |")
    found = {density: etude(text, stock, Wishes(density=density)).bits[0].id for density in (1, 2)}
    assert found == {1: "slow", 2: "minor"}
    assert slow.density == 1


@pytest.mark.parametrize("which", ["low", "middle", "high"])
def test_an_etude_stays_in_the_part_of_the_range_it_is_given(which: str) -> None:
    text = line("| Am7 | D7 | Gmaj7 |")
    within = compass(text.instrument, which)
    assert within is not None
    low, high = within
    made = etude(text, STOCK, Wishes(compass=within))
    assert len(made.bits) == 3
    assert all(low <= note.pitch.midi <= high for note in made.solo.notes)


def test_an_instrument_of_two_octaves_has_no_parts() -> None:
    instrument = replace(line("| C |").instrument, lowest=60, highest=80)
    assert compass(instrument, "high") is None


def test_what_is_held_is_read_back_and_nonsense_passed_over() -> None:
    held = {Fraction(0): "a", Fraction(9, 2): EMPTY}
    assert read_held(written_held(held)) == held
    assert read_held("x=1 3=b 1/0=c") == {Fraction(3): "b"}
