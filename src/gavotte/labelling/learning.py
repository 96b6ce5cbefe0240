"""Learning from corrections: choices of a school that its user keeps correcting the other way.

For each choice the solo is labelled both ways. Where the two differ on a note the user has decided, the decision speaks
for one or the other; several that point the same way are worth an offer. Nothing is changed without consent.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from gavotte.labelling.labeller import Labelled, labelled
from gavotte.solo.document import Decision
from gavotte.solo.label import Label
from gavotte.solo.school import CHOICES, School

ENOUGH_FOR, ENOUGH_SHARE = 3, 0.7
"""How many corrections must point one way, and what share of those that speak about it."""


@dataclass(frozen=True, slots=True)
class Evidence:
    """How many decisions speak for making a choice otherwise, and how many for leaving it."""

    other_way: int = 0
    as_it_is: int = 0

    def __add__(self, more: Evidence) -> Evidence:
        return Evidence(self.other_way + more.other_way, self.as_it_is + more.as_it_is)

    @property
    def is_enough(self) -> bool:
        """Whether an offer is worth making."""
        total = self.other_way + self.as_it_is
        return self.other_way >= ENOUGH_FOR and self.other_way >= ENOUGH_SHARE * total


@dataclass(frozen=True, slots=True)
class Offer:
    """A choice to be made otherwise: ``school`` is how it would be then, ``changes`` how many labels of the open solo
    would change.
    """

    choice: str
    evidence: Evidence
    school: School
    changes: int


def evidence_of(found: Labelled) -> dict[str, Evidence]:
    """For each choice of the solo's school, what the user's decisions say about it."""
    decisions = {decision.note: decision for decision in found.solo.decisions}
    if not decisions:
        return {}
    gathered = {}
    for choice in CHOICES:
        other = labelled(found.solo, _otherwise(found.frame.school, choice))
        evidence = Evidence()
        for now, then in zip(found.ruled, other.ruled, strict=True):
            decision = decisions.get(now.note)
            if decision is not None and (now.function, now.device) != (then.function, then.device):
                evidence += Evidence(_agree(decision, then), _agree(decision, now))
        if evidence != Evidence():
            gathered[choice] = evidence
    return gathered


def _agree(decision: Decision, label: Label) -> bool:
    return decision.function is label.function


def _otherwise(school: School, choice: str) -> School:
    return school.with_choice(choice, not getattr(school, choice))


def offers(found: Labelled, elsewhere: Mapping[str, Evidence] | None = None) -> list[Offer]:
    """What is worth offering, the strongest first. ``elsewhere`` is the evidence of other solos of the same school."""
    here = evidence_of(found)
    result = []
    for choice in CHOICES:
        evidence = here.get(choice, Evidence()) + (elsewhere or {}).get(choice, Evidence())
        if evidence.is_enough:
            school = _otherwise(found.frame.school, choice)
            result.append(Offer(choice, evidence, school, changed_labels(found, school)))
    return sorted(result, key=lambda offer: -offer.evidence.other_way)


def changed_labels(found: Labelled, school: School) -> int:
    """How many labels of the solo would be others in another school; the user's decisions stand in any."""
    if school.labels_like(found.frame.school):
        return 0
    other = labelled(found.solo, school)
    return sum(_differs(now, then) for now, then in zip(found.labels, other.labels, strict=True))


def _differs(now: Label, then: Label) -> bool:
    return (now.function, now.device, now.target) != (then.function, then.device, then.target)
