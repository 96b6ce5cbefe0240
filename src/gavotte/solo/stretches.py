"""Which notes a solo's readings cover."""

from __future__ import annotations

from gavotte.solo.document import Reading, Solo


def read_stretches(solo: Solo) -> list[tuple[Reading, range]]:
    """Each reading with the indexes of the notes it covers; one whose first or last note is gone covers none."""
    if not solo.readings:
        return []
    places = solo.places
    return [
        (reading, range(places[reading.first], places[reading.last] + 1))
        for reading in solo.readings
        if reading.first in places and reading.last in places
    ]
