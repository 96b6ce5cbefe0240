"""The click: where it is heard, and the count before the start."""

from __future__ import annotations

from enum import StrEnum
from fractions import Fraction

from gavotte.sounding.events import Sound, Voice
from gavotte.sounding.harmony_heard import beats_of_bar
from gavotte.sounding.timeline import Timeline

_CLICK, _STRONG_CLICK = 76, 75


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
        beats = beats_of_bar(bar)
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
