"""Lead sheets of the music21 corpus, read by both: pitches, onsets and lengths must agree."""

from __future__ import annotations

from pathlib import Path

import music21
import pytest

from gavotte.formats.musicxml import open_score
from gavotte.labelling.labeller import label_solo

CORPUS = Path(music21.__file__).parent / "corpus"
FILES = [
    "leadSheet/berlinAlexandersRagtime.mxl",
    "leadSheet/fosterBrownHair.mxl",
    "monteverdi/madrigal.3.1.mxl",
    "trecento/PMFC_04-Cara mi donna.xml",
]


@pytest.mark.parametrize("name", FILES)
def test_notes_agree_with_music21(name: str) -> None:
    path = CORPUS / name
    opened = open_score(path.read_bytes())
    voice = opened.voices[0]
    ours = opened.solo(voice).solo
    reading = music21.converter.parse(path)
    parts = list(reading.parts)
    part = next(p for p in parts if len(parts) == 1 or p.partName == voice.part_name)
    line = part.toSoundingPitch().stripTies().flatten().getElementsByClass(music21.note.Note)
    theirs = [(n.offset, n.quarterLength, n.pitch.midi) for n in line if not n.duration.isGrace]
    shift = float(ours.pickup)
    mine = [(float(n.onset) + shift, float(n.duration), n.pitch.midi) for n in ours.notes if not n.grace]
    assert mine == [pytest.approx(note) for note in theirs]


@pytest.mark.parametrize("name", ["leadSheet/berlinAlexandersRagtime.mxl", "leadSheet/fosterBrownHair.mxl"])
def test_lead_sheets_are_labelled_over_their_chords(name: str) -> None:
    solo = open_score((CORPUS / name).read_bytes()).solo().solo
    labels = label_solo(solo)
    assert solo.chords
    assert len(labels) == len(solo.notes)
    assert sum(label.function == "chord" for label in labels) > len(labels) / 2
