"""Long computations can be made to wait or to stop."""

from __future__ import annotations

import pytest
from tests.conftest import make_solo

from gavotte.giving_way import give_way, giving_way
from gavotte.labelling.labeller import labelled
from gavotte.labelling.slips import suspected_slips
from gavotte.writing.checks import writing_checks

SOLO = make_solo([("Dm7", "D5/8 E5 F5 G5 A5/4 F#5/4"), ("G7", "B4/4 Db5 F5 Ab5")] * 4)


class StopError(Exception):
    """Nobody wants it any more."""


def stop() -> None:
    """StopError what is being worked out."""
    raise StopError


def test_what_is_worked_out_beside_something_stops_when_it_is_told_to() -> None:
    found = labelled(SOLO)
    for compute in (lambda: labelled(SOLO), lambda: suspected_slips(found), lambda: writing_checks(SOLO)):
        with giving_way(stop), pytest.raises(StopError):
            compute()


def test_it_gives_way_at_every_note_and_says_the_same() -> None:
    times: list[None] = []
    with giving_way(lambda: times.append(None)):
        found = labelled(SOLO)
    assert len(times) > len(SOLO.notes)
    assert found.labels == labelled(SOLO).labels


def test_outside_and_after_an_error_nothing_gives_way() -> None:
    with pytest.raises(StopError), giving_way(stop):
        give_way()
    give_way()


def test_within_another_the_inner_way_counts_and_then_the_outer_again() -> None:
    told: list[str] = []
    with giving_way(lambda: told.append("outer")):
        with giving_way(lambda: told.append("inner")):
            give_way()
        give_way()
    assert told == ["inner", "outer"]
