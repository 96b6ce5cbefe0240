"""A label is less sure where the note could well be heard otherwise."""

from __future__ import annotations

import pytest
from tests.conftest import make_solo
from tests.labelling.ambiguities import PLANTED, Planted

from gavotte.labelling.labeller import label_solo


@pytest.mark.parametrize("planted", PLANTED, ids=[planted.name for planted in PLANTED])
def test_a_planted_ambiguity_makes_a_label_less_sure(planted: Planted) -> None:
    clear = label_solo(make_solo(planted.clear, **planted.setting))[planted.sure]
    ambiguous = label_solo(make_solo(planted.ambiguous, **planted.setting))[planted.doubtful]
    for label in (clear, ambiguous):
        assert f"{label.function}/{label.device}".startswith(planted.label)
    assert ambiguous.confidence <= clear.confidence - 0.04
