"""A lick sheet: the lick in all twelve keys as one page, each key a section with its own signature."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from fractions import Fraction
from typing import TypeVar

from gavotte.labelling.labeller import label_solo
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import KeyRegion, MeterRegion, Section, Solo
from gavotte.solo.label import Label
from gavotte.solo.moving import shifted
from gavotte.vocabulary.lick import Lick
from gavotte.workshop.keys import InKey, KeyOrder, in_all_keys

RegionT = TypeVar("RegionT", KeyRegion, MeterRegion)


def key_sheet(
    lick: Lick, order: KeyOrder = KeyOrder.CIRCLE, music: Solo | None = None
) -> tuple[Solo, tuple[Label, ...]]:
    """The sheet as a solo, with the lick's labels under every key.

    ``music`` is the lick's as it is to be read, where that is not concert pitch.

    Note ids are those of the lick with the key's number in front: "3:n7".
    """
    keys = in_all_keys(music or lick.solo, order)
    notes, chords, regions, heard, meters, odd, sections, labels = [], [], [], [], [], [], [], []
    for number, item in enumerate(keys):
        start = number * _block_length(lick.solo)
        shift = start + _pickup_bar(lick.solo)
        solo = item.solo
        notes += [replace(shifted(n, shift), id=f"{number}:{n.id}") for n in solo.notes]
        chords += [replace(c, id=f"{number}:{c.id}", onset=max(start, c.onset + shift)) for c in solo.chords]
        regions += _from(start, shift, solo.keys)
        # Each key is read in itself: the chords of twelve keys in a row would say something else.
        heard += _from(start, shift, solo.heard_keys or solo.keys)
        meters += _from(start, shift, solo.meters)
        odd += [shifted(bar, shift) for bar in solo.odd_bars]
        sections.append(Section(start, _heading(item)))
        labels += [_numbered(label, number) for label in labels_in(lick, solo)]
    sheet = replace(
        music or lick.solo,
        title=lick.name,
        pickup=Fraction(0),
        notes=tuple(notes),
        chords=tuple(chords),
        keys=tuple(regions),
        heard_keys=tuple(heard),
        meters=tuple(meters),
        odd_bars=tuple(odd),
        sections=tuple(sections),
        decisions=(),
        readings=(),
        dismissed=(),
        passed=(),
        remarks=(),
    )
    return sheet, tuple(labels)


def _from(start: Fraction, shift: Fraction, regions: tuple[RegionT, ...]) -> list[RegionT]:
    """Regions of one key's block on the sheet, the first from the block's start on."""
    return [replace(shifted(r, shift), onset=start) if k == 0 else shifted(r, shift) for k, r in enumerate(regions)]


def _heading(item: InKey) -> str:
    beyond = "" if item.in_range else "  (beyond the instrument’s range)"
    return f"{item.key.shown}{beyond}"


def _pickup_bar(solo: Solo) -> Fraction:
    """A pickup becomes a full first bar that begins with rests, so that every key starts alike."""
    return solo.meters[0].meter.bar_length if solo.pickup else Fraction(0)


def _block_length(solo: Solo) -> Fraction:
    """Length of one key's bars: whole bars up to the last note's end."""
    sounding = replace(solo, chords=tuple(c for c in solo.chords if c.onset < _last_end(solo)))
    bars = [bar for bar in BarGrid(sounding).bars if bar.number > 0]
    return sum((bar.length for bar in bars), Fraction(0)) + _pickup_bar(solo)


def _last_end(solo: Solo) -> Fraction:
    return max((note.end for note in solo.notes), default=Fraction(0))


def labels_in(lick: Lick, solo: Solo) -> tuple[Label, ...]:
    """The lick's labels over ``solo``, which is its music in another key: chords and reasons are named in that key."""
    if solo is lick.solo:
        return lick.labels
    chords = {old.text: new.text for old, new in zip(lick.solo.chords, solo.chords, strict=True)}
    fresh = {label.note: label for label in label_solo(solo)}
    return tuple(_in_key(label, chords, fresh.get(label.note)) for label in lick.labels)


def _in_key(label: Label, chords: Mapping[str, str], fresh: Label | None) -> Label:
    same = fresh is not None and (fresh.function, fresh.device, fresh.degree) == (
        label.function,
        label.device,
        label.degree,
    )
    if fresh is None or not same:
        # It was heard in the whole solo, or decided: its reason names what sounds in the first key alone.
        return replace(label, chord=chords.get(label.chord, ""), implied=None, reason="", heard="")
    return replace(
        label, chord=fresh.chord, scale=fresh.scale, implied=fresh.implied, reason=fresh.reason, heard=fresh.heard
    )


def _numbered(label: Label, number: int) -> Label:
    target = None if label.target is None else f"{number}:{label.target}"
    group = None if label.group is None else f"{number}:{label.group}"
    return replace(label, note=f"{number}:{label.note}", target=target, group=group)
