"""Explanations of a note by itself: how it is reached, how it is left, and what it is over its chord.

Each function answers with an explanation and its cost (see ``costs``), or with None.
"""

from __future__ import annotations

from collections.abc import Callable

from gavotte.labelling.costs import costs_of
from gavotte.labelling.explanation import Explanation
from gavotte.labelling.frame import TOLERANCE, Frame
from gavotte.labelling.framed_note import FramedNote
from gavotte.labelling.tensions import extension_device, is_altered
from gavotte.solo.document import Function
from gavotte.solo.school import School

Rule = Callable[[Frame, FramedNote, School], Explanation | None]


def chord_tone(frame: Frame, note: FramedNote, school: School) -> Explanation | None:
    """A member of the chord in force."""
    if not note.is_tone:
        return None
    return plain_tone()


def plain_tone() -> Explanation:
    """The explanation of a tone of the chord in force."""
    return Explanation(Function.CHORD, "plain", 0.98)


def anticipation(frame: Frame, note: FramedNote, school: School) -> Explanation | None:
    """A tone of the coming chord, early: tied over the change, before a rest, struck again, or left by leap."""
    following = frame.following_span(note)
    if following is None or not is_early(frame, note):
        return None
    if note.sounds_on or struck_again(frame, note):
        fit = 0.95
    elif note.rest_after:
        fit = 0.9
    elif _leaps_within(frame, note, following.tones):
        fit = 0.82
    else:
        return None
    return Explanation(
        Function.CHORD,
        "anticipation",
        fit,
        implied=following.text or None,
        degree=following.chord.degree_of(note.note.pitch.pitch_class),
        cost=costs_of(school).early,
        early=True,
    )


def is_early(frame: Frame, note: FramedNote) -> bool:
    """Whether a note within the last beat of its chord is no tone of it, but one of the next."""
    following = frame.following_span(note)
    if note.is_tone or following is None or note.note.grace:
        return False
    if not 0 < note.until_change <= note.beat_length + TOLERANCE:
        return False
    return note.note.pitch.pitch_class in following.tones


def struck_again(frame: Frame, note: FramedNote) -> bool:
    """Whether the next note strikes the same pitch over a later chord."""
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
    return Explanation(Function.CHORD, "carried", 0.9, target=note.after, cost=costs_of(school).early, early=True)


def chromatic_approach(frame: Frame, note: FramedNote, school: School) -> Explanation | None:
    """A note outside the local scale that moves by semitone into a chord tone or a held colour.

    A held blue note is heard as blue.
    """
    if note.is_tone or note.after is None or note.move_out not in (1, -1) or (note.blue and note.held):
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
    device, fit = "chromatic-below" if note.move_out == 1 else "chromatic-above", 0.92 if note.leaps_in else 0.75
    if returns and note.move_in in (1, -1):
        device, fit = "chromatic-neighbour", 0.95
    elif goes_on:
        device, fit = "chromatic-passing", 0.95
    return Explanation(Function.APPROACH, device, fit, target=note.after, cost=costs_of(school).chromatic)


def chromatic_link(frame: Frame, note: FramedNote, school: School) -> Explanation | None:
    """A foreign note between two neighbours of the local scale, on the way by step to a chord tone (F E E♭ D C)."""
    if note.is_tone or note.in_scale or note.before is None or note.after is None or (note.blue and note.held):
        return None
    if note.move_in is None or note.move_out not in (1, -1) or not note.steps_in or note.move_in * note.move_out < 0:
        return None
    scale = frame.span_of(note).scale
    low, high = frame.notes[note.before].pitch, frame.notes[note.after].pitch
    if frame.is_resting_point(note.after) or not scale.are_neighbours(low, high):
        return None
    target = _chord_tone_on(frame, frame.notes[note.after], note.move_out)
    if target is None:
        return None
    return Explanation(Function.APPROACH, "chromatic-passing", 0.9, target=target, cost=costs_of(school).chromatic)


def _chord_tone_on(frame: Frame, note: FramedNote, direction: int) -> int | None:
    """The chord tone that steps in one direction lead to, through notes that are not held."""
    while not note.held and note.steps_out and note.after is not None:
        if note.move_out is None or note.move_out * direction < 0:
            return None
        note = frame.notes[note.after]
        if note.is_tone:
            return None if note.note.grace else note.index
    return None


def of_centre(frame: Frame, note: FramedNote, school: School) -> Explanation | None:
    """A note of the collection a stretch is read in, unless it only steps through the scale."""
    if note.is_tone or note.centre is None or not note.in_centre or note.note.grace:
        return None
    if note.in_scale and not note.held and note.steps_in and note.steps_out:
        return None
    device = "blue" if note.centre.is_blue(note.pitch % 12) else "natural"
    return Explanation(Function.EXTENSION, device, 0.9, cost=costs_of(school).centre)


def blue(frame: Frame, note: FramedNote, school: School) -> Explanation | None:
    """A blue note of the key, unless it lies in the local scale and only steps through."""
    if not note.blue:
        return None
    if note.in_scale and not note.held and note.steps_in and note.steps_out:
        return None
    return Explanation(Function.EXTENSION, "blue", 0.93, cost=costs_of(school).blue)


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
    costs = costs_of(school)
    cost = costs.passing + (costs.accent if note.strong and note.tension else 0.0)
    if note.before is not None and note.steps_in and note.move_in is not None and note.move_out is not None:
        device, fit = "passing", 0.95 if note.move_in * note.move_out > 0 else 0.7
        if frame.notes[note.before].pitch == frame.notes[note.after].pitch:
            device, fit = "neighbour", 0.93
    else:
        device, fit = "step", 0.8 if leans else 0.88
        cost += costs.leap if note.tension else 0.0
    return Explanation(Function.PASSING, device, fit, target=target, cost=cost)


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
    """An available tension that is held, accented, leapt to or leapt from; or a clash that is made to be heard."""
    if note.is_tone or note.note.grace:
        return None
    device, cost = _colour(frame, note, school), costs_of(school).colour
    if note.clash:
        shown_off = note.held or note.strong or (note.leaps_in and note.leaps_out)
        return Explanation(Function.EXTENSION, device, 0.8 if note.held else 0.7, cost=cost) if shown_off else None
    if note.tension and note.stands_out:
        return Explanation(Function.EXTENSION, device, 0.94 if note.held else 0.88, cost=cost)
    if note.tension and note.strong:
        return Explanation(Function.EXTENSION, device, 0.65, cost=cost)
    return None


def left_over(frame: Frame, note: FramedNote, school: School) -> Explanation | None:
    """What is left: a colour if the chord or the scale knows the tone at all, else unexplained."""
    if note.is_tone:
        return None
    costs = costs_of(school)
    if note.tension or note.in_scale or note.clash:
        return Explanation(Function.EXTENSION, _colour(frame, note, school), 0.55, cost=costs.left_over)
    return Explanation(Function.OUTSIDE, "unexplained", 0.45, cost=costs.unexplained)


def _colour(frame: Frame, note: FramedNote, school: School) -> str:
    device = extension_device(frame.span_of(note).chord, note.degree)
    return device if school.flags_clashes or device != "clash" else "natural"


RULES: tuple[Rule, ...] = (
    chord_tone,
    anticipation,
    carried,
    of_centre,
    chromatic_approach,
    chromatic_link,
    blue,
    passing,
    extension,
)
"""What can be said of a note by itself; ``left_over`` is for a note of which nothing else can."""
