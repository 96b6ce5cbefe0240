"""Building the demo library."""

from __future__ import annotations

import shutil
from pathlib import Path

from gavotte.demo.arcade import begun_arcade
from gavotte.demo.solos import DEMO_LICKS, DEMO_SOLOS
from gavotte.labelling.labeller import labelled
from gavotte.labelling.questions import number_to_look_at
from gavotte.library.lock import FolderLock
from gavotte.library.store import DATABASE, Library
from gavotte.vocabulary.lick import keep_lick


def build_demo(folder: Path, fresh: bool = False) -> None:
    """Put the demo solos, one of them only begun, and licks into the library in ``folder``, unless it is there.

    Their recordings are played in later (see ``recordings``), for that takes a while.

    With ``fresh`` what is there is deleted first. Raises LibraryError, LibraryInUseError where a window has it open.
    """
    if fresh and folder.exists():
        lock = FolderLock(folder)
        shutil.rmtree(folder)
        lock.release()
    if (folder / DATABASE).exists():
        return
    with Library(folder) as library:
        begun = begun_arcade()
        # What is added first stands last on the shelf.
        library.add_solo(begun, number_to_look_at(labelled(begun)))
        kept = []
        for make in reversed(DEMO_SOLOS):
            solo = make()
            found = labelled(solo)
            kept.append((library.add_solo(solo, number_to_look_at(found)), solo, found.labels))
        kept.reverse()
        for which, first, last in DEMO_LICKS:
            solo_id, solo, labels = kept[which]
            notes = [note.id for note in solo.notes if first <= note.onset <= last]
            library.add_lick(keep_lick(solo, solo_id, labels, notes[0], notes[-1]))
