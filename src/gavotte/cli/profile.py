"""``gavotte profile FILES…``: the figures of some solos, and what sets them apart from others, without a window."""

from __future__ import annotations

import csv
import json
import sys
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Any, TextIO

from gavotte.cli.parser import command_parser
from gavotte.cli.sources import Item, Sources, numbers_of
from gavotte.labelling.labeller import labelled
from gavotte.phrasing.telling import counted
from gavotte.profile.comparison import CONFIDENCE, Difference, differences
from gavotte.profile.examples import Example, examples_of
from gavotte.profile.measured import Measured, Value, measured
from gavotte.profile.parts import WHOLE, Part, part_of
from gavotte.profile.telling import difference_words, value_words
from gavotte.solo.bars import BarGrid
from gavotte.vocabulary.corpus import LabelledLine, line_of_solo

_MOST = 12


def profile_command(given: list[str]) -> int:
    """Run the command. Gives the exit status: 1 where a file failed (the others are done), 2 for misuse."""
    parser = command_parser(
        "profile",
        "Tell the figures of the solos in FILES: functions, devices, degrees by chord, targets, landings, tension, "
        "collections, phrases, form, intervals and rhythm, each with an interval of 95 %. With --against, tell what "
        "sets them apart from other solos: only what differs more than chance would have it. FILES are what “gavotte "
        "label” reads.",
        (
            "solos/*.musicxml",
            "odo/*.mid --against others/*.mid",
            "odo/*.mid --part first --against odo/*.mid --against-part last",
            "mine-2026/*.musicxml --against mine-2025/*.musicxml --csv > differences.csv",
        ),
    )
    parser.add_argument("files", nargs="+", metavar="FILES")
    parser.add_argument("--against", nargs="+", metavar="FILES", default=[], help="solos to compare with")
    for name, words in (("--part", "of each solo only this"), ("--against-part", "of each of the others only this")):
        parser.add_argument(
            name, metavar="PART", default="whole",
            help=f"{words}: whole, first or last (chorus), chorus=2, section=A; whole where none is given",
        )  # fmt: skip
    form = parser.add_mutually_exclusive_group()
    form.add_argument("--json", action="store_true", help="everything as JSON, on standard output")
    form.add_argument("--csv", action="store_true", help="a table, on standard output")
    options = parser.parse_args(given)
    parts = []
    for code in (options.part, options.against_part):
        part = Part.of(code)
        if part is None:
            parser.error(f"“{code}” is no part of a solo; there are whole, first, last, chorus=2, section=A")
        parts.append(part)
    run = _Run(options.files, options.against, (parts[0], parts[1]))
    if options.json:
        return run.run(lambda: run.members(sys.stdout), "read")
    return run.run(lambda: run.table(sys.stdout) if options.csv else run.text(sys.stdout), "read")


@dataclass(frozen=True)
class _Read:
    """A solo, the file it was read from, and its line."""

    file: str
    item: Item
    line: LabelledLine


class _Run(Sources):
    """Reads both sets and tells them."""

    def __init__(self, files: list[str], against: list[str], parts: tuple[Part, Part]) -> None:
        super().__init__([*files, *against])
        self._parts = parts
        self._first, self._compares = len(files), bool(against)

    def _sets(self) -> tuple[list[_Read], list[_Read]]:
        here: list[_Read] = []
        there: list[_Read] = []
        for file, items in self.opened():
            # ``done`` counts the files before this one.
            is_first = self.done < self._first
            chosen, part = (here, self._parts[0]) if is_first else (there, self._parts[1])
            for item in items:
                line = part_of(line_of_solo(labelled(item.solo)), part)
                if len(line.notes):
                    chosen.append(_Read(file, item, line))
                elif part == WHOLE:
                    self.fail(file, f"{item.name} has no notes, so it has no figures")
                else:
                    self.fail(file, f"{item.name} has no notes in the part “{part.code}”")
        return here, there

    def _differences(
        self, here: Sequence[_Read], there: Sequence[_Read]
    ) -> tuple[Measured, list[Difference], list[list[Example]]]:
        mine = _measured(here)
        found = differences(mine, _measured(there)) if self._compares else []
        # What is told is shown where it is most frequent: here where it is more, there where it is less.
        examples = [
            examples_of(one.figure, [read.line for read in (here if one.z > 0 else there)]) if one.stands_out else []
            for one in found
        ]
        return mine, found, examples

    def members(self, out: TextIO) -> None:
        """Everything as JSON."""
        here, there = self._sets()
        if not here and self.failed:
            return
        mine, found, examples = self._differences(here, there)
        told: dict[str, Any] = {
            "solos": len(here),
            "notes": sum(len(read.line.notes) for read in here),
            "figures": [_value_members(value) for value in mine.values()] if here else [],
        }
        if self._compares:
            told["against"] = {"solos": len(there), "notes": sum(len(read.line.notes) for read in there)}
            told["confidence"] = CONFIDENCE
            told["differences"] = [
                {
                    "name": one.figure.name,
                    "words": one.figure.words,
                    "here": round(one.value, 5),
                    "there": round(one.other, 5),
                    "z": round(one.z, 2),
                    "chance": round(one.chance, 4),
                    "stands_out": one.stands_out,
                    "examples": [_place(here if one.z > 0 else there, example) for example in shown],
                }
                for one, shown in zip(found, examples, strict=True)
            ]
        out.write(json.dumps(told, ensure_ascii=False, indent=1) + "\n")

    def table(self, out: TextIO) -> None:
        """The figures, or with a second set the differences, as a table."""
        here, there = self._sets()
        writer = csv.writer(out, lineterminator="\n")
        mine, found, _ = self._differences(here, there)
        if self._compares:
            writer.writerow(("name", "family", "words", "here", "there", "among here", "among there", "z", "chance"))
            for one in found:
                figure = one.figure
                writer.writerow(
                    (figure.name, figure.family, figure.words, f"{one.value:.5f}", f"{one.other:.5f}",
                     f"{one.among:.0f}", f"{one.among_other:.0f}", f"{one.z:.2f}", f"{one.chance:.4f}")
                )  # fmt: skip
            return
        writer.writerow(("name", "family", "words", "value", "low", "high", "among", "small", "formula"))
        for value in mine.values() if here else []:
            figure = value.figure
            writer.writerow(
                (figure.name, figure.family, figure.words, f"{value.value:.5f}", f"{value.low:.5f}",
                 f"{value.high:.5f}", f"{value.among:.0f}", int(value.is_small), figure.formula)
            )  # fmt: skip

    def text(self, out: TextIO) -> None:
        """Everything as a text to read."""
        here, there = self._sets()
        if not here:
            return
        mine, found, examples = self._differences(here, there)
        if self._compares:
            out.write("\n".join(_told_apart(here, there, found, examples)) + "\n")
            return
        notes = sum(len(read.line.notes) for read in here)
        out.write(f"{counted(len(here), 'solo')}, {notes} notes\n")
        family = ""
        for value in mine.values():
            if value.value == 0:
                continue
            if value.figure.family != family:
                family = value.figure.family
                out.write(f"\n{family}\n")
            out.write(f"  {value_words(value)}\n")


def _measured(reads: Sequence[_Read]) -> Measured:
    return measured([read.line for read in reads])


def _value_members(value: Value) -> dict[str, Any]:
    return {
        "name": value.figure.name,
        "family": value.figure.family,
        "words": value.figure.words,
        "unit": str(value.figure.unit),
        "value": round(value.value, 5),
        "low": round(value.low, 5),
        "high": round(value.high, 5),
        "among": round(value.among, 2),
        "small": value.is_small,
    }


def _place(reads: Sequence[_Read], example: Example) -> dict[str, str | int]:
    read = reads[example.line]
    numbers = numbers_of(read.item)
    return {
        "file": read.file, "id": read.item.name, "first": numbers[example.first], "last": numbers[example.last],
    }  # fmt: skip


def _told_apart(
    here: Sequence[_Read], there: Sequence[_Read], found: Sequence[Difference], examples: Sequence[Sequence[Example]]
) -> Iterator[str]:
    names = f"these {len(here)}", f"the other {len(there)}"
    telling = [(one, shown) for one, shown in zip(found, examples, strict=True) if one.stands_out]
    yield f"{len(here)} against {len(there)} solos; {CONFIDENCE:.0%} sure of all that is told, together."
    if not telling:
        yield "Nothing differs more than chance would have it. More solos would tell smaller differences."
    for number, (one, shown) in enumerate(telling[:_MOST], 1):
        yield f"{number:3}  {difference_words(one, *names)}"
        for example in shown:
            read = (here if one.z > 0 else there)[example.line]
            notes = read.item.solo.notes
            where = BarGrid(read.item.solo).place(notes[example.first].onset)
            yield f"       {read.item.solo.title or read.item.name}: from {where}"
    if len(telling) > _MOST:
        yield f"     and {len(telling) - _MOST} more (--csv or --json has them all)"
