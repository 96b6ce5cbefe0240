"""A solo with its band, ready to be played."""

from __future__ import annotations

from fractions import Fraction

from gavotte.solo.document import Solo
from gavotte.solo.instruments import GM_PROGRAMS
from gavotte.sounding.backing import USUAL_BACKING, Backing, Feel
from gavotte.sounding.band import band_sounds
from gavotte.sounding.click import Click, click_sounds
from gavotte.sounding.events import Performance
from gavotte.sounding.groove import groove_of, swing_of
from gavotte.sounding.soloist import solo_sounds
from gavotte.sounding.timeline import Timeline

_STRINGS = 48


def perform(
    solo: Solo, swing: Fraction | None = None, click: Click = Click.BEATS, backing: Backing = USUAL_BACKING
) -> tuple[Performance, Timeline]:
    """The solo, its band and a click as sounds in order, and the timeline they follow.

    ``swing`` takes the place of the solo's own; ``backing`` is how the band is wished.
    """
    timeline = Timeline(solo, swing if swing is not None else swing_of(solo))
    sounds = [
        *solo_sounds(solo, timeline),
        *band_sounds(solo, timeline, groove_of(solo), backing),
        *click_sounds(timeline, click),
    ]
    sounds.sort(key=lambda sound: sound.start)
    program = GM_PROGRAMS.get(solo.instrument.name, 0)
    start = min([timeline.seconds(timeline.start), *(sound.start for sound in sounds[:1])])
    # What is held can't be a piano's.
    chords = _STRINGS if backing.feel is Feel.DRONE else 0
    return Performance(tuple(sounds), start, timeline.seconds(timeline.end), program, chords), timeline
