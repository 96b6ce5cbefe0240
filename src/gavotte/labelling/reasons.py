"""Reasons: each explanation as one sentence a player can check by ear."""

from __future__ import annotations

from functools import lru_cache

from gavotte.labelling.centre import Centre
from gavotte.labelling.chords_in_force import ChordSpan
from gavotte.labelling.explanation import Explanation
from gavotte.labelling.frame import Frame, FramedNote
from gavotte.solo.document import Function
from gavotte.theory.chord_symbol import parse_chord_symbol, read_or_keep, shown_chord
from gavotte.theory.degrees import shown_above_tonic, shown_degree


def reason(frame: Frame, note: FramedNote, explanation: Explanation) -> str:
    """Why ``note`` is heard this way, naming pitches, beats and chords."""
    name = f"{note.note.pitch.shown} on {note.place}"
    chord = _chord_name(frame.span_of(note))
    degree = _shown(frame, note.degree)
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
    if explanation.device == "implied":
        implied = shown_chord(parse_chord_symbol(explanation.implied)) if explanation.implied else "another chord"
        return f"{name} belongs to {implied}, laid over {chord}."
    return (
        f"{name} is neither in {chord} nor in its scale and does not lead on by step; "
        "listen again, it may be a slip of the pen."
    )


def decided_reason(frame: Frame, note: FramedNote, function: Function, target: FramedNote | None) -> str:
    """The sentence for a function the user set where no rule gives one."""
    name = f"{note.note.pitch.shown} on {note.place}"
    chord = _chord_name(frame.span_of(note))
    degree = _shown(frame, note.degree)
    words = {
        Function.CHORD: f"{name} is heard as a tone of the harmony; it is the {degree} of {chord}.",
        Function.EXTENSION: f"{name} is heard as a colour, the {degree} of {chord}.",
        Function.PASSING: f"{name} is heard as passing" + (f" to {_goal(frame, target)}." if target else "."),
        Function.APPROACH: f"{name} is heard as leading" + (f" into {_goal(frame, target)}." if target else " on."),
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
        coming = _chord_name(following) if following else "the next chord"
        degree = explanation.degree or note.degree
        return f"{name} comes early: it is already the {degree_words(degree, _shown(frame, degree))} of {coming}."
    if explanation.device == "carried" and target is not None:
        old = _chord_name(frame.spans[note.span - 1])
        return f"{name} is carried over from {old} and then steps into {_goal(frame, target)}."
    if frame.span_of(note).unread:
        home = f"by the key it is the {degree_words(note.degree, degree)} of {chord}"
        return f"The chord symbol “{frame.span_of(note).unread}” can't be read; {name} stands alone: {home}."
    if not frame.span_of(note).written:
        home = f"the {degree_words(note.degree, degree)} of the key's home chord, {chord}"
        return f"No chord is written here; {name} is {home}."
    return f"{name} is the {degree_words(note.degree, degree)} of {chord}."


def _extension_reason(
    frame: Frame, note: FramedNote, explanation: Explanation, name: str, chord: str, degree: str
) -> str:
    rubs = explanation.device in ("clash", "altered")
    if note.centre is not None and note.in_centre and not rubs and not (note.blue and explanation.device == "blue"):
        return _centre_reason(note, note.centre, explanation, name, chord, degree)
    if explanation.device == "blue":
        key = frame.span_of(note).key.key
        blue = {3: "♭3", 6: "♭5", 10: "♭7"}[(note.pitch - key.tonic.pitch_class) % 12]
        return f"{name} is the blue {blue} of {key.tonic.shown}, whatever the chord says ({degree} of {chord})."
    manner = _manner(note)
    if explanation.implied:
        spelled = shown_chord(parse_chord_symbol(explanation.implied))
        against = ", where it rubs" if explanation.device == "clash" else ""
        return f"{name} belongs to {spelled}, spelled out over {chord}: it is the {degree} of {chord}{against}."
    if explanation.device == "clash":
        return f"{name}, {manner}, rubs as the {degree} against {chord}; players do this on purpose, or by slip."
    kind = "an altered colour" if explanation.device == "altered" else "a colour of its own"
    return f"{name}, {manner}, is {kind}: the {degree} of {chord}."


def _centre_reason(
    note: FramedNote, centre: Centre, explanation: Explanation, name: str, chord: str, degree: str
) -> str:
    above = shown_above_tonic(note.pitch - centre.tonic.pitch_class)
    colour = f"the blue {above}" if explanation.device == "blue" else f"the {degree_words(above, above)}"
    return f"{name} is {colour} of {centre.shown}, in which this stretch is heard ({degree} of {chord})."


def _manner(note: FramedNote) -> str:
    if note.held:
        return "held"
    if note.leaps_in and note.leaps_out:
        return "leapt to and left by leap"
    if note.leaps_in:
        return "leapt to" if not note.rest_before else "after a rest"
    return "left by leap" if note.leaps_out else "stepped through"


def _passing_reason(frame: Frame, note: FramedNote, explanation: Explanation, name: str, target: FramedNote) -> str:
    goal = _goal(frame, target)
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
    goal = _goal(frame, target)
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
        case "chromatic-passing":
            return f"{name} runs {'up' if up else 'down'} by half steps to {goal}."
        case "double-below" | "double-above":
            side = "below" if explanation.device == "double-below" else "above"
            return f"{name} belongs to two half steps from {side} that lead into {goal}."
    return f"{name} is part of the ring of notes above and below that closes in on {goal}."


def _goal(frame: Frame, target: FramedNote) -> str:
    """ "G, the 3 of E♭7"."""
    chord = _chord_name(frame.span_of(target))
    return f"{target.note.pitch.shown}, the {degree_words(target.degree, _shown(frame, target.degree))} of {chord}"


def _shown(frame: Frame, degree: str) -> str:
    return shown_degree(degree, frame.school.naming)


def degree_words(degree: str, shown: str) -> str:
    """A degree as it is said: the root, the 3rd, the ♭9."""
    return {"1": "root", "3": "3rd", "5": "5th", "7": "major 7th"}.get(degree, shown)


def _chord_name(span: ChordSpan) -> str:
    return _shown_text(span.text) if span.text else shown_chord(span.chord)


@lru_cache(maxsize=512)
def _shown_text(text: str) -> str:
    return shown_chord(parse_chord_symbol(text))


def in_short(frame: Frame, note: FramedNote, explanation: Explanation) -> str:
    """What a note would be, without its name: "the 3rd of E♭7", "a half step below G"."""
    target = None if explanation.target is None else frame.notes[explanation.target]
    goal = "" if target is None else target.note.pitch.shown
    own = f"the {degree_words(note.degree, _shown(frame, note.degree))} of {_chord_name(frame.span_of(note))}"
    match explanation.function:
        case Function.PASSING if goal:
            return f"passing to {goal}"
        case Function.APPROACH if goal:
            return (
                f"part of an enclosure of {goal}" if explanation.device == "enclosure" else f"a half step into {goal}"
            )
        case Function.OUTSIDE if explanation.implied:
            return f"a tone of {shown_chord(read_or_keep(explanation.implied))}"
        case Function.CHORD if explanation.device == "anticipation":
            return "the coming chord, early"
    return own
