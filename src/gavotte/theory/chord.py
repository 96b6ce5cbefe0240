"""Chords as values: root, third, fifth, seventh, sixth, tensions and bass, and what follows from them.

A chord *tone* is one of root, third (or the fourth of a sus chord), fifth, seventh, the sixth of a sixth
chord and a slash bass. 9, 11, 13 and their alterations are tensions, also when the symbol writes them.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property

from gavotte.theory.interval import Interval
from gavotte.theory.pitch import PitchName

DEGREE_SEMITONES = {
    "1": 0,
    "b9": 1,
    "2": 2,
    "9": 2,
    "b3": 3,
    "#9": 3,
    "3": 4,
    "4": 5,
    "11": 5,
    "b5": 6,
    "#11": 6,
    "5": 7,
    "#5": 8,
    "b13": 8,
    "6": 9,
    "13": 9,
    "bb7": 9,
    "b7": 10,
    "7": 11,
}
"""Semitones above the root of every degree the labels use."""

_DEGREE_STEPS = {"1": 0, "2": 1, "9": 1, "3": 2, "4": 3, "11": 3, "5": 4, "6": 5, "13": 5, "7": 6}
TENSIONS = ("b9", "9", "#9", "11", "#11", "b13", "13")


@dataclass(frozen=True)
class NoChord:
    """N.C.: the band is silent or leaves the harmony open."""

    def __str__(self) -> str:
        return "N.C."


@dataclass(frozen=True)
class RepeatChord:
    """%: the chord or bar before goes on."""

    def __str__(self) -> str:
        return "%"


@dataclass(frozen=True)
class UnreadChord:
    """A symbol that can't be read. It stays as its author wrote it, and the notes under it are heard by the key."""

    text: str

    def __str__(self) -> str:
        return self.text


@dataclass(frozen=True)
class Chord:
    """One chord.

    ``third`` is "3", "b3", "4" (sus4), "2" (sus2) or "" (none); ``fifth`` "5", "b5", "#5" or "";
    ``seventh`` "7", "b7", "bb7" or ""; ``tensions`` the written ones in the order of TENSIONS. In an
    ``altered`` chord ("alt") the fifth is "" and the tensions are left to the players.
    """

    root: PitchName
    third: str = "3"
    fifth: str = "5"
    seventh: str = ""
    sixth: bool = False
    tensions: tuple[str, ...] = ()
    altered: bool = False
    bass: PitchName | None = None

    @cached_property
    def tones(self) -> tuple[str, ...]:
        """Degrees of the chord tones above the root, bass excepted: ("1", "b3", "5", "b7")."""
        tones = ("1", self.third, self.fifth, "6" if self.sixth else "", self.seventh)
        return tuple(tone for tone in tones if tone)

    @property
    def degrees(self) -> tuple[str, ...]:
        """Chord tones and written tensions, as degrees above the root."""
        return self.tones + self.tensions

    @cached_property
    def tone_classes(self) -> frozenset[int]:
        """Pitch classes of the chord tones, the bass among them."""
        root = self.root.pitch_class
        tones = {(root + DEGREE_SEMITONES[tone]) % 12 for tone in self.tones}
        if self.bass is not None:
            tones.add(self.bass.pitch_class)
        return frozenset(tones)

    @property
    def pitch_classes(self) -> frozenset[int]:
        """Pitch classes of tones, written tensions and bass."""
        root = self.root.pitch_class
        return self.tone_classes | {(root + DEGREE_SEMITONES[tension]) % 12 for tension in self.tensions}

    @property
    def is_suspended(self) -> bool:
        """Whether a fourth or second stands in for the third."""
        return self.third in ("4", "2")

    @property
    def is_dominant(self) -> bool:
        """Major third and minor seventh, or alt."""
        return self.altered or (self.third == "3" and self.seventh == "b7")

    @property
    def is_minor(self) -> bool:
        """Minor third with a fifth that is not lowered."""
        return self.third == "b3" and self.fifth != "b5"

    @property
    def is_half_diminished(self) -> bool:
        """m7♭5."""
        return self.third == "b3" and self.fifth == "b5" and self.seventh == "b7"

    @property
    def is_diminished(self) -> bool:
        """Diminished triad, diminished seventh, or diminished with a major seventh."""
        return self.third == "b3" and self.fifth == "b5" and self.seventh != "b7"

    @property
    def is_major(self) -> bool:
        """Major third without a minor seventh."""
        return self.third == "3" and self.seventh != "b7" and not self.altered

    @property
    def is_triad(self) -> bool:
        """No seventh and no sixth."""
        return not self.seventh and not self.sixth and not self.altered

    @cached_property
    def as_read(self) -> Chord:
        """The chord whose degrees count.

        A symbol that spells a suspended chord on its bass (B♭/C, Gm7/C) is read as the 9sus4 of the bass;
        every other chord is read as itself.
        """
        if self.bass is None:
            return self
        above = (self.root.pitch_class - self.bass.pitch_class) % 12
        suspends = (above == 10 and self.is_major) or (above == 7 and self.is_minor and self.seventh == "b7")
        return Chord(self.bass, third="4", seventh="b7", tensions=("9",)) if suspends else self

    def degree_of(self, pitch_class: int) -> str:
        """The degree of a pitch class against the root, spelled by what the chord holds."""
        return self._degree_names[(pitch_class - self._root_class) % 12]

    @cached_property
    def _root_class(self) -> int:
        return self.root.pitch_class

    @cached_property
    def _degree_names(self) -> tuple[str, ...]:
        """The degree of each number of semitones above the root."""
        sixth = "6" if self.sixth or self.is_triad else "13"
        return (
            "1",
            "b9",
            "2" if self.third == "2" else "9",
            "b3" if self.third == "b3" else "#9",
            "3",
            "4" if self.third == "4" else "11",
            "b5" if self.fifth == "b5" else "#11",
            "5",
            "#5" if self.fifth == "#5" else "b13",
            "bb7" if self.seventh == "bb7" else sixth,
            "b7",
            "7",
        )

    def name_of(self, degree: str) -> PitchName:
        """The spelled name of a degree over this chord: ♭9 of D is E♭."""
        steps = _DEGREE_STEPS[degree.lstrip("b#")]
        return self.root.transposed(Interval(steps, DEGREE_SEMITONES[degree]))

    def transposed(self, interval: Interval) -> Chord:
        """The same chord an interval higher."""
        bass = None if self.bass is None else self.bass.transposed(interval)
        return replace(self, root=self.root.transposed(interval), bass=bass)


ChordSymbol = Chord | NoChord | RepeatChord | UnreadChord
