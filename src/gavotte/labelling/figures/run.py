"""A run of notes that spells another chord: what makes one of it, and when it yields to what follows."""

from __future__ import annotations

import itertools
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from gavotte.labelling.figures.arpeggio import tops_arpeggio
from gavotte.labelling.figures.double_approach import closes_by_semitones
from gavotte.labelling.figures.spelled import LONGEST_RUN, Spelled
from gavotte.labelling.frame import TOLERANCE, Frame
from gavotte.labelling.framed_note import FramedNote
from gavotte.labelling.single import is_early, struck_again
from gavotte.labelling.tensions import is_altered
from gavotte.theory.scale import collection_pitch_classes

WHOLE_TONE = 2
_FEWEST_FOREIGN, _WHOLE_ARPEGGIO = 2, 4


@dataclass(frozen=True)
class Run:
    """Notes in a row and the chord they spell. ``rank`` says how plainly they do so: the lower, the plainer."""

    notes: tuple[FramedNote, ...]
    chord: Spelled
    rank: int = 0

    @property
    def first(self) -> int:
        """The index of its first note."""
        return self.notes[0].index

    @property
    def last(self) -> int:
        """The index of its last note."""
        return self.notes[-1].index

    def lies_in(self, other: Run) -> bool:
        """Whether all its notes are notes of the other."""
        return other.first <= self.first and self.last <= other.last


def stretch_from(frame: Frame, start: int, last: int) -> list[FramedNote]:
    """The notes from ``start`` on, up to ``LONGEST_RUN``, over one chord with no rest and no grace note among them.

    A note that is struck again after the change anticipates it and ends them before it.
    """
    stretch = [frame.notes[start]]
    for note in frame.notes[start + 1 : min(start + LONGEST_RUN, last)]:
        if stretch[-1].rest_after or note.note.grace or note.span != stretch[0].span:
            break
        stretch.append(note)
    if struck_again(frame, stretch[-1]) and is_early(frame, stretch[-1]):
        stretch.pop()
    return stretch


def moves(notes: Sequence[FramedNote]) -> list[int]:
    """The moves from note to note, in semitones."""
    return [b.pitch - a.pitch for a, b in itertools.pairwise(notes)]


def foreign(notes: Iterable[FramedNote]) -> list[FramedNote]:
    """Those that are neither chord tones, nor colours the chord welcomes, nor of its scale."""
    return [note for note in notes if not (note.is_tone or note.tension or note.in_scale)]


def has_foreign(frame: Frame, notes: Sequence[FramedNote]) -> bool:
    """Whether two added notes are there at all, and one that the written chord, one and the same, has no place for."""
    added = [note for note in notes if not note.is_tone]
    return len(added) > 1 and (bool(foreign(added)) or _contradicts(frame, added))


def _contradicts(frame: Frame, added: list[FramedNote]) -> bool:
    """A 13 beside a ♭13, or an 11 beside an altered tone, over a dominant: no one scale holds both."""
    chord = frame.span_of(added[0]).chord
    degrees = {note.degree for note in added}
    return {"13", "b13"} <= degrees or ("11" in degrees and any(is_altered(chord, degree) for degree in degrees))


def lasts_a_beat(notes: Sequence[FramedNote]) -> bool:
    """Whether the notes together are a beat long or longer."""
    return sum(note.length for note in notes) >= notes[0].beat_length - TOLERANCE


def is_blues_run(frame: Frame, notes: Sequence[FramedNote]) -> bool:
    """Whether the notes are the key's minor pentatonic or blues scale, in a blues."""
    key = frame.span_of(notes[0]).key
    if not key.blues:
        return False
    blues = collection_pitch_classes("blues", key.key.tonic.pitch_class)
    return {note.pitch % 12 for note in notes} <= blues


def prepares_next(frame: Frame, notes: Sequence[FramedNote]) -> bool:
    """Whether the last two notes enclose the note that follows, or approach it by two semitones.

    The top of an arpeggio in thirds encloses nothing.
    """
    following = notes[-1].index + 1
    if following >= len(frame.notes) or notes[-1].rest_after:
        return False
    goal = frame.notes[following].pitch
    a, b = notes[-2].pitch - goal, notes[-1].pitch - goal
    encloses = a * b < 0 and max(abs(a), abs(b)) <= WHOLE_TONE and not tops_arpeggio(frame, notes[-1].index)
    return encloses or closes_by_semitones([a, b])


def yields(frame: Frame, run: Run) -> bool:
    """Whether a run gives way to the enclosure or double approach its last two notes make.

    It does not where it is an arpeggio without a step of four or more pitches, nor where two foreign notes stand before
    those two.
    """
    notes = run.notes
    if not prepares_next(frame, notes):
        return False
    leaps = all(abs(move) > WHOLE_TONE for move in moves(notes))
    if leaps and len({note.pitch for note in notes}) >= _WHOLE_ARPEGGIO:
        return False
    return len(foreign(notes[:-2])) < _FEWEST_FOREIGN
