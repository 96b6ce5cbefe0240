"""A choice of a meter, with how its beats are grouped."""

from __future__ import annotations

from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.choice import Choice
from gavotte.theory.meter import Meter

_METERS = (
    ("4/4", ""), ("3/4", ""), ("2/4", ""), ("5/4", "3+2"), ("5/4", "2+3"), ("6/4", "3+3"), ("7/4", "4+3"),
    ("6/8", ""), ("9/8", ""), ("12/8", ""), ("7/8", "2+2+3"), ("2/2", ""),
)  # fmt: skip


def meter_choice(current: Meter | None = None) -> Choice:
    """The meters solos are in, and the current one."""
    choice = Choice()
    choice.setAccessibleName(translate("Gavotte", "Meter"))
    meters = [Meter.parse(meter, grouping) for meter, grouping in _METERS]
    if current is not None and current not in meters:
        meters.insert(0, current)
    for meter in meters:
        grouping = "+".join(str(size) for size in meter.grouping)
        choice.addItem(f"{meter} ({grouping})" if grouping else str(meter), meter)
    choice.setCurrentIndex(0 if current is None else meters.index(current))
    return choice
