"""A small band under the solo: bass, chords in voicings that follow each other, ride, and a click.

Everything is worked out from the chords, the meter's beats and the groove; the same solo always gets the same
band. Walking lines follow the usual teaching: the root where a chord arrives, chord tones between, and the next
root reached by step (see R. Carter, *Building a Jazz Bass Line*, 1966).
"""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from gavotte.giving_way import give_way
from gavotte.solo.bars import Bar
from gavotte.solo.document import Solo
from gavotte.sounding.events import Sound, Voice
from gavotte.sounding.groove import Groove
from gavotte.sounding.timeline import Timeline
from gavotte.theory.chord import DEGREE_SEMITONES, Chord
from gavotte.theory.voicing import voicings

_LOWEST_BASS, _HIGHEST_BASS = 28, 50
_RIDE, _PEDAL_HAT, _BRUSH = 51, 44, 38
_CLICK, _STRONG_CLICK = 76, 75
_HALF = Fraction(1, 2)


@dataclass(frozen=True, slots=True)
class _Span:
    """A chord while it lasts, in quarter notes."""

    start: Fraction
    end: Fraction
    chord: Chord
    voicing: tuple[int, ...]


def band_sounds(solo: Solo, timeline: Timeline, groove: Groove) -> list[Sound]:
    """Bass, chords and ride for the whole solo, its pickup excepted."""
    player = _Band(solo, timeline, groove)
    return [*player.bass(), *player.chords(), *player.ride()]


class Click(StrEnum):
    """Where the click is heard."""

    BEATS = "beats"
    TWO_AND_FOUR = "2 and 4"
    ONES = "ones"
    DROPPING_OUT = "dropping out"


def click_sounds(timeline: Timeline, click: Click = Click.BEATS) -> list[Sound]:
    """A click on every beat, higher on the strong ones; or only where it is wished: on every second beat, on the ones,
    or for two bars of every four.
    """
    sounds = []
    for index, bar in enumerate(timeline.grid.bars):
        if click is Click.DROPPING_OUT and index % 4 >= 2:
            continue
        beats = _beats(bar)
        if click is Click.ONES:
            beats = beats[:1] if bar.lead_in == 0 else []
        elif click is Click.TWO_AND_FOUR and len(bar.meter.beats) % 2 == 0:
            first = len(bar.meter.beats) - len(beats)
            beats = [beat for number, beat in enumerate(beats, first) if number % 2]
        for beat, strong in beats:
            start = timeline.seconds(beat)
            key = _STRONG_CLICK if strong else _CLICK
            sounds.append(Sound(Voice.CLICK, start, start + 0.05, key, 100 if strong else 76))
    return sounds


def count_in_sounds(timeline: Timeline, onset: Fraction) -> list[Sound]:
    """A bar of clicks before ``onset``, as long as the bar there; its first one comes at 0 seconds."""
    bar, offset = timeline.grid.locate(onset)
    into = offset if offset < bar.meter.bar_length else Fraction(0)
    quarter = timeline.quarter_seconds(onset)
    # In the middle of a bar the count leads up to it: a whole bar, then the beats that come before the onset.
    times = [(beat.offset, beat.strong) for beat in bar.meter.beats]
    times += [(bar.meter.bar_length + beat.offset, beat.strong) for beat in bar.meter.beats if beat.offset < into]
    return [
        Sound(
            Voice.CLICK,
            float(time) * quarter,
            float(time) * quarter + 0.05,
            _STRONG_CLICK if strong else _CLICK,
            100 if strong else 76,
        )
        for time, strong in times
    ]


def count_in_seconds(timeline: Timeline, onset: Fraction) -> float:
    """How long the count before ``onset`` lasts, in nominal seconds."""
    bar, offset = timeline.grid.locate(onset)
    into = offset if offset < bar.meter.bar_length else Fraction(0)
    return float(bar.meter.bar_length + into) * timeline.quarter_seconds(onset)


def _beats(bar: Bar) -> list[tuple[Fraction, bool]]:
    """The beats of a bar that lie in it, with whether they are strong."""
    give_way()
    times = [(bar.onset - bar.lead_in + beat.offset, beat.strong) for beat in bar.meter.beats]
    return [(time, strong) for time, strong in times if bar.onset <= time < bar.end]


class _Band:
    def __init__(self, solo: Solo, timeline: Timeline, groove: Groove) -> None:
        self._timeline, self._groove, self._end = timeline, groove, timeline.end
        self._bars = [bar for bar in timeline.grid.bars if bar.number > 0]
        ends = [*(event.onset for event in solo.chords[1:]), timeline.end]
        named = [
            (max(Fraction(0), event.onset), end, symbol)
            for event, end in zip(solo.chords, ends, strict=False)
            if isinstance(symbol := event.symbol, Chord) and end > max(Fraction(0), event.onset)
        ]
        found = voicings(chord for _, _, chord in named)
        self._spans = [
            _Span(start, end, chord, voicing) for (start, end, chord), voicing in zip(named, found, strict=True)
        ]
        self._starts = [float(span.start) for span in self._spans]

    def _span_at(self, onset: Fraction) -> _Span | None:
        index = bisect_right(self._starts, onset.numerator / onset.denominator) - 1
        return self._spans[index] if index >= 0 and onset < self._spans[index].end else None

    def _sound(self, voice: Voice, onset: Fraction, end: Fraction, key: int, loudness: int) -> Sound:
        return Sound(voice, self._timeline.seconds(onset), self._timeline.seconds(end), key, loudness)

    # -- bass ---------------------------------------------------------------------------------------

    def bass(self) -> list[Sound]:
        """One note a beat in swing; root and fifth on the strong beats elsewhere."""
        beats = [beat for bar in self._bars for beat in _beats(bar)]
        ends = [*(time for time, _ in beats[1:]), self._timeline.end]
        sounds: list[Sound] = []
        last = 36
        for index, ((time, strong), end) in enumerate(zip(beats, ends, strict=False)):
            span = self._span_at(time)
            if span is None:
                continue
            arrives = index == 0 or self._span_at(beats[index - 1][0]) is not span
            walks = self._groove in (Groove.SWING, Groove.FIVE_FOUR, Groove.WALTZ)
            if not (walks or strong or arrives):
                continue
            if not walks and not arrives:
                end = next((t for t, s in beats[index + 1 :] if s), self._end)
            following = self._span_at(end) if end < self._end else None
            key = self._bass_key(span, arrives, following if walks else None, last, index)
            sounds.append(self._sound(Voice.BASS, time, time + (end - time) * Fraction(9, 10), key, 92))
            last = key
        return sounds

    def _bass_key(self, span: _Span, arrives: bool, following: _Span | None, last: int, index: int) -> int:
        root = (span.chord.bass or span.chord.root).pitch_class
        if arrives:
            return _near(root, last)
        if following is not None and following is not span:
            # The last beat before a change leans on the next root, from the side the line comes from.
            goal = _near((following.chord.bass or following.chord.root).pitch_class, last)
            return goal + 1 if last > goal else goal - 1
        tones = [(span.chord.root.pitch_class + DEGREE_SEMITONES[tone]) % 12 for tone in span.chord.tones]
        choices = [pitch_class for pitch_class in tones if pitch_class != last % 12] or [root]
        if self._groove in (Groove.STRAIGHT, Groove.TWELVE_EIGHT):
            fifth = (span.chord.root.pitch_class + DEGREE_SEMITONES[span.chord.fifth or "5"]) % 12
            return _near(fifth if last % 12 == root else root, last)
        return _near(choices[index % len(choices)], last)

    # -- chords -------------------------------------------------------------------------------------

    def chords(self) -> list[Sound]:
        """The voicings without their bass, struck in the groove's rhythm."""
        sounds: list[Sound] = []
        for bar in self._bars:
            for onset, length in self._strokes(bar):
                span = self._span_at(onset) or self._span_at(bar.onset)
                ahead = self._span_at(onset + _HALF)
                if ahead is not None and ahead is not span and onset + _HALF == ahead.start:
                    # A stroke just before a change belongs to the new chord.
                    span = ahead
                if span is None:
                    continue
                sounds += [self._sound(Voice.CHORDS, onset, onset + length, key, 62) for key in span.voicing[1:]]
        return sounds

    def _strokes(self, bar: Bar) -> list[tuple[Fraction, Fraction]]:
        """When chords are struck in a bar, and how long each lasts, in quarter notes."""
        beats = [time for time, _ in _beats(bar)]
        strong = [time for time, is_strong in _beats(bar) if is_strong]
        first = bisect_right(self._starts, float(bar.onset))
        within = self._spans[first : bisect_left(self._starts, float(bar.end))]
        changes = [span.start for span in within if bar.onset < span.start < bar.end]
        if self._groove is Groove.SWING and len(beats) >= 4:
            # Short on 1, held from the and of 2; the next bar answers on 2 and the and of 4.
            places = [beats[0], beats[1] + _HALF] if bar.number % 2 else [beats[1], beats[3] + _HALF]
        elif self._groove is Groove.WALTZ and len(beats) >= 3:
            places = [beats[1], beats[2]] if bar.number % 2 else [beats[0] + 3 * _HALF]
        elif self._groove is Groove.TWELVE_EIGHT:
            places = beats
        else:
            places = strong or beats[:1]
        places = sorted({*(place for place in places if place < bar.end), *changes})
        ends = [*places[1:], bar.end]
        most = Fraction(5, 4) if self._groove is Groove.SWING else Fraction(4)
        return [(place, min(most, (end - place) * Fraction(9, 10))) for place, end in zip(places, ends, strict=False)]

    # -- ride ---------------------------------------------------------------------------------------

    def ride(self) -> list[Sound]:
        """Cymbal on the beats with the groove's subdivision, hi-hat with the foot or snare on the weak ones."""
        sounds: list[Sound] = []
        for bar in self._bars:
            for count, (time, strong) in enumerate(_beats(bar)):
                sounds.append(self._hit(time, _RIDE, 74 if strong else 66))
                for part in self._subdivisions(bar, count, strong):
                    if time + part < bar.end:
                        sounds.append(self._hit(time + part, _RIDE, 52))
                if not strong:
                    backbeat = self._groove in (Groove.STRAIGHT, Groove.TWELVE_EIGHT)
                    sounds.append(self._hit(time, _BRUSH if backbeat else _PEDAL_HAT, 58))
        return sounds

    def _subdivisions(self, bar: Bar, count: int, strong: bool) -> list[Fraction]:
        """Where the ride plays between beats, in quarter notes after the beat."""
        if bar.meter.is_compound:
            return [_HALF, Fraction(1)]
        if self._groove is Groove.STRAIGHT:
            return [_HALF]
        return [] if strong else [_HALF]

    def _hit(self, onset: Fraction, key: int, loudness: int) -> Sound:
        start = self._timeline.seconds(onset)
        return Sound(Voice.RIDE, start, start + 0.1, key, loudness)


def _near(pitch_class: int, last: int) -> int:
    """The bass note of a pitch class nearest to the last one, in the instrument's range."""
    keys = [key for key in range(_LOWEST_BASS, _HIGHEST_BASS + 1) if key % 12 == pitch_class]
    return min(keys, key=lambda key: (abs(key - last), key))
