"""Harmony laid over: substitutes for the chords under a line, the line fitted to them and heard as implied."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from fractions import Fraction

from gavotte.harmony.changes import Change, changes_of
from gavotte.harmony.foreignness import chord_quality
from gavotte.solo.document import ChordEvent, Reading, ReadingKind, Solo
from gavotte.theory.chord import Chord
from gavotte.theory.chord_symbol import write_chord_symbol
from gavotte.theory.interval import UNISON, Interval
from gavotte.theory.pitch import PitchName, spell
from gavotte.workshop.fitting import Fit, fitted
from gavotte.workshop.operation import Around, Operation, OperationError, one_of
from gavotte.workshop.operation import Values as Chosen
from gavotte.workshop.operations.chords import FITS
from gavotte.workshop.piece import Piece

FAMILY = "Harmony laid over"
Part = tuple[Fraction, Chord]
"""A chord that begins at a share of the time of the one it stands in for (0 to 1)."""
_TRITONE, _FOURTH, _HALF_STEP = Interval(4, 6), Interval(3, 5), Interval(1, 1)


def _plain(name: PitchName) -> PitchName:
    """A root anybody writes."""
    return name if -6 <= name.fifths <= 8 and abs(name.alter) < 2 else spell(60 + name.pitch_class, -2).name


def _on(root: PitchName, interval: Interval, third: str, fifth: str, seventh: str, *tensions: str) -> Chord:
    return Chord(_plain(root.transposed(interval)), third, fifth, seventh, tensions=tensions)


def _dominant(root: PitchName, interval: Interval = UNISON) -> Chord:
    return _on(root, interval, "3", "5", "b7")


def _tritone(change: Change, home: PitchName | None) -> list[Part]:
    return [(Fraction(0), _dominant(change.chord.root, _TRITONE))]


def _ii_before(change: Change, home: PitchName | None) -> list[Part]:
    return [(Fraction(0), _on(change.chord.root, Interval(4, 7), "b3", "5", "b7")), (Fraction(1, 2), change.chord)]


def _tritone_ii(change: Change, home: PitchName | None) -> list[Part]:
    substitute = _dominant(change.chord.root, _TRITONE)
    return [(Fraction(0), _on(substitute.root, Interval(4, 7), "b3", "5", "b7")), (Fraction(1, 2), substitute)]


def _minor_four(change: Change, home: PitchName | None) -> list[Part]:
    """The minor iv of where the dominant leads."""
    return [(Fraction(0), _on(_goal(change, home), _FOURTH, "b3", "5", "b7"))]


def _back_door(change: Change, home: PitchName | None) -> list[Part]:
    goal = _goal(change, home)
    return [(Fraction(0), _on(goal, _FOURTH, "b3", "5", "b7")), (Fraction(1, 2), _dominant(goal, Interval(-1, -2)))]


def _diminished(change: Change, home: PitchName | None) -> list[Part]:
    return [(Fraction(0), _on(change.chord.root, Interval(2, 4), "b3", "b5", "bb7"))]


def _thirds(change: Change, home: PitchName | None) -> list[Part]:
    """On the way home in steps of major thirds, each reached by its dominant."""
    goal = _goal(change, home)
    low, high = _plain(goal.transposed(Interval(5, 8))), _plain(goal.transposed(Interval(2, 4)))
    chords = [_dominant(low, Interval(4, 7)), Chord(low, seventh="7"), _dominant(high, Interval(4, 7)),
              Chord(high, seventh="7")]  # fmt: skip
    return [(Fraction(k, 4), chord) for k, chord in enumerate(chords)]


def _half_step_above(change: Change, home: PitchName | None) -> list[Part]:
    """The cadence a half step above the one that is written."""
    root = change.chord.root.transposed(_HALF_STEP)
    return [(Fraction(0), _on(root, Interval(4, 7), "b3", "5", "b7")), (Fraction(1, 2), _dominant(root))]


def _goal(change: Change, home: PitchName | None) -> PitchName:
    return home or change.chord.root.transposed(_FOURTH)


SUBSTITUTES: dict[str, tuple[str, Callable[[Change, PitchName | None], list[Part]]]] = {
    "tritone": ("tritone substitute", _tritone),
    "ii before": ("its ii before it", _ii_before),
    "tritone ii": ("ii-V of the tritone substitute", _tritone_ii),
    "minor iv": ("minor iv", _minor_four),
    "back door": ("back door (iv-♭VII7)", _back_door),
    "diminished": ("diminished seventh", _diminished),
    "thirds": ("cycle by major thirds", _thirds),
    "half step": ("cadence a half step above", _half_step_above),
}
"""What can stand in for a dominant: words, and its chords."""


def substituted(solo: Solo, name: str) -> tuple[ChordEvent, ...]:
    """The chords of a solo with every dominant exchanged for one of ``SUBSTITUTES``; what is no dominant stays."""
    events: list[ChordEvent] = []
    changes = changes_of(solo)
    for number, (change, following) in enumerate(zip(changes, [*changes[1:], None], strict=True)):
        if chord_quality(change.chord) != "dominant":
            events.append(ChordEvent(f"s{number}", change.onset, write_chord_symbol(change.chord)))
            continue
        falls = following is not None and (change.chord.root.pitch_class - following.chord.root.pitch_class) % 12 == 7
        home = following.chord.root if falls and following is not None else None
        for part, (share, chord) in enumerate(SUBSTITUTES[name][1](change, home)):
            onset = change.onset + share * change.length
            events.append(ChordEvent(f"s{number}.{part}", onset, write_chord_symbol(chord)))
    return tuple(events)


def _laid_over(piece: Piece, values: Chosen, _: Around) -> Piece:
    solo = piece.solo
    dominants = [change for change in changes_of(solo) if chord_quality(change.chord) == "dominant"]
    over = [c for c in dominants if any(c.onset <= note.onset < c.end for note in solo.notes)]
    if not over:
        raise OperationError("The line goes over no dominant. Substitutes stand in for dominants.")
    events = substituted(solo, values.text("substitute"))
    made = fitted(piece, events, Fit(values.text("how")))
    if values.text("written") == "substitutes":
        return made
    readings = []
    for change in over:
        under = [note.id for note in made.solo.notes if change.onset <= note.onset < change.end]
        heard = tuple(event for event in events if change.onset <= event.onset < change.end)
        readings.append(Reading(under[0], under[-1], ReadingKind.IMPLIED, chords=heard))
    return replace(made, solo=replace(made.solo, chords=solo.chords, readings=tuple(readings)))


SUBSTITUTE = Operation(
    "substitute",
    "Substitutes for its dominants",
    FAMILY,
    "The line fitted to chords that stand in for the dominants, and heard as laid over what is written",
    (
        one_of("substitute", "Substitute", [(name, words) for name, (words, _) in SUBSTITUTES.items()]),
        one_of("how", "Fitted", FITS),
        one_of(
            "written",
            "Chord symbols",
            [("as they are", "as they are; the line implies the others"), ("substitutes", "the substitutes")],
        ),
    ),
    _laid_over,
    choosing="substitute",
)

LAID_OVER = (SUBSTITUTE,)
