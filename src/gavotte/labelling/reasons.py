"""Reasons: each explanation as one sentence a player can check by ear."""

from __future__ import annotations

from gavotte.labelling.centre import Centre
from gavotte.labelling.explanation import Explanation
from gavotte.labelling.figures import figure_kind
from gavotte.labelling.frame import Frame, FramedNote
from gavotte.labelling.wording import (
    chord_words,
    degree_of,
    degree_words,
    goal_words,
    note_words,
    own_degree,
    own_words,
)
from gavotte.solo.document import Function
from gavotte.theory.degrees import shown_above_tonic


def reason(frame: Frame, note: FramedNote, explanation: Explanation) -> str:
    """Why ``note`` is heard this way, naming pitches, beats and chords."""
    kind = figure_kind(explanation.figure)
    if kind is not None and not _is_of_centre(note, explanation):
        return kind.reason(frame, note, explanation)
    name = note_words(note)
    chord = chord_words(frame.span_of(note))
    degree = own_degree(frame, note)
    target = None if explanation.target is None else frame.notes[explanation.target]
    match explanation.function:
        case Function.CHORD:
            return _chord_reason(frame, note, explanation, name, chord, degree, target)
        case Function.EXTENSION:
            return _extension_reason(frame, note, explanation, name, chord, degree)
        case Function.PASSING if target is not None:
            return _passing_reason(frame, note, explanation, name, target)
        case Function.APPROACH if target is not None:
            return _approach_reason(frame, note, explanation, name, target)
    apart = f"neither in {chord} nor in its scale" if frame.span_of(note).written else f"the {degree}, not in {chord},"
    return f"{name} is {apart} and does not lead on by step; listen again, it may be a slip of the pen."


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
    frame: Frame,
    note: FramedNote,
    explanation: Explanation,
    name: str,
    chord: str,
    degree: str,
    target: FramedNote | None,
) -> str:
    if explanation.device == "anticipation":
        following = frame.following_span(note)
        coming = chord_words(following) if following else "the next chord"
        degree = explanation.degree or note.degree
        return f"{name} comes early: it is already the {degree_words(degree, degree_of(frame, degree))} of {coming}."
    if explanation.device == "carried" and target is not None:
        old = chord_words(frame.spans[note.span - 1])
        return f"{name} is carried over from {old} and then steps into {goal_words(frame, target)}."
    if frame.span_of(note).unread:
        home = f"by the key it is the {own_words(frame, note)} of {chord}"
        return f"The chord symbol “{frame.span_of(note).unread}” can't be read; {name} stands alone: {home}."
    if not frame.span_of(note).written:
        words = f"{name} is the {own_words(frame, note)} of {chord}, a note to rest on."
        # Where no chord is written anywhere, that need not be said note by note.
        return f"No chord is written here; {words}" if frame.solo.chords else words
    return f"{name} is the {degree_words(note.degree, degree)} of {chord}."


def _extension_reason(
    frame: Frame, note: FramedNote, explanation: Explanation, name: str, chord: str, degree: str
) -> str:
    if note.centre is not None and _is_of_centre(note, explanation):
        against = f" ({degree} of {chord})" if frame.span_of(note).written else ""
        return _centre_reason(note, note.centre, explanation, name, against)
    if explanation.device == "blue":
        key = frame.span_of(note).key.key
        blue = {3: "♭3", 6: "♭5", 10: "♭7"}[(note.pitch - key.tonic.pitch_class) % 12]
        says = f", whatever the chord says ({degree} of {chord})" if frame.span_of(note).written else ""
        return f"{name} is the blue {blue} of {key.tonic.shown}{says}."
    manner = _manner(note)
    if explanation.device == "clash":
        return f"{name}, {manner}, rubs as the {degree} against {chord}; players do this on purpose, or by slip."
    kind = "an altered colour" if explanation.device == "altered" else "a colour of its own"
    return f"{name}, {manner}, is {kind}: the {degree} of {chord}."


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
    if note.held:
        return "held"
    if note.leaps_in and note.leaps_out:
        return "leapt to and left by leap"
    if note.leaps_in:
        return "leapt to" if not note.rest_before else "after a rest"
    return "left by leap" if note.leaps_out else "stepped through"


def _passing_reason(frame: Frame, note: FramedNote, explanation: Explanation, name: str, target: FramedNote) -> str:
    goal = goal_words(frame, target)
    if explanation.device == "neighbour" and note.before is not None:
        return f"{name} steps away from {frame.notes[note.before].note.pitch.shown} and back to it ({goal})."
    if explanation.device == "step":
        arrives = "comes after a rest" if note.rest_before else "is leapt to"
        return f"{name} {arrives} and resolves by step into {goal}."
    start = frame.notes[note.before].note.pitch.shown if note.before is not None else ""
    through = "" if target.index == note.after else f" through {_between(frame, note, target)}"
    return f"{name} passes by step from {start}{through} to {goal}."


def _between(frame: Frame, note: FramedNote, target: FramedNote) -> str:
    names = [frame.notes[k].note.pitch.shown for k in range(note.index + 1, target.index)]
    return " and ".join(dict.fromkeys(name for name in names if name != note.note.pitch.shown))


def _approach_reason(frame: Frame, note: FramedNote, explanation: Explanation, name: str, target: FramedNote) -> str:
    goal = goal_words(frame, target)
    up = note.move_out is not None and note.move_out > 0
    match explanation.device:
        case "chromatic-below" | "chromatic-above":
            return f"{name} slides {'up' if up else 'down'} a half step into {goal}."
        case "chromatic-neighbour":
            return (
                f"{name} leaves {target.note.pitch.shown} by a half step and falls back into it ({goal})."
                if not up
                else f"{name} dips a half step below {target.note.pitch.shown} and comes back to it ({goal})."
            )
    return f"{name} runs {'up' if up else 'down'} by half steps to {goal}."


def in_short(frame: Frame, note: FramedNote, explanation: Explanation) -> str:
    """What a note would be, without its name: "the 3rd of E♭7", "a half step below G"."""
    kind = figure_kind(explanation.figure)
    if kind is not None:
        return kind.short(frame, note, explanation)
    target = None if explanation.target is None else frame.notes[explanation.target]
    goal = "" if target is None else target.note.pitch.shown
    own = f"the {own_words(frame, note)} of {chord_words(frame.span_of(note))}"
    match explanation.function:
        case Function.PASSING if goal:
            return f"passing to {goal}"
        case Function.APPROACH if goal:
            return f"a half step into {goal}"
        case Function.CHORD if explanation.device == "anticipation":
            return "the coming chord, early"
    return own
