"""``gavotte label FILES…``: label solos without a window, one file after the other."""

from __future__ import annotations

import csv
import itertools
import json
import sys
from collections.abc import Collection, Iterator
from dataclasses import replace
from pathlib import Path
from typing import Any, TextIO

import platformdirs

from gavotte.cli.parser import command_parser
from gavotte.cli.sources import SOME_FAILED, Item, Sources
from gavotte.formats.errors import FormatError
from gavotte.formats.note_table import COLUMNS, note_rows
from gavotte.formats.passage import label_members, passage_members
from gavotte.formats.whole_file import plain_name, write_whole
from gavotte.labelling.labeller import label_solo
from gavotte.library.schools import school_named, schools_in
from gavotte.solo.label import Label
from gavotte.solo.school import SCHOOLS, School


def label_command(given: list[str]) -> int:
    """Run the command. Gives the exit status: 1 where a file failed (the others are done), 2 for misuse."""
    parser = command_parser(
        "label",
        "Label every note of the solos in FILES: MusicXML, MIDI, Gavotte's solos, passages in JSON, or - "
        "for a passage on standard input. A file that fails does not stop the rest.",
        (
            "solos/*.musicxml --csv > notes.csv",
            "ballad.mid --school Vertical",
            "solos/*.musicxml --musicxml --into labelled",
        ),
    )
    parser.add_argument("files", nargs="+", metavar="FILES")
    parser.add_argument("--school", metavar="NAME", help="the school to label by; each solo's own if not given")
    kind = parser.add_mutually_exclusive_group()
    kind.add_argument("--json", action="store_true", help="passages with their labels, on standard output (the usual)")
    kind.add_argument("--csv", action="store_true", help="one table of all notes, on standard output")
    kind.add_argument("--musicxml", action="store_true", help="a MusicXML file with degrees beside each file")
    parser.add_argument("--into", type=Path, metavar="FOLDER", help="with --musicxml: write the files there")
    options = parser.parse_args(given)
    school = None
    if options.school is not None:
        try:
            folder = Path(platformdirs.user_data_dir("gavotte")) / "library"
            own = schools_in(folder, Path(platformdirs.user_config_dir("gavotte")))
        except FormatError as error:
            print(f"gavotte: {error}", file=sys.stderr)
            return SOME_FAILED
        school = school_named(options.school, own)
        if school is None:
            names = ", ".join(known.name for known in (*SCHOOLS, *own))
            parser.error(f"there is no school “{options.school}”; there are {names}")
    if options.into is not None and not options.musicxml:
        parser.error("--into goes with --musicxml")
    run = _Run(options.files, school, options.into)

    def work() -> None:
        if options.csv:
            run.tables(sys.stdout)
        elif options.musicxml:
            run.scores()
        else:
            run.passages(sys.stdout)

    return run.run(work, "labelled")


class _Run(Sources):
    """Labels files one by one."""

    def __init__(self, files: list[str], school: School | None, into: Path | None) -> None:
        super().__init__(files)
        self.school, self.into = school, into

    def passages(self, out: TextIO) -> None:
        """All solos as one list of passages with their labels."""
        first = True
        for _, item, found in self._labelled():
            members = item.source or passage_members(item.solo, item.name)
            labels = _as_members(found, item)
            text = json.dumps({**members, "labels": labels}, ensure_ascii=False, indent=1)
            out.write(("[" if first else ",") + "\n" + "\n".join(f" {line}" for line in text.splitlines()))
            first = False
        if not first:
            out.write("\n]\n")
        elif not self.failed:
            out.write("[]\n")

    def tables(self, out: TextIO) -> None:
        """All notes as one table, with the file and the solo in front."""
        table = csv.writer(out, lineterminator="\n")
        table.writerow(("file", "solo", *COLUMNS))
        for file, item, found in self._labelled():
            labels = {label.note: label for label in found}
            table.writerows([file, item.name, *row] for row in note_rows(item.solo, labels))

    def scores(self) -> None:
        """For each solo a MusicXML file with the degrees under its notes."""
        from gavotte.formats.musicxml_write import write_musicxml

        taken: set[Path] = set()
        for file, item, found in self._labelled():
            source = Path("passages" if file == "-" else file)
            folder = self.into or source.parent
            several = f" {item.name}" if item.is_one_of_several else ""
            target = _free_name(folder, f"{source.stem}{several}", taken)
            taken.add(target)
            degrees = {label.note: label.shown_degree for label in found}
            try:
                folder.mkdir(parents=True, exist_ok=True)
                write_whole(target, write_musicxml(item.solo, degrees))
            except OSError as error:
                self.fail(file, f"{target} can't be written: {error.strerror or error}")
            except Exception as error:
                self.fail(file, f"{item.name} can't be written as MusicXML: {error!r}")

    def _labelled(self) -> Iterator[tuple[str, Item, tuple[Label, ...]]]:
        """Every solo of every file with its labels. Whatever is wrong with one of them does not stop the rest."""
        for file, items in self.opened():
            for item in items:
                try:
                    labels = label_solo(item.solo, self.school)
                except Exception as error:
                    self.fail(file, f"{item.name} can't be labelled: {error!r}")
                else:
                    yield file, item, labels


_LONGEST = 200
"""Bytes of a file name without its ending; most file systems take 255."""


def _free_name(folder: Path, wanted: str, taken: Collection[Path]) -> Path:
    """A file that no other solo of this run was written to, named as wanted as far as file systems allow."""
    plain = plain_name(wanted).encode("utf-8", "replace")[:_LONGEST].decode("utf-8", "ignore") or "solo"
    for number in itertools.count(1):
        path = folder / f"{plain}{f' {number}' if number > 1 else ''}.labelled.musicxml"
        if path not in taken:
            return path
    raise AssertionError


def _as_members(labels: tuple[Label, ...], item: Item) -> list[dict[str, Any]]:
    """The labels as a passage holds them. A passage made of a solo has no place for its grace notes."""
    if item.source is not None:
        return label_members(labels, item.solo.notes)
    kept = [note for note in item.solo.notes if not note.grace]
    ids = {note.id for note in kept}
    told = (label for label in labels if label.note in ids)
    return label_members((replace(label, target=label.target if label.target in ids else None) for label in told), kept)
