"""First steps: a strip over the desk that leads through the work once, step by step, and can be left at any of them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING

from PyQt6.QtCore import QSettings, Qt, pyqtBoundSignal
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from gavotte.desktop.desks.vocabulary.desk import VocabularyDesk
from gavotte.desktop.translation import translate

if TYPE_CHECKING:
    from gavotte.desktop.shell.window import MainWindow

_KEPT = "first_steps"


@dataclass(frozen=True)
class Step:
    """One step: its name, what to do, what is said when it was done, the desk it is done at, the signal that may mean
    that it was done, and what says whether it was.
    """

    name: str
    words: str
    well_done: str
    desk: str
    watched: pyqtBoundSignal
    is_done: Callable[[], bool]


class FirstSteps(QWidget):
    """Hidden until it is begun. ``number`` is the step that is shown, from 0; ``is_done`` whether it was done."""

    def __init__(self, window: MainWindow, settings: QSettings) -> None:
        super().__init__()
        self.setObjectName("notice")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self._window, self._settings = window, settings
        self.heading, self.text = QLabel(), QLabel()
        self.heading.setObjectName("heading")
        self.text.setWordWrap(True)
        self.next_button = QPushButton()
        self.next_button.setObjectName("primary")
        self.leave_button = QPushButton(translate("Gavotte", "Leave"))
        self.leave_button.setToolTip(translate("Gavotte", "Leave the first steps; the Help menu has them"))
        self.steps: tuple[Step, ...] = ()
        self.number, self.is_done = 0, False
        self._licks = self._practised = 0
        words = QVBoxLayout()
        words.setSpacing(2)
        words.addWidget(self.heading)
        words.addWidget(self.text)
        row = QHBoxLayout(self)
        row.setContentsMargins(20, 8, 16, 8)
        row.setSpacing(8)
        row.addLayout(words, 1)
        row.addWidget(self.next_button)
        row.addWidget(self.leave_button)
        self.next_button.clicked.connect(lambda: self.go_on())
        self.leave_button.clicked.connect(lambda: self.leave())
        self.hide()

    def offer(self) -> None:
        """Begin where this was never begun before, and there is a solo to do it with."""
        if not self._settings.value(_KEPT) and self._first_solo() is not None:
            self.begin()

    def begin(self) -> None:
        """Begin with the first step."""
        if self._first_solo() is None:
            words = translate("Gavotte", "The first steps need a solo. Import one, or start with the demo.")
            self._window.notice.say(words)
            return
        # Whatever happens from here on, it does not come back by itself.
        self._settings.setValue(_KEPT, "begun")
        if not self.steps:
            self.steps = self._made()
            for step in self.steps:
                step.watched.connect(self._look)
        self._show(0)
        self.show()

    def leave(self) -> None:
        """Put the steps away."""
        self.hide()
        self._window.desk.focus().setFocus()

    def go_on(self) -> None:
        """Show the next step, at its desk; behind the last one the steps are over."""
        if self.number + 1 < len(self.steps):
            self._show(self.number + 1)
        else:
            self.leave()

    def _first_solo(self) -> str | None:
        """The solo the steps begin with: the one that is open, else the first that is no head and has notes."""
        if self._window.session.solo_id is not None:
            return self._window.session.solo_id
        solos = self._window.studio.library.solos()
        return next((entry.id for entry in solos if entry.is_solo), None)

    def _show(self, number: int) -> None:
        self.number, self.is_done = number, False
        step, window = self.steps[number], self._window
        self._licks, self._practised = self._counts()
        first = self._first_solo()
        if window.session.solo_id is None and first is not None:
            window.open_solo(first)
        window.show_desk(step.desk)
        # What is to be pressed goes to the page, not to the button that led here.
        window.desk.focus().setFocus()
        self._tell()

    def _counts(self) -> tuple[int, int]:
        library = self._window.studio.library
        return library.counts()[1], len(library.documents("practice"))

    def _look(self) -> None:
        """Something happened that may be what the step asks for."""
        if self.isVisible() and not self.is_done and self.steps[self.number].is_done():
            self.is_done = True
            self._tell()

    def _tell(self) -> None:
        step, last = self.steps[self.number], len(self.steps) - 1
        place = translate("Gavotte", "{number} of {all}").format(number=self.number + 1, all=len(self.steps))
        self.heading.setText(f"{step.name} · {place}")
        self.text.setText(step.well_done if self.is_done else step.words)
        following = self.steps[self.number + 1].name if self.number < last else ""
        self.next_button.setText(
            translate("Gavotte", "Next: {name}").format(name=following.lower())
            if following
            else translate("Gavotte", "Done")
        )
        self.next_button.setToolTip(self.next_button.text())
        # Read out where it is listened to.
        self.setAccessibleName(f"{self.heading.text()}. {self.text.text()}")

    def _made(self) -> tuple[Step, ...]:
        window = self._window
        studio, session = window.studio, window.session
        vocabulary = window.desks["vocabulary"]
        assert isinstance(vocabulary, VocabularyDesk)
        keys = vocabulary.all_keys
        hear, why, correct, keep, twelve, practise = (
            (
                translate("Gavotte", "Hear"),
                translate("Gavotte", "Press Space: you hear the line with its band. Space again stops."),
                translate("Gavotte", "That is the line, with its bends and ghost notes. Space stops it."),
            ),
            (
                translate("Gavotte", "See why"),
                translate(
                    "Gavotte", "Click a note, or use the arrow keys. The card on the right says what it does, and why."
                ),
                translate("Gavotte", "The shape under the note tells its function, too: “What is this?” has them all."),
            ),
            (
                translate("Gavotte", "Correct"),
                translate("Gavotte", "Heard otherwise? 1 to 5: chord tone, extension, passing, approach, outside."),
                translate("Gavotte", "Your decision stays, whatever the rules say. Ctrl+Z takes it back."),
            ),
            (
                translate("Gavotte", "Keep"),
                translate("Gavotte", "Hold Shift and press → a few times, then K: these notes become a lick."),
                translate("Gavotte", "It is in your vocabulary now, with a name from its harmony."),
            ),
            (
                translate("Gavotte", "Twelve keys"),
                translate("Gavotte", "Here are your licks. Ctrl+2 shows the chosen one in all twelve keys."),
                translate("Gavotte", "Space plays them one after the other."),
            ),
            (
                translate("Gavotte", "Practise"),
                translate("Gavotte", "Ctrl+Alt+P adds the lick to what you practise; F8 goes there, Space begins."),
                translate("Gavotte", "It comes back as often as you need it. The guide has the rest of the way."),
            ),
        )
        return (
            Step(*hear, "label", studio.transport.playing_changed, lambda: studio.transport.is_playing),
            Step(*why, "label", session.selection.changed, lambda: True),
            Step(*correct, "label", session.edited, lambda: True),
            Step(*keep, "label", studio.edits.changed, lambda: self._counts()[0] > self._licks),
            Step(*twelve, "vocabulary", keys.toggled, keys.isChecked),
            Step(*practise, "vocabulary", studio.edits.changed, lambda: self._counts()[1] > self._practised),
        )
