"""Settling between explanations: which figures stand, and what each note is called."""

from __future__ import annotations

from bisect import bisect_left
from dataclasses import dataclass

from gavotte.labelling.explanation import Explanation, Figure
from gavotte.labelling.figures import all_figures
from gavotte.labelling.frame import Frame, FramedNote
from gavotte.labelling.implied import implied_figures
from gavotte.labelling.school import School
from gavotte.labelling.single import EARLY_RULES, RULES, Rule


@dataclass(frozen=True)
class Verdict:
    """The winning explanation of a note, the figure it belongs to, and the runners-up, best first."""

    explanation: Explanation
    figure: Figure | None
    alternatives: tuple[Explanation, ...]


def decide(frame: Frame, school: School) -> list[Verdict]:
    """One verdict for each note of the frame, in order."""
    by_rule = [_answers(frame, note, school) for note in frame.notes]
    early = {
        i
        for i, answers in enumerate(by_rule)
        if answers and answers[0][0] in EARLY_RULES and not frame.notes[i].is_tone
    }
    implied = list(implied_figures(frame, school))
    # A note inside a run that spells another chord is no anticipation.
    early -= {i for figure in implied for i, reading in figure.explains.items() if reading.device == "implied"}
    candidates = [*implied, *all_figures(frame)]
    standing = choose_figures(candidates, early)
    figure_of = {member: figure for figure in standing for member in figure.members}
    explained_by: dict[int, list[Figure]] = {}
    for figure in candidates:
        for i in figure.explains:
            explained_by.setdefault(i, []).append(figure)
    verdicts = []
    for i, answers in enumerate(by_rule):
        own = figure_of.get(i)
        explanations = [answer for _, answer in answers]
        if own is not None and i in own.explains:
            explanations.insert(0, own.explains[i])
        explanations += [figure.explains[i] for figure in explained_by.get(i, ()) if figure is not own]
        verdicts.append(Verdict(explanations[0], own, _alternatives(explanations)))
    return verdicts


def _answers(frame: Frame, note: FramedNote, school: School) -> list[tuple[Rule, Explanation]]:
    """What each rule says of a note by itself, in the order of the rules. A chord tone needs no other reading."""
    answers = []
    for rule in RULES:
        answer = rule(frame, note, school)
        if answer is not None:
            answers.append((rule, answer))
            if note.is_tone:
                break
    return answers


def choose_figures(candidates: list[Figure], settled: set[int]) -> list[Figure]:
    """The figures that stand: the set without overlaps that explains most.

    A figure weighs the square of the notes it explains, so that one larger figure beats two smaller ones it
    overlaps unless they explain clearly more together; the earlier rule wins a tie. Figures that would
    explain a ``settled`` note (an anticipation, say) fall away. This is weighted interval scheduling; see
    J. Kleinberg and É. Tardos, *Algorithm Design* (2006), section 6.1.
    """
    free = [figure for figure in candidates if figure.explains and not settled & figure.explains.keys()]
    free.sort(key=lambda figure: (max(figure.explains), min(figure.explains), figure.rule))
    ends = [max(figure.explains) for figure in free]
    best = [0.0]
    previous: list[int] = []
    for k, figure in enumerate(free):
        previous.append(bisect_left(ends, min(figure.explains), 0, k))
        best.append(max(best[k], best[previous[k]] + _weight(figure)))
    standing = []
    k = len(free)
    while k > 0:
        if best[k] > best[k - 1]:
            standing.append(free[k - 1])
            k = previous[k - 1]
        else:
            k -= 1
    return sorted(standing, key=lambda figure: figure.members)


def _weight(figure: Figure) -> float:
    return len(figure.explains) ** 2 - figure.rule / 1000


def _alternatives(explanations: list[Explanation]) -> tuple[Explanation, ...]:
    """Other readings than the first, each (function, device) once; "left over" only where nothing else is."""
    winner = explanations[0]
    seen = {(winner.function, winner.device)}
    others = []
    for explanation in explanations[1:]:
        key = (explanation.function, explanation.device)
        if key not in seen:
            seen.add(key)
            others.append(explanation)
    strong = [e for e in others if e.confidence > 0.5]
    return tuple(sorted(strong or others, key=lambda e: -e.confidence)[:3])
