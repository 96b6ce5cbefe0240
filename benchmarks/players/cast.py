"""Who plays what: instruments on made, sampled and recorded sounds, one part to tune on, one by which the tuned program
learns how far to trust itself, another to report on.

No sound of the last is in another: other SoundFont, other recorded instruments, other seeds for lines, people and
rooms.
"""

from __future__ import annotations

import random
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np
from benchmarks.players import made, recorded, sampled
from benchmarks.players.lines import PlayedNote, Take, composed, played
from benchmarks.players.stage import in_old_record, mixed, old_record, roomy
from numpy.typing import NDArray

from gavotte.sounding.events import Voice

SITUATIONS = {"alone": None, "band at -6 dB": -6.0, "band as loud": 0.0, "old record": -6.0}
"""How loud the band is beside the soloist, in decibels."""


@dataclass(frozen=True)
class Singer:
    """An instrument and its sound: ``kind`` made, sampled or recorded, ``of`` its recipe, program or recording."""

    instrument: str
    kind: str
    of: str

    @property
    def name(self) -> str:
        """Instrument and sound in a few words."""
        return f"{self.instrument}, {self.kind}"


TUNED_ON = (
    Singer("Alto saxophone", "sampled", "65"),
    Singer("Trombone", "sampled", "57"),
    Singer("Trumpet", "sampled", "56"),
    Singer("Baritone saxophone", "sampled", "67"),
    Singer("Bass", "sampled", "32"),
    Singer("Guitar", "sampled", "26"),
    Singer("Tenor saxophone", "made", "reed"),
    Singer("Baritone saxophone", "made", "reed"),
    Singer("Clarinet", "made", "cylinder reed"),
    Singer("Trumpet", "made", "brass"),
    Singer("Trombone", "made", "low brass"),
    Singer("Flute", "made", "flute"),
    Singer("Bass", "made", "bowed"),
    Singer("Guitar", "made", "plucked"),
    Singer("Bass", "made", "low plucked"),
    Singer("Clarinet", "recorded", "clarinet"),
    Singer("Cello", "recorded", "cello"),
    Singer("Guitar", "recorded", "guitar-electric"),
    Singer("Bass", "recorded", "bass-electric"),
    Singer("Violin", "recorded", "violin"),
)
TRUST_LEARNED_ON = (
    Singer("Bass clarinet", "recorded", "bassoon"),
    Singer("Baritone saxophone", "recorded", "bassoon"),
    Singer("Trombone", "recorded", "french-horn"),
    Singer("Alto saxophone", "recorded", "french-horn"),
    Singer("Trombone", "recorded", "tuba"),
    Singer("Bass", "recorded", "tuba"),
    Singer("Guitar", "recorded", "guitar-nylon"),
    Singer("Guitar", "recorded", "guitar-acoustic"),
    Singer("Vibraphone", "recorded", "xylophone"),
    Singer("Tenor saxophone", "sampled", "68"),
    Singer("Trumpet", "sampled", "60"),
    Singer("Flute", "sampled", "75"),
)
"""Bassoon, horn and three programs of the font the ear was not trained on, beside some it knows: on those alone it is
surer than it may be.
"""

REPORTED = (
    Singer("Alto saxophone", "recorded", "saxophone"),
    Singer("Baritone saxophone", "recorded", "saxophone"),
    Singer("Trumpet", "recorded", "trumpet"),
    Singer("Trombone", "recorded", "trombone"),
    Singer("Flute", "recorded", "flute"),
    Singer("Bass", "recorded", "contrabass"),
    Singer("Tenor saxophone", "sampled", "66"),
    Singer("Trumpet", "sampled", "59"),
    Singer("Trombone", "sampled", "57"),
    Singer("Guitar", "sampled", "27"),
    Singer("Bass", "sampled", "33"),
    Singer("Vibraphone", "sampled", "11"),
)
_TUNED_FONT = ""


@dataclass(frozen=True)
class Record:
    """What is on the record: ``sound``, what was played, and the times of its notes and beats in it (seconds)."""

    singer: Singer
    situation: str
    tempo: int
    take: Take
    sound: NDArray[np.int16]
    spans: NDArray[np.float64]
    beats: tuple[float, ...]
    taps: tuple[float, ...]


def font_of(singer: Singer) -> str:
    """The font of a singer's part, by which the band is played too."""
    return sampled.OTHER_FONT if singer in REPORTED else _TUNED_FONT


def sung(singer: Singer, notes: Sequence[PlayedNote], seconds: float, seed: int) -> NDArray[np.float32]:
    """A line on a singer's sound, mono, so many seconds long."""
    if singer.kind == "made":
        return made.voice(notes, made.RECIPES[singer.of], seconds, seed)
    if singer.kind == "recorded":
        return recorded.voice(notes, singer.of, seconds)
    return sampled.voice(notes, int(singer.of), font_of(singer), seconds)


def records(singer: Singer, tempo: int, seed: int, situations: tuple[str, ...] = tuple(SITUATIONS)) -> Iterator[Record]:
    """A singer's line in each situation."""
    solo = composed(singer.instrument, tempo, seed, bends=singer.instrument not in ("Bass", "Vibraphone"))
    take = played(solo, seed + 1)
    font, chance = font_of(singer), random.Random(seed + 2)
    line = sung(singer, take.notes, take.seconds, seed)
    # While the bass plays its solo nobody else plays bass.
    without = (Voice.BASS,) if singer.instrument == "Bass" else ()
    band = sampled.band(take.band, font, take.seconds, without)
    line = roomy(line, chance.uniform(0.3, 1.1), chance.uniform(0.1, 0.35), seed)
    band = roomy(band, chance.uniform(0.3, 1.1), chance.uniform(0.1, 0.35), seed + 1)
    hiss = chance.uniform(-60, -38)
    spans = np.array([[note.start, note.end] for note in take.notes]).reshape(-1, 2)
    for situation in situations:
        level = SITUATIONS[situation]
        sound = mixed(line, None if level is None else band, level or 0.0, 0.0, hiss, seed)
        times, beats, taps = spans, np.array(take.beats), np.array(take.taps)
        if situation == "old record":
            sound = old_record(sound, seed)
            times, beats, taps = in_old_record(spans.ravel()).reshape(-1, 2), in_old_record(beats), in_old_record(taps)
        yield Record(singer, situation, tempo, take, sound, times, tuple(beats), tuple(taps))
