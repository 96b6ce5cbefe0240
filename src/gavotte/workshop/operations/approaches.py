"""Other ways to the same goals: approaches exchanged, added before chord tones, or taken away."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from fractions import Fraction

from gavotte.solo.document import Function, Note
from gavotte.solo.label import Label
from gavotte.workshop.approach import WAYS, approach_pitches
from gavotte.workshop.operation import Around, Operation, OperationError, Option, Values, one_of
from gavotte.workshop.piece import Piece, changed_pitch
from gavotte.workshop.tones import Tones, tones_of

FAMILY = "Approaches"
_CHOICES = [(name, words) for name, (words, _) in WAYS.items()]


@dataclass(frozen=True)
class _Led:
    """A goal, by its place in the line, and the places of the notes that lead to it."""

    goal: int
    leading: range


def _led(piece: Piece) -> list[_Led]:
    """The goals that something leads to chromatically, with what leads there right before them."""
    found, notes = piece.labelled, piece.solo.notes
    goals: list[_Led] = []
    for index, goal in enumerate(notes):
        first = index
        while first and _leads(found.labels[first - 1], goal.id):
            first -= 1
        if first < index:
            goals.append(_Led(index, range(first, index)))
    return goals


def _leads(label: Label, goal: str) -> bool:
    return label.function is Function.APPROACH and label.target == goal


def _tones_at(piece: Piece, place: int) -> Tones:
    frame = piece.labelled.frame
    span = frame.span_of(frame.notes[place])
    return tones_of(span.scale.pitch_classes)


def _exchanged(piece: Piece, values: Values, _: Around) -> Piece:
    goals = _led(piece)
    if not goals:
        raise OperationError("Nothing in the line leads chromatically to a goal. Add approaches instead.")
    notes = list(piece.solo.notes)
    gone = {place for led in goals for place in led.leading}
    line = [note for place, note in enumerate(notes) if place not in gone]
    made_of: dict[str, str] = {}
    for led in goals:
        goal = notes[led.goal]
        start = notes[led.leading.start].onset
        pitches = approach_pitches(goal.pitch.midi, values.text("way"), _tones_at(piece, led.goal))
        line += _spread(notes[led.leading.start], pitches, start, goal.onset, made_of)
    return piece.with_notes(line, made_of)


def _spread(like: Note, pitches: Sequence[int], start: Fraction, end: Fraction, made_of: dict[str, str]) -> list[Note]:
    """Notes of equal length between two times; those behind the first get its id with a number."""
    length = (end - start) / len(pitches)
    spread = []
    for k, pitch in enumerate(pitches):
        name = like.id if k == 0 else f"{like.id}+{k}"
        made_of[name] = like.id
        note = replace(like, id=name, onset=start + k * length, duration=length, written=(), tuplet=None, grace=False)
        spread.append(changed_pitch(note, pitch))
    return spread


EXCHANGE = Operation(
    "approach",
    "Another way to the same goals",
    FAMILY,
    "What leads chromatically to a goal is exchanged for another way there, in the same time",
    (one_of("way", "Way", _CHOICES),),
    _exchanged,
    choosing="way",
)


def _added(piece: Piece, values: Values, _: Around) -> Piece:
    found, notes = piece.labelled, piece.solo.notes
    way, squeezed = values.text("way"), values.text("room") == "squeezed"
    strong_only = values.text("goals") == "strong"
    size = len(WAYS[way][1])
    line: dict[str, Note] = {note.id: note for note in notes}
    made_of: dict[str, str] = {}
    free_from = 0
    count = 0
    for index, (note, label, framed) in enumerate(zip(notes, found.labels, found.frame.notes, strict=True)):
        is_goal = label.function is Function.CHORD and framed.on_beat and (framed.strong or not strong_only)
        before = index - (1 if squeezed else size)
        if not is_goal or before < free_from or any(notes[k].grace for k in range(max(0, before), index)):
            continue
        start = notes[before].onset if not squeezed else _room(notes[before], note, size)
        if squeezed and notes[index - 1].end < note.onset:
            continue
        if not squeezed and any(notes[k].end < notes[k + 1].onset for k in range(before, index)):
            continue
        pitches = approach_pitches(note.pitch.midi, way, _tones_at(piece, index))
        if before and not squeezed and notes[before - 1].pitch.midi == pitches[0]:
            continue
        if squeezed:
            line[notes[before].id] = replace(
                notes[before], duration=start - notes[before].onset, written=(), tuplet=None
            )
            for extra in _spread(notes[before], pitches, start, note.onset, made_of):
                fresh = replace(extra, id=f"{note.id}<{extra.id}")
                line[fresh.id] = fresh
        else:
            for k, pitch in enumerate(pitches):
                line[notes[before + k].id] = changed_pitch(notes[before + k], pitch)
        free_from = index + 1
        count += 1
    if not count:
        raise OperationError("No chord tone on a beat has room for it before it. Try a shorter way, or squeeze it in.")
    return piece.with_notes(line.values(), made_of)


def _room(before: Note, goal: Note, size: int) -> Fraction:
    """Where approaches squeezed in before a goal begin: they share the time of the note before with it."""
    return goal.onset - (goal.onset - before.onset) * Fraction(size, size + 1)


ADD = Operation(
    "approaches added",
    "Approaches before chord tones",
    FAMILY,
    "Chord tones on the beats are led to",
    (
        one_of("way", "Way", _CHOICES),
        one_of("goals", "Goals", [("strong", "on the strong beats"), ("beats", "on every beat")]),
        one_of("room", "They stand", [("instead", "in place of the notes before"), ("squeezed", "squeezed in")]),
    ),
    _added,
    choosing="way",
)


def _away(piece: Piece, values: Values, _: Around) -> Piece:
    found = piece.labelled
    ornaments = {Function.APPROACH} | ({Function.PASSING} if values.is_on("passing") else set())
    kept: list[Note] = []
    for note, label in zip(piece.solo.notes, found.labels, strict=True):
        if label.function not in ornaments:
            kept.append(note)
        elif kept and kept[-1].end == note.onset and values.text("room") == "held":
            kept[-1] = replace(kept[-1], duration=note.end - kept[-1].onset, written=(), tuplet=None)
    if len(kept) == len(piece.solo.notes):
        raise OperationError("There is no approach in it to take away.")
    if not kept:
        raise OperationError("The line is nothing but approaches; nothing would be left.")
    return piece.with_notes(kept)


AWAY = Operation(
    "approaches away",
    "Approaches taken away",
    FAMILY,
    "The line without its ornament",
    (
        Option("passing", "Passing notes too", False),
        one_of("room", "In their place", [("held", "the note before is held"), ("rest", "there is a rest")]),
    ),
    _away,
)


def _led_in(piece: Piece, values: Values, _: Around) -> Piece:
    first = piece.solo.notes[0]
    length = Fraction(values.text("values"))
    pitches = approach_pitches(first.pitch.midi, values.text("way"), _tones_at(piece, 0))
    start = first.onset - length * len(pitches)
    bar = piece.solo.meters[0].meter.bar_length
    if -start >= bar:
        raise OperationError("It would begin more than a bar before bar 1. Choose a shorter way.")
    made_of: dict[str, str] = {}
    front = [
        replace(note, id=f"in:{note.id}", marks=()) for note in _spread(first, pitches, start, first.onset, made_of)
    ]
    solo = replace(piece.solo, pickup=max(piece.solo.pickup, -start))
    return replace(piece, solo=solo).with_notes([*front, *piece.solo.notes])


LEAD_IN = Operation(
    "lead in",
    "A lead into its first note",
    FAMILY,
    "Notes put in front that lead to the first one",
    (
        one_of("way", "Way", _CHOICES),
        one_of("values", "In", [("1/2", "eighths"), ("1/3", "eighth triplets"), ("1/4", "sixteenths")]),
    ),
    _led_in,
    choosing="way",
)

APPROACHES = (EXCHANGE, ADD, LEAD_IN, AWAY)
