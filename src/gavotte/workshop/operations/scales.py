"""A cell through a scale, and exact shapes from other degrees of a chord."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction

from gavotte.solo.document import Articulation, ChordEvent, Mark, Note
from gavotte.theory.chord import Chord
from gavotte.theory.interval import Interval
from gavotte.theory.pitch import PitchError, PitchName, respelled, spell
from gavotte.theory.scale import COLLECTIONS, collection_pitch_classes
from gavotte.workshop.operation import Around, Operation, OperationError, Option, Values, one_of
from gavotte.workshop.operations.chords import KEYS
from gavotte.workshop.operations.melody import with_pitches
from gavotte.workshop.operations.rhythm import lengths_of
from gavotte.workshop.piece import Piece, nearest_way
from gavotte.workshop.shapes import STARTS, STRUCTURES
from gavotte.workshop.tones import Tones, tones_of

FAMILY = "Scales and shapes"
_LOCAL, _OWN_SCALE, _OWN_CELL, _ITS_CHORD = "local", "own scale", "cell", "its own"
_LEADING, _FAR = 2, 9
PATTERNS: dict[str, tuple[str, tuple[int, ...]]] = {
    "1-2-3-1": ("1-2-3-1", (0, 1, 2, 0)),
    "1-2-3-5": ("1-2-3-5", (0, 1, 2, 4)),
    "1-2-3-4": ("1-2-3-4", (0, 1, 2, 3)),
    "thirds": ("thirds", (0, 2)),
    "fourths": ("fourths", (0, 3)),
    "triads": ("triads", (0, 2, 4)),
    "broken triads": ("triads, 1-5-3", (0, 4, 2)),
    "sevenths": ("seventh chords", (0, 2, 4, 6)),
    "scale": ("the scale by itself", (0,)),
}
"""Patterns by name: their words, and the steps of the scale they take."""
_VALUES = {"1/2": "eighths", "1/3": "eighth triplets", "1/4": "sixteenths", "1": "quarters", "2/3": "quarter triplets"}
_MOST_NOTES = 600


@dataclass(frozen=True)
class _Tone:
    """A note of a cell: how many ``step``s of the scale it stands above the cell's first; or, with ``goal``, how many
    semitones from the note of the cell it leads to (``alter``). ``origin`` is the id of the note it is made of.
    """

    step: int
    alter: int = 0
    goal: int | None = None
    origin: str = ""


def _scale(piece: Piece, values: Values) -> Tones:
    name = values.text("tonic")
    span = piece.labelled.frame.span_of(piece.labelled.frame.notes[0])
    tonic = span.chord.root.pitch_class if name == _ITS_CHORD else PitchName.parse(name).pitch_class
    if values.text("scale") == _LOCAL:
        return tones_of(span.scale.pitch_classes)
    if values.text("scale") != _OWN_SCALE:
        return tones_of(collection_pitch_classes(values.text("scale"), tonic))
    names = values.text("notes").split()
    try:
        return tones_of(frozenset(PitchName.parse(text).pitch_class for text in names))
    except (PitchError, ValueError) as error:
        raise OperationError(f"{error}. Write the notes of the scale as C D Eb F G.") from error


def _cell(piece: Piece, values: Values) -> tuple[_Tone, ...]:
    """The cell that is taken through the scale, measured in steps of the scale its own chord has."""
    pattern = values.text("pattern")
    if pattern != _OWN_CELL:
        return tuple(_Tone(step) for step in PATTERNS[pattern][1])
    frame, notes, places = piece.labelled.frame, piece.solo.notes, piece.solo.places
    tones = tones_of(frame.span_of(frame.notes[0]).scale.pitch_classes)
    first = tones.nearest(notes[0].pitch.midi)
    cell = []
    for place, (note, label) in enumerate(zip(notes, piece.labelled.labels, strict=True)):
        midi = note.pitch.midi
        above = tones.place(midi)[1]
        goal = places.get(label.target, place + 1) if label.target is not None else place + 1
        away = midi - notes[goal].pitch.midi if place < goal < len(notes) else _FAR
        if above and abs(away) <= _LEADING:
            # What is foreign to the scale leads to its goal as it did, wherever that goes.
            cell.append(_Tone(0, away, goal, note.id))
        else:
            cell.append(_Tone(tones.nearest(midi) - first, 0, None, note.id))
    return tuple(cell)


def _sounding(cell: Sequence[_Tone], base: int, tones: Tones) -> list[int]:
    """The cell's pitches from a tone of the scale on."""
    pitches = [tones.midi(base + tone.step) for tone in cell]
    for place in reversed(range(len(cell))):
        tone = cell[place]
        if tone.goal is not None:
            pitches[place] = pitches[tone.goal] + tone.alter
    return pitches


def _turned(cell: Sequence[_Tone]) -> tuple[_Tone, ...]:
    """The cell with its steps the other way; what leads to a note does so from the same side."""
    return tuple(replace(tone, step=-tone.step) for tone in cell)


def _in_order(cell: tuple[_Tone, ...], tones: Tones, low: int, high: int, values: Values) -> Iterator[list[int]]:
    """The cell on each degree between two pitches, in the order that was chosen."""
    by, order = int(values.text("by")), values.text("order")
    down = _turned(cell) if values.is_on("turned") else cell

    def fitting(form: tuple[_Tone, ...]) -> list[list[int]]:
        bases = range(tones.nearest(low) - 8, tones.nearest(high) + 9)
        sounding = [(base, _sounding(form, base, tones)) for base in bases]
        return [pitches for _, pitches in sounding if low <= min(pitches) and max(pitches) <= high]

    rising, falling = fitting(cell)[::by], fitting(down)[::-1][::by]
    if order == "up":
        yield from rising
    elif order == "down":
        yield from falling
    elif order == "alternating":
        turned = fitting(_turned(cell))[::by]
        for place, pitches in enumerate(rising):
            yield pitches if place % 2 == 0 or place >= len(turned) else turned[place]
    else:
        yield from rising
        yield from falling[1:] if len(cell) == 1 else falling


def _through(piece: Piece, values: Values, _: Around) -> Piece:
    tones = _scale(piece, values)
    cell = _cell(piece, values)
    instrument, solo = piece.solo.instrument, piece.solo
    octaves = values.text("compass")
    middle = solo.notes[0].pitch.midi
    if octaves == "all":
        low, high = instrument.lowest, instrument.highest
    else:
        # It begins on the tone the line begins nearest to.
        low = max(instrument.lowest, tones.midi(tones.nearest(middle)))
        high = min(instrument.highest, low + 12 * int(octaves))
    placed = list(_in_order(cell, tones, low, high, values))
    if not placed:
        raise OperationError("The pattern is wider than the compass. Choose a wider one, or a smaller pattern.")
    lengths = lengths_of(solo) if values.text("values") == "own" else [Fraction(values.text("values"))]
    accents = values.number("accents")
    notes: list[Note] = []
    made_of: dict[str, str] = {}
    time, place = Fraction(0), 0
    like = replace(solo.notes[0], marks=(), grace=False, written=(), tuplet=None)
    for number, pitches in enumerate(placed):
        for k, pitch in enumerate(pitches):
            while lengths[place % len(lengths)] < 0:
                time -= lengths[place % len(lengths)]
                place += 1
            length = lengths[place % len(lengths)]
            marks = (Mark(Articulation.ACCENT),) if accents and len(notes) % accents == 0 else ()
            note = replace(like, id=f"{number}:{k}", onset=time, duration=length, pitch=spell(pitch, 0), marks=marks)
            made_of[note.id] = cell[k].origin
            notes.append(note)
            time += length
            place += 1
    made = replace(piece, solo=replace(solo, pickup=Fraction(0), chords=_first_chord(piece), odd_bars=()))
    if len(notes) > _MOST_NOTES:
        made, notes = made.telling(f"It goes on; {_MOST_NOTES} notes are shown."), notes[:_MOST_NOTES]
    return made.with_notes(notes, made_of)


def _first_chord(piece: Piece) -> tuple[ChordEvent, ...]:
    events = [event for event in piece.solo.chords if isinstance(event.symbol, Chord)]
    return tuple(replace(event, onset=Fraction(0)) for event in events[:1])


def _through_words(values: Values) -> str:
    return ", ".join(values.words(name) for name in ("scale", "pattern", "order"))


THROUGH = Operation(
    "scale",
    "Through a scale",
    FAMILY,
    "A cell or pattern on every degree of a scale, over the compass of the instrument",
    (
        one_of(
            "scale",
            "Scale",
            [
                (_LOCAL, "the scale of its chord"),
                *((name, name) for name in COLLECTIONS),
                (_OWN_SCALE, "notes of your own"),
            ],
        ),
        Option("notes", "Notes", "C D Eb F G A Bb", only_if=("scale", frozenset({_OWN_SCALE}))),
        one_of("tonic", "On", [(_ITS_CHORD, "the root of its chord"), *KEYS[1:]]),
        one_of(
            "pattern",
            "Pattern",
            [(_OWN_CELL, "the line as it is"), *((name, words) for name, (words, _) in PATTERNS.items())],
        ),
        one_of(
            "order", "Order", [("both", "up and down"), ("up", "up"), ("down", "down"), ("alternating", "alternating")]
        ),
        one_of("by", "In", [("1", "steps"), ("2", "thirds"), ("3", "fourths")]),
        Option("turned", "Turned on the way down", True),
        one_of("values", "Values", [("own", "as in the line"), *_VALUES.items()]),
        Option("accents", "Accent every", 0, lowest=0, highest=12, hint="Notes from accent to accent; 0 for none"),
        one_of("compass", "Compass", [("all", "the whole instrument"), ("1", "one octave"), ("2", "two octaves")]),
    ),
    _through,
    _through_words,
    choosing="scale",
)


def _from_degree(piece: Piece, values: Values, _: Around) -> Piece:
    found = piece.labelled
    chord = found.frame.span_of(found.frame.notes[0]).chord
    pitches = [note.pitch.midi for note in piece.solo.notes]
    by = nearest_way(chord.root.pitch_class + STARTS.index(values.text("start")) - pitches[0])
    instrument = piece.solo.instrument
    ways = [[pitch + by + octave for pitch in pitches] for octave in (0, -12, 12)]
    inside = [way for way in ways if instrument.lowest <= min(way) and max(way) <= instrument.highest]
    chosen = (inside or ways)[0]
    return _shaped(piece, chosen[0] - pitches[0], chord.name_of(values.text("start"))) or with_pitches(piece, chosen)


def _shaped(piece: Piece, semitones: int, first: PitchName) -> Piece | None:
    """The line moved as a shape that keeps the names of its intervals; None where that takes double accidentals."""
    notes = piece.solo.notes
    try:
        goal = respelled(spell(notes[0].pitch.midi + semitones, 0), first)
        interval = Interval(goal.staff_step - notes[0].pitch.staff_step, semitones)
        moved = [note.pitch.transposed(interval) for note in notes]
    except PitchError:
        return None
    if any(abs(pitch.alter) > 1 or not 0 <= pitch.midi <= 127 for pitch in moved):
        return None
    line = [replace(note, pitch=pitch, string=0, finger="") for note, pitch in zip(notes, moved, strict=True)]
    return piece.with_notes(line, are_spelled=True)


_DEGREE_WORDS = ("the root", "the ♭9", "the 9th", "the ♭3", "the 3rd", "the 11th", "the ♯11", "the 5th", "the ♭13",
                 "the 13th", "the ♭7", "the 7th")  # fmt: skip
START_CHOICES = list(zip(STARTS, _DEGREE_WORDS, strict=True))

SHAPE = Operation(
    "shape",
    "The same shape from another degree",
    FAMILY,
    "The exact shape moved so that it starts on another degree of its first chord",
    (one_of("start", "Starts on", START_CHOICES),),
    _from_degree,
    choosing="start",
)


def _structure(piece: Piece, values: Values, _: Around) -> Piece:
    found = piece.labelled
    shape, start = STRUCTURES[values.text("structure")], STARTS.index(values.text("start"))
    pitches: list[int] = []
    span_before: int | None = None
    number = step = 0
    tones = tones_of(frozenset({0}))
    for framed in found.frame.notes:
        if framed.span != span_before:
            span_before = framed.span
            root = found.frame.spans[framed.span].chord.root.pitch_class
            tones = tones_of(frozenset((root + start + semitones) % 12 for semitones in shape))
            number = tones.nearest(pitches[-1] if pitches else framed.pitch)
            step = -1 if values.text("way") == "down" else 1
            if pitches and tones.midi(number) == pitches[-1]:
                number += step
        else:
            number += step
        if values.text("way") == "both" and abs(tones.midi(number) - framed.pitch) > _FAR:
            # It stays near the line it is made of.
            step = -1 if tones.midi(number) > framed.pitch else 1
            number += 2 * step
        pitches.append(tones.midi(number))
    return with_pitches(piece, pitches)


STRUCTURE = Operation(
    "structure",
    "A triad or seventh chord over each chord",
    FAMILY,
    "An arpeggio laid over each chord of the line, in the line’s rhythm",
    (
        one_of("structure", "Structure", [(name, name) for name in STRUCTURES]),
        one_of("start", "From", START_CHOICES),
        one_of("way", "Way", [("both", "up and down"), ("up", "up"), ("down", "down")]),
    ),
    _structure,
    choosing="structure",
    and_choosing="start",
)

SCALES_AND_SHAPES = (THROUGH, SHAPE, STRUCTURE)
