"""The Practice desk: what do I play today, how did it go? A plan, a run through one thing, takes, and the log."""

from __future__ import annotations

from dataclasses import replace
from datetime import timedelta

from PyQt6.QtCore import QElapsedTimer, QTimer
from PyQt6.QtGui import QUndoStack
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from gavotte.desktop.command import Command, shown_keys
from gavotte.desktop.desk.desk import Desk, DeskKind, Hint, page_hints
from gavotte.desktop.desk.studio import Studio
from gavotte.desktop.desk.updates import Update
from gavotte.desktop.desks.practice.adding import Adding
from gavotte.desktop.desks.practice.agenda import Agenda
from gavotte.desktop.desks.practice.bandstand import Bandstand
from gavotte.desktop.desks.practice.climber import Climber
from gavotte.desktop.desks.practice.commands import practice_commands
from gavotte.desktop.desks.practice.controls import Controls
from gavotte.desktop.desks.practice.ears import Ears
from gavotte.desktop.desks.practice.file_dialogs import ask_for_sound, ask_where_band_goes, ask_where_log_goes
from gavotte.desktop.desks.practice.hands import Hands
from gavotte.desktop.desks.practice.made import Made
from gavotte.desktop.desks.practice.over_time_dialog import OverTimeDialog, over_time_of
from gavotte.desktop.desks.practice.practice_page import PracticePage
from gavotte.desktop.desks.practice.setup_dialog import BREAKS, break_minutes
from gavotte.desktop.desks.practice.shown_takes import ShownTakes
from gavotte.desktop.desks.practice.side import PracticeSide
from gavotte.desktop.desks.practice.strip import TodayStrip
from gavotte.desktop.desks.practice.taking import Taking
from gavotte.desktop.desks.practice.the_record import TheRecord
from gavotte.desktop.desks.practice.words import CARE, PARTS, key_words, next_words
from gavotte.desktop.errands.open_sheet import ToBePutOn
from gavotte.desktop.paper.sheet import Sheet
from gavotte.desktop.playback.playing import Played
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import QT_TRANSLATE_NOOP, said, translate
from gavotte.desktop.widgets.header import Header, rule
from gavotte.desktop.widgets.nothing_here import NothingHere
from gavotte.desktop.words import counted
from gavotte.formats.whole_file import write_whole
from gavotte.labelling.labeller import labelled
from gavotte.library.practising import KeptTake
from gavotte.practice.climbing import When
from gavotte.practice.item import Kind, PracticeItem
from gavotte.practice.label_lesson import BarToLabel
from gavotte.practice.lessons import Lesson
from gavotte.practice.log import as_csv, as_markdown, minutes_by_day
from gavotte.practice.own_solo import told_of_own
from gavotte.practice.plan import Answer, next_time
from gavotte.practice.run import Part, Run, Way, run_of
from gavotte.solo.document import Solo
from gavotte.solo.note_labels import NoteLabels
from gavotte.sounding.click import Click
from gavotte.sounding.events import Voice

_FOLLOWED = Update.LIBRARY | Update.VIEW
_FIRST_SHARE, _BACK = 0.6, 0.9
_TAIL_MS = 700
_LEAST_SECONDS, _LONG_SECONDS = 2.0, 10 * 60
_STAND_ZOOM = 1.45
_CARED = "practice/cared"
_CLICK_LEVEL = 0.6


class PracticeDesk(Desk):
    """``agenda`` knows what there is, ``made`` is the run on the stand, ``take`` the take that is looked at."""

    kind = DeskKind("practice", QT_TRANSLATE_NOOP("Gavotte", "Practice"), "F8", follows=_FOLLOWED)

    def __init__(self, studio: Studio) -> None:
        super().__init__(studio)
        self.agenda = Agenda(
            studio.library, studio.edits, studio.practice.undo_stack, studio.settings, studio.activities, self
        )
        self.page = PracticePage(studio.engraver)
        self.strip, self.controls, self.side = TodayStrip(), Controls(), PracticeSide()
        self.taking = Taking(studio, self.agenda, self)
        self.stand = QPushButton(translate("Gavotte", "On the stand"))
        self.stand.setCheckable(True)
        self.stand.setToolTip(
            translate("Gavotte", "Only the music and the large controls, to be read from farther away")
        )
        self.enough = QPushButton()
        self.enough.setToolTip(translate("Gavotte", "End today’s practice; what is left is spread over the next days"))
        self._head = Header(self.enough, self.stand)
        self.to_shelf = QPushButton(translate("Gavotte", "Go to the shelf"))
        self.begin_changes = QPushButton(translate("Gavotte", "Changes to play over…"))
        self._body = QWidget()
        words = translate("Gavotte", "Select a phrase at Label or Phrases, or choose a lick, and press {keys}.")
        self._nothing = NothingHere(
            translate("Gavotte", "There is nothing to practise yet."),
            words.format(keys=shown_keys("Ctrl+Alt+P")),
            self.to_shelf,
            self.begin_changes,
        )
        self.made: Made | None = None
        self.takes = ShownTakes(studio, self.agenda, self.page, self.side, lambda: self.made, self)
        self.bandstand = Bandstand(studio, self.agenda, self.side.band, lambda: self.made, self)
        self.adding = Adding(studio, self)
        self.record_heard = TheRecord(studio, self.agenda, self)
        self.climber = Climber(studio.transport, self.taking, self)
        self.hands = Hands(studio, self.taking, lambda: self.side.take.wanted, self)
        self.ears = Ears(studio, self.side.ears, self.hands.microphone, self)
        self.over_time_dialog: OverTimeDialog | None = None
        self._selected: tuple[str, ...] = ()
        self._made_of: tuple[object, int] | None = None
        self._making = object()
        self._spent = self._without_break = self._asked_at = 0.0
        self._clock, self._spent_on_lesson = QElapsedTimer(), QElapsedTimer()
        self._read_once = self._has_gathered = False
        self._lay_out()
        self._connect()

    def _lay_out(self) -> None:
        row = QHBoxLayout(self._body)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        left = QVBoxLayout()
        left.setSpacing(0)
        left.addWidget(self.page, 1)
        left.addWidget(rule())
        left.addWidget(self.controls)
        row.addLayout(left, 1)
        row.addWidget(self.side)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(self._head)
        layout.addWidget(self.strip)
        layout.addWidget(rule())
        layout.addWidget(self._body, 1)
        layout.addWidget(self._nothing, 1)

    def _connect(self) -> None:
        agenda, side, controls, taking = self.agenda, self.side, self.controls, self.taking
        agenda.changed.connect(self._show_agenda)
        agenda.chosen_changed.connect(self._put_on_stand)
        self.strip.chosen.connect(agenda.choose)
        self.strip.minutes_changed.connect(agenda.set_minutes)
        self.to_shelf.clicked.connect(lambda: self.studio.asks.go("shelf"))
        self.begin_changes.clicked.connect(lambda: self.adding.changes())
        self.stand.toggled.connect(self._show_stand)
        self.enough.clicked.connect(lambda: self.end_day())
        self.page.selection_wanted.connect(self.select)
        self.page.zoom_wanted.connect(self.studio.view.zoom_by)
        side.run.wishes_changed.connect(self._make_run)
        side.run.item_changed.connect(self._change_item)
        side.run.remove_wanted.connect(self.remove)
        side.band.item_changed.connect(self._change_band)
        side.band.file_wanted.connect(self.export_band)
        side.changes_wanted.connect(self.adding.changes)
        side.scale_wanted.connect(self.adding.scale)
        side.run.click_wanted.connect(self.set_click)
        side.run.playhead_hidden.connect(self._hide_playhead)
        side.keys.chosen.connect(self._choose_key)
        side.item_chosen.connect(self._ask_for)
        side.left.connect(self.page.setFocus)
        side.take.loop_wanted.connect(self.work_on_next)
        side.take.chosen.connect(self.takes.choose)
        side.take.hear_wanted.connect(self.takes.hear)
        side.take.delete_wanted.connect(self.takes.delete)
        side.take.file_wanted.connect(self.choose_file)
        side.log.entry_changed.connect(agenda.change_entry)
        side.log.delete_wanted.connect(agenda.delete_entry)
        side.log.export_wanted.connect(self.export_log)
        side.log.over_time_wanted.connect(self.show_over_time)
        side.tabs["ears"].toggled.connect(self._ears_shown)
        self.ears.page_wanted.connect(self._show_bar_to_label)
        self.ears.page_left.connect(self._show_run)
        self.ears.answered.connect(self._lesson_answered)
        controls.play.clicked.connect(lambda: self.studio.playing.toggle())
        controls.record.clicked.connect(lambda: self.record())
        controls.next.clicked.connect(lambda: self.next())
        controls.answered.connect(self.answer)
        taking.recorder.level_changed.connect(lambda: side.take.meter.show_level(taking.recorder.level))
        taking.recorder.stopped.connect(self._show_state)
        taking.begun.connect(self._show_state)
        taking.taken.connect(self._taken)
        taking.soloed.connect(self._soloed)
        taking.kept.connect(self.takes.kept)
        self.takes.left.connect(self._show_run)
        self.hands.pressed.connect(self._pedal)
        self.record_heard.moved.connect(lambda time: self.page.show_playhead(time) if self.isVisible() else None)
        self.record_heard.changed.connect(self._show_record)
        side.take.record_wanted.connect(self.hear_record)
        controls.clean.clicked.connect(lambda: self.climber.was_clean())
        self.climber.changed.connect(self._show_clean)
        self.studio.transport.playing_changed.connect(self._playing_changed)
        self.studio.transport.playhead_moved.connect(self._follow)
        self.studio.transport.settings_changed.connect(self._show_click)

    # -- as a desk ----------------------------------------------------------------------------------

    def commands(self) -> tuple[Command, ...]:
        return practice_commands(self)

    def focus(self) -> QWidget:
        return self.page if self.agenda.items else self.to_shelf

    def beside(self) -> QWidget:
        return self.side.place_for_keys()

    def escape(self) -> bool:
        if self.taking.recorder.is_recording:
            self.taking.stop()
            return True
        if self.takes.shown is not None:
            self.takes.show(None)
            return True
        if self._selected:
            self._selected = ()
            self._show_selection(None)
            return True
        if self.stand.isChecked():
            self.stand.setChecked(False)
            return True
        return False

    @property
    def undo_stack(self) -> QUndoStack:
        return self.agenda.undo_stack

    def played(self) -> Played:
        at = (self.strip.list, self.controls)
        return Played(self.page, self.music, lambda: self._selected, at, lambda: self.bandstand.backing)

    def music(self) -> Solo | None:
        """What sounds: the band, and the soloist where the player listens."""
        if self.made is None:
            return None
        return self.made.run.shown if self._selected else self.made.run.heard

    def pages(self) -> tuple[QWidget, ...]:
        return (self.page,)

    def state(self) -> str:
        due = self.agenda.due
        return translate("Gavotte", "{number} due").format(number=due) if due else ""

    def sheet(self) -> Sheet | None:
        made, item = self.made, self.agenda.item
        if made is None or item is None:
            return None
        return Sheet(made.whole, made.labels, item.words)

    @property
    def has_sheet(self) -> bool:
        return self.made is not None

    @property
    def has_to_practise(self) -> bool:
        return False

    def to_sheet(self) -> ToBePutOn | None:
        return None

    def hints(self) -> tuple[str, tuple[Hint, ...]]:
        return page_hints()

    def zoom(self, by: int) -> None:
        self.studio.view.zoom_by(by)

    def set_palette(self, palette: Palette) -> None:
        self.page.set_palette(palette)
        self.strip.set_palette(palette)
        self.side.set_palette(palette)
        self.adding.palette = palette

    def arrive(self, item: str, view: str) -> None:
        """Put an item (its id) on the stand."""
        # What was added on the way here is not shown yet.
        self._read(anew=True)
        if item in self.agenda.items:
            self._ask_for(item)

    def enter(self) -> None:
        if not self._has_gathered:
            self._has_gathered = True
            self.taking.gather()
        self._read()
        self._choose_something()
        self.side.take.fill_sources(self.taking.keyboard.devices())
        self._show_click()
        self.hands.pedals.open()
        if self.side.page_shown == "ears":
            self.ears.begin()
        if not self.studio.settings.value(_CARED, False, type=bool) and self.agenda.items:
            self.studio.settings.setValue(_CARED, True)
            self.studio.asks.notice(
                f"{said(CARE)} {translate('Gavotte', 'Short breaks are proposed on the way.')}",
                translate("Gavotte", "Set up…"),
                self.hands.set_up,
            )

    def show_over_time(self) -> None:
        """How what is on the stand has gone over time."""
        if self.agenda.item is not None:
            dialog = over_time_of(self, self.agenda, self.takes.all, self._read_as, self.adding.palette)
            self.over_time_dialog = dialog
            dialog.open()

    def _pedal(self, action: str) -> None:
        """A pedal was pressed."""
        if self.isVisible():
            do = {"play": self.studio.playing.toggle, "record": self.record, "clean": self.climber.was_clean,
                  "next": self.next}  # fmt: skip
            do[action]()

    def _choose_something(self) -> None:
        """Put what comes first on the stand, where nothing is."""
        if self.agenda.chosen is None and not self.agenda.next() and self.agenda.items:
            self.agenda.choose(next(iter(self.agenda.items)))

    def leave(self) -> None:
        self.ears.leave()
        self.hands.close()
        self.taking.stop()
        self._silence()

    def close_down(self) -> None:
        self.ears.stop()
        self.hands.close()
        self.taking.close()
        self._silence()

    def _silence(self) -> None:
        """Stop what sounds beside the run: a take, the record."""
        self.takes.player.stop()
        self.record_heard.stop()

    def remembered(self) -> str:
        return ",".join((self.side.page_shown, *self.side.run.kept_wishes()))

    def recall(self, remembered: str) -> None:
        page, *wishes = remembered.split(",")
        if page in self.side.tabs:
            self.side.show_page(page)
        self.side.run.set_wishes(wishes)

    def show_updates(self, changes: Update) -> None:
        if changes & Update.LIBRARY or not self._read_once:
            self._read(anew=True)
        if changes & Update.VIEW:
            self._zoom()
            self._show_agenda()
            self.takes.show_anew()
            self._make_run()

    def _read(self, anew: bool = False) -> None:
        if anew or not self._read_once:
            self._read_once = True
            self.agenda.read()
            self.takes.read()

    # -- what is shown ------------------------------------------------------------------------------

    def _show_agenda(self) -> None:
        agenda = self.agenda
        has = bool(agenda.items)
        for part in (self._head, self.strip, self._body):
            part.setVisible(has)
        self._nothing.setVisible(not has)
        if self.stand.isChecked():
            self._show_stand(True)
        none = translate("Gavotte", "Nothing more today. What was played comes back when it is about to be forgotten.")
        if agenda.is_over:
            none = translate("Gavotte", "Enough for today. What is left is spread over the next days.")
        self.enough.setText(
            translate("Gavotte", "Go on after all") if agenda.is_over else translate("Gavotte", "Enough for today")
        )
        self.strip.show_plan(agenda.plan, agenda.items, agenda.chosen, agenda.minutes, none, self._read_as)
        self.side.show_items(agenda.items, agenda.chosen[0] if agenda.chosen is not None else None, agenda.now())
        entries = [entry for _, entry in agenda.log]
        self.side.log.show_log(agenda.log, minutes_by_day(entries), agenda.now().date())
        self._show_item()
        self.state_changed.emit()
        if self.isVisible() and agenda.chosen is None and agenda.items:
            self._choose_something()

    def _show_item(self) -> None:
        agenda, item = self.agenda, self.agenda.item
        if item is None or agenda.chosen is None:
            self._head.title.setText("")
            self._head.about.setText("")
            self.side.show_keys(None, 0)
            return
        number = agenda.chosen[1]
        self._head.title.setText(item.name)
        parts = [
            key_words(item, number, self._read_as),
            translate("Gavotte", "goal {tempo}").format(tempo=item.goal) if item.kind is not Kind.LESSON else "",
            item.words,
        ]
        if item.from_memory:
            parts.append(translate("Gavotte", "by heart"))
        parts.append(next_words(next_time(item.card(number), agenda.now())))
        self._head.about.setText(" · ".join(filter(None, parts)))
        self.side.show_keys(item, number, self._read_as)
        self.side.run.show_item(item, int(self.side.run.tempo.value()))
        self.bandstand.show_item()
        if item.kind is not Kind.LESSON and self._made_of != (item.band.written, len(item.cards)):
            self._make_run()

    def _read_as(self, solo: Solo) -> Solo:
        """Music as it is read here."""
        return self.studio.view.shown(solo)

    def _put_on_stand(self) -> None:
        """Something else is on the stand."""
        agenda, item = self.agenda, self.agenda.item
        self.studio.transport.stop()
        self._silence()
        self._selected, self._spent, self._asked_at = (), 0.0, 0.0
        self.controls.show_answers(False)
        if item is not None and agenda.chosen is not None:
            self.side.run.show_item(item, self.first_tempo(item, agenda.chosen[1]))
            self._made_of = item.band.written, len(item.cards)
        self.takes.show(None)
        self.takes.read()
        self._show_agenda()
        self._make_run()
        self._say_if_easy()
        if item is not None and item.lesson is not None and self.isVisible():
            self._spent_on_lesson.start()
            self.side.show_page("ears")
            self.ears.take_up(item.lesson)

    def _say_if_easy(self) -> None:
        """Say gently where what is on the stand is known with ease, and not due."""
        agenda, item = self.agenda, self.agenda.item
        if item is None or agenda.chosen is None or not self.isVisible():
            return
        number = agenda.chosen[1]
        last = next((entry for entry in agenda.entries_of(agenda.chosen[0]) if entry.number == number), None)
        left = next_time(item.card(number), agenda.now())
        if last is not None and last.answer == Answer.WITH_EASE and left is not None and left > timedelta(days=1):
            words = translate("Gavotte", "You play this with ease; it {when}. Make it harder: faster, or by heart.")
            self.studio.asks.tell(words.format(when=next_words(left)))

    def first_tempo(self, item: PracticeItem, number: int) -> int:
        """The tempo a run begins at: a share of the goal at first, then by how the last time went."""
        last = next((e for e in self.agenda.entries_of(self.agenda.chosen[0] if self.agenda.chosen else "")
                     if e.number == number and e.tempo), None)  # fmt: skip
        if last is None:
            return max(30, round(_FIRST_SHARE * item.goal))
        step = int(self.side.run.step.value()) or 4
        if last.answer >= Answer.WELL:
            return min(max(item.goal, last.tempo), last.tempo + step)
        return last.tempo if last.answer == Answer.WITH_EFFORT else max(30, round(_BACK * last.tempo))

    def _make_run(self) -> None:
        """Work out the run anew, beside the interface."""
        agenda, item = self.agenda, self.agenda.item
        self.studio.activities.cancel(self._making)
        if item is None or agenda.chosen is None or item.kind is Kind.LESSON:
            self.made = self._made_of = None
            self.page.clear()
            if self.isVisible():
                self.studio.playing.music_changed()
            self._show_state()
            return
        self._made_of = item.band.written, len(item.cards)
        wishes, number = self.side.run.wishes, agenda.chosen[1]
        keys = [card.number for card in item.cards] if wishes.way is Way.KEYS else [number]
        if wishes.way is Way.KEYS and number in keys:
            keys = keys[keys.index(number) :] + keys[: keys.index(number)]
        shown = self.studio.view.shown

        def work() -> Made:
            run = run_of(item, keys, wishes, lambda solo: shown(replace(solo, notes=(), chords=())).keys[0].key.shown)
            read = shown(run.shown)
            bare = run.page()
            page = read if bare is run.shown else shown(bare)
            labels = NoteLabels(labelled(read).labels)
            return Made(run, page, read, labels)

        self.studio.activities.beside(
            self._making, work, self._take_run, lambda error: self.studio.asks.notice(str(error))
        )

    def _take_run(self, made: Made) -> None:
        self.made, self._selected = made, ()
        if self.takes.shown is None:
            self._show_run()
        if self.isVisible():
            self.studio.playing.music_changed()
        self._show_state()

    def _ears_shown(self, on: bool) -> None:
        if not on:
            self.ears.leave()
        elif self.isVisible():
            self.ears.begin()

    def _lesson_answered(self, lesson: Lesson) -> None:
        """A question was answered: where that lesson is on the stand, ask how it went."""
        item = self.agenda.item
        if item is not None and item.lesson is lesson:
            self._spent = self._spent_on_lesson.elapsed() / 1000
            self.controls.show_answers(True)
            if self.ears.question is not None:
                # What was heard is read now.
                read = self.studio.view.shown(self.ears.question.whole)
                self.page.show_solo(read, NoteLabels(labelled(read).labels))

    def _show_bar_to_label(self, music: Solo, bar: BarToLabel | None) -> None:
        """Show the bar that is to be labelled, with its labels once it is."""
        self.takes.show(None)
        self.studio.transport.stop()
        read = self.studio.view.shown(music)
        self.page.show_take({})
        self.page.show_in_lane(frozenset())
        self.page.show_solo(read, NoteLabels(bar.labels) if bar is not None else {})

    def _show_run(self) -> None:
        """Show the run on the page."""
        if self.made is not None:
            run = self.made.run
            self.page.show_take({})
            self.page.show_in_lane(run.in_lane)
            if run.is_blank:
                self.page.clear()
            else:
                self.page.show_solo(self.made.page, self.made.page_labels)

    def _hide_playhead(self, hidden: bool) -> None:
        self.page.has_playhead = not hidden
        self.page.show_playhead(None)

    def _zoom(self) -> None:
        self.page.set_zoom(self.studio.view.zoom * (_STAND_ZOOM if self.stand.isChecked() else 1.0))

    def _show_stand(self, on: bool) -> None:
        has = bool(self.agenda.items)
        self.strip.setVisible(has and not on)
        self.side.setVisible(not on)
        self._zoom()
        self.page.setFocus()

    def end_day(self) -> None:
        """Enough for today, or go on after all."""
        self.studio.transport.stop()
        self.agenda.set_over(not self.agenda.is_over)

    def toggle_stand(self) -> None:
        """Only the music and the large controls, or everything."""
        self.stand.toggle()

    # -- choosing -----------------------------------------------------------------------------------

    def _ask_for(self, item_id: str) -> None:
        self.agenda.ask_for(item_id)
        self.agenda.choose(item_id)

    def _choose_key(self, number: int) -> None:
        if self.agenda.chosen is not None:
            self.agenda.choose(self.agenda.chosen[0], number)

    def next(self) -> None:
        """Go on to what comes next today."""
        if not self.agenda.next():
            self.studio.asks.tell(translate("Gavotte", "Nothing more is planned today"))

    def remove(self) -> None:
        """No longer practise what is on the stand."""
        if self.agenda.chosen is not None:
            self.agenda.remove(self.agenda.chosen[0])

    def _change_item(self, item: PracticeItem) -> None:
        self._change(translate("Gavotte", "Change the goal of “{name}”"), item)

    def _change_band(self, item: PracticeItem) -> None:
        self._change(translate("Gavotte", "Change the band of “{name}”"), item)

    def _change(self, words: str, item: PracticeItem) -> None:
        """Make what is on the stand another item; ``words`` say what was done to it."""
        if self.agenda.chosen is not None:
            self.agenda.change(words.format(name=item.name), self.agenda.chosen[0], item)
            # Where that could not be kept the panel shows again what is.
            self._show_item()

    def select(self, anchor: str, current: str) -> None:
        """Select notes of the page (ids): they are played alone."""
        if self.made is None:
            return
        places = self.made.whole.places
        if anchor not in places or current not in places:
            return
        low, high = sorted((places[anchor], places[current]))
        self._selected = tuple(note.id for note in self.made.whole.notes[low : high + 1])
        self._show_selection(current, anchor)

    def _show_selection(self, current: str | None, anchor: str | None = None) -> None:
        self.page.set_selection(anchor or current, current, frozenset(self._selected))

    # -- playing ------------------------------------------------------------------------------------

    def _playing_changed(self, playing: bool) -> None:
        if not self.isVisible():
            return
        if playing:
            self._silence()
        if playing and not self.studio.playing.is_apart:
            self._clock.start()
            transport = self.studio.transport
            if self.made is not None:
                self.climber.begin(self.made.run, self.side.run.wishes.climb)
            self.taking.recorder.begins_in(self.hands.late - transport.engine.position / transport.speed)
            self.controls.show_answers(False)
        elif not playing and self._clock.isValid():
            spent = self._clock.elapsed() / 1000
            self._clock.invalidate()
            self._spent += spent
            self._without_break += spent
            if self._spent >= _LEAST_SECONDS:
                self.controls.show_answers(True)
            if self.taking.recorder.is_recording:
                # The last note rings on.
                QTimer.singleShot(_TAIL_MS, self.taking.recorder.end)
            self._propose_break()
            self._ask_for_answer()
            self.bandstand.ended()
            self._keep_climbed()
        self._show_state()

    def _show_clean(self) -> None:
        """Ask for clean passes where the tempo climbs by them and nobody else listens."""
        climber, transport = self.climber, self.studio.transport
        asks = transport.is_playing and climber.climbs and climber.climb.when is When.CLEAN
        words = translate("Gavotte", "Clean: {clean} of {need}")
        clean = min(climber.climb.need, climber.clean + climber.is_marked)
        self.controls.show_clean(asks, words.format(clean=clean, need=climber.climb.need))
        # While a take is recorded it is listened to instead.
        self.controls.clean.setEnabled(not self.taking.recorder.is_recording)

    def _keep_climbed(self) -> None:
        """The next run begins at the tempo this one climbed to."""
        field = self.side.run.tempo
        if self.climber.climbs and self.climber.tempo > field.value():
            field.setValue(self.climber.tempo)

    def set_click(self, click: Click | None) -> None:
        """Hear the click somewhere else, or (None) not at all."""
        transport = self.studio.transport
        if click is None:
            transport.set_level(Voice.CLICK, 0.0)
            return
        transport.set_click(click)
        if not transport.levels[Voice.CLICK]:
            transport.set_level(Voice.CLICK, _CLICK_LEVEL)
        self.studio.playing.refresh()

    def _show_click(self) -> None:
        transport = self.studio.transport
        self.side.run.show_click(transport.click if transport.levels[Voice.CLICK] else None)

    def _propose_break(self) -> None:
        minutes = break_minutes(self.studio.settings)
        if not minutes or self._without_break < 60 * minutes:
            return
        words = translate("Gavotte", "That was {minutes} of playing. Put the instrument down for a moment.")
        played = counted(round(self._without_break / 60), "minute")
        self._without_break = 0.0
        self.studio.asks.notice(
            words.format(minutes=played),
            translate("Gavotte", "Propose no breaks"),
            lambda: self.studio.settings.setValue(BREAKS, 0),
        )

    def _ask_for_answer(self) -> None:
        """Say gently where something is played for long without an answer."""
        if self._spent >= _LONG_SECONDS and self._spent - self._asked_at >= _LONG_SECONDS:
            self._asked_at = self._spent
            words = translate(
                "Gavotte", "{minutes} on this: what is it that you work on? An answer below brings it back."
            )
            self.studio.asks.tell(words.format(minutes=counted(round(self._spent / 60), "minute")))

    def _follow(self, time: float) -> None:
        if not self.isVisible() or self.made is None or self.studio.playing.is_apart:
            return
        run = self.made.run
        number = run.pass_at(time)
        one = run.passes[number]
        counting = self.studio.transport.engine.is_counting_in
        rate = self.studio.transport.speed
        self.climber.heard(time, self._clock.elapsed() / 1000 if self._clock.isValid() else 0.0)
        self.controls.place.setText(
            translate("Gavotte", "Counting in")
            if counting
            else said(PARTS[one.part])
            if one.part is not Part.MUSIC
            else translate("Gavotte", "Your turn")
            if one.is_played
            else translate("Gavotte", "Read")
            if self.side.run.wishes.way is Way.READ
            else translate("Gavotte", "Listen")
        )
        words = translate("Gavotte", "Pass {number} of {count}, tempo {tempo}")
        item = self.agenda.item
        key = f"{key_words(item, one.key, self._read_as)} · " if item is not None and len(item.cards) > 1 else ""
        turn = run.turns.index(one) + 1 if one in run.turns else 1
        told = words.format(number=turn, count=len(run.turns), tempo=round(one.tempo * rate))
        self.controls.detail.setText(key + told)
        self._show_clean()

    def _show_state(self) -> None:
        playing = self.studio.transport.is_playing and not self.studio.playing.is_apart
        recorder = self.taking.recorder
        self.controls.show_state(playing, recorder.is_recording, self.taking.is_silent)
        self._show_clean()
        self.controls.play.setEnabled(self.made is not None)
        self.controls.record.setEnabled(self.made is not None and not recorder.is_judging)
        if not playing:
            self.controls.place.setText(translate("Gavotte", "Ready") if self.made is not None else "")
            run = self.made.run if self.made is not None else None
            words = translate("Gavotte", "{passes}, tempo {tempo}")
            self.controls.detail.setText(
                words.format(passes=counted(len(run.turns), "pass"), tempo=self._tempos(run)) if run is not None else ""
            )
        self.state_changed.emit()

    def _tempos(self, run: Run) -> str:
        first, last = (round(run.passes[k].tempo * self.studio.transport.rate) for k in (0, -1))
        return str(first) if first == last else f"{first} – {last}"

    @property
    def tempo_reached(self) -> int:
        """The highest tempo of the run, at the speed it is played at."""
        if self.made is None:
            return 0
        if self.climber.climbs:
            return self.climber.reached
        return round(max(one.tempo for one in self.made.run.passes) * self.studio.transport.rate)

    def answer(self, answer: Answer) -> None:
        """Say how it went: it is planned again, and what comes next is put on the stand."""
        agenda, item = self.agenda, self.agenda.item
        if item is None or agenda.chosen is None or not self.can_answer:
            return
        self.studio.transport.stop()
        item_id, number = agenda.chosen
        shown = self.takes.shown
        take = shown if shown is not None and shown.item == item_id else None
        agenda.answer(answer, self.tempo_reached, self._spent, take, key_words(item, number))
        self._spent = 0.0
        self.controls.show_answers(False)
        changed = agenda.items.get(item_id)
        if changed is not None:
            words = translate("Gavotte", "{name} in {key} {when}").format(
                name=item.name,
                key=key_words(item, number, self._read_as),
                when=next_words(next_time(changed.card(number), agenda.now())),
            )
            self.studio.asks.tell(words)
        if not agenda.next():
            self._show_item()

    @property
    def can_answer(self) -> bool:
        """Whether something was played that can be answered for."""
        return self.controls.asked.isVisibleTo(self)

    # -- takes --------------------------------------------------------------------------------------

    def record(self) -> None:
        """Record a take while the run goes, or stop recording."""
        if self.taking.recorder.is_recording:
            self.taking.stop()
            return
        if self.made is None or self.taking.recorder.is_judging:
            return
        self.takes.show(None)
        self._selected = ()
        self._show_selection(None)
        self.side.show_page("take")
        self.taking.begin(self.side.take.wanted, self.made.run, self.side.run.wishes.when is not When.PASSES)

    def choose_file(self) -> None:
        """Judge a take that was recorded elsewhere."""
        if self.made is None or self.taking.recorder.is_judging:
            return
        path = ask_for_sound(self, self.studio.settings)
        if path is not None:
            self.taking.judge_file(path, self.made.run)

    def _taken(self, kept: KeptTake) -> None:
        if self.agenda.chosen is not None and kept.item == self.agenda.chosen[0]:
            self.takes.show(kept)

    def _soloed(self, solo: Solo) -> None:
        """Something was played over changes: say what stands out in it."""
        panel, items = self.side.take, list(self.agenda.items.values())
        goal = self.agenda.item.words if self.agenda.item is not None else ""
        self.studio.activities.beside(
            panel,
            lambda: told_of_own(solo, goal, items),
            lambda lines: panel.show_report(lines, False),
            lambda error: self.studio.asks.notice(str(error)),
        )

    def work_on_next(self) -> None:
        """Loop what the take says is to be worked on next."""
        trouble = self.takes.to_work_on
        if trouble is None:
            return
        self.takes.show(None)
        self.select(*trouble)
        self.studio.transport.set_loop(True)
        self.studio.playing.play()

    # -- the band -----------------------------------------------------------------------------------

    def export_band(self) -> None:
        """Write the band of the run as a sound or a MIDI file."""
        item = self.agenda.item
        if item is None or self.made is None:
            return
        path = ask_where_band_goes(self, self.studio.settings, item.name)
        if path is not None:
            self.bandstand.write(path)

    def hear_record(self) -> None:
        """Hear what is on the stand as it is on its record, or stop that."""
        if self.made is not None:
            self.takes.player.stop()
            self.record_heard.toggle(self.made.run, self.side.run.wishes.way)

    def _show_record(self) -> None:
        playing = self.record_heard.is_playing
        if not playing:
            self.page.show_playhead(None)
        self.side.take.show_record(playing)
        if playing:
            words = translate("Gavotte", "The record, at {share} % of its speed")
            self.controls.place.setText(translate("Gavotte", "Listen"))
            self.controls.detail.setText(words.format(share=round(100 * self.record_heard.speed)))
        else:
            self._show_state()

    # -- the log ------------------------------------------------------------------------------------

    def export_log(self) -> None:
        """Write the log as a table or a text."""
        entries = [entry for _, entry in self.agenda.log]
        path = ask_where_log_goes(self, self.studio.settings)
        if path is None:
            return
        text = as_markdown(entries) if path.suffix.lower() == ".md" else as_csv(entries)
        self.studio.activities.beside(
            self.side.log,
            lambda: write_whole(path, text.encode()),
            lambda _: self.studio.asks.tell(
                translate("Gavotte", "The log is written to {name}").format(name=path.name)
            ),
            lambda error: self.studio.asks.notice(
                translate("Gavotte", "The log can't be written to {name}: {error}").format(name=path.name, error=error)
            ),
            apart=True,
        )
