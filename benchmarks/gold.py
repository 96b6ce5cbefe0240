"""Measure the labeller on labelled passages: ``python benchmarks/gold.py passages.json [-v]``."""

from __future__ import annotations

import sys
from pathlib import Path
from typing import Any

from gavotte.formats.passage import label_members, read_passages
from gavotte.labelling.labeller import label_solo


def measure(path: Path, verbose: bool = False) -> dict[str, tuple[int, int]]:
    """Right and total counts of each figure; with ``verbose`` every difference is printed."""
    counts = {name: [0, 0] for name in ("function", "device", "function*", "device*", "target", "degree")}

    def count(name: str, right: bool) -> None:
        counts[name][0] += right
        counts[name][1] += 1

    for passage in read_passages(path.read_text(encoding="utf-8")):
        notes = passage.solo.notes
        ours = label_members(label_solo(passage.solo), notes)
        for i, (mine, gold) in enumerate(zip(ours, passage.source["labels"], strict=True)):
            function = mine["function"] == gold["function"]
            device = function and mine["device"] == gold["device"]
            count("function", function)
            count("device", device)
            count("degree", mine["degree"] == gold["degree"])
            if (gold["function"], gold["device"]) != ("chord", "plain"):
                count("function*", function)
                count("device*", device)
            if gold["function"] in ("passing", "approach"):
                count("target", mine["target"] == gold["target"])
            if verbose and (
                not device
                or mine["degree"] != gold["degree"]
                or (gold["target"] is not None and mine["target"] != gold["target"])
            ):
                print(passage.id, i, notes[i].pitch, notes[i].onset, "| ours:", _short(mine), "| gold:", _short(gold))
    return {name: (right, total) for name, (right, total) in counts.items()}


def _short(label: dict[str, Any]) -> str:
    return f"{label['degree']} {label['function']}/{label['device']} ->{label['target']}"


if __name__ == "__main__":
    for name, (right, total) in measure(Path(sys.argv[1]), "-v" in sys.argv).items():
        print(f"{name:10} {right:4}/{total:<4} {100 * right / total:.1f} %")
