"""Reading MusicXML: a score with its parts and voices, and one of them as a solo.

``open_score`` parses the file and says what is in it; ``Score.solo`` makes the document from one part and
voice. The score is read as written: repeats are not played out. Written pitch becomes concert pitch by the
part's <transpose>.
"""

from __future__ import annotations

import xml.etree.ElementTree as ET
from collections.abc import Iterator
from dataclasses import dataclass, field, replace
from fractions import Fraction

from gavotte.formats.errors import FormatError
from gavotte.formats.musicxml_archive import score_root
from gavotte.formats.musicxml_chord import UnreadableHarmonyError, chord_of_harmony
from gavotte.solo.checks import check
from gavotte.solo.document import (
    TREBLE,
    Articulation,
    ChordEvent,
    Instrument,
    KeyRegion,
    Mark,
    MeterRegion,
    Note,
    OddBar,
    Section,
    Solo,
    Tuplet,
)
from gavotte.solo.instruments import guess_instrument
from gavotte.solo.setting import with_setting
from gavotte.theory.chord import Chord
from gavotte.theory.chord_symbol import write_chord_symbol
from gavotte.theory.interval import UNISON, Interval
from gavotte.theory.key import Key
from gavotte.theory.meter import COMMON_TIME, Meter, MeterError
from gavotte.theory.pitch import Pitch, PitchError, PitchName

MAX_NOTES = 50_000

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
_JOINED = {"hammer-on": Articulation.HAMMER_ON, "pull-off": Articulation.PULL_OFF}
# Diatonic steps of a transposition that states only its semitones.
_STEPS = {0: 0, 1: 1, 2: 1, 3: 2, 4: 2, 5: 3, 6: 3, 7: 4, 8: 5, 9: 5, 10: 6, 11: 6}


@dataclass(frozen=True, slots=True)
class VoiceSummary:
    """One voice of a part that could be the solo. ``doubled`` counts notes struck together with another."""

    part: str
    part_name: str
    voice: str
    notes: int
    doubled: int
    chords: int


@dataclass(frozen=True)
class Imported:
    """The solo, and what a reader should know about how it was read."""

    solo: Solo
    remarks: tuple[str, ...]


@dataclass
class _Entry:
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
    transpose: Interval


@dataclass
class _Part:
    id: str
    name: str
    voices: dict[str, list[_Entry]] = field(default_factory=dict)
    harmonies: list[tuple[Fraction, ET.Element, Interval]] = field(default_factory=list)
    keys: list[tuple[Fraction, Key]] = field(default_factory=list)
    meters: list[tuple[Fraction, Meter]] = field(default_factory=list)
    sections: list[tuple[Fraction, str]] = field(default_factory=list)
    transpose: Interval = UNISON
    clef: str = "G2"
    tempo: Fraction | None = None
    repeats: bool = False
    remarks: list[str] = field(default_factory=list)


def open_score(data: bytes) -> Score:
    """Parse a MusicXML file. Raises FormatError with a message for the user."""
    try:
        return Score(score_root(data))
    except (ValueError, ZeroDivisionError, OverflowError, AttributeError, TypeError) as error:
        if isinstance(error, FormatError):
            raise
        raise FormatError(f"The score breaks MusicXML's own rules ({error}). Export it again.") from error


class Score:
    """A parsed score. ``voices`` lists what could be the solo, the likeliest first."""

    def __init__(self, root: ET.Element) -> None:
        self.title = _text(root, "work/work-title") or _text(root, "movement-title")
        self.composer = next(((e.text or "").strip() for e in root.iter("creator") if e.get("type") == "composer"), "")
        measures = _measures_by_part(root)
        names = {e.get("id", ""): _text(e, "part-name") for e in root.iter("score-part")}
        self._lengths = _measure_lengths(measures)
        self._numbers = [m.get("number", "") for m in next(iter(measures.values()), [])]
        self._implicit = [m.get("implicit") == "yes" for m in next(iter(measures.values()), [])]
        self._parts = {
            part_id: _read_part(part_id, names.get(part_id, ""), part, self._lengths)
            for part_id, part in measures.items()
        }
        self.voices = self._summaries()
        if not self.voices:
            raise FormatError("There are no pitched notes in this score.")

    def _summaries(self) -> tuple[VoiceSummary, ...]:
        summaries = []
        for part in self._parts.values():
            for voice, entries in part.voices.items():
                doubled = sum(entry.stacked for entry in entries)
                summaries.append(
                    VoiceSummary(part.id, part.name or part.id, voice, len(entries), doubled, len(part.harmonies))
                )
        return tuple(sorted(summaries, key=_unlikelihood))

    def solo(self, chosen: VoiceSummary | None = None, fallback_title: str = "Untitled") -> Imported:
        """The solo in one part and voice, by default the likeliest. Raises FormatError."""
        chosen = chosen or self.voices[0]
        part = self._parts[chosen.part]
        shift = self._pickup()
        remarks = list(part.remarks)
        entries, dropped = _one_line(part.voices[chosen.voice])
        if dropped:
            remarks.append(f"{dropped} notes that sound together with a higher one were left out.")
        if len(entries) > MAX_NOTES:
            raise FormatError(f"The part has {len(entries)} notes, more than {MAX_NOTES}; it was not read.")
        if part.repeats:
            remarks.append("Repeats are read as written, once.")
        notes = _notes(entries, shift)
        solo = Solo(
            title=self.title or fallback_title,
            player=self.composer,
            instrument=_instrument(part),
            tempo=part.tempo,
            pickup=shift,
            meters=_meters(part, shift),
            keys=_keys(part, shift),
            odd_bars=self._odd_bars(part, shift),
            chords=self._chords(part, shift, remarks),
            sections=tuple(Section(onset - shift, label) for onset, label in part.sections),
            notes=notes,
        )
        remarks += [finding.message for finding in check(solo)]
        return Imported(with_setting(solo), tuple(remarks))

    def _pickup(self) -> Fraction:
        """Length of an incomplete first bar, 0 where there is none."""
        meters = [meter for part in self._parts.values() for onset, meter in part.meters if onset == 0]
        full = meters[0].bar_length if meters else Fraction(4)
        first = self._lengths[0] if self._lengths else full
        marked = self._implicit[0] or self._numbers[0] == "0"
        return first if len(self._lengths) > 1 and 0 < first < full and (marked or first <= full / 2) else Fraction(0)

    def _odd_bars(self, part: _Part, shift: Fraction) -> tuple[OddBar, ...]:
        odd, onset = [], Fraction(0)
        changes = dict(part.meters)
        meter = COMMON_TIME
        for index, length in enumerate(self._lengths):
            meter = changes.get(onset, meter)
            if length != meter.bar_length and not (index == 0 and shift):
                odd.append(OddBar(onset - shift, length))
            onset += length
        return tuple(odd)

    def _chords(self, part: _Part, shift: Fraction, remarks: list[str]) -> tuple[ChordEvent, ...]:
        """The part's chord symbols, or another part's where it has none."""
        source = part if part.harmonies else max(self._parts.values(), key=lambda p: len(p.harmonies))
        events: dict[Fraction, ChordEvent] = {}
        for onset, element, transpose in source.harmonies:
            try:
                symbol = chord_of_harmony(element)
                if isinstance(symbol, Chord):
                    symbol = symbol.transposed(transpose)
            except (UnreadableHarmonyError, PitchError) as error:
                remarks.append(f"A chord in bar {self._bar_number(onset)} was not read: {error}.")
                continue
            events[onset] = ChordEvent(f"c{len(events)}", onset - shift, write_chord_symbol(symbol))
        return tuple(events[onset] for onset in sorted(events))

    def _bar_number(self, onset: Fraction) -> str:
        position = Fraction(0)
        for number, length in zip(self._numbers, self._lengths, strict=False):
            if position + length > onset:
                return number
            position += length
        return self._numbers[-1] if self._numbers else "?"


def _unlikelihood(voice: VoiceSummary) -> tuple[bool, bool, int]:
    """Sort key: a line with chord symbols over it and few notes struck together is likely the solo."""
    return (voice.doubled * 4 > voice.notes, voice.chords == 0, -voice.notes)


def _text(element: ET.Element, path: str) -> str:
    return (element.findtext(path) or "").strip()


def _number(text: str | None, default: Fraction = Fraction(0)) -> Fraction:
    try:
        return Fraction((text or "").strip())
    except (ValueError, ZeroDivisionError):
        return default


def _measures_by_part(root: ET.Element) -> dict[str, list[ET.Element]]:
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


def _measure_lengths(parts: dict[str, list[ET.Element]]) -> list[Fraction]:
    """Length of each bar in quarter notes: that of its fullest part, or its meter's where all are empty."""
    lengths: list[Fraction] = []
    for measures in parts.values():
        divisions, bar_length = Fraction(1), Fraction(4)
        for index, measure in enumerate(measures):
            position = longest = Fraction(0)
            for element in measure:
                if element.tag == "attributes":
                    divisions = _number(element.findtext("divisions"), divisions) or divisions
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


def _duration(element: ET.Element, divisions: Fraction) -> Fraction:
    return max(Fraction(0), _number(element.findtext("duration"))) / divisions


def _meter(element: ET.Element | None) -> Meter | None:
    if element is None or element.find("senza-misura") is not None:
        return None
    count, unit, grouping = 0, 4, ""
    for beats, beat_type in zip(element.findall("beats"), element.findall("beat-type"), strict=False):
        groups = [int(part) for part in (beats.text or "4").split("+")]
        count += sum(groups)
        unit = int(beat_type.text or 4)
        if len(groups) > 1:
            grouping = "+".join(map(str, groups))
    try:
        return Meter.parse(f"{count}/{unit}", grouping) if count else None
    except MeterError as error:
        raise FormatError(f"The score has a time signature that can't be read: {error}.") from error


def _read_part(part_id: str, name: str, measures: list[ET.Element], lengths: list[Fraction]) -> _Part:
    part = _Part(part_id, name)
    divisions, onset = Fraction(1), Fraction(0)
    for measure, length in zip(measures, lengths, strict=False):
        position = struck = Fraction(0)
        for element in measure:
            here = onset + position
            match element.tag:
                case "attributes":
                    divisions = _number(element.findtext("divisions"), divisions) or divisions
                    _read_attributes(part, element, here)
                case "note":
                    stacked = element.find("chord") is not None
                    _read_note(part, element, onset + (struck if stacked else position), divisions)
                    struck = struck if stacked else position
                case "harmony":
                    offset = _number(element.findtext("offset")) / divisions
                    part.harmonies.append((max(onset, here + offset), element, part.transpose))
                case "direction" | "sound":
                    _read_direction(part, element, here)
                case "barline" if element.find("repeat") is not None:
                    part.repeats = True
            position = _advanced(element, position, divisions)
        onset += length
    part.voices = {voice: entries for voice, entries in part.voices.items() if entries}
    return part


def _read_attributes(part: _Part, element: ET.Element, onset: Fraction) -> None:
    transpose = element.find("transpose")
    if transpose is not None:
        part.transpose = _transposition(transpose)
    key = element.find("key")
    if key is not None and key.find("fifths") is not None:
        mode = _text(key, "mode").lower()
        fifths = int(_number(key.findtext("fifths")))
        try:
            found = Key.from_fifths(fifths, mode if mode in ("minor", "dorian", "mixolydian", "lydian") else "major")
            part.keys.append((onset, Key(found.tonic.transposed(part.transpose), found.mode)))
        except PitchError:
            part.remarks.append(f"A key signature of {fifths} fifths was left out.")
    meter = _meter(element.find("time"))
    if meter is not None:
        part.meters.append((onset, meter))
    clef = element.find("clef")
    if clef is not None and onset == 0:
        sign, line = _text(clef, "sign") or "G", _text(clef, "line")
        if sign in "GFC":
            part.clef = f"{sign}{line or {'G': '2', 'F': '4', 'C': '3'}[sign]}"


def _transposition(element: ET.Element) -> Interval:
    octaves = int(_number(element.findtext("octave-change")))
    semitones = int(_number(element.findtext("chromatic")))
    sign = -1 if semitones < 0 else 1
    octave, rest = divmod(abs(semitones), 12)
    implied = sign * (7 * octave + _STEPS[rest])
    steps = int(_number(element.findtext("diatonic"), Fraction(implied)))
    return Interval(steps + 7 * octaves, semitones + 12 * octaves)


def _read_note(part: _Part, element: ET.Element, onset: Fraction, divisions: Fraction) -> None:
    pitch_element = element.find("pitch")
    if pitch_element is None or element.find("cue") is not None:
        return
    try:
        pitch = Pitch(
            _text(pitch_element, "step"),
            round(float(_text(pitch_element, "alter") or 0)),
            int(_text(pitch_element, "octave")),
        ).transposed(part.transpose)
    except ValueError as error:
        part.remarks.append(f"A note was left out: {error}.")
        return
    grace = element.find("grace") is not None
    # Some writers give only the sign (<tied>), some only the sound (<tie>).
    ties = {tie.get("type") for tie in (*element.findall("tie"), *element.findall("notations/tied"))}
    voice = _text(element, "voice") or "1"
    modification = element.find("time-modification")
    tuplet = None
    if modification is not None:
        tuplet = Tuplet(
            int(_number(modification.findtext("actual-notes"), Fraction(1))),
            int(_number(modification.findtext("normal-notes"), Fraction(1))),
        )
    part.voices.setdefault(voice, []).append(
        _Entry(
            onset,
            Fraction(0) if grace else _duration(element, divisions),
            pitch,
            element.get("id") or "",
            grace,
            "start" in ties,
            element.find("chord") is not None,
            tuple(_marks(element)),
            tuplet,
            part.transpose,
        )
    )


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
                elif mark.tag == "bend":
                    yield Mark(Articulation.BEND, _number(mark.findtext("bend-alter"), Fraction(1)))
    head = note.find("notehead")
    if head is not None and (head.get("parentheses") == "yes" or (head.text or "").strip() == "x"):
        yield Mark(Articulation.GHOST)


def _read_direction(part: _Part, element: ET.Element, onset: Fraction) -> None:
    for rehearsal in element.iter("rehearsal"):
        label = (rehearsal.text or "").strip()
        if label:
            part.sections.append((onset, label))
    sounds = [element] if element.tag == "sound" else list(element.iter("sound"))
    for sound in sounds:
        tempo = _number(sound.get("tempo"))
        if tempo > 0 and part.tempo is None:
            part.tempo = tempo
        if sound.get("dacapo") or sound.get("dalsegno"):
            part.repeats = True


def _one_line(entries: list[_Entry]) -> tuple[list[_Entry], int]:
    """The line of a voice: of notes struck together, the highest; and how many were left out."""
    line: list[_Entry] = []
    dropped = 0
    for entry in entries:
        if entry.stacked and line and line[-1].onset == entry.onset and line[-1].grace == entry.grace:
            dropped += 1
            if entry.pitch.midi > line[-1].pitch.midi:
                line[-1] = entry
            continue
        line.append(entry)
    return sorted(line, key=lambda entry: entry.onset), dropped


def _notes(entries: list[_Entry], shift: Fraction) -> tuple[Note, ...]:
    """The written notes as sounding ones: tied notes become one that keeps its written lengths."""
    notes: list[Note] = []
    open_tie = False
    taken: set[str] = set()
    for entry in entries:
        last = notes[-1] if notes else None
        # A tie that starts is enough: some writers leave its end out.
        if (
            last is not None
            and open_tie
            and not entry.grace
            and last.pitch.midi == entry.pitch.midi
            and last.end == entry.onset - shift
        ):
            written = (last.written or (last.duration,)) + (entry.length,)
            notes[-1] = replace(last, duration=last.duration + entry.length, written=written)
        else:
            note_id = entry.id if entry.id and entry.id not in taken else f"n{len(notes)}"
            while note_id in taken:
                note_id += "x"
            taken.add(note_id)
            notes.append(
                Note(
                    note_id,
                    entry.onset - shift,
                    entry.length,
                    entry.pitch,
                    tuplet=entry.tuplet,
                    grace=entry.grace,
                    marks=entry.marks,
                )
            )
        open_tie = entry.tie_start
    return tuple(notes)


def _instrument(part: _Part) -> Instrument:
    known = guess_instrument(part.name)
    transpose = part.transpose
    if known is not None and known.transposition_semitones == transpose.semitones:
        return known
    base = known or TREBLE
    name = base.name if known else (part.name or TREBLE.name)
    return replace(
        base,
        name=name,
        transposition_steps=transpose.steps,
        transposition_semitones=transpose.semitones,
        clef=part.clef,
    )


def _meters(part: _Part, shift: Fraction) -> tuple[MeterRegion, ...]:
    regions = {max(Fraction(0), onset - shift) if onset == 0 else onset - shift: meter for onset, meter in part.meters}
    regions.setdefault(Fraction(0), COMMON_TIME)
    return tuple(MeterRegion(onset, regions[onset]) for onset in sorted(regions))


def _keys(part: _Part, shift: Fraction) -> tuple[KeyRegion, ...]:
    regions = {max(Fraction(0), onset - shift) if onset == 0 else onset - shift: key for onset, key in part.keys}
    regions.setdefault(Fraction(0), Key(PitchName("C")))
    return tuple(KeyRegion(onset, regions[onset]) for onset in sorted(regions))
