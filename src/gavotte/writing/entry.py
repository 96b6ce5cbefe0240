"""Step entry: where the next note goes, how long it will be, and what each key of the writer does.

Three ways to write. *Notes*: a pitch writes a note of the chosen value; where the caret was put on a note that is
there, it goes to that note, until a value is chosen. *Rhythm*: a value writes a note (or gives the note at the caret
another length), its pitch left open. *Pitches*: a pitch goes to the note at the caret, whose rhythm stays.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from fractions import Fraction

from gavotte.notation.quantise import quantise
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Note, Solo, Tuplet
from gavotte.solo.spelling import respell_notes
from gavotte.theory.pitch import Pitch, spell
from gavotte.writing.pitches import named_pitch, with_pitch
from gavotte.writing.placing import cleared, closed, fresh_ids, note_at, note_before, opened, placed, with_line

VALUES = (Fraction(1, 8), Fraction(1, 4), Fraction(1, 2), Fraction(1), Fraction(2), Fraction(4))
"""The plain values that can be chosen, in quarter notes: 32nd to whole."""

MOST_DOTS = 2
TUPLETS = (Tuplet(3, 2), Tuplet(5, 4), Tuplet(6, 4), Tuplet(7, 4))


class Way(StrEnum):
    """What the keys write."""

    NOTES = "notes"
    RHYTHM = "rhythm"
    PITCHES = "pitches"


@dataclass(frozen=True, slots=True)
class Entry:
    """The writer's state: ``caret`` in quarter notes, the value chosen, and the way of writing.

    ``mends`` says that the caret was put on a note: the next pitch is that note's, whose length stays.
    """

    caret: Fraction = Fraction(0)
    value: Fraction = Fraction(1, 2)
    dots: int = 0
    tuplet: Tuplet | None = None
    insert: bool = False
    way: Way = Way.NOTES
    mends: bool = False

    @property
    def length(self) -> Fraction:
        """How long the next note is, in quarter notes."""
        dotted = self.value * (2 - Fraction(1, 2**self.dots))
        return dotted if self.tuplet is None else dotted * Fraction(self.tuplet.normal, self.tuplet.actual)

    def with_next_dots(self) -> Entry:
        """One dot more, or none after the last."""
        return replace(self, dots=(self.dots + 1) % (MOST_DOTS + 1), mends=False)

    def with_tuplet(self, tuplet: Tuplet) -> Entry:
        """In this tuplet, or plain where it was that already."""
        return replace(self, tuplet=None if self.tuplet == tuplet else tuplet, mends=False)


@dataclass(frozen=True, slots=True)
class Entered:
    """What a key made: the solo, the writer's new state, and the note that was written, if any."""

    solo: Solo
    entry: Entry
    note: str | None = None


def place_of_pitch(solo: Solo, entry: Entry) -> Fraction:
    """Where the next pitch goes: to the caret, or where pitches are poured in to the next note from there."""
    waiting = _waiting(solo, entry)
    return entry.caret if waiting is None else waiting.onset


def reach(solo: Solo, entry: Entry) -> Fraction:
    """How far from the caret the next note reaches, in quarter notes."""
    mended = note_to_mend(solo, entry)
    return entry.length if mended is None else mended.duration


def note_to_mend(solo: Solo, entry: Entry) -> Note | None:
    """The note at the caret whose pitch the next letter is, None where it writes another note."""
    return _waiting(solo, entry) if entry.way is Way.NOTES else None


def write_name(solo: Solo, entry: Entry, letter: str) -> Entered:
    """A pitch by its letter (A to G), in the octave nearest to the note it mends, or to the note before."""
    mended = note_to_mend(solo, entry)
    near = None if mended is None else mended.pitch
    return write_spelled(solo, entry, named_pitch(solo, letter, place_of_pitch(solo, entry), near))


def write_spelled(solo: Solo, entry: Entry, pitch: Pitch) -> Entered:
    """A pitch whose name is known: to the note that waits for one, or as a new note."""
    waiting = _waiting(solo, entry)
    return write_pitch(solo, entry, pitch) if waiting is None else _pour(solo, entry, waiting, pitch)


def write_sound(solo: Solo, entry: Entry, midi: int) -> Entered:
    """A pitch by its MIDI number, as from a keyboard; spelled by the chord, the key and where the line goes."""
    waiting = _waiting(solo, entry)
    if waiting is not None:
        done = _pour(solo, entry, waiting, spell(midi, 0))
        return replace(done, solo=respell_notes(done.solo, frozenset({waiting.id})))
    done = write_pitch(solo, entry, spell(midi, 0))
    before = note_before(solo, entry.caret)
    # What comes after decides the name of a chromatic note, so the one before is looked at again too.
    names = {done.note, before.id if before is not None and before.pitch.alter and before.end == entry.caret else None}
    return replace(done, solo=respell_notes(done.solo, frozenset(name for name in names if name is not None)))


def write_pitch(solo: Solo, entry: Entry, pitch: Pitch, uncertain: bool = False) -> Entered:
    """A note of the chosen value at the caret: over what is there, or before it where the writer inserts."""
    name = fresh_ids(solo, 1)[0]
    note = Note(name, entry.caret, entry.length, pitch, uncertain=uncertain)
    base = opened(solo, entry.caret, entry.length) if entry.insert else solo
    return Entered(placed(base, note), _onward(entry), name)


def write_rest(solo: Solo, entry: Entry) -> Entered:
    """Silence of the chosen value."""
    if entry.insert:
        return Entered(opened(solo, entry.caret, entry.length), _onward(entry))
    return Entered(cleared(solo, (entry.caret, entry.caret + entry.length)), _onward(entry))


def write_tie(solo: Solo, entry: Entry) -> Entered:
    """The note that ends at the caret holds on for the chosen value. Changes nothing where none does."""
    before = note_before(solo, entry.caret)
    if before is None or before.end < entry.caret:
        return Entered(solo, entry)
    base = opened(solo, entry.caret, entry.length) if entry.insert else solo
    held = replace(before, duration=entry.caret + entry.length - before.onset, written=())
    return Entered(placed(base, held), _onward(entry), before.id)


def write_value(solo: Solo, entry: Entry, value: Fraction) -> Entered:
    """A value is chosen; where rhythm is written it is written at once, its pitch left open."""
    chosen = replace(entry, value=value, mends=False)
    if entry.way is not Way.RHYTHM:
        return Entered(solo, chosen)
    here = note_at(solo, entry.caret)
    if here is not None and here.onset == entry.caret:
        return _with_rhythm(solo, chosen, here)
    before = note_before(solo, entry.caret)
    pitch = before.pitch if before is not None else named_pitch(solo, "B", entry.caret)
    return write_pitch(solo, chosen, pitch, uncertain=True)


@dataclass(frozen=True, slots=True)
class Tap:
    """A note somebody tapped or played in time: its ``onset`` in quarter notes as it was played.

    ``end`` is where it was let go, where that is known. ``pitch`` is what was played, None where that is left open;
    ``is_named`` says that it was given by its name, which then stays.
    """

    onset: Fraction
    end: Fraction | None = None
    pitch: Pitch | None = None
    is_named: bool = False


def write_taps(solo: Solo, entry: Entry, taps: Sequence[Tap], beat_seconds: float | None = None) -> Entered:
    """Notes where somebody tapped or played, each held to the next or to where it was let go, the last for the chosen
    value.

    The rhythm is quantised as a whole; pitches that were not played are left open. ``beat_seconds``: how long a beat
    lasts.
    """
    last = taps[-1].end if taps[-1].end is not None else taps[-1].onset + entry.length
    nexts = [*(tap.onset for tap in taps[1:]), last]
    ends = [
        following if tap.end is None else min(following, max(tap.end, tap.onset))
        for tap, following in zip(taps, nexts, strict=True)
    ]
    beat = solo.meters[0].meter.beats[0].length
    onsets = [tap.onset for tap in taps]
    rhythm = quantise(list(zip(onsets, ends, strict=True)), beat, beat_seconds=beat_seconds)
    state = replace(entry, way=entry.way if all(tap.pitch is not None for tap in taps) else Way.RHYTHM)
    done = Entered(solo, state)
    to_spell: set[str] = set()
    for tap, (onset, duration) in zip(taps, rhythm.times, strict=True):
        if duration <= 0 or onset < -solo.pickup:
            continue
        pitch = tap.pitch
        if pitch is None:
            before = note_before(done.solo, onset)
            pitch = before.pitch if before is not None else named_pitch(done.solo, "B", onset)
        note = Note(fresh_ids(done.solo, 1)[0], onset, duration, pitch, uncertain=tap.pitch is None)
        if tap.pitch is not None and not tap.is_named:
            to_spell.add(note.id)
        done = Entered(placed(done.solo, note), replace(state, caret=note.end), note.id)
    return replace(done, solo=respell_notes(done.solo, frozenset(to_spell))) if to_spell else done


def _with_rhythm(solo: Solo, entry: Entry, here: Note) -> Entered:
    """The note at the caret gets the chosen length; what follows closes up or makes room."""
    change = entry.length - here.duration
    if change > 0:
        base = opened(solo, here.end, change)
    elif change < 0:
        base = closed(solo, here.onset + entry.length, here.end)
    else:
        base = solo
    line = [replace(note, duration=entry.length, written=()) if note.id == here.id else note for note in base.notes]
    return Entered(with_line(base, line), _onward(entry), here.id)


def _pour(solo: Solo, entry: Entry, note: Note, pitch: Pitch) -> Entered:
    """A waiting note gets its pitch, and the caret goes to the next one."""
    poured = with_pitch(solo, note.id, pitch)
    sure = tuple(replace(known, uncertain=False) if known.id == note.id else known for known in poured.notes)
    following = None if entry.way is Way.NOTES else _next_note(solo, note.end)
    caret = note.end if following is None else following.onset
    return Entered(replace(poured, notes=sure), replace(entry, caret=caret), note.id)


def take_back(solo: Solo, entry: Entry) -> Entered:
    """What stands before the caret goes, note or rest, and the caret goes there; an inserting writer closes the gap."""
    start = previous_stop(solo, entry)
    if start == entry.caret:
        return Entered(solo, entry)
    base = closed(solo, start, entry.caret) if entry.insert else cleared(solo, (start, entry.caret))
    return Entered(base, replace(entry, caret=start))


def _onward(entry: Entry) -> Entry:
    return replace(entry, caret=entry.caret + entry.length, mends=False)


def _waiting(solo: Solo, entry: Entry) -> Note | None:
    """The note that the next pitch is for, where it is for one that is there."""
    if entry.way is not Way.NOTES:
        return _next_note(solo, entry.caret)
    here = note_at(solo, entry.caret) if entry.mends and not entry.insert else None
    return here if here is not None and here.onset == entry.caret else None


def _next_note(solo: Solo, time: Fraction) -> Note | None:
    """The note at a time, or the next one."""
    return next((note for note in solo.notes if not note.grace and note.end > time), None)


# -- moving the caret -----------------------------------------------------------------------------------


def stops(solo: Solo) -> list[Fraction]:
    """Where the caret halts: at each note, at each rest's start, and at the barlines."""
    places = {bar.onset for bar in BarGrid(solo).bars}
    for note in solo.notes:
        if not note.grace:
            places |= {note.onset, note.end}
    return sorted(places)


def next_stop(solo: Solo, entry: Entry) -> Fraction:
    """The next place to halt; in silence a value further, if that is nearer."""
    further = next((place for place in stops(solo) if place > entry.caret), None)
    step = entry.caret + entry.length
    if further is None:
        return step
    here = note_at(solo, entry.caret)
    return further if here is not None else min(further, step)


def previous_stop(solo: Solo, entry: Entry) -> Fraction:
    """The place to halt before; in silence a value back, if that is nearer. Not before the start."""
    start = -solo.pickup
    before = [place for place in stops(solo) if place < entry.caret]
    if not before:
        return max(start, min(entry.caret, entry.caret - entry.length)) if entry.caret > start else start
    sounding = note_at(solo, before[-1])
    if sounding is not None:
        return before[-1]
    return max(before[-1], entry.caret - entry.length)
