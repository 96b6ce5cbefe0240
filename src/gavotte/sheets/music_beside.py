"""The music of a sheet as one solo, for the files beside it: all pieces one after another."""

from __future__ import annotations

from dataclasses import replace

from gavotte.sheets.elements import ANSWERS, Composed, Heading, Music
from gavotte.sheets.sheet import Version
from gavotte.sheets.versions import taken_on
from gavotte.solo.document import Solo
from gavotte.solo.label import Label, led_within
from gavotte.solo.moving import excerpt
from gavotte.workshop.stacked import Block, stacked


def music_of(composed: Composed, piece: str = "") -> tuple[Solo, dict[str, Label]] | None:
    """The music of a sheet as it sounds (composed for no version), each piece a section, or of one ``piece`` by its id;
    None where there is none. What a question asks for stands there once: where it is asked.
    """
    blocks, heading = [], ""
    for part in composed.parts:
        if part.piece == ANSWERS or (piece and part.piece != piece):
            continue
        for element in part.elements:
            if isinstance(element, Heading):
                heading = element.words
            elif isinstance(element, Music):
                block = _block(element, heading)
                if block is not None:
                    blocks.append(block)
                    heading = ""
    if not blocks:
        return None
    solo, labels = stacked(blocks, composed.title)
    source = composed.rights or solo.source
    return replace(solo, swing=blocks[0].solo.swing, source=source), {label.note: label for label in labels}


def as_read(solo: Solo, version: Version) -> Solo:
    """The music for a version's readers, still as it sounds: a score says itself how their part is written."""
    return taken_on(solo, version)


def _block(music: Music, heading: str) -> Block | None:
    bars = music.solo_bars
    start, end = bars[0].onset, bars[-1].end
    here = [note.id for note in music.solo.notes if start <= note.onset < end]
    if not here:
        return None
    part = excerpt(music.solo, here[0], here[-1])
    labels = tuple(led_within(music.labels[note], part.places) for note in here if note in music.labels)
    return Block(part, labels, heading)
