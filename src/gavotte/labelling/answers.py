"""What the user answers to a proposal: edits that take or leave a slip or a reading, or take labels as they are."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from gavotte.harmony.ground import ground_of
from gavotte.labelling.slips import Remedy, Slip
from gavotte.solo.document import Decision, Dismissed, Function, Reading, ReadingKind, Solo
from gavotte.solo.edits import with_notes_moved
from gavotte.solo.label import Label
from gavotte.solo.moving import transposed
from gavotte.solo.stretches import read_stretches
from gavotte.theory.interval import Interval
from gavotte.theory.pitch import Pitch

_COLLECTIONS_OF_MODES = {"ionian": "major", "minor": "aeolian"}


def with_slip(solo: Solo, slip: Slip, semitones: int = 0) -> Solo:
    """The solo with what a slip suggests. ``semitones`` is how far a suggested pitch lies from the note's now."""
    if slip.change in (Remedy.PITCH, Remedy.OCTAVE):
        if slip.change is Remedy.OCTAVE:
            return replace(
                solo,
                notes=tuple(
                    replace(note, pitch=_octave(note.pitch, semitones)) if note.id == slip.note else note
                    for note in solo.notes
                ),
            )
        return with_notes_moved(solo, [slip.note], semitones)
    if slip.change is Remedy.CHORD:
        chords = [replace(event, onset=slip.onset) if event.id == slip.chord else event for event in solo.chords]
        return replace(solo, chords=tuple(sorted(chords, key=lambda event: event.onset)))
    instrument = solo.instrument
    down = Interval(instrument.transposition_steps, instrument.transposition_semitones)
    moved = transposed(replace(solo, chords=(), heard_keys=(), readings=(), dismissed=()), down)
    return replace(solo, notes=moved.notes)


def _octave(pitch: Pitch, semitones: int) -> Pitch:
    return pitch.transposed(Interval(7 if semitones > 0 else -7, semitones))


def without_slip(solo: Solo, slip: Slip) -> Solo:
    """The solo with a slip dismissed: it is not listed again while the note keeps its pitch."""
    kept = tuple(known for known in solo.dismissed if known.note != slip.note)
    return replace(solo, dismissed=(*kept, Dismissed(slip.note, solo.note(slip.note).pitch.midi)))


def with_doubt_passed(solo: Solo, note_id: str) -> Solo:
    """The solo with a label in doubt left as it is: nobody asks about it again while the note keeps its pitch."""
    kept = tuple(known for known in solo.passed if known.note != note_id)
    return replace(solo, passed=(*kept, Dismissed(note_id, solo.note(note_id).pitch.midi)))


def with_reading(solo: Solo, reading: Reading) -> Solo:
    """The solo with a reading of a stretch in place of those it overlaps."""
    place = solo.places
    first, last = place[reading.first], place[reading.last]

    def apart(other: Reading) -> bool:
        if other.first not in place or other.last not in place:
            return False
        return place[other.last] < first or place[other.first] > last

    kept = [other for other in solo.readings if apart(other)]
    return replace(solo, readings=tuple(sorted([*kept, reading], key=lambda r: place[r.first])))


def read_by_key(solo: Solo) -> Solo:
    """The whole solo read by the key it begins in: what is left to hear notes against where no chord is written."""
    region = solo.keys[0]
    collection = "mixed blues" if region.blues else _COLLECTIONS_OF_MODES.get(region.key.mode, region.key.mode)
    first, last = solo.notes[0].id, solo.notes[-1].id
    return with_reading(solo, Reading(first, last, ReadingKind.KEY_CENTRE, region.key.tonic, collection))


def with_changes_read(solo: Solo, first: str, last: str) -> Solo:
    """The solo with a stretch read by the changes, whatever else might be proposed for it."""
    return with_reading(solo, Reading(first, last, ReadingKind.CHANGES))


def without_reading(solo: Solo, note_id: str) -> Solo:
    """The solo without the reading that covers a note: the program may propose one again."""
    reading = reading_at(solo, note_id)
    return replace(solo, readings=tuple(other for other in solo.readings if other != reading))


def reading_at(solo: Solo, note_id: str) -> Reading | None:
    """The reading that covers a note, None where there is none."""
    covering = (
        reading
        for reading, covered in read_stretches(solo)
        if any(note.id == note_id for note in solo.notes[covered.start : covered.stop])
    )
    return next(covering, None)


def as_blues(solo: Solo, is_blues: bool) -> Solo:
    """The solo as the blues it is heard as, or as none.

    Where the signature has the blues' tonic, the signature says so from then on; else the keys heard are kept by hand.
    """
    heard = [key.region for key in ground_of(solo).keys]
    if is_blues and [region.key for region in heard] == [region.key for region in solo.keys]:
        return replace(solo, keys=tuple(replace(region, blues=True) for region in solo.keys))
    return replace(solo, heard_keys=tuple(replace(region, blues=region.blues and is_blues) for region in heard))


def with_labels_taken(solo: Solo, labels: Iterable[Label]) -> Solo:
    """The solo with these labels decided as they are."""
    known = {decision.note for decision in solo.decisions}
    fresh = tuple(Decision(x.note, x.function, x.device) for x in labels if x.note not in known)
    return replace(solo, decisions=(*solo.decisions, *fresh))


def plain_ones(labels: Iterable[Label]) -> list[Label]:
    """The labels nobody need look at: plain chord tones and passing notes that are sure, and not yet decided."""
    return [
        label
        for label in labels
        if not label.decided
        and not label.in_doubt
        and ((label.function is Function.CHORD and label.device == "plain") or label.function is Function.PASSING)
    ]
