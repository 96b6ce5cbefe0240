"""A sheet and its edits, and what it may hold."""

from __future__ import annotations

from dataclasses import replace

import msgspec
import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.conftest import make_solo

from gavotte.formats.errors import FormatError
from gavotte.labelling.labeller import label_solo
from gavotte.sheets.checking import SHEET_DOCUMENT, safe_drawing
from gavotte.sheets.pieces import (
    Bars,
    Keys,
    Licks,
    NewPage,
    Picture,
    Question,
    Returns,
    Scales,
    Shown,
    Skeleton,
    Words,
    kind_of,
)
from gavotte.sheets.sheet import (
    SheetSource,
    TeachingSheet,
    Version,
    exchanged,
    moved,
    source_for,
    source_of,
    with_pieces,
    with_source,
    without,
)
from gavotte.vocabulary.lick import keep_lick

LINE = [("Dm7", "D5/8 F5 A5 C6 B5 A5 G5 F5"), ("G7", "B4/8 D5 F5 A5 G5/2"), ("Cmaj7", "E5/4 G5 C5/2")]
SOLO = make_solo(LINE)
LICK = keep_lick(SOLO, "s", label_solo(SOLO), SOLO.notes[0].id, SOLO.notes[9].id)
SOURCE = SheetSource("src", "s", SOLO)
SVG = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10"><path d="M0 0L10 10" /></svg>'


def full_sheet() -> TeachingSheet:
    """A sheet with a piece of every kind."""
    pieces = (
        Words(id="w", heading="Words", words="Over {G7}."),
        Bars(id="b", source="src", first=1, last=2, shown=Shown(skeleton=Skeleton.UNDER, phrases=True, reasons=True)),
        Question(id="q", words="Which?", answer="That.", source="src", first=1, last=1),
        Returns(id="r", source="src", places=((SOLO.notes[0].id, SOLO.notes[3].id, ""),)),
        Licks(id="l", licks=(LICK, LICK), in_one_key=True),
        Keys(id="k", lick=LICK, count=3, key_a_page=True),
        Scales(id="s", source="src", first=1, last=3),
        Picture(id="p", svg=SVG, words="A line"),
        NewPage(id="n"),
    )
    versions = (Version.CONCERT, Version.E_FLAT)
    return TeachingSheet("All", "of it", "Mine", "Head", pieces, (SOURCE,), "Letter", 7.0, True, versions)


def ids(sheet: TeachingSheet) -> list[str]:
    return [piece.id for piece in sheet.pieces]


def test_a_sheet_with_every_kind_of_piece_comes_back_from_its_document() -> None:
    sheet = full_sheet()
    assert SHEET_DOCUMENT.read(SHEET_DOCUMENT.write(sheet)) == sheet
    assert len({kind_of(piece) for piece in sheet.pieces}) == 9


@pytest.mark.parametrize(
    ("damage", "said"),
    [
        ({"paper": "A3"}, "no paper A3"),
        ({"staff": 99.0}, "mm high"),
        ({"versions": []}, "versions"),
        ({"versions": ["concert", "concert"]}, "versions"),
        ({"sources": []}, "not there"),
        ({"title": "x" * 300_000}, "characters"),
    ],
)
def test_what_no_sheet_can_be_is_refused_in_words(damage: dict[str, object], said: str) -> None:
    document = msgspec.json.decode(SHEET_DOCUMENT.write(full_sheet()))
    document["sheet"] |= damage
    with pytest.raises(FormatError, match=said):
        SHEET_DOCUMENT.read(msgspec.json.encode(document))


def test_pieces_out_of_bounds_are_refused() -> None:
    for piece, said in (
        (Keys(id="k", lick=LICK, count=13), "12 keys"),
        (Bars(id="b", source="src", first=1, last=2, shown=Shown(bars=50)), "a line holds"),
        (Picture(id="p", svg="<svg"), "can't be read"),
    ):
        sheet = replace(full_sheet(), pieces=(piece,))
        with pytest.raises(FormatError, match=said):
            SHEET_DOCUMENT.read(SHEET_DOCUMENT.write(sheet))


@pytest.mark.parametrize(
    "svg",
    [
        '<svg xmlns="http://www.w3.org/2000/svg"><script>1</script></svg>',
        '<svg xmlns="http://www.w3.org/2000/svg"><image href="http://x/y.png" /></svg>',
        '<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0" onload="x()" /></svg>',
        '<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0" fill="url(http://x)" /></svg>',
        '<!DOCTYPE svg [<!ENTITY a "b">]><svg xmlns="http://www.w3.org/2000/svg"></svg>',
        '<svg xmlns="http://www.w3.org/2000/svg"><style>@import "x";</style></svg>',
    ],
)
def test_a_drawing_only_draws(svg: str) -> None:
    with pytest.raises(ValueError, match="drawing"):
        safe_drawing(svg)
    assert safe_drawing(SVG) == SVG


def test_pieces_come_behind_the_chosen_one_and_sources_once() -> None:
    sheet = with_pieces(full_sheet(), [Words(id="new")], [SOURCE], behind="b")
    assert ids(sheet)[:3] == ["w", "b", "new"]
    assert sheet.sources == (SOURCE,)
    assert ids(with_pieces(sheet, [Words(id="last")]))[-1] == "last"


@given(st.integers(0, 8), st.integers(-20, 20))
def test_a_moved_piece_stays_among_the_others(place: int, by: int) -> None:
    sheet = full_sheet()
    name = ids(sheet)[place]
    after = ids(moved(sheet, name, by))
    assert sorted(after) == sorted(ids(sheet))
    assert after.index(name) == max(0, min(8, place + by))
    others = [one for one in after if one != name]
    assert others == [one for one in ids(sheet) if one != name]


def test_what_nothing_is_taken_from_any_more_goes_too() -> None:
    sheet = full_sheet()
    for piece in sheet.pieces:
        sheet = without(sheet, piece.id)
        assert bool(sheet.sources) == any(source_of(left) for left in sheet.pieces)
    assert sheet.pieces == ()


def test_pieces_are_exchanged_and_sources_renewed() -> None:
    sheet = exchanged(full_sheet(), Words(id="w", words="Other"))
    assert sheet.pieces[0] == Words(id="w", words="Other")
    now = replace(SOLO, title="Renamed")
    assert with_source(sheet, replace(SOURCE, solo=now)).source("src").solo is now
    assert source_for(sheet, SOLO, "s") is SOURCE
    assert source_for(sheet, now, "s").id != "src"
    with pytest.raises(KeyError):
        sheet.source("nobody")
