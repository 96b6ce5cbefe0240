"""What the Compare desk shows, taken away: as a table, or as a picture black on white."""

from __future__ import annotations

import csv
import io
from collections.abc import Callable, Iterable, Sequence
from pathlib import Path

from PyQt6.QtCore import QBuffer, QIODevice, QRectF, QSettings, QSize, Qt
from PyQt6.QtGui import QColor, QImage, QPainter
from PyQt6.QtSvg import QSvgGenerator
from PyQt6.QtWidgets import QWidget

from gavotte.desktop.desks.compare.mirror import ROW, paint_row, scale_of
from gavotte.desktop.desks.compare.pictures import Picture, Shown, height_of, paint_picture
from gavotte.desktop.desks.compare.time_view import paint_change
from gavotte.desktop.painting import painting
from gavotte.desktop.theme.palette import PRINT
from gavotte.desktop.theme.type import BODY, font
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.save_dialog import ask_where
from gavotte.profile.compared import Row
from gavotte.profile.form_curve import Curve, FormCurves
from gavotte.profile.measured import Value
from gavotte.profile.nearest import Near
from gavotte.profile.over_time import Change, OverTime
from gavotte.profile.shared import InCommon

_WIDE, _HEAD, _MOST = 900, 48, 60
_EDGE = 16.0
_SHARP = 2
Paint = Callable[[QPainter], object]


def ask_where_figures_go(parent: QWidget, settings: QSettings, is_painted: bool = True) -> Path | None:
    """Where the comparison is written to, None where it is not; as a picture only where there is one."""
    kinds = {translate("Gavotte", "Table"): ".csv"}
    if is_painted:
        kinds |= {translate("Gavotte", "Picture in lines"): ".svg", translate("Gavotte", "Picture in dots"): ".png"}
    return ask_where(parent, settings, translate("Gavotte", "Export the comparison"), "comparison", kinds)


# -- tables ----------------------------------------------------------------------------------------------------


def _csv(heading: Sequence[str], rows: Iterable[Sequence[object]]) -> bytes:
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(heading)
    writer.writerows(rows)
    return out.getvalue().encode()


def table(rows: Sequence[Row], here: str, there: str) -> bytes:
    """The rows as CSV with a heading."""
    sides = [f"{name}{part}" for name in (here, there) for part in ("", ", low", ", high", ", among")]
    return _csv(("figure", "family", "formula", *sides, "z", "chance"), map(_row_cells, rows))


def _row_cells(row: Row) -> tuple[str, ...]:
    difference, figure = row.difference, row.figure
    apart = (f"{difference.z:.2f}", f"{difference.chance:.4f}") if difference is not None else ("", "")
    return (figure.words, figure.family, figure.formula, *_cells(row.here), *_cells(row.there), *apart)


def _cells(value: Value | None) -> tuple[str, ...]:
    if value is None:
        return ("", "", "", "")
    return (f"{value.value:.5f}", f"{value.low:.5f}", f"{value.high:.5f}", f"{value.among:.0f}")


def form_table(curves: FormCurves | None, here: str, there: str) -> bytes:
    """The curves over the form as CSV, a row a bar."""
    sides = [f"{name}, {part}" for name in (here, there) for part in ("pitch", "low", "high", "notes a beat")]
    bars = 0 if curves is None else curves.bars
    both = (None, None) if curves is None else (curves.here, curves.there)
    return _csv(("bar", *sides), ((bar + 1, *(cell for one in both for cell in _bar(one, bar))) for bar in range(bars)))


def _bar(curve: Curve | None, bar: int) -> list[str]:
    values = () if curve is None else (curve.pitch[bar], curve.low[bar], curve.high[bar], curve.density[bar])
    return [f"{value:.3f}" if value == value else "" for value in values] or [""] * 4


def common_table(found: InCommon) -> bytes:
    """The cells both sets have as CSV."""
    rows = ((cell.degrees, cell.relation, len(cell.here), len(cell.there)) for cell in found.cells)
    return _csv(("degrees", "alike", "places here", "places there"), rows)


def near_table(found: Sequence[tuple[str, Near]], titles: dict[str, tuple[str, str]]) -> bytes:
    """The nearest solos as CSV; ``titles`` are title and player by id."""
    rows = (
        (*titles.get(name, (name, "")), f"{near.closeness:.4f}", "; ".join(figure.words for figure in near.alike))
        for name, near in found
    )
    return _csv(("title", "player", "closeness", "alike in"), rows)


def time_table(over: OverTime) -> bytes:
    """The changes over time as CSV, a column for each time."""
    rows = (
        (
            change.figure.words, change.figure.family,
            *("" if value is None else f"{value.value:.5f}" for value in change.values),
            f"{change.z:.2f}", f"{change.chance:.4f}",
        )
        for change in over.changes
    )  # fmt: skip
    return _csv(("figure", "family", *over.times, "z", "chance"), rows)


# -- pictures --------------------------------------------------------------------------------------------------


def picture(rows: Sequence[Row], here: str, there: str, vectors: bool) -> bytes:
    """The rows as SVG or PNG."""
    chosen = rows[:_MOST]
    return _painted(QSize(_WIDE, _HEAD + ROW * len(chosen)), lambda p: _paint_rows(p, chosen, here, there), vectors)


def picture_of(kind: Picture, shown: Shown, vectors: bool) -> bytes:
    """One of the pictures as SVG or PNG."""
    wide = _WIDE - 2 * _EDGE
    size = QSize(_WIDE, int(height_of(kind, shown, wide) + 2 * _EDGE))
    area = QRectF(_EDGE, _EDGE, wide, size.height() - 2 * _EDGE)
    return _painted(size, lambda painter: paint_picture(painter, area, kind, shown, PRINT), vectors)


def picture_of_change(over: OverTime, change: Change, vectors: bool) -> bytes:
    """A figure over time as SVG or PNG, with its words over it."""

    def paint(painter: QPainter) -> None:
        painter.setFont(font(BODY, 600))
        painter.setPen(QColor(PRINT.text))
        words = change.figure.words[:1].upper() + change.figure.words[1:]
        painter.drawText(QRectF(_EDGE, 8, _WIDE - 2 * _EDGE, 32), Qt.AlignmentFlag.AlignHCenter, words)
        paint_change(painter, QRectF(_EDGE, 40, _WIDE - 2 * _EDGE, 320), over, change, PRINT)

    return _painted(QSize(_WIDE, 376), paint, vectors)


def _painted(size: QSize, paint: Paint, vectors: bool) -> bytes:
    buffer = QBuffer()
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    if vectors:
        generator = QSvgGenerator()
        generator.setOutputDevice(buffer)
        generator.setSize(size)
        generator.setViewBox(QRectF(0, 0, size.width(), size.height()))
        with painting(generator) as painter:
            paint(painter)
    else:
        image = QImage(size * _SHARP, QImage.Format.Format_RGB32)
        image.fill(QColor(PRINT.page))
        with painting(image) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.scale(_SHARP, _SHARP)
            paint(painter)
        image.save(buffer, "PNG")
    return bytes(buffer.data().data())


def _paint_rows(painter: QPainter, rows: Sequence[Row], here: str, there: str) -> None:
    painter.setFont(font(BODY, 600))
    painter.setPen(QColor(PRINT.text))
    half = _WIDE / 2
    painter.drawText(
        QRectF(12, 0, half - 130, _HEAD), Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, here
    )
    left = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
    painter.drawText(QRectF(half + 130, 0, half - 142, _HEAD), left, there)
    for number, row in enumerate(rows):
        area = QRectF(12, _HEAD + number * ROW, _WIDE - 24, ROW)
        paint_row(painter, area, row, scale_of(rows, row), PRINT)
