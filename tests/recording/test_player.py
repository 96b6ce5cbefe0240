from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest
from numpy.typing import NDArray

from gavotte.recording.filters import BandPass, Side, on_side
from gavotte.recording.player import RATE, Click, Ladder, RecordingPlayer


def tone(hertz: float, seconds: float, level: float = 0.5) -> NDArray[np.int16]:
    times = np.arange(round(seconds * RATE)) / RATE
    mono = (level * 32767 * np.sin(2 * np.pi * hertz * times)).astype(np.int16)
    return np.stack([mono, mono], axis=1)


def ticks(seconds: float, every: float) -> NDArray[np.int16]:
    """Short bursts at 0, ``every``, 2 ``every`` …"""
    out = np.zeros((round(seconds * RATE), 2), np.int16)
    burst = (20000 * np.sin(2 * np.pi * 1000 * np.arange(200) / RATE) * np.hanning(200)).astype(np.int16)
    for k in range(int(seconds / every)):
        at = round(k * every * RATE)
        out[at : at + 200] = burst[:, None]
    return out


def pulled(player: RecordingPlayer, seconds: float, block: int = 700) -> NDArray[np.float32]:
    blocks = [player.read(block) for _ in range(round(seconds * RATE / block))]
    return np.concatenate(blocks)


def loudest_hertz(block: NDArray[np.float32]) -> float:
    middle = block[len(block) // 4 : -len(block) // 4, 0]
    spectrum = np.abs(np.fft.rfft(middle * np.hanning(len(middle))))
    return float(np.argmax(spectrum)) * RATE / len(middle)


def struck(block: NDArray[np.float32]) -> list[int]:
    """Frames at which something begins after silence."""
    loud = np.abs(block[:, 0]) > 0.1
    starts = np.flatnonzero(loud)
    return [int(starts[0]), *(int(b) for a, b in pairwise(starts) if b - a > 2000)] if len(starts) else []


def test_at_its_own_speed_a_recording_passes_untouched() -> None:
    samples = tone(440, 1)
    player = RecordingPlayer(samples)
    player.play()
    out = pulled(player, 0.5)
    assert np.array_equal(out, samples[: len(out)].astype(np.float32) / 32768)
    assert player.position == len(out)


SEAM = 0.008
"""Seconds over which a loop's end goes over into its beginning."""


def test_a_loop_is_exact_in_length_and_untouched_but_for_its_seam() -> None:
    samples = np.random.default_rng(1).integers(-9000, 9000, (RATE, 2)).astype(np.int16)
    player = RecordingPlayer(samples)
    player.set_region(1234, 5678, loop=True)
    player.play()
    out = pulled(player, 1.0)
    once = samples[1234:5678].astype(np.float32) / 32768
    passes = out[: len(out) // len(once) * len(once)].reshape(-1, *once.shape)
    seam = round(SEAM * RATE)
    assert len(passes) > 5
    for heard in passes:
        assert np.array_equal(heard[:-seam], once[:-seam])
    assert player.passes == len(passes)
    assert player.position == 1234 + len(out) % len(once)
    # Noise is as loud in the seam as before it.
    loud = [float(np.sqrt((passes[0][part] ** 2).mean())) for part in (slice(-seam, None), slice(-2 * seam, -seam))]
    assert loud[0] == pytest.approx(loud[1], rel=0.15)


@pytest.mark.parametrize(("start", "pause"), [(0, 0.0), (3000, 0.0), (3000, 0.1), (0, 0.1)])
def test_a_loop_is_joined_without_a_click(start: int, pause: float) -> None:
    player = RecordingPlayer(tone(440, 1))
    player.set_region(start, start + 7777, loop=True)
    player.set_pause(pause)
    player.play()
    out = pulled(player, 1.5)[:, 0]
    steepest = 0.5 * 2 * np.pi * 440 / RATE
    assert np.abs(np.diff(out)).max() < 1.6 * steepest


@pytest.mark.parametrize("speed", [0.2, 0.5, 0.83, 1.3])
def test_another_speed_keeps_the_pitch(speed: float) -> None:
    player = RecordingPlayer(tone(440, 3))
    player.set_speed(speed)
    player.play()
    out = pulled(player, 2.0)
    assert loudest_hertz(out) == pytest.approx(440, abs=2)
    assert player.position == pytest.approx(len(out) * speed, abs=1)
    assert float(np.abs(out[RATE // 2 :]).max()) == pytest.approx(0.5, rel=0.25)


@pytest.mark.slow
@pytest.mark.parametrize("cents", [-1200, -35, 100, 700])
def test_the_pitch_moves_by_cents_and_the_time_does_not(cents: float) -> None:
    player = RecordingPlayer(tone(440, 4))
    player.set_pitch(cents)
    player.play()
    out = pulled(player, 2.0)
    assert loudest_hertz(out) == pytest.approx(440 * 2 ** (cents / 1200), rel=0.003)
    assert player.position == pytest.approx(len(out))


@pytest.mark.slow
@pytest.mark.parametrize("speed", [0.5, 0.7])
def test_loops_stay_in_time_however_long_they_run(speed: float) -> None:
    player = RecordingPlayer(ticks(4, 0.5))
    player.set_speed(speed)
    player.set_region(round(0.5 * RATE), round(1.5 * RATE), loop=True)
    player.play()
    starts = struck(pulled(player, 20.0))
    expected = 0.5 * RATE / speed
    assert len(starts) >= 20 / (0.5 / speed) - 2
    for count, start in enumerate(starts):
        assert start - starts[0] == pytest.approx(count * expected, abs=0.012 * RATE)


def test_what_is_heard_and_the_position_agree_when_slowed_down() -> None:
    player = RecordingPlayer(ticks(6, 1.0))
    player.set_speed(0.5)
    player.play(round(0.2 * RATE))
    heard = []
    before = player.position
    for _ in range(400):
        block = player.read(441)
        if np.abs(block).max() > 0.1 and (not heard or before - heard[-1] > 0.5 * RATE):
            heard.append(before)
        before = player.position
    assert [round(place / RATE) for place in heard] == [1, 2]
    assert all(abs(place / RATE - round(place / RATE)) < 0.03 for place in heard)


def test_a_pause_lies_between_two_passes() -> None:
    player = RecordingPlayer(tone(440, 2))
    player.set_region(0, RATE // 10, loop=True)
    player.set_pause(0.2)
    player.play()
    out = np.abs(pulled(player, 1.2, 441)[:, 0])
    loud = out.reshape(-1, 441).max(axis=1) > 0.1
    assert list(loud[:10]) == [True] * 10
    assert list(loud[11:29]) == [False] * 18
    assert list(loud[31:39]) == [True] * 8
    assert player.passes == 4


def test_the_ladder_gets_faster_after_every_third_pass_up_to_its_top() -> None:
    player = RecordingPlayer(tone(440, 2))
    player.set_region(0, 4410, loop=True)
    player.set_ladder(Ladder(start=0.9, step=0.05, passes=3, top=1.0))
    player.play()
    speeds = {}
    while player.passes < 9:
        player.read(300)
        speeds.setdefault(player.passes, player.speed)
    assert speeds == pytest.approx({0: 0.9, 1: 0.9, 2: 0.9, 3: 0.95, 4: 0.95, 5: 0.95, 6: 1.0, 7: 1.0, 8: 1.0, 9: 1.0})


def test_without_a_loop_it_ends_at_the_end() -> None:
    player = RecordingPlayer(tone(440, 0.3))
    player.set_region(0, 4410, loop=False)
    player.play()
    out = pulled(player, 0.3, 100)
    assert np.abs(out[4500:]).max() == 0
    assert not player.is_playing
    assert player.position == 4410
    player.play(8000)
    assert player.is_playing, "behind the region it plays on to the end"
    pulled(player, 0.3, 100)
    assert not player.is_playing


@pytest.mark.parametrize("speed", [0.2, 0.3, 0.4, 0.5])
def test_attacks_are_not_smeared_early(speed: float) -> None:
    times = np.arange(round(0.3 * RATE)) / RATE
    struck_string = sum(0.75**k * np.sin(2 * np.pi * 220 * k * times) for k in range(1, 12)) * np.exp(-times / 0.15)
    samples = np.zeros((3 * RATE, 2), np.int16)
    starts = (0.5, 1.1, 1.8)
    for start in starts:
        at = round(start * RATE)
        samples[at : at + len(times)] = (9000 * struck_string)[:, None]
    player = RecordingPlayer(samples)
    player.set_speed(speed)
    player.play()
    out = np.abs(pulled(player, 2.5 / speed, 441)[:, 0])
    level = np.sqrt(np.convolve(out**2, np.ones(88) / 88, "same"))
    for start in starts:
        at = round(start * RATE / speed)
        around = level[at - round(0.15 * RATE) : at + round(0.1 * RATE)]
        assert np.argmax(around > 0.2 * around.max()) / RATE > 0.15 - 0.015


def test_the_speed_can_change_while_it_plays() -> None:
    player = RecordingPlayer(tone(440, 3))
    player.play()
    player.read(RATE // 2)
    player.set_speed(0.5)
    player.read(RATE // 2)
    assert player.position == pytest.approx(0.75 * RATE, abs=2)
    player.set_pitch(100)
    assert loudest_hertz(pulled(player, 1.0)) == pytest.approx(466.2, abs=2)


def test_clicks_fall_on_their_beats_at_any_speed() -> None:
    player = RecordingPlayer(np.zeros((3 * RATE, 2), np.int16))
    player.set_speed(0.5)
    player.set_clicks([Click(0.25, True), Click(0.75, False)], 1.0)
    player.play()
    starts = struck(pulled(player, 2.0))
    assert [start / RATE for start in starts] == pytest.approx([0.5, 1.5], abs=0.002)


def test_sides_bring_out_what_stands_there() -> None:
    left, right = np.float32(0.3), np.float32(-0.1)
    block = np.tile(np.array([[left, right]]), (5, 1))
    heard = {side: float(on_side(block, side)[0, 0]) for side in Side}
    assert heard == pytest.approx({
        Side.BOTH: 0.3, Side.LEFT: 0.3, Side.RIGHT: -0.1, Side.MIDDLE: 0.1, Side.EDGES: 0.2,
    })  # fmt: skip
    assert all(on_side(block, side).shape == (5, 2) for side in Side)


@pytest.mark.slow
def test_a_band_lets_its_own_frequencies_pass_and_holds_the_others_back() -> None:
    levels = {}
    for hertz in (80, 440, 5000):
        band = BandPass(RATE)
        band.set_band((300, 900))
        sound = tone(hertz, 1).astype(np.float32) / 32768
        out = np.concatenate([band.run(part) for part in np.array_split(sound, 50)])
        levels[hertz] = float(np.abs(out[RATE // 2 :]).max())
    assert levels[440] == pytest.approx(0.5, rel=0.1)
    assert levels[80] < 0.05
    assert levels[5000] < 0.05
    band.set_band(None)
    assert band.run(sound) is sound


def test_pitch_taken_up_and_given_up_while_playing_goes_on_from_the_same_place() -> None:
    times = np.arange(6 * RATE) / RATE
    sound = (8000 * np.sin(2 * np.pi * 440 * times)).astype(np.int16)
    player = RecordingPlayer(np.stack([sound, sound], axis=1))
    player.set_speed(0.8)
    player.play(0)
    player.read(RATE)
    here = player.position
    player.set_pitch(1200)
    assert player.position == pytest.approx(here)
    high = np.concatenate([player.read(RATE // 2) for _ in range(3)])[RATE // 2 :, 0]
    assert strongest(high) == pytest.approx(880, abs=6)
    player.set_pitch(0)
    plain = np.concatenate([player.read(RATE // 2) for _ in range(3)])[RATE // 2 :, 0]
    assert strongest(plain) == pytest.approx(440, abs=6)
    assert player.position == pytest.approx(here + 0.8 * 3 * RATE, rel=0.05)


def strongest(sound: np.ndarray) -> float:
    """The loudest frequency, in Hz."""
    spectrum = np.abs(np.fft.rfft(sound * np.hanning(len(sound))))
    return float(np.argmax(spectrum) * RATE / len(sound))
