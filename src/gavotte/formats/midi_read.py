"""Reading MIDI: a file's lines by track and channel, and one of them as a solo in written rhythm.

Times are quantised (see ``quantise``), pitches spelled by chord and key. Chord symbols come from texts, lyrics or
markers that read as such, sections from the other markers. Standard MIDI Files 1.0 (MIDI Association, 1996).
"""

from __future__ import annotations

import io
import itertools
import re
from collections import defaultdict
from dataclasses import dataclass, field, replace
from fractions import Fraction

import mido

from gavotte.formats.errors import FormatError
from gavotte.formats.source import Imported, VoiceSummary, possible
from gavotte.notation.quantise import Rhythm, quantise
from gavotte.solo.bounds import MAX_NOTES, MAX_TEMPO, MAX_TIME
from gavotte.solo.checks import check
from gavotte.solo.document import (
    TREBLE,
    ChordEvent,
    Instrument,
    KeyRegion,
    MeterRegion,
    Note,
    Section,
    Solo,
    TempoChange,
)
from gavotte.solo.instruments import GM_PROGRAMS, guess_instrument, instrument_named
from gavotte.solo.setting import with_setting
from gavotte.solo.spelling import respell_notes
from gavotte.theory.chord_symbol import ChordSymbolError, parse_chord_symbol, write_chord_symbol
from gavotte.theory.key import Key
from gavotte.theory.meter import COMMON_TIME, Meter, MeterError
from gavotte.theory.pitch import PitchName, spell

MAX_QUARTERS = 40_000
"""No solo is longer than this."""

_DRUMS = 9
_GRACE = Fraction(1, 7)
_TEXTS = ("text", "lyrics", "marker", "cue_marker")
_KEY_SIGNATURE = re.compile(rb"\xff\x59\x02(..)", re.DOTALL)


@dataclass(frozen=True, slots=True)
class _Struck:
    """A note as played: start and end in quarter notes from the start of the file."""

    start: Fraction
    end: Fraction
    midi: int


@dataclass
class _Line:
    """One track's notes on one channel."""

    track: int
    channel: int
    name: str
    program: int = 0
    notes: list[_Struck] = field(default_factory=list)

    @property
    def doubled(self) -> int:
        """How many notes begin together with another (within a 64th)."""
        starts = sorted(note.start for note in self.notes)
        return sum(later - earlier < Fraction(1, 16) for earlier, later in itertools.pairwise(starts))


def open_midi(data: bytes) -> MidiScore:
    """Read a MIDI file. Raises FormatError with a message for the user."""
    file = parsed_midi(data)
    if file.type == 2:
        raise FormatError("The file holds independent patterns (MIDI type 2), not one piece. Export it as type 1.")
    if file.ticks_per_beat <= 0 or file.ticks_per_beat >= 0x8000:
        raise FormatError("The file counts in film frames, not in beats. Export it with beats (ticks a quarter note).")
    return MidiScore(file)


def parsed_midi(data: bytes) -> mido.MidiFile:
    """A MIDI file's tracks. Raises FormatError where they can't be read."""
    try:
        return mido.MidiFile(file=io.BytesIO(_with_possible_keys(data)), clip=True)
    except (OSError, EOFError, ValueError, KeyError, IndexError, TypeError, mido.KeySignatureError) as error:
        why = str(error) or "it ends too early"
        raise FormatError(f"The file is no readable MIDI ({why}). It may be cut off; export it again.") from error


def _with_possible_keys(data: bytes) -> bytes:
    """Key signatures that can't exist, which some programs write, as C major."""

    def possible(match: re.Match[bytes]) -> bytes:
        fifths, mode = match[1]
        fine = (fifths <= 7 or fifths >= 249) and mode in (0, 1)
        return match[0] if fine else match[0][:3] + b"\x00\x00"

    return _KEY_SIGNATURE.sub(possible, data)


class MidiScore:
    """A MIDI file that has been read. ``voices`` lists what could be the solo, the likeliest first."""

    has_repeats = False

    def __init__(self, file: mido.MidiFile) -> None:
        self._ticks = file.ticks_per_beat
        self._lines: dict[tuple[int, int], _Line] = {}
        self._tempos: dict[Fraction, Fraction] = {}
        self._meters: dict[Fraction, Meter] = {}
        self._keys: dict[Fraction, Key] = {}
        self._texts: dict[str, list[tuple[Fraction, str]]] = defaultdict(list)
        self._remarks: list[str] = []
        self.title = ""
        drums = 0
        for index, track in enumerate(file.tracks):
            drums += self._read_track(index, track, is_conductor=file.type == 1 and index == 0)
        self._lines = {key: line for key, line in self._lines.items() if line.notes}
        if not self._lines:
            raise FormatError(
                "There is only percussion in this file; Gavotte reads pitched lines."
                if drums
                else "There are no notes in this file."
            )
        self.voices = self._summaries()

    def _read_track(self, index: int, track: mido.MidiTrack, is_conductor: bool) -> int:
        """Take in a track; gives the number of drum notes."""
        now, drums = 0, 0
        sounding: dict[tuple[int, int], Fraction] = {}
        for message in track:
            now += message.time
            time = Fraction(now, self._ticks)
            if time > MAX_QUARTERS:
                raise FormatError(f"The file lasts more than {MAX_QUARTERS} quarter notes; its times can't be right.")
            if message.is_meta:
                self._read_meta(message, time, is_conductor)
                continue
            if message.type not in ("note_on", "note_off", "program_change"):
                continue
            if message.channel == _DRUMS:
                drums += message.type == "note_on"
                continue
            line = self._lines.setdefault((index, message.channel), _Line(index, message.channel, track.name))
            if message.type == "program_change":
                line.program = message.program
                continue
            key = (message.channel, message.note)
            begun = sounding.pop(key, None)
            if begun is not None and time > begun:
                line.notes.append(_Struck(begun, time, message.note))
            if message.type == "note_on" and message.velocity:
                sounding[key] = time
        end = Fraction(now, self._ticks)
        for (channel, note), begun in sounding.items():
            # A note that is never let go, as at the end of a file that was cut off.
            self._lines[(index, channel)].notes.append(_Struck(begun, max(end, begun + Fraction(1, 4)), note))
        for line in self._lines.values():
            line.notes.sort(key=lambda note: (note.start, -note.midi))
        return drums

    def _read_meta(self, message: mido.MetaMessage, time: Fraction, is_conductor: bool) -> None:
        match message.type:
            case "track_name" if is_conductor and not self.title:
                self.title = message.name.strip()
            case "set_tempo" if 60_000_000 / MAX_TEMPO <= message.tempo <= 60_000_000:
                self._tempos[time] = Fraction(round(Fraction(60_000_000, message.tempo) * 100), 100)
            case "time_signature":
                try:
                    self._meters[time] = Meter(message.numerator, message.denominator)
                except MeterError as error:
                    self._remarks.append(f"A time signature was left out: {error}.")
            case "key_signature":
                minor = message.key.endswith("m")
                self._keys[time] = Key(PitchName.parse(message.key.rstrip("m")), "minor" if minor else "major")
            case kind if kind in _TEXTS:
                text = (message.name if hasattr(message, "name") else message.text).strip()
                if text:
                    self._texts[kind].append((time, text))

    def _summaries(self) -> tuple[VoiceSummary, ...]:
        chords = len(self._texts.get(self._chord_texts(), ()))
        lines = sorted(
            self._lines.values(),
            key=lambda line: (line.doubled * 4 > len(line.notes), "bass" in line.name.lower(), -len(line.notes)),
        )
        return tuple(
            VoiceSummary(
                str(line.track),
                line.name.strip() or f"Track {line.track + 1}",
                f"channel {line.channel + 1}",
                len(line.notes),
                line.doubled,
                chords,
            )
            for line in lines
        )

    def _chord_texts(self) -> str:
        """The kind of text that holds most chord symbols, "" where none does."""
        found = {kind: sum(_chord(text) is not None for _, text in texts) for kind, texts in self._texts.items()}
        best = max(found, key=lambda kind: (found[kind], kind == "text"), default="")
        # Letters alone on markers name sections as likely as chords; two different suffixes settle it.
        if best == "marker" and all(len(text) == 1 for _, text in self._texts[best]):
            return ""
        return best if best and found[best] * 2 >= len(self._texts[best]) else ""

    def solo(
        self, chosen: VoiceSummary | None = None, fallback_title: str = "Untitled", as_heard: bool = True
    ) -> Imported:
        """The solo in one line, by default the likeliest. Raises FormatError. MIDI knows no repeats."""
        chosen = chosen or self.voices[0]
        line = self._lines[(int(chosen.part), int(chosen.voice.split()[-1]) - 1)]
        if len(line.notes) > MAX_NOTES:
            raise FormatError(f"The line has {len(line.notes)} notes, more than {MAX_NOTES}; it was not read.")
        if line.notes and max(note.end for note in line.notes) > MAX_TIME:
            raise FormatError(f"The line goes on for more than {MAX_TIME} quarter notes; it was not read.")
        remarks = list(self._remarks)
        graces, struck, dropped = _one_line(line.notes)
        if dropped:
            remarks.append(f"{dropped} notes that sound together with a higher one were left out.")
        meter = self._first_meter(line)
        beat = Fraction(3, 2) if meter.is_compound else Fraction(1)
        rhythm = quantise([(note.start, note.end) for note in struck], beat, Fraction(3, 2 * self._ticks))
        if rhythm.swing is not None:
            remarks.append(f"Swung eighths ({float(rhythm.swing):g} to 1) are written as even ones.")
        shift = self._shift(rhythm, graces, meter)
        pickup = meter.bar_length - shift[1] if shift[1] else Fraction(0)
        notes = _notes(struck, graces, rhythm, shift[0])
        solo = Solo(
            title=self.title or fallback_title,
            instrument=_instrument(line),
            pickup=pickup,
            notes=notes,
            chords=self._chords(shift[0], -pickup, remarks),
            sections=self._sections(shift[0]),
            meters=_moved_meters(self._meters, shift[0]),
            keys=_moved_keys(self._keys, shift[0]),
            tempo=self._tempos.get(min(self._tempos)) if self._tempos else None,
            tempo_changes=self._tempo_changes(shift[0]),
            swing=rhythm.swing,
        )
        solo = with_setting(respell_notes(possible(solo)))
        remarks += [finding.message for finding in check(solo)]
        return Imported(solo, tuple(remarks))

    def _first_meter(self, line: _Line) -> Meter:
        """The meter the line begins in; some programs write it only where the line begins."""
        begun = [time for time in self._meters if time <= line.notes[0].start]
        return self._meters[min(begun)] if begun else COMMON_TIME

    def _shift(self, rhythm: Rhythm, graces: list[_Struck], meter: Meter) -> tuple[Fraction, Fraction]:
        """Where bar 1 begins in the file, and how far into the bar before it a pickup starts (0: no pickup).

        A line that starts in the second half of the file's first bar has a pickup.
        """
        first = min(
            [*(onset for onset, _ in rhythm.times[:1]), *(note.start for note in graces[:1])], default=Fraction(0)
        )
        length = meter.bar_length
        start = first - first % Fraction(1, 2)
        if length / 2 <= first < length and all(time >= start for time, _ in self._all_chords()):
            return length, start
        return Fraction(0), Fraction(0)

    def _all_chords(self) -> list[tuple[Fraction, str]]:
        return self._texts.get(self._chord_texts(), [])

    def _chords(self, shift: Fraction, earliest: Fraction, remarks: list[str]) -> tuple[ChordEvent, ...]:
        events: dict[Fraction, str] = {}
        for time, text in self._all_chords():
            symbol = _chord(text)
            if symbol is None:
                remarks.append(f"“{text}” was not read: it is no chord symbol.")
                continue
            onset = max(earliest, Fraction(round((time - shift) * 4), 4))
            exact = (time - shift).limit_denominator(24)
            events[exact if abs(exact - (time - shift)) < Fraction(1, 200) else onset] = symbol
        return tuple(ChordEvent(f"c{index}", onset, events[onset]) for index, onset in enumerate(sorted(events)))

    def _sections(self, shift: Fraction) -> tuple[Section, ...]:
        if self._chord_texts() == "marker":
            return ()
        found = [(time - shift, text) for time, text in self._texts.get("marker", [])]
        return tuple(Section(Fraction(round(onset)), text) for onset, text in found)

    def _tempo_changes(self, shift: Fraction) -> tuple[TempoChange, ...]:
        changes, last = [], None
        for time in sorted(self._tempos):
            tempo = self._tempos[time]
            if last is not None and tempo != last:
                changes.append(TempoChange((time - shift).limit_denominator(16), tempo))
            last = tempo
        return tuple(changes)


def _chord(text: str) -> str | None:
    try:
        symbol = parse_chord_symbol(text)
    except ChordSymbolError:
        return None
    return write_chord_symbol(symbol)


def _one_line(notes: list[_Struck]) -> tuple[list[_Struck], list[_Struck], int]:
    """Grace notes, the line itself (of notes struck together the highest), and how many notes were left out.

    Overlaps are cut where the next note begins.
    """
    line: list[_Struck] = []
    dropped = 0
    for note in notes:
        if line and note.start - line[-1].start < Fraction(1, 32):
            dropped += 1
            if note.midi > line[-1].midi:
                line[-1] = replace(note, start=line[-1].start)
            continue
        line.append(note)
    graces: list[_Struck] = []
    sung: list[_Struck] = []
    for note, following in itertools.zip_longest(line, line[1:]):
        end = note.end if following is None else min(note.end, following.start)
        short = end - note.start < _GRACE
        if short and following is not None and following.start - end < Fraction(1, 48) and _lasts(following):
            graces.append(note)
        else:
            sung.append(note)
    # A grace note takes nothing from the note before it: only the next one of the line cuts that short.
    cut = [
        replace(note, end=max(note.start + Fraction(1, 96), min(note.end, following.start if following else note.end)))
        for note, following in itertools.zip_longest(sung, sung[1:])
    ]
    return graces, cut, dropped


def _lasts(note: _Struck) -> bool:
    return note.end - note.start > _GRACE


def _notes(struck: list[_Struck], graces: list[_Struck], rhythm: Rhythm, shift: Fraction) -> tuple[Note, ...]:
    """The line's notes and its graces, each of these at the note it leans on."""
    placed: list[tuple[Fraction, int, Fraction, Fraction, int]] = [
        (onset - shift, 1, note.start, length, note.midi)
        for note, (onset, length) in zip(struck, rhythm.times, strict=True)
    ]
    for grace in graces:
        leans_on = next((i for i, note in enumerate(struck) if note.start > grace.start), None)
        if leans_on is not None:
            placed.append((rhythm.times[leans_on][0] - shift, 0, grace.start, Fraction(0), grace.midi))
    return tuple(
        Note(f"n{index}", onset, length, spell(midi, 0), grace=kind == 0)
        for index, (onset, kind, _, length, midi) in enumerate(sorted(placed))
    )


def _instrument(line: _Line) -> Instrument:
    named = guess_instrument(line.name)
    if named is not None:
        return named
    by_program = next((name for name, program in GM_PROGRAMS.items() if program == line.program), "")
    return (line.program and instrument_named(by_program)) or TREBLE


def _moved_meters(meters: dict[Fraction, Meter], shift: Fraction) -> tuple[MeterRegion, ...]:
    found = {max(Fraction(0), time - shift): meter for time, meter in sorted(meters.items())}
    found.setdefault(Fraction(0), COMMON_TIME)
    return tuple(MeterRegion(onset, found[onset]) for onset in sorted(found))


def _moved_keys(keys: dict[Fraction, Key], shift: Fraction) -> tuple[KeyRegion, ...]:
    found = {max(Fraction(0), time - shift): key for time, key in sorted(keys.items())}
    found.setdefault(Fraction(0), Key(PitchName("C")))
    return tuple(KeyRegion(onset, found[onset]) for onset in sorted(found))
