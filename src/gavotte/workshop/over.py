"""A line laid over a progression: on each chord, or run of chords, that suits it, and led from place to place."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from fractions import Fraction
from itertools import pairwise

from gavotte.giving_way import give_way
from gavotte.harmony.changes import Change, changes_of
from gavotte.harmony.foreignness import chord_quality
from gavotte.labelling.labeller import Labelled
from gavotte.labelling.wording import symbol_words
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import ChordEvent, Instrument, Note, Solo
from gavotte.solo.moving import shifted
from gavotte.theory.chord import Chord
from gavotte.theory.chord_symbol import write_chord_symbol
from gavotte.workshop.fitting import Fit, fitted_pitches
from gavotte.workshop.ladder import STEPS, step_of
from gavotte.workshop.laid import in_values
from gavotte.workshop.piece import Piece, changed_pitch, labelled_once


class Begin(StrEnum):
    """On which chord tone each placing begins."""

    AS_IT_IS = "as it is"
    ROOT = "root"
    THIRD = "third"
    FIFTH = "fifth"
    SEVENTH = "seventh"
    IN_TURN = "each in turn"
    NEAREST = "the nearest"


class Lead(StrEnum):
    """How one placing follows another: near where the one before ended, or always in the line's own register."""

    CONNECTED = "connected"
    VERTICAL = "vertical"


@dataclass(frozen=True)
class Manner:
    """How a line is laid over a progression.

    ``any_chord`` has it fitted to chords of other kinds than its own, ``other_values`` brought to half or twice its
    values where a chord is shorter or longer, ``again`` repeated while a chord lasts, ``parts`` taken chord by
    chord, each part over a chord of its kind, ``close`` its last bar end on a held chord tone.
    """

    how: Fit = Fit.DEGREE
    begin: Begin = Begin.AS_IT_IS
    lead: Lead = Lead.CONNECTED
    any_chord: bool = True
    other_values: bool = True
    again: bool = False
    parts: bool = False
    close: bool = False


_STEPS = {Begin.ROOT: 0, Begin.THIRD: 2, Begin.FIFTH: 4, Begin.SEVENTH: 6}
_TURN = (0, 2, 4, 6)
_FACTORS = (Fraction(1), Fraction(1, 2), Fraction(2), Fraction(1, 4), Fraction(4))
_WIDEST_GAP = 7
"""Semitones: a fifth, what placings are led within."""


@dataclass(frozen=True)
class Unit:
    """A line as it is placed: its piece with its first chord at 0, and every chord it goes through (``changes``)."""

    piece: Piece
    changes: tuple[Change, ...]

    @property
    def lands(self) -> bool:
        """Whether over its last chord it only lands: that chord may begin the next placing."""
        last = self.changes[-1].onset
        return len(self.changes) > 1 and sum(note.onset >= last for note in self.piece.solo.notes) <= 1

    @property
    def start(self) -> Fraction:
        """Where its first note begins; negative where it leads into the first chord."""
        return self.piece.solo.notes[0].onset

    @property
    def end(self) -> Fraction:
        """Where its last note ends."""
        return self.piece.solo.notes[-1].end


def laid_over(piece: Piece, progression: Solo, manner: Manner) -> Piece:
    """The piece's line over a progression; where it can't go is told. Ids of notes have the placing's number in front.

    Raises ValueError where the line has no chord to be placed by.
    """
    whole = unit_of(piece)
    units = _by_chord(whole) if manner.parts else (whole,)
    grid = BarGrid(progression)
    changes = changes_within(progression, grid.bars[-1].end)
    timed: dict[tuple[int, Fraction], Labelled] = {}
    notes: list[Note] = []
    made_of: dict[str, str] = {}
    left: list[Change] = []
    before: int | None = None
    for number, placing in enumerate(_placings(units, changes, manner, left)):
        give_way()
        unit, run, factor = placing.unit, placing.run, placing.factor
        key = (units.index(unit), factor)
        if key not in timed:
            timed[key] = labelled_once(replace(in_values(unit.piece.solo, factor), pickup=Fraction(0)))
        pitches = _placed(placing, timed[key], progression, manner, number, before)
        line = timed[key].solo.notes
        start = run[0].onset + line[0].onset
        make_room(notes, start)
        for note, midi in zip(line, pitches, strict=True):
            fresh = changed_pitch(replace(note, id=f"{number}:{note.id}", onset=note.onset + run[0].onset), midi)
            made_of[fresh.id] = note.id
            notes.append(fresh)
        before = pitches[-1]
    said = _left_words(left, units, grid)
    if not notes:
        return Piece(progression, {}, said)
    make_room(notes, changes[-1].end)
    ground = replace(progression, pickup=pickup_of(notes, progression))
    result = Piece(ground, piece.origins).with_notes(notes, made_of)
    return (_closed(result, changes) if manner.close else result).telling(*said)


def changes_within(progression: Solo, end: Fraction) -> tuple[Change, ...]:
    """The chords of a progression, the last of them up to its end (quarter notes)."""
    changes = changes_of(replace(progression, form_end=end))
    if not changes:
        raise ValueError("There is no chord in the progression that can be read.")
    last = changes[-1]
    return (*changes[:-1], replace(last, length=max(Fraction(1, 64), end - last.onset)))


def pickup_of(notes: Sequence[Note], progression: Solo) -> Fraction:
    """How long a pickup a progression needs (quarter notes) for notes that begin before it."""
    bar = progression.meters[0].meter.bar_length
    return max(progression.pickup, min(max(Fraction(0), -notes[0].onset), bar - Fraction(1, 64)))


def make_room(notes: list[Note], at: Fraction) -> None:
    """Let a line, in order, end at a time (quarter notes): later notes go, the last one is cut."""
    while notes and notes[-1].onset >= at:
        notes.pop()
    if notes:
        notes[-1] = cut_note(notes[-1], at)


def cut_note(note: Note, at: Fraction) -> Note:
    """A note that ends at a time (quarter notes) at the latest."""
    return note if note.end <= at else replace(note, duration=at - note.onset, written=(), tuplet=None)


def unit_of(piece: Piece) -> Unit:
    """A piece's line by its own first chord. Raises ValueError where it has none."""
    solo = piece.solo
    start, end = solo.notes[0].onset, solo.notes[-1].end
    # What only leads into the first bar is heard over the first chord of it.
    first = max(start, Fraction(0)) if end > 0 else start
    changes = [change for change in changes_of(solo) if change.end > first and change.onset < end]
    if not changes:
        raise ValueError("The line has no chord. Write one over it at the Write desk, or choose another one.")
    origin = max(changes[0].onset, first - first % solo.meters[0].meter.bar_length)
    own = tuple(Change(max(c.onset, origin) - origin, c.end - max(c.onset, origin), c.chord) for c in changes)
    events = tuple(ChordEvent(f"c{k}", c.onset, write_chord_symbol(c.chord)) for k, c in enumerate(own))
    moved = replace(_moved(solo, -origin), chords=events)
    return Unit(replace(piece, solo=moved), own)


def _moved(solo: Solo, by: Fraction) -> Solo:
    """The solo with its notes moved in time."""
    if not by:
        return solo
    return replace(solo, notes=tuple(shifted(note, by) for note in solo.notes))


def _by_chord(whole: Unit) -> tuple[Unit, ...]:
    """The line cut into what is played over each of its chords."""
    parts: list[Unit] = []
    for change in whole.changes:
        notes = [note for note in whole.piece.solo.notes if change.onset <= note.onset < change.end]
        if not parts:
            notes = [note for note in whole.piece.solo.notes if note.onset < change.onset] + notes
        if notes:
            solo = replace(whole.piece.solo, notes=tuple(cut_note(note, change.end) for note in notes))
            event = ChordEvent("c0", Fraction(0), write_chord_symbol(change.chord))
            solo = replace(_moved(solo, -change.onset), chords=(event,))
            parts.append(Unit(replace(whole.piece, solo=solo), (replace(change, onset=Fraction(0)),)))
    return tuple(parts)


@dataclass(frozen=True)
class _Placing:
    """A run of the progression's chords a unit is placed on, and in how many times its values."""

    unit: Unit
    run: Sequence[Change]
    factor: Fraction


def _placings(
    units: Sequence[Unit], changes: Sequence[Change], manner: Manner, left: list[Change]
) -> Iterator[_Placing]:
    """Where the line, or its parts, are placed; ``left`` gathers the chords over which nothing can go."""
    index, covered = 0, 0
    reached = changes[0].onset - _LONG_AGO
    while index < len(changes):
        placing = next(_fitting(units, changes, index, manner), None)
        if placing is None or placing.run[0].onset + placing.unit.start * placing.factor < reached:
            if index >= covered:
                left.append(changes[index])
            index += 1
            continue
        yield placing
        unit, run, factor = placing.unit, placing.run, placing.factor
        covered = index + len(unit.changes)
        lands = unit.lands
        reached = run[0].onset + (unit.changes[-1].onset if lands else unit.end) * factor
        if len(run) == 1 and manner.again:
            length = max(_whole_beats(unit) * factor, Fraction(1))
            start = run[0].onset + length
            while start + unit.end * factor <= run[0].end:
                yield _Placing(unit, [replace(run[0], onset=start, length=run[0].end - start)], factor)
                reached = start + unit.end * factor
                start += length
        index = covered - 1 if lands else covered


def _fitting(units: Sequence[Unit], changes: Sequence[Change], index: int, manner: Manner) -> Iterator[_Placing]:
    """The units that fit the chords from one on, those over a chord of the same kind first."""
    kind = chord_quality(changes[index].chord)
    for unit in sorted(units, key=lambda unit: chord_quality(unit.changes[0].chord) != kind):
        run = changes[index : index + len(unit.changes)]
        if len(run) == len(unit.changes) and _suits(unit.changes, run, manner):
            factor = _factor(unit, run, manner)
            if factor is not None:
                yield _Placing(unit, run, factor)


_LONG_AGO = 10_000


def _whole_beats(unit: Unit) -> Fraction:
    """How long the line lasts with its rest, in whole bars or half ones."""
    bar = unit.piece.solo.meters[0].meter.bar_length
    half = bar / 2
    return half * -(-unit.end // half)


def _suits(own: Sequence[Change], run: Sequence[Change], manner: Manner) -> bool:
    """Whether a run of chords moves as the line's own do, and is of their kinds: of the same ones, or of such as do the
    same in a progression. A line over one chord suits any other one.
    """
    for (a, b), (c, d) in zip(pairwise(own), pairwise(run), strict=True):
        if (_root(b) - _root(a)) % 12 != (_root(d) - _root(c)) % 12:
            return False
    kinds = [(chord_quality(a.chord), chord_quality(b.chord)) for a, b in zip(own, run, strict=True)]
    if not manner.any_chord:
        return all(a == b for a, b in kinds)
    if len(own) == 1:
        return True
    return all(b in _ALIKE[a] or (k == len(kinds) - 1 and b == "dominant") for k, (a, b) in enumerate(kinds))


_ALIKE = {
    "dominant": {"dominant", "sus"}, "sus": {"dominant", "sus"}, "minor": {"minor", "half"}, "half": {"minor", "half"},
    "major": {"major", "minor"}, "dim": {"dim", "dominant"},
}  # fmt: skip
"""The kinds of chords that can stand in for each other in a progression."""


def _root(change: Change) -> int:
    return change.chord.as_read.root.pitch_class


def _factor(unit: Unit, run: Sequence[Change], manner: Manner) -> Fraction | None:
    """In how many times its values the line fits a run of chords; None where it does not."""
    for factor in _FACTORS if manner.other_values else _FACTORS[:1]:
        fits = all(a.length * factor == b.length for a, b in zip(unit.changes[:-1], run[:-1], strict=True))
        room = run[-1].end - run[0].onset
        if fits and unit.end * factor <= room and (len(run) > 1 or factor <= 1):
            return factor
    return None


def _left_words(left: Sequence[Change], units: Sequence[Unit], grid: BarGrid) -> tuple[str, ...]:
    """What is told of the chords over which the line can't go."""
    if not left:
        return ()
    shown = [f"{symbol_words(write_chord_symbol(c.chord))} in bar {grid.at(c.onset).number}" for c in left[:_MOST_TOLD]]
    more = f" and {len(left) - _MOST_TOLD} more" if len(left) > _MOST_TOLD else ""
    own = units[0].changes
    moves = " ".join(symbol_words(write_chord_symbol(change.chord)) for change in own)
    why = "no room or no such chord" if len(own) == 1 else f"nothing moves as {moves} there"
    return (f"Left to you, {why}: {', '.join(shown)}{more}.",)


_MOST_TOLD = 4


def _placed(
    placing: _Placing, timed: Labelled, progression: Solo, manner: Manner, number: int, before: int | None
) -> list[int]:
    """The pitches of a placing, in the octave and on the chord tone it is to begin with; ``before`` is where (MIDI) the
    one before ended.
    """
    unit, run = placing.unit, placing.run
    chords = [
        ChordEvent(own.id, own.onset, write_chord_symbol(change.chord))
        for own, change in zip(timed.solo.chords, run, strict=True)
    ]
    key = progression.key_at(run[0].onset)
    target = replace(timed.solo, chords=tuple(chords), keys=(replace(key, onset=Fraction(0)),), heard_keys=())
    ways = []
    for shift in _shifts(unit, manner, number):
        pitches = fitted_pitches(timed, target, manner.how, shift)
        ways += [[pitch + 12 * octaves for pitch in pitches] for octaves in (-1, 0, 1)]
    own_middle = sum(note.pitch.midi for note in timed.solo.notes)

    def cost(way: Sequence[int]) -> tuple[int, int, int]:
        beyond = _beyond(way, progression.instrument)
        middle = abs(sum(way) - own_middle) // len(way)
        if before is None or manner.lead is Lead.VERTICAL:
            return beyond, middle, 0
        # Near the end of the one before, and no further from where the line lies than that needs.
        gap = abs(way[0] - before)
        return beyond, max(0, gap - _WIDEST_GAP), middle + (2 if manner.begin is Begin.NEAREST else 1) * gap

    return min(ways, key=cost)


def _shifts(unit: Unit, manner: Manner, number: int) -> list[int]:
    """By how many steps the line may be moved on its chord's ladder, so that it begins where it is to."""
    if manner.begin is Begin.AS_IT_IS or manner.how is not Fit.DEGREE:
        return [0]
    first = _first_tone(unit)
    if manner.begin is Begin.NEAREST:
        return [(step - first + 3) % STEPS - 3 for step in _TURN]
    wanted = _STEPS.get(manner.begin, _TURN[(_TURN.index(first) + number) % 4 if first in _TURN else number % 4])
    return [(wanted - first + 3) % STEPS - 3]


def _first_tone(unit: Unit) -> int:
    """The step of the first chord tone of the line."""
    found = unit.piece.labelled
    for note, label in zip(found.frame.notes, found.labels, strict=True):
        chord = found.frame.spans[note.span].chord
        if note.is_tone and label.degree in chord.tones:
            return step_of(chord, label.degree)
    return 0


def _beyond(pitches: Sequence[int], instrument: Instrument) -> int:
    """By how many semitones pitches lie beyond an instrument's range, together."""
    return sum(max(0, instrument.lowest - pitch) + max(0, pitch - instrument.highest) for pitch in pitches)


def _closed(piece: Piece, changes: Sequence[Change]) -> Piece:
    """The line with its last bar ending on a chord tone that is held."""
    solo, last = piece.solo, changes[-1]
    bars = BarGrid(solo).bars
    bar = max((bar for bar in bars if bar.onset < last.end), key=lambda bar: bar.onset)
    start = max(bar.onset, last.onset)
    before = [note for note in solo.notes if note.onset < start]
    inside = [note for note in solo.notes if note.onset >= start]
    near = before[-1].pitch.midi if before else inside[0].pitch.midi if inside else 60
    chord = last.chord
    goal = min(_goals(chord, near), key=lambda midi: abs(midi - near))
    held = inside[0] if inside else replace(before[-1], id=f"close:{before[-1].id}")
    held = replace(held, onset=start, duration=last.end - start, written=(), tuplet=None, grace=False, marks=())
    kept = [cut_note(note, start) for note in before]
    return piece.with_notes([*kept, changed_pitch(held, goal)])


def _goals(chord: Chord, near: int) -> list[int]:
    """Where a line can come to rest: root, third and fifth near a pitch, never the pitch itself struck again."""
    classes = {chord.name_of(degree).pitch_class for degree in chord.tones if degree not in ("b7", "7", "bb7")}
    return [midi for midi in range(max(0, near - 7), min(127, near + 8)) if midi % 12 in classes and midi != near]
