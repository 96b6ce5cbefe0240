"""What is told of a solo after its music on paper, worked out while the interface goes on."""

from __future__ import annotations

from collections.abc import Generator
from dataclasses import dataclass

from gavotte.desktop.page.breath_item import Breaths, breaths_of
from gavotte.desktop.page.land import Land
from gavotte.desktop.paper.worked_beside import worked_beside
from gavotte.desktop.theme.palette import PRINT
from gavotte.labelling.hand_out import bar_texts, heading_of
from gavotte.labelling.labeller import Labelled, labelled
from gavotte.phrasing.hand_out import phrase_texts
from gavotte.phrasing.skeleton import reduced, strong_notes
from gavotte.phrasing.structure import Structure, structure_of
from gavotte.solo.document import Solo


@dataclass(frozen=True)
class Told:
    """Headings with words under them; and where there are phrases, how the solo is built, and its skeleton labelled."""

    texts: list[tuple[str, str]]
    structure: Structure | None = None
    skeleton: Labelled | None = None


def told_of(solo: Solo) -> Told:
    """All that is told of a solo."""
    found = labelled(solo)
    bars = [(heading_of(text), text.words) for text in bar_texts(found)]
    structure = structure_of(found)
    # What is one phrase needs no division.
    if len(structure.phrases) < 2:
        return Told(bars)
    return Told([*phrase_texts(structure), *bars], structure, skeleton_of(structure))


def skeleton_of(structure: Structure) -> Labelled:
    """What is left of a line on its strong beats, with its labels."""
    found = structure.found
    return labelled(reduced(found.solo, structure.phrases, strong_notes(found)))


def land_of(structure: Structure, width: int) -> Land:
    """The whole solo as a landscape with its phrases, for paper; ``width`` in pixels."""
    land = Land()
    land.palette_in_use, land.width = PRINT, width
    land.show_arc(structure.arc, structure.found.solo.notes)
    land.breaths = Breaths(breaths_of(structure))
    return land


def telling(solo: Solo) -> Generator[float, None, Told]:
    """What is told of a solo: worked out in a thread, and given up with these steps."""
    return worked_beside(lambda: told_of(solo), 1.0)
