"""The bass: a walking line, two notes a bar, a figure or a pedal, found as the cheapest way from root to root.

Walking lines follow the usual teaching: the root where a chord arrives, chord tones on the strong beats, steps between,
and the next root led to from a half step, a step or its fifth (see R. Carter, *Building a Jazz Bass Line*, 1966). Every
place has a cost for every pitch, every motion has one, and the seed adds a little to each: so each chorus is another.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum, auto
from fractions import Fraction

import numpy as np
from numpy.typing import NDArray

from gavotte.giving_way import give_way
from gavotte.solo.bars import Bar
from gavotte.sounding.backing import LOUDER, Backing, Feel
from gavotte.sounding.events import Sound, Voice
from gavotte.sounding.groove import Groove
from gavotte.sounding.harmony_heard import HarmonyHeard, Span, beats_of_bar
from gavotte.sounding.timeline import Timeline
from gavotte.theory.chord import DEGREE_SEMITONES

LOWEST, HIGHEST = 28, 50
_KEYS = np.arange(LOWEST, HIGHEST + 1)
_MIDDLE, _LOUDNESS = 37, 92
_HALF = Fraction(1, 2)
_WALKING = (Groove.SWING, Groove.WALTZ, Groove.FIVE_FOUR, Groove.TWELVE_EIGHT)
_VARIETY = 1.3
"""How much the seed can add to the cost of a pitch."""

_BETWEEN = (2, 5, 9)
"""Semitones above the root: the steps between chord tones that most chords take."""

_LEAD_IN, _SKIP = 0.3, 0.12
"""How often a bass in two leads into a change, and how often a walking one plays a beat twice as two eighths."""


class _Role(Enum):
    """What a place in the line asks for."""

    ARRIVAL = auto()
    STRONG = auto()
    WEAK = auto()
    FIFTH = auto()
    ROOT = auto()


@dataclass(frozen=True, slots=True)
class _Place:
    """One note to come: when, until when (quarter notes), over which chord, and what it does there."""

    start: Fraction
    end: Fraction
    span: Span
    role: _Role
    bar: int
    loudness: int


def bass_sounds(
    harmony: HarmonyHeard, timeline: Timeline, groove: Groove, backing: Backing, until: Fraction
) -> list[Sound]:
    """The bass up to a time (quarter notes)."""
    places = [place for bar in harmony.bars if bar.onset < until for place in _places(harmony, bar, groove, backing)]
    places = [place for place in places if place.start < until]
    if not places:
        return []
    keys = _pedal(harmony, places, backing) or _line(places, backing)
    sounds = []
    for place, key in zip(places, keys, strict=True):
        end = place.start + (min(place.end, until) - place.start) * Fraction(9, 10)
        sounds.append(Sound(Voice.BASS, timeline.seconds(place.start), timeline.seconds(end), int(key), place.loudness))
    return sounds


def _places(harmony: HarmonyHeard, bar: Bar, groove: Groove, backing: Backing) -> list[_Place]:
    """Where notes come in a bar, in order."""
    give_way()
    chance = backing.chance("bass", bar.number)
    rhythm = _rhythm(harmony, bar, groove, backing.feel)
    intensity = backing.at(harmony.share_behind(bar.onset))
    loud = _LOUDNESS + LOUDER[intensity]
    changes = harmony.changes_within(bar)
    held: dict[Fraction, _Role] = dict(rhythm)
    for change in changes:
        held.setdefault(change, _Role.ARRIVAL)
    in_two = backing.feel is Feel.IN_TWO or groove in (Groove.BALLAD, Groove.STRAIGHT)
    following = harmony.span_at(bar.end)
    last_beat = beats_of_bar(bar)[-1][0] if beats_of_bar(bar) else bar.onset
    if in_two and following is not None and following is not harmony.span_at(last_beat) and chance.random() < _LEAD_IN:
        held.setdefault(last_beat, _Role.WEAK)
    times = sorted(time for time in held if bar.onset <= time < bar.end)
    made: list[_Place] = []
    for time, end in zip(times, [*times[1:], bar.end], strict=False):
        span = harmony.span_at(time)
        if span is None:
            continue
        arrives = span.start == time or (time == bar.onset and harmony.span_at(bar.onset - _HALF) is not span)
        role = _Role.ARRIVAL if arrives else held[time]
        if (
            groove is Groove.SWING
            and backing.feel is Feel.STYLE
            and role is _Role.WEAK
            and end - time == 1
            and chance.random() < _SKIP * (int(intensity) - 1)
        ):
            # Two eighths in place of a quarter: the second one lightly, on the same pitch or a step on.
            made.append(_Place(time, time + _HALF, span, role, bar.number, loud))
            made.append(_Place(time + _HALF, end, span, _Role.WEAK, bar.number, loud - 22))
        else:
            made.append(_Place(time, end, span, role, bar.number, loud))
    return made


def _rhythm(harmony: HarmonyHeard, bar: Bar, groove: Groove, feel: Feel) -> list[tuple[Fraction, _Role]]:
    """When the groove has notes in a bar, and what they are."""
    beats = beats_of_bar(bar)
    by_strength = [(time, _Role.STRONG if strong else _Role.WEAK) for time, strong in beats]
    if feel is not Feel.STYLE:
        return [(time, _Role.FIFTH if k else _Role.ROOT) for k, (time, strong) in enumerate(beats) if strong or not k]
    if groove is Groove.BOSSA and len(beats) == 4:
        one, three = beats[0][0], beats[2][0]
        return [
            (one, _Role.ROOT),
            (one + 3 * _HALF, _Role.FIFTH),
            (three, _Role.FIFTH),
            (three + 3 * _HALF, _Role.ROOT),
        ]
    if groove in _WALKING:
        return by_strength
    if groove is Groove.SIX_EIGHT:
        return [(time, _Role.FIFTH if k else _Role.ROOT) for k, (time, _) in enumerate(beats)]
    strong = [time for time, is_strong in beats if is_strong] or [time for time, _ in beats[:1]]
    return [(time, _Role.FIFTH if k % 2 else _Role.ROOT) for k, time in enumerate(strong)]


def _pedal(harmony: HarmonyHeard, places: list[_Place], backing: Backing) -> list[int] | None:
    """One pitch as long as the key lasts, where that is wished."""
    if backing.feel not in (Feel.PEDAL_FIFTH, Feel.PEDAL_KEYNOTE):
        return None
    above = 7 if backing.feel is Feel.PEDAL_FIFTH else 0
    low = LOWEST + 3
    return [low + (harmony.keynote(place.start) + above - low) % 12 for place in places]


def _line(places: list[_Place], backing: Backing) -> NDArray[np.int64]:
    """The pitches of the cheapest line, by dynamic programming over all places."""
    total = _place_costs(places[0], backing)
    motions = _motions()
    came: list[NDArray[np.intp]] = []
    columns = np.arange(len(_KEYS))
    for number in range(1, len(places)):
        give_way()
        place, before = places[number], places[number - 1]
        costs = total[:, None] + motions
        if place.role is _Role.ARRIVAL and place.span is not before.span:
            costs = costs + _leading(before, place)
        best = costs.argmin(axis=0)
        came.append(best)
        total = costs[best, columns] + _place_costs(place, backing)
    at = int(total.argmin())
    line = [at]
    for best in reversed(came):
        at = int(best[at])
        line.append(at)
    return _KEYS[line[::-1]]


def _root(span: Span) -> int:
    return (span.chord.bass or span.chord.root).pitch_class


def _place_costs(place: _Place, backing: Backing) -> NDArray[np.float64]:
    """What each pitch costs at a place."""
    chord = place.span.chord
    classes = _KEYS % 12
    root = chord.root.pitch_class
    tones = [(root + DEGREE_SEMITONES[tone]) % 12 for tone in chord.tones]
    in_chord = np.isin(classes, tones)
    is_root = classes == _root(place.span)
    fifth = (root + DEGREE_SEMITONES[chord.fifth or "5"]) % 12
    if place.role in (_Role.ARRIVAL, _Role.ROOT):
        costs = np.where(is_root, 0.0, np.where(in_chord, 7.0, 20.0))
    elif place.role is _Role.FIFTH:
        costs = np.where(classes == fifth, 0.0, np.where(is_root, 1.2, np.where(in_chord, 3.0, 20.0)))
    elif place.role is _Role.STRONG:
        costs = np.where(is_root, 0.6, np.where(in_chord, 0.3, 3.0))
    else:
        scale = np.isin(classes, [(root + step) % 12 for step in _BETWEEN])
        costs = np.where(is_root, 1.0, np.where(in_chord, 0.6, np.where(scale, 1.1, 1.7)))
    middle = 0.05 * np.abs(_KEYS - _MIDDLE)
    chance = backing.chance(f"line {place.start}", place.bar)
    varied: NDArray[np.float64] = costs + middle + np.array([_VARIETY * chance.random() for _ in _KEYS])
    return varied


def _motions() -> NDArray[np.float64]:
    """What it costs to go from each pitch to each."""
    size = np.abs(_KEYS[:, None] - _KEYS[None, :])
    costs = np.full(size.shape, 6.0)
    for upto, cost in ((12, 1.4), (11, 3.0), (7, 0.8), (6, 1.6), (5, 0.6), (4, 0.4), (2, 0.0), (0, 2.6)):
        costs[size <= upto] = cost
    return costs


def _leading(before: _Place, place: _Place) -> NDArray[np.float64]:
    """What it costs to come to a new chord's root from each pitch."""
    size = np.abs(_KEYS[:, None] - _KEYS[None, :])
    costs = np.full(size.shape, 4.0)
    costs[size == 7] = costs[size == 5] = 1.2
    costs[size == 2] = 0.7
    costs[size == 1] = 0.0
    if before.role not in (_Role.WEAK, _Role.STRONG):
        # Only a note that is there for it leads; from root to root any way is good.
        return costs * 0.1
    return costs
