"""The open solo: its current value, its labels, the selection, undo and autosave. Desks read it and ask it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from PyQt6.QtCore import QObject, QTimer, pyqtSignal
from PyQt6.QtGui import QUndoCommand, QUndoStack

from gavotte.desktop.activity import Job, run_beside
from gavotte.desktop.translation import said, translate
from gavotte.desktop.words import FUNCTION_WORDS
from gavotte.labelling.frame import Frame
from gavotte.labelling.labeller import Labelled, is_small_step, label_solo, labelled
from gavotte.library.errors import LibraryError
from gavotte.library.store import Library
from gavotte.solo.document import Function, Note, Reading, Solo
from gavotte.solo.edits import USUAL_DEVICE, transposed, with_decision, with_notes_moved, without_decision
from gavotte.solo.label import Label
from gavotte.solo.school import School
from gavotte.vocabulary.lick import Lick, keep_lick
from gavotte.workshop.written import as_written, written_interval

SAVE_DELAY_MS = 800
LABEL_DELAY_MS = 80
LABEL_AT_ONCE = 300
"""Solos with more notes than this are labelled beside the interface."""


class SoloSession(QObject):
    """The one place that holds the open solo.

    ``shown`` is the solo as the desks show it: the solo itself, or with ``written`` the instrument's written
    pitch. ``found`` (its labels and what they came from), ``frame`` and ``labels`` belong to what is shown.

    Signals: ``solo_opened``; ``went_back(before, after)``, an edit was undone or redone; ``solo_changed``, its
    value is new and its labels are still to come (a long solo's); ``labels_changed`` (the solo's value or its labels
    are new); ``selection_changed``, ``saved``, ``failed(message)``.
    """

    solo_opened = pyqtSignal()
    went_back = pyqtSignal(object, object)
    solo_changed = pyqtSignal()
    labels_changed = pyqtSignal()
    selection_changed = pyqtSignal()
    saved = pyqtSignal()
    failed = pyqtSignal(str)

    def __init__(self, library: Library, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.library = library
        self.solo_id: str | None = None
        self.solo: Solo | None = None
        self.shown: Solo | None = None
        self.written = False
        self.labels: dict[str, Label] = {}
        self.undo_stack = QUndoStack(self)
        self.anchor: str | None = None
        self.current: str | None = None
        self.found: Labelled | None = None
        self._found_written = False
        self._select_then: tuple[str, str] | None = None
        self._unsaved = False
        self._job: Job | None = None
        self._begin_labelling: Callable[[], None] = lambda: None
        self._label_soon = QTimer(self)
        self._label_soon.setSingleShot(True)
        self._label_soon.setInterval(LABEL_DELAY_MS)
        self._label_soon.timeout.connect(lambda: self._begin_labelling())
        self._save_timer = QTimer(self)
        self._save_timer.setSingleShot(True)
        self._save_timer.setInterval(SAVE_DELAY_MS)
        self._save_timer.timeout.connect(self.save)

    @property
    def frame(self) -> Frame | None:
        """What surrounds the notes of what is shown."""
        return None if self.found is None else self.found.frame

    # -- opening ------------------------------------------------------------------------------------

    def open(self, solo_id: str) -> None:
        """Open a solo of the library. Raises LibraryError or FormatError."""
        solo = self.library.solo(solo_id)
        self.close()
        self.solo_id, self.solo = solo_id, solo
        self.anchor = self.current = solo.notes[0].id if solo.notes else None
        self._relabel(self.solo_opened.emit)

    def close(self) -> None:
        """Save and forget the open solo."""
        self.save()
        self.cancel()
        self.solo_id = self.solo = self.shown = self.found = None
        self.labels = {}
        self.anchor = self.current = None
        self.undo_stack.clear()

    def cancel(self) -> None:
        """Tell nothing more of what is being worked out."""
        self._label_soon.stop()
        if self._job is not None:
            self._job.cancel()
            self._job = None

    def _relabel(self, then: Callable[[], None]) -> None:
        solo, written = self.solo, self.written
        assert solo is not None
        self.cancel()
        before = self.found if self._found_written == written else None

        def work() -> Labelled:
            return labelled(as_written(solo) if written else solo, like=before)

        def take(found: Labelled) -> None:
            self.found, self._found_written = found, written
            self.shown = found.solo
            self.labels = {label.note: label for label in found.labels}
            then()

        if len(solo.notes) <= LABEL_AT_ONCE or (before is not None and is_small_step(before.solo, solo)):
            # After a small edit little is labelled anew, however long the solo is.
            take(work())
        else:
            if self.shown is not None:
                # The notes are shown at once; what they do is worked out when they have been painted.
                self.shown = as_written(solo) if written else solo
                self.solo_changed.emit()

            def begin() -> None:
                self._job = run_beside(work, take, lambda error: self.failed.emit(str(error)))

            self._begin_labelling = begin
            self._label_soon.start()

    def set_written(self, written: bool) -> None:
        """Show the solo in written or in concert pitch."""
        if written != self.written:
            self.written = written
            if self.solo is not None:
                self._relabel(self.solo_opened.emit)

    # -- edits --------------------------------------------------------------------------------------

    def edit(self, text: str, changed: Solo, select: tuple[str, str] | None = None) -> None:
        """Replace the solo by an edited one, as an undoable step called ``text``.

        ``select`` are the notes that are selected then, first and last.
        """
        if self.solo is not None and changed != self.solo:
            self._select_then = select
            self.undo_stack.push(_Step(self, text, self.solo, changed))
            self._select_then = None

    def put(self, solo: Solo) -> None:
        """Take a value as the current one (for undo steps): label it, tell the desks, save it soon."""
        self.solo = solo
        self._unsaved = True
        self._save_timer.start()
        if self._select_then is not None:
            self.anchor, self.current = self._select_then
        ids = {note.id for note in solo.notes}
        if self.current not in ids or self.anchor not in ids:
            self.anchor = self.current = None
        self._relabel(self.labels_changed.emit)

    def decide(self, function: Function, device: str | None = None) -> None:
        """Set the selected notes' function by hand, in one step."""
        notes = self.selected()
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
        for note in self.selected():
            solo = without_decision(solo, note)
        self.edit(translate("Gavotte", "Take the decision back"), solo)

    def move(self, semitones: int) -> Note | None:
        """Move the selected notes by semitones, in one step; gives the current one as it sounds now."""
        notes = self.selected()
        if self.solo is None or self.current is None or not notes:
            return None
        up, down = translate("Gavotte", "Move up a semitone"), translate("Gavotte", "Move down a semitone")
        self.edit(up if semitones > 0 else down, with_notes_moved(self.solo, notes, semitones))
        return self.solo.note(self.current)

    def set_school(self, school: School) -> None:
        """Label the open solo by another school, or the same with other choices."""
        if self.solo is not None:
            words = translate("Gavotte", "Label by the {name} school").format(name=school.name)
            self.edit(words, replace(self.solo, school=school))

    def as_sounding(self, reading: Reading) -> Reading:
        """A reading of what is shown as one of the solo itself, in concert pitch."""
        if not self.written or self.solo is None:
            return reading
        away = -written_interval(self.solo)
        moved = transposed(replace(self.solo, notes=(), chords=(), readings=(reading,)), away)
        return moved.readings[0]

    def pitch_of(self, note: str) -> int:
        """The pitch (MIDI) a note is shown at, -1 where there is no such note."""
        return next((n.pitch.midi for n in self.shown.notes if n.id == note), -1) if self.shown is not None else -1

    def lick(self) -> Lick | None:
        """The selected notes as a lick, or None where nothing is selected."""
        if self.solo is None or self.solo_id is None or self.anchor is None or self.current is None:
            return None
        return keep_lick(self.solo, self.solo_id, self.concert_labels(), self.anchor, self.current)

    def concert_labels(self) -> tuple[Label, ...]:
        """The open solo's labels in concert pitch, whatever is shown: what is kept or exported."""
        if self.solo is None:
            return ()
        return label_solo(self.solo) if self.written else tuple(self.labels.values())

    # -- selection ----------------------------------------------------------------------------------

    def select(self, anchor: str | None, current: str | None) -> None:
        """Select the notes from ``anchor`` to ``current``."""
        if (anchor, current) != (self.anchor, self.current):
            self.anchor, self.current = anchor, current
            self.selection_changed.emit()

    def selected(self) -> tuple[str, ...]:
        """Ids of the selected notes, in order."""
        if self.solo is None or self.anchor is None or self.current is None:
            return ()
        ids = [note.id for note in self.solo.notes]
        if self.anchor not in ids or self.current not in ids:
            return ()
        low, high = sorted((ids.index(self.anchor), ids.index(self.current)))
        return tuple(ids[low : high + 1])

    def in_doubt(self) -> list[str]:
        """Ids of the notes whose labels want a look, in order."""
        if self.solo is None:
            return []
        return [note.id for note in self.solo.notes if note.id in self.labels and self.labels[note.id].in_doubt]

    # -- saving -------------------------------------------------------------------------------------

    def save(self) -> None:
        """Write the solo now, if there is anything to write."""
        self._save_timer.stop()
        if not self._unsaved or self.solo is None or self.solo_id is None:
            return
        try:
            self.library.save_solo(self.solo_id, self.solo, len(self.in_doubt()))
        except LibraryError as error:
            self.failed.emit(str(error))
            self._save_timer.start(5000)
            return
        self._unsaved = False
        self.saved.emit()

    @property
    def is_saved(self) -> bool:
        """Whether everything is in the library."""
        return not self._unsaved


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
