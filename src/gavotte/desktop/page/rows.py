"""The rows of a page: which bars stand on which line, where each line lies, and which is to be set next.

A row whose line is not set yet lies where it is guessed to be, so that a long solo can be looked at anywhere
before what comes above has been set.
"""

from __future__ import annotations

import itertools
from bisect import bisect_right
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass

from gavotte.desktop.page.line_item import LineItem
from gavotte.engraving.engraver import EngravedLine
from gavotte.engraving.shapes import STAFF_SPACE as SP

MARGIN = 3 * SP
_GAP = 1.2 * SP
_FIRST_GUESS = 20 * SP
_AHEAD = 60
"""Rows that are set beyond what is seen, above and below."""


@dataclass(eq=False)
class Row:
    """Bars from index ``first`` up to ``last`` (not included).

    ``line`` is what they were engraved to, ``item`` what is shown of it; where ``is_stale`` the item is still that of
    an older value. ``top`` is where the row begins on the page, ``expected`` the height it had before it was made
    anew, both in engraver units.
    """

    first: int
    last: int
    line: EngravedLine | None = None
    item: LineItem | None = None
    is_stale: bool = False
    expected: float | None = None
    top: float = 0.0

    @property
    def is_due(self) -> bool:
        """Whether the row is still to be set, or to be set anew."""
        return self.item is None or self.is_stale


class Rows:
    """The rows of one page, from its top."""

    def __init__(self, rows: Iterable[Row] = ()) -> None:
        self._rows = list(rows)
        self._guess = _FIRST_GUESS
        self.bottom = MARGIN / 2
        self.lay_out()

    def __len__(self) -> int:
        return len(self._rows)

    def __iter__(self) -> Iterator[Row]:
        return iter(self._rows)

    def __getitem__(self, index: int) -> Row:
        return self._rows[index]

    @property
    def items(self) -> list[LineItem]:
        """The lines that are set, from the top."""
        return [row.item for row in self._rows if row.item is not None]

    def index(self, row: Row) -> int:
        """Where a row stands."""
        return self._rows.index(row)

    def of_bar(self, bar: int) -> Row | None:
        """The row that holds the bar of an index; the last one for bars behind it, None where there is none."""
        if not self._rows:
            return None
        return self._rows[max(0, bisect_right(self._rows, bar, key=lambda row: row.first) - 1)]

    def replace(self, old: Sequence[Row], new: Sequence[Row]) -> None:
        """Put rows in place of some that stand one after the other; or behind all, where ``old`` is empty."""
        start = self._rows.index(old[0]) if old else len(self._rows)
        self._rows[start : start + len(old)] = new

    # -- where they lie -----------------------------------------------------------------------------

    def height(self, row: Row) -> float:
        """The room a row takes, guessed from the others where its line is not set yet; in engraver units."""
        if row.item is not None:
            return row.item.height
        return self._guess if row.expected is None else row.expected

    def lay_out(self) -> None:
        """Put every row under the one before it."""
        heights = [row.item.height for row in self._rows if row.item is not None]
        if heights:
            self._guess = sum(heights) / len(heights)
        y = MARGIN / 2
        for row in self._rows:
            row.top = y
            if row.item is not None and row.item.pos().y() != y - row.item.top:
                row.item.setPos(0, y - row.item.top)
            y += self.height(row) + _GAP
        self.bottom = y

    def at_height(self, y: float) -> Row | None:
        """The row at a height of the page; the first or last one above or below all."""
        if not self._rows:
            return None
        return self._rows[max(0, bisect_right(self._rows, y, key=lambda row: row.top) - 1)]

    # -- which is next ------------------------------------------------------------------------------

    def next_due(self, top: float, bottom: float, wanted: Row | None = None) -> Row | None:
        """The row to be set next when the page is seen from ``top`` to ``bottom``; None where all near rows are set.

        First one that is ``wanted``, then those that are seen, then what lies below and above them.
        """
        if wanted is not None and wanted.is_due:
            return wanted
        first, last = self.at_height(top), self.at_height(bottom)
        if first is None or last is None:
            return None
        start, stop = self._rows.index(first), self._rows.index(last) + 1
        near = itertools.chain(
            self._rows[start : stop + _AHEAD],
            reversed(self._rows[max(0, start - _AHEAD) : start]),
        )
        return next((row for row in near if row.is_due), None)
