"""The review: what of the open solo wants an answer. It listens to the session and asks it for edits."""

from __future__ import annotations

from collections.abc import Callable, Generator, Mapping
from dataclasses import dataclass, replace
from enum import Enum
from pathlib import Path

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from gavotte.desktop.activity import Job, walk_beside
from gavotte.desktop.desks.label.memory import Memory
from gavotte.desktop.solo.session import SoloSession
from gavotte.desktop.translation import translate
from gavotte.harmony.inferring import with_inferred_chords
from gavotte.harmony.keys import heard_keys
from gavotte.harmony.progressions import blues_choruses
from gavotte.labelling.answers import (
    plain_ones,
    read_by_key,
    with_changes_read,
    with_labels_taken,
    with_reading,
    with_slip,
    without_slip,
)
from gavotte.labelling.labeller import Labelled
from gavotte.labelling.learning import Evidence, Offer, evidence_of, offers
from gavotte.labelling.readings import Proposal, proposals
from gavotte.labelling.slips import Change, Slip, suspected_slips
from gavotte.solo.document import Solo

REVIEW_DELAY_MS = 250


class Kind(Enum):
    """What sort of answer is wanted."""

    NO_CHORDS = "no chords"
    BLUES = "blues"
    OFFER = "offer"
    READING = "reading"
    SLIP = "slip"
    DOUBT = "doubt"


@dataclass(frozen=True)
class Item:
    """One thing that wants an answer, about the notes from ``first`` to ``last`` (ids; "" for the whole solo)."""

    kind: Kind
    first: str = ""
    last: str = ""
    slip: Slip | None = None
    proposal: Proposal | None = None
    offer: Offer | None = None


@dataclass(frozen=True)
class _Findings:
    slips: tuple[Slip, ...] = ()
    proposals: tuple[Proposal, ...] = ()
    offers: tuple[Offer, ...] = ()
    evidence: Mapping[str, Evidence] | None = None


class Review(QObject):
    """Signals: ``changed``, the items are other ones; ``current_changed``, another one is looked at."""

    changed = pyqtSignal()
    current_changed = pyqtSignal()

    def __init__(self, session: SoloSession, folder: Path, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self.memory = Memory(folder)
        self.items: list[Item] = []
        self._current: Item | None = None
        self._findings = _Findings()
        self._passed: set[tuple[str, int]] = set()
        self._answering = False
        self._job: Job | None = None
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(REVIEW_DELAY_MS)
        self._soon.timeout.connect(self._look)
        session.solo_opened.connect(self._opened)
        session.labels_changed.connect(self._edited)

    # -- looking ------------------------------------------------------------------------------------

    def _opened(self) -> None:
        self._passed = set()
        self._findings = _Findings()
        self._current = None
        self._list()
        self._soon.start()

    def _edited(self) -> None:
        self._list()
        self._soon.start()

    def cancel(self) -> None:
        """Look no further."""
        self._soon.stop()
        if self._job is not None:
            self._job.cancel()
            self._job = None

    @property
    def is_complete(self) -> bool:
        """Whether everything that changed has been looked through."""
        return self._job is None and not self._soon.isActive()

    def _look(self) -> None:
        self.cancel()
        found, solo_id = self._session.found, self._session.solo_id
        if found is None or solo_id is None:
            return
        elsewhere = self.memory.evidence(found.frame.school.name, solo_id)

        def steps() -> Generator[float, None, _Findings]:
            slips = suspected_slips(found)
            yield 0.5
            readings = proposals(found)
            yield 0.7
            evidence = evidence_of(found)
            return _Findings(slips, readings, tuple(offers(found, evidence, elsewhere)), evidence)

        def take(findings: _Findings) -> None:
            self._job = None
            self._findings = findings
            self.memory.keep(found.frame.school.name, solo_id, findings.evidence or {})
            self._list()

        def fail(error: Exception) -> None:
            self._job = None
            self._session.failed.emit(str(error))

        self._job = walk_beside(steps, lambda _: None, take, fail)

    def _list(self) -> None:
        """The items anew, in the order of the line; what is about the whole solo first."""
        solo, found = self._session.solo, self._session.found
        items: list[Item] = []
        if solo is not None and found is not None:
            place = {note.id: i for i, note in enumerate(solo.notes)}
            items += self._about_all(solo)
            about = [item for item in self._about_notes(found) if item.first in place and item.last in place]
            items += sorted(about, key=lambda item: (place[item.first], item.kind is Kind.DOUBT))
        self.items = items
        if self._answering:
            return
        if self._current is not None and self._same(self._current) is None:
            self._current = None
        self.changed.emit()

    def _about_all(self, solo: Solo) -> list[Item]:
        items = []
        if not solo.chords and solo.notes and not solo.readings:
            items.append(Item(Kind.NO_CHORDS))
        if not solo.heard_keys and not any(region.blues for region in solo.keys) and blues_choruses(solo):
            items.append(Item(Kind.BLUES))
        name = solo.school.name
        for offer in self._findings.offers:
            if not self.memory.is_declined(name, offer.choice, offer.evidence.other_way):
                items.append(Item(Kind.OFFER, offer=offer))
        return items

    def _about_notes(self, found: Labelled) -> list[Item]:
        readings = [
            Item(Kind.READING, proposal.reading.first, proposal.reading.last, proposal=proposal)
            for proposal in self._findings.proposals
        ]
        # Where another reading would explain the notes, they are no slips until it is declined.
        explained = _covered(found, readings)
        slips = [slip for slip in self._findings.slips if slip.note not in explained]
        slipped = {slip.note for slip in slips}
        items = readings + [Item(Kind.SLIP, slip.note, slip.note, slip=slip) for slip in slips]
        pitches = {note.note.id: note.pitch for note in found.frame.notes}
        for label in found.labels:
            passed = (label.note, pitches[label.note]) in self._passed
            if label.in_doubt and label.note not in slipped | explained and not passed:
                items.append(Item(Kind.DOUBT, label.note, label.note))
        return items

    # -- going through ------------------------------------------------------------------------------

    @property
    def current(self) -> Item | None:
        """The item that is looked at."""
        return None if self._current is None else self._same(self._current)

    def _same(self, wanted: Item) -> Item | None:
        """The item of the list that asks the same, or None."""
        key = _key(wanted)
        return next((item for item in self.items if _key(item) == key), None)

    def choose(self, item: Item | None) -> None:
        """Look at an item: its notes are selected."""
        self._current = item
        if item is not None and item.first:
            self._session.select(item.first, item.last)
        self.current_changed.emit()

    def step(self, by: int) -> bool:
        """Look at the next (1) or previous (-1) item, from the selected note on and around the end."""
        if not self.items:
            return False
        current = self.current
        if current is not None and self._is_where(current):
            self.choose(self.items[(self.items.index(current) + by) % len(self.items)])
            return True
        solo, here = self._session.solo, self._session.current
        assert solo is not None
        place = {note.id: i for i, note in enumerate(solo.notes)}
        now = place.get(here or "", -1)
        # Where no item was looked at yet, one about the selected note itself comes first.
        least = 1 if current is not None else 0
        ahead = [item for item in self.items if not item.first or (place[item.first] - now) * by >= least]
        self.choose((ahead or self.items)[0 if by > 0 else -1])
        return True

    def _is_where(self, item: Item) -> bool:
        return not item.first or (self._session.anchor, self._session.current) == (item.first, item.last)

    # -- answering ----------------------------------------------------------------------------------

    def take(self) -> None:
        """Do what the current item suggests, or take the label in doubt as it is; then go on to the next."""
        self._answer(self._take)

    def leave(self) -> None:
        """Leave things as they are, and don't ask again; then go on to the next."""
        self._answer(self._leave)

    def _answer(self, answer: Callable[[Item], None]) -> None:
        item = self.current
        if item is None:
            # What was not in view is only shown: nobody answers what they have not seen.
            self.step(1)
            return
        index = self.items.index(item)
        self._answering = True
        try:
            answer(item)
        finally:
            self._answering = False
        # An edit does away with what it answers once it has been looked through; until then it is not asked again.
        self.items = [other for other in self.items if _key(other) != _key(item)]
        following = self.items[index:] or self.items
        self._current = following[0] if following else None
        self.changed.emit()
        self.choose(self._current)

    def _take(self, item: Item) -> None:
        session = self._session
        solo = session.solo
        assert solo is not None
        if item.slip is not None:
            session.edit(_slip_words(item.slip), with_slip(solo, item.slip, self._semitones(item.slip)))
        elif item.proposal is not None:
            reading = session.as_sounding(item.proposal.reading)
            words = translate("Gavotte", "Read by {name}").format(name=item.proposal.name)
            session.edit(words, with_reading(solo, reading))
        elif item.offer is not None:
            session.set_school(item.offer.school)
        elif item.kind is Kind.NO_CHORDS:
            session.edit(translate("Gavotte", "Infer the chords"), with_inferred_chords(solo))
        elif item.kind is Kind.BLUES:
            keys = tuple(replace(region, blues=True) for region in solo.keys)
            session.edit(translate("Gavotte", "Hear it as a blues"), replace(solo, keys=keys))
        else:
            labels = [session.labels[item.first]] if item.first in session.labels else []
            session.edit(translate("Gavotte", "Take the label as it is"), with_labels_taken(solo, labels))

    def _semitones(self, slip: Slip) -> int:
        """How far the suggested pitch lies from the note's, in whichever pitch both are shown."""
        shown = self._session.shown
        if slip.pitch is None or shown is None:
            return 0
        return slip.pitch.midi - shown.note(slip.note).pitch.midi

    def _leave(self, item: Item) -> None:
        session = self._session
        solo = session.solo
        assert solo is not None
        if item.slip is not None:
            session.edit(translate("Gavotte", "Leave the note as it is"), without_slip(solo, item.slip))
        elif item.proposal is not None:
            session.edit(translate("Gavotte", "Read it by the changes"), with_changes_read(solo, item.first, item.last))
        elif item.offer is not None:
            self.memory.decline(solo.school.name, item.offer.choice, item.offer.evidence.other_way)
            self._list()
        elif item.kind is Kind.NO_CHORDS:
            session.edit(translate("Gavotte", "Read it by its key"), read_by_key(solo))
        elif item.kind is Kind.BLUES:
            keys = tuple(heard.region for heard in heard_keys(solo))
            session.edit(translate("Gavotte", "Hear it as no blues"), replace(solo, heard_keys=keys))
        else:
            self._passed.add((item.first, session.pitch_of(item.first)))
            self._list()

    def take_plain(self) -> None:
        """Take all labels nobody need look at as they are."""
        session = self._session
        plain = plain_ones(session.labels.values())
        if session.solo is not None and plain:
            words = translate("Gavotte", "Take {number} plain labels").format(number=len(plain))
            session.edit(words, with_labels_taken(session.solo, plain))


def _covered(found: Labelled, items: list[Item]) -> set[str]:
    """The notes some items are about."""
    ids = [note.note.id for note in found.frame.notes]
    place = {note: i for i, note in enumerate(ids)}
    covered: set[str] = set()
    for item in items:
        if item.first in place and item.last in place:
            covered |= set(ids[place[item.first] : place[item.last] + 1])
    return covered


def _key(item: Item) -> tuple[object, ...]:
    detail: object = None
    if item.slip is not None:
        detail = (item.slip.change, item.slip.pitch)
    elif item.proposal is not None:
        detail = item.proposal.name
    elif item.offer is not None:
        detail = item.offer.choice
    return item.kind, item.first, item.last, detail


def _slip_words(slip: Slip) -> str:
    match slip.change:
        case Change.CHORD:
            return translate("Gavotte", "Move the chord")
        case Change.WRITTEN:
            return translate("Gavotte", "Read the part as written pitch")
    return translate("Gavotte", "Mend the note")
