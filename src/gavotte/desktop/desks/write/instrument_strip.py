"""The strip under the page: a keyboard or a fretboard to write with, and the MIDI keyboard that is listened to."""

from __future__ import annotations

from PyQt6.QtCore import QSettings, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QInputDialog, QLabel, QStackedWidget, QVBoxLayout, QWidget

from gavotte.desktop.core_words import TUNING_WORDS
from gavotte.desktop.desks.write.instrument_view import Fretboard, Moment, PlayedKeyboard
from gavotte.desktop.playback.midi_keyboard import MidiKeyboard
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import said, translate
from gavotte.desktop.widgets.choice import Choice
from gavotte.solo.document import Solo
from gavotte.solo.strings import TUNINGS, Tuning
from gavotte.theory.pitch import PitchError

_KEYBOARD, _OWN = "keyboard", "own"


class InstrumentStrip(QWidget):
    """The instrument under the page: a keyboard or a fretboard with the chord of the moment.

    Signals: ``played(midi, string)``, ``released(midi)`` of a MIDI keyboard's keys, ``failed(message)``. ``midi`` is
    the MIDI keyboard.
    """

    played = pyqtSignal(int, int)
    released = pyqtSignal(int)
    failed = pyqtSignal(str)

    def __init__(self, settings: QSettings) -> None:
        super().__init__()
        self.setObjectName("chrome")
        self._settings = settings
        self._instrument = ""
        self.midi = MidiKeyboard(self)
        self.keyboard, self.fretboard = PlayedKeyboard(), Fretboard()
        self._views = QStackedWidget()
        self._views.setFixedHeight(self.keyboard.height())
        for view in (self.keyboard, self.fretboard):
            self._views.addWidget(view)
        self.over = QLabel()
        self.over.setObjectName("quiet")
        self.over.setWordWrap(True)
        self.kind = Choice()
        self.kind.setAccessibleName(translate("Gavotte", "Write with"))
        self.kind.setToolTip(
            translate("Gavotte", "What is shown to write with: a keyboard, or the strings of a tuning")
        )
        self.kind.activated.connect(self._choose_kind)
        self.device = Choice()
        self.device.setAccessibleName(translate("Gavotte", "MIDI keyboard"))
        self.device.setToolTip(
            translate(
                "Gavotte", "The keyboard that writes notes at the caret: a MIDI keyboard, or the one on the screen"
            )
        )
        self.device.activated.connect(self._choose_device)
        column = QVBoxLayout()
        column.setSpacing(6)
        column.addWidget(self.kind)
        column.addWidget(self.device)
        column.addWidget(self.over)
        column.addStretch(1)
        row = QHBoxLayout(self)
        row.setContentsMargins(16, 8, 16, 8)
        row.setSpacing(12)
        row.addLayout(column)
        row.addWidget(self._views, 1)
        self.keyboard.played.connect(lambda midi, _: self.midi.play(midi))
        self.midi.played.connect(lambda midi: self.played.emit(midi, 0))
        self.midi.released.connect(self.released)
        self.fretboard.played.connect(self.played)
        self.midi.failed.connect(self.failed)
        for choice in (self.kind, self.device):
            choice.setFixedWidth(148)
        self.over.setFixedWidth(148)
        self._tunings: list[Tuning] = [*TUNINGS]
        self._fill_kinds()
        self.refresh_devices()

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self.keyboard.set_palette(palette)
        self.fretboard.set_palette(palette)

    def _fill_kinds(self) -> None:
        own = str(self._settings.value("tuning", ""))
        self._tunings = [*TUNINGS]
        if own:
            try:
                self._tunings.append(Tuning.parse(own))
            except PitchError:
                self._settings.remove("tuning")
        self.kind.clear()
        self.kind.addItem(translate("Gavotte", "Keyboard"), _KEYBOARD)
        for index, tuning in enumerate(self._tunings):
            own_words = said(TUNING_WORDS[index]) if index < len(TUNINGS) else tuning.name
            self.kind.addItem(own_words, index)
        self.kind.addItem(translate("Gavotte", "Other strings…"), _OWN)

    def show_solo(self, solo: Solo) -> None:
        """Fit the keyboard to the instrument, and show strings for one that has them."""
        self.keyboard.show_range(solo.instrument.lowest, solo.instrument.highest)
        kept = self._settings.value(f"strings/{solo.instrument.name}", None)
        self._instrument = solo.instrument.name
        usual = {"Guitar": 0, "Bass": 1}.get(solo.instrument.name)
        data: object = kept if kept is not None else _KEYBOARD if usual is None else usual
        index = self.kind.findData(int(str(data)) if str(data).isdigit() else data)
        self.kind.setCurrentIndex(max(0, index))
        self._show_kind()

    def _show_kind(self) -> None:
        data = self.kind.currentData()
        if isinstance(data, int) and data < len(self._tunings):
            self.fretboard.show_tuning(self._tunings[data])
            self._views.setCurrentWidget(self.fretboard)
        else:
            self._views.setCurrentWidget(self.keyboard)

    def _choose_kind(self) -> None:
        if self.kind.currentData() == _OWN:
            self._ask_for_tuning()
        else:
            self._keep_kind()
        self._show_kind()

    def _keep_kind(self) -> None:
        self._settings.setValue(f"strings/{self._instrument}", self.kind.currentData())

    def _ask_for_tuning(self) -> None:
        shown = self._views.currentWidget()
        before = self.fretboard.tuning.text
        text, taken = QInputDialog.getText(
            self,
            translate("Gavotte", "Other strings"),
            translate("Gavotte", "Open strings, the lowest first, as they sound:"),
            text=before,
        )
        if taken and self.use_tuning(text):
            return
        # Back to what was shown.
        current = 0 if shown is self.keyboard else self.kind.findData(self._tunings.index(self.fretboard.tuning))
        self.kind.setCurrentIndex(max(0, current))

    def use_tuning(self, text: str) -> bool:
        """Show the strings of a tuning given as text, and keep it; False where it can't be read."""
        try:
            tuning = Tuning.parse(text)
        except PitchError as error:
            self.failed.emit(str(error))
            return False
        self._settings.setValue("tuning", tuning.text)
        self._fill_kinds()
        self.kind.setCurrentIndex(self.kind.findData(len(self._tunings) - 1))
        self._keep_kind()
        self._show_kind()
        return True

    def refresh_devices(self) -> None:
        """Look which MIDI keyboards are connected."""
        names = self.midi.devices()
        self.device.clear()
        # Where there is no keyboard to be connected, the one on the screen stands in for it.
        self.device.addItem(translate("Gavotte", "On the screen"), "")
        for name in names:
            self.device.addItem(name, name)
        self.device.setEnabled(bool(names))
        kept = str(self._settings.value("midi", ""))
        if kept in names and self.midi.open(kept):
            self.device.setCurrentIndex(self.device.findData(kept))

    def _choose_device(self) -> None:
        name = self.device.currentData()
        if self.midi.open(name):
            self._settings.setValue("midi", name)
        else:
            self.device.setCurrentIndex(0)

    def show_moment(self, moment: Moment, over: str) -> None:
        """Show the chord of the moment."""
        self.over.setText(over)
        self.keyboard.show_moment(moment)
        self.fretboard.show_moment(moment)

    def close_devices(self) -> None:
        """Let go of the MIDI keyboard."""
        self.midi.close()
