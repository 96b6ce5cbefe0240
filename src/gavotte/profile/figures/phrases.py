"""Phrases: how long, how dense, how high, where they begin and end, what is silent, and what comes back."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from gavotte.profile.figures.kind import CLOSE, Chosen, Figure, Unit, all_notes, mean_of, share
from gavotte.profile.seen import Flags, Floats, Seen

_FAMILY = "Phrases"
_UNIT_OF_FORM = 4


def _per_phrase(name: str, words: str, formula: str, unit: Unit, counted: Callable[[Seen], Floats]) -> Figure:
    return Figure(
        name, _FAMILY, words, formula, unit, lambda seen: (counted(seen), seen.begins.astype(np.float64))
    )  # fmt: skip


def _beats_in(seen: Seen) -> Floats:
    length = seen.line.notes["length"] / seen.line.notes["beat_length"]
    return np.asarray(np.where(np.isnan(seen.until_next), length, seen.until_next), np.float64)


def _pitch(seen: Seen) -> Floats:
    return np.asarray(seen.line.notes["pitch"], np.float64)


def _compass(seen: Seen) -> Floats:
    wide = np.zeros(seen.count)
    firsts = np.flatnonzero(seen.begins)
    if len(firsts):
        wide[firsts] = np.maximum.reduceat(_pitch(seen), firsts) - np.minimum.reduceat(_pitch(seen), firsts)
    return wide


def _range(seen: Seen) -> tuple[Floats, Floats]:
    wide, first = np.zeros(seen.count), np.zeros(seen.count)
    if seen.count:
        first[0], wide[0] = 1.0, np.ptp(_pitch(seen))
    return wide, first


def _silence(seen: Seen) -> tuple[Floats, Floats]:
    notes = seen.line.notes
    whole = np.zeros(seen.count)
    whole[:-1] = np.diff(notes["onset"]) / notes["beat_length"][:-1]
    sounding = np.minimum(whole, notes["length"] / notes["beat_length"])
    return np.maximum(0.0, whole - sounding), whole


def _is_followed(seen: Seen) -> Flags:
    """The last notes of all phrases but the last."""
    found = seen.ends.copy()
    found[-1:] = False
    return found


def lengths() -> list[Figure]:
    """How long, dense, wide, high and silent."""
    return [
        _per_phrase("phrase notes", "notes in a phrase", "notes / phrases", Unit.NOTES, lambda s: np.ones(s.count)),
        _per_phrase(
            "phrase beats", "beats in a phrase",
            "beats from the first onset of a phrase to the end of its last note / phrases", Unit.BEATS, _beats_in,
        ),
        Figure(
            "density", _FAMILY, "notes a beat", "notes / beats of phrases", Unit.A_BEAT,
            lambda seen: (np.ones(seen.count), _beats_in(seen)),
        ),
        _per_phrase(
            "compass", "compass of a phrase", "highest note less lowest of a phrase / phrases", Unit.SEMITONES, _compass
        ),
        Figure(
            "range", _FAMILY, "range of a solo", "highest note less lowest of a solo / solos", Unit.SEMITONES, _range
        ),
        mean_of("register", _FAMILY, "mean pitch", "MIDI numbers / notes", Unit.MIDI, _pitch, all_notes),
        Figure(
            "silence", _FAMILY, "time that is silent", "beats without a note / beats from the first onset to the last",
            Unit.SHARE, _silence, is_of_time=True,
        ),
        mean_of(
            "rest", _FAMILY, "rest after a phrase",
            "beats from the end of a phrase to the next / phrases that are followed by another", Unit.BEATS,
            lambda seen: _silence(seen)[0], _is_followed,
        ),
    ]  # fmt: skip


def _on_a_beat(seen: Seen) -> Flags:
    return np.asarray(np.minimum(seen.part_of_beat, 1 - seen.part_of_beat) <= CLOSE)


def _off_the_beat(seen: Seen) -> Flags:
    return np.asarray(np.abs(seen.part_of_beat - 0.5) <= 0.1)


def _on_one(seen: Seen) -> Flags:
    return np.asarray(seen.line.notes["beat"] < CLOSE)


def _in_form(edge: Chosen) -> Chosen:
    return lambda seen: edge(seen) & (seen.line.notes["form_bar"] >= 0)


def _bar_of_unit(number: int) -> Chosen:
    return lambda seen: np.asarray(seen.line.notes["form_bar"] % _UNIT_OF_FORM == number)


def places() -> list[Figure]:
    """Where in the beat, the bar and the form phrases begin and end."""

    def begins(seen: Seen) -> Flags:
        return seen.begins

    def ends(seen: Seen) -> Flags:
        return seen.ends

    made = [
        share(f"begins {name}", _FAMILY, f"phrases that begin {words}", f"phrases that begin {words} / phrases",
              hit, begins)
        for name, words, hit in (
            ("on the beat", "on a beat", _on_a_beat), ("off the beat", "in the middle of a beat", _off_the_beat),
            ("on one", "on beat 1", _on_one),
        )
    ]  # fmt: skip
    made.append(
        share("ends on one", _FAMILY, "phrases that end on beat 1",
              "phrases whose last note begins on beat 1 / phrases", _on_one, ends)
    )  # fmt: skip
    for name, words, edge in (("begins", "begin", begins), ("ends", "end", ends)):
        made += [
            share(
                f"{name} in bar {bar + 1}", "Phrases in the form",
                f"phrases that {words} in bar {bar + 1} of four",
                f"phrases that {words} in bar {bar + 1} of four bars of the form / phrases of solos with a form",
                _bar_of_unit(bar), _in_form(edge),
            )
            for bar in range(_UNIT_OF_FORM)
        ]  # fmt: skip
    return made


def quarters() -> list[Figure]:
    """How high and how dense the quarters of a chorus are."""
    made: list[Figure] = []

    def in_quarter(number: int) -> Chosen:
        return lambda seen: np.asarray(seen.quarter == number)

    for number, words in enumerate(("first", "second", "third", "last")):
        there = in_quarter(number)
        made.append(
            mean_of(f"register in quarter {number + 1}", "Over the form", f"mean pitch in a chorus's {words} quarter",
                    f"MIDI numbers / notes of a chorus's {words} quarter", Unit.MIDI, _pitch, there)
        )  # fmt: skip

        def density(seen: Seen, there: Chosen = there) -> tuple[Floats, Floats]:
            inside = there(seen).astype(np.float64)
            return inside, inside * _silence(seen)[1]

        made.append(
            Figure(f"density in quarter {number + 1}", "Over the form", f"notes a beat in a chorus's {words} quarter",
                   f"notes / beats, rests too, of a chorus's {words} quarter", Unit.A_BEAT, density)
        )  # fmt: skip
    return made


def recalled() -> list[Figure]:
    """What comes back."""
    return [
        share(
            "motifs", "Motifs", "notes that take up a motif",
            "notes of a motif's later appearances / notes",
            lambda seen: np.asarray(seen.line.notes["recalls"]), all_notes,
        )
    ]  # fmt: skip
