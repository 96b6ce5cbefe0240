"""Other chords under a line: through a progression, another quality, another key."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from gavotte.harmony.foreignness import chord_quality
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import ChordEvent, Solo
from gavotte.theory.chord import Chord
from gavotte.theory.chord_symbol import ChordSymbolError, parse_chord_symbol, write_chord_symbol
from gavotte.theory.key import Key
from gavotte.theory.pitch import PitchName
from gavotte.workshop.fitting import Fit, fitted
from gavotte.workshop.keys import in_key
from gavotte.workshop.operation import Around, Operation, OperationError, Option, Values, one_of
from gavotte.workshop.over import Begin, Lead, Manner, laid_over
from gavotte.workshop.piece import Piece
from gavotte.workshop.progressions import all_progressions, from_text, laid_out
from gavotte.writing.choruses import with_choruses

FAMILY = "Other chords"
OWN_CHORDS, OPEN_SOLO = "own chords", "the open solo"
_TONICS = ("C", "Db", "D", "Eb", "E", "F", "Gb", "G", "Ab", "A", "Bb", "B")
_OWN_KEY = "its own"
KEYS = ((_OWN_KEY, "its own key"), *((tonic, PitchName.parse(tonic).shown) for tonic in _TONICS))
FITS = (
    (Fit.DEGREE.value, "by degree"),
    (Fit.SCALE.value, "bent to the scale"),
    (Fit.SHAPE.value, "as an exact shape"),
)
HOW = one_of("how", "Fitted", FITS, hint="Degrees kept, pitches kept as far as the scale has them, or moved as it is")


def _over(piece: Piece, values: Values, around: Around) -> Piece:
    manner = Manner(
        how=Fit(values.text("how")),
        begin=Begin(values.text("begin")),
        lead=Lead(values.text("lead")),
        any_chord=values.is_on("any_chord"),
        other_values=values.is_on("other_values"),
        again=values.is_on("again"),
        parts=values.is_on("parts"),
        close=values.is_on("close"),
    )
    try:
        progression = progression_of(piece.solo, values, around)
        return laid_over(piece, progression, manner)
    except ValueError as error:
        raise OperationError(str(error)) from error


def progression_of(solo: Solo, values: Values, around: Around) -> Solo:
    """The progression that was chosen as an empty line, as often as it is wished. Raises OperationError, ValueError."""
    once = _once(solo, values, around)
    count = values.number("choruses")
    length = BarGrid(once).bars[-1].end
    return with_choruses(once, length, count) if count > 1 else once


def _once(solo: Solo, values: Values, around: Around) -> Solo:
    name = values.text("progression")
    if name == OPEN_SOLO:
        other = around.lines.get(OPEN_SOLO)
        if other is None:
            raise OperationError("No solo is open. Open one on the shelf, or choose another progression.")
        return replace(solo, **{field: getattr(other, field) for field in _OF_PROGRESSION}, notes=(), odd_bars=())
    form = all_progressions().get(name)
    own = solo.keys[0].key
    if form is None:
        return from_text(values.text("chords"), own, solo)
    tonic = values.text("key")
    key = Key(own.tonic if tonic == _OWN_KEY else PitchName.parse(tonic), "minor" if form.minor else "major")
    return laid_out(form, key, solo)


_OF_PROGRESSION = ("chords", "keys", "heard_keys", "meters", "form_end", "chorus", "sections", "pickup")

PROGRESSION = (
    one_of(
        "progression",
        "Progression",
        [(name, name) for name in all_progressions()]
        + [(OPEN_SOLO, "The open solo’s changes"), (OWN_CHORDS, "Chords of your own")],
    ),
    Option("chords", "Chords", "| Dm7 | G7 | Cmaj7 | % |", only_if=("progression", frozenset({OWN_CHORDS}))),
    replace(one_of("key", "In", KEYS), only_if=("progression", frozenset(all_progressions()))),
    Option("choruses", "Choruses", 1, lowest=1, highest=8),
)
"""The options of what is laid over a progression."""


def progression_words(values: Values) -> str:
    """What a step says of its progression: its name, or the chords that were written."""
    return values.text("chords") if values.text("progression") == OWN_CHORDS else values.text("progression")


OVER = Operation(
    "over",
    "Through a progression",
    FAMILY,
    "Lays the line on each chord, or run of chords, that suits it",
    (
        *PROGRESSION,
        HOW,
        one_of(
            "begin",
            "Begins on",
            [
                (Begin.AS_IT_IS.value, "the same chord tone"),
                (Begin.ROOT.value, "the root"),
                (Begin.THIRD.value, "the 3rd"),
                (Begin.FIFTH.value, "the 5th"),
                (Begin.SEVENTH.value, "the 7th"),
                (Begin.IN_TURN.value, "each chord tone in turn"),
                (Begin.NEAREST.value, "the nearest chord tone"),
            ],
        ),
        one_of(
            "lead",
            "Each placing",
            [
                (Lead.CONNECTED.value, "connected to the one before"),
                (Lead.VERTICAL.value, "vertical, in its own register"),
            ],
        ),
        Option("any_chord", "On other kinds of chords too", True),
        Option("other_values", "Halved or doubled to fit", True),
        Option("again", "Again while a chord lasts", False),
        Option("parts", "Taken chord by chord", False, hint="Each part of the line goes over a chord of its kind"),
        Option("close", "Last bar held to close", False),
    ),
    _over,
    progression_words,
    choosing="begin",
    looks_around=True,
)


def _minor_cadence(chord: Chord) -> Chord:
    match chord_quality(chord):
        case "minor":
            return Chord(chord.root, "b3", "b5", "b7")
        case "dominant" | "sus":
            return Chord(chord.root, seventh="b7", tensions=("b9",))
        case "major":
            return Chord(chord.root, "b3", sixth=True)
    return chord


def _major_cadence(chord: Chord) -> Chord:
    match chord_quality(chord):
        case "half":
            return Chord(chord.root, "b3", "5", "b7")
        case "dominant":
            return Chord(chord.root, seventh="b7")
        case "minor":
            # ii stays what it is, i becomes I.
            return chord if chord.seventh == "b7" else Chord(chord.root, seventh="7")
    return chord


def _to(third: str, fifth: str, seventh: str) -> Callable[[Chord], Chord]:
    return lambda chord: Chord(chord.root, third, fifth, seventh)


_QUALITIES: dict[str, tuple[str, Callable[[Chord], Chord]]] = {
    "minor cadence": ("its cadence in minor (iiø-V♭9-i)", _minor_cadence),
    "major cadence": ("its cadence in major (ii-V-I)", _major_cadence),
    "minor": ("minor sevenths", _to("b3", "5", "b7")),
    "major": ("major sevenths", _to("3", "5", "7")),
    "dominant": ("dominants", _to("3", "5", "b7")),
    "half-diminished": ("half-diminished chords", _to("b3", "b5", "b7")),
    "diminished": ("diminished chords", _to("b3", "b5", "bb7")),
    "sus": ("suspended chords", _to("4", "5", "b7")),
}


def _recast(piece: Piece, values: Values, _: Around) -> Piece:
    change = _QUALITIES[values.text("quality")][1]
    chords = [
        replace(event, text=write_chord_symbol(change(symbol.as_read))) if isinstance(symbol, Chord) else event
        for event, symbol in ((event, event.symbol) for event in piece.solo.chords)
    ]
    if not any(isinstance(event.symbol, Chord) for event in chords):
        raise OperationError("The line has no chord that could become another one.")
    solo = piece.solo
    minor = {"minor cadence": "minor", "major cadence": "major"}.get(values.text("quality"))
    made = fitted(replace(piece, solo=solo), chords, Fit(values.text("how")))
    if minor:
        region = solo.keys[0]
        keys = (replace(region, key=Key(region.key.tonic, minor)), *solo.keys[1:])
        made = replace(made, solo=replace(made.solo, keys=keys)).with_notes(made.solo.notes)
    return made


RECAST = Operation(
    "recast",
    "Chords of another quality",
    FAMILY,
    "The same roots with other chords on them: minor for major, a dominant for a minor chord",
    (one_of("quality", "All become", [(name, words) for name, (words, _) in _QUALITIES.items()]), HOW),
    _recast,
    choosing="quality",
)


def _one(piece: Piece, values: Values, _: Around) -> Piece:
    """Chords of a run replaced by one of them: the line is bent to that one's scale."""
    readable = [event for event in piece.solo.chords if isinstance(event.symbol, Chord)]
    which = values.text("which")
    if not readable or (len(readable) < 2 and which != "text"):
        raise OperationError("The line goes over one chord already.")
    if which == "text":
        try:
            symbol = write_chord_symbol(parse_chord_symbol(values.text("chord")))
        except ChordSymbolError as error:
            raise OperationError(str(error)) from error
        chosen = replace(readable[0], text=symbol)
    else:
        chosen = readable[0] if which == "first" else _dominant(readable)
    return fitted(piece, [replace(readable[0], text=chosen.text)], Fit.SCALE)


def _dominant(events: list[ChordEvent]) -> ChordEvent:
    for event in events:
        if isinstance(event.symbol, Chord) and event.symbol.is_dominant:
            return event
    return events[-1]


ONE_CHORD = Operation(
    "one chord",
    "All over one chord",
    FAMILY,
    "Two chords into one: the ii and its V as one V; the notes stay where its scale has them",
    (
        one_of(
            "which",
            "Chord",
            [("dominant", "the dominant in it"), ("first", "its first chord"), ("text", "another one")],
        ),
        Option("chord", "Chord symbol", "G7", only_if=("which", frozenset({"text"}))),
    ),
    _one,
    choosing="which",
)


def _to_key(piece: Piece, values: Values, _: Around) -> Piece:
    tonic = values.text("key")
    own = piece.solo.keys[0].key.tonic
    name = own if tonic == _OWN_KEY else PitchName.parse(tonic)
    moved = in_key(piece.solo, name.pitch_class)
    made = replace(piece, solo=moved.solo)
    return made if moved.in_range else made.telling("It goes beyond the instrument’s range in every octave.")


KEY = Operation(
    "key",
    "In another key",
    FAMILY,
    "Moves line and chords, in the octave that suits the instrument",
    (one_of("key", "Key", KEYS[1:]),),
    _to_key,
    choosing="key",
)


def _own_text(piece: Piece, values: Values, _: Around) -> Piece:
    try:
        read = from_text(values.text("chords"), piece.solo.keys[0].key, piece.solo)
    except ValueError as error:
        raise OperationError(str(error)) from error
    return fitted(piece, [replace(event, onset=max(event.onset, -piece.solo.pickup)) for event in read.chords],
                  Fit(values.text("how")))  # fmt: skip


WRITTEN = Operation(
    "chords",
    "Chords of your own under it",
    FAMILY,
    "Puts these chords under the line, bar by bar, and fits it to them",
    (Option("chords", "Chords", "| Dm7b5 | G7b9 | Cm6 | % |"), HOW),
    _own_text,
    lambda values: values.text("chords"),
)

OTHER_CHORDS = (OVER, RECAST, ONE_CHORD, WRITTEN, KEY)
