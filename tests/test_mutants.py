"""Every kind of file, damaged in hundreds of ways, gives a solo or a message."""

from __future__ import annotations

from collections import Counter
from pathlib import Path

import pytest
from tests.mutants import KINDS, READ, REFUSED

ROUNDS, PARTS = 200, 2


@pytest.mark.slow
@pytest.mark.parametrize("part", range(PARTS))
@pytest.mark.parametrize("kind", KINDS)
def test_whatever_is_damaged_is_read_or_refused(kind: str, part: int, tmp_path: Path) -> None:
    outcomes = Counter(KINDS[kind](seed, tmp_path) for seed in range(part, ROUNDS, PARTS))
    assert outcomes[READ] > 10, "the damage goes through the reader, not past it"
    assert outcomes[READ] + outcomes[REFUSED] == ROUNDS // PARTS
