"""A small band under the solo: bass, chords and drums.

Everything is worked out from the chords, the meter's beats, the groove and how the backing is wished; the same solo
with the same seed always gets the same band.
"""

from __future__ import annotations

from fractions import Fraction

from gavotte.solo.document import Solo
from gavotte.sounding.backing import USUAL_BACKING, Backing, Feel
from gavotte.sounding.bass import bass_sounds
from gavotte.sounding.comping import chord_sounds, drone_sounds
from gavotte.sounding.drums import drum_sounds
from gavotte.sounding.events import Sound, Voice
from gavotte.sounding.groove import Groove
from gavotte.sounding.harmony_heard import HarmonyHeard
from gavotte.sounding.timeline import Timeline

_HELD_LOUDNESS, _CRASH = 72, 49


def band_sounds(solo: Solo, timeline: Timeline, groove: Groove, backing: Backing = USUAL_BACKING) -> list[Sound]:
    """Bass, chords and drums for the whole solo, its pickup excepted; or a drone alone."""
    harmony = HarmonyHeard(solo, timeline)
    if backing.feel is Feel.DRONE:
        return drone_sounds(harmony, timeline)
    until = backing.held_from if backing.held_from is not None else harmony.end
    return [
        *bass_sounds(harmony, timeline, groove, backing, until),
        *chord_sounds(harmony, timeline, groove, backing, until),
        *drum_sounds(harmony, timeline, groove, backing, until),
        *_held(harmony, timeline, until),
    ]


def _held(harmony: HarmonyHeard, timeline: Timeline, start: Fraction) -> list[Sound]:
    """The last chord, struck together and held to the end."""
    span = harmony.span_at(start) if start < harmony.end else None
    if span is None:
        return []
    times = timeline.seconds(start), timeline.seconds(harmony.end)
    bass, *upper = span.voicing
    return [
        Sound(Voice.BASS, *times, bass, _HELD_LOUDNESS + 16),
        *(Sound(Voice.CHORDS, *times, key, _HELD_LOUDNESS) for key in upper),
        Sound(Voice.DRUMS, times[0], times[0] + 0.1, _CRASH, _HELD_LOUDNESS),
    ]
