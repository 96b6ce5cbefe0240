"""``gavotte find "QUERY" FILES…``: where solos have what is asked for, without a window."""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Iterator
from typing import TextIO

from gavotte.cli.sources import MISUSED, Item, Sources, numbers_of
from gavotte.labelling.labeller import Labelled, labelled
from gavotte.vocabulary.finding import Hit, find
from gavotte.vocabulary.query import EXAMPLES, Query, QueryError, read_query


def find_command(given: list[str]) -> int:
    """Run the command. Gives the exit status: 1 where a file failed (the others are done), 2 for misuse."""
    parser = argparse.ArgumentParser(
        prog="gavotte find",
        description="Find the places in the solos in FILES that answer QUERY, a line such as "
        f"{', '.join(f'“{example}”' for example in EXAMPLES)}. Degrees, moves in semitones, pitches and directions "
        "follow each other; from and to are the first and last degree, of what a note leads to, on a numeral or a kind "
        "of chord, over a chord. FILES are what “gavotte label” reads.",
    )
    parser.add_argument("query", metavar="QUERY")
    parser.add_argument("files", nargs="+", metavar="FILES")
    parser.add_argument("--json", action="store_true", help="one list of all places as JSON, on standard output")
    options = parser.parse_args(given)
    try:
        query = read_query(options.query)
    except QueryError as error:
        print(f"gavotte find: {error}", file=sys.stderr)
        return MISUSED
    run = _Run(options.files, query)
    return run.run(lambda: run.members(sys.stdout) if options.json else run.text(sys.stdout), "searched")


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

    def text(self, out: TextIO) -> None:
        """All places as a text to read."""
        some = False
        for _, item, found, hits in self._found():
            for hit in hits:
                note = item.solo.notes[hit.first]
                names = " ".join(n.pitch.name.shown for n in item.solo.notes[hit.first : hit.last + 1] if not n.grace)
                where = found.frame.grid.place(note.onset)
                out.write(f"{item.solo.title or item.name}: {where}: {names} ({hit.why})\n")
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
