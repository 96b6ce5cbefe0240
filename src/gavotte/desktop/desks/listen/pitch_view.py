"""The pitch picture: how strongly every pitch sounds, on the wave's time axis, with the written notes drawn over it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QColor,
    QImage,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPixmap,
    QPolygonF,
    QResizeEvent,
    QWheelEvent,
)
from PyQt6.QtWidgets import QSizePolicy, QWidget

from gavotte.desktop.page.lane_marks import paint_mark
from gavotte.desktop.painting import painting
from gavotte.desktop.theme.palette import DAY, Palette
from gavotte.desktop.theme.type import SMALL, font
from gavotte.desktop.translation import translate
from gavotte.engraving.shapes import STAFF_SPACE as SP
from gavotte.recording.lead import VOICED, Lead
from gavotte.recording.player import RATE
from gavotte.recording.salience import FRAME_SECONDS, HIGHEST, LOWEST, PER_SEMITONE, Salience
from gavotte.solo.label import Label

_MARGIN = 34
_MARK_SCALE = 0.034
_NAMES = ("C", "C♯", "D", "E♭", "E", "F", "F♯", "G", "A♭", "A", "B♭", "B")
# The strongest is seldom alone: what is half as strong is to be seen well too.
_GAMMA = (0.9 * np.clip(np.arange(256) / 150, 0, 1) ** 1.4).astype(np.float32)
_LEAST, _MOST = 12, HIGHEST - LOWEST
_NEAR, _JUMP, _WIDEST_BEND, _FEWEST_FRAMES = 1.5, 1.2, 4.5, 3


@dataclass(frozen=True)
class SoundingNote:
    """A written note where it is heard: seconds, MIDI number, and its label."""

    note_id: str
    start: float
    end: float
    midi: int
    label: Label | None


class PitchView(QWidget):
    """How strongly every pitch sounds over time, with the written notes drawn over it.

    Signals: ``seek_wanted(seconds)``, ``note_chosen(id)``, ``read(words)``: what is under the pointer.
    """

    seek_wanted = pyqtSignal(float)
    note_chosen = pyqtSignal(str)
    read = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        self._palette: Palette = DAY
        self._salience: Salience | None = None
        self._lead: Lead | None = None
        self._notes: list[SoundingNote] = []
        self._start, self._per_pixel = 0.0, 1.0
        self._low, self._high = 52.0, 88.0
        self._playhead: float | None = None
        self._words = ""
        self._cents = 0.0
        self._picture: QPixmap | None = None
        self.setMinimumHeight(110)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMouseTracking(True)
        self.setAccessibleName(translate("Gavotte", "The pitches of the recording"))

    def sizeHint(self) -> QSize:
        return QSize(900, 190)

    def _redraw(self) -> None:
        """Everything but the playhead is another picture now."""
        self._picture = None
        self.update()

    # -- what is shown ------------------------------------------------------------------------------

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self._palette = palette
        self._redraw()

    def show_salience(self, salience: Salience | None, words: str = "") -> None:
        """Show a recording's pitches; without them ``words`` say why not."""
        self._salience, self._words = salience, words
        self._redraw()

    def show_lead(self, lead: Lead | None) -> None:
        """Show the line that one voice draws through the pitches."""
        self._lead = lead
        self._redraw()

    def show_notes(self, notes: list[SoundingNote]) -> None:
        """Show where written notes are heard, and the register they lie in."""
        self._notes = notes
        if notes:
            low, high = min(note.midi for note in notes) - 4, max(note.midi for note in notes) + 4
            self._low, self._high = float(max(LOWEST, low)), float(min(HIGHEST, max(high, low + _LEAST)))
        self._redraw()

    def show_window(self, start: float, per_pixel: float) -> None:
        """Show the same stretch as the wave (frames)."""
        self._start, self._per_pixel = start, per_pixel
        self._redraw()

    def show_tuning(self, cents: float) -> None:
        """How far pitches are moved when it is played; the picture moves with them."""
        # Every change of a setting comes by here; few are of the tuning.
        if cents != self._cents:
            self._cents = cents
            self._redraw()

    def show_playhead(self, seconds: float | None) -> None:
        """Show where it plays."""
        before, self._playhead = self._playhead, seconds
        for place in (before, seconds):
            if place is not None:
                self.update(round(self._x(place)) - 3, 0, 7, self.height())

    def _x(self, seconds: float) -> float:
        return (seconds * RATE - self._start) / self._per_pixel

    def _seconds(self, x: float) -> float:
        return max(0.0, (self._start + x * self._per_pixel) / RATE)

    def _y(self, midi: float) -> float:
        return self.height() * (1 - (midi - self._low) / (self._high - self._low))

    def _midi(self, y: float) -> float:
        return self._low + (1 - y / max(1, self.height())) * (self._high - self._low)

    # -- mouse --------------------------------------------------------------------------------------

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if self._salience is None:
            return
        seconds, midi = self._seconds(event.position().x()), self._midi(event.position().y())
        self.read.emit(self.words_at(seconds, midi))

    def words_at(self, seconds: float, midi: float) -> str:
        """The pitch near a place, of the line where it runs there, and within a written note the peak it reaches."""
        if self._salience is None:
            return ""
        moved = self._cents / 100
        found = self._lead.at(seconds) if self._lead is not None else None
        if found is None or abs(found + moved - midi) > _NEAR:
            found = self._salience.strongest(seconds, midi - moved)
        if found is None:
            return ""
        words = pitch_words(found + moved)
        note = next((note for note in self._notes if note.start <= seconds < note.end), None)
        peak = self._peak(note) if note is not None else None
        if peak is None:
            return words
        return words + translate("Gavotte", " · the note's peak is {pitch}").format(pitch=pitch_words(peak + moved))

    def _peak(self, note: SoundingNote) -> float | None:
        """The highest pitch the line holds within a note, near where it is written."""
        if self._lead is None:
            return None
        frames = self._lead.between(note.start, note.end)
        inside = (self._lead.confidence[frames] >= VOICED) & (abs(self._lead.midi[frames] - note.midi) < _WIDEST_BEND)
        pitches = self._lead.midi[frames][inside]
        # A single frame may stray; what a twentieth of the note lies above is the peak.
        return float(np.percentile(pitches, 95)) if len(pitches) > _FEWEST_FRAMES else None

    def leaveEvent(self, event: object) -> None:
        self.read.emit("")

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        seconds, midi = self._seconds(event.position().x()), self._midi(event.position().y())
        for note in self._notes:
            if note.start <= seconds < note.end and abs(note.midi - midi) <= 0.8:
                self.note_chosen.emit(note.note_id)
                return
        self.seek_wanted.emit(seconds)

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        assert event is not None
        place = self._midi(event.position().y())
        factor = 1.15 ** (event.angleDelta().y() / 120)
        span = min(max((self._high - self._low) / factor, _LEAST), _MOST)
        share = (place - self._low) / (self._high - self._low)
        low = min(max(place - share * span, LOWEST), HIGHEST - span)
        self._low, self._high = low, low + span
        self._redraw()
        event.accept()

    # -- painting -----------------------------------------------------------------------------------

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        self._picture = None
        super().resizeEvent(event)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if self._picture is None:
            self._picture = self._drawn()
        with painting(self) as painter:
            painter.drawPixmap(0, 0, self._picture)
            if self._playhead is not None and self._salience is not None:
                painter.setRenderHint(QPainter.RenderHint.Antialiasing)
                painter.setPen(QPen(QColor(self._palette.accent), 2))
                x = self._x(self._playhead)
                painter.drawLine(QPointF(x, 0), QPointF(x, self.height()))

    def _drawn(self) -> QPixmap:
        """Everything but the playhead, which moves sixty times a second."""
        scale = self.devicePixelRatioF()
        picture = QPixmap(round(self.width() * scale), round(self.height() * scale))
        picture.setDevicePixelRatio(scale)
        picture.fill(QColor(self._palette.page))
        with painting(picture) as painter:
            if self._salience is None:
                painter.setPen(QColor(self._palette.quiet_text))
                painter.setFont(font(SMALL))
                painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, self._words)
            else:
                painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
                self._paint_salience(painter, self._salience)
                painter.setRenderHint(QPainter.RenderHint.Antialiasing)
                self._paint_names(painter)
                for note in self._notes:
                    self._paint_note(painter, note)
                if self._lead is not None:
                    self._paint_lead(painter, self._lead)
        return picture

    def _paint_salience(self, painter: QPainter, salience: Salience) -> None:
        first = max(0, int(self._seconds(0) / FRAME_SECONDS))
        last = min(len(salience.values), int(self._seconds(self.width()) / FRAME_SECONDS) + 2)
        moved = self._cents / 100
        bottom = max(0, int((self._low - moved - LOWEST) * PER_SEMITONE))
        top = min(salience.values.shape[1], int((self._high - moved - LOWEST) * PER_SEMITONE) + 2)
        if last <= first or top <= bottom:
            return
        # Of several frames in one column the strongest is shown.
        step = max(1, (last - first) // max(1, 2 * self.width()))
        part = salience.values[first:last, bottom:top]
        part = np.maximum.reduceat(part, np.arange(0, len(part), step), axis=0)
        ink, page = QColor(self._palette.ink), QColor(self._palette.page)
        share = _GAMMA[part.T[::-1]][..., None]
        colours = [np.array([c.red(), c.green(), c.blue()], np.float32) for c in (page, ink)]
        rgb = np.ascontiguousarray((1 - share) * colours[0] + share * colours[1], np.float32).astype(np.uint8)
        image = QImage(rgb.tobytes(), rgb.shape[1], rgb.shape[0], 3 * rgb.shape[1], QImage.Format.Format_RGB888)
        half = 0.5 / PER_SEMITONE
        upper = self._y(LOWEST + (top - 1) / PER_SEMITONE + half + moved)
        lower = self._y(LOWEST + bottom / PER_SEMITONE - half + moved)
        left = self._x((first - 0.5) * FRAME_SECONDS)
        right = self._x((first - 0.5 + step * rgb.shape[1]) * FRAME_SECONDS)
        painter.drawImage(QRectF(left, upper, right - left, lower - upper), image)

    def _paint_names(self, painter: QPainter) -> None:
        painter.setFont(font(SMALL - 1))
        margin = QColor(self._palette.page)
        margin.setAlphaF(0.85)
        painter.fillRect(QRectF(0, 0, _MARGIN, self.height()), margin)
        room = self.height() / (self._high - self._low)
        for midi in range(int(self._low) + 1, int(self._high) + 1):
            natural = midi % 12 in (0, 2, 4, 5, 7, 9, 11)
            if (room < 9 and midi % 12 != 0) or (not natural and room < 15):
                continue
            y = self._y(midi)
            painter.setPen(QPen(QColor(self._palette.rule), 1))
            painter.drawLine(QPointF(_MARGIN, y), QPointF(self.width(), y))
            painter.setPen(QColor(self._palette.faint_ink))
            painter.drawText(QPointF(6, y + 4), f"{_NAMES[midi % 12]}{midi // 12 - 1}")

    def _paint_lead(self, painter: QPainter, lead: Lead) -> None:
        """The line, broken where no voice sounds."""
        frames = lead.between(self._seconds(0), self._seconds(self.width()))
        step = max(1, (frames.stop - frames.start) // max(1, 2 * self.width()))
        times, moved = lead.times[frames][::step], self._cents / 100
        pitches, voiced = lead.midi[frames][::step] + moved, lead.confidence[frames][::step] >= VOICED
        painter.setPen(QPen(QColor(self._palette.accent), 1.8, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        stroke = QPolygonF()
        for index in range(len(times)):
            jumps = index > 0 and abs(pitches[index] - pitches[index - 1]) > _JUMP
            if not voiced[index] or jumps:
                painter.drawPolyline(stroke)
                stroke = QPolygonF()
            if voiced[index]:
                stroke.append(QPointF(self._x(float(times[index])), self._y(float(pitches[index]))))
        painter.drawPolyline(stroke)

    def _paint_note(self, painter: QPainter, note: SoundingNote) -> None:
        left, right = self._x(note.start), self._x(note.end)
        if right < 0 or left > self.width():
            return
        y = self._y(note.midi)
        colour = self._palette.function(note.label.function) if note.label is not None else QColor(self._palette.ink)
        painter.setPen(QPen(colour, 2.4, Qt.PenStyle.SolidLine, Qt.PenCapStyle.FlatCap))
        painter.drawLine(QPointF(left, y), QPointF(max(left + 2, right - 1), y))
        if note.label is None or right - left < 7:
            return
        painter.save()
        painter.translate(left + 0.8 * SP * _MARK_SCALE, y)
        painter.scale(_MARK_SCALE, _MARK_SCALE)
        paint_mark(painter, 0.0, 0.0, note.label, colour, QColor(self._palette.page), True)
        painter.restore()


def pitch_words(midi: float) -> str:
    """A pitch with what is left over in cents: "B♭4 +12 cents"."""
    nearest = round(midi)
    cents = round(100 * (midi - nearest))
    name = f"{_NAMES[nearest % 12]}{nearest // 12 - 1}"
    return translate("Gavotte", "{name} {cents} cents").format(name=name, cents=f"{cents:+d}")
