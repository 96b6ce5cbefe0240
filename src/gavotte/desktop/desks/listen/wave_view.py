"""The wave: a recording from the whole file down to single cycles, with loop, beats, bars and playhead on it."""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum, auto

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QColor,
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

from gavotte.desktop.painting import painting
from gavotte.desktop.theme.palette import DAY, Palette
from gavotte.desktop.theme.type import SMALL, font
from gavotte.desktop.translation import translate
from gavotte.recording.player import RATE, Samples
from gavotte.recording.waveform import Peaks

_OVERVIEW, _GAP, _TOP, _BEATS = 28, 6, 20, 16
_CLOSEST = 1 / 24
"""Frames to a pixel at the closest: single cycles are wide."""

_NEAR, _DRAG = 6, 4


@dataclass(frozen=True)
class Marks:
    """What stands on the wave, in seconds: beats with the downbeat's index, numbered bars, named sections."""

    beats: tuple[float, ...] = ()
    downbeat: int = 0
    bars: tuple[tuple[float, int], ...] = ()
    sections: tuple[tuple[float, str], ...] = ()


class _Grip(Enum):
    NOTHING = auto()
    OVERVIEW = auto()
    REGION = auto()
    BEAT = auto()


class WaveView(QWidget):
    """The wave of a recording with its beats, the loop and the playhead.

    Signals: ``seek_wanted(seconds)``, ``region_wanted(start, stop)``, ``beat_chosen(index)``,
    ``beat_moved(index, seconds)``, ``window_changed(start, frames to a pixel)``.
    """

    seek_wanted = pyqtSignal(float)
    region_wanted = pyqtSignal(float, float)
    beat_chosen = pyqtSignal(int)
    beat_moved = pyqtSignal(int, float)
    window_changed = pyqtSignal(float, float)

    def __init__(self) -> None:
        super().__init__()
        self._palette: Palette = DAY
        self._peaks: Peaks | None = None
        self._samples: Samples | None = None
        self._start, self._per_pixel = 0.0, 1.0
        self._region: tuple[float, float] | None = None
        self._marks = Marks()
        self._playhead: float | None = None
        self._beat: int | None = None
        self._grip = _Grip.NOTHING
        self._pressed = QPointF()
        self._dragged_beat: float | None = None
        self._whole: QPixmap | None = None
        self._picture: QPixmap | None = None
        self.setMinimumHeight(150)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setAccessibleName(translate("Gavotte", "The recording"))

    def sizeHint(self) -> QSize:
        return QSize(900, 210)

    def _redraw(self) -> None:
        """Everything but the playhead is another picture now."""
        self._picture = None
        self.update()

    # -- what is shown ------------------------------------------------------------------------------

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self._palette = palette
        self._whole = None
        self._redraw()

    def show_recording(self, peaks: Peaks | None, samples: Samples | None) -> None:
        """Show a recording, all of it."""
        self._peaks, self._samples = peaks, samples
        self._region = self._playhead = self._beat = None
        self._marks = Marks()
        self._whole = None
        self.show_all()

    def show_marks(self, marks: Marks) -> None:
        """Show where beats and bars are."""
        self._marks = marks
        if self._beat is not None and self._beat >= len(marks.beats):
            self._beat = None
        self._redraw()

    def show_region(self, region: tuple[float, float] | None) -> None:
        """Show the stretch that is played, in seconds."""
        self._region = region
        self._redraw()

    def choose_beat(self, index: int | None) -> None:
        """Show a beat as the chosen one."""
        self._beat = index
        self._redraw()

    def show_playhead(self, seconds: float | None, follow: bool = False) -> None:
        """Show where it plays; with ``follow`` the view turns to it like a page."""
        before = self._playhead
        self._playhead = seconds
        if seconds is None:
            self._redraw()
            return
        x = self._x(seconds)
        if follow and not 0 <= x < self.width():
            self._start = seconds * RATE - 0.05 * self.width() * self._per_pixel
            self._hold()
            self._redraw()
            return
        for place in (before, seconds):
            if place is not None:
                self.update(round(self._x(place)) - 3, 0, 7, self.height())
                strip = round(place * RATE / max(1, self._frames) * self.width())
                self.update(strip - 3, 0, 7, _OVERVIEW)

    @property
    def beat(self) -> int | None:
        """The chosen beat."""
        return self._beat

    # -- zoom ---------------------------------------------------------------------------------------

    def show_all(self) -> None:
        """The whole recording."""
        self._start = 0.0
        self._per_pixel = self._frames / max(1, self.width())
        self._hold()
        self._redraw()

    def zoom(self, factor: float, x: float | None = None) -> None:
        """Closer (above 1) or farther, with the place at ``x`` staying; by default the playhead, or the middle."""
        if x is None:
            here = self._x(self._playhead) if self._playhead is not None else -1
            x = here if 0 <= here <= self.width() else self.width() / 2
        place = self._start + x * self._per_pixel
        self._per_pixel = min(max(self._per_pixel / factor, _CLOSEST), self._frames / max(1, self.width()))
        self._start = place - x * self._per_pixel
        self._hold()
        self._redraw()

    def show_stretch(self, start: float, stop: float) -> None:
        """A stretch of seconds with a little room around it."""
        length = max(0.01, stop - start) * RATE
        self._per_pixel = max(_CLOSEST, 1.2 * length / max(1, self.width()))
        self._start = start * RATE - 0.1 * length
        self._hold()
        self._redraw()

    @property
    def _frames(self) -> int:
        return self._peaks.frames if self._peaks is not None else 1

    def _hold(self) -> None:
        self._per_pixel = max(_CLOSEST, min(self._per_pixel, self._frames / max(1, self.width())))
        self._start = max(0.0, min(self._start, self._frames - self.width() * self._per_pixel))
        self.window_changed.emit(self._start, self._per_pixel)

    def _x(self, seconds: float) -> float:
        return (seconds * RATE - self._start) / self._per_pixel

    def _seconds(self, x: float) -> float:
        return min(max(0.0, self._start + x * self._per_pixel), self._frames) / RATE

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        self._whole = self._picture = None
        self._hold()
        super().resizeEvent(event)

    # -- mouse --------------------------------------------------------------------------------------

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        assert event is not None
        turn = event.angleDelta()
        if event.modifiers() & Qt.KeyboardModifier.ShiftModifier or turn.x():
            self._start -= (turn.x() or turn.y()) / 120 * 0.15 * self.width() * self._per_pixel
            self._hold()
            self._redraw()
        else:
            self.zoom(1.25 ** (turn.y() / 120), event.position().x())
        event.accept()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if event.button() is not Qt.MouseButton.LeftButton or self._peaks is None:
            return
        self._pressed = event.position()
        near = self._beat_at(event.position())
        if event.position().y() < _OVERVIEW:
            self._grip = _Grip.OVERVIEW
            self._centre(event.position().x())
        elif near is not None:
            self._grip = _Grip.BEAT
            self._beat = near
            self.beat_chosen.emit(near)
            self._redraw()
        else:
            self._grip = _Grip.REGION

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        place = event.position()
        if self._grip is _Grip.OVERVIEW:
            self._centre(place.x())
        elif self._grip is _Grip.BEAT and abs(place.x() - self._pressed.x()) > 1:
            self._dragged_beat = self._seconds(place.x())
            self._redraw()
        elif self._grip is _Grip.REGION and abs(place.x() - self._pressed.x()) > _DRAG:
            ends = sorted((self._seconds(self._pressed.x()), self._seconds(place.x())))
            self._region = (ends[0], ends[1])
            self._redraw()
        elif self._grip is _Grip.NOTHING:
            over = self._beat_at(place) is not None
            self.setCursor(Qt.CursorShape.SizeHorCursor if over else Qt.CursorShape.ArrowCursor)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        grip, self._grip = self._grip, _Grip.NOTHING
        if grip is _Grip.BEAT and self._dragged_beat is not None and self._beat is not None:
            moved, self._dragged_beat = self._dragged_beat, None
            self.beat_moved.emit(self._beat, moved)
        elif grip is _Grip.REGION:
            if abs(event.position().x() - self._pressed.x()) > _DRAG and self._region is not None:
                self.region_wanted.emit(*self._region)
            else:
                self.seek_wanted.emit(self._seconds(event.position().x()))

    def _centre(self, x: float) -> None:
        self._start = x / max(1, self.width()) * self._frames - self.width() * self._per_pixel / 2
        self._hold()
        self._redraw()

    def _beat_at(self, place: QPointF) -> int | None:
        if place.y() < self.height() - _BEATS:
            return None
        found = [(abs(self._x(beat) - place.x()), index) for index, beat in enumerate(self._marks.beats)]
        nearest = min(found, default=(_NEAR + 1.0, -1))
        return nearest[1] if nearest[0] <= _NEAR else None

    # -- painting -----------------------------------------------------------------------------------

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if self._picture is None:
            self._picture = self._drawn()
        with painting(self) as painter:
            painter.drawPixmap(0, 0, self._picture)
            if self._playhead is None or self._peaks is None:
                return
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.setPen(QPen(QColor(self._palette.accent), 2))
            x = self._x(self._playhead)
            painter.drawLine(QPointF(x, _OVERVIEW + _GAP), QPointF(x, self.height()))
            place = self._playhead * RATE / max(1, self._frames) * self.width()
            painter.fillRect(QRectF(place - 1, 0, 2, _OVERVIEW), QColor(self._palette.accent))

    def _drawn(self) -> QPixmap:
        """Everything but the playhead, which moves sixty times a second."""
        scale = self.devicePixelRatioF()
        picture = QPixmap(round(self.width() * scale), round(self.height() * scale))
        picture.setDevicePixelRatio(scale)
        picture.fill(QColor(self._palette.page))
        if self._peaks is None or self._samples is None:
            return picture
        with painting(picture) as painter:
            self._paint_overview(painter)
            area = QRectF(0, _OVERVIEW + _GAP, self.width(), self.height() - _OVERVIEW - _GAP)
            self._paint_region(painter, area)
            self._paint_bars(painter, area)
            wave = area.adjusted(0, _TOP, 0, -_BEATS)
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            self._paint_wave(painter, wave, self._start, self._per_pixel)
            self._paint_beats(painter, area)
        return picture

    def _paint_wave(self, painter: QPainter, area: QRectF, start: float, per_pixel: float) -> None:
        assert self._peaks is not None
        assert self._samples is not None
        columns = self._peaks.columns(self._samples, start, per_pixel, round(area.width()))
        middle, half = area.center().y(), area.height() / 2
        tops = [QPointF(x, middle - half * float(high)) for x, high in enumerate(columns[:, 1])]
        feet = [QPointF(x, middle - half * float(low) + 0.6) for x, low in enumerate(columns[:, 0])]
        painter.setPen(QPen(QColor(self._palette.faint_ink), 0.8))
        painter.setBrush(QColor(self._palette.faint_ink))
        painter.drawPolygon(QPolygonF([*tops, *reversed(feet)]))

    def _paint_overview(self, painter: QPainter) -> None:
        if self._whole is None:
            scale = self.devicePixelRatioF()
            self._whole = QPixmap(round(self.width() * scale), round(_OVERVIEW * scale))
            self._whole.setDevicePixelRatio(scale)
            self._whole.fill(QColor(self._palette.well))
            with painting(self._whole) as inner:
                inner.setRenderHint(QPainter.RenderHint.Antialiasing)
                strip = QRectF(0, 2, self.width(), _OVERVIEW - 4)
                self._paint_wave(inner, strip, 0.0, self._frames / max(1, self.width()))
        painter.drawPixmap(0, 0, self._whole)
        share = self.width() / max(1, self._frames)
        left, width = self._start * share, max(3.0, self.width() * self._per_pixel * share)
        shade = QColor(self._palette.accent)
        shade.setAlphaF(0.18)
        painter.fillRect(QRectF(left, 0, width, _OVERVIEW), shade)
        painter.setPen(QColor(self._palette.rule))
        painter.drawLine(0, _OVERVIEW, self.width(), _OVERVIEW)

    def _paint_region(self, painter: QPainter, area: QRectF) -> None:
        if self._region is None:
            return
        left, right = self._x(self._region[0]), self._x(self._region[1])
        painter.fillRect(QRectF(left, area.top(), right - left, area.height()), QColor(self._palette.selection))
        painter.setPen(QPen(QColor(self._palette.accent), 1))
        for x in (left, right):
            painter.drawLine(QPointF(x, area.top()), QPointF(x, area.bottom()))

    def _paint_bars(self, painter: QPainter, area: QRectF) -> None:
        painter.setFont(font(SMALL))
        edge = -100.0
        sections = dict(self._marks.sections)
        for seconds, number in self._marks.bars:
            x = self._x(seconds)
            if not -40 <= x <= self.width():
                continue
            painter.setPen(QColor(self._palette.rule))
            painter.drawLine(QPointF(x, area.top()), QPointF(x, area.bottom()))
            words = f"{number}  {sections[seconds]}" if seconds in sections else str(number)
            if x - edge < 30 and seconds not in sections:
                continue
            painter.setPen(QColor(self._palette.accent if seconds in sections else self._palette.faint_ink))
            painter.drawText(QPointF(x + 4, area.top() + 13), words)
            edge = x + painter.fontMetrics().horizontalAdvance(words)

    def _paint_beats(self, painter: QPainter, area: QRectF) -> None:
        gaps = [b - a for a, b in zip(self._marks.beats, self._marks.beats[1:], strict=False)]
        if gaps and min(gaps) * RATE / self._per_pixel < 3:
            return
        for index, seconds in enumerate(self._marks.beats):
            chosen = index == self._beat
            place = self._dragged_beat if chosen and self._dragged_beat is not None else seconds
            x = self._x(place)
            if not -2 <= x <= self.width() + 2:
                continue
            height = _BEATS if index == self._marks.downbeat or chosen else _BEATS * 0.6
            colour = self._palette.accent if chosen or index == self._marks.downbeat else self._palette.faint_ink
            painter.setPen(QPen(QColor(colour), 3 if chosen else 1.6))
            painter.drawLine(QPointF(x, area.bottom() - height), QPointF(x, area.bottom() - 1))
