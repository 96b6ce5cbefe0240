"""The two themes' colours.

Function colours keep 4.5:1 against their page, and differ in lightness as well as hue so that they stay
apart under the common colour-blindnesses; the lane's shapes carry the same meaning without them.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

from PyQt6.QtGui import QColor

from gavotte.solo.document import Function


@dataclass(frozen=True)
class Palette:
    """One theme. ``page`` is the paper, ``chrome`` what surrounds it, ``well`` a field on the chrome."""

    name: str
    page: str
    ink: str
    faint_ink: str
    staff: str
    chrome: str
    well: str
    rule: str
    text: str
    quiet_text: str
    accent: str
    on_accent: str
    selection: str
    warning: str
    functions: dict[Function, str]
    white_key: str
    black_key: str
    on_white_key: str
    on_black_key: str
    note_on_white: str
    note_on_black: str

    def function(self, function: Function) -> QColor:
        """The colour of a function."""
        return QColor(self.functions[function])


DAY = Palette(
    name="Day",
    page="#fcf8f0",
    ink="#221d17",
    faint_ink="#6f665b",
    staff="#8d8375",
    chrome="#f1eadf",
    well="#faf6ee",
    rule="#d9cfbf",
    text="#2a241d",
    quiet_text="#675e52",
    accent="#0e6467",
    on_accent="#fdfbf6",
    selection="#cfe4e0",
    warning="#9a3412",
    functions={
        Function.CHORD: "#274b73",
        Function.EXTENSION: "#8a5800",
        Function.PASSING: "#3f6b45",
        Function.APPROACH: "#a8361b",
        Function.OUTSIDE: "#6d2d84",
    },
    white_key="#fdfbf6",
    black_key="#2b2620",
    on_white_key="#274b73",
    on_black_key="#f2ece0",
    note_on_white="#a8361b",
    note_on_black="#f4866a",
)

STAGE = Palette(
    name="Stage",
    page="#14130f",
    ink="#e9e2d4",
    faint_ink="#a79e8e",
    staff="#746c5f",
    chrome="#1d1b16",
    well="#26231d",
    rule="#3a362d",
    text="#e6dfd1",
    quiet_text="#aba292",
    accent="#63c3bb",
    on_accent="#10201f",
    selection="#1f4644",
    warning="#f0946b",
    functions={
        Function.CHORD: "#9cc0ee",
        Function.EXTENSION: "#eebd58",
        Function.PASSING: "#9bd0a6",
        Function.APPROACH: "#f4866a",
        Function.OUTSIDE: "#d5a3ea",
    },
    white_key="#d8d1c3",
    black_key="#171510",
    on_white_key="#274b73",
    on_black_key="#f2ece0",
    note_on_white="#a8361b",
    note_on_black="#f4866a",
)

PRINT = replace(
    DAY, name="Print", page="#ffffff", ink="#000000", faint_ink="#444444", staff="#333333", accent="#000000",
    selection="#ffffff", warning="#000000",
)  # fmt: skip
"""Ink on white paper. The functions keep Day's colours, which print as distinct greys; shapes carry the meaning."""

THEMES = {palette.name: palette for palette in (DAY, STAGE)}
