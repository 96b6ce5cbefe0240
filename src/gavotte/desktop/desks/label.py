"""The Label desk: what is each note's function, and why? The page with its lane, and the note card."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from gavotte.desktop.desks.nothing_open import NothingOpen
from gavotte.desktop.header import Header, rule
from gavotte.desktop.note_card import NoteCard
from gavotte.desktop.page.page_view import PageView
from gavotte.desktop.page.spoken import spoken_selection
from gavotte.desktop.paper.sheet import Sheet
from gavotte.desktop.session import SoloSession
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import translate
from gavotte.desktop.words import counted
from gavotte.engraving.engraver import Engraver
from gavotte.solo.document import Solo
from gavotte.solo.label import Label


class LabelDesk(QWidget):
    """Shows the session's solo. ``keep_wanted`` asks to keep the selection, ``shelf_wanted`` and ``new_wanted`` for a
    solo.
    """

    keep_wanted = pyqtSignal()
    shelf_wanted = pyqtSignal()
    new_wanted = pyqtSignal()

    def __init__(self, session: SoloSession, engraver: Engraver) -> None:
        super().__init__()
        self.setObjectName("desk")
        self._session = session
        self.page = PageView(engraver)
        self.card = NoteCard()
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
        row.addWidget(self.card)
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
        head = Header(self.doubts, self.keep)
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
        self.doubts.clicked.connect(self._next_in_doubt)
        self.keep.clicked.connect(self.keep_wanted)
        self._nothing.shelf_wanted.connect(self.shelf_wanted)
        self._nothing.new_wanted.connect(self.new_wanted)

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self.card.set_palette(palette)
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
        """From the page to the note card, or back."""
        (self.card.device if self.page.hasFocus() else self.page).setFocus()

    def _next_in_doubt(self) -> None:
        self._session.select_in_doubt(1)
        self.page.setFocus()

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
        self._show_doubts()
        self._show_selection()

    def _show_doubts(self) -> None:
        number = len(self._session.in_doubt())
        self.doubts.setEnabled(number > 0)
        self.doubts.setText(counted(number, "note in doubt") if number else translate("Gavotte", "No notes in doubt"))
        self.doubts.setToolTip(
            translate("Gavotte", "Go to the next note in doubt (Tab)")
            if number
            else translate("Gavotte", "Every label is sure enough")
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
        self.card.setVisible(label is not None)
        self._speak(selected, label)
        if label is not None and session.shown is not None and session.frame is not None:
            self.card.show_note(session.shown, session.frame, label)
        self.keep.setEnabled(len(selected) > 1)
        self.keep.setText(
            translate("Gavotte", "Keep as lick…")
            if len(selected) < 2
            else translate("Gavotte", "Keep {number} notes as lick…").format(number=len(selected))
        )
