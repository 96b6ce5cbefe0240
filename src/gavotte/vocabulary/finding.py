"""Where labelled lines have what is asked for (see ``query``), and why each place answers."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np
from numpy.typing import NDArray

from gavotte.giving_way import give_way
from gavotte.labelling.labeller import Labelled
from gavotte.theory.chord import DEGREE_SEMITONES
from gavotte.theory.chord_symbol import write_chord_symbol
from gavotte.theory.degrees import USUAL_NAMING, DegreeNaming, shown_degree
from gavotte.vocabulary.corpus import DEGREES, DEVICE_NAMES, FUNCTIONS, QUALITIES, Corpus, labelled_line
from gavotte.vocabulary.query import SAME_TONES, Query, plain_context

_SAME_TIME = 0.01
"""How far two times may lie apart, in quarter notes, that are the same."""


@dataclass(frozen=True, slots=True)
class Hit:
    """A place that answers: the indexes of its first and last note, and why, in words."""

    first: int
    last: int
    why: str


@dataclass(frozen=True, slots=True)
class Found:
    """A place that answers, by the rows of its first and last note in a corpus; ``marked`` are those that say why."""

    first: int
    last: int
    marked: tuple[int, ...]


def find(found: Labelled, query: Query) -> tuple[Hit, ...]:
    """The places of a solo that answer a query, in order; of those that share notes the first."""
    corpus = Corpus([labelled_line(found)])
    place = corpus.place
    return tuple(
        Hit(int(place[hit.first]), int(place[hit.last]), why(corpus, hit, found.frame.school.naming))
        for hit in find_in(corpus, query)
    )


def find_in(corpus: Corpus, query: Query) -> Iterator[Found]:
    """The places of many lines that answer a query, in order; of those that share notes the first."""
    last = -1
    for hit in _Search(corpus, query, False).hits():
        if hit.first > last:
            yield hit
            last = hit.last


def find_licks(corpus: Corpus, query: Query) -> Iterator[Found]:
    """The lines that answer a query, each by its first place that does; where whole stretches are asked for, a line is
    one, whatever rests are in it.
    """
    search = _Search(corpus, query, True)
    line = -1
    for hit in search.hits(first_of_each=True):
        if (here := int(corpus.line_of[hit.first])) != line:
            yield hit
            line = here


def why(corpus: Corpus, hit: Found, naming: DegreeNaming = USUAL_NAMING) -> str:
    """What a place has: its degrees, what it does, and over which chords."""
    rows = range(hit.first, hit.last + 1)
    degrees = [shown_degree(DEGREES[corpus.degree[row]], naming) if corpus.degree[row] >= 0 else "?" for row in rows]
    if len(degrees) > _MOST_TOLD:
        degrees = [*degrees[: _MOST_TOLD - 1], "…"]
    done = dict.fromkeys(DEVICE_NAMES[corpus.device[row]] for row in hit.marked)
    chords = dict.fromkeys(corpus.chords[corpus.chord[row]] for row in rows)
    over = [words for symbol, words, _ in chords if symbol]
    if len(over) > _MOST_CHORDS:
        over = [*over[: _MOST_CHORDS - 1], "…"]
    return ", ".join(filter(None, (" ".join(degrees), *done, f"over {' '.join(over)}" if over else "")))


_MOST_TOLD, _MOST_CHORDS = 16, 8


class _Search:
    def __init__(self, corpus: Corpus, query: Query, whole: bool) -> None:
        self.corpus, self.query, self.whole = corpus, query, whole

    def hits(self, first_of_each: bool = False) -> Iterator[Found]:
        """Every place that answers, by its first note; with ``first_of_each`` one of each line is enough."""
        query = self.query
        if not len(self.corpus):
            return
        if query.is_row:
            stretches = self._rows()
        elif query.is_figure:
            stretches = self._figures()
        elif query.is_whole:
            stretches = self._stretches()
        else:
            rows = np.arange(len(self.corpus))
            stretches = rows, rows
        firsts, lasts = stretches
        kept = self._harmony(firsts) & self._ends(firsts, lasts) & self._sizes(firsts, lasts)
        kept &= self._contexts(firsts, lasts) & self._functions(firsts, lasts)
        firsts, lasts = firsts[kept], lasts[kept]
        if first_of_each and len(firsts):
            _, heads = np.unique(self.corpus.line_of[firsts], return_index=True)
            firsts, lasts = firsts[heads], lasts[heads]
        asked = np.flatnonzero(self._asked)
        marked = asked.tolist()
        starts, stops = np.searchsorted(asked, firsts).tolist(), np.searchsorted(asked, lasts, "right").tolist()
        for first, last, start, stop in zip(firsts.tolist(), lasts.tolist(), starts, stops, strict=True):
            give_way()
            yield Found(first, last, tuple(marked[start:stop]))

    # -- stretches ----------------------------------------------------------------------------------

    def _rows(self) -> _Stretches:
        """Where the rows asked for stand, without a rest between."""
        query, corpus, size = self.query, self.corpus, self.query.size
        firsts = np.arange(max(0, len(corpus) - size + 1))
        fits = corpus.parted[firsts + size - 1] == corpus.parted[firsts]
        for k, degree in enumerate(query.degrees):
            fits &= _same_degree(degree)[corpus.degree[firsts + k]]
        for k, name in enumerate(query.pitches):
            fits &= corpus.pitch[firsts + k] % 12 == name.pitch_class
        pitch = corpus.pitch.astype(np.int32)
        for k, move in enumerate(query.moves):
            fits &= pitch[firsts + k + 1] - pitch[firsts + k] == move
        for k, way in enumerate(query.ways):
            fits &= np.sign(pitch[firsts + k + 1] - pitch[firsts + k]) == way
        for k, value in enumerate(query.rhythm):
            # Of the last note its own value counts, not when the next one comes.
            if not value:
                continue
            times = corpus.gap if k < size - 1 else corpus.length
            fits &= np.abs(times[firsts + k] - float(value)) < _SAME_TIME
        firsts = firsts[fits]
        return firsts, firsts + size - 1

    def _figures(self) -> _Stretches:
        """The figures, and the notes by themselves, of which a note does what is asked for; each with its goal."""
        corpus = self.corpus
        heads = np.where(corpus.figure < 0, np.arange(len(corpus)), corpus.figure)
        firsts = np.unique(heads[self._asked])
        lasts = corpus.figure_end[firsts]
        goals = corpus.target[lasts]
        return firsts, np.where(goals > lasts, goals, lasts)

    def _stretches(self) -> _Stretches:
        """Whole lines, or phrases."""
        if self.whole:
            firsts, lasts = self.corpus.firsts[:-1], self.corpus.firsts[1:] - 1
            there = lasts >= firsts
            return firsts[there], lasts[there]
        if self.query.context:
            return self._in_context()
        firsts = np.nonzero(self.corpus.begins)[0]
        return firsts, np.append(firsts[1:] - 1, len(self.corpus) - 1)

    def _in_context(self) -> _Stretches:
        """What is played over each place that has the context, from its first note to its last."""
        wanted = plain_context(self.query.context)
        tokens = [_wanted_contexts(name, wanted) for name in self.corpus.contexts]
        numbers: dict[str, int] = {"": 0}
        code = np.array([numbers.setdefault(token, len(numbers)) for token in tokens], dtype=np.int64)
        here = code[self.corpus.context] + len(numbers) * self.corpus.line_of
        edges = np.nonzero(np.diff(here))[0] + 1
        firsts = np.concatenate([[0], edges])
        lasts = np.concatenate([edges - 1, [len(here) - 1]])
        there = here[firsts] % len(numbers) != 0
        # Most of what is played over a context belongs to it from end to end.
        begins = np.concatenate([[0], np.cumsum(self.corpus.begins)])
        parted = there & (begins[lasts + 1] > begins[np.minimum(firsts + 1, len(here))])
        whole = there & ~parted
        parts = [self._as_phrased(*edge) for edge in zip(firsts[parted].tolist(), lasts[parted].tolist(), strict=True)]
        starts = np.array([*firsts[whole].tolist(), *(a for a, _ in parts)], dtype=np.int64)
        ends = np.array([*lasts[whole].tolist(), *(b for _, b in parts)], dtype=np.int64)
        order = np.argsort(starts, kind="stable")
        return starts[order], ends[order]

    def _as_phrased(self, first: int, last: int) -> tuple[int, int]:
        """A stretch without what belongs to the phrase before it over its first chord, and to the one behind it over
        its last.
        """
        chord = self.corpus.chord
        starts = (np.nonzero(self.corpus.begins[first + 1 : last + 1])[0] + first + 1).tolist()
        before = [start for start in starts if (chord[first : start + 1] == chord[first]).all()]
        behind = [start for start in starts if (chord[start : last + 1] == chord[last]).all()]
        first = max([first, *before])
        return first, min([last, *(start - 1 for start in behind if start > first)])

    # -- what must hold of a stretch ----------------------------------------------------------------

    def _ends(self, firsts: NDArray[np.int64], lasts: NDArray[np.int64]) -> NDArray[np.bool_]:
        query, degree = self.query, self.corpus.degree
        fits = np.ones(len(firsts), dtype=bool)
        if query.first:
            fits &= _same_degree(query.first)[degree[firsts]]
        if query.last:
            fits &= _same_degree(query.last)[degree[lasts]]
        if query.highest:
            fits[fits] &= self._highest(firsts[fits], lasts[fits])
        return fits

    def _highest(self, firsts: NDArray[np.int64], lasts: NDArray[np.int64]) -> NDArray[np.bool_]:
        wanted = _same_degree(self.query.highest)
        fits = np.zeros(len(firsts), dtype=bool)
        for k, (first, last) in enumerate(zip(firsts.tolist(), lasts.tolist(), strict=True)):
            top = first + int(np.argmax(self.corpus.pitch[first : last + 1]))
            fits[k] = wanted[self.corpus.degree[top]]
        return fits

    def _sizes(self, firsts: NDArray[np.int64], lasts: NDArray[np.int64]) -> NDArray[np.bool_]:
        query, corpus = self.query, self.corpus
        fits = np.ones(len(firsts), dtype=bool)
        if any(query.notes):
            counts = lasts - firsts + 1
            fits &= (counts >= query.notes[0]) & (counts <= query.notes[1])
        if any(query.bars):
            length = corpus.onset[lasts] + corpus.length[lasts] - corpus.onset[firsts]
            # A last note on the first beat of another bar is where the line lands, and makes it no bar longer.
            bars = np.maximum(1, np.ceil((length - 1.0) / corpus.bar[firsts]))
            fits &= (bars >= query.bars[0]) & (bars <= query.bars[1])
        return fits

    def _contexts(self, firsts: NDArray[np.int64], lasts: NDArray[np.int64]) -> NDArray[np.bool_]:
        if not self.query.context:
            return np.ones(len(firsts), dtype=bool)
        wanted = plain_context(self.query.context)
        has = np.array([bool(_wanted_contexts(name, wanted)) for name in self.corpus.contexts], dtype=bool)
        # More than half of the notes are in it.
        inside = np.concatenate([[0], np.cumsum(has[self.corpus.context])])
        mostly: NDArray[np.bool_] = 2 * (inside[lasts + 1] - inside[firsts]) > lasts - firsts + 1
        return mostly

    def _harmony(self, firsts: NDArray[np.int64]) -> NDArray[np.bool_]:
        """Whether the chord under the first note is the one that is asked for."""
        query, corpus = self.query, self.corpus
        fits = np.ones(len(firsts), dtype=bool)
        if query.kind:
            fits &= corpus.quality[firsts] == QUALITIES.index(query.kind)
        if query.numeral or query.chord is not None:
            wanted = query.numeral.rstrip("7")
            chord = "" if query.chord is None else write_chord_symbol(query.chord)
            answers = [
                bool(symbol)
                and (not wanted or numeral.replace("♭", "b").replace("♯", "#").rstrip("7") == wanted)
                and (not chord or symbol == chord)
                for symbol, _, numeral in corpus.chords
            ]
            fits &= np.array(answers, dtype=bool)[corpus.chord[firsts]]
        return fits

    # -- functions and devices ----------------------------------------------------------------------

    @cached_property
    def _kinds(self) -> list[NDArray[np.bool_]]:
        """For each function and kind of device asked for, which notes have it."""
        functions = [self.corpus.function == FUNCTIONS.index(function) for function in self.query.functions]
        devices = [
            np.isin(self.corpus.device, [DEVICE_NAMES.index(device) for device in kind]) for kind in self.query.devices
        ]
        return [*functions, *devices]

    @cached_property
    def _asked(self) -> NDArray[np.bool_]:
        """Which notes do any of what is asked for."""
        asked = np.zeros(len(self.corpus), dtype=bool)
        for kind in self._kinds:
            asked |= kind
        return asked

    def _functions(self, firsts: NDArray[np.int64], lasts: NDArray[np.int64]) -> NDArray[np.bool_]:
        """Whether a stretch has notes that do all of what is asked for, and lead where they should."""
        fits = np.ones(len(firsts), dtype=bool)
        wanted = list(self._kinds)
        if self.query.target and wanted:
            leads = self.corpus.target >= 0
            goals = self.corpus.degree[np.where(leads, self.corpus.target, 0)]
            wanted.append(self._asked & leads & _same_degree(self.query.target)[goals])
        for kind in wanted:
            before = np.concatenate([[0], np.cumsum(kind)])
            fits &= before[lasts + 1] > before[firsts]
        return fits


def _wanted_contexts(contexts: str, wanted: str) -> str:
    """Those of a note's contexts, with when they begin, that are asked for; "" for none."""
    found = [part for part in contexts.split("; ") if part and wanted in plain_context(part.partition("@")[0])]
    return "; ".join(found[:1])


_Stretches = tuple[NDArray[np.int64], NDArray[np.int64]]
"""The rows of the first notes, and of the last ones."""


@lru_cache(64)
def _same_degree(wanted: str) -> NDArray[np.bool_]:
    """For each degree whether it is the wanted one, by this or another name; the last entry, of none, is False."""
    tone = [wanted, *(name for pair in SAME_TONES if wanted in pair for name in pair)]
    plain = {"2": "9", "4": "11", "6": "13"}
    answers = [degree in tone or plain.get(degree, degree) in tone for degree in DEGREE_SEMITONES]
    return np.array([*answers, False])
