"""Progressions to practise over: the cadences, cycles and bridges a line is taken through, written in C and moved."""

from __future__ import annotations

from collections.abc import Mapping
from fractions import Fraction

from gavotte.solo.document import KeyRegion, Solo
from gavotte.theory.interval import Interval
from gavotte.theory.key import Key
from gavotte.theory.pitch import PitchName
from gavotte.writing.chord_line import read_chord_line
from gavotte.writing.forms import FORMS, Form, form_in_key

_CIRCLE = ["C", "F", "Bb", "Eb", "Ab", "Db", "Gb", "B", "E", "A", "D", "G"]
_DOWN = ["C", "B", "Bb", "A", "Ab", "G", "Gb", "F", "E", "Eb", "D", "Db"]
_UP = ["C", "Db", "D", "Eb", "E", "F", "Gb", "G", "Ab", "A", "Bb", "B"]


def _each(roots: list[str], kind: str, bars: int = 1) -> str:
    cells = [cell for root in roots for cell in [f"{root}{kind}", *["%"] * (bars - 1)]]
    lines = [" | ".join(cells[k : k + 4]) for k in range(0, len(cells), 4)]
    return "\n".join(f"| {line} |" for line in lines)


def _cadences(roots: list[str], kinds: tuple[str, str, str], bars: str) -> str:
    """A ii-V-I on each root; ``bars`` holds a place for each of the three chords."""
    second, fifth = Interval(1, 2), Interval(4, 7)
    tonics = [PitchName.parse(root) for root in roots]
    rows = [(tonic.transposed(second), tonic.transposed(fifth), tonic) for tonic in tonics]
    return "\n".join(bars.format(*(f"{root}{kind}" for root, kind in zip(row, kinds, strict=True))) for row in rows)


_LONG, _SHORT = "| {0} | {1} | {2} | % |", "| {0} {1} | {2} |"
_MAJOR, _MINOR = ("m7", "7", "maj7"), ("m7b5", "7b9", "m6")

PROGRESSIONS: tuple[Form, ...] = (
    Form("Long ii-V-I", False, False, _cadences(["C"], _MAJOR, _LONG)),
    Form("Short ii-V-I", False, False, _cadences(["C"], _MAJOR, _SHORT)),
    Form("Long ii-V-i in minor", True, False, _cadences(["C"], _MINOR, _LONG)),
    Form("Short ii-V-i in minor", True, False, _cadences(["C"], _MINOR, _SHORT)),
    Form("ii-V-I round the circle of fifths", False, False, _cadences(_CIRCLE, _MAJOR, _SHORT)),
    Form("ii-V-I down by whole steps", False, False, _cadences(_DOWN[::2], _MAJOR, _LONG)),
    Form("ii-V-i round the circle of fifths", True, False, _cadences(_CIRCLE, _MINOR, _SHORT)),
    Form("Short ii-Vs down by half steps", False, False,
         "| Em7 A7 | Ebm7 Ab7 | Dm7 G7 | Cmaj7 |"),
    Form("Dominants round the circle of fifths", False, False, _each(_CIRCLE, "7")),
    Form("Dominants down by half steps", False, False, _each(_DOWN, "7")),
    Form("Dominants up by half steps", False, False, _each(_UP, "7")),
    Form("Dominants down by whole steps", False, False, _each(_DOWN[::2], "7")),
    Form("Dominants up by minor thirds", False, False, _each(_UP[::3], "7")),
    Form("Bridge of dominants", False, False, _each(["E", "A", "D", "G"], "7", 2)),
    Form("Minor chords round the circle of fifths", True, False, _each(_CIRCLE, "m7")),
    Form("Minor chords down by half steps", True, False, _each(_DOWN, "m7")),
    Form("Major chords round the circle of fifths", False, False, _each(_CIRCLE, "maj7")),
    Form("Major chords by major thirds", False, False, _each(["C", "Ab", "E"], "maj7", 2)),
    Form("Turnaround I-VI-ii-V", False, False, "| Cmaj7 A7 | Dm7 G7 | Cmaj7 A7 | Dm7 G7 |"),
    Form("Turnaround I-♭III-♭VI-♭II", False, False, "| Cmaj7 Eb7 | Abmaj7 Db7 | Cmaj7 Eb7 | Abmaj7 Db7 |"),
    Form("Turnaround in minor", True, False, "| Cm6 Am7b5 | Dm7b5 G7b9 | Cm6 Am7b5 | Dm7b5 G7b9 |"),
)  # fmt: skip
"""What the workshop has beside the forms a solo can begin with."""


def all_progressions() -> Mapping[str, Form]:
    """Every progression by its name: cadences and cycles first, then whole forms."""
    return {form.name: form for form in (*PROGRESSIONS, *FORMS)}


def laid_out(form: Form, key: Key, like: Solo) -> Solo:
    """A form in a key as an empty line, with meter, instrument and tempo of another solo."""
    return from_text(form_in_key(form, key), key, like, form.blues)


def from_text(text: str, key: Key, like: Solo, blues: bool = False) -> Solo:
    """A chord line as an empty line. Raises ValueError that says what of it can't be read."""
    empty = Solo(
        like.title,
        like.player,
        like.instrument,
        like.style,
        like.tempo,
        meters=like.meters[:1],
        keys=(KeyRegion(Fraction(0), key, blues),),
        swing=like.swing,
        school=like.school,
    )
    read = read_chord_line(text, empty)
    if read.problems:
        problem = read.problems[0]
        raise ValueError(problem.why)
    if not read.solo.chords:
        raise ValueError("There is no chord in it. Write bars as | Dm7 | G7 | Cmaj7 |")
    return read.solo
