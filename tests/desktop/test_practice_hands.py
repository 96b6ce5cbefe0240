"""The Practice desk: pedals, the microphone's delay, breaks, the record, lessons, and what is seen over time."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
import pytest
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot
from tests.desktop.at_practice import on_stand, opened, pass_seconds, phrase, settled

from gavotte.demo.recordings import record, to_be_recorded
from gavotte.desktop.desks.practice.delays import SIMULATED
from gavotte.desktop.desks.practice.desk import PracticeDesk
from gavotte.desktop.desks.practice.setup_dialog import BREAKS
from gavotte.desktop.playback.outputs import ManualOutput
from gavotte.desktop.shell.window import MainWindow
from gavotte.practice.item import Kind
from gavotte.practice.lessons import Lesson
from gavotte.practice.plan import Answer
from gavotte.steps import whole


@pytest.fixture
def desk(qtbot: QtBot, window: MainWindow) -> PracticeDesk:
    shown = opened(qtbot, window)
    on_stand(qtbot, shown, phrase(shown))
    return shown


def lesson(qtbot: QtBot, desk: PracticeDesk, wanted: Lesson) -> None:
    desk.ears.chance.seed(4)
    desk.side.tabs["ears"].click()
    panel = desk.side.ears
    panel.lesson.setCurrentIndex(panel.lesson.findData(wanted))
    settled(qtbot, desk.window())  # type: ignore[arg-type]


# -- pedals ---------------------------------------------------------------------------------------------------


@pytest.fixture
def pedals(desk: PracticeDesk) -> Iterator[PracticeDesk]:
    desk.hands.pedals.keyboard.name = "A pedal board"
    yield desk
    desk.hands.pedals.keyboard.name = ""


def test_a_pedal_is_learned_by_pressing_it_and_plays(qtbot: QtBot, window: MainWindow, pedals: PracticeDesk) -> None:
    desk, keyboard = pedals, pedals.hands.pedals.keyboard
    desk.hands.set_up()
    dialog = desk.hands.dialog
    assert dialog is not None
    dialog.learn["play"].click()
    assert "press it now" in dialog.codes["play"].text()
    keyboard.control(64, 127)
    assert dialog.codes["play"].text() == "controller 64"
    dialog.learn["clean"].click()
    keyboard.play(36)
    assert desk.hands.pedals.code("clean") == "note 36"
    keyboard.control(64, 0)
    keyboard.control(64, 127)
    assert not desk.studio.transport.is_playing
    dialog.accept()
    keyboard.control(64, 0)
    keyboard.control(64, 100)
    keyboard.control(64, 127)
    qtbot.waitUntil(lambda: desk.studio.transport.is_playing, timeout=10000)
    keyboard.control(64, 0)
    assert desk.studio.transport.is_playing
    keyboard.control(64, 127)
    assert not desk.studio.transport.is_playing


def test_one_pedal_does_one_thing_and_is_forgotten(pedals: PracticeDesk) -> None:
    board = pedals.hands.pedals
    board.learn("play")
    board.keyboard.control(64, 127)
    board.keyboard.control(64, 0)
    board.learn("next")
    board.keyboard.control(64, 127)
    assert (board.code("play"), board.code("next")) == ("", "controller 64")
    board.forget("next")
    assert board.code("next") == ""
    seen: list[str] = []
    board.pressed.connect(seen.append)
    board.keyboard.control(64, 0)
    board.keyboard.control(64, 127)
    assert seen == []


# -- the delay ------------------------------------------------------------------------------------------------


def test_the_delay_of_the_microphone_is_measured_kept_and_used(
    qtbot: QtBot, window: MainWindow, desk: PracticeDesk
) -> None:
    desk.hands.set_up()
    dialog, delays = desk.hands.dialog, desk.hands.delays
    assert dialog is not None
    assert "not measured" in dialog.delay.text()
    dialog.measure.click()
    assert "open" in dialog.delay.text()
    output = delays.player._out.output
    assert isinstance(output, ManualOutput)
    for _ in range(80):
        output.pass_seconds(0.1)
        desk.taking.simulated.pass_seconds(0.1)
    delays.player._looked()
    qtbot.waitUntil(lambda: not delays.is_measuring, timeout=10000)
    assert delays.delay(SIMULATED) == pytest.approx(0.085, abs=0.01)
    assert not desk.taking.simulated.is_open
    assert "85 ms" in dialog.delay.text() or "84 ms" in dialog.delay.text()
    assert desk.hands.late == delays.delay(SIMULATED)
    dialog.forget.click()
    assert delays.delay(SIMULATED) is None
    assert desk.hands.late == desk.studio.transport.latency


def test_a_dialog_that_is_left_closes_the_microphone(desk: PracticeDesk) -> None:
    desk.hands.set_up()
    dialog = desk.hands.dialog
    assert dialog is not None
    dialog.measure.click()
    assert desk.taking.simulated.is_open
    dialog.accept()
    assert not desk.taking.simulated.is_open


def test_silence_is_no_delay_and_is_told(qtbot: QtBot, desk: PracticeDesk) -> None:
    desk.hands.set_up()
    dialog, delays = desk.hands.dialog, desk.hands.delays
    assert dialog is not None
    dialog.measure.click()
    delays._blocks = [np.zeros(44100, np.int16)]
    delays._end()
    assert "Only 0" in dialog.problem.text()
    assert delays.delay(SIMULATED) is None


# -- breaks ---------------------------------------------------------------------------------------------------


def test_a_break_is_proposed_after_the_minutes_one_has_set_or_never(window: MainWindow, desk: PracticeDesk) -> None:
    desk.studio.settings.setValue(BREAKS, 10)
    desk._without_break = 9 * 60
    desk._propose_break()
    assert "minutes of playing" not in window.notice.text.text()
    desk._without_break = 11 * 60
    desk._propose_break()
    assert "11 minutes of playing" in window.notice.text.text()
    assert desk._without_break == 0
    window.notice.action.click()
    assert desk.studio.settings.value(BREAKS, type=int) == 0
    desk._without_break = 200 * 60
    desk._propose_break()
    assert desk._without_break == 200 * 60


# -- the record -----------------------------------------------------------------------------------------------


@pytest.mark.slow
def test_what_is_on_the_stand_is_heard_on_its_record(qtbot: QtBot, window: MainWindow, desk: PracticeDesk) -> None:
    library, item = window.studio.library, desk.agenda.item
    assert item is not None
    solo = next(solo for name, solo in to_be_recorded(library) if name == item.source_id)
    library.save_recording(item.source_id, whole(record(solo, library.folder)))
    qtbot.keyClick(desk.page, Qt.Key.Key_D)
    qtbot.waitUntil(lambda: desk.record_heard.is_playing, timeout=30000)
    assert desk.made is not None
    wished = desk.made.run.turns[0].tempo / (item.music.beats_a_minute or 1)
    assert desk.record_heard.speed == pytest.approx(wished, rel=0.02)
    assert "of its speed" in desk.controls.detail.text()
    output = desk.record_heard._out.output
    assert isinstance(output, ManualOutput)
    times: list[float] = []
    desk.record_heard.moved.connect(times.append)
    for _ in range(60):
        output.pass_seconds(0.5)
        desk.record_heard._looked()
        if not desk.record_heard.is_playing:
            break
    assert not desk.record_heard.is_playing
    one = desk.made.run.turns[0]
    assert times[0] < one.start + 4
    assert float(one.end) - 3 < max(times) < float(one.end) + 2


def test_where_there_is_no_record_it_is_said(qtbot: QtBot, window: MainWindow, desk: PracticeDesk) -> None:
    desk.side.take.record.click()
    settled(qtbot, window)
    assert not desk.record_heard.is_playing
    assert "no record with beats" in window.notice.text.text()


# -- lessons --------------------------------------------------------------------------------------------------


def test_what_is_sung_is_held_against_the_note_a_line_lands_on(
    qtbot: QtBot, window: MainWindow, desk: PracticeDesk
) -> None:
    lesson(qtbot, desk, Lesson.SING)
    question = desk.ears.question
    assert question is not None
    assert question.target is not None
    panel = desk.side.ears
    assert not any(button.isVisible() for button in panel.answers)
    panel.sing.click()
    assert panel.light.isVisible()
    assert not panel.sing.isEnabled()
    desk.taking.simulated.pass_seconds(2.0)
    desk.ears._sung()
    assert not desk.taking.simulated.is_open
    settled(qtbot, window)
    assert panel.told.text().startswith(f"Yes, {question.right}")
    assert not panel.light.isVisible()
    assert desk.ears.confusions.count(Lesson.SING, question.right, question.right) == 1


def test_nothing_sung_costs_nothing(qtbot: QtBot, window: MainWindow, desk: PracticeDesk) -> None:
    lesson(qtbot, desk, Lesson.SING)
    before = desk.ears.confusions
    desk.side.ears.sing.click()
    desk.ears._blocks = [np.zeros(44100, np.int16)]
    desk.ears._sung()
    settled(qtbot, window)
    assert "hold it" in desk.side.ears.told.text()
    assert desk.ears.confusions == before
    desk.side.ears.sing.click()
    desk.side.tabs["run"].click()
    assert not desk.taking.simulated.is_open


def test_a_bar_is_labelled_by_hand_and_both_opinions_are_told(
    qtbot: QtBot, window: MainWindow, desk: PracticeDesk
) -> None:
    lesson(qtbot, desk, Lesson.LABEL)
    bar, panel = desk.ears.bar, desk.side.ears
    assert bar is not None
    assert len(panel.form.choices) == len(bar.notes)
    assert desk.page.lines
    for choice, label in zip(panel.form.choices, bar.labels, strict=True):
        choice.setCurrentIndex(choice.findData(label.function))
    wrong = panel.form.choices[0]
    wrong.setCurrentIndex((wrong.currentIndex() + 1) % wrong.count())
    panel.form.compare.click()
    told = panel.told.text()
    assert f"{len(bar.notes) - 1} of {len(bar.notes)} notes" in told
    assert bar.labels[0].reason in told
    assert bar.labels[1].reason not in told.replace(bar.labels[0].reason, "")
    assert not panel.form.compare.isVisible()
    right, said = str(bar.labels[0].function), str(wrong.currentData())
    assert desk.ears.confusions.count(Lesson.LABEL, right, said) == 1
    desk.side.tabs["run"].click()
    settled(qtbot, window)
    assert desk.ears.bar is None
    assert desk.made is not None
    assert {name for line in desk.page.lines for name in line.note_items} <= {n.id for n in desk.made.whole.notes}


def test_hearing_a_question_is_no_playing(qtbot: QtBot, window: MainWindow, desk: PracticeDesk) -> None:
    lesson(qtbot, desk, Lesson.DEGREE)
    qtbot.waitUntil(lambda: desk.studio.transport.is_playing, timeout=10000)
    assert desk.controls.place.text() == "Ready"
    pass_seconds(desk, 30)
    assert not desk.studio.transport.is_playing
    assert not desk.can_answer


def test_a_lesson_comes_back_like_anything_else(qtbot: QtBot, window: MainWindow, desk: PracticeDesk) -> None:
    lesson(qtbot, desk, Lesson.COLLECTION)
    desk.side.ears.keep.click()
    added = next(name for name, item in desk.agenda.items.items() if item.kind is Kind.LESSON)
    desk.side.show_page("run")
    desk._ask_for(added)
    settled(qtbot, window)
    assert desk.side.page_shown == "ears"
    assert desk.made is None
    assert not desk.controls.play.isEnabled()
    assert desk.side.ears.wanted is Lesson.COLLECTION
    question = desk.ears.question
    assert question is not None
    next(b for b in desk.side.ears.answers if b.text() == question.right).click()
    assert desk.can_answer
    desk.answer(Answer.WELL)
    settled(qtbot, window)
    assert desk.agenda.log[0][1].item == added
    assert desk.agenda.items[added].cards[0].memory.last
    assert desk.agenda.chosen is not None
    assert desk.agenda.chosen[0] != added


# -- over time ------------------------------------------------------------------------------------------------


def test_how_an_item_has_gone_is_shown_and_told(qtbot: QtBot, window: MainWindow, desk: PracticeDesk) -> None:
    lick = next(
        name for name, item in desk.agenda.items.items() if item.kind is Kind.LICK and desk.agenda.entries_of(name)
    )
    on_stand(qtbot, desk, lick)
    qtbot.keyClick(desk.page, Qt.Key.Key_O)
    dialog = desk.over_time_dialog
    assert dialog is not None
    assert "→" in dialog.told.text()
    assert "the goal" in dialog.told.text()
    entries = desk.agenda.entries_of(lick)
    points = sum(len(item.getData()[0]) for item in dialog._plot.getPlotItem().listDataItems())
    assert 0 < points <= len(entries)
    dialog.figure.setCurrentIndex(1)
    dialog.figure.activated.emit(1)
    assert "Nothing is known yet" in dialog.told.text()


def test_a_lesson_is_added_by_its_key_only_where_it_is_seen(
    qtbot: QtBot, window: MainWindow, desk: PracticeDesk
) -> None:
    before = len(desk.agenda.items)
    control_shift = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier
    qtbot.keyClick(desk.page, Qt.Key.Key_E, control_shift)
    assert len(desk.agenda.items) == before
    lesson(qtbot, desk, Lesson.APPROACH)
    qtbot.keyClick(desk.side.ears.hear, Qt.Key.Key_E, control_shift)
    settled(qtbot, window)
    assert [item.lesson for item in desk.agenda.items.values()].count(Lesson.APPROACH) == 1
