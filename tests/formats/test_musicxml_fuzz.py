"""Broken scores: whatever is done to a file, reading it gives a solo or a message, never anything else."""

from __future__ import annotations

import io
import random
import re
import zipfile
from xml.etree import ElementTree

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.formats.test_musicxml import degree, harmony, note, rest, score
from tests.mutants import damage_xml

from gavotte.engraving.engraver import Engraver, line_breaks
from gavotte.formats.errors import FormatError
from gavotte.formats.musicxml import open_score
from gavotte.labelling.labeller import label_solo
from gavotte.notation.written import Notation

TRANSPOSE = "<transpose><diatonic>-1</diatonic><chromatic>-2</chromatic></transpose>"
WHOLE = score(
    harmony("D", "minor-seventh", degree(9, 0, "add"))
    + note("D5", 6, '<tie type="start"/>')
    + note("D5", 6)
    + rest(12),
    harmony("G", "dominant", degree(9, -1, "add")) + note("B4", 0, before="<grace/>") + note("Ab4", 24),
    extra=TRANSPOSE,
    fifths=-2,
)
WORDS = [b"<duration>", b"<step>", b"<alter>", b"<octave>", b"<divisions>", b"<beats>", b"<beat-type>", b"<fifths>",
         b"<chromatic>", b"<degree-value>", b"<degree-alter>", b"<root-step>"]  # fmt: skip
VALUES = [b"", b"0", b"-1", b"99999999999", b"1/0", b"0.3", b"x", b"H", b"1e9", b"nan", b"\xff"]


ENGRAVER = Engraver()


def read_or_refuse(data: bytes, engrave: bool = False) -> None:
    try:
        solo = open_score(data).solo().solo
    except FormatError:
        return
    assert len(label_solo(solo)) == len(solo.notes)
    if engrave:
        notation = Notation(solo)
        for first, last in line_breaks(notation):
            assert ENGRAVER.line(notation, first, last, {})


@given(st.integers(0, len(WHOLE)))
@settings(max_examples=60, deadline=None)
def test_files_cut_anywhere(length: int) -> None:
    read_or_refuse(WHOLE[:length])


@pytest.mark.parametrize("word", WORDS)
@pytest.mark.parametrize("value", VALUES)
def test_strange_values_in_any_place(word: bytes, value: bytes) -> None:
    start = WHOLE.index(word) + len(word)
    end = WHOLE.index(b"<", start)
    read_or_refuse(WHOLE[:start] + value + WHOLE[end:], engrave=True)


@given(st.integers(0, 10**6))
@settings(max_examples=80, deadline=None)
def test_bytes_changed_at_random(seed: int) -> None:
    chance = random.Random(seed)
    data = bytearray(WHOLE)
    for _ in range(chance.randint(1, 6)):
        place = chance.randrange(len(data))
        if chance.random() < 0.5:
            data[place] = chance.randrange(256)
        else:
            del data[place : place + chance.randint(1, 40)]
    read_or_refuse(bytes(data))


def damaged(seed: int, blows: int) -> bytes:
    """The score with some elements dropped, doubled, exchanged, moved or given another value; still a tree."""
    root = ElementTree.fromstring(WHOLE)
    damage_xml(root, random.Random(seed), blows)
    return ElementTree.tostring(root, encoding="utf-8")


@given(st.integers(0, 10**6), st.integers(1, 4))
@settings(max_examples=80, deadline=None)
def test_elements_and_values_changed_at_random(seed: int, blows: int) -> None:
    read_or_refuse(damaged(seed, blows))


def test_most_damaged_scores_can_still_be_read() -> None:
    """The damage goes through the reader, not past it: most of what is made above is a score."""

    def is_read(data: bytes) -> bool:
        try:
            return bool(open_score(data).solo().solo.notes)
        except FormatError:
            return False

    assert sum(is_read(damaged(seed, 1 + seed % 4)) for seed in range(100)) > 60


def packed(**members: bytes) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in members.items():
            archive.writestr(name.replace("_", "."), data)
    return out.getvalue()


TWO_PARTS = (
    '<score-partwise><part-list><score-part id="P1"/><score-part id="P2"/></part-list>'
    '<part id="P1"><measure>{0}</measure></part><part id="P2"><measure>{0}</measure></part></score-partwise>'
)


@pytest.mark.parametrize(
    ("data", "message"),
    [
        (b"<score-partwise>" + b"<a>" * 200_000, "no readable XML"),
        (b"<score-partwise>" + b"<a>" * 100_000 + b"</a>" * 100_000 + b"</score-partwise>", "no bars"),
        (b'<!DOCTYPE a [<!ENTITY a "aa"><!ENTITY b "&a;&a;">]><score-partwise/>', "entities"),
        (
            ("<!-- " + "x" * 70_000 + ' --><!DOCTYPE a [<!ENTITY a "aa">]><score-partwise/>').encode("utf-16"),
            "entities",
        ),
        (b'<!DOCTYPE a [<!ENTITY x SYSTEM "file:///etc/passwd">]><score-partwise>&x;</score-partwise>', "entities"),
        (b'<!DOCTYPE score-partwise SYSTEM "nowhere.dtd"><score-partwise/>', "no bars"),
        (packed(solo_xml=b"<score-partwise>" + b" " * 40_000_000), "larger than any solo"),
        (packed(readme_txt=b"hello"), "holds no score"),
        (WHOLE.replace(b"Lead", "Léad".encode("latin-1")), "not. Save it as UTF-8"),
        (b'<?xml version="1.0" encoding="klingon"?>' + WHOLE, "unknown encoding"),
        (b"<html><body>not found</body></html>", "<html>"),
        (TWO_PARTS.format("<note/>" * 50_001).encode(), "more than 50000 notes"),
        (score(note("C5", 6) * 5000), "Bar 1 would last 5000 quarter notes"),
    ],
)
def test_files_made_to_harm_are_refused_with_a_reason(data: bytes, message: str) -> None:
    with pytest.raises(FormatError, match=re.escape(message)):
        open_score(data).solo()


def test_other_encodings_are_read() -> None:
    for encoding in ("utf-16", "utf-8-sig", "latin-1"):
        head = '<?xml version="1.0" encoding="latin-1"?>' if encoding == "latin-1" else ""
        solo = open_score((head + WHOLE.decode().replace("Bench", "Bänch")).encode(encoding)).solo().solo
        assert solo.title == "Bänch Tune"


@pytest.mark.parametrize("method", [zipfile.ZIP_DEFLATED, zipfile.ZIP_LZMA, zipfile.ZIP_BZIP2])
def test_every_damaged_byte_of_a_packed_score_is_told(method: int) -> None:
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w", method) as archive:
        archive.writestr("score.musicxml", WHOLE[:2000])
    data = packed.getvalue()
    for place in range(0, len(data), 5):
        read_or_refuse(data[:place] + bytes([data[place] ^ 0xFF]) + data[place + 1 :])
