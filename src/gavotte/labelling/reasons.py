"""Reasons: each explanation as one sentence a player can check by ear."""

from __future__ import annotations

from gavotte.labelling.centre import Centre
from gavotte.labelling.explanation import Explanation
from gavotte.labelling.figures import figure_kind
from gavotte.labelling.figures.pentatonic_run import are_fourths
from gavotte.labelling.frame import Frame
from gavotte.labelling.framed_note import FramedNote
from gavotte.labelling.wording import (
    aside,
    blue_words,
    chord_name,
    chord_words,
    degree_of,
    degree_words,
    goal_words,
    note_words,
    own_degree,
    own_words,
    place_words,
)
from gavotte.solo.document import Function
from gavotte.theory.degrees import shown_above_tonic


def reason(frame: Frame, note: FramedNote, explanation: Explanation) -> str:
    """Why ``note`` is heard this way, naming pitches, beats and chords."""
    kind = figure_kind(explanation.figure)
    if kind is not None and not _is_of_centre(note, explanation):
        return kind.reason(frame, note, explanation)
    name = note_words(note)
    target = None if explanation.target is None else frame.notes[explanation.target]
    match explanation.function:
        case Function.CHORD:
            return _chord_reason(frame, note, explanation, name, target)
        case Function.EXTENSION:
            return _extension_reason(frame, note, explanation, name)
        case Function.PASSING if target is not None:
            return _passing_reason(frame, note, explanation, name, target)
        case Function.APPROACH if target is not None:
            return _approach_reason(frame, note, explanation, name, target)
    return _unexplained_reason(frame, note, name)


def decided_reason(frame: Frame, note: FramedNote, function: Function, target: FramedNote | None) -> str:
    """The sentence for a function the user set where no rule gives one."""
    name = note_words(note)
    chord = chord_words(frame.span_of(note))
    degree = own_degree(frame, note)
    into = "" if target is None else goal_words(frame, target)
    words = {
        Function.CHORD: f"{name} is heard as a tone of the harmony; it is the {degree} of {chord}.",
        Function.EXTENSION: f"{name} is heard as a colour, the {degree} of {chord}.",
        Function.PASSING: f"{name} is heard as passing" + (f" to {into}." if into else "."),
        Function.APPROACH: f"{name} is heard as leading" + (f" into {into}." if into else " on."),
        Function.OUTSIDE: f"{name} is heard outside {chord}, where it would be the {degree}.",
    }
    return words[function]


def _chord_reason(
    frame: Frame, note: FramedNote, explanation: Explanation, name: str, target: FramedNote | None
) -> str:
    span = frame.span_of(note)
    if explanation.device == "anticipation":
        following = frame.following_span(note)
        coming = chord_words(following) if following else "the next chord"
        degree = explanation.degree or note.degree
        return f"{name} comes early: it is already the {degree_words(degree, degree_of(frame, degree))} of {coming}."
    if explanation.device == "carried" and target is not None:
        old = aside(chord_words(frame.spans[note.span - 1]))
        return f"{name} is carried over from {old} and then steps into {goal_words(frame, target)}."
    place = place_words(frame, note)
    if span.unread:
        return f"The chord symbol “{span.unread}” can't be read; {name} stands alone: by the key it is {place}."
    if not span.written:
        words = f"{name} is {place}, a note to rest on."
        # Where no chord is written anywhere, that need not be said note by note.
        return f"No chord is written here; {words}" if frame.solo.chords else words
    return f"{name} is {place}."


def _extension_reason(frame: Frame, note: FramedNote, explanation: Explanation, name: str) -> str:
    span = frame.span_of(note)
    chord, degree = chord_words(span), own_degree(frame, note)
    if note.centre is not None and _is_of_centre(note, explanation):
        against = f" ({degree} of {chord})" if span.written else ""
        return _centre_reason(note, note.centre, explanation, name, against)
    if explanation.device == "blue":
        # Over the tonic's own chord the degree is the same tone once more: one name is enough.
        is_home = span.chord.root.pitch_class == span.key.key.tonic.pitch_class
        says = f", whatever the chord says ({degree} of {chord})" if span.written and not is_home else ""
        return f"{name} is {blue_words(note, span)}{says}."
    if explanation.device == "clash":
        how = f", {manner}," if (manner := _manner(note)) else ""
        rubs = f"rubs as the {own_words(frame, note)} against {chord}"
        return f"{name}{how} {rubs}; players do this on purpose, or by slip."
    kind = "an altered colour" if explanation.device == "altered" else "a colour of its own"
    if manner := _manner(note):
        return f"{name}, {manner}, is {kind}: {place_words(frame, note)}."
    leads = "moves on by step, but to nothing it would lead into" if note.steps_out else "leads nowhere"
    return f"{name} {leads}; it is {kind}: {place_words(frame, note)}."


def _is_of_centre(note: FramedNote, explanation: Explanation) -> bool:
    """Whether a colour is heard as a tone of the key centre its stretch is read by."""
    if explanation.function is not Function.EXTENSION or note.centre is None or not note.in_centre:
        return False
    rubs = explanation.device in ("clash", "altered")
    return not rubs and not (note.blue and explanation.device == "blue")


def _centre_reason(note: FramedNote, centre: Centre, explanation: Explanation, name: str, against: str) -> str:
    above = shown_above_tonic(note.pitch - centre.tonic.pitch_class)
    colour = f"the blue {above}" if explanation.device == "blue" else f"the {degree_words(above, above)}"
    return f"{name} is {colour} of {centre.shown}, in which this stretch is heard{against}."


def _manner(note: FramedNote) -> str:
    """How a note shows itself off, "" where it does not."""
    if note.held:
        return "held"
    if note.leaps_in and note.leaps_out:
        return f"{_arrives(note)} and left by leap"
    if note.leaps_in:
        return _arrives(note)
    if note.leaps_out:
        return "left by leap"
    return "on a strong beat" if note.strong else ""


def _arrives(note: FramedNote) -> str:
    """How a note that is not stepped to is reached."""
    if note.rest_before:
        return "at the start of the line" if note.index == 0 else "after a rest"
    return "leapt to" if note.before is not None and note.before == note.index - 1 else "struck again"


def _passing_reason(frame: Frame, note: FramedNote, explanation: Explanation, name: str, target: FramedNote) -> str:
    goal = goal_words(frame, target)
    if explanation.device == "neighbour" and note.before is not None:
        return f"{name} steps away from {frame.notes[note.before].note.pitch.shown} and back to it ({goal})."
    between = _between(frame, note, target)
    if explanation.device == "step":
        arrives = {"at the start of the line": "starts the line", "after a rest": "comes after a rest"}.get(
            _arrives(note), f"is {_arrives(note)}"
        )
        resolves = f"goes on by step through {between} to" if between else "resolves by step into"
        return f"{name} {arrives} and {resolves} {goal}."
    start = frame.notes[note.before].note.pitch.shown if note.before is not None else ""
    through = f" through {between}" if between else ""
    if note.move_in is not None and note.move_out is not None and note.move_in * note.move_out < 0:
        turns = "up" if note.move_out > 0 else "down"
        return f"{name} is stepped to from {start}, then turns and goes on {turns} by step{through} to {goal}."
    return f"{name} passes by step from {start}{through} to {goal}."


def _between(frame: Frame, note: FramedNote, target: FramedNote) -> str:
    names = [frame.notes[k].note.pitch.shown for k in range(note.index + 1, target.index)]
    return " and ".join(dict.fromkeys(name for name in names if name != note.note.pitch.shown))


def _approach_reason(frame: Frame, note: FramedNote, explanation: Explanation, name: str, target: FramedNote) -> str:
    goal = goal_words(frame, target)
    up = note.move_out is not None and note.move_out > 0
    way = "up" if up else "down"
    start = "" if note.before is None else frame.notes[note.before].note.pitch.shown
    match explanation.device:
        case "chromatic-below" | "chromatic-above":
            # Only what is short slides; a longer note is heard before it moves.
            moves = "slides" if 2 * note.length <= note.beat_length else "leads"
            return f"{name} {moves} {way} a half step into {goal}."
        case "chromatic-neighbour":
            if up:
                return f"{name} dips a half step below {start} and comes back to it ({goal})."
            return f"{name} leaves {start} by a half step and falls back into it ({goal})."
    if note.after is not None and target.index != note.after:
        following = frame.notes[note.after].note.pitch.shown
        return f"{name} fills in the step from {start} to {following}, on the way {way} to {goal}."
    if note.move_in in (1, -1):
        return f"{name} runs {way} by half steps from {start} to {goal}."
    return f"{name} comes by step from {start} and leads on {way} a half step into {goal}."


def _unexplained_reason(frame: Frame, note: FramedNote, name: str) -> str:
    """That nothing explains a note, and what it does instead of leading on."""
    span = frame.span_of(note)
    chord = aside(chord_words(span))
    apart = f"the {own_degree(frame, note)}, not in {chord},"
    if span.written:
        apart = f"neither in {chord} nor in its scale"
    fourths = _fourths_about(frame, note)
    if fourths:
        return f"{name} is {apart} but is one of the fourths {fourths}: a shape that leaves the chord."
    after = None if note.after is None else frame.notes[note.after]
    if after is None:
        leads = "and leads nowhere"
    elif note.leaps_out:
        leads = "and does not lead on by step"
    elif note.move_out not in (1, -1):
        leads = f"and goes on to {after.note.pitch.shown} by more than the half step that would lead there"
    else:
        leads = f"and moves a half step to {after.note.pitch.shown}, no note to rest on"
    return f"{name} is {apart} {leads}; listen again, it may be a slip of the pen."


def _fourths_about(frame: Frame, note: FramedNote) -> str:
    """The three fourths in a row a note is one of: "B♭ E♭ A♭", or ""."""
    for first in range(max(0, note.index - 2), note.index + 1):
        stack = frame.notes[first : first + 3]
        if are_fourths(stack) and not any(other.rest_after for other in stack[:-1]):
            return " ".join(other.note.pitch.shown for other in stack)
    return ""


def in_short(frame: Frame, note: FramedNote, explanation: Explanation) -> str:
    """What a note would be, without its name: "the 3rd of E♭7", "a half step below G"."""
    kind = figure_kind(explanation.figure)
    if kind is not None:
        return kind.short(frame, note, explanation)
    target = None if explanation.target is None else frame.notes[explanation.target]
    goal = "" if target is None else target.note.pitch.shown
    own = place_words(frame, note, chord_name(frame.span_of(note)))
    match explanation.function:
        case Function.PASSING if goal:
            return f"passing to {goal}"
        case Function.APPROACH if goal:
            return f"a half step into {goal}"
        case Function.CHORD if explanation.device == "anticipation":
            return "the coming chord, early"
    return own
