"""A player's dictionary: what a player does how often, with honest bounds where few notes speak.

Shares have the interval of E. B. Wilson (*Probable inference, the law of succession, and statistical inference*,
Journal of the American Statistical Association 22, 1927) at 95 %.
"""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np

from gavotte.solo.document import Function
from gavotte.theory.degrees import shown_degree
from gavotte.vocabulary.corpus import DEGREES, DEVICE_NAMES, FUNCTIONS, QUALITIES, Corpus, context_names
from gavotte.vocabulary.query import DEVICE_MEANINGS

_Z = 1.96
_FEW = 4
"""What occurs less often than so many times is not listed, unless another player's is told beside it."""
MOST = 8
"""As many entries of a chapter as are told at most."""


@dataclass(frozen=True, slots=True)
class Entry:
    """Something a player does: ``count`` of ``total`` times, with the bounds of its share; ``query`` finds the
    places.
    """

    words: str
    count: int
    total: int
    query: str

    @property
    def share(self) -> float:
        """How often, from 0 to 1."""
        return self.count / self.total if self.total else 0.0

    @property
    def bounds(self) -> tuple[float, float]:
        """Between which shares the player's own lies, 19 times of 20."""
        if not self.total:
            return 0.0, 1.0
        n, p, z = self.total, self.share, _Z
        middle = (p + z * z / (2 * n)) / (1 + z * z / n)
        half = z / (1 + z * z / n) * math.sqrt(p * (1 - p) / n + z * z / (4 * n * n))
        return min(p, max(0.0, middle - half)), max(p, min(1.0, middle + half))


@dataclass(frozen=True, slots=True)
class Chapter:
    """What is told under one heading, the most frequent first."""

    heading: str
    entries: tuple[Entry, ...]


@dataclass(frozen=True, slots=True)
class Dictionary:
    """All that is told of a player's lines: how many solos and notes, and the chapters."""

    solos: int
    notes: int
    chapters: tuple[Chapter, ...]


def dictionary_of(corpus: Corpus) -> Dictionary:
    """The dictionary of some lines of one player."""
    counters = (
        ("What the notes do", _functions(corpus)),
        ("Ways to approach", _approaches(corpus)),
        ("Approached degrees", _targets(corpus)),
        ("Colours", _colours(corpus)),
        ("Phrases begin on", _phrase_degrees(corpus, first=True)),
        ("Phrases end on", _phrase_degrees(corpus, first=False)),
        ("Lands on at a chord change", _landings(corpus)),
        ("Plays over", _contexts(corpus)),
    )
    chapters = tuple(Chapter(heading, _entries(*found)) for heading, found in counters)
    return Dictionary(len(corpus.lines), len(corpus), tuple(c for c in chapters if c.entries))


_Counted = tuple[Counter[tuple[str, str]], int]
"""How often each (words, query) is had, and of how many."""


def _entries(counts: Counter[tuple[str, str]], total: int) -> tuple[Entry, ...]:
    return tuple(Entry(words, count, total, query) for (words, query), count in counts.most_common() if count)


@dataclass(frozen=True, slots=True)
class Pair:
    """What a player does, and another one, under the same words; None where there is no other of such a chapter."""

    mine: Entry
    other: Entry | None


def side_by_side(mine: Dictionary, other: Dictionary | None = None) -> tuple[tuple[str, tuple[Pair, ...]], ...]:
    """The chapters of a dictionary, with another one beside it: of each the entries that are most frequent with either.

    What occurs but a few times is told only where there is little of anything.
    """
    others = {chapter.heading: chapter for chapter in other.chapters} if other is not None else {}
    told = []
    for chapter in mine.chapters:
        theirs = others.get(chapter.heading)
        own = {entry.words: entry for entry in chapter.entries}
        beside = {entry.words: entry for entry in theirs.entries} if theirs is not None else {}
        total, other_total = chapter.entries[0].total, theirs.entries[0].total if theirs is not None else 0
        pairs = []
        for words in dict.fromkeys([*own, *beside]):
            known = own.get(words) or beside[words]
            here = own.get(words) or Entry(words, 0, total, known.query)
            there = beside.get(words) or (Entry(words, 0, other_total, known.query) if theirs is not None else None)
            pairs.append(Pair(here, there))
        pairs.sort(key=lambda pair: -max(pair.mine.share, pair.other.share if pair.other is not None else 0.0))
        often = [p for p in pairs if max(p.mine.count, p.other.count if p.other is not None else 0) >= _FEW]
        told.append((chapter.heading, tuple((often or pairs[:3])[:MOST])))
    return tuple(told)


def _functions(corpus: Corpus) -> _Counted:
    found = Counter(corpus.function.tolist())
    words = {
        Function.CHORD: "chord tones", Function.EXTENSION: "colours", Function.PASSING: "passing notes",
        Function.APPROACH: "approach notes", Function.OUTSIDE: "outside",
    }  # fmt: skip
    named = {(words[FUNCTIONS[code]], str(FUNCTIONS[code])): count for code, count in found.items()}
    return Counter(named), len(corpus)


def _approaches(corpus: Corpus) -> _Counted:
    rows = np.nonzero(corpus.function == FUNCTIONS.index(Function.APPROACH))[0]
    figures = np.where(corpus.figure[rows] < 0, -1 - rows, corpus.figure[rows])
    # A figure counts once, by its first note that approaches.
    _, firsts = np.unique(figures, return_index=True)
    devices = Counter(DEVICE_NAMES[code] for code in corpus.device[rows[firsts]].tolist())
    return Counter({(DEVICE_MEANINGS.get(d, d), d): n for d, n in devices.items()}), len(firsts)


def _targets(corpus: Corpus) -> _Counted:
    leading = np.nonzero((corpus.function == FUNCTIONS.index(Function.APPROACH)) & (corpus.target >= 0))[0]
    goals = np.unique(corpus.target[leading])
    return _degrees(corpus, goals, "the {degree}", "approach of {plain}"), len(goals)


def _colours(corpus: Corpus) -> _Counted:
    coloured = np.nonzero(corpus.function == FUNCTIONS.index(Function.EXTENSION))[0]
    counts: Counter[tuple[str, str]] = Counter()
    for row in coloured.tolist():
        quality = corpus.quality[row]
        if quality >= 0 and corpus.degree[row] >= 0:
            degree = DEGREES[corpus.degree[row]]
            kind = QUALITIES[quality]
            counts[f"the {shown_degree(degree)} on {_A_CHORD[kind]}", f"{degree} on {kind}"] += 1
    return counts, len(coloured)


_A_CHORD = {
    "major": "a major chord", "minor": "a minor chord", "dominant": "a dominant",
    "half-diminished": "a half-diminished chord", "diminished": "a diminished chord", "sus": "a sus chord",
}  # fmt: skip


def _phrase_degrees(corpus: Corpus, first: bool) -> _Counted:
    starts = np.nonzero(corpus.begins)[0]
    rows = starts if first else np.append(starts[1:] - 1, len(corpus) - 1)[: len(starts)]
    word = "from" if first else "to"
    return _degrees(corpus, rows, "the {degree}", word + " {plain}"), len(rows)


def _landings(corpus: Corpus) -> _Counted:
    """The first chord tones at a change of chord, within a beat of it."""
    change = np.nonzero((np.diff(corpus.chord) != 0) & (np.diff(corpus.line_of) == 0))[0] + 1
    return _degrees(corpus, change, "the {degree}", "{plain}"), len(change)


def _degrees(corpus: Corpus, rows: Iterable[int], words: str, query: str) -> Counter[tuple[str, str]]:
    counts: Counter[tuple[str, str]] = Counter()
    for row in list(rows):
        code = int(corpus.degree[row])
        if code >= 0:
            degree = DEGREES[code]
            counts[words.format(degree=shown_degree(degree)), query.format(plain=degree)] += 1
    return counts


def _contexts(corpus: Corpus) -> _Counted:
    """How many notes are played over each context."""
    per_text = Counter(corpus.context.tolist())
    counts: Counter[tuple[str, str]] = Counter()
    for code, number in per_text.items():
        for name in context_names(corpus.contexts[code]):
            counts[name, f'in "{name}"'] += number
    return counts, len(corpus)


def differs(first: Entry, second: Entry) -> bool:
    """Whether two players do something so differently often that it is hardly chance: their bounds do not meet."""
    (low, high), (other_low, other_high) = first.bounds, second.bounds
    return low > other_high or other_low > high
