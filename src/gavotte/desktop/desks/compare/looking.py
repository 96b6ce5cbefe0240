"""What the Compare desk has worked out beside the interface: the sets, what they share, what is near, what changes."""

from __future__ import annotations

from collections.abc import Generator, Mapping, Sequence
from dataclasses import dataclass

from gavotte.labelling.labeller import labelled
from gavotte.library.played_takes import is_take, music_of
from gavotte.library.reader import SoloEntry, TakeEntry
from gavotte.library.store import Library
from gavotte.profile.compared import Compared, Known, Side, compared, counted, side_of
from gavotte.profile.nearest import Near, nearest
from gavotte.profile.over_time import OverTime, over_time
from gavotte.profile.parts import Part, parts_in
from gavotte.steps import scaled
from gavotte.vocabulary.corpus import LabelledLine, line_of_solo

_READING = 0.2
_MANY_YEARS, _MANY_MONTHS = 12, 18


@dataclass(frozen=True)
class Wanted:
    """What is to be compared: the ids of both sets, and the part of each."""

    ids: tuple[tuple[str, ...], tuple[str, ...]]
    parts: tuple[Part, Part]


@dataclass(frozen=True)
class Met:
    """Two sets compared, and the parts their solos have."""

    found: Compared
    parts: tuple[tuple[Part, ...], tuple[Part, ...]]


def met(
    library: Library, wanted: Wanted, solos: Mapping[str, LabelledLine], takes: dict[str, LabelledLine], known: Known
) -> Generator[float, None, Met]:
    """Compare what is wanted, yielding the share that is done. Takes that were not labelled are put into ``takes``."""
    missing = [name for ids in wanted.ids for name in ids if is_take(name) and name not in takes]
    with library.read_apart() as reader:
        for number, name in enumerate(missing, 1):
            music = music_of(reader, name)
            if music is not None:
                takes[name] = line_of_solo(labelled(music))
            yield _READING * number / len(missing)
    lines = {**solos, **takes}
    sides = [side_of(ids, lines, part) for ids, part in zip(wanted.ids, wanted.parts, strict=True)]
    whole = [tuple(parts_in([lines[name] for name in ids if name in lines])) for ids in wanted.ids]
    found = yield from scaled(compared(sides[0], sides[1], known), _READING, 1.0)
    return Met(found, (whole[0], whole[1]))


def neighbours(own: Side, others: Side, known: Known) -> Generator[float, None, list[tuple[str, Near]]]:
    """The solos nearest to a set, with their ids, yielding the share that is done."""
    mine = yield from scaled(counted(own, known), 0.0, 0.3)
    theirs = yield from scaled(counted(others, known), 0.3, 0.9)
    found = [(others.ids[near.number], near) for near in nearest(mine, theirs)]
    yield 1.0
    return found


def changing(side: Side, times: Mapping[str, str], known: Known) -> Generator[float, None, OverTime | None]:
    """What changes in a set's solos of known times, yielding the share that is done."""
    counts = yield from scaled(counted(side, known), 0.0, 0.6)
    found = over_time([(times[name], one) for name, one in zip(side.ids, counts, strict=True) if name in times])
    yield 1.0
    return found


def times_of(entries: Sequence[SoloEntry], takes: Sequence[TakeEntry], ids: Sequence[str]) -> dict[str, str]:
    """The times of solos (years, or decades where there are many) and takes (months, or years), by their ids."""
    wanted = set(ids)
    years = {entry.id: entry.year for entry in entries if entry.year is not None and entry.id in wanted}
    months = {take.id: take.at[:7] for take in takes if take.id in wanted}
    by_decade = len(set(years.values())) > _MANY_YEARS
    by_year = len(set(months.values())) > _MANY_MONTHS
    found = {name: f"{10 * (year // 10)}s" if by_decade else f"{year:04}" for name, year in years.items()}
    return {**found, **{name: month[:4] if by_year else month for name, month in months.items()}}
