"""The writer: keeps the caret and turns every key of the Write desk into an edit of the session's solo."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from fractions import Fraction

from PyQt6.QtCore import QMimeData, QObject, pyqtSignal
from PyQt6.QtGui import QGuiApplication

from gavotte.desktop.playback.rhythm_taps import Press
from gavotte.desktop.solo.session import SoloSession
from gavotte.desktop.translation import translate
from gavotte.desktop.words import counted
from gavotte.formats.errors import FormatError
from gavotte.solo.bars import BarGrid
from gavotte.solo.differences import changed_times
from gavotte.solo.document import Articulation, Note, Pick, Solo, Tuplet
from gavotte.solo.edits import with_notes_moved
from gavotte.theory.pitch import Pitch, PitchName, spell
from gavotte.writing import entry as step
from gavotte.writing.entry import Entered, Entry, Way
from gavotte.writing.intervals import Move, moved_by, root_at, with_root
from gavotte.writing.marks import (
    toggled,
    with_bend,
    with_doubt_toggled,
    with_finger,
    with_pick_toggled,
    with_string,
    with_words,
)
from gavotte.writing.passages import (
    PASSAGE_DOCUMENT,
    Passage,
    bar_around,
    copied,
    joined,
    moved_in_time,
    pasted,
    phrase_around,
    removed,
    split,
    with_length,
)
from gavotte.writing.pitches import (
    moved_along_scale,
    moved_by_octaves,
    named_pitch,
    with_accidental,
    with_other_names,
)
from gavotte.writing.placing import note_at, note_before

PASSAGE_TYPE = "application/x-gavotte-passage"


class Writer(QObject):
    """Turns what is asked for into edits, and keeps where and how is written (``entry``).

    Signals: ``entry_changed`` (caret, value or way), ``sounded(midi)`` (a pitch to let sound), ``told(words)``.
    """

    entry_changed = pyqtSignal()
    sounded = pyqtSignal(int)
    told = pyqtSignal(str)

    def __init__(self, session: SoloSession, parent: QObject) -> None:
        super().__init__(parent)
        self._session = session
        self.entry = Entry()
        self._writing = False
        session.replaced.connect(self._begin)
        session.went_back.connect(self._went_back)
        session.selection.changed.connect(self._follow_selection)

    def _begin(self) -> None:
        solo = self._session.solo
        if solo is None:
            return
        current = self._note(self._session.selection.current)
        self.entry = Entry(current.onset if current is not None else -solo.pickup)
        self.entry_changed.emit()

    def _went_back(self, before: Solo, after: Solo) -> None:
        """The caret goes where something changed."""
        changed = changed_times(before, after)
        if changed:
            self._put(replace(self.entry, caret=min(start for start, _ in changed), mends=False))

    def _follow_selection(self) -> None:
        note = self._note(self._session.selection.current)
        if note is not None and not self._writing:
            self._put(replace(self.entry, caret=note.onset, mends=True))

    def _put(self, entry: Entry) -> None:
        if entry != self.entry:
            self.entry = entry
            self.entry_changed.emit()

    def _note(self, note_id: str | None) -> Note | None:
        solo = self._session.solo
        if solo is None or note_id not in solo.places:
            return None
        return solo.note(note_id or "")

    # -- what the keys write ------------------------------------------------------------------------

    def _write(self, text: str, how: Callable[[Solo, Entry], Entered]) -> None:
        session = self._session
        if session.solo is None:
            return
        done = how(session.solo, self.entry)
        before, self.entry = self.entry, done.entry
        self._writing = True
        try:
            if done.note is None and done.entry.caret != before.caret:
                session.selection.select(None, None)
            if done.solo == session.solo:
                if done.entry != before:
                    self.entry_changed.emit()
                return
            session.edit(text, done.solo, (done.note, done.note) if done.note is not None else None)
        finally:
            self._writing = False
        note = self._note(done.note)
        if note is not None:
            self.sounded.emit(note.pitch.midi)

    def write_letter(self, letter: str) -> None:
        """A pitch by its name, as the page is read: in written pitch where that is shown."""
        session = self._session
        solo, shown = session.solo, session.shown
        if solo is None or shown is None:
            return
        place = step.place_of_pitch(solo, self.entry)
        mended = step.note_to_mend(solo, self.entry)
        near = shown.note(mended.id).pitch if mended is not None and mended.id in shown.places else None
        pitch = named_pitch(shown, letter, place, near)
        if session.shows_written:
            pitch = pitch.transposed(-session.shown_interval)
        self._write(translate("Gavotte", "Write a note"), lambda s, e: step.write_spelled(s, e, pitch))

    def write_key(self, midi: int, string: int = 0) -> None:
        """A pitch from a keyboard, or from a fretboard's string, as the page is read."""
        solo = self._session.solo
        if solo is None:
            return
        sounding = midi - self._session.shown_interval.semitones
        if not 0 <= sounding <= 127:
            return

        def write(solo: Solo, entry: Entry) -> Entered:
            done = step.write_sound(solo, entry, sounding)
            if not string or done.note is None:
                return done
            return replace(done, solo=with_string(done.solo, (done.note,), string))

        self._write(translate("Gavotte", "Write a note"), write)

    def write_rest(self) -> None:
        """Silence of the chosen value."""
        self._write(translate("Gavotte", "Write a rest"), step.write_rest)

    def write_tie(self) -> None:
        """The note before holds on for the chosen value."""
        self._write(translate("Gavotte", "Tie"), step.write_tie)

    def write_presses(self, presses: list[Press], beat_seconds: float | None = None) -> None:
        """Notes that were tapped or played in time. Where only their rhythm is known, pitches are poured into it from
        then on.
        """
        first = presses[0].onset
        taps = self._as_taps(presses)
        text = (
            translate("Gavotte", "Play it in")
            if all(tap.pitch for tap in taps)
            else translate("Gavotte", "Tap the rhythm")
        )
        self._write(text, lambda s, e: step.write_taps(s, e, taps, beat_seconds))
        if any(tap.pitch is None for tap in taps):
            solo = self._session.solo
            note = next((note for note in solo.notes if note.end > first), None) if solo is not None else None
            self.go_to(note.onset if note is not None else first)
            self.set_way(Way.PITCHES)

    def _as_taps(self, presses: list[Press]) -> list[step.Tap]:
        """The presses with their pitches, read as the page is: a letter is the pitch of that name nearest to the one
        before.
        """
        session = self._session
        shown, taps = session.shown, list[step.Tap]()
        near: Pitch | None = None
        for press in presses:
            pitch: Pitch | None = None
            if isinstance(press.key, str) and shown is not None:
                near = named_pitch(shown, press.key, press.onset, near)
                pitch = near.transposed(-session.shown_interval) if session.shows_written else near
            elif isinstance(press.key, int):
                sounding = press.key - session.shown_interval.semitones
                if not 0 <= sounding <= 127:
                    continue
                pitch, near = spell(sounding, 0), spell(press.key, 0)
            taps.append(step.Tap(press.onset, press.end, pitch, isinstance(press.key, str)))
        return taps

    def choose_value(self, value: Fraction) -> None:
        """The next notes' value; where rhythm is written, a note of it."""
        self._write(translate("Gavotte", "Write the rhythm"), lambda s, e: step.write_value(s, e, value))

    def dot(self) -> None:
        """One dot more for the next notes, or none."""
        self._put(self.entry.with_next_dots())

    def tuplet(self, tuplet: Tuplet) -> None:
        """The next notes in a tuplet, or plain again."""
        self._put(self.entry.with_tuplet(tuplet))

    def next_tuplet(self) -> None:
        """Triplet, quintuplet, sextuplet, septuplet, plain."""
        kinds = [None, *step.TUPLETS]
        following = kinds[(kinds.index(self.entry.tuplet) + 1) % len(kinds)]
        self._put(replace(self.entry, tuplet=following, mends=False))

    def set_way(self, way: Way) -> None:
        """Write notes, rhythm, or pitches into notes that are there."""
        self._put(replace(self.entry, way=way))

    def set_insert(self, insert: bool) -> None:
        """Write before what is there, or over it."""
        self._put(replace(self.entry, insert=insert))

    def toggle_insert(self) -> None:
        """Before what is there, or over it."""
        self.set_insert(not self.entry.insert)

    def take_back(self) -> None:
        """What stands before the caret goes; of several selected notes, all of them."""
        if len(self._session.selection.notes()) > 1:
            self.delete()
        else:
            self._write(translate("Gavotte", "Delete"), step.take_back)

    # -- the caret ----------------------------------------------------------------------------------

    def go_to(self, time: Fraction) -> None:
        """Put the caret at a time, on the note that sounds there, if any."""
        solo = self._session.solo
        if solo is None:
            return
        time = max(time, -solo.pickup)
        note = note_at(solo, time)
        here = note.id if note is not None and note.onset == time else None
        self._writing = True
        self._session.selection.select(here, here)
        self._writing = False
        self._put(replace(self.entry, caret=time, mends=here is not None))

    def step(self, direction: int) -> None:
        """The caret on, or back, to the next note, rest or barline."""
        solo = self._session.solo
        if solo is not None:
            self.go_to((step.next_stop if direction > 0 else step.previous_stop)(solo, self.entry))

    def go_to_end(self) -> None:
        """The caret behind the last note."""
        solo = self._session.solo
        if solo is not None:
            self.go_to(solo.notes[-1].end if solo.notes else -solo.pickup)

    def go_to_start(self) -> None:
        """The caret to the solo's start."""
        solo = self._session.solo
        if solo is not None:
            self.go_to(-solo.pickup)

    # -- selecting ----------------------------------------------------------------------------------

    def _targets(self) -> tuple[str, ...]:
        """The notes an edit is for: those selected, else the one the caret has just passed."""
        selected = self._session.selection.notes()
        solo = self._session.solo
        if selected or solo is None:
            return selected
        before = note_before(solo, self.entry.caret)
        return (before.id,) if before is not None and before.end == self.entry.caret else ()

    def extend(self, direction: int) -> None:
        """One note more in the selection, or one fewer."""
        solo, session = self._session.solo, self._session
        if solo is None or not solo.notes:
            return
        here = solo.places.get(session.selection.current or "")
        if here is None:
            self.step(direction)
            return
        index = min(max(here + direction, 0), len(solo.notes) - 1)
        session.selection.select(session.selection.anchor, solo.notes[index].id)

    def select_phrase(self) -> None:
        """All notes of the phrase at the caret."""
        solo = self._session.solo
        if solo is None:
            return
        near = self._note(self._session.selection.current) or note_before(solo, self.entry.caret)
        near = near or next(iter(solo.notes), None)
        if near is not None:
            self._session.selection.select(*phrase_around(solo, near.id))

    def select_bar(self) -> None:
        """All notes that start in the bar of the caret."""
        solo = self._session.solo
        inside = bar_around(solo, self.entry.caret) if solo is not None else None
        if inside is not None:
            self._session.selection.select(*inside)

    def select_all(self) -> None:
        """Every note."""
        solo = self._session.solo
        if solo is not None and solo.notes:
            self._session.selection.select(solo.notes[0].id, solo.notes[-1].id)

    # -- edits of what is there ---------------------------------------------------------------------

    def _change(self, text: str, how: Callable[[Solo, tuple[str, ...]], Solo], hear: bool = False) -> None:
        """An edit of the notes it is for; they stay selected."""
        solo, ids, session = self._session.solo, self._targets(), self._session
        if solo is None or not ids:
            self.told.emit(translate("Gavotte", "Select a note first"))
            return
        changed = how(solo, ids)
        known = [note for note in changed.notes if note.id in ids]
        self._writing = True
        try:
            if not known:
                session.selection.select(None, None)
            session.edit(text, changed, (known[0].id, known[-1].id) if known else None)
        finally:
            self._writing = False
        if hear and known:
            self.sounded.emit(known[-1].pitch.midi)

    def semitone(self, by: int) -> None:
        """Up or down by semitones, spelled anew."""
        self._change(translate("Gavotte", "Move by a semitone"), lambda s, i: with_notes_moved(s, i, by), hear=True)

    def accidental(self, by: int) -> None:
        """Sharper or flatter under the same letter."""
        self._change(translate("Gavotte", "Change the accidental"), lambda s, i: with_accidental(s, i, by), hear=True)

    def scale_step(self, by: int) -> None:
        """Up or down along the scale of the key."""
        self._change(translate("Gavotte", "Move by a step"), lambda s, i: moved_along_scale(s, i, by), hear=True)

    def octave(self, by: int) -> None:
        """Up or down by octaves."""
        self._change(translate("Gavotte", "Move by an octave"), lambda s, i: moved_by_octaves(s, i, by), hear=True)

    def respell(self) -> None:
        """The same sound under another name."""
        self._change(translate("Gavotte", "Spell otherwise"), with_other_names)

    def shift(self, direction: int) -> None:
        """Earlier or later by the chosen value."""
        by = direction * self.entry.length
        ids = self._targets()
        self._change(translate("Gavotte", "Move in time"), lambda s, i: moved_in_time(s, i, by))
        note = self._note(ids[0]) if ids else None
        if note is not None:
            self._put(replace(self.entry, caret=note.onset))

    def set_length(self, value: Fraction) -> None:
        """The selected notes as long as a value, with the dots and the tuplet chosen."""
        length = replace(self.entry, value=value).length
        self._change(translate("Gavotte", "Change the length"), lambda s, i: with_length(s, i, length))

    def cut_in_two(self) -> None:
        """Each note as two."""
        self._change(translate("Gavotte", "Cut in two"), split)

    def join(self) -> None:
        """The selected notes as one."""
        if len(self._session.selection.notes()) < 2:
            self.told.emit(translate("Gavotte", "Select two notes or more to join them"))
            return
        self._change(translate("Gavotte", "Join"), joined)

    def delete(self, close: bool = False) -> None:
        """The selected notes go; silence stays, or what follows closes up."""
        ids = self._targets()
        first = self._note(ids[0]) if ids else None
        self._change(translate("Gavotte", "Delete"), lambda s, i: removed(s, i, close))
        if first is not None:
            self.go_to(first.onset)

    def copy(self) -> bool:
        """The selected notes to the clipboard; False where none are."""
        solo, ids = self._session.solo, self._targets()
        passage = copied(solo, ids) if solo is not None else None
        if solo is not None and passage is not None:
            passage = with_root(passage, root_at(solo, solo.note(ids[0]).onset))
        board = QGuiApplication.clipboard()
        if passage is None or board is None:
            self.told.emit(translate("Gavotte", "Select a note first"))
            return False
        data = QMimeData()
        data.setData(PASSAGE_TYPE, PASSAGE_DOCUMENT.write(passage))
        board.setMimeData(data)
        self.told.emit(translate("Gavotte", "{notes} copied").format(notes=counted(len(passage.notes), "note")))
        return True

    def cut(self) -> None:
        """The selected notes to the clipboard and off the page."""
        if self.copy():
            self.delete(close=self.entry.insert)

    def _from_clipboard(self) -> Passage | None:
        board = QGuiApplication.clipboard()
        data = board.mimeData() if board is not None else None
        if data is None or not data.hasFormat(PASSAGE_TYPE):
            return None
        try:
            return PASSAGE_DOCUMENT.read(data.data(PASSAGE_TYPE).data())
        except FormatError:
            return None

    @property
    def root_copied(self) -> PitchName | None:
        """The root of the chord that what was copied was played over."""
        passage = self._from_clipboard()
        return PitchName.parse(passage.root) if passage is not None and passage.root else None

    def move_by(self, move: Move) -> None:
        """The selected notes by a named interval."""
        self._change(translate("Gavotte", "Move by an interval"), lambda s, i: moved_by(s, i, move), hear=True)

    def paste(self, move: Move | None = None) -> None:
        """What was copied, at the caret: over what is there, or before it where the writer inserts; moved if wished."""
        solo, passage = self._session.solo, self._from_clipboard()
        if solo is None or passage is None:
            self.told.emit(translate("Gavotte", "There are no notes on the clipboard"))
            return
        changed, names = pasted(solo, passage, self.entry.caret, self.entry.insert)
        if move is not None:
            changed = moved_by(changed, names, move)
        self.entry = replace(self.entry, caret=self.entry.caret + passage.length)
        self._session.edit(translate("Gavotte", "Paste"), changed, (names[0], names[-1]))

    # -- marks --------------------------------------------------------------------------------------

    def mark(self, articulation: Articulation) -> None:
        """A mark on the selected notes, or off."""
        self._change(translate("Gavotte", "Change a mark"), lambda s, i: toggled(s, i, articulation))

    def bend(self, semitones: Fraction) -> None:
        """The selected notes bent by so much; 0 takes the bend away."""
        self._change(translate("Gavotte", "Change the bend"), lambda s, i: with_bend(s, i, semitones))

    def doubt(self) -> None:
        """The selected notes heard uncertainly, or surely."""
        self._change(translate("Gavotte", "Change the doubt"), with_doubt_toggled)

    def finger(self, finger: str) -> None:
        """A fingering for the selected notes."""
        self._change(translate("Gavotte", "Change the finger"), lambda s, i: with_finger(s, i, finger))

    def string(self, string: int) -> None:
        """A string for the selected notes; 0 for none."""
        self._change(translate("Gavotte", "Change the string"), lambda s, i: with_string(s, i, string))

    def pick(self, pick: Pick) -> None:
        """A pick stroke on the selected notes, or off."""
        self._change(translate("Gavotte", "Change the pick stroke"), lambda s, i: with_pick_toggled(s, i, pick))

    def words(self, words: str) -> None:
        """Words over the bar of the caret."""
        solo = self._session.solo
        if solo is None:
            return
        onset = BarGrid(solo).at(self.entry.caret).onset
        self._session.edit(translate("Gavotte", "Change the words over the bar"), with_words(solo, onset, words))
