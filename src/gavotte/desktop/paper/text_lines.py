"""Text on paper, broken into lines: each stands by itself, so that a page can end between any two of them."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QColor, QFont, QPainter, QTextCharFormat, QTextLayout, QTextOption

from gavotte.sheets.elements import bold_runs


@dataclass(frozen=True, eq=False)
class TextLine:
    """One line of a paragraph. ``before`` is the room over it; ``holds`` says that the next line stays with it."""

    layout: QTextLayout
    number: int
    height: float
    before: float
    holds: bool

    def paint(self, painter: QPainter, x: float, y: float) -> None:
        """Paint it with its upper edge at a place."""
        line = self.layout.lineAt(self.number)
        line.draw(painter, QPointF(x, y - line.y()))


def text_lines(words: str, face: QFont, width: float, colour: QColor, before: float) -> Iterator[TextLine]:
    """A paragraph in lines, its **bold** words bold. ``before`` is the room over the first one."""
    plain, bold = _runs(words)
    layout = QTextLayout(plain, face)
    option = QTextOption(Qt.AlignmentFlag.AlignLeft)
    option.setWrapMode(QTextOption.WrapMode.WrapAtWordBoundaryOrAnywhere)
    layout.setTextOption(option)
    layout.setFormats(_formats(plain, bold, face, colour))
    layout.beginLayout()
    heights: list[float] = []
    while True:
        line = layout.createLine()
        if not line.isValid():
            break
        line.setLineWidth(width)
        line.setPosition(QPointF(0, sum(heights)))
        heights.append(line.height())
    layout.endLayout()
    last = len(heights) - 1
    for number, height in enumerate(heights):
        # Neither the first line of a paragraph nor its last is left alone.
        yield TextLine(layout, number, height, before if number == 0 else 0.0, number == 0 or number == last - 1)


def _runs(words: str) -> tuple[str, list[tuple[int, int]]]:
    """The words without their signs, and from where to where they are bold."""
    plain, bold = "", []
    for run, is_bold in bold_runs(words):
        if is_bold:
            bold.append((len(plain), len(run)))
        plain += run
    return plain, bold


def _formats(plain: str, bold: list[tuple[int, int]], face: QFont, colour: QColor) -> list[QTextLayout.FormatRange]:
    ranges = []
    for start, length, is_bold in [(0, len(plain), False), *((start, length, True) for start, length in bold)]:
        made = QTextLayout.FormatRange()
        made.start, made.length = start, length
        made.format = QTextCharFormat()
        heavier = QFont(face)
        if is_bold:
            heavier.setWeight(QFont.Weight.Bold)
        made.format.setFont(heavier)
        made.format.setForeground(colour)
        ranges.append(made)
    return ranges
