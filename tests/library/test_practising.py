"""What a library keeps of practice."""

from __future__ import annotations

import json
import zipfile
from dataclasses import replace
from pathlib import Path

import pytest
from tests.conftest import make_solo, whole

from gavotte.formats.errors import FormatError
from gavotte.library.archive import add_contents, read_archive, write_archive
from gavotte.library.practising import PRACTICE_DOCUMENT, KeptTake, Practising
from gavotte.library.store import Library
from gavotte.practice.item import Card, Kind, Memory, PracticeItem
from gavotte.practice.log import LogEntry
from gavotte.practice.take import Take, TakeNote, Verdict

MUSIC = make_solo([("Dm7", "D4/8 F4 A4 C5 E5 D5 C5 A4")])
ITEM = PracticeItem("Lick", Kind.LICK, MUSIC, 120, words="land on the 3rd").with_keys(3)
ENTRY = LogEntry("2026-03-01T18:00:00+00:00", "", "Lick", "C", 0, 90.0, 100, 3, tags=("rushed",))
TAKE = Take((TakeNote("n0", Verdict.RIGHT, 62, 1.0, 1.2, 0.01, 0.9, 4.0), TakeNote("n1", Verdict.MISSED)), (), 120.0)


def filled(folder: Path) -> tuple[Library, str]:
    """A library with an item, an entry and a take, and the id of the item."""
    library = Library(folder)
    kept = Practising(library)
    item_id = kept.add(ITEM)
    kept.add_entry(replace(ENTRY, item=item_id))
    kept.add_take(KeptTake(item_id, 0, ENTRY.at, MUSIC, TAKE, "sound.flac"))
    return library, item_id


def test_items_log_and_takes_are_there_again(tmp_path: Path) -> None:
    library, item_id = filled(tmp_path / "library")
    library.close()
    with Library(tmp_path / "library") as again:
        kept = Practising(again)
        assert kept.items() == [(item_id, ITEM)]
        assert [entry for _, entry in kept.log()] == [replace(ENTRY, item=item_id)]
        assert kept.takes(item_id)[0][1].take == TAKE
        assert kept.takes("another") == []


def test_what_is_deleted_can_be_put_back(tmp_path: Path) -> None:
    library, item_id = filled(tmp_path / "library")
    kept = Practising(library)
    entry_id, take_id = kept.log()[0][0], kept.takes(item_id)[0][0]
    kept.delete(item_id)
    kept.delete_entry(entry_id)
    kept.delete_take(take_id)
    assert (kept.items(), kept.log(), kept.takes(item_id)) == ([], [], [])
    kept.restore(item_id)
    kept.restore_entry(entry_id)
    kept.restore_take(take_id)
    assert kept.items() == [(item_id, ITEM)]
    assert len(kept.log()) == len(kept.takes(item_id)) == 1
    library.close()


def test_the_log_is_in_the_order_of_its_days(tmp_path: Path) -> None:
    with Library(tmp_path / "library") as library:
        kept = Practising(library)
        for day in (3, 1, 2):
            kept.add_entry(replace(ENTRY, at=f"2026-03-0{day}T18:00:00+00:00"))
        assert [entry.day.day for _, entry in kept.log()] == [3, 2, 1]


def test_a_damaged_item_is_left_out_and_stays_in_the_library(tmp_path: Path) -> None:
    library, item_id = filled(tmp_path / "library")
    library.add_document("practice", "0" * 32, "", b"{}")
    assert [row for row, _ in Practising(library).items()] == [item_id]
    assert len(library.documents("practice")) == 2
    library.close()


@pytest.mark.parametrize(
    "change",
    [
        {"cards": (Card(0), Card(0))},
        {"cards": ()},
        {"cards": (Card(12),)},
        {"goal": 0},
        {"cards": (Card(0, memory=Memory(due="2026-03-01T18:00:00")),)},
    ],
)
def test_what_cannot_be_practised_is_not_read(change: dict[str, object]) -> None:
    document = PRACTICE_DOCUMENT.write(replace(ITEM, **change))  # type: ignore[arg-type]
    with pytest.raises(FormatError):
        PRACTICE_DOCUMENT.read(document)


def test_practice_goes_out_and_comes_in_with_the_archive(tmp_path: Path) -> None:
    library, item_id = filled(tmp_path / "library")
    whole(write_archive(library, tmp_path / "all.gavotte.zip"))
    library.close()
    contents = read_archive(tmp_path / "all.gavotte.zip")
    with Library(tmp_path / "other") as other:
        for _ in range(2):
            add_contents(other, contents)
            kept = Practising(other)
            assert kept.items() == [(item_id, ITEM)]
            assert len(kept.log()) == 1
            assert kept.takes(item_id)[0][1].take == TAKE
            assert kept.takes(item_id)[0][1].sound == ""


def test_practice_in_an_archive_is_held_to_what_it_can_be(tmp_path: Path) -> None:
    library, _ = filled(tmp_path / "library")
    path = tmp_path / "all.gavotte.zip"
    whole(write_archive(library, path))
    library.close()
    with zipfile.ZipFile(path) as archive:
        members = {name: archive.read(name) for name in archive.namelist()}
    rows = json.loads(members["practice.json"])
    for bad in ([{**rows[0], "table": "solos"}], [{**rows[0], "id": "../x"}], [{**rows[0], "document": {}}], {"a": 1}):
        with zipfile.ZipFile(path, "w") as archive:
            for name, data in members.items():
                archive.writestr(name, json.dumps(bad) if name == "practice.json" else data)
        with pytest.raises(FormatError):
            read_archive(path)
