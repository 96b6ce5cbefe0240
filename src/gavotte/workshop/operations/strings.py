"""Positions on strings, as a step."""

from __future__ import annotations

from dataclasses import replace

from gavotte.solo.strings import TUNINGS, Tuning, usual_tuning
from gavotte.theory.pitch import PitchError
from gavotte.workshop.operation import Around, Operation, OperationError, Option, Values, one_of
from gavotte.workshop.piece import Piece
from gavotte.workshop.positions import alternatives, free_of_strings, with_fingering

FAMILY = "On strings"
_ITS_OWN, _OTHER = "its own", "other"


def _tuning(piece: Piece, values: Values) -> Tuning:
    name = values.text("tuning")
    if name == _OTHER:
        try:
            return Tuning.parse(values.text("strings"))
        except PitchError as error:
            raise OperationError(str(error)) from error
    if name == _ITS_OWN:
        own = usual_tuning(piece.solo.instrument)
        if own is None:
            raise OperationError(f"{piece.solo.instrument.name} has no strings to finger. Choose a tuning.")
        return own
    return next(tuning for tuning in TUNINGS if tuning.name == name)


def _positions(piece: Piece, values: Values, _: Around) -> Piece:
    tuning = _tuning(piece, values)
    ids = [note.id for note in piece.solo.notes]
    solo = free_of_strings(piece.solo, ids) if values.is_on("anew") else piece.solo
    found = alternatives(solo.notes, tuning)
    chosen = found[min(values.number("way"), len(found)) - 1]
    first = next((place for place in chosen.places if place is not None), None)
    if first is None:
        raise OperationError(f"None of its notes lies on the strings {tuning.text}. Move it by octaves first.")
    made = replace(piece, solo=with_fingering(solo, dict(zip(ids, chosen.places, strict=True))))
    missing = sum(place is None for place in chosen.places)
    where = f"from fret {first.fret} of string {first.string}" if first.fret else f"from open string {first.string}"
    made = replace(made, way=f"{where} ({min(values.number('way'), len(found))} of {len(found)})")
    return made.telling(f"{missing} notes lie beyond the strings.") if missing else made


POSITIONS = Operation(
    "positions",
    "Positions on the strings",
    FAMILY,
    "String, fret and finger for every note, with little moving of the hand",
    (
        one_of(
            "tuning",
            "Tuning",
            [
                (_ITS_OWN, "the instrument’s own"),
                *((tuning.name, tuning.name) for tuning in TUNINGS),
                (_OTHER, "other"),
            ],
        ),
        Option("strings", "Open strings", "E2 A2 D3 G3 B3 E4", only_if=("tuning", frozenset({_OTHER}))),
        Option("way", "Way", 1, lowest=1, highest=6, hint="The easiest fingering is the first"),
        Option("anew", "Strings that are written give way", True),
    ),
    _positions,
    lambda values: f"way {values.number('way')}",
    choosing="way",
)

STRINGS = (POSITIONS,)
