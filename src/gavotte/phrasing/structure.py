"""The structure of a labelled solo: phrases, cards, skeleton, motifs, threads and the arc, worked out together."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterator
from dataclasses import dataclass, replace

from gavotte.giving_way import give_way
from gavotte.labelling.labeller import Labelled
from gavotte.phrasing.arc import Arc, arc_of
from gavotte.phrasing.card import Card, card_of
from gavotte.phrasing.guide_tones import Thread, threads_of
from gavotte.phrasing.line import Line, line_of
from gavotte.phrasing.motifs import Instance, Motif, motifs_in
from gavotte.phrasing.phrases import Phrase, gestures_of, phrases_of
from gavotte.phrasing.relations import Relation, pattern_words, relation
from gavotte.phrasing.skeleton import Level, levels_of
from gavotte.phrasing.strong_beats import kept_on_strong_beats
from gavotte.phrasing.telling import Recall, recalls
from gavotte.solo.document import Solo


@dataclass(frozen=True, eq=False)
class Structure:
    """How a solo is built. Notes are indexes into ``found.solo.notes``.

    ``gestures`` are the smaller ones each phrase is made of. ``levels`` says of each note up to which level of the
    skeleton it is there, ``kept`` the note on each strong beat. ``relations`` hold for each motif how each instance
    after the first is related to it, ``patterns`` what they make together; ``recalls`` say what each phrase takes up.
    """

    found: Labelled
    phrases: tuple[Phrase, ...]
    gestures: tuple[tuple[Phrase, ...], ...]
    cards: tuple[Card, ...]
    levels: tuple[Level, ...]
    kept: tuple[int | None, ...]
    line: Line
    motifs: tuple[Motif, ...]
    relations: tuple[tuple[Relation, ...], ...]
    patterns: tuple[str, ...]
    recalls: tuple[Recall | None, ...]
    threads: tuple[Thread, ...]
    arc: Arc

    def phrase_at(self, index: int) -> int | None:
        """The phrase that holds a note, by index; None where there is no note."""
        k = bisect_right(self.phrases, index, key=lambda phrase: phrase.first) - 1
        return k if k >= 0 and index <= self.phrases[k].last else None

    def kept_in(self, phrase: Phrase) -> list[int]:
        """The notes on the strong beats of a phrase."""
        return [index for index in self.kept if index is not None and phrase.first <= index <= phrase.last]


def structure_of(found: Labelled, like: Structure | None = None, quick: bool = False) -> Structure:
    """The structure of a labelled solo; what hangs on the notes alone is taken from ``like`` if they are the same.

    ``quick`` takes the motifs of ``like`` too, as far as their notes are still there: looking for them takes longest.
    """
    solo = found.solo
    phrases = phrases_of(solo, found.labels)
    cards = []
    for phrase in phrases:
        give_way()
        cards.append(card_of(found, phrase))
    if like is not None and _same_notes(found, like.found):
        line, motifs, relations, patterns = like.line, like.motifs, like.relations, like.patterns
    else:
        line = line_of(solo)
        motifs = motifs_in(line) if like is None or not quick else _carried(like, solo)
        relations = tuple(tuple(_relations(line, motif)) for motif in motifs)
        patterns = tuple(pattern_words(line, motif) for motif in motifs)
    levels = levels_of(found)
    give_way()
    return Structure(
        found,
        phrases,
        gestures_of(solo, phrases),
        tuple(cards),
        levels,
        kept_on_strong_beats(found),
        line,
        motifs,
        relations,
        patterns,
        recalls(motifs, relations, phrases),
        threads_of(found, levels),
        arc_of(found),
    )


def _relations(line: Line, motif: Motif) -> Iterator[Relation]:
    for other in motif.instances[1:]:
        give_way()
        yield relation(line, motif.instances[0], other)


def _carried(like: Structure, solo: Solo) -> tuple[Motif, ...]:
    """The motifs of another structure in a solo that differs a little."""
    notes, places = like.found.solo.notes, solo.places
    carried = []
    for motif in like.motifs:
        instances = []
        for instance in motif.instances:
            first, last = (places.get(notes[index].id) for index in (instance.first, instance.last))
            if first is not None and last is not None and last - first == instance.last - instance.first:
                instances.append(Instance(first, last))
        if len(instances) > 1:
            carried.append(replace(motif, instances=tuple(instances)))
    return tuple(carried)


def _same_notes(found: Labelled, other: Labelled) -> bool:
    """Whether two solos have the same notes in the same bars."""
    a, b = found.solo, other.solo
    return (a.notes is b.notes or a.notes == b.notes) and (
        (a.meters, a.odd_bars, a.pickup) == (b.meters, b.odd_bars, b.pickup)
    )
