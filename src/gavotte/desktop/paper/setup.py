"""Page setup: the paper, the size of the staff, and what is printed. Kept in the settings."""

from __future__ import annotations

from dataclasses import dataclass, fields
from enum import StrEnum

from PyQt6.QtCore import QLocale, QMarginsF, QSettings
from PyQt6.QtGui import QPageLayout, QPageSize

from gavotte.desktop.page.line_item import LineParts
from gavotte.engraving.shapes import STAFF_SPACE
from gavotte.solo.document import Function, Instrument
from gavotte.solo.label import Label
from gavotte.solo.strings import usual_tuning

MARGIN_MM = 14
SMALLEST_STAFF, LARGEST_STAFF = 4.0, 10.0
FEWEST_BARS, MOST_BARS = 1, 8


class Reasons(StrEnum):
    """Which notes get their reason as a footnote."""

    NONE = "none"
    NOT_CHORD = "not-chord"
    ALL = "all"

    def wanted(self, label: Label) -> bool:
        """Whether a note with this label gets one."""
        return self is Reasons.ALL or (self is Reasons.NOT_CHORD and label.function is not Function.CHORD)


@dataclass(frozen=True)
class PageSetup:
    """How music is set on paper. ``staff`` is the height of a staff in millimetres."""

    paper: str = "A4"
    staff: float = 6.25
    bars: int = 4
    title: bool = True
    chords: bool = True
    bar_numbers: bool = True
    lane: bool = True
    degrees: bool = True
    reasons: Reasons = Reasons.NONE
    numerals: bool = False
    text: bool = False
    tablature: bool = True

    @property
    def page_layout(self) -> QPageLayout:
        """The paper with its margins."""
        size = QPageSize.PageSizeId.Letter if self.paper == "Letter" else QPageSize.PageSizeId.A4
        margins = QMarginsF(MARGIN_MM, MARGIN_MM, MARGIN_MM, MARGIN_MM)
        return QPageLayout(QPageSize(size), QPageLayout.Orientation.Portrait, margins, QPageLayout.Unit.Millimeter)

    @property
    def mm_per_unit(self) -> float:
        """Millimetres to an engraver unit."""
        return self.staff / (4 * STAFF_SPACE)

    def degrees_of(self, labels: dict[str, Label]) -> dict[str, str]:
        """The degrees that stand under the notes."""
        return {note: label.shown_degree for note, label in labels.items()} if self.degrees else {}

    def line_parts(self, numbered: bool, instrument: Instrument) -> LineParts:
        """What is shown of a line; ``numbered`` says whether bar numbers mean anything in the music."""
        return LineParts(
            self.lane,
            self.degrees,
            self.chords,
            self.bar_numbers and numbered,
            self.reasons is not Reasons.NONE,
            self.numerals,
            tuning=usual_tuning(instrument) if self.tablature else None,
        )


def usual_paper() -> str:
    """The paper of the user's country."""
    imperial = QLocale().measurementSystem() is QLocale.MeasurementSystem.ImperialUSSystem
    return "Letter" if imperial else "A4"


def read_setup(settings: QSettings) -> PageSetup:
    """The setup used last; what is unreadable or out of range is as usual."""
    usual = PageSetup(paper=usual_paper())
    found: dict[str, object] = {}
    for field in fields(PageSetup):
        before = getattr(usual, field.name)
        try:
            value = settings.value(f"paper/{field.name}", before)
            found[field.name] = value == "true" or value is True if isinstance(before, bool) else type(before)(value)
        except (TypeError, ValueError):
            found[field.name] = before
    setup = PageSetup(**found)  # type: ignore[arg-type]
    sound = SMALLEST_STAFF <= setup.staff <= LARGEST_STAFF and FEWEST_BARS <= setup.bars <= MOST_BARS
    return setup if sound and setup.paper in ("A4", "Letter") else usual


def write_setup(settings: QSettings, setup: PageSetup) -> None:
    """Keep a setup for the next time."""
    for field in fields(PageSetup):
        value = getattr(setup, field.name)
        settings.setValue(f"paper/{field.name}", str(value) if isinstance(value, Reasons) else value)
