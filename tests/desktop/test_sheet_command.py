"""``gavotte sheet``: teaching sheets as files, without a window."""

from __future__ import annotations

import json
from dataclasses import replace
from pathlib import Path

import pytest
from pypdf import PdfReader
from tests.conftest import make_solo
from tests.sheets.test_sheet import full_sheet

from gavotte.cli import main
from gavotte.formats.musicxml_write import write_musicxml
from gavotte.library.store import Library

TWO_FIVE = [("Dm7", "D5/8 F5 A5 C6 B5 A5 G5 F5"), ("G7", "B4/8 D5 F5 A5 G5/2"), ("Cmaj7", "E5/4 G5 C5/2")]


@pytest.fixture
def files(tmp_path: Path) -> list[str]:
    paths = []
    for player in ("Ann", "Bo"):
        path = tmp_path / f"{player}.musicxml"
        path.write_bytes(write_musicxml(replace(make_solo(TWO_FIVE), title=f"{player}’s Line", player=player)))
        paths.append(str(path))
    return paths


def text_of(path: Path) -> str:
    return "\n".join(page.extract_text() for page in PdfReader(path).pages)


def test_each_solo_becomes_a_sheet_of_its_own(
    files: list[str], tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    out = tmp_path / "sheets"
    assert main(["sheet", *files, "--out", str(out), "--rights", "For us alone", "--paper", "Letter"]) == 0
    assert sorted(path.name for path in out.iterdir()) == ["Ann’s Line.pdf", "Bo’s Line.pdf"]
    assert capsys.readouterr().out.splitlines() == [str(out / "Ann’s Line.pdf"), str(out / "Bo’s Line.pdf")]
    told = text_of(out / "Ann’s Line.pdf")
    assert "Bar by bar" in told
    assert "For us alone" in told
    assert PdfReader(out / "Bo’s Line.pdf").pages[0].mediabox.width == pytest.approx(612, abs=1)


def test_all_forms_for_several_readers(files: list[str], tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    given = [
        "sheet",
        files[0],
        "--template",
        "lick",
        "--format",
        "html",
        "md",
        "musicxml",
        "mid",
        "--for",
        "b-flat",
        "f",
    ]
    assert main([*given, "--out", str(tmp_path / "lick.html"), "--title", "Mine", "--json"]) == 0
    listed = json.loads(capsys.readouterr().out)
    names = [Path(entry["file"]).name for entry in listed]
    assert {"lick (B♭).html", "lick (F).html", "lick (B♭).md", "lick (B♭).musicxml", "lick.mid"} <= set(names)
    assert all(Path(entry["file"]).stat().st_size == entry["bytes"] for entry in listed)
    assert "Em7" in (tmp_path / "lick (B♭).md").read_text(encoding="utf-8")
    assert "Am7" in (tmp_path / "lick (F).md").read_text(encoding="utf-8")


def test_players_share_one_sheet(files: list[str], tmp_path: Path) -> None:
    out = tmp_path / "players.pdf"
    assert main(["sheet", *files, "--template", "players", "--out", str(out)]) == 0
    assert "Two players over one long ii-V-I" in text_of(out)


def test_bars_of_a_solo_in_all_keys(files: list[str], tmp_path: Path) -> None:
    out = tmp_path / "keys.pdf"
    assert main(["sheet", files[0], "--template", "keys", "--bars", "1-2", "--out", str(out)]) == 0
    assert len(PdfReader(out).pages) == 12


def test_a_sheet_of_a_library(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    with Library(tmp_path / "library") as library:
        library.add_sheet(full_sheet())
    given = ["sheet", "--library", str(tmp_path / "library"), "--out", str(tmp_path / "out"), "--sheet"]
    assert main([*given, "all"]) == 0
    assert sorted(path.name for path in (tmp_path / "out").iterdir()) == ["All (C).pdf", "All (E♭).pdf"]
    assert main([*given, "Other"]) == 1
    assert "no sheet is called “Other” (there are: All)" in capsys.readouterr().err


def test_what_goes_wrong_is_said(files: list[str], tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    silent = tmp_path / "silent.musicxml"
    silent.write_bytes(write_musicxml(make_solo([("C", "r/1")])))
    assert main(["sheet", str(silent), files[0], "--out", str(tmp_path / "out")]) == 1
    assert "silent.musicxml: There are no pitched notes" in capsys.readouterr().err
    assert (tmp_path / "out" / "Ann’s Line.pdf").is_file()
    assert main(["sheet", files[0], "--template", "lick", "--bars", "7-9", "--out", str(tmp_path)]) == 1
    assert "there are no notes in bars 7 to 9" in capsys.readouterr().err
    for misused, said in (
        ([], "name FILES"),
        ([files[0], "--sheet", "x"], "name FILES"),
        (["--sheet", "x"], "in which library"),
        ([files[0], "--bars", "b"], "write 5 or 5-8"),
        ([files[0], "--staff", "50"], "mm high"),
        ([files[0], "--over", "x"], "no changes called x"),
    ):
        assert main(["sheet", *misused]) == 2
        assert said in capsys.readouterr().err
    assert main(["sheet", "--library", str(tmp_path / "none"), "--sheet", "x"]) == 1
    assert "there is no library" in capsys.readouterr().err
