"""One's own solo over changes."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import pytest
from benchmarks.players.lines import PlayedNote
from benchmarks.players.made import RECIPES, voice
from benchmarks.players.stage import mixed
from tests.conftest import make_solo, whole

from gavotte.practice.invented import improvised
from gavotte.practice.item import Kind, PracticeItem
from gavotte.practice.own_solo import own_solo, told_of_own
from gavotte.practice.run import RunWishes, run_of
from gavotte.solo.instruments import instrument_named
from gavotte.sounding.timeline import Timeline

CLARINET = instrument_named("Clarinet")
BARS = [("Dm7", "r/1"), ("G7", "r/1"), ("Cmaj7", "r/1"), ("A7", "r/1")]


def changes() -> PracticeItem:
    assert CLARINET is not None
    music = replace(make_solo(BARS), notes=(), form_end=Fraction(16), style="straight", instrument=CLARINET)
    return PracticeItem("Over it", Kind.CHANGES, music, 120)


def test_a_run_over_changes_has_all_their_bars() -> None:
    run = run_of(changes(), (0,), RunWishes(passes=3, tempo=120))
    assert [one.start for one in run.passes] == [0, 16, 32]
    assert run.passes[-1].end == 48
    assert len(run.shown.chords) == 12
    assert run.page().notes == ()


@pytest.mark.slow
def test_what_is_played_over_changes_is_written_where_it_was_played() -> None:
    run = run_of(changes(), (0,), RunWishes(passes=1, tempo=120))
    line, timeline = improvised(run.shown, 3), Timeline(run.shown, Fraction(1))
    notes = tuple(
        PlayedNote(
            1 + timeline.seconds(note.onset), 1 + timeline.seconds(note.end) - 0.02, note.pitch.midi, 0.8, False, note
        )
        for note in line.notes
    )
    sound = mixed(voice(notes, RECIPES["cylinder reed"], 10.0, 1), None, 0.0, hiss=-55)
    own = whole(own_solo(run, sound, 1.0, 1.0))
    solo = own.solo
    assert own.beats.times[:3] == (1.0, 1.5, 2.0)
    written = {(note.onset, note.pitch.midi) for note in solo.notes}
    there = [(note.onset, note.pitch.midi) in written for note in line.notes]
    assert sum(there) > 0.85 * len(there)
    assert solo.chords == run.shown.chords


def test_what_stands_out_is_told() -> None:
    bars = [("Dm7", "D4/8 F4 A4 C5 r/2"), ("G7", "r/1"), ("Cmaj7", "E4/8 G4 B4 D5 r/2"), ("A7", "C#4/8 E4 G4 A4 r/2")]
    told = dict(told_of_own(make_solo(bars)))
    assert told["Your solo"].startswith("12 notes: ")
    assert "chord tones" in told["Your solo"]
    assert "G7 in bar 2" in told["Left out"]
    assert "on beat 1" in told["Phrases"] or "phrase" in told["Phrases"]
    nothing = told_of_own(replace(make_solo(bars), notes=()))
    assert "No notes were heard" in nothing[0][1]


def test_an_invented_line_keeps_to_its_chords() -> None:
    music = changes().music
    line = improvised(music, 1)
    assert line == improvised(music, 1)
    assert line != improvised(music, 2)
    for note in line.notes:
        symbol = next(event.symbol for event in reversed(music.chords) if event.onset <= note.onset)
        assert note.pitch.midi % 12 in symbol.tone_classes  # type: ignore[union-attr]
