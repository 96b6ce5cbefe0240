"""What a step could make with each of its values, to compare, hear and choose from; and variations to begin with."""

from __future__ import annotations

import random
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from difflib import SequenceMatcher
from fractions import Fraction

import numpy as np
from numpy.typing import NDArray

from gavotte.giving_way import give_way
from gavotte.solo.document import Function
from gavotte.solo.label import Label
from gavotte.vocabulary.corpus import labelled_line
from gavotte.workshop.cost import Toll, cost_of
from gavotte.workshop.operation import (
    NOTHING_AROUND,
    Around,
    Operation,
    Option,
    Step,
    Value,
    Worked,
    worked,
)
from gavotte.workshop.piece import Piece

MOST_PROPOSALS = 40
_SEEDS = 6
"""So many seeds from the one there is on are tried, where it is chosen by the seed."""


@dataclass(frozen=True)
class Proposal:
    """A chain of steps and what it makes: what of it is told apart from the others (``words``), its degrees, how tense
    it is on average (0 to 1), and what kinds of notes it has, in words. ``line`` are its notes as numbers (see
    ``vocabulary.corpus.NOTE``), for a picture in small. Of a long one the first
    notes stand for all.
    """

    steps: tuple[Step, ...]
    words: str
    piece: Piece
    degrees: str
    tension: float
    told: str
    line: NDArray[np.void]


def proposals_for(
    piece: Piece, step: Step, operations: Mapping[str, Operation], around: Around = NOTHING_AROUND
) -> tuple[Proposal, ...]:
    """What a step makes of a piece with each value of the option it is chosen by, alike ones once.

    Those that start on some degree stand by their tension, the calmest first; all others in their own order.
    """
    operation = operations.get(step.operation)
    if operation is None or not operation.choosing or not piece.solo.notes:
        return ()
    made: list[Proposal] = []
    seen: set[object] = set()
    for wanted, words in _wanted(operation, step, around):
        give_way()
        stage = worked(piece, [wanted], operations, around)
        result = stage.result
        if stage.stages[-1].failed or not result.solo.notes or _music(result) in seen:
            continue
        seen.add(_music(result))
        made.append(_proposal((wanted,), result.way or words, result))
    if "start" in (operation.choosing, operation.and_choosing):
        made.sort(key=lambda proposal: proposal.tension)
    return tuple(made[:MOST_PROPOSALS])


def _wanted(operation: Operation, step: Step, around: Around) -> Iterator[tuple[Step, str]]:
    """The steps that are tried, each with its words."""
    for value, words in _choices(operation.option(operation.choosing), step, around):
        wanted = step.with_value(operation.choosing, value)
        if not operation.and_choosing:
            yield wanted, words
            continue
        for other, more in _choices(operation.option(operation.and_choosing), step, around):
            yield wanted.with_value(operation.and_choosing, other), f"{words} from {more}"


def _choices(option: Option, step: Step, around: Around) -> Iterator[tuple[Value, str]]:
    if option.of_lines:
        yield from ((name, name) for name in around.lines)
    elif option.choices:
        yield from option.choices
    elif option.name == "seed":
        first = int(dict(step.values).get("seed", option.default))
        yield from ((seed, f"seed {seed}") for seed in range(first, min(option.highest, first + _SEEDS - 1) + 1))
    elif isinstance(option.default, int) and not isinstance(option.default, bool):
        yield from ((number, str(number)) for number in range(option.lowest, option.highest + 1))


def _music(piece: Piece) -> object:
    notes = piece.solo.notes
    return tuple((n.onset, n.duration, n.pitch.midi, n.string) for n in notes), piece.solo.chords, piece.solo.readings


_HEAD = 200
"""Notes of a long proposal by which it is told apart from others."""


def _proposal(steps: tuple[Step, ...], words: str, piece: Piece) -> Proposal:
    if len(piece.solo.notes) > 2 * _HEAD:
        piece = _head_of(piece)
    found = piece.labelled
    labels = found.labels
    degrees = " ".join(label.shown_degree for label in labels[:24]) + (" …" if len(labels) > 24 else "")
    tension = sum(label.tension for label in labels) / max(1, len(labels))
    return Proposal(steps, words, piece, degrees, round(tension, 3), _told(labels), labelled_line(found).notes)


def _head_of(piece: Piece) -> Piece:
    """The first notes of a long piece: many such, held whole, would weigh on everything."""
    solo = piece.solo
    notes = solo.notes[:_HEAD]
    end = notes[-1].end
    head = replace(
        solo,
        notes=notes,
        chords=tuple(chord for chord in solo.chords if chord.onset < end),
        sections=tuple(section for section in solo.sections if section.onset < end),
        readings=(),
        form_end=Fraction(0),
    )
    return replace(piece, solo=head, bits=())


_NOUNS = {
    Function.CHORD: ("chord tone", "chord tones"),
    Function.EXTENSION: ("colour", "colours"),
    Function.PASSING: ("passing note", "passing notes"),
    Function.APPROACH: ("approach", "approaches"),
    Function.OUTSIDE: ("outside", "outside"),
}


def _told(labels: Sequence[Label]) -> str:
    """The functions of a line, counted: "all colours", "5 chord tones, 2 approaches"."""
    counts = {function: sum(label.function is function for label in labels) for function in Function}
    there = {function: number for function, number in counts.items() if number}
    if len(there) == 1:
        (function,) = there
        return f"all {_NOUNS[function][1]}"
    said = [f"{number} {_NOUNS[function][number != 1]}" for function, number in there.items()]
    clashes = sum(label.device == "clash" for label in labels)
    if clashes:
        said.append(f"{clashes} clash{'es' if clashes > 1 else ''}")
    return ", ".join(said)


# -- six variations ---------------------------------------------------------------------------------

_POOL: tuple[tuple[str, str], ...] = (
    ("inversion", "tones"), ("mirror", "how"), ("backwards", "what"), ("rotation", "note"), ("octave", "which"),
    ("approach", "way"), ("approaches added", "way"), ("approaches away", ""), ("thirds filled", ""),
    ("pairs", "first"), ("figure", "figure"), ("displaced", "by"), ("landings", "way"), ("regrouped", ""),
    ("rests", "every"), ("part", "which"),
)  # fmt: skip
_TRIES = 60
MOST_VARIED = 600
_MOST_CHANGED = 0.9
"""A variation that shares less with its source than this leaves over is no variation of it."""
_FEWEST = 0.6
"""Nor is one with a smaller share of its notes."""


def variations(
    piece: Piece, seed: int, operations: Mapping[str, Operation], count: int = 6, around: Around = NOTHING_AROUND
) -> tuple[Proposal, ...]:
    """Variations that differ from the source and from each other, the best explained first; the seed decides which.

    A line of more than ``MOST_VARIED`` notes has none. Of ``_TRIES`` chains of one or two steps those are taken, one
    after the other, that are well explained and far from all that are there (maximal marginal relevance: Carbonell and
    Goldstein 1998).
    """
    if len(piece.solo.notes) > MOST_VARIED:
        return ()
    dice = random.Random(seed)
    tried: list[tuple[float, Proposal]] = []
    seen = {_music(piece)}
    for _ in range(_TRIES):
        give_way()
        steps = tuple(_thrown(dice, operations) for _ in range(dice.choice((1, 1, 2))))
        made = worked(piece, steps, operations, around)
        if any(stage.problem for stage in made.stages) or _music(made.result) in seen or not made.result.solo.notes:
            continue
        seen.add(_music(made.result))
        kept = len(made.result.solo.notes) / len(piece.solo.notes)
        if kept < _FEWEST or not 0 < _distance(piece, made.result) <= _MOST_CHANGED:
            continue
        words = ", then ".join(_words(step, operations) for step in steps)
        tried.append((_explained(piece, made), _proposal(steps, words, made.result)))
    return _far_apart(piece, tried, count)


def _thrown(dice: random.Random, operations: Mapping[str, Operation]) -> Step:
    name, option_name = dice.choice(_POOL)
    step = Step(name)
    if not option_name:
        return step
    option = operations[name].option(option_name)
    if option.choices:
        return step.with_value(option_name, dice.choice(option.choices)[0])
    return step.with_value(option_name, dice.randint(option.lowest, min(option.highest, option.lowest + 4)))


def _words(step: Step, operations: Mapping[str, Operation]) -> str:
    operation = operations[step.operation]
    summary = operation.summary(dict(step.values))
    return f"{operation.words.lower()} ({summary})" if summary else operation.words.lower()


def _explained(source: Piece, made: Worked) -> float:
    """How well the labeller explains a line, the lower the better: what its explanations cost, and what is hard."""
    found = made.result.labelled
    cost = cost_of(source, made.result)
    hard = cost.count(Toll.LEAP) + 2 * cost.count(Toll.RANGE) + cost.count(Toll.CLASH)
    unexplained = sum(label.device == "unexplained" for label in found.labels)
    return (sum(found.costs) + 3 * unexplained + hard) / len(found.labels)


def _distance(first: Piece, second: Piece) -> float:
    """How far two lines are from each other: the share of their notes that is in no run both have, 0 to 1."""
    return 1.0 - SequenceMatcher(None, _sounding(first), _sounding(second), autojunk=False).ratio()


def _sounding(piece: Piece) -> Sequence[tuple[int, float]]:
    return [(note.pitch.midi, float(note.onset)) for note in piece.solo.notes]


_WORTH = 0.5
"""How much being unlike the others counts against being well explained."""


def _far_apart(piece: Piece, tried: Sequence[tuple[float, Proposal]], count: int) -> tuple[Proposal, ...]:
    left, chosen = sorted(tried, key=lambda pair: pair[0]), list[tuple[float, Proposal]]()
    worst = max((cost for cost, _ in left), default=1.0) or 1.0
    while left and len(chosen) < count:

        def gain(pair: tuple[float, Proposal]) -> float:
            others = [piece, *(other.piece for _, other in chosen)]
            near = min(_distance(pair[1].piece, other) for other in others)
            same_kind = any(pair[1].steps[0].operation == other.steps[0].operation for _, other in chosen)
            return _WORTH * near - (1 - _WORTH) * pair[0] / worst - 0.2 * same_kind

        best = max(left, key=gain)
        left.remove(best)
        chosen.append(best)
    return tuple(proposal for _, proposal in sorted(chosen, key=lambda pair: pair[0]))
