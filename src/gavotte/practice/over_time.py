"""How practising has gone over time: the tempo of an item in each of its keys, and how much of its takes was right."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, datetime

from gavotte.phrasing.telling import counted
from gavotte.practice.log import LogEntry
from gavotte.practice.take import Take, Verdict


@dataclass(frozen=True, slots=True)
class Moment:
    """What something came to at a time (ISO 8601)."""

    at: str
    value: float

    @property
    def seconds(self) -> float:
        """Seconds since 1970."""
        return datetime.fromisoformat(self.at).timestamp()


def tempos(entries: Iterable[LogEntry], item: str) -> dict[int, list[Moment]]:
    """The tempos an item was played at, by the number of the key, the earliest first; several on a day as the
    highest.
    """
    highest: dict[tuple[int, date], LogEntry] = {}
    for entry in entries:
        if entry.item == item and entry.tempo:
            before = highest.get((entry.number, entry.day))
            if before is None or entry.tempo > before.tempo:
                highest[entry.number, entry.day] = entry
    found: dict[int, list[Moment]] = {}
    for (number, _), entry in sorted(highest.items(), key=lambda one: one[1].at):
        found.setdefault(number, []).append(Moment(entry.at, float(entry.tempo)))
    return found


def rights(takes: Iterable[tuple[str, Take]]) -> list[Moment]:
    """What share of each take (with its time) was right, in percent, the earliest first; those in which nothing could
    be heard for sure are left out.
    """
    found = [Moment(at, 100 * take.count(Verdict.RIGHT) / len(take.notes)) for at, take in takes
             if take.notes and take.sure > 0]  # fmt: skip
    return sorted(found, key=lambda moment: moment.at)


def lateness(takes: Iterable[tuple[str, Take]]) -> list[Moment]:
    """How far the right notes of each take lay from when they were due, in milliseconds (the middle of all distances),
    the earliest first.
    """
    found = []
    for at, take in takes:
        away = sorted(1000 * abs(note.late) for note in take.notes
                      if note.verdict is Verdict.RIGHT and note.late is not None)  # fmt: skip
        if away:
            found.append(Moment(at, float(away[len(away) // 2])))
    return sorted(found, key=lambda moment: moment.at)


def compared(before: Take, after: Take) -> str:
    """How two takes of the same music differ, in words: kind ones, for both were played."""
    share = [take.count(Verdict.RIGHT) / max(1, len(take.notes)) for take in (before, after)]
    parts = [f"{100 * share[0]:.0f} % of the notes were right, now {100 * share[1]:.0f} %"]
    if abs(before.tempo - after.tempo) > 0.5:
        way = "faster" if after.tempo > before.tempo else "slower"
        parts.append(f"{abs(after.tempo / max(1e-9, before.tempo) - 1):.0%} {way}")
    wrong = [{note.note for note in take.notes if note.verdict is not Verdict.RIGHT} for take in (before, after)]
    mended, fresh = wrong[0] - wrong[1], wrong[1] - wrong[0]
    if mended:
        parts.append(f"{counted(len(mended), 'note')} that went wrong then went right")
    if fresh:
        parts.append(f"{len(fresh)} went wrong that went right then")
    return f"{', '.join(parts)}."
