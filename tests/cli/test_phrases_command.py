"""``gavotte phrases``: how solos are built, on standard output."""

from __future__ import annotations

import json
from pathlib import Path

import pytest
from tests.conftest import DATA, make_solo
from tests.phrasing.marked_lines import FIRST, marked

from gavotte.cli import main
from gavotte.formats.document import SOLO_DOCUMENT
from gavotte.formats.musicxml_write import write_musicxml

PASSAGES = str(DATA / "passages.json")


def test_passages_as_json(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["phrases", PASSAGES, "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    passages = json.loads(Path(PASSAGES).read_text(encoding="utf-8"))
    assert [solo["id"] for solo in told] == [passage["id"] for passage in passages]
    for solo, passage in zip(told, passages, strict=True):
        covered = [i for phrase in solo["phrases"] for i in range(phrase["first"], phrase["last"] + 1)]
        assert covered == list(range(len(passage["notes"])))
        assert all(index is None or 0 <= index < len(passage["notes"]) for index in solo["strong"])


def test_motifs_as_json(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    line = marked(FIRST[2])
    path = tmp_path / "waltz.gavotte"
    path.with_suffix(".json").write_bytes(SOLO_DOCUMENT.write(line.solo))
    assert main(["phrases", str(path.with_suffix(".json")), "--json"]) == 0
    (told,) = json.loads(capsys.readouterr().out)
    assert told["id"] == "waltz"
    first = told["motifs"][0]
    assert [(place["first"], place["last"]) for place in first["instances"]] == list(line.motifs["w"])
    assert first["relation"] == "transposed in the scale"
    assert 0 < first["weight"] <= 1
    assert len(told["strong"]) == 16


def test_grace_notes_are_counted_as_in_labels(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    solo = make_solo([("C", "*B4 C5/4 E5 *F#5 G5 C5"), ("C", "C5/1")])
    path = tmp_path / "graces.musicxml"
    path.write_bytes(write_musicxml(solo))
    assert main(["label", str(path)]) == 0
    notes = len(json.loads(capsys.readouterr().out)[0]["notes"])
    assert main(["phrases", str(path), "--json"]) == 0
    (told,) = json.loads(capsys.readouterr().out)
    assert told["phrases"] == [{"first": 0, "last": notes - 1}]
    assert told["strong"] == [0, 2, 4, 4]


def test_a_text_to_read(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    path = tmp_path / "swing.json"
    path.write_bytes(SOLO_DOCUMENT.write(marked(FIRST[0]).solo))
    assert main(["phrases", str(path)]) == 0
    told = capsys.readouterr().out
    assert "phrases, 16 bars" in told
    assert "E G A C B: 6 times, varied, turned" in told
    assert "On the strong beats: E B" in told


def test_a_bad_file_does_not_stop_the_rest(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    bad = tmp_path / "bad.json"
    bad.write_text("[1, 2", encoding="utf-8")
    assert main(["phrases", str(bad), PASSAGES, "--json"]) == 1
    captured = capsys.readouterr()
    assert len(json.loads(captured.out)) == 23
    assert "bad.json" in captured.err
    assert main(["phrases", str(bad), "--json"]) == 1
    assert capsys.readouterr().out == ""
