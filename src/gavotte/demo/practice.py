"""The demo's practice: what its owner plays, how the last three weeks went, and one take."""

from __future__ import annotations

import random
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta

from gavotte.library.practising import KeptTake, Practising
from gavotte.library.store import Library
from gavotte.practice.due import due_line
from gavotte.practice.invented import Manner, flawed
from gavotte.practice.item import Kind, PracticeItem
from gavotte.practice.judging import take_of_notes
from gavotte.practice.log import LogEntry
from gavotte.practice.plan import Answer, answered
from gavotte.practice.run import RunWishes, run_of
from gavotte.recording.line import DraftNote
from gavotte.solo.document import Solo
from gavotte.solo.moving import excerpt
from gavotte.sounding.groove import swing_of
from gavotte.sounding.timeline import Timeline

_SEED = 11


@dataclass(frozen=True)
class _History:
    """How often an item was played in so many of its keys, and what went wrong on the way."""

    keys: int
    times: int
    tags: tuple[str, ...] = ()
    words: str = ""


def add_practice(library: Library, solos: Sequence[tuple[str, Solo]], now: datetime) -> None:
    """Put items, a log up to yesterday and a take into a library; ``now`` has a time zone."""
    kept, chance = Practising(library), random.Random(_SEED)
    for item, history in _items(library, solos):
        item, entries = _played(item, history, now, chance)
        item_id = kept.add(item)
        for entry in entries:
            kept.add_entry(replace(entry, item=item_id))
        if item.kind is Kind.PHRASE:
            kept.add_take(_take(item, item_id, now - timedelta(days=1, hours=2)))


def _items(library: Library, solos: Sequence[tuple[str, Solo]]) -> list[tuple[PracticeItem, _History]]:
    licks = library.licks()
    first, second = (library.lick(entry.id) for entry in licks[:2])
    solo_id, solo = solos[0]
    notes = [note.id for note in solo.notes if 12 <= note.onset < 28]
    phrase = excerpt(solo, notes[0], notes[-1])
    goal = round(solo.beats_a_minute or 120)
    other_id, other = solos[1]
    return [
        (
            PracticeItem(
                first.name, Kind.LICK, first.solo, 160, words="land on the 3rd", source_id=licks[0].id
            ).with_keys(12),
            _History(7, 3, ("hesitated",)),
        ),
        (
            PracticeItem(f"{solo.title}, bars 4 to 7", Kind.PHRASE, phrase, goal, source_id=solo_id),
            _History(1, 5, ("rushed",), "the enclosure before the bridge, slowly"),
        ),
        (PracticeItem(second.name, Kind.LICK, second.solo, 140, source_id=licks[1].id).with_keys(12), _History(2, 2)),
        (
            PracticeItem(
                other.title, Kind.SOLO, other, round(other.beats_a_minute or 120), source_id=other_id, from_memory=True
            ),
            _History(1, 2, ("lost the form",)),
        ),
    ]


def _played(
    item: PracticeItem, history: _History, now: datetime, chance: random.Random
) -> tuple[PracticeItem, list[LogEntry]]:
    """An item after some weeks, with what was written down."""
    entries = []
    for number in range(history.keys):
        card, tempo = item.card(number), 0.55 * item.goal + chance.uniform(0, 10)
        when = now - timedelta(days=13 - number, hours=chance.uniform(1, 4))
        for turn in range(history.times):
            answer = Answer.WITH_EFFORT if turn == 0 else chance.choice((Answer.WELL, Answer.WELL, Answer.NOT_YET))
            card = answered(card, answer, when)
            if answer >= Answer.WELL:
                card = replace(card, tempo=max(card.tempo, round(tempo)))
                tempo = min(item.goal, tempo + 8)
            tags = history.tags if answer is Answer.NOT_YET else ()
            key = item.keys[number].tonic.shown
            words = history.words if turn == history.times - 1 else ""
            entries.append(
                LogEntry(
                    when.isoformat(timespec="seconds"), "", item.name, key, number, round(chance.uniform(150, 400), 1),
                    round(tempo), int(answer), tags=tags, words=words,
                )
            )  # fmt: skip
            when += timedelta(days=chance.choice((2, 3, 5)))
            if when >= now - timedelta(hours=8):
                break
        item = item.with_card(card)
    return item, sorted(entries, key=lambda entry: entry.at)


def _take(item: PracticeItem, item_id: str, when: datetime) -> KeptTake:
    """A take of the phrase with a few mistakes, played on a keyboard."""
    played = run_of(item, (0,), RunWishes(passes=2, tempo=round(0.8 * item.goal))).played_notes()
    timeline, chance = Timeline(played, swing_of(played)), random.Random(_SEED)
    notes = []
    for note in flawed(played, Manner.WRONG_NOTES, _SEED).notes:
        start = 1.0 + timeline.seconds(note.onset) + chance.gauss(0, 0.018)
        end = 1.0 + timeline.seconds(note.end) - 0.03
        notes.append(DraftNote(start, max(start + 0.05, end), note.pitch.midi, 1.0))
    take = take_of_notes(due_line(played), notes, float(played.tempo or 120))
    return KeptTake(item_id, 0, when.isoformat(timespec="seconds"), played, take)
