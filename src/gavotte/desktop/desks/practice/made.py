"""A run as it is read at the desk."""

from __future__ import annotations

from dataclasses import dataclass

from gavotte.practice.run import Run
from gavotte.solo.document import Solo
from gavotte.solo.label import Label, led_within


@dataclass(frozen=True)
class Made:
    """A run as it is to be read: the ``page`` while it is played, the ``whole`` of it, and the labels of its notes."""

    run: Run
    page: Solo
    whole: Solo
    labels: dict[str, Label]

    @property
    def page_labels(self) -> dict[str, Label]:
        """The labels of the page: none of them leads to a note that is hidden."""
        if self.page is self.whole:
            return self.labels
        there = self.page.places
        return {
            note.id: led_within(label, there)
            for note in self.page.notes
            if (label := self.labels.get(note.id)) is not None
        }
