"""Explanations of a note by itself: how it is reached, how it is left, and what it is over its chord.

Each function answers with an explanation or None. They are tried in the order of ``RULES``; the first
answer is the label unless a figure explains the note, the other answers are its alternatives.
"""

from __future__ import annotations

from collections.abc import Callable

from gavotte.labelling.explanation import Explanation
from gavotte.labelling.frame import TOLERANCE, Frame, FramedNote
from gavotte.labelling.school import School
from gavotte.labelling.tensions import extension_device, is_altered
from gavotte.solo.document import Function

Rule = Callable[[Frame, FramedNote, School], Explanation | None]


def chord_tone(frame: Frame, note: FramedNote, school: School) -> Explanation | None:
    """A member of the chord in force."""
    if not note.is_tone:
        return None
    written = frame.span_of(note).written
    return Explanation(Function.CHORD, "plain", 0.98 if written else 0.7)


def anticipation(frame: Frame, note: FramedNote, school: School) -> Explanation | None:
    """A tone of the coming chord, early: tied over the change, before a rest, struck again, or left by leap."""
    following = frame.following_span(note)
    if note.is_tone or following is None or note.note.grace:
        return None
    if not 0 < note.until_change <= note.beat_length + TOLERANCE:
        return None
    pitch_class = note.note.pitch.pitch_class
    if pitch_class not in following.chord.tone_classes:
        return None
    if not (
        note.sounds_on
        or note.rest_after
        or _struck_again(frame, note)
        or _leaps_within(frame, note, following.chord.tone_classes)
    ):
        return None
    return Explanation(
        Function.CHORD,
        "anticipation",
        0.9,
        implied=following.text or None,
        degree=following.chord.degree_of(pitch_class),
    )


def _struck_again(frame: Frame, note: FramedNote) -> bool:
    following = frame.notes[note.index + 1] if note.index + 1 < len(frame.notes) else None
    return following is not None and following.pitch == note.pitch and following.span > note.span


def _leaps_within(frame: Frame, note: FramedNote, tones: frozenset[int]) -> bool:
    return note.leaps_out and note.after is not None and frame.notes[note.after].pitch % 12 in tones


def carried(frame: Frame, note: FramedNote, school: School) -> Explanation | None:
    """A tone of the chord just left, struck again after the change and stepping into the new chord."""
    if note.is_tone or note.index == 0 or note.after is None or not note.steps_out:
        return None
    previous = frame.notes[note.index - 1]
    if previous.pitch != note.pitch or previous.span != note.span - 1 or not previous.is_tone:
        return None
    if not frame.notes[note.after].is_tone:
        return None
    return Explanation(Function.CHORD, "carried", 0.85, target=note.after)


def chromatic_approach(frame: Frame, note: FramedNote, school: School) -> Explanation | None:
    """A note outside the local scale that moves by semitone into a chord tone or a held colour."""
    if note.is_tone or note.after is None or note.move_out not in (1, -1):
        return None
    if not frame.is_resting_point(note.after):
        return None
    span = frame.span_of(note)
    altered = is_altered(span.chord, note.degree)
    if note.in_scale and not altered:
        return None
    goes_on = note.steps_in and note.move_in is not None and note.move_in * note.move_out > 0
    returns = (
        note.before is not None and note.steps_in and frame.notes[note.before].pitch == frame.notes[note.after].pitch
    )
    rises_from_leap = note.leaps_in and note.move_out == 1
    if altered:
        allowed = goes_on or returns or (rises_from_leap and not span.chord.altered)
        if not allowed or (note.in_scale and not span.chord.altered):
            return None
    if returns and note.move_in in (1, -1):
        return Explanation(Function.APPROACH, "chromatic-neighbour", 0.9, target=note.after)
    if goes_on:
        return Explanation(Function.APPROACH, "chromatic-passing", 0.9, target=note.after)
    device = "chromatic-below" if note.move_out == 1 else "chromatic-above"
    return Explanation(Function.APPROACH, device, 0.88 if note.leaps_in else 0.7, target=note.after)


def blue(frame: Frame, note: FramedNote, school: School) -> Explanation | None:
    """A blue note of the key, unless it lies in the local scale and only steps through."""
    if not note.blue:
        return None
    if note.in_scale and not note.held and note.steps_in and note.steps_out:
        return None
    return Explanation(Function.EXTENSION, "blue", 0.85)


def passing(frame: Frame, note: FramedNote, school: School) -> Explanation | None:
    """A note of the local scale on its way by step, alone or through further scale steps."""
    if note.is_tone or not note.in_scale or note.after is None:
        return None
    span = frame.span_of(note)
    if is_altered(span.chord, note.degree) and (span.chord.altered or not (note.steps_in and note.steps_out)):
        return None
    leans = note.strong and not note.steps_in and _yields_quickly(frame, note)
    if note.held and not leans:
        return None
    target = _end_of_chain(frame, note, school)
    if target is None:
        return None
    if note.strong and school.accents_are_colours and note.tension:
        return None
    if note.steps_in and note.move_in is not None and note.move_out is not None:
        if note.before is not None and frame.notes[note.before].pitch == frame.notes[note.after].pitch:
            return Explanation(Function.PASSING, "neighbour", 0.88, target=target)
        return Explanation(
            Function.PASSING, "passing", 0.93 if note.move_in * note.move_out > 0 else 0.65, target=target
        )
    return Explanation(Function.PASSING, "step", 0.72, target=target)


def _yields_quickly(frame: Frame, note: FramedNote) -> bool:
    """An appoggiatura may be as long as its resolution and no longer than a beat."""
    assert note.after is not None
    resolution = frame.notes[note.after]
    return note.length <= min(resolution.length, note.beat_length) and not note.rest_after


def _end_of_chain(frame: Frame, note: FramedNote, school: School) -> int | None:
    """The resting point that steps in one direction lead to, from a note that is not one itself."""
    current, direction = note, 0
    while current.after is not None and current.steps_out and current.move_out is not None:
        if direction and current.move_out * direction < 0:
            return None
        direction = current.move_out
        following = frame.notes[current.after]
        if frame.is_resting_point(following.index):
            return following.index
        if following.blue and not following.note.grace and chromatic_approach(frame, following, school) is None:
            return following.index
        # The chain goes on through scale tones, and through a chromatic one that itself leads on by semitone.
        if not following.in_scale and abs(following.move_out or 0) != 1:
            return None
        if following.held:
            return None
        current = following
    return None


def extension(frame: Frame, note: FramedNote, school: School) -> Explanation | None:
    """An available tension that is held, leapt to or leapt from; or a clash that is made to be heard."""
    if note.is_tone or note.note.grace:
        return None
    device = extension_device(frame.span_of(note).chord, note.degree)
    if note.clash:
        shown_off = note.held or note.strong or (note.leaps_in and note.leaps_out)
        return Explanation(Function.EXTENSION, "clash", 0.62) if shown_off else None
    if note.tension and (note.held or note.leaps_in or note.leaps_out):
        return Explanation(Function.EXTENSION, device, 0.88 if note.held else 0.78)
    return None


def left_over(frame: Frame, note: FramedNote, school: School) -> Explanation | None:
    """What is left: a colour if the chord or the scale knows the tone at all, else unexplained."""
    if note.is_tone:
        return None
    if note.tension or note.in_scale or note.clash:
        device = extension_device(frame.span_of(note).chord, note.degree)
        return Explanation(Function.EXTENSION, device, 0.5)
    return Explanation(Function.OUTSIDE, "unexplained", 0.4)


RULES: tuple[Rule, ...] = (
    chord_tone,
    anticipation,
    carried,
    chromatic_approach,
    blue,
    passing,
    extension,
    left_over,
)
EARLY_RULES = frozenset({chord_tone, anticipation, carried})
"""Rules that come before any figure."""
