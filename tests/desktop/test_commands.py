"""Commands as data: keys that don't cross, tooltips that tell them, the palette, and what is going on at once."""

from __future__ import annotations

import gc
import threading
import weakref
from collections.abc import Generator, Iterator
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt, QThreadPool
from PyQt6.QtGui import QKeySequence
from PyQt6.QtWidgets import QAbstractButton, QApplication, QWidget
from pytestqt.qtbot import QtBot
from tests.desktop.conftest import OpenWindow

from gavotte.desktop.activity import Activities
from gavotte.desktop.command import Command, collisions, shown_keys
from gavotte.desktop.desk.desk import DeskKind
from gavotte.desktop.desks import DESKS
from gavotte.desktop.shell.mishaps import start_log
from gavotte.desktop.shell.palette import matching
from gavotte.desktop.shell.rail import Rail
from gavotte.desktop.shell.window import MainWindow
from gavotte.desktop.theme.palette import DAY
from gavotte.desktop.theme.stylesheet import style_sheet
from gavotte.desktop.undisturbed import Undisturbed
from gavotte.giving_way import give_way
from gavotte.solo.document import Function


def test_no_key_means_two_things_anywhere(window: MainWindow) -> None:
    assert collisions(window.actions_of.all) == []


def test_a_key_taken_twice_is_found(qtbot: QtBot) -> None:
    page, inside, elsewhere = QWidget(), QWidget(), QWidget()
    inside.setParent(page)
    for widget in (page, elsewhere):
        qtbot.addWidget(widget)

    def command(name: str, keys: str, *at: QWidget) -> Command:
        return Command(name, name, lambda: None, (keys,), at=at)

    assert collisions([command("a", "K", page), command("b", "K", elsewhere)]) == []
    assert collisions([command("a", "K", page), command("b", "K", inside)]) == [("K", "a", "b")]
    assert collisions([command("a", "Ctrl+K"), command("b", "ctrl+k", inside)]) == [("Ctrl+K", "a", "b")]


def test_commands_have_ids_words_and_places_of_their_own(window: MainWindow) -> None:
    commands = window.actions_of.all
    assert len({command.id for command in commands}) == len(commands)
    for command in commands:
        assert command.said, command.id
        assert command.menu, command.id
        for keys in command.keys:
            assert not QKeySequence(keys).isEmpty(), command.id


def test_desks_have_the_function_keys_in_their_order() -> None:
    keys = [int(desk.kind.key.removeprefix("F")) for desk in DESKS]
    assert keys == sorted(set(keys))
    # F10 is where commands are found.
    assert set(keys) <= set(range(1, 13)) - {10}


def test_tooltips_tell_the_key(window: MainWindow) -> None:
    for command in window.actions_of.all:
        for button in command.buttons:
            if command.keys:
                assert button.toolTip().endswith(f"({shown_keys(command.keys[0])})"), command.id


def test_every_desk_is_reached_by_its_key_and_shows_only_its_own_menu(qtbot: QtBot, at_ferry: MainWindow) -> None:
    for name, desk in at_ferry.desks.items():
        qtbot.keyClick(at_ferry, Qt.Key(Qt.Key.Key_F1.value + int(desk.kind.key[1:]) - 1))
        assert at_ferry.desk is desk
        assert at_ferry.rail.buttons[name].isChecked()
        shown = {action.text().replace("&", "") for action in at_ferry.menuBar().actions() if action.isVisible()}
        assert desk.kind.words in shown
        assert not shown & {other.kind.words for other in at_ferry.desks.values() if other is not desk}


def test_beside_the_page_and_back(qtbot: QtBot, at_ferry: MainWindow) -> None:
    for name in ("label", "write", "vocabulary"):
        at_ferry.show_desk(name)
        page = at_ferry.desk.focus()
        qtbot.keyClick(page, Qt.Key.Key_B, Qt.KeyboardModifier.ControlModifier)
        beside = QApplication.focusWidget()
        assert beside is at_ferry.desk.beside()
        qtbot.keyClick(beside, Qt.Key.Key_B, Qt.KeyboardModifier.ControlModifier)
        assert page.hasFocus()


def test_panels_have_numbers(qtbot: QtBot, at_ferry: MainWindow) -> None:
    for name, side in (("label", at_ferry.desks["label"].side), ("write", at_ferry.desks["write"].panel)):
        at_ferry.show_desk(name)
        for number, page in enumerate(side.tabs, 1):
            key = Qt.Key(Qt.Key.Key_0.value + number)
            qtbot.keyClick(at_ferry.desk.focus(), key, Qt.KeyboardModifier.ControlModifier)
            assert side.page_shown == page


# -- the palette ----------------------------------------------------------------------------------------


def palette_rows(window: MainWindow) -> list[str]:
    rows = window.command_palette.rows
    return [rows.item(index).text() for index in range(rows.count())]


def test_a_command_is_found_by_a_few_letters_and_run(qtbot: QtBot, at_ferry: MainWindow) -> None:
    page, session = at_ferry.desks["label"].page, at_ferry.session
    session.selection.select("n4", "n4")
    qtbot.keyClick(page, Qt.Key.Key_F10)
    palette = at_ferry.command_palette
    assert palette.isVisible()
    qtbot.keyClicks(palette.field, "call pass")
    assert palette_rows(at_ferry)[0] == "Call it passing"
    assert palette.field.accessibleDescription() == "Call it passing, 3"
    qtbot.keyClick(palette.field, Qt.Key.Key_Return)
    assert session.labels["n4"].function is Function.PASSING
    assert not palette.isVisible()
    assert page.hasFocus()


def test_the_palette_offers_what_can_be_done_here_and_now(qtbot: QtBot, at_ferry: MainWindow) -> None:
    at_ferry.show_desk("shelf")
    at_ferry.show_palette()
    assert "Call it passing" not in palette_rows(at_ferry)
    assert "Play or stop" not in palette_rows(at_ferry)
    qtbot.keyClicks(at_ferry.command_palette.field, "zzzz")
    assert at_ferry.command_palette.nothing.isVisible()
    qtbot.keyClick(at_ferry.command_palette.field, Qt.Key.Key_Escape)
    assert not at_ferry.command_palette.isVisible()
    assert at_ferry.session.solo is not None


def test_keys_typed_into_the_palette_do_nothing_else(qtbot: QtBot, at_ferry: MainWindow) -> None:
    before = at_ferry.session.solo
    at_ferry.show_palette()
    qtbot.keyClicks(at_ferry.command_palette.field, "12345kax ")
    qtbot.keyClick(at_ferry.command_palette.field, Qt.Key.Key_Escape)
    assert at_ferry.session.solo is before
    assert at_ferry.studio.keeping.dialog is None


@pytest.mark.parametrize(
    ("typed", "first"),
    [("undo", "Undo"), ("pl st", "Play or stop"), ("stop", "Play or stop"), ("plst", "Play or stop"), ("", "Undo")],
)
def test_the_nearest_command_comes_first(typed: str, first: str) -> None:
    commands = [Command(words, words, lambda: None) for words in ("Undo", "Unstop the pipe", "Play or stop")]
    if typed == "stop":
        commands.pop(1)
    assert matching(commands, typed)[0].said == first


# -- what is going on -----------------------------------------------------------------------------------


def endless() -> Iterator[float]:
    while True:
        yield 0.5


def test_several_activities_are_shown_and_each_can_be_stopped(qtbot: QtBot, window: MainWindow) -> None:
    told: list[str] = []
    for name in ("one", "two"):
        window.activities.step(
            name, endless(), lambda: None, lambda error: None, name, lambda name=name: told.append(name)
        )
    qtbot.waitUntil(lambda: window.activity_bar.words == "one: 50 % · two: 50 %")
    first, second = window.activities.shown
    window.activity_bar.shown[first].cancel.click()
    assert told == ["one"]
    assert window.activity_bar.words == "two: 50 %"
    assert window.activity_bar.shown[second].cancel.isVisible()
    window.activity_bar.shown[second].cancel.click()
    assert not window.activity_bar.isVisible()


def test_one_activity_that_ends_leaves_the_other_its_cancel(qtbot: QtBot, window: MainWindow) -> None:
    done: list[str] = []
    window.activities.step("long", endless(), lambda: None, lambda error: None, "long")
    window.activities.beside("short", lambda: "found", done.append, lambda error: None, "short")
    qtbot.waitUntil(lambda: done == ["found"])
    assert [activity.words for activity in window.activities.shown] == ["long"]
    (long,) = window.activities.shown
    assert window.activity_bar.shown[long].cancel.isVisible()
    window.activities.cancel("long")


@pytest.mark.mishap
def test_what_fails_leaves_its_traceback_in_the_log(qtbot: QtBot, tmp_path: Path) -> None:
    start_log(tmp_path / "log")
    activities, failed = Activities(), []

    def a_step_too_far() -> None:
        raise ZeroDivisionError("of all things")

    def steps() -> Generator[float, None, None]:
        yield 0.1
        a_step_too_far()

    activities.beside("me", a_step_too_far, lambda _: None, failed.append)
    qtbot.waitUntil(lambda: len(failed) == 1)
    activities.walk("me", steps, lambda _: None, failed.append)
    qtbot.waitUntil(lambda: len(failed) == 2)
    activities.step("me", steps(), lambda: None, failed.append)
    qtbot.waitUntil(lambda: len(failed) == 3)
    text = (tmp_path / "log").read_text(encoding="utf-8")
    assert text.count("Traceback") == text.count("in a_step_too_far") == 3


def test_nothing_begins_or_is_told_once_the_window_goes(qtbot: QtBot) -> None:
    activities, told = Activities(), []
    activities.beside("me", lambda: 1, told.append, told.append)
    activities.close()
    activities.beside("me", lambda: 2, told.append, told.append)
    assert activities.of("me") == ()
    QApplication.processEvents()
    assert told == []


def test_a_cancelled_computation_stops_and_frees_its_worker(qtbot: QtBot) -> None:
    activities, told = Activities(), []
    begun, ended = threading.Event(), threading.Event()

    def compute() -> None:
        try:
            begun.set()
            while True:
                give_way()
        finally:
            ended.set()

    activities.beside("me", compute, told.append, told.append)
    assert begun.wait(5)
    activities.cancel("me")
    qtbot.waitUntil(ended.is_set)
    assert told == []


@pytest.mark.parametrize("fails", [False, True])
def test_a_step_that_stops_its_own_work_is_the_last_that_is_heard(qtbot: QtBot, fails: bool) -> None:
    activities, told = Activities(), []
    ended = threading.Event()

    def steps() -> Iterator[float]:
        yield 0.5
        # As where a dialog closes while a step lets events in.
        activities.cancel("me")
        ended.set()
        if fails:
            raise ValueError("too late")

    activities.step("me", steps(), lambda: told.append("done"), told.append)
    qtbot.waitUntil(ended.is_set)
    QApplication.processEvents()
    assert told == []
    assert activities.is_idle


def test_files_that_hang_keep_nothing_else_waiting(qtbot: QtBot) -> None:
    activities, done = Activities(), []
    arrives, ended = threading.Event(), threading.Semaphore(0)

    def read() -> str:
        # As a file does on a network that is gone.
        arrives.wait(5)
        ended.release()
        return "read"

    pool = QThreadPool.globalInstance()
    assert pool is not None
    for _ in range(pool.maxThreadCount() + 1):
        activities.beside("files", read, done.append, done.append, "Reading", apart=True)
    activities.beside("me", lambda: "found", done.append, done.append)
    qtbot.waitUntil(lambda: done == ["found"])
    activities.cancel("files")
    assert activities.shown == ()
    arrives.set()
    for _ in range(pool.maxThreadCount() + 1):
        assert ended.acquire(timeout=5)
    QApplication.processEvents()
    assert done == ["found"]


def test_a_worker_waits_while_the_interface_is_at_work(qtbot: QtBot) -> None:
    activities, done = Activities(), []
    begun = threading.Event()

    def compute() -> str:
        begun.set()
        give_way()
        return "found"

    with Undisturbed():
        activities.beside("me", compute, done.append, lambda error: None)
        assert begun.wait(5)
        with Undisturbed():
            pass
        pool = QThreadPool.globalInstance()
        assert pool is not None
        assert not pool.waitForDone(20)
    qtbot.waitUntil(lambda: done == ["found"])


# -- the rail -------------------------------------------------------------------------------------------

TEN = ("Shelf", "Listen", "Write", "Label", "Phrases", "Vocabulary", "Workshop", "Practice", "Compare", "Sheets")


@pytest.mark.parametrize("height", [480, 900])
def test_ten_desks_find_room_in_a_small_window(qtbot: QtBot, height: int) -> None:
    known = ("shelf", "listen", "write", "label", "vocabulary")
    rail = Rail([DeskKind(f"{known[k % 5]}{'' if k < 5 else k}", words, f"F{k + 1}") for k, words in enumerate(TEN)])
    qtbot.addWidget(rail)
    rail.setStyleSheet(style_sheet(DAY))
    rail.resize(96, height)
    rail.show()
    for name in rail.buttons:
        rail.show_state(name, "12 to look at")
    QApplication.processEvents()
    buttons: list[QAbstractButton] = list(rail.buttons.values())
    assert buttons[-1].geometry().bottom() <= height
    assert all(button.height() >= button.sizeHint().height() for button in buttons)
    assert ("12 to look at" in buttons[0].text()) == (height == 900)
    assert "12 to look at" in buttons[0].toolTip()


# -- what changed while a desk was hidden ---------------------------------------------------------------


def test_a_start_that_goes_back_to_write_shows_its_page(
    qtbot: QtBot, open_window: OpenWindow, demo_folder: Path
) -> None:
    first = open_window(demo_folder)
    first.open_solo(first.desks["shelf"].solos.current_id() or "")
    first.show_desk("write")
    first.close()
    second = open_window(demo_folder)
    write = second.desks["write"]
    assert second.desk is write
    assert second.session.solo is not None
    qtbot.waitUntil(lambda: write.page.is_complete)
    assert write.title.text() == second.session.solo.title
    assert write.page.lines
    assert write.page.caret is not None


def test_what_changed_while_a_desk_was_hidden_is_there_when_it_is_shown(qtbot: QtBot, at_ferry: MainWindow) -> None:
    label, write, session = at_ferry.desks["label"], at_ferry.desks["write"], at_ferry.session
    at_ferry.show_desk("write")
    qtbot.waitUntil(lambda: write.page.is_complete)
    session.selection.select("n2", "n2")
    session.move(1)
    at_ferry.studio.view.set_written(True)
    at_ferry.show_desk("label")
    qtbot.waitUntil(lambda: label.page.is_complete)
    assert session.shown is not None
    shown = {placed.note.id: placed.note.pitch for item in label.page.lines for placed in item.line.notes}
    assert shown["n2"] == session.shown.note("n2").pitch
    assert "written pitch" in label.about.text()
    assert label.page.accessibleDescription() == session.labels["n2"].reason


def test_a_selection_an_edit_changes_is_told(at_ferry: MainWindow) -> None:
    session, told = at_ferry.session, []
    session.selection.select("n2", "n2")
    session.selection.changed.connect(lambda: told.append(session.selection.current))
    at_ferry.desks["write"].writer.delete()
    assert told
    assert told[-1] == session.selection.current
    assert session.solo is not None
    assert "n2" not in session.solo.places


@pytest.mark.parametrize("way", ["beside", "apart", "walk", "step", "cancelled"])
def test_what_was_worked_with_is_let_go_of_at_once(qtbot: QtBot, way: str) -> None:
    """Not only when somebody looks for values that hold each other."""

    class Solo:
        """Something large."""

    activities, solo = Activities(), Solo()
    gone = weakref.ref(solo)
    ended: list[object] = []

    def steps(held: object) -> Generator[float, None, int]:
        yield 0.5
        return id(held)

    def begin(held: object) -> None:
        if way == "walk":
            activities.walk(held, lambda: steps(held), ended.append, ended.append)
        elif way == "step":
            activities.step(held, steps(held), lambda: ended.append(id(held)), ended.append)
        else:
            activities.beside(held, lambda: id(held), ended.append, ended.append, apart=way == "apart")

    gc.disable()
    try:
        begin(solo)
        if way == "cancelled":
            activities.cancel(solo)
        else:
            qtbot.waitUntil(lambda: len(ended) == 1)
        del solo
        qtbot.waitUntil(lambda: gone() is None)
    finally:
        gc.enable()
