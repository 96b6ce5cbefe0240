"""Eight more solos by three of the demo's players, written from their phrasebooks over invented tunes."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import partial

from gavotte.demo.phrasebook import Pair, Player, solo_of
from gavotte.demo.players import ILKA, ODO, PERPETUA
from gavotte.solo.document import KeyRegion, MeterRegion, Section, Solo
from gavotte.solo.instruments import instrument_named
from gavotte.theory.key import Key
from gavotte.theory.meter import Meter


@dataclass(frozen=True)
class Tune:
    """An invented tune and how it is played. ``form`` are its sections, each a letter with pairs of bars."""

    title: str
    player: Player
    instrument: str
    style: str
    tempo: int
    key: str
    form: Sequence[tuple[str, Sequence[Pair]]]
    choruses: int = 1
    meter: str = "4/4"
    blues: bool = False
    start: int = 0
    year: int = 0
    tags: tuple[str, ...] = ()


def _pairs(*pairs: str) -> tuple[Pair, ...]:
    """Pairs of bars from texts such as "cad: Cm7 F7 | Bb6"."""
    found = []
    for text in pairs:
        kind, _, chords = text.partition(":")
        first, second = chords.split("|")
        found.append(Pair(kind.strip(), first.strip(), second.strip()))
    return tuple(found)


_KETTLE_A = _pairs(
    "turn: Bbmaj7 G7 | Cm7 F7", "turn: Dm7 G7 | Cm7 F7", "turn: Bb7 Bb7 | Ebmaj7 Ab7", "cad: Cm7 F7 | Bb6"
)
_KETTLE_B = _pairs("dom: D7 | D7", "dom: G7 | G7", "dom: C7 | C7", "dom: F7 | F7")
_POST_A = _pairs("min: Cm6 | Cm6", "mcad: Dm7b5 G7b9 | Cm6", "ii-V: Fm7 | Bb7", "home: Ebmaj7 | Ebmaj7")
_POST_B = _pairs("mcad: Am7b5 D7b9 | Gm6", "cad: Gm7 C7 | Fmaj7", "cad: Fm7 Bb7 | Ebmaj7", "mcad: Dm7b5 G7b9 | Cm6")
_POST_C = _pairs("min: Fm7 | Fm7", "mcad: Dm7b5 G7b9 | Cm6", "mcad: Dm7b5 G7b9 | Cm6", "min: Cm6 | Cm6")


def _blues(i: str, iv: str, passing: str, vi: str, ii: str, v: str) -> tuple[Pair, ...]:
    return _pairs(
        f"blues: {i} | {iv}", f"blues: {i} | {i}", f"four: {iv} | {passing}", f"to VI: {i} | {vi}",
        f"ii-V: {ii} | {v}", f"turn: {i} {vi} | {ii} {v}",
    )  # fmt: skip


_CLERK_A = _pairs("home: Ebmaj7 | Ebmaj7", "ii-V: Fm7 | Bb7", "ii-V: Gm7 | C7", "cad: Fm7 Bb7 | Eb6")
_CLERK_B = _pairs("ii-V: Bbm7 | Eb7", "home: Abmaj7 | Abmaj7", "mcad: Am7b5 D7b9 | Gm7", "ii-V: Fm7 | Bb7")
_BAKERY = _pairs(
    "dom: G7 | G7", "dom: C7 | C7", "dom: G7 | G7", "to VI: G7 | E7", "ii-V: Am7 | D7", "turn: G7 E7 | Am7 D7",
    "ii-V: Am7 | D7", "home: G6 | G6",
)  # fmt: skip
_TWINE_A = _pairs(
    "home: Abmaj7 | Abmaj7", "min: Fm7 | Fm7", "ii-V: Bbm7 | Eb7", "home: Abmaj7 | Abmaj7", "mii-V: Gm7b5 | C7b9",
    "min: Fm7 | Fm7", "ii-V: Bbm7 | Eb7", "home: Ab6 | Ab6",
)  # fmt: skip
_TWINE_B = _pairs(
    "ii-V: Ebm7 | Ab7", "home: Dbmaj7 | Dbmaj7", "ii-V: Dbm7 | Gb7", "home: Abmaj7 | Abmaj7", "dom: F7 | F7",
    "min: Bbm7 | Bbm7", "dom: Bb7 | Bb7", "dom: Eb7 | Eb7",
)  # fmt: skip
_CHALK_A = _pairs("modal: Dm7 | Dm7", "modal: Dm7 | Dm7", "modal: Dm7 | Dm7", "modal: Dm7 | Dm7")
_CHALK_B = _pairs("modal: Ebm7 | Ebm7", "modal: Ebm7 | Ebm7", "modal: Ebm7 | Ebm7", "modal: Ebm7 | Ebm7")

_HARBOUR, _HILL = "harbour school", "hill school"

TUNES = (
    Tune("Copper Kettle Avenue", ODO, "Trumpet", "medium swing", 184, "Bb major",
         (("A", _KETTLE_A), ("A", _KETTLE_A), ("B", _KETTLE_B), ("A", _KETTLE_A)), 2,
         year=1954, tags=(_HARBOUR,)),
    Tune("Slow Post from Varnholm", ODO, "Trumpet", "medium swing", 132, "C minor",
         (("A", _POST_A), ("B", _POST_B), ("A", _POST_A), ("C", _POST_C)), start=1,
         year=1957, tags=(_HARBOUR,)),
    Tune("Twelve Umbrellas", ODO, "Trumpet", "medium swing", 168, "F major",
         (("A", _blues("F7", "Bb7", "Bdim7", "D7", "Gm7", "C7")),), 4, blues=True, start=2,
         year=1961, tags=(_HARBOUR,)),
    Tune("Gravel and Thyme", ILKA, "Guitar", "slow swing", 120, "Bb major",
         (("A", _blues("Bb7", "Eb7", "Edim7", "G7", "Cm7", "F7")),), 4, blues=True,
         year=1956, tags=(_HILL,)),
    Tune("The Lantern Clerk", ILKA, "Guitar", "bossa", 144, "Eb major",
         (("A", _CLERK_A), ("A", _CLERK_A), ("B", _CLERK_B), ("A", _CLERK_A)), start=1,
         year=1959, tags=(_HILL,)),
    Tune("Left-Hand Bakery", ILKA, "Guitar", "soul jazz", 116, "G major", (("A", _BAKERY),), 3, start=2,
         year=1963, tags=(_HILL,)),
    Tune("Nine Miles of Twine", PERPETUA, "Clarinet", "jazz waltz", 160, "Ab major",
         (("A", _TWINE_A), ("B", _TWINE_B)), 2, meter="3/4",
         year=1958, tags=(_HARBOUR,)),
    Tune("Chalk Harbour", PERPETUA, "Clarinet", "even eighths", 150, "D dorian",
         (("A", _CHALK_A), ("A", _CHALK_A), ("B", _CHALK_B), ("A", _CHALK_A)), 2, start=1,
         year=1962, tags=(_HARBOUR,)),
)  # fmt: skip


def played(tune: Tune) -> Solo:
    """The solo on a tune."""
    meter = Meter.parse(tune.meter)
    key = Key.parse(tune.key)
    pairs = [pair for _, section in tune.form for pair in section]
    written = solo_of(tune.player, pairs, tune.choruses, meter.bar_length, key.fifths, tune.start)
    sections, onset = [], Fraction(0)
    for _ in range(tune.choruses):
        for letter, section in tune.form:
            sections.append(Section(onset, letter))
            onset += 2 * len(section) * meter.bar_length
    instrument = instrument_named(tune.instrument)
    assert instrument is not None
    return Solo(
        title=tune.title,
        player=tune.player.name,
        instrument=instrument,
        style=tune.style,
        tempo=Fraction(tune.tempo),
        meters=(MeterRegion(Fraction(0), meter),),
        keys=(KeyRegion(Fraction(0), key, tune.blues),),
        chords=written.chords,
        notes=written.notes,
        sections=tuple(sections),
        chorus=onset / tune.choruses if tune.choruses > 1 else Fraction(0),
        year=tune.year or None,
        tags=tune.tags,
    )


_RIFF = "b3/8 3 5 13 1^/4 r/4 ; r/8 b3 1 b7v 5v/4 1^/4"
GRAVEL_HEAD = replace(
    TUNES[3],
    player=Player(
        "",
        {
            "blues": (_RIFF, "b3/8 3 5 13 1^/4 r/4 ; r/2 r/4 r/4"),
            "four": ("1/8 3 5 13 b7/4 13/4 ; 1/8 b3 b5 b3 1/4 r/4",),
            "to VI": ("b3/8 3 5 13 1^/4 r/4 ; r/2 r/4 r/4",),
            "ii-V": ("b3/4. 1/8 5v/4 r/4 ; b7/4 5/4 3/4 r/4",),
            "turn": ("b3/8 3 5 13 1^/4 r/4 ; r/2 r/4 r/4",),
        },
        50,
        77,
    ),
    choruses=1,
    start=0,
)
"""The head of a tune, which stands beside the solo on it: a riff its player keeps coming back to."""


@dataclass(frozen=True)
class Kept:
    """A pair of bars of a tune (each by its number from 0) that is kept in the demo, with what is said of it."""

    tune: int
    pair: int
    tags: tuple[str, ...] = ()
    status: str = "new"
    rating: int = 0
    words: str = ""


MORE_LICKS = (
    Kept(0, 3, ("cadence",), "learning", 4, "Over every turnaround in B flat. Slowly at first: the ♭9 wants time."),
    Kept(0, 8, ("bridge",), "new", 3),
    Kept(1, 1, ("minor",), "mine", 5, "The one I always come back to."),
    Kept(1, 5, ("cadence",), "new"),
    Kept(2, 0, ("blues",), "learning", 3),
    Kept(2, 4, ("cadence",), "learning", 4),
    Kept(3, 0, ("blues", "opening"), "mine", 5),
    Kept(3, 5, ("turnaround",), "new", 2),
    Kept(4, 3, ("cadence",), "learning"),
    Kept(4, 10, ("minor",), "new"),
    Kept(5, 3, ("blues",), "new", 3),
    Kept(5, 7, ("ending",), "mine", 4),
    Kept(6, 0, ("waltz", "opening"), "learning", 4, "Try it without the rest at the beginning."),
    Kept(6, 6, ("waltz", "cadence"), "new", 3),
    Kept(7, 0, ("modal",), "learning", 5),
    Kept(7, 9, ("modal", "a half step up"), "new"),
)
"""Licks kept of these solos in the demo."""


def gravel_head() -> Solo:
    """The head of Gravel and Thyme."""
    return replace(played(GRAVEL_HEAD), is_head=True)


MORE_SOLOS: tuple[Callable[[], Solo], ...] = tuple(partial(played, tune) for tune in TUNES)
"""What makes the solos, in the order of the shelf."""
