"""A function's shape in small, as an icon for buttons."""

from __future__ import annotations

from PyQt6.QtGui import QColor, QIcon, QPainter

from gavotte.desktop.page.lane_marks import paint_mark
from gavotte.desktop.theme.icons import painted_icon
from gavotte.desktop.theme.palette import Palette
from gavotte.engraving.shapes import STAFF_SPACE as SP
from gavotte.solo.document import Function
from gavotte.solo.label import Label

# How far below the icon's top the ground lies, so that each mark stands in the middle.
_GROUND = {
    Function.CHORD: 1.85,
    Function.EXTENSION: 2.3,
    Function.PASSING: 2.15,
    Function.APPROACH: 2.2,
    Function.OUTSIDE: 4.65,
}


def function_icon(function: Function, palette: Palette, size: int = 20) -> QIcon:
    """The lane's mark for a function, on a short ground line."""
    device = "implied" if function is Function.OUTSIDE else "plain"
    label = Label("", function, device, "1", "", "")

    def paint(painter: QPainter) -> None:
        factor = size / (2.4 * SP)
        painter.scale(factor, factor)
        painter.translate(1.2 * SP, _GROUND[function] * SP)
        paint_mark(painter, 0, 0, label, palette.function(function), QColor(palette.page), True)

    return painted_icon(size, paint)
