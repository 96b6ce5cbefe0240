"""The upper structure: a complete triad or seventh chord over the chord, every tone of which the chord welcomes."""

from __future__ import annotations

import itertools
from collections.abc import Iterator

from gavotte.giving_way import give_way
from gavotte.labelling.costs import costs_of
from gavotte.labelling.explanation import Explanation, Figure
from gavotte.labelling.figures.implied_run import yielding_run
from gavotte.labelling.figures.kind import FigureKind, Told
from gavotte.labelling.figures.run import is_blues_run, prepares_next, stretch_from
from gavotte.labelling.figures.spelled import Spelled, chords_made_of, name_of
from gavotte.labelling.frame import Frame
from gavotte.labelling.framed_note import FramedNote
from gavotte.labelling.single import passing
from gavotte.labelling.tensions import extension_device
from gavotte.labelling.wording import chord_name, chord_words, note_words, place_words, symbol_words
from gavotte.solo.document import Function
from gavotte.solo.school import School

NAME = "upper structure"
_MAJOR_THIRD = 4


def upper_structures(frame: Frame, school: School, first: int, last: int) -> Iterator[Figure]:
    """The upper structures among the notes from ``first`` up to ``last``: of their moves at most one is a step."""
    bits = [1 << note.pitch % 12 for note in frame.notes[first:last]]
    for start in range(first, last - 2):
        give_way()
        triad = bits[start - first] | bits[start - first + 1] | bits[start - first + 2]
        fourth = bits[start - first + 3] if start + 3 < last else 0
        for size, sounding in ((4, triad | fourth), (3, triad)):
            # Few notes in a row are a chord at all: that is asked first, for it costs least.
            made = chords_made_of(sounding)
            if not made or len(made[0].tones) != size:
                continue
            notes = stretch_from(frame, start, min(last, start + size))
            if len(notes) < size or all(note.is_tone for note in notes):
                continue
            root = frame.span_of(notes[0]).chord.root.pitch_class
            chords = [chord for chord in made if chord.root != root]
            if chords and _is_welcome(frame, notes, school) and not _is_left_of_run(frame, notes):
                yield _figure(frame, notes, _best_name(frame, notes, chords), school)


def _best_name(frame: Frame, notes: list[FramedNote], chords: list[Spelled]) -> Spelled:
    """Symmetrical chords have a name for each tone: the written chord's third first, then the line's first note."""
    third = (frame.span_of(notes[0]).chord.root.pitch_class + _MAJOR_THIRD) % 12
    return min(chords, key=lambda chord: (chord.root != third, chord.root != notes[0].pitch % 12))


def _is_welcome(frame: Frame, notes: list[FramedNote], school: School) -> bool:
    added = [note for note in notes if not note.is_tone]
    if any(not (note.tension or note.in_scale) for note in added) or is_blues_run(frame, notes):
        return False
    steps = [(a, b) for a, b in itertools.pairwise(notes) if a.steps_out]
    if len(steps) > 1:
        return False
    if any(passing(frame, note, school) is not None for pair in steps for note in pair):
        return False
    return len(notes) > 3 or not prepares_next(frame, notes)


def _is_left_of_run(frame: Frame, notes: list[FramedNote]) -> bool:
    """Whether the notes are part of a run that spells another chord but yields to an enclosure."""
    start, end = notes[0].index, notes[-1].index + 1
    return any(yielding_run(frame, start, stop) for stop in (end, end + 1) if stop < len(frame.notes))


def _figure(frame: Frame, notes: list[FramedNote], chord: Spelled, school: School) -> Figure:
    written = frame.span_of(notes[0]).chord
    name = name_of(notes, chord, written.root.pitch_class)
    # The 11 is at home in the chord a fifth above a dominant (A C E G over D7); other clashes stay clashes.
    explains = {
        note.index: Explanation(
            Function.EXTENSION,
            "natural" if note.degree == "11" else extension_device(written, note.degree),
            _fit(notes),
            implied=name,
            figure=NAME,
        )
        for note in notes
        if not note.is_tone
    }
    members = tuple(note.index for note in notes)
    return Figure(
        NAME,
        members,
        explains,
        spells=dict.fromkeys(members, name),
        extra=costs_of(school).structure,
    )


def _fit(notes: list[FramedNote]) -> float:
    """How far listeners would agree: less on a single added note, and less where the last goes on by step."""
    added = [note for note in notes if not note.is_tone]
    fit = 0.92 if len(added) > 1 else 0.88
    return fit - 0.08 if notes[-1] is added[-1] and notes[-1].steps_out else fit


def _reason(frame: Frame, note: FramedNote, explanation: Explanation) -> str:
    span = frame.span_of(note)
    against = ", where it rubs" if explanation.device == "clash" else ""
    spelled, place = symbol_words(explanation.implied or ""), place_words(frame, note, chord_name(span))
    return f"{note_words(note)} belongs to {spelled}, spelled out over {chord_words(span)}: it is {place}{against}."


def _short(frame: Frame, note: FramedNote, explanation: Explanation) -> str:
    return place_words(frame, note, chord_name(frame.span_of(note)))


def _phrase(told: Told) -> str:
    return f"{told.names} spell {told.spelled} as colours of {told.over} ({told.degrees})"


UPPER_STRUCTURE = FigureKind(
    NAME,
    "Upper structure",
    3.5,
    upper_structures,
    ("natural", "altered", "clash"),
    _reason,
    _short,
    _phrase,
    feature=lambda goal: "",
)
