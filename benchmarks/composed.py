"""The labeller on the lines composed for it, by device: ``PYTHONPATH=. python benchmarks/composed.py``.

The lines that were labelled before the program saw them, and those that hold one rule each, apart from those whose
labels were read after it. For every device how many notes should be called so, how many are, and how many lead where
they should.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence

from tests.labelling.lines import BY_RULE, LABELLED_BEFORE, READ_AFTER, Line, expected_of, found_in, solo_of

from gavotte.labelling.labeller import label_solo


def table(lines: Sequence[Line]) -> list[tuple[str, int, int, int, int]]:
    """For each device: its name, notes, those called so, those that should lead somewhere, and those that do."""
    counts: dict[str, Counter[str]] = {}
    for line in lines:
        solo = solo_of(line)
        for should, found in zip(expected_of(line), found_in(label_solo(solo), solo.places), strict=True):
            count = counts.setdefault(should.label, Counter())
            count["notes"] += 1
            count["right"] += should.label == found.label
            if should.target is not None:
                count["leading"] += 1
                count["led"] += should.target == found.target
    rows = [(name, c["notes"], c["right"], c["leading"], c["led"]) for name, c in sorted(counts.items())]
    return [*rows, ("all", *(sum(row[k] for row in rows) for k in range(1, 5)))]  # type: ignore[list-item]


def main() -> None:
    """Print the tables."""
    for title, lines in (
        ("labelled before the program saw them", [*LABELLED_BEFORE, *BY_RULE]),
        ("labels read after the program had given them", READ_AFTER),
    ):
        print(f"{title}: {len(lines)} lines")
        for name, notes, right, leading, led in table(lines):
            target = f"target {led} of {leading}" if leading else ""
            print(f"  {name:30} {right:4} of {notes:<5} {target}")


if __name__ == "__main__":
    main()
