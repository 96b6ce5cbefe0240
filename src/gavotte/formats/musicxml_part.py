"""One part of a MusicXML score as written: its notes by voice, harmonies, keys, meters and directions.

Positions are exact fractions of a quarter note from the start of the score.
"""

from __future__ import annotations

import re
import xml.etree.ElementTree as ET
from collections.abc import Iterator
from dataclasses import dataclass, field
from fractions import Fraction
from math import floor

from gavotte.formats.errors import FormatError
from gavotte.formats.numbers import exact
from gavotte.giving_way import give_way
from gavotte.solo.bounds import MAX_STEPS
from gavotte.solo.document import Articulation, Mark, Pick, Tuplet
from gavotte.theory.interval import UNISON, Interval
from gavotte.theory.key import MODES, Key
from gavotte.theory.meter import Meter, MeterError
from gavotte.theory.pitch import Pitch, PitchError

_MARKS = {
    "accent": Articulation.ACCENT,
    "strong-accent": Articulation.MARCATO,
    "staccato": Articulation.STACCATO,
    "staccatissimo": Articulation.STACCATO,
    "tenuto": Articulation.TENUTO,
    "falloff": Articulation.FALL,
    "scoop": Articulation.SCOOP,
    "trill-mark": Articulation.TRILL,
    "harmonic": Articulation.HARMONIC,
}
_PICKS = {"down-bow": Pick.DOWN, "up-bow": Pick.UP}
_MOST_STRINGS, _LONGEST_FINGER, _LONGEST_WORDS = 12, 4, 120
_NAVIGATION = re.compile(r"\b(?:d\.?\s?[cs]\.?|da capo|dal segno|to coda|coda|fine|segno)\b", re.IGNORECASE)
"""Words that say in which order bars are played; that is worked out elsewhere."""

_JOINED = {"hammer-on": Articulation.HAMMER_ON, "pull-off": Articulation.PULL_OFF}
# Diatonic steps of a transposition that states only its semitones.
_STEPS = {0: 0, 1: 1, 2: 1, 3: 2, 4: 2, 5: 3, 6: 3, 7: 4, 8: 5, 9: 5, 10: 6, 11: 6}


UNCERTAIN = "uncertain"
"""The footnote of a note its transcriber is not sure of."""


@dataclass
class WrittenNote:
    """A note as written: ``onset`` and ``length`` in quarter notes from the start of the score."""

    onset: Fraction
    length: Fraction
    pitch: Pitch
    id: str
    grace: bool
    tie_start: bool
    stacked: bool
    marks: tuple[Mark, ...]
    tuplet: Tuplet | None
    uncertain: bool
    finger: str = ""
    string: int = 0
    pick: Pick | None = None


@dataclass
class Part:
    """A part: notes by voice, and what is written around them."""

    id: str
    name: str
    voices: dict[str, list[WrittenNote]] = field(default_factory=dict)
    harmonies: list[tuple[Fraction, ET.Element, Interval]] = field(default_factory=list)
    keys: list[tuple[Fraction, Key]] = field(default_factory=list)
    meters: list[tuple[Fraction, Meter]] = field(default_factory=list)
    sections: list[tuple[Fraction, str]] = field(default_factory=list)
    texts: list[tuple[Fraction, str]] = field(default_factory=list)
    transpose: Interval = UNISON
    clef: str = "G2"
    tempos: list[tuple[Fraction, Fraction]] = field(default_factory=list)
    swing: Fraction | None = None
    percussion: int = 0
    tablature: int = 0
    between: int = 0
    remarks: list[str] = field(default_factory=list)


_MOST_FIFTHS = 14
_MOST_IN_TUPLET = 128


def text_of(element: ET.Element, path: str) -> str:
    """The stripped text at a path, "" where there is none."""
    return (element.findtext(path) or "").strip()


def number_of(text: str | None, default: Fraction = Fraction(0)) -> Fraction:
    """The number a text holds, or the default."""
    try:
        return exact((text or "").strip())
    except ValueError:
        return default


def measures_by_part(root: ET.Element) -> dict[str, list[ET.Element]]:
    """The bars of each part by its id, from a partwise or timewise score. Raises FormatError where there are none."""
    parts: dict[str, list[ET.Element]] = {}
    if root.tag == "score-partwise":
        for index, part in enumerate(root.findall("part")):
            parts.setdefault(part.get("id") or f"part {index + 1}", []).extend(part.findall("measure"))
    else:
        for measure in root.findall("measure"):
            for part in measure.findall("part"):
                part.attrib = {**measure.attrib, "id": part.get("id", "")}
                parts.setdefault(part.get("id", ""), []).append(part)
    if not any(parts.values()):
        raise FormatError("The score has no bars.")
    return parts


def measure_lengths(parts: dict[str, list[ET.Element]]) -> list[Fraction]:
    """Length of each bar in quarter notes: that of its fullest part, or its meter's where all are empty."""
    lengths: list[Fraction] = []
    for measures in parts.values():
        divisions, bar_length = Fraction(1), Fraction(4)
        for index, measure in enumerate(measures):
            position = longest = Fraction(0)
            give_way()
            for element in measure:
                if element.tag == "attributes":
                    divisions = number_of(element.findtext("divisions"), divisions) or divisions
                    meter = _meter(element.find("time"))
                    bar_length = meter.bar_length if meter else bar_length
                position = _advanced(element, position, divisions)
                # Some writers put too many rests into an empty bar; only notes can make a bar longer.
                sounds = element.tag == "note" and element.find("rest") is None
                longest = max(longest, position if sounds else min(position, bar_length))
            if index == len(lengths):
                lengths.append(longest or bar_length)
            else:
                lengths[index] = max(lengths[index], longest)
    return lengths


def _advanced(element: ET.Element, position: Fraction, divisions: Fraction) -> Fraction:
    """The writing position after an element, in quarter notes from the barline."""
    if element.tag == "note":
        if element.find("grace") is not None or element.find("chord") is not None:
            return position
        return position + _duration(element, divisions)
    if element.tag == "forward":
        return position + _duration(element, divisions)
    if element.tag == "backup":
        return max(Fraction(0), position - _duration(element, divisions))
    return position


_TYPE_LENGTHS = {
    name: 4 * Fraction(2) ** -exponent
    for exponent, name in enumerate(
        ("long", "breve", "whole", "half", "quarter", "eighth", "16th", "32nd", "64th", "128th", "256th"), -2
    )
}


def _duration(element: ET.Element, divisions: Fraction) -> Fraction:
    """How long a note, backup or forward lasts, in quarter notes.

    Divisions can be too coarse for a tuplet (42 and 43 of 256 for thirds): a duration within one division of what
    the written value says is taken as written.
    """
    ticks = max(Fraction(0), number_of(element.findtext("duration")))
    length = ticks / divisions
    written = _TYPE_LENGTHS.get(text_of(element, "type"))
    ratio = element.find("time-modification")
    if written is None or ratio is None or not ticks:
        return length
    actual, normal = (number_of(ratio.findtext(f"{which}-notes")) for which in ("actual", "normal"))
    if actual <= 0 or normal <= 0:
        return length
    nominal = written * (2 - Fraction(1, 2 ** len(element.findall("dot")))) * normal / actual
    return nominal if abs(nominal - length) * divisions < 1 else length


def _meter(element: ET.Element | None) -> Meter | None:
    if element is None or element.find("senza-misura") is not None:
        return None
    written = [
        ([int(part) for part in (beats.text or "4").split("+")], int(beat_type.text or 4))
        for beats, beat_type in zip(element.findall("beats"), element.findall("beat-type"), strict=False)
    ]
    if not written:
        return None
    unit = max(beat_type for _, beat_type in written)
    # Meters added up (3+2 eighths and 3 quarters) count in the smallest unit, the larger beats as groups of it.
    groups = [
        count * (unit // beat_type) if beat_type == unit or len(counts) > 1 else unit // beat_type
        for counts, beat_type in written
        if beat_type > 0
        for count in (counts if beat_type == unit or len(counts) > 1 else [1] * counts[0])
    ]
    count = sum(groups)
    try:
        return Meter.parse(f"{count}/{unit}", "+".join(map(str, groups)) if len(groups) > 1 else "") if count else None
    except MeterError as error:
        raise FormatError(f"The score has a time signature that can't be read: {error}.") from error


def read_part(part_id: str, name: str, measures: list[ET.Element], lengths: list[Fraction]) -> Part:
    """Everything Gavotte takes from a part's bars, whose lengths are known."""
    part = Part(part_id, name)
    divisions, onset = Fraction(1), Fraction(0)
    for measure, length in zip(measures, lengths, strict=False):
        position = struck = Fraction(0)
        for element in measure:
            give_way()
            here = onset + position
            match element.tag:
                case "attributes":
                    divisions = number_of(element.findtext("divisions"), divisions) or divisions
                    _read_attributes(part, element, here)
                case "note":
                    stacked = element.find("chord") is not None
                    _read_note(part, element, onset + (struck if stacked else position), divisions)
                    struck = struck if stacked else position
                case "harmony":
                    offset = number_of(element.findtext("offset")) / divisions
                    part.harmonies.append((max(onset, here + offset), element, part.transpose))
                case "direction" | "sound":
                    _read_direction(part, element, here, divisions)
            position = _advanced(element, position, divisions)
        onset += length
    part.voices = {voice: entries for voice, entries in part.voices.items() if entries}
    return part


def _read_attributes(part: Part, element: ET.Element, onset: Fraction) -> None:
    transpose = element.find("transpose")
    if transpose is not None:
        part.transpose = _transposition(transpose)
    key = element.find("key")
    if key is not None and key.find("fifths") is not None:
        mode = text_of(key, "mode").lower()
        fifths = int(number_of(key.findtext("fifths")))
        try:
            if abs(fifths) > _MOST_FIFTHS:
                raise PitchError("no key has so many")
            found = Key.from_fifths(fifths, mode if mode in MODES else "major")
            part.keys.append((onset, Key(found.tonic.transposed(part.transpose), found.mode)))
        except PitchError:
            part.remarks.append(f"A key signature of {fifths} fifths was left out.")
    meter = _meter(element.find("time"))
    if meter is not None:
        part.meters.append((onset, meter))
    clef = element.find("clef")
    if clef is not None and onset == 0:
        sign, line = text_of(clef, "sign") or "G", text_of(clef, "line")
        if sign in "GFC":
            part.clef = f"{sign}{line or {'G': '2', 'F': '4', 'C': '3'}[sign]}"
            if number_of(clef.findtext("clef-octave-change")) == -1:
                part.clef += "-8"


def _transposition(element: ET.Element) -> Interval:
    octaves = int(number_of(element.findtext("octave-change")))
    semitones = int(number_of(element.findtext("chromatic")))
    sign = -1 if semitones < 0 else 1
    octave, rest = divmod(abs(semitones), 12)
    implied = sign * (7 * octave + _STEPS[rest])
    steps = int(number_of(element.findtext("diatonic"), Fraction(implied)))
    if max(abs(steps), abs(semitones), 12 * abs(octaves)) > MAX_STEPS:
        return Interval(0, 0)
    return Interval(steps + 7 * octaves, semitones + 12 * octaves)


def _read_note(part: Part, element: ET.Element, onset: Fraction, divisions: Fraction) -> None:
    pitch_element = element.find("pitch")
    if element.find("cue") is not None:
        return
    if pitch_element is None:
        part.percussion += element.find("unpitched") is not None
        part.tablature += element.find("notations/technical/fret") is not None
        return
    try:
        alter = float(text_of(pitch_element, "alter") or 0)
        pitch = Pitch(
            text_of(pitch_element, "step"),
            floor(alter + 0.5),
            int(exact(text_of(pitch_element, "octave"))),
        ).transposed(part.transpose)
        if not 0 <= pitch.midi <= 127:
            raise PitchError(f"{pitch.shown}{pitch.octave} is beyond any instrument")
    except (ValueError, OverflowError) as error:
        part.remarks.append(f"A note was left out: {error}.")
        return
    between = alter != floor(alter)
    part.between += between
    grace = element.find("grace") is not None
    # Some writers give only the sign (<tied>), some only the sound (<tie>).
    ties = {tie.get("type") for tie in (*element.findall("tie"), *element.findall("notations/tied"))}
    voice = text_of(element, "voice") or "1"
    length = Fraction(0) if grace else _duration(element, divisions)
    if not length and not grace:
        part.remarks.append("A note without a length was left out.")
        return
    modification = element.find("time-modification")
    tuplet = None
    if modification is not None:
        actual = int(number_of(modification.findtext("actual-notes"), Fraction(1)))
        normal = int(number_of(modification.findtext("normal-notes"), Fraction(1)))
        if 0 < actual <= _MOST_IN_TUPLET and 0 < normal <= _MOST_IN_TUPLET:
            tuplet = Tuplet(actual, normal)
    part.voices.setdefault(voice, []).append(
        WrittenNote(
            onset,
            length,
            pitch,
            element.get("id") or "",
            grace,
            "start" in ties,
            element.find("chord") is not None,
            tuple(_marks(element)),
            tuplet,
            text_of(element, "footnote") == UNCERTAIN or between,
            text_of(element, "notations/technical/fingering")[:_LONGEST_FINGER],
            _string(element),
            _pick(element),
        )
    )


def _string(note: ET.Element) -> int:
    number = number_of(note.findtext("notations/technical/string"))
    return int(number) if 0 < number <= _MOST_STRINGS else 0


def _pick(note: ET.Element) -> Pick | None:
    return next((pick for tag, pick in _PICKS.items() if note.find(f"notations/technical/{tag}") is not None), None)


def _marks(note: ET.Element) -> Iterator[Mark]:
    for notations in note.findall("notations"):
        for group in notations:
            if group.tag in ("slide", "glissando") and group.get("type") == "start":
                yield Mark(Articulation.SLIDE)
            if group.tag not in ("articulations", "technical", "ornaments"):
                continue
            for mark in group:
                if mark.tag in _MARKS:
                    yield Mark(_MARKS[mark.tag])
                elif mark.tag in _JOINED and mark.get("type") == "stop":
                    yield Mark(_JOINED[mark.tag])
                elif mark.tag == "bend" and mark.find("release") is None:
                    bent = number_of(mark.findtext("bend-alter"), Fraction(1))
                    yield Mark(Articulation.BEND, bent if abs(bent) <= MAX_STEPS else None)
    head = note.find("notehead")
    if head is not None and (head.get("parentheses") == "yes" or (head.text or "").strip() == "x"):
        yield Mark(Articulation.GHOST)


def _read_direction(part: Part, element: ET.Element, onset: Fraction, divisions: Fraction) -> None:
    for rehearsal in element.iter("rehearsal"):
        label = (rehearsal.text or "").strip()
        if label:
            part.sections.append((onset, label))
    divided = number_of(element.findtext("offset")) / divisions
    onset += max(-onset, divided)
    words = " ".join("".join(word.text or "" for word in element.iter("words")).split())
    # Words beside a metronome mark or a swing belong to the tempo.
    has_tempo = element.find(".//metronome") is not None
    if words and len(words) <= _LONGEST_WORDS and not has_tempo and not _NAVIGATION.search(words):
        part.texts.append((onset, words))
    sounds = [element] if element.tag == "sound" else list(element.iter("sound"))
    for sound in sounds:
        tempo = number_of(sound.get("tempo"))
        if tempo > 0:
            part.tempos.append((onset, tempo))
        swing = sound.find("swing")
        if swing is not None and part.swing is None:
            part.swing = _swing(swing)
    if not any(sound.get("tempo") for sound in sounds):
        for metronome in element.iter("metronome"):
            tempo = _metronome(metronome)
            if tempo > 0:
                part.tempos.append((onset, tempo))


_BEAT_UNITS = {
    name: Fraction(length)
    for name, length in (("whole", "4"), ("half", "2"), ("quarter", "1"), ("eighth", "1/2"), ("16th", "1/4"))
}


def _metronome(element: ET.Element) -> Fraction:
    """Quarter notes a minute of a metronome mark; 0 where it holds none (as two notes set equal)."""
    unit = _BEAT_UNITS.get(text_of(element, "beat-unit"))
    if unit is None or len(element.findall("beat-unit")) != 1:
        return Fraction(0)
    dots = len(element.findall("beat-unit-dot"))
    digits = "".join(c if c.isdigit() or c == "." else " " for c in text_of(element, "per-minute")).split()
    return number_of(digits[0] if digits else None) * unit * (2 - Fraction(1, 2**dots))


def _swing(element: ET.Element) -> Fraction | None:
    """How many times as long the first of two eighths is as the second; swung sixteenths are left alone."""
    if element.find("straight") is not None:
        return Fraction(1)
    first, second = number_of(element.findtext("first")), number_of(element.findtext("second"))
    if text_of(element, "swing-type") not in ("", "eighth") or not 0 < second <= first <= 9 * second:
        return None
    return first / second
