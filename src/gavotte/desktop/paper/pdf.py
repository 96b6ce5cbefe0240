"""Pages as a PDF in vectors, with what a reader finds its way by."""

from __future__ import annotations

from collections.abc import Callable, Generator

from PyQt6.QtCore import QBuffer, QIODevice
from PyQt6.QtGui import QPageLayout, QPdfWriter

from gavotte.desktop.paper.bookmarks import About, Mark, with_bookmarks
from gavotte.desktop.paper.flow import FlowPages
from gavotte.desktop.paper.pages import SheetPages
from gavotte.desktop.paper.painted import PaintedPages, paint_on
from gavotte.desktop.paper.setup import MARGIN_MM
from gavotte.engraving.engraver import Engraver
from gavotte.steps import scaled

_RESOLUTION = 600
_LAYOUT_SHARE = 0.8


def set_as_pdf(pages: SheetPages, engraver: Engraver, deliver: Callable[[bytes], None]) -> Generator[float, None, None]:
    """Lay pages out and paint them, yielding the share that is done; give the finished PDF to ``deliver``."""
    for share in pages.steps(engraver):
        yield _LAYOUT_SHARE * share
    deliver((yield from scaled(_painted(pages, pages.sheet.solo.title), _LAYOUT_SHARE, 1.0)))


def flow_as_pdf(pages: FlowPages) -> Generator[float, None, Callable[[], bytes]]:
    """Paint pages that are laid out, yielding the share that is done; gives what makes the PDF of it, in any thread."""
    data = yield from _painted(pages, pages.title)
    composed = pages.composed
    about = About(composed.title, composed.subtitle, composed.rights)
    marks = tuple(Mark(entry.words, entry.level, entry.page, _from_top(pages, entry.y)) for entry in pages.outline)
    links = tuple((page, _box(pages, area.top(), area.bottom()), entry.page) for page, area, entry in pages.contents())
    return lambda: with_bookmarks(data, about, marks, links)


def _painted(pages: PaintedPages, title: str) -> Generator[float, None, bytes]:
    buffer = QBuffer()
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    writer = QPdfWriter(buffer)
    writer.setResolution(_RESOLUTION)
    writer.setPageLayout(pages.setup.page_layout)
    writer.setTitle(title)
    writer.setCreator("Gavotte")
    yield from paint_on(writer, pages)
    buffer.close()
    return bytes(buffer.data().data())


_POINT_MM = 25.4 / 72


def _from_top(pages: FlowPages, y: float) -> float:
    """How far from the paper's upper edge something stands, in points."""
    return (MARGIN_MM + y * pages.setup.mm_per_unit) / _POINT_MM


def _box(pages: FlowPages, top: float, bottom: float) -> tuple[float, float, float, float]:
    """A stretch of the page from margin to margin as a PDF counts it: in points from the lower left corner."""
    paper = pages.setup.page_layout.fullRect(QPageLayout.Unit.Millimeter)
    left, right = MARGIN_MM / _POINT_MM, (paper.width() - MARGIN_MM) / _POINT_MM
    high = paper.height() / _POINT_MM
    return left, high - _from_top(pages, bottom), right, high - _from_top(pages, top)
