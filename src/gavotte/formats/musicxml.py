"""Reading MusicXML: a score with its parts and voices, and one of them as a solo.

``open_score`` parses the file and says what is in it; ``Score.solo`` makes the document from one part and
voice. The score is read as written: repeats are not played out. Written pitch becomes concert pitch by the
part's <transpose>.
"""

from __future__ import annotations

import xml.etree.ElementTree as ET
from dataclasses import dataclass, replace
from fractions import Fraction
from typing import TypeVar

from gavotte.formats.errors import FormatError
from gavotte.formats.musicxml_archive import score_root
from gavotte.formats.musicxml_chord import UnreadableHarmonyError, chord_of_harmony
from gavotte.formats.musicxml_part import (
    Part,
    WrittenNote,
    measure_lengths,
    measures_by_part,
    read_part,
    text_of,
)
from gavotte.solo.checks import check
from gavotte.solo.document import (
    TREBLE,
    ChordEvent,
    Instrument,
    KeyRegion,
    MeterRegion,
    Note,
    OddBar,
    Section,
    Solo,
)
from gavotte.solo.instruments import guess_instrument
from gavotte.solo.setting import with_setting
from gavotte.theory.chord import Chord
from gavotte.theory.chord_symbol import write_chord_symbol
from gavotte.theory.key import Key
from gavotte.theory.meter import COMMON_TIME, Meter
from gavotte.theory.pitch import PitchError, PitchName

MAX_NOTES = 50_000
MAX_BAR = 64
"""Quarter notes a bar may last at the most; free cadenzas stay far below."""


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
        self.title = text_of(root, "work/work-title") or text_of(root, "movement-title")
        creators = {e.get("type"): (e.text or "").strip() for e in root.iter("creator")}
        self.player = creators.get("player") or creators.get("composer") or ""
        fields = {e.get("name"): (e.text or "").strip() for e in root.iter("miscellaneous-field")}
        self.style = fields.get("style") or ""
        measures = measures_by_part(root)
        names = {e.get("id", ""): text_of(e, "part-name") for e in root.iter("score-part")}
        self._lengths = measure_lengths(measures)
        self._numbers = [m.get("number", "") for m in next(iter(measures.values()), [])]
        for number, length in zip(self._numbers, self._lengths, strict=False):
            if length > MAX_BAR:
                raise FormatError(
                    f"Bar {number} would last {float(length):g} quarter notes; its note lengths can't be right."
                )
        self._implicit = [m.get("implicit") == "yes" for m in next(iter(measures.values()), [])]
        self._parts = {
            part_id: read_part(part_id, names.get(part_id, ""), part, self._lengths)
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
            player=self.player,
            style=self.style,
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

    def _odd_bars(self, part: Part, shift: Fraction) -> tuple[OddBar, ...]:
        odd, onset = [], Fraction(0)
        changes = dict(part.meters)
        meter = COMMON_TIME
        for index, length in enumerate(self._lengths):
            meter = changes.get(onset, meter)
            if length != meter.bar_length and not (index == 0 and shift):
                odd.append(OddBar(onset - shift, length))
            onset += length
        return tuple(odd)

    def _chords(self, part: Part, shift: Fraction, remarks: list[str]) -> tuple[ChordEvent, ...]:
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


def _one_line(entries: list[WrittenNote]) -> tuple[list[WrittenNote], int]:
    """The line of a voice: of notes struck together, the highest; and how many were left out."""
    line: list[WrittenNote] = []
    dropped = 0
    for entry in entries:
        if entry.stacked and line and line[-1].onset == entry.onset and line[-1].grace == entry.grace:
            dropped += 1
            if entry.pitch.midi > line[-1].pitch.midi:
                line[-1] = entry
            continue
        line.append(entry)
    return sorted(line, key=lambda entry: entry.onset), dropped


def _notes(entries: list[WrittenNote], shift: Fraction) -> tuple[Note, ...]:
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
                    uncertain=entry.uncertain,
                )
            )
        open_tie = entry.tie_start
    return tuple(notes)


def _instrument(part: Part) -> Instrument:
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


def _meters(part: Part, shift: Fraction) -> tuple[MeterRegion, ...]:
    return tuple(MeterRegion(onset, meter) for onset, meter in _from_bar_one(part.meters, shift, COMMON_TIME))


def _keys(part: Part, shift: Fraction) -> tuple[KeyRegion, ...]:
    return tuple(KeyRegion(onset, key) for onset, key in _from_bar_one(part.keys, shift, Key(PitchName("C"))))


ChangeT = TypeVar("ChangeT", Meter, Key)


def _from_bar_one(
    changes: list[tuple[Fraction, ChangeT]], shift: Fraction, default: ChangeT
) -> list[tuple[Fraction, ChangeT]]:
    """Changes timed from bar 1; what stands in front of a pickup holds from bar 1, where there must be one."""
    regions = {onset - shift if onset else Fraction(0): change for onset, change in changes}
    regions.setdefault(Fraction(0), default)
    return sorted(regions.items(), key=lambda region: region[0])
