"""Which licks of a library, and which places of its solos that were not kept, answer a query."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from gavotte.library.lines import Index, Lines
from gavotte.library.reader import LickEntry, SoloEntry
from gavotte.vocabulary.corpus import Corpus
from gavotte.vocabulary.finding import Found, find_in, find_licks, why
from gavotte.vocabulary.query import Query, plain_context

MOST_PLACES = 200
"""As many places of solos are told at most."""


@dataclass(frozen=True, slots=True)
class Answer:
    """A lick or a place of a solo (by its ``owner``'s id) that answers: the rows of its first and last note in the
    line of that, and those that say why; of a place also why, in words.
    """

    owner: str
    first: int
    last: int
    marked: tuple[int, ...]
    why: str


@dataclass(frozen=True, slots=True)
class Answers:
    """The licks that answer, and the places of solos; ``more`` says that there are more places than are told."""

    licks: tuple[Answer, ...]
    places: tuple[Answer, ...] = ()
    more: bool = False


def every_lick(licks: Sequence[LickEntry]) -> Answers:
    """All licks, where nothing is asked for."""
    return Answers(tuple(_whole(lick) for lick in licks))


def _whole(lick: LickEntry) -> Answer:
    return Answer(lick.id, 0, lick.notes - 1, (), "")


def answers(
    index: Index,
    query: Query,
    licks: Mapping[str, LickEntry],
    solos: Mapping[str, SoloEntry],
    with_words: frozenset[str] = frozenset(),
) -> Answers:
    """What answers a query: licks in their order, then places. ``with_words`` are the licks that have its words.

    Of a place that is kept as a lick, whole, the lick is told and not the place.
    """
    own = replace(query, context="", player="", tag="", status="", rated=0, words="")
    lines = index.licks
    if own == _ANYTHING:
        told = [_whole(lick) for lick in licks.values() if _has(lick, query, with_words)]
    else:
        told = _licks(lines, own, query, licks, with_words)
    if query.tag or query.status or query.rated:
        return Answers(tuple(told))
    places: list[Answer] = []
    kept = _kept_lines(index, licks)
    asked = replace(query, player="", words="")
    for hit in find_in(index.solos.corpus, asked):
        solo = solos.get(_owner(index.solos, hit))
        if solo is None or not _is_of(solo.player, query.player) or query.words not in _words_of(solo):
            continue
        if any(_holds(index.solos.corpus, hit, line) for line in kept.get(solo.id, ())):
            continue
        if len(places) == MOST_PLACES:
            return Answers(tuple(told), tuple(places), more=True)
        places.append(_answer(index.solos, hit))
    return Answers(tuple(told), tuple(places))


_ANYTHING = Query()


def _licks(
    lines: Lines, own: Query, query: Query, licks: Mapping[str, LickEntry], with_words: frozenset[str]
) -> list[Answer]:
    """The licks whose notes answer, and of which what is asked for beside them holds."""
    told: list[Answer] = []
    line_of, starts = lines.corpus.line_of, lines.corpus.firsts.tolist()
    for hit in find_licks(lines.corpus, own):
        number = int(line_of[hit.first])
        lick = licks.get(lines.ids[number])
        if lick is not None and _has(lick, query, with_words):
            start = starts[number]
            marked = tuple(row - start for row in hit.marked)
            told.append(Answer(lick.id, hit.first - start, hit.last - start, marked, ""))
    return told


def _owner(lines: Lines, hit: Found) -> str:
    return lines.ids[int(lines.corpus.line_of[hit.first])]


def _answer(lines: Lines, hit: Found) -> Answer:
    first = int(lines.corpus.firsts[lines.corpus.line_of[hit.first]])
    marked = tuple(row - first for row in hit.marked)
    return Answer(_owner(lines, hit), hit.first - first, hit.last - first, marked, why(lines.corpus, hit))


def _is_of(player: str, wanted: str) -> bool:
    return wanted in player.casefold()


def _words_of(solo: SoloEntry) -> str:
    return f"{solo.title} {solo.album}".casefold()


def _has(lick: LickEntry, query: Query, with_words: frozenset[str]) -> bool:
    """Whether what is known of a lick beside its notes is what is asked for."""
    if query.context and not _is_over(lick.contexts, lick.context, query.context):
        return False
    return (
        (not query.player or _is_of(lick.player, query.player))
        and (not query.tag or any(query.tag in tag.casefold() for tag in lick.tags.split(", ")))
        and query.status in ("", lick.status)
        and lick.rating >= query.rated
        and (not query.words or lick.id in with_words)
    )


@lru_cache(maxsize=4096)
def _is_over(contexts: str, main: str, wanted: str) -> bool:
    """Whether a lick with these contexts is played over one that is asked for."""
    plain = plain_context(wanted)
    return any(plain in plain_context(name) for name in (*contexts.split("; "), main))


def _kept_lines(index: Index, licks: Mapping[str, LickEntry]) -> dict[str, list[tuple[int, ...]]]:
    """For each solo the licks kept of it, by their pitches."""
    kept: dict[str, list[tuple[int, ...]]] = {}
    for lick_id, line in zip(index.licks.ids, index.licks.corpus.lines, strict=True):
        lick = licks.get(lick_id)
        if lick is not None and lick.solo_id is not None:
            kept.setdefault(lick.solo_id, []).append(line.pitches)
    return kept


def _holds(corpus: Corpus, hit: Found, line: tuple[int, ...]) -> bool:
    """Whether a place lies in a stretch with these pitches."""
    size = len(line)
    low, high = max(0, hit.last - size + 1), min(hit.first, len(corpus) - size)
    wanted = np.array(line)
    return any(np.array_equal(corpus.pitch[start : start + size], wanted) for start in range(low, high + 1))
