"""A sheet: a solo or lick sheet with the words that belong to it, and its setting on paper as a PDF in vectors.

The lines are those of the page, in ink on white. They are painted one at a time between events, so a long solo
shows its progress and can be stopped.
"""

from __future__ import annotations

from collections.abc import Callable, Generator
from dataclasses import dataclass

from PyQt6.QtCore import QBuffer, QIODevice, QMarginsF, QObject, QPointF, QRectF, QTimer
from PyQt6.QtGui import QColor, QFontMetricsF, QPageLayout, QPageSize, QPainter, QPdfWriter
from PyQt6.QtWidgets import QGraphicsScene

from gavotte.desktop.page.line_item import LineItem
from gavotte.desktop.theme.palette import PRINT
from gavotte.desktop.theme.type import font
from gavotte.engraving.engraver import LINE_WIDTH, Engraver, line_breaks
from gavotte.engraving.mei import staff_for
from gavotte.engraving.shapes import STAFF_SPACE as SP
from gavotte.notation.written import Notation
from gavotte.solo.document import Solo
from gavotte.solo.label import Label
from gavotte.theory.chord_symbol import shown_degree

_MARGIN_MM = 14
_RESOLUTION = 600
_BETWEEN_LINES = 1.6 * SP


@dataclass(frozen=True)
class Sheet:
    """Music as it is shown, with its labels, the words under its title, and whether bars are numbered.

    ``concert`` is the same music in concert pitch where the page shows written pitch: data formats start from
    there and say themselves how the instrument transposes.
    """

    solo: Solo
    labels: dict[str, Label]
    subtitle: str
    numbered: bool = True
    concert: tuple[Solo, dict[str, Label]] | None = None

    @property
    def as_data(self) -> tuple[Solo, dict[str, Label]]:
        """Solo and labels in concert pitch."""
        return self.concert or (self.solo, self.labels)


class SheetJob(QObject):
    """Paints a sheet step by step; ``on_progress(share)`` is called on the way and ``on_done(pdf)`` at the end."""

    def __init__(
        self,
        sheet: Sheet,
        engraver: Engraver,
        paper: QPageSize.PageSizeId,
        on_progress: Callable[[float], None],
        on_done: Callable[[bytes], None],
        parent: QObject | None = None,
    ) -> None:
        super().__init__(parent)
        self._steps = paint_sheet(sheet, engraver, paper, self._take)
        self._on_progress, self._on_done = on_progress, on_done
        self._pdf = b""
        self._timer = QTimer(self)
        self._timer.timeout.connect(self._step)
        self._timer.start(0)

    def cancel(self) -> None:
        """Stop; nothing is delivered."""
        self._timer.stop()
        self._steps.close()

    def _take(self, pdf: bytes) -> None:
        self._pdf = pdf

    def _step(self) -> None:
        share = next(self._steps, None)
        if share is not None:
            self._on_progress(share)
            return
        self._timer.stop()
        self._on_done(self._pdf)


def paint_sheet(
    sheet: Sheet, engraver: Engraver, paper: QPageSize.PageSizeId, deliver: Callable[[bytes], None]
) -> Generator[float, None, None]:
    """Paint line after line, yielding the share that is done; give the finished PDF to ``deliver``."""
    buffer = QBuffer()
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    writer = QPdfWriter(buffer)
    writer.setResolution(_RESOLUTION)
    margins = QMarginsF(_MARGIN_MM, _MARGIN_MM, _MARGIN_MM, _MARGIN_MM)
    writer.setPageLayout(
        QPageLayout(QPageSize(paper), QPageLayout.Orientation.Portrait, margins, QPageLayout.Unit.Millimeter)
    )
    writer.setTitle(sheet.solo.title)
    writer.setCreator("Gavotte")
    painter = QPainter(writer)
    try:
        page = _Page(painter, writer, sheet)
        notation = Notation(sheet.solo)
        degrees = {note: shown_degree(label.degree) for note, label in sheet.labels.items()}
        breaks = line_breaks(notation)
        staff = staff_for(sheet.solo)
        for number, (first, last) in enumerate(breaks, 1):
            for line in engraver.line(notation, first, last, degrees, staff):
                page.add(LineItem(line, sheet.labels, sheet.solo.sections, PRINT, numbered=sheet.numbered))
            yield number / len(breaks)
        page.finish()
    finally:
        painter.end()
    buffer.close()
    deliver(bytes(buffer.data().data()))


class _Page:
    """Fills pages from top to bottom. Lengths are in engraver units, scaled so that a line fills the width."""

    def __init__(self, painter: QPainter, writer: QPdfWriter, sheet: Sheet) -> None:
        self._painter, self._writer, self._sheet = painter, writer, sheet
        self._scale = writer.width() / LINE_WIDTH
        self._height = writer.height() / self._scale
        self._number = 1
        painter.scale(self._scale, self._scale)
        self._y = self._title_block()

    def _title_block(self) -> float:
        painter, sheet = self._painter, self._sheet
        painter.setPen(QColor(PRINT.ink))
        painter.setFont(font(4.2 * SP, 700))
        painter.drawText(QPointF(0, 4.0 * SP), sheet.solo.title)
        painter.setFont(font(1.9 * SP))
        painter.setPen(QColor(PRINT.faint_ink))
        painter.drawText(QPointF(0, 7.0 * SP), sheet.subtitle)
        return 9.5 * SP

    def add(self, item: LineItem) -> None:
        """Put a line under the last one, on a new page where there is no room for it."""
        if self._y + item.height > self._height - 3 * SP:
            self._footer()
            self._writer.newPage()
            self._number += 1
            self._y = 0.0
        scene = QGraphicsScene()
        scene.addItem(item)
        item.setPos(0, -item.top)
        area = QRectF(0, 0, LINE_WIDTH, item.height)
        # The scene paints in the painter's own coordinates: the target is given in engraver units.
        scene.render(self._painter, QRectF(0, self._y, LINE_WIDTH, item.height), area)
        self._y += item.height + _BETWEEN_LINES

    def finish(self) -> None:
        """Complete the last page."""
        self._footer()

    def _footer(self) -> None:
        face = font(1.5 * SP)
        self._painter.setFont(face)
        self._painter.setPen(QColor(PRINT.faint_ink))
        text = f"{self._sheet.solo.title} · {self._number}"
        x = LINE_WIDTH - QFontMetricsF(face).horizontalAdvance(text)
        self._painter.drawText(QPointF(x, self._height - 0.5 * SP), text)
