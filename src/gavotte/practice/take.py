"""A take as it was heard: what became of each written note, what was added, and how it lay in time."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum


class Verdict(StrEnum):
    """What became of a written note."""

    RIGHT = "right"
    WRONG = "wrong"
    MISSED = "missed"


@dataclass(frozen=True, slots=True)
class TakeNote:
    """What became of the note ``note`` (its id): the MIDI number ``heard``, ``seconds`` of the take at which it began
    and ``end``, by how many seconds it was ``late`` (early: below 0), how ``sure`` that is (0 to 1), and by how many
    ``cents`` it lay above its pitch, held against the tuning of the whole take (None where no steady pitch was heard).

    What was missed has no pitch and no times.
    """

    note: str
    verdict: Verdict
    heard: int | None = None
    seconds: float | None = None
    end: float | None = None
    late: float | None = None
    sure: float = 1.0
    cents: float | None = None


@dataclass(frozen=True, slots=True)
class AddedNote:
    """A note that was heard and is not written: ``seconds`` of the take, MIDI number, and how sure it is."""

    seconds: float
    end: float
    midi: int
    sure: float = 1.0


@dataclass(frozen=True)
class Take:
    """What became of all ``notes``, what was ``added``; quarter notes a minute, how many times as long the first of two
    eighths was as the second (None where it can't be told), by what share the tempo rose from beginning to end
    (``drift``), and how ``sure`` it is that this is the line that was played.
    """

    notes: tuple[TakeNote, ...] = ()
    added: tuple[AddedNote, ...] = ()
    tempo: float = 0.0
    swing: float | None = None
    drift: float = 0.0
    sure: float = 0.0

    def count(self, verdict: Verdict) -> int:
        """How many notes a verdict was passed on."""
        return sum(note.verdict is verdict for note in self.notes)
