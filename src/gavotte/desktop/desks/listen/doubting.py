"""The doubtful note: what sounds where one is written, or in a stretch where none is, and what each pitch would be."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

from PyQt6.QtCore import QObject, pyqtSignal

from gavotte.desktop.activity import Activities
from gavotte.desktop.desks.listen.doubt_panel import DoubtPanel, Weighed
from gavotte.desktop.solo.session import SoloSession
from gavotte.desktop.translation import translate
from gavotte.labelling.labeller import label_solo
from gavotte.notation.quantise import quantise
from gavotte.recording.beat_map import Alignment
from gavotte.recording.evidence import Candidate, strongest_pitch, weigh
from gavotte.recording.lead import Lead
from gavotte.recording.salience import Salience
from gavotte.solo.document import Note, Solo
from gavotte.solo.edits import with_notes_moved
from gavotte.theory.pitch import spell
from gavotte.writing.placing import fresh_ids, placed

_FINE = 960


class Doubting(QObject):
    """Fills the panel and writes what is chosen there.

    Signal: ``stretch_wanted(start, end)``, seconds of the recording to be heard round and round.
    """

    stretch_wanted = pyqtSignal(float, float)

    def __init__(self, session: SoloSession, activities: Activities, panel: DoubtPanel, parent: QObject) -> None:
        super().__init__(parent)
        self._session, self._activities, self._panel = session, activities, panel
        self._salience: Salience | None = None
        self._lead: Lead | None = None
        self._alignment: Alignment | None = None
        self._cents = 0.0
        self._note: Note | None = None
        self._is_written = False
        self._span = (0.0, 0.0)
        panel.write_wanted.connect(self.write)
        panel.recording_wanted.connect(lambda: self.stretch_wanted.emit(*self._span))

    def forget(self) -> None:
        """Nothing is in doubt, and nothing has been heard yet."""
        self.cancel()
        self._salience = self._lead = self._note = None
        self._panel.hide()

    def cancel(self) -> None:
        """Stop weighing."""
        self._activities.cancel(self)

    def hear(self, salience: Salience | None = None, lead: Lead | None = None) -> None:
        """Take what was found in the recording as evidence."""
        self._salience = salience or self._salience
        self._lead = lead or self._lead

    def align(self, alignment: Alignment | None, cents: float) -> None:
        """How the solo lies in the recording, and by how many cents it is moved to be in tune."""
        self._alignment, self._cents = alignment, cents

    def weigh_note(self, note_id: str) -> None:
        """Show what sounds where a note is written."""
        solo, alignment = self._session.solo, self._alignment
        if solo is None or alignment is None:
            return
        note = solo.note(note_id)
        self._is_written = True
        self._weigh(solo, note, alignment.seconds(note.onset), alignment.seconds(note.end))

    def weigh_span(self, start: float, end: float) -> bool:
        """Show what sounds in a stretch (seconds), whatever is written there; False where nothing can be said."""
        solo, alignment, salience = self._session.solo, self._alignment, self._salience
        if solo is None or alignment is None or salience is None:
            return False
        guess = strongest_pitch(salience, self._lead, start, end, self._cents)
        if guess is None:
            return False
        onset, stop = (Fraction(round(alignment.played(time) * _FINE), _FINE) for time in (start, end))
        ((written_onset, duration),) = quantise([(onset, stop)], solo.meters[0].meter.beats[0].length).times
        name = fresh_ids(solo, 1)[0]
        note = Note(name, max(-solo.pickup, written_onset), max(duration, Fraction(1, 8)), spell(guess, 0))
        self._is_written = False
        self._weigh(solo, note, start, end)
        return True

    def _weigh(self, solo: Solo, note: Note, start: float, end: float) -> None:
        alignment, salience = self._alignment, self._salience
        if alignment is None or salience is None:
            return
        self._note, self._span = note, (start, end)
        candidates = weigh(salience, start, end, note.pitch.midi, self._cents, lead=self._lead)
        base = solo if self._is_written else placed(solo, note)
        self.cancel()
        place = alignment.grid.place(note.onset)
        written = note.pitch.midi if self._is_written else None
        self._activities.beside(
            self,
            lambda: [_weighed(base, note, candidate) for candidate in candidates],
            lambda found: self._panel.show_note(place, written, found),
            lambda error: self._panel.hide(),
        )

    def write(self, midi: int) -> None:
        """Write a pitch that was weighed: in place of the note's, or as a note where none is."""
        solo, note = self._session.solo, self._note
        if solo is None or note is None or (self._is_written and note.id not in solo.places):
            return
        steps = midi - note.pitch.midi
        base = solo if self._is_written else placed(solo, note)
        words = translate("Gavotte", "Change the pitch") if self._is_written else translate("Gavotte", "Write the note")
        self._session.edit(words, with_notes_moved(base, (note.id,), steps))
        self.weigh_note(note.id)


def _weighed(solo: Solo, note: Note, candidate: Candidate) -> Weighed:
    """A candidate with the spelling and the label it would have in a note's place."""
    changed = with_notes_moved(solo, (note.id,), candidate.midi - note.pitch.midi)
    # What lies far away decides nothing here.
    near = _around(changed, note.id)
    label = next((label for label in label_solo(near) if label.note == note.id), None)
    return Weighed(candidate, changed.note(note.id).pitch, label)


_NEIGHBOURS = 40


def _around(solo: Solo, note_id: str) -> Solo:
    """The solo with only the notes around one."""
    index = solo.places[note_id]
    return replace(solo, notes=solo.notes[max(0, index - _NEIGHBOURS) : index + _NEIGHBOURS + 1])
