"""Runs: passes, intro and ending, what fades from the page, and how the tempo climbs."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import pytest
from tests.conftest import make_solo

from gavotte.demo.solos import DEMO_SOLOS
from gavotte.labelling.labeller import labelled
from gavotte.phrasing.skeleton import Level, levels_of
from gavotte.practice.band import BandWishes, Ending, Intro, ending_of, intro_of
from gavotte.practice.climbing import Climb, Climbing, When, is_clean
from gavotte.practice.item import Kind, PracticeItem
from gavotte.practice.run import Fading, Part, RunWishes, Way, run_of
from gavotte.practice.take import AddedNote, Take, TakeNote, Verdict
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import KeyRegion
from gavotte.sounding.groove import Groove
from gavotte.theory.chord import Chord
from gavotte.theory.key import Key
from gavotte.theory.pitch import PitchName

LINE = make_solo([("Dm7", "D4/8 E4 F4 A4 C5 A4 G4 F4"), ("G7", "B4/4 D5 F5 G5")])


def item(**changes: object) -> PracticeItem:
    return replace(PracticeItem("A line", Kind.LICK, LINE, 120), **changes)  # type: ignore[arg-type]


def with_band(**wishes: object) -> PracticeItem:
    return item(band=replace(BandWishes(), **wishes))  # type: ignore[arg-type]


# -- the band around it ---------------------------------------------------------------------------------------


def test_the_band_plays_before_and_behind_the_music() -> None:
    run = run_of(with_band(intro=Intro.TURNAROUND, ending=Ending.TAG), (0,), RunWishes(passes=2, tempo=120))
    assert [one.part for one in run.passes] == [Part.INTRO, Part.MUSIC, Part.MUSIC, Part.ENDING]
    assert [(one.start, one.end) for one in run.passes] == [(0, 16), (16, 24), (24, 32), (32, 56)]
    assert [one.is_played for one in run.passes] == [False, True, True, False]
    assert len(run.turns) == 2
    assert {note.onset >= 16 for note in run.played_notes().notes} == {True}
    assert run.backing.held_from == 48
    assert [section.label for section in run.shown.sections] == ["Intro", "1", "2", "Ending"]


def test_without_wishes_there_is_only_the_music() -> None:
    run = run_of(item(), (0,), RunWishes(passes=3, tempo=120))
    assert {one.part for one in run.passes} == {Part.MUSIC}
    assert run.backing.held_from is None


@pytest.mark.parametrize("mode", ["major", "minor", "dorian"])
@pytest.mark.parametrize("blues", [False, True])
@pytest.mark.parametrize("tonic", ["C", "Eb", "F#", "B"])
def test_intro_and_ending_are_in_the_key(mode: str, blues: bool, tonic: str) -> None:
    key = Key(PitchName.parse(tonic), mode)
    music = replace(LINE, keys=(KeyRegion(Fraction(0), key, blues),))
    home = key.tonic.pitch_class
    intro, ending = intro_of(music, Intro.DOMINANT), ending_of(music, Ending.HELD)
    assert intro is not None
    assert ending is not None
    first, last = intro.chords[0].symbol, ending.chords[-1].symbol
    assert isinstance(first, Chord)
    assert isinstance(last, Chord)
    assert first.root.pitch_class == (home + 7) % 12
    assert last.root.pitch_class == home
    assert (last.third == "b3") == (not blues and key.is_minor)
    assert len([bar for bar in BarGrid(intro).bars if bar.number > 0]) == 4


@pytest.mark.parametrize("meter", ["3/4", "5/4", "6/8", "12/8", "7/8"])
def test_intro_and_ending_have_the_meter_of_the_music(meter: str) -> None:
    music = replace(make_solo([("C", "r/1")], meter="4/4"), notes=())
    music = replace(music, meters=(replace(music.meters[0], meter=type(music.meters[0].meter).parse(meter)),))
    intro = intro_of(music, Intro.TURNAROUND)
    assert intro is not None
    assert intro.form_end == 4 * music.meters[0].meter.bar_length


def test_through_the_keys_the_intro_is_in_the_first_and_the_ending_in_the_last() -> None:
    wished = with_band(intro=Intro.TURNAROUND, ending=Ending.HELD).with_keys(3)
    run = run_of(wished, (0, 1, 2), RunWishes(way=Way.KEYS, passes=1, tempo=120))
    roots = [event.symbol.root.pitch_class for event in run.shown.chords if isinstance(event.symbol, Chord)]
    tonics = [one.tonic.pitch_class for one in wished.keys]
    assert roots[0] == tonics[0]
    assert roots[-1] == tonics[2]


def test_a_groove_is_played_as_the_style_where_the_meter_allows_it() -> None:
    assert run_of(with_band(groove=Groove.BOSSA), (0,), RunWishes(tempo=100)).shown.style == "bossa"
    assert run_of(with_band(groove=Groove.WALTZ), (0,), RunWishes(tempo=100)).shown.style == LINE.style


def test_what_is_answered_was_heard_or_only_read() -> None:
    heard = run_of(item(), (0,), RunWishes(way=Way.ANSWER, passes=2, tempo=120))
    assert [one.is_played for one in heard.passes] == [False, True, False, True]
    assert {heard.passes[heard.pass_at(note.onset)].is_played for note in heard.heard.notes} == {False}
    read = run_of(item(), (0,), RunWishes(way=Way.READ, passes=2, tempo=120))
    assert [one.is_played for one in read.passes] == [False, True, False, True]
    assert read.heard.notes == ()
    assert "read" in read.shown.sections[0].label
    with_soloist = run_of(item(), (0,), RunWishes(way=Way.READ, passes=2, tempo=120, with_soloist=True))
    assert {with_soloist.passes[with_soloist.pass_at(note.onset)].is_played for note in with_soloist.heard.notes} == {
        True
    }


# -- from memory ----------------------------------------------------------------------------------------------


def page_of(fading: Fading, passes: int = 1) -> tuple[int, int, int]:
    """How many notes and chords the page has, and how many of the notes only in the lane."""
    run = run_of(item(), (0,), RunWishes(passes=passes, tempo=120, fading=fading))
    page = run.page()
    return len(page.notes), len(page.chords), len(run.in_lane)


def test_the_page_fades() -> None:
    assert page_of(Fading.ALL) == (12, 2, 0)
    assert page_of(Fading.HALF) == (8, 2, 0)
    assert page_of(Fading.LANE) == (12, 2, 12)
    assert page_of(Fading.CHORDS) == (0, 2, 0)
    assert page_of(Fading.FORM) == (0, 0, 0)
    assert page_of(Fading.NOTHING) == (0, 0, 0)
    assert run_of(item(), (0,), RunWishes(tempo=120, fading=Fading.NOTHING)).is_blank
    assert not run_of(item(), (0,), RunWishes(tempo=120, fading=Fading.FORM)).is_blank


def test_the_skeleton_is_what_stays_on_the_beats() -> None:
    solo = DEMO_SOLOS[0]()
    run = run_of(PracticeItem("It", Kind.SOLO, solo, 120), (0,), RunWishes(passes=1, fading=Fading.SKELETON))
    there = {note.id.split(":")[1] for note in run.page().notes}
    assert 0.2 * len(solo.notes) < len(there) < 0.7 * len(solo.notes)
    levels = levels_of(labelled(solo))
    own = {note.id for note, level in zip(solo.notes, levels, strict=True) if level >= Level.BEATS}
    assert len(there ^ own) <= 0.05 * len(own)


def test_step_by_step_each_pass_shows_less() -> None:
    run = run_of(item(), (0,), RunWishes(passes=6, tempo=120, fading=Fading.STEP_BY_STEP))
    shown = [one.fading for one in run.passes]
    assert shown == [Fading.ALL, Fading.HALF, Fading.SKELETON, Fading.LANE, Fading.CHORDS, Fading.FORM]
    page = run.page()
    assert {event.onset >= 40 for event in page.chords} == {False}
    assert all(
        run.passes[run.pass_at(note.onset)].fading is Fading.LANE for note in page.notes if note.id in run.in_lane
    )


# -- climbing -------------------------------------------------------------------------------------------------


def test_the_tempo_climbs_after_clean_passes_in_a_row() -> None:
    climb = Climb(When.CLEAN, 4, 2, 106)
    at = Climbing(100)
    tempos = []
    for clean in (True, False, True, True, True, True, True, True):
        at = at.passed(climb, clean, 0.0)
        tempos.append(at.tempo)
    assert tempos == [100, 100, 100, 104, 104, 106, 106, 106]


def test_the_tempo_climbs_after_minutes_whatever_was_played() -> None:
    climb, at = Climb(When.MINUTES, 5, 2), Climbing(80)
    at = at.passed(climb, False, 119.0)
    assert at.tempo == 80
    at = at.passed(climb, False, 121.0)
    assert at.tempo == 85
    assert at.passed(climb, True, 200.0).tempo == 85
    assert at.passed(climb, True, 241.0).tempo == 90


def test_a_run_that_climbs_on_its_way_is_written_at_one_tempo() -> None:
    wishes = RunWishes(passes=4, tempo=100, step=10, when=When.CLEAN)
    assert {one.tempo for one in run_of(item(), (0,), wishes).passes} == {100}
    each = replace(wishes, when=When.PASSES)
    assert [one.tempo for one in run_of(item(), (0,), each).passes] == [100, 110, 120, 130]


@pytest.mark.parametrize(
    ("wrong", "added", "clean"), [(0, 0, True), (1, 0, True), (2, 0, False), (0, 1, True), (1, 1, False)]
)
def test_a_clean_pass_has_one_slip_in_twenty_at_most(wrong: int, added: int, clean: bool) -> None:
    notes = tuple(TakeNote(str(k), Verdict.WRONG if k < wrong else Verdict.RIGHT) for k in range(20))
    extra = tuple(AddedNote(float(k), k + 0.2, 60) for k in range(added))
    assert is_clean(Take(notes, extra)) is clean
    assert not is_clean(Take())
