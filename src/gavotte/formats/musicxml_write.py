"""Writing MusicXML 4.0: a solo as one part in written pitch, with chord symbols, form and articulations.

Labels go out as lyric lines if wished. What the format has no place for is left out: phrases, decisions and the
blues setting (which a reader infers from the chords). A note in doubt carries the footnote "uncertain".
"""

from __future__ import annotations

import itertools
import re
import xml.etree.ElementTree as ET
from collections.abc import Mapping
from fractions import Fraction
from math import lcm

from gavotte.formats.musicxml_chord import harmony_members
from gavotte.formats.musicxml_part import UNCERTAIN
from gavotte.giving_way import give_way
from gavotte.notation.written import Event, Notation, WrittenBar
from gavotte.solo.document import Articulation, ChordEvent, Note, Pick, Solo
from gavotte.solo.strings import fret_of, usual_tuning
from gavotte.solo.tags import written_tags
from gavotte.theory.chord import Chord
from gavotte.theory.interval import Interval
from gavotte.theory.key import Key
from gavotte.theory.meter import Meter

_TYPES = {1: "whole", 2: "half", 4: "quarter", 8: "eighth", 16: "16th", 32: "32nd", 64: "64th"}
_ACCIDENTALS = {
    "n": "natural", "s": "sharp", "f": "flat", "ss": "double-sharp", "ff": "flat-flat", "ts": "triple-sharp",
    "tf": "triple-flat",
}  # fmt: skip
_ARTICULATIONS = {
    Articulation.ACCENT: "accent", Articulation.MARCATO: "strong-accent", Articulation.STACCATO: "staccato",
    Articulation.TENUTO: "tenuto", Articulation.FALL: "falloff", Articulation.SCOOP: "scoop",
}  # fmt: skip
_PICKS = {Pick.DOWN: "down-bow", Pick.UP: "up-bow"}
_JOINED = {Articulation.HAMMER_ON: "hammer-on", Articulation.PULL_OFF: "pull-off"}
_XML_ID = re.compile(r"[A-Za-z_][\w.-]*")
_TIED_LETTERS = {Articulation.HAMMER_ON: "H", Articulation.PULL_OFF: "P"}


def write_musicxml(solo: Solo, lyrics: Mapping[str, str] | None = None) -> bytes:
    """The solo as a MusicXML file. ``lyrics`` holds a text to stand under each note, by note id."""
    root = _Writer(solo, lyrics or {}).score()
    ET.indent(root)
    text: str = ET.tostring(root, encoding="unicode")
    return f'<?xml version="1.0" encoding="UTF-8"?>\n{text}'.encode()


def _add(parent: ET.Element, tag: str, text: object = None, **attributes: str) -> ET.Element:
    child = ET.SubElement(parent, tag, attributes)
    if text is not None:
        child.text = str(text)
    return child


class _Writer:
    def __init__(self, solo: Solo, lyrics: Mapping[str, str]) -> None:
        self.solo, self.lyrics = solo, lyrics
        self.notation = Notation(solo)
        self.bars = [self.notation.bar(index) for index in range(len(self.notation))]
        instrument = solo.instrument
        self.to_written = Interval(-instrument.transposition_steps, -instrument.transposition_semitones)
        self.tuning = usual_tuning(instrument)
        self.divisions = self._divisions()
        sounding = [note for note in solo.notes if not note.grace]
        self.follows = {b.id: a for a, b in itertools.pairwise(sounding)}
        self.leads = {a.id: b for a, b in itertools.pairwise(sounding)}

    def _divisions(self) -> int:
        """Divisions of a quarter note that every length and position is a whole number of."""
        times = [event.length for bar in self.bars for event in bar.events]
        times += [event.onset for bar in self.bars for event in bar.events]
        times += [chord.onset for chord in self.solo.chords]
        times += [change.onset for change in self.solo.tempo_changes]
        return lcm(*(time.denominator for time in times)) if times else 1

    def score(self) -> ET.Element:
        root = ET.Element("score-partwise", {"version": "4.0"})
        _add(_add(root, "work"), "work-title", self.solo.title)
        identification = _add(root, "identification")
        if self.solo.player:
            _add(identification, "creator", self.solo.player, type="player")
        _add(_add(identification, "encoding"), "software", "Gavotte")
        solo = self.solo
        fields = {"style": solo.style, "album": solo.album, "year": str(solo.year or ""), "source": solo.source,
                  "tags": written_tags(solo.tags), "chorus": str(solo.chorus) if solo.chorus else ""}  # fmt: skip
        if any(fields.values()):
            miscellaneous = _add(identification, "miscellaneous")
            for name, value in fields.items():
                if value:
                    _add(miscellaneous, "miscellaneous-field", value, name=name)
        part = _add(_add(root, "part-list"), "score-part", id="P1")
        _add(part, "part-name", self.solo.instrument.name)
        music = _add(root, "part", id="P1")
        for index, written in enumerate(self.bars):
            self._measure(music, written, index)
        return root

    def _measure(self, part: ET.Element, written: WrittenBar, index: int) -> None:
        bar = written.bar
        measure = _add(part, "measure", number=str(bar.number))
        if bar.number == 0:
            measure.set("implicit", "yes")
        before = self.bars[index - 1] if index else None
        self._attributes(measure, written, before)
        if index == 0 and self.solo.tempo:
            self._tempo(measure, self.solo.tempo, self.solo.swing)
        elif index == 0 and self.solo.swing is not None:
            _swing(_add(measure, "sound"), self.solo.swing)
        chords = self.notation.chords(index)
        for event in written.events:
            give_way()
            self._before_event(measure, event, chords, first=event is written.events[0])
            self._event(measure, event, written)
        if index + 1 == len(self.bars):
            _add(_add(measure, "barline", location="right"), "bar-style", "light-heavy")

    def _tempo(
        self, measure: ET.Element, tempo: Fraction, swing: Fraction | None = None, offset: Fraction = Fraction(0)
    ) -> None:
        direction = _add(measure, "direction", placement="above")
        metronome = _add(_add(direction, "direction-type"), "metronome")
        _add(metronome, "beat-unit", "quarter")
        _add(metronome, "per-minute", _number(tempo))
        if offset:
            _add(direction, "offset", int(offset * self.divisions))
        sound = _add(direction, "sound", tempo=_number(tempo))
        if swing is not None:
            _swing(sound, swing)

    def _attributes(self, measure: ET.Element, written: WrittenBar, before: WrittenBar | None) -> None:
        new_key = before is None or before.key != written.key
        new_meter = before is None or before.bar.meter != written.bar.meter
        if not (new_key or new_meter):
            return
        attributes = _add(measure, "attributes")
        if before is None:
            _add(attributes, "divisions", self.divisions)
        if new_key:
            _key(attributes, Key(written.key.tonic.transposed(self.to_written), written.key.mode))
        if new_meter:
            _time(attributes, written.bar.meter)
        if before is None:
            clef = _add(attributes, "clef")
            shape, _, lower = (self.solo.instrument.chosen_clef or self.solo.instrument.clef).partition("-")
            _add(clef, "sign", shape[0])
            _add(clef, "line", shape[1:])
            if lower:
                _add(clef, "clef-octave-change", -1)
            if self.to_written.semitones:
                transpose = _add(attributes, "transpose")
                _add(transpose, "diatonic", -self.to_written.steps)
                _add(transpose, "chromatic", -self.to_written.semitones)

    def _before_event(self, measure: ET.Element, event: Event, chords: list[ChordEvent], first: bool) -> None:
        """Section marks and chord symbols that belong to the time of an event, the latter with their offset."""
        if event.note is not None and event.note.grace:
            return
        end = event.onset + event.length
        for section in self.solo.sections:
            if event.onset <= section.onset < end:
                _add(_add(_add(measure, "direction"), "direction-type"), "rehearsal", section.label)
        for text in self.solo.texts:
            if event.onset <= text.onset < end:
                direction = _add(measure, "direction", placement="above")
                _add(_add(direction, "direction-type"), "words", text.words)
                if text.onset > event.onset:
                    _add(direction, "offset", int((text.onset - event.onset) * self.divisions))
        for change in self.solo.tempo_changes:
            if event.onset <= change.onset < end:
                self._tempo(measure, change.tempo, offset=change.onset - event.onset)
        for chord in chords:
            if event.onset <= chord.onset < end or (first and chord.onset < event.onset):
                offset = int(max(Fraction(0), chord.onset - event.onset) * self.divisions)
                symbol = chord.symbol
                if isinstance(symbol, Chord):
                    symbol = symbol.transposed(self.to_written)
                harmony = _add(measure, "harmony")
                harmony.extend(harmony_members(symbol))
                if offset:
                    _add(harmony, "offset", offset)

    def _event(self, measure: ET.Element, event: Event, written: WrittenBar) -> None:
        """One <note>; the schema fixes the order of what it holds."""
        note = event.note
        element = _add(measure, "note")
        self._sound(element, event)
        for kind, tied in (("stop", event.tied_from), ("start", event.tied_on)):
            if tied:
                _add(element, "tie", type=kind)
        if note is not None and note.uncertain and not event.tied_from:
            _add(element, "footnote", UNCERTAIN)
        _add(element, "voice", 1)
        self._value(element, event, written)
        if note is not None and note.has(Articulation.GHOST):
            _add(element, "notehead", "normal", parentheses="yes")
        self._notations(element, event, written)
        if note is not None and not event.tied_from and note.id in self.lyrics:
            lyric = _add(element, "lyric", number="1")
            _add(lyric, "syllabic", "single")
            _add(lyric, "text", self.lyrics[note.id])

    def _sound(self, element: ET.Element, event: Event) -> None:
        """Pitch or rest, and how long it lasts."""
        note = event.note
        if note is None:
            rest = _add(element, "rest")
            if event.whole_bar:
                rest.set("measure", "yes")
        else:
            if note.grace:
                _add(element, "grace", slash="yes")
            if not event.tied_from and _XML_ID.fullmatch(note.id):
                element.set("id", note.id)
            pitch = note.pitch.transposed(self.to_written)
            spelled = _add(element, "pitch")
            _add(spelled, "step", pitch.letter)
            if pitch.alter:
                _add(spelled, "alter", pitch.alter)
            _add(spelled, "octave", pitch.octave)
        if note is None or not note.grace:
            _add(element, "duration", int(event.length * self.divisions))

    def _value(self, element: ET.Element, event: Event, written: WrittenBar) -> None:
        """How the length is written: type, dots, accidental, tuplet ratio."""
        if not event.whole_bar:
            _add(element, "type", _TYPES.get(event.value.base, "quarter"))
            for _ in range(event.value.dots):
                _add(element, "dot")
        if event.accidental and not self.to_written.semitones:
            _add(element, "accidental", _ACCIDENTALS[event.accidental])
        if event.tuplet is not None:
            span = written.tuplets[event.tuplet]
            ratio = _add(element, "time-modification")
            _add(ratio, "actual-notes", span.actual)
            _add(ratio, "normal-notes", span.normal)

    def _notations(self, element: ET.Element, event: Event, written: WrittenBar) -> None:
        notations = ET.Element("notations")
        for kind, tied in (("stop", event.tied_from), ("start", event.tied_on)):
            if tied:
                _add(notations, "tied", type=kind)
        self._tuplet_ends(notations, event, written)
        note = event.note
        if note is not None and not note.grace:
            if not event.tied_from:
                self._marks(notations, note)
            if not event.tied_on and note.has(Articulation.SLIDE) and note.id in self.leads:
                _add(notations, "slide", type="start", number="1")
        if len(notations):
            element.append(notations)

    def _tuplet_ends(self, notations: ET.Element, event: Event, written: WrittenBar) -> None:
        members = [e for e in written.events if e.tuplet == event.tuplet and not (e.note and e.note.grace)]
        if event.tuplet is None or not members:
            return
        if event is members[0]:
            _add(notations, "tuplet", type="start")
        if event is members[-1]:
            _add(notations, "tuplet", type="stop")

    def _marks(self, notations: ET.Element, note: Note) -> None:
        before, after = self.follows.get(note.id), self.leads.get(note.id)
        if before is not None and before.has(Articulation.SLIDE):
            _add(notations, "slide", type="stop", number="1")
        if note.has(Articulation.TRILL):
            _add(_add(notations, "ornaments"), "trill-mark")
        technical = ET.Element("technical")
        for articulation, tag in _JOINED.items():
            if after is not None and after.has(articulation):
                _add(technical, tag, _TIED_LETTERS[articulation], type="start", number="1")
            if note.has(articulation):
                _add(technical, tag, type="stop", number="1")
        if note.has(Articulation.HARMONIC):
            _add(technical, "harmonic")
        if note.pick is not None:
            _add(technical, _PICKS[note.pick])
        if note.finger:
            _add(technical, "fingering", note.finger)
        if note.string:
            _add(technical, "string", note.string)
            fret = fret_of(note.pitch.midi, note.string, self.tuning) if self.tuning is not None else None
            if fret is not None:
                _add(technical, "fret", fret)
        for mark in note.marks:
            if mark.articulation is Articulation.BEND:
                _add(_add(technical, "bend"), "bend-alter", f"{float(mark.semitones or 1):g}")
        if len(technical):
            notations.append(technical)
        plain = [mark for mark in note.marks if mark.articulation in _ARTICULATIONS]
        if plain:
            group = _add(notations, "articulations")
            for mark in plain:
                _add(group, _ARTICULATIONS[mark.articulation])


def _number(value: Fraction) -> str:
    """A decimal as short as can be."""
    return f"{float(value):.6f}".rstrip("0").rstrip(".")


def _swing(sound: ET.Element, swing: Fraction) -> None:
    element = _add(sound, "swing")
    if swing == 1:
        _add(element, "straight")
        return
    _add(element, "first", swing.numerator)
    _add(element, "second", swing.denominator)
    _add(element, "swing-type", "eighth")


def _key(attributes: ET.Element, key: Key) -> None:
    element = _add(attributes, "key")
    _add(element, "fifths", key.fifths)
    _add(element, "mode", key.mode)


def _time(attributes: ET.Element, meter: Meter) -> None:
    element = _add(attributes, "time")
    _add(element, "beats", "+".join(map(str, meter.grouping)) if meter.grouping else meter.count)
    _add(element, "beat-type", meter.unit)
