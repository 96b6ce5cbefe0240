"""``gavotte phrases FILES…``: how solos are built, without a window: phrases, what comes back, the skeleton."""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Iterator, Sequence
from fractions import Fraction
from typing import TextIO

from gavotte.cli.sources import Item, Sources
from gavotte.labelling.labeller import Labelled, labelled
from gavotte.labelling.wording import chord_words, degree_words, goal_words
from gavotte.phrasing.card import Card, card_of, set_off_by
from gavotte.phrasing.collections import collections_of
from gavotte.phrasing.motifs import Instance, motifs_of
from gavotte.phrasing.phrases import Phrase, phrases_of
from gavotte.phrasing.strong_beats import kept_on_strong_beats
from gavotte.solo.document import Function, Solo
from gavotte.theory.scale import SCALES


def phrases_command(given: list[str]) -> int:
    """Run the command. Gives the exit status: 1 where a file failed (the others are done), 2 for misuse."""
    parser = argparse.ArgumentParser(
        prog="gavotte phrases",
        description="Tell the phrases of the solos in FILES, what comes back in them, and the note on each strong "
        "beat. FILES are what “gavotte label” reads: MusicXML, MIDI, Gavotte's solos, passages in JSON, or - for a "
        "passage on standard input. A file that fails does not stop the rest.",
    )
    parser.add_argument("files", nargs="+", metavar="FILES")
    parser.add_argument("--json", action="store_true", help="one list of all solos as JSON, on standard output")
    options = parser.parse_args(given)
    run = _Run(options.files)
    return run.run(lambda: run.members(sys.stdout) if options.json else run.text(sys.stdout), "read")


class _Run(Sources):
    """Divides solos into phrases, one file after the other."""

    def members(self, out: TextIO) -> None:
        """All solos as one list."""
        first = True
        for item, told in self._told():
            numbers = _numbers(item)
            members = {
                "id": item.name,
                "phrases": [_stretch(numbers, phrase.first, phrase.last) for phrase in told.phrases],
                "motifs": [
                    {
                        "instances": [_stretch(numbers, place.first, place.last) for place in motif.instances],
                        "relation": motif.relation,
                        "weight": motif.weight,
                    }
                    for motif in told.motifs
                ],
                "strong": [None if index is None else numbers[index] for index in told.strong],
            }
            out.write(("[" if first else ",") + "\n " + json.dumps(members, ensure_ascii=False))
            first = False
        out.write("\n]\n" if not first else "" if self.failed else "[]\n")

    def text(self, out: TextIO) -> None:
        """All solos as a text to read."""
        for number, (item, told) in enumerate(self._told()):
            out.write("\n" * bool(number) + "\n".join(_lines(item, told)) + "\n")

    def _told(self) -> Iterator[tuple[Item, _Told]]:
        for file, items in self.opened():
            for item in items:
                try:
                    found = labelled(item.solo)
                    told = _Told(found)
                except Exception as error:
                    self.fail(file, f"{item.name} can't be divided into phrases: {error!r}")
                else:
                    yield item, told


class _Told:
    """What is told of a solo."""

    def __init__(self, found: Labelled) -> None:
        self.found = found
        self.phrases = phrases_of(found.solo)
        self.motifs = motifs_of(found.solo)
        self.strong = kept_on_strong_beats(found)


def _numbers(item: Item) -> Sequence[int]:
    """The number of each note as ``gavotte label`` counts them: a grace note goes with the note it leads into."""
    if item.source is not None:
        return range(len(item.solo.notes))
    numbers, count = [], 0
    for note in item.solo.notes:
        numbers.append(count)
        count += not note.grace
    return [min(number, max(0, count - 1)) for number in numbers]


def _stretch(numbers: Sequence[int], first: int, last: int) -> dict[str, int]:
    return {"first": numbers[first], "last": numbers[last]}


def _lines(item: Item, told: _Told) -> Iterator[str]:
    solo, grid = item.solo, told.found.frame.grid

    def where(first: int, last: int) -> str:
        return f"{_place(told, first)} to {_place(told, last)}"

    yield solo.title or item.name
    yield f"  {_count(told.phrases, 'phrase')}, {_count([bar for bar in grid.bars if bar.number > 0], 'bar')}"
    before: Card | None = None
    for number, phrase in enumerate(told.phrases, 1):
        card = card_of(told.found, phrase)
        yield f"  {number:3}  {where(phrase.first, phrase.last)}: {_names(solo, phrase)}"
        yield from (f"       {line}" for line in _card_lines(told, phrase, card, before))
        before = card
    if told.motifs:
        yield "  What comes back:"
    for motif in told.motifs:
        head = motif.instances[0]
        yield f"       {_names(solo, head)}: {_count(motif.instances, 'time')}, {motif.relation}"
        yield f"       at {', '.join(_place(told, place.first) for place in motif.instances)}"
    kept = [index for index in told.strong if index is not None]
    if kept:
        yield f"  On the strong beats: {' '.join(solo.notes[index].pitch.name.shown for index in kept)}"


def _card_lines(told: _Told, phrase: Phrase, card: Card, before: Card | None) -> Iterator[str]:
    """What is said of a phrase: how it goes, what it lands on, which notes it is made of, what sets it off."""
    notes = told.found.solo.notes
    rest = f" after {_beats(card.rest_before)} of rest" if card.rest_before else ""
    yield f"{card.start}{rest}; {_beats(card.length)}, {card.per_beat:.1f} notes a beat; {card.contour}"
    yield f"lands on {_landing_words(told, card.last)}; highest {notes[card.highest].pitch.shown}"
    yield ", ".join(f"{number} {_FUNCTIONS[function]}{'s' * (number != 1)}" for function, number in card.functions)
    likely = collections_of(told.found, phrase.first, phrase.last)
    chosen = next((chosen for chosen in likely if len(SCALES[chosen.collection]) <= _MOST_TONES), None)
    if chosen is not None and chosen.score >= _WORTH_NAMING:
        yield f"from {chosen.name} ({chosen.inside} of {chosen.total} notes)"
    apart = set_off_by(card, before)
    if apart:
        yield f"{' and '.join(apart)} than the phrase before"


def _landing_words(told: _Told, index: int) -> str:
    """What a note is against its chord, or against the coming one where it is early."""
    frame, label = told.found.frame, told.found.labels[index]
    note = frame.notes[index]
    following = frame.following_span(note)
    if label.device != "anticipation" or following is None:
        return goal_words(frame, note)
    words = degree_words(label.degree, label.shown_degree)
    return f"{note.note.pitch.shown}, already the {words} of {chord_words(following)}"


_WORTH_NAMING, _MOST_TONES = 4.0, 7
"""How likely a collection must be to be named, and of how many tones at most: eight explain too much."""
_FUNCTIONS = {
    Function.CHORD: "chord tone",
    Function.EXTENSION: "extension",
    Function.PASSING: "passing note",
    Function.APPROACH: "approach note",
    Function.OUTSIDE: "outside note",
}


def _beats(length: Fraction) -> str:
    number = float(length)
    return f"{number:g} quarter note{'' if number == 1 else 's'}"


def _place(told: _Told, index: int) -> str:
    note = told.found.frame.notes[index]
    bar = told.found.frame.grid.at(note.note.onset)
    return f"{bar.number if bar.number > 0 else 'pickup'}, {note.place}"


def _names(solo: Solo, stretch: Phrase | Instance) -> str:
    return " ".join(note.pitch.name.shown for note in solo.notes[stretch.first : stretch.last + 1])


def _count(things: Sequence[object], name: str) -> str:
    return f"{len(things)} {name}{'' if len(things) == 1 else 's'}"
