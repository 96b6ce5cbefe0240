"""The implied run: notes that spell another chord than the written one, with tones the written one has no place for.

A shape that carries such a run on as a pattern (moved, or as the next chord of a cycle) belongs to it.
"""

from __future__ import annotations

import itertools
from bisect import bisect_left
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from gavotte.giving_way import give_way
from gavotte.labelling.costs import costs_of
from gavotte.labelling.explanation import Explanation, Figure
from gavotte.labelling.figures.kind import FigureKind, Told
from gavotte.labelling.figures.spelled import (
    KINDS,
    LONGEST_RUN,
    NINTH,
    Spelled,
    chords_holding,
    is_blues_run,
    name_of,
    prepares_next,
    stretch_from,
)
from gavotte.labelling.frame import TOLERANCE, Frame, FramedNote
from gavotte.labelling.tensions import is_altered
from gavotte.labelling.wording import chord_words, note_words, symbol_words
from gavotte.solo.document import Function
from gavotte.solo.school import School

NAME = "implied run"
_STEP = 2
_PLAINER = 0.0001
_FALLING_FIFTH, _FALLING_SEMITONE = 5, 11


@dataclass(frozen=True)
class _Run:
    """Notes in a row and the chord they spell."""

    notes: tuple[FramedNote, ...]
    chord: Spelled


def implied_runs(frame: Frame, school: School, first: int, last: int) -> Iterator[Figure]:
    """The implied runs among the notes from ``first`` up to ``last``, alone and with the shapes that carry them on."""
    # Notes that are no chord tones make a run: without two of them within reach there is nothing to find.
    added = [i for i in range(first, last) if not frame.notes[i].is_tone]
    for start in range(first, last - 2):
        give_way()
        following = bisect_left(added, start)
        if following + 1 >= len(added) or added[following + 1] >= start + LONGEST_RUN:
            continue
        stretch = stretch_from(frame, start, last, one_chord=False)
        if len(stretch) >= 3 and _has_foreign(frame, stretch):
            for run in _runs(frame, stretch):
                yield _figure(frame, school, [run])
                chain = [run]
                while (carried := _carried_on(frame, chain[-1], last)) is not None:
                    chain.append(carried)
                    yield _figure(frame, school, chain)


def _runs(frame: Frame, stretch: list[FramedNote]) -> list[_Run]:
    """The runs from the stretch's first note, one for each length: the chord it spells most plainly."""
    plainest: dict[int, tuple[tuple[int, ...], _Run]] = {}
    for chord in chords_holding(frozenset(note.pitch % 12 for note in stretch[:3])):
        for notes in _by_chords(_start_in(frame, stretch, chord)):
            run = _without_departing_ninth(notes, chord)
            if _is_run(frame, run, chord):
                found = (_plainness(run, chord), _Run(tuple(run), chord))
                plainest[len(run)] = min(plainest.get(len(run), found), found, key=lambda item: item[0])
    return [run for _, run in plainest.values()]


def _start_in(frame: Frame, stretch: list[FramedNote], chord: Spelled) -> list[FramedNote]:
    """The notes of the stretch up to the first that does not belong to the chord, or stands on one of its root."""
    notes = []
    for note in stretch:
        if note.pitch % 12 not in chord.with_ninth or frame.spans[note.span].chord.root.pitch_class == chord.root:
            break
        notes.append(note)
    return notes


def _by_chords(notes: list[FramedNote]) -> Iterator[list[FramedNote]]:
    """The notes up to the first chord change, and all of them where they go on being added notes after it."""
    if not notes:
        return
    spans = sorted({note.span for note in notes})
    yield [note for note in notes if note.span == spans[0]]
    if len(spans) > 1 and all(any(n.span == span and not n.is_tone for n in notes) for span in spans):
        yield notes


def _has_foreign(frame: Frame, notes: Sequence[FramedNote]) -> bool:
    """Whether two added notes are there at all, and one that the written chord has no place for."""
    added = [note for note in notes if not note.is_tone]
    if len(added) < 2:
        return False
    return any(not (note.tension or note.in_scale) for note in added) or _contradicts(frame, added)


def _contradicts(frame: Frame, added: list[FramedNote]) -> bool:
    """A 13 beside a ♭13, or an 11 beside an altered tone, over a dominant: no one scale holds both."""
    for span, group in itertools.groupby(added, key=lambda note: note.span):
        chord = frame.spans[span].chord
        degrees = {note.degree for note in group}
        if {"13", "b13"} <= degrees or ("11" in degrees and any(is_altered(chord, degree) for degree in degrees)):
            return True
    return False


def _plainness(run: list[FramedNote], chord: Spelled) -> tuple[int, ...]:
    """Lower is plainer: no ninths, all four tones, the root first, an everyday kind."""
    classes = [note.pitch % 12 for note in run]
    ninths = sum(pitch_class not in chord.tones for pitch_class in classes)
    missing = len(chord.tones - set(classes))
    return ninths, missing, int(classes[0] != chord.root), list(KINDS).index(chord.kind)


def _without_departing_ninth(run: list[FramedNote], chord: Spelled) -> list[FramedNote]:
    """A complete arpeggio is not lengthened by a ninth that steps out of it."""
    ninth = (chord.root + NINTH) % 12
    complete = chord.tones <= {note.pitch % 12 for note in run[:-1]}
    return run[:-1] if run and complete and run[-1].pitch % 12 == ninth else run


def _is_run(frame: Frame, run: list[FramedNote], chord: Spelled) -> bool:
    if len({note.pitch for note in run}) < 3 or not _has_foreign(frame, run):
        return False
    classes = {note.pitch % 12 for note in run}
    if chord.third not in classes or len(classes & chord.tones) < 3:
        return False
    moves = [abs(b.pitch - a.pitch) for a, b in itertools.pairwise(run)]
    steps = sum(move <= _STEP for move in moves)
    if 2 * steps > len(moves) or is_blues_run(frame, run):
        return False
    # One foreign note between tones of the written chord makes no run.
    if all(a.is_tone or b.is_tone for a, b in itertools.pairwise(run)):
        return False
    # With a single foreign note, a fragment is sooner a slip or an approach than another chord.
    added = [note for note in run if not note.is_tone]
    foreign = [note for note in added if not (note.tension or note.in_scale)]
    if len(foreign) == 1 and (len(added) < 3 or not chord.tones <= classes):
        return False
    if len(run) == 3 and prepares_next(frame, run):
        return False
    return sum(note.length for note in run) >= run[0].beat_length - TOLERANCE


def _carried_on(frame: Frame, run: _Run, last: int) -> _Run | None:
    """The next shape of a pattern: as many notes right after the run, moved as they are or on to a cycle's chord."""
    start, size = run.notes[-1].index + 1, len(run.notes)
    if start + size > last or run.notes[-1].rest_after:
        return None
    notes = frame.notes[start : start + size]
    if any(note.note.grace for note in notes) or any(note.rest_after for note in notes[:-1]):
        return None
    if all(note.is_tone for note in notes) or is_blues_run(frame, notes):
        return None
    moves, before = _moves(notes), _moves(run.notes)
    classes = {note.pitch % 12 for note in notes}
    for chord in chords_holding(frozenset(classes)):
        if len(_start_in(frame, notes, chord)) < len(notes):
            continue
        if chord.third not in classes or len(classes & chord.tones) < 3:
            continue
        shift = (chord.root - run.chord.root) % 12
        moved = moves == before and chord.kind == run.chord.kind and shift != 0
        cycles = shift in (_FALLING_FIFTH, _FALLING_SEMITONE) and [m > 0 for m in moves] == [m > 0 for m in before]
        if moved or (cycles and chord.tones <= classes):
            return _Run(tuple(notes), chord)
    return None


def _moves(notes: Sequence[FramedNote]) -> list[int]:
    return [b.pitch - a.pitch for a, b in itertools.pairwise(notes)]


def _figure(frame: Frame, school: School, chain: Sequence[_Run]) -> Figure:
    explains: dict[int, Explanation] = {}
    spells: dict[int, str] = {}
    for run in chain:
        name = name_of(list(run.notes), run.chord)
        for note in run.notes:
            if not note.is_tone:
                explains[note.index] = Explanation(Function.OUTSIDE, "implied", 0.85, implied=name, figure=NAME)
            spells[note.index] = name
    # Of two chords for the same notes the plainer is heard.
    extra = _PLAINER * sum(sum(_plainness(list(run.notes), run.chord)[:3]) for run in chain)
    if not chain[0].notes[0].on_beat:
        extra += costs_of(school).off_beat
    return Figure(NAME, tuple(spells), explains, spells=spells, extra=extra)


def _reason(frame: Frame, note: FramedNote, explanation: Explanation) -> str:
    over = chord_words(frame.span_of(note))
    return f"{note_words(note)} belongs to {symbol_words(explanation.implied or '')}, laid over {over}."


def _short(frame: Frame, note: FramedNote, explanation: Explanation) -> str:
    return f"a tone of {symbol_words(explanation.implied or '')}"


def _phrase(told: Told) -> str:
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
