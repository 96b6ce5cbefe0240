"""Edits: functions from a solo to a new solo. None of them changes its argument."""

from __future__ import annotations

from collections.abc import Collection, Iterable
from dataclasses import replace
from fractions import Fraction

from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Decision, Function, KeyRegion, Solo
from gavotte.solo.spelling import respell_notes
from gavotte.theory.key import Key
from gavotte.theory.meter import Meter
from gavotte.theory.pitch import spell

USUAL_DEVICE = {
    Function.CHORD: "plain",
    Function.EXTENSION: "natural",
    Function.PASSING: "passing",
    Function.APPROACH: "chromatic-passing",
    Function.OUTSIDE: "unexplained",
}
"""The device a function set by hand gets when nothing more is said."""


def with_decision(solo: Solo, note_id: str, function: Function, device: str) -> Solo:
    """The solo with the user's decision about a note in place of any earlier one. Raises KeyError."""
    solo.note(note_id)
    kept = tuple(d for d in solo.decisions if d.note != note_id)
    return replace(solo, decisions=(*kept, Decision(note_id, function, device)))


def without_decision(solo: Solo, note_id: str) -> Solo:
    """The solo with the user's decision about a note taken back."""
    return replace(solo, decisions=tuple(d for d in solo.decisions if d.note != note_id))


def with_keys(solo: Solo, regions: Iterable[KeyRegion]) -> Solo:
    """The solo with these keys written: each from the barline at or before its onset on, the first from the start.

    Of two that begin at one bar the later counts, and one that says what the one before says is left out. Raises
    ValueError where there are none.
    """
    grid = BarGrid(solo)
    at_bars: dict[Fraction, KeyRegion] = {}
    for region in sorted(regions, key=lambda region: region.onset):
        bar = grid.at(max(region.onset, Fraction(0)))
        onset = max(Fraction(0), bar.onset) if at_bars else Fraction(0)
        at_bars[onset] = replace(region, onset=onset)
    if not at_bars:
        raise ValueError("a solo needs a key")
    kept: list[KeyRegion] = []
    for region in at_bars.values():
        if not kept or (kept[-1].key, kept[-1].blues) != (region.key, region.blues):
            kept.append(region)
    return replace(solo, keys=tuple(kept))


def with_key_from(solo: Solo, onset: Fraction, key: Key, blues: bool) -> Solo:
    """The solo with a key written from the bar of a time on, up to where the next one is written."""
    start = max(Fraction(0), BarGrid(solo).at(onset).onset)
    others = [region for region in solo.keys if region.onset != start]
    return with_keys(solo, [*others, KeyRegion(start, key, blues)])


def with_first_meter(solo: Solo, meter: Meter) -> Solo:
    """The solo barred in another meter from its start on, up to where the meter changes; every note stays where it is.

    Bars of odd lengths in that stretch were odd in the old meter and are gone. Raises ValueError where the pickup does
    not fit into one bar.
    """
    if solo.pickup >= meter.bar_length:
        raise ValueError("the pickup is as long as a bar")
    if meter == solo.meters[0].meter:
        return solo
    end = solo.meters[1].onset if len(solo.meters) > 1 else None
    odd = tuple(bar for bar in solo.odd_bars if end is not None and bar.onset >= end)
    return replace(solo, meters=(replace(solo.meters[0], meter=meter), *solo.meters[1:]), odd_bars=odd)


def with_notes_moved(solo: Solo, notes: Collection[str], semitones: int) -> Solo:
    """The solo with some notes (ids) moved by semitones and spelled anew; notes that would leave 0 to 127 stay."""
    wanted, places, line = frozenset(notes), solo.places, list(solo.notes)
    for place in (places[name] for name in wanted if name in places):
        midi = line[place].pitch.midi + semitones
        if 0 <= midi <= 127:
            line[place] = replace(line[place], pitch=spell(midi, 0))
    return respell_notes(replace(solo, notes=tuple(line)), wanted)
