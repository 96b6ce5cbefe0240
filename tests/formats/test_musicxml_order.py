"""Repeats, endings, da capo, dal segno, coda, fine: bars in the order they are heard."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path

import music21
import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.formats.test_musicxml import harmony, note, read, score

from gavotte.formats.musicxml import open_score
from gavotte.formats.musicxml_order import MAX_HEARD, BarMarks, bar_order
from gavotte.solo.document import OddBar, TempoChange

PLAIN = BarMarks()
FORWARD = BarMarks(forward=True)
BACK = BarMarks(times=2)


def ending(*numbers: int, back: bool = False, stops: bool = True) -> BarMarks:
    return BarMarks(times=2 if back else 0, endings=frozenset(numbers), ending_stops=stops)


@pytest.mark.parametrize(
    ("marks", "heard"),
    [
        ([PLAIN, PLAIN], [0, 1]),
        ([PLAIN, BACK, PLAIN], [0, 1, 0, 1, 2]),
        ([PLAIN, FORWARD, BACK, PLAIN], [0, 1, 2, 1, 2, 3]),
        ([PLAIN, BarMarks(times=3)], [0, 1, 0, 1, 0, 1]),
        ([BACK, BACK], [0, 0, 1, 1]),
        ([FORWARD, ending(1, back=True), ending(2), PLAIN], [0, 1, 0, 2, 3]),
        ([FORWARD, ending(1, 2, back=True), ending(3)], [0, 1, 0, 1, 0, 2]),
        (
            [FORWARD, ending(1, stops=False), BarMarks(times=2, ending_stops=True), ending(2), PLAIN],
            [0, 1, 2, 0, 3, 4],
        ),
        ([FORWARD, ending(1, back=True), ending(2), PLAIN, BACK], [0, 1, 0, 2, 3, 4, 3, 4]),
        ([PLAIN, BarMarks(fine=True), BarMarks(da_capo=True)], [0, 1, 2, 0, 1]),
        ([PLAIN, BarMarks(segno="s"), BarMarks(fine=True), BarMarks(dal_segno="s")], [0, 1, 2, 3, 1, 2]),
        (
            [PLAIN, BarMarks(segno="s"), BarMarks(to_coda="c"), BarMarks(dal_segno="s"), BarMarks(coda="c"), PLAIN],
            [0, 1, 2, 3, 1, 2, 4, 5],
        ),
        # After the da capo nothing is repeated, and the last ending is taken.
        (
            [FORWARD, ending(1, back=True), ending(2), BarMarks(da_capo=True)],
            [0, 1, 0, 2, 3, 0, 2, 3],
        ),
        # A sign without its counterpart is passed over.
        ([PLAIN, BarMarks(dal_segno="s"), PLAIN], [0, 1, 2]),
        ([PLAIN, BarMarks(to_coda="c"), PLAIN], [0, 1, 2]),
    ],
)
def test_bars_are_heard_in_this_order(marks: list[BarMarks], heard: list[int]) -> None:
    assert bar_order(marks) == heard


MARKS = st.builds(
    BarMarks,
    forward=st.booleans(),
    times=st.sampled_from([0, 0, 2, 3]),
    endings=st.sampled_from([frozenset(), frozenset(), frozenset({1}), frozenset({2}), frozenset({1, 2})]),
    ending_stops=st.booleans(),
    segno=st.sampled_from(["", "", "s"]),
    coda=st.sampled_from(["", "", "c"]),
    da_capo=st.booleans(),
    dal_segno=st.sampled_from(["", "", "s"]),
    to_coda=st.sampled_from(["", "", "c"]),
    fine=st.booleans(),
)


@given(st.lists(MARKS, max_size=12))
def test_any_marks_come_to_an_end_within_the_score(marks: list[BarMarks]) -> None:
    heard = bar_order(marks)
    assert len(heard) <= MAX_HEARD
    assert all(0 <= index < len(marks) for index in heard)
    assert bool(heard) == bool(marks)


REPEAT = '<barline location="right"><repeat direction="backward"/></barline>'
BARS = (harmony("C", "major") + note("C5", 24), harmony("F", "major") + note("F5", 24) + REPEAT, note("G5", 24))


def test_a_score_is_played_out_or_left_as_written() -> None:
    opened = open_score(score(*BARS))
    assert opened.has_repeats
    heard, written = opened.solo(), opened.solo(as_heard=False)
    assert [str(n.pitch) for n in heard.solo.notes] == ["C5", "F5", "C5", "F5", "G5"]
    assert [(c.onset, c.text) for c in heard.solo.chords] == [(0, "C"), (4, "F"), (8, "C"), (12, "F")]
    assert len({n.id for n in heard.solo.notes}) == 5
    assert [str(n.pitch) for n in written.solo.notes] == ["C5", "F5", "G5"]
    assert "5 bars are heard, 3 are written" in heard.remarks[0]
    assert "as written" in written.remarks[0]


def test_a_jump_back_restores_key_meter_and_divisions() -> None:
    change = (
        "<attributes><divisions>2</divisions><key><fifths>2</fifths></key>"
        "<time><beats>3</beats><beat-type>4</beat-type></time></attributes>"
    )
    solo = read(score(note("C5", 24), change + note("D5", 6) + REPEAT)).solo
    assert [(n.onset, n.duration) for n in solo.notes] == [(0, 4), (4, 3), (7, 4), (11, 3)]
    assert [str(region.meter) for region in solo.meters] == ["4/4", "3/4", "4/4", "3/4"]
    assert [region.key.fifths for region in solo.keys] == [0, 2, 0, 2]


def test_halves_of_a_bar_around_a_repeat_sign_count_as_one_bar() -> None:
    first = score(note("G4", 6), note("C5", 24), note("E5", 18) + REPEAT, note("F5", 24), first=' implicit="yes"')
    solo = read(first).solo
    assert solo.pickup == 1
    # 3 beats, then the pickup again: together a full bar. The second time nothing completes the three.
    assert solo.odd_bars == (OddBar(Fraction(12), Fraction(3)),)
    assert [n.onset for n in solo.notes] == [-1, 0, 4, 7, 8, 12, 15]


@pytest.mark.parametrize("name", ["leadSheet/berlinAlexandersRagtime.mxl", "leadSheet/fosterBrownHair.mxl"])
def test_played_out_lead_sheets_agree_with_music21(name: str) -> None:
    path = Path(music21.__file__).parent / "corpus" / name
    ours = open_score(path.read_bytes()).solo().solo
    part = music21.converter.parse(path).parts[0].expandRepeats()
    theirs = part.toSoundingPitch().stripTies().flatten().getElementsByClass(music21.note.Note)
    mine = [(n.pitch.midi, float(n.duration)) for n in ours.notes if not n.grace]
    other = [(n.pitch.midi, n.quarterLength) for n in theirs if not n.duration.isGrace]
    assert mine == [(midi, pytest.approx(length, abs=0.01)) for midi, length in other]


def test_tempo_changes_and_swing_are_read() -> None:
    swing = '<sound tempo="120"><swing><first>2</first><second>1</second></swing></sound>'
    mark = (
        "<direction><direction-type><metronome><beat-unit>quarter</beat-unit><beat-unit-dot/>"
        "<per-minute>60</per-minute></metronome></direction-type></direction>"
    )
    solo = read(score(swing + note("C5", 24), mark + note("D5", 24))).solo
    assert solo.tempo == 120
    assert solo.tempo_changes == (TempoChange(Fraction(4), Fraction(90)),)
    assert solo.swing == 2
    straight = '<sound tempo="120"><swing><straight/></swing></sound>'
    assert read(score(straight + note("C5", 24))).solo.swing == 1


def test_words_alone_are_enough_for_a_jump() -> None:
    words = "<direction><direction-type><words>{}</words></direction-type></direction>"
    solo = read(
        score(note("C5", 24), note("D5", 24) + words.format("Fine"), note("E5", 24) + words.format("D.C. al Fine"))
    ).solo
    assert [n.pitch.letter for n in solo.notes] == ["C", "D", "E", "C", "D"]


def test_coarse_divisions_do_not_spoil_triplets() -> None:
    triplet = (
        "<type>eighth</type><time-modification><actual-notes>3</actual-notes>"
        "<normal-notes>2</normal-notes></time-modification>"
    )
    notes = note("C5", 2, triplet) + note("D5", 1, triplet) + note("E5", 1, triplet)
    solo = read(score(notes + note("C5", 12), div=4)).solo
    assert [n.onset for n in solo.notes] == [0, Fraction(1, 3), Fraction(2, 3), 1]


def test_meters_added_up_count_in_the_smallest_unit() -> None:
    change = (
        "<attributes><time><beats>3+2</beats><beat-type>8</beat-type><beats>3</beats><beat-type>4</beat-type>"
        "</time></attributes>"
    )
    solo = read(score(note("C5", 24), change + note("D5", 33))).solo
    meter = solo.meters[1].meter
    assert (str(meter), meter.grouping) == ("11/8", (3, 2, 2, 2, 2))
    assert meter.bar_length == Fraction(11, 2)
