"""What of a new lick stands in the vocabulary already: the same, moved, with another end, or overlapping it."""

from __future__ import annotations

from contextlib import suppress

from gavotte.formats.errors import FormatError
from gavotte.library.lines import line_of_lick, lines_of
from gavotte.library.reader import LibraryReader
from gavotte.steps import whole
from gavotte.vocabulary.alignment import aligned
from gavotte.vocabulary.lick import Lick
from gavotte.vocabulary.likeness import told

_MUCH_ALIKE = 0.88
MOST = 3


def already_there(reader: LibraryReader, lick: Lick) -> tuple[str, ...]:
    """What a lick is beside those that are kept, the nearest first, each in a sentence; none where it is new.

    Raises LibraryError.
    """
    entries = {entry.id: entry for entry in reader.licks()}
    own = {note.id for note in lick.solo.notes}
    said = []
    seen = set()
    for entry in entries.values():
        if entry.solo_id is None or entry.solo_id != lick.source.solo_id:
            continue
        with suppress(FormatError):
            shared = own & {note.id for note in reader.lick(entry.id).solo.notes}
            if shared:
                seen.add(entry.id)
                how = "is the same place" if len(shared) == len(own) == entry.notes else "shares notes with it"
                said.append(f"“{entry.name}” {how}.")
    lines = whole(lines_of(reader, "licks"))
    line = line_of_lick(lick)
    for near in lines.nearest.to(line, MOST + len(seen), _MUCH_ALIKE):
        number = int(lines.corpus.line_of[near.first])
        name = lines.ids[number]
        if name not in seen and name in entries:
            other = lines.corpus.lines[number]
            said.append(f"“{entries[name].name}” is much like it: {told(other, line, aligned(other, line))}.")
    return tuple(said[:MOST])
