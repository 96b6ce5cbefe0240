"""The Practice desk: the band, what is added from a dialog, and a tempo that climbs."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path

import mido
import pytest
import soundfile
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QFileDialog
from pytestqt.qtbot import QtBot
from tests.desktop.at_practice import on_stand, opened, pass_seconds, phrase, settled

from gavotte.desktop.desks.practice.desk import PracticeDesk
from gavotte.desktop.desks.practice.new_dialogs import ChangesDialog, ScaleDialog
from gavotte.desktop.shell.window import MainWindow
from gavotte.library.errors import LibraryError
from gavotte.practice.band import Ending, Intro
from gavotte.practice.climbing import When
from gavotte.practice.item import Kind
from gavotte.practice.run import Fading, Part
from gavotte.practice.take import Verdict
from gavotte.sounding.backing import Feel, Intensity
from gavotte.sounding.groove import Groove
from gavotte.sounding.timeline import Timeline

CONTROL_SHIFT = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier


@pytest.fixture
def desk(qtbot: QtBot, window: MainWindow) -> PracticeDesk:
    shown = opened(qtbot, window)
    on_stand(qtbot, shown, phrase(shown))
    return shown


def choose(desk: PracticeDesk, name: str, value: object) -> None:
    choice = getattr(desk.side.band, name)
    choice.setCurrentIndex(choice.findData(value))
    choice.activated.emit(choice.currentIndex())


# -- the band -------------------------------------------------------------------------------------------------


def test_the_band_of_an_item_is_kept_and_undone(qtbot: QtBot, window: MainWindow, desk: PracticeDesk) -> None:
    choose(desk, "groove", Groove.BOSSA)
    choose(desk, "feel", Feel.IN_TWO)
    choose(desk, "intro", Intro.TURNAROUND)
    choose(desk, "ending", Ending.HELD)
    settled(qtbot, window)
    assert desk.made is not None
    assert desk.made.run.shown.style == "bossa"
    assert [one.part for one in desk.made.run.passes][:: len(desk.made.run.passes) - 1] == [Part.INTRO, Part.ENDING]
    assert desk.bandstand.backing.feel is Feel.IN_TWO
    assert desk.bandstand.backing.held_from is not None
    kept = desk.agenda.kept.items()
    assert next(item for name, item in kept if name == phrase(desk)).band.groove is Groove.BOSSA
    for _ in range(4):
        desk.undo_stack.undo()
    settled(qtbot, window)
    assert {one.part for one in desk.made.run.passes} == {Part.MUSIC}
    assert desk.side.band.groove.currentData() is None
    assert desk.bandstand.backing.feel is Feel.STYLE


def test_a_band_is_offered_only_what_the_meter_allows(desk: PracticeDesk, qtbot: QtBot) -> None:
    grooves = {desk.side.band.groove.itemData(k) for k in range(desk.side.band.groove.count())}
    assert grooves == {None, Groove.SWING, Groove.BALLAD, Groove.BOSSA, Groove.STRAIGHT}
    waltz = next(name for name, item in desk.agenda.items.items() if item.music.meters[0].meter.count == 3)
    on_stand(qtbot, desk, waltz)
    grooves = {desk.side.band.groove.itemData(k) for k in range(desk.side.band.groove.count())}
    assert grooves == {None, Groove.WALTZ}


def test_another_band_by_its_key_is_another_seed(qtbot: QtBot, window: MainWindow, desk: PracticeDesk) -> None:
    before = desk.bandstand.backing.seed
    qtbot.keyClick(desk.page, Qt.Key.Key_B)
    settled(qtbot, window)
    assert desk.bandstand.backing.seed not in (before, 0)
    assert desk.side.band.seed.value() == desk.bandstand.backing.seed
    desk.undo_stack.undo()
    settled(qtbot, window)
    assert desk.bandstand.backing.seed == before


def test_a_new_band_each_time_it_begins(qtbot: QtBot, window: MainWindow, desk: PracticeDesk) -> None:
    desk.side.band.each_time.setChecked(True)
    settled(qtbot, window)
    seeds = {desk.bandstand.backing.seed}
    for _ in range(3):
        qtbot.keyClick(desk.page, Qt.Key.Key_Space)
        qtbot.waitUntil(lambda: desk.studio.transport.is_playing, timeout=10000)
        assert desk.studio.transport._prepared.backing == desk.bandstand.backing
        qtbot.keyClick(desk.page, Qt.Key.Key_Space)
        assert desk.side.band.seed.value() == desk.bandstand.backing.seed
        seeds.add(desk.bandstand.backing.seed)
    assert len(seeds) > 2


@pytest.mark.parametrize("suffix", [".wav", ".flac", ".mid"])
def test_the_band_is_taken_away_as_a_file(
    qtbot: QtBot, window: MainWindow, desk: PracticeDesk, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, suffix: str
) -> None:
    desk.side.run.passes.setValue(1)
    settled(qtbot, window)
    path = tmp_path / f"band{suffix}"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(path), ""))
    desk.side.band.file.click()
    settled(qtbot, window)
    assert desk.made is not None
    timeline = Timeline(desk.made.run.heard, Fraction(1))
    seconds = timeline.seconds(timeline.end)
    if suffix == ".mid":
        file = mido.MidiFile(path)
        assert [track.name for track in file.tracks][1:] == ["Bass", "Chords", "Drums"]
        assert file.length == pytest.approx(seconds, abs=1.0)
    else:
        assert soundfile.info(path).duration == pytest.approx(seconds + 1.5, abs=0.3)


def test_a_band_that_cant_be_written_is_told(
    qtbot: QtBot, window: MainWindow, desk: PracticeDesk, tmp_path: Path
) -> None:
    desk.bandstand.write(tmp_path / "nowhere" / "band.mid")
    settled(qtbot, window)
    assert "band.mid" in window.notice.text.text()


# -- from a dialog --------------------------------------------------------------------------------------------


def test_changes_of_a_form_become_something_to_practise(qtbot: QtBot, window: MainWindow, desk: PracticeDesk) -> None:
    qtbot.keyClick(desk.page, Qt.Key.Key_H, CONTROL_SHIFT)
    dialog = desk.adding.dialog
    assert isinstance(dialog, ChangesDialog)
    dialog.form.setCurrentIndex(5)
    dialog.form.activated.emit(5)
    dialog.tonic.setCurrentIndex(dialog.tonic.findData("F"))
    dialog.tonic.activated.emit(0)
    assert dialog.chords.toPlainText().startswith("| Fm7")
    dialog.tempo.setValue(140)
    dialog.yes.click()
    settled(qtbot, window)
    item = desk.agenda.item
    assert item is not None
    assert item.kind is Kind.CHANGES
    assert item.goal == 140
    assert item.name == "Minor blues in F minor"
    assert item.music.chords[0].text == "Fm7"
    assert not item.music.notes
    assert desk.made is not None
    assert len(desk.made.run.shown.chords) > len(item.music.chords)


def test_chords_that_cant_be_read_are_said_where_they_are_typed(
    qtbot: QtBot, window: MainWindow, desk: PracticeDesk
) -> None:
    desk.adding.changes()
    dialog = desk.adding.dialog
    assert isinstance(dialog, ChangesDialog)
    dialog.chords.setPlainText("| Dm7 | Hx9 |")
    assert not dialog.yes.isEnabled()
    assert "Hx9" in dialog.verdict.text()
    dialog.chords.setPlainText("")
    assert not dialog.yes.isEnabled()
    dialog.chords.setPlainText("| Dm7 | G7 |")
    assert dialog.yes.isEnabled()
    assert dialog.verdict.text() == "2 bars."
    before = len(desk.agenda.items)
    dialog.reject()
    settled(qtbot, window)
    assert len(desk.agenda.items) == before


def test_a_scale_becomes_an_exercise_in_twelve_keys_and_is_undone(
    qtbot: QtBot, window: MainWindow, desk: PracticeDesk
) -> None:
    before = len(desk.agenda.items)
    qtbot.keyClick(desk.page, Qt.Key.Key_Y, CONTROL_SHIFT)
    dialog = desk.adding.dialog
    assert isinstance(dialog, ScaleDialog)
    dialog.scale.setCurrentIndex(dialog.scale.findData("diminished"))
    dialog.scale.activated.emit(0)
    dialog.yes.click()
    settled(qtbot, window)
    item = desk.agenda.item
    assert item is not None
    assert item.kind is Kind.EXERCISE
    assert len(item.cards) == 12
    assert "diminished" in item.name
    while desk.undo_stack.canUndo():
        desk.undo_stack.undo()
    settled(qtbot, window)
    assert len(desk.agenda.items) == before


# -- climbing -------------------------------------------------------------------------------------------------


def climbing(qtbot: QtBot, desk: PracticeDesk, when: When) -> None:
    run = desk.side.run
    run.passes.setValue(4)
    run.step.setValue(6)
    run.when.setCurrentIndex(run.when.findData(when))
    run.need.setValue(1)
    settled(qtbot, desk.window())  # type: ignore[arg-type]


def test_the_tempo_climbs_where_the_player_says_a_pass_is_clean(
    qtbot: QtBot, window: MainWindow, desk: PracticeDesk
) -> None:
    climbing(qtbot, desk, When.CLEAN)
    assert desk.made is not None
    first = desk.made.run.turns[0].tempo
    qtbot.keyClick(desk.page, Qt.Key.Key_Space)
    qtbot.waitUntil(lambda: desk.studio.transport.is_playing, timeout=10000)
    tempos = []
    for clean in (True, False, True, False):
        pass_seconds(desk, 2.0)
        tempos.append(desk.climber.tempo)
        if clean:
            qtbot.keyClick(desk.page, Qt.Key.Key_C)
            assert desk.controls.clean.text() == "Clean: 1 of 1"
        number = desk.climber._pass
        for _ in range(40):
            if not desk.studio.transport.is_playing or desk.climber._pass != number:
                break
            pass_seconds(desk, 0.5)
    assert tempos == [first, first + 6, first + 6, first + 12]
    assert not desk.studio.transport.is_playing
    assert desk.tempo_reached == first + 12
    assert desk.side.run.tempo.value() == first + 12
    assert desk.studio.transport.pace == 1.0


def test_passes_on_a_keyboard_are_judged_one_by_one(qtbot: QtBot, window: MainWindow, desk: PracticeDesk) -> None:
    climbing(qtbot, desk, When.CLEAN)
    assert desk.made is not None
    run, recorder = desk.made.run, desk.taking.recorder
    now = [0.0]
    recorder.clock = lambda: now[0]
    seen: list[int] = []
    desk.taking.passed.connect(lambda take: seen.append(take.count(Verdict.RIGHT)))
    desk.taking._by_pass = True
    desk.taking.hear(desk.taking.keyboard, run)
    qtbot.waitUntil(lambda: desk.studio.transport.is_playing, timeout=10000)
    timeline, one = Timeline(run.shown, desk.studio.transport.swing_used(run.shown)), run.passes[0]
    for note in (note for note in run.shown.notes if note.onset < one.end):
        now[0] = timeline.seconds(note.onset)
        desk.taking.keyboard.play(note.pitch.midi)
        now[0] = timeline.seconds(note.end) - 0.01
        desk.taking.keyboard.let_go(note.pitch.midi)
    now[0] = timeline.seconds(one.end) + 0.1
    desk.climber._begun = 0.0
    pass_seconds(desk, timeline.seconds(one.end) + 0.1)
    settled(qtbot, window)
    assert seen == [sum(note.onset < one.end for note in run.shown.notes)]
    assert desk.climber.tempo == run.turns[0].tempo + 6
    desk.taking.stop()
    settled(qtbot, window)
    assert desk.takes.shown is not None
    assert desk.takes.shown.take.count(Verdict.RIGHT) == seen[0]


def test_after_minutes_the_tempo_climbs_by_itself(qtbot: QtBot, window: MainWindow, desk: PracticeDesk) -> None:
    climbing(qtbot, desk, When.MINUTES)
    assert desk.made is not None
    run = desk.made.run
    desk.climber.begin(run, desk.side.run.wishes.climb)
    for number, seconds in enumerate((10.0, 40.0, 70.0)):
        desk.climber.heard(float(run.passes[number].start), seconds)
    assert desk.climber.tempo == run.turns[0].tempo + 6
    assert not desk.controls.clean.isVisible()


# -- from memory ----------------------------------------------------------------------------------------------


def test_of_a_pass_in_the_lane_only_the_lane_is_drawn(qtbot: QtBot, window: MainWindow, desk: PracticeDesk) -> None:
    desk.side.run.passes.setValue(2)
    desk.side.run.fading.setCurrentIndex(desk.side.run.fading.findData(Fading.LANE))
    settled(qtbot, window)
    qtbot.waitUntil(lambda: desk.page.is_complete, timeout=20000)
    drawn = [item.isVisible() for line in desk.page.lines for item in line.note_items.values()]
    assert drawn
    assert not any(drawn)
    assert all(line.lane is not None for line in desk.page.lines)
    desk.side.run.fading.setCurrentIndex(desk.side.run.fading.findData(Fading.ALL))
    settled(qtbot, window)
    qtbot.waitUntil(lambda: desk.page.is_complete, timeout=20000)
    assert all(item.isVisible() for line in desk.page.lines for item in line.note_items.values())


def test_nothing_is_shown_where_that_is_wished_and_the_playhead_hides(
    qtbot: QtBot, window: MainWindow, desk: PracticeDesk
) -> None:
    desk.side.run.playhead.setChecked(True)
    desk.page.show_playhead(1.0)
    assert desk.page._playhead is None or not desk.page._playhead.isVisible()
    desk.side.run.playhead.setChecked(False)
    desk.page.show_playhead(1.0)
    assert desk.page._playhead is not None
    assert desk.page._playhead.isVisible()
    desk.side.run.fading.setCurrentIndex(desk.side.run.fading.findData(Fading.NOTHING))
    settled(qtbot, window)
    assert not desk.page.lines
    assert desk.made is not None
    assert desk.made.run.heard.chords


def test_how_a_run_is_wished_is_there_at_the_next_start(desk: PracticeDesk) -> None:
    run = desk.side.run
    run.when.setCurrentIndex(run.when.findData(When.MINUTES))
    run.need.setValue(3)
    run.playhead.setChecked(True)
    kept = desk.remembered()
    run.when.setCurrentIndex(0)
    run.need.setValue(1)
    run.playhead.setChecked(False)
    desk.recall(kept)
    assert run.wishes.when is When.MINUTES
    assert run.wishes.need == 3
    assert run.playhead.isChecked()
    assert desk.side.band.intensity.currentData() is Intensity.MIDDLE


def test_a_band_that_cant_be_kept_is_shown_as_it_was(
    qtbot: QtBot, window: MainWindow, desk: PracticeDesk, monkeypatch: pytest.MonkeyPatch
) -> None:
    def fail(*_: object) -> None:
        raise LibraryError("The library can't be written to.")

    monkeypatch.setattr(desk.agenda.kept, "save", fail)
    choose(desk, "feel", Feel.IN_TWO)
    settled(qtbot, window)
    assert "can't be written" in window.notice.text.text()
    assert desk.side.band.feel.currentData() is Feel.STYLE
    assert desk.bandstand.backing.feel is Feel.STYLE
    monkeypatch.undo()
    choose(desk, "feel", Feel.IN_TWO)
    settled(qtbot, window)
    assert desk.bandstand.backing.feel is Feel.IN_TWO
