"""Every solo and lick of a library as numbers, kept in its table ``lines``: what is searched and compared."""

from __future__ import annotations

import logging
from collections.abc import Generator
from dataclasses import dataclass
from functools import cached_property

from gavotte.formats.errors import FormatError
from gavotte.giving_way import give_way
from gavotte.labelling.labeller import labelled
from gavotte.library.errors import LibraryError
from gavotte.library.reader import LibraryReader
from gavotte.solo.label import Label
from gavotte.steps import scaled
from gavotte.vocabulary.alignment import Nearest
from gavotte.vocabulary.corpus import Corpus, LabelledLine, labelled_line, line_of_solo
from gavotte.vocabulary.lick import Lick

LOG = logging.getLogger("gavotte")


@dataclass(frozen=True)
class Lines:
    """The lines of some solos or licks, by their ids, end to end in one corpus."""

    ids: tuple[str, ...]
    corpus: Corpus

    @cached_property
    def nearest(self) -> Nearest:
        """What finds relatives among them."""
        return Nearest(self.corpus)

    @cached_property
    def number_of(self) -> dict[str, int]:
        """Which line belongs to an id."""
        return {name: number for number, name in enumerate(self.ids)}


@dataclass(frozen=True)
class Index:
    """All solos and licks of a library as lines. ``fresh`` are those that were made for it, to be kept: owner, when
    that was changed, and the line as bytes.
    """

    solos: Lines
    licks: Lines
    fresh: tuple[tuple[str, str, bytes], ...] = ()


EMPTY = Index(Lines((), Corpus(())), Lines((), Corpus(())))
_SOLOS_SHARE = 0.9
_VERSION = b"5"
"""What a line's bytes begin with; those of another version are made anew."""


def index_of(reader: LibraryReader) -> Generator[float, None, Index]:
    """The index of a library, made anew where it is behind; in steps that yield the share that is done.

    A solo or lick that can't be read stays out. Raises LibraryError.
    """
    fresh: list[tuple[str, str, bytes]] = []
    solos = yield from scaled(lines_of(reader, "solos", fresh), 0.0, _SOLOS_SHARE)
    licks = yield from scaled(lines_of(reader, "licks", fresh), _SOLOS_SHARE, 1.0)
    return Index(solos, licks, tuple(fresh))


def lines_of(
    reader: LibraryReader, table: str, fresh: list[tuple[str, str, bytes]] | None = None
) -> Generator[float, None, Lines]:
    """The lines of all solos or of all licks; those that were made for it are put into ``fresh``."""
    rows = reader.lines(table)
    found: list[tuple[str, LabelledLine]] = []
    missing = max(1, sum(data is None or data[:1] != _VERSION for *_, data in rows))
    made = 0
    for owner, modified, data in rows:
        give_way()
        line = None
        if data is not None and data[:1] == _VERSION:
            try:
                line = LabelledLine.unpacked(data[1:])
            except ValueError as error:
                LOG.warning("A line is damaged and made anew: %s", error)
        if line is None:
            try:
                line = _line_of_solo(reader, owner) if table == "solos" else line_of_lick(reader.lick(owner))
            except (FormatError, LibraryError) as error:
                LOG.warning("%s %s can't be searched: %s", table, owner, error)
                continue
            made += 1
            if fresh is not None:
                fresh.append((owner, modified, _VERSION + line.packed()))
            yield min(1.0, made / missing)
        found.append((owner, line))
    return Lines(tuple(owner for owner, _ in found), Corpus(line for _, line in found))


def _line_of_solo(reader: LibraryReader, solo_id: str) -> LabelledLine:
    return line_of_solo(labelled(reader.solo(solo_id)))


def line_of_lick(lick: Lick) -> LabelledLine:
    """The line of a lick, with the labels it was kept with."""
    found = labelled(lick.solo)
    own = {label.note: label for label in lick.labels}
    labels: list[Label] = [own.get(label.note, label) for label in found.labels]
    return labelled_line(found, labels)
