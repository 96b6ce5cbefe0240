"""Labels where the key is not told, or told wrongly: ``PYTHONPATH=. python benchmarks/keyless.py passages.json``.

The passages and the composed lines with their own keys, and with each of some signatures in their place and nothing
said of modes or the blues: how many of the notes that are not plain chord tones keep their function.
"""

from __future__ import annotations

import sys
from collections.abc import Iterator
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

from tests.labelling.lines import BY_RULE, LABELLED_BEFORE, expected_of, solo_of

from gavotte.formats.passage import read_passages
from gavotte.labelling.labeller import label_solo
from gavotte.solo.document import KeyRegion, Solo
from gavotte.theory.key import Key

SIGNATURES = ("", "C major", "A minor", "Eb major", "E minor", "F# major")
Case = tuple[Solo, list[str]]
"""A solo and what its notes should be called."""


def passages(path: Path) -> Iterator[Case]:
    """The labelled passages."""
    for passage in read_passages(path.read_text(encoding="utf-8")):
        yield passage.solo, [f"{label['function']}/{label['device']}" for label in passage.source["labels"]]


def composed() -> Iterator[Case]:
    """The lines that were labelled before the program saw them."""
    for line in [*LABELLED_BEFORE, *BY_RULE]:
        yield solo_of(line), [expected.label for expected in expected_of(line)]


def kept(cases: list[Case], signature: str) -> tuple[int, int]:
    """Notes other than plain chord tones whose function is right, and how many there are."""
    right = total = 0
    for solo, expected in cases:
        keys = (KeyRegion(Fraction(0), Key.parse(signature)),) if signature else solo.keys
        for label, should in zip(label_solo(replace(solo, keys=keys)), expected, strict=True):
            if should != "chord/plain":
                total += 1
                right += should.startswith(f"{label.function}/")
    return right, total


def main(path: Path) -> None:
    """Print the table."""
    sets = {"passages": list(passages(path)), "composed lines": list(composed())}
    sets["… of three chords and more"] = [case for case in sets["composed lines"] if len(case[0].chords) > 2]
    for name, cases in sets.items():
        print(f"{name}: {len(cases)}")
        for signature in SIGNATURES:
            right, total = kept(cases, signature)
            print(f"  {signature or 'their own key':14} {right:4} of {total:<4} {100 * right / total:5.1f} %")


if __name__ == "__main__":
    main(Path(sys.argv[1]))
