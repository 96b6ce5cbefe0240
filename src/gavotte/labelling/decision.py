"""Settling between explanations: which figures stand, and what each note is called."""

from __future__ import annotations

from dataclasses import dataclass

from gavotte.labelling.explanation import Explanation, Figure
from gavotte.labelling.figures import all_figures
from gavotte.labelling.frame import Frame
from gavotte.labelling.school import School
from gavotte.labelling.single import EARLY_RULES, RULES


@dataclass(frozen=True)
class Verdict:
    """The winning explanation of a note, the figure it belongs to, and the runners-up, best first."""

    explanation: Explanation
    figure: Figure | None
    alternatives: tuple[Explanation, ...]


def decide(frame: Frame, school: School) -> list[Verdict]:
    """One verdict for each note of the frame, in order."""
    by_rule = [
        [(rule, answer) for rule in RULES if (answer := rule(frame, note, school)) is not None]
        for note in frame.notes
    ]
    early = {
        i for i, answers in enumerate(by_rule)
        if answers and answers[0][0] in EARLY_RULES and not frame.notes[i].is_tone
    }
    candidates = all_figures(frame)
    standing = choose_figures(candidates, early)
    figure_of = {member: figure for figure in standing for member in figure.members}
    verdicts = []
    for i, answers in enumerate(by_rule):
        figure = figure_of.get(i)
        explanations = [answer for _, answer in answers]
        if figure is not None and i in figure.explains:
            explanations.insert(0, figure.explains[i])
        explanations += [f.explains[i] for f in candidates if i in f.explains and f is not figure]
        verdicts.append(Verdict(explanations[0], figure, _alternatives(explanations)))
    return verdicts


def choose_figures(candidates: list[Figure], settled: set[int]) -> list[Figure]:
    """The figures that stand: of overlapping ones the one that explains more, then the earlier rule.

    Figures that would explain a ``settled`` note (an anticipation, say) fall away.
    """
    ranked = sorted(candidates, key=lambda f: (-len(f.explains), f.rule, f.members))
    standing: list[Figure] = []
    taken: set[int] = set()
    for figure in ranked:
        explained = set(figure.explains)
        if explained & (taken | settled):
            continue
        standing.append(figure)
        taken |= explained
    return sorted(standing, key=lambda figure: figure.members)


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
