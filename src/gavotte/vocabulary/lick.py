"""A lick: a stretch of a solo worth keeping, with its chords, labels and where it comes from."""

from __future__ import annotations

from dataclasses import dataclass, replace

from gavotte.formats.document import DocumentKind, with_version
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Solo
from gavotte.solo.label import Label
from gavotte.solo.moving import excerpt
from gavotte.vocabulary.harmony import home_key
from gavotte.vocabulary.naming import propose_name


@dataclass(frozen=True, slots=True)
class Source:
    """Where a lick was found: the solo's id in the library, its title and player, and the bars."""

    solo_id: str
    title: str
    player: str
    first_bar: int
    last_bar: int

    @property
    def place(self) -> str:
        """ "bars 3–4", "bar 7", "the pickup to bar 1"."""
        if self.first_bar == self.last_bar:
            return f"bar {self.first_bar}" if self.first_bar else "the pickup"
        if self.first_bar == 0:
            return f"the pickup to bar {self.last_bar}"
        return f"bars {self.first_bar}–{self.last_bar}"


@dataclass(frozen=True, slots=True)
class Lick:
    """A kept lick. ``solo`` is its excerpt, bar 1 being the bar it starts in; ``labels`` are those it had there."""

    name: str
    solo: Solo
    labels: tuple[Label, ...]
    source: Source

    def renamed(self, name: str) -> Lick:
        """The lick under another name."""
        return replace(self, name=name)


def keep_lick(solo: Solo, solo_id: str, labels: tuple[Label, ...], first: str, last: str) -> Lick:
    """The notes from ``first`` to ``last`` (ids, in either order) as a lick with a proposed name.

    Raises KeyError for an unknown note.
    """
    part = excerpt(solo, first, last)
    part = replace(part, keys=(home_key(part),))
    ids = {note.id for note in part.notes}
    kept = tuple(label for label in labels if label.note in ids)
    grid = BarGrid(solo)
    ordered = [note for note in solo.notes if note.id in ids]
    last_note = ordered[-1]
    end = last_note.onset if last_note.grace else last_note.end
    last_bar = grid.at(end)
    if last_bar.onset == end and last_bar.number > grid.at(ordered[0].onset).number:
        last_bar = grid.bars[grid.index_at(end) - 1]
    source = Source(solo_id, solo.title, solo.player, grid.at(ordered[0].onset).number, last_bar.number)
    return Lick(propose_name(part, kept), part, kept, source)


LICK_DOCUMENT = DocumentKind(
    "gavotte-lick", 5, "lick", Lick, {version: with_version(version + 1) for version in (1, 2, 3, 4)}
)
"""How the library keeps a lick."""
