"""What is played today, runs, and the log."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.conftest import make_solo

from gavotte.practice.item import Card, Kind, PracticeItem
from gavotte.practice.log import (
    LogEntry,
    as_csv,
    as_markdown,
    best_tempos,
    matching,
    minutes_by_day,
)
from gavotte.practice.plan import Answer, Planned, Why, answered, minutes_for, next_time, remembered, today, waiting
from gavotte.practice.run import RunWishes, Way, run_of
from gavotte.workshop.keys import KeyOrder

NOW = datetime(2026, 3, 2, 18, 0, tzinfo=UTC)
LICK = make_solo([("Dm7", "D4/8 F4 A4 C5 E5 D5 C5 A4"), ("G7", "B4/4 r/2.")])


def item(name: str = "Lick", keys: int = 1, goal: int = 120) -> PracticeItem:
    return PracticeItem(name, Kind.LICK, LICK, goal).with_keys(keys)


def after(
    known: PracticeItem, number: int, answers: list[Answer], start: datetime = NOW
) -> tuple[PracticeItem, datetime]:
    """The item after answers, each given when it was due; and when it is due again."""
    when, card = start, known.card(number)
    for answer in answers:
        card = answered(card, answer, when)
        when = datetime.fromisoformat(card.memory.due)
    return known.with_card(card), when


# -- memory ---------------------------------------------------------------------------------------------------


def test_what_is_played_well_comes_back_later_each_time() -> None:
    card, when, gaps = Card(0), NOW, []
    for _ in range(5):
        card = answered(card, Answer.WELL, when)
        left = next_time(card, when)
        assert left is not None
        gaps.append(left)
        when += left
    assert gaps == sorted(gaps)
    assert gaps[-1] > timedelta(days=20)


def test_the_better_it_went_the_later_it_comes_back() -> None:
    card = answered(Card(0), Answer.WELL, NOW)
    later = NOW + timedelta(days=3)
    gaps = [next_time(answered(card, answer, later), later) for answer in Answer]
    assert all(gap is not None for gap in gaps)
    assert gaps == sorted(gaps, key=lambda gap: gap or timedelta())
    assert gaps[0] is not None
    assert gaps[0] < timedelta(hours=1)


def test_what_was_never_played_is_not_remembered_and_fades_once_it_was() -> None:
    assert remembered(Card(0), NOW) is None
    card = answered(Card(0), Answer.WELL, NOW)
    shares = [remembered(card, NOW + timedelta(days=days)) for days in (0, 2, 10, 60)]
    assert shares[0] == pytest.approx(1.0)
    assert shares == sorted(shares, key=lambda share: -(share or 0))


# -- the plan -------------------------------------------------------------------------------------------------


def names(plan: tuple[Planned, ...]) -> list[tuple[int, int, Why]]:
    return [(one.item, one.number, one.why) for one in plan]


def test_new_keys_come_a_few_at_a_time() -> None:
    plan = today([item(keys=12)], NOW, 60)
    assert names(plan) == [(0, 0, Why.NEW), (0, 1, Why.NEW)]
    assert today([item(keys=12)], NOW, 60, played=[(0, 0), (0, 1)]) == ()


def test_what_is_likeliest_forgotten_comes_first_and_the_rest_waits() -> None:
    old, _ = after(item("old"), 0, [Answer.WELL], NOW - timedelta(days=60))
    late, _ = after(item("late"), 0, [Answer.WELL], NOW - timedelta(days=5))
    plan = today([late, old], NOW, 2 * minutes_for(old))
    assert names(plan) == [(1, 0, Why.DUE), (0, 0, Why.DUE)]
    assert plan[0].days > plan[1].days >= 1
    one = today([late, old], NOW, minutes_for(old))
    assert names(one) == [(1, 0, Why.DUE)]
    assert waiting([late, old], NOW) == 2


def test_what_was_asked_for_is_on_the_list_whatever_else_is() -> None:
    known, _ = after(item(), 0, [Answer.WITH_EASE])
    assert today([known], NOW, 30) == ()
    assert names(today([known], NOW, 1, asked=[(0, 0)])) == [(0, 0, Why.ASKED)]


def test_what_did_not_go_comes_back_on_the_same_day() -> None:
    known, due = after(item(), 0, [Answer.NOT_YET])
    assert today([known], NOW, 30, played=[(0, 0)]) == ()
    assert names(today([known], due, 30, played=[(0, 0)])) == [(0, 0, Why.AGAIN)]


def test_what_rests_is_proposed_only_where_it_is_asked_for() -> None:
    resting = replace(item(), rests=True)
    assert today([resting], NOW, 30) == ()
    assert names(today([resting], NOW, 30, asked=[(0, 0)])) == [(0, 0, Why.ASKED)]


@given(st.lists(st.tuples(st.integers(1, 12), st.integers(0, 40)), max_size=12), st.integers(1, 60))
def test_a_day_never_holds_more_than_its_minutes(given_items: list[tuple[int, int]], minutes: int) -> None:
    items = [after(item(keys=keys), 0, [Answer.WELL], NOW - timedelta(days=days))[0] for keys, days in given_items]
    plan = today(items, NOW, minutes)
    assert sum(one.minutes for one in plan) <= minutes or len(plan) == 1
    assert len({(one.item, one.number) for one in plan}) == len(plan)
    assert bool(plan) == any(len(known.cards) > 1 or waiting([known], NOW) for known in items)


def test_neighbours_are_of_different_items_where_they_can_be() -> None:
    plan = today([item(keys=4), item(keys=4)], NOW, 60)
    assert [one.item for one in plan] == [0, 1, 0, 1]


# -- items ----------------------------------------------------------------------------------------------------


def test_more_and_fewer_keys_keep_what_is_known() -> None:
    known, _ = after(item(keys=3), 2, [Answer.WELL])
    assert [card.number for card in known.with_keys(5).cards] == [0, 1, 2, 3, 4]
    assert known.with_keys(5).card(2) == known.card(2)
    assert known.with_keys(99).with_keys(0).cards == (Card(0),)
    with pytest.raises(KeyError):
        known.card(7)


def test_the_keys_of_an_item_follow_its_order() -> None:
    by_fifths = [item(keys=12).in_key(k).key.tonic.pitch_class for k in range(12)]
    assert by_fifths == [(5 * k) % 12 for k in range(12)]
    up = replace(item(keys=12), order=KeyOrder.CHROMATIC)
    assert up.steps == tuple(range(12))


# -- runs -----------------------------------------------------------------------------------------------------


def test_a_run_climbs_pass_by_pass() -> None:
    run = run_of(item(), (0,), RunWishes(passes=3, tempo=80, step=10))
    assert [one.tempo for one in run.passes] == [80, 90, 100]
    assert [(one.start, one.end) for one in run.passes] == [(0, 8), (8, 16), (16, 24)]
    assert run.shown.tempo == 80
    assert [(change.onset, change.tempo) for change in run.shown.tempo_changes] == [(8, 90), (16, 100)]
    assert len(run.shown.notes) == 3 * len(LICK.notes)
    assert run.heard.notes == ()
    assert run.pass_at(0) == 0
    assert run.pass_at(15.9) == 1
    assert run.pass_at(99) == 2


def test_a_tempo_is_told_in_the_beats_of_the_meter() -> None:
    waltz = PracticeItem("12/8", Kind.LICK, make_solo([("C7", "C5/4. E5 G5 Bb5")], meter="12/8"), 60)
    run = run_of(waltz, (0,), RunWishes(passes=2, tempo=60, step=10))
    assert run.shown.beats_a_minute == 60
    assert [change.tempo for change in run.shown.tempo_changes] == [105]


def test_a_tempo_ladder_ends_where_it_is_to_end() -> None:
    run = run_of(item(), (0,), RunWishes(passes=4, tempo=80, step=30, most=120))
    assert [one.tempo for one in run.passes] == [80, 110, 120, 120]


def test_what_is_listened_to_is_answered_in_a_stretch_of_the_same_length() -> None:
    run = run_of(item(), (0,), RunWishes(Way.ANSWER, passes=2))
    assert [one.is_played for one in run.passes] == [False, True, False, True]
    assert {one.end - one.start for one in run.passes} == {8}
    first = [note for note in run.shown.notes if run.pass_at(note.onset) in (0, 2)]
    assert list(run.heard.notes) == first
    assert len(run.played_notes().notes) == len(first)


def test_a_run_through_the_keys_touches_each() -> None:
    run = run_of(item(keys=5), range(5), RunWishes(Way.KEYS, passes=1, with_soloist=True))
    assert [one.key for one in run.passes] == [0, 1, 2, 3, 4]
    assert run.heard is run.shown
    assert [region.key.tonic.pitch_class for region in run.shown.keys] == [0, 5, 10, 3, 8]


def entry(day: int, tempo: int = 100, answer: Answer = Answer.WELL, number: int = 0, **more: object) -> LogEntry:
    return LogEntry(f"2026-03-{day:02}T18:00:00+00:00", "a", "Lick, long", "E♭", number, 90.0, tempo, answer, **more)  # type: ignore[arg-type]


def test_the_log_adds_up() -> None:
    log = [entry(1), entry(1, 110), entry(3, 120, Answer.NOT_YET), entry(3, 90, number=1)]
    assert {day.day: minutes for day, minutes in minutes_by_day(log).items()} == {1: 3.0, 3: 3.0}
    assert best_tempos(log, "a") == {0: 110, 1: 90}
    assert best_tempos(log, "b") == {}


def test_the_log_is_searched_by_all_its_words() -> None:
    log = [entry(1, tags=("rushed",)), entry(2, words="the bridge"), entry(3)]
    assert matching(log, "rush lick") == log[:1]
    assert matching(log, "BRIDGE") == log[1:2]
    assert matching(log, "") == log
    assert matching(log, "rushed bridge") == []


def test_the_log_as_a_table_and_as_a_text() -> None:
    log = [entry(1, tags=("rushed", "own, tag")), replace(entry(2), words='=SUM("x")', right=8, notes=9)]
    rows = as_csv(log).splitlines()
    assert rows[0].startswith("at,item,name,key,number,seconds,tempo,answer")
    assert '"rushed; own, tag"' in rows[1]
    assert "'=SUM" in rows[2]
    text = as_markdown(log)
    assert text.index("2026-03-02") < text.index("2026-03-01")
    assert "- Lick, long in E♭, tempo 100, well, 8 of 9 notes right" in text
