"""Where a labelled solo has what is asked for (see ``query``), and why each place answers."""

from __future__ import annotations

import itertools
from collections.abc import Iterator
from dataclasses import dataclass

from gavotte.giving_way import give_way
from gavotte.harmony.foreignness import chord_quality
from gavotte.harmony.numerals import numeral
from gavotte.labelling.framed_note import FramedNote
from gavotte.labelling.labeller import Labelled
from gavotte.labelling.wording import chord_words
from gavotte.vocabulary.query import SAME_TONES, Query

_KINDS = {"half": "half-diminished", "dim": "diminished"}


@dataclass(frozen=True, slots=True)
class Hit:
    """A place that answers: the indexes of its first and last note, and why, in words."""

    first: int
    last: int
    why: str


def find(found: Labelled, query: Query) -> tuple[Hit, ...]:
    """The places of a solo that answer a query, in order; of those that share notes the first."""
    hits: list[Hit] = []
    for hit in _Search(found, query).hits():
        if not hits or hit.first > hits[-1].last:
            hits.append(hit)
    return tuple(hits)


class _Search:
    def __init__(self, found: Labelled, query: Query) -> None:
        self.found, self.query = found, query
        self.frame = found.frame
        # Grace notes belong to the note they lead into.
        self.line = [i for i, note in enumerate(found.solo.notes) if not note.grace]
        self._members: dict[str, list[int]] = {}
        for i, label in enumerate(found.labels):
            if label.group is not None:
                self._members.setdefault(label.group, []).append(i)

    def hits(self) -> Iterator[Hit]:
        """Every place that answers, by its first note."""
        query = self.query
        asked = query.functions or query.devices
        for k in range(len(self.line) - query.size + 1):
            give_way()
            places = self.line[k : k + query.size]
            if not self._has_row(places):
                continue
            if not query.is_row and asked:
                places = self._figure(places[0])
            if places and self._answers(places):
                yield Hit(places[0], places[-1], self._why(places))

    def _has_row(self, places: list[int]) -> bool:
        query, notes, labels = self.query, self.found.solo.notes, self.found.labels
        if any(self._note(i).rest_after for i in places[:-1]):
            return False
        if any(not _same(labels[i].degree, degree) for i, degree in zip(places, query.degrees, strict=False)):
            return False
        names = zip(places, query.pitches, strict=False)
        if any(notes[i].pitch.pitch_class != name.pitch_class for i, name in names):
            return False
        moves = [notes[b].pitch.midi - notes[a].pitch.midi for a, b in itertools.pairwise(places)]
        if any(move != wanted for move, wanted in zip(moves, query.moves, strict=False)):
            return False
        ways = [(move > 0) - (move < 0) for move in moves]
        return all(way == wanted for way, wanted in zip(ways, query.ways, strict=False))

    def _figure(self, index: int) -> list[int]:
        """The notes of the figure that a note begins, with the note it leads to; of a note by itself that one."""
        label = self.found.labels[index]
        members = self._members.get(label.group, [index]) if label.group is not None else [index]
        if members[0] != index:
            return []
        target = self._target(members[-1])
        return [*members, target] if target is not None and target > members[-1] else members

    def _target(self, index: int) -> int | None:
        target = self.found.labels[index].target
        return None if target is None else self.found.solo.places.get(target)

    def _answers(self, places: list[int]) -> bool:
        query, labels = self.query, self.found.labels
        leading = [i for i in places if self._is_asked_for(i)]
        for function in query.functions:
            if not any(labels[i].function is function for i in places):
                return False
        for kind in query.devices:
            if not any(labels[i].device in kind for i in places):
                return False
        if query.target:
            goals = [goal for i in leading if (goal := self._target(i)) is not None]
            if not any(_same(labels[goal].degree, query.target) for goal in goals):
                return False
        if query.first and not _same(labels[places[0]].degree, query.first):
            return False
        if query.last and not _same(labels[places[-1]].degree, query.last):
            return False
        return self._has_harmony(places[0])

    def _is_asked_for(self, index: int) -> bool:
        """Whether a note does what is asked for."""
        label, query = self.found.labels[index], self.query
        return label.function in query.functions or any(label.device in kind for kind in query.devices)

    def _has_harmony(self, index: int) -> bool:
        """Whether the chord under a note is the one that is asked for."""
        query, note = self.query, self._note(index)
        span = self.frame.span_of(note)
        if not (query.numeral or query.kind or query.chord):
            return True
        if not span.written or (query.chord is not None and span.chord != query.chord):
            return False
        quality = chord_quality(span.chord)
        if query.kind and _KINDS.get(quality, quality) != query.kind:
            return False
        if not query.numeral:
            return True
        key = self.frame.ground.key_at(note.note.onset).key
        here = numeral(span.chord, key).replace("♭", "b").replace("♯", "#")
        return here.rstrip("7") == query.numeral.rstrip("7")

    def _why(self, places: list[int]) -> str:
        """What a place has: its degrees, what it does, and over which chord."""
        labels = self.found.labels
        degrees = " ".join(labels[i].shown_degree for i in places)
        done = dict.fromkeys(labels[i].device for i in places if self._is_asked_for(i))
        chords = dict.fromkeys(
            chord_words(self.frame.span_of(self._note(i))) for i in places if self.frame.span_of(self._note(i)).written
        )
        return ", ".join(filter(None, (degrees, *done, f"over {' '.join(chords)}" if chords else "")))

    def _note(self, index: int) -> FramedNote:
        return self.frame.notes[index]


def _same(degree: str, wanted: str) -> bool:
    return degree == wanted or any(degree in pair and wanted in pair for pair in SAME_TONES)
