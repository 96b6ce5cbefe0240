"""The labeller measured on passages labelled by hand; the counts are those of ``benchmarks/gold.py``."""

from __future__ import annotations

import pytest
from tests.conftest import DATA

from gavotte.formats.passage import label_members, read_passages
from gavotte.labelling.labeller import label_solo

PASSAGES = read_passages((DATA / "passages.json").read_text(encoding="utf-8"))


def shares() -> dict[str, float]:
    right = dict.fromkeys(("function", "device", "degree", "target"), 0)
    total = dict.fromkeys(right, 0)
    for passage in PASSAGES:
        ours = label_members(label_solo(passage.solo), passage.solo.notes)
        for mine, gold in zip(ours, passage.source["labels"], strict=True):
            same = mine["function"] == gold["function"]
            for name, agrees in (
                ("function", same),
                ("device", same and mine["device"] == gold["device"]),
                ("degree", mine["degree"] == gold["degree"]),
            ):
                right[name] += agrees
                total[name] += 1
            if gold["function"] in ("passing", "approach"):
                right["target"] += mine["target"] == gold["target"]
                total["target"] += 1
    return {name: right[name] / total[name] for name in right}


def test_agreement_with_the_labelled_passages() -> None:
    found = shares()
    assert found["function"] >= 0.985
    assert found["device"] >= 0.97
    assert found["target"] >= 0.97
    assert found["degree"] == 1.0


@pytest.mark.parametrize("passage", PASSAGES, ids=lambda passage: passage.id)
def test_labels_are_complete_and_hang_together(passage: object) -> None:
    solo = passage.solo  # type: ignore[attr-defined]
    labels = label_solo(solo)
    ids = {note.id for note in solo.notes}
    for label in labels:
        assert 0 < label.confidence <= 1
        assert label.reason.endswith(".")
        assert label.target is None or label.target in ids - {label.note}
        assert (label.target is not None) == (label.function in ("passing", "approach") or label.device == "carried")
        assert all((a.function, a.device) != (label.function, label.device) for a in label.alternatives)
        assert 0 <= label.tension <= 1
        assert label.tension == 0 or label.device not in ("plain", "anticipation")
