"""What there is to practise: a piece of music with a goal, and what is remembered of it in each key."""

from __future__ import annotations

from dataclasses import dataclass, replace
from enum import StrEnum
from fractions import Fraction
from functools import cached_property

from gavotte.practice.band import USUAL_BAND, BandWishes
from gavotte.practice.lessons import Lesson
from gavotte.solo.document import Solo
from gavotte.theory.key import Key
from gavotte.workshop.keys import InKey, KeyOrder, in_one_of_all_keys, key_steps

MOST_KEYS = 12
_HEAD = 24
"""Notes and chords by which keys are spelled."""


class Kind(StrEnum):
    """What something is to the one who practises it; changes have no notes and are played over, a lesson has none."""

    SOLO = "solo"
    PHRASE = "phrase"
    LICK = "lick"
    EXERCISE = "exercise"
    CHANGES = "changes"
    LESSON = "lesson"


@dataclass(frozen=True, slots=True)
class Memory:
    """How well something is remembered: what the planner (``plan.py``) knows of it, times in ISO 8601 (UTC).

    ``state`` 1 is being learned, 2 is known, 3 is being learned again; ``stability`` in days, ``difficulty`` 1 to 10.
    """

    state: int = 1
    step: int | None = 0
    stability: float | None = None
    difficulty: float | None = None
    due: str = ""
    last: str = ""


@dataclass(frozen=True, slots=True)
class Card:
    """One key of an item: which of its keys it is (0 its own), the ``tempo`` reached (beats a minute, 0 before the
    first time), and how well it is remembered.
    """

    number: int
    tempo: int = 0
    memory: Memory = Memory()


@dataclass(frozen=True)
class PracticeItem:
    """Something to practise: its ``music``, where it comes from, and its goal.

    ``goal`` is the tempo to reach in beats a minute, ``from_memory`` that it is to be played without the page,
    ``words`` the goal in words. ``order`` says how its keys follow; there is a card for each key that is practised.
    ``rests`` is True where it is not to be proposed for now; ``band`` is what it is played with, ``lesson``
    the one that is asked where it is a lesson.
    """

    name: str
    kind: Kind
    music: Solo
    goal: int
    cards: tuple[Card, ...] = (Card(0),)
    order: KeyOrder = KeyOrder.CIRCLE
    from_memory: bool = False
    words: str = ""
    source_id: str = ""
    rests: bool = False
    lesson: Lesson | None = None
    band: BandWishes = USUAL_BAND

    def in_key(self, number: int) -> InKey:
        """The music in one of its keys."""
        return in_one_of_all_keys(self.music, number, self.order)

    @cached_property
    def keys(self) -> tuple[Key, ...]:
        """The twelve keys in their order, spelled as the beginning of the music reads best in each."""
        head = replace(self.music, notes=self.music.notes[:_HEAD], chords=self.music.chords[:_HEAD])
        return tuple(in_one_of_all_keys(head, number, self.order).key for number in range(MOST_KEYS))

    @property
    def beat(self) -> Fraction:
        """How long the beat is in which its tempo is told, in quarter notes."""
        return self.music.meters[0].meter.beats[0].length

    def card(self, number: int) -> Card:
        """What is known of one of its keys. Raises KeyError where that is not practised."""
        found = next((card for card in self.cards if card.number == number), None)
        if found is None:
            raise KeyError(number)
        return found

    def with_card(self, card: Card) -> PracticeItem:
        """The item with what is known now of one of its keys."""
        return replace(self, cards=tuple(card if card.number == own.number else own for own in self.cards))

    def with_keys(self, count: int) -> PracticeItem:
        """The item in so many keys (1 to 12), the first in their order; what is known of them stays."""
        known = {card.number: card for card in self.cards}
        count = max(1, min(MOST_KEYS, count))
        return replace(self, cards=tuple(known.get(number, Card(number)) for number in range(count)))

    @property
    def steps(self) -> tuple[int, ...]:
        """How many semitones above its own each of the twelve keys lies."""
        return key_steps(self.order)
