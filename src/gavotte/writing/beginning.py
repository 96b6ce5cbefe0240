"""A solo to begin with: its names, key, meter and form, and nothing written yet."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

from gavotte.solo.document import Instrument, KeyRegion, MeterRegion, Solo
from gavotte.theory.key import Key
from gavotte.theory.meter import Meter
from gavotte.writing.chord_line import read_chord_line
from gavotte.writing.choruses import with_choruses
from gavotte.writing.forms import Form, form_in_key


def begun(
    title: str,
    instrument: Instrument,
    key: Key,
    meter: Meter,
    *,
    player: str = "",
    tempo: Fraction | None = None,
    pickup: Fraction = Fraction(0),
    form: Form | None = None,
    choruses: int = 1,
) -> Solo:
    """An empty solo: one empty bar, or a form's changes under some choruses. ``tempo`` is in quarter notes a minute.

    Raises ValueError for a pickup that is no part of a bar.
    """
    if not 0 <= pickup < meter.bar_length:
        raise ValueError(f"a pickup of {pickup} quarter notes is no part of a {meter} bar")
    blues = form is not None and form.blues
    solo = Solo(
        title=title,
        player=player,
        instrument=instrument,
        tempo=tempo,
        pickup=pickup,
        meters=(MeterRegion(Fraction(0), meter),),
        keys=(KeyRegion(Fraction(0), key, blues),),
    )
    if form is None:
        return replace(solo, form_end=meter.bar_length)
    changes = read_chord_line(form_in_key(form, key), solo).solo
    # With a pickup the first chord is heard from there on.
    return with_choruses(changes, changes.form_end, choruses)
