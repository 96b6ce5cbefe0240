"""Joining a line with another one."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Function, Note, Solo
from gavotte.solo.moving import shifted
from gavotte.workshop.joining import Ground, on_beats, ways
from gavotte.workshop.keys import in_key
from gavotte.workshop.laid import in_register_of
from gavotte.workshop.operation import Around, Operation, OperationError, Option, Values, one_of
from gavotte.workshop.piece import Piece, changed_pitch, labelled_once

FAMILY = "Joined"
_LENGTHS = {"1/2": "eighths", "1/3": "eighth triplets", "1/4": "sixteenths", "1": "quarters"}


def _joined(piece: Piece, values: Values, around: Around) -> Piece:
    other = around.lines.get(values.text("line"))
    if other is None or not other.notes:
        raise OperationError("Choose the line that is to follow.")
    first = piece.solo
    if other.meters[0].meter != first.meters[0].meter:
        raise OperationError(f"The line that is to follow is in {other.meters[0].meter}, not {first.meters[0].meter}.")
    if values.text("key") == "same":
        other = in_key(other, first.keys[0].key.tonic.pitch_class).solo
    other = in_register_of(first, other)
    if values.text("to") == "goal":
        other = _from_goal(other)
    length, count = Fraction(values.text("values")), values.number("count")
    bar = first.meters[0].meter.bar_length
    # It keeps its place in the bar; what leads to it stands right before it.
    room = first.notes[-1].end + count * length - other.notes[0].onset
    by = bar * -(-room // bar)
    goal = other.notes[0].onset + by
    between, way, of = _between(piece, goal, other.notes[0].pitch.midi, values, length)
    notes: list[Note] = [*first.notes, *between]
    notes += [replace(shifted(note, by), id=f"next:{note.id}") for note in other.notes]
    start = min(goal, by)
    chords = [chord for chord in first.chords if chord.onset < start]
    chords += [replace(c, id=f"next:{c.id}", onset=max(start, c.onset + by)) for c in other.chords]
    made = replace(piece, solo=replace(first, chords=tuple(chords), heard_keys=(), readings=()))
    made = made.with_notes(notes)
    return replace(made, way=f"{way} ({values.number('way')} of {of})" if count else way)


def _from_goal(solo: Solo) -> Solo:
    """A line from its first chord tone on a beat on; as it is where there is none."""
    found = labelled_once(solo)
    for place, (label, framed) in enumerate(zip(found.labels, found.frame.notes, strict=True)):
        if label.function is Function.CHORD and framed.on_beat:
            return replace(solo, notes=solo.notes[place:])
    return solo


def _between(piece: Piece, goal: Fraction, pitch: int, values: Values, length: Fraction) -> tuple[list[Note], str, int]:
    """The notes that lead to the second line, which way they go, and how many ways there are."""
    count, last = values.number("count"), piece.solo.notes[-1]
    frame = piece.labelled.frame
    span = frame.span_of(frame.notes[-1])
    start = goal - count * length
    grid = BarGrid(piece.solo)
    beat = grid.bars[-1].meter.beats[0].length
    ground = Ground(span.chord, span.scale.pitch_classes, on_beats(start, count, length, beat))
    found = ways(last.pitch.midi, pitch, count, ground)
    if not found:
        raise OperationError("There is no way from one to the other in so many notes. Choose another number.")
    number = min(values.number("way"), len(found))
    chosen = found[number - 1]
    plain = replace(last, marks=(), written=(), tuplet=None, grace=False)
    notes = [
        changed_pitch(replace(plain, id=f"way:{k}", onset=start + k * length, duration=length), midi)
        for k, midi in enumerate(chosen.pitches)
    ]
    return notes, chosen.words, len(found)


JOIN = Operation(
    "join",
    "Joined with another line",
    FAMILY,
    "Another line follows, led to smoothly in so many notes",
    (
        Option("line", "Line that follows", "", of_lines=True),
        Option("count", "Notes between", 2, lowest=0, highest=8),
        one_of("values", "In", list(_LENGTHS.items())),
        Option("way", "Way", 1, lowest=1, highest=16, hint="The smoothest way is the first"),
        one_of("to", "Led to", [("first", "its first note"), ("goal", "its first chord tone on a beat")]),
        one_of("key", "It stands", [("same", "in the key of the first"), ("own", "in its own key")]),
    ),
    _joined,
    lambda values: f"in {values.number('count')} notes, way {values.number('way')}",
    choosing="way",
    looks_around=True,
)

JOINS = (JOIN,)
