"""Reading MusicXML: a score with its parts and voices, and one of them as a solo.

``open_score`` parses the file and says what is in it; ``Score.solo`` makes the document from one part and
voice, its repeats played out or as written. Written pitch becomes concert pitch by the part's <transpose>.
"""

from __future__ import annotations

import itertools
import xml.etree.ElementTree as ET
from collections.abc import Iterable
from dataclasses import replace
from fractions import Fraction
from typing import TypeVar

from gavotte.formats.errors import FormatError
from gavotte.formats.musicxml_archive import score_root
from gavotte.formats.musicxml_chord import UnreadableHarmonyError, chord_of_harmony, kept_text
from gavotte.formats.musicxml_order import MAX_HEARD, bar_order, has_repeats, in_order, marks_of
from gavotte.formats.musicxml_part import Part, WrittenNote, measures_by_part, text_of
from gavotte.formats.musicxml_reading import Reading
from gavotte.formats.numbers import exact
from gavotte.formats.source import Imported, VoiceSummary, possible
from gavotte.solo.bars import BarGrid
from gavotte.solo.bounds import MAX_LENGTH, MAX_NOTES, MAX_PARTS, MAX_TEMPO
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
    TempoChange,
    Text,
)
from gavotte.solo.instruments import CLEFS, guess_instrument
from gavotte.solo.setting import with_setting
from gavotte.solo.tags import read_tags
from gavotte.theory.chord import Chord
from gavotte.theory.chord_symbol import read_or_keep, write_chord_symbol
from gavotte.theory.key import Key
from gavotte.theory.meter import COMMON_TIME, Meter
from gavotte.theory.pitch import PitchError, PitchName


def open_score(data: bytes) -> Score:
    """Parse a MusicXML file. Raises FormatError with a message for the user."""
    try:
        return Score(score_root(data))
    except (ValueError, ZeroDivisionError, OverflowError, AttributeError, TypeError) as error:
        if isinstance(error, FormatError):
            raise
        raise FormatError(f"The score breaks MusicXML's own rules ({error}). Export it again.") from error


class Score:
    """A parsed score. ``voices`` lists what could be the solo, the likeliest first; ``has_repeats`` says whether
    it is heard in another order than it is written in; ``written`` is all of it, bar by bar as written.
    """

    def __init__(self, root: ET.Element) -> None:
        self.title = text_of(root, "work/work-title") or text_of(root, "movement-title")
        creators = {e.get("type"): (e.text or "").strip() for e in root.iter("creator")}
        self.player = creators.get("player") or creators.get("composer") or ""
        fields = {e.get("name"): (e.text or "").strip() for e in root.iter("miscellaneous-field")}
        self.style, self.album = fields.get("style") or "", fields.get("album") or ""
        self.source, self.tags = fields.get("source") or "", read_tags(fields.get("tags") or "")
        self.chorus = _chorus(fields.get("chorus") or "")
        year = fields.get("year") or ""
        self.year = int(year) if year.isdecimal() and len(year) <= 4 else None
        self._measures = measures_by_part(root)
        fewest = min(sum(len(bar.findall("note")) for bar in bars) for bars in self._measures.values())
        if fewest > MAX_NOTES:
            raise FormatError(f"Every part has more than {MAX_NOTES} notes; the score was not read.")
        self._names = {e.get("id", ""): text_of(e, "part-name") for e in root.iter("score-part")}
        self._marks = [marks_of(bars) for bars in zip(*self._measures.values(), strict=False)]
        self.has_repeats = has_repeats(self._marks)
        self.written = Reading(self._measures, self._names)
        self.voices = self._summaries()
        if not self.voices:
            raise FormatError(_why_nothing(list(self.written.parts.values())))

    def _summaries(self) -> tuple[VoiceSummary, ...]:
        summaries = []
        for part in self.written.parts.values():
            for voice, entries in part.voices.items():
                doubled = sum(entry.stacked for entry in entries)
                summaries.append(
                    VoiceSummary(part.id, part.name or part.id, voice, len(entries), doubled, len(part.harmonies))
                )
        return tuple(sorted(summaries, key=_unlikelihood))

    def solo(
        self, chosen: VoiceSummary | None = None, fallback_title: str = "Untitled", as_heard: bool = True
    ) -> Imported:
        """The solo in one part and voice, by default the likeliest. Raises FormatError.

        With ``as_heard`` repeats, endings and jumps are played out; else every bar comes once, as it is written.
        """
        chosen = chosen or self.voices[0]
        remarks: list[str] = []
        reading = self.written
        if self.has_repeats and as_heard:
            order = bar_order(self._marks)
            if len(order) >= MAX_HEARD:
                remarks.append(f"Played out, the repeats make more than {MAX_HEARD} bars; they are left as written.")
            else:
                reading = Reading({k: in_order(bars, order) for k, bars in self._measures.items()}, self._names)
                remarks.append(
                    f"The repeats are played out: {len(order)} bars are heard, {len(self._marks)} are written."
                )
        elif self.has_repeats:
            remarks.append("Repeats are left as written, every bar once.")
        part = reading.parts[chosen.part]
        remarks += part.remarks
        if part.between:
            notes = "1 note lies" if part.between == 1 else f"{part.between} notes lie"
            remarks.append(f"{notes} between two semitones: written at the nearest one, and marked as uncertain.")
        entries, dropped = _one_line(part.voices.get(chosen.voice, []))
        if dropped:
            remarks.append(f"{dropped} notes that sound together with a higher one were left out.")
        if len(entries) > MAX_NOTES:
            raise FormatError(f"The part has {len(entries)} notes, more than {MAX_NOTES}; it was not read.")
        shift = reading.pickup
        tempo, tempo_changes = _tempos(reading.tempos, shift)
        solo = Solo(
            title=self.title or fallback_title,
            player=self.player,
            style=self.style,
            album=self.album,
            source=self.source,
            tags=self.tags,
            year=self.year,
            instrument=_instrument(part),
            tempo=tempo,
            tempo_changes=tempo_changes,
            swing=next((p.swing for p in reading.parts.values() if p.swing is not None), None),
            pickup=shift,
            meters=_meters(part, shift),
            keys=_keys(part, shift),
            odd_bars=tuple(OddBar(onset - shift, length) for onset, length in reading.odd_bars(part)),
            chords=_chords(reading, part, remarks),
            chorus=self.chorus,
            sections=tuple(Section(onset - shift, label) for onset, label in part.sections),
            texts=_texts(part.texts, shift),
            notes=_notes(entries, shift),
        )
        possible(solo)
        # Empty bars at the end belong to the form.
        written = sum(reading.lengths, Fraction(0)) - shift
        if BarGrid(solo).bars[-1].end < written:
            solo = possible(replace(solo, form_end=written))
        remarks += [finding.message for finding in check(solo)]
        return Imported(with_setting(solo), tuple(remarks))


def _why_nothing(parts: Iterable[Part]) -> str:
    if any(part.percussion for part in parts):
        return "There is only percussion in this score; Gavotte reads pitched lines."
    if any(part.tablature for part in parts):
        return "This tablature holds strings and frets but no pitches. Export it with notes as well."
    return "There are no pitched notes in this score."


def _chords(reading: Reading, part: Part, remarks: list[str]) -> tuple[ChordEvent, ...]:
    """The part's chord symbols, or another part's where it has none."""
    source = part if part.harmonies else max(reading.parts.values(), key=lambda p: len(p.harmonies))
    events: dict[Fraction, ChordEvent] = {}
    for onset, element, transpose in source.harmonies:
        try:
            symbol = chord_of_harmony(element)
            if isinstance(symbol, Chord):
                symbol = symbol.transposed(transpose)
        except (UnreadableHarmonyError, PitchError) as error:
            text = kept_text(element)
            kept = f"it stays as “{text}”, and the notes under it are named by the key" if text else "it is left out"
            remarks.append(f"A chord in bar {reading.bar_number(onset)} can't be read: {error}; {kept}.")
            if not text:
                continue
            symbol = read_or_keep(text)
        events[onset] = ChordEvent(f"c{len(events)}", onset - reading.pickup, write_chord_symbol(symbol))
    return tuple(events[onset] for onset in sorted(events))


def _texts(texts: list[tuple[Fraction, str]], shift: Fraction) -> tuple[Text, ...]:
    """The words over the staff, those at one place together."""
    together: dict[Fraction, str] = {}
    for onset, words in texts:
        together[onset] = f"{together[onset]} {words}" if onset in together else words
    return tuple(Text(onset - shift, words) for onset, words in sorted(together.items()))


def _tempos(
    tempos: list[tuple[Fraction, Fraction]], shift: Fraction
) -> tuple[Fraction | None, tuple[TempoChange, ...]]:
    """The first tempo, and those that differ from the one before it."""
    first: Fraction | None = None
    changes: list[TempoChange] = []
    for onset, tempo in sorted((onset, tempo) for onset, tempo in dict(tempos).items() if 1 <= tempo <= MAX_TEMPO):
        now = changes[-1].tempo if changes else first
        if first is None:
            first = tempo
        elif tempo != now:
            changes.append(TempoChange(onset - shift, tempo))
    return first, tuple(changes)


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
                    finger=entry.finger,
                    string=entry.string,
                    pick=entry.pick,
                )
            )
        open_tie = entry.tie_start
    return tuple(notes)


def _chorus(text: str) -> Fraction:
    """The length of a chorus in quarter notes; 0 where none is told, or what is told can't be one."""
    try:
        length = exact(text) if text else Fraction(0)
    except ValueError:
        return Fraction(0)
    return length if 0 < length <= MAX_LENGTH and length.denominator <= MAX_PARTS else Fraction(0)


def _instrument(part: Part) -> Instrument:
    known = guess_instrument(part.name)
    transpose = part.transpose
    if known is not None and known.transposition_semitones == transpose.semitones:
        return replace(known, chosen_clef=_chosen_clef(part.clef, known.clef))
    base = known or TREBLE
    name = base.name if known else (part.name or TREBLE.name)
    return replace(
        base,
        name=name,
        transposition_steps=transpose.steps,
        transposition_semitones=transpose.semitones,
        chosen_clef=_chosen_clef(part.clef, base.clef),
    )


def _chosen_clef(clef: str, usual: str) -> str:
    """The clef of a part where it is one of those that can be chosen and not the usual one."""
    return clef if clef in CLEFS and clef != usual else ""


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
    ordered = sorted(regions.items(), key=lambda region: region[0])
    return ordered[:1] + [there for here, there in itertools.pairwise(ordered) if there[1] != here[1]]
