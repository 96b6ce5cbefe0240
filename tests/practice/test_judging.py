"""What becomes of the notes of a line, told from notes that are known."""

from __future__ import annotations

import itertools
import random
from dataclasses import replace
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.conftest import make_solo

from gavotte.practice.alignment import pairs_of, voted
from gavotte.practice.as_played import added_id, as_played, labels_as_played
from gavotte.practice.due import DueLine, due_line
from gavotte.practice.focus import loop_of, troubles, work_next
from gavotte.practice.judging import take_of_notes
from gavotte.practice.report import told_of
from gavotte.practice.take import Take, Verdict
from gavotte.practice.timing import timing_of
from gavotte.recording.line import DraftNote
from gavotte.solo.document import Articulation, Mark, Solo
from gavotte.sounding.timeline import Timeline

BARS = [
    ("Dm7", "D4/8 F4 A4 C5 E5 D5 C5 A4"),
    ("G7", "B4/8 A4 G4 F4 D4/4 r"),
    ("Cmaj7", "E4/8 G4 B4 D5 C5/4 G4"),
    ("A7", "C#5/8 Bb4 A4 G4 E4/4 r"),
    ("Dm7", "F4/8 A4 C5 E5 D5/4 A4"),
    ("G7", "B4/8 D5 F5 D5 Ab4 G4 F4 D4"),
    ("C6", "E4/2 r"),
    ("C6", "G4/8 A4 C5 A4 G4/2"),
]
SOLO = replace(make_solo(BARS), tempo=Fraction(120), style="straight")
LINE = due_line(SOLO)


def performed(
    solo: Solo = SOLO, rate: float = 1.0, start: float = 1.0, swing: Fraction = Fraction(1)
) -> list[DraftNote]:
    """The notes as a machine plays them: at a share of the tempo, from a moment on."""
    timeline = Timeline(solo, swing)
    return [
        DraftNote(
            start + timeline.seconds(note.onset) / rate,
            start + 0.9 * timeline.seconds(note.end) / rate + 0.1 * timeline.seconds(note.onset) / rate,
            note.pitch.midi,
            1.0,
        )
        for note in solo.notes
    ]


def verdicts(take: Take) -> list[Verdict]:
    return [note.verdict for note in take.notes]


@given(st.floats(0.6, 1.8), st.floats(0.0, 20.0), st.booleans())
def test_what_is_played_as_written_is_right_at_any_tempo_and_from_any_moment(
    rate: float, start: float, is_known: bool
) -> None:
    take = take_of_notes(LINE, performed(rate=rate, start=start), 120 * rate if is_known else None)
    assert set(verdicts(take)) == {Verdict.RIGHT}
    assert not take.added
    assert take.tempo == pytest.approx(120 * rate, rel=0.005)
    assert all(abs(note.late or 0.0) < 0.005 for note in take.notes)
    assert take.sure > 0.95


@given(st.integers(0, 10_000))
def test_wrong_missed_and_added_notes_are_told(seed: int) -> None:
    chance = random.Random(seed)
    notes = performed()
    places = chance.sample(range(1, len(notes) - 1), 6)
    wrong, missed, lengthened = places[:2], places[2:4], places[4]
    played = []
    for index, note in enumerate(notes):
        if index in missed:
            continue
        played.append(replace(note, midi=note.midi + chance.choice((-2, -1, 1, 2))) if index in wrong else note)
        if index == lengthened:
            # A foreign note far from any that is written.
            played.append(replace(note, start=note.start + 0.12, end=note.start + 0.2, midi=note.midi + 6))
    take = take_of_notes(LINE, played, 120)
    told = verdicts(take)
    assert [index for index, verdict in enumerate(told) if verdict is not Verdict.RIGHT] == sorted(wrong + missed)
    assert {index for index, verdict in enumerate(told) if verdict is Verdict.MISSED} == set(missed)
    assert all(
        take.notes[index].heard == next(p for p in played if p.start == notes[index].start).midi for index in wrong
    )
    assert [note.midi for note in take.added] == [notes[lengthened].midi + 6]


def test_a_take_that_stops_half_way_is_right_as_far_as_it_goes() -> None:
    take = take_of_notes(LINE, performed()[:20], 120)
    assert verdicts(take) == [Verdict.RIGHT] * 20 + [Verdict.MISSED] * (len(LINE.notes) - 20)


def test_a_pause_in_the_middle_makes_nothing_late() -> None:
    notes = performed()
    paused = [
        replace(note, start=note.start + 2.2, end=note.end + 2.2) if k >= 22 else note for k, note in enumerate(notes)
    ]
    take = take_of_notes(LINE, paused)
    assert set(verdicts(take)) == {Verdict.RIGHT}
    assert all(abs(note.late or 0.0) < 0.02 for note in take.notes)


def test_early_and_late_are_told_in_seconds() -> None:
    notes = performed()
    by = {5: 0.05, 12: -0.04, 30: 0.08}
    moved = [replace(n, start=n.start + by.get(k, 0.0)) for k, n in enumerate(notes)]
    take = take_of_notes(LINE, moved, 120)
    for index, late in by.items():
        assert take.notes[index].late == pytest.approx(late, abs=0.006)
    assert abs(take.notes[20].late or 0.0) < 0.006


def test_a_rising_tempo_is_told_and_makes_nothing_early() -> None:
    notes = performed()
    length = notes[-1].start - notes[0].start

    def moved(time: float) -> float:
        part = time - notes[0].start
        return notes[0].start + part - 0.1 * part * part / (2 * length)

    take = take_of_notes(LINE, [replace(n, start=moved(n.start), end=moved(n.end)) for n in notes])
    assert set(verdicts(take)) == {Verdict.RIGHT}
    assert 0.05 < take.drift < 0.15
    assert all(abs(note.late or 0.0) < 0.03 for note in take.notes)


@pytest.mark.parametrize("swing", [Fraction(1), Fraction(3, 2), Fraction(2)])
def test_the_swing_of_a_take_is_measured_and_makes_nothing_late(swing: Fraction) -> None:
    take = take_of_notes(LINE, performed(swing=swing), 120)
    assert take.swing == pytest.approx(float(swing), abs=0.06)
    assert all(abs(note.late or 0.0) < 0.01 for note in take.notes)
    ratios = [pair.ratio for pair in timing_of(LINE, take).pairs]
    assert ratios
    assert all(ratio == pytest.approx(float(swing), abs=0.02) for ratio in ratios)


def test_another_octave_counts_as_right_but_is_said_less_surely() -> None:
    notes = performed()
    notes[7] = replace(notes[7], midi=notes[7].midi + 12)
    take = take_of_notes(LINE, notes, 120)
    assert take.notes[7].verdict is Verdict.RIGHT
    assert take.notes[7].sure < take.notes[8].sure


def test_a_written_bend_may_sound_at_any_pitch_it_passes() -> None:
    bent = replace(SOLO.notes[11], marks=(Mark(Articulation.BEND, Fraction(2)),))
    line = due_line(replace(SOLO, notes=(*SOLO.notes[:11], bent, *SOLO.notes[12:])))
    notes = performed()
    notes[11] = replace(notes[11], midi=notes[11].midi + 1)
    assert take_of_notes(line, notes, 120).notes[11].verdict is Verdict.RIGHT
    assert take_of_notes(LINE, notes, 120).notes[11].verdict is Verdict.WRONG


def test_another_tune_is_not_taken_for_this_one() -> None:
    chance = random.Random(3)
    other = [
        DraftNote(0.37 * k + chance.uniform(0, 0.1), 0.37 * k + 0.3, chance.randrange(50, 80), 0.9) for k in range(50)
    ]
    assert take_of_notes(LINE, other).sure < 0.45
    assert take_of_notes(LINE, []).count(Verdict.MISSED) == len(LINE.notes)
    assert take_of_notes(due_line(replace(SOLO, notes=())), performed()).notes == ()


def test_only_a_stretch_is_listened_for_and_grace_notes_are_not() -> None:
    grace = replace(SOLO.notes[4], id="g", grace=True, duration=Fraction(0))
    line = due_line(replace(SOLO, notes=(*SOLO.notes[:4], grace, *SOLO.notes[4:])), Fraction(0), Fraction(8))
    assert all(not note.grace and note.onset < 8 for note in line.notes)
    assert len(line.notes) == 13


def test_the_vote_finds_where_a_take_begins_and_how_fast_it_is() -> None:
    notes = performed(rate=1.25, start=3.5)[16:]
    heard = [note.start for note in notes]
    import numpy as np

    place = voted(LINE.seconds(), LINE.pitches, np.array(heard), np.array([n.midi for n in notes]), None)
    assert place.rate == pytest.approx(1 / 1.25, rel=0.02)
    assert place.start == pytest.approx(3.5, abs=0.25)
    pairs = pairs_of(LINE.seconds(), LINE.pitches, np.array(heard), np.array([n.midi for n in notes]), place)
    assert pairs == [(k + 16, k) for k in range(len(notes))]


def test_where_a_take_is_to_begin_tells_two_alike_passes_apart() -> None:
    first, second = performed(start=1.0), performed(start=1.0 + 16)
    assert take_of_notes(LINE, [*first, *second], 120, start=17.0).notes[0].seconds == pytest.approx(17.0)
    assert take_of_notes(LINE, [*first, *second], 120, start=1.0).notes[0].seconds == pytest.approx(1.0)
    # Who began elsewhere is found all the same.
    assert take_of_notes(LINE, second, 120, start=1.0).count(Verdict.RIGHT) == len(LINE.notes)


def test_a_take_at_another_tempo_than_was_asked_for_is_followed_all_the_same() -> None:
    take = take_of_notes(LINE, performed(), 77)
    assert set(verdicts(take)) == {Verdict.RIGHT}
    assert take.tempo == pytest.approx(120, rel=0.01)


def test_a_take_becomes_music_that_is_labelled_like_any_other() -> None:
    notes = performed()
    notes[3] = replace(notes[3], midi=notes[3].midi + 1)
    extra = DraftNote(notes[12].end + 0.05, notes[12].end + 0.2, 73, 1.0)
    played = sorted([*notes[:20], *notes[21:], extra], key=lambda note: note.start)
    take = take_of_notes(LINE, played, 120)
    music = as_played(LINE, take)
    ids = [note.id for note in music.notes]
    assert SOLO.notes[20].id not in ids
    assert added_id(0) in ids
    assert music.note(SOLO.notes[3].id).pitch.midi == SOLO.notes[3].pitch.midi + 1
    assert all(a.end <= b.onset for a, b in itertools.pairwise(music.notes))
    labels = labels_as_played(LINE, take)
    assert labels[SOLO.notes[3].id].degree == "7"
    assert set(labels) == set(ids)


def test_what_to_work_on_is_the_phrase_in_which_most_went_wrong() -> None:
    notes = performed()
    for k in (14, 15, 16):
        notes[k] = replace(notes[k], midi=notes[k].midi + 1)
    notes[2] = replace(notes[2], midi=notes[2].midi - 1)
    take = take_of_notes(LINE, notes, 120)
    trouble = work_next(LINE, take)
    assert trouble is not None
    assert trouble.first <= 14 <= trouble.last
    assert trouble.wrong == 3
    start, end = loop_of(LINE, trouble)
    assert start <= LINE.notes[14].onset < end
    assert start % 4 == end % 4 == 0
    assert sum(one.wrong for one in troubles(LINE, take)) == 4
    assert work_next(LINE, take_of_notes(LINE, performed(), 120)) is None


def test_the_report_says_what_was_played_in_place_of_what() -> None:
    notes = performed()
    notes[14] = replace(notes[14], midi=notes[14].midi + 1)
    take = take_of_notes(LINE, [*notes[:20], *notes[21:]], 120)
    told = told_of(LINE, take)
    assert told[0] == ("Notes", f"{len(notes) - 2} of {len(notes)} notes right, 1 wrong, 1 missed.")
    words = dict(told)
    assert "Tempo 120" in words["Time"]
    assert words["Bar 3, the and of 1"].startswith("A♭ in place of G (the ")
    assert any("was not heard" in said for _, said in told)
    assert told[-1][0] == "Next"
    assert told_of(LINE, take_of_notes(LINE, [])) == told_of(LINE, Take(take_of_notes(LINE, []).notes))
    assert "another piece" in told_of(LINE, take_of_notes(LINE, []))[0][1]


def test_intonation_is_told_where_enough_pitches_were_heard() -> None:
    take = take_of_notes(LINE, performed(), 120)
    assert timing_of(LINE, take).cents is None
    by = [5.0 * (k % 3 - 1) for k in range(len(take.notes))]
    by[9] = 40.0
    tuned = replace(take, notes=tuple(replace(note, cents=cents) for note, cents in zip(take.notes, by, strict=True)))
    timing = timing_of(LINE, tuned)
    assert timing.cents == pytest.approx(5, abs=1)
    assert timing.off == ((LINE.notes[9].id, 40.0),)
    told = dict(told_of(LINE, tuned))
    assert "within 5 cents" in told["Intonation"]
    assert "40 sharp" in told["Intonation"]
    assert "Intonation" not in dict(told_of(LINE, take))


def test_what_is_off_the_beat_is_known() -> None:
    line: DueLine = due_line(SOLO)
    off = [note.onset % 1 != 0 for note in line.notes]
    assert list(line.offbeats) == off


def test_phrases_that_lie_apart_in_time_are_told() -> None:
    notes = performed()
    half = next(k for k, note in enumerate(SOLO.notes) if note.onset >= 16)
    moved = [replace(n, start=n.start + 0.035, end=n.end + 0.035) if k >= half else n for k, n in enumerate(notes)]
    take = take_of_notes(LINE, moved, 120, 1.0)
    timing = timing_of(LINE, take)
    assert len(timing.phrases) > 1
    assert timing.phrases[-1].late - timing.phrases[0].late > 0.02
    told = dict(told_of(LINE, take))["Time"]
    assert "By phrase: from " in told
    assert timing.phrases[-1].name in told
    assert "By phrase" not in dict(told_of(LINE, take_of_notes(LINE, notes, 120)))["Time"]


def test_swing_that_changes_is_told_with_its_bars() -> None:
    even, swung = performed(), performed(swing=Fraction(2))
    mixed = [a if note.onset < 12 else b for note, a, b in zip(SOLO.notes, even, swung, strict=True)]
    take = take_of_notes(LINE, mixed, 120)
    told = dict(told_of(LINE, take))["Time"]
    assert "It goes from 1.0 in bar 1 to 2" in told
    assert "It goes" not in dict(told_of(LINE, take_of_notes(LINE, swung, 120)))["Time"]


def test_one_onset_that_is_heard_badly_makes_no_swing() -> None:
    notes = performed(swing=Fraction(2))
    index = next(k for k, note in enumerate(SOLO.notes) if k > 8 and note.onset % 1 == Fraction(1, 2))
    early = [replace(n, start=n.start - 0.12) if k == index else n for k, n in enumerate(notes)]
    take = take_of_notes(LINE, early, 120)
    ratios = [pair.ratio for pair in timing_of(LINE, take).pairs]
    assert max(ratios) - min(ratios) > 1
    assert "It goes" not in dict(told_of(LINE, take))["Time"]


def test_long_notes_that_end_too_soon_are_named_unless_they_are_marked() -> None:
    index = next(k for k, note in enumerate(SOLO.notes) if note.duration == 2)
    notes = performed()
    notes[index] = replace(notes[index], end=notes[index].start + 0.25)
    timing = timing_of(LINE, take_of_notes(LINE, notes, 120))
    assert [note for note, _ in timing.cut] == [SOLO.notes[index].id]
    assert timing.cut[0][1] == pytest.approx(0.25, abs=0.03)
    told = dict(told_of(LINE, take_of_notes(LINE, notes, 120)))["Time"]
    assert "Long notes that end too soon: E in bar 7, beat 1." in told
    short = replace(SOLO.notes[index], marks=(Mark(Articulation.STACCATO),))
    marked = due_line(replace(SOLO, notes=(*SOLO.notes[:index], short, *SOLO.notes[index + 1 :])))
    assert timing_of(marked, take_of_notes(marked, notes, 120)).cut == ()
