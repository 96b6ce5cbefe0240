"""Notes added, left out and exchanged."""

from __future__ import annotations

from dataclasses import replace

from gavotte.phrasing.phrases import phrases_of
from gavotte.phrasing.skeleton import Level, kept_notes, levels_of, reduced
from gavotte.solo.document import Note
from gavotte.workshop.operation import Around, Operation, OperationError, Option, Values, one_of
from gavotte.workshop.operations.melody import with_pitches
from gavotte.workshop.piece import Piece, changed_pitch
from gavotte.workshop.tones import tones_of

FAMILY = "Notes"


def _part(piece: Piece, values: Values, _: Around) -> Piece:
    notes, count = piece.solo.notes, values.number("count")
    if count >= len(notes):
        raise OperationError(f"It has {len(notes)} notes only. Choose a smaller number.")
    kept = {
        "first away": notes[count:],
        "last away": notes[:-count],
        "tail": notes[-count:],
        "head": notes[:count],
    }[values.text("which")]
    return piece.with_notes(kept)


_PART_WORDS = {"first away": "without its first", "last away": "without its last", "tail": "its last",
               "head": "its first"}  # fmt: skip


def _part_words(values: Values) -> str:
    count = values.number("count")
    return f"{_PART_WORDS[values.text('which')]} {'note' if count == 1 else f'{count} notes'}"


PART = Operation(
    "part",
    "A part of it",
    FAMILY,
    "Its first or last notes, or all but these; what is left stays where it was",
    (
        one_of(
            "which",
            "Keep",
            [("first away", "all but the first notes"), ("tail", "only the last notes"),
             ("last away", "all but the last notes"), ("head", "only the first notes")],
        ),
        Option("count", "Notes", 1, lowest=1, highest=64),
    ),
    _part,
    _part_words,
    choosing="which",
)  # fmt: skip
_THIRD = (3, 4)


def _filled(piece: Piece, values: Values, _: Around) -> Piece:
    frame, notes = piece.labelled.frame, piece.solo.notes
    line: list[Note] = []
    made_of: dict[str, str] = {}
    for place, note in enumerate(notes):
        line.append(note)
        if place + 1 == len(notes) or note.grace or note.end < notes[place + 1].onset:
            continue
        low, high = sorted((note.pitch.midi, notes[place + 1].pitch.midi))
        if high - low not in _THIRD:
            continue
        tones = tones_of(frame.span_of(frame.notes[place]).scale.pitch_classes)
        between = [midi for midi in range(low + 1, high) if tones.place(midi)[1] == 0]
        if not between:
            continue
        half = note.duration / 2
        line[-1] = replace(note, duration=half, written=(), tuplet=None)
        fresh = replace(line[-1], id=f"{note.id}+", onset=note.onset + half, marks=())
        made_of[fresh.id] = ""
        line.append(changed_pitch(fresh, between[len(between) // 2]))
    if len(line) == len(notes):
        raise OperationError("There is no third in it with a scale note between.")
    return piece.with_notes(line, made_of)


FILLED = Operation(
    "thirds filled",
    "Thirds filled",
    FAMILY,
    "A note of the scale between notes a third apart, in the time of the first",
    (),
    _filled,
    lambda values: "",
)


def _pairs(piece: Piece, values: Values, _: Around) -> Piece:
    pitches = [note.pitch.midi for note in piece.solo.notes]
    first = values.number("first") - 1
    for place in range(first, len(pitches) - 1, 2):
        pitches[place], pitches[place + 1] = pitches[place + 1], pitches[place]
    return with_pitches(piece, pitches)


PAIRS = Operation(
    "pairs",
    "Pairs exchanged",
    FAMILY,
    "Of every two notes the second comes first; the rhythm stays",
    (Option("first", "From note", 1, lowest=1, highest=2),),
    _pairs,
    lambda values: f"from note {values.number('first')}",
)

_LEVELS = [
    (str(Level.PLAIN.value), "without ornaments"), (str(Level.BEATS.value), "one note a beat"),
    (str(Level.STRONG.value), "on strong beats"), (str(Level.BARS.value), "one a bar"),
]  # fmt: skip


def _skeleton(piece: Piece, values: Values, _: Around) -> Piece:
    found = piece.labelled
    kept = kept_notes(found, levels_of(found), Level(int(values.text("level"))))
    if not kept:
        raise OperationError("Nothing of it would be left. Choose a layer with more notes.")
    return piece.with_notes(reduced(piece.solo, phrases_of(piece.solo, found.labels), kept).notes)


SKELETON = Operation(
    "skeleton",
    "Its skeleton",
    FAMILY,
    "What is left when ornaments, or all but the notes on the beats, are taken away",
    (one_of("level", "Layer", _LEVELS),),
    _skeleton,
    choosing="level",
)

NOTES = (SKELETON, PART, FILLED, PAIRS)
