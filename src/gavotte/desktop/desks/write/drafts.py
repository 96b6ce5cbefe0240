"""The draft of the open solo: made from its recording, laid over the page, taken or left phrase by phrase."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import QObject, pyqtSignal

from gavotte.desktop.desk.studio import Studio
from gavotte.desktop.desks.write.drafter import Drafter
from gavotte.desktop.translation import QT_TRANSLATE_NOOP, said, translate
from gavotte.desktop.words import counted
from gavotte.library.drafts import DRAFT_DOCUMENT
from gavotte.library.errors import LibraryError
from gavotte.recording.filters import Side
from gavotte.solo.document import Solo
from gavotte.writing.drafting import (
    Drafted,
    Proposal,
    ProposedPhrase,
    overlaid,
    proposed,
    proposed_anew,
    with_phrase,
)
from gavotte.writing.expecting import expected_by_chords

_LEAD_IN = 0.3


_FROM = {
    Side.LEFT: QT_TRANSLATE_NOOP("Gavotte", ", from the left side, where the line stands out"),
    Side.RIGHT: QT_TRANSLATE_NOOP("Gavotte", ", from the right side, where the line stands out"),
}


@dataclass(frozen=True)
class _Step:
    """A solo before and after phrases were taken."""

    before: Solo
    after: Solo
    taken: Proposal


class Drafts(QObject):
    """``proposal`` holds the phrases still to be decided, ``current`` which of them is looked at.

    Signals: ``changed``, ``told(words)``, ``failed(words)``.
    """

    changed = pyqtSignal()
    told = pyqtSignal(str)
    failed = pyqtSignal(str)

    def __init__(self, studio: Studio, parent: QObject) -> None:
        super().__init__(parent)
        self._session, self._tape, self._hearing = studio.session, studio.tape, studio.hearing
        self._library, self._saver, self._activities = studio.library, studio.saver, studio.activities
        self.proposal: Proposal = ()
        self.current = 0
        self._steps: list[_Step] = []
        self.drafter = Drafter(studio.tape, studio.activities, self)
        self.drafter.drafted.connect(self._take_draft)
        self.drafter.failed.connect(self._fail)
        self.drafter.stopped.connect(self.changed)
        # Over which beats and bars what was heard is laid.
        self._laid: object = None
        self._over: tuple[Solo, Proposal, Solo] | None = None
        studio.session.replaced.connect(self._opened)
        studio.hearing.aligned.connect(self._lay_anew)
        studio.session.went_back.connect(self._went_back)

    def _opened(self) -> None:
        """Another solo is open: what was drafted for it and not decided is there again."""
        self.drafter.cancel()
        self._activities.cancel(self)
        self.proposal, self.current, self._steps, self._laid = (), 0, [], None
        self.changed.emit()
        solo_id = self._session.solo_id
        try:
            document = None if solo_id is None else self._library.draft_document(solo_id)
        except LibraryError:
            # The solo itself could be read; whatever is wrong is told when something is written.
            return
        if document is not None:
            words = translate("Gavotte", "The drafted phrases can't be shown. {error} Draft them anew.")
            self._activities.beside(
                self,
                lambda: DRAFT_DOCUMENT.read(document),
                self._recall,
                lambda error: self.failed.emit(words.format(error=error)),
            )

    def _recall(self, proposal: Proposal) -> None:
        if not self.proposal and not self.drafter.is_drafting:
            self.proposal, self.current, self._laid = proposal, 0, self._grid()
            self.changed.emit()

    def _grid(self) -> object:
        """The beats and bars, to be compared."""
        alignment = self._hearing.alignment
        if alignment is None:
            return None
        return alignment.beats.times, alignment.beats.downbeat, alignment.grid.bars[0], alignment.grid.bars[-1].meter

    def _lay_anew(self) -> None:
        """Beats or bars are others: what was heard and is not decided yet is written over them."""
        solo, alignment, grid = self._session.solo, self._hearing.alignment, self._grid()
        if solo is None or alignment is None or grid == self._laid or not self.proposal:
            return
        if self._laid is None:
            # They were drafted over these.
            self._laid = grid
            return
        self._laid = grid
        before = self.proposal
        # What is written over beats that are others again by now is wanted by nobody.
        self._activities.cancel(self)
        self._activities.beside(
            self,
            lambda: proposed_anew(solo, before, alignment),
            lambda drafted: self._take_anew(before, drafted),
            lambda error: self.failed.emit(str(error)),
        )

    def _take_anew(self, before: Proposal, drafted: Drafted) -> None:
        if self.proposal == before and drafted.proposal:
            self._put(drafted.proposal)
            self.told.emit(translate("Gavotte", "What was drafted is written over the new beats"))
            self.changed.emit()

    def _went_back(self, before: Solo, after: Solo) -> None:
        """Phrases that were taken are to be decided again when that is undone."""
        for step in self._steps:
            others = tuple(phrase for phrase in self.proposal if phrase not in step.taken)
            if before is step.after and after is step.before:
                self._put(tuple(sorted((*others, *step.taken), key=lambda phrase: phrase.start)))
            elif before is step.before and after is step.after:
                self._put(others)
            else:
                continue
            self.changed.emit()

    def _put(self, proposal: Proposal) -> None:
        """Take this as what is still to be decided, and keep it."""
        self.proposal, self.current = proposal, min(self.current, max(0, len(proposal) - 1))
        if self._session.solo_id is not None:
            self._saver.save_draft(self._session.solo_id, proposal)

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

    def draft(self, whole: bool, by_chords: bool = False) -> None:
        """Listen to everything that is not written yet, or to the loop; with ``by_chords`` they count a little."""
        solo, alignment, region = self._session.solo, self._hearing.alignment, self._hearing.region
        if solo is None or alignment is None:
            return
        if whole or region is None:
            times = self._tape.beats.times
            start = max(0.0, alignment.seconds(-solo.pickup) - _LEAD_IN)
            region = (start, times[-1] + times[-1] - times[-2])
        self.drafter.draft(
            solo.instrument,
            *region,
            lambda draft: (proposed(solo, draft.notes, alignment, whole), draft.side),
            expected_by_chords(solo, alignment) if by_chords and solo.chords else None,
        )
        self.changed.emit()

    def _take_draft(self, found: tuple[Drafted, Side]) -> None:
        drafted, side = found
        self.current = 0
        self._laid = self._grid()
        self._put(drafted.proposal)
        # How the line swings is known best from the line itself.
        self._tape.keep(swing=drafted.swing)
        if self.proposal:
            notes = sum(len(phrase.notes) for phrase in self.proposal)
            words = translate("Gavotte", "{notes} drafted in {number} phrases").format(
                notes=counted(notes, "note"), number=len(self.proposal)
            )
            if side in _FROM:
                words += said(_FROM[side])
            self.told.emit(words)
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
        if not self.proposal:
            return solo
        if self._over is None or self._over[0] is not solo or self._over[1] is not self.proposal:
            # Asked for at every change of the window, and long for a long draft.
            self._over = (solo, self.proposal, overlaid(solo, self.proposal))
        return self._over[2]

    def take(self) -> None:
        """Write the phrase that is looked at onto the page."""
        phrase, solo = self.phrase(), self._session.solo
        if phrase is not None and solo is not None:
            self._drop(self.current)
            self._take(translate("Gavotte", "Take a drafted phrase"), with_phrase(solo, phrase), (phrase,))
            self._tell_left()

    def leave(self) -> None:
        """Drop the phrase that is looked at."""
        if self.phrase() is not None:
            self._drop(self.current)
            self.changed.emit()
            self._tell_left()

    def _tell_left(self) -> None:
        """Say what is still to be decided."""
        left = len(self.proposal)
        self.told.emit(
            translate("Gavotte", "{number} left to decide").format(number=counted(left, "phrase"))
            if left
            else translate("Gavotte", "Every drafted phrase is decided")
        )

    def _drop(self, index: int) -> None:
        self._put((*self.proposal[:index], *self.proposal[index + 1 :]))

    def _take(self, words: str, changed: Solo, taken: Proposal) -> None:
        solo = self._session.solo
        assert solo is not None
        self._session.edit(words, changed)
        self._steps.append(_Step(solo, changed, taken))
        self.changed.emit()

    def take_all(self) -> None:
        """Write every phrase onto the page."""
        solo = self._session.solo
        if solo is None or not self.proposal:
            return
        taken = self.proposal
        for phrase in taken:
            solo = with_phrase(solo, phrase)
        self._put(())
        self._take(translate("Gavotte", "Take the draft"), solo, taken)

    def leave_all(self) -> None:
        """Drop the draft."""
        self._put(())
        self.changed.emit()
