"""``gavotte take``: how a take of a solo went."""

from __future__ import annotations

import json
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import mido
import numpy as np
import pytest
import soundfile
from tests.conftest import make_solo

from gavotte.cli import main
from gavotte.formats.document import SOLO_DOCUMENT
from gavotte.formats.midi_played import played_keys

BARS = [
    ("Dm7", "D4/8 F4 A4 C5 E5 D5 C5 A4"),
    ("G7", "B4/8 A4 G4 F4 D4/4 r"),
    ("Cmaj7", "E4/8 G4 B4 D5 C5/4 G4"),
    ("C6", "E4/2 r"),
]
SOLO = replace(make_solo(BARS), tempo=Fraction(120), style="straight")


@pytest.fixture
def solo(tmp_path: Path) -> str:
    path = tmp_path / "solo.json"
    path.write_bytes(SOLO_DOCUMENT.write(SOLO))
    return str(path)


def played_midi(path: Path, changed: dict[int, int | None], tempo: int = 120) -> str:
    """A MIDI file of the solo's notes at a tempo, some with another pitch or (None) missing."""
    track, now = mido.MidiTrack(), 0
    track.append(mido.MetaMessage("set_tempo", tempo=mido.bpm2tempo(tempo)))
    for index, note in enumerate(SOLO.notes):
        key = changed.get(index, note.pitch.midi)
        if key is None:
            continue
        start, end = int(480 * (note.onset + 4)), int(480 * (note.end + 4)) - 20
        track.append(mido.Message("note_on", note=key, velocity=80, time=start - now))
        track.append(mido.Message("note_off", note=key, time=end - start))
        now = end
    file = mido.MidiFile(ticks_per_beat=480)
    file.tracks.append(track)
    file.save(path)
    return str(path)


def told(capsys: pytest.CaptureFixture[str], *given: str) -> dict[str, object]:
    assert main(["take", *given, "--json"]) == 0
    found: dict[str, object] = json.loads(capsys.readouterr().out)
    return found


def test_a_take_as_json(solo: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    midi = played_midi(tmp_path / "take.mid", {3: SOLO.notes[3].pitch.midi + 1, 7: None}, 100)
    take = told(capsys, solo, midi)
    assert take["tempo"] == pytest.approx(100, abs=0.5)
    notes = take["notes"]
    assert isinstance(notes, list)
    assert [note["index"] for note in notes] == list(range(len(SOLO.notes)))
    assert notes[3] == {**notes[3], "verdict": "wrong", "heard": SOLO.notes[3].pitch.midi + 1}
    assert notes[7] == {**notes[7], "verdict": "missed", "heard": None, "late_ms": None}
    assert all(
        note["verdict"] == "right" and abs(note["late_ms"]) < 10 for k, note in enumerate(notes) if k not in (3, 7)
    )
    assert take["added"] == []
    assert take["sure"] > 0.9  # type: ignore[operator]


def test_a_take_in_words(solo: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    midi = played_midi(tmp_path / "take.mid", {3: SOLO.notes[3].pitch.midi + 1})
    assert main(["take", solo, midi, "--tempo", "120"]) == 0
    out = capsys.readouterr().out
    assert f"{len(SOLO.notes) - 1} of {len(SOLO.notes)} notes right, 1 wrong" in out
    assert "Bar 1, the and of 2: D♭ in place of C" in out or "C♯ in place of C" in out


def test_silence_is_told_and_nothing_is_right(solo: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    path = tmp_path / "silent.wav"
    soundfile.write(path, np.zeros(44100), 44100)
    assert main(["take", solo, str(path), "--json"]) == 0
    captured = capsys.readouterr()
    assert "silent" in captured.err
    take = json.loads(captured.out)
    assert {note["verdict"] for note in take["notes"]} == {"missed"}
    assert take["sure"] == 0


@pytest.mark.parametrize(
    ("name", "content", "why"),
    [
        ("nowhere.wav", None, "No such file"),
        ("broken.wav", b"no sound at all", "can't be decoded"),
        ("broken.mid", b"MThd", "no readable MIDI"),
        ("empty.wav", b"", "empty"),
    ],
)
def test_a_file_that_is_no_take_is_told(
    solo: str, tmp_path: Path, capsys: pytest.CaptureFixture[str], name: str, content: bytes | None, why: str
) -> None:
    path = tmp_path / name
    if content is not None:
        path.write_bytes(content)
    assert main(["take", solo, str(path)]) == 1
    captured = capsys.readouterr()
    assert why in captured.err
    assert captured.out == ""


def test_a_line_that_cannot_be_understood_is_told(
    solo: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    midi = played_midi(tmp_path / "take.mid", {})
    assert main(["take", solo, midi, "--tempo", "3"]) == 2
    assert "tempo" in capsys.readouterr().err
    empty = tmp_path / "empty.json"
    empty.write_bytes(SOLO_DOCUMENT.write(replace(SOLO, notes=())))
    assert main(["take", str(empty), midi]) == 1
    assert "no notes" in capsys.readouterr().err
    passages = {"id": "a", "chords": [], "notes": []}
    both = tmp_path / "both.json"
    both.write_text(json.dumps([passages, {**passages, "id": "b"}]))
    status = main(["take", str(both), midi])
    assert status in (1, 2)
    assert capsys.readouterr().err


def test_keys_are_read_as_they_were_played(tmp_path: Path) -> None:
    track = mido.MidiTrack()
    for message in (
        mido.Message("note_on", channel=9, note=40, velocity=90, time=0),
        mido.Message("note_on", note=60, velocity=90, time=480),
        mido.Message("note_on", note=60, velocity=80, time=240),
        mido.Message("note_on", note=60, velocity=0, time=240),
        mido.Message("note_on", note=64, velocity=70, time=0),
    ):
        track.append(message)
    file = mido.MidiFile(ticks_per_beat=480)
    file.tracks.append(track)
    path = tmp_path / "keys.mid"
    file.save(path)
    assert played_keys(path.read_bytes()) == [(0.5, 0.75, 60), (0.75, 1.0, 60), (1.0, 1.0, 64)]
