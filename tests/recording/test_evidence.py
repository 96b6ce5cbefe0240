from __future__ import annotations

import numpy as np
import pytest
from tests.recording.test_salience import seen, stereo, voice

from gavotte.recording.evidence import CANDIDATES, CERTAIN, weigh
from gavotte.recording.player import RATE


def test_the_pitch_that_sounds_wins_over_neighbours_and_octaves() -> None:
    picture = seen(stereo(voice(np.full(RATE, 70.0))))
    for written in (69, 70, 71):
        found = weigh(picture, 0.3, 0.6, written)
        assert next(candidate.midi for candidate in found) == 70
        assert found[0].share > CERTAIN
        assert sum(candidate.share for candidate in found) == pytest.approx(1)
        assert sorted(candidate.midi for candidate in found) == sorted(written + step for step in CANDIDATES)


def test_two_pitches_at_once_are_not_certain() -> None:
    length = np.ones(RATE)
    found = weigh(seen(stereo(voice(length * 70) + voice(length * 71))), 0.3, 0.6, 70)
    assert {found[0].midi, found[1].midi} == {70, 71}
    assert found[0].share < CERTAIN


def test_a_sharp_recording_is_weighed_in_its_own_tuning() -> None:
    picture = seen(stereo(voice(np.full(RATE, 70.45))))
    assert weigh(picture, 0.3, 0.6, 70, cents=-45)[0].midi == 70
    assert weigh(picture, 0.3, 0.6, 70, cents=-45)[0].share > weigh(picture, 0.3, 0.6, 70)[0].share


def test_where_nothing_sounds_nothing_is_preferred() -> None:
    silent = seen(np.zeros((RATE, 2), np.int16))
    assert [round(candidate.share, 3) for candidate in weigh(silent, 0.2, 0.5, 60)] == [round(1 / 7, 3)] * 7
    assert weigh(silent, 30.0, 31.0, 60) == ()
    assert len(weigh(silent, 0.2, 0.5, 37)) < len(CANDIDATES), "no candidates outside the picture"
