"""A library that can't be broken: kills, failing writes at every statement, truncation, locks, backups, archives."""

from __future__ import annotations

import errno
import json
import os
import random
import shutil
import signal
import sqlite3
import subprocess
import sys
import zipfile
from collections.abc import Callable, Iterator
from contextlib import closing, suppress
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.library.test_store import a_lick, ferry

from gavotte.formats.document import SOLO_DOCUMENT
from gavotte.formats.errors import FormatError
from gavotte.formats.musicxml import open_score
from gavotte.giving_way import giving_way
from gavotte.library import backups, schema, store
from gavotte.library.archive import Contents, add_contents, extract_sounds, read_archive, write_archive
from gavotte.library.errors import DamagedLibraryError, LibraryError, LibraryInUseError
from gavotte.library.reader import DATABASE
from gavotte.library.recordings import DECODED, RECORDING_DOCUMENT, clear_decoded, file_of
from gavotte.library.schools import schools_in
from gavotte.library.store import Library
from gavotte.recording.beat_map import BeatMap
from gavotte.recording.recording import Recording

FULL = sqlite3.OperationalError("database or disk is full")
READ_ONLY = sqlite3.OperationalError("attempt to write a readonly database")


class Faulty(sqlite3.Connection):
    """Fails at the statement that is ``fails_at``, and at all writes after it."""

    fails_at: int | None = None
    error: sqlite3.OperationalError = FULL
    count = 0

    def _step(self, sql: str) -> None:
        cls = type(self)
        if sql.lstrip().upper().startswith("ROLLBACK"):
            return
        cls.count += 1
        if cls.fails_at is not None and cls.count >= cls.fails_at:
            raise cls.error

    def execute(self, sql: str, *args: object) -> sqlite3.Cursor:  # type: ignore[override]
        self._step(sql)
        return super().execute(sql, *args)  # type: ignore[arg-type]

    def executescript(self, sql: str) -> sqlite3.Cursor:
        self._step(sql)
        return super().executescript(sql)


@pytest.fixture
def faulty(monkeypatch: pytest.MonkeyPatch) -> Iterator[type[Faulty]]:
    def connect(path: Path) -> sqlite3.Connection:
        return sqlite3.connect(path, isolation_level=None, timeout=0.2, factory=Faulty)

    monkeypatch.setattr(store, "connect", connect)
    Faulty.fails_at, Faulty.error, Faulty.count = None, FULL, 0
    yield Faulty
    Faulty.fails_at = None


def contents(folder: Path) -> tuple[object, ...]:
    """Everything a library holds."""
    with Library(folder) as library:
        return (
            [(entry.title, library.solo(entry.id), library.recording(entry.id)) for entry in library.solos()],
            [library.lick(entry.id) for entry in library.licks()],
        )


TAKE = Recording("take.wav", "recordings/take.wav", True, "0" * 64, 44100, BeatMap((1.0, 1.5), 1), -20.0, (1.0, 2.0))

WRITES: dict[str, Callable[[Library, str, str], object]] = {
    "add a solo": lambda library, solo, lick: library.add_solo(ferry()),
    "save a solo": lambda library, solo, lick: library.save_solo(solo, replace(ferry(), title="Changed")),
    "delete a solo": lambda library, solo, lick: library.delete_solo(solo),
    "add a lick": lambda library, solo, lick: library.add_lick(a_lick(solo)),
    "save a lick": lambda library, solo, lick: library.save_lick(lick, a_lick(solo).renamed("Changed")),
    "delete a lick": lambda library, solo, lick: library.delete_lick(lick),
    "save a recording": lambda library, solo, lick: library.save_recording(solo, TAKE),
    "add an archive": lambda library, solo, lick: add_contents(
        library, Contents((("a", ferry(), 0), ("b", ferry(), 0)), (a_lick("a"),), (("a", TAKE, ""),))
    ),
}


@pytest.mark.parametrize("name", WRITES)
def test_a_write_that_fails_at_any_statement_changes_nothing(tmp_path: Path, faulty: type[Faulty], name: str) -> None:
    with Library(tmp_path) as library:
        solo = library.add_solo(ferry())
        lick = library.add_lick(a_lick(solo))
    before = contents(tmp_path)
    statements = 0
    while True:
        statements += 1
        with Library(tmp_path) as library:
            faulty.count, faulty.fails_at = 0, statements
            message = ""
            try:
                WRITES[name](library, solo, lick)
            except LibraryError as error:
                message = str(error)
            faulty.fails_at = None
            # The same window goes on working once there is room again.
            library.solos()
        if not message:
            break
        assert "full" in message
        assert contents(tmp_path) == before
    assert statements > 3
    assert contents(tmp_path) != before


def test_opening_that_fails_at_any_statement_says_so_and_leaves_everything(
    tmp_path: Path, faulty: type[Faulty]
) -> None:
    with Library(tmp_path) as library:
        library.add_solo(ferry())
    before = contents(tmp_path)
    statement = 0
    while True:
        statement += 1
        faulty.count, faulty.fails_at, faulty.error = 0, statement, READ_ONLY
        message = ""
        try:
            Library(tmp_path).close()
        except LibraryError as error:
            message = str(error)
        faulty.fails_at = None
        if not message:
            break
        assert "can't be" in message
        assert contents(tmp_path) == before
    assert statement > 6


def test_a_migration_that_fails_leaves_the_old_version(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    with Library(tmp_path) as library:
        solo = library.add_solo(ferry())
    steps = (*schema.MIGRATIONS, "ALTER TABLE solos ADD COLUMN colour TEXT; INSERT INTO nowhere VALUES (1);")
    with monkeypatch.context() as patched:
        patched.setattr(store, "MIGRATIONS", steps)
        patched.setattr(store, "VERSION", len(steps))
        with pytest.raises(LibraryError, match="can't be opened"):
            Library(tmp_path)
    with Library(tmp_path) as library:
        assert library.solo(solo) == ferry()


SAVER = """
import sys
from dataclasses import replace
from pathlib import Path
from gavotte.library.schools import schools_in
from gavotte.library.store import Library
with Library(Path(sys.argv[1])) as library:
    solo = library.solo(sys.argv[2])
    for number in range(int(sys.argv[3]), int(sys.argv[3]) + 200):
        library.save_solo(sys.argv[2], replace(solo, title=f"take {number}"))
        print(number, flush=True)
"""


@pytest.mark.slow
def test_two_hundred_saves_with_kills_at_random_moments(tmp_path: Path) -> None:
    chance = random.Random(11)
    with Library(tmp_path) as library:
        solo = library.add_solo(replace(ferry(), title="take -1"))
    saved = -1
    while saved < 200:
        command = [sys.executable, "-c", SAVER, str(tmp_path), solo, str(saved + 1)]
        process = subprocess.Popen(command, stdout=subprocess.PIPE, text=True)
        assert process.stdout is not None
        for _ in range(chance.randint(1, 40)):
            saved = int(process.stdout.readline())
        # Some way into the next save.
        for _ in range(chance.randint(0, 4000)):
            pass
        os.kill(process.pid, signal.SIGKILL)
        rest = process.stdout.read().split()
        process.wait()
        saved = int(rest[-1]) if rest else saved
        with Library(tmp_path) as library:
            found = int(library.solo(solo).title.removeprefix("take "))
            assert found >= saved, "a save that returned is kept"
            saved = found


@pytest.mark.parametrize("share", [0.1, 0.35, 0.6, 0.85, 0.97])
def test_a_truncated_library_is_told_from_an_empty_one_and_left_alone(tmp_path: Path, share: float) -> None:
    with Library(tmp_path) as library:
        for number in range(12):
            library.add_solo(replace(ferry(), title=f"{number}"))
    path = tmp_path / DATABASE
    cut = path.read_bytes()[: int(path.stat().st_size * share)]
    path.write_bytes(cut)
    with pytest.raises(DamagedLibraryError, match="damaged"):
        Library(tmp_path)
    assert path.read_bytes() == cut


def test_a_second_window_is_refused_until_the_first_is_closed(tmp_path: Path) -> None:
    first = Library(tmp_path)
    first.add_solo(ferry())
    with pytest.raises(LibraryInUseError, match=f"process {os.getpid()}"):
        Library(tmp_path)
    assert len(first.solos()) == 1
    first.close()
    Library(tmp_path).close()


def test_a_failed_opening_does_not_hold_the_folder(tmp_path: Path) -> None:
    (tmp_path / DATABASE).write_bytes(b"no database" * 99)
    for _ in range(2):
        with pytest.raises(DamagedLibraryError):
            Library(tmp_path)


# -- backups --------------------------------------------------------------------------------------------


def test_the_first_opening_of_a_day_makes_a_backup(tmp_path: Path) -> None:
    with Library(tmp_path) as library:
        library.add_solo(ferry())
    assert backups.list_backups(tmp_path) == []
    for _ in range(3):
        Library(tmp_path).close()
    found = backups.list_backups(tmp_path)
    assert [(backup.solos, backup.licks) for backup in found] == [(1, 0)]


def test_going_back_brings_the_old_state_and_keeps_the_new_one(tmp_path: Path) -> None:
    with Library(tmp_path) as library:
        kept = library.add_solo(ferry())
        library.back_up_now()
        old = backups.backup_files(tmp_path)[0]
        older = old.rename(old.with_name("gavotte-2020-01-01T000000-000000.db"))
        library.delete_solo(kept)
        library.add_solo(replace(ferry(), title="Newer"))
        library.go_back_to(older)
        assert [entry.title for entry in library.solos()] == [ferry().title]
        newest = backups.backup_files(tmp_path)[0]
        library.go_back_to(newest)
        assert [entry.title for entry in library.solos()] == ["Newer"]


def test_going_back_to_a_damaged_backup_changes_nothing(tmp_path: Path) -> None:
    with Library(tmp_path) as library:
        library.add_solo(ferry())
        library.back_up_now()
        path = backups.backup_files(tmp_path)[0]
        path.write_bytes(path.read_bytes()[:5000])
        with pytest.raises(LibraryError, match="Nothing was changed"):
            library.go_back_to(path)
        assert len(library.solos()) == 1


def test_a_damaged_library_gets_a_backup_in_its_place(tmp_path: Path) -> None:
    with Library(tmp_path) as library:
        library.add_solo(ferry())
        library.back_up_now()
    path = tmp_path / DATABASE
    path.write_bytes(b"ruined" * 2000)
    with pytest.raises(DamagedLibraryError):
        Library(tmp_path)
    backup = backups.list_backups(tmp_path)[0]
    replaced = backups.put_in_place(tmp_path, path, backup.path, datetime.now(UTC))
    assert replaced is not None
    assert replaced.read_bytes() == b"ruined" * 2000
    with Library(tmp_path) as library:
        assert len(library.solos()) == 1


NOW = datetime(2026, 6, 15, 12, tzinfo=UTC)


@given(st.sets(st.integers(0, 900), max_size=300))
def test_backups_are_kept_sensibly(days: set[int]) -> None:
    made = {NOW - timedelta(days=day) for day in days}
    keep = backups.to_keep(made)
    assert keep <= made
    assert len(keep) <= 7 + 10 + 26
    assert set(sorted(made, reverse=True)[:7]) <= keep
    for time in made:
        if NOW - time < timedelta(days=730):
            assert any(abs(time - other) <= timedelta(days=31) for other in keep)


# -- archives -------------------------------------------------------------------------------------------


def archived(library: Library, path: Path) -> list[float]:
    return list(write_archive(library, path))


def test_a_library_goes_out_and_comes_in_whole(tmp_path: Path) -> None:
    path = tmp_path / "all.gavotte.zip"
    with Library(tmp_path / "one") as one:
        solo = one.add_solo(ferry(), to_look_at=2)
        one.add_lick(a_lick(solo))
        shares = archived(one, path)
        assert shares[-1] == 1
        before = (one.solos()[0], one.licks()[0])
    with zipfile.ZipFile(path) as archive:
        names = archive.namelist()
        score = next(name for name in names if name.startswith("solos/") and name.endswith(".musicxml"))
        assert len(open_score(archive.read(score)).solo().solo.notes) == len(ferry().notes)
    with Library(tmp_path / "two") as two:
        two.add_solo(replace(ferry(), title="Mine"))
        add_contents(two, read_archive(path))
        assert {entry.title for entry in two.solos()} == {"Mine", ferry().title}
        came = next(entry for entry in two.solos() if entry.title == ferry().title)
        assert two.solo(came.id) == ferry()
        assert came.to_look_at == before[0].to_look_at
        assert two.licks()[0].solo_id == came.id
        assert two.lick(two.licks()[0].id).labels == a_lick(solo).labels


def test_recordings_go_out_and_come_in_with_their_files(tmp_path: Path) -> None:
    (tmp_path / "one" / "recordings").mkdir(parents=True)
    (tmp_path / "one" / "recordings" / "take.wav").write_bytes(b"sound" * 1000)
    elsewhere = replace(TAKE, path=str(tmp_path / "far.wav"), copied=False)
    with Library(tmp_path / "one") as library:
        library.save_recording(library.add_solo(ferry()), TAKE)
        library.save_recording(library.add_solo(replace(ferry(), title="Far")), elsewhere)
        assert list(write_archive(library, tmp_path / "all.zip"))[-1] == 1
    contents = read_archive(tmp_path / "all.zip")
    with Library(tmp_path / "two") as library:
        extract_sounds(contents, library.folder)
        add_contents(library, contents)
        found = {entry.title: library.recording(entry.id) for entry in library.solos()}
    # A file that was not in the archive is looked for here, under a name only it has.
    far = replace(elsewhere, path=f"recordings/{TAKE.sha256[:12]} take.wav", copied=True)
    assert found == {ferry().title: TAKE, "Far": far}
    assert (tmp_path / "two" / "recordings" / "take.wav").read_bytes() == b"sound" * 1000


def test_what_was_decoded_goes_with_its_recording(tmp_path: Path) -> None:
    (tmp_path / DECODED).mkdir()
    for name in (TAKE.sha256, "1" * 64):
        (tmp_path / DECODED / f"{name}.pcm").write_bytes(b"sound")
    with Library(tmp_path) as library:
        library.save_recording(library.add_solo(ferry()), TAKE)
        clear_decoded(tmp_path, library.recordings())
    assert [file.stem for file in (tmp_path / DECODED).iterdir()] == [TAKE.sha256]


def opened_daily(folder: Path, first: datetime, days: int) -> None:
    """Have the library remember that it was opened on so many days."""
    with closing(sqlite3.connect(folder / DATABASE)) as database:
        rows = [((first + timedelta(days=day)).date().isoformat(),) for day in range(days)]
        database.executemany("INSERT OR IGNORE INTO days VALUES (?)", rows)
        database.commit()


def test_a_clock_that_was_wrong_once_clears_nothing_and_stops_no_backup(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    clock = [datetime(2026, 3, 1, 12, tzinfo=UTC)]
    monkeypatch.setattr(store, "_now", lambda: clock[0])
    with Library(tmp_path) as library:
        solo = library.add_solo(ferry())
        library.delete_solo(solo)
    for day in range(20):
        clock[0] = datetime(2026, 3, 2, 12, tzinfo=UTC) + timedelta(days=day)
        Library(tmp_path).close()
    before = set(backups.backup_files(tmp_path))
    clock[0] = datetime(2099, 1, 1, tzinfo=UTC)
    Library(tmp_path).close()
    assert len(before - set(backups.backup_files(tmp_path))) <= 1, "one more backup takes the place of one at most"
    clock[0] = datetime(2026, 3, 22, 12, tzinfo=UTC)
    with Library(tmp_path) as library:
        assert any(backups.stamp(path) == clock[0] for path in backups.backup_files(tmp_path))
        library.restore_solo(solo)
        assert library.solo(solo) == ferry()


def test_what_was_deleted_is_cleared_after_a_month_of_days_of_work(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    first = datetime(2026, 3, 1, 12, tzinfo=UTC)
    clock = [first]
    monkeypatch.setattr(store, "_now", lambda: clock[0])
    with Library(tmp_path) as library:
        solo = library.add_solo(ferry())
        library.delete_solo(solo)
    opened_daily(tmp_path, first + timedelta(days=1), 29)
    clock[0] = first + timedelta(days=40)
    with Library(tmp_path) as library:
        assert library.solo(solo) == ferry()
    opened_daily(tmp_path, first + timedelta(days=30), 2)
    with Library(tmp_path) as library, pytest.raises(LibraryError):
        library.solo(solo)


@pytest.mark.parametrize("name", ["a#b", "what?", "100%25", "naïve 木"])
def test_a_library_in_a_folder_of_any_name_has_its_backups(tmp_path: Path, name: str) -> None:
    folder = tmp_path / name
    with Library(folder) as library:
        library.add_solo(ferry())
        library.back_up_now()
        (backup,) = backups.list_backups(folder)
        assert backup.solos == 1
        library.add_solo(ferry())
        library.go_back_to(backup.path)
        assert len(library.solos()) == 1
    assert schools_in(folder, tmp_path / "none") == ()
    assert [path.name for path in tmp_path.iterdir()] == [name]


def test_a_backup_there_is_no_room_for_is_told(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    Library(tmp_path).close()

    def full(*_: object) -> Path:
        raise OSError(errno.ENOSPC, "No space left on device")

    monkeypatch.setattr(backups, "make_backup", full)
    with Library(tmp_path) as library:
        assert "No space left" in library.without_backup


def test_a_solo_that_is_cleared_takes_its_recording_along(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    with Library(tmp_path) as library:
        solo = library.add_solo(ferry())
        library.save_recording(solo, TAKE)
        library.delete_solo(solo)
    monkeypatch.setattr(store, "_now", lambda: datetime.now(UTC) + timedelta(days=31))
    opened_daily(tmp_path, datetime.now(UTC), 31)
    with Library(tmp_path) as library:
        assert library.recording(solo) is None


def test_an_archive_that_is_given_up_leaves_no_file(tmp_path: Path) -> None:
    with Library(tmp_path / "one") as library:
        for _ in range(3):
            library.add_solo(ferry())
        steps = write_archive(library, tmp_path / "all.zip")
        next(steps)
        steps.close()  # type: ignore[attr-defined]
    assert [path.name for path in tmp_path.iterdir()] == ["one"]


def _zip(path: Path, **members: str) -> Path:
    with zipfile.ZipFile(path, "w") as archive:
        for name, text in members.items():
            archive.writestr(f"{name}.json", text)
    return path


@pytest.mark.parametrize(
    ("members", "message"),
    [
        ({}, "does not hold"),
        ({"library": "[]"}, "no Gavotte library"),
        ({"library": "{"}, "does not hold"),
        ({"library": json.dumps({"format": "gavotte-library", "version": 9})}, "newer"),
        ({"library": json.dumps({"format": "gavotte-library", "version": 1})}, "does not hold"),
        (
            {
                "library": json.dumps(
                    {"format": "gavotte-library", "version": 1, "solos": [{"id": "x", "file": "a.json"}], "licks": []}
                ),
                "a": "{}",
            },
            "no Gavotte solo",
        ),
    ],
)
def test_archives_that_hold_no_library_are_refused(tmp_path: Path, members: dict[str, str], message: str) -> None:
    with pytest.raises(FormatError, match=message):
        read_archive(_zip(tmp_path / "x.zip", **members))


def test_a_cut_archive_is_refused(tmp_path: Path) -> None:
    path = tmp_path / "all.zip"
    with Library(tmp_path / "one") as library:
        library.add_solo(ferry())
        archived(library, path)
    path.write_bytes(path.read_bytes()[:-200])
    with pytest.raises(FormatError, match="damaged"):
        read_archive(path)


# -- archives that mean harm ----------------------------------------------------------------------------


def an_archive(path: Path, recording: Recording, sound: str | None, files: dict[str, bytes]) -> Path:
    """An archive of one solo with a recording, as somebody else may have made it."""
    item = {"id": "x", "file": "solo.json", "recording": "recording.json"}
    listing = {
        "format": "gavotte-library",
        "version": 1,
        "solos": [item if sound is None else {**item, "sound": sound}],
        "licks": [],
    }
    with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("library.json", json.dumps(listing))
        archive.writestr("solo.json", SOLO_DOCUMENT.write(ferry()))
        archive.writestr("recording.json", RECORDING_DOCUMENT.write(recording))
        for name, data in files.items():
            archive.writestr(name, data)
    return path


@pytest.mark.parametrize("copied", [True, False])
@pytest.mark.parametrize("where", ["../../secret.txt", "/etc/hostname", "recordings/../../../secret.txt", "..", ""])
def test_a_recording_from_an_archive_leads_to_no_file_outside(tmp_path: Path, where: str, copied: bool) -> None:
    (tmp_path / "secret.txt").write_text("secret")
    taken = an_archive(tmp_path / "in.zip", replace(TAKE, path=where, copied=copied), None, {})
    with Library(tmp_path / "deep" / "library") as library:
        add_contents(library, read_archive(taken))
        (entry,) = library.solos()
        recording = library.recording(entry.id)
        assert recording is not None
        assert file_of(library.folder, recording).parent == library.folder / "recordings"
        list(write_archive(library, tmp_path / "out.zip"))
    with zipfile.ZipFile(tmp_path / "out.zip") as archive:
        assert not any(b"secret" in archive.read(name) for name in archive.namelist() if name.startswith("recordings"))


@pytest.mark.parametrize("where", ["../../secret.txt", "recordings/../../../secret.txt", "recordings/link"])
def test_a_recording_in_another_database_leads_to_no_file_outside(tmp_path: Path, where: str) -> None:
    (tmp_path / "secret.txt").write_text("secret")
    folder = tmp_path / "deep" / "library"
    with Library(folder) as library:
        (folder / "recordings").mkdir()
        (folder / "recordings" / "link").symlink_to(tmp_path / "secret.txt")
        library.save_recording(library.add_solo(ferry()), replace(TAKE, path=where))
        list(write_archive(library, tmp_path / "out.zip"))
    with zipfile.ZipFile(tmp_path / "out.zip") as archive:
        assert not [name for name in archive.namelist() if name.startswith("recordings/")]


@pytest.mark.parametrize(
    "sound", ["recordings/../../x.wav", "/x.wav", "x.wav", "recordings/..", "recordings/", "recordings/a\\\\b.wav"]
)
def test_a_sound_that_would_be_written_elsewhere_is_refused(tmp_path: Path, sound: str) -> None:
    with pytest.raises(FormatError, match="no file of a recording"):
        read_archive(an_archive(tmp_path / "in.zip", TAKE, sound, {sound or "x": b"sound"}))


def test_what_unpacks_to_far_more_than_it_is_is_refused_before_it_is_written(tmp_path: Path) -> None:
    name = "recordings/take.wav"
    taken = an_archive(tmp_path / "in.zip", TAKE, name, {name: bytes(100 * 1024 * 1024)})
    assert taken.stat().st_size < 1024 * 1024
    with pytest.raises(FormatError, match="unpack"):
        read_archive(taken)


def test_what_fills_the_disk_is_refused_before_it_is_written(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    taken = read_archive(an_archive(tmp_path / "in.zip", TAKE, "recordings/take.wav", {"recordings/take.wav": b"so"}))
    usage = shutil.disk_usage(tmp_path)
    monkeypatch.setattr(shutil, "disk_usage", lambda _: usage._replace(free=1000))
    (tmp_path / "library").mkdir()
    with pytest.raises(FormatError, match="make room"):
        extract_sounds(taken, tmp_path / "library")
    assert list((tmp_path / "library" / "recordings").iterdir()) == []


def test_unpacking_that_is_stopped_leaves_nothing_behind(tmp_path: Path) -> None:
    files = {f"recordings/{number}.wav": b"sound" for number in range(3)}
    listing = [(str(number), TAKE, f"recordings/{number}.wav") for number in range(3)]
    taken = an_archive(tmp_path / "in.zip", TAKE, None, files)
    (tmp_path / "library").mkdir()
    times: list[None] = []

    def stop() -> None:
        times.append(None)
        if len(times) == 3:
            raise KeyboardInterrupt

    with giving_way(stop), pytest.raises(KeyboardInterrupt):
        extract_sounds(Contents((), (), tuple(listing), archive=taken), tmp_path / "library")
    assert list((tmp_path / "library" / "recordings").iterdir()) == []


def test_one_solo_that_cant_be_read_is_left_out_by_name(tmp_path: Path) -> None:
    with Library(tmp_path) as library:
        bad = library.add_solo(replace(ferry(), title="Bad"))
        library.add_solo(ferry())
        library._db.execute("UPDATE solos SET document=? WHERE id=?", (b'{"format":"gavotte-solo"', bad))
        left_out: list[str] = []
        list(write_archive(library, tmp_path / "out.zip", left_out))
        assert left_out == ["Bad"]
    assert len(read_archive(tmp_path / "out.zip").solos) == 1


@pytest.mark.parametrize("method", [zipfile.ZIP_DEFLATED, zipfile.ZIP_LZMA, zipfile.ZIP_BZIP2])
def test_every_damaged_byte_of_an_archive_is_told(tmp_path: Path, method: int) -> None:
    whole = tmp_path / "whole.zip"
    with zipfile.ZipFile(whole, "w", method) as archive:
        archive.writestr(
            "library.json", json.dumps({"format": "gavotte-library", "version": 1, "solos": [], "licks": []})
        )
    data = whole.read_bytes()
    for place in range(0, len(data), 3):
        damaged = tmp_path / "damaged.zip"
        damaged.write_bytes(data[:place] + bytes([data[place] ^ 0xFF]) + data[place + 1 :])
        with suppress(FormatError):
            read_archive(damaged)
