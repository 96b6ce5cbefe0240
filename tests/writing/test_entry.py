"""Step entry: what the writer's keys do to the line."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.conftest import make_solo

from gavotte.formats.document import SOLO_DOCUMENT
from gavotte.notation.written import Notation
from gavotte.solo.document import Function, Solo, Tuplet
from gavotte.solo.edits import with_decision
from gavotte.theory.pitch import Pitch, spell
from gavotte.writing.entry import (
    VALUES,
    Entry,
    Tap,
    Way,
    next_stop,
    previous_stop,
    reach,
    take_back,
    write_name,
    write_rest,
    write_sound,
    write_taps,
    write_tie,
    write_value,
)

EMPTY = make_solo([("Cmaj7", "r/1"), ("Dm7", "r/1")])


def shown(solo: Solo) -> list[str]:
    return [f"{note.pitch}@{note.onset}+{note.duration}" for note in solo.notes]


def typed(solo: Solo, keys: str, entry: Entry | None = None) -> tuple[Solo, Entry]:
    entry = entry or Entry()
    for key in keys:
        step = write_rest(solo, entry) if key == "R" else write_name(solo, entry, key)
        solo, entry = step.solo, step.entry
    return solo, entry


def test_letters_write_notes_in_the_nearest_octave_one_after_the_other() -> None:
    solo, entry = typed(EMPTY, "GCBAG")
    assert shown(solo) == ["G4@0+1/2", "C5@1/2+1/2", "B4@1+1/2", "A4@3/2+1/2", "G4@2+1/2"]
    assert entry.caret == Fraction(5, 2)


def test_a_letter_means_what_signature_and_bar_say() -> None:
    solo = make_solo([("F7", "B4/4 Bb4 r/2"), ("F7", "r/1")], key="F major")
    assert str(write_name(solo, Entry(Fraction(2)), "B").solo.notes[-1].pitch) == "Bb4"
    natural = make_solo([("F7", "B4/4 r/2."), ("F7", "r/1")], key="F major")
    assert str(write_name(natural, Entry(Fraction(2)), "B").solo.notes[-1].pitch) == "B4"
    # The next bar begins anew.
    assert str(write_name(natural, Entry(Fraction(4)), "B").solo.notes[-1].pitch) == "Bb4"


def test_what_is_written_over_gives_way_and_what_reaches_in_is_cut() -> None:
    solo = make_solo([("Cmaj7", "C5/2 D5/4 E5/4")])
    over, _ = typed(solo, "G", Entry(Fraction(1), value=Fraction(2)))
    assert shown(over) == ["C5@0+1", "G4@1+2", "E5@3+1"]


def test_inserting_moves_what_follows_up_to_the_next_rest() -> None:
    solo = make_solo([("Cmaj7", "C5/4 D5 r/4 E5/4"), ("Dm7", "F5/4 r/2.")])
    inserted, entry = typed(solo, "G", Entry(Fraction(0), value=Fraction(1), insert=True))
    assert shown(inserted) == ["G4@0+1", "C5@1+1", "D5@2+1", "E5@3+1", "F5@4+1"]
    assert entry.caret == 1
    # A rest of the same length is taken up, chords stay.
    assert inserted.chords == solo.chords


def test_a_note_longer_than_its_bar_is_tied_over_the_barline() -> None:
    solo, _ = typed(EMPTY, "C", Entry(Fraction(3), value=Fraction(2)))
    notation = Notation(solo)
    parts = [event for index in (0, 1) for event in notation.bar(index).events if event.note is not None]
    assert [(part.length, part.tied_on) for part in parts] == [(Fraction(1), True), (Fraction(1), False)]


def test_a_tie_holds_the_note_before_and_nothing_where_there_is_none() -> None:
    solo, entry = typed(EMPTY, "C")
    held = write_tie(solo, replace(entry, value=Fraction(1)))
    assert shown(held.solo) == ["C5@0+3/2"]
    assert write_tie(EMPTY, Entry()).solo == EMPTY
    apart = write_tie(solo, replace(entry, caret=Fraction(2)))
    assert apart.solo == solo


@pytest.mark.parametrize(
    ("entry", "length"),
    [
        (Entry(value=Fraction(1)), Fraction(1)),
        (Entry(value=Fraction(1), dots=1), Fraction(3, 2)),
        (Entry(value=Fraction(1), dots=2), Fraction(7, 4)),
        (Entry(value=Fraction(1, 2), tuplet=Tuplet(3, 2)), Fraction(1, 3)),
        (Entry(value=Fraction(1, 4), tuplet=Tuplet(5, 4)), Fraction(1, 5)),
    ],
)
def test_dots_and_tuplets_change_the_length(entry: Entry, length: Fraction) -> None:
    assert entry.length == length


def test_dots_go_round_and_a_tuplet_is_taken_back() -> None:
    assert [Entry(dots=k).with_next_dots().dots for k in (0, 1, 2)] == [1, 2, 0]
    triplet = Entry().with_tuplet(Tuplet(3, 2))
    assert triplet.tuplet == Tuplet(3, 2)
    assert triplet.with_tuplet(Tuplet(3, 2)).tuplet is None
    assert triplet.with_tuplet(Tuplet(5, 4)).tuplet == Tuplet(5, 4)


def test_triplets_are_written_as_triplets() -> None:
    solo, _ = typed(EMPTY, "CDE", Entry().with_tuplet(Tuplet(3, 2)))
    bar = Notation(solo).bar(0)
    assert [(span.actual, span.normal) for span in bar.tuplets] == [(3, 2)]


def test_rhythm_first_then_pitches_are_poured_in() -> None:
    solo, entry = EMPTY, Entry(way=Way.RHYTHM)
    for value in (Fraction(1), Fraction(1, 2), Fraction(1, 2)):
        done = write_value(solo, entry, value)
        solo, entry = done.solo, done.entry
    assert [(note.onset, note.duration, note.uncertain) for note in solo.notes] == [
        (0, 1, True), (1, Fraction(1, 2), True), (Fraction(3, 2), Fraction(1, 2), True),
    ]  # fmt: skip
    poured, entry = typed(solo, "EGC", Entry(way=Way.PITCHES))
    assert shown(poured) == ["E4@0+1", "G4@1+1/2", "C5@3/2+1/2"]
    assert not any(note.uncertain for note in poured.notes)
    assert [note.id for note in poured.notes] == [note.id for note in solo.notes]


def test_pitches_first_then_the_rhythm_is_laid_over_them() -> None:
    solo, _ = typed(EMPTY, "CDEF")
    entry = Entry(way=Way.RHYTHM)
    for value in (Fraction(1), Fraction(1, 4), Fraction(1, 4), Fraction(1)):
        done = write_value(solo, entry, value)
        solo, entry = done.solo, done.entry
    assert shown(solo) == ["C5@0+1", "D5@1+1/4", "E5@5/4+1/4", "F5@3/2+1"]


def test_a_keyboard_spells_by_chord_and_by_where_the_line_goes() -> None:
    solo = make_solo([("Ab7", "r/1")], key="Eb major")
    assert str(write_sound(solo, Entry(), 66).solo.notes[0].pitch) == "Gb4"
    rising = make_solo([("Cmaj7", "r/1")])
    entry = Entry()
    for midi in (60, 61, 62):
        done = write_sound(rising, entry, midi)
        rising, entry = done.solo, done.entry
    assert [str(note.pitch) for note in rising.notes] == ["C4", "C#4", "D4"]


def test_taking_back_removes_what_stands_before_the_caret() -> None:
    solo, entry = typed(EMPTY, "CD")
    back = take_back(solo, entry)
    assert shown(back.solo) == ["C5@0+1/2"]
    assert back.entry.caret == Fraction(1, 2)
    again = take_back(back.solo, back.entry)
    assert again.solo.notes == ()
    nothing = take_back(again.solo, again.entry)
    assert (nothing.solo, nothing.entry) == (again.solo, again.entry)


def test_decisions_about_notes_that_go_are_forgotten_with_them() -> None:
    solo, entry = typed(EMPTY, "CD")
    decided = with_decision(solo, solo.notes[1].id, Function.PASSING, "passing")
    assert take_back(decided, entry).solo.decisions == ()
    # The name is not given to another note while the decision is known.
    assert write_name(decided, entry, "E").note not in {note.id for note in solo.notes}


def test_the_caret_halts_at_notes_rests_and_barlines() -> None:
    solo = make_solo([("Cmaj7", "C5/4 r/4 D5/2"), ("Dm7", "r/1")])
    entry = Entry(value=Fraction(4))
    places = [Fraction(0)]
    for _ in range(4):
        places.append(next_stop(solo, replace(entry, caret=places[-1])))
    assert places == [0, 1, 2, 4, 8]
    assert next_stop(solo, Entry(Fraction(4), value=Fraction(1))) == 5
    assert previous_stop(solo, replace(entry, caret=Fraction(4))) == 2
    assert previous_stop(solo, Entry(Fraction(0))) == 0


def test_a_pickup_can_be_written_into() -> None:
    solo = make_solo([("C7", "r/4"), ("Cmaj7", "r/1")], pickup=Fraction(1))
    written, entry = typed(solo, "CD", Entry(Fraction(-1)))
    assert shown(written) == ["C5@-1+1/2", "D5@-1/2+1/2"]
    assert previous_stop(written, Entry(Fraction(-1))) == -1
    assert entry.caret == 0


KEYS = st.lists(st.sampled_from([*"ABCDEFG", "R", "tie", "back", "insert", "triplet", "dot", *range(6)]), max_size=40)


@given(KEYS)
def test_whatever_is_typed_one_note_sounds_at_a_time_and_every_bar_is_full(keys: list[str | int]) -> None:
    solo, entry = EMPTY, Entry()
    notation = Notation(solo)
    for key in keys:
        fresh, notation = Notation(solo), Notation(solo, notation)
        # What is known from the value before is what would be worked out anew.
        assert [notation.bar(index) for index in range(len(fresh))] == [fresh.bar(index) for index in range(len(fresh))]
        match key:
            case "R":
                done = write_rest(solo, entry)
                solo, entry = done.solo, done.entry
            case "tie":
                done = write_tie(solo, entry)
                solo, entry = done.solo, done.entry
            case "back":
                done = take_back(solo, entry)
                solo, entry = done.solo, done.entry
            case "insert":
                entry = replace(entry, insert=not entry.insert)
            case "triplet":
                entry = entry.with_tuplet(Tuplet(3, 2))
            case "dot":
                entry = entry.with_next_dots()
            case int():
                entry = replace(entry, value=VALUES[key])
            case _:
                done = write_name(solo, entry, str(key))
                solo, entry = done.solo, done.entry
    for note, following in zip(solo.notes, solo.notes[1:], strict=False):
        assert note.end <= following.onset
    assert len({note.id for note in solo.notes}) == len(solo.notes)
    notation = Notation(solo)
    for index in range(len(notation)):
        bar = notation.bar(index)
        assert sum(event.length for event in bar.events) == bar.bar.length


def test_taps_become_a_rhythm_whose_pitches_are_open() -> None:
    taps = [Tap(Fraction(round(960 * time), 960)) for time in (0.03, 0.98, 1.52, 2.01)]
    done = write_taps(EMPTY, Entry(value=Fraction(1)), taps)
    assert [(note.onset, note.duration, note.uncertain) for note in done.solo.notes] == [
        (0, 1, True),
        (1, Fraction(1, 2), True),
        (Fraction(3, 2), Fraction(1, 2), True),
        (2, 1, True),
    ]
    assert done.entry.caret == 3


def test_what_is_played_in_time_has_its_pitches_and_ends_where_it_was_let_go() -> None:
    played = ((0.02, 0.4, 63), (1.01, 1.9, 65), (2.0, 2.48, 68), (3.0, 3.97, 70))
    taps = [
        Tap(Fraction(round(960 * start), 960), Fraction(round(960 * end), 960), spell(midi, 0))
        for start, end, midi in played
    ]
    solo = make_solo([("Ab7", "r/1"), ("Db7", "r/1")])
    done = write_taps(solo, Entry(way=Way.NOTES), taps, 0.4)
    assert [(str(note.pitch), note.onset, note.duration, note.uncertain) for note in done.solo.notes] == [
        ("Eb4", 0, Fraction(1, 2), False),
        ("F4", 1, 1, False),
        ("Ab4", 2, Fraction(1, 2), False),
        ("Bb4", 3, 1, False),
    ]
    assert done.entry.way is Way.NOTES


def test_a_name_that_was_given_stays() -> None:
    done = write_taps(EMPTY, Entry(), [Tap(Fraction(0), None, Pitch("D", 1, 4), True), Tap(Fraction(1))])
    assert [str(note.pitch) for note in done.solo.notes] == ["D#4", "D#4"]
    assert [note.uncertain for note in done.solo.notes] == [False, True]


def test_a_line_that_climbs_on_and_on_stays_within_what_sounds() -> None:
    for letters in ("CDEFGAB", "BAGFEDC"):
        solo, entry = Solo("Climbing"), Entry(Fraction(0))
        for number in range(120):
            done = write_name(solo, entry, letters[number % 7])
            solo, entry = done.solo, done.entry
        assert all(0 <= note.pitch.midi <= 127 for note in solo.notes)
        assert SOLO_DOCUMENT.read(SOLO_DOCUMENT.write(solo)) == solo


def test_over_a_note_the_caret_was_put_on_a_letter_keeps_its_length() -> None:
    solo = make_solo([("C7", "C5/4 E5/2 G5/4"), ("F7", "r/1")])
    on_second = Entry(Fraction(1), value=Fraction(1, 2), mends=True)
    assert reach(solo, on_second) == 2
    done = write_name(solo, on_second, "D")
    assert shown(done.solo) == ["C5@0+1", "D5@1+2", "G5@3+1"]
    assert done.entry.caret == 3
    done = write_name(done.solo, done.entry, "A")
    assert shown(done.solo) == ["C5@0+1", "D5@1+2", "A5@3+1"]
    # In the rest behind it the chosen value is written.
    done = write_name(done.solo, done.entry, "B")
    assert shown(done.solo)[-1] == "B5@4+1/2"
    assert not done.entry.mends


@pytest.mark.parametrize(
    "choose",
    [
        lambda solo, entry: write_value(solo, entry, Fraction(1, 2)).entry,
        lambda solo, entry: entry.with_tuplet(Tuplet(3, 2)).with_tuplet(Tuplet(3, 2)),
        lambda solo, entry: replace(entry, insert=True),
    ],
)
def test_a_value_chosen_first_writes_over_the_note(choose: Callable[[Solo, Entry], Entry]) -> None:
    solo = make_solo([("C7", "C5/4 E5/2 G5/4")])
    entry = choose(solo, Entry(Fraction(1), mends=True))
    assert shown(write_name(solo, entry, "D").solo)[1] == "D5@1+1/2"
