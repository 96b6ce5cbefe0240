"""Only regular files are read, whatever was named; nothing waits for a pipe or reads a device for ever."""

from __future__ import annotations

import os
from pathlib import Path

import pytest

from gavotte.cli import main
from gavotte.formats.opening import open_source
from gavotte.recording.decode import decode
from gavotte.recording.errors import RecordingError
from gavotte.regular_file import NotRegularError, is_regular, read_regular
from gavotte.steps import whole


def pipe(folder: Path, name: str) -> Path:
    """A pipe nobody writes to."""
    os.mkfifo(folder / name)
    return folder / name


def link(folder: Path, name: str) -> Path:
    """A file that never ends, by another name."""
    (folder / name).symlink_to("/dev/zero")
    return folder / name


def directory(folder: Path, name: str) -> Path:
    """A folder that is called as a file is."""
    (folder / name).mkdir()
    return folder / name


@pytest.mark.parametrize("make", [pipe, link, directory])
@pytest.mark.parametrize("name", ["solo.musicxml", "solo.mid"])
def test_what_is_no_file_is_refused_at_once(make: object, name: str, tmp_path: Path) -> None:
    path = make(tmp_path, name)  # type: ignore[operator]
    with pytest.raises(NotRegularError):
        open_source(path)
    with pytest.raises(NotRegularError):
        whole(decode(path, tmp_path / "decoded"))
    assert not is_regular(path)


def test_the_command_goes_on_after_what_is_no_file(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    bad = [pipe(tmp_path, "a.json"), tmp_path / ("n" * 300 + ".mid"), tmp_path / "no\0thing.mid", tmp_path / "none.xml"]
    assert main(["label", *map(str, bad)]) == 1
    assert "0 of 4 files labelled, 4 failed" in capsys.readouterr().err


def test_a_file_that_is_larger_than_wanted_is_not_read(tmp_path: Path) -> None:
    (tmp_path / "large").write_bytes(bytes(100))
    assert len(read_regular(tmp_path / "large", 100)) == 100
    with pytest.raises(NotRegularError, match="larger"):
        read_regular(tmp_path / "large", 99)


def test_a_recording_that_is_still_being_written_is_refused(tmp_path: Path) -> None:
    path = tmp_path / "take.wav"
    path.write_bytes(bytes(3 << 20))
    steps = decode(path, tmp_path / "decoded")
    next(steps)
    with path.open("ab") as file:
        file.write(bytes(3 << 20))
    with pytest.raises(RecordingError, match="still being written"):
        whole(steps)


def test_no_file_has_such_a_name(tmp_path: Path) -> None:
    for name in ("x" * 300, "no\0thing"):
        assert not is_regular(tmp_path / name)
