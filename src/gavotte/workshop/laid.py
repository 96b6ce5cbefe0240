"""Licks laid under one another for comparison: in one key, one register and one time, bar under bar."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace
from enum import StrEnum
from fractions import Fraction

from gavotte.solo.document import Solo
from gavotte.solo.label import Label
from gavotte.vocabulary.harmony import chords_under
from gavotte.vocabulary.lick import Lick
from gavotte.workshop.keys import in_key
from gavotte.workshop.sheet import labels_in
from gavotte.workshop.stacked import Block, stacked


class AlignBy(StrEnum):
    """What stands under one another: the bars as they were played, or the goals."""

    BEAT = "beat"
    TARGET = "target"


def laid_sheet(
    licks: Sequence[Lick], tonic: int, align: AlignBy = AlignBy.BEAT, title: str = ""
) -> tuple[Solo, tuple[Label, ...]]:
    """Licks as one page, each a line, with their labels; ``tonic`` is the pitch class of the key they are brought to.

    Of licks over the same number of chords the shorter are brought to the length of the first in twice or half the
    values. Raises ValueError where there is none.
    """
    moved = [in_key(lick.solo, tonic).solo for lick in licks]
    timed = [in_time_of(moved[0], solo) for solo in moved] if moved else []
    placed = [in_register_of(timed[0], solo) for solo in timed] if timed else []
    leads = _leads(placed, [lick.labels for lick in licks]) if align is AlignBy.TARGET else [Fraction(0)] * len(placed)
    blocks = [
        Block(solo, labels_in(lick, solo), lick.name, lead)
        for lick, solo, lead in zip(licks, placed, leads, strict=True)
    ]
    return stacked(blocks, title or "Under one another")


def in_values(solo: Solo, factor: Fraction) -> Solo:
    """A lick in so many times the values: everything but its meters takes as many times as long."""
    if factor == 1:
        return solo
    return replace(
        solo,
        pickup=solo.pickup * factor,
        notes=tuple(replace(n, onset=n.onset * factor, duration=n.duration * factor, written=()) for n in solo.notes),
        chords=tuple(replace(chord, onset=chord.onset * factor) for chord in solo.chords),
        keys=tuple(replace(key, onset=key.onset * factor) for key in solo.keys),
        heard_keys=tuple(replace(key, onset=key.onset * factor) for key in solo.heard_keys),
        odd_bars=(),
        form_end=solo.form_end * factor,
    )


def in_time_of(first: Solo, solo: Solo) -> Solo:
    """A lick brought to the length of another one where both go through as many chords: in twice or half the values."""
    own, other = chords_under(solo), chords_under(first)
    if len(own) != len(other) or len(own) < 2:
        return solo
    # The last chord lasts as long as the line does; those before it say how fast the changes go.
    ratio = sum((s.length for s in other[:-1]), Fraction(0)) / sum((s.length for s in own[:-1]), Fraction(0))
    doublings = round(math.log2(ratio))
    if not doublings or abs(doublings) > 2:
        return solo
    scaled = in_values(solo, Fraction(2) ** doublings)
    return scaled if scaled.pickup < scaled.meters[0].meter.bar_length else solo


def in_register_of(first: Solo, solo: Solo) -> Solo:
    """A lick moved by octaves to where another one lies."""

    def middle(music: Solo) -> float:
        return sum(note.pitch.midi for note in music.notes) / max(1, len(music.notes))

    octaves = round((middle(first) - middle(solo)) / 12)
    if not octaves:
        return solo
    notes = tuple(replace(n, pitch=replace(n.pitch, octave=n.pitch.octave + octaves)) for n in solo.notes)
    return replace(solo, notes=notes)


def _leads(solos: Sequence[Solo], labels: Sequence[tuple[Label, ...]]) -> list[Fraction]:
    """How many quarter notes of silence each lick gets in front so that the goals stand under one another."""
    goals = [_goal(solo, own) for solo, own in zip(solos, labels, strict=True)]
    last = max(goals, default=Fraction(0))
    leads = []
    for solo, goal in zip(solos, goals, strict=True):
        bar = solo.meters[0].meter.bar_length
        # Whole bars: what stood on a beat still stands on it.
        leads.append((last // bar - goal // bar) * bar)
    return leads


def _goal(solo: Solo, labels: tuple[Label, ...]) -> Fraction:
    """When a lick arrives: at the last note that another one leads to, or at its last note."""
    targets = {label.target for label in labels if label.target is not None}
    arrived = [note.onset for note in solo.notes if note.id in targets]
    return max(arrived, default=solo.notes[-1].onset if solo.notes else Fraction(0))


def together(first: Solo, second: Solo) -> Solo:
    """Two licks sounding at once: the second in the key, time and register of the first, from the same beat on."""
    other = in_register_of(first, in_time_of(first, in_key(second, first.keys[0].key.tonic.pitch_class).solo))
    notes = [*first.notes, *(replace(note, id=f"other:{note.id}") for note in other.notes)]
    return replace(
        first,
        pickup=max(first.pickup, other.pickup),
        notes=tuple(sorted(notes, key=lambda note: note.onset)),
        decisions=(),
        readings=(),
    )
