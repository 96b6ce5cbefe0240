from __future__ import annotations

import json
import os
import signal
import sqlite3
import subprocess
import sys
import threading
from contextlib import closing
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import pytest
from tests.conftest import make_solo

from gavotte.demo.arcade import arcade
from gavotte.demo.build import build_demo
from gavotte.demo.more_solos import MORE_LICKS, MORE_SOLOS, gravel_head
from gavotte.demo.solos import DEMO_LICKS, DEMO_SOLOS
from gavotte.formats.document import SOLO_DOCUMENT
from gavotte.labelling.labeller import label_solo
from gavotte.library import schema, store, tables
from gavotte.library.corrections import corrections_of, take_in_corrections
from gavotte.library.errors import LibraryError
from gavotte.library.reader import DATABASE
from gavotte.library.schools import SCHOOLS_DOCUMENT, OwnSchools, keep_schools, own_schools, take_in_schools
from gavotte.library.store import Library
from gavotte.solo.document import Function, Solo
from gavotte.solo.edits import with_decision
from gavotte.solo.school import VERTICAL
from gavotte.vocabulary.lick import Lick, keep_lick


def ferry() -> Solo:
    return DEMO_SOLOS[0]()


def a_lick(solo_id: str) -> Lick:
    return keep_lick(ferry(), solo_id, label_solo(ferry()), "n4", "n12")


def test_what_is_put_in_comes_out_after_closing(tmp_path: Path) -> None:
    with Library(tmp_path) as library:
        solo_id = library.add_solo(ferry(), to_look_at=3)
        lick_id = library.add_lick(a_lick(solo_id))
    with Library(tmp_path) as library:
        assert library.solo(solo_id) == ferry()
        assert library.lick(lick_id) == a_lick(solo_id)
        entry = library.solos()[0]
        assert (entry.title, entry.bars, entry.notes, entry.to_look_at) == (ferry().title, 32, len(ferry().notes), 3)
        assert library.licks()[0].degrees.split() == [label.degree for label in a_lick(solo_id).labels]


def test_saving_replaces_and_touches(library: Library) -> None:
    first, second = library.add_solo(ferry()), library.add_solo(replace(ferry(), title="Another"))
    assert [entry.id for entry in library.solos()] == [second, first]
    changed = with_decision(ferry(), "n3", Function.CHORD, "plain")
    library.save_solo(first, changed)
    library.save_count(first, 1)
    assert library.solos()[0].to_look_at == 1
    assert library.solo(first) == changed
    assert [entry.id for entry in library.solos()] == [first, second]


def test_deleting_can_be_undone_and_licks_outlive_their_solo(library: Library) -> None:
    solo_id = library.add_solo(ferry())
    lick_id = library.add_lick(a_lick(solo_id))
    library.delete_solo(solo_id)
    assert library.solos() == []
    assert len(library.licks()) == 1
    library.restore_solo(solo_id)
    assert library.solo(solo_id) == ferry()
    library.delete_lick(lick_id)
    assert library.licks() == []
    library.restore_lick(lick_id)
    assert library.licks()[0].id == lick_id


def test_what_was_deleted_long_ago_is_cleared(tmp_path: Path) -> None:
    with Library(tmp_path) as library:
        solo_id = library.add_solo(ferry())
        lick_id = library.add_lick(a_lick(solo_id))
        library.delete_solo(solo_id)
    database = sqlite3.connect(tmp_path / DATABASE)
    database.execute("UPDATE solos SET deleted='2001-01-01T00:00:00+00:00'")
    database.executemany("INSERT INTO days VALUES (?)", [(f"2001-03-{day:02}",) for day in range(1, 32)])
    database.commit()
    database.close()
    with Library(tmp_path) as library:
        with pytest.raises(LibraryError, match="no longer"):
            library.solo(solo_id)
        assert library.licks()[0].id == lick_id
        assert library.licks()[0].solo_id is None


def test_unknown_ids_are_refused(library: Library) -> None:
    for call in (library.solo, library.lick):
        with pytest.raises(LibraryError, match="no longer"):
            call("nothing")
    with pytest.raises(LibraryError, match="no longer"):
        library.save_solo("nothing", ferry())
    with pytest.raises(LibraryError, match="no longer"):
        library.save_lick("nothing", a_lick(""))


def test_a_library_of_a_newer_version_is_left_alone(tmp_path: Path) -> None:
    Library(tmp_path).close()
    database = sqlite3.connect(tmp_path / DATABASE)
    database.execute("PRAGMA user_version = 99")
    database.close()
    before = (tmp_path / DATABASE).read_bytes()
    with pytest.raises(LibraryError, match="newer Gavotte"):
        Library(tmp_path)
    assert (tmp_path / DATABASE).read_bytes() == before


@pytest.mark.parametrize(
    "content", [b"this is no database, only some text" * 40, b"SQLite format 3\x00" + b"\xff" * 4000]
)
def test_a_damaged_library_is_left_alone(tmp_path: Path, content: bytes) -> None:
    (tmp_path / DATABASE).write_bytes(content)
    with pytest.raises(LibraryError, match="is damaged"):
        Library(tmp_path)
    assert (tmp_path / DATABASE).read_bytes() == content


def test_a_folder_that_is_a_file_is_refused(tmp_path: Path) -> None:
    (tmp_path / "taken").write_text("x")
    with pytest.raises(LibraryError, match="can't be used"):
        Library(tmp_path / "taken")


def test_migrations_run_in_order_after_a_backup(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    with Library(tmp_path) as library:
        solo_id = library.add_solo(ferry())
    steps = (*schema.MIGRATIONS, "ALTER TABLE solos ADD COLUMN colour TEXT;")
    monkeypatch.setattr(store, "MIGRATIONS", steps)
    monkeypatch.setattr(store, "VERSION", len(steps))
    with Library(tmp_path) as library:
        assert library.solo(solo_id) == ferry()
    before = schema.VERSION
    assert [path.name for path in tmp_path.glob("*.backup.db")] == [f"gavotte.version{before}.backup.db"]
    backup = sqlite3.connect(tmp_path / f"gavotte.version{before}.backup.db")
    assert backup.execute("SELECT count(*) FROM solos").fetchone() == (1,)
    assert backup.execute("PRAGMA user_version").fetchone() == (before,)
    backup.close()


OLD_SOLO = """
    INSERT INTO solos VALUES ('old', 'Old One', 'P', 'swing', 'C major', 1, 2, 1, ?, '2026-01-01T00:00:00+00:00',
        '2026-01-01T00:00:00+00:00', NULL)
"""


def test_an_older_library_is_filled_from_its_documents(tmp_path: Path) -> None:
    waltz = replace(make_solo([("C6", "C5/4 E5 G5")], meter="3/4"), tempo=Fraction(150))
    database = sqlite3.connect(tmp_path / DATABASE)
    for step in schema.MIGRATIONS[:2]:
        database.executescript(str(step))
    database.execute(OLD_SOLO, (SOLO_DOCUMENT.write(waltz),))
    database.execute(OLD_SOLO.replace("'old'", "'damaged'"), (b"{",))
    database.execute("PRAGMA user_version = 2")
    database.commit()
    database.close()
    with Library(tmp_path) as library:
        entries = {entry.id: entry for entry in library.solos()}
        assert (entries["old"].meter, entries["old"].tempo, entries["old"].to_look_at) == ("3/4", 150, None)
        assert entries["damaged"].meter == ""
        assert library.solo("old") == waltz


def test_tables_are_as_they_are_declared(library: Library) -> None:
    for table in (tables.SOLOS, tables.LICKS, tables.RECORDINGS):
        found = {row[1] for row in library._db.execute(f"PRAGMA table_info({table.name})")}
        assert found == set(table.all_columns)


def test_schools_and_corrections_are_taken_in_from_where_they_lay(tmp_path: Path, library: Library) -> None:
    mine = replace(VERTICAL, name="Mine")
    (tmp_path / "schools.json").write_bytes(SCHOOLS_DOCUMENT.write(OwnSchools((mine,))))
    (tmp_path / "corrections.json").write_text(
        json.dumps({"evidence": {"Linear": {"a": {"ninth_is_tone": [3, 1]}}}, "declined": {"Linear": {"x": 4}}})
    )
    take_in_schools(library, tmp_path)
    take_in_corrections(library, tmp_path)
    assert own_schools(library) == (mine,)
    corrections = corrections_of(library)
    assert corrections.elsewhere("Linear", "b")["ninth_is_tone"].other_way == 3
    assert corrections.is_declined("Linear", "x", 5)
    keep_schools(library, [])
    take_in_schools(library, tmp_path)
    assert own_schools(library) == (), "what was deleted since does not come back"


SAVER = """
import sys
from dataclasses import replace
from pathlib import Path
from gavotte.library.store import Library
library = Library(Path(sys.argv[1]))
solo_id = sys.argv[2]
solo = library.solo(solo_id)
for number in range(100000):
    library.save_solo(solo_id, replace(solo, title=f"take {number}"))
    print(number, flush=True)
"""


@pytest.mark.parametrize("after", [1, 2, 5, 9, 14, 23])
def test_a_killed_process_loses_no_finished_save(tmp_path: Path, after: int) -> None:
    with Library(tmp_path) as library:
        solo_id = library.add_solo(ferry())
    process = subprocess.Popen([sys.executable, "-c", SAVER, str(tmp_path), solo_id], stdout=subprocess.PIPE, text=True)
    assert process.stdout is not None
    last = -1
    for _ in range(after):
        last = int(process.stdout.readline())
    os.kill(process.pid, signal.SIGKILL)
    rest = process.stdout.read().split()
    process.wait()
    last = int(rest[-1]) if rest else last
    with Library(tmp_path) as library:
        number = int(library.solo(solo_id).title.removeprefix("take "))
        assert number >= last, "a save that returned is kept"
        assert library._db.execute("PRAGMA integrity_check").fetchone() == ("ok",)


def test_the_demo_is_built_once_and_anew_on_demand(tmp_path: Path) -> None:
    folder = tmp_path / "demo"
    build_demo(folder)
    with Library(folder) as library:
        titles = [*(make().title for make in (*DEMO_SOLOS, *MORE_SOLOS, gravel_head)), arcade().title]
        assert [entry.title for entry in library.solos()] == titles
        assert len(library.licks()) == len(DEMO_LICKS) + len(MORE_LICKS)
        library.delete_solo(library.solos()[0].id)
    build_demo(folder)
    with Library(folder) as library:
        assert len(library.solos()) == len(titles) - 1
    build_demo(folder, fresh=True)
    with Library(folder) as library:
        assert len(library.solos()) == len(titles)
        begun = library.solo(library.solos()[-1].id)
        assert begun.notes == arcade().notes[: len(begun.notes)]
        assert 0 < len(begun.notes) < len(arcade().notes)


def test_a_library_of_the_first_version_gains_its_recordings(tmp_path: Path) -> None:
    with closing(sqlite3.connect(tmp_path / DATABASE)) as old:
        old.executescript(f"{schema.MIGRATIONS[0]} PRAGMA user_version = 1;")
    with Library(tmp_path) as library:
        solo_id = library.add_solo(ferry())
        assert library.recording(solo_id) is None


def test_another_thread_reads_what_was_written_by_a_reader_of_its_own(tmp_path: Path) -> None:
    with Library(tmp_path) as library:
        solo_id = library.add_solo(Solo("Read apart"))
        found: list[object] = []

        def read() -> None:
            with library.read_apart() as reader:
                found.extend([reader.solo(solo_id).title, [entry.id for entry in reader.solos()], reader.counts()])

        thread = threading.Thread(target=read)
        thread.start()
        thread.join(5)
    assert found == ["Read apart", [solo_id], (1, 0)]
