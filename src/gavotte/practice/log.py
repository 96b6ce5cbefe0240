"""The log of practice: what was played, when, for how long, how it went; as rows, as text, as figures."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, fields
from datetime import date, datetime

from gavotte.practice.plan import Answer

ANSWER_WORDS = {
    Answer.NOT_YET: "Not yet",
    Answer.WITH_EFFORT: "With effort",
    Answer.WELL: "Well",
    Answer.WITH_EASE: "With ease",
}
TAGS = ("hesitated", "rushed", "dragged", "lost the form", "ran out of ideas", "tension in the body")
"""What may go wrong, to choose from; the user can write others."""


@dataclass(frozen=True, slots=True)
class LogEntry:
    """One thing that was played: when (ISO 8601), the item's id and name, its key by name and number, seconds, the
    tempo reached (beats a minute), the answer (0 for none), right notes of all where a take was judged, what
    went wrong, and words on what comes next.
    """

    at: str
    item: str
    name: str
    key: str
    number: int
    seconds: float
    tempo: int
    answer: int
    right: int = 0
    notes: int = 0
    tags: tuple[str, ...] = ()
    words: str = ""

    @property
    def day(self) -> date:
        """The day it was played on, by the clock it was written with."""
        return datetime.fromisoformat(self.at).date()


def answer_words(answer: int) -> str:
    """An answer in words, "" for none."""
    return ANSWER_WORDS[Answer(answer)] if answer in ANSWER_WORDS else ""


def matching(entries: Iterable[LogEntry], words: str) -> list[LogEntry]:
    """The entries in which all of some words are found: in name, key, tags or words."""
    wanted = words.casefold().split()
    return [
        entry
        for entry in entries
        if all(
            word in " ".join((entry.name, entry.key, *entry.tags, entry.words, answer_words(entry.answer))).casefold()
            for word in wanted
        )
    ]


def best_tempos(entries: Iterable[LogEntry], item: str) -> dict[int, int]:
    """The highest tempo an item was played at "well" or "with ease", by the number of the key."""
    best: dict[int, int] = {}
    for entry in entries:
        if entry.item == item and entry.answer >= Answer.WELL:
            best[entry.number] = max(best.get(entry.number, 0), entry.tempo)
    return best


def minutes_by_day(entries: Iterable[LogEntry]) -> dict[date, float]:
    """Minutes played on each day."""
    days: dict[date, float] = {}
    for entry in entries:
        days[entry.day] = days.get(entry.day, 0.0) + entry.seconds / 60
    return days


def as_csv(entries: Sequence[LogEntry]) -> str:
    """All entries as a table with a heading."""
    out = io.StringIO()
    names = [field.name for field in fields(LogEntry)]
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(names)
    for entry in entries:
        values = [getattr(entry, name) for name in names]
        writer.writerow([_safe("; ".join(v) if isinstance(v, tuple) else v) for v in values])
    return out.getvalue()


def _safe(value: object) -> object:
    """Text that no spreadsheet takes for a formula."""
    return f"'{value}" if isinstance(value, str) and value[:1] in "=+-@" and value else value


def as_markdown(entries: Sequence[LogEntry]) -> str:
    """All entries as a text, day by day, the latest first."""
    lines = ["# Practice log", ""]
    days: dict[date, list[LogEntry]] = {}
    for entry in entries:
        days.setdefault(entry.day, []).append(entry)
    for day in sorted(days, reverse=True):
        minutes = sum(entry.seconds for entry in days[day]) / 60
        lines += [f"## {day.isoformat()}: {minutes:.0f} minutes", ""]
        lines += [f"- {entry_words(entry)}" for entry in days[day]]
        lines.append("")
    return "\n".join(lines)


def entry_words(entry: LogEntry) -> str:
    """An entry in one line."""
    parts = [f"{entry.name} in {entry.key}" if entry.key else entry.name]
    if entry.tempo:
        parts.append(f"tempo {entry.tempo}")
    if entry.answer:
        parts.append(answer_words(entry.answer).lower())
    if entry.notes:
        parts.append(f"{entry.right} of {entry.notes} notes right")
    parts += list(entry.tags)
    if entry.words:
        parts.append(entry.words)
    return ", ".join(parts)
