"""Labels by note, which know quickly in what they differ from those before an edit."""

from __future__ import annotations

from collections.abc import Mapping

from gavotte.solo.differences import differing
from gavotte.solo.label import Label


class NoteLabels(dict[str, Label]):
    """Note id to its label; ``in_order`` are the labels in the order of the line."""

    def __init__(self, labels: tuple[Label, ...], like: NoteLabels | None = None) -> None:
        """``like`` are the labels before an edit: what both share is taken from there."""
        self.in_order = labels
        if like is None:
            super().__init__((label.note, label) for label in labels)
            return
        start, old_stop, stop = differing(like.in_order, labels)
        super().__init__(like)
        for label in like.in_order[start:old_stop]:
            del self[label.note]
        self.update((label.note, label) for label in labels[start:stop])

    def others_than(self, before: Mapping[str, Label]) -> set[str]:
        """The notes whose label is another one than ``before``, or is one in only one of both; told by identity."""
        if isinstance(before, NoteLabels):
            start, old_stop, stop = differing(before.in_order, self.in_order)
            gone = {label.note for label in before.in_order[start:old_stop]}
            come = self.in_order[start:stop]
        else:
            gone, come = set(before), self.in_order
        others = {label.note for label in come if before.get(label.note) is not label}
        return others | {note for note in gone if note not in self}
