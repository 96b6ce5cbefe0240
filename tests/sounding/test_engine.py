"""The engine on a synthesiser that writes down what it is told, and FluidSynth by ear."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest

from gavotte.sounding.engine import Engine
from gavotte.sounding.events import Performance, Sound, Voice
from gavotte.sounding.synth import SAMPLE_RATE, FluidSynth, SilentSynth, SynthError, find_soundfont


class Notebook(SilentSynth):
    """Writes down when (in frames) notes go on and off."""

    def __init__(self) -> None:
        self.frames = 0
        self.on: list[tuple[int, int]] = []
        self.off: list[tuple[int, int]] = []
        self.bends: list[tuple[int, float]] = []
        self.silenced = 0

    def note_on(self, voice: Voice, key: int, loudness: int) -> None:
        self.on.append((self.frames, key))

    def note_off(self, voice: Voice, key: int) -> None:
        self.off.append((self.frames, key))

    def bend(self, voice: Voice, semitones: float) -> None:
        self.bends.append((self.frames, semitones))

    def silence(self) -> None:
        self.silenced += 1

    def render(self, frames: int) -> np.ndarray:
        self.frames += frames
        return super().render(frames)


def note(start: float, end: float, key: int = 60, bends: tuple[tuple[float, float], ...] = ()) -> Sound:
    return Sound(Voice.SOLO, start, end, key, 80, bends)


SCALE = Performance(tuple(note(k, k + 0.9, 60 + k) for k in range(4)), 0.0, 4.0)


def play(engine: Engine, seconds: float, block: int = 700) -> int:
    """Read in blocks of an odd size; gives the number of frames."""
    left = round(seconds * SAMPLE_RATE)
    total = 0
    while left > 0:
        got = len(engine.read(min(block, left)))
        total += got
        left -= got
    return total


@pytest.fixture
def notebook() -> Notebook:
    return Notebook()


def test_notes_come_on_the_frame_whatever_the_block(notebook: Notebook) -> None:
    engine = Engine(notebook)
    engine.start(SCALE, 0, 4)
    assert play(engine, 4.5) == round(4.5 * SAMPLE_RATE)
    assert notebook.on == [(k * SAMPLE_RATE, 60 + k) for k in range(4)]
    assert not engine.is_playing


def test_half_the_tempo_takes_twice_as_long_also_in_the_middle(notebook: Notebook) -> None:
    engine = Engine(notebook)
    engine.start(SCALE, 0, 4)
    play(engine, 1.0)
    engine.set_rate(0.5)
    play(engine, 6.5)
    assert [frame for frame, _ in notebook.on] == pytest.approx(
        [0, SAMPLE_RATE, 3 * SAMPLE_RATE, 5 * SAMPLE_RATE], abs=2
    )
    assert not engine.is_playing


def test_the_rate_stays_within_its_bounds(notebook: Notebook) -> None:
    engine = Engine(notebook)
    engine.set_rate(0.01)
    engine.start(SCALE, 0, 4)
    play(engine, 20.1)
    assert len(notebook.on) == 2


def test_a_loop_goes_round_without_a_gap(notebook: Notebook) -> None:
    engine = Engine(notebook)
    engine.start(SCALE, 1, 3, loop=True)
    play(engine, 4.9)
    assert [key for _, key in notebook.on] == [61, 62, 61, 62, 61]
    assert [frame for frame, _ in notebook.on] == [k * SAMPLE_RATE for k in range(5)]
    assert engine.is_playing
    engine.set_loop(False)
    play(engine, 2.0)
    assert not engine.is_playing


def test_a_note_that_would_start_at_the_stop_is_not_begun(notebook: Notebook) -> None:
    engine = Engine(notebook)
    engine.start(SCALE, 0, 2)
    play(engine, 3)
    assert [key for _, key in notebook.on] == [60, 61]


def test_the_count_comes_before_the_first_note_and_follows_the_tempo(notebook: Notebook) -> None:
    engine = Engine(notebook)
    engine.set_rate(0.5)
    clicks = [Sound(Voice.CLICK, k, k + 0.05, 76, 90) for k in range(2)]
    engine.start(SCALE, 1, 3, count=clicks, count_seconds=2)
    assert engine.is_counting_in
    assert engine.position == pytest.approx(-1)
    play(engine, 5)
    assert not engine.is_counting_in
    assert notebook.on == [(0, 76), (2 * SAMPLE_RATE, 76), (4 * SAMPLE_RATE, 61)]


def test_bends_reach_the_synthesiser_and_are_undone_for_the_next_note(notebook: Notebook) -> None:
    engine = Engine(notebook)
    engine.start(Performance((note(0, 1, 67, ((0.25, 1.0), (0.5, 2.0))), note(1, 2, 60)), 0, 2), 0, 2)
    play(engine, 1.5)
    assert (SAMPLE_RATE // 2, 2.0) in notebook.bends
    assert notebook.bends[-1] == (SAMPLE_RATE, 0.0)


def test_stopping_silences_what_sounds(notebook: Notebook) -> None:
    engine = Engine(notebook)
    engine.start(SCALE, 0, 4)
    play(engine, 0.5)
    silenced = notebook.silenced
    engine.stop()
    assert notebook.silenced == silenced + 1
    play(engine, 2)
    assert len(notebook.on) == 1


def _strongest(samples: np.ndarray) -> float:
    """The strongest frequency, in Hz."""
    spectrum = np.abs(np.fft.rfft(samples[:, 0] * np.hanning(len(samples))))
    return float(np.argmax(spectrum) * SAMPLE_RATE / len(samples))


def test_a_bent_note_is_heard_at_its_target() -> None:
    engine = Engine(FluidSynth(find_soundfont()))
    # A flute's strongest partial is its fundamental.
    engine.start(Performance((note(0, 2, 69, ((0.0, 0.0), (0.5, 2.0))),), 0, 2, program=73), 0, 2)
    before = engine.read(SAMPLE_RATE // 2)
    after = engine.read(SAMPLE_RATE)
    assert _strongest(before[4410:]) == pytest.approx(440, rel=0.02)
    assert _strongest(after[4410:]) == pytest.approx(440 * 2 ** (2 / 12), rel=0.02)


def test_levels_are_heard() -> None:
    engine = Engine(FluidSynth(find_soundfont()))
    loud = []
    for level in (1.0, 0.3, 0.0):
        engine.level(Voice.SOLO, level)
        engine.start(Performance((note(0, 0.4, 69),), 0, 0.4, program=73), 0, 0.4)
        loud.append(float(np.abs(engine.read(SAMPLE_RATE // 3)).max()))
        engine.stop()
        engine.read(3 * SAMPLE_RATE)
    assert loud[0] > 2 * loud[1] > 0
    assert loud[2] < 0.01 * loud[0]


def test_a_missing_or_broken_soundfont_is_explained(tmp_path: Path) -> None:
    with pytest.raises(SynthError, match=r"lost\.sf2 is not there"):
        find_soundfont(str(tmp_path / "lost.sf2"))
    broken = tmp_path / "broken.sf2"
    broken.write_bytes(b"no font at all")
    with pytest.raises(SynthError, match=r"broken\.sf2 is no SoundFont"):
        FluidSynth(find_soundfont(str(broken)))
