"""A picture of some bars, as PNG or SVG: for a letter, a page of one's own, or a lesson."""

from __future__ import annotations

import re
from collections.abc import Callable, Generator
from functools import lru_cache, partial
from xml.etree import ElementTree

from PyQt6.QtCore import QBuffer, QIODevice, QRectF, QSize
from PyQt6.QtGui import QColor, QFont, QImage, QPainter, QPainterPath
from PyQt6.QtSvg import QSvgGenerator
from PyQt6.QtWidgets import QGraphicsScene

from gavotte.desktop.page.line_item import LineItem
from gavotte.desktop.painting import painting
from gavotte.desktop.paper.setup import PageSetup
from gavotte.desktop.paper.sheet import Sheet
from gavotte.desktop.paper.told import land_of
from gavotte.desktop.theme.palette import PRINT
from gavotte.desktop.theme.type import FAMILY
from gavotte.engraving.engraver import LINE_WIDTH, Engraver, LineFormat, line_breaks
from gavotte.engraving.mei import staff_for
from gavotte.engraving.shapes import STAFF_SPACE as SP
from gavotte.notation.written import Notation
from gavotte.phrasing.structure import Structure
from gavotte.sheets.slim_svg import slimmed

_DOTS_PER_MM = 300 / 25.4
_MOST_PIXELS = 60_000_000
_EDGE = 0.8 * SP
_SVG = "{http://www.w3.org/2000/svg}"


def picture_steps(
    sheet: Sheet, setup: PageSetup, engraver: Engraver, as_svg: bool, deliver: Callable[[Callable[[], bytes]], None]
) -> Generator[float, None, None]:
    """Set the bars of the selected notes (of one note: its line; of none: all), yielding the share that is done.

    ``deliver`` is given what makes the file of it, in any thread: PNG at 300 dots an inch, or SVG with its text as
    outlines.
    """
    notation = Notation(sheet.solo)
    yield 0.0
    degrees = setup.degrees_of(sheet.labels)
    lines = _chosen_lines(sheet, notation, setup.bars)
    shape = LineFormat(_width(notation, lines, setup.bars), setup.bars)
    parts = setup.line_parts(sheet.numbered, sheet.solo.instrument)
    scene = QGraphicsScene()
    y = right = 0.0
    for number, (first, last) in enumerate(lines, 1):
        for line in engraver.line(notation, first, last, degrees, staff_for(sheet.solo), shape):
            item = LineItem(line, sheet.labels, sheet.solo, PRINT, parts)
            scene.addItem(item)
            item.setPos(0, y - item.top)
            y += item.height + SP
            right = max(right, line.barlines[-1] if line.barlines else shape.width)
        yield 0.9 * number / len(lines)
    area = QRectF(0, 0, right, max(y - SP, SP)).adjusted(-_EDGE, -_EDGE, _EDGE, _EDGE)
    yield 0.95
    deliver(
        partial(with_outlined_text, _svg(scene, area, setup)) if as_svg else partial(_png, _image(scene, area, setup))
    )


def _chosen_lines(sheet: Sheet, notation: Notation, per_line: int) -> list[tuple[int, int]]:
    breaks = line_breaks(notation, per_line)
    onsets = {note.id: note.onset for note in sheet.solo.notes}
    bars = sorted(notation.grid.index_at(onsets[note]) for note in sheet.selected if note in onsets)
    if not bars:
        return breaks
    if len(sheet.selected) == 1:
        return [next(found for found in breaks if found[0] <= bars[0] < found[1])]
    return [(first, min(first + per_line, bars[-1] + 1)) for first in range(bars[0], bars[-1] + 1, per_line)]


def _width(notation: Notation, lines: list[tuple[int, int]], per_line: int) -> float:
    """A few bars make a narrow picture: as wide as they would be on the page."""
    longest = max(float(sum(bar.length for bar in notation.grid.bars[first:last])) for first, last in lines)
    return LINE_WIDTH * min(1.0, 0.1 + 0.9 * longest / (4 * per_line))


def _image(scene: QGraphicsScene, area: QRectF, setup: PageSetup) -> QImage:
    scale = setup.mm_per_unit * _DOTS_PER_MM
    scale *= min(1.0, (_MOST_PIXELS / (area.width() * area.height() * scale * scale)) ** 0.5)
    image = QImage(round(area.width() * scale), round(area.height() * scale), QImage.Format.Format_RGB32)
    image.fill(QColor(PRINT.page))
    image.setDotsPerMeterX(round(1000 * _DOTS_PER_MM))
    image.setDotsPerMeterY(round(1000 * _DOTS_PER_MM))
    with painting(image) as painter:
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        scene.render(painter, QRectF(image.rect()), area)
    return image


def _png(image: QImage) -> bytes:
    buffer = QBuffer()
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    image.save(buffer, "PNG")
    return bytes(buffer.data().data())


def _svg(scene: QGraphicsScene, area: QRectF, setup: PageSetup) -> bytes:
    # A tenth of a millimetre to a unit keeps the numbers short and the size true.
    scale = 10 * setup.mm_per_unit
    size = QSize(round(area.width() * scale), round(area.height() * scale))
    return drawn(size, lambda painter: scene.render(painter, QRectF(0, 0, size.width(), size.height()), area))


def drawn(size: QSize, paint: Callable[[QPainter], object]) -> bytes:
    """An SVG of what is painted, in tenths of a millimetre."""
    buffer = QBuffer()
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    generator = QSvgGenerator()
    generator.setOutputDevice(buffer)
    generator.setResolution(254)
    generator.setSize(size)
    generator.setViewBox(QRectF(0, 0, size.width(), size.height()))
    generator.setTitle("Gavotte")
    with painting(generator) as painter:
        paint(painter)
    return bytes(buffer.data().data())


_LAND_WIDTH, _LAND_SCALE = 900, 2.0
"""Pixels the land is laid out in, and tenths of a millimetre each of them takes."""


def arc_picture(structure: Structure) -> bytes:
    """The arc of a solo with its phrases as SVG, its text still as text."""
    land = land_of(structure, _LAND_WIDTH)

    def paint(painter: QPainter) -> None:
        painter.scale(_LAND_SCALE, _LAND_SCALE)
        land.paint(painter, 0, land.height)

    return drawn(QSize(round(_LAND_WIDTH * _LAND_SCALE), round(land.height * _LAND_SCALE)), paint)


def with_outlined_text(svg: bytes) -> bytes:
    """The SVG, made small, its text drawn as outlines: so it looks the same where the type is not installed."""
    ElementTree.register_namespace("", _SVG[1:-1])
    root = ElementTree.fromstring(svg)
    for parent in list(root.iter()):
        for index, child in enumerate(list(parent)):
            if child.tag == f"{_SVG}text":
                parent[index] = _outline(child)
    return bytes(ElementTree.tostring(slimmed(root), encoding="utf-8", xml_declaration=True))


def _outline(text: ElementTree.Element) -> ElementTree.Element:
    size, weight = max(1, round(float(text.get("font-size", "12")))), int(text.get("font-weight", "400"))
    data = _outline_of("".join(text.itertext()).strip("\n"), size, weight, text.get("font-style") == "italic")
    at = f"translate({_short(float(text.get('x', '0')))} {_short(float(text.get('y', '0')))})"
    drawn = ElementTree.Element(f"{_SVG}path", {"d": data, "transform": at, "stroke": "none", "fill-rule": "evenodd"})
    for name in ("fill", "fill-opacity"):
        value = text.get(name)
        if value is not None:
            drawn.set(name, value)
    return drawn


# The same few degrees and chords stand in every line.
@lru_cache(maxsize=4096)
def _outline_of(words: str, size: int, weight: int, italic: bool) -> str:
    """Words as a path that begins at the origin."""
    face = QFont(FAMILY)
    face.setPixelSize(size)
    face.setWeight(QFont.Weight(weight))
    face.setItalic(italic)
    face.setHintingPreference(QFont.HintingPreference.PreferNoHinting)
    path = QPainterPath()
    path.addText(0.0, 0.0, face, words)
    return _path_data(path)


def _path_data(path: QPainterPath) -> str:
    data: list[str] = []
    curve: list[str] = []
    for index in range(path.elementCount()):
        element = path.elementAt(index)
        point = f"{_short(element.x)} {_short(element.y)}"
        match element.type:
            case QPainterPath.ElementType.MoveToElement:
                data.append(f"M{point}")
            case QPainterPath.ElementType.LineToElement:
                data.append(f"L{point}")
            case _:
                curve.append(point)
                if len(curve) == 3:
                    data.append("C" + " ".join(curve))
                    curve = []
    return "".join(data)


def _short(number: float) -> str:
    return re.sub(r"\.?0+$", "", f"{number:.2f}") or "0"
