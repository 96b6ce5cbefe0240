"""Variants of licks looked for among others: ``PYTHONPATH=. python benchmarks/relatives.py [OTHERS]``.

The licks are the phrases of the lines composed for phrases (see ``tests/phrasing/marked_lines.py``); the costs were
set on those of the first two sets, the figures are of the others. Of each a script makes six variants: transposed,
ornamented, in another rhythm, partly in another octave, displaced, cut. They lie among as many phrases of other lines
as is asked for, which a script makes over the same kinds of changes. For each way to compare, how many of the
variants are among the ten nearest, and how far up the first one is.
"""

from __future__ import annotations

import itertools
import random
import resource
import sys
import time
from collections import Counter
from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace
from fractions import Fraction

from tests.phrasing.marked_lines import FIRST, FOURTH, SECOND, THIRD, Line, marked

from gavotte.labelling.labeller import labelled
from gavotte.phrasing.phrases import phrases_of
from gavotte.solo.document import ChordEvent, KeyRegion, Note, Solo
from gavotte.solo.moving import excerpt, transposed
from gavotte.theory.interval import Interval
from gavotte.theory.key import Key
from gavotte.theory.pitch import spell
from gavotte.vocabulary.alignment import Nearest
from gavotte.vocabulary.corpus import Corpus, LabelledLine, labelled_line

_FEWEST, _TEN, _EIGHTH = 6, 10, Fraction(1, 2)
KINDS = ("transposed", "ornamented", "rhythm", "octave", "displaced", "cut")
PAIRS = (
    "ornamented octave",
    "octave rhythm",
    "ornamented rhythm",
    "ornamented transposed",
    "cut octave",
    "cut ornamented",
)
"""Two changes at once."""
_BY = ((1, 1), (1, 2), (2, 3), (3, 5), (4, 7), (-1, -2))
"""Letters and semitones to transpose by."""


TUNED_ON, APART = (*FIRST, *SECOND), (*THIRD, *FOURTH)
"""The lines whose phrases the costs were set on, and those that they were not."""


def licks(lines: Sequence[Line]) -> Iterator[Solo]:
    """The phrases of composed lines that have six notes and more."""
    for line in lines:
        solo = marked(line).solo
        for phrase in phrases_of(solo, labelled(solo).labels):
            if phrase.last - phrase.first + 1 >= _FEWEST:
                yield excerpt(solo, solo.notes[phrase.first].id, solo.notes[phrase.last].id)


def varied(lick: Solo, kind: str, chance: random.Random) -> Solo:
    """A variant of a lick; of several kinds at once, with spaces between."""
    for one in kind.split():
        lick = _varied(lick, one, chance)
    return lick


def _varied(lick: Solo, kind: str, chance: random.Random) -> Solo:
    notes = list(lick.notes)
    inside = chance.randrange(1, len(notes) - 1)
    if kind == "transposed":
        return transposed(lick, Interval(*chance.choice(_BY)))
    if kind == "ornamented":
        return replace(lick, notes=tuple(_ornamented(notes, chance)))
    if kind == "rhythm":
        return replace(lick, notes=tuple(_in_other_rhythm(notes, chance)))
    if kind == "octave":
        by = chance.choice((-1, 1))
        moved = [replace(n, pitch=replace(n.pitch, octave=n.pitch.octave + by)) for n in notes[inside:]]
        return replace(lick, notes=(*notes[:inside], *moved))
    if kind == "displaced":
        by = chance.choice((_EIGHTH, Fraction(1), -_EIGHTH))
        later = [replace(n, onset=n.onset + by) for n in notes]
        return replace(lick, notes=tuple(n for n in later if n.onset >= 0))
    keep = max(4, (2 * len(notes)) // 3)
    return replace(lick, notes=tuple(notes[:keep] if chance.random() < 0.5 else notes[-keep:]))


def _ornamented(notes: Sequence[Note], chance: random.Random) -> list[Note]:
    """Before one note or two an approach from a half step takes half of the time of the note before."""
    result = list(notes)
    for name in range(chance.choice((1, 2))):
        k = chance.randrange(1, len(result))
        before, goal = result[k - 1], result[k]
        half = (goal.onset - before.onset) / 2
        if half <= 0:
            continue
        approach = spell(goal.pitch.midi + chance.choice((-1, 1)), 0)
        first = replace(before, duration=min(before.duration, half))
        result[k - 1 : k] = [first, Note(f"added{name}", before.onset + half, half, approach)]
    return result


def _in_other_rhythm(notes: Sequence[Note], chance: random.Random) -> list[Note]:
    """Twice or half the values, or long and short in turn."""
    start = notes[0].onset
    way = chance.choice(("twice", "half", "uneven"))
    if way == "uneven":
        return [
            replace(n, onset=n.onset + Fraction(1, 4), duration=max(n.duration - Fraction(1, 4), Fraction(1, 8)))
            if k % 2
            else n
            for k, n in enumerate(notes)
        ]
    by = Fraction(2) if way == "twice" else Fraction(1, 2)
    return [replace(n, onset=start + (n.onset - start) * by, duration=n.duration * by) for n in notes]


_CHANGES = (
    ("Dm7", "G7", "Cmaj7", "Cmaj7"), ("Am7", "D7", "Gmaj7", "E7"), ("Em7b5", "A7b9", "Dm6", "Dm6"),
    ("F7", "Bb7", "F7", "F7"), ("Bbmaj7", "G7", "Cm7", "F7"), ("Ebm7", "Ab7", "Dbmaj7", "Bb7"),
)  # fmt: skip


def other(seed: int) -> Solo:
    """A phrase made by chance that lands on chord tones at the changes and walks through the key between."""
    chance = random.Random(seed)
    changes = chance.choice(_CHANGES)
    chords = tuple(ChordEvent(f"c{k}", Fraction(4 * k), symbol) for k, symbol in enumerate(changes))
    key = Key.parse(chance.choice(["C major", "F major", "Bb major", "G major"]))
    scale = (0, 2, 4, 5, 7, 9, 11)
    step, notes, at = chance.randrange(33, 40), [], Fraction(chance.choice((0, 1, 2)), 2)
    for number in range(chance.randint(_FEWEST, 18)):
        step = min(44, max(28, step + chance.choice((-3, -2, -1, -1, 1, 1, 2, 3))))
        octave, degree = divmod(step, 7)
        midi = 12 * octave + scale[degree] + key.tonic.pitch_class + chance.choices((0, 1, -1), (86, 7, 7))[0]
        length = chance.choices((_EIGHTH, Fraction(1), Fraction(1, 3)), (80, 14, 6))[0]
        notes.append(Note(f"n{number}", at, length, spell(midi, 0)))
        at += length
    return Solo("", keys=(KeyRegion(Fraction(0), key),), chords=chords, notes=tuple(notes))


Rank = Callable[[int], list[int]]
"""For a lick all others by number, the nearest first."""


def by_alignment(corpus: Corpus, asked: Sequence[LabelledLine]) -> Rank:
    """Our own way."""
    nearest = Nearest(corpus)

    def rank(number: int) -> list[int]:
        near = nearest.to(asked[number], 12, least=0.0)
        return list(dict.fromkeys(int(corpus.line_of[place.first]) for place in near))

    return rank


def _moves(line: LabelledLine) -> list[int]:
    pitch = line.notes["pitch"].astype(int)
    return [int(b - a) for a, b in itertools.pairwise(pitch)]


def by_ngrams(corpus: Corpus, asked: Sequence[LabelledLine]) -> Rank:
    """The plain way: shared runs of three moves in semitones."""

    def grams(line: LabelledLine) -> Counter[tuple[int, ...]]:
        moves = _moves(line)
        return Counter(tuple(moves[k : k + 3]) for k in range(len(moves) - 2))

    all_grams = [grams(line) for line in corpus.lines]

    def rank(number: int) -> list[int]:
        own = grams(asked[number])

        def unlike(other_grams: Counter[tuple[int, ...]]) -> float:
            return -(own & other_grams).total() / max(1, (own | other_grams).total())

        return sorted(range(len(all_grams)), key=lambda k: unlike(all_grams[k]))[:_TEN]

    return rank


def by_edits(corpus: Corpus, asked: Sequence[LabelledLine]) -> Rank:
    """The plain way: the fewest moves that are to be changed, added or left out."""
    rows = [_moves(line) for line in corpus.lines]

    def rank(number: int) -> list[int]:
        own = _moves(asked[number])
        return sorted(range(len(rows)), key=lambda k: _edits(own, rows[k]) / max(len(own), len(rows[k])))[:_TEN]

    return rank


def _edits(first: Sequence[int], second: Sequence[int]) -> int:
    before = list(range(len(second) + 1))
    for k, a in enumerate(first, 1):
        here = [k]
        for j, b in enumerate(second, 1):
            here.append(min(before[j] + 1, here[-1] + 1, before[j - 1] + (a != b)))
        before = here
    return before[-1]


def main() -> None:
    """Print the figures."""
    others = int(sys.argv[1]) if len(sys.argv) > 1 else 2000
    originals = list(licks(APART))
    asked = [labelled_line(labelled(lick)) for lick in originals]
    beside = [labelled_line(labelled(other(seed))) for seed in range(min(others, 2000))]
    for title, kinds in (("one change", KINDS), ("two changes at once", PAIRS)):
        measure(title, kinds, originals, asked, beside, others)
    print(f"{resource.getrusage(resource.RUSAGE_SELF).ru_maxrss // 1024} MB")


def measure(
    title: str,
    kinds: Sequence[str],
    originals: Sequence[Solo],
    asked: Sequence[LabelledLine],
    beside: Sequence[LabelledLine],
    others: int,
) -> None:
    """Print how well variants of some kinds are found among other lines."""
    chance = random.Random(7)
    made, kind_of = [], {}
    for number, lick in enumerate(originals):
        for kind in kinds:
            kind_of[len(made)] = (number, kind)
            made.append(labelled_line(labelled(varied(lick, kind, chance))))
    made += [beside[k % len(beside)] for k in range(max(0, others - len(made)))]
    corpus = Corpus(made)
    print(f"{title}: {len(originals)} licks, {len(kind_of)} variants among {len(made)} lines ({len(corpus)} notes)")
    for name, way in (("alignment", by_alignment), ("three moves", by_ngrams), ("edits", by_edits)):
        rank = way(corpus, asked)
        found, up = Counter(), 0.0  # type: ignore[var-annotated]
        begun = time.perf_counter()
        for number in range(len(asked)):
            places = rank(number)
            here = [k for k in places[:_TEN] if kind_of.get(k, (None, ""))[0] == number]
            found.update(kind_of[k][1] for k in here)
            up += 1 / (1 + places.index(here[0])) if here else 0.0
        took = (time.perf_counter() - begun) / len(asked)
        recall = sum(found.values()) / len(kind_of)
        each = ", ".join(f"{kind} {found[kind] / len(asked):.2f}" for kind in kinds)
        print(f"  {name:12} recall@10 {recall:.3f}, MRR {up / len(asked):.3f}, {1000 * took:.0f} ms ({each})")


if __name__ == "__main__":
    main()
