"""What the plan of practice is worth over 90 days, against a fixed rota: .venv/bin/python benchmarks/planning.py

Simulated players with fifteen minutes a day, some days missed and one week away, learn twenty licks in three keys each.
They forget by halves (B. Settles and B. Meeder, "A trainable spaced repetition model for language learning", ACL 2016:
recall is 2 to the power of minus the time over a half-life, which grows when it went well), not by the model the
planner believes in. A key is at its goal when its tempo is reached and it is likely (80 %) to be remembered.
"""

from __future__ import annotations

import random
import statistics
import sys
from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[1]))

from tests.conftest import make_solo

from gavotte.practice.item import Kind, PracticeItem
from gavotte.practice.plan import Answer, answered, minutes_for, today

_DAYS, _MINUTES, _PLAYERS = 90, 15.0, 20
_ITEMS, _KEYS = 20, 3
_START = datetime(2026, 1, 5, 18, 0, tzinfo=UTC)


@dataclass
class _Memory:
    half_life: float = 0.0
    last: float = 0.0
    tempo: float = 0.5

    def recall(self, day: float) -> float:
        """How likely it is remembered on a day."""
        return 2 ** (-(day - self.last) / self.half_life) if self.half_life else 0.0


@dataclass
class _Player:
    chance: random.Random
    talent: float
    memories: dict[tuple[int, int], _Memory] = field(default_factory=dict)

    def play(self, key: tuple[int, int], day: float) -> Answer:
        """Play something on a day; gives the answer that is given."""
        memory = self.memories.setdefault(key, _Memory())
        went_well = self.chance.random() < max(0.35 if not memory.half_life else 0.0, memory.recall(day))
        memory.half_life = max(2.0, memory.half_life * (1.9 * self.talent if went_well else 0.7))
        memory.tempo += 0.09 * self.talent if went_well else 0.03
        memory.last = day
        if not went_well:
            return Answer.NOT_YET
        return Answer.WITH_EASE if memory.tempo > 1.1 else Answer.WELL if memory.tempo > 0.7 else Answer.WITH_EFFORT


def _days(chance: random.Random) -> list[int]:
    """The days on which there is practice."""
    away = chance.randrange(20, 70)
    return [day for day in range(_DAYS) if not away <= day < away + 7 and chance.random() > 0.15]


def planned(player: _Player, items: list[PracticeItem], days: list[int]) -> list[float]:
    """Play by the plan; gives the minutes of each day."""
    spent = []
    for day in days:
        now, used, done = _START + timedelta(days=day), 0.0, set()
        while used < _MINUTES:
            plan = today(items, now + timedelta(minutes=used), _MINUTES - used, (), done)
            plan = tuple(one for one in plan if used + one.minutes <= _MINUTES + 1e-9)
            if not plan:
                break
            one = plan[0]
            answer = player.play((one.item, one.number), day + used / 1440)
            item = items[one.item]
            items[one.item] = item.with_card(answered(item.card(one.number), answer, now + timedelta(minutes=used)))
            used += one.minutes
            done.add((one.item, one.number))
        spent.append(used)
    return spent


def by_rota(player: _Player, items: list[PracticeItem], days: list[int]) -> list[float]:
    """Play everything in turn."""
    keys = [(index, number) for number in range(_KEYS) for index in range(len(items))]
    spent, place = [], 0
    for day in days:
        used = 0.0
        while used + minutes_for(items[keys[place][0]]) <= _MINUTES:
            player.play(keys[place], day + used / 1440)
            used += minutes_for(items[keys[place][0]])
            place = (place + 1) % len(keys)
        spent.append(used)
    return spent


def main() -> None:
    """Print the table."""
    music = make_solo([("Dm7", "D4/8 F4 A4 C5 E5 D5 C5 A4"), ("G7", "B4/4 r/2.")])
    print("| | at goal after 90 days | minutes a day (most) |\n|---|---|---|")
    ways: dict[str, Callable[[_Player, list[PracticeItem], list[int]], list[float]]] = {
        "by the plan": planned,
        "a fixed rota": by_rota,
    }
    for words, way in ways.items():
        shares, minutes, most = [], [], 0.0
        for seed in range(_PLAYERS):
            chance = random.Random(seed)
            player = _Player(random.Random(seed + 1000), chance.uniform(0.9, 1.1))
            items = [PracticeItem(f"{k}", Kind.LICK, music, 120).with_keys(_KEYS) for k in range(_ITEMS)]
            spent = way(player, items, _days(chance))
            at_goal = sum(m.tempo >= 1 and m.recall(_DAYS) >= 0.8 for m in player.memories.values())
            shares.append(at_goal / (_ITEMS * _KEYS))
            minutes += spent
            most = max(most, *spent)
        print(f"| {words} | {statistics.mean(shares):.0%} | {statistics.mean(minutes):.1f} ({most:.1f}) |")


if __name__ == "__main__":
    main()
