"""The other chord a line spells: which it is, what it is called, and what speaks against hearing it."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache

from gavotte.labelling.figures.arpeggio import tops_arpeggio
from gavotte.labelling.figures.double_approach import closes_by_semitones
from gavotte.labelling.frame import Frame, FramedNote
from gavotte.theory.pitch import PitchName
from gavotte.theory.scale import collection_pitch_classes

LONGEST_RUN = 8

# Root, third, fifth and seventh of the chords a line can spell; "" and "m" are triads.
KINDS: dict[str, tuple[int, ...]] = {
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
NINTH = 2


@dataclass(frozen=True, slots=True)
class Spelled:
    """A chord a line may spell: root pitch class, kind, and its tones (and ninth) as pitch classes."""

    root: int
    kind: str
    tones: frozenset[int]
    third: int
    with_ninth: frozenset[int]


def _spelled(root: int, kind: str) -> Spelled:
    tones = frozenset((root + step) % 12 for step in KINDS[kind])
    third = (root + KINDS[kind][1]) % 12
    # Nobody hears a ninth on a diminished chord.
    ninth = set() if kind.startswith("dim") else {(root + NINTH) % 12}
    return Spelled(root, kind, tones, third, tones | ninth)


_CHORDS = tuple(_spelled(root, kind) for kind in KINDS for root in range(12))


@lru_cache(maxsize=2048)
def chords_holding(classes: frozenset[int]) -> tuple[Spelled, ...]:
    """The seventh chords that hold all these pitch classes among their tones and ninth."""
    return tuple(chord for chord in _CHORDS if len(chord.tones) == 4 and classes <= chord.with_ninth)


def as_bits(classes: Iterable[int]) -> int:
    """Pitch classes as one number, a bit for each: sets that are quick to unite and to look up."""
    return sum(1 << pitch_class for pitch_class in set(classes))


_MADE_OF: dict[int, tuple[Spelled, ...]] = {}
for _chord in _CHORDS:
    _bits = as_bits(_chord.tones)
    _MADE_OF[_bits] = (*_MADE_OF.get(_bits, ()), _chord)


def chords_made_of(classes: int) -> tuple[Spelled, ...]:
    """The triads and seventh chords that are exactly these pitch classes, given as bits."""
    return _MADE_OF.get(classes, ())


def stretch_from(frame: Frame, start: int, last: int, one_chord: bool) -> list[FramedNote]:
    """The notes from ``start`` on with no rest and no grace note among them, up to ``LONGEST_RUN``.

    With ``one_chord`` they end where the chord changes.
    """
    stretch = [frame.notes[start]]
    for note in frame.notes[start + 1 : min(start + LONGEST_RUN, last)]:
        if stretch[-1].rest_after or note.note.grace or (one_chord and note.span != stretch[0].span):
            break
        stretch.append(note)
    return stretch


def is_blues_run(frame: Frame, run: list[FramedNote]) -> bool:
    """Whether the notes are the key's minor pentatonic or blues scale, in a blues."""
    key = frame.span_of(run[0]).key
    if not key.blues:
        return False
    tonic = key.key.tonic.pitch_class
    blues = collection_pitch_classes("blues", tonic)
    return {note.pitch % 12 for note in run} <= blues


def prepares_next(frame: Frame, run: list[FramedNote]) -> bool:
    """Whether the last two notes enclose the note that follows, or approach it by two semitones.

    The top of an arpeggio in thirds encloses nothing.
    """
    following = run[-1].index + 1
    if following >= len(frame.notes) or run[-1].rest_after:
        return False
    goal = frame.notes[following].pitch
    a, b = run[-2].pitch - goal, run[-1].pitch - goal
    encloses = a * b < 0 and max(abs(a), abs(b)) <= 2 and not tops_arpeggio(frame, run[-1].index)
    return encloses or closes_by_semitones([a, b])


def name_of(notes: list[FramedNote], chord: Spelled) -> str:
    """The chord's symbol, its root as the line spells it."""
    return f"{_root_name(notes, chord)}{chord.kind}"


def _root_name(notes: list[FramedNote], chord: Spelled) -> PitchName:
    """The root as the line spells it, else as its third or fifth asks."""
    for note in notes:
        if note.pitch % 12 == chord.root:
            return note.note.pitch.name
    fifths = [note.note.pitch.name.fifths for note in notes]
    centre = round(sum(fifths) / len(fifths))
    candidates = [PitchName.from_fifths(f) for f in range(centre - 6, centre + 6)]
    return next(name for name in candidates if name.pitch_class == chord.root)
