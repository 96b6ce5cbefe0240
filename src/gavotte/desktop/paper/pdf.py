"""A sheet as a PDF in vectors."""

from __future__ import annotations

from collections.abc import Callable, Generator

from PyQt6.QtCore import QBuffer, QIODevice
from PyQt6.QtGui import QPdfWriter

from gavotte.desktop.paper.pages import SheetPages, paint_on
from gavotte.engraving.engraver import Engraver

_RESOLUTION = 600
_LAYOUT_SHARE = 0.8


def set_as_pdf(pages: SheetPages, engraver: Engraver, deliver: Callable[[bytes], None]) -> Generator[float, None, None]:
    """Lay pages out and paint them, yielding the share that is done; give the finished PDF to ``deliver``."""
    for share in pages.steps(engraver):
        yield _LAYOUT_SHARE * share
    buffer = QBuffer()
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    writer = QPdfWriter(buffer)
    writer.setResolution(_RESOLUTION)
    writer.setPageLayout(pages.setup.page_layout)
    writer.setTitle(pages.sheet.solo.title)
    writer.setCreator("Gavotte")
    for share in paint_on(writer, pages):
        yield _LAYOUT_SHARE + (1 - _LAYOUT_SHARE) * share
    buffer.close()
    deliver(bytes(buffer.data().data()))
