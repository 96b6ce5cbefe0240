"""The implied run: notes that spell another chord than the written one, with tones the written one has no place for.

A shape that carries such a run on as a pattern (moved, or as the next chord of a cycle) belongs to it.
"""

from __future__ import annotations

import itertools
from bisect import bisect_left, bisect_right
from collections.abc import Iterator, Sequence

from gavotte.giving_way import give_way
from gavotte.labelling.explanation import Explanation, Figure
from gavotte.labelling.figures.kind import FigureKind, Told
from gavotte.labelling.figures.pentatonic_run import FOURTHS, moved_fourths, pentatonic_runs, shape_words
from gavotte.labelling.figures.run import (
    WHOLE_TONE,
    Run,
    foreign,
    has_foreign,
    is_blues_run,
    lasts_a_beat,
    moves,
    prepares_next,
    stretch_from,
    yields,
)
from gavotte.labelling.figures.spelled import KINDS, LONGEST_RUN, NINTH, Spelled, chords_holding, name_of
from gavotte.labelling.frame import Frame
from gavotte.labelling.framed_note import FramedNote
from gavotte.labelling.wording import chord_words, note_words, symbol_words
from gavotte.solo.document import Function
from gavotte.solo.school import School

NAME = "implied run"
_FALLING_FIFTH, _FALLING_SEMITONE = 5, 11
_SUREST, _DOUBT, _DOUBT_OF_FEW = 0.93, 0.06, 0.13
_FEW_FOREIGN, _MANY_FOREIGN, _SHORTEST = 2, 3, 3


def implied_runs(frame: Frame, school: School, first: int, last: int) -> Iterator[Figure]:
    """The implied runs among the notes from ``first`` up to ``last``, alone and with the shapes that carry them on.

    Of those that could be drawn through the same notes the one with the most notes stands, then the one from the beat,
    then the one that keeps the shape of the notes before it.
    """
    # Notes that are no chord tones make a run: without two of them within reach there is nothing to find.
    added = [i for i in range(first, last) if not frame.notes[i].is_tone]
    runs: list[Run] = []
    for start in range(first, last - 2):
        give_way()
        following = bisect_left(added, start)
        if following + 1 < len(added) and added[following + 1] < start + LONGEST_RUN:
            runs += _runs_from(frame, start, last)
    yielding = [run for run in runs if yields(frame, run)]
    chains: list[list[Run]] = []
    for run in runs:
        # What is left of a run that yields is no run either.
        if not any(run.lies_in(other) for other in yielding):
            chains.append([run])
        chain = [run]
        while (carried := _carried_on(frame, chain[-1], last)) is not None:
            chain = [*chain, carried]
            chains.append(chain)
    for chain in _heard_of(frame, chains):
        yield _figure(frame, chain)


def yielding_run(frame: Frame, start: int, end: int) -> bool:
    """Whether a run through the note at ``start`` ends right before ``end`` and yields to the figure about that."""
    if not prepares_next(frame, frame.notes[max(0, end - 2) : end]):
        return False
    for first in range(max(0, end - LONGEST_RUN), min(start, end - 3) + 1):
        if any(run.last == end - 1 and yields(frame, run) for run in _runs_from(frame, first, end)):
            return True
    return False


def _heard_of(frame: Frame, chains: Sequence[list[Run]]) -> list[list[Run]]:
    """Those that are heard, of which no two share a note: the best choice of all, by dynamic programming."""
    nothing: tuple[tuple[int, ...], list[list[Run]]] = ((0, 0, 0, 0), [])
    ends = sorted({chain[-1].last + 1 for chain in chains})
    best = [nothing]
    for k, end in enumerate(ends):
        choices = [best[k]]
        for chain in chains:
            if chain[-1].last + 1 == end:
                worth, taken = best[bisect_right(ends, chain[0].first, hi=k)]
                added = tuple(a + b for a, b in zip(worth, _worth(frame, chain), strict=True))
                choices.append((added, [*taken, chain]))
        best.append(max(choices, key=lambda choice: choice[0]))
    return best[-1][1]


def _worth(frame: Frame, chain: Sequence[Run]) -> tuple[int, ...]:
    """What speaks for hearing a run: the most notes, from the beat, in the shape of the last, spelled plainly."""
    head = chain[0]
    size = len(head.notes)
    before = frame.notes[max(0, head.first - size) : head.first]
    is_line = len(before) == size and not any(note.rest_after for note in before)
    keeps_shape = is_line and moves(before) == moves(head.notes)
    # Tones of the written chord that lead into a run are not yet heard as part of it.
    begins = next(note.index for run in chain for note in run.notes if not note.is_tone)
    total = chain[-1].last - begins + 1
    return total * total, int(head.notes[0].on_beat), int(keeps_shape), -sum(run.rank for run in chain)


def _runs_from(frame: Frame, start: int, last: int) -> list[Run]:
    """The runs from one note on, one for each length: the chord it spells most plainly."""
    stretch = stretch_from(frame, start, last)
    if len(stretch) < 3 or not has_foreign(frame, stretch):
        return []
    plainest: dict[int, Run] = {}
    for chord in chords_holding(frozenset(note.pitch % 12 for note in stretch[:3])):
        notes = _without_departing_ninth(_start_in(frame, stretch, chord), chord)
        if _is_run(frame, notes, chord):
            run = Run(tuple(notes), chord, _rank(notes, chord))
            known = plainest.get(len(notes))
            if known is None or run.rank < known.rank:
                plainest[len(notes)] = run
    for run in pentatonic_runs(frame, start, last):
        # Where an arpeggio holds as many notes, it is what one hears.
        known = plainest.get(len(run.notes))
        if known is None or (known.chord.kind == "m7" and known.rank > run.rank):
            plainest[len(run.notes)] = run
    return list(plainest.values())


def _start_in(frame: Frame, stretch: Sequence[FramedNote], chord: Spelled) -> list[FramedNote]:
    """The notes of the stretch up to the first that does not belong to the chord; none over a chord of its root."""
    if frame.span_of(stretch[0]).chord.root.pitch_class == chord.root:
        return []
    return list(itertools.takewhile(lambda note: note.pitch % 12 in chord.with_ninth, stretch))


def _rank(run: Sequence[FramedNote], chord: Spelled) -> int:
    """How plainly a run spells a chord: no ninths before all four tones before the root first; then the everyday."""
    classes = [note.pitch % 12 for note in run]
    ninths = sum(pitch_class not in chord.tones for pitch_class in classes)
    missing = len(chord.tones - set(classes))
    rank = 0
    for part in (ninths, missing, int(classes[0] != chord.root), list(KINDS).index(chord.kind)):
        rank = rank * len(KINDS) + part
    return rank


def _without_departing_ninth(run: list[FramedNote], chord: Spelled) -> list[FramedNote]:
    """A complete arpeggio is not lengthened by a ninth that steps out of it."""
    ninth = (chord.root + NINTH) % 12
    complete = chord.tones <= {note.pitch % 12 for note in run[:-1]}
    return run[:-1] if run and complete and run[-1].pitch % 12 == ninth else run


def _is_run(frame: Frame, run: list[FramedNote], chord: Spelled) -> bool:
    if len({note.pitch for note in run}) < 3 or not has_foreign(frame, run):
        return False
    classes = {note.pitch % 12 for note in run}
    if chord.third not in classes or len(classes & chord.tones) < 3:
        return False
    between = moves(run)
    steps = sum(abs(move) <= WHOLE_TONE for move in between)
    if 2 * steps > len(between) or is_blues_run(frame, run):
        return False
    # One foreign note between tones of the written chord makes no run.
    if all(a.is_tone or b.is_tone for a, b in itertools.pairwise(run)):
        return False
    # With a single foreign note, a fragment is sooner a slip or an approach than another chord.
    added = [note for note in run if not note.is_tone]
    if len(foreign(added)) == 1 and (len(added) < 3 or not chord.is_spelled_by(classes)):
        return False
    return lasts_a_beat(run)


def _carried_on(frame: Frame, run: Run, last: int) -> Run | None:
    """The next shape of a pattern over the same chord: as many notes, moved as they are or on to a cycle's chord."""
    start, size = run.last + 1, len(run.notes)
    if start + size > last or run.notes[-1].rest_after:
        return None
    notes = stretch_from(frame, start, min(last, start + size))
    if len(notes) < size or notes[0].span != run.notes[0].span or notes[0].note.grace:
        return None
    if all(note.is_tone for note in notes) or is_blues_run(frame, notes):
        return None
    fourths = moved_fourths(run, notes)
    if fourths is not None:
        return fourths
    before, now = moves(run.notes), moves(notes)
    classes = {note.pitch % 12 for note in notes}
    for chord in chords_holding(frozenset(classes)):
        if len(_start_in(frame, notes, chord)) < len(notes):
            continue
        if chord.third not in classes or len(classes & chord.tones) < 3:
            continue
        shift = (chord.root - run.chord.root) % 12
        moved = now == before and chord.kind == run.chord.kind and shift != 0
        cycles = shift in (_FALLING_FIFTH, _FALLING_SEMITONE) and [m > 0 for m in now] == [m > 0 for m in before]
        if moved or (cycles and chord.tones <= classes):
            return Run(tuple(notes), chord, _rank(notes, chord))
    return None


def _figure(frame: Frame, chain: Sequence[Run]) -> Figure:
    explains: dict[int, Explanation] = {}
    spells: dict[int, str] = {}
    fit = _fit(chain)
    for run in chain:
        name = name_of(run.notes, run.chord, frame.span_of(run.notes[0]).chord.root.pitch_class)
        shape = shape_words(run.notes, name)
        told = Explanation(Function.OUTSIDE, "implied", fit, implied=name, figure=NAME, shape=shape)
        for note in run.notes:
            if not note.is_tone:
                explains[note.index] = told
            spells[note.index] = name
    return Figure(NAME, tuple(spells), explains, spells=spells)


def _fit(chain: Sequence[Run]) -> float:
    """How far listeners would agree on a run: what speaks against it is counted, set by hand.

    Few foreign notes, tones of the other chord that are left out, ninths, and a start off the beat.
    """
    run = chain[0]
    classes = {note.pitch % 12 for note in run.notes}
    added = [note for shape in chain for note in shape.notes if not note.is_tone]
    strange = len(foreign(added))
    fit = _SUREST
    if strange < _FEW_FOREIGN:
        fit -= _DOUBT_OF_FEW * (_FEW_FOREIGN - strange)
    elif strange < min(_MANY_FOREIGN, len(added)):
        fit -= _DOUBT
    whole = run.chord.is_spelled_by(classes)
    left_out = not whole or not classes <= run.chord.with_ninth
    ninth = bool(classes & run.chord.with_ninth - run.chord.tones)
    short = len(run.notes) == _SHORTEST and len(chain) == 1
    return fit - _DOUBT * (left_out + ninth + short + (not run.notes[0].on_beat))


def _reason(frame: Frame, note: FramedNote, explanation: Explanation) -> str:
    over = chord_words(frame.span_of(note))
    return f"{note_words(note)} belongs to {_spelled(explanation)}, laid over {over}."


def _short(frame: Frame, note: FramedNote, explanation: Explanation) -> str:
    return f"a tone of {_spelled(explanation)}"


def _spelled(explanation: Explanation) -> str:
    return explanation.shape or symbol_words(explanation.implied or "")


def _phrase(told: Told) -> str:
    if told.spelled.startswith(FOURTHS) and " and then " not in told.spelled:
        return f"{told.names} are stacked in fourths over {told.over}"
    return f"{told.names} spell {told.spelled} over {told.over}"


IMPLIED_RUN = FigureKind(
    NAME,
    "Implied run",
    3,
    implied_runs,
    ("implied",),
    _reason,
    _short,
    _phrase,
    feature=lambda goal: "outside run",
    surprise={"implied": 2.2},
    # A note inside a run that spells another chord is no anticipation.
    overrides_early=True,
)
