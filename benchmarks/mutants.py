"""Files damaged at random, by the thousand: .venv/bin/python benchmarks/mutants.py [ROUNDS [KIND …]]

For each kind of file how many mutants were read and how many refused with a message, the longest one took, and whatever
else came of them: there must be nothing.
"""

from __future__ import annotations

import logging
import sys
import tempfile
import time
import traceback
from collections import Counter
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[1]))

from tests.mutants import KINDS

_FIRST = 100_000
"""Other seeds than those of the tests."""


def main() -> None:
    """Print a row for each kind."""
    logging.getLogger("gavotte").setLevel(logging.CRITICAL)
    rounds = int(sys.argv[1]) if len(sys.argv) > 1 else 1000
    for kind in sys.argv[2:] or KINDS:
        outcomes: Counter[str] = Counter()
        longest = 0.0
        for seed in range(_FIRST, _FIRST + rounds):
            if seed % 100 == 0:
                folder = tempfile.TemporaryDirectory()
            begun = time.perf_counter()
            try:
                outcomes[KINDS[kind](seed, Path(folder.name))] += 1
            except Exception as error:
                outcomes["neither"] += 1
                place = traceback.extract_tb(error.__traceback__)[-1]
                print(f"  {seed}: {error!r:.100} in {Path(place.filename).name}:{place.lineno}")
            longest = max(longest, time.perf_counter() - begun)
        told = ", ".join(f"{number} {outcome}" for outcome, number in sorted(outcomes.items()))
        print(f"{kind}: {rounds} mutants: {told}; the longest took {longest:.2f} s", flush=True)


if __name__ == "__main__":
    main()
