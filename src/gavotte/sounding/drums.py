"""The drums of a band: what keeps time in each groove, and what the seed lets the drummer add to it."""

from __future__ import annotations

import random
from fractions import Fraction

from gavotte.solo.bars import Bar
from gavotte.sounding.backing import LOUDER, Backing, Intensity
from gavotte.sounding.events import Sound, Voice
from gavotte.sounding.groove import Groove
from gavotte.sounding.harmony_heard import HarmonyHeard, beats_of_bar
from gavotte.sounding.timeline import Timeline

# General MIDI percussion.
_KICK, _RIM, _SNARE, _HAT, _PEDAL_HAT, _CRASH, _RIDE = 36, 37, 38, 42, 44, 49, 51
_HALF = Fraction(1, 2)
_PHRASE = 8
"""Bars after which a drummer marks that something new begins."""

Hit = tuple[Fraction, int, int]
"""When (quarter notes after the barline), what is struck, and how loud (MIDI velocity)."""

_RIM_PATTERN = (("0", "3/2", "3"), ("1", "5/2"))
_BOSSA_KICK = ("0", "3/2", "2", "7/2")


def drum_sounds(
    harmony: HarmonyHeard, timeline: Timeline, groove: Groove, backing: Backing, until: Fraction
) -> list[Sound]:
    """What the drums play up to a time (quarter notes)."""
    sounds: list[Sound] = []
    for bar in harmony.bars:
        intensity = backing.at(harmony.share_behind(bar.onset))
        chance = backing.chance("drums", bar.number)
        hits = _time(bar, groove, intensity)
        if intensity is not Intensity.QUIET:
            hits += _added(bar, groove, intensity, chance)
        for offset, key, loudness in hits:
            onset = bar.onset + offset
            if onset < min(bar.end, until):
                start = timeline.seconds(onset)
                loud = max(12, min(120, loudness + LOUDER[intensity] + chance.randint(-4, 4)))
                sounds.append(Sound(Voice.DRUMS, start, start + 0.1, key, loud))
    return sounds


def _time(bar: Bar, groove: Groove, intensity: Intensity) -> list[Hit]:
    """What keeps time in a bar."""
    beats = [(time - bar.onset, strong) for time, strong in beats_of_bar(bar)]
    if groove is Groove.BOSSA and len(beats) == 4:
        eighths: list[Hit] = [(k * _HALF, _HAT, 50 if k % 2 else 58) for k in range(8)]
        eighths += [(Fraction(place), _KICK, 54) for place in _BOSSA_KICK]
        return eighths + [(Fraction(place), _RIM, 62) for place in _RIM_PATTERN[bar.number % 2]]
    hits: list[Hit] = []
    for offset, strong in beats:
        hits.append((offset, _HAT if groove is Groove.SIX_EIGHT else _RIDE, _ride_loudness(groove, strong)))
        for part in _subdivisions(bar, groove, strong):
            if offset + part < bar.length:
                hits.append((offset + part, _HAT if groove is Groove.SIX_EIGHT else _RIDE, 52))
        back = groove in (Groove.STRAIGHT, Groove.TWELVE_EIGHT, Groove.SIX_EIGHT)
        if not strong:
            hits.append((offset, _SNARE if back else _PEDAL_HAT, 58))
        elif back and intensity is not Intensity.QUIET:
            hits.append((offset, _KICK, 62))
    return hits


def _ride_loudness(groove: Groove, strong: bool) -> int:
    if groove is Groove.BALLAD:
        return 48
    return 74 if strong else 66


def _subdivisions(bar: Bar, groove: Groove, strong: bool) -> list[Fraction]:
    """Where the cymbal is struck between beats, in quarter notes after the beat."""
    if bar.meter.is_compound:
        return [_HALF, Fraction(1)]
    if groove is Groove.STRAIGHT:
        return [_HALF]
    return [] if strong or groove is Groove.BALLAD else [_HALF]


def _added(bar: Bar, groove: Groove, intensity: Intensity, chance: random.Random) -> list[Hit]:
    """What the drummer adds: answers on snare and kick, a fill at the end of eight bars, a crash behind it."""
    hits: list[Hit] = []
    much = intensity is Intensity.DRIVING
    begins = (bar.number - 1) % _PHRASE == 0
    if begins and bar.number > 1 and (much or chance.random() < 0.4):
        hits.append((Fraction(0), _CRASH, 66 if much else 54))
        hits.append((Fraction(0), _KICK, 70))
    if groove in (Groove.SWING, Groove.WALTZ, Groove.FIVE_FOUR):
        rate = 0.16 if much else 0.07
        for k in range(int(bar.length / _HALF)):
            if chance.random() < rate * (1.5 if k % 2 else 0.6):
                hits.append((k * _HALF, chance.choice((_SNARE, _SNARE, _KICK)), chance.randint(34, 50)))
    if bar.number % _PHRASE == 0 and groove is not Groove.BALLAD and chance.random() < (0.8 if much else 0.4):
        start = max(Fraction(0), bar.length - 2)
        for k in range(4):
            if start + k * _HALF < bar.length and chance.random() < 0.75:
                hits.append((start + k * _HALF, _SNARE, 52 + 5 * k))
    return hits
