"""Writing MusicXML: files that the 4.0 schema accepts and that our own reader returns as the same solo."""

from __future__ import annotations

import re
import xml.etree.ElementTree as ET
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import music21
import musicxml
import pytest
from lxml import etree
from tests.conftest import DATA, make_solo
from tests.theory.test_chord_symbol import SYMBOLS

from gavotte.demo.solos import DEMO_SOLOS
from gavotte.formats.musicxml import open_score
from gavotte.formats.musicxml_chord import chord_of_harmony, harmony_members
from gavotte.formats.musicxml_write import write_musicxml
from gavotte.formats.passage import read_passages
from gavotte.labelling.labeller import label_solo
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Articulation, Mark, MeterRegion, OddBar, Pick, Solo, Text
from gavotte.solo.instruments import INSTRUMENTS
from gavotte.theory.chord_symbol import parse_chord_symbol, write_chord_symbol
from gavotte.theory.meter import Meter

SCHEMA = Path(musicxml.__file__).parent / "generate_classes" / "musicxml_4_0.xsd"
PASSAGES = [p.solo for p in read_passages((DATA / "passages.json").read_text(encoding="utf-8"))]
SOLOS = [*PASSAGES, *(make() for make in DEMO_SOLOS)]


# The attributes of the linking vocabulary that the MusicXML schema refers to.
XLINK = (
    '<xs:schema xmlns:xs="http://www.w3.org/2001/XMLSchema" targetNamespace="http://www.w3.org/1999/xlink">'
    + "".join(
        f'<xs:attribute name="{name}" type="xs:string"/>'
        for name in ("href", "type", "role", "title", "show", "actuate")
    )
    + "</xs:schema>"
)


XML = (
    '<xs:schema xmlns:xs="http://www.w3.org/2001/XMLSchema" targetNamespace="http://www.w3.org/XML/1998/namespace">'
    '<xs:attribute name="lang" type="xs:language"/><xs:attribute name="space" type="xs:NCName"/></xs:schema>'
)


@pytest.fixture(scope="module")
def schema(tmp_path_factory: pytest.TempPathFactory) -> etree.XMLSchema:
    """The MusicXML 4.0 schema, with what it imports beside it: nothing is fetched."""
    folder = tmp_path_factory.mktemp("schema")
    (folder / "xlink.xsd").write_text(XLINK)
    (folder / "xml.xsd").write_text(XML)
    text = SCHEMA.read_text(encoding="utf-8")
    text = re.sub(r'schemaLocation="[^"]*/(xlink|xml)\.xsd"', r'schemaLocation="\1.xsd"', text)
    (folder / "musicxml.xsd").write_text(text, encoding="utf-8")
    return etree.XMLSchema(etree.parse(str(folder / "musicxml.xsd"), etree.XMLParser(no_network=True)))


def plain(solo: Solo) -> Solo:
    """What the format carries, with nothing said about how ties and tuplets were written."""
    return replace(
        solo,
        notes=tuple(replace(note, tuplet=None, written=()) for note in solo.notes),
        chords=tuple(replace(chord, id="") for chord in solo.chords),
        keys=tuple(replace(region, blues=False) for region in solo.keys),
        instrument=INSTRUMENTS[0],
    )


@pytest.mark.parametrize("solo", SOLOS, ids=lambda solo: solo.title[:20])
def test_written_solos_are_read_back_the_same(schema: etree.XMLSchema, solo: Solo) -> None:
    data = write_musicxml(solo)
    schema.assertValid(etree.fromstring(data))
    imported = open_score(data).solo()
    assert plain(imported.solo) == plain(solo)
    assert write_musicxml(imported.solo) == data
    if solo.instrument in INSTRUMENTS[1:]:
        assert imported.solo.instrument == solo.instrument


@pytest.mark.parametrize("instrument", INSTRUMENTS, ids=lambda instrument: instrument.name)
def test_every_instrument_writes_its_own_pitch(schema: etree.XMLSchema, instrument: object) -> None:
    solo = replace(DEMO_SOLOS[0](), instrument=instrument)
    data = write_musicxml(solo)
    schema.assertValid(etree.fromstring(data))
    assert plain(open_score(data).solo().solo) == plain(solo)


@pytest.mark.parametrize("articulation", list(Articulation))
def test_every_articulation_survives(schema: etree.XMLSchema, articulation: Articulation) -> None:
    solo = make_solo([("C7", "C5/4 E5 G5 E5")])
    semitones = Fraction(3, 2) if articulation is Articulation.BEND else None
    notes = list(solo.notes)
    notes[1] = replace(notes[1], marks=(Mark(articulation, semitones),), uncertain=True)
    solo = replace(solo, notes=tuple(notes))
    data = write_musicxml(solo)
    schema.assertValid(etree.fromstring(data))
    assert open_score(data).solo().solo.notes[1].marks == solo.notes[1].marks
    assert open_score(data).solo().solo.notes[1].uncertain


@pytest.mark.parametrize("text", sorted({row["symbol"] for row in SYMBOLS if row["root"] not in ("", "%")}))
def test_every_chord_symbol_survives(text: str) -> None:
    symbol = parse_chord_symbol(text)
    harmony = ET.Element("harmony")
    harmony.extend(harmony_members(symbol))
    assert write_chord_symbol(chord_of_harmony(harmony)) == write_chord_symbol(symbol)


def test_meter_changes_odd_bars_and_groupings_survive(schema: etree.XMLSchema) -> None:
    solo = replace(
        make_solo([("C7", "C5/4 E5 G5 E5"), ("F7", "F5/4 A5 C6 A5"), ("C7", "C5/4 E5 G5 E5")]),
        meters=(MeterRegion(Fraction(0), Meter(4, 4)), MeterRegion(Fraction(7), Meter(5, 4, (3, 2)))),
        odd_bars=(OddBar(Fraction(4), Fraction(3)),),
    )
    data = write_musicxml(solo)
    schema.assertValid(etree.fromstring(data))
    assert plain(open_score(data).solo().solo) == plain(solo)


def test_labels_go_out_as_lyrics(schema: etree.XMLSchema) -> None:
    solo = DEMO_SOLOS[0]()
    labels = {label.note: label.degree for label in label_solo(solo)}
    root = etree.fromstring(write_musicxml(solo, labels))
    schema.assertValid(root)
    assert [text.text for text in root.iter("text")] == [labels[note.id] for note in solo.notes]


def test_music21_reads_the_same_notes() -> None:
    solo = DEMO_SOLOS[0]()
    reading = music21.converter.parseData(write_musicxml(solo).decode(), format="musicxml")
    line = reading.parts[0].toSoundingPitch().stripTies().flatten().getElementsByClass(music21.note.Note)
    theirs = [(n.offset - 1, n.quarterLength, n.pitch.midi) for n in line if not n.duration.isGrace]
    ours = [(float(n.onset), float(n.duration), n.pitch.midi) for n in solo.notes if not n.grace]
    assert theirs == [pytest.approx(note) for note in ours]


def test_what_hands_do_words_over_bars_and_empty_bars_survive(schema: etree.XMLSchema) -> None:
    solo = make_solo([("Dm7", "D5/4 F5 A5 C6"), ("G7", "B5/1"), ("Cmaj7", "C5/1")])
    first, second, *rest = solo.notes
    notes = (replace(first, finger="3", string=2, pick=Pick.DOWN), replace(second, pick=Pick.UP, finger="T"), *rest)
    texts = (Text(Fraction(0), "lay back"), Text(Fraction(5), "growl"))
    solo = replace(solo, notes=notes, texts=texts, form_end=Fraction(20))
    data = write_musicxml(solo)
    schema.assertValid(etree.fromstring(data))
    back = open_score(data).solo(open_score(data).voices[0], "x").solo
    assert [(n.finger, n.string, n.pick) for n in back.notes[:3]] == [
        ("3", 2, Pick.DOWN),
        ("T", 0, Pick.UP),
        ("", 0, None),
    ]
    assert back.texts == texts
    assert len(BarGrid(back).bars) == 5


@pytest.mark.parametrize("words", ["D.C. al Fine", "To Coda", "D. S.", "da capo"])
def test_words_that_say_where_to_go_are_no_words_over_a_bar(words: str) -> None:
    solo = replace(make_solo([("Dm7", "D5/1"), ("G7", "G5/1")]), texts=(Text(Fraction(0), words),))
    data = write_musicxml(solo)
    assert open_score(data).solo(open_score(data).voices[0], "x").solo.texts == ()


def test_what_is_said_of_a_solo_survives(schema: etree.XMLSchema) -> None:
    said = replace(
        make_solo([("C7", "C4/1"), ("F7", "F4/1")]),
        source="Tin box, reel 4", tags=("northern", "late"), album="Quay", year=1954, chorus=Fraction(4),
    )  # fmt: skip
    data = write_musicxml(said)
    schema.assertValid(etree.fromstring(data))
    back = open_score(data).solo().solo
    for name in ("source", "tags", "album", "year", "chorus"):
        assert getattr(back, name) == getattr(said, name), name


@pytest.mark.parametrize("wrong", ["four", "-4", "0", "1/99999999999", "1e99"])
def test_a_chorus_that_cant_be_is_none(wrong: str) -> None:
    data = write_musicxml(replace(make_solo([("C7", "C4/1")]), chorus=Fraction(4)))
    assert b'name="chorus">4<' in data
    assert open_score(data.replace(b'name="chorus">4<', f'name="chorus">{wrong}<'.encode())).solo().solo.chorus == 0
