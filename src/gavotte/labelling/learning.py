"""Learning from corrections: choices of a school that its user keeps correcting the other way.

For each choice the solo is labelled both ways. Where the two differ on a note the user has decided, the decision speaks
for one or the other; several that point the same way are worth an offer. Nothing is changed without consent.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from gavotte.labelling.explanation import Explanation
from gavotte.labelling.labeller import Labelled, labelled
from gavotte.labelling.search import explained
from gavotte.solo.label import Label
from gavotte.solo.school import CHOICES, School

ENOUGH_FOR, ENOUGH_SHARE = 3, 0.7
"""How many corrections must point one way, and what share of those that speak about it."""
MOST_HEARD = 40
"""So many corrections, and so many labels taken as they are, are heard; the last ones."""


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
    corrected, agreed = [], []
    for i, label in enumerate(found.ruled):
        decision = decisions.get(label.note)
        if decision is not None and decision.function is not label.function:
            corrected.append(i)
        elif decision is not None and label.device != "plain":
            agreed.append(i)
    # What was merely taken as it is says little, and is often taken by the hundred.
    about = corrected[-MOST_HEARD:] + agreed[-MOST_HEARD:]
    gathered = {}
    for choice in CHOICES if about else ():
        evidence = Evidence()
        for i, then in _heard_about(found, _otherwise(found.frame.school, choice), about).items():
            now, decision = found.ruled[i], decisions[found.ruled[i].note]
            if (now.function, now.device) != then.kind:
                evidence += Evidence(decision.function is then.function, decision.function is now.function)
        if evidence != Evidence():
            gathered[choice] = evidence
    return gathered


def _heard_about(found: Labelled, school: School, about: Sequence[int]) -> dict[int, Explanation]:
    """What another school says of some notes, by their indexes; only what lies about them is worked out."""
    frame, stretches = found.frame.by_school(school, about)
    wanted, said = set(about), {}
    for first, last in stretches:
        explanations = explained(frame, school, first, last)
        said.update({i: told for i, told in zip(range(first, last), explanations, strict=True) if i in wanted})
    return said


def _otherwise(school: School, choice: str) -> School:
    return school.with_choice(choice, not getattr(school, choice))


def offers(
    found: Labelled, here: Mapping[str, Evidence], elsewhere: Mapping[str, Evidence] | None = None
) -> list[Offer]:
    """What is worth offering, the strongest first.

    ``here`` is the evidence of the solo itself, ``elsewhere`` that of other solos of the same school.
    """
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
