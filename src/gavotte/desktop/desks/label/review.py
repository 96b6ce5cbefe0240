"""The review: what of the open solo wants an answer. It listens to the session and asks it for edits."""

from __future__ import annotations

from dataclasses import replace

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from gavotte.desktop.activity import Activities
from gavotte.desktop.desks.label.memory import Memory
from gavotte.desktop.solo.session import LABEL_AT_ONCE, SoloSession
from gavotte.desktop.translation import translate
from gavotte.desktop.undisturbed import Undisturbed
from gavotte.harmony.inferring import with_inferred_chords
from gavotte.labelling.answers import (
    as_blues,
    plain_ones,
    read_by_key,
    with_changes_read,
    with_doubt_passed,
    with_labels_taken,
    with_reading,
    with_slip,
    without_slip,
)
from gavotte.labelling.learning import Offer
from gavotte.labelling.questions import (
    Asked,
    Findings,
    Question,
    is_about,
    look_through,
    questions,
    still_asks,
    touched_ids,
)
from gavotte.labelling.slips import Remedy, Slip
from gavotte.solo.differences import not_shared
from gavotte.solo.document import Solo

REVIEW_DELAY_MS = 250


class Review(QObject):
    """``questions`` are those that are open now.

    Signals: ``changed``, they are other ones; ``current_changed``, another one is looked at.
    """

    changed = pyqtSignal()
    current_changed = pyqtSignal()

    def __init__(self, session: SoloSession, activities: Activities, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._session, self._activities = session, activities
        self.memory = Memory(session.library)
        self.questions: list[Question] = []
        self._current: Question | None = None
        self._findings = Findings()
        self._asked_of: Solo | None = None
        """What the questions have been looked through for last."""
        self._answering = False
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(REVIEW_DELAY_MS)
        self._soon.timeout.connect(self._look)
        session.replaced.connect(self._opened)
        session.labelled.connect(self._edited)
        session.went_back.connect(self._went_back)
        session.selection.changed.connect(self._follow)

    # -- looking ------------------------------------------------------------------------------------

    def _opened(self) -> None:
        self._findings = Findings()
        self._current = None
        self._list()
        self._soon.start()

    def _edited(self) -> None:
        solo = self._session.solo
        # Whoever types into a long solo is not kept waiting for the queue.
        if solo is None or len(solo.notes) <= LABEL_AT_ONCE:
            self._list()
        else:
            self._drop_gone()
        self._soon.start()

    def _drop_gone(self) -> None:
        """Ask nothing more about what is not there any more."""
        solo, shown = self._session.solo, self._session.shown
        if solo is None or shown is None:
            return
        touched = touched_ids(self._asked_of, solo) if self._asked_of is not None else None
        self._asked_of = solo
        asked = [
            item
            for item in self.questions
            if (touched is not None and touched.isdisjoint(is_about(item))) or still_asks(solo, shown, item)
        ]
        if len(asked) < len(self.questions):
            self.questions = asked
            if self._answering:
                return
            if self._current is not None and self._same(self._current) is None:
                self._current = None
            self.changed.emit()

    def cancel(self) -> None:
        """Look no further."""
        self._soon.stop()
        self._activities.cancel(self)

    @property
    def is_complete(self) -> bool:
        """Whether everything that changed has been looked through."""
        return not self._activities.of(self) and not self._soon.isActive()

    def _look(self) -> None:
        self.cancel()
        found, solo, solo_id = self._session.found, self._session.solo, self._session.solo_id
        if found is None or solo_id is None:
            return
        school = found.frame.school.name
        elsewhere = self.memory.corrections.elsewhere(school, solo_id)

        def take(findings: Findings) -> None:
            if self._session.found is not found:
                # It was changed meanwhile, and is looked through again.
                return
            self._findings = findings
            self.memory.keep(school, solo_id, findings.evidence or {})
            self._list()
            self._session.keep_count(len(self.questions))

        self._activities.walk(
            self,
            lambda: look_through(found, elsewhere, solo),
            take,
            lambda error: self._session.failed.emit(str(error)),
        )

    def _list(self) -> None:
        """The questions anew."""
        solo, found = self._session.solo, self._session.found
        self.questions, self._asked_of = [], self._session.solo
        if solo is not None and found is not None:
            self.questions = questions(solo, found, self._findings, self._is_declined)
        if self._answering:
            return
        if self._current is not None and self._same(self._current) is None:
            self._current = None
        if self._current is None:
            self._current = self._about_selection()
        self.changed.emit()

    def _is_declined(self, offer: Offer) -> bool:
        solo = self._session.solo
        assert solo is not None
        return self.memory.corrections.is_declined(solo.school.name, offer.choice, offer.evidence.other_way)

    # -- going through ------------------------------------------------------------------------------

    @property
    def current(self) -> Question | None:
        """The item that is looked at."""
        return None if self._current is None else self._same(self._current)

    def _same(self, wanted: Question) -> Question | None:
        """The item of the list that asks the same, or None."""
        same = wanted.same
        return next((item for item in self.questions if item.same == same), None)

    def _about_selection(self) -> Question | None:
        """What is asked about the very notes that are selected."""
        selection = self._session.selection
        ends = {selection.anchor, selection.current}
        return next((item for item in self.questions if item.first and {item.first, item.last} == ends), None)

    def _follow(self) -> None:
        """Look at what is asked about the selected notes: nobody answers for others."""
        current = self.current
        if self._answering or (current is not None and current.first and self._is_where(current)):
            return
        self._current = self._about_selection()
        if self._current is not current:
            self.current_changed.emit()

    def _went_back(self, before: Solo, after: Solo) -> None:
        """Look again at what an answer was about that was undone, or done again."""
        parts = (not_shared(before.decisions, after.decisions), not_shared(before.passed, after.passed),
                 not_shared(before.dismissed, after.dismissed))  # fmt: skip
        touched = [(item.note, item.note) for part in parts for item in part]
        touched += [(reading.first, reading.last) for reading in not_shared(before.readings, after.readings)]
        places = after.places
        if len(touched) == 1 and touched[0][0] in places and touched[0][1] in places:
            self._session.selection.select(*touched[0])

    def choose(self, item: Question | None) -> None:
        """Look at an item: its notes are selected."""
        self._current = item
        if item is not None and item.first:
            self._session.selection.select(item.first, item.last)
        self.current_changed.emit()

    def step(self, by: int) -> bool:
        """Look at the next (1) or previous (-1) item, from the selected note on and around the end."""
        if not self.questions:
            return False
        current = self.current
        if current is not None and self._is_where(current):
            self.choose(self.questions[(self.questions.index(current) + by) % len(self.questions)])
            return True
        solo, here = self._session.solo, self._session.selection.current
        assert solo is not None
        place = solo.places
        now = place.get(here or "", -1)
        # Where no item was looked at yet, one about the selected note itself comes first.
        least = 1 if current is not None else 0
        ahead = [item for item in self.questions if not item.first or (place[item.first] - now) * by >= least]
        self.choose((ahead or self.questions)[0 if by > 0 else -1])
        return True

    def _is_where(self, item: Question) -> bool:
        selection = self._session.selection
        return not item.first or (selection.anchor, selection.current) == (item.first, item.last)

    # -- answering ----------------------------------------------------------------------------------

    def answer(self, take: bool) -> None:
        """Do what the current question suggests (or take the label in doubt as it is), or leave things as they are
        without asking again; then go on to the next.
        """
        self._drop_gone()
        item = self.current
        if item is None:
            # What was not in view is only shown: nobody answers what they have not seen.
            self.step(1)
            return
        index = self.questions.index(item)
        self._answering = True
        try:
            if take:
                self._take(item)
            else:
                self._leave(item)
        finally:
            self._answering = False
        # An edit does away with what it answers once it has been looked through; until then it is not asked again.
        self.questions = [other for other in self.questions if other.same != item.same]
        following = self.questions[index:] or self.questions
        self._current = following[0] if following else None
        self.changed.emit()
        self.choose(self._current)

    def _take(self, item: Question) -> None:
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
        elif item.asked is Asked.NO_CHORDS:
            session.edit(translate("Gavotte", "Infer the chords"), with_inferred_chords(solo))
        elif item.key is not None:
            words = translate("Gavotte", "Take {key} as the key").format(key=item.key.key.shown)
            session.edit(words, replace(solo, keys=(item.key,)))
        elif item.asked is Asked.BLUES:
            session.edit(translate("Gavotte", "Hear it as a blues"), as_blues(solo, True))
        else:
            labels = [session.labels[item.first]] if item.first in session.labels else []
            session.edit(translate("Gavotte", "Take the label as it is"), with_labels_taken(solo, labels))

    def _semitones(self, slip: Slip) -> int:
        """How far the suggested pitch lies from the note's, in whichever pitch both are shown."""
        shown = self._session.shown
        if slip.pitch is None or shown is None:
            return 0
        return slip.pitch.midi - shown.note(slip.note).pitch.midi

    def _leave(self, item: Question) -> None:
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
        elif item.asked is Asked.NO_CHORDS:
            session.edit(translate("Gavotte", "Read it by its key"), read_by_key(solo))
        elif item.asked is Asked.SIGNATURE:
            session.edit(translate("Gavotte", "Hear the key of the signature"), replace(solo, heard_keys=solo.keys))
        elif item.asked is Asked.BLUES:
            session.edit(translate("Gavotte", "Hear it as no blues"), as_blues(solo, False))
        else:
            session.edit(translate("Gavotte", "Leave the label as it is"), with_doubt_passed(solo, item.first))

    @Undisturbed()
    def take_plain(self) -> None:
        """Take all labels nobody need look at as they are."""
        session = self._session
        plain = plain_ones(session.labels.values())
        if session.solo is not None and plain:
            words = translate("Gavotte", "Take {number} plain labels").format(number=len(plain))
            session.edit(words, with_labels_taken(session.solo, plain))


def _slip_words(slip: Slip) -> str:
    match slip.change:
        case Remedy.CHORD:
            return translate("Gavotte", "Move the chord")
        case Remedy.WRITTEN:
            return translate("Gavotte", "Read the part as written pitch")
    return translate("Gavotte", "Correct the pitch")
