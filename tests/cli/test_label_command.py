"""``gavotte label``: files in, labels out, and what goes wrong with some of them."""

from __future__ import annotations

import csv
import io
import json
from dataclasses import replace
from pathlib import Path

import pytest
from tests.conftest import DATA, make_solo

from gavotte.cli import main
from gavotte.formats.document import SOLO_DOCUMENT
from gavotte.formats.midi_write import write_midi
from gavotte.formats.musicxml import open_score
from gavotte.formats.musicxml_write import write_musicxml
from gavotte.labelling.labeller import label_solo
from gavotte.library.schools import keep_schools
from gavotte.library.store import Library
from gavotte.solo.document import Solo
from gavotte.solo.label import Label
from gavotte.solo.school import VERTICAL

SOLO = replace(make_solo([("Dm7", "A4/2 r/2"), ("G7", "E5/4 D5/4 B4/2")]), title="A line")
Capture = pytest.CaptureFixture[str]


@pytest.fixture
def files(tmp_path: Path) -> list[Path]:
    """The same solo as MusicXML, MIDI, Gavotte's own document, and the passages."""
    score, midi, own = tmp_path / "line.musicxml", tmp_path / "line.mid", tmp_path / "line.json"
    score.write_bytes(write_musicxml(SOLO))
    midi.write_bytes(write_midi(SOLO))
    own.write_bytes(SOLO_DOCUMENT.write(SOLO))
    return [score, midi, own, DATA / "passages.json"]


def test_files_of_every_kind_are_labelled_as_json(files: list[Path], capsys: Capture) -> None:
    assert main(["label", *map(str, files)]) == 0
    out, err = capsys.readouterr()
    passages = json.loads(out)
    given = json.loads((DATA / "passages.json").read_text(encoding="utf-8"))
    assert len(passages) == 3 + len(given)
    for passage in passages:
        assert len(passage["labels"]) == len(passage["notes"])
    for line in passages[:3]:
        assert [label["function"] for label in line["labels"]] == ["chord", "passing", "chord", "chord"]
        assert line["labels"][1]["target"] == 2
    assert "4 of 4 files labelled" in err


def test_one_file_prints_what_it_always_did(capsys: Capture) -> None:
    assert main(["label", str(DATA / "passages.json")]) == 0
    out, err = capsys.readouterr()
    assert [p["id"] for p in json.loads(out)] == [
        p["id"] for p in json.loads((DATA / "passages.json").read_text(encoding="utf-8"))
    ]
    assert err == ""


def test_a_table_of_all_notes(files: list[Path], capsys: Capture) -> None:
    assert main(["label", "--csv", *map(str, files[:3])]) == 0
    rows = list(csv.DictReader(io.StringIO(capsys.readouterr().out)))
    assert len(rows) == 12
    assert {row["file"] for row in rows} == set(map(str, files[:3]))
    assert [row["function"] for row in rows[:4]] == ["chord", "passing", "chord", "chord"]


def test_scores_with_degrees_beside_the_files_or_in_a_folder(files: list[Path], tmp_path: Path) -> None:
    assert main(["label", "--musicxml", str(files[0])]) == 0
    beside = tmp_path / "line.labelled.musicxml"
    assert "<text>13</text>" in beside.read_text(encoding="utf-8")
    assert main(["label", "--musicxml", "--into", str(tmp_path / "out"), str(files[3])]) == 0
    made = sorted((tmp_path / "out").iterdir())
    assert len(made) == len(json.loads(files[3].read_text(encoding="utf-8")))
    assert len(open_score(made[0].read_bytes()).solo().solo.notes) > 10


@pytest.mark.parametrize("name", ["vertical", "VERTICAL", "my way"])
def test_a_school_by_name(name: str, files: list[Path], capsys: Capture, monkeypatch: pytest.MonkeyPatch) -> None:
    folder = files[0].parent / "data"
    monkeypatch.setattr("platformdirs.user_data_dir", lambda app: str(folder))
    with Library(folder / "library") as library:
        keep_schools(library, [replace(VERTICAL, name="My way")])
    assert main(["label", "--school", name, str(files[0])]) == 0
    (passage,) = json.loads(capsys.readouterr().out)
    assert passage["labels"][1]["function"] == "extension"
    assert label_solo(SOLO, VERTICAL)[1].function == "extension"


def test_an_unknown_school_is_misuse_and_names_those_there_are(files: list[Path], capsys: Capture) -> None:
    with pytest.raises(SystemExit) as stopped:
        main(["label", "--school", "nobody's", str(files[0])])
    assert stopped.value.code == 2
    assert "Linear, Vertical, Key-centred" in capsys.readouterr().err


@pytest.mark.parametrize("given", [["--csv", "--json"], ["--into", "x"], []])
def test_options_that_dont_go_together_are_misuse(given: list[str], files: list[Path]) -> None:
    with pytest.raises(SystemExit) as stopped:
        main(["label", *given, *([str(files[0])] if given else [])])
    assert stopped.value.code == 2


def test_a_file_that_fails_does_not_stop_the_rest(files: list[Path], tmp_path: Path, capsys: Capture) -> None:
    bad = tmp_path / "bad.musicxml"
    bad.write_text("<score", encoding="utf-8")
    (tmp_path / "notes.txt").write_text("no music", encoding="utf-8")
    given = [bad, tmp_path / "gone.mid", files[0], tmp_path / "notes.txt"]
    assert main(["label", *map(str, given)]) == 1
    out, err = capsys.readouterr()
    assert len(json.loads(out)) == 1
    for name in ("bad.musicxml", "gone.mid", "notes.txt"):
        assert name in err
    assert "1 of 4 files labelled, 3 failed" in err


def test_a_score_that_cant_be_written_is_told(files: list[Path], tmp_path: Path, capsys: Capture) -> None:
    (tmp_path / "taken").write_text("a file", encoding="utf-8")
    assert main(["label", "--musicxml", "--into", str(tmp_path / "taken"), str(files[0])]) == 1
    assert "can't be written" in capsys.readouterr().err


def test_a_passage_on_standard_input(monkeypatch: pytest.MonkeyPatch, capsys: Capture) -> None:
    item = {"id": "typed", "chords": [["0", "C"]], "notes": [["0", "1", "C4"], ["1", "1", "D4"], ["2", "2", "E4"]]}
    stream = io.TextIOWrapper(io.BytesIO(json.dumps(item).encode()))
    monkeypatch.setattr("sys.stdin", stream)
    assert main(["label", "-"]) == 0
    (passage,) = json.loads(capsys.readouterr().out)
    assert [label["degree"] for label in passage["labels"]] == ["1", "9", "3"]


def test_grace_notes_have_no_place_in_a_passage(tmp_path: Path, capsys: Capture) -> None:
    solo = make_solo([("Cmaj7", "*D#5 E5/4 *F#5 G5/4 C5/2")])
    path = tmp_path / "grace.musicxml"
    path.write_bytes(write_musicxml(solo))
    assert main(["label", str(path)]) == 0
    (passage,) = json.loads(capsys.readouterr().out)
    assert len(passage["labels"]) == len(passage["notes"]) == 3


def passages_named(path: Path, *ids: str) -> Path:
    """A file of passages that are one line under these ids."""
    (members,) = json.loads((DATA / "passages.json").read_text(encoding="utf-8"))[:1]
    path.write_text(json.dumps([{**members, "id": wanted} for wanted in ids]), encoding="utf-8")
    return path


@pytest.mark.parametrize("ids", [("one", "one"), ("a/b", "../c"), ("x" * 240, "x" * 240), ("é" * 240, ""), ("..", ".")])
def test_every_passage_is_written_whatever_its_id(ids: tuple[str, ...], tmp_path: Path, capsys: Capture) -> None:
    out = tmp_path / "out"
    assert main(["label", "--musicxml", "--into", str(out), str(passages_named(tmp_path / "p.json", *ids))]) == 0
    assert len(list(out.glob("*.labelled.musicxml"))) == len(ids)
    assert {path.name for path in tmp_path.iterdir()} == {"out", "p.json"}


def test_files_of_one_name_in_several_folders_dont_overwrite_each_other(tmp_path: Path, capsys: Capture) -> None:
    scores = []
    for folder in ("one", "two"):
        (tmp_path / folder).mkdir()
        scores.append(tmp_path / folder / "line.musicxml")
        scores[-1].write_bytes(write_musicxml(SOLO))
    out = tmp_path / "out"
    assert main(["label", "--musicxml", "--into", str(out), *map(str, scores)]) == 0
    assert len(list(out.iterdir())) == 2


def test_a_solo_that_cant_be_labelled_is_told_and_the_rest_go_on(
    tmp_path: Path, capsys: Capture, monkeypatch: pytest.MonkeyPatch
) -> None:
    def at_odds(solo: Solo, *_: object) -> tuple[Label, ...]:
        if solo.title == "bad":
            raise RecursionError("of all things")
        return label_solo(solo)

    monkeypatch.setattr("gavotte.cli.label.label_solo", at_odds)
    for name in ("bad", "good"):
        (tmp_path / f"{name}.json").write_bytes(SOLO_DOCUMENT.write(replace(SOLO, title=name)))
    assert main(["label", str(tmp_path / "bad.json"), str(tmp_path / "good.json")]) == 1
    out, err = capsys.readouterr()
    assert len(json.loads(out)) == 1
    assert "1 of 2 files labelled, 1 failed" in err
