"""An étude out of the vocabulary, as a step."""

from __future__ import annotations

from collections.abc import Mapping
from fractions import Fraction

from gavotte.solo.document import Instrument
from gavotte.workshop.etude import SOURCE, Wishes, etude, stocked
from gavotte.workshop.operation import Around, Operation, OperationError, Option, Values, one_of
from gavotte.workshop.operations.chords import PROGRESSION, progression_of, progression_words
from gavotte.workshop.piece import Piece

FAMILY = "From the vocabulary"
_RESTS = {"0": "none between licks", "1": "a beat between licks", "2": "two beats between licks", "4": "a bar between"}
_DENSITIES = {"": "any", "1": "quarters", "2": "eighths", "3": "triplets", "4": "sixteenths"}
_RANGES = {
    "": "the whole instrument",
    "low": "its lowest two octaves",
    "middle": "two octaves in its middle",
    "high": "its highest two octaves",
}
_TWO_OCTAVES = 24


def read_held(text: str) -> dict[Fraction, str]:
    """What stands where, out of "0=id 16=-": by onset (quarter notes). What can't be read is passed over."""
    held = {}
    for word in text.split():
        onset, _, name = word.partition("=")
        try:
            held[Fraction(onset)] = name
        except (ValueError, ZeroDivisionError):
            continue
    return held


def written_held(held: Mapping[Fraction, str]) -> str:
    """The same as a text."""
    return " ".join(f"{onset}={name}" for onset, name in sorted(held.items()) if name)


def compass(instrument: Instrument, which: str) -> tuple[int, int] | None:
    """The lowest and highest pitch (MIDI) of a part of an instrument's range; None for all of it."""
    spare = instrument.highest - instrument.lowest - _TWO_OCTAVES
    if not which or spare <= 0:
        return None
    lowest = instrument.lowest + {"low": 0, "middle": spare // 2, "high": spare}[which]
    return lowest, lowest + _TWO_OCTAVES


def _etude(piece: Piece, values: Values, around: Around) -> Piece:
    try:
        progression = progression_of(piece.solo, values, around)
        density = values.text("density")
        wishes = Wishes(
            Fraction(values.text("rest")),
            values.is_on("repeats"),
            values.number("seed"),
            read_held(values.text("held")),
            int(density) if density else None,
            compass(progression.instrument, values.text("range")),
        )
        source = stocked(SOURCE, "the line on the bench", "the bench", piece.solo)
        return etude(progression, around.stock(), wishes, source)
    except ValueError as error:
        raise OperationError(str(error)) from error


ETUDE = Operation(
    "etude",
    "Étude from your vocabulary",
    FAMILY,
    "Licks of the vocabulary over a whole progression: each fits its chords and joins smoothly",
    (
        *PROGRESSION,
        one_of("rest", "Rests", list(_RESTS.items()), "1"),
        one_of("density", "Density", list(_DENSITIES.items()), hint="Notes to a beat within the licks"),
        one_of("range", "Range", list(_RANGES.items())),
        Option("repeats", "Licks may come again", True),
        Option("seed", "Seed", 1, lowest=1, highest=9999, hint="The same number gives the same étude"),
        Option("held", "Held", "", is_hidden=True),
    ),
    _etude,
    progression_words,
    choosing="seed",
    looks_around=True,
)

ETUDES = (ETUDE,)
