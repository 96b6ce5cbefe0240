"""Heads of tunes that stand in a library beside the solos on them."""

from __future__ import annotations

from dataclasses import replace

from tests.conftest import make_solo, whole

from gavotte.library.heads import head_cells
from gavotte.library.lines import index_of
from gavotte.library.mining import LibraryCell
from gavotte.library.store import Library
from gavotte.solo.document import Solo
from gavotte.solo.moving import excerpt

HEAD = [("Cmaj7", "E5/4 G5/8 E5 A5/4 G5/4"), ("Cmaj7", "D5/2 r/2"), ("Dm7", "F5/4 A5/8 F5 B5/4 A5"), ("G7", "G5/2 r/2")]
BESIDE = [("F7", "A4/8 C5 Eb5 F5 Eb5 C5 A4 F4"), ("F7", "A4/4 r/4 r/2")]


def head() -> Solo:
    return replace(make_solo(HEAD), title="Tin Whistle Row", is_head=True)


def cells(library: Library) -> tuple[LibraryCell, ...]:
    index = whole(index_of(library))
    return whole(head_cells(index, {entry.id: entry for entry in library.solos()}))  # type: ignore[no-any-return]


def test_a_solo_keeps_and_ornaments_its_head_and_another_quotes_it(library: Library) -> None:
    ornamented = [("Cmaj7", "E5/4 G5/8 E5 G#5 A5 G5/4"), ("Cmaj7", "D5/2 r/2")]
    library.add_solo(head())
    library.add_solo(replace(make_solo([*HEAD[:2], *BESIDE]), title="Tin Whistle Row", player="One"))
    library.add_solo(replace(make_solo([*BESIDE, *ornamented]), title="Tin whistle row", player="Two"))
    library.add_solo(replace(make_solo([*BESIDE, *HEAD[:2]]), title="Elsewhere", player="Three"))
    found = cells(library)
    said = {place.player: place.words for cell in found for place in cell.places}
    assert said["One"] == "keeps it: the same notes"
    assert said["Two"].startswith("ornaments it: the same notes")
    assert "more" in said["Two"]
    assert said["Three"] == "quotes it: the same notes"
    assert found[0].places[0].words == "the head, the 3 of CΔ7"
    assert found[0].relation == "from the head of Tin Whistle Row"


def test_where_no_head_is_or_nothing_takes_it_up_there_is_nothing(library: Library) -> None:
    library.add_solo(replace(make_solo(BESIDE), title="Elsewhere"))
    assert cells(library) == ()
    library.add_solo(head())
    assert cells(library) == ()


def test_a_lick_of_a_head_is_no_head() -> None:
    tune = head()
    assert not excerpt(tune, tune.notes[0].id, tune.notes[3].id).is_head
