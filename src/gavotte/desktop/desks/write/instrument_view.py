"""A keyboard and a fretboard to write with: they show the chord of the moment, its scale and the note at the caret."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from gavotte.desktop.painting import painting
from gavotte.desktop.theme.palette import DAY, Palette
from gavotte.desktop.theme.type import font
from gavotte.desktop.translation import translate
from gavotte.solo.strings import TUNINGS, Tuning
from gavotte.theory.pitch import spell

_WHITE = (0, 2, 4, 5, 7, 9, 11)
_INLAYS = {3, 5, 7, 9, 12, 15, 17, 19, 21}
FRETS_SHOWN = 17
HEIGHT = 104


@dataclass(frozen=True, slots=True)
class Moment:
    """What sounds at the caret: pitch classes of the chord and of its scale, the root, the note there and the string it
    is played on (0 where that is open).
    """

    tones: frozenset[int] = frozenset()
    scale: frozenset[int] = frozenset()
    root: int | None = None
    note: int | None = None
    string: int = 0


class InstrumentView(QWidget):
    """What the two have in common. Signal: ``played(midi, string)``; ``string`` is 0 on a keyboard."""

    played = pyqtSignal(int, int)

    def __init__(self) -> None:
        super().__init__()
        self.palette_in_use: Palette = DAY
        self.moment = Moment()
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFixedHeight(HEIGHT)
        self.setMouseTracking(True)

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self.palette_in_use = palette
        self.update()

    def show_moment(self, moment: Moment) -> None:
        """Show what sounds at the caret."""
        if moment != self.moment:
            self.moment = moment
            self.update()

    def place_at(self, point: QPointF) -> tuple[int, int] | None:
        """The (MIDI number, string) at a place, None beside it."""
        return None

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        place = self.place_at(event.position())
        if place is not None and event.button() == Qt.MouseButton.LeftButton:
            self.played.emit(*place)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        place = self.place_at(event.position())
        self.setToolTip("" if place is None else _name(place[0]))

    def _sign(
        self, painter: QPainter, midi: int, centre: QPointF, colour: QColor, frame: QColor, here: bool = True
    ) -> None:
        """A block for a chord tone, with a bar under the root; a ring for a scale tone; a frame for the note there,
        where it is played ``here``.
        """
        moment = self.moment
        if midi % 12 in moment.tones:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(colour)
            painter.drawRect(QRectF(centre.x() - 4, centre.y() - 4, 8, 8))
            if midi % 12 == moment.root:
                painter.drawRect(QRectF(centre.x() - 5, centre.y() + 6, 10, 2))
        elif midi % 12 in moment.scale:
            painter.setPen(QPen(colour, 1.5))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawEllipse(centre, 3.2, 3.2)
        if midi == moment.note and here:
            painter.setPen(QPen(frame, 2.4))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(QRectF(centre.x() - 7.5, centre.y() - 7.5, 15, 15), 3, 3)


class PlayedKeyboard(InstrumentView):
    """A piano keyboard over the instrument's range."""

    def __init__(self) -> None:
        super().__init__()
        self.lowest, self.highest = 48, 84
        self.setAccessibleName(translate("Gavotte", "Keyboard: click a key to write its pitch"))

    def show_range(self, lowest: int, highest: int) -> None:
        """Show the octaves that hold a range of MIDI numbers."""
        self.lowest, self.highest = lowest // 12 * 12, -(-highest // 12) * 12
        self.update()

    def _whites(self) -> list[int]:
        return [midi for midi in range(self.lowest, self.highest + 1) if midi % 12 in _WHITE]

    def key_box(self, midi: int) -> QRectF:
        """Where a key lies."""
        whites = self._whites()
        width = (self.width() - 1) / len(whites)
        if midi % 12 in _WHITE:
            return QRectF(whites.index(midi) * width, 0.5, width, self.height() - 1.5)
        left = (whites.index(midi - 1) + 1) * width
        return QRectF(left - 0.31 * width, 0.0, 0.62 * width, self.height() * 0.6)

    def place_at(self, point: QPointF) -> tuple[int, int] | None:
        keys = [midi for midi in range(self.lowest, self.highest + 1) if midi % 12 not in _WHITE] + self._whites()
        return next(((midi, 0) for midi in keys if self.key_box(midi).contains(point)), None)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        with painting(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            palette = self.palette_in_use
            for midi in self._whites():
                box = self.key_box(midi)
                painter.setPen(QPen(QColor(palette.rule), 1))
                painter.setBrush(QColor(palette.white_key))
                painter.drawRect(box)
                if midi % 12 == 0:
                    painter.setFont(font(10))
                    painter.setPen(QColor(palette.on_white_key))
                    painter.drawText(
                        box.adjusted(0, 0, 0, -1),
                        Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignBottom,
                        _name(midi),
                    )
                centre = QPointF(box.center().x(), box.bottom() - 26)
                self._sign(painter, midi, centre, QColor(palette.on_white_key), QColor(palette.note_on_white))
            for midi in range(self.lowest, self.highest + 1):
                if midi % 12 not in _WHITE:
                    box = self.key_box(midi)
                    painter.setPen(Qt.PenStyle.NoPen)
                    painter.setBrush(QColor(palette.black_key))
                    painter.drawRect(box)
                    centre = QPointF(box.center().x(), box.bottom() - 14)
                    self._sign(painter, midi, centre, QColor(palette.on_black_key), QColor(palette.note_on_black))


class Fretboard(InstrumentView):
    """The strings of a tuning, the lowest at the bottom, and their frets."""

    def __init__(self) -> None:
        super().__init__()
        self.tuning: Tuning = TUNINGS[0]
        self.setAccessibleName(translate("Gavotte", "Fretboard: click a fret to write its pitch on that string"))

    def show_tuning(self, tuning: Tuning) -> None:
        """Show the strings of a tuning."""
        self.tuning = tuning
        self.update()

    def _nut(self) -> float:
        return 56.0

    def fret_box(self, string: int, fret: int) -> QRectF:
        """The field of a fret (0 is the open string) on a string counted from the highest."""
        count = len(self.tuning.strings)
        height = (self.height() - 16) / count
        y = (string - 1) * height
        if fret == 0:
            return QRectF(24, y, self._nut() - 24, height)
        left = self._nut() + self._fret_x(fret - 1)
        return QRectF(left, y, self._fret_x(fret) - self._fret_x(fret - 1), height)

    def _fret_x(self, fret: int) -> float:
        """Distance of a fret from the nut: closer together up the neck, as on the instrument."""
        whole = 1 - 2 ** (-FRETS_SHOWN / 24)
        return (self.width() - self._nut() - 8) * (1 - 2 ** (-fret / 24)) / whole

    def place_at(self, point: QPointF) -> tuple[int, int] | None:
        for string in range(1, len(self.tuning.strings) + 1):
            for fret in range(FRETS_SHOWN + 1):
                if self.fret_box(string, fret).contains(point):
                    return self.tuning.strings[-string] + fret, string
        return None

    def paintEvent(self, event: QPaintEvent | None) -> None:
        with painting(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            palette = self.palette_in_use
            count = len(self.tuning.strings)
            top, bottom = self.fret_box(1, 0).center().y(), self.fret_box(count, 0).center().y()
            painter.setFont(font(10))
            for fret in range(FRETS_SHOWN + 1):
                x = self._nut() + self._fret_x(fret)
                painter.setPen(QPen(QColor(palette.staff), 3 if fret == 0 else 1))
                painter.drawLine(QPointF(x, top), QPointF(x, bottom))
                if fret in _INLAYS:
                    box = QRectF(
                        self.fret_box(count, fret).left(), self.height() - 16, self.fret_box(count, fret).width(), 15
                    )
                    painter.setPen(QColor(palette.quiet_text))
                    painter.drawText(box, Qt.AlignmentFlag.AlignCenter, str(fret))
            for string in range(1, count + 1):
                box = self.fret_box(string, 0)
                y = box.center().y()
                painter.setPen(QPen(QColor(palette.staff), 0.8 + 0.25 * string))
                painter.drawLine(QPointF(self._nut(), y), QPointF(self.width() - 8, y))
                painter.setPen(QColor(palette.quiet_text))
                painter.drawText(
                    QRectF(0, box.top(), 24, box.height()),
                    Qt.AlignmentFlag.AlignCenter,
                    _name(self.tuning.strings[-string]),
                )
                for fret in range(FRETS_SHOWN + 1):
                    midi = self.tuning.strings[-string] + fret
                    centre = self.fret_box(string, fret).center()
                    here = self.moment.string in (0, string)
                    self._sign(painter, midi, centre, QColor(palette.ink), QColor(palette.accent), here)


def _name(midi: int) -> str:
    pitch = spell(midi, 0)
    return f"{pitch.shown}{pitch.octave}"
