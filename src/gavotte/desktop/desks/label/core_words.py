"""Words of the core that the Label desk shows: the names of schools and collections."""

from __future__ import annotations

from gavotte.desktop.translation import QT_TRANSLATE_NOOP, said

SCHOOL_NAMES = {
    "Linear": QT_TRANSLATE_NOOP("Gavotte", "Linear"),
    "Vertical": QT_TRANSLATE_NOOP("Gavotte", "Vertical"),
    "Key-centred": QT_TRANSLATE_NOOP("Gavotte", "Key-centred"),
}
SCHOOL_WORDS = {
    "Linear": QT_TRANSLATE_NOOP("Gavotte", "Where a note goes counts for more than where it stands."),
    "Vertical": QT_TRANSLATE_NOOP("Gavotte", "Where a note stands counts for more: an accent is a colour."),
    "Key-centred": QT_TRANSLATE_NOOP("Gavotte", "Notes are heard in the key first, then against the chord."),
}
COLLECTION_WORDS = {
    "minor pentatonic": QT_TRANSLATE_NOOP("Gavotte", "minor pentatonic"),
    "major pentatonic": QT_TRANSLATE_NOOP("Gavotte", "major pentatonic"),
    "blues": QT_TRANSLATE_NOOP("Gavotte", "blues"),
    "mixed blues": QT_TRANSLATE_NOOP("Gavotte", "mixed blues"),
    "major": QT_TRANSLATE_NOOP("Gavotte", "major"),
    "dorian": QT_TRANSLATE_NOOP("Gavotte", "dorian"),
    "mixolydian": QT_TRANSLATE_NOOP("Gavotte", "mixolydian"),
    "aeolian": QT_TRANSLATE_NOOP("Gavotte", "aeolian"),
    "phrygian": QT_TRANSLATE_NOOP("Gavotte", "phrygian"),
    "lydian": QT_TRANSLATE_NOOP("Gavotte", "lydian"),
    "locrian": QT_TRANSLATE_NOOP("Gavotte", "locrian"),
    "harmonic minor": QT_TRANSLATE_NOOP("Gavotte", "harmonic minor"),
    "melodic minor": QT_TRANSLATE_NOOP("Gavotte", "melodic minor"),
    "whole tone": QT_TRANSLATE_NOOP("Gavotte", "whole tone"),
    "altered": QT_TRANSLATE_NOOP("Gavotte", "altered"),
    "lydian dominant": QT_TRANSLATE_NOOP("Gavotte", "lydian dominant"),
    "diminished": QT_TRANSLATE_NOOP("Gavotte", "diminished"),
    "bebop dominant": QT_TRANSLATE_NOOP("Gavotte", "bebop dominant"),
    "bebop major": QT_TRANSLATE_NOOP("Gavotte", "bebop major"),
    "bebop minor": QT_TRANSLATE_NOOP("Gavotte", "bebop minor"),
}


def school_name(name: str) -> str:
    """A school's name; those that ship are said in the user's language."""
    return said(SCHOOL_NAMES[name]) if name in SCHOOL_NAMES else name
