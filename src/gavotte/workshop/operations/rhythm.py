"""The rhythm of a line: other values, displaced, anticipated, regrouped, or that of another line."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from fractions import Fraction

from gavotte.solo.document import Function, Note, Solo
from gavotte.workshop.laid import in_values
from gavotte.workshop.operation import Around, Operation, OperationError, Option, Values, one_of
from gavotte.workshop.piece import Piece

FAMILY = "Rhythm"
_EIGHTH = Fraction(1, 2)


def timed(note: Note, onset: Fraction, duration: Fraction) -> Note:
    """A note at another time; how it was written holds no longer."""
    return replace(note, onset=onset, duration=duration, written=(), tuplet=None)


def _with_room(solo: Solo, notes: Sequence[Note]) -> Solo:
    """The solo with a pickup as long as notes before the first bar need it."""
    start = min((note.onset for note in notes), default=Fraction(0))
    bar = solo.meters[0].meter.bar_length
    if -start >= bar:
        raise OperationError("It would begin more than a bar before bar 1.")
    return replace(solo, pickup=max(solo.pickup, -start)) if start < 0 else solo


def _retimed(piece: Piece, notes: Sequence[Note]) -> Piece:
    return replace(piece, solo=_with_room(piece.solo, notes)).with_notes(notes)


def _scaled(piece: Piece, values: Values, _: Around) -> Piece:
    factor = {"double": Fraction(2), "half": Fraction(1, 2)}[values.text("values")]
    if values.text("what") == "all":
        solo = in_values(piece.solo, factor)
        if solo.pickup >= solo.meters[0].meter.bar_length:
            raise OperationError("Its pickup would be as long as a bar.")
        return replace(piece, solo=solo)
    start = piece.solo.notes[0].onset
    return _retimed(
        piece, [timed(n, start + (n.onset - start) * factor, n.duration * factor) for n in piece.solo.notes]
    )


VALUES = Operation(
    "values",
    "Values doubled or halved",
    FAMILY,
    "A long ii-V becomes a short one and back",
    (
        one_of("values", "Values", [("half", "halved"), ("double", "doubled")]),
        one_of("what", "Of", [("all", "line and chords"), ("line", "the line only")]),
    ),
    _scaled,
    choosing="values",
)

_SHIFTS = {
    "eighth later": Fraction(1, 2), "beat later": Fraction(1), "eighth earlier": -Fraction(1, 2),
    "beat earlier": -Fraction(1), "half bar later": Fraction(2),
}  # fmt: skip


def _displaced(piece: Piece, values: Values, _: Around) -> Piece:
    by = _SHIFTS[values.text("by")]
    return _retimed(piece, [timed(n, n.onset + by, n.duration) for n in piece.solo.notes])


DISPLACED = Operation(
    "displaced",
    "Displaced",
    FAMILY,
    "The line earlier or later; the chords stay",
    (
        one_of(
            "by",
            "By",
            [("eighth later", "an eighth later"), ("beat later", "a beat later"),
             ("eighth earlier", "an eighth earlier"), ("beat earlier", "a beat earlier"),
             ("half bar later", "two beats later")],
        ),
    ),
    _displaced,
    choosing="by",
)  # fmt: skip


def _landing(piece: Piece, values: Values, _: Around) -> Piece:
    found = piece.labelled
    early = values.text("way") == "anticipated"
    line: list[Note] = []
    moved = 0
    taken = Fraction(-10_000)
    for place, (note, label, framed) in enumerate(zip(piece.solo.notes, found.labels, found.frame.notes, strict=True)):
        lands = label.function is Function.CHORD and framed.on_beat and framed.strong and place > 0 and not note.grace
        if note.onset < taken:
            # The landing before has taken its time.
            continue
        if not lands:
            line.append(note)
            continue
        onset = note.onset - _EIGHTH if early else note.onset + _EIGHTH
        end = note.end if early else max(note.end, onset + _EIGHTH)
        if early and len(line) > 1 and line[-1].onset >= onset:
            line.pop()
        if early and line and line[-1].onset >= onset:
            line.append(note)
            continue
        # The note before gives up its end, or is held until the landing comes.
        if line and (line[-1].end > onset or (not early and line[-1].end == note.onset)):
            line[-1] = timed(line[-1], line[-1].onset, onset - line[-1].onset)
        line.append(timed(note, onset, end - onset))
        taken = end
        moved += 1
    if not moved:
        raise OperationError("The line lands on no strong beat behind its first note.")
    return _retimed(piece, line)


LANDINGS = Operation(
    "landings",
    "Landings early or late",
    FAMILY,
    "Chord tones on strong beats come an eighth before the beat or after it",
    (one_of("way", "They are", [("anticipated", "anticipated by an eighth"), ("delayed", "delayed by an eighth")]),),
    _landing,
    choosing="way",
)

FIGURES: dict[str, tuple[str, str]] = {
    "eighths": ("even eighths", "1/2"),
    "triplets": ("eighth triplets", "1/3"),
    "sixteenths": ("sixteenths", "1/4"),
    "quarter triplets": ("quarter triplets", "2/3"),
    "dotted": ("dotted quarter, eighth", "3/2 1/2"),
    "long short": ("quarter, eighth in triplets", "2/3 1/3"),
    "short long": ("eighth, quarter in triplets", "1/3 2/3"),
    "across": ("eighth, quarter, eighth", "1/2 1 1/2"),
    "gallop": ("eighth, two sixteenths", "1/2 1/4 1/4"),
    "turned gallop": ("two sixteenths, eighth", "1/4 1/4 1/2"),
    "offbeats": ("off the beats", "-1/2 1/2"),
    "three and rest": ("three eighths after a rest", "-1/2 1/2 1/2 1/2"),
    "over the bar": ("three groups of three eighths", "1/2 1/2 1/2 1/2 1/2 1/2 1/2 1/2 1/2 -1/2 -1/2 -1/2"),
    "push": ("two eighths, tied over, eighth", "1/2 1/2 3/2 1/2 1"),
}
"""A store of rhythms: their words, and lengths in quarter notes; a rest is negative."""


def in_rhythm(piece: Piece, lengths: Sequence[Fraction]) -> Piece:
    """The notes in a rhythm of lengths (quarter notes, rests negative) that begins anew until all have sounded."""
    time = piece.solo.notes[0].onset
    notes: list[Note] = []
    place = 0
    for note in piece.solo.notes:
        while lengths[place % len(lengths)] < 0:
            time -= lengths[place % len(lengths)]
            place += 1
        length = lengths[place % len(lengths)]
        notes.append(replace(timed(note, time, length), grace=False))
        time += length
        place += 1
    return _retimed(piece, notes)


def _in_figure(piece: Piece, values: Values, around: Around) -> Piece:
    return in_rhythm(piece, [Fraction(part) for part in FIGURES[values.text("figure")][1].split()])


FIGURE = Operation(
    "figure",
    "In another rhythm",
    FAMILY,
    "The notes in a rhythm out of the store, over and over",
    (one_of("figure", "Rhythm", [(name, words) for name, (words, _) in FIGURES.items()]),),
    _in_figure,
    choosing="figure",
)


def lengths_of(solo: Solo) -> list[Fraction]:
    """The rhythm of a line as lengths in quarter notes, rests negative."""
    lengths: list[Fraction] = []
    notes = [note for note in solo.notes if not note.grace]
    for note, following in zip(notes, [*notes[1:], None], strict=True):
        lengths.append(note.duration)
        if following is not None and following.onset > note.end:
            lengths.append(note.end - following.onset)
    return lengths


def _of_line(piece: Piece, values: Values, around: Around) -> Piece:
    other = around.lines.get(values.text("line"))
    if other is None or not lengths_of(other):
        raise OperationError("Choose a line whose rhythm it is to take.")
    first = other.notes[0].onset
    beat = piece.solo.notes[0].onset
    # It begins at the same place in the bar as the other line does.
    bar = piece.solo.meters[0].meter.bar_length
    start = beat - beat % bar + first % bar
    moved = piece.with_each(lambda _, note: timed(note, note.onset - beat + start, note.duration))
    return in_rhythm(moved, lengths_of(other))


OF_LINE = Operation(
    "rhythm of",
    "In the rhythm of another line",
    FAMILY,
    "The notes in the rhythm of a lick you kept, or of the open solo’s selection",
    (Option("line", "Line", "", of_lines=True),),
    _of_line,
    looks_around=True,
)


def _tapped(piece: Piece, values: Values, _: Around) -> Piece:
    try:
        lengths = [Fraction(part) for part in values.text("lengths").split()]
    except (ValueError, ZeroDivisionError):
        raise OperationError("A rhythm is written as lengths in quarter notes: 1/2 1/2 1 -1/2 (a rest).") from None
    if not any(length > 0 for length in lengths) or any(not 0 < abs(length) <= 16 for length in lengths):
        raise OperationError("A rhythm needs lengths in quarter notes, up to 16: 1/2 1/2 1 -1/2 (a rest).")
    return in_rhythm(piece, lengths)


TAPPED = Operation(
    "tapped",
    "In a rhythm you tap",
    FAMILY,
    "The notes in your own rhythm, tapped or written as lengths in quarter notes",
    (
        Option(
            "lengths", "Lengths", "1 1/2 1/2", is_tapped=True, hint="Quarter notes; a rest is negative: 1/2 1/2 1 -1/2"
        ),
    ),
    _tapped,
    lambda values: values.text("lengths"),
)


def _regrouped(piece: Piece, values: Values, _: Around) -> Piece:
    of, keep = values.number("of"), values.number("keep")
    if keep >= of:
        raise OperationError("Fewer notes are to stay than there are in a group.")
    notes: list[Note] = []
    gone = Fraction(0)
    for place, note in enumerate(piece.solo.notes):
        if place % of >= keep:
            gone += note.duration
        else:
            notes.append(timed(note, note.onset - gone, note.duration))
    return _retimed(piece, notes)


REGROUPED = Operation(
    "regrouped",
    "Regrouped",
    FAMILY,
    "Of every six notes five stay and move together: the group shifts against the beat",
    (
        Option("keep", "Keep", 5, lowest=1, highest=15),
        Option("of", "Of every", 6, lowest=2, highest=16),
    ),
    _regrouped,
    lambda values: f"{values.number('keep')} of every {values.number('of')}",
)


def _with_rests(piece: Piece, values: Values, _: Around) -> Piece:
    every, first = values.number("every"), values.number("first") - 1
    notes = [note for place, note in enumerate(piece.solo.notes) if place < first or (place - first) % every]
    if not notes or len(notes) == len(piece.solo.notes):
        raise OperationError("No note would become a rest, or all. Choose other numbers.")
    return piece.with_notes(notes)


RESTS = Operation(
    "rests",
    "Rests cut in",
    FAMILY,
    "Every so many notes one is a rest",
    (
        Option("every", "One of every", 4, lowest=2, highest=16),
        Option("first", "From note", 4, lowest=1, highest=16),
    ),
    _with_rests,
    lambda values: f"one of every {values.number('every')}, from note {values.number('first')}",
)

RHYTHM = (FIGURE, OF_LINE, TAPPED, VALUES, DISPLACED, LANDINGS, REGROUPED, RESTS)
