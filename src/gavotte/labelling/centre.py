"""Key centres: the tonic and collection notes are heard in where they are not read by their chords."""

from __future__ import annotations

from bisect import bisect_left
from dataclasses import dataclass

from gavotte.harmony.ground import Ground
from gavotte.harmony.keys import HeardKey
from gavotte.solo.document import Reading, ReadingKind, Solo
from gavotte.solo.school import School, StartsFrom
from gavotte.solo.stretches import read_stretches
from gavotte.theory.pitch import PitchName
from gavotte.theory.scale import BLUES_COLLECTIONS, SCALES, collection_pitch_classes


@dataclass(frozen=True, slots=True)
class Centre:
    """A key centre a stretch is read by: its tonic and the collection above it."""

    tonic: PitchName
    collection: str
    pitch_classes: frozenset[int]

    @property
    def shown(self) -> str:
        """ "B♭ blues"."""
        return f"{self.tonic.shown} {self.collection}"

    def is_blue(self, pitch_class: int) -> bool:
        """Whether the collection's ♭3, ♭5 or ♭7 is meant, in one whose such tones are blue."""
        return self.collection in BLUES_COLLECTIONS and (pitch_class - self.tonic.pitch_class) % 12 in (3, 6, 10)


class Centres:
    """The key centres notes are read by: the user's, and in a school that starts from the key that key elsewhere."""

    def __init__(self, solo: Solo, school: School, ground: Ground) -> None:
        self._by_note: dict[int, Centre | None] = {}
        if school.starts_from is StartsFrom.KEY_CENTRE:
            onsets = [note.onset for note in solo.notes]
            for number, heard in enumerate(ground.keys):
                start = bisect_left(onsets, heard.onset) if number else 0
                self._by_note |= dict.fromkeys(range(start, len(onsets)), _centre_of_key(heard))
        for reading, covered in read_stretches(solo):
            self._by_note |= dict.fromkeys(covered, centre_of(reading))

    def at(self, index: int) -> Centre | None:
        """The centre the note at ``index`` is read by."""
        return self._by_note.get(index)


def centre_of(reading: Reading) -> Centre | None:
    """The key centre of a reading, None where it is none."""
    if reading.kind is not ReadingKind.KEY_CENTRE or reading.tonic is None or reading.collection not in SCALES:
        return None
    classes = collection_pitch_classes(reading.collection, reading.tonic.pitch_class)
    return Centre(reading.tonic, reading.collection, classes)


def _centre_of_key(heard: HeardKey) -> Centre:
    tonic = heard.key.tonic
    if heard.blues:
        return Centre(tonic, "mixed blues", collection_pitch_classes("mixed blues", tonic.pitch_class))
    return Centre(tonic, heard.key.mode, heard.key.pitch_classes)
