"""The form as it is shown: sections and choruses."""

from __future__ import annotations

from fractions import Fraction
from functools import lru_cache

from gavotte.solo.document import Section, Solo


def form_marks(solo: Solo) -> tuple[Section, ...]:
    """What stands over the form: its sections, and the number of each chorus after the first."""
    return _marks(solo.sections, solo.chorus, solo.end if solo.chorus else Fraction(0))


@lru_cache(maxsize=16)
def _marks(sections: tuple[Section, ...], chorus: Fraction, end: Fraction) -> tuple[Section, ...]:
    # Asked for at every line that is set.
    marks = {section.onset: section.label for section in sections}
    if chorus:
        start, number = chorus, 2
        while start < end:
            label = marks.get(start)
            marks[start] = f"{number} · {label}" if label else str(number)
            start, number = start + chorus, number + 1
    return tuple(Section(onset, label) for onset, label in sorted(marks.items()))
