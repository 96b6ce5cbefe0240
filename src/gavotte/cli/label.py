"""``gavotte label FILES…``: label solos without a window, one file after the other."""

from __future__ import annotations

import argparse
import csv
import json
import os
import sys
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any, TextIO

import platformdirs

from gavotte.formats.document import SOLO_DOCUMENT
from gavotte.formats.errors import FormatError
from gavotte.formats.note_table import COLUMNS, note_rows
from gavotte.formats.opening import open_source
from gavotte.formats.passage import label_members, passage_members, read_passages
from gavotte.formats.whole_file import write_whole
from gavotte.labelling.labeller import label_solo
from gavotte.library.schools import school_named, schools_in
from gavotte.solo.document import Solo
from gavotte.solo.label import Label
from gavotte.solo.school import SCHOOLS, School

DONE, SOME_FAILED, MISUSED, INTERRUPTED = 0, 1, 2, 130
"""Exit statuses."""


@dataclass(frozen=True)
class _Item:
    """One solo of a file, with the members of the passage it came from, if it came from one."""

    name: str
    solo: Solo
    source: Mapping[str, Any] | None = None


def label_command(given: list[str]) -> int:
    """Run the command. Gives the exit status: 1 where a file failed (the others are done), 2 for misuse."""
    parser = argparse.ArgumentParser(
        prog="gavotte label",
        description="Label every note of the solos in FILES: MusicXML, MIDI, Gavotte's solos, passages in JSON, or - "
        "for a passage on standard input. A file that fails does not stop the rest.",
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
    try:
        if options.csv:
            run.tables(sys.stdout)
        elif options.musicxml:
            run.scores()
        else:
            run.passages(sys.stdout)
        sys.stdout.flush()
    except BrokenPipeError:
        # Whoever reads has seen enough (| head); Python would complain again while closing the stream.
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
    except KeyboardInterrupt:
        print(f"gavotte: stopped after {run.done} of {len(run.files)} files", file=sys.stderr)
        return INTERRUPTED
    if len(run.files) > 1:
        failed = f", {run.failed} failed" if run.failed else ""
        print(f"{run.done - run.failed} of {len(run.files)} files labelled{failed}", file=sys.stderr)
    return SOME_FAILED if run.failed else DONE


class _Run:
    """Labels files one by one, so that only one is held at a time."""

    def __init__(self, files: list[str], school: School | None, into: Path | None) -> None:
        self.files, self.school, self.into = files, school, into
        self.done = self.failed = 0

    def passages(self, out: TextIO) -> None:
        """All solos as one list of passages with their labels."""
        first = True
        for _, items in self._opened():
            for item in items:
                members = item.source or passage_members(item.solo, item.name)
                labels = _as_members(self._labels(item), item)
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
        for file, items in self._opened():
            for item in items:
                labels = {label.note: label for label in self._labels(item)}
                table.writerows([file, item.name, *row] for row in note_rows(item.solo, labels))

    def scores(self) -> None:
        """For each solo a MusicXML file with the degrees under its notes."""
        from gavotte.formats.musicxml_write import write_musicxml

        for file, items in self._opened():
            source = Path("passages" if file == "-" else file)
            folder = self.into or source.parent
            for item in items:
                several = f" {item.name}" if len(items) > 1 else ""
                degrees = {label.note: label.shown_degree for label in self._labels(item)}
                target = folder / f"{source.stem}{several}.labelled.musicxml"
                try:
                    folder.mkdir(parents=True, exist_ok=True)
                    write_whole(target, write_musicxml(item.solo, degrees))
                except OSError as error:
                    self._fail(str(target), f"can't be written: {error.strerror}")
                    break

    def _labels(self, item: _Item) -> tuple[Label, ...]:
        return label_solo(item.solo, self.school)

    def _opened(self) -> Iterator[tuple[str, list[_Item]]]:
        for number, file in enumerate(self.files, 1):
            self._tell(number, file)
            try:
                items = _open(file)
            except (OSError, UnicodeDecodeError) as error:
                self._fail(file, f"can't be read: {getattr(error, 'strerror', None) or error}")
            except FormatError as error:
                self._fail(file, str(error))
            else:
                yield file, items
            self.done = number

    def _tell(self, number: int, file: str) -> None:
        if len(self.files) > 1 and sys.stderr.isatty():
            print(f"\r\033[K{number} of {len(self.files)}  {Path(file).name}", end="", file=sys.stderr, flush=True)
            if number == len(self.files):
                print(file=sys.stderr)

    def _fail(self, file: str, why: str) -> None:
        self.failed += 1
        print(f"gavotte: {file}: {why}", file=sys.stderr)


def _open(file: str) -> list[_Item]:
    path = Path(file)
    if file == "-" or path.suffix.lower() == ".json":
        data = sys.stdin.buffer.read() if file == "-" else path.read_bytes()
        text = data.decode("utf-8")
        if text.lstrip().startswith("{") and '"gavotte-solo"' in text[:200]:
            return [_Item(path.stem, SOLO_DOCUMENT.read(data))]
        return [_Item(passage.id, passage.solo, passage.source) for passage in read_passages(text)]
    imported = open_source(path).solo(fallback_title=path.stem)
    return [_Item(path.stem, imported.solo)]


def _as_members(labels: tuple[Label, ...], item: _Item) -> list[dict[str, Any]]:
    """The labels as a passage holds them. A passage made of a solo has no place for its grace notes."""
    if item.source is not None:
        return label_members(labels, item.solo.notes)
    kept = [note for note in item.solo.notes if not note.grace]
    ids = {note.id for note in kept}
    told = (label for label in labels if label.note in ids)
    return label_members((replace(label, target=label.target if label.target in ids else None) for label in told), kept)
