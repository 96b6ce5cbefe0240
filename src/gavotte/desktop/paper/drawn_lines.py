"""Lines of music as drawings (SVG) for pages that are no paper."""

from __future__ import annotations

from collections.abc import Generator, Sequence

from PyQt6.QtCore import QRectF, QSize
from PyQt6.QtGui import QPainter

from gavotte.desktop.paper.picture import drawn, with_outlined_text
from gavotte.desktop.paper.set_lines import LineSetter, SetLine
from gavotte.engraving.shapes import STAFF_SPACE as SP
from gavotte.sheets.elements import Composed, Drawing, Music

_MM_PER_UNIT = 6.25 / (4 * SP)
_TENTHS = 10 * _MM_PER_UNIT
"""What is drawn counts in tenths of a millimetre."""
_WIDE, _NARROW = 21_000.0, 10_500.0
"""How wide lines are for a screen and for a phone, in engraver units."""
_EDGE = 0.4 * SP


def drawn_for_web(
    composed: Composed, setter: LineSetter
) -> Generator[float, None, dict[int, dict[str, tuple[bytes, ...]]]]:
    """The drawings of each music and picture by its number among the elements, a line each: for a "wide" page and a
    "narrow" one, or for "any". Yields the share that is done; text stands in them still as text.
    """
    elements, found = composed.elements, {}
    for number, element in enumerate(elements):
        if isinstance(element, Music):
            wide = yield from _lines(element, setter, _WIDE, element.shown.bars, number / len(elements))
            fewer = max(1, element.shown.bars // 2)
            narrow = yield from _lines(element, setter, _NARROW, fewer, number / len(elements))
            found[number] = {"wide": wide, "narrow": narrow}
        elif isinstance(element, Drawing):
            found[number] = {"any": (element.svg.encode(),)}
        yield number / len(elements)
    return found


def drawn_whole(composed: Composed, setter: LineSetter) -> Generator[float, None, dict[int, bytes]]:
    """The drawings of each music and picture by its number, all lines in one. Yields the share that is done."""
    elements, found = composed.elements, {}
    for number, element in enumerate(elements):
        if isinstance(element, Music):
            lines = yield from setter.lines(element, _WIDE, number / len(elements))
            found[number] = _drawing(lines, _WIDE)
        elif isinstance(element, Drawing):
            found[number] = element.svg.encode()
        yield number / len(elements)
    return found


def outlined(svg: bytes) -> str:
    """A drawing whose text is drawn as outlines, for it to look the same everywhere; this may be done in any thread."""
    return with_outlined_text(svg).decode()


def _lines(
    music: Music, setter: LineSetter, width: float, bars: int, share: float
) -> Generator[float, None, tuple[bytes, ...]]:
    lines = yield from setter.lines(music, width, share, bars)
    drawings = []
    for line in lines:
        drawings.append(_drawing((line,), width))
        yield share
    return tuple(drawings)


def _drawing(lines: Sequence[SetLine], width: float) -> bytes:
    """Lines under one another."""
    between = 1.6 * SP
    height = sum(line.height for line in lines) + between * (len(lines) - 1)
    area = QRectF(0, 0, width, height).adjusted(-_EDGE, -_EDGE, _EDGE, _EDGE)
    size = QSize(round(area.width() * _TENTHS), round(area.height() * _TENTHS))

    def paint(painter: QPainter) -> None:
        painter.scale(_TENTHS, _TENTHS)
        painter.translate(-area.left(), -area.top())
        y = 0.0
        for line in lines:
            line.paint(painter, y, width)
            y += line.height + between

    return drawn(size, paint)
