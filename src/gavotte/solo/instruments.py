"""The instruments Gavotte knows: how they are written and how far they comfortably reach (concert pitch)."""

from __future__ import annotations

from gavotte.solo.document import TREBLE, Instrument

INSTRUMENTS: tuple[Instrument, ...] = (
    TREBLE,
    Instrument("Trumpet", -1, -2, "G2", 52, 84),
    Instrument("Flugelhorn", -1, -2, "G2", 52, 82),
    Instrument("Clarinet", -1, -2, "G2", 50, 89),
    Instrument("Soprano saxophone", -1, -2, "G2", 56, 87),
    Instrument("Alto saxophone", -5, -9, "G2", 49, 81),
    Instrument("Tenor saxophone", -8, -14, "G2", 44, 76),
    Instrument("Baritone saxophone", -12, -21, "G2", 36, 69),
    Instrument("Flute", 0, 0, "G2", 60, 96),
    Instrument("Violin", 0, 0, "G2", 55, 93),
    Instrument("Vibraphone", 0, 0, "G2", 53, 89),
    Instrument("Trombone", 0, 0, "F4", 40, 72),
    Instrument("Guitar", -7, -12, "G2", 40, 84),
    Instrument("Bass", -7, -12, "F4", 28, 67),
    Instrument("Piano", 0, 0, "G2", 48, 96),
)

GM_PROGRAMS = {
    "Trumpet": 56, "Flugelhorn": 56, "Clarinet": 71, "Soprano saxophone": 64, "Alto saxophone": 65,
    "Tenor saxophone": 66, "Baritone saxophone": 67, "Flute": 73, "Violin": 40, "Vibraphone": 11, "Trombone": 57,
    "Guitar": 26, "Bass": 33, "Piano": 0,
}  # fmt: skip
"""Each instrument's program (from 0) in the General MIDI sound set; others sound as a piano."""

_WORDS = {
    "trumpet": "Trumpet",
    "trp": "Trumpet",
    "cornet": "Trumpet",
    "flugel": "Flugelhorn",
    "clarinet": "Clarinet",
    "soprano sax": "Soprano saxophone",
    "alto sax": "Alto saxophone",
    "tenor sax": "Tenor saxophone",
    "baritone sax": "Baritone saxophone",
    "bari sax": "Baritone saxophone",
    "flute": "Flute",
    "violin": "Violin",
    "fiddle": "Violin",
    "vibra": "Vibraphone",
    "trombone": "Trombone",
    "contrabass": "Bass",
    "double bass": "Bass",
    "bass guitar": "Bass",
    "electric bass": "Bass",
    "guitar": "Guitar",
    "bass": "Bass",
    "piano": "Piano",
}


def instrument_named(name: str) -> Instrument | None:
    """The instrument of this name."""
    return next((instrument for instrument in INSTRUMENTS if instrument.name == name), None)


def guess_instrument(part_name: str) -> Instrument | None:
    """The known instrument a part's name speaks of, if any: "Alto Sax 1" is the alto saxophone."""
    lowered = part_name.lower().replace("saxophone", "sax")
    return next((instrument_named(name) for word, name in _WORDS.items() if word in lowered), None)
