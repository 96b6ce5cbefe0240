"""MusicXML <harmony> as a chord: kind, added, altered and left-out degrees, bass."""

from __future__ import annotations

import xml.etree.ElementTree as ET
from dataclasses import replace

from gavotte.theory.chord import TENSIONS, Chord, ChordSymbol, NoChord
from gavotte.theory.chord_symbol import ChordSymbolError, parse_chord, parse_chord_symbol
from gavotte.theory.pitch import PitchName

_KINDS = {
    "major": "",
    "minor": "m",
    "augmented": "+",
    "diminished": "dim",
    "dominant": "7",
    "major-seventh": "maj7",
    "minor-seventh": "m7",
    "diminished-seventh": "dim7",
    "augmented-seventh": "7#5",
    "half-diminished": "m7b5",
    "major-minor": "m(maj7)",
    "major-sixth": "6",
    "minor-sixth": "m6",
    "dominant-ninth": "9",
    "major-ninth": "maj9",
    "minor-ninth": "m9",
    "dominant-11th": "11",
    "major-11th": "maj11",
    "minor-11th": "m11",
    "dominant-13th": "13",
    "major-13th": "maj13",
    "minor-13th": "m13",
    "suspended-second": "sus2",
    "suspended-fourth": "sus4",
    "power": "5",
    "pedal": "5",
}


class UnreadableHarmonyError(ValueError):
    """A <harmony> that is no chord Gavotte knows; the message says why."""


def chord_of_harmony(element: ET.Element) -> ChordSymbol:
    """The chord a <harmony> element spells, in written pitch. Raises UnreadableHarmonyError."""
    kind_element = element.find("kind")
    kind = (kind_element.text or "").strip() if kind_element is not None else ""
    if kind == "none":
        return NoChord()
    root = element.find("root")
    if root is None:
        raise UnreadableHarmonyError("it has no root (a function or numeral instead)")
    name = _name(root, "root")
    bass_element = element.find("bass")
    bass = None if bass_element is None else _name(bass_element, "bass")
    if kind not in _KINDS:
        return _from_text(name, kind_element, kind, bass)
    chord = replace(parse_chord(f"C{_KINDS[kind]}"), root=name)
    for degree in element.findall("degree"):
        chord = _with_degree(chord, degree)
    return replace(chord, bass=bass if bass != name else None)


def _from_text(name: PitchName, kind_element: ET.Element | None, kind: str, bass: PitchName | None) -> ChordSymbol:
    text = "" if kind_element is None else kind_element.get("text", "")
    try:
        chord = parse_chord_symbol(f"{name}{text}") if text else None
    except ChordSymbolError:
        chord = None
    if not isinstance(chord, Chord):
        raise UnreadableHarmonyError(f"its kind “{kind or 'nothing'}” is unknown")
    return replace(chord, bass=bass) if bass else chord


def _name(element: ET.Element, prefix: str) -> PitchName:
    step = (element.findtext(f"{prefix}-step") or "").strip()
    try:
        alter = int(float(element.findtext(f"{prefix}-alter") or 0))
        return PitchName(step, alter)
    except ValueError as error:
        raise UnreadableHarmonyError(f"its {prefix} is no note name") from error


def _with_degree(chord: Chord, degree: ET.Element) -> Chord:
    """The chord with one <degree> added, altered or taken away.

    Alterations count from major and perfect intervals, and from the minor seventh.
    """
    try:
        value = int(degree.findtext("degree-value") or 0)
        alter = int(float(degree.findtext("degree-alter") or 0))
    except ValueError as error:
        raise UnreadableHarmonyError("one of its degrees is no number") from error
    kind = (degree.findtext("degree-type") or "add").strip()
    if kind == "subtract":
        return _without(chord, value)
    sign = {0: "", 1: "#", -1: "b"}.get(alter)
    if sign is None:
        raise UnreadableHarmonyError(f"its degree {value} is altered by {alter}")
    match value:
        case 5:
            return replace(chord, fifth=f"{sign}5")
        case 7:
            return replace(chord, seventh={0: "b7", 1: "7", -1: "bb7"}[alter])
        case 3:
            return replace(chord, third={0: "3", -1: "b3", 1: "4"}[alter])
        case 6 if alter == 0 and not chord.seventh:
            return replace(chord, sixth=True)
        case 2 | 9 | 4 | 11 | 6 | 13:
            number = {2: 9, 4: 11, 6: 13}.get(value, value)
            tension = f"{sign}{number}"
            if tension not in TENSIONS:
                raise UnreadableHarmonyError(f"it has a {tension}")
            kept = {t for t in chord.tensions if kind != "alter" or t.lstrip("b#") != str(number)}
            # An altered ninth or thirteenth takes the place of the natural one that the kind implies.
            if sign:
                kept.discard(str(number))
            return replace(chord, tensions=tuple(t for t in TENSIONS if t in kept | {tension}))
    raise UnreadableHarmonyError(f"it has a degree {value}")


def _without(chord: Chord, value: int) -> Chord:
    if value == 3:
        return replace(chord, third="")
    if value == 5:
        return replace(chord, fifth="")
    if value == 7:
        return replace(chord, seventh="")
    return replace(chord, tensions=tuple(t for t in chord.tensions if t.lstrip("b#") != str(value)))
