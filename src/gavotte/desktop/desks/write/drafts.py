"""The draft of the open solo: made from its recording, laid over the page, taken or left phrase by phrase."""

from __future__ import annotations

from PyQt6.QtCore import QObject, pyqtSignal

from gavotte.desktop.activity import Activities
from gavotte.desktop.desks.write.drafter import Drafter
from gavotte.desktop.playback.hearing import Hearing
from gavotte.desktop.solo.session import SoloSession
from gavotte.desktop.solo.tape import Tape
from gavotte.desktop.translation import translate
from gavotte.desktop.words import counted
from gavotte.solo.document import Solo
from gavotte.writing.drafting import Proposal, ProposedPhrase, overlaid, proposed, with_phrase

_LEAD_IN = 0.3


class Drafts(QObject):
    """``proposal`` holds the phrases still to be decided, ``current`` which of them is looked at.

    Signals: ``changed``, ``told(words)``, ``failed(words)``.
    """

    changed = pyqtSignal()
    told = pyqtSignal(str)
    failed = pyqtSignal(str)

    def __init__(
        self, session: SoloSession, tape: Tape, hearing: Hearing, activities: Activities, parent: QObject
    ) -> None:
        super().__init__(parent)
        self._session, self._tape, self._hearing = session, tape, hearing
        self.proposal: Proposal = ()
        self.current = 0
        self.drafter = Drafter(tape, activities, self)
        self.drafter.drafted.connect(self._take_draft)
        self.drafter.failed.connect(self._fail)
        self.drafter.stopped.connect(self.changed)
        session.replaced.connect(self._forget)

    def _forget(self) -> None:
        self.drafter.cancel()
        self.proposal, self.current = (), 0
        self.changed.emit()

    @property
    def state(self) -> dict[str, bool]:
        """What there is to draft from."""
        return {
            "has_recording": self._tape.decoded is not None,
            "has_beats": self._tape.beats.is_usable,
            "has_loop": self._hearing.region is not None,
            "has_notes": self._session.solo is not None and bool(self._session.solo.notes),
            "is_drafting": self.drafter.is_drafting,
        }

    def draft(self, whole: bool) -> None:
        """Listen to everything that is not written yet, or to the loop."""
        solo, alignment, region = self._session.solo, self._hearing.alignment, self._hearing.region
        if solo is None or alignment is None:
            return
        if whole or region is None:
            times = self._tape.beats.times
            start = max(0.0, alignment.seconds(float(-solo.pickup)) - _LEAD_IN)
            region = (start, times[-1] + times[-1] - times[-2])
        low, high = solo.instrument.lowest, solo.instrument.highest
        self.drafter.draft(low, high, *region, lambda draft: proposed(solo, draft.notes, alignment, whole))
        self.changed.emit()

    def _take_draft(self, proposal: Proposal) -> None:
        self.proposal, self.current = proposal, 0
        if self.proposal:
            notes = sum(len(phrase.notes) for phrase in self.proposal)
            self.told.emit(
                translate("Gavotte", "{notes} drafted in {number} phrases").format(
                    notes=counted(notes, "note"), number=len(self.proposal)
                )
            )
        else:
            self._fail(
                translate(
                    "Gavotte",
                    "No notes were heard within the bars. Is the right instrument set, and does bar 1 begin at the "
                    "right beat?",
                )
            )
        self.changed.emit()

    def _fail(self, words: str) -> None:
        self.failed.emit(words)
        self.changed.emit()

    def phrase(self) -> ProposedPhrase | None:
        """The phrase that is looked at."""
        return self.proposal[self.current] if self.current < len(self.proposal) else None

    def choose(self, index: int) -> None:
        """Look at another phrase."""
        if index != self.current:
            self.current = index
            self.changed.emit()

    def overlaid(self, solo: Solo) -> Solo:
        """A solo with what is proposed laid over it."""
        return overlaid(solo, self.proposal) if self.proposal else solo

    def take(self) -> None:
        """Write the phrase that is looked at onto the page."""
        phrase, solo = self.phrase(), self._session.solo
        if phrase is not None and solo is not None:
            self._drop(self.current)
            self._session.edit(translate("Gavotte", "Take a drafted phrase"), with_phrase(solo, phrase))
            self.changed.emit()

    def leave(self) -> None:
        """Drop the phrase that is looked at."""
        if self.phrase() is not None:
            self._drop(self.current)
            self.changed.emit()

    def _drop(self, index: int) -> None:
        self.proposal = (*self.proposal[:index], *self.proposal[index + 1 :])
        self.current = min(index, max(0, len(self.proposal) - 1))

    def take_all(self) -> None:
        """Write every phrase onto the page."""
        solo = self._session.solo
        if solo is None or not self.proposal:
            return
        for phrase in self.proposal:
            solo = with_phrase(solo, phrase)
        self.proposal, self.current = (), 0
        self._session.edit(translate("Gavotte", "Take the draft"), solo)
        self.changed.emit()

    def leave_all(self) -> None:
        """Drop the draft."""
        self.proposal, self.current = (), 0
        self.changed.emit()
