"""What goes on paper: music as it is shown at a desk, with its labels and the words that belong to it."""

from __future__ import annotations

from dataclasses import dataclass

from gavotte.solo.document import Solo
from gavotte.solo.label import Label
from gavotte.workshop.book import Entry


@dataclass(frozen=True)
class Sheet:
    """Music as it is shown, with its labels, the words under its title, and whether bars are numbered.

    ``concert`` is the same music in concert pitch where the page shows written pitch: data formats start from
    there and say themselves how the instrument transposes. ``selected`` are the ids of the selected notes. A book has
    ``contents``, which stand on pages of their own in front.
    """

    solo: Solo
    labels: dict[str, Label]
    subtitle: str
    numbered: bool = True
    concert: tuple[Solo, dict[str, Label]] | None = None
    selected: tuple[str, ...] = ()
    contents: tuple[Entry, ...] = ()

    @property
    def as_data(self) -> tuple[Solo, dict[str, Label]]:
        """Solo and labels in concert pitch."""
        return self.concert or (self.solo, self.labels)
