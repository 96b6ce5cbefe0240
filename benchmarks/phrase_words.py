"""Every kind of sentence about phrases, once with an example: ``PYTHONPATH=. python benchmarks/phrase_words.py``.

What is said of the marked lines, and of random ones, is taken apart into clauses; names of notes and chords, degrees
and numbers are blanked, and each clause that is then another one is printed with the first place where it was said.
"""

from __future__ import annotations

import re
from collections.abc import Iterator

from tests.phrasing.marked_lines import FIRST, FOURTH, SECOND, THIRD, marked
from tests.random_solos import random_solo

from gavotte.labelling.labeller import labelled
from gavotte.phrasing.arc import compared_words
from gavotte.phrasing.arrivals import arrival_lines
from gavotte.phrasing.structure import Structure, structure_of
from gavotte.phrasing.telling import card_lines, chosen_from, chosen_words, featured_words, sentence
from gavotte.solo.document import Solo

_NAMES = re.compile(r"\b[A-G](?:[♭♯]{1,2})?(?:[mΔø°+]|sus|add|maj)*[0-9♭♯()/]*(?=[ ,.;]|$)")
_NUMBERS = re.compile(r"[♭♯°]?[0-9½⅓⅔¼¾]+(?:st|nd|rd|th)?\b|[½⅓⅔¼¾]")
_INTERVALS = re.compile(
    r"\b(an?|two) (half step|whole step|(major|minor) \w+|step|second|third|fourth|tritone|fifth|sixth|seventh|octaves?"
    r"|ninth|tenth|eleventh|twelfth|thirteenth|fourteenth)( and (an octave|a tritone|\d octaves))?"
)
_RANDOM = 60


def solos() -> Iterator[tuple[str, Solo]]:
    """The marked lines, then random ones, by name."""
    for line in (*FIRST, *SECOND, *THIRD, *FOURTH):
        made = marked(line)
        yield made.name, made.solo
    for seed in range(_RANDOM):
        yield f"random {seed}", random_solo(seed)


def clauses(structure: Structure) -> Iterator[str]:
    """What is said of a solo's phrases, motifs and parts, clause by clause."""
    found = structure.found
    for k, phrase in enumerate(structure.phrases):
        yield from re.split(
            r"; |, (?=climbs|falls|stays|leads|runs)", sentence(found, structure.cards, k, structure.recalls[k])
        )
        for heading, words in card_lines(found, structure.cards, k, structure.kept_in(phrase)):
            yield f"{heading}: {words}"
        yield from (f"Change: {words}" for _, words in arrival_lines(found, phrase))
        yield from (
            f"chosen from {chosen.collection}: {chosen_words(found, chosen)}" for chosen in chosen_from(found, phrase)
        )
    yield from (how.words for relations in structure.relations for how in relations)
    yield from structure.patterns
    yield structure.arc.climax_words
    yield featured_words(found, structure.cards)
    yield from (compared_words(structure.arc, part) for part in structure.arc.parts)


def main() -> None:
    """Print each kind of clause with an example."""
    seen: dict[str, tuple[str, str]] = {}
    for name, solo in solos():
        for clause in clauses(structure_of(labelled(solo))):
            kind = _NUMBERS.sub("#", _NAMES.sub("N", _INTERVALS.sub("I", clause)))
            if kind not in seen:
                seen[kind] = name, clause
    for kind, (name, clause) in sorted(seen.items()):
        print(f"{clause}    [{name}]" if kind else "", end="\n" if kind else "")
    print(f"{len(seen)} kinds")


if __name__ == "__main__":
    main()
