from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np
import pytest
import soundfile
from hypothesis import given
from hypothesis import strategies as st
from tests.conftest import whole

from gavotte.recording.decode import Decoded, decode
from gavotte.recording.errors import RecordingError
from gavotte.recording.player import RATE
from gavotte.recording.waveform import FINEST, Peaks, find_peaks


def sound(rate: int, seconds: float = 1.0, channels: int = 2, level: float = 0.5) -> np.ndarray[Any, Any]:
    times = np.arange(round(rate * seconds)) / rate
    one = level * np.sin(2 * np.pi * 330 * times)
    return np.stack([one] * channels, axis=1).astype(np.float32)


def write(path: Path, data: np.ndarray[Any, Any], rate: int, **options: str) -> Path:
    with soundfile.SoundFile(path, "w", rate, data.shape[1], **options) as out:
        for start in range(0, len(data), 4096):
            out.write(data[start : start + 4096])
    return path


def read(path: Path, folder: Path) -> Decoded:
    found = whole(decode(path, folder))
    assert isinstance(found, Decoded)
    return found


@pytest.mark.parametrize(
    ("name", "rate", "channels"),
    [
        ("a.wav", 44100, 2),
        ("a.wav", 8000, 1),
        ("a.wav", 192000, 2),
        ("a.wav", 48000, 5),
        ("a.flac", 44100, 1),
        ("a.ogg", 44100, 2),
        ("a.mp3", 44100, 2),
        ("a.aiff", 22050, 1),
    ],
)
def test_every_kind_is_decoded_to_the_same_form(tmp_path: Path, name: str, rate: int, channels: int) -> None:
    found = read(write(tmp_path / name, sound(rate, 1.0, channels), rate), tmp_path / "kept")
    assert found.seconds == pytest.approx(1.0, abs=0.06)
    assert found.remarks == ()
    samples = found.samples()
    assert samples.shape == (found.frames, 2)
    middle = np.asarray(samples[RATE // 4 : RATE * 3 // 4]).astype(float)
    assert np.abs(middle).max() == pytest.approx(0.5 * 32767, rel=0.05)
    spectrum = np.abs(np.fft.rfft(middle[:, 0]))
    assert np.argmax(spectrum) * RATE / len(middle) == pytest.approx(330, abs=3)


def test_what_was_decoded_is_kept(tmp_path: Path) -> None:
    path = write(tmp_path / "a.wav", sound(RATE), RATE)
    first = read(path, tmp_path / "kept")
    stamp = first.path.stat().st_mtime_ns
    again = tmp_path / "the same under another name.wav"
    again.write_bytes(path.read_bytes())
    assert read(again, tmp_path / "kept").path == first.path
    assert first.path.stat().st_mtime_ns == stamp
    assert [file.name for file in (tmp_path / "kept").iterdir()] == [first.path.name]


@pytest.mark.parametrize(
    ("name", "data", "words"),
    [
        ("a.wav", b"", "empty"),
        ("a.mp3", b"this is a letter, not music" * 20, "can't be decoded"),
        ("a.wav", b"RIFF\x24\x00\x00\x00WAVEfmt ", "can't be decoded"),
        ("a.flac", b"fLaC" + b"\x00" * 60, "can't be decoded"),
    ],
)
def test_what_is_no_recording_is_refused(tmp_path: Path, name: str, data: bytes, words: str) -> None:
    (tmp_path / name).write_bytes(data)
    with pytest.raises(RecordingError, match=words):
        whole(decode(tmp_path / name, tmp_path / "kept"))
    assert list((tmp_path / "kept").iterdir() if (tmp_path / "kept").exists() else []) == []


def test_a_wrong_ending_does_not_matter(tmp_path: Path) -> None:
    path = write(tmp_path / "a.flac", sound(RATE), RATE)
    path.rename(tmp_path / "a.wav")
    assert read(tmp_path / "a.wav", tmp_path / "kept").frames == RATE


@pytest.mark.parametrize(
    ("data", "words"),
    [(np.zeros((RATE, 2), np.float32), "silent"), (np.sign(sound(RATE)), "overdriven")],
)
def test_silence_and_overdrive_are_remarked(tmp_path: Path, data: np.ndarray[Any, Any], words: str) -> None:
    found = read(write(tmp_path / "a.wav", data, RATE), tmp_path / "kept")
    assert words in found.remarks[0]


def test_a_cut_off_recording_is_read_as_far_as_it_goes(tmp_path: Path) -> None:
    path = write(tmp_path / "a.mp3", sound(RATE, 5.0), RATE)
    path.write_bytes(path.read_bytes()[: path.stat().st_size // 2])
    found = read(path, tmp_path / "kept")
    assert found.seconds == pytest.approx(2.5, abs=0.3)


def test_decoding_that_is_given_up_leaves_nothing(tmp_path: Path) -> None:
    path = write(tmp_path / "a.wav", sound(RATE, 5.0), RATE)
    steps = decode(path, tmp_path / "kept")
    while next(steps) < 0.5:
        pass
    assert len(list((tmp_path / "kept").iterdir())) == 1
    steps.close()
    assert list((tmp_path / "kept").iterdir()) == []


@given(
    st.integers(1, 9000),
    st.floats(0, 3000),
    st.sampled_from([0.5, 3.0, 100.0, 128.0, 700.0, 1500.0]),
    st.integers(0, 2**31),
)
def test_columns_hold_every_peak(frames: int, start: float, per_column: float, seed: int) -> None:
    samples = np.random.default_rng(seed).integers(-30000, 30000, (frames, 2)).astype(np.int16)
    peaks = whole(find_peaks(samples))
    assert isinstance(peaks, Peaks)
    columns = peaks.columns(samples, start, per_column, 20)
    assert columns.shape == (20, 2)
    mono = samples.astype(np.int32).sum(axis=1) // 2
    size = 1 if per_column < FINEST else FINEST
    for k, (low, high) in enumerate(columns):
        first, last = start + k * per_column, start + (k + 1) * per_column
        if first >= np.ceil(frames / size) * size:
            assert low == high == 0
            continue
        # A column may reach over its edges by the stretch it is made of, never fall short of its inside.
        inside = mono[int(np.ceil(first / size) * size) : int(last / size) * size]
        if len(inside):
            assert low * 32768 <= inside.min() + 1
            assert high * 32768 >= inside.max() - 1


def test_the_coarse_picture_agrees_with_the_fine_one() -> None:
    samples = np.random.default_rng(3).integers(-30000, 30000, (FINEST * 64 * 40, 2)).astype(np.int16)
    peaks = whole(find_peaks(samples))
    assert len(peaks.levels) == 4
    coarse = peaks.columns(samples, 0, FINEST * 64, 40)
    fine = peaks.columns(samples, 0, FINEST, 64 * 40).reshape(40, 64, 2)
    assert np.array_equal(coarse[:, 0], fine[:, :, 0].min(axis=1))
    assert np.array_equal(coarse[:, 1], fine[:, :, 1].max(axis=1))
