"""The comparison taken away: as a table, or as a picture of what is listed."""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence
from pathlib import Path

from PyQt6.QtCore import QBuffer, QIODevice, QRectF, QSettings, QSize, Qt
from PyQt6.QtGui import QColor, QImage, QPainter
from PyQt6.QtSvg import QSvgGenerator
from PyQt6.QtWidgets import QWidget

from gavotte.desktop.desks.compare.mirror import ROW, paint_row, scale_of
from gavotte.desktop.painting import painting
from gavotte.desktop.theme.palette import PRINT
from gavotte.desktop.theme.type import BODY, font
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.save_dialog import ask_where
from gavotte.profile.compared import Row
from gavotte.profile.measured import Value

_WIDE, _HEAD, _MOST = 900, 48, 60
_SHARP = 2


def ask_where_figures_go(parent: QWidget, settings: QSettings) -> Path | None:
    """Where the comparison is written to, None where it is not."""
    kinds = {
        translate("Gavotte", "Table"): ".csv",
        translate("Gavotte", "Picture in lines"): ".svg",
        translate("Gavotte", "Picture in dots"): ".png",
    }
    return ask_where(parent, settings, translate("Gavotte", "Export the comparison"), "comparison", kinds)


def table(rows: Sequence[Row], here: str, there: str) -> bytes:
    """The rows as CSV with a heading."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    sides = [f"{name}{part}" for name in (here, there) for part in ("", ", low", ", high", ", among")]
    writer.writerow(("figure", "family", "formula", *sides, "z", "chance"))
    for row in rows:
        difference = row.difference
        apart = (f"{difference.z:.2f}", f"{difference.chance:.4f}") if difference is not None else ("", "")
        figure = row.figure
        writer.writerow((figure.words, figure.family, figure.formula, *_cells(row.here), *_cells(row.there), *apart))
    return out.getvalue().encode()


def _cells(value: Value | None) -> tuple[str, ...]:
    if value is None:
        return ("", "", "", "")
    return (f"{value.value:.5f}", f"{value.low:.5f}", f"{value.high:.5f}", f"{value.among:.0f}")


def picture(rows: Sequence[Row], here: str, there: str, vectors: bool) -> bytes:
    """The rows as SVG or PNG, black on white."""
    chosen = rows[:_MOST]
    size = QSize(_WIDE, _HEAD + ROW * len(chosen))
    buffer = QBuffer()
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    if vectors:
        generator = QSvgGenerator()
        generator.setOutputDevice(buffer)
        generator.setSize(size)
        generator.setViewBox(QRectF(0, 0, size.width(), size.height()))
        with painting(generator) as painter:
            _paint(painter, chosen, here, there)
    else:
        image = QImage(size * _SHARP, QImage.Format.Format_RGB32)
        image.fill(QColor(PRINT.page))
        with painting(image) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.scale(_SHARP, _SHARP)
            _paint(painter, chosen, here, there)
        image.save(buffer, "PNG")
    return bytes(buffer.data().data())


def _paint(painter: QPainter, rows: Sequence[Row], here: str, there: str) -> None:
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
