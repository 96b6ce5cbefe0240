"""Music in the making: what a step of the workshop is given and gives back."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field, replace
from fractions import Fraction
from functools import cached_property

from gavotte.harmony.ground import Ground, ground_of
from gavotte.labelling.labeller import Labelled, labelled
from gavotte.solo.by_identity import kept_by_identity
from gavotte.solo.document import KeyRegion, Note, Solo
from gavotte.solo.spelling import respell_notes
from gavotte.theory.key import Key
from gavotte.theory.pitch import respelled, spell


@dataclass(frozen=True, slots=True)
class Bit:
    """A lick in an étude: its id, name and source, from where to where it goes (quarter notes), and the ids of others
    that could stand there, the best first.
    """

    id: str
    name: str
    source: str
    onset: Fraction
    end: Fraction
    others: tuple[str, ...] = ()


@dataclass(frozen=True)
class Piece:
    """A line with its chords. ``origins`` says of its notes (ids) which of the source's notes they were made of;
    a note of no such origin was added. ``told`` is what could not be done and is left to the user, ``way`` which of
    several ways was taken, ``bits`` the licks it is put together of.
    """

    solo: Solo
    origins: Mapping[str, str] = field(default_factory=dict)
    told: tuple[str, ...] = ()
    way: str = ""
    bits: tuple[Bit, ...] = ()

    @cached_property
    def labelled(self) -> Labelled:
        """The line with its labels, known from then on for as long as there is the piece."""
        return labelled_once(self.solo)

    def with_notes(
        self, notes: Iterable[Note], made_of: Mapping[str, str] | None = None, are_spelled: bool = False
    ) -> Piece:
        """The piece with other notes, sorted; those of another pitch are spelled anew unless they ``are_spelled``.

        ``made_of`` gives, for notes with new ids, the piece's note each was made of.
        """
        kept = {note.id: note for note in self.solo.notes}
        line = tuple(sorted(notes, key=lambda note: (note.onset, not note.grace)))
        fresh = frozenset(n.id for n in line if n.id not in kept or kept[n.id].pitch.midi != n.pitch.midi)
        ids = {note.id for note in line}
        solo = replace(
            self.solo,
            notes=line,
            decisions=tuple(d for d in self.solo.decisions if d.note in ids and d.note not in fresh),
            readings=tuple(r for r in self.solo.readings if {r.first, r.last} <= ids - fresh),
        )
        solo = solo if are_spelled else _spelled(solo, fresh)
        made_of = made_of or {}
        origins = {
            note.id: origin
            for note in solo.notes
            if (origin := self.origins.get(made_of.get(note.id, note.id))) is not None
        }
        return replace(self, solo=solo, origins=origins)

    def with_each(self, change: Callable[[int, Note], Note]) -> Piece:
        """The piece with every note changed; ``change`` is given its place and the note."""
        return self.with_notes(change(place, note) for place, note in enumerate(self.solo.notes))

    def telling(self, *words: str) -> Piece:
        """The piece with something more to tell, each thing once."""
        return replace(self, told=tuple(dict.fromkeys((*self.told, *words))))


def _spelled(solo: Solo, fresh: frozenset[str]) -> Solo:
    """The solo with some notes spelled anew, by the keys that are heard: a cycle goes far from its signature."""
    ground = ground_of(solo)
    heard = [key.region for key in ground.keys]
    for change in ground.changes:
        key, root = ground.key_at(change.onset).key, change.chord.root
        if abs(root.fifths - key.fifths - _MIDDLE) > _NEAR:
            # Over a chord this far away its own names are the readable ones.
            heard += [KeyRegion(change.onset, Key(root)), KeyRegion(change.end, ground.key_at(change.end).key)]
    keys = {region.onset: region for region in sorted(heard, key=lambda region: region.onset)}
    notes = tuple(
        note
        if abs(note.pitch.alter) < 2
        else replace(note, pitch=spell(note.pitch.midi, -2 if note.pitch.alter < 0 else 0))
        for note in respell_notes(replace(solo, keys=tuple(keys.values())), fresh).notes
    )
    return replace(solo, notes=_as_colours(notes, ground, fresh))


def _as_colours(notes: tuple[Note, ...], ground: Ground, fresh: frozenset[str]) -> tuple[Note, ...]:
    """The notes with lowered ninths and thirteenths of dominants named so, unless they lead a half step up."""
    line, changes = list(notes), ground.changes
    for place, note in enumerate(line):
        index = bisect_right(changes, note.onset, key=lambda change: change.onset) - 1
        if note.id not in fresh or index < 0 or not changes[index].chord.is_dominant:
            continue
        chord = changes[index].chord
        degree = chord.degree_of(note.pitch.pitch_class)
        leads_up = place + 1 < len(line) and line[place + 1].pitch.midi - note.pitch.midi == 1
        if degree in _LOWERED and not leads_up:
            name = chord.name_of(degree)
            if name.alter >= -1 and str(name) not in _AWKWARD:
                line[place] = replace(note, pitch=respelled(note.pitch, name))
    return tuple(line)


_LOWERED = frozenset({"b9", "b13"})
_AWKWARD = frozenset({"Cb", "Fb"})


_MIDDLE, _NEAR = 2, 5
"""Where the middle of a key's names lies on the line of fifths, and how far from it a chord's root is near."""


def piece_of(solo: Solo) -> Piece:
    """A source as a piece: each note is made of itself."""
    return Piece(solo, {note.id: note.id for note in solo.notes})


@kept_by_identity(8)
def labelled_once(solo: Solo) -> Labelled:
    """A solo with its labels, worked out once for the solos asked for last."""
    return labelled(solo)


def changed_pitch(note: Note, midi: int) -> Note:
    """A note at another pitch, spelled for the time being; what its string and finger were holds no longer."""
    if midi == note.pitch.midi:
        return note
    return replace(note, pitch=spell(midi, 0), string=0, finger="")


def nearest_way(semitones: int) -> int:
    """The same interval, but for octaves, by its shortest way: from 5 semitones down to 6 up."""
    return (semitones + 5) % 12 - 5
