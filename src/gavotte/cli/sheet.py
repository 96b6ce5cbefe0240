"""``gavotte sheet FILES…``: teaching sheets of solos, or one that a library keeps, without a window."""

from __future__ import annotations

import argparse
import json
import os
import re
import sys
from collections.abc import Callable, Sequence
from contextlib import closing
from dataclasses import replace
from functools import cache
from pathlib import Path
from typing import TYPE_CHECKING, TextIO

from gavotte.cli.parser import command_parser
from gavotte.cli.sources import DONE, INTERRUPTED, MISUSED, SOME_FAILED, Item, Sources
from gavotte.formats.errors import FormatError
from gavotte.formats.whole_file import plain_name, write_whole
from gavotte.labelling.labeller import labelled
from gavotte.library.contexts_played import lick_over, stretch_over
from gavotte.library.database import connect_to_read
from gavotte.library.errors import LibraryError
from gavotte.library.reader import DATABASE, LibraryReader
from gavotte.phrasing.structure import structure_of
from gavotte.sheets.sheet import LARGEST_STAFF, PAPERS, SMALLEST_STAFF, TeachingSheet, Version
from gavotte.sheets.templates import lick_of_the_week, one_key_a_page, players_over, solo_with_analysis
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Solo
from gavotte.steps import whole
from gavotte.vocabulary.contexts import CONTEXTS
from gavotte.vocabulary.lick import Lick, keep_lick

if TYPE_CHECKING:
    from gavotte.desktop.paper.handing_on import MadeFile

_FORMATS = ("pdf", "html", "md", "musicxml", "mid")
_TEMPLATES = ("analysis", "lick", "players", "keys")
_BARS = re.compile(r"(\d+)(?:-(\d+))?")


def sheet_command(given: list[str]) -> int:
    """Run the command. Gives the exit status: 1 where a file failed (the others are done), 2 for misuse."""
    parser = _parser()
    options = parser.parse_args(given)
    if bool(options.files) == bool(options.sheet):
        print("gavotte sheet: name FILES, or a sheet of a library with --sheet TITLE", file=sys.stderr)
        return MISUSED
    if options.sheet and options.library is None:
        print("gavotte sheet: say in which library the sheet is: --library FOLDER", file=sys.stderr)
        return MISUSED
    bars = _bars(options.bars)
    if options.bars and bars is None:
        print(f"gavotte sheet: {options.bars} are no bars; write 5 or 5-8", file=sys.stderr)
        return MISUSED
    if options.staff is not None and not SMALLEST_STAFF <= options.staff <= LARGEST_STAFF:
        print(f"gavotte sheet: a staff is {SMALLEST_STAFF:g} to {LARGEST_STAFF:g} mm high", file=sys.stderr)
        return MISUSED
    if options.over not in CONTEXTS:
        print(f"gavotte sheet: there are no changes called {options.over}; choose one of:", file=sys.stderr)
        print("  " + "\n  ".join(CONTEXTS), file=sys.stderr)
        return MISUSED
    writer = _Writer(options)
    if options.sheet:
        return writer.run_kept()
    run = _Run(options, writer, bars)
    status = run.run(run.work, "done")
    writer.tell(sys.stdout)
    return status


def _parser() -> argparse.ArgumentParser:
    parser = command_parser(
        "sheet",
        "Make teaching sheets of the solos in FILES from a template: “analysis” is a sheet for each solo with all that "
        "is told of it; “lick” and “keys” take each solo, or --bars of it, as a lick; “players” lays what all of them "
        "play over the same changes under one another, on one sheet. Or hand on a sheet of a library (--sheet). What "
        "has the same name is written over.",
        (
            "solo.musicxml",
            "solo.musicxml --format pdf html --for concert b-flat --out sheets/",
            "solos/*.musicxml --template players --over 'long ii-V-I' --out players.pdf",
            "--library ~/music --sheet 'Week 12' --format html",
        ),
    )
    parser.add_argument("files", nargs="*", metavar="FILES", help="what “gavotte label” reads")
    parser.add_argument("--template", choices=_TEMPLATES, default="analysis", help="what the sheets are (analysis)")
    parser.add_argument("--format", nargs="+", choices=_FORMATS, default=["pdf"], help="what is written (pdf)")
    parser.add_argument(
        "--for", nargs="+", choices=[version.value for version in Version], dest="versions", help="for which readers"
    )
    parser.add_argument("--out", type=Path, metavar="PATH", help="a folder, or the name of the one sheet (here)")
    parser.add_argument("--paper", choices=PAPERS, help="size of the paper")
    parser.add_argument("--staff", type=float, metavar="MM", help="height of a staff in millimetres")
    parser.add_argument("--title", metavar="TEXT", help="in place of the sheet’s own")
    parser.add_argument("--rights", metavar="TEXT", help="the line about source and use")
    parser.add_argument("--bars", metavar="A-B", help="only these bars, for “lick” and “keys”")
    parser.add_argument("--over", metavar="CHANGES", default=CONTEXTS[0], help=f"for “players” ({CONTEXTS[0]})")
    parser.add_argument("--library", type=Path, metavar="FOLDER", help="the library of --sheet")
    parser.add_argument("--sheet", metavar="TITLE", help="a sheet that is kept there")
    parser.add_argument("--json", action="store_true", help="the files that were written as JSON, on standard output")
    return parser


def _bars(text: str | None) -> tuple[int, int] | None:
    """From which bar to which, None for none or what can't be read."""
    found = _BARS.fullmatch(text.strip()) if text else None
    if found is None:
        return None
    first = int(found[1])
    last = int(found[2] or first)
    return (first, last) if first <= last else None


class _Writer:
    """Makes the files of sheets and writes them; ``written`` are those that were."""

    def __init__(self, options: argparse.Namespace) -> None:
        self._options = options
        self.written: list[tuple[Path, int, str]] = []
        self._hand_on: Callable[[TeachingSheet, str], Sequence[MadeFile]] | None = None

    def write(self, sheet: TeachingSheet) -> None:
        """Write a sheet. Raises OSError or EngravingError."""
        options = self._options
        changes = {name: getattr(options, name) for name in ("paper", "staff", "title", "rights")}
        sheet = replace(sheet, **{name: value for name, value in changes.items() if value is not None})
        if options.versions:
            wanted = {Version(name) for name in options.versions}
            sheet = replace(sheet, versions=tuple(version for version in Version if version in wanted))
        folder, base = self._where(sheet)
        folder.mkdir(parents=True, exist_ok=True)
        for made in self._make(sheet, base):
            write_whole(folder / made.name, made.data)
            self.written.append((folder / made.name, len(made.data), sheet.title))

    def _where(self, sheet: TeachingSheet) -> tuple[Path, str]:
        """The folder, and what its files are called: each sheet by a name of its own."""
        out: Path | None = self._options.out
        name = plain_name(sheet.title) or "Sheet"
        if out is not None and not out.is_dir() and out.suffix.lower().lstrip(".") in _FORMATS:
            return out.parent, out.stem
        folder = out or Path()
        taken = {path.stem for path, *_ in self.written if path.parent == folder}
        number = next(n for n in range(1, len(taken) + 2) if (name if n == 1 else f"{name} {n}") not in taken)
        return folder, name if number == 1 else f"{name} {number}"

    def _make(self, sheet: TeachingSheet, base: str) -> Sequence[MadeFile]:
        if self._hand_on is None:
            self._hand_on = _handing_on(self._options.format)
        return self._hand_on(sheet, base)

    def tell(self, out: TextIO) -> None:
        """Say what was written."""
        if self._options.json:
            listed = [{"file": str(path), "bytes": size, "sheet": title} for path, size, title in self.written]
            out.write(json.dumps(listed, ensure_ascii=False, indent=1) + "\n")
        else:
            out.writelines(f"{path}\n" for path, *_ in self.written)

    def run_kept(self) -> int:
        """Hand on a sheet of a library. Gives the exit status."""
        options = self._options
        database = options.library / DATABASE
        try:
            if not database.is_file():
                raise LibraryError(f"there is no library in {options.library}")
            with closing(connect_to_read(database)) as db:
                sheet = _kept_sheet(LibraryReader(options.library, db), options.sheet)
            self.write(sheet)
        except (LibraryError, FormatError, OSError, RuntimeError) as error:
            print(f"gavotte sheet: {error}", file=sys.stderr)
            return SOME_FAILED
        except KeyboardInterrupt:
            return INTERRUPTED
        self.tell(sys.stdout)
        return DONE


def _kept_sheet(library: LibraryReader, title: str) -> TeachingSheet:
    """The sheet of a title, the latest where there are several. Raises LibraryError or FormatError."""
    entries = library.sheets()
    for entry in entries:
        if entry.title.casefold() == title.casefold():
            return library.sheet(entry.id)
    there = "; ".join(entry.title for entry in entries[:12]) or "none"
    raise LibraryError(f"no sheet is called “{title}” (there are: {there})")


@cache
def _painting() -> object:
    """What paints, started without a window when it is first wanted; it lives as long as the command."""
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    from gavotte.desktop.app import make_application

    return make_application()


def _handing_on(formats: Sequence[str]) -> Callable[[TeachingSheet, str], Sequence[MadeFile]]:
    """What makes the files of a sheet."""
    from gavotte.desktop.paper.handing_on import SheetFormat, handed_on
    from gavotte.desktop.paper.set_lines import LineSetter
    from gavotte.engraving.engraver import Engraver
    from gavotte.sheets.composing import Composer

    _painting()
    setter, wanted = LineSetter(Engraver()), [SheetFormat(form) for form in dict.fromkeys(formats)]

    return lambda sheet, base: whole(handed_on(sheet, base, wanted, Composer(), setter))


class _Run(Sources):
    """Makes sheets of solos, one file after the other."""

    def __init__(self, options: argparse.Namespace, writer: _Writer, bars: tuple[int, int] | None) -> None:
        super().__init__(options.files)
        self._options, self._writer, self._asked = options, writer, bars

    def work(self) -> None:
        """Make and write all of them."""
        if self._options.template == "players":
            self._players()
            return
        for file, items in self.opened():
            for item in items:
                self._try(file, item, lambda item=item: self._writer.write(self._sheet(item)))  # type: ignore[misc]

    def _try(self, file: str, item: Item, act: Callable[[], None]) -> None:
        try:
            act()
        except OSError as error:
            self.fail(file, f"the sheet can't be written: {error.strerror or error}")
        except (ValueError, RuntimeError) as error:
            self.fail(file, f"{item.name}: {error}")

    def _sheet(self, item: Item) -> TeachingSheet:
        """A solo as a sheet. Raises ValueError where there is nothing to put on it."""
        if not item.solo.notes:
            raise ValueError("it has no notes")
        solo = item.solo if item.solo.title else replace(item.solo, title=item.name)
        if self._options.template == "analysis":
            return _analysis(solo)
        lick = _as_lick(solo, self._asked)
        return lick_of_the_week(lick) if self._options.template == "lick" else one_key_a_page(lick)

    def _players(self) -> None:
        over = self._options.over
        licks: dict[str, Lick] = {}
        for file, items in self.opened():
            for item in items:
                player = item.solo.player or item.name
                stretch = stretch_over(item.solo, over) if player not in licks else None
                if stretch is not None:
                    licks[player] = lick_over(item.solo, "", *stretch)
                elif player not in licks and len(items) == 1:
                    self.fail(file, f"{item.name} has no line over {over}")
        if licks:
            self._writer.write(players_over(tuple(licks.values()), over))


def _analysis(solo: Solo) -> TeachingSheet:
    """A solo with its analysis, and the picture of its arc."""
    from gavotte.desktop.paper.picture import arc_picture

    _painting()
    structure = structure_of(labelled(solo))
    return solo_with_analysis(structure, "", arc_picture(structure).decode())


def _as_lick(solo: Solo, bars: tuple[int, int] | None) -> Lick:
    """The notes of a solo, or of bars of it, as a lick. Raises ValueError where there are none."""
    grid = BarGrid(solo)
    first, last = bars or (0, len(grid.bars))
    here = [note for note in solo.notes if first <= grid.at(note.onset).number <= last]
    if not here:
        raise ValueError(f"there are no notes in bars {first} to {last}")
    return keep_lick(solo, "", labelled(solo).labels, here[0].id, here[-1].id)
