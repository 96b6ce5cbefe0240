from __future__ import annotations

from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import numpy as np
import pytest
import soundfile
from tests.conftest import whole

from gavotte.cli import main
from gavotte.demo.build import build_demo
from gavotte.demo.cinder import cinder
from gavotte.demo.more_solos import MORE_SOLOS
from gavotte.demo.recordings import record
from gavotte.demo.shorthand import ShorthandError, write_out
from gavotte.demo.solos import DEMO_SOLOS
from gavotte.labelling.labeller import label_solo
from gavotte.library.errors import LibraryError
from gavotte.library.store import Library
from gavotte.recording.player import RATE
from gavotte.solo.bars import BarGrid
from gavotte.solo.checks import check
from gavotte.solo.document import Articulation, Function, Solo

SOLOS = [make() for make in DEMO_SOLOS]
LABELS = [label for solo in SOLOS for label in label_solo(solo)]


@pytest.mark.parametrize("solo", SOLOS, ids=lambda solo: solo.title)
def test_demo_solos_are_sound_and_can_be_played(solo: Solo) -> None:
    assert check(solo) == ()
    assert solo.pickup > 0
    low, high = solo.instrument.lowest, solo.instrument.highest
    assert all(low <= note.pitch.midi <= high for note in solo.notes)
    labels = label_solo(solo)
    assert {label.function for label in labels} >= set(Function) - {Function.OUTSIDE}


def test_the_demo_shows_what_gavotte_names() -> None:
    assert {label.function for label in LABELS} == set(Function)
    assert {"enclosure", "implied", "unexplained", "blue", "double-above"} <= {label.device for label in LABELS}
    notes = [note for solo in SOLOS for note in solo.notes]
    shown = {mark.articulation for note in notes for mark in note.marks}
    assert {Articulation.BEND, Articulation.SLIDE, Articulation.HAMMER_ON, Articulation.PULL_OFF} <= shown
    assert any(note.duration.denominator == 3 for note in notes)
    assert any(note.grace for note in notes)
    assert any(note.uncertain for note in notes)
    assert any(label.in_doubt for label in LABELS)


def test_the_demo_has_a_hundred_bars_in_four_meters() -> None:
    assert sum(BarGrid(solo).bars[-1].number for solo in SOLOS) >= 100
    meters = {str(solo.meters[0].meter) for solo in SOLOS}
    assert meters == {"4/4", "12/8", "5/4", "3/4"}
    assert sum(solo.keys[0].blues for solo in SOLOS) == 2
    assert any(solo.instrument.transposition_semitones for solo in SOLOS)
    assert [section.label for section in SOLOS[0].sections] == list("AABA")


def test_shorthand_reads_marks_ties_and_graces() -> None:
    written = write_out([("C7", "*B4 C5/4>~ C5/8 Eb5{bend:1/2} G5/2?")], Fraction(4))
    assert [(n.onset, n.duration, n.grace) for n in written.notes] == [
        (0, 0, True),
        (0, Fraction(3, 2), False),
        (Fraction(3, 2), Fraction(1, 2), False),
        (2, 2, False),
    ]
    assert written.notes[1].has(Articulation.ACCENT)
    assert written.notes[2].marks[0].semitones == Fraction(1, 2)
    assert written.notes[3].uncertain


@pytest.mark.parametrize(("bar", "words"), [("C5/4 D5 E5", "3 quarter notes"), ("X5/1", "no note")])
def test_shorthand_refuses_bars_that_do_not_add_up(bar: str, words: str) -> None:
    with pytest.raises(ShorthandError, match=words):
        write_out([("C", bar)], Fraction(4))


@pytest.mark.slow
def test_a_demo_recording_is_in_time_with_its_beat_map(tmp_path: Path) -> None:
    solo = cinder()
    recording = whole(record(solo, tmp_path))
    sound, rate = soundfile.read(tmp_path / recording.path)
    assert rate == RATE
    assert len(sound) == recording.frames
    assert len(recording.beats.times) == 13 * 4
    assert recording.beats.beats_a_minute(10) == pytest.approx(54, rel=0.01)
    loudness = np.abs(sound).max(axis=1)
    assert loudness[: round(0.9 * RATE)].max() < 0.001
    # The band comes in on the beat: around each the sound swells.
    swells = [
        loudness[round(t * RATE) : round((t + 0.06) * RATE)].max()
        > loudness[round((t - 0.06) * RATE) : round((t - 0.02) * RATE)].max()
        for t in recording.beats.times
    ]
    assert sum(swells) > 0.8 * len(swells)
    assert whole(record(solo, tmp_path)).sha256 == recording.sha256, "the same people play the same again"


# -- building it anew -----------------------------------------------------------------------------------


def test_the_demo_is_built_anew_over_itself(tmp_path: Path) -> None:
    build_demo(tmp_path)
    with Library(tmp_path) as library:
        for entry in library.solos():
            library.delete_solo(entry.id)
        library.back_up_now()
    build_demo(tmp_path, fresh=True)
    assert not (tmp_path / "backups").exists()
    with Library(tmp_path) as library:
        assert len(library.solos()) == len(DEMO_SOLOS) + len(MORE_SOLOS) + 2


@pytest.mark.parametrize("strange", ["letters.txt", "photos/one.jpg", "gavotte.db.copy"])
def test_a_folder_that_holds_anything_else_is_not_touched(tmp_path: Path, strange: str) -> None:
    build_demo(tmp_path)
    (tmp_path / strange).parent.mkdir(exist_ok=True)
    (tmp_path / strange).write_text("mine")
    before = sorted(path for path in tmp_path.rglob("*"))
    with pytest.raises(LibraryError, match="Nothing was touched"):
        build_demo(tmp_path, fresh=True)
    assert sorted(path for path in tmp_path.rglob("*")) == before


def test_a_folder_without_a_library_is_not_touched(tmp_path: Path) -> None:
    (tmp_path / "recordings").mkdir()
    with pytest.raises(LibraryError, match="holds no library"):
        build_demo(tmp_path, fresh=True)
    assert (tmp_path / "recordings").is_dir()


def test_a_library_with_a_solo_of_the_users_is_not_touched(tmp_path: Path) -> None:
    build_demo(tmp_path)
    with Library(tmp_path) as library:
        mine = library.add_solo(replace(cinder(), title="Mine"))
    with pytest.raises(LibraryError, match="“Mine”"):
        build_demo(tmp_path, fresh=True)
    with Library(tmp_path) as library:
        assert library.solo(mine).title == "Mine"


def test_the_command_says_why_it_builds_nothing(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    (tmp_path / "letters.txt").write_text("mine")
    assert main(["--demo", "--fresh", "--library", str(tmp_path)]) == 1
    assert "letters.txt" in capsys.readouterr().err
    assert (tmp_path / "letters.txt").read_text() == "mine"
