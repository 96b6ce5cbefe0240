from __future__ import annotations

import numpy as np
import pytest
from numpy.typing import NDArray
from tests.conftest import whole

from gavotte.recording.beats import (
    FRAME_SECONDS,
    find_beats,
    find_onsets,
    find_pulse,
    is_played,
    likely_tempo,
    onset_envelope,
)
from gavotte.recording.player import RATE
from gavotte.recording.swing import measure_swing
from gavotte.recording.tuning import measure_tuning


def struck(times: list[float], seconds: float, seed: int = 0) -> NDArray[np.int16]:
    """Short noises at some times, on soft noise."""
    chance = np.random.default_rng(seed)
    out = chance.normal(0, 30, round(seconds * RATE))
    for time in times:
        at = round(time * RATE)
        out[at : at + 3000] += (chance.normal(0, 6000, 3000) * np.exp(-np.arange(3000) / 700))[: len(out) - at]
    return np.repeat(np.clip(out, -32000, 32000).astype(np.int16)[:, None], 2, axis=1)


def tones(hertz: list[float], seconds: float = 6.0) -> NDArray[np.int16]:
    times = np.arange(round(seconds * RATE)) / RATE
    part = len(times) // len(hertz)
    out = np.zeros(len(times))
    for k, pitch in enumerate(hertz):
        here = slice(k * part, (k + 1) * part)
        out[here] = sum(np.sin(2 * np.pi * n * pitch * times[here]) / n for n in range(1, 6))
    return np.repeat((4000 * out).astype(np.int16)[:, None], 2, axis=1)


def test_an_even_pulse_is_found_to_the_frame() -> None:
    times = [0.8 + 0.5 * k for k in range(30)]
    envelope = whole(onset_envelope(struck(times, 17.0)))
    found = find_beats(envelope, 120)
    assert len(found) == pytest.approx(30, abs=1)
    assert all(min(abs(beat - time) for time in times) < 2 * FRAME_SECONDS for beat in found)
    assert likely_tempo(envelope) == pytest.approx(120, rel=0.02)


def test_a_tempo_that_wavers_is_followed() -> None:
    times = list(np.cumsum(0.45 + 0.05 * np.sin(np.arange(50) / 6)))
    envelope = whole(onset_envelope(struck(times, times[-1] + 1)))
    found = find_beats(envelope, 130)
    hit = sum(min(abs(beat - time) for time in times) < 0.05 for beat in found)
    assert hit > 0.9 * len(times)


def test_taps_decide_which_of_two_pulses_is_the_beat() -> None:
    times = sorted([0.5 + 0.6 * k for k in range(40)] + [0.8 + 0.6 * k for k in range(40)])
    envelope = whole(onset_envelope(struck(times, 26.0)))
    for phase in (0.5, 0.8):
        found = find_beats(envelope, 100, [phase + 0.6 * k for k in range(6)])
        assert np.median([abs((beat - phase + 0.3) % 0.6 - 0.3) for beat in found]) < 0.03


def test_silence_has_no_beats() -> None:
    silent = np.zeros((4 * RATE, 2), np.int16)
    assert find_beats(whole(onset_envelope(silent)), 120) == ()
    assert find_beats(np.zeros(3), 120) == ()
    assert likely_tempo(np.zeros(3)) > 0


@pytest.mark.parametrize("cents", [-45, -20, 0, 12, 35])
def test_the_tuning_is_measured_to_a_few_cents(cents: float) -> None:
    scale = [220 * 2 ** (k / 12 + cents / 1200) for k in (0, 2, 4, 5, 7, 9, 11, 12)]
    assert whole(measure_tuning(tones(scale))) == pytest.approx(cents, abs=3)


def test_what_has_no_pitch_has_no_tuning() -> None:
    assert whole(measure_tuning(np.zeros((3 * RATE, 2), np.int16))) is None
    assert whole(measure_tuning(np.zeros((100, 2), np.int16))) is None


def band(beats_a_minute: float, swing: float, bars: int = 16, every_beat: bool = True) -> NDArray[np.int16]:
    """A bass on every beat and a cymbal on beats and the second eighths of every other one."""
    step, chance = 60 / beats_a_minute, np.random.default_rng(1)
    out = np.zeros(round((4 * bars * step + 2) * RATE))
    times = np.arange(round(0.25 * RATE)) / RATE
    bass = np.sin(2 * np.pi * 80 * times) * np.exp(-times / 0.1) * np.minimum(1, times / 0.004)
    cymbal = chance.normal(0, 0.4, len(times)) * np.exp(-times / 0.03)
    for beat in range(4 * bars):
        at = 1 + beat * step
        parts = [(at, bass), (at, cymbal)] if every_beat or chance.random() < 0.55 else []
        if beat % 2 or not every_beat:
            parts.append((at + step * swing / (1 + swing), 0.7 * cymbal))
        for time, sound in parts:
            first = round(time * RATE)
            out[first : first + len(sound)] += sound[: len(out) - first]
    return np.repeat((out / np.abs(out).max() * 20000).astype(np.int16)[:, None], 2, axis=1)


@pytest.mark.parametrize("tempo", [100, 152, 200, 240])
def test_fast_beats_are_not_taken_for_half_as_many(tempo: float) -> None:
    pulse = find_pulse(whole(find_onsets(band(tempo, 1.5))))
    assert pulse.beats_a_minute == pytest.approx(tempo, rel=0.04)
    assert pulse.is_played
    assert len(pulse.times) == pytest.approx(64, abs=2)


def test_the_bars_of_the_solo_want_their_beats() -> None:
    # Only every second beat is struck, and nothing tells it from the beat but the bars.
    onsets = whole(find_onsets(struck([1 + 0.5 * k for k in range(40)], 22.0)))
    assert find_pulse(onsets).beats_a_minute == pytest.approx(120, rel=0.03)
    assert len(find_pulse(onsets, fewest=76).times) > 70


def test_a_soloist_alone_plays_no_beat_that_can_be_followed() -> None:
    onsets = whole(find_onsets(band(150, 1.8, every_beat=False)))
    assert not is_played(onsets, [1 + 0.4 * k for k in range(64)])
    assert not is_played(onsets, [])


@pytest.mark.parametrize(("tempo", "swing"), [(120, 1.0), (120, 2.0), (160, 1.5), (220, 1.0), (220, 1.35)])
def test_swing_is_measured_from_what_is_struck_between_the_beats(tempo: float, swing: float) -> None:
    envelope = whole(onset_envelope(band(tempo, swing)))
    beats = [1 + 60 / tempo * k for k in range(64)]
    assert float(measure_swing(beats, envelope, FRAME_SECONDS)) == pytest.approx(swing, abs=0.16)
    assert measure_swing(beats[:4], envelope, FRAME_SECONDS) == 1
