"""Implied chords: runs that spell a chord foreign to the written one, and upper structures that colour it.

Both are found the same way: a few notes in a row that are members of one other chord. A run with tones the
written chord has no place for is *outside*; a complete triad or seventh chord whose tones the written chord
welcomes is an *upper structure*, and its added notes are extensions.
"""

from __future__ import annotations

import itertools
from bisect import bisect_left
from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache

from gavotte.labelling.explanation import Explanation, Figure
from gavotte.labelling.figures import closes_by_semitones
from gavotte.labelling.frame import TOLERANCE, Frame, FramedNote
from gavotte.labelling.school import School
from gavotte.labelling.single import passing
from gavotte.labelling.tensions import extension_device, is_altered
from gavotte.solo.document import Function
from gavotte.theory.pitch import PitchName
from gavotte.theory.scale import SCALES

RULE_IMPLIED = 3
LONGEST_RUN = 8

# Root, third, fifth and seventh of the chords a line can spell; "" and "m" are triads.
_SPELLED: dict[str, tuple[int, ...]] = {
    "maj7": (0, 4, 7, 11),
    "7": (0, 4, 7, 10),
    "m7": (0, 3, 7, 10),
    "m7b5": (0, 3, 6, 10),
    "dim7": (0, 3, 6, 9),
    "": (0, 4, 7),
    "m": (0, 3, 7),
    "dim": (0, 3, 6),
    "+": (0, 4, 8),
}
_NINTH = 2


@dataclass(frozen=True, slots=True)
class _Spelled:
    """A chord a line may spell: root pitch class, kind, and its tones (and ninth) as pitch classes."""

    root: int
    kind: str
    tones: frozenset[int]
    third: int
    with_ninth: frozenset[int]


def _spelled(root: int, kind: str) -> _Spelled:
    tones = frozenset((root + step) % 12 for step in _SPELLED[kind])
    third = (root + _SPELLED[kind][1]) % 12
    return _Spelled(root, kind, tones, third, tones | {(root + _NINTH) % 12})


_CHORDS = tuple(_spelled(root, kind) for kind in _SPELLED for root in range(12))


@lru_cache(maxsize=2048)
def _chords_holding(classes: frozenset[int]) -> tuple[_Spelled, ...]:
    """The seventh chords that hold all these pitch classes among their tones and ninth."""
    return tuple(chord for chord in _CHORDS if len(chord.tones) == 4 and classes <= chord.with_ninth)


@lru_cache(maxsize=2048)
def _chords_made_of(classes: frozenset[int]) -> tuple[_Spelled, ...]:
    """The triads and seventh chords that are exactly these pitch classes."""
    return tuple(chord for chord in _CHORDS if chord.tones == classes)


def implied_figures(frame: Frame, school: School) -> Iterator[Figure]:
    """Every implied run and upper structure a solo's lines allow."""
    # Only a note that is no chord tone makes a figure: without one within reach there is nothing to find.
    added = [note.index for note in frame.notes if not note.is_tone]
    for start in range(len(frame.notes) - 2):
        following = bisect_left(added, start)
        if following == len(added) or added[following] >= start + LONGEST_RUN:
            continue
        stretch = _stretch(frame, start)
        if len(stretch) >= 3:
            if _holds_foreign_notes(frame, stretch):
                yield from _runs(frame, stretch)
            yield from _upper_structures(frame, stretch, school)


def _stretch(frame: Frame, start: int) -> list[FramedNote]:
    """The notes from ``start`` on that lie over one chord with no rest among them."""
    stretch = [frame.notes[start]]
    for note in frame.notes[start + 1 : start + LONGEST_RUN]:
        if stretch[-1].rest_after or note.span != stretch[0].span or note.note.grace:
            break
        stretch.append(note)
    return stretch


def _holds_foreign_notes(frame: Frame, stretch: list[FramedNote]) -> bool:
    """Whether a run could start here at all: two added notes, and one the written chord has no place for."""
    added = [note for note in stretch if not note.is_tone]
    return len(added) > 1 and (any(not (note.tension or note.in_scale) for note in added) or _contradicts(frame, added))


def _runs(frame: Frame, stretch: list[FramedNote]) -> Iterator[Figure]:
    """The runs from the stretch's first note, one for each length: the chord it spells most plainly."""
    span = frame.span_of(stretch[0])
    plainest: dict[int, tuple[tuple[int, ...], list[FramedNote], _Spelled]] = {}
    for chord in _chords_holding(frozenset(note.pitch % 12 for note in stretch[:3])):
        if chord.root == span.chord.root.pitch_class:
            continue
        run: list[FramedNote] = []
        for note in stretch:
            if note.pitch % 12 not in chord.with_ninth:
                break
            run.append(note)
        run = _without_departing_ninth(run, chord)
        if _is_run(frame, run, chord):
            found = (_plainness(run, chord), run, chord)
            plainest[len(run)] = min(plainest.get(len(run), found), found, key=lambda item: item[0])
    for _, run, chord in plainest.values():
        yield _figure(frame, run, chord, Function.OUTSIDE)


def _plainness(run: list[FramedNote], chord: _Spelled) -> tuple[int, ...]:
    """Lower is plainer: no ninths, all four tones, the root first, an everyday kind."""
    classes = [note.pitch % 12 for note in run]
    ninths = sum(pitch_class not in chord.tones for pitch_class in classes)
    missing = len(chord.tones - set(classes))
    return ninths, missing, int(classes[0] != chord.root), list(_SPELLED).index(chord.kind)


def _without_departing_ninth(run: list[FramedNote], chord: _Spelled) -> list[FramedNote]:
    """A complete arpeggio is not lengthened by a ninth that steps out of it."""
    ninth = (chord.root + _NINTH) % 12
    complete = chord.tones <= {note.pitch % 12 for note in run[:-1]}
    return run[:-1] if run and complete and run[-1].pitch % 12 == ninth else run


def _is_run(frame: Frame, run: list[FramedNote], chord: _Spelled) -> bool:
    if len({note.pitch for note in run}) < 3:
        return False
    if not _holds_foreign_notes(frame, run):
        return False
    classes = {note.pitch % 12 for note in run}
    if chord.third not in classes or len(classes & chord.tones) < 3:
        return False
    moves = [abs(b.pitch - a.pitch) for a, b in itertools.pairwise(run)]
    steps = sum(move <= 2 for move in moves)
    if 2 * steps > len(moves) or _is_blues_run(frame, run):
        return False
    # One foreign note between tones of the written chord makes no run.
    if all(a.is_tone or b.is_tone for a, b in itertools.pairwise(run)):
        return False
    # With a single foreign note, a fragment is sooner a slip or an approach than another chord.
    added = [note for note in run if not note.is_tone]
    foreign = [note for note in added if not (note.tension or note.in_scale)]
    if len(foreign) == 1 and (len(added) < 3 or not chord.tones <= classes):
        return False
    if len(run) == 3 and _prepares_next(frame, run):
        return False
    return sum(note.length for note in run) >= run[0].beat_length - TOLERANCE


def _contradicts(frame: Frame, foreign: list[FramedNote]) -> bool:
    """A 13 beside a ♭13, or an 11 beside an altered tone, over a dominant: no one scale holds both."""
    chord = frame.span_of(foreign[0]).chord
    degrees = {note.degree for note in foreign}
    if {"13", "b13"} <= degrees:
        return True
    return "11" in degrees and any(is_altered(chord, degree) for degree in degrees)


def _is_blues_run(frame: Frame, run: list[FramedNote]) -> bool:
    """Whether the notes are the key's minor pentatonic or blues scale, in a blues."""
    key = frame.span_of(run[0]).key
    if not key.blues:
        return False
    tonic = key.key.tonic.pitch_class
    blues = {(tonic + step) % 12 for step in SCALES["blues"]}
    return {note.pitch % 12 for note in run} <= blues


def _upper_structures(frame: Frame, stretch: list[FramedNote], school: School) -> Iterator[Figure]:
    """A complete triad or seventh chord at the start of the stretch, of whose moves at most one is a step."""
    root = frame.span_of(stretch[0]).chord.root.pitch_class
    for size in (4, 3):
        notes = stretch[:size]
        if len(notes) < size or all(note.is_tone for note in notes):
            continue
        classes = frozenset(note.pitch % 12 for note in notes)
        if len(classes) < size:
            continue
        chords = [chord for chord in _chords_made_of(classes) if chord.root != root]
        if chords and _colours(frame, notes, school):
            yield _figure(frame, notes, _best_name(frame, notes, chords), Function.EXTENSION)


def _best_name(frame: Frame, notes: list[FramedNote], chords: list[_Spelled]) -> _Spelled:
    """Symmetrical chords have a name for each tone: the written chord's third first, then the line's first note."""
    written = frame.span_of(notes[0]).chord
    third = (written.root.pitch_class + 4) % 12
    return min(chords, key=lambda chord: (chord.root != third, chord.root != notes[0].pitch % 12))


def _colours(frame: Frame, notes: list[FramedNote], school: School) -> bool:
    added = [note for note in notes if not note.is_tone]
    if not added or any(not (note.tension or note.in_scale) for note in added) or _is_blues_run(frame, notes):
        return False
    steps = [(a, b) for a, b in itertools.pairwise(notes) if abs(b.pitch - a.pitch) <= 2]
    if len(steps) > 1:
        return False
    for pair in steps:
        for note in pair:
            if passing(frame, note, school) is not None:
                return False
    return len(notes) > 3 or not _prepares_next(frame, notes)


def _prepares_next(frame: Frame, notes: list[FramedNote]) -> bool:
    """Whether the last two notes enclose the note that follows, or approach it by two semitones."""
    following = notes[-1].index + 1
    if following >= len(frame.notes) or notes[-1].rest_after:
        return False
    goal = frame.notes[following].pitch
    a, b = notes[-2].pitch - goal, notes[-1].pitch - goal
    encloses = a * b < 0 and max(abs(a), abs(b)) <= 2
    return encloses or closes_by_semitones([a, b])


def _figure(frame: Frame, notes: list[FramedNote], chord: _Spelled, function: Function) -> Figure:
    name = f"{_root_name(notes, chord)}{chord.kind}"
    written = frame.span_of(notes[0]).chord
    explains = {}
    for note in notes:
        if note.is_tone:
            continue
        # The 11 is at home in the chord a fifth above a dominant (A C E G over D7); other clashes stay clashes.
        colour = "natural" if note.degree == "11" else extension_device(written, note.degree)
        device = "implied" if function is Function.OUTSIDE else colour
        explains[note.index] = Explanation(function, device, 0.82, implied=name)
    what = "implied run" if function is Function.OUTSIDE else "upper structure"
    return Figure(RULE_IMPLIED, what, tuple(note.index for note in notes), explains, implied=name)


def _root_name(notes: list[FramedNote], chord: _Spelled) -> PitchName:
    """The root as the line spells it, else as its third or fifth asks."""
    for note in notes:
        if note.pitch % 12 == chord.root:
            return note.note.pitch.name
    fifths = [note.note.pitch.name.fifths for note in notes]
    centre = round(sum(fifths) / len(fifths))
    candidates = [PitchName.from_fifths(f) for f in range(centre - 6, centre + 6)]
    return next(name for name in candidates if name.pitch_class == chord.root)
