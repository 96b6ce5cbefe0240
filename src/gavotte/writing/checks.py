"""Checks while writing: bars that don't add up, notes the instrument can't play, likely octave and transposition
mistakes, and bars where chord and melody are at odds. Each says where, what, and what to do.
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterable, Iterator
from dataclasses import replace
from fractions import Fraction
from operator import attrgetter

from gavotte.giving_way import give_way
from gavotte.solo.bars import Bar, BarGrid
from gavotte.solo.checks import Finding, check
from gavotte.solo.document import Note, Solo
from gavotte.theory.chord import Chord

_WRITABLE = (1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 12, 14, 16, 20, 24, 28, 32)
"""Parts of a quarter note that anybody writes."""

_WIDE_LEAP = 8
_ENOUGH_NOTES = 4
_AT_ODDS, _AT_HOME = 0.5, 0.8
_PART_AT_ODDS, _GAIN = 0.72, 0.12


def writing_checks(solo: Solo) -> tuple[Finding, ...]:
    """Everything worth a look, by onset."""
    grid = BarGrid(solo)
    by_bar = _by_bar(grid, solo.notes)
    findings = [*check(solo), *_unwritable(solo, grid, by_bar), *_out_of_range(solo, grid), *_octaves(solo, grid)]
    findings += [*_transposition(solo), *_chord_in_wrong_bar(solo, grid, by_bar)]
    return tuple(sorted(findings, key=lambda finding: finding.onset))


def _by_bar(grid: BarGrid, notes: Iterable[Note]) -> list[list[Note]]:
    """The notes that start in each bar."""
    bars: list[list[Note]] = [[] for _ in grid.bars]
    for note in notes:
        give_way()
        bars[grid.index_at(note.onset)].append(note)
    return bars


def _unwritable(solo: Solo, grid: BarGrid, by_bar: list[list[Note]]) -> Iterator[Finding]:
    """Bars with lengths that no rhythm explains, and tuplets that were begun and not filled."""
    for bar, notes in zip(grid.bars, by_bar, strict=True):
        give_way()
        name = f"Bar {bar.number}" if bar.number else "The pickup"
        odd_note = next(
            (n for n in notes if n.onset.denominator not in _WRITABLE or n.duration.denominator not in _WRITABLE), None
        )
        if odd_note is not None:
            words = f"{name} does not add up to plain values; write the rhythm of this note anew."
            yield Finding(odd_note.onset, words)
        elif not bar.meter.is_compound:
            for edge in _begun_tuplets(bar, [note for note in notes if not note.grace]):
                yield Finding(edge, f"{name}: a tuplet is begun and then silent; fill it, or write plain values.")


def _begun_tuplets(bar: Bar, notes: list[Note]) -> Iterator[Fraction]:
    """Where a beat is silent after one note of a tuplet."""
    edges = {edge for note in notes for edge in (note.onset, note.end)}
    if all(not _is_odd(edge) for edge in edges):
        return
    for beat in bar.meter.beats:
        start = bar.onset - bar.lead_in + beat.offset
        end = start + beat.length
        odd = [edge for edge in edges if start < edge < end and _is_odd((edge - start) / beat.length)]
        if len(odd) == 1 and not any(note.onset < end and note.end > odd[0] for note in notes):
            yield odd[0]


def _is_odd(part: Fraction) -> bool:
    return part.denominator & (part.denominator - 1) != 0


def _out_of_range(solo: Solo, grid: BarGrid) -> Iterator[Finding]:
    instrument = solo.instrument
    name = instrument.name.lower()
    for note in solo.notes:
        if not instrument.lowest <= note.pitch.midi <= instrument.highest:
            side = "below" if note.pitch.midi < instrument.lowest else "above"
            yield Finding(
                note.onset,
                f"{note.pitch.shown}{note.pitch.octave} in {grid.place(note.onset)} lies {side} the usual range of the "
                f"{name}.",
            )


def _octaves(solo: Solo, grid: BarGrid) -> Iterator[Finding]:
    """Single notes and short groups that would join their neighbours an octave away."""
    notes = [note for note in solo.notes if not note.grace]
    index = 1
    while index < len(notes) - 1:
        into = notes[index].pitch.midi - notes[index - 1].pitch.midi
        if abs(into) < _WIDE_LEAP:
            index += 1
            continue
        for last in range(index, min(index + 4, len(notes) - 1)):
            out = notes[last + 1].pitch.midi - notes[last].pitch.midi
            shift = -12 if into > 0 else 12
            if abs(out) >= _WIDE_LEAP and (out > 0) != (into > 0) and max(abs(into + shift), abs(out - shift)) <= 5:
                yield Finding(notes[index].onset, _octave_words(notes[index : last + 1], grid, shift))
                index = last
                break
        index += 1


def _octave_words(group: list[Note], grid: BarGrid, shift: int) -> str:
    first = group[0]
    what = f"{first.pitch.shown}{first.pitch.octave}" if len(group) == 1 else f"{len(group)} notes"
    where = "lower" if shift < 0 else "higher"
    return f"{what} in {grid.place(first.onset)}: an octave {where} the line would go on by step. Listen again."


def _transposition(solo: Solo) -> Iterator[Finding]:
    """A part that fits its chords much better when it is read as written pitch."""
    semitones = solo.instrument.transposition_semitones
    if not semitones % 12 or len(solo.notes) < 12 or not solo.chords:
        return
    as_it_is = _fit(solo, solo.notes, 0)
    as_written = _fit(solo, solo.notes, semitones)
    if as_it_is < _PART_AT_ODDS and as_written > as_it_is + _GAIN:
        yield Finding(
            solo.notes[0].onset,
            f"Only {as_it_is:.0%} of the notes fit their chords; {as_written:.0%} would if they were written pitch for "
            f"the {solo.instrument.name.lower()}. Was the part copied from a transposed sheet?",
        )


def _chord_in_wrong_bar(solo: Solo, grid: BarGrid, by_bar: list[list[Note]]) -> Iterator[Finding]:
    """Bars whose line fits the chords of the bar before or after much better than its own."""
    for index, bar in enumerate(grid.bars):
        notes = [note for note in by_bar[index] if not note.grace]
        if len(notes) < _ENOUGH_NOTES or _fit(solo, notes, 0, key_too=False) > _AT_ODDS:
            continue
        for other in (index + 1, index - 1):
            if not 0 <= other < len(grid.bars):
                continue
            shift = grid.bars[other].onset - bar.onset
            moved = [replace(note, onset=note.onset + shift) for note in notes]
            if _fit(solo, moved, 0, key_too=False) >= _AT_HOME:
                yield Finding(bar.onset, _wrong_bar_words(bar, grid.bars[other]))
                break


def _wrong_bar_words(bar: Bar, other: Bar) -> str:
    return (
        f"Bar {bar.number}: the line does not fit its chords, and fits those of bar {other.number}. "
        "Does a chord stand in the wrong bar?"
    )


_onset = attrgetter("onset")


def _fit(solo: Solo, notes: Iterable[Note], semitones: int, key_too: bool = True) -> float:
    """The share of the notes' time that belongs to the chord in force, or to the key in force."""
    fits = total = Fraction(0)
    for note in notes:
        give_way()
        if note.grace:
            continue
        total += note.duration
        pitch_class = (note.pitch.midi + semitones) % 12
        index = bisect_right(solo.chords, note.onset, key=_onset) - 1
        symbol = solo.chords[index].symbol if index >= 0 else None
        home = pitch_class in symbol.pitch_classes if isinstance(symbol, Chord) else True
        if not home and key_too:
            home = pitch_class in solo.key_at(note.onset).key.pitch_classes
        fits += note.duration if home else 0
    return float(fits / total) if total else 1.0
