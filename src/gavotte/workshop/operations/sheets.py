"""A line as a sheet to practise from: through the keys, in one order or another."""

from __future__ import annotations

from gavotte.workshop.keys import KeyOrder, in_all_keys
from gavotte.workshop.operation import Around, Operation, Option, Values, one_of
from gavotte.workshop.piece import Piece
from gavotte.workshop.stacked import Block, stacked

FAMILY = "Sheets"


def _all_keys(piece: Piece, values: Values, _: Around) -> Piece:
    keys = in_all_keys(piece.solo, KeyOrder(values.text("order")), values.number("seed"))
    keys = keys[: values.number("count")]
    solo, _labels = stacked([Block(key.solo, (), key.key.shown) for key in keys], piece.solo.title)
    origins = {note.id: piece.origins.get(note.id.partition(":")[2], "") for note in solo.notes}
    made = Piece(solo, {note: origin for note, origin in origins.items() if origin})
    beyond = [key.key.shown for key in keys if not key.in_range]
    return made.telling(f"Beyond the instrument’s range in {', '.join(beyond)}.") if beyond else made


ALL_KEYS = Operation(
    "all keys",
    "Through all keys",
    FAMILY,
    "A sheet with a line for each key, spelled for reading and kept in the instrument’s range, phrase by phrase",
    (
        one_of(
            "order",
            "Order",
            [
                (KeyOrder.CIRCLE.value, "circle of fifths"),
                (KeyOrder.CHROMATIC.value, "up by half steps"),
                (KeyOrder.WHOLE_STEPS.value, "up by whole steps"),
                (KeyOrder.MINOR_THIRDS.value, "up by minor thirds"),
                (KeyOrder.RANDOM.value, "at random"),
            ],
        ),
        Option("seed", "Seed", 1, lowest=1, highest=9999, only_if=("order", frozenset({KeyOrder.RANDOM.value}))),
        Option("count", "Keys", 12, lowest=2, highest=12),
    ),
    _all_keys,
    choosing="order",
)

SHEETS = (ALL_KEYS,)
