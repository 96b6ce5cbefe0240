"""Suspected slips: notes and chords that would make a passage clearly better explained if they were a little different.

How surprising a line is, is summed over its notes from what each does and how it is reached. A note that surprises is
tried a semitone and an octave away, a chord symbol a beat earlier and later, a whole part as written pitch; what takes
away much surprise is worth another listen. How much each thing surprises was fitted by logistic regression on lines in
which one note had been moved (``benchmarks/slips.py``), other lines than those docs/measurements.md reports.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from fractions import Fraction

from gavotte.giving_way import give_way
from gavotte.labelling.explanation import Explanation
from gavotte.labelling.figures import FIGURES
from gavotte.labelling.frame import Frame
from gavotte.labelling.framed_note import FramedNote
from gavotte.labelling.labeller import Labelled, labelled
from gavotte.labelling.reasons import in_short
from gavotte.labelling.search import explained
from gavotte.labelling.tensions import is_altered
from gavotte.solo.document import Function, Solo
from gavotte.solo.label import Label
from gavotte.solo.moving import transposed
from gavotte.theory.chord_symbol import shown_chord
from gavotte.theory.interval import Interval
from gavotte.theory.pitch import Pitch, spell

SURPRISE: dict[str, float] = {
    "plain": -0.4, "anticipation": 0.1, "carried": -0.6,
    "natural": 0.8, "altered": 1.9, "blue": 0.4, "clash": 0.8,
    "passing": -0.3, "neighbour": 0.7, "step": 1.1,
    "chromatic-below": 0.6, "chromatic-above": 1.3, "chromatic-passing": 0.2, "chromatic-neighbour": 0.3,
    "unexplained": 2.7,
    "left over": 1.1, "foreign": 2.0, "expected": -1.3, "among altered": -0.4, "among blue": -0.4,
    "strong": -0.2, "held": -0.2, "heard once": 0.25, "heard twice": 0.0, "heard often": -0.25,
    "move 0": 1.9, "move 1": -0.7, "move 2": -0.7, "move 3": -1.1, "move 4": 0.1, "move 5": 0.5, "move 6": 0.4,
    "move 7": 0.2, "move 8": 0.8, "move 9": 0.3, "move 10": 0.5, "move 11": 0.9, "move 12": 0.3, "move 13": 1.1,
    **{device: weight for kind in FIGURES for device, weight in kind.surprise.items()},
}  # fmt: skip
"""How surprising each thing about a note is: its device; a colour of which nothing but its degree is to be said; a tone
outside chord and key; an altered tone the symbol or the scale holds, or with others about it; beat and length of an
added tone, and whether it is heard about there again; the move into a note in semitones, 13 standing for all beyond.
Figures say themselves how surprising their own devices are.
"""
SUSPECT_FROM = 2.0
SLACK = 0.5
"""Notes that surprise less are not tried, nor moves that could take away less than is wanted and this much besides."""
GAIN_NOTE, GAIN_OCTAVE, GAIN_CHORD, GAIN_PART = 3.1, 2.5, 5.0, 0.5
"""How much surprise a change must take away; for a whole part a share of what its devices cost."""
_ABOUT, _NEAR = 12, 3
_AROUND = 1.5
_REACH = 4
_OCTAVE, _WIDE = 12, 7


class Remedy(StrEnum):
    """What is suggested."""

    PITCH = "pitch"
    OCTAVE = "octave"
    CHORD = "chord"
    WRITTEN = "written pitch"


@dataclass(frozen=True, slots=True)
class Slip:
    """Something worth another listen: the note it is about, what is suggested, and how much surprise that takes away.

    ``pitch`` is the suggested pitch of a note, ``chord`` and ``onset`` the chord (id) that would move and where to.
    ``gain`` is in units of surprise; ``words`` say it all.
    """

    note: str
    change: Remedy
    gain: float
    words: str
    pitch: Pitch | None = None
    chord: str = ""
    onset: Fraction = Fraction(0)


def suspected_slips(found: Labelled) -> tuple[Slip, ...]:
    """Everything worth another listen in a labelled solo, in order, without what its user dismissed or decided."""
    solo = found.solo
    if not solo.notes:
        return ()
    silent = {slip.note for slip in solo.dismissed if _still_there(solo, slip.note, slip.midi)}
    silent |= {decision.note for decision in solo.decisions}
    part = _written_pitch(found)
    if part is not None and part.note not in silent:
        # Every other suspicion in a part at the wrong pitch is only a consequence.
        return (part,)
    frame = found.frame
    surprises = [_surprise_of_label(found, i) for i in range(len(frame.notes))]
    slips = [slip for slip in _notes(found, surprises) if slip.note not in silent]
    moved = [slip for slip in _chords(found, surprises) if slip.note not in silent]
    place = solo.places
    near = {place[slip.note] + k for slip in moved for k in (-1, 0, 1)}
    # A chord in the wrong place explains the notes about it.
    slips = [slip for slip in slips if place[slip.note] not in near]
    return tuple(sorted([*slips, *moved], key=lambda slip: place[slip.note]))


def _still_there(solo: Solo, note_id: str, midi: int) -> bool:
    return any(note.id == note_id and note.pitch.midi == midi for note in solo.notes)


# -- how surprising -------------------------------------------------------------------------------------


def features(frame: Frame, i: int, function: Function, device: str) -> Iterator[str]:
    """What is to be said about the note at ``i``, as names of SURPRISE, when it does this."""
    give_way()
    note = frame.notes[i]
    yield device
    if i and not note.rest_before:
        yield f"move {min(13, abs(note.pitch - frame.notes[i - 1].pitch))}"
    if note.is_tone or device == "anticipation":
        return
    span = frame.span_of(note)
    if function is Function.EXTENSION and not note.stands_out:
        yield "left over"
    if device != "implied" and note.pitch % 12 not in span.key.key.pitch_classes and not note.blue:
        yield "foreign"
    if device == "altered":
        yield from ["expected"] * ((note.degree in span.chord.tensions or span.chord.altered) + note.in_scale)
    if device in ("altered", "blue") and _in_company(frame, note, device):
        yield f"among {device}"
    if note.strong:
        yield "strong"
    if note.held:
        yield "held"
    pitch_class = note.pitch % 12
    times = sum(other.pitch % 12 == pitch_class for other in frame.notes[max(0, i - _ABOUT) : i + _ABOUT + 1])
    yield ("heard once", "heard twice", "heard often")[min(3, times) - 1]


def _in_company(frame: Frame, note: FramedNote, device: str) -> bool:
    """Whether an altered or blue note has another of its kind near it over the same chord."""
    near = frame.notes[max(0, note.index - _NEAR) : note.index + _NEAR + 1]
    return any(
        other.index != note.index
        and other.span == note.span
        and not other.is_tone
        and (other.blue if device == "blue" else is_altered(frame.span_of(other).chord, other.degree))
        for other in near
    )


def _surprise(frame: Frame, i: int, function: Function, device: str) -> float:
    return sum(SURPRISE.get(name, 0.0) for name in features(frame, i, function, device))


def _surprise_of_label(found: Labelled, i: int) -> float:
    label = found.ruled[i]
    return _surprise(found.frame, i, label.function, label.device)


def _surprise_of(frame: Frame, explanations: Sequence[Explanation], first: int, last: int) -> float:
    """How surprising the notes from ``first`` up to ``last`` are, explained so, and the move out of them."""
    inside = sum(
        _surprise(frame, k, told.function, told.device)
        for k, told in zip(range(first, last), explanations, strict=True)
    )
    return inside + _move_into(frame.notes, last)


def _move_into(notes: Sequence[FramedNote], i: int) -> float:
    """How surprising the move into the note at ``i`` is, 0 beyond the last."""
    if i >= len(notes) or notes[i].rest_before:
        return 0.0
    return SURPRISE[f"move {min(13, abs(notes[i].pitch - notes[i - 1].pitch))}"]


# -- notes ----------------------------------------------------------------------------------------------


def _notes(found: Labelled, surprises: Sequence[float]) -> Iterator[Slip]:
    notes = found.frame.notes
    for i, note in enumerate(notes):
        give_way()
        wide = _stands_apart(notes, i)
        if note.note.grace or note.in_centre or found.frame.span_of(note).over is not None:
            continue
        moves = [-_OCTAVE, _OCTAVE] if wide else []
        if not note.is_tone and surprises[i] - _move_into(notes, i) >= SUSPECT_FROM:
            # A note that would be foreign again is no suggestion.
            classes = found.frame.span_of(note).scale.pitch_classes | found.frame.span_of(note).tones
            hopeful = [by for by in (-1, 1) if (note.pitch + by) % 12 in classes]
            moves += [by for by in hopeful if _at_best(notes, surprises, i, by) >= GAIN_NOTE - SLACK]
        if not moves:
            continue
        gain, by, told, tried = max((_try(found, surprises, i, by) for by in moves), key=lambda tried: tried[0])
        if told is None or told.device in ("clash", "unexplained"):
            continue
        if gain >= (GAIN_OCTAVE if abs(by) == _OCTAVE else GAIN_NOTE):
            yield _note_slip(found, i, by, gain, told, tried)


def _at_best(notes: Sequence[FramedNote], surprises: Sequence[float], i: int, by: int) -> float:
    """About how much surprise a note could take away by moving, if it became a chord tone and all about it stayed."""
    gain = surprises[i] - SURPRISE["plain"] + _move_into(notes, i + 1)
    if i and not notes[i].rest_before:
        gain -= SURPRISE[f"move {min(13, abs(notes[i].pitch + by - notes[i - 1].pitch))}"]
    if i + 1 < len(notes) and not notes[i].rest_after:
        gain -= SURPRISE[f"move {min(13, abs(notes[i + 1].pitch - notes[i].pitch - by))}"]
    return gain


def _stands_apart(notes: Sequence[FramedNote], i: int) -> bool:
    """Whether a note is left and reached by wide leaps from the same side."""
    if not 0 < i < len(notes) - 1:
        return False
    into, out = notes[i].pitch - notes[i - 1].pitch, notes[i + 1].pitch - notes[i].pitch
    return into * out < 0 and min(abs(into), abs(out)) > _WIDE


def _try(found: Labelled, surprises: Sequence[float], i: int, by: int) -> tuple[float, int, Explanation | None, Frame]:
    """How much surprise moving one note takes away, and what it would do then."""
    frame = found.frame
    note = frame.notes[i].note
    midi = note.pitch.midi + by
    if not 0 <= midi <= 127:
        return 0.0, by, None, frame
    pitch = spell(midi, frame.span_of(frame.notes[i]).key.key.fifths)
    other, first, last = frame.with_note(i, replace(note, pitch=pitch), _REACH)
    explanations = explained(other, frame.school, first, last)
    before = sum(surprises[first:last]) + _move_into(frame.notes, last)
    return before - _surprise_of(other, explanations, first, last), by, explanations[i - first], other


def _note_slip(found: Labelled, i: int, by: int, gain: float, told: Explanation, tried: Frame) -> Slip:
    note, other = found.frame.notes[i], tried.notes[i]
    shown = other.note.pitch.shown
    if abs(by) == _OCTAVE:
        words = (
            f"{note.note.pitch.shown} on {note.place} lies a wide leap from its neighbours; "
            f"an octave {'lower' if by < 0 else 'higher'} the line would go on nearby."
        )
        return Slip(note.note.id, Remedy.OCTAVE, gain, words, pitch=other.note.pitch)
    would = in_short(tried, other, told)
    label = found.ruled[i]
    if label.device in ("unexplained", "clash"):
        words = f"{note.note.pitch.shown} on {note.place} is hard to explain; {shown} would be {would}."
    else:
        now = in_short(found.frame, note, _explanation_of(found, label))
        words = f"{note.note.pitch.shown} on {note.place} can be heard as {now}; {shown} would be plainer: {would}."
    return Slip(note.note.id, Remedy.PITCH, gain, words, pitch=other.note.pitch)


def _explanation_of(found: Labelled, label: Label) -> Explanation:
    place = next((note.index for note in found.frame.notes if note.note.id == label.target), None)
    return Explanation(label.function, label.device, label.confidence, target=place, implied=label.implied)


# -- chords ---------------------------------------------------------------------------------------------


def _chords(found: Labelled, surprises: Sequence[float]) -> Iterator[Slip]:
    """Chord symbols that would fit a beat earlier or later."""
    solo, frame = found.solo, found.frame
    if solo.readings or not frame.notes:
        return
    events = {event.onset: event for event in solo.chords}
    for index in range(1, len(frame.spans)):
        event = events.get(frame.spans[index].onset)
        if event is None:
            continue
        beat = float(frame.grid.at(event.onset).meter.beats[0].length)
        here = float(event.onset)
        first, last = frame.notes_between(here - _AROUND * beat, here + _AROUND * beat)
        if sum(max(0.0, surprise) for surprise in surprises[first:last]) < GAIN_CHORD:
            continue
        gain, onset = max((_try_chord(found, surprises, index, by) for by in (-1, 1)), key=lambda tried: tried[0])
        if gain >= GAIN_CHORD:
            worst = max(range(first, last), key=lambda i: surprises[i])
            side = "earlier" if onset < event.onset else "later"
            words = f"The notes about {shown_chord(event.symbol)} fit much better if it stands a beat {side}."
            yield Slip(frame.notes[worst].note.id, Remedy.CHORD, gain, words, chord=event.id, onset=onset)


def _try_chord(found: Labelled, surprises: Sequence[float], index: int, by: int) -> tuple[float, Fraction]:
    """How much surprise a chord that stands a beat away would take away, and where it would stand."""
    frame = found.frame
    span = frame.spans[index]
    onset = span.onset + by * frame.grid.at(span.onset).meter.beats[0].length
    following = frame.spans[index + 1].onset if index + 1 < len(frame.spans) else found.solo.end
    if not frame.spans[index - 1].onset < onset < following:
        return 0.0, onset
    other, first, last = frame.with_span_at(index, onset, _REACH)
    explanations = explained(other, frame.school, first, last)
    after = _surprise_of(other, explanations, first, last)
    return sum(surprises[first:last]) + _move_into(frame.notes, last) - after, onset


# -- the whole part -------------------------------------------------------------------------------------

_ENOUGH_NOTES = 12
_MANY = 0.2


def _written_pitch(found: Labelled) -> Slip | None:
    """The part read as written pitch, where that takes away most of what surprises."""
    solo = found.solo
    instrument = solo.instrument
    semitones = instrument.transposition_semitones
    if not semitones % _OCTAVE or len(solo.notes) < _ENOUGH_NOTES or not solo.chords:
        return None
    before = _hard_to_explain(found)
    if before < _MANY * len(solo.notes):
        return None
    moved = transposed(solo, Interval(instrument.transposition_steps, semitones))
    after = _hard_to_explain(labelled(replace(solo, notes=moved.notes), found.frame.school))
    if after > before * (1 - GAIN_PART):
        return None
    words = (
        f"The part fits its chords far better as written pitch for the {instrument.name.lower()}. "
        "Was it copied from a transposed sheet?"
    )
    return Slip(solo.notes[0].id, Remedy.WRITTEN, float(before - after), words)


def _hard_to_explain(found: Labelled) -> int:
    """How many notes no rule explains well, and how many clash."""
    return sum(label.device in ("unexplained", "clash", "implied") for label in found.ruled)
