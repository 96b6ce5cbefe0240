"""Tablature under a staff: a line for each string, the highest above, with the fret of every note that has a string."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QFontMetricsF, QPainter, QPen
from PyQt6.QtWidgets import QGraphicsItem, QStyleOptionGraphicsItem, QWidget

from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.theme.type import font
from gavotte.engraving.engraver import EngravedLine
from gavotte.engraving.shapes import STAFF_SPACE as SP
from gavotte.solo.strings import Tuning, fret_of

_STRING = 1.35 * SP
"""From string to string."""
_SIZE = 1.55 * SP
_GAP = 1.1 * SP
"""Between staff and tablature, and under it."""


@dataclass(frozen=True)
class Fret:
    """A fret on a string (counted from the highest, from 1), and where it stands."""

    x: float
    string: int
    fret: int


def frets_of(line: EngravedLine, tuning: Tuning) -> list[Fret]:
    """The frets of the notes of a line that have a string they lie on."""
    found = []
    for placed in line.notes:
        fret = fret_of(placed.note.pitch.midi, placed.note.string, tuning)
        if fret is not None:
            found.append(Fret(placed.x, placed.note.string, fret))
    return found


def room_of(tuning: Tuning) -> float:
    """The room a tablature takes, in engraver units."""
    return (len(tuning.strings) - 1) * _STRING + 2 * _GAP


class TabItem(QGraphicsItem):
    """Paints the tablature; y 0 is where its room begins."""

    def __init__(
        self,
        frets: Sequence[Fret],
        barlines: Sequence[float],
        left: float,
        tuning: Tuning,
        palette: Palette,
        parent: QGraphicsItem,
    ) -> None:
        super().__init__(parent)
        self._frets, self._barlines, self._left = list(frets), list(barlines), left
        self._strings, self._palette = len(tuning.strings), palette
        right = barlines[-1] if barlines else left
        self._box = QRectF(left - SP, 0, right - left + 2 * SP, room_of(tuning))

    @property
    def frets(self) -> list[tuple[int, int]]:
        """What is shown: string and fret of every note that has them."""
        return [(fret.string, fret.fret) for fret in self._frets]

    def boundingRect(self) -> QRectF:
        return self._box

    def paint(
        self, painter: QPainter | None, option: QStyleOptionGraphicsItem | None, widget: QWidget | None = None
    ) -> None:
        assert painter is not None
        palette = self._palette
        right = self._barlines[-1] if self._barlines else self._left
        bottom = _GAP + (self._strings - 1) * _STRING
        painter.setPen(QPen(QColor(palette.staff), 0.09 * SP))
        for string in range(self._strings):
            y = _GAP + string * _STRING
            painter.drawLine(QPointF(self._left, y), QPointF(right, y))
        for x in (self._left, *self._barlines):
            painter.drawLine(QPointF(x, _GAP), QPointF(x, bottom))
        face = font(_SIZE, 500)
        painter.setFont(face)
        metrics = QFontMetricsF(face)
        for fret in self._frets:
            text, y = str(fret.fret), _GAP + (fret.string - 1) * _STRING
            width = metrics.horizontalAdvance(text)
            box = QRectF(fret.x - width / 2, y - _STRING / 2, width, _STRING)
            painter.fillRect(box.adjusted(-0.12 * SP, 0.1 * SP, 0.12 * SP, -0.1 * SP), QColor(palette.page))
            painter.setPen(QColor(palette.ink))
            painter.drawText(box.adjusted(-SP, -SP, SP, SP), Qt.AlignmentFlag.AlignCenter, text)
