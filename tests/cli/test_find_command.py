"""``gavotte find``: where solos have what is asked for, on standard output."""

from __future__ import annotations

import csv
import io
import json
from pathlib import Path

import pytest
from tests.conftest import make_solo

from gavotte.cli import main
from gavotte.formats.musicxml_write import write_musicxml

LINE = [("Dm7", "D5/8 F5 A5 C6 B5 A5 G5 F5"), ("G7", "B4/8 D5 F5 Ab5 G5/2")]


@pytest.fixture
def file(tmp_path: Path) -> str:
    path = tmp_path / "line.musicxml"
    path.write_bytes(write_musicxml(make_solo(LINE)))
    return str(path)


def test_places_as_json(file: str, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["find", "3 5 b7 b9 on V", file, "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert told == [{"file": file, "id": "line", "first": 8, "last": 11, "why": "3 5 ♭7 ♭9, over G7"}]


def test_places_as_text(file: str, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["find", "3 5", file]) == 0
    assert "bar 2, beat 1: B D (3 5, over G7)" in capsys.readouterr().out
    assert main(["find", "+11 -11", file]) == 0
    assert capsys.readouterr().out == "No place answers.\n"
    assert main(["find", "+11 -11", file, "--json"]) == 0
    assert json.loads(capsys.readouterr().out) == []


def test_a_wrong_query_is_misuse(file: str, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["find", "3 fivve", file]) == 2
    output = capsys.readouterr()
    assert output.out == ""
    assert "“fivve” (word 2)" in output.err


def test_a_file_that_fails_does_not_stop_the_rest(
    file: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    broken = tmp_path / "broken.mid"
    broken.write_bytes(b"MThd")
    assert main(["find", "3 5 b7 b9", str(broken), file, "--json"]) == 1
    output = capsys.readouterr()
    assert len(json.loads(output.out)) == 1
    assert "broken.mid" in output.err


def test_places_as_a_table(file: str, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["find", "3 5 b7 b9 on V", file, "--csv"]) == 0
    rows = list(csv.DictReader(io.StringIO(capsys.readouterr().out)))
    assert len(rows) == 1
    assert (rows[0]["first"], rows[0]["last"], rows[0]["bar"], rows[0]["notes"]) == ("8", "11", "2", "B D F A♭")
    assert rows[0]["why"] == "3 5 ♭7 ♭9, over G7"
    with pytest.raises(SystemExit) as ended:
        main(["find", "3 5", file, "--csv", "--json"])
    assert ended.value.code == 2
