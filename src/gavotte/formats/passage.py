"""Passages: short solos in JSON, with or without labels, for trying and measuring the labeller.

A file holds a list of passages (or one). Times are exact fractions as strings, pitches sound as spelled,
label targets are 0-based note indexes.
"""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from fractions import Fraction
from typing import Any

from gavotte.formats.errors import FormatError
from gavotte.formats.numbers import exact
from gavotte.solo.bounds import within_bounds
from gavotte.solo.document import ChordEvent, KeyRegion, MeterRegion, Note, Solo
from gavotte.solo.label import Label
from gavotte.theory.chord_symbol import read_or_keep, write_chord_symbol
from gavotte.theory.key import Key
from gavotte.theory.meter import Meter
from gavotte.theory.pitch import Pitch


@dataclass(frozen=True)
class Passage:
    """A solo with its passage id and the members of the file that the document has no place for."""

    id: str
    solo: Solo
    source: Mapping[str, Any]


def read_passages(text: str) -> list[Passage]:
    """Read a passage file. Raises FormatError that names the passage and the member."""
    try:
        data = json.loads(text)
    except json.JSONDecodeError as error:
        raise FormatError(f"This is no JSON: {error.msg} in line {error.lineno}, column {error.colno}.") from error
    except (RecursionError, ValueError) as error:
        raise FormatError("This JSON is nested deeper, or holds longer numbers, than any passage.") from error
    if isinstance(data, dict):
        data = [data]
    if not isinstance(data, list):
        raise FormatError("A passage file holds a list of passages; this one holds something else.")
    return [_passage(item, number) for number, item in enumerate(data, 1)]


def _passage(item: Any, number: int) -> Passage:
    if not isinstance(item, dict):
        raise FormatError(f"Passage {number} is no object with members; each passage is written as {{…}}.")
    name = str(item.get("id", number)).encode("utf-8", "replace").decode("utf-8")
    where = "members"
    try:
        where = "meter"
        meter = Meter.parse(item.get("meter", "4/4"), item.get("grouping") or "")
        where = "key"
        key = Key.parse(item.get("key", "C major"), item.get("mode") or "")
        where = "pickup"
        pickup = _fraction(item.get("pickup") or 0)
        chords = []
        for index, entry in enumerate(item.get("chords", ())):
            where = f"chord {index}"
            onset, symbol = entry
            chords.append(ChordEvent(f"c{index}", _fraction(onset), _normal(symbol)))
        notes = []
        for index, entry in enumerate(item["notes"]):
            where = f"note {index}"
            onset, duration, pitch = entry
            notes.append(Note(f"n{index}", _fraction(onset), _fraction(duration), Pitch.parse(pitch)))
            if index and notes[-1].onset < notes[-2].onset:
                raise ValueError("it starts before the note in front of it")
            if notes[-1].duration < 0:
                raise ValueError("its length is negative")
        where = "as a whole"
        solo = Solo(
            title=str(item.get("title", name)),
            style=str(item.get("style", "")),
            pickup=pickup,
            meters=(MeterRegion(Fraction(0), meter),),
            keys=(KeyRegion(Fraction(0), key, bool(item.get("blues"))),),
            chords=tuple(chords),
            notes=tuple(notes),
        )
        within_bounds(solo)
    except KeyError as error:
        raise FormatError(f"Passage {name} has no {error}; it needs chords and notes.") from error
    except (ValueError, TypeError, ArithmeticError, AttributeError) as error:
        raise FormatError(f"Passage {name}, {where}: {error}.") from error
    return Passage(name, solo, item)


def _fraction(value: Any) -> Fraction:
    if isinstance(value, float):
        raise ValueError(f"{value} is not exact; write it as a fraction in quotes, such as '1/3'")
    return Fraction(value) if isinstance(value, int) else exact(str(value))


def _normal(symbol: str) -> str:
    return write_chord_symbol(read_or_keep(symbol))


def label_members(labels: Iterable[Label], notes: Iterable[Note]) -> list[dict[str, Any]]:
    """Labels as a passage file holds them, one object a note; their groups are numbered in order from 1."""
    index = {note.id: i for i, note in enumerate(notes)}
    labels = tuple(labels)
    groups = dict.fromkeys(label.group for label in labels if label.group is not None)
    number = {group: k for k, group in enumerate(groups, 1)}
    return [
        {
            "function": str(label.function),
            "device": label.device,
            "degree": label.degree,
            "target": None if label.target is None else index[label.target],
            "implied": label.implied,
            "group": None if label.group is None else number[label.group],
        }
        for label in labels
    ]


def write_labelled(passages: Iterable[tuple[Passage, tuple[Label, ...]]]) -> str:
    """The passages with their ``labels`` filled in; every other member is as it was read."""
    items = [{**passage.source, "labels": label_members(labels, passage.solo.notes)} for passage, labels in passages]
    return json.dumps(items, ensure_ascii=False, indent=1)


def passage_members(solo: Solo, passage_id: str) -> dict[str, Any]:
    """A solo as a passage: its first meter and key, chords and notes. Grace notes and marks have no place there."""
    region = solo.keys[0]
    meter = solo.meters[0].meter
    vamp = region.key.mode not in ("major", "minor")
    mode = ("minor" if region.key.is_minor else "major") if vamp else region.key.mode
    return {
        "id": passage_id,
        "title": solo.title,
        "style": solo.style,
        "meter": str(meter),
        "grouping": "+".join(map(str, meter.grouping)),
        "key": f"{region.key.tonic} {mode}",
        "mode": region.key.mode if vamp else "",
        "blues": region.blues,
        "pickup": str(solo.pickup),
        "chords": [[str(event.onset), event.text] for event in solo.chords],
        "notes": [[str(note.onset), str(note.duration), str(note.pitch)] for note in solo.notes if not note.grace],
    }


def write_passages(solos: Iterable[tuple[str, Solo]]) -> str:
    """Solos with their ids as a passage file without labels."""
    return json.dumps([passage_members(solo, name) for name, solo in solos], ensure_ascii=False, indent=1)
