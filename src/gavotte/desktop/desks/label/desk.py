"""The Label desk: what is each note's function, and why? The page with its lane, and what is said about it."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from gavotte.desktop.desks.label.filter_choice import EVERYTHING, SKELETON, FilterChoice
from gavotte.desktop.desks.label.reading_dialog import KeyDialog, ReadingDialog
from gavotte.desktop.desks.label.review import Review
from gavotte.desktop.desks.label.side import LabelSide
from gavotte.desktop.page.page_view import PageView
from gavotte.desktop.page.spoken import spoken_selection
from gavotte.desktop.paper.sheet import Sheet
from gavotte.desktop.solo.session import SoloSession
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.header import Header, rule
from gavotte.desktop.widgets.nothing_open import NothingOpen
from gavotte.desktop.words import counted
from gavotte.engraving.engraver import Engraver
from gavotte.harmony.keys import heard_keys, key_heard_at, with_key_heard
from gavotte.labelling.answers import with_reading
from gavotte.labelling.labeller import Labelled
from gavotte.labelling.overview import Group, groups
from gavotte.labelling.readings import reading_name
from gavotte.solo.document import Solo
from gavotte.solo.label import Label


class LabelDesk(QWidget):
    """Shows the session's solo. ``keep_wanted`` asks to keep the selection, ``shelf_wanted`` and ``new_wanted`` for a
    solo, ``play_wanted`` to let the selection sound, ``text_wanted`` for the analysis as a file.
    """

    keep_wanted = pyqtSignal()
    play_wanted = pyqtSignal()
    text_wanted = pyqtSignal()
    shelf_wanted = pyqtSignal()
    new_wanted = pyqtSignal()

    def __init__(self, session: SoloSession, engraver: Engraver, folder: Path) -> None:
        super().__init__()
        self.setObjectName("desk")
        self._session = session
        self._groups: dict[int, Group] = {}
        self._groups_of: Labelled | None = None
        self.page = PageView(engraver)
        self.review = Review(session, folder, self)
        self.side = LabelSide(session, self.review, folder)
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
        self._nothing = NothingOpen()
        layout.addWidget(self._nothing, 1)
        self._connect()
        self._show_solo()

    def _header(self) -> Header:
        self.doubts = QPushButton()
        self.keep = QPushButton(translate("Gavotte", "Keep as lick…"))
        self.keep.setObjectName("primary")
        self.keep.setToolTip(translate("Gavotte", "Keep the selected notes as a lick (K)"))
        self.filter = FilterChoice()
        self.filter.currentIndexChanged.connect(self._show_filter)
        head = Header(self.filter, self.doubts, self.keep)
        self.title, self.about = head.title, head.about
        return head

    def _connect(self) -> None:
        session = self._session
        session.solo_opened.connect(self._show_solo)
        session.labels_changed.connect(self._show_edit)
        session.selection_changed.connect(self._show_selection)
        self.page.selection_wanted.connect(session.select)
        self.card.function_chosen.connect(lambda function, device: session.decide(function, device or None))
        self.card.take_back_wanted.connect(session.take_back)
        self.card.target_pointed.connect(lambda note: self.page.show_target(note or None))
        self.card.target_chosen.connect(lambda note: session.select(note, note))
        self.card.figure_wanted.connect(self.play_figure)
        self.page.group_wanted.connect(self._choose_group)
        self.doubts.clicked.connect(self._work_the_queue)
        self.review.changed.connect(self._show_doubts)
        self.side.queue.went.connect(lambda: self.page.setFocus())
        self.side.page_changed.connect(self._show_selection)
        harmony, text = self.side.harmony, self.side.text
        harmony.note_wanted.connect(lambda note: session.select(note, note))
        harmony.reading_wanted.connect(self.set_reading)
        harmony.key_wanted.connect(self._set_key)
        text.bar_wanted.connect(self._go_to_bar)
        text.export_wanted.connect(self.text_wanted)
        self.side.school.failed.connect(session.failed)
        self.keep.clicked.connect(self.keep_wanted)
        self._nothing.shelf_wanted.connect(self.shelf_wanted)
        self._nothing.new_wanted.connect(self.new_wanted)

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self.side.set_palette(palette)
        self.page.set_palette(palette)
        self._show_selection()

    def sheet(self) -> Sheet | None:
        """The open solo as it is shown, for export."""
        solo = self._session.shown
        if solo is None or self._session.solo is None:
            return None
        parts = (solo.player, solo.instrument.name + self._pitch_words(), solo.style)
        concert = {label.note: label for label in self._session.concert_labels()}
        return Sheet(
            solo,
            self._session.labels,
            " · ".join(part for part in parts if part),
            concert=(self._session.solo, concert) if self._session.written else None,
            selected=self._session.selected(),
        )

    def switch_focus(self) -> None:
        """From the page to what stands beside it, or back."""
        beside: dict[str, QWidget] = {
            "note": self.card.device,
            "queue": self.side.queue.rows,
            "harmony": self.side.harmony.table,
            "text": self.side.text.field,
            "school": self.side.school.school,
        }
        (beside[self.side.page_shown] if self.page.hasFocus() else self.page).setFocus()

    # -- the queue ----------------------------------------------------------------------------------

    def _work_the_queue(self) -> None:
        self.side.show_page("queue")
        self.step_queue(1)
        self.page.setFocus()

    def step_queue(self, by: int) -> None:
        """Go to the next (1) or previous (-1) thing to look at."""
        self.review.step(by)

    def answer(self, take: bool) -> None:
        """Take what the queue suggests, or leave it; the queue is shown, for nobody answers what they don't see."""
        if self.side.page_shown != "queue":
            self.side.show_page("queue")
            if self.review.current is None:
                self.review.step(1)
                return
        if take:
            self.review.take()
        else:
            self.review.leave()

    # -- figures and readings -----------------------------------------------------------------------

    def _group_of(self, label: Label | None) -> Group | None:
        found = self._session.found
        if label is None or label.group is None or found is None:
            return None
        if found is not self._groups_of:
            self._groups, self._groups_of = groups(found), found
        return self._groups.get(label.group)

    def _choose_group(self, number: int) -> None:
        """Select a figure by its bracket, ring its target, and say what it is."""
        found = self._session.found
        if found is None:
            return
        group = self._group_of(next((label for label in found.labels if label.group == number), None))
        if group is not None:
            self.side.show_page("note")
            self._session.select(group.notes[0], group.notes[-1])
            self.page.show_target(group.target)
        self.page.setFocus()

    def play_figure(self) -> None:
        """Select the figure the current note belongs to, with the note it leads into, and let it sound."""
        session = self._session
        group = self._group_of(session.labels.get(session.current or ""))
        if group is not None:
            session.select(group.notes[0], group.target or group.notes[-1])
            self.play_wanted.emit()

    def set_reading(self) -> None:
        """Ask how the selected notes are heard."""
        session = self._session
        selected = session.selected()
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
        selected = session.selected()
        if session.found is None or session.solo is None or not selected:
            return
        solo, grid = session.solo, session.found.frame.grid
        first, last = grid.at(solo.note(selected[0]).onset), grid.at(solo.note(selected[-1]).onset)
        where = translate("Gavotte", "Bars {first} to {last}").format(first=max(1, first.number), last=last.number)
        region = key_heard_at(heard_keys(solo), first.onset).region
        dialog = self.key_dialog = KeyDialog(self, where, region)

        def take() -> None:
            if session.solo is not None:
                changed = with_key_heard(session.solo, first.onset, last.end, dialog.key, dialog.blues)
                session.edit(translate("Gavotte", "Hear {key}").format(key=dialog.key.shown), changed)

        dialog.accepted.connect(take)
        dialog.open()

    def _go_to_bar(self, onset: Fraction) -> None:
        solo = self._session.shown
        note = next((note.id for note in solo.notes if note.onset >= onset), None) if solo is not None else None
        if note is not None:
            self._session.select(note, note)

    # -- showing ------------------------------------------------------------------------------------

    def toggle_skeleton(self) -> None:
        """Show the skeleton alone, or all notes again."""
        self.filter.choose(EVERYTHING if self.filter.wanted == SKELETON else SKELETON)

    def _show_filter(self) -> None:
        found = self._session.found
        if found is not None:
            self.page.set_kept(self.filter.kept(found, self._session.labels))

    def _show_solo(self) -> None:
        solo = self._session.shown if self._session.solo is not None else None
        for widget in (self._head, self._body):
            widget.setVisible(solo is not None)
        self._nothing.setVisible(solo is None)
        if solo is None:
            self.page.clear()
            return
        self._show_head(solo)
        self.page.show_solo(solo, self._session.labels)
        self.side.school.load()
        self.side.refresh()
        self._show_filter()
        self._show_doubts()
        self._show_selection()

    def _show_head(self, solo: Solo) -> None:
        self.title.setText(solo.title)
        beats = solo.beats_a_minute
        tempo = translate("Gavotte", "{number} beats a minute").format(number=round(beats)) if beats else ""
        self.about.setText(
            " · ".join(
                part
                for part in (
                    solo.player,
                    solo.instrument.name + self._pitch_words(),
                    solo.keys[0].key.shown + (translate("Gavotte", ", blues") if solo.keys[0].blues else ""),
                    solo.style,
                    tempo,
                )
                if part
            )
        )

    def _pitch_words(self) -> str:
        """For a transposing instrument, which pitch the page is in."""
        solo = self._session.solo
        if solo is None or not solo.instrument.transposition_semitones:
            return ""
        return (
            translate("Gavotte", " in written pitch")
            if self._session.written
            else translate("Gavotte", " in concert pitch")
        )

    def refresh(self) -> None:
        """Show the solo as it is now: edits at another desk cost nothing here until somebody looks."""
        self._show_edit()

    def _show_edit(self) -> None:
        solo = self._session.shown
        if solo is None or not self.isVisible():
            return
        self._show_head(solo)
        self.page.update_solo(solo, self._session.labels)
        self.side.refresh()
        self._show_filter()
        self._show_doubts()
        self._show_selection()

    def _show_doubts(self) -> None:
        number = len(self.review.items)
        self.side.show_number("queue", number)
        self.doubts.setEnabled(number > 0)
        self.doubts.setText(
            counted(number, "thing to look at") if number else translate("Gavotte", "Nothing to look at")
        )
        self.doubts.setToolTip(
            translate("Gavotte", "Go to the next thing to look at (Tab)")
            if number
            else translate("Gavotte", "Every label is sure enough, and nothing looks like a slip")
        )

    def _speak(self, selected: tuple[str, ...], label: Label | None) -> None:
        session = self._session
        if session.shown is None or session.frame is None or session.current is None:
            self.page.setAccessibleName(translate("Gavotte", "The page"))
            return
        grid, labels = session.frame.grid, session.labels
        self.page.setAccessibleName(spoken_selection(session.shown, grid, labels, selected, session.current))
        self.page.setAccessibleDescription(label.reason if label is not None else "")

    def _show_selection(self) -> None:
        session = self._session
        if not self.isVisible():
            return
        selected = session.selected()
        self.page.set_selection(session.anchor, session.current, frozenset(selected))
        self.page.show_target(None)
        label = session.labels.get(session.current or "")
        self.card.show_something(label is not None)
        self._speak(selected, label)
        self.side.show_selection()
        if label is not None and session.shown is not None and session.frame is not None:
            self.card.show_note(session.shown, session.frame, label, self._group_of(label))
        self.keep.setEnabled(len(selected) > 1)
        self.keep.setText(
            translate("Gavotte", "Keep as lick…")
            if len(selected) < 2
            else translate("Gavotte", "Keep {number} notes as lick…").format(number=len(selected))
        )
