"""Building the demo library."""

from __future__ import annotations

import shutil
import sqlite3
from collections.abc import Callable, Sequence
from contextlib import closing
from dataclasses import replace
from pathlib import Path

from gavotte.demo.arcade import begun_arcade
from gavotte.demo.more_solos import MORE_LICKS, MORE_SOLOS, gravel_head
from gavotte.demo.practice import add_practice
from gavotte.demo.solos import DEMO_LICKS, DEMO_SOLOS
from gavotte.labelling.labeller import labelled
from gavotte.labelling.questions import number_to_look_at
from gavotte.library.backups import FOLDER as BACKUPS
from gavotte.library.database import connect_to_read
from gavotte.library.errors import LibraryError
from gavotte.library.lock import FolderLock
from gavotte.library.practising import FOLDER as TAKES
from gavotte.library.practising import now_here
from gavotte.library.reader import DATABASE
from gavotte.library.recordings import DECODED
from gavotte.library.recordings import FOLDER as RECORDINGS
from gavotte.library.store import Library
from gavotte.sheets.templates import lick_of_the_week
from gavotte.solo.document import Solo
from gavotte.solo.label import Label
from gavotte.vocabulary.lick import keep_lick

_OWN_FILES = ("gavotte.db", "gavotte.db-wal", "gavotte.db-shm", "gavotte.lock")
_OWN_FOLDERS = (BACKUPS, RECORDINGS, DECODED, TAKES)


def _clear(folder: Path) -> None:
    """Delete the demo library in a folder, and nothing else. Raises LibraryError where there is anything else."""
    why_not = _foreign(folder)
    if why_not:
        raise LibraryError(
            f"{folder} is not built anew: {why_not}. Nothing was touched. Choose an empty folder: "
            "gavotte --demo --library FOLDER."
        )
    lock = FolderLock(folder)
    try:
        for path in folder.iterdir():
            if path.is_dir() and not path.is_symlink():
                shutil.rmtree(path)
            elif path.name != "gavotte.lock":
                path.unlink()
    except OSError as error:
        raise LibraryError(f"The demo library in {folder} can't be deleted: {error}.") from error
    finally:
        lock.release()


def _foreign(folder: Path) -> str:
    """What a folder holds that no demo library does; empty where it holds a demo library, or nothing at all."""
    try:
        names = sorted(path.name for path in folder.iterdir())
    except OSError as error:
        return f"it can't be read ({error.strerror})"
    strange = [name for name in names if not _is_own(name)]
    if strange:
        return f"it holds {strange[0]}, which belongs to no library"
    if DATABASE not in names:
        return "" if set(names) <= {"gavotte.lock"} else "it holds no library"
    made = (begun_arcade(), *(make() for make in (*DEMO_SOLOS, *MORE_SOLOS, gravel_head)))
    demo = {(solo.title, solo.player) for solo in made}
    try:
        with closing(connect_to_read(folder / DATABASE)) as database:
            rows = database.execute("SELECT title, player FROM solos WHERE deleted IS NULL").fetchall()
    except sqlite3.Error as error:
        return f"its library can't be read ({error})"
    others = [title for title, player in rows if (title, player) not in demo]
    return f"its library holds “{others[0]}”, which is none of the demo's solos" if others else ""


def _is_own(name: str) -> bool:
    return name in (*_OWN_FILES, *_OWN_FOLDERS) or (name.startswith("gavotte.version") and name.endswith(".backup.db"))


def _added(library: Library, makers: Sequence[Callable[[], Solo]]) -> list[tuple[str, Solo, tuple[Label, ...]]]:
    """Solos put on the shelf, the first of them above the others: the id, the solo and the labels of each."""
    added = []
    for make in reversed(makers):
        solo = make()
        found = labelled(solo)
        added.append((library.add_solo(solo, number_to_look_at(found)), solo, found.labels))
    return added[::-1]


def build_demo(folder: Path, fresh: bool = False) -> None:
    """Put the demo solos, one of them only begun, and licks into the library in ``folder``, unless it is there.

    Their recordings are played in later (see ``recordings``), for that takes a while.

    With ``fresh`` a demo library that is there is deleted first; a folder that holds anything else is not touched.
    Raises LibraryError, LibraryInUseError where a window has it open.
    """
    if fresh and folder.exists():
        _clear(folder)
    if (folder / DATABASE).exists():
        return
    with Library(folder) as library:
        begun = begun_arcade()
        # What is added first stands last on the shelf.
        library.add_solo(begun, number_to_look_at(labelled(begun)))
        library.add_solo(gravel_head(), number_to_look_at(labelled(gravel_head())))
        more = _added(library, MORE_SOLOS)
        for lick in reversed(MORE_LICKS):
            solo_id, solo, labels = more[lick.tune]
            start = 2 * lick.pair * solo.meters[0].meter.bar_length
            end = start + 2 * solo.meters[0].meter.bar_length
            notes = [note.id for note in solo.notes if start <= note.onset < end]
            own = keep_lick(solo, solo_id, labels, notes[0], notes[-1])
            said = {"tags": lick.tags, "status": lick.status, "rating": lick.rating, "words": lick.words}
            library.add_lick(replace(own, **said))  # type: ignore[arg-type]
        kept = _added(library, DEMO_SOLOS)
        for which, first, last in DEMO_LICKS:
            solo_id, solo, labels = kept[which]
            notes = [note.id for note in solo.notes if first <= note.onset <= last]
            library.add_lick(keep_lick(solo, solo_id, labels, notes[0], notes[-1]))
        solo_id, solo, labels = kept[DEMO_LICKS[0][0]]
        notes = [note.id for note in solo.notes if DEMO_LICKS[0][1] <= note.onset <= DEMO_LICKS[0][2]]
        library.add_sheet(lick_of_the_week(keep_lick(solo, solo_id, labels, notes[0], notes[-1])))
        add_practice(library, [(solo_id, solo) for solo_id, solo, _ in kept], now_here())
