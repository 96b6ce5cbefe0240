"""Takes that are heard."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import numpy as np
import pytest
from benchmarks.players.lines import composed, played
from benchmarks.players.made import RECIPES, voice
from benchmarks.players.stage import mixed, roomy
from benchmarks.takes import flawed
from numpy.typing import NDArray
from tests.conftest import whole

from gavotte.practice.due import due_line
from gavotte.practice.hearing import hear_piece, hear_take, joined, judged_by_ear, taker_of
from gavotte.practice.invented import Manner, invented_take
from gavotte.practice.take import Verdict
from gavotte.recording.capture import Capture
from gavotte.recording.errors import RecordingError
from gavotte.recording.player import RATE
from gavotte.sounding.synth import SilentSynth

SOLO = composed("Clarinet", 120, 31, bends=False)
PLAYED = played(SOLO, 32)


def sound_of(
    kind: str, until: float = 14.0
) -> tuple[NDArray[np.int16], dict[str, tuple[Verdict, int | None, float | None]]]:
    """A flawed take of the first bars, in a room, and what is true of it."""
    notes = tuple(note for note in PLAYED.notes if note.start < until)
    truth = flawed(notes, kind, 5, 55, 84)
    line = voice(truth.notes, RECIPES["cylinder reed"], until + 1.5, 3)
    return mixed(roomy(line, 0.4, 0.15, 1), None, 0.0, hiss=-50), truth.verdicts


@pytest.mark.slow
@pytest.mark.parametrize("kind", ["clean", "everything"])
def test_a_take_is_judged_by_its_sound(kind: str) -> None:
    sound, truth = sound_of(kind)
    line = due_line(replace(SOLO, notes=tuple(note for note in SOLO.notes if note.id in truth)))
    take = whole(hear_take(sound, line))
    agreed = [note.verdict is truth[note.note][0] for note in take.notes]
    assert np.mean(agreed) > 0.93
    away = [
        note.seconds - true
        for note in take.notes
        if note.seconds is not None and (true := truth[note.note][2]) is not None
    ]
    assert np.median(np.abs(np.array(away) - np.median(away))) < 0.01
    assert take.sure > 0.7
    cents = [note.cents for note in take.notes if note.cents is not None]
    assert len(cents) > 0.6 * len(take.notes)
    assert abs(np.median(cents)) < 12


@pytest.mark.slow
def test_a_take_heard_in_pieces_is_the_take_heard_at_once() -> None:
    sound, truth = sound_of("clean")
    line = due_line(replace(SOLO, notes=tuple(note for note in SOLO.notes if note.id in truth)))
    player = taker_of(line)
    seconds = len(sound) / RATE
    pieces = [whole(hear_piece(sound, player, a, b)) for a, b in ((0, 5.0), (5.0, 9.3), (9.3, seconds))]
    in_pieces = whole(judged_by_ear(joined(pieces), line, None))
    at_once = whole(judged_by_ear(joined([whole(hear_piece(sound, player, 0, seconds))]), line, None))
    same = [a.verdict is b.verdict for a, b in zip(in_pieces.notes, at_once.notes, strict=True)]
    assert np.mean(same) > 0.97


def test_silence_and_noise_are_no_take() -> None:
    line = due_line(SOLO)
    for sound in (np.zeros((2 * RATE, 2), np.int16), np.zeros((0, 2), np.int16)):
        take = whole(hear_take(sound, line))
        assert take.count(Verdict.MISSED) == len(line.notes)
        assert take.sure == 0.0


def test_who_is_listened_to_can_play_what_is_written() -> None:
    player = taker_of(due_line(SOLO))
    pitches = [note.pitch.midi for note in SOLO.notes]
    assert player.lowest <= min(pitches) - 3
    assert player.highest >= max(pitches) + 3


def test_an_invented_take_lasts_as_long_as_the_music() -> None:
    for rate in (1.0, 0.5):
        sound = whole(invented_take(SOLO, Fraction(1), rate, Manner.CLEAN, SilentSynth(), 1))
        assert sound.dtype == np.int16
        assert len(sound) / RATE == pytest.approx(32 / rate + 0.8, abs=0.8)


def test_what_is_captured_grows_in_a_file_and_is_kept(tmp_path: object) -> None:
    from pathlib import Path

    assert isinstance(tmp_path, Path)
    capture = Capture(tmp_path / "takes" / "a.part")
    assert len(capture.samples()) == 0
    for k in range(3):
        capture.append(np.full(100, 1000 * k, np.int16))
    assert capture.samples().shape == (300, 2)
    assert list(capture.samples()[::100, 1]) == [0, 1000, 2000]
    capture.close()
    assert (tmp_path / "takes" / "a.part").stat().st_size == 1200
    assert capture.remarks() == ()
    quiet, loud = Capture(tmp_path / "q"), Capture(tmp_path / "l")
    quiet.append(np.zeros(100, np.int16))
    loud.append(np.full(100, -32768, np.int16))
    assert "Nothing was heard" in quiet.remarks()[0]
    assert "overdriven" in loud.remarks()[0]


def test_a_full_disk_stops_a_take_and_keeps_what_there_is(tmp_path: object) -> None:
    from pathlib import Path

    full = Path("/dev/full")
    if not full.exists():
        pytest.skip("there is no full disk to write to here")
    capture = Capture(full)
    with pytest.raises(RecordingError, match="disk is full"):
        capture.append(np.ones(100, np.int16))
    assert capture.frames == 0
