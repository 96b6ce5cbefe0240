"""Questions: what of a labelled solo wants its user's answer, in the order of the line.

``look_through`` finds what takes long to find, ``questions`` lists everything; their number is what the shelf, the rail
and the Label desk all call "to look at".
"""

from __future__ import annotations

from collections.abc import Callable, Collection, Generator, Mapping, Sequence
from dataclasses import dataclass
from enum import Enum

from gavotte.harmony.ground import ground_of
from gavotte.harmony.signature import contradicted
from gavotte.labelling.labeller import Labelled
from gavotte.labelling.learning import Evidence, Offer, evidence_of, offers
from gavotte.labelling.readings import Proposal, proposals
from gavotte.labelling.slips import Slip, suspected_slips
from gavotte.solo.differences import not_shared
from gavotte.solo.document import KeyRegion, Solo
from gavotte.steps import whole


class Asked(Enum):
    """What is asked."""

    NO_CHORDS = "no chords"
    SIGNATURE = "signature"
    BLUES = "blues"
    OFFER = "offer"
    READING = "reading"
    SLIP = "slip"
    DOUBT = "doubt"


@dataclass(frozen=True)
class Question:
    """One thing that wants an answer, about the notes from ``first`` to ``last`` (ids; "" for the whole solo)."""

    asked: Asked
    first: str = ""
    last: str = ""
    slip: Slip | None = None
    proposal: Proposal | None = None
    offer: Offer | None = None
    key: KeyRegion | None = None

    @property
    def same(self) -> tuple[object, ...]:
        """What two questions share that ask the same, also after an edit elsewhere."""
        detail: object = None
        if self.slip is not None:
            detail = (self.slip.change, self.slip.pitch)
        elif self.proposal is not None:
            detail = self.proposal.name
        elif self.offer is not None:
            detail = self.offer.choice
        elif self.key is not None:
            detail = self.key
        return self.asked, self.first, self.last, detail


@dataclass(frozen=True)
class Findings:
    """What looking through a solo has found."""

    slips: tuple[Slip, ...] = ()
    proposals: tuple[Proposal, ...] = ()
    offers: tuple[Offer, ...] = ()
    evidence: Mapping[str, Evidence] | None = None


def look_through(
    found: Labelled, elsewhere: Mapping[str, Evidence] | None = None, solo: Solo | None = None
) -> Generator[float, None, Findings]:
    """Look a solo through in steps, which tell the share that is done. ``elsewhere`` is the evidence of other solos,
    ``solo`` the open one where ``found`` is its written pitch.
    """
    # Its ground keeps what was heard in it: asking about the whole solo takes no time then.
    _about_all(solo or found.solo)
    yield 0.1
    slips = suspected_slips(found)
    yield 0.5
    readings = proposals(found)
    yield 0.7
    evidence = evidence_of(found)
    return Findings(slips, readings, tuple(offers(found, evidence, elsewhere)), evidence)


def _nothing_declined(_: Offer) -> bool:
    return False


def questions(
    solo: Solo,
    found: Labelled,
    findings: Findings,
    is_declined: Callable[[Offer], bool] = _nothing_declined,
) -> list[Question]:
    """Everything to look at: what is about the whole solo first, then in the order of the line.

    ``solo`` is the open one, ``found`` it or its written pitch with labels. A note in doubt that was passed is not
    asked about again while it keeps its pitch.
    """
    places = solo.places
    about_all = _about_all(solo)
    about_all += [Question(Asked.OFFER, offer=offer) for offer in findings.offers if not is_declined(offer)]
    about = [
        item for item in _about_notes(found, findings, _passed(solo)) if item.first in places and item.last in places
    ]
    return about_all + sorted(about, key=lambda item: (places[item.first], item.asked is Asked.DOUBT))


def _passed(solo: Solo) -> set[str]:
    """The notes in doubt that were left as they are, as long as they sound as they did then."""
    known = {item.note: item.midi for item in solo.passed if item.note in solo.places}
    return {note for note, midi in known.items() if solo.note(note).pitch.midi == midi}


def is_about(question: Question) -> tuple[str, ...]:
    """The ids of the notes and chords a question is about; "" among them where it is about fewer."""
    slip = question.slip
    return (question.first, question.last, *((slip.note, slip.chord) if slip is not None else ()))


def touched_ids(before: Solo, after: Solo) -> set[str]:
    """The ids of the notes and chords that two values of a solo do not share."""
    notes, chords = not_shared(before.notes, after.notes), not_shared(before.chords, after.chords)
    return {note.id for note in notes} | {chord.id for chord in chords}


def still_asks(solo: Solo, shown: Solo, question: Question) -> bool:
    """Whether what a question is about is still there, after edits that were not looked through yet."""
    places = solo.places
    if question.first and (question.first not in places or question.last not in places):
        return False
    if question.first and places[question.first] > places[question.last]:
        return False
    slip = question.slip
    if slip is None:
        return True
    if slip.note not in places or (slip.chord and all(event.id != slip.chord for event in solo.chords)):
        return False
    return slip.pitch is None or shown.note(slip.note).pitch != slip.pitch


def number_to_look_at(found: Labelled) -> int:
    """How many questions a solo has that nobody has looked at yet."""
    return len(questions(found.solo, found, whole(look_through(found))))


def _about_all(solo: Solo) -> list[Question]:
    asked = []
    if not solo.chords and solo.notes and not solo.readings:
        asked.append(Question(Asked.NO_CHORDS))
    key = contradicted(ground_of(solo))
    if key is not None:
        asked.append(Question(Asked.SIGNATURE, key=key))
    elif not solo.heard_keys and any(heard.blues and heard.why for heard in ground_of(solo).keys):
        asked.append(Question(Asked.BLUES))
    return asked


def _about_notes(found: Labelled, findings: Findings, passed: Collection[str]) -> list[Question]:
    readings = [
        Question(Asked.READING, proposal.reading.first, proposal.reading.last, proposal=proposal)
        for proposal in findings.proposals
    ]
    # Where another reading would explain the notes, they are no slips until it is declined.
    explained = _covered(found, readings)
    slips = [slip for slip in findings.slips if slip.note not in explained]
    slipped = {slip.note for slip in slips}
    asked = readings + [Question(Asked.SLIP, slip.note, slip.note, slip=slip) for slip in slips]
    settled = slipped | explained | set(passed)
    for label in found.labels:
        if label.in_doubt and label.note not in settled:
            asked.append(Question(Asked.DOUBT, label.note, label.note))
    return asked


def _covered(found: Labelled, asked: Sequence[Question]) -> set[str]:
    """The notes some questions are about."""
    notes, places = found.solo.notes, found.solo.places
    covered: set[str] = set()
    for item in asked:
        if item.first in places and item.last in places:
            covered |= {note.id for note in notes[places[item.first] : places[item.last] + 1]}
    return covered
