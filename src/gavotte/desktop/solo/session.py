"""The session: the open solo with its labels, undo and autosave. Desks read it and ask it for edits."""

from __future__ import annotations

from contextlib import suppress
from dataclasses import replace

from PyQt6.QtCore import QObject, QTimer, pyqtSignal
from PyQt6.QtGui import QUndoCommand, QUndoStack

from gavotte.desktop.activity import Activities
from gavotte.desktop.solo.saver import Saver
from gavotte.desktop.solo.selection import Selection
from gavotte.desktop.solo.view import View
from gavotte.desktop.translation import said, translate
from gavotte.desktop.undisturbed import Undisturbed
from gavotte.desktop.words import FUNCTION_WORDS
from gavotte.labelling.frame import Frame
from gavotte.labelling.labeller import Labelled, is_small_step, labelled
from gavotte.library.errors import LibraryError
from gavotte.library.store import Library
from gavotte.solo.document import Function, Note, Reading, Solo
from gavotte.solo.edits import USUAL_DEVICE, with_decision, with_notes_moved, without_decision
from gavotte.solo.label import Label
from gavotte.solo.moving import transposed
from gavotte.solo.note_labels import NoteLabels
from gavotte.solo.school import School
from gavotte.solo.written import as_written, written_interval
from gavotte.theory.interval import Interval
from gavotte.vocabulary.lick import Lick, keep_lick

LABEL_DELAY_MS = 80
LABEL_AT_ONCE = 300
"""Solos with more notes than this are labelled beside the interface."""


class SoloSession(QObject):
    """Holds one open solo, its ``selection``, and the ``view`` it is shown in.

    ``solo`` is in concert pitch, ``shown`` as the view has it: the same, or with ``shows_written`` the instrument's
    written pitch; None where none is open, or a long one that was just opened is still labelled. ``found`` (labels and
    what they came from), ``frame`` and ``labels`` belong to what is shown.

    Signals, emitted by the session alone: ``leaving``, the solo that is open is put down next: whoever holds something
    half done finishes it; ``replaced``, another solo is open, or none; ``edited(before, after)``, the solo has another
    value, and where it is long its labels are still to come; ``went_back(before, after)``, an edit was undone or
    redone; ``labelled``, the labels fit what is shown; ``failed(message)``. The selection tells of itself, after the
    labels where both are new. Its value is saved by the saver.
    """

    leaving = pyqtSignal()
    replaced = pyqtSignal()
    edited = pyqtSignal(object, object)
    went_back = pyqtSignal(object, object)
    labelled = pyqtSignal()
    failed = pyqtSignal(str)

    def __init__(
        self, library: Library, saver: Saver, view: View, activities: Activities, parent: QObject | None = None
    ) -> None:
        super().__init__(parent)
        self.library, self.view = library, view
        self._saver = saver
        self._activities = activities
        self.selection = Selection(self)
        self.solo_id: str | None = None
        self.solo: Solo | None = None
        self.shown: Solo | None = None
        self.shows_written = False
        self.labels = NoteLabels(())
        self.undo_stack = QUndoStack(self)
        self._concert: Labelled | None = None
        self._written: Labelled | None = None
        self._written_of: tuple[Solo, str] | None = None
        self._select_then: tuple[str, str] | None = None
        self._to_look_at: int | None = None
        self._label_soon = QTimer(self)
        self._label_soon.setSingleShot(True)
        self._label_soon.setInterval(LABEL_DELAY_MS)
        self._label_soon.timeout.connect(self._label_beside)
        view.changed.connect(self._turn)

    @property
    def found(self) -> Labelled | None:
        """The labels of what is shown, and what they came from; the last ones while new ones are to come."""
        return self._written if self.shows_written else self._concert

    @property
    def frame(self) -> Frame | None:
        """What surrounds the notes of what is shown."""
        found = self.found
        return None if found is None else found.frame

    @property
    def is_labelled(self) -> bool:
        """Whether the labels are those of the solo as it is now and as it is shown."""
        if self.solo is None:
            return False
        return self._is_written_for(self.solo) if self.shows_written else self._is_for(self._concert, self.solo)

    @property
    def _wants_written(self) -> bool:
        """Whether another pitch than the sounding one is to be shown."""
        if not self.view.written or self.solo is None:
            return False
        read = self.view.as_read(self.solo)
        return bool(read.instrument.transposition_semitones) or read is not self.solo

    # -- opening ------------------------------------------------------------------------------------

    def open(self, solo_id: str, solo: Solo) -> None:
        """Take a solo of the library as the open one."""
        self._put_down()
        self.solo_id, self.solo = solo_id, solo
        self.selection.among(solo.notes)
        first = solo.notes[0].id if solo.notes else None
        self.selection.put(first, first)
        if len(solo.notes) <= LABEL_AT_ONCE:
            self._label()
        else:
            self._label_soon.start()
        self.replaced.emit()
        self.selection.tell()

    def close(self) -> None:
        """Save and put down the open solo."""
        was_open = self.solo is not None
        self._put_down()
        if was_open:
            self.replaced.emit()

    def _put_down(self) -> None:
        if self.solo is not None:
            self.leaving.emit()
        self._saver.save()
        self.cancel()
        self.solo_id = self.solo = self.shown = self._concert = self._written = self._written_of = None
        self._to_look_at, self.shows_written = None, False
        self.labels = NoteLabels(())
        self.selection.among(())
        self.undo_stack.clear()

    def cancel(self) -> None:
        """Stop labelling."""
        self._label_soon.stop()
        self._activities.cancel(self)

    # -- labels -------------------------------------------------------------------------------------

    def _is_for(self, found: Labelled | None, solo: Solo) -> bool:
        return found is not None and found.solo is solo

    def _label(self) -> None:
        """Label the solo now: in concert pitch, and as it is shown."""
        solo = self.solo
        assert solo is not None
        self.cancel()
        if not self._is_for(self._concert, solo):
            self._concert = labelled(solo, like=self._concert)
        if self._wants_written and not self._is_written_for(solo):
            self._written = labelled(self.view.written_of(solo), like=self._written)
            self._written_of = solo, self.view.reader
        self._take_labels()

    def _label_beside(self) -> None:
        solo, concert, written = self.solo, self._concert, self._written
        if solo is None:
            return
        both, reader = self._wants_written, self.view.reader
        read = self.view.as_read(solo)

        def work() -> tuple[Labelled, Labelled | None]:
            fresh = concert if concert is not None and concert.solo is solo else labelled(solo, like=concert)
            return fresh, labelled(as_written(read), like=written) if both else None

        def take(found: tuple[Labelled, Labelled | None]) -> None:
            self._concert = found[0]
            if found[1] is not None:
                self._written, self._written_of = found[1], (solo, reader)
            self._take_labels()
            self.labelled.emit()

        self._activities.cancel(self)
        self._activities.beside(self, work, take, lambda error: self.failed.emit(str(error)))

    def _is_written_for(self, solo: Solo) -> bool:
        known = self._written_of
        return self._written is not None and known is not None and known[0] is solo and known[1] == self.view.reader

    def _take_labels(self) -> None:
        self.shows_written = self._wants_written
        found = self.found
        if found is not None:
            self.shown = found.solo
            self.labels = NoteLabels(found.labels, like=self.labels)

    def _turn(self) -> None:
        """The view was changed: show the solo in the pitch that is wanted."""
        solo = self.solo
        if solo is None:
            return
        if self._wants_written == self.shows_written and (not self.shows_written or self._is_written_for(solo)):
            return
        ready = self._is_written_for(solo) if self._wants_written else self._is_for(self._concert, solo)
        if ready or len(solo.notes) <= LABEL_AT_ONCE:
            self._label()
            self.labelled.emit()
        else:
            # A long solo is labelled in its other pitch first, and goes on being shown in this one.
            self._label_beside()

    # -- edits --------------------------------------------------------------------------------------

    def edit(self, text: str, changed: Solo, select: tuple[str, str] | None = None) -> None:
        """Replace the solo by an edited one, as an undoable step called ``text``.

        ``select`` are the notes that are selected then, first and last.
        """
        if self.solo is not None and changed != self.solo:
            self._select_then = select
            self.undo_stack.push(_Step(self, text, self.solo, changed))
            self._select_then = None

    @Undisturbed()
    def put(self, solo: Solo) -> None:
        """Take a value as the current one (for undo steps): label it, tell of it, save it soon."""
        before, self.solo = self.solo, solo
        assert before is not None
        assert self.solo_id is not None
        self._saver.save_solo(self.solo_id, solo)
        selected = self.selection.among(solo.notes)
        if self._select_then is not None:
            selected = self.selection.put(*self._select_then) or selected
        known = self._concert
        small = known is not None and is_small_step(known.solo, solo)
        if len(solo.notes) <= LABEL_AT_ONCE or small:
            # After a small edit little is labelled anew, however long the solo is.
            self._label()
        else:
            # The notes are shown at once; what they do is worked out when they have been painted.
            self.shown = self.view.written_of(solo) if self.shows_written else solo
            self.cancel()
            self._label_soon.start()
        self.edited.emit(before, solo)
        if self.is_labelled:
            self.labelled.emit()
        if selected:
            self.selection.tell()

    def decide(self, function: Function, device: str | None = None) -> None:
        """Set the selected notes' function by hand, in one step."""
        notes = self.selection.notes()
        if self.solo is None or not notes:
            return
        solo = self.solo
        for note in notes:
            solo = with_decision(solo, note, function, device or self._device_for(note, function))
        text = (
            translate("Gavotte", "Call it {function}")
            if len(notes) == 1
            else translate("Gavotte", "Call {number} notes {function}")
        )
        word = said(FUNCTION_WORDS[function]).lower()
        self.edit(text.format(number=len(notes), function=word), solo)

    def _device_for(self, note: str, function: Function) -> str:
        """The device the labeller itself would pair with a function, else the usual one."""
        label = self.labels.get(note)
        if label is not None:
            if label.function is function:
                return label.device
            for alternative in label.alternatives:
                if alternative.function is function:
                    return alternative.device
        return USUAL_DEVICE[function]

    def take_back(self) -> None:
        """Drop the user's decisions on the selected notes."""
        if self.solo is None:
            return
        solo = self.solo
        for note in self.selection.notes():
            solo = without_decision(solo, note)
        self.edit(translate("Gavotte", "Drop the decision"), solo)

    def move(self, semitones: int) -> Note | None:
        """Move the selected notes by semitones, in one step; gives the current one as it sounds now."""
        notes, current = self.selection.notes(), self.selection.current
        if self.solo is None or current is None or not notes:
            return None
        up, down = translate("Gavotte", "Move up a semitone"), translate("Gavotte", "Move down a semitone")
        self.edit(up if semitones > 0 else down, with_notes_moved(self.solo, notes, semitones))
        return self.solo.note(current)

    def set_school(self, school: School) -> None:
        """Label the open solo by another school, or the same with other choices."""
        if self.solo is not None:
            words = translate("Gavotte", "Label by the {name} school").format(name=school.name)
            self.edit(words, replace(self.solo, school=school))

    def as_sounding(self, reading: Reading) -> Reading:
        """A reading of what is shown as one of the solo itself, in concert pitch."""
        return transposed(reading, -self.shown_interval) if self.shows_written else reading

    @property
    def shown_interval(self) -> Interval:
        """How far above the sounding pitch what is shown is written."""
        if not self.shows_written or self.solo is None:
            return Interval(0, 0)
        return written_interval(self.view.as_read(self.solo))

    def lick(self) -> Lick | None:
        """The selected notes as a lick, or None where nothing is selected."""
        anchor, current = self.selection.anchor, self.selection.current
        if self.solo is None or self.solo_id is None or anchor is None or current is None:
            return None
        return keep_lick(self.solo, self.solo_id, self.concert_labels(), anchor, current)

    def concert_labels(self) -> tuple[Label, ...]:
        """The open solo's labels in concert pitch, whatever is shown: what is kept or exported."""
        if self.solo is None:
            return ()
        if not self._is_for(self._concert, self.solo):
            self._concert = labelled(self.solo, like=self._concert)
        assert self._concert is not None
        return self._concert.labels

    # -- counting -------------------------------------------------------------------------------------

    def keep_count(self, number: int) -> None:
        """Keep how many things there are to look at in the open solo, for the shelf."""
        if self.solo_id is None or number == self._to_look_at:
            return
        # It can be counted again: where it can't be written now it is the next time.
        with suppress(LibraryError):
            self.library.save_count(self.solo_id, number)
            self._to_look_at = number


class _Step(QUndoCommand):
    """An edit as a pair of values."""

    def __init__(self, session: SoloSession, text: str, before: Solo, after: Solo) -> None:
        super().__init__(text)
        self._session, self._before, self._after = session, before, after
        self._is_new = True

    def redo(self) -> None:
        self._session.put(self._after)
        if not self._is_new:
            self._session.went_back.emit(self._before, self._after)
        self._is_new = False

    def undo(self) -> None:
        self._session.put(self._before)
        self._session.went_back.emit(self._after, self._before)
