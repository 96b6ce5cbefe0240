"""Changes over time: what rises and falls, and the values of the one that is looked at, time by time."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QFontMetrics, QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QVBoxLayout, QWidget

from gavotte.desktop.painting import painting
from gavotte.desktop.theme.palette import DAY, Palette
from gavotte.desktop.theme.type import SMALL, font
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.rows import RowList
from gavotte.profile.over_time import FEWEST_SOLOS, FEWEST_TIMES, Change, OverTime
from gavotte.profile.telling import on_axis, shown

_MOST = 60


def paint_change(painter: QPainter, area: QRectF, over: OverTime, change: Change, palette: Palette) -> None:
    """Paint a figure's values over time with their intervals, and under each time how many solos it has."""
    painter.setFont(font(SMALL))
    metrics = QFontMetrics(font(SMALL))
    values = [value for value in change.values if value is not None]
    if not values:
        return
    low, high = min(value.low for value in values), max(value.high for value in values)
    low = 0.0 if low < 0.35 * high else low
    span = max(1e-9, high - low)
    body = area.adjusted(76, 12, -12, -40)
    for edge in (low, high):
        y = body.bottom() - body.height() * (edge - low) / span
        painter.setPen(QPen(QColor(palette.rule), 1))
        painter.drawLine(QPointF(body.left(), y), QPointF(body.right(), y))
        painter.setPen(QColor(palette.quiet_text))
        box = QRectF(area.left(), y - 9, 68, 18)
        painter.drawText(box, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, on_axis(change.figure, edge))
    points: list[QPointF] = []
    wide = body.width() / len(over.times)
    every = max(1, round((metrics.horizontalAdvance(over.times[0]) + 10) / wide + 0.5))
    for number, (time, solos, value) in enumerate(zip(over.times, over.solos, change.values, strict=True)):
        x = body.left() + (number + 0.5) * wide
        painter.setPen(QColor(palette.text))
        if number % every == 0:
            for text, top, colour in ((time, 6, palette.text), (f"({solos})", 21, palette.quiet_text)):
                painter.setPen(QColor(colour))
                painter.drawText(QRectF(x - 50, body.bottom() + top, 100, 16), Qt.AlignmentFlag.AlignHCenter, text)
        if value is None:
            continue
        ends = [body.bottom() - body.height() * (at - low) / span for at in (value.low, value.high, value.value)]
        painter.setPen(QPen(QColor(palette.text), 1.2))
        painter.drawLine(QPointF(x, ends[0]), QPointF(x, ends[1]))
        for y in ends[:2]:
            painter.drawLine(QPointF(x - 4, y), QPointF(x + 4, y))
        points.append(QPointF(x, ends[2]))
    painter.setPen(QPen(QColor(palette.accent), 2))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawPolyline(QPolygonF(points))
    painter.setBrush(QColor(palette.accent))
    for point in points:
        painter.drawEllipse(point, 3.5, 3.5)


class _Chart(QWidget):
    def __init__(self) -> None:
        super().__init__()
        self.palette_in_use: Palette = DAY
        self.shown: tuple[OverTime, Change] | None = None
        self.setMinimumHeight(150)
        self.setAccessibleName(translate("Gavotte", "Values over time"))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if self.shown is not None:
            with painting(self) as painter:
                painter.setRenderHint(QPainter.RenderHint.Antialiasing)
                paint_change(painter, QRectF(self.rect()), *self.shown, self.palette_in_use)


class TimeView(QWidget):
    """``changes`` lists what changes; ``chosen`` is the one that is looked at. Signal: ``chosen_changed``."""

    chosen_changed = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.changes = RowList(translate("Gavotte", "Changes"))
        self.chart = _Chart()
        self.message = QLabel()
        self.message.setWordWrap(True)
        self.message.setObjectName("quietBody")
        self.over: OverTime | None = None
        lower = QHBoxLayout()
        lower.setContentsMargins(0, 0, 0, 0)
        lower.addWidget(self.changes, 2)
        lower.addWidget(self.chart, 3)
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 8, 16, 8)
        column.setSpacing(8)
        column.addWidget(self.message)
        column.addLayout(lower, 1)
        self.changes.currentRowChanged.connect(lambda _: self._show_chosen())

    def set_palette(self, palette: Palette) -> None:
        """Paint in a theme's colours."""
        self.changes.set_palette(palette)
        self.chart.palette_in_use = palette
        self.chart.update()

    def show_over(self, over: OverTime | None) -> None:
        """List the changes, the greatest first; None where there is too little to say."""
        self.over = over
        self.changes.blockSignals(True)
        self.changes.clear()
        told = [] if over is None else over.changes[:_MOST]
        sure = sum(change.stands_out for change in told)
        for change in told:
            way = translate("Gavotte", "rises") if change.z > 0 else translate("Gavotte", "falls")
            words = change.figure.words[:1].upper() + change.figure.words[1:]
            edge = way if change.stands_out else translate("Gavotte", "chance can bring it")
            self.changes.add_row(change.figure.name, words, _ends(change), edge, urgent=change.stands_out)
        self.changes.setCurrentRow(0 if told else -1)
        self.changes.blockSignals(False)
        self.changes.setVisible(bool(told))
        self.chart.setVisible(bool(told))
        self.message.setText(
            translate(
                "Gavotte",
                "To see what changes, the first set needs {solos} solos or takes of {times} times. Solos have a year "
                "in their details (Ctrl+D, or Details at the Shelf for several).",
            ).format(solos=FEWEST_SOLOS, times=FEWEST_TIMES)
            if over is None
            else translate("Gavotte", "{number} figures change more than chance would have it.").format(number=sure)
            if sure
            else translate("Gavotte", "Nothing changes more than chance would have it. The greatest come first.")
        )
        self._show_chosen()

    @property
    def chosen(self) -> Change | None:
        """The change that is looked at."""
        row = self.changes.currentRow()
        return self.over.changes[row] if self.over is not None and 0 <= row < len(self.over.changes) else None

    def _show_chosen(self) -> None:
        chosen = self.chosen
        self.chart.shown = (self.over, chosen) if self.over is not None and chosen is not None else None
        self.chart.setAccessibleDescription(_ends(chosen) if chosen is not None else "")
        self.chart.update()
        self.chosen_changed.emit()


def _ends(change: Change) -> str:
    """The first and the last value there is."""
    values = [value for value in change.values if value is not None]
    if not values:
        return ""
    return f"{shown(change.figure, values[0].value)} → {shown(change.figure, values[-1].value)}"
