"""What can be painted page by page: on the preview, in a PDF, on a printer."""

from __future__ import annotations

from collections.abc import Generator, Sequence
from typing import Protocol

from PyQt6.QtGui import QPagedPaintDevice, QPainter

from gavotte.desktop.painting import painting
from gavotte.desktop.paper.setup import PageSetup


class PaintedPages(Protocol):
    """Pages on paper; lengths are in engraver units, within the margins."""

    setup: PageSetup
    width: float
    height: float

    @property
    def pages(self) -> Sequence[object]:
        """The pages there are."""

    def paint_page(self, painter: QPainter, index: int) -> None:
        """Paint a page where the painter's origin is; the painter counts in engraver units."""


def paint_on(
    device: QPagedPaintDevice, pages: PaintedPages, chosen: Sequence[int] | None = None
) -> Generator[float, None, None]:
    """Paint all pages on a PDF writer or printer, or those ``chosen`` (from 0), yielding the share that is done."""
    wanted = range(len(pages.pages)) if chosen is None else chosen
    with painting(device) as painter:
        # A printer may hold other paper than the setup has: everything stays on it.
        scale = min(device.width() / pages.width, device.height() / pages.height)
        painter.scale(scale, scale)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for count, index in enumerate(wanted):
            if count:
                device.newPage()
            pages.paint_page(painter, index)
            yield (count + 1) / len(wanted)
