"""Arpeggios in thirds, which keep their notes from being anything else."""

from __future__ import annotations

from gavotte.labelling.frame import Frame


def tops_arpeggio(frame: Frame, i: int) -> bool:
    """Whether the note is the top of an arpeggio in thirds of three notes or more."""
    if i < 2 or i + 1 >= len(frame.notes) or any(note.rest_after for note in frame.notes[i - 2 : i]):
        return False
    low, middle, top, following = (frame.notes[k].pitch for k in (i - 2, i - 1, i, i + 1))
    return middle - low in (3, 4) and top - middle in (3, 4) and following < top
