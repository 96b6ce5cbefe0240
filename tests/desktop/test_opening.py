"""Solos so long that they are read and told of beside the interface."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import pytest
from pytestqt.qtbot import QtBot

from gavotte.desktop.desks.label import told
from gavotte.desktop.shell.window import MainWindow
from gavotte.desktop.solo import opening, session

OpenWindow = Callable[[Path], MainWindow]


@pytest.fixture(autouse=True)
def every_solo_is_long(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(opening, "READ_AT_ONCE", 0)
    monkeypatch.setattr(session, "LABEL_AT_ONCE", 0)
    monkeypatch.setattr(told, "LABEL_AT_ONCE", 0)


def entries_of(window: MainWindow) -> dict[str, str]:
    return {entry.title: entry.id for entry in window.studio.library.solos()}


def ferry_of(window: MainWindow) -> str:
    return next(solo_id for title, solo_id in entries_of(window).items() if "Ferry" in title)


def test_a_long_solo_is_read_while_the_one_before_stays_open(qtbot: QtBot, window: MainWindow) -> None:
    first, second, *_ = entries_of(window).values()
    window.open_solo(first)
    assert window.session.solo is None
    assert "Opening the solo" in window.activity_bar.words
    qtbot.waitUntil(lambda: window.session.is_labelled)
    window.open_solo(second)
    assert window.session.solo_id == first
    qtbot.waitUntil(lambda: window.session.solo_id == second)
    assert window.desk.kind.name in ("label", "write")
    assert window.activity_bar.words == ""


def test_of_two_solos_opened_quickly_the_later_one_is_shown(qtbot: QtBot, window: MainWindow) -> None:
    first, second, *_ = entries_of(window).values()
    window.open_solo(first)
    window.open_solo(second)
    qtbot.waitUntil(lambda: window.session.is_labelled)
    assert window.session.solo_id == second
    window.open_solo(first)
    window.activities.shown[0].cancel()
    assert window.studio.opening.coming == ""
    qtbot.wait(50)
    assert window.session.solo_id == second


def test_what_was_not_written_yet_is_what_is_opened(qtbot: QtBot, window: MainWindow) -> None:
    first, second, *_ = entries_of(window).values()
    window.open_solo(first)
    qtbot.waitUntil(lambda: window.session.is_labelled)
    window.session.move(1)
    moved = window.session.solo
    window.open_solo(second)
    qtbot.waitUntil(lambda: window.session.solo_id == second)
    window.open_solo(first)
    qtbot.waitUntil(lambda: window.session.solo_id == first)
    assert window.session.solo == moved


def test_a_restart_goes_back_to_the_note_once_the_solo_is_read(
    qtbot: QtBot, open_window: OpenWindow, demo_folder: Path
) -> None:
    window = open_window(demo_folder)
    window.open_solo(ferry_of(window))
    qtbot.waitUntil(lambda: window.session.is_labelled)
    solo = window.session.solo
    assert solo is not None
    note = solo.notes[20].id
    window.session.selection.select(note, note)
    window.show_desk("write")
    window.close()
    again = open_window(demo_folder)
    qtbot.waitUntil(lambda: again.session.solo is not None)
    assert again.session.selection.current == note
    assert again.desk.kind.name == "write"


def test_harmony_and_text_follow_when_they_have_been_worked_out(qtbot: QtBot, window: MainWindow) -> None:
    window.open_solo(ferry_of(window))
    qtbot.waitUntil(lambda: window.session.is_labelled)
    side = window.desks["label"].side
    side.show_page("harmony")
    qtbot.waitUntil(lambda: side.harmony.table.topLevelItemCount() > 0)
    assert side.harmony.summary.text().endswith(".")
    side.show_page("text")
    qtbot.waitUntil(lambda: side.text.rows.count() > 0)
    before = [side.text.rows.item(row).text() for row in range(side.text.rows.count())]
    solo = window.session.solo
    assert solo is not None
    note = solo.notes[3].id
    window.session.selection.select(note, note)
    window.session.move(1)
    qtbot.waitUntil(lambda: [side.text.rows.item(row).text() for row in range(side.text.rows.count())] != before)
