"""One line of a solo in MEI, the format the engraver reads.

Every event gets an id ``e<number>`` that counts through the line; ``Line.places`` says which event it is, and
in which bar. Degrees are written as verse syllables so that the engraver leaves room for them; they, and the
chord symbols, are drawn by the page itself.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass
from html import escape

from gavotte.notation.written import Event, Notation, WrittenBar
from gavotte.solo.bars import Bar
from gavotte.solo.by_identity import followed_by_identity
from gavotte.solo.differences import differing
from gavotte.solo.document import Articulation, ChordEvent, Instrument, Note, Solo
from gavotte.solo.form import form_marks
from gavotte.theory.pitch import Pitch

_ARTICULATIONS = {
    Articulation.ACCENT: "acc",
    Articulation.STACCATO: "stacc",
    Articulation.TENUTO: "ten",
    Articulation.MARCATO: "marc",
}


@dataclass(frozen=True)
class Line:
    """The MEI of a line; its events by id and its chord symbols, each with the index of its bar in the line."""

    mei: str
    places: dict[str, tuple[int, Event]]
    chords: tuple[tuple[int, ChordEvent], ...]
    bars: tuple[WrittenBar, ...]

    @property
    def events(self) -> dict[str, Event]:
        """The events by id, in order."""
        return {event_id: event for event_id, (_, event) in self.places.items()}


@dataclass(frozen=True, slots=True)
class Staff:
    """How the part is put on its staff: clef shape and line, and octaves the notes are written above sounding."""

    clef_shape: str
    clef_line: int
    octaves: int

    def shown(self, pitch: Pitch) -> Pitch:
        """The pitch as it stands on the staff."""
        return Pitch(pitch.letter, pitch.alter, pitch.octave + self.octaves)


def staff_for(solo: Solo) -> Staff:
    """The staff the line is read from: the player's clef or the instrument's, an octave clef for low parts."""
    instrument: Instrument = solo.instrument
    octaves = 1 if instrument.transposition_semitones <= -12 else 0
    if instrument.chosen_clef:
        clef, _, lower = instrument.chosen_clef.partition("-")
        return Staff(clef[0], int(clef[1]), 1 if lower else octaves if clef[0] != "C" else 0)
    if instrument.clef != "G2":
        return Staff(instrument.clef[0], int(instrument.clef[1]), octaves)
    return Staff("F", 4, 0) if _middle(solo.notes) < 54 and not octaves else Staff("G", 2, octaves)


def _middle(notes: tuple[Note, ...]) -> int:
    """The pitch (MIDI number) that half of the notes lie below."""
    left = len(notes) // 2
    for pitch, number in sorted(_pitches(notes).items()):
        if left < number:
            return pitch
        left -= number
    return 67


def _pitches_after(before: tuple[Note, ...], pitches: Counter[int], notes: tuple[Note, ...]) -> Counter[int] | None:
    start, old_stop, new_stop = differing(before, notes)
    if old_stop + new_stop - 2 * start > len(notes) // 2:
        return None
    come = Counter(note.pitch.midi for note in notes[start:new_stop])
    gone = Counter(note.pitch.midi for note in before[start:old_stop])
    return pitches + come - gone


@followed_by_identity(4, _pitches_after)
def _pitches(notes: tuple[Note, ...]) -> Counter[int]:
    """How many notes there are of each pitch (MIDI number)."""
    return Counter(note.pitch.midi for note in notes)


def line_mei(
    notation: Notation, first: int, last: int, staff: Staff, degrees: Mapping[str, str], with_meter: bool = False
) -> Line:
    """The bars from index ``first`` up to ``last`` (not included) as one MEI document.

    ``degrees`` holds the text that stands under each note, by note id. The solo's first line shows its meter, and one
    that begins in another meter than the line before ended in; with ``with_meter`` it does in any case.
    """
    return _Writer(notation, staff, degrees).line(first, last, with_meter)


class _Writer:
    def __init__(self, notation: Notation, staff: Staff, degrees: Mapping[str, str]) -> None:
        self.notation, self.staff, self.degrees = notation, staff, degrees
        self.out: list[str] = []
        self.places: dict[str, tuple[int, Event]] = {}
        self.ids: dict[int, str] = {}
        self.section_starts = frozenset(mark.onset for mark in form_marks(notation.solo))

    def line(self, first: int, last: int, with_meter: bool) -> Line:
        bars = tuple(self.notation.bar(i) for i in range(first, last))
        for index, written in enumerate(bars):
            for event in written.events:
                event_id = f"e{len(self.places)}"
                self.places[event_id] = (index, event)
                self.ids[id(event)] = event_id
        before = self.notation.grid.bars[first - 1].meter if first else None
        self._head(bars[0], with_meter or before != bars[0].bar.meter)
        for index, written in enumerate(bars):
            self._bar(written, bars[index - 1] if index else None, bars[index + 1 :], first + index)
        self.out.append("</section></score></mdiv></body></music></mei>")
        chords = tuple((i - first, chord) for i in range(first, last) for chord in self.notation.chords(i))
        return Line("".join(self.out), self.places, chords, bars)

    def _head(self, written: WrittenBar, show_meter: bool) -> None:
        meter = written.bar.meter
        visible = "" if show_meter else ' meter.visible="false"'
        octave = ' clef.dis="8" clef.dis.place="below"' if self.staff.octaves else ""
        self.out.append(
            '<?xml version="1.0" encoding="UTF-8"?><mei xmlns="http://www.music-encoding.org/ns/mei" '
            'meiversion="5.0"><meiHead/><music><body><mdiv><score><scoreDef><staffGrp>'
            f'<staffDef n="1" lines="5" clef.shape="{self.staff.clef_shape}" clef.line="{self.staff.clef_line}"'
            f'{octave} keysig="{_keysig(written.key.fifths)}" meter.count="{meter.count}" '
            f'meter.unit="{meter.unit}"{visible}/></staffGrp></scoreDef><section>'
        )

    def _bar(self, written: WrittenBar, before: WrittenBar | None, later: tuple[WrittenBar, ...], index: int) -> None:
        bar = written.bar
        if before is not None and (before.bar.meter != bar.meter or before.key.fifths != written.key.fifths):
            self.out.append(
                f'<scoreDef keysig="{_keysig(written.key.fifths)}" meter.count="{bar.meter.count}" '
                f'meter.unit="{bar.meter.unit}"/>'
            )
        right = self._barline_after(bar, index)
        incomplete = "" if bar.length == bar.meter.bar_length else ' metcon="false"'
        self.out.append(f'<measure n="{bar.number}" xml:id="m{index}"{right}{incomplete}><staff n="1"><layer n="1">')
        self._events(written)
        self.out.append("</layer></staff>")
        self._ties(written, later)
        self.out.append("</measure>")

    def _barline_after(self, bar: Bar, index: int) -> str:
        """The end of the solo has a final barline, the end of a section a double one."""
        if index + 1 == len(self.notation):
            return ' right="end"'
        return ' right="dbl"' if bar.end in self.section_starts and bar.number else ""

    def _events(self, written: WrittenBar) -> None:
        open_tuplet: int | None = None
        open_beam: int | None = None
        for event in written.events:
            grace = event.note is not None and event.note.grace
            if not grace or event.beam is None:
                if event.beam != open_beam and open_beam is not None:
                    self.out.append("</beam>")
                    open_beam = None
                if not grace and event.tuplet != open_tuplet:
                    if open_tuplet is not None:
                        self.out.append("</tuplet>")
                    open_tuplet = event.tuplet
                    if open_tuplet is not None:
                        span = written.tuplets[open_tuplet]
                        self.out.append(f'<tuplet num="{span.actual}" numbase="{span.normal}">')
                if event.beam is not None and open_beam is None:
                    self.out.append("<beam>")
                    open_beam = event.beam
            self._event(event)
        if open_beam is not None:
            self.out.append("</beam>")
        if open_tuplet is not None:
            self.out.append("</tuplet>")

    def _event(self, event: Event) -> None:
        event_id = self.ids[id(event)]
        if event.whole_bar:
            self.out.append(f'<mRest xml:id="{event_id}"/>')
            return
        duration = f'dur="{event.value.base}"' + (f' dots="{event.value.dots}"' if event.value.dots else "")
        note = event.note
        if note is None:
            self.out.append(f'<rest xml:id="{event_id}" {duration}/>')
            return
        pitch = self.staff.shown(note.pitch)
        accidental = f' accid="{event.accidental}"' if event.accidental else ""
        if not accidental and pitch.alter:
            accidental = f' accid.ges="{"s" if pitch.alter > 0 else "f"}"'
        extras = ' grace="unacc"' if note.grace else ""
        if note.has(Articulation.GHOST):
            extras += ' head.mod="paren"'
        inner = ""
        if not event.tied_from:
            inner = "".join(
                f'<artic artic="{_ARTICULATIONS[mark.articulation]}"/>'
                for mark in note.marks
                if mark.articulation in _ARTICULATIONS
            )
            degree = self.degrees.get(note.id, "")
            if degree:
                inner += f'<verse n="1"><syl>{escape(degree)}</syl></verse>'
        self.out.append(
            f'<note xml:id="{event_id}" pname="{pitch.letter.lower()}" oct="{pitch.octave}" '
            f"{duration}{accidental}{extras}>{inner}</note>"
        )

    def _ties(self, written: WrittenBar, later: tuple[WrittenBar, ...]) -> None:
        following = [*written.events, *(later[0].events if later else ())]
        for i, event in enumerate(written.events):
            if event.tied_on:
                end = next((e for e in following[i + 1 :] if e.note is event.note), None)
                if end is not None:
                    self.out.append(f'<tie startid="#{self.ids[id(event)]}" endid="#{self.ids[id(end)]}"/>')


def _keysig(fifths: int) -> str:
    bounded = max(-7, min(7, fifths))
    return "0" if bounded == 0 else f"{abs(bounded)}{'s' if bounded > 0 else 'f'}"
