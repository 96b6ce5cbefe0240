"""The analysis as files: the text, and beside it pictures of the skeleton and of the arc."""

from __future__ import annotations

from collections.abc import Generator
from dataclasses import replace

from gavotte.desktop.paper.picture import picture_steps, with_outlined_text
from gavotte.desktop.paper.setup import PageSetup
from gavotte.desktop.paper.sheet import Sheet
from gavotte.desktop.paper.told import skeleton_of
from gavotte.engraving.engraver import Engraver
from gavotte.labelling.hand_out import markdown
from gavotte.labelling.labeller import labelled
from gavotte.phrasing.hand_out import phrase_lines
from gavotte.phrasing.structure import Structure, structure_of


def analysis_of(sheet: Sheet) -> Structure:
    """All that is told of a sheet's music, in the pitch the page is in."""
    return structure_of(labelled(sheet.solo))


def skeleton_steps(
    structure: Structure, sheet: Sheet, setup: PageSetup, engraver: Engraver
) -> Generator[float, None, bytes]:
    """Set what is left of the line on its strong beats, yielding the share that is done; returns it as SVG."""
    found = skeleton_of(structure)
    labels = {label.note: label for label in found.labels}
    made: list[bytes] = []
    alone = replace(sheet, solo=found.solo, labels=labels, concert=None, selected=())
    yield from picture_steps(alone, setup, engraver, True, lambda make: made.append(make()))
    return made[0]


def pictured_text(structure: Structure, name: str, skeleton: bytes, arc: bytes) -> dict[str, bytes]:
    """The files by what stands behind the ``name`` of the text: the text itself, and its pictures."""
    pictures = {"-skeleton.svg": skeleton, "-arc.svg": with_outlined_text(arc)}
    where = {
        words: f"![{words}](<{name}{ending}>)"
        for words, ending in (("The skeleton", "-skeleton.svg"), ("The arc", "-arc.svg"))
    }
    lines = [*phrase_lines(structure), "", where["The arc"], "", where["The skeleton"]]
    return {".md": markdown(structure.found, lines).encode("utf-8"), **pictures}
