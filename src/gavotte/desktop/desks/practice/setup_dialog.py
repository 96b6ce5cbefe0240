"""How one sets oneself up to practise: pedals, the microphone's delay, breaks, and a word on ears and hands."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PyQt6.QtCore import QSettings
from PyQt6.QtWidgets import QGridLayout, QHBoxLayout, QLabel, QPushButton, QWidget

from gavotte.desktop.desks.practice.delays import SIMULATED, Delays, delay_words
from gavotte.desktop.desks.practice.pedals import ACTIONS, Pedals
from gavotte.desktop.desks.practice.words import CARE
from gavotte.desktop.playback.microphone import Microphone
from gavotte.desktop.translation import said, translate
from gavotte.desktop.widgets.choice import Choice
from gavotte.desktop.widgets.dialog import Dialog
from gavotte.desktop.widgets.header import rule
from gavotte.desktop.widgets.number import Number

BREAKS, USUAL_BREAK = "practice/break_minutes", 25
"""Where the settings keep after how many minutes a break is proposed (0: never), and the usual number."""


class SetupDialog(Dialog):
    """Everything in it takes effect at once. ``name`` gives the name of the microphone that is chosen (None where a
    keyboard is), ``microphone`` a source for it.
    """

    def __init__(
        self,
        parent: QWidget,
        settings: QSettings,
        pedals: Pedals,
        delays: Delays,
        name: Callable[[], str | None],
        microphone: Callable[[], Microphone],
    ) -> None:
        super().__init__(parent, translate("Gavotte", "Set up to practise"), translate("Gavotte", "Done"))
        self.no.hide()
        self._settings, self._pedals, self._delays = settings, pedals, delays
        self._name, self._microphone = name, microphone
        self.device = Choice()
        self.device.setAccessibleName(translate("Gavotte", "The pedals’ device"))
        self.learn: dict[str, QPushButton] = {}
        self.codes: dict[str, QLabel] = {}
        self.breaks = Number(0, 120, 5, unit=translate("Gavotte", "min"))
        self.breaks.setSpecialValueText(translate("Gavotte", "never"))
        self.breaks.setAccessibleName(translate("Gavotte", "Propose a break after"))
        self.breaks.setValue(break_minutes(settings))
        self.delay, self.problem = QLabel(), QLabel()
        self.measure, self.forget = QPushButton(), QPushButton(translate("Gavotte", "Forget it"))
        self._lay_out()
        self._fill_devices()
        self.device.activated.connect(self._choose_device)
        self.breaks.valueChanged.connect(lambda minutes: settings.setValue(BREAKS, int(minutes)))
        self.measure.clicked.connect(self._measure)
        self.forget.clicked.connect(lambda: delays.forget(name() or ""))
        pedals.learned.connect(self._show_pedals)
        delays.measured.connect(self._show_delay)
        delays.changed.connect(self._show_delay)
        delays.failed.connect(self._show_problem)
        self.finished.connect(lambda _: self._leave())
        self._show_pedals()
        self._show_delay()

    def _lay_out(self) -> None:
        self._head(translate("Gavotte", "Pedals"))
        words = translate(
            "Gavotte",
            "A pedal or key of a MIDI device can do these things. Press Learn, then the pedal. Pedals that act as a "
            "computer keyboard need nothing: Space plays, R records, C is a clean pass, N goes on.",
        )
        self._words(words)
        self.content.addWidget(self.device)
        grid = QGridLayout()
        grid.setHorizontalSpacing(12)
        grid.setVerticalSpacing(6)
        grid.setColumnStretch(0, 1)
        for place, (action, text) in enumerate(ACTIONS.items()):
            self.codes[action] = QLabel()
            self.codes[action].setObjectName("quietBody")
            button = self.learn[action] = QPushButton()
            button.clicked.connect(partial(self._learn, action))
            button.setFixedWidth(120)
            button.setMinimumHeight(34)
            grid.addWidget(QLabel(said(text)), place, 0)
            grid.addWidget(self.codes[action], place, 1)
            grid.addWidget(button, place, 2)
        self.content.addLayout(grid)
        self.content.addWidget(rule())
        self._head(translate("Gavotte", "Delay of the microphone"))
        self._words(
            translate(
                "Gavotte",
                "Eight clicks are played and listened to: put the microphone near the loudspeaker, or connect output "
                "and input. With headphones clap along; that is less exact.",
            )
        )
        row = QHBoxLayout()
        row.setSpacing(8)
        row.addWidget(self.measure)
        row.addWidget(self.forget)
        row.addWidget(self.delay, 1)
        self.content.addLayout(row)
        self.problem.setObjectName("quiet")
        self.problem.setWordWrap(True)
        self.content.addWidget(self.problem)
        self.content.addWidget(rule())
        self._head(translate("Gavotte", "Breaks"))
        rest = QHBoxLayout()
        rest.setSpacing(8)
        rest.addWidget(QLabel(translate("Gavotte", "Propose one after")))
        self.breaks.setFixedWidth(110)
        rest.addWidget(self.breaks)
        rest.addStretch(1)
        self.content.addLayout(rest)
        self._words(said(CARE))

    def _head(self, words: str) -> None:
        label = QLabel(words)
        label.setObjectName("heading")
        self.content.addWidget(label)

    def _words(self, words: str) -> None:
        label = QLabel(words)
        label.setObjectName("quietBody")
        label.setWordWrap(True)
        self.content.addWidget(label)

    def _fill_devices(self) -> None:
        names = self._pedals.keyboard.devices()
        none = translate("Gavotte", "No device") if names else translate("Gavotte", "No MIDI device is connected")
        self.device.addItem(none, "")
        for name in names:
            self.device.addItem(name, name)
        self.device.setCurrentIndex(max(0, self.device.findData(self._pedals.device)))
        self.device.setEnabled(bool(names))

    def _choose_device(self) -> None:
        self._pedals.choose(self.device.currentData())
        self._show_pedals()

    def _learn(self, action: str) -> None:
        if self._pedals.is_learning == action:
            self._pedals.learn("")
        elif self._pedals.code(action):
            self._pedals.forget(action)
        else:
            self._pedals.learn(action)

    def _show_pedals(self) -> None:
        for action, button in self.learn.items():
            code, learning = self._pedals.code(action), self._pedals.is_learning == action
            self.codes[action].setText(translate("Gavotte", "press it now…") if learning else code)
            button.setText(
                translate("Gavotte", "Stop")
                if learning
                else translate("Gavotte", "Forget")
                if code
                else translate("Gavotte", "Learn")
            )
            button.setAccessibleName(f"{button.text()}: {said(ACTIONS[action])}")
            button.setEnabled(bool(self._pedals.keyboard.name) or bool(code))

    def _measure(self) -> None:
        if self._delays.is_measuring:
            self._delays.stop()
            return
        name = self._name()
        self.problem.setText("")
        if name is None:
            self.problem.setText(
                translate("Gavotte", "A keyboard has no delay that matters. Choose a microphone at Take first.")
            )
            return
        self._delays.measure(self._microphone(), name)

    def _show_delay(self, _: str = "") -> None:
        name = self._name()
        measuring = self._delays.is_measuring
        self.measure.setText(translate("Gavotte", "Stop") if measuring else translate("Gavotte", "Measure"))
        known = self._delays.delay(name) if name is not None else None
        shown = translate("Gavotte", "the invented takes") if name == SIMULATED else name
        words = f"{shown}: {delay_words(known)}" if name is not None else ""
        if measuring:
            words = translate("Gavotte", "● The microphone is open")
        self.delay.setText(words)
        self.forget.setVisible(known is not None and not measuring)

    def _show_problem(self, message: str) -> None:
        self.problem.setText(message)

    def _leave(self) -> None:
        self._pedals.learn("")
        self._delays.stop()


def break_minutes(settings: QSettings) -> int:
    """After how many minutes of playing a break is proposed; 0 for never."""
    return int(settings.value(BREAKS, USUAL_BREAK))
