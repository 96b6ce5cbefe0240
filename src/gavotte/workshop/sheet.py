"""A lick sheet: the lick in all twelve keys as one page, each key a section with its own signature."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from gavotte.labelling.labeller import label_solo
from gavotte.solo.document import Solo
from gavotte.solo.label import Label
from gavotte.vocabulary.lick import Lick
from gavotte.workshop.keys import InKey, KeyOrder, in_all_keys, in_key
from gavotte.workshop.stacked import Block, stacked


def key_sheet(
    lick: Lick, order: KeyOrder = KeyOrder.CIRCLE, music: Solo | None = None, seed: int = 1
) -> tuple[Solo, tuple[Label, ...]]:
    """The sheet as a solo, with the lick's labels under every key.

    ``music`` is the lick's as it is to be read, where that is not concert pitch; ``seed`` decides a random order.

    Note ids are those of the lick with the key's number in front: "3:n7".
    """
    return stacked([key_block(lick, item) for item in in_all_keys(music or lick.solo, order, seed)], lick.name)


def key_block(lick: Lick, item: InKey) -> Block:
    """A lick in one key with its labels, headed by the key."""
    beyond = "" if item.in_range else "  (beyond the instrument’s range)"
    return Block(item.solo, labels_in(lick, item.solo), f"{item.key.shown}{beyond}")


def lick_in_key(lick: Lick, tonic: int) -> Lick:
    """The lick in the key of a pitch class, labels and all."""
    music = in_key(lick.solo, tonic).solo
    return replace(lick, solo=music, labels=labels_in(lick, music))


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
