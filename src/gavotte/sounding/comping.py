"""The chords of a band: voicings that follow each other with little motion, in rhythms of the groove."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction

from gavotte.solo.bars import Bar
from gavotte.sounding.backing import LOUDER, Backing, Feel, Intensity
from gavotte.sounding.events import Sound, Voice
from gavotte.sounding.groove import Groove
from gavotte.sounding.harmony_heard import HarmonyHeard, beats_of_bar
from gavotte.sounding.timeline import Timeline

_HALF = Fraction(1, 2)
_LOUDNESS = 62
_DRONE_LOUDNESS, _DRONE_LOW = 58, 45

Stroke = tuple[str, str]
"""When a chord is struck after the barline, and the most it lasts, in quarter notes."""

_SWING: dict[Intensity, tuple[tuple[Stroke, ...], ...]] = {
    Intensity.QUIET: (
        (("0", "2"),), (("3/2", "2"),), (("1", "3/2"),), (("0", "1"), ("5/2", "1")), (("3/2", "1/2"),),
    ),
    Intensity.MIDDLE: (
        (("0", "1/2"), ("3/2", "5/4")), (("1", "1/2"), ("7/2", "1/2")), (("1/2", "1/2"), ("2", "1")),
        (("3/2", "1/2"), ("3", "3/4")), (("0", "1"), ("5/2", "1/2")), (("3/2", "5/4"),), (("1", "1/2"), ("5/2", "1")),
    ),
    Intensity.DRIVING: (
        (("1/2", "1/2"), ("3/2", "1/2"), ("3", "1/2")), (("0", "1/2"), ("3/2", "1/2"), ("5/2", "1")),
        (("1", "1/2"), ("2", "1/2"), ("7/2", "1/2")), (("1/2", "1/2"), ("3/2", "1/2"), ("5/2", "1/2"), ("7/2", "1/2")),
        (("0", "1/2"), ("1", "1/2"), ("5/2", "1")),
    ),
}  # fmt: skip
_WALTZ: dict[Intensity, tuple[tuple[Stroke, ...], ...]] = {
    Intensity.QUIET: ((("1", "3/2"),), (("0", "2"),), (("3/2", "1"),)),
    Intensity.MIDDLE: ((("1", "1/2"), ("2", "1/2")), (("3/2", "1"),), (("0", "1/2"), ("3/2", "1/2")), (("1", "3/2"),)),
    Intensity.DRIVING: (
        (("1", "1/2"), ("3/2", "1/2")), (("0", "1/2"), ("3/2", "1/2"), ("2", "1/2")), (("1/2", "1/2"), ("2", "1/2")),
    ),
}  # fmt: skip
_BALLAD: tuple[tuple[Stroke, ...], ...] = (
    (("0", "7/2"),), (("0", "2"), ("2", "3/2")), (("0", "1"), ("3/2", "2")), (("1/2", "3"),),
)  # fmt: skip
_BOSSA: tuple[tuple[Stroke, ...], ...] = (
    (("0", "1/2"), ("3/2", "1/2"), ("3", "1/2")), (("1/2", "1/2"), ("2", "1/2"), ("7/2", "1/2")),
    (("0", "1"), ("3/2", "1")), (("1", "1/2"), ("5/2", "1")),
)  # fmt: skip
_STRAIGHT: tuple[tuple[Stroke, ...], ...] = (
    (("0", "2"), ("2", "3/2")), (("0", "3/2"), ("3/2", "1"), ("3", "1/2")), (("0", "1"), ("5/2", "1")),
)  # fmt: skip


def chord_sounds(
    harmony: HarmonyHeard, timeline: Timeline, groove: Groove, backing: Backing, until: Fraction
) -> list[Sound]:
    """The voicings without their bass, struck in the groove's rhythm up to a time (quarter notes)."""
    sounds: list[Sound] = []
    for bar in harmony.bars:
        intensity = backing.at(harmony.share_behind(bar.onset))
        loud = _LOUDNESS + LOUDER[intensity]
        for onset, length in _strokes(harmony, bar, groove, backing, intensity):
            span = harmony.span_at(onset) or harmony.span_at(bar.onset)
            ahead = harmony.span_at(onset + _HALF)
            if ahead is not None and ahead is not span and onset + _HALF == ahead.start:
                # A stroke just before a change belongs to the new chord.
                span = ahead
            if span is None or onset >= until:
                continue
            start, end = timeline.seconds(onset), timeline.seconds(min(onset + length, until))
            sounds += [Sound(Voice.CHORDS, start, end, key, loud) for key in span.voicing[1:]]
    return sounds


def drone_sounds(harmony: HarmonyHeard, timeline: Timeline) -> list[Sound]:
    """Keynote and fifth, held as long as the key lasts."""
    turns = [bar.onset for k, bar in enumerate(harmony.bars)
             if k == 0 or harmony.keynote(bar.onset) != harmony.keynote(harmony.bars[k - 1].onset)]  # fmt: skip
    sounds = []
    for start, end in zip(turns, [*turns[1:], harmony.end], strict=False):
        low = _DRONE_LOW + (harmony.keynote(start) - _DRONE_LOW) % 12
        times = timeline.seconds(start), timeline.seconds(end)
        sounds += [Sound(Voice.CHORDS, *times, key, _DRONE_LOUDNESS) for key in (low - 12, low, low + 7)]
    return sounds


def _strokes(
    harmony: HarmonyHeard, bar: Bar, groove: Groove, backing: Backing, intensity: Intensity
) -> list[tuple[Fraction, Fraction]]:
    """When chords are struck in a bar, and how long each lasts, in quarter notes."""
    chance = backing.chance("chords", bar.number)
    beats = beats_of_bar(bar)
    pattern: Sequence[Stroke]
    if groove is Groove.SWING and len(beats) == 4:
        pattern = chance.choice(_SWING[intensity])
    elif groove is Groove.WALTZ and len(beats) == 3:
        pattern = chance.choice(_WALTZ[intensity])
    elif groove is Groove.BALLAD and len(beats) == 4:
        pattern = chance.choice(_BALLAD)
    elif groove is Groove.BOSSA and len(beats) == 4:
        pattern = _BOSSA[bar.number % 2] if intensity is not Intensity.QUIET else chance.choice(_BOSSA[2:])
    elif groove is Groove.STRAIGHT and len(beats) == 4:
        pattern = chance.choice(_STRAIGHT)
    else:
        pattern = _by_beats(bar, beats, intensity, chance.random())
    places = {bar.onset + Fraction(offset): Fraction(most) for offset, most in pattern}
    if bar.number == 1 and groove is not Groove.WALTZ and min(places, default=bar.end) > bar.onset:
        # The first chord is heard at once.
        places[bar.onset] = Fraction(1)
    for change in harmony.changes_within(bar):
        if not any(-_HALF <= place - change <= _HALF for place in places):
            places[change] = Fraction(1)
    times = sorted(place for place in places if bar.onset <= place < bar.end)
    if backing.feel in (Feel.PEDAL_FIFTH, Feel.PEDAL_KEYNOTE) and times and chance.random() < 0.5:
        # Over a pedal chords breathe.
        times = [times[0], *(time for time in times[1:] if harmony.span_at(time) is not harmony.span_at(times[0]))]
    ends = [*times[1:], bar.end]
    return [
        (place, min(places[place], (end - place) * Fraction(19, 20))) for place, end in zip(times, ends, strict=False)
    ]


def _by_beats(bar: Bar, beats: list[tuple[Fraction, bool]], intensity: Intensity, roll: float) -> list[tuple[str, str]]:
    """A rhythm for any meter: the strong beats, the others too where much is played, one of them ahead by chance."""
    chosen = [time for k, (time, strong) in enumerate(beats) if strong or k == 0 or intensity is Intensity.DRIVING]
    step = beats[1][0] - beats[0][0] if len(beats) > 1 else bar.length
    ahead = len(chosen) - 1 if roll < 0.4 and len(chosen) > 1 else -1
    return [
        (
            str(time - bar.onset - (_HALF if k == ahead else 0)),
            str(step if intensity is not Intensity.QUIET else 2 * step),
        )
        for k, time in enumerate(chosen)
    ]
