"""The harmonic context of a lick, by function: "long ii-V-I", "minor ii-V", "I7 to IV7", "on a minor chord"."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction

from gavotte.harmony.changes import falls_a_fifth, is_two_five
from gavotte.harmony.foreignness import chord_quality
from gavotte.harmony.numerals import numeral
from gavotte.labelling.wording import degree_words
from gavotte.solo.document import Function, KeyRegion, Solo
from gavotte.solo.label import Label
from gavotte.theory.chord import Chord
from gavotte.theory.interval import Interval
from gavotte.theory.key import Key

_NAMES = {
    "dominant": "dominant",
    "sus": "sus chord",
    "half": "half-diminished",
    "dim": "diminished",
    "minor": "minor chord",
    "major": "major chord",
}
_NUMERAL_ROW = re.compile(r"[♭♯]?[iIvV]+[°ø7]* ")


@dataclass(frozen=True, slots=True)
class Stretch:
    """A chord and how long it lasts under the notes, in quarter notes."""

    chord: Chord
    length: Fraction


def chords_under(solo: Solo) -> list[Stretch]:
    """The chords that sound under the notes of the solo, repeated symbols joined."""
    if not solo.notes or not solo.chords:
        return []
    start, end = solo.notes[0].onset, max(note.end for note in solo.notes)
    stretches: list[Stretch] = []
    for event, following in zip(solo.chords, [*solo.chords[1:], None], strict=True):
        symbol = event.symbol
        stop = following.onset if following is not None else max(end, event.onset + 1)
        if not isinstance(symbol, Chord) or stop <= start or event.onset >= end:
            continue
        if stretches and stretches[-1].chord == symbol:
            stretches[-1] = Stretch(symbol, stretches[-1].length + stop - event.onset)
        else:
            stretches.append(Stretch(symbol, stop - event.onset))
    return stretches


def context(solo: Solo) -> str:
    """What the lick is played over, in the words players use."""
    stretches = chords_under(solo)
    chords = [stretch.chord for stretch in stretches]
    if not chords:
        return "no chords"
    if len(chords) == 1:
        return _single(chords[0])
    if len(chords) in (2, 3):
        named = _cadence(stretches)
        if named:
            return named
    key = solo.keys[0].key
    steps = [(chord.root.pitch_class - key.tonic.pitch_class) % 12 for chord in chords[:4]]
    if steps == [0, 9, 2, 7]:
        return "turnaround I VI ii V"
    names = [numeral(chord, key) for chord in chords]
    return " ".join(names[:6]) + (" …" if len(names) > 6 else "")


def into_words(solo: Solo, labels: Sequence[Label]) -> str:
    """What a cell over one chord goes into: "into the 3rd of a dominant"; "" for a line over several, or a free end."""
    chords = chords_under(solo)
    last = labels[-1] if labels else None
    if len(chords) != 1 or last is None or last.function is not Function.CHORD:
        return ""
    degree = degree_words(last.degree, last.shown_degree)
    return f"into the {degree} of {_ARTICLES.get(_single(chords[0].chord), 'a')} {_single(chords[0].chord)}"


_ARTICLES = {"altered dominant": "an"}


def is_numerals(context_text: str) -> bool:
    """Whether a context is a row of roman numerals (whose case matters) rather than words."""
    return bool(_NUMERAL_ROW.match(context_text))


def home_key(solo: Solo) -> KeyRegion:
    """The key a lick is thought in: the one its ii-V leads to, else the solo's key where it stands."""
    region = solo.keys[0]
    stretches = chords_under(solo)
    chords = [stretch.chord for stretch in stretches]
    if len(chords) not in (2, 3) or not is_two_five(chords[0], chords[1]) or not _cadence(stretches):
        return region
    tonic = chords[1].root.transposed(Interval(3, 5))
    if len(chords) == 3:
        minor = chords[2].third == "b3"
        tonic = chords[2].root
    else:
        minor = chords[0].is_half_diminished
    key = Key(tonic, "minor" if minor else "major")
    same = key.tonic.pitch_class == region.key.tonic.pitch_class
    return region if same and minor == region.key.is_minor else KeyRegion(region.onset, key)


def _single(chord: Chord) -> str:
    if chord.altered:
        return "altered dominant"
    return _NAMES[chord_quality(chord)]


def _cadence(stretches: list[Stretch]) -> str:
    chords = [stretch.chord for stretch in stretches]
    long = stretches[0].length >= 4
    if is_two_five(chords[0], chords[1]):
        minor = chords[0].is_half_diminished
        size = "long " if long else "short "
        if len(chords) == 2:
            return f"{size}{'minor ' if minor else ''}ii-V"
        fall = falls_a_fifth(chords[1], chords[2])
        if fall and not chords[2].is_dominant:
            home_minor = chords[2].third == "b3"
            return f"{size}minor ii-V-i" if home_minor else f"{size}ii-V-I"
        return f"{size}ii-V to I7" if fall else ""
    if len(chords) == 2 and chords[0].is_dominant and falls_a_fifth(chords[0], chords[1]):
        if chords[1].is_dominant:
            return "I7 to IV7"
        return "V-i" if chords[1].third == "b3" else "V-I"
    return ""
