"""Whether labels are as sure as they say: ``PYTHONPATH=. python benchmarks/reliability.py passages.json``.

For each band of confidence how many notes say so, how sure they are on average, and how many are right in function and
device. Then the planted ambiguities: how sure the same label is on a clear line, and on one that is not.
"""

from __future__ import annotations

import itertools
import sys
from pathlib import Path

from tests.conftest import make_solo
from tests.labelling.ambiguities import PLANTED

from gavotte.formats.passage import label_members, read_passages
from gavotte.labelling.labeller import label_solo

BANDS = (0.0, 0.5, 0.6, 0.7, 0.8, 0.9, 0.95, 1.01)


def main(path: Path) -> None:
    """Print the table."""
    rows: list[tuple[float, bool, bool]] = []
    for passage in read_passages(path.read_text(encoding="utf-8")):
        labels = label_solo(passage.solo)
        members = label_members(labels, passage.solo.notes)
        for label, mine, gold in zip(labels, members, passage.source["labels"], strict=True):
            function = mine["function"] == gold["function"]
            rows.append((label.confidence, function, function and mine["device"] == gold["device"]))
    print("confidence     notes  mean  function right  device right")
    for low, high in itertools.pairwise(BANDS):
        band = [row for row in rows if low <= row[0] < high]
        if band:
            size = len(band)
            mean = sum(row[0] for row in band) / size
            right = [100 * sum(row[k] for row in band) / size for k in (1, 2)]
            print(f"{low:.2f} to {min(1.0, high):.2f} {size:7} {mean:6.2f} {right[0]:12.1f} % {right[1]:11.1f} %")


def planted() -> None:
    """Print how sure the label of each planted ambiguity is, clear and ambiguous."""
    sure, doubtful = [], []
    for case in PLANTED:
        sure.append(label_solo(make_solo(case.clear, **case.setting))[case.sure].confidence)
        doubtful.append(label_solo(make_solo(case.ambiguous, **case.setting))[case.doubtful].confidence)
        print(f"{case.name:60} {sure[-1]:.2f} {doubtful[-1]:.2f}")
    print(f"{'on average':60} {sum(sure) / len(sure):.2f} {sum(doubtful) / len(doubtful):.2f}")


if __name__ == "__main__":
    main(Path(sys.argv[1]))
    planted()
