from __future__ import annotations

import numpy as np
import pytest
from tests.conftest import make_solo, whole
from tests.recording.test_draft import recording, tone

from gavotte.recording.beat_map import Alignment, BeatMap
from gavotte.recording.draft import Player, find_draft
from gavotte.solo.bars import BarGrid
from gavotte.writing.expecting import expected_by_chords


def test_tones_of_the_chord_are_likelier_and_those_outside_its_scale_less_likely() -> None:
    solo = make_solo([("Cmaj7", "r/1"), ("Ab7", "r/1")])
    way = Alignment(BeatMap(tuple(1 + 0.5 * k for k in range(9))), BarGrid(solo))
    odds = expected_by_chords(solo, way)(np.array([0.2, 1.5, 3.5]), np.arange(60, 72))
    assert not odds[0].any(), "before the first chord nothing is expected"
    assert [odds[1][pitch] > 0 for pitch in (0, 4, 7, 11, 1, 6)] == [True] * 4 + [False] * 2
    assert odds[1][9] == 0
    assert odds[1][1] < 0
    assert odds[2][8] > 0 > odds[2][11]


def test_what_is_expected_does_not_move_what_is_clearly_heard() -> None:
    scale = (61, 63, 66, 68)
    sound = recording(*(tone(midi, 0.3) for midi in scale))
    solo = make_solo([("Cmaj7", "r/1")])
    way = Alignment(BeatMap(tuple(0.5 + 0.5 * k for k in range(5))), BarGrid(solo))
    draft = whole(find_draft(sound, Player(50, 84), expected=expected_by_chords(solo, way)))
    assert [note.midi for note in draft.notes] == list(scale)
    assert all(note.start == pytest.approx(0.5 + 0.3 * k, abs=0.05) for k, note in enumerate(draft.notes))
