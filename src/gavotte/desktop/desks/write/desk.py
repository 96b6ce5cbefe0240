"""The Write desk: how is it written down, and over which chords? The page with a caret, the writer's keys beside it."""

from __future__ import annotations

from bisect import bisect_right
from dataclasses import replace
from fractions import Fraction

from PyQt6.QtCore import QTimer
from PyQt6.QtGui import QUndoStack
from PyQt6.QtWidgets import QAbstractButton, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from gavotte.desktop.command import Command, shown_keys
from gavotte.desktop.desk.desk import Desk, DeskKind, Hint, Walked
from gavotte.desktop.desk.studio import Studio
from gavotte.desktop.desk.updates import Update
from gavotte.desktop.desks.write.chord_dialog import ChordDialog
from gavotte.desktop.desks.write.commands import write_commands
from gavotte.desktop.desks.write.drafts import Drafts
from gavotte.desktop.desks.write.instrument_strip import InstrumentStrip
from gavotte.desktop.desks.write.instrument_view import Moment
from gavotte.desktop.desks.write.interval_dialog import IntervalDialog
from gavotte.desktop.desks.write.positions import Positions
from gavotte.desktop.desks.write.write_panel import WritePanel
from gavotte.desktop.desks.write.writer import Writer
from gavotte.desktop.errands.key_dialog import KeyDialog
from gavotte.desktop.page.caret_item import Caret
from gavotte.desktop.page.page_view import PageView
from gavotte.desktop.page.spoken import spoken_length, spoken_moment, spoken_note, spoken_selection
from gavotte.desktop.playback.playing import Played
from gavotte.desktop.playback.rhythm_taps import Press, RhythmTaps
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import QT_TRANSLATE_NOOP, translate
from gavotte.desktop.widgets.header import Header, rule
from gavotte.desktop.widgets.nothing_open import NothingOpen
from gavotte.desktop.words import counted
from gavotte.labelling.local_scale import local_scale
from gavotte.recording.player import RATE
from gavotte.solo.bars import BarGrid, bars_written
from gavotte.solo.checks import Finding
from gavotte.solo.document import Solo
from gavotte.solo.edits import with_key_from
from gavotte.theory.chord import Chord
from gavotte.theory.chord_symbol import shown_chord
from gavotte.writing.checks import writing_checks
from gavotte.writing.entry import note_to_mend, reach
from gavotte.writing.intervals import between_roots
from gavotte.writing.marks import words_at
from gavotte.writing.placing import note_at

_REST_MS = 250
_FINE = 960


_SEEN = Update.REPLACED | Update.EDITED | Update.LABELLED | Update.VIEW | Update.SELECTION | Update.RECORDING


class WriteDesk(Desk):
    """The page with a caret, the panel beside it, and the keyboard or strings under it."""

    kind = DeskKind(
        "write", QT_TRANSLATE_NOOP("Gavotte", "Write"), "F3", needs_solo=True, uses_recording=True, follows=_SEEN
    )

    def __init__(self, studio: Studio) -> None:
        super().__init__(studio)
        session, engraver = studio.session, studio.engraver
        self._session = session
        self.drafts = Drafts(studio, self)
        self.page = PageView(engraver)
        self.writer = Writer(session, self)
        self.positions = Positions(session, studio.view, studio.activities, studio.asks, self)
        self.chord_dialog: ChordDialog | None = None
        self.interval_dialog: IntervalDialog | None = None
        self.taps = RhythmTaps(self._heard_time, self)
        self._playhead: float | None = None
        self._plays_for_taps = False
        self.key_dialog: KeyDialog | None = None
        self.panel = WritePanel()
        self.strip = InstrumentStrip(studio.settings)
        self.recording = QPushButton(translate("Gavotte", "Hear the recording"))
        self.recording.setToolTip(translate("Gavotte", "Round and round this bar, or the selected notes, or stop"))
        self.details = QPushButton(translate("Gavotte", "Details…"))
        self.details.setToolTip(translate("Gavotte", "Title, player, instrument, clef and keys"))
        self._head = Header(self.details, self.recording)
        self.title, self.about = self._head.title, self._head.about
        left = QVBoxLayout()
        left.setSpacing(0)
        left.addWidget(self.page, 1)
        left.addWidget(rule())
        left.addWidget(self.strip)
        self._body = QWidget()
        row = QHBoxLayout(self._body)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addLayout(left, 1)
        row.addWidget(self.panel)
        self._nothing = NothingOpen()
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        for widget in (self._head, rule()):
            layout.addWidget(widget)
        layout.addWidget(self._body, 1)
        layout.addWidget(self._nothing, 1)
        # What looks wrong is looked for when the writer rests.
        self._check_soon = QTimer(self)
        self._check_soon.setSingleShot(True)
        self._check_soon.setInterval(_REST_MS)
        self._check_soon.timeout.connect(self._check)
        self._connect()
        self.show_updates(_SEEN)

    # -- as a desk ----------------------------------------------------------------------------------

    def commands(self) -> tuple[Command, ...]:
        return write_commands(self)

    def command_buttons(self) -> dict[str, tuple[QAbstractButton, ...]]:
        return {"edit.details": (self.details,), "file.new": (self._nothing.new,)}

    def focus(self) -> QWidget:
        return self.page

    def beside(self) -> QWidget:
        return self.panel.place_for_keys()

    def escape(self) -> bool:
        if self.taps.is_tapping:
            self.taps.forget()
            self.studio.asks.tell(translate("Gavotte", "Nothing was tapped"))
            return True
        return self._session.selection.lift()

    @property
    def undo_stack(self) -> QUndoStack:
        return self._session.undo_stack

    def played(self) -> Played:
        return Played(self.page, self.whole, self._session.selection.notes)

    def pages(self) -> tuple[QWidget, ...]:
        return (self.page,)

    def walked(self) -> Walked | None:
        shown = self._session.shown
        return None if shown is None else Walked(shown, self.writer.entry.caret, self.writer.go_to)

    def state(self) -> str:
        solo = self._session.solo
        bars = bars_written(solo) if solo is not None else 0
        return counted(bars, "bar") if bars else ""

    def remembered(self) -> str:
        return self.panel.page_shown

    def recall(self, remembered: str) -> None:
        if remembered in self.panel.tabs:
            self.panel.show_page(remembered)

    def zoom(self, by: int) -> None:
        self.studio.view.zoom_by(by)

    def hints(self) -> tuple[str, tuple[Hint, ...]]:
        return translate("Gavotte", "The keys beside the page"), (
            ("A – G", translate("Gavotte", "Write this pitch")),
            ("` 1 2 3 4 5", translate("Gavotte", "32nd to whole note")),
            (translate("Gavotte", "Alt + value"), translate("Gavotte", "Length of selected notes")),
            ("← → ↑ ↓", translate("Gavotte", "Move the caret")),
            (translate("Gavotte", "Shift + ← →"), translate("Gavotte", "Select notes")),
            (translate("Gavotte", "Home, End"), translate("Gavotte", "Start, behind the last note")),
        )

    def show_updates(self, changes: Update) -> None:
        session = self._session
        solo = session.shown if session.solo is not None else None
        self._head.setVisible(session.solo is not None)
        self._body.setVisible(session.solo is not None)
        self._nothing.setVisible(session.solo is None)
        if changes & Update.REPLACED:
            self.page.clear()
        if changes & Update.VIEW:
            self.page.set_zoom(self.studio.view.zoom)
            self.page.set_tablature(self.studio.view.tablature)
        if changes & Update.RECORDING:
            self.recording.setVisible(self.studio.hearing.has_recording)
            self._list_drafts()
        if solo is None:
            return
        if changes & (Update.REPLACED | Update.EDITED):
            self.strip.show_solo(solo)
        if changes & ~Update.SELECTION:
            self._show_edit()
        else:
            self._show_selection()

    def leave(self) -> None:
        self.taps.finish()

    def close_down(self) -> None:
        self.strip.close_devices()

    def _connect(self) -> None:
        session, writer, panel, studio = self._session, self.writer, self.panel, self.studio
        self.page.selection_wanted.connect(session.selection.select)
        self.page.zoom_wanted.connect(studio.view.zoom_by)
        self.page.place_wanted.connect(writer.go_to)
        writer.entry_changed.connect(self._show_entry)
        writer.sounded.connect(self._hear_pitch)
        writer.told.connect(studio.asks.tell)
        panel.way_wanted.connect(writer.set_way)
        panel.insert_wanted.connect(writer.set_insert)
        panel.pad.pressed.connect(self._press)
        panel.tap.clicked.connect(self.tap)
        self.taps.counted.connect(self._show_taps)
        panel.left.connect(self.page.setFocus)
        self.taps.tapped.connect(self._write_presses)
        self.taps.ended.connect(self._taps_ended)
        # What was typed first: the notes that were tapped are selected, and the fields are theirs then.
        session.leaving.connect(panel.marks.keep)
        session.leaving.connect(self.taps.finish)
        marks = panel.marks
        marks.mark_wanted.connect(writer.mark)
        marks.pick_wanted.connect(writer.pick)
        marks.doubt_wanted.connect(writer.doubt)
        marks.bend_wanted.connect(writer.bend)
        marks.finger_wanted.connect(writer.finger)
        marks.string_wanted.connect(writer.string)
        marks.words_wanted.connect(writer.words)
        panel.chords.edit_wanted.connect(session.edit)
        panel.chords.back_wanted.connect(self.page.setFocus)
        drafts, draft = self.drafts, panel.draft
        drafts.told.connect(studio.asks.tell)
        drafts.failed.connect(studio.asks.notice)
        # What is proposed is shown as what is known of the recording.
        drafts.changed.connect(lambda: self.note(Update.RECORDING))
        draft.draft_wanted.connect(self._draft)
        draft.phrase_chosen.connect(self._choose_phrase)
        draft.take_wanted.connect(lambda _: self.take_phrase())
        draft.leave_wanted.connect(lambda _: self.leave_phrase())
        draft.take_all_wanted.connect(drafts.take_all)
        draft.leave_all_wanted.connect(drafts.leave_all)
        panel.checks.jump_wanted.connect(self._jump)
        panel.tabs["checks"].clicked.connect(self._check)
        self.strip.played.connect(self._played)
        self.strip.released.connect(self.taps.release)
        studio.deck.moved.connect(self._follow_record)
        studio.deck.playing_changed.connect(self._record_stops)
        self.strip.failed.connect(studio.asks.notice)
        studio.transport.playhead_moved.connect(self._show_heard)
        studio.transport.playing_changed.connect(lambda playing: None if playing else self._show_heard(None))
        self.recording.clicked.connect(self.hear_recording)
        self._nothing.shelf_wanted.connect(lambda: studio.asks.go("shelf"))
        self._nothing.new_wanted.connect(lambda: studio.beginning.new_solo())

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self.page.set_palette(palette)
        self.panel.set_palette(palette)
        self.strip.set_palette(palette)

    # -- showing ------------------------------------------------------------------------------------

    def _show_edit(self) -> None:
        session = self._session
        if session.shown is None or session.solo is None:
            return
        self.title.setText(session.shown.title)
        self.panel.draft.show_state(**self.drafts.state)
        self.page.set_pending(frozenset(note.id for phrase in self.drafts.proposal for note in phrase.notes))
        self.page.update_solo(self._on_page(session.shown), session.labels)
        self.panel.chords.show_solo(session.solo)
        self._check_soon.start()
        self._show_entry()

    def _on_page(self, solo: Solo) -> Solo:
        """The solo with what is drafted, and an empty bar to write in where the caret stands behind everything."""
        return self._with_room(self._with_draft(solo))

    def _with_draft(self, solo: Solo) -> Solo:
        session = self._session
        if not self.drafts.proposal or session.solo is None:
            return solo
        over = self.drafts.overlaid(session.solo)
        return session.view.written_of(over) if session.shows_written else over

    def whole(self) -> Solo | None:
        """What is heard when the page is played: the solo with what is drafted."""
        solo = self._session.solo
        return None if solo is None else self.drafts.overlaid(solo)

    def _with_room(self, solo: Solo) -> Solo:
        """The solo with an empty bar to write in, where the caret stands behind everything."""
        caret = self.writer.entry.caret
        if caret < BarGrid(solo).bars[-1].end:
            return solo
        # Any time inside a bar makes the bar.
        return replace(solo, form_end=caret + Fraction(1, 64))

    def _show_entry(self) -> None:
        session, entry = self._session, self.writer.entry
        self.panel.show_entry(entry)
        shown = session.shown
        if shown is None or session.solo is None or not self.isVisible():
            # What the caret does elsewhere is shown when the desk is.
            return
        if entry.caret >= BarGrid(shown).bars[-1].end:
            self.page.update_solo(self._on_page(shown), session.labels)
        self.page.show_caret(Caret(entry.caret, reach(session.solo, entry), entry.insert))
        self._show_place()
        self._show_selection()

    def _show_place(self) -> None:
        shown, entry = self._session.shown, self.writer.entry
        if shown is None:
            return
        grid = BarGrid(self._with_room(shown))
        place = grid.place(entry.caret)
        chord, moment = _moment(shown, entry.caret)
        name = shown_chord(chord) if chord is not None else translate("Gavotte", "no chord")
        self.about.setText(f"{place[:1].upper()}{place[1:]} · {name}")
        over = translate("Gavotte", "Over {chord}").format(chord=name)
        self.strip.show_moment(moment, over if chord is not None else translate("Gavotte", "No chord here"))
        self.panel.chords.show_place(entry.caret)

    def _show_selection(self) -> None:
        session = self._session
        if session.shown is None or session.solo is None:
            return
        selection = session.selection
        selected = selection.notes()
        self.page.set_selection(selection.anchor, selection.current, frozenset(selected))
        notes = [session.solo.note(note) for note in selected]
        bar = BarGrid(session.solo).at(self.writer.entry.caret)
        about = (
            counted(len(notes), "note") + translate("Gavotte", " selected")
            if notes
            else translate("Gavotte", "Select notes to mark them")
        )
        self.panel.marks.show_notes(notes, about, words_at(session.solo, bar.onset))
        self._speak(selected)

    def _speak(self, selected: tuple[str, ...]) -> None:
        session = self._session
        shown, current = session.shown, session.selection.current
        if shown is None:
            return
        self.page.setAccessibleDescription(self._spoken_state())
        if current is None or not selected:
            time = self.writer.entry.caret
            here = spoken_moment(shown, time)
            note = note_at(shown, time)
            if not here and note is not None:
                here = spoken_note(note, BarGrid(shown), session.labels.get(note.id))
            self.page.setAccessibleName(f"{self.about.text()}: {here}")
            return
        words = spoken_selection(shown, BarGrid(shown), session.labels, selected, current)
        self.page.setAccessibleName(words)

    def _spoken_state(self) -> str:
        """What the next key writes, and the drafted phrase in hand."""
        entry, phrase = self.writer.entry, self.drafts.phrase()
        parts = [translate("Gavotte", "Next: {length}").format(length=spoken_length(entry.length))]
        if self._session.solo is not None and note_to_mend(self._session.solo, entry) is not None:
            parts = [translate("Gavotte", "A letter is this note's pitch")]
        if entry.insert:
            parts.append(translate("Gavotte", "before what is there"))
        if phrase is not None:
            words = translate("Gavotte", "drafted phrase of {notes}: {take} takes it, {leave} leaves it")
            keys = {"take": shown_keys("Ctrl+Return"), "leave": shown_keys("Ctrl+Backspace")}
            parts.append(words.format(notes=counted(len(phrase.notes), "note"), **keys))
        return ", ".join(parts)

    # -- the draft ----------------------------------------------------------------------------------

    def _list_drafts(self) -> None:
        drafts, solo = self.drafts, self._session.solo
        if solo is not None:
            grid = BarGrid(drafts.overlaid(solo))
            self.panel.draft.show_proposal(drafts.proposal, grid, drafts.current)
        self.panel.show_number("draft", len(drafts.proposal))

    def _draft(self, whole: bool) -> None:
        # A button that can't be pressed any more would hand the keys on to whatever stands next.
        self.page.setFocus()
        self.drafts.draft(whole, self.panel.draft.by_chords.isChecked())

    def _choose_phrase(self, index: int) -> None:
        self.drafts.choose(index)
        self._go_to_phrase()

    def _go_to_phrase(self) -> None:
        phrase = self.drafts.phrase()
        if phrase is not None:
            self.writer.go_to(phrase.start)

    def take_phrase(self) -> None:
        """Take the drafted phrase that is looked at, and go on to the next."""
        self.drafts.take()
        self._go_to_phrase()
        self.page.setFocus()

    def leave_phrase(self) -> None:
        """Drop the drafted phrase that is looked at, and go on to the next."""
        self.drafts.leave()
        self._go_to_phrase()
        self.page.setFocus()

    # -- checks -------------------------------------------------------------------------------------

    def _check(self) -> None:
        """Look beside the interface for what looks wrong."""
        solo, activities = self._session.solo, self.studio.activities
        activities.cancel(self)
        if solo is not None:
            activities.beside(
                self,
                lambda: writing_checks(solo),
                lambda findings: self._show_checks(solo, findings),
                lambda error: self.studio.asks.notice(str(error)),
            )

    def _show_checks(self, solo: Solo, findings: tuple[Finding, ...]) -> None:
        if self._session.solo is not solo:
            return
        self.panel.show_number("checks", len(findings))
        self.panel.checks.show_findings(findings)

    # -- commands -----------------------------------------------------------------------------------

    def _press(self, kind: str, what: str) -> None:
        """A key of the pad was clicked."""
        writer = self.writer
        match kind:
            case "letter":
                self.letter(what)
            case "value":
                writer.choose_value(Fraction(4, int(what)))
            case "octave":
                writer.octave(int(what))
            case "accidental":
                writer.accidental(int(what))
            case "rest":
                writer.write_rest()
            case "tie":
                writer.write_tie()
            case "dot":
                writer.dot()
            case "tuplet":
                writer.next_tuplet()
        self.page.setFocus()

    def _hear_pitch(self, midi: int) -> None:
        if self.taps.is_tapping:
            # What is played along is heard already.
            return
        self.studio.deck.stop()
        self.studio.playing.hear_pitch(midi)

    def hear_recording(self) -> None:
        """The recording under the drafted phrase, the selected notes or the caret's bar, round and round; or stop."""
        deck = self.studio.deck
        if deck.is_playing:
            deck.stop()
            return
        self.studio.transport.stop()
        phrase = self.drafts.phrase()
        span = (phrase.start, phrase.end) if phrase is not None and self.panel.page_shown == "draft" else None
        if not self.studio.hearing.hear_bar(self.writer.entry.caret, self._session.selection.notes(), span):
            self.studio.asks.tell(translate("Gavotte", "There is no recording with beats to hear here"))

    def change_key(self) -> None:
        """Ask which key is written from the bar of the caret on."""
        solo = self._session.solo
        if solo is None:
            return
        bar = BarGrid(solo).at(self.writer.entry.caret)
        about = translate("Gavotte", "From bar {number} on, up to where the signature changes next.")
        dialog = self.key_dialog = KeyDialog(
            self,
            translate("Gavotte", "Which key is it from here?"),
            translate("Gavotte", "Write it so"),
            about.format(number=max(1, bar.number)),
            solo.key_at(bar.onset),
        )

        def take() -> None:
            if self._session.solo is not None:
                changed = with_key_from(self._session.solo, bar.onset, dialog.key, dialog.blues)
                self._session.edit(translate("Gavotte", "Change the key"), changed)

        dialog.accepted.connect(take)
        dialog.open()

    def move_by_interval(self) -> None:
        """Ask for an interval, and move the selected notes by it."""
        if not self._session.selection.notes():
            self.studio.asks.tell(translate("Gavotte", "Select a note first"))
            return
        words = translate("Gavotte", "Move by an interval"), translate("Gavotte", "Move")
        dialog = self.interval_dialog = IntervalDialog(self, *words)
        dialog.accepted.connect(lambda: self.writer.move_by(dialog.move_chosen))
        dialog.finished.connect(lambda _: self.page.setFocus())
        dialog.open()

    def paste_by_interval(self) -> None:
        """Ask for an interval, and paste what was copied moved by it."""
        solo, root = self._session.solo, self.writer.root_copied
        if solo is None:
            return
        chord, _ = _moment(solo, self.writer.entry.caret)
        onto = None
        if root is not None and chord is not None:
            onto = shown_chord(chord), between_roots(root, chord.root)
        words = translate("Gavotte", "Paste by an interval"), translate("Gavotte", "Paste")
        dialog = self.interval_dialog = IntervalDialog(self, *words, onto)
        dialog.accepted.connect(lambda: self.writer.paste(dialog.move_chosen))
        dialog.finished.connect(lambda _: self.page.setFocus())
        dialog.open()

    def write_chords(self) -> None:
        """Ask for the chords at the caret."""
        solo = self._session.solo
        if solo is None:
            return
        time = self.writer.entry.caret
        place = BarGrid(self._with_room(solo)).place(time)
        where = place[:1].upper() + place[1:]
        if self._session.shows_written:
            where += translate("Gavotte", ", in concert pitch")
        dialog = self.chord_dialog = ChordDialog(self, self._with_room(solo), time, where)

        def take() -> None:
            line, now = dialog.line, self._session.solo
            if line is not None and not line.problems and now is solo:
                changed = replace(line.solo, form_end=solo.form_end)
                self._session.edit(translate("Gavotte", "Write chords"), changed)
            self.page.setFocus()

        dialog.accepted.connect(take)
        dialog.open()

    def _played(self, midi: int, string: int) -> None:
        if self.taps.is_tapping:
            self._press_in_time(midi)
        else:
            self.writer.write_key(midi, string)
        self.page.setFocus()

    def letter(self, letter: str) -> None:
        """A pitch by its name: written at the caret, or played in time."""
        if self.taps.is_tapping:
            self._press_in_time(letter)
        else:
            self.writer.write_letter(letter)

    def _jump(self, onset: Fraction) -> None:
        self.writer.go_to(onset)
        self.page.setFocus()

    def tap(self) -> None:
        """Begin to tap or to play in time, with the recording where there is one; from then on, a note begins now."""
        if not self.taps.is_tapping and self._begins_record():
            self.taps.goes_on = True
        self._press_in_time(None)
        self.page.setFocus()

    def _press_in_time(self, key: int | str | None) -> None:
        solo = self._session.solo
        if solo is not None:
            self.taps.tap(self.writer.entry.caret, solo.tempo, key)

    def _begins_record(self) -> bool:
        """Whether the recording plays now: the loop the caret stands in, else from a bar before the caret on."""
        hearing, deck = self.studio.hearing, self.studio.deck
        alignment = hearing.alignment
        if alignment is None or not hearing.has_recording or self.studio.transport.is_playing:
            return False
        if not deck.is_playing:
            caret, region = self.writer.entry.caret, hearing.region
            if region is not None and region[0] <= alignment.seconds(caret) < region[1]:
                hearing.again()
            else:
                bars = alignment.grid.bars
                index = alignment.grid.index_at(caret)
                start = bars[max(0, index - 1)].onset - (bars[0].length if index == 0 else 0)
                hearing.choose_nothing()
                deck.play(max(0, round(alignment.seconds(start) * RATE)))
            self._plays_for_taps = True
        return True

    def _write_presses(self, presses: list[Press]) -> None:
        alignment = self.studio.hearing.alignment
        follows = alignment is not None and self.studio.deck.is_playing
        self.writer.write_presses(presses, alignment.beat_seconds if alignment is not None and follows else None)

    def _taps_ended(self) -> None:
        if self._plays_for_taps:
            self._plays_for_taps = False
            self.studio.deck.stop()

    def _follow_record(self, frame: float) -> None:
        """The recording is heard here: the playhead shows it; while something is played in, the caret goes along."""
        alignment, deck = self.studio.hearing.alignment, self.studio.deck
        if alignment is None or not deck.is_playing or not self.isVisible():
            return
        time = alignment.quarters(frame / RATE)
        grid = alignment.grid
        self.page.show_playhead(time if grid.bars[0].onset <= time < grid.bars[-1].end else None)
        if not self.taps.is_tapping or time < grid.bars[0].onset:
            return
        bar, offset = grid.locate(Fraction(round(time * _FINE), _FINE))
        beat = (
            bar.onset
            - bar.lead_in
            + bar.meter.beat_at(min(offset, bar.meter.bar_length - Fraction(1, _FINE)))[1].offset
        )
        if beat != self.writer.entry.caret and grid.bars[0].onset <= beat:
            self.writer.go_to(beat)

    def _record_stops(self, playing: bool) -> None:
        if not playing:
            self.page.show_playhead(None)
            self._plays_for_taps = False
            if self.taps.goes_on:
                self.taps.finish()

    def _heard_time(self) -> float | None:
        """The written time of what is heard: the recording, or the page as it is played."""
        heard = self.studio.hearing.heard_time()
        return heard if heard is not None else self._playhead

    def _show_heard(self, time: float | None) -> None:
        """The page is played, and this far; None when it stops."""
        self._playhead = time

    def _show_taps(self, number: int) -> None:
        words = translate("Gavotte", "Tap Y on each note, or play its pitch by letter or on a keyboard; Esc leaves it")
        if number:
            words = translate("Gavotte", "{notes} played; rest to write them, Esc forgets them")
        self.studio.asks.tell(words.format(notes=counted(number, "note")))

    def change_line(self, step: int) -> None:
        """The caret to the same place of the line above or below."""
        time = self.page.time_in_next_line(self.writer.entry.caret, step)
        if time is not None:
            self.writer.go_to(time)


def _moment(solo: Solo, time: Fraction) -> tuple[Chord | None, Moment]:
    """The chord in force, and what a keyboard shows of it."""
    index = bisect_right(solo.chords, time, key=lambda event: event.onset) - 1
    note = note_at(solo, time)
    midi, string = (note.pitch.midi, note.string) if note is not None else (None, 0)
    symbol = solo.chords[index].symbol if index >= 0 else None
    if not isinstance(symbol, Chord):
        return None, Moment(note=midi, string=string)
    following = solo.chords[index + 1].symbol if index + 1 < len(solo.chords) else None
    scale = local_scale(symbol, following if isinstance(following, Chord) else None, solo.key_at(time))
    classes = frozenset(pitch_class for pitch_class in range(12) if pitch_class in scale)
    return symbol, Moment(symbol.tone_classes, classes, symbol.root.pitch_class, midi, string)
