"""Which theme is shown: one that was chosen, or light and dark as the desktop has it."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QGuiApplication

from gavotte.desktop.theme.palette import DAY, STAGE, THEMES, Palette
from gavotte.desktop.translation import QT_TRANSLATE_NOOP

FOLLOW_SYSTEM = "system"
LOOKS = (
    (QT_TRANSLATE_NOOP("Gavotte", "As the desktop has it"), FOLLOW_SYSTEM),
    (QT_TRANSLATE_NOOP("Gavotte", "Day: paper and ink"), "Day"),
    (QT_TRANSLATE_NOOP("Gavotte", "Stage: for a dim room"), "Stage"),
)
"""(words, name) of the looks to choose from."""


def palette_for(look: str) -> Palette:
    """The palette of a look; with FOLLOW_SYSTEM, Stage where the desktop is dark."""
    if look in THEMES:
        return THEMES[look]
    hints = QGuiApplication.styleHints()
    dark = hints is not None and hints.colorScheme() is Qt.ColorScheme.Dark
    return STAGE if dark else DAY
