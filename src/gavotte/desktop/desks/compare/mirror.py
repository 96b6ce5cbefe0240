"""Figures of two sets on the two sides of one axis, each with how sure it is: a list whose rows are drawn."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QModelIndex, QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QFontMetrics, QPainter, QPen
from PyQt6.QtWidgets import QListWidget, QListWidgetItem, QStyledItemDelegate, QStyleOptionViewItem

from gavotte.desktop.theme.palette import DAY, Palette
from gavotte.desktop.theme.type import BODY, SMALL, font
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.rows import paint_ground
from gavotte.profile.compared import Row
from gavotte.profile.figures import Figure, Unit
from gavotte.profile.measured import Value
from gavotte.profile.telling import shown

ROW = 40
_MIDDLE, _NUMBER, _GAP, _BAR = 240, 92, 10, 14
_LOW = 36.0
"""The MIDI number a bar of pitch begins at."""

_ROW_ROLE, _SCALE_ROLE = Qt.ItemDataRole.UserRole, Qt.ItemDataRole.UserRole + 1


def paint_row(painter: QPainter, area: QRectF, row: Row, scale: float, palette: Palette) -> None:
    """Paint a figure: its words on the axis, the first set's bar to the left, the other's to the right."""
    middle = area.center().x()
    wide = min(_MIDDLE, area.width() * 0.36)
    words = QRectF(middle - wide / 2, area.top(), wide, area.height())
    strong = row.stands_out
    face = font(BODY, 600 if strong else 400)
    painter.setFont(face)
    painter.setPen(QColor(palette.text))
    text = row.figure.words[:1].upper() + row.figure.words[1:]
    elided = QFontMetrics(face).elidedText(text, Qt.TextElideMode.ElideRight, int(wide) - 8)
    painter.drawText(words, Qt.AlignmentFlag.AlignCenter, elided)
    room = (area.width() - wide) / 2 - _NUMBER - 2 * _GAP
    for value, side in ((row.here, -1), (row.there, 1)):
        edge = middle + side * (wide / 2 + _GAP)
        if value is None:
            _number(painter, edge, area, side, translate("Gavotte", "not there"), palette)
            continue
        length = max(1.0, room * _reach(value, value.value, scale))
        top = area.center().y() - _BAR / 2
        bar = QRectF(min(edge, edge + side * length), top, length, _BAR)
        colour = QColor(palette.accent if side < 0 else palette.quiet_text)
        colour.setAlphaF(1.0 if strong else 0.55)
        painter.fillRect(bar, colour)
        _whisker(painter, edge, side, value, room, scale, area, palette)
        reach = max(length, room * _reach(value, value.high, scale))
        _number(painter, edge + side * (reach + 6), area, side, shown(value.figure, value.value), palette)


def _reach(value: Value, at: float, scale: float) -> float:
    """How far a value reaches, 0 to 1."""
    return max(0.0, min(1.0, (at - _ground(value.figure)) / scale)) if scale > 0 else 0.0


def _ground(figure: Figure) -> float:
    """What a bar begins at: nothing, or of a pitch a low one."""
    return _LOW if figure.unit is Unit.MIDI else 0.0


def _whisker(
    painter: QPainter, edge: float, side: int, value: Value, room: float, scale: float, area: QRectF, palette: Palette
) -> None:
    y = area.center().y()
    low, high = (edge + side * room * _reach(value, at, scale) for at in (value.low, value.high))
    painter.setPen(QPen(QColor(palette.text), 1.4))
    painter.drawLine(QPointF(low, y), QPointF(high, y))
    for x in (low, high):
        painter.drawLine(QPointF(x, y - 4), QPointF(x, y + 4))


def _number(painter: QPainter, x: float, area: QRectF, side: int, text: str, palette: Palette) -> None:
    painter.setFont(font(SMALL))
    painter.setPen(QColor(palette.quiet_text))
    box = QRectF(x if side > 0 else x - 2 * _NUMBER, area.top(), 2 * _NUMBER, area.height())
    way = Qt.AlignmentFlag.AlignLeft if side > 0 else Qt.AlignmentFlag.AlignRight
    painter.drawText(box, way | Qt.AlignmentFlag.AlignVCenter, text)


def scale_of(rows: Sequence[Row], row: Row) -> float:
    """What a whole bar stands for: the greatest share of the rows that are shown; of a mean its own greatest."""
    chosen = [row] if row.figure.unit is not Unit.SHARE else [r for r in rows if r.figure.unit is Unit.SHARE]
    ends = [value.high - _ground(r.figure) for r in chosen for value in (r.here, r.there) if value is not None]
    return max(ends, default=0.0)


class _Delegate(QStyledItemDelegate):
    def __init__(self, parent: QListWidget) -> None:
        super().__init__(parent)
        self.palette_in_use: Palette = DAY

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        return QSize(200, ROW)

    def paint(self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        assert painter is not None
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        paint_ground(painter, option, self.palette_in_use)
        row = index.data(_ROW_ROLE)
        if isinstance(row, Row):
            area = QRectF(option.rect).adjusted(12, 0, -12, 0)
            paint_row(painter, area, row, float(index.data(_SCALE_ROLE)), self.palette_in_use)
        painter.restore()


class Mirror(QListWidget):
    """Lists rows; ``chosen`` is the current one."""

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName(translate("Gavotte", "Figures of both sets"))
        self.setFrameShape(QListWidget.Shape.NoFrame)
        self.setMouseTracking(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setVerticalScrollMode(QListWidget.ScrollMode.ScrollPerPixel)
        self._delegate = _Delegate(self)
        self.setItemDelegate(self._delegate)
        self.rows: tuple[Row, ...] = ()

    def set_palette(self, palette: Palette) -> None:
        """Paint in a theme's colours."""
        self._delegate.palette_in_use = palette
        viewport = self.viewport()
        if viewport is not None:
            viewport.update()

    def show_rows(self, rows: Sequence[Row], keep: str = "") -> None:
        """List rows, the one of a figure by its name being the current one where it is there."""
        self.rows = tuple(rows)
        self.blockSignals(True)
        self.clear()
        for row in rows:
            item = QListWidgetItem()
            item.setData(_ROW_ROLE, row)
            item.setData(_SCALE_ROLE, scale_of(rows, row))
            told = [shown(row.figure, value.value) if value is not None else translate("Gavotte", "not there")
                    for value in (row.here, row.there)]  # fmt: skip
            name = f"{row.figure.words}: {told[0]}, {told[1]}"
            item.setData(Qt.ItemDataRole.AccessibleTextRole, name)
            item.setToolTip(f"{row.figure.words}: {row.figure.formula}")
            self.addItem(item)
        names = [row.figure.name for row in rows]
        self.setCurrentRow(names.index(keep) if keep in names else 0 if rows else -1)
        self.blockSignals(False)

    @property
    def chosen(self) -> Row | None:
        """The row that is looked at."""
        at = self.currentRow()
        return self.rows[at] if 0 <= at < len(self.rows) else None
