"""Several pieces of music on one page, under one another: each begins a line of its own under its own heading."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from typing import TypeVar

from gavotte.solo.bars import BarGrid
from gavotte.solo.document import KeyRegion, MeterRegion, Section, Solo
from gavotte.solo.label import Label
from gavotte.solo.moving import shifted

RegionT = TypeVar("RegionT", KeyRegion, MeterRegion)


@dataclass(frozen=True)
class Block:
    """A piece of music with its labels, and the heading over it. ``lead`` is how much silence stands before it."""

    solo: Solo
    labels: tuple[Label, ...]
    heading: str
    lead: Fraction = Fraction(0)


def stacked(blocks: Sequence[Block], title: str) -> tuple[Solo, tuple[Label, ...]]:
    """All blocks as one solo, which is else as the first one; ids have the block's number in front: "3:n7".

    Where any block has a pickup, each begins with a full bar for it, so that all of them start alike.
    Raises ValueError where there is no block.
    """
    if not blocks:
        raise ValueError("there is nothing to put on a page")
    with_pickup = any(block.solo.pickup for block in blocks)
    notes, chords, regions, heard, meters, odd, sections, labels = [], [], [], [], [], [], [], []
    start = Fraction(0)
    for number, block in enumerate(blocks):
        solo = block.solo
        shift = start + block.lead + (_bar(solo) if with_pickup else Fraction(0))
        notes += [replace(shifted(n, shift), id=f"{number}:{n.id}") for n in solo.notes]
        chords += [replace(c, id=f"{number}:{c.id}", onset=max(start, c.onset + shift)) for c in solo.chords]
        regions += _from(start, shift, solo.keys)
        # Each block is read in itself: the chords of several keys in a row would say something else.
        heard += _from(start, shift, solo.heard_keys or solo.keys)
        meters += _from(start, shift, solo.meters)
        odd += [shifted(bar, shift) for bar in solo.odd_bars]
        sections.append(Section(start, block.heading))
        labels += [_numbered(label, number) for label in block.labels]
        start = shift + _length(solo)
    page = replace(
        blocks[0].solo,
        title=title,
        pickup=Fraction(0),
        notes=tuple(notes),
        chords=tuple(chords),
        keys=tuple(regions),
        heard_keys=tuple(heard),
        meters=tuple(meters),
        odd_bars=tuple(odd),
        sections=tuple(sections),
        form_end=start,
        decisions=(),
        readings=(),
        dismissed=(),
        passed=(),
        remarks=(),
    )
    return page, tuple(labels)


def _bar(solo: Solo) -> Fraction:
    return solo.meters[0].meter.bar_length


def _from(start: Fraction, shift: Fraction, regions: tuple[RegionT, ...]) -> list[RegionT]:
    """Regions of one block on the page, the first from the block's start on."""
    return [replace(shifted(r, shift), onset=start) if k == 0 else shifted(r, shift) for k, r in enumerate(regions)]


def _length(solo: Solo) -> Fraction:
    """Length of a block's bars: whole bars up to the last note's end; all of them where there are only chords."""
    if not solo.notes:
        return sum((bar.length for bar in BarGrid(solo).bars if bar.number > 0), Fraction(0))
    end = max((note.end for note in solo.notes), default=Fraction(0))
    sounding = replace(solo, chords=tuple(c for c in solo.chords if c.onset < end))
    bars = [bar for bar in BarGrid(sounding).bars if bar.number > 0]
    return sum((bar.length for bar in bars), Fraction(0))


def _numbered(label: Label, number: int) -> Label:
    target = None if label.target is None else f"{number}:{label.target}"
    group = None if label.group is None else f"{number}:{label.group}"
    return replace(label, note=f"{number}:{label.note}", target=target, group=group)
