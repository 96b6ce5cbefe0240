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
    Instrument("Bass clarinet", -8, -14, "G2", 34, 70),
    Instrument("Flute", 0, 0, "G2", 60, 96),
    Instrument("Piccolo", 7, 12, "G2", 74, 105),
    Instrument("Oboe", 0, 0, "G2", 58, 89),
    Instrument("English horn", -4, -7, "G2", 52, 81),
    Instrument("Horn", -4, -7, "G2", 41, 77),
    Instrument("Harmonica", 0, 0, "G2", 60, 96),
    Instrument("Voice", 0, 0, "G2", 48, 84),
    Instrument("Violin", 0, 0, "G2", 55, 93),
    Instrument("Viola", 0, 0, "C3", 48, 84),
    Instrument("Cello", 0, 0, "F4", 36, 76),
    Instrument("Bassoon", 0, 0, "F4", 34, 72),
    Instrument("Vibraphone", 0, 0, "G2", 53, 89),
    Instrument("Trombone", 0, 0, "F4", 40, 72),
    Instrument("Guitar", -7, -12, "G2", 40, 84),
    Instrument("Bass", -7, -12, "F4", 28, 67),
    Instrument("Tuba", 0, 0, "F4", 28, 60),
    Instrument("Piano", 0, 0, "G2", 48, 96),
    Instrument("Organ", 0, 0, "G2", 48, 96),
)

CLEFS = {"G2": "Treble", "G2-8": "Treble, an octave lower", "F4": "Bass", "C4": "Tenor", "C3": "Alto"}
"""The clefs a player can choose, and what they are called."""

GM_PROGRAMS = {
    "Trumpet": 56, "Flugelhorn": 56, "Clarinet": 71, "Soprano saxophone": 64, "Alto saxophone": 65,
    "Tenor saxophone": 66, "Baritone saxophone": 67, "Flute": 73, "Violin": 40, "Vibraphone": 11, "Trombone": 57,
    "Guitar": 26, "Bass": 33, "Piano": 0, "Bass clarinet": 71, "Piccolo": 72, "Oboe": 68, "English horn": 69,
    "Horn": 60, "Harmonica": 22, "Voice": 53, "Viola": 41, "Cello": 42, "Bassoon": 70, "Tuba": 58, "Organ": 16,
}  # fmt: skip
"""Each instrument's program (from 0) in the General MIDI sound set; others sound as a piano."""

_STRUCK = ("Vibraphone", "Guitar", "Piano")


def struck(instrument: Instrument) -> float:
    """1 for an instrument whose notes are struck or plucked, 0 for a blown or bowed one, 0.5 where it may be either."""
    if instrument.name in _STRUCK:
        return 1.0
    return 0.0 if instrument.name in GM_PROGRAMS and instrument.name != "Bass" else 0.5


_WORDS = {
    "trumpet": "Trumpet",
    "trp": "Trumpet",
    "cornet": "Trumpet",
    "flugel": "Flugelhorn",
    "bass clarinet": "Bass clarinet",
    "clarinet": "Clarinet",
    "soprano sax": "Soprano saxophone",
    "alto sax": "Alto saxophone",
    "tenor sax": "Tenor saxophone",
    "baritone sax": "Baritone saxophone",
    "bari sax": "Baritone saxophone",
    "flute": "Flute",
    "piccolo": "Piccolo",
    "oboe": "Oboe",
    "english horn": "English horn",
    "cor anglais": "English horn",
    "horn": "Horn",
    "harmonica": "Harmonica",
    "voice": "Voice",
    "vocal": "Voice",
    "viola": "Viola",
    "cello": "Cello",
    "bassoon": "Bassoon",
    "tuba": "Tuba",
    "organ": "Organ",
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
