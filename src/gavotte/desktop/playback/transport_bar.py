"""The bar under the page: play, loop, count-in, tempo, swing and levels."""

from __future__ import annotations

from fractions import Fraction

from PyQt6.QtCore import QPoint, Qt, pyqtSignal
from PyQt6.QtWidgets import QFrame, QGridLayout, QHBoxLayout, QLabel, QPushButton, QSlider, QWidget

from gavotte.desktop.playback.transport import VOICE_WORDS, Transport
from gavotte.desktop.theme.icons import icon
from gavotte.desktop.theme.palette import DAY, Palette
from gavotte.desktop.translation import QT_TRANSLATE_NOOP, said, translate
from gavotte.desktop.widgets.choice import Choice
from gavotte.desktop.widgets.header import tool_button
from gavotte.solo.document import Solo
from gavotte.sounding.engine import FASTEST, SLOWEST

_SWINGS = (
    (QT_TRANSLATE_NOOP("Gavotte", "Swing: as the style"), None),
    (QT_TRANSLATE_NOOP("Gavotte", "Even eighths"), Fraction(1)),
    (QT_TRANSLATE_NOOP("Gavotte", "Light swing, 3 to 2"), Fraction(3, 2)),
    (QT_TRANSLATE_NOOP("Gavotte", "Triplet swing, 2 to 1"), Fraction(2)),
    (QT_TRANSLATE_NOOP("Gavotte", "Hard swing, 3 to 1"), Fraction(3)),
)
_STEP = 5


class TransportBar(QWidget):
    """Shows and sets what the transport does. ``play_wanted`` asks to play or stop."""

    play_wanted = pyqtSignal()

    def __init__(self, transport: Transport) -> None:
        super().__init__()
        self.setObjectName("transport")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self._transport = transport
        self._palette: Palette = DAY
        self._solo: Solo | None = None
        self.play = tool_button(
            translate("Gavotte", "Play from the selected note, or just the selected notes"),
            translate("Gavotte", "Play"),
        )
        self.loop = tool_button(
            translate("Gavotte", "Play the selected notes, or everything, round and round"),
            translate("Gavotte", "Loop"),
            True,
        )
        self.count_in = QPushButton(translate("Gavotte", "Count in"))
        self.count_in.setCheckable(True)
        self.count_in.setToolTip(translate("Gavotte", "Count a bar before the start"))
        self.tempo = QSlider(Qt.Orientation.Horizontal)
        self.tempo.setRange(round(SLOWEST * 100), round(FASTEST * 100))
        self.tempo.setSingleStep(1)
        self.tempo.setPageStep(_STEP)
        self.tempo.setFixedWidth(160)
        self.tempo.setAccessibleName(translate("Gavotte", "Tempo in percent"))
        self.tempo.setToolTip(translate("Gavotte", "Tempo, 25 to 130 % ([ slower, ] faster, = as it is)"))
        self.tempo_words = QLabel()
        self.tempo_words.setMinimumWidth(132)
        self.swing = Choice()
        self.swing.setAccessibleName(translate("Gavotte", "Swing"))
        self.swing.setToolTip(translate("Gavotte", "How long the first of two eighths is against the second"))
        for words, swing in _SWINGS:
            self.swing.addItem(said(words), swing)
        self.levels = QPushButton(translate("Gavotte", "Levels"))
        self.levels.setToolTip(translate("Gavotte", "How loud solo, bass, chords, drums and click are"))
        self.place = QLabel()
        self.place.setObjectName("quietBody")
        row = QHBoxLayout(self)
        row.setContentsMargins(16, 6, 16, 6)
        row.setSpacing(8)
        for widget in (self.play, self.loop, self.count_in):
            row.addWidget(widget)
        row.addSpacing(8)
        row.addWidget(self.tempo)
        row.addWidget(self.tempo_words)
        row.addWidget(self.place, 1)
        row.addWidget(self.swing)
        row.addWidget(self.levels)
        self.level_sliders = _Levels(self, transport)
        self._connect()
        self._show_settings()

    def _connect(self) -> None:
        transport = self._transport
        self.play.clicked.connect(self.play_wanted)
        self.loop.toggled.connect(transport.set_loop)
        self.count_in.toggled.connect(transport.set_count_in)
        self.tempo.valueChanged.connect(lambda percent: transport.set_rate(percent / 100))
        self.swing.activated.connect(lambda _: transport.set_swing(self.swing.currentData()))
        self.levels.clicked.connect(self._show_levels)
        transport.settings_changed.connect(self._show_settings)
        transport.playing_changed.connect(self._show_playing)

    def slower(self) -> None:
        """Five percent slower."""
        self.tempo.setValue(self.tempo.value() - _STEP)

    def faster(self) -> None:
        """Five percent faster."""
        self.tempo.setValue(self.tempo.value() + _STEP)

    def as_it_is(self) -> None:
        """The solo's own tempo."""
        self.tempo.setValue(100)

    def show_solo(self, solo: Solo | None) -> None:
        """Show the tempo of this solo."""
        self._solo = solo
        self._show_settings()

    def show_place(self, words: str) -> None:
        """Say where the playhead is."""
        self.place.setText(words)

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self._palette = palette
        self.loop.setIcon(icon("loop", palette.text, 20))
        self._show_playing(self._transport.is_playing)

    def _show_playing(self, playing: bool) -> None:
        self.play.setIcon(icon("stop" if playing else "play", self._palette.accent, 22))
        self.play.setAccessibleName(translate("Gavotte", "Stop") if playing else translate("Gavotte", "Play"))
        if not playing:
            self.place.clear()

    def _show_settings(self) -> None:
        transport = self._transport
        for widget in (self.loop, self.count_in, self.tempo, self.swing):
            widget.blockSignals(True)
        self.loop.setChecked(transport.loop)
        self.count_in.setChecked(transport.count_in)
        self.tempo.setValue(round(transport.rate * 100))
        index = next((i for i, (_, swing) in enumerate(_SWINGS) if swing == transport.swing), 0)
        self.swing.setCurrentIndex(index)
        for widget in (self.loop, self.count_in, self.tempo, self.swing):
            widget.blockSignals(False)
        words = f"{round(transport.rate * 100)} %"
        beats = self._solo.beats_a_minute if self._solo is not None else None
        if beats:
            words += translate("Gavotte", " · {number} a minute").format(number=round(beats * transport.rate))
        self.tempo_words.setText(words)

    def _show_levels(self) -> None:
        panel = self.level_sliders
        panel.adjustSize()
        corner = self.levels.mapToGlobal(QPoint(self.levels.width(), 0))
        panel.move(corner - QPoint(panel.width(), panel.height() + 4))
        panel.show()
        panel.setFocus()


class _Levels(QFrame):
    """A slider for each voice, shown above the button."""

    def __init__(self, parent: QWidget, transport: Transport) -> None:
        super().__init__(parent, Qt.WindowType.Popup)
        self.setObjectName("popup")
        grid = QGridLayout(self)
        grid.setContentsMargins(16, 12, 16, 12)
        grid.setHorizontalSpacing(12)
        grid.setVerticalSpacing(8)
        self.sliders = {}
        for row, (voice, word) in enumerate(VOICE_WORDS.items()):
            slider = QSlider(Qt.Orientation.Horizontal)
            slider.setRange(0, 100)
            slider.setFixedWidth(180)
            slider.setValue(round(transport.levels[voice] * 100))
            slider.setAccessibleName(translate("Gavotte", "Level: {voice}").format(voice=said(word)))
            slider.valueChanged.connect(lambda percent, v=voice: transport.set_level(v, percent / 100))
            grid.addWidget(QLabel(said(word)), row, 0)
            grid.addWidget(slider, row, 1)
            self.sliders[voice] = slider
