"""The bar under the wave: play, loop, speed, pitch, and what is to be brought out."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QSlider, QVBoxLayout, QWidget

from gavotte.desktop.playback.deck import PASSES, Deck
from gavotte.desktop.theme.icons import icon
from gavotte.desktop.theme.palette import DAY, Palette
from gavotte.desktop.translation import QT_TRANSLATE_NOOP, said, translate
from gavotte.desktop.widgets.choice import Choice
from gavotte.desktop.widgets.header import tool_button
from gavotte.desktop.widgets.number import Number
from gavotte.recording.filters import Side
from gavotte.recording.player import FASTEST, SLOWEST

_STEP = 5
_SIDES = (
    (QT_TRANSLATE_NOOP("Gavotte", "Both sides"), Side.BOTH),
    (QT_TRANSLATE_NOOP("Gavotte", "Left"), Side.LEFT),
    (QT_TRANSLATE_NOOP("Gavotte", "Right"), Side.RIGHT),
    (QT_TRANSLATE_NOOP("Gavotte", "Middle"), Side.MIDDLE),
    (QT_TRANSLATE_NOOP("Gavotte", "Edges"), Side.EDGES),
)
_BANDS = (
    (QT_TRANSLATE_NOOP("Gavotte", "Whole sound"), None),
    (QT_TRANSLATE_NOOP("Gavotte", "Bass, 40 to 250 Hz"), (40.0, 250.0)),
    (QT_TRANSLATE_NOOP("Gavotte", "Low, 120 to 700 Hz"), (120.0, 700.0)),
    (QT_TRANSLATE_NOOP("Gavotte", "Middle, 300 to 1,600 Hz"), (300.0, 1600.0)),
    (QT_TRANSLATE_NOOP("Gavotte", "High, 1,000 to 5,000 Hz"), (1000.0, 5000.0)),
)
_OWN = "own"
_USUAL_BAND = (200.0, 3000.0)
_LOWEST_HZ, _HIGHEST_HZ = 30.0, 15_000.0


class ListenBar(QWidget):
    """Shows the deck's settings and changes them. Signals: ``play_wanted``, ``tap_wanted``."""

    play_wanted = pyqtSignal()
    tap_wanted = pyqtSignal()

    def __init__(self, deck: Deck) -> None:
        super().__init__()
        self.setObjectName("transport")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self._deck = deck
        self._palette: Palette = DAY
        self._fields()
        self._lay_out()
        self._connect()
        self._show_settings()

    def _fields(self) -> None:
        self.play = tool_button(translate("Gavotte", "Play or stop"), translate("Gavotte", "Play"))
        self.loop = tool_button(
            translate("Gavotte", "Round and round the chosen stretch"), translate("Gavotte", "Loop")
        )
        self.loop.setCheckable(True)
        self.speed = QSlider(Qt.Orientation.Horizontal)
        self.speed.setRange(round(100 * SLOWEST), round(100 * FASTEST))
        self.speed.setPageStep(_STEP)
        self.speed.setFixedWidth(160)
        self.speed.setAccessibleName(translate("Gavotte", "Speed in percent"))
        self.speed.setToolTip(translate("Gavotte", "Speed, 20 to 130 %, the pitch stays ([ slower, ] faster, = full)"))
        self.speed_words = QLabel()
        self.speed_words.setMinimumWidth(48)
        self.ladder = _button(translate("Gavotte", "Ladder"), True)
        self.ladder.setToolTip(
            translate("Gavotte", "Begin the loop at half speed and add 5 % after every {number} passes").format(
                number=PASSES
            )
        )
        self.pause = Number(0, 10, 0.5, 1, "s")
        self.pause.setToolTip(translate("Gavotte", "Pause between two passes of the loop"))
        self.pause.setAccessibleName(translate("Gavotte", "Pause"))
        self.semitones = Number(-12, 12, 1)
        self.semitones.setToolTip(translate("Gavotte", "Semitones up or down"))
        self.semitones.setAccessibleName(translate("Gavotte", "Semitones"))
        self.cents = Number(-100, 100, 1)
        self.cents.setToolTip(translate("Gavotte", "Cents up or down, for a recording that is not in tune"))
        self.cents.setAccessibleName(translate("Gavotte", "Cents"))
        self.side = Choice()
        self.side.setAccessibleName(translate("Gavotte", "Side"))
        self.side.setToolTip(translate("Gavotte", "Which side of the stereo picture is heard"))
        for words, side in _SIDES:
            self.side.addItem(said(words), side)
        self.band = Choice()
        self.band.setAccessibleName(translate("Gavotte", "Band"))
        self.band.setToolTip(translate("Gavotte", "Which frequencies are heard"))
        for words, band in _BANDS:
            self.band.addItem(said(words), band)
        self.band.addItem(translate("Gavotte", "Own band"), _OWN)
        self.low = Number(_LOWEST_HZ, _HIGHEST_HZ, 20, 0, "Hz")
        self.high = Number(_LOWEST_HZ, _HIGHEST_HZ, 100, 0, "Hz")
        for field, words in (
            (self.low, translate("Gavotte", "Lowest frequency that is heard")),
            (self.high, translate("Gavotte", "Highest frequency that is heard")),
        ):
            field.setAccessibleName(words)
            field.setToolTip(words)
            field.setKeyboardTracking(False)
        self.click = _button(translate("Gavotte", "Click"), True)
        self.click.setToolTip(translate("Gavotte", "Hear the beats with the recording"))
        self.tap = _button(translate("Gavotte", "Tap"), False)
        self.tap.setToolTip(translate("Gavotte", "Tap on every beat while it plays"))
        self.place = QLabel()
        self.place.setObjectName("quietBody")

    def _lay_out(self) -> None:
        first, second = QHBoxLayout(), QHBoxLayout()
        for row in (first, second):
            row.setSpacing(8)
        for widget in (self.play, self.loop, self.speed, self.speed_words, self.ladder):
            first.addWidget(widget)
        first.addWidget(_quiet(translate("Gavotte", "Pause")))
        first.addWidget(self.pause)
        first.addWidget(self.place, 1)
        first.addWidget(self.click)
        first.addWidget(self.tap)
        second.addWidget(_quiet(translate("Gavotte", "Semitones")))
        second.addWidget(self.semitones)
        second.addWidget(_quiet(translate("Gavotte", "Cents")))
        second.addWidget(self.cents)
        second.addStretch(1)
        second.addWidget(self.side)
        second.addWidget(self.band)
        second.addWidget(self.low)
        second.addWidget(self.high)
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 6, 16, 6)
        column.setSpacing(6)
        column.addLayout(first)
        column.addLayout(second)

    def _connect(self) -> None:
        deck = self._deck
        self.play.clicked.connect(self.play_wanted)
        self.tap.clicked.connect(self.tap_wanted)
        self.loop.toggled.connect(deck.set_loop)
        self.speed.valueChanged.connect(lambda percent: deck.change(speed=percent / 100))
        self.ladder.toggled.connect(lambda on: deck.change(ladder=on))
        self.pause.valueChanged.connect(lambda seconds: deck.change(pause=seconds))
        self.semitones.valueChanged.connect(lambda value: deck.change(semitones=round(value)))
        self.cents.valueChanged.connect(lambda value: deck.change(cents=value))
        self.side.activated.connect(lambda _: deck.change(side=self.side.currentData()))
        self.band.activated.connect(lambda _: self._choose_band())
        self.low.valueChanged.connect(lambda _: self._set_band())
        self.high.valueChanged.connect(lambda _: self._set_band())
        self.click.toggled.connect(lambda on: deck.change(click=on))
        deck.settings_changed.connect(self._show_settings)
        deck.playing_changed.connect(self._show_playing)

    def _choose_band(self) -> None:
        band = self.band.currentData()
        self._deck.change(band=_USUAL_BAND if band == _OWN else band)

    def _set_band(self) -> None:
        """The edges as they were typed, a third of an octave apart at least."""
        low, high = sorted((self.low.value(), self.high.value()))
        self._deck.change(band=(low, min(_HIGHEST_HZ, max(high, low * 2 ** (1 / 3)))))

    def slower(self) -> None:
        """Five percent slower."""
        self.speed.setValue(self.speed.value() - _STEP)

    def faster(self) -> None:
        """Five percent faster."""
        self.speed.setValue(self.speed.value() + _STEP)

    def full(self) -> None:
        """The recording's own speed."""
        self.speed.setValue(100)

    def show_place(self, words: str) -> None:
        """Say where it is."""
        self.place.setText(words)

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self._palette = palette
        self.loop.setIcon(icon("loop", palette.text, 20))
        self._show_playing(self._deck.is_playing)

    def _show_playing(self, playing: bool) -> None:
        self.play.setIcon(icon("stop" if playing else "play", self._palette.accent, 22))
        self.play.setAccessibleName(translate("Gavotte", "Stop") if playing else translate("Gavotte", "Play"))

    def _show_settings(self) -> None:
        settings = self._deck.settings
        shown: tuple[QWidget, ...] = (
            self.loop, self.speed, self.ladder, self.pause, self.semitones, self.cents, self.click, self.low, self.high
        )  # fmt: skip
        for widget in shown:
            widget.blockSignals(True)
        self.loop.setChecked(settings.loop)
        self.speed.setValue(round(100 * settings.speed))
        self.ladder.setChecked(settings.ladder)
        self.pause.setValue(settings.pause)
        self.semitones.setValue(settings.semitones)
        self.cents.setValue(settings.cents)
        self.click.setChecked(settings.click)
        self.side.setCurrentIndex(self.side.findData(settings.side))
        known = [band for _, band in _BANDS]
        self.band.setCurrentIndex(known.index(settings.band) if settings.band in known else len(known))
        for field, edge in ((self.low, 0), (self.high, 1)):
            field.setVisible(settings.band is not None)
            field.setValue((settings.band or _USUAL_BAND)[edge])
        for widget in shown:
            widget.blockSignals(False)
        self.speed_words.setText(f"{round(100 * settings.speed)} %")


def _button(words: str, checkable: bool) -> QPushButton:
    button = QPushButton(words)
    button.setCheckable(checkable)
    return button


def _quiet(words: str) -> QLabel:
    label = QLabel(words)
    label.setObjectName("quiet")
    return label
