"""Numbers, texts and orders no solo can have are refused on reading, at once and with the place, whatever the file."""

from __future__ import annotations

import io
import json
from collections.abc import Callable
from contextlib import suppress
from fractions import Fraction
from typing import Any

import mido
import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.conftest import make_solo

from gavotte.demo.solos import DEMO_SOLOS
from gavotte.formats.document import SOLO_DOCUMENT
from gavotte.formats.errors import FormatError
from gavotte.formats.midi_read import open_midi
from gavotte.formats.midi_write import write_midi
from gavotte.formats.musicxml import open_score
from gavotte.formats.musicxml_write import write_musicxml
from gavotte.formats.numbers import exact
from gavotte.formats.passage import read_passages
from gavotte.labelling.labeller import label_solo
from gavotte.solo.bounds import within_bounds

SOLO = DEMO_SOLOS[0]()
Change = Callable[[dict[str, Any]], Any]


def test_the_demo_is_within_all_bounds() -> None:
    for make in DEMO_SOLOS:
        assert within_bounds(make()) == make()


ODD_NUMBERS = ["1e99999999", "1/0", "9" * 1000, "1e-99999999", "NaN", "inf", "0x10", "", "1_000", "١", "1/3/5"]


@pytest.mark.parametrize("number", ODD_NUMBERS)
def test_a_number_that_is_none_or_endless_is_refused_at_once(number: str) -> None:
    with pytest.raises(ValueError, match=r"number|divides"):
        exact(number)


@given(st.fractions(-1000, 1000, max_denominator=10_000))
def test_every_number_of_a_solo_is_read_as_it_was_written(number: Fraction) -> None:
    assert exact(str(number)) == number


@pytest.mark.parametrize(("text", "number"), [("1e3", 1000), ("0.25", Fraction(1, 4)), (" -3/2 ", Fraction(-3, 2))])
def test_numbers_as_other_programs_write_them(text: str, number: Fraction) -> None:
    assert exact(text) == number


DAMAGE: list[tuple[Change, str]] = [
    (lambda solo: solo["notes"][3].update(onset="3000000"), "note n3 stands at quarter note 3e\\+06"),
    (lambda solo: solo["notes"][3].update(onset="1e99999999"), "1e99999999"),
    (lambda solo: solo["notes"][3].update(duration="-1"), "note n3 lasts -1"),
    (lambda solo: solo["notes"][3].update(duration="0"), "note n3 lasts 0"),
    (lambda solo: solo["notes"][3].update(duration="1" * 1000), "1111"),
    (lambda solo: solo["notes"][3].update(id="n2"), "two notes are called 'n2'"),
    (lambda solo: solo["notes"].reverse(), "comes later"),
    (lambda solo: solo["notes"][3]["pitch"].update(octave=99), "note n3 is higher"),
    (lambda solo: solo["notes"][3].update(marks=[{"articulation": "bend", "semitones": "1000"}]), "n3 is bent"),
    (lambda solo: solo.update(form_end="100000000"), "the end of the form"),
    (lambda solo: solo.update(tempo="1e12"), "the tempo"),
    (lambda solo: solo.update(tempo="0"), "the tempo"),
    (lambda solo: solo.update(meters=[]), "no meter"),
    (lambda solo: solo.update(keys=[]), "no key"),
    (lambda solo: solo["meters"][0]["meter"].update(count=0), "0/4 is no meter"),
    (lambda solo: solo.update(odd_bars=[{"onset": "4", "length": "0"}]), "a bar lasts 0"),
    (lambda solo: solo.update(pickup="-4"), "the pickup lasts -4"),
    (lambda solo: solo["chords"].reverse(), "chord symbols are not in the order"),
    (lambda solo: solo["instrument"].update(transposition_semitones=10_000), "transposes by 10000"),
    (lambda solo: solo.update(title="x" * 100_000), "the title is 100000 characters"),
]


@pytest.mark.parametrize(("damage", "message"), DAMAGE)
def test_a_document_says_what_in_it_cant_be(damage: Change, message: str) -> None:
    raw = json.loads(SOLO_DOCUMENT.write(SOLO))
    damage(raw["solo"])
    with pytest.raises(FormatError, match=message):
        SOLO_DOCUMENT.read(json.dumps(raw).encode())


def test_a_document_nested_beyond_all_sense_is_refused() -> None:
    with pytest.raises(FormatError):
        SOLO_DOCUMENT.read(b"[" * 200_000)
    with pytest.raises(FormatError, match="nested"):
        read_passages("[" * 200_000)


PASSAGE: dict[str, Any] = {"id": "x", "chords": [["0", "C"]], "notes": [["0", "1", "C4"]]}


@pytest.mark.parametrize(
    ("members", "message"),
    [
        ({"notes": [["1e99999999", "1", "C4"]]}, "note 0"),
        ({"notes": [["3000000", "1", "C4"]]}, "quarter note 3e"),
        ({"notes": [["0", "1/0", "C4"]]}, "divides by nothing"),
        ({"notes": [["0", "0", "C4"]]}, "note n0 lasts 0"),
        ({"notes": [["0", "1", "C99"]]}, "note n0 is higher"),
        ({"title": "\ud800"}, "holds signs that are no text"),
        ({"chords": [["-9e9", "C"]]}, "chord c0"),
        ({"meter": "0/4"}, "0/4 is no meter"),
    ],
)
def test_a_passage_says_what_in_it_cant_be(members: dict[str, Any], message: str) -> None:
    with pytest.raises(FormatError, match=message):
        read_passages(json.dumps({**PASSAGE, **members}))


@pytest.mark.parametrize(
    ("tag", "number"),
    [
        ("duration", "1e99999999"), ("duration", "9" * 5000), ("duration", "-3"), ("duration", "0"),
        ("divisions", "0"), ("divisions", "1e999"), ("octave", "9" * 5000), ("octave", "1e9"), ("fifths", "1e12"),
        ("per-minute", "1e999"), ("beats", "0"), ("beat-type", "0"), ("alter", "1e999"), ("chromatic", "1e12"),
    ],
)  # fmt: skip
def test_a_score_with_an_odd_number_is_read_without_it_or_refused(tag: str, number: str) -> None:
    text = write_musicxml(make_solo([("Dm7", "D5/8 E5 F#5 G5 A5/4 F5/4"), ("G7", "B4/4 D5 F5 Ab5")])).decode()
    before, _, rest = text.partition(f"<{tag}>")
    if rest:
        text = f"{before}<{tag}>{number}</{tag}>{rest.partition(f'</{tag}>')[2]}"
    else:
        text = text.replace("<key>", f"<transpose><chromatic>{number}</chromatic></transpose><key>", 1)
    with suppress(FormatError):
        solo = open_score(text.encode()).solo().solo
        assert within_bounds(solo) == solo
        assert SOLO_DOCUMENT.read(SOLO_DOCUMENT.write(solo)) == solo
        assert len(label_solo(solo)) == len(solo.notes)


def test_a_midi_file_that_waits_for_years_is_refused() -> None:
    file = mido.MidiFile(file=io.BytesIO(write_midi(make_solo([("Dm7", "D5/4 E5 F5 G5")]))))
    track = max(file.tracks, key=len)
    notes = [message for message in track if message.type == "note_on"]
    notes[-1].time = 200_000_000
    out = io.BytesIO()
    file.save(file=out)
    with pytest.raises(FormatError, match="quarter notes"):
        open_midi(out.getvalue()).solo()
