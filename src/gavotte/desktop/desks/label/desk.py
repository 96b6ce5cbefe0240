"""The Label desk: what is each note's function, and why? The page with its lane, and what is said about it."""

from __future__ import annotations

from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from gavotte.desktop.command import Command, with_key
from gavotte.desktop.desk.desk import DeskKind
from gavotte.desktop.desk.solo_desk import SoloDesk
from gavotte.desktop.desk.studio import Studio
from gavotte.desktop.desk.updates import Update
from gavotte.desktop.desks.label.commands import label_commands
from gavotte.desktop.desks.label.filter_choice import EVERYTHING, SKELETON, FilterChoice
from gavotte.desktop.desks.label.item_words import Words, words_of
from gavotte.desktop.desks.label.reading_dialog import ReadingDialog
from gavotte.desktop.desks.label.review import Review
from gavotte.desktop.desks.label.side import LabelSide
from gavotte.desktop.errands.exporting import ANALYSIS
from gavotte.desktop.errands.key_dialog import KeyDialog
from gavotte.desktop.page.page_view import PageView
from gavotte.desktop.page.spoken import spoken_selection
from gavotte.desktop.paper.solo_sheet import pitch_words
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import QT_TRANSLATE_NOOP, translate
from gavotte.desktop.widgets.header import Header, rule
from gavotte.desktop.words import counted, key_words
from gavotte.harmony.ground import ground_of, with_key_heard
from gavotte.labelling.answers import with_reading
from gavotte.labelling.labeller import Labelled
from gavotte.labelling.overview import Group, groups
from gavotte.labelling.readings import reading_name
from gavotte.solo.document import Solo
from gavotte.solo.label import Label

_SEEN = Update.REPLACED | Update.EDITED | Update.LABELLED | Update.VIEW | Update.SELECTION


class LabelDesk(SoloDesk):
    """The open solo's page with its function lane, and ``side``, what is said about it."""

    kind = DeskKind("label", QT_TRANSLATE_NOOP("Gavotte", "Label"), "F4", needs_solo=True, follows=_SEEN)

    def __init__(self, studio: Studio) -> None:
        super().__init__(studio, PageView(studio.engraver))
        self._groups: dict[str, Group] = {}
        self._groups_of: Labelled | None = None
        self.review = Review(studio.session, studio.activities, self)
        self.side = LabelSide(studio, self.review)
        self.card = self.side.card
        self.reading_dialog: ReadingDialog | None = None
        self.key_dialog: KeyDialog | None = None
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        self._head = self._header()
        layout.addWidget(self._head)
        layout.addWidget(rule())
        self._body = QWidget()
        row = QHBoxLayout(self._body)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(self.page, 1)
        row.addWidget(self.side)
        layout.addWidget(self._body, 1)
        layout.addWidget(self._nothing, 1)
        self._connect()
        self.show_updates(_SEEN)

    # -- as a desk ----------------------------------------------------------------------------------

    def commands(self) -> tuple[Command, ...]:
        return label_commands(self)

    def beside(self) -> QWidget:
        return self.side.place_for_keys()

    def state(self) -> str:
        if self._session.solo is None:
            return ""
        number = len(self.review.questions)
        return (
            translate("Gavotte", "{number} to look at").format(number=number)
            if number
            else translate("Gavotte", "all clear")
        )

    def remembered(self) -> str:
        return self.side.page_shown

    def recall(self, remembered: str) -> None:
        if remembered in self.side.tabs:
            self.side.show_page(remembered)

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
            self.page.set_numerals(self.studio.view.numerals)
            self.page.set_tablature(self.studio.view.tablature)
        if solo is None:
            return
        if changes & ~(Update.SELECTION | Update.LIBRARY):
            self._show_head(solo)
            self.page.update_solo(solo, session.labels)
            self.side.refresh()
            self._show_filter()
            self._show_doubts()
        self._show_selection()

    def _header(self) -> Header:
        self.doubts = QPushButton()
        self.keep = QPushButton(translate("Gavotte", "Keep as lick…"))
        self.keep.setObjectName("primary")
        self.keep.setToolTip(translate("Gavotte", "Keep the selected notes as a lick"))
        self.filter = FilterChoice()
        self.filter.currentIndexChanged.connect(self._show_filter)
        head = Header(self.filter, self.doubts, self.keep)
        self.title, self.about = head.title, head.about
        return head

    def _connect(self) -> None:
        session, studio = self._session, self.studio
        self.card.function_chosen.connect(lambda function, device: session.decide(function, device or None))
        self.card.take_back_wanted.connect(session.take_back)
        self.card.target_pointed.connect(lambda note: self.page.show_target(note or None))
        self.card.target_chosen.connect(lambda note: session.selection.select(note, note))
        self.card.figure_wanted.connect(self.play_figure)
        self.page.group_wanted.connect(self._choose_group)
        self.doubts.clicked.connect(self._work_the_queue)
        self.review.changed.connect(self._questions_changed)
        self.review.current_changed.connect(self._speak)
        self.side.queue.went.connect(lambda: self.page.setFocus())
        self.side.page_changed.connect(self._show_selection)
        self.side.left.connect(self.page.setFocus)
        harmony, text = self.side.harmony, self.side.text
        harmony.note_wanted.connect(lambda note: session.selection.select(note, note))
        harmony.reading_wanted.connect(self.set_reading)
        harmony.key_wanted.connect(self._set_key)
        text.bar_wanted.connect(self.go_to_bar)
        text.export_wanted.connect(self.export_text)
        self.side.school.failed.connect(studio.asks.notice)
        self.keep.clicked.connect(studio.keeping.keep)

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self.side.set_palette(palette)
        self.page.set_palette(palette)
        self._show_selection()

    def export_text(self) -> None:
        """Ask where the analysis of the open solo goes as text, and write it."""
        sheet = self.sheet()
        if sheet is not None:
            self.studio.exporter.choose(sheet, ANALYSIS)

    def move_notes(self, semitones: int) -> None:
        """Move the selected notes by semitones, and hear where they have come to."""
        note = self._session.move(semitones)
        if note is not None and self._session.solo is not None:
            self.studio.playing.preview(note, self._session.solo)

    # -- the queue ----------------------------------------------------------------------------------

    def _work_the_queue(self) -> None:
        self.side.show_page("queue")
        self.step_queue(1)
        self.page.setFocus()

    def step_queue(self, by: int) -> None:
        """Go to the next (1) or previous (-1) thing to look at."""
        if self.review.step(by) and self.side.page_shown != "queue":
            self.side.show_page("queue")

    def answer(self, take: bool) -> None:
        """Take what is suggested about the selected notes, or leave it. Nobody answers what they don't see: where it
        is not shown yet, or nothing is asked here, it is shown, and the next press answers.
        """
        found, item = self._session.found, self.review.current
        if found is None:
            return
        if item is None or self.side.page_shown != "queue":
            if item is None:
                self.review.step(1)
                item = self.review.current
            self.side.show_page("queue")
            self.studio.asks.tell(self._asked(words_of(item, found)) if item is not None else self.doubts.text())
            return
        words = words_of(item, found)
        self.review.answer(take)
        answer = words.take if take else words.leave
        self.studio.asks.tell(f"{words.where}: {answer}" if words.where else answer)

    def _asked(self, words: Words) -> str:
        """What is asked, and which key answers how."""
        asked = translate("Gavotte", "{what}. A: {take}. X: {leave}.")
        return asked.format(what=words.short, take=words.take, leave=words.leave)

    # -- figures and readings -----------------------------------------------------------------------

    def _group_of(self, label: Label | None) -> Group | None:
        found = self._session.found
        if label is None or label.group is None or found is None:
            return None
        if found is not self._groups_of:
            self._groups, self._groups_of = groups(found), found
        return self._groups.get(label.group)

    def _choose_group(self, called: str) -> None:
        """Select a figure by its bracket, ring its target, and say what it is."""
        found = self._session.found
        if found is None:
            return
        group = self._group_of(next((label for label in found.labels if label.group == called), None))
        if group is not None:
            self.side.show_page("note")
            self._session.selection.select(group.notes[0], group.notes[-1])
            self.page.show_target(group.target)
        self.page.setFocus()

    def play_figure(self) -> None:
        """Select the figure the current note belongs to, with the note it leads into, and let it sound."""
        session = self._session
        group = self._group_of(session.labels.get(session.selection.current or ""))
        if group is not None:
            session.selection.select(group.notes[0], group.target or group.notes[-1])
            self.studio.playing.play()

    def set_reading(self) -> None:
        """Ask how the selected notes are heard."""
        session = self._session
        selected = session.selection.notes()
        if session.found is None or session.solo is None or not selected:
            return
        dialog = self.reading_dialog = ReadingDialog(self, session.found, selected[0], selected[-1])

        def take() -> None:
            reading = dialog.reading
            if reading is not None and session.solo is not None:
                words = translate("Gavotte", "Read by {name}").format(name=reading_name(reading))
                session.edit(words, with_reading(session.solo, session.as_sounding(reading)))

        dialog.accepted.connect(take)
        dialog.open()

    def _set_key(self) -> None:
        session = self._session
        selected = session.selection.notes()
        if session.found is None or session.solo is None or not selected:
            return
        solo, grid = session.solo, session.found.frame.grid
        first, last = grid.at(solo.note(selected[0]).onset), grid.at(solo.note(selected[-1]).onset)
        where = translate("Gavotte", "Bars {first} to {last}").format(first=max(1, first.number), last=last.number)
        region = ground_of(solo).key_at(first.onset).region
        about = translate("Gavotte", "{where}. The signature on the page stays; labels and numerals follow.")
        dialog = self.key_dialog = KeyDialog(
            self,
            translate("Gavotte", "Which key is heard here?"),
            translate("Gavotte", "Hear it so"),
            about.format(where=where),
            region,
        )

        def take() -> None:
            if session.solo is not None:
                changed = with_key_heard(session.solo, first.onset, last.end, dialog.key, dialog.blues)
                session.edit(translate("Gavotte", "Hear {key}").format(key=dialog.key.shown), changed)

        dialog.accepted.connect(take)
        dialog.open()

    # -- showing ------------------------------------------------------------------------------------

    def toggle_skeleton(self) -> None:
        """Show the skeleton alone, or all notes again."""
        self.filter.choose(EVERYTHING if self.filter.wanted == SKELETON else SKELETON)

    def _show_filter(self) -> None:
        found = self._session.found
        if found is not None:
            self.page.set_kept(self.filter.kept(found, self._session.labels))

    def _show_head(self, solo: Solo) -> None:
        self.title.setText(solo.title)
        beats = solo.beats_a_minute
        tempo = translate("Gavotte", "{number} beats a minute").format(number=round(beats)) if beats else ""
        heard = ground_of(solo).keys[0]
        key = key_words(heard)
        chordless = bool(solo.notes) and not solo.chords
        named = translate("Gavotte", "No chords: notes are named by their degree in {key}").format(key=key)
        self.about.setText(
            " · ".join(
                part
                for part in (
                    named if chordless else "",
                    solo.player,
                    str(solo.year or ""),
                    (self._session.solo or solo).instrument.name + pitch_words(self._session),
                    "" if chordless else key,
                    solo.style,
                    tempo,
                )
                if part
            )
        )

    def _questions_changed(self) -> None:
        if self.isVisible():
            self._show_doubts()
        self.state_changed.emit()

    def _show_doubts(self) -> None:
        number = len(self.review.questions)
        self.side.show_number("queue", number)
        self.doubts.setEnabled(number > 0)
        self.doubts.setText(
            counted(number, "thing to look at") if number else translate("Gavotte", "Nothing to look at")
        )
        self.doubts.setToolTip(
            with_key(translate("Gavotte", "Go to the next thing to look at"), "Tab")
            if number
            else translate("Gavotte", "Every label is sure enough, and nothing looks like a slip")
        )

    def _speak(self) -> None:
        session = self._session
        selected, label = session.selection.notes(), session.labels.get(session.selection.current or "")
        if session.shown is None or session.frame is None or session.selection.current is None:
            self.page.setAccessibleName(translate("Gavotte", "The page"))
            return
        grid, labels = session.frame.grid, session.labels
        self.page.setAccessibleName(spoken_selection(session.shown, grid, labels, selected, session.selection.current))
        parts = [label.reason] if label is not None else []
        item, found = self.review.current, session.found
        if item is not None and found is not None:
            parts.append(self._asked(words_of(item, found)))
        self.page.setAccessibleDescription(" ".join(parts))

    def _show_selection(self) -> None:
        session = self._session
        selection = session.selection
        selected = session.selection.notes()
        self.page.set_selection(selection.anchor, selection.current, frozenset(selected))
        self.page.show_target(None)
        label = session.labels.get(session.selection.current or "")
        self.card.show_something(label is not None)
        self._speak()
        self.side.show_selection()
        if label is not None and session.shown is not None and session.frame is not None:
            self.card.show_note(session.shown, session.frame, label, self._group_of(label))
        self.keep.setEnabled(len(selected) > 1)
        self.keep.setText(
            translate("Gavotte", "Keep as lick…")
            if len(selected) < 2
            else translate("Gavotte", "Keep {number} notes as lick…").format(number=len(selected))
        )
