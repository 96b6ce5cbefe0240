"""``gavotte find "QUERY" FILES…``: where solos have what is asked for, without a window."""

from __future__ import annotations

import csv
import json
import sys
from collections.abc import Iterator
from typing import TextIO

from gavotte.cli.parser import command_parser
from gavotte.cli.sources import MISUSED, Item, Sources, numbers_of
from gavotte.labelling.labeller import Labelled, labelled
from gavotte.vocabulary.finding import Hit, find
from gavotte.vocabulary.query import EXAMPLES, Query, QueryError, read_query


def find_command(given: list[str]) -> int:
    """Run the command. Gives the exit status: 1 where a file failed (the others are done), 2 for misuse."""
    parser = command_parser(
        "find",
        "Find the places in the solos in FILES that answer QUERY, a line such as "
        f"{', '.join(f'“{example}”' for example in EXAMPLES)}. Degrees, moves in semitones, pitches and directions "
        "follow each other; from and to are the first and last degree, of what a note leads to, on a numeral or a kind "
        "of chord, over a chord. FILES are what “gavotte label” reads.",
        ('"3 5 b7 b9 on V" solos/*.musicxml', '"enclosure of 5 on ii" solos/*.mid --csv > places.csv'),
    )
    parser.add_argument("query", metavar="QUERY")
    parser.add_argument("files", nargs="+", metavar="FILES")
    form = parser.add_mutually_exclusive_group()
    form.add_argument("--json", action="store_true", help="one list of all places as JSON, on standard output")
    form.add_argument("--csv", action="store_true", help="one table of all places, on standard output")
    options = parser.parse_args(given)
    try:
        query = read_query(options.query)
    except QueryError as error:
        print(f"gavotte find: {error}", file=sys.stderr)
        return MISUSED
    run = _Run(options.files, query)
    tell = run.members if options.json else run.table if options.csv else run.text
    return run.run(lambda: tell(sys.stdout), "searched")


class _Run(Sources):
    """Searches solos, one file after the other."""

    def __init__(self, files: list[str], query: Query) -> None:
        super().__init__(files)
        self.query = query

    def members(self, out: TextIO) -> None:
        """All places as one list."""
        listed = []
        for file, item, _, hits in self._found():
            numbers = numbers_of(item)
            listed += [
                {
                    "file": file,
                    "id": item.name,
                    "first": numbers[hit.first],
                    "last": numbers[hit.last],
                    "why": hit.why,
                }
                for hit in hits
            ]
        if listed or not self.failed:
            out.write(json.dumps(listed, ensure_ascii=False, indent=1) + "\n")

    def table(self, out: TextIO) -> None:
        """All places as a table."""
        writer = csv.writer(out, lineterminator="\n")
        writer.writerow(("file", "id", "first", "last", "bar", "notes", "why"))
        for file, item, found, hits in self._found():
            numbers = numbers_of(item)
            for hit in hits:
                bar = found.frame.grid.at(item.solo.notes[hit.first].onset).number
                writer.writerow(
                    (file, item.name, numbers[hit.first], numbers[hit.last], bar, _names(item, hit), hit.why)
                )

    def text(self, out: TextIO) -> None:
        """All places as a text to read."""
        some = False
        for _, item, found, hits in self._found():
            for hit in hits:
                note = item.solo.notes[hit.first]
                where = found.frame.grid.place(note.onset)
                out.write(f"{item.solo.title or item.name}: {where}: {_names(item, hit)} ({hit.why})\n")
                some = True
        if not some and not self.failed:
            out.write("No place answers.\n")

    def _found(self) -> Iterator[tuple[str, Item, Labelled, tuple[Hit, ...]]]:
        for file, items in self.opened():
            for item in items:
                try:
                    found = labelled(item.solo)
                    hits = find(found, self.query)
                except Exception as error:
                    self.fail(file, f"{item.name} can't be searched: {error!r}")
                else:
                    yield file, item, found, hits


def _names(item: Item, hit: Hit) -> str:
    """The notes of a place by their names."""
    return " ".join(n.pitch.name.shown for n in item.solo.notes[hit.first : hit.last + 1] if not n.grace)
