"""From a draft to a proposal: what was heard, quantised to the beats and spelled, phrase by phrase.

Rhythm is found by the search of ``notation/quantise.py`` over whole lines, with swing, triplets and sixteenths; nothing
is rounded note by note. A proposal is no part of the solo until its phrases are accepted.
"""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass, replace
from fractions import Fraction

from gavotte.notation.quantise import quantise
from gavotte.recording.beat_map import Alignment
from gavotte.recording.line import DraftNote
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Articulation, Mark, Note, Solo
from gavotte.solo.spelling import respell_notes
from gavotte.theory.pitch import spell
from gavotte.writing.placing import cleared, fresh_ids, note_at, with_line

SURE = 0.9
"""Notes drafted with less confidence are marked as uncertain."""

_PHRASE_REST = Fraction(1, 2)
_LONGEST = 16
_FINE = 960
_PREFIX = "draft"


@dataclass(frozen=True, slots=True)
class ProposedPhrase:
    """Notes in order, one phrase of what was drafted, and what was ``heard`` of which they were made."""

    notes: tuple[Note, ...]
    heard: tuple[DraftNote, ...] = ()

    @property
    def start(self) -> Fraction:
        """Where it begins, in quarter notes."""
        return self.notes[0].onset

    @property
    def end(self) -> Fraction:
        """Where it ends."""
        return self.notes[-1].end

    @property
    def uncertain(self) -> int:
        """How many of its notes are in doubt."""
        return sum(note.uncertain for note in self.notes)


Proposal = tuple[ProposedPhrase, ...]


@dataclass(frozen=True)
class Drafted:
    """A proposal, and how much the line was heard to swing: the ratio of its eighths, 1 where they are even."""

    proposal: Proposal = ()
    swing: Fraction = Fraction(1)


def proposed(solo: Solo, heard: Sequence[DraftNote], alignment: Alignment, only_empty: bool = False) -> Drafted:
    """What was heard as written notes, in phrases; in the solo's time by way of its beat map.

    With ``only_empty`` nothing is proposed for bars in which something is written.
    """
    start = -solo.pickup
    placed = [
        (note, _exact(alignment.played(note.start)), _exact(alignment.played(note.end)))
        for note in heard
        if alignment.played(note.end) > start
    ]
    if not placed:
        return Drafted()
    beat = solo.meters[0].meter.beats[0].length
    rhythm = quantise([(onset, max(end, onset)) for _, onset, end in placed], beat, beat_seconds=alignment.beat_seconds)
    notes: list[Note] = []
    origins: dict[str, list[DraftNote]] = {}
    for (heard_note, _, _), (onset, duration) in zip(placed, rhythm.times, strict=True):
        onset = max(onset, start)
        if notes and onset <= notes[-1].onset:
            # Two notes at one place can't both be written; the surer one stays, marked.
            notes[-1] = replace(notes[-1], uncertain=True)
            origins[notes[-1].id].append(heard_note)
            continue
        if notes and notes[-1].end > onset:
            notes[-1] = replace(notes[-1], duration=onset - notes[-1].onset)
        if duration > 0:
            notes.append(_note(heard_note, f"{_PREFIX}{len(notes)}", onset, duration))
            origins[notes[-1].id] = [heard_note]
    spelled = respell_notes(replace(solo, notes=tuple(notes))).notes
    if only_empty:
        spelled = _in_empty_bars(solo, spelled)
    proposal = tuple(
        ProposedPhrase(tuple(phrase), tuple(heard_note for note in phrase for heard_note in origins[note.id]))
        for phrase in (_phrases(spelled) if spelled else ())
    )
    return Drafted(proposal, rhythm.swing or Fraction(1))


def proposed_anew(solo: Solo, proposal: Proposal, alignment: Alignment) -> Drafted:
    """A proposal's notes as they are written over other beats or in another meter.

    Phrases of which it isn't known any more what was heard stay as they are.
    """
    heard = sorted((note for phrase in proposal for note in phrase.heard), key=lambda note: note.start)
    drafted = proposed(solo, heard, alignment)
    kept = tuple(phrase for phrase in proposal if not phrase.heard)
    if not kept:
        return drafted
    phrases = tuple(sorted((*drafted.proposal, *kept), key=lambda phrase: phrase.start))
    return replace(drafted, proposal=_renamed(phrases))


def _renamed(proposal: Proposal) -> Proposal:
    """The proposal with every note under a name of its own."""
    names = (f"{_PREFIX}{number}" for number in itertools.count())
    return tuple(
        replace(phrase, notes=tuple(replace(note, id=next(names)) for note in phrase.notes)) for phrase in proposal
    )


def _in_empty_bars(solo: Solo, notes: tuple[Note, ...]) -> tuple[Note, ...]:
    """The notes that start in bars in which the solo has none, and in no note of it that still sounds."""
    grid = BarGrid(replace(solo, form_end=max(solo.end, notes[-1].end)))
    written = {grid.index_at(note.onset) for note in solo.notes}
    return tuple(
        note for note in notes if grid.index_at(note.onset) not in written and note_at(solo, note.onset) is None
    )


def _exact(quarters: float) -> Fraction:
    return Fraction(round(quarters * _FINE), _FINE)


def _note(heard: DraftNote, name: str, onset: Fraction, duration: Fraction) -> Note:
    bend = Fraction(round(2 * heard.bend), 2)
    marks = (Mark(Articulation.BEND, bend),) if bend else ()
    return Note(name, onset, duration, spell(heard.midi, 0), marks=marks, uncertain=heard.confidence < SURE)


def _phrases(notes: Sequence[Note]) -> list[list[Note]]:
    """The line parted at its rests, and where it goes on for very long at its longest notes."""
    phrases: list[list[Note]] = [[notes[0]]]
    for note, following in itertools.pairwise(notes):
        parted = following.onset - note.end >= _PHRASE_REST or (
            len(phrases[-1]) >= _LONGEST and (following.onset > note.end or note.duration >= 1)
        )
        if parted:
            phrases.append([])
        phrases[-1].append(following)
    return phrases


def with_phrase(solo: Solo, phrase: ProposedPhrase) -> Solo:
    """The solo with a proposed phrase in place of what was written there."""
    base = cleared(solo, (phrase.start, phrase.end))
    names = fresh_ids(solo, len(phrase.notes))
    notes = [replace(note, id=name) for note, name in zip(phrase.notes, names, strict=True)]
    return with_line(base, (*base.notes, *notes))


def overlaid(solo: Solo, proposal: Proposal) -> Solo:
    """The solo as it would be with every phrase accepted, the proposed notes under names of their own."""
    base = cleared(solo, *((phrase.start, phrase.end) for phrase in proposal))
    return with_line(base, (*base.notes, *(note for phrase in proposal for note in phrase.notes)))


def is_proposed(note_id: str) -> bool:
    """Whether a note is only proposed."""
    return note_id.startswith(_PREFIX)
