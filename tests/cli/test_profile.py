"""``gavotte profile``."""

from __future__ import annotations

import csv
import io
import json
from pathlib import Path

import pytest

from gavotte.cli import main
from gavotte.demo.more_solos import TUNES, played
from gavotte.formats.musicxml_write import write_musicxml


@pytest.fixture(scope="module")
def files(tmp_path_factory: pytest.TempPathFactory) -> dict[str, list[str]]:
    folder = tmp_path_factory.mktemp("solos")
    found: dict[str, list[str]] = {}
    for number, tune in enumerate(TUNES):
        solo = played(tune)
        path = folder / f"{number}.musicxml"
        path.write_bytes(write_musicxml(solo))
        found.setdefault(solo.player.split()[0], []).append(str(path))
    return found


def test_figures_are_told_family_by_family(files: dict[str, list[str]], capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["profile", *files["Odo"]]) == 0
    out = capsys.readouterr().out
    assert out.startswith("3 solos, ")
    for family in ("Functions", "Degrees", "Landings at changes", "Phrases", "Intervals", "Rhythm"):
        assert out.count(f"\n{family}\n") == 1
    assert "phrases that end on the 9th: " in out


def test_what_sets_a_player_apart_is_told_with_places(
    files: dict[str, list[str]], capsys: pytest.CaptureFixture[str]
) -> None:
    assert main(["profile", *files["Ilka"], "--against", *files["Odo"], *files["Perpetua"]]) == 0
    out = capsys.readouterr().out
    assert "Phrases that end on the root: 91 % in these 3" in out
    assert "from bar " in out


def test_everything_is_there_as_json(files: dict[str, list[str]], capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["profile", *files["Ilka"], "--against", *files["Odo"], "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert told["solos"] == 3
    assert told["against"]["solos"] == 3
    assert told["confidence"] == 0.95
    by_name = {one["name"]: one for one in told["figures"]}
    assert by_name["function chord"]["low"] < by_name["function chord"]["value"] < by_name["function chord"]["high"]
    ending = next(one for one in told["differences"] if one["name"] == "ending on 1")
    assert ending["stands_out"]
    assert ending["here"] > 0.8 > ending["there"]
    place = ending["examples"][0]
    assert place["file"] in files["Ilka"]
    assert 0 <= place["first"] <= place["last"]


def test_tables_have_a_heading_and_a_row_for_each(
    files: dict[str, list[str]], capsys: pytest.CaptureFixture[str]
) -> None:
    assert main(["profile", *files["Odo"], "--csv"]) == 0
    rows = list(csv.DictReader(io.StringIO(capsys.readouterr().out)))
    assert {"name", "value", "low", "high", "among", "formula"} <= set(rows[0])
    assert all(float(row["low"]) <= float(row["high"]) for row in rows)
    assert main(["profile", *files["Odo"], "--against", *files["Ilka"], "--csv"]) == 0
    rows = list(csv.DictReader(io.StringIO(capsys.readouterr().out)))
    assert abs(float(rows[0]["z"])) >= abs(float(rows[-1]["z"]))


def test_a_file_that_fails_does_not_stop_the_rest(
    files: dict[str, list[str]], tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    broken = tmp_path / "broken.musicxml"
    broken.write_text("<score")
    assert main(["profile", *files["Odo"], str(broken), str(tmp_path / "gone.mid")]) == 1
    told = capsys.readouterr()
    assert told.out.startswith("3 solos")
    assert "broken.musicxml" in told.err
    assert "gone.mid" in told.err
    assert main(["profile", str(broken)]) == 1
    assert capsys.readouterr().out == ""


def test_misuse_is_told(capsys: pytest.CaptureFixture[str]) -> None:
    with pytest.raises(SystemExit) as stopped:
        main(["profile"])
    assert stopped.value.code == 2
    with pytest.raises(SystemExit) as stopped:
        main(["profile", "--help"])
    assert stopped.value.code == 0
    assert "examples:" in capsys.readouterr().out


def test_parts_of_the_solos_are_told(files: dict[str, list[str]], capsys: pytest.CaptureFixture[str]) -> None:
    kettle, umbrellas = files["Odo"][0], files["Odo"][2]
    notes = []
    for part in ("whole", "first", "last"):
        assert main(["profile", kettle, umbrellas, "--part", part, "--json"]) == 0
        notes.append(json.loads(capsys.readouterr().out)["notes"])
    assert notes[0] > notes[1] > 0
    assert notes[0] > notes[2] > 0
    assert main(["profile", kettle, "--part", "first", "--against", kettle, "--against-part", "last", "--csv"]) == 0
    assert capsys.readouterr().out.startswith("name,family,words,here,there")


def test_a_part_a_solo_does_not_have_is_told(files: dict[str, list[str]], capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["profile", *files["Odo"], "--part", "section=Q"]) == 1
    assert "no notes in the part “section=Q”" in capsys.readouterr().err
    with pytest.raises(SystemExit) as ended:
        main(["profile", *files["Odo"], "--part", "bridge"])
    assert ended.value.code == 2
    assert "“bridge” is no part of a solo" in capsys.readouterr().err
