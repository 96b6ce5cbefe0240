"""The draft panel: what the machine hears, as a proposal that is taken phrase by phrase."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QListWidget, QListWidgetItem, QPushButton, QVBoxLayout, QWidget

from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.choice import Tick
from gavotte.desktop.words import counted
from gavotte.solo.bars import BarGrid
from gavotte.writing.drafting import Proposal, ProposedPhrase


class DraftPanel(QWidget):
    """The phrases of the draft, to be heard, taken or left.

    Signals: ``draft_wanted(whole)``, all that is not written or only the loop; ``phrase_chosen(index)``;
    ``take_wanted(index)``, ``leave_wanted(index)``, ``take_all_wanted``, ``leave_all_wanted``.
    """

    draft_wanted = pyqtSignal(bool)
    phrase_chosen = pyqtSignal(int)
    take_wanted = pyqtSignal(int)
    leave_wanted = pyqtSignal(int)
    take_all_wanted = pyqtSignal()
    leave_all_wanted = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        column.setSpacing(8)
        self.about = QLabel()
        self.about.setObjectName("quietBody")
        self.about.setWordWrap(True)
        column.addWidget(self.about)
        self.whole = QPushButton(translate("Gavotte", "Draft the whole solo"))
        self.whole.setObjectName("primary")
        self.whole.setToolTip(
            translate("Gavotte", "Listen to the recording and propose notes for every bar that has none")
        )
        self.loop = QPushButton(translate("Gavotte", "Draft the loop"))
        self.loop.setToolTip(
            translate(
                "Gavotte", "Propose notes for the stretch that is looped at the Listen desk, also over what is written"
            )
        )
        self.whole.clicked.connect(lambda: self.draft_wanted.emit(True))
        self.loop.clicked.connect(lambda: self.draft_wanted.emit(False))
        row = QHBoxLayout()
        row.setSpacing(8)
        row.addWidget(self.whole, 1)
        row.addWidget(self.loop)
        column.addLayout(row)
        self.by_chords = Tick(translate("Gavotte", "Chords count a little"))
        self.by_chords.setToolTip(
            translate(
                "Gavotte",
                "Where two pitches are about as likely, the one that is in the chord is written; outside notes get a "
                "little less likely",
            )
        )
        column.addWidget(self.by_chords)
        self.rows = QListWidget()
        self.rows.setAccessibleName(translate("Gavotte", "Drafted phrases"))
        self.rows.currentRowChanged.connect(self._chosen)
        column.addWidget(self.rows, 1)
        self.take, self.leave, self.take_all, self.leave_all = (
            QPushButton(words)
            for words in (
                translate("Gavotte", "Take it"),
                translate("Gavotte", "Leave it"),
                translate("Gavotte", "Take all"),
                translate("Gavotte", "Leave all"),
            )
        )
        self.take.setToolTip(translate("Gavotte", "Write this phrase onto the page"))
        self.leave.setToolTip(translate("Gavotte", "Drop this phrase, and keep what is written"))
        self.take_all.setToolTip(translate("Gavotte", "Write every phrase onto the page"))
        self.leave_all.setToolTip(translate("Gavotte", "Drop the whole draft"))
        self.take.clicked.connect(lambda: self.take_wanted.emit(self.rows.currentRow()))
        self.leave.clicked.connect(lambda: self.leave_wanted.emit(self.rows.currentRow()))
        self.take_all.clicked.connect(self.take_all_wanted)
        self.leave_all.clicked.connect(self.leave_all_wanted)
        self.buttons = QWidget()
        grid = QVBoxLayout(self.buttons)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(6)
        for pair in ((self.take, self.leave), (self.take_all, self.leave_all)):
            line = QHBoxLayout()
            line.setSpacing(6)
            for button in pair:
                line.addWidget(button, 1)
            grid.addLayout(line)
        column.addWidget(self.buttons)
        self._filler = QWidget()
        column.addWidget(self._filler, 1)
        self._proposal: Proposal = ()
        for widget in (self.rows, self.buttons):
            widget.hide()
        self.show_state(has_recording=False, has_beats=False, has_loop=False, has_notes=False, is_drafting=False)

    def show_state(
        self, *, has_recording: bool, has_beats: bool, has_loop: bool, has_notes: bool, is_drafting: bool
    ) -> None:
        """Say what can be done, and why not where it can't."""
        self.whole.setText(
            translate("Gavotte", "Draft the empty bars") if has_notes else translate("Gavotte", "Draft the whole solo")
        )
        ready = has_recording and has_beats and not is_drafting
        self.whole.setEnabled(ready)
        self.loop.setEnabled(ready and has_loop)
        if not has_recording:
            words = translate(
                "Gavotte", "A draft is made from a recording, and this solo has none. Open one with Ctrl+R."
            )
        elif not has_beats:
            words = translate("Gavotte", "The recording has no beats yet. Tap or find them at the Listen desk first.")
        elif is_drafting:
            words = translate("Gavotte", "Listening …")
        elif self._proposal:
            words = translate(
                "Gavotte",
                "A draft, no more: hear each phrase (H) before you take it. Notes marked ? were hard to hear.",
            )
        else:
            words = translate(
                "Gavotte",
                "The machine listens to the one who plays the line and proposes notes. It errs; nothing is written "
                "until you take it.",
            )
        self.about.setText(words)

    def show_proposal(self, proposal: Proposal, grid: BarGrid, current: int) -> None:
        """List the phrases that are still to be decided."""
        self._proposal = proposal
        self.rows.blockSignals(True)
        self.rows.clear()
        for phrase in proposal:
            self.rows.addItem(QListWidgetItem(_words(phrase, grid)))
        self.rows.setCurrentRow(current if proposal else -1)
        self.rows.blockSignals(False)
        for widget in (self.rows, self.buttons):
            widget.setVisible(bool(proposal))
        self._filler.setVisible(not proposal)

    def _chosen(self, row: int) -> None:
        if row >= 0:
            self.phrase_chosen.emit(row)


def _words(phrase: ProposedPhrase, grid: BarGrid) -> str:
    first, last = grid.at(phrase.start).number, grid.at(phrase.notes[-1].onset).number
    if first == last:
        bars = translate("Gavotte", "Bar {number}").format(number=first) if first else translate("Gavotte", "Pickup")
    elif first == 0:
        bars = translate("Gavotte", "Pickup to bar {last}").format(last=last)
    else:
        bars = translate("Gavotte", "Bars {first} to {last}").format(first=first, last=last)
    notes = counted(len(phrase.notes), "note")
    if not phrase.uncertain:
        return f"{bars} · {notes}"
    return f"{bars} · {notes}, " + translate("Gavotte", "{number} uncertain").format(number=phrase.uncertain)
