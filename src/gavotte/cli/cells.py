"""``gavotte cells FILES…``: what recurs in many solos beyond chance, without a window."""

from __future__ import annotations

import json
import sys
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import TextIO

from gavotte.cli.parser import command_parser
from gavotte.cli.sources import Item, Sources, numbers_of
from gavotte.solo.bars import BarGrid
from gavotte.steps import whole
from gavotte.vocabulary.cells import Cell, Place, cells_of


def cells_command(given: list[str]) -> int:
    """Run the command. Gives the exit status: 1 where a file failed (the others are done), 2 for misuse."""
    parser = command_parser(
        "cells",
        "Tell which cells of three to twelve notes recur in the solos in FILES more often than chance "
        "would bring, the weightiest first. FILES are what “gavotte label” reads: MusicXML, MIDI, Gavotte's solos, "
        "passages in JSON, or - for a passage on standard input. A file that fails does not stop the rest.",
        ("solos/*.musicxml", "solos/*.mid --json > cells.json"),
    )
    parser.add_argument("files", nargs="+", metavar="FILES")
    parser.add_argument("--json", action="store_true", help="one list of all cells as JSON, on standard output")
    options = parser.parse_args(given)
    run = _Run(options.files)
    return run.run(lambda: run.members(sys.stdout) if options.json else run.text(sys.stdout), "read")


@dataclass(frozen=True)
class _Read:
    """A solo, and the file it was read from."""

    file: str
    item: Item


class _Run(Sources):
    """Looks for cells in all solos together."""

    def members(self, out: TextIO) -> None:
        """All cells as one list."""
        read, cells = self._mined()
        numbers = [numbers_of(one.item) for one in read]
        listed = [
            {
                "instances": [_instance(read[place.line], numbers[place.line], place) for place in cell.places],
                "weight": cell.weight,
                "relation": cell.relation,
            }
            for cell in cells
        ]
        if read or not self.failed:
            out.write(json.dumps(listed, ensure_ascii=False, indent=1) + "\n")

    def text(self, out: TextIO) -> None:
        """All cells as a text to read."""
        read, cells = self._mined()
        if read and not cells:
            out.write("Nothing recurs more often than chance would bring.\n")
        for number, cell in enumerate(cells, 1):
            out.write("\n".join(_lines(number, cell, read)) + "\n")

    def _mined(self) -> tuple[list[_Read], tuple[Cell, ...]]:
        read = [_Read(file, item) for file, items in self.opened() for item in items]
        return read, whole(cells_of([one.item.solo for one in read]))


def _instance(read: _Read, numbers: Sequence[int], place: Place) -> dict[str, str | int]:
    return {"file": read.file, "id": read.item.name, "first": numbers[place.first], "last": numbers[place.last]}


def _lines(number: int, cell: Cell, read: Sequence[_Read]) -> Iterator[str]:
    head = cell.places[0]
    notes = read[head.line].item.solo.notes[head.first : head.last + 1]
    names = " ".join(note.pitch.name.shown for note in notes if not note.grace)
    yield f"{number:3}  {names}: {len(cell.places)} times, {cell.relation} ({cell.weight:g} bits beyond chance)"
    for place in cell.places:
        solo = read[place.line].item.solo
        where = BarGrid(solo).place(solo.notes[place.first].onset)
        yield f"       {solo.title or read[place.line].item.name}: {where}"
