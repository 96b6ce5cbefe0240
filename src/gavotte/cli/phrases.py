"""``gavotte phrases FILES…``: how solos are built, without a window: phrases, what comes back, the skeleton."""

from __future__ import annotations

import json
import sys
from collections.abc import Iterator, Sequence
from typing import TextIO

from gavotte.cli.parser import command_parser
from gavotte.cli.sources import Item, Sources, numbers_of
from gavotte.labelling.labeller import Labelled, labelled
from gavotte.phrasing.card import Card, card_of, set_off_by
from gavotte.phrasing.motifs import Instance, motifs_of
from gavotte.phrasing.phrases import Phrase, phrases_of
from gavotte.phrasing.strong_beats import kept_on_strong_beats
from gavotte.phrasing.telling import chosen_from, counted, functions_words, landing_words, listed, place_of, quarters
from gavotte.solo.document import Solo


def phrases_command(given: list[str]) -> int:
    """Run the command. Gives the exit status: 1 where a file failed (the others are done), 2 for misuse."""
    parser = command_parser(
        "phrases",
        "Tell the phrases of the solos in FILES, what comes back in them, and the note on each strong "
        "beat. FILES are what “gavotte label” reads: MusicXML, MIDI, Gavotte's solos, passages in JSON, or - for a "
        "passage on standard input. A file that fails does not stop the rest.",
        ("solo.musicxml", "solos/*.mid --json > phrases.json"),
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
            numbers = numbers_of(item)
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
        self.phrases = phrases_of(found.solo, found.labels)
        self.motifs = motifs_of(found.solo)
        self.strong = kept_on_strong_beats(found)


def _stretch(numbers: Sequence[int], first: int, last: int) -> dict[str, int]:
    return {"first": numbers[first], "last": numbers[last]}


def _lines(item: Item, told: _Told) -> Iterator[str]:
    solo, grid = item.solo, told.found.frame.grid

    def where(first: int, last: int) -> str:
        return f"{place_of(told.found, first)} to {place_of(told.found, last)}"

    yield solo.title or item.name
    yield f"  {counted(len(told.phrases), 'phrase')}, {counted(sum(bar.number > 0 for bar in grid.bars), 'bar')}"
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
        yield f"       {_names(solo, head)}: {counted(len(motif.instances), 'time')}, {motif.relation}"
        yield f"       at {', '.join(place_of(told.found, place.first) for place in motif.instances)}"
    kept = [index for index in told.strong if index is not None]
    if kept:
        yield f"  On the strong beats: {' '.join(solo.notes[index].pitch.name.shown for index in kept)}"


def _card_lines(told: _Told, phrase: Phrase, card: Card, before: Card | None) -> Iterator[str]:
    """What is said of a phrase: how it goes, what it lands on, which notes it is made of, what sets it off."""
    notes = told.found.solo.notes
    rest = f" after {quarters(card.rest_before)} of rest" if card.rest_before else ""
    yield f"{card.start}{rest}; {quarters(card.length)}, {card.per_beat:.1f} notes a beat; {card.contour}"
    yield f"lands on {landing_words(told.found, card.last)}; highest {notes[card.highest].pitch.shown}"
    yield functions_words(card)
    for chosen in chosen_from(told.found, phrase)[:1]:
        yield f"from {chosen.name} ({chosen.inside} of {chosen.total} notes)"
    apart = set_off_by(card, before)
    if apart:
        yield f"{listed(apart)} than the phrase before"


def _names(solo: Solo, stretch: Phrase | Instance) -> str:
    return " ".join(note.pitch.name.shown for note in solo.notes[stretch.first : stretch.last + 1])
