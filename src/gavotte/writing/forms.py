"""Forms to begin with: the progressions many tunes share, in any key. They are written in C and moved."""

from __future__ import annotations

import re
from dataclasses import dataclass

from gavotte.theory.chord import Chord
from gavotte.theory.chord_symbol import parse_chord_symbol, write_chord_symbol
from gavotte.theory.interval import Interval
from gavotte.theory.key import Key
from gavotte.theory.pitch import LETTERS, PitchName


@dataclass(frozen=True, slots=True)
class Form:
    """A form: its name, whether its home is minor, whether it is a blues, and its chord line in C."""

    name: str
    minor: bool
    blues: bool
    text: str


_BLUES_CLOSE = "| G7 | F7 | C7 | G7 |"

FORMS: tuple[Form, ...] = (
    Form("Blues, three chords", False, True, f"| C7 | % | % | % |\n| F7 | % | C7 | % |\n{_BLUES_CLOSE}"),
    Form("Blues, quick change", False, True, f"| C7 | F7 | C7 | % |\n| F7 | % | C7 | % |\n{_BLUES_CLOSE}"),
    Form(
        "Blues, ii-V at the close", False, True,
        "| C7 | F7 | C7 | Gm7 C7 |\n| F7 | F#dim7 | C7 | A7 |\n| Dm7 | G7 | C7 A7 | Dm7 G7 |",
    ),
    Form(
        "Blues, descending ii-V", False, True,
        "| Cmaj7 | Bm7b5 E7 | Am7 D7 | Gm7 C7 |\n| F7 | Fm7 Bb7 | Em7 A7 | Ebm7 Ab7 |\n"
        "| Dm7 | G7 | Em7 A7 | Dm7 G7 |",
    ),
    Form(
        "Blues, dominants on the way", False, True,
        "| C7 | F7 | C7 | C7 Gb7 |\n| F7 | % | C7 B7 | Bb7 A7 |\n| D7 | Db7 | C7 Eb7 | D7 Db7 |",
    ),
    Form("Minor blues", True, True, "| Cm7 | % | % | % |\n| Fm7 | % | Cm7 | % |\n| Ab7 | G7 | Cm7 | G7 |"),
    Form(
        "Minor blues, ii-V", True, True,
        "| Cm6 | Fm7 | Cm6 | C7b9 |\n| Fm7 | % | Cm6 | Am7b5 |\n| Dm7b5 | G7b9 | Cm6 | Dm7b5 G7b9 |",
    ),
    Form(
        "A-A-B-A, bridge of dominants", False, False,
        "\n".join(
            ["[A] | C6 A7 | Dm7 G7 | Em7 A7 | Dm7 G7 |\n| Gm7 C7 | F7 Bb7 | Dm7 G7 | C6 G7 |",
             "[A] | C6 A7 | Dm7 G7 | Em7 A7 | Dm7 G7 |\n| Gm7 C7 | F7 Bb7 | Dm7 G7 | C6 |",
             "[B] | E7 | % | A7 | % |\n| D7 | % | G7 | % |",
             "[A] | C6 A7 | Dm7 G7 | Em7 A7 | Dm7 G7 |\n| Gm7 C7 | F7 Bb7 | Dm7 G7 | C6 |"]
        ),
    ),
    Form(
        "A-A-B-A, bridge to IV", False, False,
        "\n".join(
            ["[A] | Cmaj7 | Am7 | Dm7 | G7 |\n| Em7 | A7 | Dm7 G7 | Cmaj7 |",
             "[A] | Cmaj7 | Am7 | Dm7 | G7 |\n| Em7 | A7 | Dm7 G7 | Cmaj7 |",
             "[B] | Gm7 | C7 | Fmaj7 | % |\n| Am7 | D7 | Dm7 | G7 |",
             "[A] | Cmaj7 | Am7 | Dm7 | G7 |\n| Em7 | A7 | Dm7 G7 | Cmaj7 |"]
        ),
    ),
    Form(
        "A-B-A-C", False, False,
        "[A] | Cmaj7 | % | Dm7 | G7 |\n| Cmaj7 | Am7 | Dm7 | G7 |\n"
        "[B] | Em7 | A7 | Dm7 | % |\n| D7 | % | Dm7 | G7 |\n"
        "[A] | Cmaj7 | % | Dm7 | G7 |\n| Cmaj7 | Am7 | Dm7 | G7 |\n"
        "[C] | Fmaj7 | Bb7 | Em7 | A7 |\n| Dm7 | G7 | Cmaj7 | % |",
    ),
    Form("ii-V-I, four bars", False, False, "| Dm7 | G7 | Cmaj7 | % |"),
    Form("ii-V-I, two bars", False, False, "| Dm7 G7 | Cmaj7 |"),
    Form("ii-V-I in minor", True, False, "| Dm7b5 | G7b9 | Cm6 | % |"),
    Form("Turnaround vamp", False, False, "| Cmaj7 A7 | Dm7 G7 |"),
    Form("Modal vamp, minor", True, False, "| Cm7 | % | % | % |\n| % | % | % | % |"),
    Form("Modal vamp, suspended", False, False, "| C7sus4 | % | % | % |\n| % | % | % | % |"),
    Form("Rock, i-VI-III-VII", True, False, "| Cm | Ab | Eb | Bb |"),
)  # fmt: skip

_SYMBOL = re.compile(r"(?<![\[\w])[A-G][^\s|\]]*(?![\w]*\])")


def form_in_key(form: Form, key: Key) -> str:
    """The chord line of a form with its home on a key's tonic."""
    interval = _from_c(key.tonic)

    def moved(match: re.Match[str]) -> str:
        chord = parse_chord_symbol(match.group())
        assert isinstance(chord, Chord)
        return write_chord_symbol(_plainly(chord.transposed(interval)))

    return _SYMBOL.sub(moved, form.text)


def _from_c(tonic: PitchName) -> Interval:
    steps = LETTERS.index(tonic.letter)
    return Interval(steps, tonic.pitch_class if steps else tonic.alter)


def _plainly(chord: Chord) -> Chord:
    """The chord on a root anybody writes: C♭ or F♭ and double accidentals as their plain neighbours."""
    root = chord.root
    if abs(root.alter) < 2 and -8 <= root.fifths - 2 <= 8:
        return chord
    fifths = root.fifths - 12 if root.fifths > 2 else root.fifths + 12
    steps = PitchName.from_fifths(fifths)
    up = LETTERS.index(steps.letter) - LETTERS.index(root.letter)
    up += 7 if up < -3 else -7 if up > 3 else 0
    return chord.transposed(Interval(up, 0))
