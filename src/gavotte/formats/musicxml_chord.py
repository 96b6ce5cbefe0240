"""MusicXML <harmony> as a chord: kind, added, altered and left-out degrees, bass."""

from __future__ import annotations

import xml.etree.ElementTree as ET
from dataclasses import replace

from gavotte.formats.numbers import exact
from gavotte.theory.chord import TENSIONS, Chord, ChordSymbol, NoChord, UnreadChord
from gavotte.theory.chord_symbol import ChordSymbolError, parse_chord, parse_chord_symbol, write_chord_symbol
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


def kept_text(element: ET.Element) -> str:
    """What a <harmony> that can't be read shows, as far as it shows anything: its function, or root and kind."""
    function = (element.findtext("function") or "").strip()
    kind = element.find("kind")
    shown = "" if kind is None else kind.get("text", "") or (kind.text or "").strip()
    root = element.find("root")
    if root is None:
        return function or shown
    step = root.get("text") or (root.findtext("root-step") or "").strip()
    alter = (root.findtext("root-alter") or "0").strip()
    return step + {"1": "#", "-1": "b"}.get(alter, "") + shown


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


def _alter(text: str | None) -> int:
    """Semitones up or down. Raises ValueError."""
    return int(exact((text or "0").strip()))


def _name(element: ET.Element, prefix: str) -> PitchName:
    step = (element.findtext(f"{prefix}-step") or "").strip()
    try:
        alter = _alter(element.findtext(f"{prefix}-alter"))
        return PitchName(step, alter)
    except ValueError as error:
        raise UnreadableHarmonyError(f"its {prefix} is no note name") from error


def _with_degree(chord: Chord, degree: ET.Element) -> Chord:
    """The chord with one <degree> added, altered or taken away.

    Alterations count from major and perfect intervals, and from the minor seventh.
    """
    try:
        value = int(exact((degree.findtext("degree-value") or "0").strip()))
        alter = _alter(degree.findtext("degree-alter"))
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


def harmony_members(symbol: ChordSymbol) -> list[ET.Element]:
    """The children of a <harmony> that spells a chord: root, kind, bass, degrees.

    The kind with the fewest changed degrees is taken; what no kind and degrees can say (alt) is written as "other"
    with its symbol as text.
    """
    if isinstance(symbol, UnreadChord):
        function = ET.Element("function")
        function.text = symbol.text
        return [function, _kind_element("other", symbol.text)]
    if not isinstance(symbol, Chord):
        return [_root_of(PitchName("C")), _kind_element("none", "N.C.")]
    suffix = write_chord_symbol(replace(symbol, bass=None))[len(str(symbol.root)) :]
    bare = replace(symbol, root=PitchName("C"), bass=None)
    ways = sorted(
        ((kind, _changes(parse_chord(f"C{text}"), bare)) for kind, text in _KINDS.items()),
        key=lambda way: len(way[1]),
    )
    members = [_root_of(symbol.root)]
    for kind, degrees in ways:
        if _spells(kind, degrees, bare):
            members.append(_kind_element(kind, suffix))
            break
    else:
        degrees = []
        members.append(_kind_element("other", suffix))
    if symbol.bass is not None:
        bass = ET.Element("bass")
        _name_members(bass, "bass", symbol.bass)
        members.append(bass)
    return members + degrees


def _root_of(name: PitchName) -> ET.Element:
    root = ET.Element("root")
    _name_members(root, "root", name)
    return root


def _name_members(parent: ET.Element, prefix: str, name: PitchName) -> None:
    ET.SubElement(parent, f"{prefix}-step").text = name.letter
    if name.alter:
        ET.SubElement(parent, f"{prefix}-alter").text = str(name.alter)


def _kind_element(kind: str, text: str) -> ET.Element:
    element = ET.Element("kind", {"text": text} if text else {})
    element.text = kind
    return element


def _changes(base: Chord, wanted: Chord) -> list[ET.Element]:
    """The degrees to add, alter and subtract that may turn one chord into another."""
    changes: list[ET.Element] = []
    if wanted.third != base.third and not wanted.third:
        changes.append(_degree(3, 0, "subtract"))
    if wanted.fifth != base.fifth:
        changes.append(_degree(5, *_ALTERATIONS.get(wanted.fifth, (0, "subtract"))))
    if wanted.seventh != base.seventh and wanted.seventh:
        changes.append(_degree(7, {"b7": 0, "7": 1, "bb7": -1}[wanted.seventh], "add"))
    numbers = {tension.lstrip("b#") for tension in wanted.tensions}
    for tension in base.tensions:
        if tension not in wanted.tensions and tension.lstrip("b#") not in numbers:
            changes.append(_degree(int(tension.lstrip("b#")), 0, "subtract"))
    for tension in wanted.tensions:
        if tension not in base.tensions:
            changes.append(_degree(int(tension.lstrip("b#")), {"b": -1, "#": 1}.get(tension[0], 0), "add"))
    return changes


_ALTERATIONS = {"b5": (-1, "alter"), "#5": (1, "alter"), "5": (0, "alter")}


def _degree(value: int, alter: int, kind: str) -> ET.Element:
    element = ET.Element("degree")
    for tag, text in (("degree-value", value), ("degree-alter", alter), ("degree-type", kind)):
        ET.SubElement(element, tag).text = str(text)
    return element


def _spells(kind: str, degrees: list[ET.Element], wanted: Chord) -> bool:
    """Whether a reader gets the wanted chord back from a kind and degrees."""
    harmony = ET.Element("harmony")
    harmony.append(_root_of(PitchName("C")))
    harmony.append(_kind_element(kind, ""))
    harmony.extend(degrees)
    try:
        return chord_of_harmony(harmony) == wanted
    except UnreadableHarmonyError:
        return False
