"""``gavotte cells``: what recurs in many solos, on standard output."""

from __future__ import annotations

import json
from dataclasses import replace
from pathlib import Path

import pytest
from tests.conftest import DATA, make_solo

from gavotte.cli import main
from gavotte.formats.document import SOLO_DOCUMENT
from gavotte.formats.musicxml_write import write_musicxml
from gavotte.solo.document import Solo
from gavotte.solo.moving import transposed
from gavotte.theory.interval import Interval

LICK = "C5/8 F#5 B4 Eb5 A4 E5 Bb4 G#5"
LINES = [
    ("D4/8 E4 F4 G4 A4 B4 A4 F4", "G4/8 A4 F4 E4 D4/4 r/4"),
    ("A4/8 G4 E4 C4 D4 E4 G4 E4", "F4/8 D4 E4 C4 E4/4 r/4"),
    ("E4/8 G4 A4 C5 A4 G4 E4 D4", "C4/8 E4 D4 F4 A4/4 r/4"),
    ("B4/8 A4 F4 D4 E4 C4 D4 F4", "A4/8 C5 B4 G4 E4/4 r/4"),
]


def solos() -> list[Solo]:
    """Four lines with one lick in four keys, from the third bar on."""
    made = []
    for k, (first, second) in enumerate(LINES):
        lick = transposed(make_solo([("", LICK)]), Interval(k, 2 * k)).notes
        plain = make_solo([("Cmaj7", first), ("Am7", second), ("Dm7", LICK), ("G7", "r/1")])
        names = [note.id for note in plain.notes if 8 <= note.onset < 12]
        pitches = dict(zip(names, (note.pitch for note in lick), strict=True))
        notes = [replace(note, pitch=pitches.get(note.id, note.pitch)) for note in plain.notes]
        made.append(Solo(f"Tune {k}", meters=plain.meters, keys=plain.keys, chords=plain.chords, notes=tuple(notes)))
    return made


def test_a_lick_in_four_files_is_told_with_its_places(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    files = []
    for number, solo in enumerate(solos()):
        files.append(str(tmp_path / f"tune{number}.json"))
        Path(files[-1]).write_bytes(SOLO_DOCUMENT.write(solo))
    assert main(["cells", *files, "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert set(told[0]) == {"instances", "weight", "relation"}
    assert [(place["file"], place["id"]) for place in told[0]["instances"]] == [
        (file, f"tune{number}") for number, file in enumerate(files)
    ]
    for place in told[0]["instances"]:
        assert place["first"] <= 13
        assert place["last"] >= 19
    assert told[0]["weight"] >= told[-1]["weight"] > 0
    assert main(["cells", *files]) == 0
    text = capsys.readouterr().out
    assert "4 times, transposed" in text
    assert "Tune 2: bar 3" in text


def test_what_does_not_recur_is_an_empty_list(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    path = tmp_path / "one.musicxml"
    path.write_bytes(write_musicxml(make_solo([("Cmaj7", "C5/4 E5 *F#5 G5 C5"), ("C", "C5/1")])))
    assert main(["cells", str(path), "--json"]) == 0
    assert json.loads(capsys.readouterr().out) == []
    assert main(["cells", str(path)]) == 0
    assert capsys.readouterr().out == "Nothing recurs more often than chance would bring.\n"


def test_a_file_that_fails_does_not_stop_the_rest(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    broken = tmp_path / "broken.json"
    broken.write_text("[{")
    assert main(["cells", str(broken), str(DATA / "passages.json"), "--json"]) == 1
    output = capsys.readouterr()
    assert isinstance(json.loads(output.out), list)
    assert "broken.json" in output.err
    assert main(["cells", str(broken), "--json"]) == 1
    assert capsys.readouterr().out == ""
