"""The form as it is shown: sections and choruses."""

from __future__ import annotations

from gavotte.solo.document import Section, Solo


def form_marks(solo: Solo) -> tuple[Section, ...]:
    """What stands over the form: its sections, and the number of each chorus after the first."""
    marks = {section.onset: section.label for section in solo.sections}
    if solo.chorus:
        start, number, end = solo.chorus, 2, solo.end
        while start < end:
            label = marks.get(start)
            marks[start] = f"{number} · {label}" if label else str(number)
            start, number = start + solo.chorus, number + 1
    return tuple(Section(onset, label) for onset, label in sorted(marks.items()))
