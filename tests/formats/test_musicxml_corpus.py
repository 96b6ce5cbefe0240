"""The MusicXML files that come with music21 are read as music21 reads them, or refused with a reason.

music21's own readings are kept in tests/data/corpus.json (benchmarks/corpus.py makes them).
"""

from __future__ import annotations

import hashlib
import json

import pytest
from tests.conftest import DATA
from tests.formats.corpus import FILES, ROOT, chords_of, digest, notes_of

from gavotte.formats.errors import FormatError
from gavotte.formats.musicxml import open_score
from gavotte.labelling.labeller import label_solo

READINGS = json.loads((DATA / "corpus.json").read_text(encoding="utf-8"))
MOST_BYTES = 400_000
SUITE = "musicxml/lilypondTestSuite/"

# Files in which the two readers differ, and why Gavotte's reading stands.
OTHER_NOTES = {
    "corpus/schubert/Lindenbaum.xml": "notes of a chord have lengths of their own; music21 gives all the first one's",
    "corpus/schumann_robert/dichterliebe_no2.xml": "cue notes are not played",
    "corpus/schumann_robert/opus48no2.mxl": "cue notes are not played",
    "corpus/trecento/PMFC_13_04-Credo Cursor.xml": "an editor's sharp without <alter> is not in the sounding pitch",
    SUITE + "02e-Rests-NoType.xml": "music21 counts a note of the second staff twice",
    SUITE + "21f-Chord-ElementInBetween.xml": "a direction between the notes of a chord does not end it",
    SUITE + "32c-MultipleNotationChildren.xml": "a sharp sign without <alter> is not in the sounding pitch",
}
NO_PITCHES = "no pitched notes"
REFUSED = {
    "corpus/demos/drum_sample.xml": "only percussion",
    "musicxml/testTab.xml": "strings and frets",
}
# Kinds of chords that name no chord of a lead sheet; they are left out with a remark.
UNREAD = {"corpus/demos/ComprehensiveChordSymbolsTestFile.mxl": 3, SUITE + "71f-AllChordTypes.xml": 6}
OTHER_CHORDS = {
    SUITE + "71d-ChordsFrets-Multistaff.xml": "music21 counts the symbols once for each staff",
    SUITE + "71f-AllChordTypes.xml": "a pedal is read as root and fifth",
    "corpus/demos/ComprehensiveChordSymbolsTestFile.mxl": "music21 loses the tones of a minor-major seventh",
}


def _is_tried(name: str) -> bool:
    """Whole quartets and operas take seconds each and hold nothing their movements don't: few of them are enough."""
    size = (ROOT / name).stat().st_size * (10 if name.endswith(".mxl") else 1)
    return size < MOST_BYTES or hashlib.sha1(name.encode()).digest()[0] < 40


@pytest.mark.slow
@pytest.mark.parametrize("name", [name for name in FILES if _is_tried(name)])
def test_the_whole_corpus(name: str) -> None:
    theirs = READINGS[name]
    data = (ROOT / name).read_bytes()
    if name in REFUSED or not theirs["notes"]:
        with pytest.raises(FormatError, match=REFUSED.get(name, NO_PITCHES)):
            open_score(data)
        return
    score = open_score(data)
    notes = notes_of(score)
    if name in OTHER_NOTES:
        assert digest(notes) != theirs["digest"], "they agree now: take the file out of the list"
    else:
        assert (len(notes), digest(notes)) == (theirs["notes"], theirs["digest"])
    imported = score.solo()
    assert imported.solo.notes
    _compare_chords(name, chords_of(score), theirs.get("chords", []))


def _compare_chords(name: str, ours: list[list[object]], theirs: list[list[object]]) -> None:
    assert sum(row[3] is None for row in ours) == UNREAD.get(name, 0)
    if name in OTHER_CHORDS:
        return
    assert [row[:2] for row in ours] == [row[:2] for row in theirs]
    for mine, other in zip(ours, theirs, strict=True):
        if mine[3]:
            assert mine[2] == other[2]
            # A 13th chord is played without its 11th, a dominant 11th without its third (docs: chord symbols).
            missing = set(other[3]) - set(mine[3])  # type: ignore[call-overload]
            assert set(mine[3]) <= set(other[3])  # type: ignore[call-overload]
            assert missing <= {(int(str(mine[2])) + 5) % 12, (int(str(mine[2])) + 4) % 12}


@pytest.mark.parametrize("name", ["berlinAlexandersRagtime.mxl", "fosterBrownHair.mxl"])
def test_lead_sheets_are_labelled_over_their_chords(name: str) -> None:
    solo = open_score((ROOT / "corpus" / "leadSheet" / name).read_bytes()).solo().solo
    labels = label_solo(solo)
    assert solo.chords
    assert len(labels) == len(solo.notes)
    assert sum(label.function == "chord" for label in labels) > len(labels) / 2
