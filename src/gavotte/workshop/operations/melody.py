"""The pitches of a line turned: inversions of its chord tones, mirror, backwards, rotation, octaves."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from gavotte.solo.document import Function
from gavotte.workshop.fitting import Fit, fitted
from gavotte.workshop.operation import Around, Operation, OperationError, Option, Values, one_of
from gavotte.workshop.piece import Piece, changed_pitch
from gavotte.workshop.tones import tones_of

FAMILY = "Turned"
_LOWEST, _HIGHEST = 0, 127


def with_pitches(piece: Piece, pitches: Sequence[int]) -> Piece:
    """A piece with other pitches (MIDI), note by note. Raises OperationError where one leaves what sounds."""
    if any(not _LOWEST <= pitch <= _HIGHEST for pitch in pitches):
        raise OperationError("It would go beyond what can sound. Choose an octave nearer to the middle.")
    return piece.with_each(lambda place, note: changed_pitch(note, pitches[place]))


def _inverted(piece: Piece, values: Values, _: Around) -> Piece:
    return fitted(piece, piece.solo.chords, Fit.DEGREE, 2 * int(values.text("tones")))


INVERSION = Operation(
    "inversion",
    "From another chord tone",
    FAMILY,
    "Every note a chord tone higher or lower on its chord: what began on the root begins on the 3rd",
    (
        one_of(
            "tones",
            "Moved by",
            [("1", "one chord tone up"), ("2", "two up"), ("3", "three up"), ("-1", "one down"), ("-2", "two down"),
             ("-3", "three down")],
        ),
    ),
    _inverted,
    choosing="tones",
)  # fmt: skip


def _mirrored(piece: Piece, values: Values, _: Around) -> Piece:
    notes = piece.solo.notes
    pitches = [note.pitch.midi for note in notes]
    axis = pitches[0] if values.text("about") == "first" else pitches[-1]
    if values.text("how") == "exact":
        return with_pitches(piece, [2 * axis - pitch for pitch in pitches])
    found = piece.labelled
    mirrored: list[int] = []
    for pitch, framed in zip(pitches, found.frame.notes, strict=True):
        tones = tones_of(found.frame.span_of(framed).scale.pitch_classes)
        number, above = tones.place(pitch)
        # What lay a half step above a tone of the scale lies a half step below it.
        mirrored.append(tones.midi(2 * tones.nearest(axis) - number) - above)
    for place in reversed(range(len(pitches))):
        goal = found.labels[place].target
        if found.labels[place].function is Function.APPROACH and goal is not None:
            leads_to = piece.solo.places[goal]
            mirrored[place] = mirrored[leads_to] - (pitches[place] - pitches[leads_to])
    return with_pitches(piece, mirrored)


MIRROR = Operation(
    "mirror",
    "Mirrored",
    FAMILY,
    "What rose falls: in the scale of each chord, or by exact intervals",
    (
        one_of("how", "Steps", [("scale", "of the scale"), ("exact", "exact")]),
        one_of("about", "About", [("first", "its first note"), ("last", "its last note")]),
    ),
    _mirrored,
    choosing="how",
)


def _backwards(piece: Piece, values: Values, _: Around) -> Piece:
    pitches = [note.pitch.midi for note in piece.solo.notes]
    if values.text("what") == "pitches":
        return with_pitches(piece, pitches[::-1])
    start, end = piece.solo.notes[0].onset, piece.solo.notes[-1].end
    turned = [
        replace(note, onset=start + end - note.end, written=(), tuplet=None)
        for note in piece.solo.notes
        if not note.grace
    ]
    return piece.with_notes(turned)


BACKWARDS = Operation(
    "backwards",
    "Backwards",
    FAMILY,
    "From its last note to its first",
    (one_of("what", "Turned", [("pitches", "its pitches, in the rhythm it has"), ("all", "pitches and rhythm")]),),
    _backwards,
    choosing="what",
)


def _rotated(piece: Piece, values: Values, _: Around) -> Piece:
    pitches = [note.pitch.midi for note in piece.solo.notes]
    by = values.number("note") - 1
    if by >= len(pitches):
        raise OperationError(f"It has {len(pitches)} notes. Choose one of them to begin at.")
    front = pitches[:by]
    # What was first comes last, in the octave nearest to where the line has got to.
    end = pitches[-1]
    octaves = round((end - front[0]) / 12)
    return with_pitches(piece, [*pitches[by:], *(pitch + 12 * octaves for pitch in front)])


ROTATION = Operation(
    "rotation",
    "Beginning at a later note",
    FAMILY,
    "The pitches begin at a later note, and what stood before comes last; the rhythm stays",
    (Option("note", "Begins at note", 2, lowest=2, highest=64),),
    _rotated,
    lambda values: f"begins at note {values.number('note')}",
)

_PARTS = [
    ("all", "all of it"), ("first half", "its first half"), ("second half", "its second half"),
    ("every other", "every other note"), ("last", "its last note"),
]  # fmt: skip


def _by_octaves(piece: Piece, values: Values, _: Around) -> Piece:
    pitches = [note.pitch.midi for note in piece.solo.notes]
    half = (len(pitches) + 1) // 2
    chosen = {
        "all": range(len(pitches)),
        "first half": range(half),
        "second half": range(half, len(pitches)),
        "every other": range(1, len(pitches), 2),
        "last": range(len(pitches) - 1, len(pitches)),
    }[values.text("which")]
    by = 12 if values.text("way") == "up" else -12
    return with_pitches(piece, [pitch + by if place in chosen else pitch for place, pitch in enumerate(pitches)])


OCTAVES = Operation(
    "octave",
    "An octave away",
    FAMILY,
    "All of it or a part an octave higher or lower",
    (one_of("which", "Part", _PARTS), one_of("way", "Way", [("up", "up"), ("down", "down")])),
    _by_octaves,
    choosing="which",
)

MELODY = (INVERSION, MIRROR, BACKWARDS, ROTATION, OCTAVES)
