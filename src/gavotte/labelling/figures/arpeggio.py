"""Arpeggios in thirds, which keep their notes from being anything else."""

from __future__ import annotations

from gavotte.labelling.frame import Frame


def tops_arpeggio(frame: Frame, i: int) -> bool:
    """Whether the note is the top of an arpeggio in thirds of three notes or more."""
    if i < 2 or i + 1 >= len(frame.notes):
        return False
    low, middle, top, following = frame.notes[i - 2 : i + 2]
    if following.pitch >= top.pitch or low.rest_after or middle.rest_after:
        return False
    return middle.pitch - low.pitch in (3, 4) and top.pitch - middle.pitch in (3, 4)
