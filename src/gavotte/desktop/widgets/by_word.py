"""Finding an entry of a list by what is typed: by the first letters of any of its words, one word after the other."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QElapsedTimer
from PyQt6.QtWidgets import QApplication


def found_by_word(entries: Sequence[str], typed: str) -> int | None:
    """The place of the entry meant by ``typed``; None where none is.

    An entry that begins so comes before one with such a word.
    """
    wanted = typed.lower().split()
    if not wanted:
        return None
    begins = (place for place, entry in enumerate(entries) if entry.lower().startswith(typed.lower()))
    has_words = (place for place, entry in enumerate(entries) if _has(entry.lower().split(), wanted))
    return next(begins, next(has_words, None))


def _has(words: Sequence[str], wanted: Sequence[str]) -> bool:
    return all(any(word.startswith(part) for word in words) for part in wanted)


class Typed:
    """What was typed without a pause."""

    def __init__(self) -> None:
        self._text = ""
        self._since = QElapsedTimer()

    @property
    def is_going_on(self) -> bool:
        """Whether something was typed just now."""
        return bool(self._text) and self._since.isValid() and not self._since.hasExpired(_pause())

    def add(self, text: str) -> str:
        """All that was typed, with ``text`` behind it; after a pause it begins anew."""
        self._text = self._text + text if self.is_going_on else text
        self._since.start()
        return self._text


def _pause() -> int:
    return 2 * QApplication.keyboardInputInterval()
