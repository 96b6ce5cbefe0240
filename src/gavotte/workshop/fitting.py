"""A line set on other chords: by degree, bent to the scale, or as an exact shape.

By degree, what a note *does* is kept: a third becomes the third of the new chord, a step of the local scale its step
there, a chromatic approach leads to the new goal from the same side and distance. Where that leaves no room (two
different notes would be one) the note beside the goal moves to the goal's other side.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from fractions import Fraction
from itertools import pairwise

from gavotte.harmony.ground import ground_of
from gavotte.labelling.chords_in_force import ChordSpan, chord_spans
from gavotte.labelling.labeller import Labelled
from gavotte.labelling.tensions import is_tension
from gavotte.solo.document import ChordEvent, Function, Note, Solo
from gavotte.solo.label import Label
from gavotte.theory.chord import DEGREE_SEMITONES
from gavotte.workshop.ladder import STEPS, Ladder, Rung, ladder_of
from gavotte.workshop.piece import Piece, changed_pitch, nearest_way


class Fit(StrEnum):
    """How a line is set on other chords."""

    DEGREE = "by degree"
    SCALE = "bent to the scale"
    SHAPE = "exact shape"


@dataclass(frozen=True, slots=True)
class _Place:
    """A note as it stands on its chord: its ladder, the root it is counted from, and its rung."""

    ladder: Ladder
    root: int
    rung: Rung


_EXACT = frozenset({"double-below", "double-above", "chromatic-passing"})
"""Devices whose notes stand half steps apart, whatever the scale is."""
_LEADING = 2
"""Semitones an approach is from its goal, at most."""


def fitted(piece: Piece, chords: Sequence[ChordEvent], how: Fit = Fit.DEGREE, shift: int = 0) -> Piece:
    """The piece over other chords in the same time; ``shift`` moves every note by so many steps of its chord's ladder.

    With a shift of 2 what began on the root begins on the third.
    """
    found = piece.labelled
    target = replace(piece.solo, chords=tuple(chords), heard_keys=(), decisions=(), readings=())
    midis = fitted_pitches(found, target, how, shift)
    notes = [changed_pitch(note, midi) for note, midi in zip(piece.solo.notes, midis, strict=True)]
    return replace(piece, solo=target).with_notes(notes)


def fitted_pitches(found: Labelled, target: Solo, how: Fit, shift: int = 0) -> list[int]:
    """The pitches (MIDI) of a labelled line over the chords of ``target``, one for each note."""
    old = [note.pitch.midi for note in found.solo.notes]
    if not old:
        return []
    spans = chord_spans(target, target.school, ground_of(target))
    here = [_span_at(spans, note, label, found) for note, label in zip(found.solo.notes, found.labels, strict=True)]
    moves = _root_moves(found, here)
    if how is Fit.SHAPE:
        by = _shape_move(found, here, moves)
        return [midi + by for midi in old]
    if how is Fit.SCALE:
        return _apart(found, [_nearest_in(midi, span) for midi, span in zip(old, here, strict=True)], here)
    return _by_degree(found, here, moves, shift)


def _span_at(spans: Sequence[ChordSpan], note: Note, label: Label, found: Labelled) -> ChordSpan:
    """The chord of the new ones a note is heard against: an anticipation belongs to the one it looks ahead to."""
    place = max((k for k, span in enumerate(spans) if span.onset <= note.onset), default=0)
    own, ahead = found.frame.notes[found.solo.places[note.id]].span, place + 1
    if (
        label.device == "anticipation"
        and ahead < len(spans)
        and note.end >= spans[ahead].onset - _early(note, own, found)
    ):
        return spans[ahead]
    if label.device == "carried" and place and own:
        return spans[place - 1]
    return spans[place]


def _early(note: Note, span: int, found: Labelled) -> Fraction:
    """Quarter notes by which an anticipation ends before the chord it looks ahead to in the source, else 0."""
    following = found.frame.spans[span + 1 : span + 2]
    return max(Fraction(0), following[0].onset - note.end) if following else Fraction(0)


def _own_span(found: Labelled, index: int) -> ChordSpan:
    """The chord of the source a note is heard against."""
    spans, span, device = found.frame.spans, found.frame.notes[index].span, found.labels[index].device
    ahead = device == "anticipation" and span + 1 < len(spans) and found.labels[index].degree
    return spans[span + 1] if ahead else spans[span - 1] if device == "carried" and span else spans[span]


def _root_moves(found: Labelled, here: Sequence[ChordSpan]) -> list[int]:
    """For each note by how many semitones its chord's root moves: the nearest way for the first, and for later chords
    the way that keeps what follows nearest to what went before.
    """
    moves: list[int] = []
    for index, span in enumerate(here):
        by = nearest_way(span.chord.root.pitch_class - _own_span(found, index).chord.root.pitch_class)
        if moves:
            by = min((by - 12, by, by + 12), key=lambda way: abs(way - moves[-1]))
        moves.append(by)
    return moves


def _shape_move(found: Labelled, here: Sequence[ChordSpan], moves: Sequence[int]) -> int:
    """By how many semitones a whole line moves: with the first written chord there is before and after, since without
    a chord only the key tells a root.
    """
    with_chords = (k for k, span in enumerate(here) if span.written and _own_span(found, k).written)
    return nearest_way(moves[next(with_chords, 0)])


def _by_degree(found: Labelled, here: Sequence[ChordSpan], moves: Sequence[int], shift: int) -> list[int]:
    notes, labels = found.solo.notes, found.labels
    old = [note.pitch.midi for note in notes]
    new: list[int | None] = [None] * len(notes)
    places = [_place(found, k) for k in range(len(notes))]
    for k, label in enumerate(labels):
        ladder = ladder_of(here[k].chord, here[k].scale.pitch_classes)
        root = places[k].root + moves[k]
        if label.function is Function.OUTSIDE:
            new[k] = old[k] + moves[k]
        elif label.function in (Function.CHORD, Function.EXTENSION) or not places[k].rung.alter:
            new[k] = _on_ladder(label, places[k], ladder, root, here[k], shift)
    # What leads to another note follows it: from the end, so that a goal stands before what leads to it.
    for k in reversed(range(len(notes))):
        goal = _goal(found, k)
        if new[k] is None or (labels[k].function is Function.APPROACH and goal is not None and _is_close(old, k, goal)):
            new[k] = _leading(old, new, k, goal, places, here, moves[k], labels[k].device not in _EXACT)
    return _apart(found, [midi if midi is not None else old[k] + moves[k] for k, midi in enumerate(new)], here)


def _place(found: Labelled, index: int) -> _Place:
    span = _own_span(found, index)
    ladder = ladder_of(span.chord, span.scale.pitch_classes)
    midi = found.solo.notes[index].pitch.midi
    # One root for a whole line: far enough below that octaves are counted alike.
    return _Place(ladder, ladder.root, ladder.rung(midi, ladder.root))


def _on_ladder(label: Label, place: _Place, ladder: Ladder, root: int, span: ChordSpan, shift: int) -> int:
    """A note of a chord or its scale on another chord's ladder."""
    rung = place.rung
    if not shift and rung.alter and _is_welcome(label.degree, span):
        # An altered or blue colour that the new chord has as well.
        octave = rung.step // STEPS
        return root + 12 * octave + DEGREE_SEMITONES[label.degree]
    if not shift and label.degree == "#9" and span.chord.third == "b3":
        return ladder.midi(Rung(rung.step // STEPS * STEPS + 2), root)
    return ladder.midi(Rung(rung.step + shift), root)


def _is_welcome(degree: str, span: ChordSpan) -> bool:
    chord = span.chord
    sounds = (chord.root.pitch_class + DEGREE_SEMITONES[degree]) % 12
    return sounds in span.tones or is_tension(chord, chord.degree_of(sounds), span.scale)


def _goal(found: Labelled, index: int) -> int | None:
    """The place of the note a note leads to; for one that is but passed through, the next note."""
    target = found.labels[index].target
    if target is not None and target in found.solo.places:
        return found.solo.places[target]
    return index + 1 if index + 1 < len(found.solo.notes) else None


def _is_close(old: Sequence[int], index: int, goal: int) -> bool:
    return 0 < abs(old[index] - old[goal]) <= _LEADING


def _leading(
    old: Sequence[int],
    new: Sequence[int | None],
    index: int,
    goal: int | None,
    places: Sequence[_Place],
    here: Sequence[ChordSpan],
    move: int,
    may_bend: bool,
) -> int:
    """A note that leads to another one: from the same side; a scale step stays one (where it ``may_bend``), what is
    chromatic its distance.
    """
    arrived = None if goal is None else new[goal]
    if goal is None or arrived is None or abs(old[index] - old[goal]) > 2 * _LEADING:
        return old[index] + move
    by = old[index] - old[goal]
    if may_bend and places[index].rung.alter == 0:
        ladder = ladder_of(here[index].chord, here[index].scale.pitch_classes)
        step = next((n for n in (1, 2, 3) if (arrived + (n if by > 0 else -n)) % 12 in _classes(ladder)), _LEADING)
        return arrived + (step if by > 0 else -step)
    return arrived + by


def _classes(ladder: Ladder) -> frozenset[int]:
    return frozenset((ladder.root + semitones) % 12 for semitones in ladder.semitones)


def _nearest_in(midi: int, span: ChordSpan) -> int:
    """The nearest pitch of a chord's scale, of two the lower one."""
    near = (midi + by for by in (0, -1, 1, -2, 2, -3, 3))
    return next(pitch for pitch in near if pitch in span.scale or pitch % 12 in span.tones)


def _apart(found: Labelled, midis: list[int], here: Sequence[ChordSpan]) -> list[int]:
    """The line with neighbours that have become one pitch, and were none, set apart: what leads or passes moves."""
    old = [note.pitch.midi for note in found.solo.notes]
    line = list(midis)
    for first, second in pairwise(range(len(line))):
        if line[first] != line[second] or old[first] == old[second]:
            continue
        moving = second if _is_ornament(found.labels[second]) and not _is_ornament(found.labels[first]) else first
        line[moving] = _beside(line, old, moving, here[moving], found)
    return line


def _is_ornament(label: Label) -> bool:
    return label.function in (Function.PASSING, Function.APPROACH)


def _beside(line: Sequence[int], old: Sequence[int], index: int, span: ChordSpan, found: Labelled) -> int:
    """Another pitch for a note: between its neighbours where it is passed through and there is room, else near its goal
    and unlike its neighbours, in the scale if it can be.
    """
    neighbours = [line[k] for k in (index - 1, index + 1) if 0 <= k < len(line)]
    low, high = min(neighbours), max(neighbours)
    between = [midi for midi in range(low + 1, high) if high - low <= 2 * _LEADING]
    goal = _goal(found, index)
    about = line[goal] if goal is not None and _is_ornament(found.labels[index]) else line[index]
    rising = old[index] >= old[goal] if goal is not None else True
    ways = (1, -1, 2, -2, 3, -3) if rising else (-1, 1, -2, 2, -3, 3)
    free = [about + by for by in ways if about + by not in {*neighbours, about}]
    for candidates in (between, free):
        inside = [midi for midi in candidates if midi in span.scale or midi % 12 in span.tones]
        if inside or (candidates is between and candidates):
            return min(inside or candidates, key=lambda midi: sum(abs(midi - other) for other in neighbours))
    return free[0]
