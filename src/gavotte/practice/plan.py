"""What to play today: what is due, what is new and what was asked for, mixed, within the minutes there are.

When something is due again follows from the answers that were given, by the FSRS model of forgetting (J. Ye et al., "A
stochastic shortest path algorithm for optimizing spaced repetition scheduling", KDD 2022) in the package ``fsrs``, with
a card for each item and key. After missed days what is likeliest forgotten comes first, and the rest waits for
another day: a day never holds more than its minutes.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta
from enum import IntEnum, StrEnum
from functools import lru_cache

import fsrs

from gavotte.practice.item import Card, Kind, Memory, PracticeItem
from gavotte.solo.bars import BarGrid


class Answer(IntEnum):
    """How it went, in the order of the keys 1 to 4."""

    NOT_YET = 1
    WITH_EFFORT = 2
    WELL = 3
    WITH_EASE = 4


class Why(StrEnum):
    """Why something is on the list of today."""

    ASKED = "asked for"
    AGAIN = "again today"
    DUE = "due"
    NEW = "new"


@dataclass(frozen=True, slots=True)
class Planned:
    """Something to play today: the item (by its place in the list that was given) in one of its keys, why, for how many
    minutes, and how likely it is still remembered (None for what is new).
    """

    item: int
    number: int
    why: Why
    minutes: float
    remembered: float | None = None
    days: int = 0


_KEPT = 0.9
"""How likely something is still remembered when it comes back."""

_SOON = timedelta(hours=20)
_NEW_SHARE = 0.34
"""Share of the minutes that goes to what is new where other things are due."""

_NEW_KEYS = 2
"""So many keys of an item are begun on a day."""

_PASSES, _ANSWERING = 8, 0.4
_LEAST, _MOST, _LESSON = 1.0, 8.0, 3.0


@lru_cache(maxsize=1)
def _scheduler() -> fsrs.Scheduler:
    return fsrs.Scheduler(
        desired_retention=_KEPT,
        learning_steps=(timedelta(minutes=10),),
        relearning_steps=(timedelta(minutes=10),),
        enable_fuzzing=False,
    )


def answered(card: Card, answer: Answer, now: datetime) -> Card:
    """The card after an answer given ``now`` (with a time zone)."""
    known, _ = _scheduler().review_card(_as_fsrs(card.memory), fsrs.Rating(int(answer)), now.astimezone(UTC))
    return replace(card, memory=_as_memory(known))


def remembered(card: Card, now: datetime) -> float | None:
    """How likely it is still remembered, 0 to 1; None for what was never played."""
    if not card.memory.last:
        return None
    return float(_scheduler().get_card_retrievability(_as_fsrs(card.memory), now.astimezone(UTC)))


def next_time(card: Card, now: datetime) -> timedelta | None:
    """How long it is until it is due again; None for what was never played."""
    return _time(card.memory.due) - now.astimezone(UTC) if card.memory.due else None


def minutes_for(item: PracticeItem) -> float:
    """How long one key of it takes: some passes at a tempo that is not yet the goal, and looking back."""
    if item.kind is Kind.LESSON:
        return _LESSON
    quarters = float(sum(bar.length for bar in BarGrid(item.music).bars))
    return min(_MOST, max(_LEAST, _PASSES * quarters / (0.8 * float(item.beat) * max(40, item.goal)) + _ANSWERING))


def today(
    items: Sequence[PracticeItem],
    now: datetime,
    minutes: float,
    asked: Iterable[tuple[int, int]] = (),
    played: Iterable[tuple[int, int]] = (),
) -> tuple[Planned, ...]:
    """What to play now within so many minutes: (item, key) that was ``asked`` for first, then what is due and a share
    of what is new; neighbours differ in item and key where they can. What was ``played`` today comes back only where it
    is being learned.
    """
    wanted, done = set(asked), set(played)
    asked_for: list[Planned] = []
    again: list[Planned] = []
    due: list[Planned] = []
    new: list[Planned] = []
    for index, item in enumerate(items):
        length = minutes_for(item)
        for card in item.cards:
            key = (index, card.number)
            if key in wanted:
                asked_for.append(Planned(index, card.number, Why.ASKED, length, remembered(card, now)))
                continue
            if item.rests:
                continue
            chance, left = remembered(card, now), next_time(card, now)
            if chance is None or left is None:
                new.append(Planned(index, card.number, Why.NEW, length))
            elif left <= timedelta(0) or (left < _SOON and card.memory.state != 2):
                days = max(0, -left // timedelta(days=1) + 1) if left < timedelta(0) else 0
                kind = Why.AGAIN if key in done else Why.DUE
                if key not in done or left <= timedelta(0):
                    (again if kind is Why.AGAIN else due).append(
                        Planned(index, card.number, kind, length, chance, days)
                    )
    due.sort(key=lambda planned: planned.remembered or 0.0)
    new = _few_of_each(sorted(new, key=lambda planned: (planned.number, planned.item)), done)
    chosen = _within([*asked_for, *again], minutes, at_least=len(asked_for))
    left_over = minutes - sum(planned.minutes for planned in chosen)
    for_new = _NEW_SHARE * minutes if due else left_over
    fresh = _within(new, min(left_over, for_new))
    known = _within(due, left_over - sum(planned.minutes for planned in fresh))
    left_over -= sum(planned.minutes for planned in (*fresh, *known))
    rest = [planned for planned in new if planned not in fresh]
    if not chosen and not known and not fresh and (due or new):
        # One thing always fits.
        known = (due or new)[:1]
        left_over = 0.0
    return tuple(_mixed([*chosen, *known, *fresh, *_within(rest, left_over)]))


def waiting(items: Sequence[PracticeItem], now: datetime) -> int:
    """How many keys of all items are due now."""
    return sum(
        1
        for item in items
        if not item.rests
        for card in item.cards
        if (left := next_time(card, now)) is not None and left <= timedelta(0)
    )


def _few_of_each(new: Sequence[Planned], done: set[tuple[int, int]]) -> list[Planned]:
    """Only the first new keys of each item: what is begun today is to be known before more of it is begun."""
    begun: dict[int, int] = {}
    for item, _ in done:
        begun[item] = begun.get(item, 0) + 1
    kept = []
    for planned in new:
        if begun.get(planned.item, 0) < _NEW_KEYS:
            begun[planned.item] = begun.get(planned.item, 0) + 1
            kept.append(planned)
    return kept


def _within(planned: Sequence[Planned], minutes: float, at_least: int = 0) -> list[Planned]:
    """As many as fit into the minutes, in order; ``at_least`` so many whether they fit or not."""
    taken: list[Planned] = []
    used = 0.0
    for one in planned:
        if len(taken) >= at_least and used + one.minutes > minutes + 1e-9:
            continue
        taken.append(one)
        used += one.minutes
    return taken


def _mixed(planned: list[Planned]) -> list[Planned]:
    """The same in an order in which neighbours are of different items and keys where that is possible."""
    left = list(planned)
    mixed: list[Planned] = []
    while left:
        before = mixed[-1] if mixed else None
        best = min(
            range(len(left)),
            key=lambda k: (
                before is not None and left[k].item == before.item,
                before is not None and left[k].number == before.number,
                k,
            ),
        )
        mixed.append(left.pop(best))
    return mixed


def _time(text: str) -> datetime:
    return datetime.fromisoformat(text)


def _as_fsrs(memory: Memory) -> fsrs.Card:
    return fsrs.Card(
        card_id=0,
        state=fsrs.State(memory.state),
        step=memory.step,
        stability=memory.stability,
        difficulty=memory.difficulty,
        due=_time(memory.due) if memory.due else None,
        last_review=_time(memory.last) if memory.last else None,
    )


def _as_memory(card: fsrs.Card) -> Memory:
    return Memory(
        int(card.state),
        card.step,
        card.stability,
        card.difficulty,
        card.due.isoformat(),
        card.last_review.isoformat() if card.last_review else "",
    )
