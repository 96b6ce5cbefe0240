"""Two octaves of a keyboard that show a chord's tones, its local scale, and one note."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from gavotte.desktop.painting import painting
from gavotte.desktop.theme.palette import DAY, Palette

_WHITE = (0, 2, 4, 5, 7, 9, 11)
_BLACK_AFTER = {0: 1, 1: 3, 3: 6, 4: 8, 5: 10}


class KeyboardStrip(QWidget):
    """Solid blocks are chord tones, rings are scale tones; the frame marks the note itself.

    Signal: ``played(midi)``, a key was pressed, where ``lowest`` (the MIDI number of the first key, a C) is given.
    """

    played = pyqtSignal(int)

    def __init__(self, lowest: int | None = None) -> None:
        super().__init__()
        self._lowest = lowest
        self.palette_in_use: Palette = DAY
        self._tones: frozenset[int] = frozenset()
        self._scale: frozenset[int] = frozenset()
        self._note: int | None = None
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFixedHeight(72)

    def sizeHint(self) -> QSize:
        return QSize(280, 72)

    def show_chord(self, tones: frozenset[int], scale: frozenset[int], note: int, description: str) -> None:
        """Show pitch classes of a chord and its scale, and a MIDI number among them."""
        self._tones, self._scale, self._note = tones, scale, note
        self.setAccessibleName(description)
        self.setToolTip(description)
        self.update()

    def key_at(self, x: float, y: float) -> int:
        """How many semitones above the first key the one lies at a place of the widget."""
        width = (self.width() - 1) / 14
        if y < self.height() * 0.58:
            edge = round(x / width)
            black = _BLACK_AFTER.get((edge - 1) % 7)
            if 0 < edge < 15 and black is not None and abs(x - edge * width) <= width * 0.32:
                return 12 * ((edge - 1) // 7) + black
        white = min(13, max(0, int(x / width)))
        return 12 * (white // 7) + _WHITE[white % 7]

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._lowest is None or event.button() != Qt.MouseButton.LeftButton:
            super().mousePressEvent(event)
            return
        self.played.emit(self._lowest + self.key_at(event.position().x(), event.position().y()))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        with painting(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            palette = self.palette_in_use
            white_width = (self.width() - 1) / 14
            painter.setPen(QPen(QColor(palette.rule), 1))
            for k in range(14):
                painter.setBrush(QColor(palette.white_key))
                painter.drawRect(QRectF(k * white_width + 0.5, 0.5, white_width, self.height() - 1.5))
            for k in range(14):
                self._paint_sign(painter, k // 7, _WHITE[k % 7], (k + 0.5) * white_width, self.height() - 14, False)
            for k in range(14):
                black = _BLACK_AFTER.get(k % 7)
                if black is not None:
                    x = (k + 1) * white_width
                    painter.setPen(Qt.PenStyle.NoPen)
                    painter.setBrush(QColor(palette.black_key))
                    painter.drawRect(QRectF(x - white_width * 0.32, 0, white_width * 0.64, self.height() * 0.58))
                    self._paint_sign(painter, k // 7, black, x, self.height() * 0.58 - 12, True)

    def _paint_sign(self, painter: QPainter, octave: int, pitch_class: int, x: float, y: float, on_black: bool) -> None:
        palette = self.palette_in_use
        colour = QColor(palette.on_black_key if on_black else palette.on_white_key)
        if pitch_class in self._tones:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(colour)
            painter.drawRect(QRectF(x - 4, y - 4, 8, 8))
        elif pitch_class in self._scale:
            painter.setPen(QPen(colour, 1.6))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawEllipse(QPointF(x, y), 3.2, 3.2)
        if self._note is not None and self._note % 12 == pitch_class and octave == 0:
            painter.setPen(QPen(QColor(palette.note_on_black if on_black else palette.note_on_white), 2.4))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(QRectF(x - 7, y - 7, 14, 14), 3, 3)
