"""The pad: the keys under the left hand, and what each writes. It can be read, and clicked."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QToolTip, QWidget

from gavotte.desktop.desks.write.value_sign import paint_bracket, paint_rest, paint_tie, paint_value
from gavotte.desktop.painting import painting
from gavotte.desktop.theme.palette import DAY, Palette
from gavotte.desktop.theme.type import font
from gavotte.desktop.translation import QT_TRANSLATE_NOOP, said
from gavotte.notation.values import value_of
from gavotte.writing.entry import Entry, Way


@dataclass(frozen=True)
class Cap:
    """One key: its name, what kind of thing it writes, and what."""

    key: str
    kind: str
    what: str
    tip: str


def _value(key: str, base: str, tip: str) -> Cap:
    return Cap(key, "value", base, tip)


def _letter(letter: str) -> Cap:
    return Cap(letter, "letter", letter, QT_TRANSLATE_NOOP("Gavotte", "Write this pitch, in the nearest octave"))


ROWS: tuple[tuple[Cap, ...], ...] = (
    (
        _value("`", "32", QT_TRANSLATE_NOOP("Gavotte", "32nds")),
        _value("1", "16", QT_TRANSLATE_NOOP("Gavotte", "Sixteenths")),
        _value("2", "8", QT_TRANSLATE_NOOP("Gavotte", "Eighths")),
        _value("3", "4", QT_TRANSLATE_NOOP("Gavotte", "Quarters")),
        _value("4", "2", QT_TRANSLATE_NOOP("Gavotte", "Halves")),
        _value("5", "1", QT_TRANSLATE_NOOP("Gavotte", "Whole notes")),
    ),
    (
        Cap("Q", "octave", "-1", QT_TRANSLATE_NOOP("Gavotte", "An octave lower")),
        Cap("W", "octave", "1", QT_TRANSLATE_NOOP("Gavotte", "An octave higher")),
        _letter("E"),
        Cap("R", "rest", "", QT_TRANSLATE_NOOP("Gavotte", "A rest of the chosen value")),
        Cap("T", "tie", "", QT_TRANSLATE_NOOP("Gavotte", "The note before holds on for the chosen value")),
    ),
    (
        _letter("A"),
        Cap("S", "accidental", "1", QT_TRANSLATE_NOOP("Gavotte", "Sharper under the same letter")),
        _letter("D"),
        _letter("F"),
        _letter("G"),
    ),
    (
        Cap("Z", "tuplet", "", QT_TRANSLATE_NOOP("Gavotte", "Triplet (Shift+Z: other tuplets)")),
        Cap("X", "accidental", "-1", QT_TRANSLATE_NOOP("Gavotte", "Flatter under the same letter")),
        _letter("C"),
        Cap("V", "dot", "", QT_TRANSLATE_NOOP("Gavotte", "A dot, two dots, none")),
        _letter("B"),
    ),
)
"""The left half of a keyboard, row by row; each row lies half a key further to the right."""

_CAP, _GAP, _INDENT = 44.0, 4.0, (0.0, 24.0, 36.0, 56.0)


class KeyPad(QWidget):
    """Signal: ``pressed(kind, what)``."""

    pressed = pyqtSignal(str, str)

    def __init__(self) -> None:
        super().__init__()
        self._palette: Palette = DAY
        self._entry = Entry()
        self._lit: str | None = None
        self.setMouseTracking(True)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        self.setFixedSize(self.sizeHint())
        self.setAccessibleName(
            ". ".join(f"{cap.key}: {said(cap.tip)}" for row in ROWS for cap in row if cap.kind != "letter")
        )

    def sizeHint(self) -> QSize:
        return QSize(round(6 * (_CAP + _GAP) + 26), round(4 * (_CAP + _GAP)))

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self._palette = palette
        self.update()

    def show_entry(self, entry: Entry) -> None:
        """Light what is chosen."""
        self._entry = entry
        self.update()

    def box_of(self, key: str) -> QRectF:
        """Where a key lies. Raises KeyError."""
        for row, caps in enumerate(ROWS):
            for column, cap in enumerate(caps):
                if cap.key == key:
                    return QRectF(_INDENT[row] + column * (_CAP + _GAP), row * (_CAP + _GAP), _CAP, _CAP)
        raise KeyError(key)

    def _cap_at(self, point: QPointF) -> Cap | None:
        return next((cap for row in ROWS for cap in row if self.box_of(cap.key).contains(point)), None)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        cap = self._cap_at(event.position())
        if cap is not None:
            self.pressed.emit(cap.kind, cap.what)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        cap = self._cap_at(event.position())
        lit = cap.key if cap is not None else None
        if lit != self._lit:
            self._lit = lit
            self.update()
            if cap is not None:
                QToolTip.showText(event.globalPosition().toPoint(), f"{said(cap.tip)} ({cap.key})", self)

    def _is_on(self, cap: Cap) -> bool:
        entry = self._entry
        match cap.kind:
            case "value":
                value = value_of(entry.value)
                return value is not None and value.base == int(cap.what)
            case "dot":
                return entry.dots > 0
            case "tuplet":
                return entry.tuplet is not None
        return False

    def paintEvent(self, event: QPaintEvent | None) -> None:
        with painting(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            for row in ROWS:
                for cap in row:
                    self._paint_cap(painter, cap)

    def _paint_cap(self, painter: QPainter, cap: Cap) -> None:
        palette, box = self._palette, self.box_of(cap.key).adjusted(0.5, 0.5, -0.5, -0.5)
        on = self._is_on(cap)
        painter.setPen(QPen(QColor(palette.accent if on or cap.key == self._lit else palette.rule), 1.2))
        painter.setBrush(QColor(palette.selection if on else palette.well))
        painter.drawRoundedRect(box, 5, 5)
        colour = QColor(palette.text)
        if cap.kind == "letter" and self._entry.way is Way.RHYTHM:
            colour = QColor(palette.quiet_text)
        if cap.kind != "letter":
            painter.setFont(font(11, 500))
            painter.setPen(QColor(palette.quiet_text))
            painter.drawText(box.adjusted(5, 2, 0, 0), Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft, cap.key)
        self._paint_sign(painter, cap, box, colour)

    def _paint_sign(self, painter: QPainter, cap: Cap, box: QRectF, colour: QColor) -> None:
        centre = box.center() + QPointF(4, 3)
        painter.setPen(colour)
        match cap.kind:
            case "letter":
                painter.setFont(font(21, 700))
                painter.drawText(box, Qt.AlignmentFlag.AlignCenter, cap.what)
            case "value":
                paint_value(painter, centre, int(cap.what), colour, size=6.4)
            case "rest":
                paint_rest(painter, centre, colour, 6.6)
            case "tie":
                paint_tie(painter, centre - QPointF(2, 0), colour, 6.0)
            case "dot":
                dots = max(1, self._entry.dots)
                paint_value(painter, centre - QPointF(4, 0), 4, colour, dots=dots, size=6.4)
            case "accidental":
                painter.setFont(font(22, 400))
                painter.drawText(
                    box.adjusted(8, 2, 0, 2), Qt.AlignmentFlag.AlignCenter, "♯" if cap.what == "1" else "♭"
                )
            case "tuplet":
                tuplet = self._entry.tuplet
                painter.setFont(font(14, 700, italic=True))
                number = str(tuplet.actual) if tuplet is not None else "3"
                paint_bracket(painter, box.adjusted(8, 12, -6, -8), number, colour)
            case "octave":
                painter.setFont(font(14, 500))
                up = cap.what == "1"
                painter.drawText(box.adjusted(2, 3, 0, 0), Qt.AlignmentFlag.AlignCenter, "8 ↑" if up else "8 ↓")
