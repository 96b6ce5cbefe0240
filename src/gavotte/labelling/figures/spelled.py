"""The other chord a line spells: which it is, what it is called, and what speaks against hearing it."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import lru_cache

from gavotte.labelling.framed_note import FramedNote
from gavotte.theory.pitch import LETTERS, PitchName

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
    triad: frozenset[int]

    def is_spelled_by(self, classes: frozenset[int] | set[int]) -> bool:
        """Whether these pitch classes are all its tones (and its ninth), or just its triad."""
        return self.tones <= classes or classes == self.triad


def _spelled(root: int, kind: str) -> Spelled:
    tones = frozenset((root + step) % 12 for step in KINDS[kind])
    third = (root + KINDS[kind][1]) % 12
    # Nobody hears a ninth on a diminished chord.
    ninth = set() if kind.startswith("dim") else {(root + NINTH) % 12}
    triad = frozenset((root + step) % 12 for step in KINDS[kind][:3])
    return Spelled(root, kind, tones, third, tones | ninth, triad)


_CHORDS = tuple(_spelled(root, kind) for kind in KINDS for root in range(12))
_BY_NAME = {(chord.root, chord.kind): chord for chord in _CHORDS}


def chord_of(root: int, kind: str) -> Spelled:
    """The chord on a root (a pitch class) of a kind."""
    return _BY_NAME[root, kind]


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


_SYMMETRICAL = ("dim7", "+")
_TRIAD_OF = {"maj7": "", "7": "", "m7": "m", "m7b5": "dim", "dim7": "dim"}


def name_of(notes: Sequence[FramedNote], chord: Spelled, over: int) -> str:
    """The chord's symbol as the line spells it over a chord on the root ``over`` (a pitch class).

    It is a triad where no seventh is played. Its root has the name it has on the page.

    A diminished seventh or augmented chord could have any of its tones as root: the one from which the names on the
    page stack up in thirds is meant (C♯ E G A♯ is A♯°), else the root of ``chord``.
    """
    classes = {note.pitch % 12 for note in notes}
    seventh = chord.tones - chord.triad
    kind = chord.kind
    if not seventh & classes and classes <= chord.with_ninth:
        kind = _TRIAD_OF.get(kind, kind)
    root = chord.root
    if kind in _SYMMETRICAL:
        others = [chord_of(tone, kind) for tone in sorted(chord.tones, key=lambda tone: (tone - root) % 12)]
        names = frozenset(note.note.pitch.name for note in notes)
        root = max((x for x in others if x.root != over), key=lambda x: _spelled_in_thirds(names, x)).root
    return f"{_root_name(notes, root)}{kind}"


@lru_cache(maxsize=1024)
def _spelled_in_thirds(names: frozenset[PitchName], chord: Spelled) -> int:
    """How many of the names are those of thirds stacked up from the chord's root."""
    root = next((name for name in names if name.pitch_class == chord.root), None)
    if root is None:
        return 0
    letters = [LETTERS[(LETTERS.index(root.letter) + 2 * third) % 7] for third in range(len(KINDS[chord.kind]))]
    stacked = {(chord.root + step) % 12: letter for step, letter in zip(KINDS[chord.kind], letters, strict=True)}
    return sum(stacked.get(name.pitch_class) == name.letter for name in names)


def _root_name(notes: Sequence[FramedNote], root: int) -> PitchName:
    """A root (a pitch class) as the line spells it, else as the names of the line ask."""
    for note in notes:
        if note.pitch % 12 == root:
            return note.note.pitch.name
    fifths = [note.note.pitch.name.fifths for note in notes]
    centre = round(sum(fifths) / len(fifths))
    candidates = [PitchName.from_fifths(f) for f in range(centre - 6, centre + 6)]
    return next(name for name in candidates if name.pitch_class == root)
