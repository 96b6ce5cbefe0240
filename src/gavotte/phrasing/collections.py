"""Which notes a stretch was chosen from: the collections it lies in, the simplest that explain it first.

A collection is weighed by how much likelier its notes are if they were chosen from it than by chance, as ``readings``
weighs a key centre; a note counts by how long it lasts.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from gavotte.labelling.labeller import Labelled
from gavotte.solo.document import Note
from gavotte.theory.pitch import PitchName
from gavotte.theory.scale import COLLECTIONS, SCALES, collection_pitch_classes

_INSIDE, _OUTSIDE = 0.97, 0.03
_ENOUGH_INSIDE = 0.8
_LONGEST_BEATS = 2.0
_IN_FULL = 0.15
"""What a tone of a collection that is never played speaks against it."""


@dataclass(frozen=True, slots=True)
class Chosen:
    """A collection a stretch may have been chosen from.

    ``inside`` of ``total`` notes lie in it; ``left_out`` are its tones that are never played, in semitones above the
    tonic; ``outside`` the indexes of the notes it fails to explain. The higher the ``score``, the likelier.
    """

    tonic: PitchName
    collection: str
    inside: int
    total: int
    left_out: tuple[int, ...]
    outside: tuple[int, ...]
    score: float

    @property
    def name(self) -> str:
        """ "B♭ blues"."""
        return f"{self.tonic.shown} {self.collection}"


def collections_of(found: Labelled, first: int, last: int) -> tuple[Chosen, ...]:
    """The collections the notes from ``first`` to ``last`` may be chosen from, the likeliest first.

    They stand on the tonic of the key and on the roots of the chords under the stretch. Of those that hold the same
    notes of the stretch the one with fewer tones comes first.
    """
    notes = found.solo.notes[first : last + 1]
    if not notes:
        return ()
    weighed = [
        chosen
        for tonic in _tonics(found, first, last)
        for collection in COLLECTIONS
        if (chosen := _weigh(notes, first, tonic, collection)) is not None
    ]
    order = {name: place for place, name in enumerate(COLLECTIONS)}
    return tuple(sorted(weighed, key=lambda chosen: (-chosen.score, order[chosen.collection])))


def _tonics(found: Labelled, first: int, last: int) -> list[PitchName]:
    """The tones a stretch may be heard from, each once, the key's tonic first."""
    ground = found.frame.ground
    names = [ground.key_at(found.solo.notes[first].onset).key.tonic]
    names += [found.frame.span_of(note).chord.root for note in found.frame.notes[first : last + 1]]
    return list({name.pitch_class: name for name in reversed(names)}.values())[::-1]


def _weigh(notes: Sequence[Note], first: int, tonic: PitchName, collection: str) -> Chosen | None:
    classes = collection_pitch_classes(collection, tonic.pitch_class)
    weights = [min(_LONGEST_BEATS, 0.5 + float(note.duration)) for note in notes]
    outside = [i for i, note in enumerate(notes) if note.pitch.pitch_class not in classes]
    if len(outside) > (1 - _ENOUGH_INSIDE) * len(notes):
        return None
    by_chance = len(classes) / 12
    total, missed = sum(weights), sum(weights[i] for i in outside)
    score = (total - missed) * math.log(_INSIDE / by_chance) + missed * math.log(_OUTSIDE / (1 - by_chance))
    played = {(note.pitch.pitch_class - tonic.pitch_class) % 12 for note in notes}
    left_out = tuple(step for step in SCALES[collection] if step not in played)
    # What begins or ends on its tonic, or keeps coming back to it, is heard from there.
    home = sum(note.pitch.pitch_class == tonic.pitch_class for note in notes) / len(notes)
    home += 0.5 * (notes[-1].pitch.pitch_class == tonic.pitch_class)
    return Chosen(
        tonic,
        collection,
        len(notes) - len(outside),
        len(notes),
        left_out,
        tuple(first + i for i in outside),
        round(score + home - _IN_FULL * len(left_out), 3),
    )
