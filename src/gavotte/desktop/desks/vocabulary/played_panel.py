"""Playing what one looks for: keys on the screen, a MIDI keyboard, and a rhythm that is tapped."""

from __future__ import annotations

from fractions import Fraction

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from gavotte.desktop.playback.midi_keyboard import MidiKeyboard
from gavotte.desktop.playback.rhythm_taps import Press, RhythmTaps
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.keyboard_strip import KeyboardStrip
from gavotte.vocabulary.tapping import played_move, tapped_rhythm

_LOWEST = 60


class PlayedPanel(QWidget):
    """Keys, and a button to tap on. What is played on a connected MIDI keyboard counts as well.

    Signals: ``put_in(words)``, what was played or tapped, as words of a query; ``heard(midi)``, a key was pressed.
    """

    put_in = pyqtSignal(str)
    heard = pyqtSignal(int)

    def __init__(self) -> None:
        super().__init__()
        self._before: int | None = None
        self.keys = KeyboardStrip(_LOWEST)
        self.keys.setAccessibleName(translate("Gavotte", "Keys to play a line on"))
        self.keys.setToolTip(translate("Gavotte", "Play a line: it is found in any key"))
        self.device = MidiKeyboard(self)
        self.taps = RhythmTaps(lambda: None, self)
        self.tap = QPushButton(translate("Gavotte", "Tap a rhythm"))
        self.tap.setToolTip(translate("Gavotte", "Press it once, then on every note; it ends when you pause"))
        self.again = QPushButton(translate("Gavotte", "Begin again"))
        self.again.setToolTip(translate("Gavotte", "The next key begins another line"))
        self.about = QLabel()
        self.about.setObjectName("quiet")
        self.about.setWordWrap(True)
        buttons = QHBoxLayout()
        buttons.setSpacing(8)
        buttons.addWidget(self.tap)
        buttons.addWidget(self.again)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        column.addWidget(self.keys)
        column.addLayout(buttons)
        column.addWidget(self.about)
        self.setVisible(False)
        self.keys.played.connect(self.play)
        self.device.played.connect(self.play)
        self.tap.pressed.connect(lambda: self.taps.tap(Fraction(0), None))
        self.again.clicked.connect(self._begin_line)
        self.taps.counted.connect(self._count)
        self.taps.tapped.connect(self._tapped)

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self.keys.palette_in_use = palette
        self.keys.update()

    def begin(self) -> None:
        """Listen to the first MIDI keyboard there is."""
        devices = self.device.devices()
        if devices:
            self.device.open(devices[0])
        self._begin_line()

    def end(self) -> None:
        """Listen to nothing more."""
        self.device.close()
        self.taps.forget()

    def _begin_line(self) -> None:
        self._before = None
        here = translate("Gavotte", "Play the first note, then the others.")
        name = (
            translate("Gavotte", "{device} is heard too.").format(device=self.device.name) if self.device.name else ""
        )
        self.about.setText(f"{here} {name}".strip())

    def play(self, midi: int) -> None:
        """A key was pressed: the move to it is asked for, wherever the line stands."""
        self.heard.emit(midi)
        before, self._before = self._before, midi
        if before is not None:
            self.put_in.emit(played_move(before, midi))

    def _count(self, number: int) -> None:
        self.about.setText(
            translate("Gavotte", "Tapped: {number}").format(number=number)
            if number
            else translate("Gavotte", "Now tap every note.")
        )

    def _tapped(self, presses: list[Press]) -> None:
        words = tapped_rhythm([float(press.onset) for press in presses])
        if words:
            self.put_in.emit(words)
