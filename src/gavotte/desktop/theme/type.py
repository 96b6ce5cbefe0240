"""The application's one text family and its sizes."""

from __future__ import annotations

from functools import lru_cache
from importlib.resources import files

from PyQt6.QtGui import QFont, QFontDatabase

FAMILY = "M PLUS 1p"
_FILES = ("MPLUS1p-Regular.ttf", "MPLUS1p-Medium.ttf", "MPLUS1p-Bold.ttf")

BODY, SMALL, TITLE = 14, 12, 22
"""Text sizes in pixels."""


@lru_cache(maxsize=1)
def load_fonts() -> None:
    """Make the shipped fonts known to Qt; needs a running application."""
    folder = files("gavotte.desktop.theme") / "fonts"
    for name in _FILES:
        QFontDatabase.addApplicationFontFromData((folder / name).read_bytes())


@lru_cache(maxsize=256)
def font(pixels: float, weight: int = 400, italic: bool = False) -> QFont:
    """The family at a size in pixels (or scene units) and a weight of 400, 500 or 700."""
    made = QFont(FAMILY)
    made.setPixelSize(max(1, round(pixels)))
    made.setWeight(QFont.Weight(weight))
    made.setItalic(italic)
    made.setHintingPreference(QFont.HintingPreference.PreferNoHinting)
    return made
