from __future__ import annotations

from fractions import Fraction
from itertools import pairwise

import pytest
from tests.conftest import make_solo

from gavotte.solo.document import Solo
from gavotte.theory.key import Key
from gavotte.workshop.over import Begin, Lead, Manner, laid_over
from gavotte.workshop.piece import Piece, piece_of
from gavotte.workshop.progressions import all_progressions, from_text, laid_out
from gavotte.writing.chord_line import MOST_BARS

TWO_FIVE = [("Cm7 F7", "C5/8 Eb5 G5 Bb5 A5 Gb5 Eb5 C#5"), ("Bbmaj7", "D5/2 r/2")]
DOMINANT = [("C7", "E5/8 F5 F#5 G5 A5 Bb5 C6 Bb5")]


def two_five() -> Piece:
    return piece_of(make_solo(TWO_FIVE, key="Bb major"))


def dominant() -> Piece:
    return piece_of(make_solo(DOMINANT, key="F major"))


def line(text: str, key: str = "C major", like: Solo | None = None) -> Solo:
    return from_text(text, Key.parse(key), like or make_solo(DOMINANT, key="F major"))


def onsets(made: Piece) -> list[float]:
    return [float(note.onset) for note in made.solo.notes]


def test_a_short_two_five_becomes_a_long_one_in_twice_the_values() -> None:
    made = laid_over(two_five(), line("| Dm7 | G7 | Cmaj7 | % |"), Manner())
    assert onsets(made) == [0, 1, 2, 3, 4, 5, 6, 7, 8]
    assert str(made.solo.notes[0].pitch) == "D5"
    assert not made.told
    kept = laid_over(two_five(), line("| Dm7 | G7 | Cmaj7 | % |"), Manner(other_values=False))
    assert not kept.solo.notes
    assert "nothing moves as Cm7 F7 B♭Δ7" in kept.told[0]


def test_it_goes_on_each_run_of_chords_that_moves_alike_and_the_rest_is_told() -> None:
    made = laid_over(two_five(), line("| Dm7 G7 | Cmaj7 | Am7 | Gm7 C7 | Fmaj7 |"), Manner())
    assert onsets(made)[:9] == [0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5, 4]
    assert onsets(made)[9] == 12
    assert made.told == ("Left to you, nothing moves as Cm7 F7 B♭Δ7 there: Am7 in bar 3.",)


def test_a_landing_can_be_the_beginning_of_the_next_placing() -> None:
    pair = piece_of(make_solo([("C7", "E5/8 G5 Bb5 Db6 C6 Bb5 G5 E5"), ("F7", "A5/4 r/2.")], key="F major"))
    made = laid_over(pair, line("| C7 | F7 | Bb7 | Eb7 |"), Manner())
    # Eight notes on each of three chords, and the landing on the last.
    assert len(made.solo.notes) == 3 * 8 + 1
    assert made.solo.notes[-1].onset == 12


def test_ids_tell_the_placing_and_the_note_it_was_made_of() -> None:
    made = laid_over(two_five(), line("| Dm7 G7 | Cmaj7 | Gm7 C7 | Fmaj7 |"), Manner())
    assert made.solo.notes[9].id == "1:n0"
    assert made.origins["1:n0"] == "n0"


@pytest.mark.parametrize("lead", list(Lead))
def test_connected_placings_begin_within_a_fifth_of_where_the_one_before_ended(lead: Lead) -> None:
    form = all_progressions()["Dominants round the circle of fifths"]
    made = laid_over(dominant(), laid_out(form, Key.parse("C major"), dominant().solo), Manner(lead=lead))
    starts = [k for k in range(1, len(made.solo.notes)) if made.solo.notes[k].id.endswith(":n0")]
    gaps = [abs(made.solo.notes[k].pitch.midi - made.solo.notes[k - 1].pitch.midi) for k in starts]
    assert len(starts) == 11
    if lead is Lead.CONNECTED:
        high = made.solo.instrument.highest
        # What lies further off would have left the instrument an octave nearer.
        for k, gap in zip(starts, gaps, strict=True):
            placing = [note.pitch.midi for note in made.solo.notes[k : k + 8]]
            assert gap <= 7 or max(placing) + 12 > high
    else:
        middles = [sum(n.pitch.midi for n in made.solo.notes[k : k + 8]) / 8 for k in range(0, 96, 8)]
        assert max(middles) - min(middles) < 12


@pytest.mark.parametrize(
    ("begin", "degree"), [(Begin.ROOT, "1"), (Begin.THIRD, "3"), (Begin.FIFTH, "5"), (Begin.SEVENTH, "b7")]
)
def test_each_placing_begins_on_the_chord_tone_that_was_chosen(begin: Begin, degree: str) -> None:
    made = laid_over(dominant(), line("| C7 | F7 | G7 |"), Manner(begin=begin))
    first = {label.note: label.degree for label in made.labelled.labels if label.note.endswith(":n0")}
    assert set(first.values()) == {degree}


def test_in_turn_it_begins_on_one_chord_tone_after_the_other() -> None:
    made = laid_over(dominant(), line("| C7 | F7 | G7 | D7 |"), Manner(begin=Begin.IN_TURN))
    first = [label.degree for label in made.labelled.labels if label.note.endswith(":n0")]
    assert first == ["3", "5", "b7", "1"]


def test_it_is_halved_where_a_chord_is_half_as_long() -> None:
    made = laid_over(dominant(), line("| C7 F7 |"), Manner())
    assert {note.duration for note in made.solo.notes} == {Fraction(1, 4)}


def test_it_comes_again_while_a_chord_lasts() -> None:
    once = laid_over(dominant(), line("| C7 | % | % | % |"), Manner())
    again = laid_over(dominant(), line("| C7 | % | % | % |"), Manner(again=True))
    assert len(once.solo.notes) == 8
    assert onsets(again)[::8] == [0, 4, 8, 12]


def test_chord_by_chord_each_part_goes_over_a_chord_of_its_kind() -> None:
    made = laid_over(two_five(), line("| C7 | Fm7 | Ebmaj7 |"), Manner(parts=True))
    degrees = [label.degree for label in made.labelled.labels]
    assert degrees[:4] == ["3", "b9", "b7", "b13"]
    assert degrees[4:8] == ["1", "b3", "5", "b7"]


def test_the_last_bar_closes_on_a_held_chord_tone() -> None:
    made = laid_over(dominant(), line("| C7 | F7 | Bbmaj7 |"), Manner(close=True))
    last = made.solo.notes[-1]
    assert (last.onset, last.duration) == (8, 4)
    assert made.labelled.labels[-1].degree in ("1", "3", "5")


def test_a_line_without_a_chord_says_so() -> None:
    bare = piece_of(make_solo([("", "C5/4 D5 E5 F5")], key="C major"))
    with pytest.raises(ValueError, match="no chord"):
        laid_over(bare, line("| C7 |"), Manner())


def test_a_pickup_leads_into_the_first_chord_wherever_it_goes() -> None:
    solo = make_solo([("", "r/8 G4"), ("Cm7", "C5/8 Eb5 G5 Bb5 C6/2")], key="C minor", pickup=Fraction(1))
    made = laid_over(piece_of(solo), line("| Dm7 | Em7 |", like=solo), Manner())
    assert made.solo.pickup == Fraction(1, 2)
    assert onsets(made)[:2] == [-0.5, 0]


@pytest.mark.parametrize("name", list(all_progressions()))
@pytest.mark.parametrize("tonic", ["C", "F#", "Eb", "A"])
def test_every_progression_can_be_read_in_every_key_and_keeps_its_moves(name: str, tonic: str) -> None:
    form = all_progressions()[name]
    mode = "minor" if form.minor else "major"
    there = laid_out(form, Key.parse(f"{tonic} {mode}"), dominant().solo)
    home = laid_out(form, Key.parse(f"C {mode}"), dominant().solo)

    def moves(solo: Solo) -> list[int]:
        roots = [event.symbol.root.pitch_class for event in solo.chords]  # type: ignore[union-attr]
        return [(b - a) % 12 for a, b in pairwise(roots)]

    assert moves(there) == moves(home)
    assert [event.onset for event in there.chords] == [event.onset for event in home.chords]
    assert 4 <= there.form_end <= 4 * MOST_BARS


def test_chords_that_cannot_be_read_are_told_with_their_place() -> None:
    with pytest.raises(ValueError, match="Hm7"):
        line("| Dm7 | Hm7 |")
