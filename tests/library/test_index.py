"""The library's index of lines, what it answers, relatives, cells, and what stands in it already."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import pytest
from tests.conftest import make_solo, whole

from gavotte.demo.bucket import bucket
from gavotte.demo.ferry import ferry
from gavotte.demo.more_solos import TUNES, played
from gavotte.demo.wheel import wheel
from gavotte.labelling.labeller import label_solo
from gavotte.library.already import already_there
from gavotte.library.lines import Index, index_of, line_of_lick
from gavotte.library.mining import library_cells
from gavotte.library.relatives import relatives_of, stretch
from gavotte.library.searching import Answers, answers, every_lick
from gavotte.library.store import Library
from gavotte.solo.document import Solo
from gavotte.solo.moving import transposed
from gavotte.theory.degrees import shown_degree
from gavotte.theory.interval import Interval
from gavotte.vocabulary.corpus import DEGREES
from gavotte.vocabulary.lick import Lick, keep_lick
from gavotte.vocabulary.query import read_query


def kept(solo: Solo, solo_id: str, first: str, last: str) -> Lick:
    return keep_lick(solo, solo_id, label_solo(solo), first, last)


@pytest.fixture
def filled(library: Library) -> Library:
    for make in (wheel, bucket, ferry):
        library.add_solo(make())
    solo_id = library.solos()[0].id
    lick = kept(ferry(), solo_id, "n4", "n16")
    library.add_lick(replace(lick, tags=("opening", "slow"), status="learning", rating=4, words="With a light wrist."))
    library.add_lick(kept(ferry(), solo_id, "n40", "n52"))
    return library


def ask(library: Library, text: str) -> Answers:
    query = read_query(text)
    index: Index = whole(index_of(library))
    words = library.licks_with_words(query.words) if query.words else frozenset()
    return answers(index, query, {e.id: e for e in library.licks()}, {e.id: e for e in library.solos()}, words)


def test_the_index_is_made_once_and_follows_what_is_saved(filled: Library) -> None:
    index = whole(index_of(filled))
    assert len(index.fresh) == 5
    filled.save_lines(index.fresh)
    again = whole(index_of(filled))
    assert again.fresh == ()
    assert len(again.solos.corpus) == len(index.solos.corpus)
    solo_id = again.solos.ids[0]
    filled.save_solo(solo_id, replace(filled.solo(solo_id), notes=filled.solo(solo_id).notes[:20]))
    third = whole(index_of(filled))
    assert [owner for owner, *_ in third.fresh] == [solo_id]
    assert len(third.solos.corpus.lines[third.solos.number_of[solo_id]].notes) == 20
    filled.delete_solo(solo_id)
    assert solo_id not in whole(index_of(filled)).solos.ids


def test_a_damaged_line_is_made_anew(filled: Library) -> None:
    index = whole(index_of(filled))
    filled.save_lines([(owner, modified, b"4 nonsense") for owner, modified, _ in index.fresh])
    assert len(whole(index_of(filled)).fresh) == 5


def test_what_cannot_be_read_stays_out(filled: Library, tmp_path: Path) -> None:
    with filled._writing() as db:
        db.execute("UPDATE licks SET document=x'7b7d' WHERE rowid=1")
    index = whole(index_of(filled))
    assert len(index.licks.ids) == 1


def test_licks_and_places_answer_and_a_kept_place_is_told_once(filled: Library) -> None:
    found = ask(filled, "3 5 7 9")
    total = len(found.licks) + len(found.places)
    assert total > 1
    bare = ask(filled, "3 5 7 9 tag opening")
    assert bare.places == ()
    for answer in found.places:
        assert answer.owner in {entry.id for entry in filled.solos()}
        assert answer.last - answer.first == 3
        assert answer.why.startswith("3 5 7 9")


@pytest.mark.parametrize(
    ("text", "number"),
    [
        ("tag slow", 1),
        ("tag fast", 0),
        ("status learning", 1),
        ("status mine", 0),
        ("rated 3", 1),
        ("rated 5", 0),
        ("named wrist", 1),
        ('named "light wri"', 1),
        ("named ferry", 2),
        ("by vanton", 2),
        ("by nobody", 0),
    ],
)
def test_what_is_said_of_licks_is_found(filled: Library, text: str, number: int) -> None:
    assert len(ask(filled, text).licks) == number


def test_words_follow_a_lick_that_is_changed_deleted_and_restored(filled: Library) -> None:
    (lick_id,) = filled.licks_with_words("wrist")
    filled.save_lick(lick_id, replace(filled.lick(lick_id), words="With the elbow."))
    assert filled.licks_with_words("wrist") == frozenset()
    assert filled.licks_with_words("elb") == {lick_id}
    filled.delete_lick(lick_id)
    assert filled.licks_with_words("elbow") == frozenset()
    filled.restore_lick(lick_id)
    assert filled.licks_with_words('el"bow') == frozenset()
    assert filled.licks_with_words("ELBOW") == {lick_id}
    assert len(every_lick(filled.licks()).licks) == 2


def test_a_context_is_looked_for_in_licks_and_in_solos(filled: Library) -> None:
    found = ask(filled, "in turnaround")
    names = {entry.id: entry.contexts for entry in filled.licks()}
    assert all("turnaround" in names[answer.owner] for answer in found.licks)
    assert found.places


def test_relatives_stand_in_licks_and_solos_and_are_never_the_lick_itself(filled: Library) -> None:
    solo_id = filled.solos()[0].id
    moved = replace(transposed(ferry(), Interval(1, 2)), title="Moved", player="Somebody")
    other_id = filled.add_solo(moved)
    index = whole(index_of(filled))
    lick_id = index.licks.ids[1]
    lick = filled.lick(lick_id)
    found = relatives_of(index, line_of_lick(lick), lick_id, solo_id)
    assert found[0].owner == other_id
    assert found[0].likeness == 1.0
    assert found[0].words == "the same, a whole step higher"
    assert not any(relative.is_lick and relative.owner == lick_id for relative in found)
    for relative in found:
        assert len(relative.line.notes) == relative.last - relative.first + 1


def test_a_stretch_leads_nowhere_outside_of_itself() -> None:
    line = line_of_lick(kept(ferry(), "id", "n4", "n30"))
    part = stretch(line, 5, 12)
    assert len(part.notes) == 8
    assert ((part.notes["target"] == -1) | (part.notes["target"] < 8)).all()


def test_what_is_kept_already_is_told(filled: Library) -> None:
    solo_id = filled.solos()[0].id
    name = filled.lick(filled.licks()[1].id).name
    again = kept(ferry(), solo_id, "n4", "n16")
    assert already_there(filled, again) == (f"“{name}” is the same place.",)
    assert already_there(filled, kept(ferry(), solo_id, "n10", "n20")) == (f"“{name}” shares notes with it.",)
    moved = transposed(ferry(), Interval(2, 4))
    (said,) = already_there(filled, kept(moved, "elsewhere", "n4", "n16"))
    assert said == f"“{name}” is much like it: the same, a major third higher."
    strange = make_solo([("C", "C5/4 C5 C5 C5")])
    assert already_there(filled, kept(strange, "x", "n0", "n3")) == ()


def test_cells_of_a_library_stand_where_they_say(library: Library) -> None:
    for tune in (TUNES[0], TUNES[2], TUNES[3]):
        library.add_solo(played(tune))
    index = whole(index_of(library))
    solos = {entry.id: entry for entry in library.solos()}
    cells = whole(library_cells(solos, index.solos))
    assert cells == tuple(sorted(cells, key=lambda cell: -cell.weight))
    climb = next(cell for cell in cells if cell.degrees.startswith("3 5 ♭7 ♭9"))
    assert climb.players[0] == "Odo Vantongeren"
    for place in climb.places:
        line = index.solos.corpus.lines[index.solos.number_of[place.solo_id]]
        assert place.words.startswith(f"from the {shown_degree(DEGREES[line.notes['degree'][place.first]])} of ")
    alone = whole(library_cells(solos, index.solos, "Ilka Rosenquill"))
    assert alone
    assert all(place.player == "Ilka Rosenquill" for cell in alone for place in cell.places)
