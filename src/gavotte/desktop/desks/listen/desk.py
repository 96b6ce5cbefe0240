"""The Listen desk: what exactly does he play, and where in the form? The recording's wave above, the page below."""

from __future__ import annotations

from fractions import Fraction

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QUndoStack
from PyQt6.QtWidgets import QAbstractButton, QHBoxLayout, QLabel, QPushButton, QSplitter, QVBoxLayout, QWidget

from gavotte.desktop.command import Command, shown_keys
from gavotte.desktop.desk.desk import Desk, DeskKind, Hint, Walked
from gavotte.desktop.desk.studio import Studio
from gavotte.desktop.desk.updates import Update
from gavotte.desktop.desks.listen.commands import listen_commands
from gavotte.desktop.desks.listen.doubt_panel import DoubtPanel
from gavotte.desktop.desks.listen.doubting import Doubting
from gavotte.desktop.desks.listen.finding import Finder
from gavotte.desktop.desks.listen.listen_bar import ListenBar
from gavotte.desktop.desks.listen.pitch_view import PitchView, SoundingNote
from gavotte.desktop.desks.listen.tapping import Tapping
from gavotte.desktop.desks.listen.wave_view import Marks, WaveView
from gavotte.desktop.page.page_view import PageView
from gavotte.desktop.page.spoken import spoken_selection
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import QT_TRANSLATE_NOOP, translate
from gavotte.desktop.widgets.header import Header, rule
from gavotte.desktop.widgets.nothing_open import keys_to_begin
from gavotte.desktop.words import counted
from gavotte.recording.beat_map import (
    Alignment,
    BeatMap,
    continued,
    doubled,
    halved,
    with_beat,
    with_beat_moved,
    with_downbeat,
    without_beat,
)
from gavotte.recording.lead import Lead
from gavotte.recording.player import RATE, Click
from gavotte.recording.salience import Salience
from gavotte.solo.bars import BarGrid
from gavotte.solo.form import form_marks

_JUMP = 2.0
_CLOSER = 1.5
_GROW = 0.1
_OFTEN_HALF = 170.0
"""Beats a minute below which it is likelier that every second beat was found than that too many were."""


_SEEN = Update.REPLACED | Update.EDITED | Update.LABELLED | Update.RECORDING | Update.VIEW | Update.SELECTION


class ListenDesk(Desk):
    """Shows the open solo's recording, with the solo's page under it."""

    kind = DeskKind(
        "listen", QT_TRANSLATE_NOOP("Gavotte", "Listen"), "F2", needs_solo=True, uses_recording=True, follows=_SEEN
    )

    def __init__(self, studio: Studio) -> None:
        super().__init__(studio)
        self._session, self._tape, self._deck = studio.session, studio.tape, studio.deck
        self.hearing = studio.hearing
        tape, deck, engraver, session = self._tape, self._deck, studio.engraver, self._session
        self.tapping = Tapping(tape, self)
        self.finder = Finder(tape, studio.activities, self)
        self.wave = WaveView()
        self.pitches = PitchView()
        self.page = PageView(engraver)
        self.bar = ListenBar(deck)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        self._head = self._header()
        layout.addWidget(self._head)
        layout.addWidget(rule())
        self._body = QSplitter(Qt.Orientation.Vertical)
        self._body.setChildrenCollapsible(False)
        self.doubt = DoubtPanel()
        self.doubting = Doubting(session, studio.activities, self.doubt, self)
        heard = QSplitter(Qt.Orientation.Vertical)
        heard.setChildrenCollapsible(False)
        heard.addWidget(self.wave)
        heard.addWidget(self.pitches)
        above = QWidget()
        row = QHBoxLayout(above)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(heard, 1)
        row.addWidget(self.doubt)
        self._body.addWidget(above)
        self._body.addWidget(self.page)
        self._body.setStretchFactor(1, 1)
        self._body.setSizes([350, 240])
        layout.addWidget(self._body, 1)
        layout.addWidget(self.bar)
        self._nothing = self._no_recording()
        layout.addWidget(self._nothing, 1)
        self._connect()
        self._show_tape()

    # -- as a desk ----------------------------------------------------------------------------------

    def commands(self) -> tuple[Command, ...]:
        return listen_commands(self)

    def command_buttons(self) -> dict[str, tuple[QAbstractButton, ...]]:
        return {"file.recording": (self.another,)}

    def focus(self) -> QWidget:
        return self.wave if self.has_recording else self.step

    def beside(self) -> QWidget:
        return self.page

    def pages(self) -> tuple[QWidget, ...]:
        return (self.page, self.wave)

    def walked(self) -> Walked | None:
        solo, alignment, player = self._session.shown, self._alignment, self._deck.player
        if solo is None or alignment is None or player is None:
            return None
        place = Fraction(round(alignment.quarters(player.position / RATE) * 48), 48)

        def go(time: Fraction) -> None:
            self._deck.seek(round(alignment.seconds(time) * RATE))

        return Walked(solo, place, go)

    def escape(self) -> bool:
        if self.hearing.region is None:
            return False
        self.hearing.choose_nothing()
        return True

    @property
    def undo_stack(self) -> QUndoStack:
        return self._tape.undo_stack

    def state(self) -> str:
        mine = self._tape.recording is not None and self._tape.solo_id == self._session.solo_id
        beats = len(self._tape.beats.times)
        return counted(beats, "beat") if mine and beats else ""

    def hints(self) -> tuple[str, tuple[Hint, ...]]:
        return translate("Gavotte", "On the wave"), (
            (translate("Gavotte", "Click"), translate("Gavotte", "Go there")),
            (translate("Gavotte", "Drag"), translate("Gavotte", "Choose a stretch to loop")),
            (translate("Gavotte", "Drag a beat"), translate("Gavotte", "Move it")),
            (translate("Gavotte", "Wheel"), translate("Gavotte", "Closer, farther")),
            (translate("Gavotte", "Shift + wheel"), translate("Gavotte", "Back, on")),
        )

    def zoom(self, by: int) -> None:
        if by:
            self.wave.zoom(_CLOSER**by)
        else:
            self.wave.show_all()

    def show_updates(self, changes: Update) -> None:
        if changes & Update.REPLACED:
            # Another solo is shown from its top.
            self.page.clear()
            self._explain()
        if changes & Update.VIEW:
            self.page.set_zoom(self.studio.view.zoom)
            self.page.set_tablature(self.studio.view.tablature)
        if changes & ~Update.SELECTION:
            self._show_solo()
        self._show_selection()

    def close_down(self) -> None:
        self.cancel()

    def _header(self) -> Header:
        self.another = QPushButton(translate("Gavotte", "Another recording…"))
        self.another.setToolTip(translate("Gavotte", "Use another file as this solo's recording"))
        head = Header(self.another)
        self.title, self.about = head.title, head.about
        return head

    def _no_recording(self) -> QWidget:
        box = QWidget()
        layout = QVBoxLayout(box)
        layout.setAlignment(Qt.AlignmentFlag.AlignCenter)
        layout.setSpacing(12)
        self._why_title = QLabel()
        self._why_title.setObjectName("title")
        self._why = QLabel()
        self._why.setObjectName("quietBody")
        self._why.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.step = QPushButton()
        self.step.setObjectName("primary")
        for widget in (self._why_title, self._why, self.step):
            layout.addWidget(widget, 0, Qt.AlignmentFlag.AlignCenter)
        return box

    def _connect(self) -> None:
        tape, deck, hearing, asks = self._tape, self._deck, self.hearing, self.studio.asks
        tape.loaded.connect(self._show_tape)
        hearing.aligned.connect(self._align)
        hearing.region_changed.connect(self._show_region)
        deck.moved.connect(self._show_place)
        deck.playing_changed.connect(self._playing_changed)
        deck.settings_changed.connect(self._keep_tuning)
        self.another.clicked.connect(self.studio.beginning.choose_recording)
        self.step.clicked.connect(self._take_step)
        self.bar.play_wanted.connect(self.toggle)
        self.bar.tap_wanted.connect(self.tap)
        self.tapping.tapped.connect(self._show_tap)
        self.tapping.rested.connect(self.finder.settle)
        self._session.leaving.connect(self.tapping.finish)
        self.wave.window_changed.connect(self.pitches.show_window)
        self.pitches.seek_wanted.connect(self._seek)
        self.pitches.note_chosen.connect(lambda note: self._go_to_note(note, note))
        self.pitches.read.connect(self._show_reading)
        self.finder.seen.connect(self._show_salience)
        self.finder.followed.connect(self._show_lead)
        self.finder.tuned.connect(lambda cents: deck.change(cents=cents))
        self.finder.mentioned.connect(asks.tell)
        self.finder.found.connect(self._ask_tempo)
        for said in (self.finder.failed, self.finder.told):
            said.connect(asks.notice)
        self.doubt.hear_wanted.connect(self._hear_pitch)
        self.doubting.stretch_wanted.connect(self._hear_stretch)
        self.wave.seek_wanted.connect(self._seek)
        self.wave.region_wanted.connect(hearing.choose)
        self.wave.beat_chosen.connect(lambda index: self._seek(tape.beats.times[index]))
        self.wave.beat_moved.connect(self._move_beat)
        self.page.selection_wanted.connect(self._go_to_note)
        self.page.zoom_wanted.connect(self.studio.view.zoom_by)

    def _hear_pitch(self, midi: int) -> None:
        self._deck.stop()
        solo = self._session.solo
        if solo is not None:
            self.studio.transport.preview(midi, solo.instrument.name)

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self.wave.set_palette(palette)
        self.pitches.set_palette(palette)
        self.doubt.set_palette(palette)
        self.page.set_palette(palette)
        self.bar.set_palette(palette)

    @property
    def has_recording(self) -> bool:
        """Whether there is something to hear."""
        return self.hearing.has_recording

    # -- showing ------------------------------------------------------------------------------------

    def _show_tape(self) -> None:
        tape, session = self._tape, self._session
        ready = tape.decoded is not None and session.solo is not None
        waits_here = self.step.hasFocus()
        for widget in (self._head, self._body, self.bar):
            widget.setVisible(ready)
        self._nothing.setVisible(not ready)
        if ready and waits_here:
            self.wave.setFocus()
        self.cancel()
        self.doubting.forget()
        self.pitches.show_lead(None)
        if not ready:
            self._explain()
            self.wave.show_recording(None, None)
            self.page.clear()
            return
        assert tape.decoded is not None
        assert tape.recording is not None
        self.wave.show_recording(tape.peaks, tape.decoded.samples())
        self.pitches.show_salience(None, translate("Gavotte", "The pitches are being looked for …"))
        self.finder.look()
        self._show_region()
        self._show_solo()
        self._show_place(0.0)

    def _show_region(self) -> None:
        """Show the loop, and have it read out in bars and beats, or in minutes where no beats are known."""
        region, alignment = self.hearing.region, self._alignment
        self.wave.show_region(region)
        if region is None:
            self.wave.setAccessibleDescription(translate("Gavotte", "No loop"))
            return
        ends = [_clock(seconds) for seconds in region]
        if alignment is not None:
            times = [Fraction(round(alignment.quarters(seconds) * 24), 24) for seconds in region]
            ends = [alignment.grid.place(time) for time in times]
        words = translate("Gavotte", "Loop from {first} to {last}").format(first=ends[0], last=ends[1])
        self.wave.setAccessibleDescription(words)

    def _explain(self) -> None:
        tape, solo = self._tape, self._session.solo
        if solo is None:
            title, why = translate("Gavotte", "No solo is open."), keys_to_begin()
            step = translate("Gavotte", "Choose one from the shelf")
        elif tape.is_loading:
            title, why = translate("Gavotte", "The recording is being read …"), ""
            step = translate("Gavotte", "Cancel")
        elif tape.recording is not None and tape.missing is None:
            title = translate("Gavotte", "The recording was not read")
            why = translate("Gavotte", "{name} is needed to listen; your beats and loops are kept.").format(
                name=tape.recording.name
            )
            step = translate("Gavotte", "Read it")
        elif tape.missing is not None:
            title = translate("Gavotte", "The recording is missing")
            why = translate("Gavotte", "{path} is not there any more.").format(path=tape.missing)
            step = translate("Gavotte", "Find it…")
        else:
            title = translate("Gavotte", "{title} has no recording yet").format(title=solo.title)
            why = translate(
                "Gavotte",
                "Open the recording it was transcribed from (WAV, FLAC, OGG, Opus, MP3, AIFF),\nor drop the file on "
                "this window. It can be slowed down, looped, and followed on the page. {keys} asks for the file.",
            ).format(keys=shown_keys("Ctrl+R"))
            step = translate("Gavotte", "Open a recording…")
        self._why_title.setText(title)
        self._why.setText(why)
        self._why.setVisible(bool(why))
        self.step.setText(step)

    def _take_step(self) -> None:
        if self._session.solo is None:
            self.studio.asks.go("shelf")
        elif self._tape.is_loading:
            for activity in self.studio.activities.of(self._tape):
                activity.cancel()
        elif self._tape.recording is not None and self._tape.missing is None:
            self._tape.load(self._session.solo_id)
        elif self._tape.missing is not None:
            self.studio.beginning.find_recording()
        else:
            self.studio.beginning.choose_recording()

    def _show_solo(self) -> None:
        session = self._session
        if session.solo is None:
            self._show_nothing()
        elif session.shown is not None and self.has_recording:
            self.page.update_solo(session.shown, session.labels)
            self._show_beats()

    def _show_selection(self) -> None:
        selection = self._session.selection
        selected, shown, current = selection.notes(), self._session.shown, selection.current
        self.page.set_selection(selection.anchor, current, frozenset(selected))
        if shown is not None and current is not None and current in shown.places:
            words = spoken_selection(shown, BarGrid(shown), self._session.labels, selected, current)
            self.page.setAccessibleName(words)

    def _show_nothing(self) -> None:
        for widget in (self._head, self._body, self.bar):
            widget.hide()
        self._nothing.show()
        self._explain()

    def cancel(self) -> None:
        """Stop everything that is being worked out."""
        self.finder.cancel()
        self.tapping.forget()
        self.doubting.cancel()

    @property
    def _alignment(self) -> Alignment | None:
        return self.hearing.alignment

    def _align(self) -> None:
        """Solo or beats are others now."""
        self.doubting.align(self._alignment, self._deck.settings.cents)
        self._deck.set_clicks(self._clicks())
        self.state_changed.emit()

    def _show_beats(self) -> None:
        self._show_marks()
        self.pitches.show_notes(self._heard_notes())
        self._show_about()

    def _show_tap(self) -> None:
        self._show_marks()
        self._show_about()

    def _show_about(self) -> None:
        solo, beats = self._session.solo, self._tape.beats
        recording, decoded = self._tape.recording, self._tape.decoded
        if recording is None or decoded is None or solo is None:
            return
        self.title.setText(solo.title)
        parts = [recording.name, _clock(decoded.seconds)]
        if self.tapping.taps:
            parts.append(translate("Gavotte", "{number} tapped").format(number=counted(len(self.tapping.taps), "beat")))
        elif beats.times:
            parts.append(counted(len(beats.times), "beat"))
        else:
            parts.append(translate("Gavotte", "no beats yet: tap T on every beat from bar 1 on, or press F"))
        self.about.setText(" · ".join(parts))

    def _show_marks(self) -> None:
        beats = self.tapping.preview
        alignment = self._alignment if beats is self._tape.beats else None
        bars = tuple(alignment.bars()) if alignment is not None else ()
        sections: tuple[tuple[float, str], ...] = ()
        if alignment is not None and self._session.solo is not None:
            sections = tuple((alignment.seconds(mark.onset), mark.label) for mark in form_marks(self._session.solo))
        self.wave.show_marks(Marks(beats.times, beats.downbeat, bars, sections))

    def _clicks(self) -> list[Click]:
        downbeats = (
            {round(seconds, 4) for seconds, _ in self._alignment.bars()} if self._alignment is not None else set()
        )
        return [Click(seconds, round(seconds, 4) in downbeats) for seconds in self._tape.beats.times]

    def _heard_notes(self) -> list[SoundingNote]:
        """The written notes where they are heard, in concert pitch."""
        alignment, solo = self._alignment, self._session.solo
        if alignment is None or solo is None:
            return []
        labels = self._session.labels
        return [
            SoundingNote(
                note.id,
                alignment.seconds(note.onset),
                alignment.seconds(note.end),
                note.pitch.midi,
                labels.get(note.id),
            )
            for note in solo.notes
            if not note.grace
        ]

    def _show_reading(self, words: str) -> None:
        """The pitch under the pointer, or where it plays again."""
        player = self._deck.player
        if words:
            self.bar.show_place(words)
        elif player is not None:
            self._show_place(player.position)

    def _show_place(self, frame: float) -> None:
        seconds = frame / RATE
        self.wave.show_playhead(seconds, follow=self._deck.is_playing)
        self.pitches.show_playhead(seconds)
        words = _clock(seconds)
        if self._alignment is not None:
            quarters = self._alignment.quarters(seconds)
            grid = self._alignment.grid
            inside = grid.bars[0].onset <= quarters < grid.bars[-1].end
            self.page.show_playhead(quarters if inside else None)
            if inside:
                bar = next(bar for bar in grid.bars if quarters < bar.end)
                words += " · " + (
                    translate("Gavotte", "Bar {number}").format(number=bar.number)
                    if bar.number
                    else translate("Gavotte", "Pickup")
                )
        self.bar.show_place(words)

    def _playing_changed(self, playing: bool) -> None:
        if not playing:
            self.tapping.finish()

    def _keep_tuning(self) -> None:
        settings = self._deck.settings
        self._tape.keep(cents=settings.cents)
        self.pitches.show_tuning(settings.cents)
        self.doubting.align(self._alignment, settings.cents)

    # -- commands -----------------------------------------------------------------------------------

    def toggle(self) -> None:
        """Play or stop."""
        self._deck.toggle()

    def jump(self, direction: int) -> None:
        """Two seconds back or on."""
        player = self._deck.player
        if player is not None:
            self._deck.seek(round(max(0.0, player.position + direction * _JUMP * RATE)))

    def _seek(self, seconds: float) -> None:
        self._deck.seek(round(seconds * RATE))

    def _go_to_note(self, anchor: str, current: str) -> None:
        solo = self._session.solo
        self._session.selection.select(anchor, current)
        if solo is None or self._alignment is None:
            return
        first, last = sorted((solo.note(anchor), solo.note(current)), key=lambda note: note.onset)
        if first is not last:
            self.hearing.choose(self._alignment.seconds(first.onset), self._alignment.seconds(last.end))
        self._seek(self._alignment.seconds(first.onset))
        self.doubting.weigh_note(current)

    # -- the doubtful note --------------------------------------------------------------------------

    def _show_salience(self, salience: Salience) -> None:
        self.pitches.show_salience(salience)
        self.doubting.hear(salience=salience)

    def _show_lead(self, lead: Lead) -> None:
        self.pitches.show_lead(lead)
        self.doubting.hear(lead=lead)

    def weigh_stretch(self) -> None:
        """What sounds in the chosen stretch, whatever is written there."""
        region = self.hearing.region
        if region is None or not self.doubting.weigh_span(*region):
            self.studio.asks.tell(
                translate("Gavotte", "Choose a stretch on the wave in which a note sounds; beats are needed too")
            )

    def _hear_stretch(self, start: float, end: float) -> None:
        self.hearing.choose(start, end)
        self.hearing.again()

    # -- the loop -----------------------------------------------------------------------------------

    def shift_loop(self, direction: int) -> None:
        """The loop on, or back, by its own length."""
        region = self.hearing.region
        if region is not None:
            length = region[1] - region[0]
            self.hearing.choose(region[0] + direction * length, region[1] + direction * length)
            self.wave.show_stretch(*(self.hearing.region or region))

    def grow_loop(self, direction: int) -> None:
        """The loop's end a beat on, or back; without beats a tenth of its length."""
        region = self.hearing.region
        if region is None:
            return
        times = self._tape.beats.times
        if direction > 0:
            beat = next((time for time in times if time > region[1] + 0.02), None)
        else:
            beat = next((time for time in reversed(times) if time < region[1] - 0.02), None)
        stop = beat if beat is not None else region[1] + direction * _GROW * (region[1] - region[0])
        if stop > region[0] + 0.05:
            self.hearing.choose(region[0], stop)

    def loop_bar(self) -> None:
        """The bar where it is becomes the loop; where it is that already, a bar more."""
        player = self._deck.player
        if self._alignment is None or player is None:
            return
        region, alignment = self.hearing.region, self._alignment
        starts = [alignment.seconds(bar.onset) for bar in alignment.grid.bars]
        ends = [alignment.seconds(bar.end) for bar in alignment.grid.bars]
        if region is not None and any(abs(start - region[0]) < 0.02 for start in starts):
            longer = next((end for end in ends if end > region[1] + 0.02), None)
            if longer is not None and any(abs(end - region[1]) < 0.02 for end in ends):
                self.hearing.choose(region[0], longer)
                return
        here = player.position / RATE
        for start, end in zip(starts, ends, strict=True):
            if start <= here < end:
                self.hearing.choose(start, end)
                return

    # -- beats --------------------------------------------------------------------------------------

    def tap(self) -> None:
        """A beat where it is heard now; while it stands still, a beat is put there."""
        if self._deck.is_playing:
            self.tapping.tap(self._deck.heard_frame / RATE)
        else:
            self.put_beat()

    def find_beats(self) -> None:
        """Have the beats found."""
        self.tapping.finish()
        solo = self._session.solo
        if solo is None:
            return
        written = sum(len(bar.meter.beats) for bar in BarGrid(solo).bars if bar.number > 0)
        self.finder.find_beats(solo.beats_a_minute, written if solo.notes or solo.chords else 0)

    def _ask_tempo(self, words: str) -> None:
        """Offer to hear with the click whether the beat is twice as fast, or half as fast."""
        self._offer_tempo(words, self._tempo() < _OFTEN_HALF)

    def _offer_tempo(self, words: str, faster: bool) -> None:
        action = (
            translate("Gavotte", "Hear it twice as fast") if faster else translate("Gavotte", "Hear it half as fast")
        )
        self.studio.asks.notice(words, action, lambda: self._try_tempo(faster))

    def _try_tempo(self, faster: bool) -> None:
        """The beats twice or half as fast, to be heard with the click; the other way is offered."""
        if faster:
            self.double_beats()
        else:
            self.halve_beats()
        self._deck.change(click=True)
        if not self._deck.is_playing:
            self._deck.toggle()
        words = translate("Gavotte", "{number} beats, about {tempo} a minute. Is that the beat?").format(
            number=len(self._tape.beats.times), tempo=round(self._tempo())
        )
        self._offer_tempo(words, not faster)

    def _tempo(self) -> float:
        """The tempo in the middle of the beats, 0 where there is none."""
        beats = self._tape.beats
        return beats.beats_a_minute(len(beats.times) // 2) or 0.0

    def put_beat(self) -> None:
        """A beat more, where the playhead is."""
        player = self._deck.player
        if player is not None:
            self._edit(translate("Gavotte", "Add a beat"), with_beat(self._tape.beats, player.position / RATE))

    def _move_beat(self, index: int, seconds: float) -> None:
        self._edit(translate("Gavotte", "Move a beat"), with_beat_moved(self._tape.beats, index, seconds))

    def remove_beat(self) -> None:
        """Drop the chosen beat."""
        if self.wave.beat is not None:
            self._edit(translate("Gavotte", "Delete a beat"), without_beat(self._tape.beats, self.wave.beat))

    def begin_here(self) -> None:
        """Bar 1 begins at the chosen beat, or at the one nearest to the playhead."""
        player = self._deck.player
        index = self.wave.beat
        if index is None and player is not None:
            index = self._tape.beats.nearest(player.position / RATE)
        if index is not None:
            self._edit(translate("Gavotte", "Begin bar 1 here"), with_downbeat(self._tape.beats, index))

    def double_beats(self) -> None:
        """A beat between each two."""
        self._edit(translate("Gavotte", "Twice as many beats"), doubled(self._tape.beats))

    def halve_beats(self) -> None:
        """Every second beat only."""
        self._edit(translate("Gavotte", "Half as many beats"), halved(self._tape.beats))

    def carry_on(self) -> None:
        """Beats to the recording's end, at the tempo of the last ones."""
        if self._tape.decoded is not None:
            self._edit(
                translate("Gavotte", "Carry the beats on"), continued(self._tape.beats, self._tape.decoded.seconds)
            )

    def _edit(self, text: str, beats: BeatMap) -> None:
        self.tapping.finish()
        self._tape.edit_beats(text, beats)


def _clock(seconds: float) -> str:
    tenths = Fraction(round(seconds * 10), 10)
    minutes, rest = divmod(float(tenths), 60)
    return f"{int(minutes)}:{rest:04.1f}"
