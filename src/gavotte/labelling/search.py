"""The search: the cheapest way to explain a whole line, out of notes by themselves and figures that tie them.

Between two neighbouring notes lies a place; an explanation of one note leads from the place before it to the place
after, a figure from before the first note it explains to after the last. The cheapest way from the first place to
the last is found by dynamic programming (R. Bellman, *Dynamic Programming*, 1957). Walking it from both ends also
gives, for every explanation, what the best way through *it* costs more than the best way of all: how far it was from
winning (the max-marginals of a chain; J. Pearl, *Probabilistic Reasoning in Intelligent Systems*, 1988, ch. 5).
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from typing import NamedTuple

from gavotte.giving_way import give_way
from gavotte.labelling.costs import Costs, costs_of
from gavotte.labelling.explanation import Explanation, Figure
from gavotte.labelling.figures import FIGURES
from gavotte.labelling.frame import Frame
from gavotte.labelling.framed_note import FramedNote
from gavotte.labelling.repeats import without_repeats
from gavotte.labelling.single import RULES, left_over, plain_tone
from gavotte.solo.document import Function
from gavotte.solo.school import School

MOST_ALTERNATIVES = 3


class Rival(NamedTuple):
    """Another explanation of a note, and how much dearer the line is with it."""

    explanation: Explanation
    regret: float


class Verdict(NamedTuple):
    """The winning explanation of a note, the figure it belongs to, how sure it is, and the runners-up, best first."""

    explanation: Explanation
    figure: Figure | None
    confidence: float
    rivals: tuple[Rival, ...]
    cost: float


class Candidate(NamedTuple):
    """A candidate for the places from ``start`` to ``end``: one explanation of one note, or a figure."""

    start: int
    end: int
    cost: float
    explanation: Explanation | None
    figure: Figure | None


def decide(frame: Frame, school: School, first: int = 0, last: int | None = None) -> list[Verdict]:
    """One verdict for each of the frame's notes from ``first`` up to ``last`` (not included), in order."""
    last = len(frame.notes) if last is None else last
    return _verdicts(frame, _candidates(frame, school, first, last), costs_of(school), first, last)


def explained(frame: Frame, school: School, first: int, last: int) -> list[Explanation]:
    """The winning explanations alone, for asking what a line would be."""
    _, _, taken = cheapest(first, last, _candidates(frame, school, first, last))
    explanations = []
    for candidate in taken:
        for i in range(candidate.start, candidate.end):
            explanations.append(_told(candidate, i))
    return explanations


def _candidates(frame: Frame, school: School, first: int, last: int) -> list[Candidate]:
    """Every candidate for some of the notes from ``first`` up to ``last``: each note by itself, and every figure."""
    costs = costs_of(school)
    singles = []
    for i in range(first, last):
        give_way()
        singles.append(explained_alone(frame, frame.notes[i], school))
    settled = {first + i for i, answers in enumerate(singles) if answers[0].early}
    figures = [
        figure
        for figure in _figures(frame, school, first, last)
        if figure.explains and min(figure.explains) >= first and max(figure.explains) < last
    ]
    kinds = {kind.name: kind for kind in FIGURES}
    settled -= {i for figure in figures if kinds[figure.kind].overrides_early for i in figure.explains}
    tones_in: dict[str, set[int]] = {name: set() for name in kinds}
    for figure in figures:
        tones_in[figure.kind] |= {i for i in figure.members if i not in figure.explains}
    standing = [
        figure
        for figure in figures
        if not settled & figure.explains.keys()
        and not _all_of_centre(frame, figure)
        and not any(tones_in[other].intersection(figure.members) for other in kinds[figure.kind].not_inside)
    ]
    candidates = [
        Candidate(first + i, first + i + 1, answer.cost, answer, None)
        for i, answers in enumerate(singles)
        for answer in answers
    ]
    candidates += [
        Candidate(
            min(figure.explains),
            max(figure.explains) + 1,
            figure_cost(figure, kinds[figure.kind].rule, costs),
            None,
            figure,
        )
        for figure in standing
    ]
    return candidates


def _told(candidate: Candidate, i: int) -> Explanation:
    """What a candidate says of one of its notes."""
    if candidate.figure is not None:
        return candidate.figure.explains.get(i) or plain_tone()
    assert candidate.explanation is not None
    return candidate.explanation


def _figures(frame: Frame, school: School, first: int, last: int) -> list[Figure]:
    """Every figure the line allows. A pitch struck again is looked past: the figure is that of the line without it."""
    line = without_repeats(frame, first, last)
    if line is None:
        return [figure for kind in FIGURES for figure in kind.find(frame, school, first, last)]
    return [line.restored(figure) for kind in FIGURES for figure in kind.find(line.frame, school, first, line.last)]


def _all_of_centre(frame: Frame, figure: Figure) -> bool:
    """Whether a figure holds nothing but notes of the collection they are read in: that explains them already."""
    return all(frame.notes[i].in_centre for i in figure.explains)


def explained_alone(frame: Frame, note: FramedNote, school: School) -> list[Explanation]:
    """What each rule says of a note by itself, cheapest first. A chord tone needs no other explanation."""
    if note.is_tone:
        return [plain_tone()]
    answers = [answer for rule in RULES if (answer := rule(frame, note, school)) is not None]
    if not answers:
        rest = left_over(frame, note, school)
        assert rest is not None
        return [rest]
    return sorted(answers, key=lambda answer: answer.cost)


def figure_cost(figure: Figure, rule: float, costs: Costs) -> float:
    """What a figure costs: each note it explains, less each pair it ties; ``rule`` settles ties."""
    size = len(figure.explains)
    pairs = size * (size - 1) // 2
    return size * costs.in_figure + pairs * costs.tied_pair + rule * costs.later_figure + figure.extra


def cheapest(
    first: int, last: int, candidates: Sequence[Candidate]
) -> tuple[list[float], list[float], list[Candidate]]:
    """The cheapest cost from ``first`` to every place, from every place to ``last``, and the cheapest way of all."""
    arriving: list[list[Candidate]] = [[] for _ in range(last - first + 1)]
    for candidate in candidates:
        arriving[candidate.end - first].append(candidate)
    reach = [0.0] + [math.inf] * (last - first)
    came: list[Candidate | None] = [None] * (last - first + 1)
    for place in range(1, last - first + 1):
        for candidate in arriving[place]:
            total = reach[candidate.start - first] + candidate.cost
            if total < reach[place]:
                reach[place], came[place] = total, candidate
    rest = [math.inf] * (last - first) + [0.0]
    for place in range(last - first, 0, -1):
        for candidate in arriving[place]:
            total = rest[place] + candidate.cost
            rest[candidate.start - first] = min(rest[candidate.start - first], total)
    taken: list[Candidate] = []
    place = last - first
    while place > 0:
        step = came[place]
        assert step is not None
        taken.append(step)
        place = step.start - first
    return reach, rest, taken[::-1]


def _apart(figure: Figure, alone: Mapping[int, float], costs: Costs) -> float:
    """How far a figure is from its notes by themselves: how much dearer they are, on average."""
    return max(0.0, sum(alone[i] for i in figure.explains) / len(figure.explains) - costs.in_figure)


def _weight(own: Explanation, rival: Rival, apart: float, costs: Costs) -> float:
    """How much a rival weighs beside the winner: by how far it is from winning, and by how well it fits.

    That a figure ties its notes decides for it, but makes none of them surer: beside a figure a note by itself is only
    ``apart`` away, and another figure no farther than ``figures_apart``.
    """
    distance = rival.regret
    if own.figure:
        distance = min(distance, costs.figures_apart if rival.explanation.figure else apart)
    return rival.explanation.fit / own.fit * math.exp(-distance)


def _verdicts(frame: Frame, candidates: list[Candidate], costs: Costs, first: int, last: int) -> list[Verdict]:
    reach, rest, taken = cheapest(first, last, candidates)
    best = reach[-1]
    # Most notes are chord tones, of which nothing else can be said.
    plain = {i for i in range(first, last) if frame.notes[i].is_tone}
    regrets: list[dict[tuple[Function, str], Rival]] = [{} for _ in range(first, last)]
    for candidate in candidates:
        if candidate.figure is None and candidate.start in plain:
            continue
        regret = reach[candidate.start - first] + candidate.cost + rest[candidate.end - first] - best
        explains = (
            candidate.figure.explains if candidate.figure is not None else {candidate.start: candidate.explanation}
        )
        for i, explanation in explains.items():
            assert explanation is not None
            known = regrets[i - first].get(explanation.kind)
            if known is None or regret < known.regret:
                regrets[i - first][explanation.kind] = Rival(explanation, regret)
    member_of = {
        i: candidate.figure for candidate in taken if candidate.figure is not None for i in candidate.figure.members
    }
    alone: dict[int, float] = {}
    for candidate in candidates:
        if candidate.explanation is not None:
            alone[candidate.start] = min(candidate.cost, alone.get(candidate.start, math.inf))
    verdicts = []
    for candidate in taken:
        give_way()
        apart = 0.0 if candidate.figure is None else _apart(candidate.figure, alone, costs)
        for i in range(candidate.start, candidate.end):
            figure = member_of.get(i)
            own = _told(candidate, i)
            share = candidate.cost if candidate.figure is None else candidate.cost / len(candidate.figure.explains)
            if not regrets[i - first]:
                verdicts.append(Verdict(own, figure, own.fit, (), share))
                continue
            rivals = [rival for kind, rival in regrets[i - first].items() if kind != own.kind]
            rivals.sort(key=lambda rival: rival.regret)
            confidence = own.fit / (1.0 + sum(_weight(own, rival, apart, costs) for rival in rivals))
            verdicts.append(Verdict(own, figure, confidence, tuple(rivals[:MOST_ALTERNATIVES]), share))
    return verdicts
