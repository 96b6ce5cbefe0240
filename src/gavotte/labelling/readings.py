"""Readings proposed: stretches a key centre, or chords the soloist puts in, explain clearly better than the changes.

A stretch is weighed by the notes the changes explain badly. By a key centre these become notes of its collection; which
collection is settled by how unlikely it were to hit it by chance so often. By implied chords they become chord tones.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from gavotte.labelling.frame import Frame
from gavotte.labelling.framed_note import FramedNote
from gavotte.labelling.labeller import Labelled
from gavotte.solo.document import ChordEvent, Reading, ReadingKind
from gavotte.solo.label import Label
from gavotte.solo.stretches import read_stretches
from gavotte.theory.chord_symbol import parse_chord_symbol, shown_chord
from gavotte.theory.pitch import PitchName
from gavotte.theory.scale import COLLECTIONS, collection_pitch_classes

BADLY = {"unexplained": 1.0, "clash": 1.0, "blue": 1.0, "implied": 1.0, "altered": 0.5}
"""How badly the changes explain a note by what they call it: nothing, a rub, or a tone that is at home elsewhere."""
LEFT_OVER = 0.7
ENOUGH_BAD, ENOUGH_INSIDE, ENOUGH_SHARE = 3.0, 0.9, 0.2
"""How many notes must be badly explained, what share must lie in the collection, and what share be badly explained."""
ENOUGH_EVIDENCE = 3.0
"""How much more likely, as a natural logarithm, the collection must be than chance."""
FEWEST_NOTES, MOST_NOTES = 6, 48
_INSIDE, _OUTSIDE = 0.95, 0.05
FEWEST_IMPLIED = 4


@dataclass(frozen=True, slots=True)
class Proposal:
    """A reading that explains a stretch clearly better, with the figures that say so.

    ``inside`` of ``total`` notes belong to the reading; the changes leave ``badly`` notes badly explained.
    """

    reading: Reading
    inside: int
    total: int
    badly: int
    score: float
    words: str

    @property
    def name(self) -> str:
        """What the stretch would be heard against: "B♭ blues", "E♭m7"."""
        return reading_name(self.reading)


def reading_name(reading: Reading) -> str:
    """What a reading hears a stretch against: "B♭ blues", "E♭m7", "the changes"."""
    if reading.kind is ReadingKind.KEY_CENTRE and reading.tonic is not None:
        return f"{reading.tonic.shown} {reading.collection}"
    if reading.kind is ReadingKind.IMPLIED:
        return " ".join(shown_chord(event.symbol) for event in reading.chords)
    return "the changes"


def proposals(found: Labelled) -> tuple[Proposal, ...]:
    """The readings worth proposing, in order and apart from each other; none where the user has settled it already."""
    candidates = [*_centres(found), *_implied(found)]
    place = found.solo.places
    chosen: list[Proposal] = []
    # What the user has settled is not proposed again.
    taken = {index for _, covered in read_stretches(found.solo) for index in covered}
    for proposal in sorted(candidates, key=lambda candidate: -candidate.score):
        span = set(range(place[proposal.reading.first], place[proposal.reading.last] + 1))
        if not span & taken:
            chosen.append(proposal)
            taken |= span
    return tuple(sorted(chosen, key=lambda proposal: place[proposal.reading.first]))


def _bad(found: Labelled) -> list[float]:
    return [_badly(note, label) for note, label in zip(found.frame.notes, found.ruled, strict=True)]


def _badly(note: FramedNote, label: Label) -> float:
    if label.device == "natural" and not note.stands_out and not note.tension:
        return LEFT_OVER
    if label.device == "altered" and note.in_scale:
        return 0.0
    return BADLY.get(label.device, 0.0)


# -- key centres ----------------------------------------------------------------------------------------


def _centres(found: Labelled) -> Iterator[Proposal]:
    """For each stretch of phrases with enough badly explained notes, the collection that explains it best."""
    bad = _bad(found)
    for first, last in _stretches(found.frame, bad):
        best = max(
            (
                proposal
                for tonic in _tonics(found.frame, first, last)
                for collection in COLLECTIONS
                if (proposal := _weigh(found, bad, first, last, tonic, collection)) is not None
            ),
            key=lambda proposal: proposal.score,
            default=None,
        )
        if best is not None:
            yield best


def _stretches(frame: Frame, bad: Sequence[float]) -> Iterator[tuple[int, int]]:
    """Stretches (first and last note) from one rest or chord change to another that hold enough bad notes."""
    notes = frame.notes
    starts = [n.index for n in notes if n.rest_before or n.index == 0 or n.span != notes[n.index - 1].span]
    ends = [*(start - 1 for start in starts[1:]), len(notes) - 1]
    total = [0.0]
    for value in bad:
        total.append(total[-1] + value)
    for k, first in enumerate(starts):
        if total[min(len(notes), first + MOST_NOTES)] - total[first] < ENOUGH_BAD:
            continue
        for last in ends[k:]:
            size = last - first + 1
            if size > MOST_NOTES:
                break
            badly = total[last + 1] - total[first]
            if size >= FEWEST_NOTES and badly >= max(ENOUGH_BAD, ENOUGH_SHARE * size):
                yield first, last


def _tonics(frame: Frame, first: int, last: int) -> list[PitchName]:
    """The tonics a stretch could be heard from: its key's, and the root of a chord that lasts all the while."""
    key = frame.ground.key_at(frame.notes[first].note.onset).key
    tonics = [key.tonic]
    spans = {note.span for note in frame.notes[first : last + 1]}
    if len(spans) == 1:
        root = frame.spans[spans.pop()].chord.root
        if root.pitch_class != key.tonic.pitch_class:
            tonics.append(root)
    return tonics


def _weigh(
    found: Labelled, bad: Sequence[float], first: int, last: int, tonic: PitchName, collection: str
) -> Proposal | None:
    notes = found.frame.notes[first : last + 1]
    classes = collection_pitch_classes(collection, tonic.pitch_class)
    total = len(notes)
    inside = sum(note.pitch % 12 in classes for note in notes)
    if inside < ENOUGH_INSIDE * total:
        return None
    by_chance = len(classes) / 12
    evidence = inside * math.log(_INSIDE / by_chance) + (total - inside) * math.log(_OUTSIDE / (1 - by_chance))
    explained = sum(
        bad[note.index]
        for note in notes
        # A tone altered against its own chord's root is what the collection would call it too.
        if note.pitch % 12 in classes
        and not (
            found.ruled[note.index].device == "altered"
            and found.frame.span_of(note).chord.root.pitch_class == tonic.pitch_class
        )
    )
    if explained < ENOUGH_BAD or evidence < ENOUGH_EVIDENCE:
        return None
    # What stays outside the collection is explained worse than it was.
    score = explained + evidence - 2.0 * (total - inside)
    badly = round(explained)
    reading = Reading(notes[0].note.id, notes[-1].note.id, ReadingKind.KEY_CENTRE, tonic, collection)
    words = (
        f"{inside} of {total} notes lie in {reading_name(reading)}; against the changes {badly} of them rub, stay "
        "unexplained or are colours from elsewhere."
    )
    return Proposal(reading, inside, total, badly, score, words)


# -- implied chords -------------------------------------------------------------------------------------


def _implied(found: Labelled) -> Iterator[Proposal]:
    """Implied runs of four notes and more, neighbours together, as the chords they spell."""
    notes, labels = found.frame.notes, found.ruled
    i = 0
    while i < len(notes):
        last = i
        while last < len(notes) and labels[last].implied and labels[last].device in ("implied", "plain"):
            last += 1
        run = range(i, last)
        outside = [k for k in run if labels[k].device == "implied"]
        if len(run) >= FEWEST_IMPLIED and len(outside) * 2 >= len(run):
            yield _implied_proposal(found, run, len(outside))
        i = max(last, i + 1)


def _implied_proposal(found: Labelled, run: range, outside: int) -> Proposal:
    notes, labels = found.frame.notes, found.ruled
    chords: list[ChordEvent] = []
    for k in run:
        symbol = labels[k].implied
        if symbol and (not chords or chords[-1].text != symbol):
            chords.append(ChordEvent(f"implied-{notes[k].note.id}", notes[k].note.onset, symbol))
    names = " ".join(shown_chord(parse_chord_symbol(event.text)) for event in chords)
    written = dict.fromkeys(shown_chord(found.frame.span_of(notes[k]).chord) for k in run)
    words = (
        f"{len(run)} of {len(run)} notes belong to {names}; against {' '.join(written)} {outside} of them are outside."
    )
    reading = Reading(notes[run[0]].note.id, notes[run[-1]].note.id, ReadingKind.IMPLIED, chords=tuple(chords))
    return Proposal(reading, len(run), len(run), outside, float(len(run)), words)
