"""The Practice desk: adding, planning, playing, takes, answers, the log."""

from __future__ import annotations

from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from fractions import Fraction
from pathlib import Path

import numpy as np
import pytest
import soundfile
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QFileDialog
from pytestqt.qtbot import QtBot
from tests.desktop.at_practice import on_stand, opened, pass_seconds, phrase, played, settled

from gavotte.desktop.desks.practice.desk import PracticeDesk
from gavotte.desktop.desks.practice.ears import CONFUSIONS_DOCUMENT
from gavotte.desktop.desks.practice.taking import without_loudspeaker
from gavotte.desktop.playback.microphone import CardMicrophone, SimulatedMicrophone
from gavotte.desktop.shell.window import MainWindow
from gavotte.library.errors import LibraryError
from gavotte.library.practising import Practising
from gavotte.library.store import Library
from gavotte.practice.due import due_line
from gavotte.practice.invented import Manner
from gavotte.practice.item import Kind
from gavotte.practice.judging import take_of_notes
from gavotte.practice.lessons import Lesson
from gavotte.practice.plan import Answer
from gavotte.practice.run import Fading, Way
from gavotte.practice.take import Verdict
from gavotte.recording.line import DraftNote
from gavotte.solo.bars import BarGrid
from gavotte.sounding.click import Click
from gavotte.sounding.events import Voice
from gavotte.sounding.timeline import Timeline

OpenWindow = Callable[[Path], MainWindow]
CONTROL_ALT = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier


@pytest.fixture
def desk(qtbot: QtBot, window: MainWindow) -> PracticeDesk:
    return opened(qtbot, window)


# -- what there is --------------------------------------------------------------------------------------------


def test_the_demo_has_a_day_planned(desk: PracticeDesk) -> None:
    assert len(desk.agenda.items) == 4
    assert desk.agenda.plan
    assert desk.agenda.chosen == (desk.agenda.plan[0][0], desk.agenda.plan[0][1].number)
    assert "due" in desk.state()
    assert desk.strip.list.count() == len(desk.agenda.plan)


def test_a_selection_is_added_from_any_desk_by_one_key(qtbot: QtBot, window: MainWindow, desk: PracticeDesk) -> None:
    window.open_solo(window.studio.library.solos()[0].id)
    settled(qtbot, window)
    window.show_desk("label")
    session = window.studio.session
    assert session.solo is not None
    first, last = session.solo.notes[3].id, session.solo.notes[12].id
    session.selection.select(first, last)
    qtbot.keyClick(window.desks["label"].page, Qt.Key.Key_P, CONTROL_ALT)  # type: ignore[attr-defined]
    added = list(Practising(window.studio.library).items())[-1][1]
    assert added.kind is Kind.PHRASE
    assert len(added.music.notes) == 10
    assert added.source_id == session.solo_id
    window.notice.action.click()
    settled(qtbot, window)
    assert window.desk is desk
    assert desk.agenda.item == added
    desk.undo_stack.undo()
    assert added not in [item for _, item in Practising(window.studio.library).items()]


def test_a_lick_is_added_in_all_keys(qtbot: QtBot, window: MainWindow, desk: PracticeDesk) -> None:
    window.show_desk("vocabulary", window.studio.library.licks()[3].id)
    settled(qtbot, window)
    window.studio.practice.add(window.desk.to_practise())
    added = list(Practising(window.studio.library).items())[-1][1]
    assert added.kind is Kind.LICK
    assert len(added.cards) == 12


def test_nothing_to_practise_leads_on(qtbot: QtBot, window: MainWindow, desk: PracticeDesk) -> None:
    for name in list(desk.agenda.items):
        desk.agenda.remove(name)
    settled(qtbot, window)
    assert desk.to_shelf.isVisible()
    assert not desk.page.isVisible()
    assert desk.made is None
    desk.undo_stack.undo()
    settled(qtbot, window)
    assert desk.page.isVisible()


# -- the run --------------------------------------------------------------------------------------------------


def test_the_run_follows_what_is_wished(qtbot: QtBot, window: MainWindow, desk: PracticeDesk) -> None:
    on_stand(qtbot, desk, phrase(desk))
    run = desk.side.run
    run.passes.setValue(3)
    run.tempo.setValue(90)
    run.step.setValue(10)
    settled(qtbot, window)
    assert desk.made is not None
    assert [one.tempo for one in desk.made.run.passes] == [90, 100, 110]
    assert desk.music() is not None
    assert desk.music().notes == ()  # type: ignore[union-attr]
    run.way.setCurrentIndex(run.way.findData(Way.ANSWER))
    settled(qtbot, window)
    assert [one.is_played for one in desk.made.run.passes] == [False, True] * 3
    run.way.setCurrentIndex(run.way.findData(Way.ALONG))
    run.fading.setCurrentIndex(run.fading.findData(Fading.CHORDS))
    settled(qtbot, window)
    assert desk.made.page.notes == ()
    assert desk.made.whole.notes


def test_a_run_goes_through_the_keys_without_being_touched(
    qtbot: QtBot, window: MainWindow, desk: PracticeDesk
) -> None:
    name = next(name for name, item in desk.agenda.items.items() if len(item.cards) == 12)
    on_stand(qtbot, desk, name)
    desk.side.run.way.setCurrentIndex(desk.side.run.way.findData(Way.KEYS))
    desk.side.run.passes.setValue(1)
    settled(qtbot, window)
    assert desk.made is not None
    assert sorted(one.key for one in desk.made.run.passes) == list(range(12))
    qtbot.keyClick(desk.page, Qt.Key.Key_Space)
    qtbot.waitUntil(lambda: desk.studio.transport.is_playing, timeout=10000)
    seen = set()
    while desk.studio.transport.is_playing:
        pass_seconds(desk, 1.0)
        seen.add(desk.controls.detail.text())
    assert len(seen) >= 12


def test_written_pitch_is_shown_and_concert_pitch_is_heard(
    qtbot: QtBot, window: MainWindow, desk: PracticeDesk
) -> None:
    on_stand(qtbot, desk, phrase(desk))
    assert desk.made is not None
    before = [note.pitch.midi for note in desk.made.page.notes]
    window.studio.view.set_reader("Alto saxophone")
    window.studio.view.set_written(True)
    settled(qtbot, window)
    assert {note.pitch.midi - midi for note, midi in zip(desk.made.page.notes, before, strict=True)} == {9}
    assert [note.pitch.midi for note in desk.made.run.shown.notes] == before
    assert desk._head.about.text().startswith("D ·")


def test_the_stand_has_only_the_music(qtbot: QtBot, desk: PracticeDesk) -> None:
    on_stand(qtbot, desk, phrase(desk))
    usual = desk.page.zoom
    qtbot.keyClick(desk.page, Qt.Key.Key_T)
    assert not desk.side.isVisible()
    assert not desk.strip.isVisible()
    assert desk.page.zoom > usual
    assert desk.escape()
    assert desk.side.isVisible()
    assert desk.page.zoom == usual


# -- answers --------------------------------------------------------------------------------------------------


def test_an_answer_plans_it_again_writes_the_log_and_goes_on(
    qtbot: QtBot, window: MainWindow, desk: PracticeDesk
) -> None:
    first = desk.agenda.chosen
    assert first is not None
    settled(qtbot, window)
    desk.page.setFocus()
    assert not desk.can_answer
    played(qtbot, desk)
    assert desk.can_answer
    log = len(desk.agenda.log)
    qtbot.keyClick(desk.page, Qt.Key.Key_3)
    assert desk.agenda.chosen != first
    assert len(desk.agenda.log) == log + 1
    entry = desk.agenda.log[0][1]
    assert (entry.item, entry.number) == first
    assert entry.answer == Answer.WELL
    assert entry.seconds >= 60
    card = desk.agenda.items[first[0]].card(first[1])
    assert card.tempo == entry.tempo > 0
    assert datetime.fromisoformat(card.memory.due) > datetime.now(UTC) + timedelta(hours=20)
    window.undo.undo()
    assert len(desk.agenda.log) == log
    assert desk.agenda.items[first[0]].card(first[1]) != card
    window.undo.redo()
    assert desk.agenda.items[first[0]].card(first[1]) == card


def test_a_library_that_cannot_be_written_keeps_the_answer_open(
    qtbot: QtBot, window: MainWindow, desk: PracticeDesk, monkeypatch: pytest.MonkeyPatch
) -> None:
    settled(qtbot, window)
    desk.page.setFocus()
    played(qtbot, desk)
    before = desk.agenda.item

    def fail(*_: object) -> None:
        raise LibraryError("The disk is full.")

    with monkeypatch.context() as patched:
        patched.setattr(Library, "save_document", fail)
        desk.answer(Answer.WELL)
        assert "disk is full" in window.notice.text.text()
    assert desk.agenda.item == before or desk.agenda.items[desk.agenda.log[0][1].item]


def test_the_next_run_begins_where_the_last_one_led(qtbot: QtBot, window: MainWindow, desk: PracticeDesk) -> None:
    name = phrase(desk)
    on_stand(qtbot, desk, name)
    desk.side.run.tempo.setValue(100)
    settled(qtbot, window)
    played(qtbot, desk)
    desk.answer(Answer.WELL)
    item = desk.agenda.items[name]
    desk.agenda.choose(name, 0)
    assert desk.first_tempo(item, 0) == 104
    settled(qtbot, window)
    desk.side.run.tempo.setValue(100)
    settled(qtbot, window)
    played(qtbot, desk)
    desk.answer(Answer.NOT_YET)
    desk.agenda.choose(name, 0)
    assert desk.first_tempo(desk.agenda.items[name], 0) == 90


# -- takes ----------------------------------------------------------------------------------------------------


def recorded(qtbot: QtBot, window: MainWindow, desk: PracticeDesk, manner: Manner) -> None:
    """An invented take was recorded and judged."""
    on_stand(qtbot, desk, phrase(desk))
    desk.side.run.passes.setValue(1)
    desk.side.run.tempo.setValue(120)
    settled(qtbot, window)
    desk.side.take.source.setCurrentIndex(desk.side.take.source.findData(manner))
    desk.page.setFocus()
    qtbot.keyClick(desk.page, Qt.Key.Key_R)
    qtbot.waitUntil(lambda: desk.taking.recorder.is_recording, timeout=20000)
    qtbot.waitUntil(lambda: desk.studio.transport.is_playing, timeout=20000)
    assert "Recording" in desk.controls.light.text()
    while desk.studio.transport.is_playing:
        desk.taking.simulated.pass_seconds(0.5)
        pass_seconds(desk, 0.5)
    desk.taking.simulated.pass_seconds(0.5)
    qtbot.waitUntil(lambda: not desk.taking.recorder.is_recording, timeout=5000)
    qtbot.waitUntil(lambda: desk.takes.shown is not None and bool(desk.takes.shown.sound), timeout=60000)
    settled(qtbot, window)


@pytest.mark.slow
def test_a_take_is_recorded_judged_kept_and_told(qtbot: QtBot, window: MainWindow, desk: PracticeDesk) -> None:
    recorded(qtbot, window, desk, Manner.WRONG_NOTES)
    take = desk.takes.shown
    assert take is not None
    assert take.take.count(Verdict.RIGHT) > 0.6 * len(take.take.notes)
    assert take.take.count(Verdict.WRONG) > 0
    assert take.take.tempo == pytest.approx(120, rel=0.03)
    assert dict(desk.page.marked)
    assert desk.side.take.report.count() > 2
    sound = desk.taking.recorder._folder / take.sound
    data, rate = soundfile.read(sound)
    assert len(data) / rate > 7
    assert not list(desk.taking.recorder._folder.glob("*.part"))
    assert desk.controls.light.text() == ""
    # It is there after a start, can be heard, deleted, and put back.
    assert desk.takes.all[0][1] == take
    desk.takes.hear()
    assert desk.takes.player.is_playing
    desk.takes.hear()
    assert not desk.takes.player.is_playing
    number = len(desk.takes.all)
    desk.takes.delete()
    assert len(desk.takes.all) == number - 1
    assert desk.takes.shown is None
    window.undo.undo()
    assert len(desk.takes.all) == number


@pytest.mark.slow
def test_what_the_take_says_is_looped(qtbot: QtBot, window: MainWindow, desk: PracticeDesk) -> None:
    recorded(qtbot, window, desk, Manner.STOPPED)
    desk.work_on_next()
    qtbot.waitUntil(lambda: desk.studio.transport.is_playing, timeout=20000)
    assert desk.studio.transport.loop
    assert len(desk._selected) > 1
    assert desk.takes.shown is None
    assert not desk.page.marked


def test_an_old_take_is_looked_at_and_left(qtbot: QtBot, window: MainWindow, desk: PracticeDesk) -> None:
    on_stand(qtbot, desk, phrase(desk))
    desk.takes.choose(desk.takes.all[0][0])
    settled(qtbot, window)
    assert desk.page.marked
    assert not desk.side.take.hear.isVisibleTo(desk.side)
    # Another instrument's reading is shown with the same marks.
    window.studio.view.set_reader("Alto saxophone")
    window.studio.view.set_written(True)
    settled(qtbot, window)
    assert desk.page.marked
    assert desk.escape()
    assert not desk.page.marked
    assert desk.takes.shown is None


def test_no_microphone_is_told_and_nothing_is_left_behind(qtbot: QtBot, window: MainWindow, desk: PracticeDesk) -> None:
    on_stand(qtbot, desk, phrase(desk))
    desk.taking.hear(CardMicrophone("none", desk), desk.made.run)  # type: ignore[union-attr]
    assert "No microphone is connected" in window.notice.text.text()
    assert not desk.taking.recorder.is_recording
    assert not list(desk.taking.recorder._folder.glob("*.part"))


def test_a_microphone_that_goes_away_keeps_what_was_heard(qtbot: QtBot, window: MainWindow, desk: PracticeDesk) -> None:
    on_stand(qtbot, desk, phrase(desk))
    source = SimulatedMicrophone(desk)
    source.prepare(np.full((44100, 2), 900, np.int16))
    desk.taking.hear(source, desk.made.run)  # type: ignore[union-attr]
    qtbot.waitUntil(lambda: desk.studio.transport.is_playing, timeout=20000)
    source.pass_seconds(1.0)
    source.stopped.emit("The microphone has gone.")
    assert "has gone" in window.notice.text.text()
    assert not desk.taking.recorder.is_recording
    qtbot.waitUntil(lambda: desk.takes.shown is not None and bool(desk.takes.shown.sound), timeout=60000)
    sound = desk.taking.recorder._folder / desk.takes.shown.sound  # type: ignore[union-attr]
    assert soundfile.info(sound).duration == pytest.approx(1.0, abs=0.01)


def test_a_take_from_a_file_is_judged(
    qtbot: QtBot, window: MainWindow, desk: PracticeDesk, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    on_stand(qtbot, desk, phrase(desk))
    broken, silent = tmp_path / "broken.wav", tmp_path / "silent.wav"
    broken.write_bytes(b"no sound")
    soundfile.write(silent, np.zeros(44100), 44100)
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_, **__: (str(broken), ""))
    desk.choose_file()
    settled(qtbot, window)
    assert "broken.wav" in window.notice.text.text()
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_, **__: (str(silent), ""))
    desk.choose_file()
    settled(qtbot, window)
    assert "silent" in window.notice.text.text()
    assert desk.takes.shown is not None
    assert desk.takes.shown.take.sure == 0


# -- the goal and the log -------------------------------------------------------------------------------------


def test_the_goal_is_changed_and_undone(qtbot: QtBot, window: MainWindow, desk: PracticeDesk) -> None:
    name = phrase(desk)
    on_stand(qtbot, desk, name)
    before = desk.agenda.items[name]
    desk.side.run.goal.setValue(200)
    desk.side.run.words.setText("leave two bars empty")
    desk.side.run.words.editingFinished.emit()
    changed = Practising(window.studio.library).items()
    assert dict(changed)[name].goal == 200
    assert dict(changed)[name].words == "leave two bars empty"
    assert "leave two bars empty" in desk._head.about.text()
    window.undo.undo()
    window.undo.undo()
    assert desk.agenda.items[name] == before


def test_the_log_is_searched_changed_and_exported(
    qtbot: QtBot, window: MainWindow, desk: PracticeDesk, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    panel = desk.side.log
    desk.side.show_page("log")
    every = panel.rows.count()
    assert every == len(desk.agenda.log)
    panel.search.setText("hesitated")
    assert 0 < panel.rows.count() < every
    panel.search.clear()
    panel.rows.setCurrentRow(0)
    panel.own_tags.setText("rushed, in the bridge")
    panel.own_tags.editingFinished.emit()
    assert desk.agenda.log[0][1].tags == ("rushed", "in the bridge")
    window.undo.undo()
    assert desk.agenda.log[0][1].tags != ("rushed", "in the bridge")
    panel.delete.click()
    assert len(desk.agenda.log) == every - 1
    window.undo.undo()
    assert len(desk.agenda.log) == every
    for name in ("log.csv", "log.md"):
        path = tmp_path / name
        monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_, p=path, **__: (str(p), ""))
        desk.export_log()
        settled(qtbot, window)
        assert desk.agenda.log[0][1].name in path.read_text()


def test_how_the_run_was_wished_is_kept_until_the_next_start(desk: PracticeDesk) -> None:
    run = desk.side.run
    run.passes.setValue(7)
    run.way.setCurrentIndex(run.way.findData(Way.ANSWER))
    run.soloist.setChecked(True)
    desk.side.show_page("all")
    kept = desk.remembered()
    run.passes.setValue(2)
    run.soloist.setChecked(False)
    desk.side.show_page("run")
    desk.recall(kept)
    assert (run.wishes.passes, run.wishes.way, run.wishes.with_soloist) == (7, Way.ANSWER, True)
    assert desk.side.page_shown == "all"
    desk.recall("")
    desk.recall("log,nonsense,x")
    assert desk.side.page_shown == "log"


def test_the_click_is_heard_where_it_is_wished(qtbot: QtBot, window: MainWindow, desk: PracticeDesk) -> None:
    on_stand(qtbot, desk, phrase(desk))
    panel, transport = desk.side.run, desk.studio.transport
    assert panel.click.currentData() is None
    panel.click.setCurrentIndex(panel.click.findData(Click.TWO_AND_FOUR))
    panel.click.activated.emit(panel.click.currentIndex())
    assert transport.click is Click.TWO_AND_FOUR
    assert transport.levels[Voice.CLICK] > 0
    qtbot.keyClick(desk.page, Qt.Key.Key_Space)
    qtbot.waitUntil(lambda: transport.is_playing, timeout=10000)
    performance = transport._prepared.performance
    assert performance is not None
    clicks = [sound for sound in performance.sounds if sound.voice is Voice.CLICK]
    assert desk.made is not None
    bars = len(BarGrid(desk.made.run.shown).bars)
    assert len(clicks) == 2 * bars
    panel.click.setCurrentIndex(0)
    panel.click.activated.emit(0)
    assert transport.levels[Voice.CLICK] == 0


def test_a_take_is_played_on_a_keyboard(qtbot: QtBot, window: MainWindow, desk: PracticeDesk) -> None:
    on_stand(qtbot, desk, phrase(desk))
    desk.side.run.passes.setValue(1)
    desk.side.run.tempo.setValue(100)
    settled(qtbot, window)
    assert desk.made is not None
    now = [10.0]
    desk.taking.recorder.clock = lambda: now[0]
    desk.taking.hear(desk.taking.keyboard, desk.made.run)  # type: ignore[union-attr]
    assert desk.taking.recorder.is_recording
    assert desk.taking.recorder.is_of_keys
    now[0] = 12.0
    qtbot.waitUntil(lambda: desk.studio.transport.is_playing, timeout=10000)
    solo = desk.made.run.shown
    timeline = Timeline(solo, Fraction(1))
    for note in solo.notes[:-1]:
        now[0] = 12 + timeline.seconds(note.onset)
        desk.taking.keyboard.play(note.pitch.midi)
        now[0] = 12 + timeline.seconds(note.end) - 0.02
        desk.taking.keyboard.let_go(note.pitch.midi)
    desk.taking.stop()
    qtbot.waitUntil(lambda: desk.takes.shown is not None, timeout=20000)
    assert desk.takes.shown is not None
    assert desk.takes.shown.take.count(Verdict.RIGHT) == len(solo.notes) - 1
    assert desk.takes.shown.take.notes[-1].verdict is Verdict.MISSED
    assert not desk.taking.recorder.is_recording


def test_an_ear_lesson_asks_tells_and_remembers(qtbot: QtBot, window: MainWindow, desk: PracticeDesk) -> None:
    desk.ears.chance.seed(5)
    desk.side.tabs["ears"].click()
    for lesson in (Lesson.DEGREE, Lesson.LANDING, Lesson.APPROACH, Lesson.COLLECTION):
        desk.side.ears.lesson.setCurrentIndex(desk.side.ears.lesson.findData(lesson))
        qtbot.waitUntil(
            lambda wanted=lesson: desk.ears.question is not None and desk.ears.question.lesson is wanted, timeout=20000
        )
        settled(qtbot, window)
        question = desk.ears.question
        assert question is not None
        assert question.right in question.choices
        assert len(set(question.choices)) == len(question.choices)
        wrong = next(choice for choice in question.choices if choice != question.right)
        button = next(b for b in desk.side.ears.answers if b.text() == wrong)
        button.click()
        assert question.right in desk.side.ears.told.text()
        assert desk.ears.confusions.count(lesson, question.right, wrong) == 1
        assert f"{question.right} taken for {wrong}" in desk.side.ears.mistaken.text()
    kept = window.studio.library.kept(CONFUSIONS_DOCUMENT)
    assert kept == desk.ears.confusions


def test_what_the_loudspeaker_plays_is_no_added_note(qtbot: QtBot, window: MainWindow, desk: PracticeDesk) -> None:
    on_stand(qtbot, desk, phrase(desk))
    desk.side.run.passes.setValue(1)
    desk.side.run.way.setCurrentIndex(desk.side.run.way.findData(Way.ANSWER))
    settled(qtbot, window)
    assert desk.made is not None
    run = desk.made.run
    line = due_line(run.played_notes())
    timeline = Timeline(run.shown, Fraction(1))
    # Everything is heard: what is played to the player, and the answer; and one foreign note in the answer.
    heard = [
        DraftNote(1 + timeline.seconds(note.onset), 1 + timeline.seconds(note.end) - 0.02, note.pitch.midi, 1.0)
        for note in run.shown.notes
    ]
    foreign = DraftNote(heard[-1].end + 0.1, heard[-1].end + 0.3, 90, 1.0)
    take = take_of_notes(line, [*heard, foreign], start=1.0)
    assert take.count(Verdict.RIGHT) == len(line.notes)
    kept = without_loudspeaker(run, line, take)
    assert [note.midi for note in kept.added] == [90]


def test_what_is_known_with_ease_is_said_gently(
    qtbot: QtBot, window: MainWindow, desk: PracticeDesk, monkeypatch: pytest.MonkeyPatch
) -> None:
    name = phrase(desk)
    on_stand(qtbot, desk, name)
    played(qtbot, desk)
    desk.answer(Answer.WITH_EASE)
    said: list[str] = []
    monkeypatch.setattr(window.studio.asks, "tell", said.append)
    desk.agenda.choose(name, 0)
    assert any("with ease" in words for words in said)


@pytest.mark.slow
def test_what_is_played_over_changes_becomes_a_solo(qtbot: QtBot, window: MainWindow, desk: PracticeDesk) -> None:
    window.open_solo(window.studio.library.solos()[0].id)
    settled(qtbot, window)
    window.show_desk("label")
    qtbot.keyClick(window.desks["label"].page, Qt.Key.Key_C, CONTROL_ALT)  # type: ignore[attr-defined]
    window.notice.action.click()
    settled(qtbot, window)
    assert window.desk is desk
    item = desk.agenda.item
    assert item is not None
    assert item.kind is Kind.CHANGES
    assert item.music.chords
    desk.side.run.passes.setValue(1)
    desk.side.run.tempo.setValue(200)
    settled(qtbot, window)
    assert desk.made is not None
    assert desk.made.run.shown.notes == ()
    assert len(desk.made.run.passes) == 1
    solos = len(window.studio.library.solos())
    desk.side.take.source.setCurrentIndex(desk.side.take.source.findData(Manner.CLEAN))
    desk.page.setFocus()
    qtbot.keyClick(desk.page, Qt.Key.Key_R)
    qtbot.waitUntil(lambda: desk.studio.transport.is_playing, timeout=20000)
    for _ in range(24):
        desk.taking.simulated.pass_seconds(0.5)
        pass_seconds(desk, 0.5)
    desk.taking.stop()
    qtbot.waitUntil(lambda: len(window.studio.library.solos()) == solos + 1, timeout=60000)
    settled(qtbot, window)
    entry = window.studio.library.solos()[0]
    assert entry.title.startswith(item.name)
    solo = window.studio.library.solo(entry.id)
    assert len(solo.notes) > 10
    assert len(solo.chords) == len(desk.made.run.shown.chords)
    qtbot.waitUntil(lambda: window.studio.library.recording(entry.id) is not None, timeout=20000)
    recording = window.studio.library.recording(entry.id)
    assert recording is not None
    assert (window.studio.library.folder / recording.path).is_file()
    assert len(recording.beats.times) >= 8
    told = [desk.side.take.report.item(row).text() for row in range(desk.side.take.report.count())]  # type: ignore[union-attr]
    assert told[0].startswith("Your solo")
    window.undo.undo()
    assert len(window.studio.library.solos()) == solos


def test_a_take_that_was_interrupted_is_kept(qtbot: QtBot, open_window: OpenWindow, demo_folder: Path) -> None:
    folder = demo_folder / "takes"
    folder.mkdir(exist_ok=True)
    (folder / "left.part").write_bytes(np.full((44100, 2), 500, "<i2").tobytes())
    window = open_window(demo_folder)
    window.show_desk("practice")
    qtbot.waitUntil(lambda: (folder / "left.flac").exists() and not (folder / "left.part").exists(), timeout=20000)
    settled(qtbot, window)
    assert soundfile.info(folder / "left.flac").frames == 44100
