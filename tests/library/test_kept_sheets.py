"""Teaching sheets in the library, in its archive, and what players meet over the same changes."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import pytest
from tests.conftest import make_solo, whole
from tests.sheets.test_sheet import full_sheet

from gavotte.demo.build import build_demo
from gavotte.library.archive import add_contents, read_archive, write_archive
from gavotte.library.contexts_played import contexts_played, lick_over, licks_of, stretch_over
from gavotte.library.errors import LibraryError
from gavotte.library.store import Library
from gavotte.library.tables import SHEETS

TWO_FIVE = [("Dm7", "D5/8 F5 A5 C6 B5 A5 G5 F5"), ("G7", "B4/8 D5 F5 A5 G5/2"), ("Cmaj7", "E5/4 G5 C5/2")]


def test_a_sheet_is_kept_changed_deleted_and_put_back(tmp_path: Path) -> None:
    with Library(tmp_path) as library:
        sheet_id = library.add_sheet(full_sheet())
        assert library.sheet(sheet_id) == full_sheet()
        renamed = replace(full_sheet(), title="Other")
        library.save_sheet_row(sheet_id, SHEETS.values(renamed))
        assert [(entry.title, entry.pieces) for entry in library.sheets()] == [("Other", 9)]
        library.delete_sheet(sheet_id)
        assert library.sheets() == []
        assert library.sheet_count() == 0
        library.restore_sheet(sheet_id)
        assert library.sheet_count() == 1
        with pytest.raises(LibraryError, match="no longer"):
            library.save_sheet_row("nobody", SHEETS.values(renamed))
        with pytest.raises(LibraryError, match="no longer"):
            library.sheet("nobody")
    with Library(tmp_path) as library:
        assert library.sheet(sheet_id).title == "Other"


def test_sheets_go_through_an_archive_without_doubles(tmp_path: Path) -> None:
    path = tmp_path / "all.gavotte.zip"
    with Library(tmp_path / "one") as library:
        library.add_sheet(full_sheet())
        list(write_archive(library, path))
    with Library(tmp_path / "two") as library:
        for _ in range(2):
            add_contents(library, read_archive(path))
            assert [library.sheet(entry.id) for entry in library.sheets()] == [full_sheet()]


def test_players_meet_over_changes_and_each_gives_one_line(tmp_path: Path) -> None:
    with Library(tmp_path) as library:
        for player in ("Ann", "Bo", "Ann"):
            library.add_solo(replace(make_solo(TWO_FIVE), player=player, title=f"By {player}"))
        library.add_solo(replace(make_solo([("C7", "C5/4 E5 G5 Bb5")]), player="Cy"))
        library.add_solo(make_solo(TWO_FIVE))
        found = whole(contexts_played(library))
        assert list(found) == ["long ii-V-I"]
        assert sorted(found["long ii-V-I"]) == ["Ann", "Bo"]
        licks = whole(licks_of(library, found["long ii-V-I"]))
        assert sorted(lick.source.player for lick in licks) == ["Ann", "Bo"]
        assert all(len(lick.solo.notes) >= 13 for lick in licks)
        assert whole(licks_of(library, found["long ii-V-I"], most=1))[0].source.title.startswith("By ")


def test_lines_through_several_keys_are_laid_in_the_one_they_arrive_in() -> None:
    far = [
        ("Ebm7", "Eb5/8 Gb5 Bb5 Db6 C6 Bb5 Ab5 Gb5"),
        ("Ab7", "C5/8 Eb5 Gb5 Bb5 Ab5/2"),
        ("Dbmaj7", "F5/4 Ab5 Db5/2"),
    ]
    home = [("Cmaj7", "E5/4 G5 C5/2"), ("Am7", "A4/4 C5 E5/2"), ("Dm7", "F5/4 A5 D5/2"), ("G7", "B4/4 D5 G4/2")]
    solo = make_solo([*home, *home, *far, *home])
    assert stretch_over(make_solo(far), "long ii-V-I") is not None
    lick = lick_over(solo, "", solo.notes[24].id, solo.notes[24 + 15].id)
    assert [str(event.text) for event in lick.solo.chords] == ["Ebm7", "Ab7", "Dbmaj7"]
    assert [str(region.key) for region in lick.solo.keys] == ["Db major"]


def test_a_stretch_over_changes_is_found_or_not() -> None:
    solo = make_solo(TWO_FIVE)
    assert stretch_over(solo, "long ii-V-I") == (solo.notes[0].id, solo.notes[-1].id)
    assert stretch_over(solo, "back door") is None
    few = make_solo([("Dm7", "D5/1"), ("G7", "B4/1"), ("Cmaj7", "C5/1")])
    assert stretch_over(few, "long ii-V-I") is None


def test_the_demo_has_a_sheet_to_begin_with(tmp_path: Path) -> None:
    build_demo(tmp_path)
    with Library(tmp_path) as library:
        (entry,) = library.sheets()
        assert entry.title.startswith("Lick of the week")
