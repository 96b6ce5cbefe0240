"""Files written whole or not at all, where and as the user has them."""

from __future__ import annotations

import stat
from pathlib import Path

import pytest

from gavotte.formats import whole_file
from gavotte.formats.whole_file import write_whole


def test_a_file_keeps_its_mode_and_a_link_stays_one(tmp_path: Path) -> None:
    goal, link = tmp_path / "goal", tmp_path / "link"
    goal.write_text("old")
    goal.chmod(0o640)
    link.symlink_to(goal)
    write_whole(link, b"new")
    assert link.is_symlink()
    assert goal.read_bytes() == b"new"
    assert stat.S_IMODE(goal.stat().st_mode) == 0o640
    assert {path.name for path in tmp_path.iterdir()} == {"goal", "link"}


def test_a_new_file_gets_what_the_umask_allows(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(whole_file, "_UMASK", 0o027)
    write_whole(tmp_path / "new", b"new")
    assert stat.S_IMODE((tmp_path / "new").stat().st_mode) == 0o640


def test_a_name_as_long_as_names_may_be(tmp_path: Path) -> None:
    write_whole(tmp_path / ("n" * 255), b"new")
    assert (tmp_path / ("n" * 255)).read_bytes() == b"new"
