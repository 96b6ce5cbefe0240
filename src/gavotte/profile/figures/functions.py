"""Functions: of all notes, by chord, by beat, by the place in the phrase; what is foreign, and what it was read by."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from gavotte.profile.figures.kind import (
    CLOSE,
    FUNCTION_WORDS,
    QUALITY_WORDS,
    Chosen,
    Figure,
    Unit,
    all_notes,
    function,
    mean_of,
    over,
    over_chord,
    share,
)
from gavotte.profile.seen import Flags, Seen
from gavotte.solo.document import Function
from gavotte.theory.scale import COLLECTIONS
from gavotte.vocabulary.corpus import READINGS

_ALTERED = ("b9", "#9", "#11", "b13", "b5", "#5")
_BEATS = 4
_ROLES = (("ii", "the ii"), ("V", "the V"), ("I", "the I"))


def functions() -> list[Figure]:
    """Of all notes, and of those on strong beats."""
    made = [
        share(
            f"function {one}", "Functions", words, f"{words} / notes over a chord", function(one), over_chord,
        )
        for one, words in FUNCTION_WORDS.items()
    ]  # fmt: skip
    made.append(
        share(
            "strong chord tones", "Functions", "strong beats with a chord tone",
            "chord tones on strong beats / notes on strong beats over a chord",
            function(Function.CHORD), lambda seen: np.asarray(seen.line.notes["strong"]) & seen.over_chord,
        )
    )  # fmt: skip
    made.append(
        share(
            "foreign", "Functions", "notes outside chord and scale",
            "notes outside chord and scale / notes over a chord",
            lambda seen: np.asarray(seen.line.notes["foreign"]), over_chord,
        )
    )  # fmt: skip
    return made


def by_chord() -> list[Figure]:
    """Over each kind of chord."""
    made = [
        share(
            f"function {one} over {quality}", "Functions by chord", f"{words} over {chords}",
            f"{words} over {chords} / notes over {chords}", function(one), over(quality),
        )
        for quality, chords in QUALITY_WORDS.items()
        for one, words in FUNCTION_WORDS.items()
    ]  # fmt: skip
    made.append(
        share(
            "altered on dominants", "Functions by chord", "altered notes over dominants",
            "♭9, ♯9, ♯11, ♭13, ♭5 and ♯5 over dominants / notes over dominants",
            lambda seen: np.logical_or.reduce([seen.is_degree(one) for one in _ALTERED]), over("dominant"),
        )
    )  # fmt: skip
    return made


def _on_beat(number: int) -> Chosen:
    """The notes on a beat of the bar, by its number from 0."""

    def chosen(seen: Seen) -> Flags:
        beat = seen.line.notes["beat"].astype(np.float64)
        return np.asarray((np.abs(beat - number) < CLOSE) & seen.over_chord)

    return chosen


def _between_beats(seen: Seen) -> Flags:
    away = np.minimum(seen.part_of_beat, 1 - seen.part_of_beat)
    return np.asarray((away >= CLOSE) & seen.over_chord)


def by_beat() -> list[Figure]:
    """On each of the first four beats of the bar, and between beats."""
    places = [(f"beat {k + 1}", f"on beat {k + 1}", _on_beat(k)) for k in range(_BEATS)]
    return _by_place("Functions by beat", [*places, ("between beats", "between beats", _between_beats)])


def by_place() -> list[Figure]:
    """Where phrases begin and end."""
    return _by_place(
        "Functions in the phrase",
        [
            ("first", "as a phrase's first note", lambda seen: seen.begins & seen.over_chord),
            ("last", "as a phrase's last note", lambda seen: seen.ends & seen.over_chord),
        ],
    )


def _by_place(family: str, places: Sequence[tuple[str, str, Chosen]]) -> list[Figure]:
    return [
        share(
            f"function {one} {name}", family, f"{words} {where}", f"{words} {where} / notes {where} over a chord",
            function(one), chosen,
        )
        for name, where, chosen in places
        for one, words in FUNCTION_WORDS.items()
    ]  # fmt: skip


def tension() -> list[Figure]:
    """How strongly notes pull against their chords: all of them, and through ii, V and I."""
    family = "Tension"
    made = [
        mean_of(
            "tension", family, "tension", "tension of notes (0 to 1) / notes over a chord", Unit.TENSION,
            lambda seen: seen.line.notes["tension"].astype(np.float64), over_chord,
        )
    ]  # fmt: skip
    for role, words in _ROLES:
        made.append(
            mean_of(
                f"tension on {role}", family, f"tension on {words} of a ii-V or ii-V-I",
                f"tension of notes (0 to 1) / notes on {words} of a ii-V or ii-V-I", Unit.TENSION,
                lambda seen: seen.line.notes["tension"].astype(np.float64),
                lambda seen, role=role: seen.is_role(role),  # type: ignore[misc]
            )
        )  # fmt: skip
    return made


def readings() -> list[Figure]:
    """What notes are read by, and which collections phrases seem chosen from."""
    made = [
        share(
            f"read by {name}", "Readings and collections", words, f"{words} / notes",
            lambda seen, name=name: np.asarray(seen.line.notes["reading"] == READINGS.index(name)),  # type: ignore[misc]
            all_notes,
        )
        for name, words in (("key centre", "notes read by a key centre"), ("implied", "notes read by implied chords"))
    ]  # fmt: skip
    made += [
        share(
            f"collection {name}", "Readings and collections", f"phrases in the {name} scale",
            f"phrases that seem chosen from the {name} scale / phrases that seem chosen from any",
            lambda seen, code=code: np.asarray(seen.line.notes["collection"] == code),  # type: ignore[misc]
            lambda seen: seen.begins & (seen.line.notes["collection"] >= 0),
        )
        for code, name in enumerate(COLLECTIONS)
    ]  # fmt: skip
    return made
