"""The Listen desk: a recording opened, heard, slowed down, looped, and its beats tapped and mended."""

from __future__ import annotations

import errno
from pathlib import Path

import numpy as np
import pytest
import soundfile
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtWidgets import QLabel, QPushButton
from pytestqt.qtbot import QtBot
from tests.desktop.conftest import OpenWindow, stop_what_goes_on

from gavotte.desktop.playback.outputs import ManualOutput
from gavotte.desktop.shell.window import MainWindow
from gavotte.library.recordings import file_of
from gavotte.recording.beat_map import BeatMap
from gavotte.recording.filters import Side
from gavotte.recording.player import RATE

BEAT = 60 / 148
CTRL = Qt.KeyboardModifier.ControlModifier


def write_recording(path: Path, seconds: float = 20.0) -> Path:
    """A burst on every beat of the demo's first solo, bar 1 a second after the start."""
    out = np.zeros((round(seconds * RATE), 2), np.float32)
    burst = 0.5 * np.sin(2 * np.pi * 660 * np.arange(2000) / RATE) * np.hanning(2000)
    for count in range(int((seconds - 1.2) / BEAT)):
        at = round((1.0 + count * BEAT) * RATE)
        out[at : at + 2000] += burst[:, None].astype(np.float32)
    soundfile.write(path, out, RATE)
    return path


def attach(qtbot: QtBot, window: MainWindow, path: Path, copy: bool = True) -> None:
    window.use_recording(path)
    dialog = window.studio.beginning.recording_dialog
    assert dialog is not None
    dialog.copy.setChecked(copy)
    dialog.accept()
    qtbot.waitUntil(lambda: window.desks["listen"].has_recording)
    if copy:
        qtbot.waitUntil(lambda: window.studio.tape.recording is not None and window.studio.tape.recording.copied)
    qtbot.waitUntil(lambda: not dialog.isVisible())
    window.activateWindow()
    window.desks["listen"].wave.setFocus()
    qtbot.waitUntil(window.desks["listen"].wave.hasFocus)


@pytest.fixture
def listening(qtbot: QtBot, at_ferry: MainWindow, tmp_path: Path) -> MainWindow:
    """The window at the Listen desk, with a recording of the first demo solo."""
    attach(qtbot, at_ferry, write_recording(tmp_path / "take one.wav"))
    return at_ferry


def pass_seconds(window: MainWindow, seconds: float) -> np.ndarray:
    output = window.studio.deck.output
    assert isinstance(output, ManualOutput)
    block = output.pass_seconds(seconds)
    window.studio.deck._look()
    return np.asarray(block)


def key(qtbot: QtBot, window: MainWindow, name: Qt.Key, modifier: Qt.KeyboardModifier | None = None) -> None:
    qtbot.keyClick(window.desks["listen"].wave, name, modifier or Qt.KeyboardModifier.NoModifier)


def tap_beats(qtbot: QtBot, window: MainWindow, count: int) -> None:
    """Play from the start and tap on the first beats."""
    window.studio.deck.seek(0)
    key(qtbot, window, Qt.Key.Key_Space)
    pass_seconds(window, 1.0)
    for _ in range(count):
        key(qtbot, window, Qt.Key.Key_T)
        pass_seconds(window, BEAT)
    key(qtbot, window, Qt.Key.Key_Space)


def test_a_solo_without_a_recording_offers_to_open_one(at_ferry: MainWindow) -> None:
    at_ferry.show_desk("listen")
    assert at_ferry.desks["listen"].step.isVisible()
    assert "recording" in at_ferry.desks["listen"].step.text()
    assert not at_ferry.desks["listen"].wave.isVisible()
    assert not at_ferry.actions_of.action("listen.play").isEnabled()


def test_a_recording_is_copied_and_there_again_tomorrow(
    qtbot: QtBot, open_window: OpenWindow, listening: MainWindow, tmp_path: Path, demo_folder: Path
) -> None:
    recording = listening.studio.tape.recording
    assert recording is not None
    assert file_of(demo_folder, recording).read_bytes() == (tmp_path / "take one.wav").read_bytes()
    (tmp_path / "take one.wav").unlink()
    listening.studio.hearing.choose(2.0, 3.0)
    listening.close()
    again = open_window(demo_folder)
    qtbot.waitUntil(lambda: again.desks["listen"].has_recording)
    assert again.desks["listen"].isVisible()
    assert again.studio.tape.recording is not None
    assert again.studio.tape.recording.name == "take one.wav"
    assert again.studio.deck.region == (2 * RATE, 3 * RATE)


def test_space_plays_and_stops_and_the_playhead_moves(qtbot: QtBot, listening: MainWindow) -> None:
    key(qtbot, listening, Qt.Key.Key_Space)
    assert listening.studio.deck.is_playing
    block = pass_seconds(listening, 1.5)
    assert np.abs(block[: RATE // 2]).max() == 0
    assert np.abs(block[RATE:]).max() > 0.4
    assert listening.studio.deck.player is not None
    assert listening.studio.deck.player.position == pytest.approx(1.5 * RATE, abs=2)
    assert "0:01.5" in listening.desks["listen"].bar.place.text()
    key(qtbot, listening, Qt.Key.Key_Space)
    assert not listening.studio.deck.is_playing
    listening.show_desk("shelf")


def test_brackets_change_the_speed_while_it_plays(qtbot: QtBot, listening: MainWindow) -> None:
    key(qtbot, listening, Qt.Key.Key_Space)
    for _ in range(10):
        key(qtbot, listening, Qt.Key.Key_BracketLeft)
    assert listening.desks["listen"].bar.speed_words.text() == "50 %"
    pass_seconds(listening, 2.0)
    assert listening.studio.deck.player is not None
    assert listening.studio.deck.player.position == pytest.approx(1.0 * RATE, abs=3)
    key(qtbot, listening, Qt.Key.Key_Equal)
    assert listening.studio.deck.settings.speed == 1.0


def test_dragging_makes_a_loop_that_goes_round(qtbot: QtBot, listening: MainWindow) -> None:
    wave = listening.desks["listen"].wave
    wave.show_stretch(2.0, 6.0)
    left, right = QPoint(round(wave._x(3.0)), 100), QPoint(round(wave._x(4.0)), 100)
    qtbot.mousePress(wave, Qt.MouseButton.LeftButton, pos=left)
    qtbot.mouseMove(wave, right)
    qtbot.mouseRelease(wave, Qt.MouseButton.LeftButton, pos=right)
    region = listening.studio.hearing.region
    assert region == pytest.approx((3.0, 4.0), abs=0.02)
    key(qtbot, listening, Qt.Key.Key_7)
    pass_seconds(listening, 2.5)
    assert listening.studio.deck.player is not None
    assert listening.studio.deck.player.position / RATE == pytest.approx(3.5, abs=0.05)
    assert listening.studio.deck.player.passes == 2
    key(qtbot, listening, Qt.Key.Key_9)
    assert listening.studio.hearing.region == pytest.approx((4.0, 5.0), abs=0.05)
    key(qtbot, listening, Qt.Key.Key_N)
    assert listening.studio.deck.region is None


def test_clicking_goes_there(qtbot: QtBot, listening: MainWindow) -> None:
    wave = listening.desks["listen"].wave
    wave.show_stretch(2.0, 6.0)
    qtbot.mouseClick(wave, Qt.MouseButton.LeftButton, pos=QPoint(round(wave._x(5.0)), 100))
    assert listening.studio.deck.player is not None
    assert listening.studio.deck.player.position / RATE == pytest.approx(5.0, abs=0.02)


def test_taps_make_a_beat_map_that_ties_page_and_wave(qtbot: QtBot, listening: MainWindow) -> None:
    desk = listening.desks["listen"]
    tap_beats(qtbot, listening, 9)
    beats = listening.studio.tape.beats
    assert len(beats.times) == 9
    assert beats.times[0] == pytest.approx(1.0, abs=0.01)
    assert beats.beats_a_minute(4) == pytest.approx(148, rel=0.01)
    assert "9 beats" in desk.about.text()
    key(qtbot, listening, Qt.Key.Key_E)
    assert listening.studio.tape.beats.times[-1] > 19
    # A note on the page leads to its place in the recording.
    solo = listening.session.solo
    assert solo is not None
    fifth_bar = next(note for note in solo.notes if note.onset == 16)
    qtbot.waitUntil(lambda: desk.page.is_complete)
    desk.page.selection_wanted.emit(fifth_bar.id, fifth_bar.id)
    assert listening.studio.deck.player is not None
    assert listening.studio.deck.player.position / RATE == pytest.approx(1.0 + 16 * BEAT, abs=0.03)
    assert "Bar 5" in desk.bar.place.text()
    assert desk.page.playhead_x is not None
    # And the bar there becomes the loop.
    key(qtbot, listening, Qt.Key.Key_B)
    assert desk.hearing.region == pytest.approx((1.0 + 16 * BEAT, 1.0 + 20 * BEAT), abs=0.05)
    key(qtbot, listening, Qt.Key.Key_B)
    assert desk.hearing.region == pytest.approx((1.0 + 16 * BEAT, 1.0 + 24 * BEAT), abs=0.05)


def test_uneven_taps_are_moved_onto_what_is_heard_and_undo_brings_them_back(
    qtbot: QtBot, listening: MainWindow
) -> None:
    desk, tape = listening.desks["listen"], listening.studio.tape
    listening.studio.deck.seek(0)
    key(qtbot, listening, Qt.Key.Key_Space)
    pass_seconds(listening, 1.0)
    uneven = (0.02, -0.02, 0.025, -0.015, 0.01, -0.025)
    for count in range(16):
        key(qtbot, listening, Qt.Key.Key_T)
        if count == 3:
            assert "4 beats tapped" in desk.about.text()
        pass_seconds(listening, BEAT + uneven[count % 6])
    key(qtbot, listening, Qt.Key.Key_Space)
    tapped = tape.beats.times
    assert len(tapped) == 16
    qtbot.waitUntil(lambda: tape.undo_stack.count() == 2)
    true = 1.0 + BEAT * np.arange(16)
    away = np.array(tape.beats.times) - true
    assert np.abs(away - away.mean()).max() < 0.008
    assert np.abs(away).max() < 0.02 < np.abs(np.array(tapped) - true).max()
    assert "16 beats" in desk.about.text()
    key(qtbot, listening, Qt.Key.Key_Z, CTRL)
    assert tape.beats.times == tapped


def test_it_can_be_heard_whether_the_beat_is_twice_as_fast(qtbot: QtBot, listening: MainWindow) -> None:
    desk, tape, notice = listening.desks["listen"], listening.studio.tape, listening.notice
    key(qtbot, listening, Qt.Key.Key_F)
    qtbot.waitUntil(lambda: tape.beats.is_usable, timeout=20000)
    found = len(tape.beats.times)
    assert "twice as fast" in notice.action.text()
    notice.action.click()
    assert len(tape.beats.times) == 2 * found - 1
    assert listening.studio.deck.settings.click
    assert listening.studio.deck.is_playing
    assert "half as fast" in notice.action.text()
    notice.action.click()
    assert len(tape.beats.times) == found
    listening.studio.deck.stop()
    assert desk.about.text().endswith(f"{found} beats")


def test_where_nobody_plays_the_beat_taps_are_asked_for(qtbot: QtBot, at_ferry: MainWindow, tmp_path: Path) -> None:
    out, chance = np.zeros((20 * RATE, 2), np.float32), np.random.default_rng(5)
    for start in np.cumsum(chance.uniform(0.15, 1.1, 26)):
        at = round(float(start) * RATE)
        burst = 0.5 * np.sin(2 * np.pi * 500 * np.arange(5000) / RATE) * np.hanning(5000)
        out[at : at + 5000] += burst[: max(0, len(out) - at), None].astype(np.float32)
    soundfile.write(tmp_path / "alone.wav", out, RATE)
    attach(qtbot, at_ferry, tmp_path / "alone.wav")
    key(qtbot, at_ferry, Qt.Key.Key_F)
    qtbot.waitUntil(lambda: "Tap it" in at_ferry.notice.text.text(), timeout=20000)
    assert at_ferry.studio.tape.beats == BeatMap()


def test_beats_that_were_changed_meanwhile_are_not_settled(qtbot: QtBot, listening: MainWindow) -> None:
    tape = listening.studio.tape
    tap_beats(qtbot, listening, 9)
    key(qtbot, listening, Qt.Key.Key_D)
    listening.desks["listen"].double_beats()
    doubled = tape.beats
    qtbot.waitUntil(lambda: not listening.studio.activities.of(listening.desks["listen"].finder))
    assert tape.beats == doubled


def test_beats_are_mended_and_every_step_can_be_undone(qtbot: QtBot, listening: MainWindow) -> None:
    desk, tape, wave = listening.desks["listen"], listening.studio.tape, listening.desks["listen"].wave
    tape.edit_beats("Test", BeatMap((1.0, 1.5, 2.0, 2.5, 3.0)))
    wave.show_stretch(0.5, 3.5)
    place = QPoint(round(wave._x(2.0)), wave.height() - 4)
    there = QPoint(round(wave._x(2.2)), wave.height() - 4)
    qtbot.mousePress(wave, Qt.MouseButton.LeftButton, pos=place)
    qtbot.mouseMove(wave, there)
    qtbot.mouseRelease(wave, Qt.MouseButton.LeftButton, pos=there)
    assert tape.beats.times[2] == pytest.approx(2.2, abs=0.02)
    key(qtbot, listening, Qt.Key.Key_D)
    assert tape.beats.downbeat == 2
    key(qtbot, listening, Qt.Key.Key_Delete)
    assert tape.beats.times == (1.0, 1.5, 2.5, 3.0)
    desk.double_beats()
    assert len(tape.beats.times) == 7
    desk.halve_beats()
    desk._seek(0.4)
    key(qtbot, listening, Qt.Key.Key_T)
    assert tape.beats.times[0] == pytest.approx(0.4, abs=0.01)
    kept = listening.studio.library.recording(listening.session.solo_id or "")
    assert kept is not None
    assert kept.beats == tape.beats
    while tape.undo_stack.canUndo():
        qtbot.keyClick(listening, Qt.Key.Key_Z, CTRL)
    assert tape.beats == BeatMap()


def test_the_bar_shapes_what_is_heard(listening: MainWindow) -> None:
    bar, deck = listening.desks["listen"].bar, listening.studio.deck
    bar.semitones.setValue(2)
    bar.cents.setValue(-35)
    bar.pause.setValue(1.5)
    bar.side.setCurrentIndex(3)
    bar.side.activated.emit(3)
    bar.band.setCurrentIndex(2)
    bar.band.activated.emit(2)
    settings = deck.settings
    assert (settings.semitones, settings.cents, settings.pause) == (2, -35, 1.5)
    assert settings.side is Side.MIDDLE
    assert settings.band == (120.0, 700.0)
    assert listening.studio.tape.recording is not None
    assert listening.studio.tape.recording.cents == -35
    listening.studio.hearing.choose(1.0, 1.2)
    bar.ladder.click()
    assert settings.speed == 0.5
    listening.studio.hearing.again()
    bar.pause.setValue(0)
    pass_seconds(listening, 2.4)
    assert settings.speed == pytest.approx(0.6)
    assert bar.speed_words.text() == "60 %"


def test_a_recording_that_is_gone_can_be_found_again(
    qtbot: QtBot, open_window: OpenWindow, at_ferry: MainWindow, tmp_path: Path, demo_folder: Path
) -> None:
    path = write_recording(tmp_path / "outside.wav")
    attach(qtbot, at_ferry, path, copy=False)
    at_ferry.studio.tape.edit_beats("Test", BeatMap((1.0, 1.5)))
    at_ferry.close()
    path.rename(tmp_path / "moved.wav")
    again = open_window(demo_folder)
    assert again.desks["listen"].isVisible()
    assert "missing" in again.desks["listen"]._why_title.text()
    again.studio.tape.find_at(tmp_path / "moved.wav")
    qtbot.waitUntil(lambda: again.desks["listen"].has_recording)
    assert again.studio.tape.beats.times == (1.0, 1.5)
    again.close()
    write_recording(tmp_path / "moved.wav", 8.0)
    third = open_window(demo_folder)
    qtbot.waitUntil(lambda: third.desks["listen"].has_recording)
    assert "another file than before" in third.notice.text.text()
    assert third.studio.tape.beats.times == (1.0, 1.5)


@pytest.mark.parametrize("data", [b"", b"no music at all" * 50])
def test_a_file_that_is_no_recording_is_explained(
    qtbot: QtBot, at_ferry: MainWindow, tmp_path: Path, data: bytes
) -> None:
    (tmp_path / "bad.mp3").write_bytes(data)
    at_ferry.import_files([tmp_path / "bad.mp3"])
    assert at_ferry.studio.beginning.recording_dialog is not None
    with qtbot.waitSignal(at_ferry.studio.tape.failed):
        at_ferry.studio.beginning.recording_dialog.accept()
    assert "bad.mp3" in at_ferry.notice.text.text()
    assert at_ferry.studio.tape.recording is None
    assert at_ferry.desks["listen"].step.isVisible()


def test_a_recording_without_an_open_solo_begins_one(open_window: OpenWindow, tmp_path: Path) -> None:
    window = open_window(tmp_path / "new")
    window.show_desk("listen")
    window.import_files([write_recording(tmp_path / "a.wav", 2.0)])
    dialog = window.studio.beginning.new_dialog
    assert dialog is not None
    assert dialog.recording == tmp_path / "a.wav"
    dialog.reject()
    assert window.session.solo is None
    window.desks["listen"].step.click()
    assert window.desks["shelf"].isVisible()


def test_reading_a_recording_can_be_stopped(qtbot: QtBot, at_ferry: MainWindow, tmp_path: Path) -> None:
    path = write_recording(tmp_path / "long.wav", 120.0)
    at_ferry.use_recording(path)
    assert at_ferry.studio.beginning.recording_dialog is not None
    with qtbot.waitSignal(at_ferry.activities.changed):
        at_ferry.studio.beginning.recording_dialog.accept()
    assert at_ferry.activity_bar.isVisible()
    stop_what_goes_on(at_ferry)
    assert not at_ferry.activity_bar.isVisible()
    assert not at_ferry.studio.tape.is_loading
    assert at_ferry.studio.tape.recording is None


def test_the_recording_can_be_taken_away_and_another_solo_has_its_own(qtbot: QtBot, listening: MainWindow) -> None:
    other = next(e.id for e in listening.studio.library.solos() if e.id != listening.session.solo_id)
    first = listening.session.solo_id or ""
    listening.open_solo(other)
    listening.show_desk("listen")
    assert not listening.desks["listen"].has_recording
    listening.open_solo(first)
    listening.show_desk("listen")
    qtbot.waitUntil(lambda: listening.desks["listen"].has_recording)
    before = listening.studio.tape.recording
    listening.studio.tape.remove()
    assert not listening.desks["listen"].has_recording
    assert listening.studio.library.recording(first) is None
    qtbot.keyClick(listening, Qt.Key.Key_Z, CTRL)
    qtbot.waitUntil(lambda: listening.desks["listen"].has_recording)
    assert listening.studio.tape.recording == before == listening.studio.library.recording(first)


def test_another_recording_takes_its_place_and_the_first_comes_back_with_its_beats(
    qtbot: QtBot, listening: MainWindow, tmp_path: Path
) -> None:
    tape = listening.studio.tape
    tape.edit_beats("Test", BeatMap((1.0, 1.5, 2.0)))
    first = tape.recording
    attach(qtbot, listening, write_recording(tmp_path / "take two.wav", 9.0), copy=False)
    qtbot.waitUntil(lambda: tape.recording is not None and tape.recording.name == "take two.wav")
    assert tape.beats == BeatMap()
    qtbot.keyClick(listening, Qt.Key.Key_Z, CTRL)
    qtbot.waitUntil(lambda: listening.desks["listen"].has_recording)
    assert tape.recording == first
    qtbot.keyClick(listening, Qt.Key.Key_Z, CTRL | Qt.KeyboardModifier.ShiftModifier)
    qtbot.waitUntil(lambda: listening.desks["listen"].has_recording)
    assert tape.recording is not None
    assert tape.recording.name == "take two.wav"
    assert listening.studio.library.recording(listening.session.solo_id or "") == tape.recording


def test_a_card_that_goes_is_told_and_playing_goes_on(listening: MainWindow) -> None:
    listening.desks["listen"].toggle()
    output = listening.studio.deck.output
    assert output is not None
    output.stopped.emit("The sound card has gone.")
    assert listening.studio.deck.is_playing
    assert listening.studio.deck.output is not output
    assert "card" in listening.notice.text.text()
    listening.desks["listen"].toggle()


def test_beats_are_found_and_bar_one_is_where_it_is_put(qtbot: QtBot, listening: MainWindow) -> None:
    with qtbot.waitSignal(listening.desks["listen"].finder.found, timeout=20000):
        key(qtbot, listening, Qt.Key.Key_F)
    beats = listening.studio.tape.beats
    assert "beats were found" in listening.notice.text.text()
    assert beats.beats_a_minute(20) == pytest.approx(148, rel=0.02)
    near = beats.nearest(1.0)
    assert near is not None
    assert beats.times[near] == pytest.approx(1.0, abs=0.03)
    listening.desks["listen"]._seek(1.0 + BEAT)
    key(qtbot, listening, Qt.Key.Key_D)
    beats = listening.studio.tape.beats
    assert beats.times[beats.downbeat] == pytest.approx(1.0 + BEAT, abs=0.03)


def test_the_tuning_is_measured_and_put_right(qtbot: QtBot, at_ferry: MainWindow, tmp_path: Path) -> None:
    times = np.arange(6 * RATE) / RATE
    sharp = 440 * 2 ** (30 / 1200)
    sound = 0.2 * sum(np.sin(2 * np.pi * n * sharp * times) / n for n in range(1, 5))
    soundfile.write(tmp_path / "sharp.wav", np.stack([sound, sound], axis=1), RATE)
    attach(qtbot, at_ferry, tmp_path / "sharp.wav", copy=False)
    with qtbot.waitSignal(at_ferry.desks["listen"].finder.told, timeout=20000):
        key(qtbot, at_ferry, Qt.Key.Key_U)
    assert "30 cents sharp" in at_ferry.notice.text.text()
    assert at_ferry.studio.deck.settings.cents == -30
    assert at_ferry.desks["listen"].bar.cents.value() == -30


def test_pitches_are_seen_read_and_lead_to_their_notes(qtbot: QtBot, listening: MainWindow) -> None:
    desk, pitches = listening.desks["listen"], listening.desks["listen"].pitches
    qtbot.waitUntil(lambda: pitches._salience is not None, timeout=20000)
    listening.studio.tape.edit_beats("Test", BeatMap(tuple(1.0 + k * BEAT for k in range(40))))
    assert len(pitches._notes) > 60
    first = next(note for note in pitches._notes if note.start > 1.5)
    desk.wave.show_stretch(1.0, 4.0)
    place = QPoint(round(pitches._x((first.start + first.end) / 2)), round(pitches._y(first.midi)))
    qtbot.mouseClick(pitches, Qt.MouseButton.LeftButton, pos=place)
    assert listening.studio.deck.player is not None
    assert listening.studio.deck.player.position / RATE == pytest.approx(first.start, abs=0.02)
    # The bursts are an E5 a little flat: 660 Hz.
    there = QPoint(round(pitches._x(1.0 + 4 * BEAT + 0.02)), round(pitches._y(76)))
    with qtbot.waitSignal(pitches.read) as read:
        qtbot.mouseMove(pitches, there)
    assert read.args[0].startswith("E5 ")
    assert read.args[0] in desk.bar.place.text()
    before = pitches.grab().toImage()
    desk.wave.show_stretch(6.0, 7.0)
    assert pitches.grab().toImage() != before, "it shows the stretch the wave shows"
    listening.studio.deck.change(cents=50)
    with qtbot.waitSignal(pitches.read):
        qtbot.mouseMove(pitches, QPoint(there.x() + 3, there.y()))


def test_a_doubtful_note_is_weighed_heard_and_written(qtbot: QtBot, at_ferry: MainWindow, tmp_path: Path) -> None:
    """The recording has A4 where somebody wrote B flat."""
    session = at_ferry.session
    assert session.solo is not None
    note = next(note for note in session.solo.notes if note.onset == 0)
    assert str(note.pitch) == "A4"
    times = np.arange(4 * RATE) / RATE
    sound = 0.1 * sum(np.sin(2 * np.pi * n * 440 * times) / n for n in range(1, 9))
    soundfile.write(tmp_path / "a.wav", np.stack([sound, sound], axis=1), RATE)
    attach(qtbot, at_ferry, tmp_path / "a.wav", copy=False)
    desk = at_ferry.desks["listen"]
    with qtbot.waitSignals([desk.finder.seen, desk.finder.followed], timeout=20000):
        desk.finder.look()
    at_ferry.studio.tape.edit_beats("Test", BeatMap((1.0, 1.4, 1.8, 2.2)))
    session.selection.select(note.id, note.id)
    session.move(1)
    desk.pitches.note_chosen.emit(note.id)
    qtbot.waitUntil(desk.doubt.isVisible)
    assert desk.doubt.verdict.text().startswith("A4 ")
    assert "certain" in desk.doubt.verdict.text()
    buttons = {button.text(): button for button in desk.doubt.findChildren(QPushButton)}
    words = [label.text() for label in desk.doubt.findChildren(QLabel)]
    assert "3, chord tone" in words
    assert "written" in words
    buttons["A4"].click()
    assert at_ferry.studio.transport._preview_key == 69
    buttons["Hear the recording"].click()
    assert at_ferry.studio.deck.is_playing
    assert desk.hearing.region == pytest.approx((1.0, 1.6), abs=0.02)
    write = next(b for b in desk.doubt.findChildren(QPushButton) if b.toolTip() == "Write A4 here")
    write.click()
    assert session.solo is not None
    assert str(session.solo.note(note.id).pitch) == "A4"
    qtbot.waitUntil(lambda: "Write A4 here" not in [b.toolTip() for b in desk.doubt.findChildren(QPushButton)])
    session.undo_stack.undo()
    assert str(session.solo.note(note.id).pitch) == "Bb4"
    at_ferry.set_look("Stage")
    assert desk.doubt.isVisible()


def test_a_stretch_without_a_note_is_weighed_and_written(qtbot: QtBot, at_ferry: MainWindow, tmp_path: Path) -> None:
    times = np.arange(4 * RATE) / RATE
    sound = 0.1 * sum(np.sin(2 * np.pi * n * 440 * times) / n for n in range(1, 9))
    soundfile.write(tmp_path / "a.wav", np.stack([sound, sound], axis=1), RATE)
    attach(qtbot, at_ferry, tmp_path / "a.wav", copy=False)
    desk, session = at_ferry.desks["listen"], at_ferry.session
    key(qtbot, at_ferry, Qt.Key.Key_W)
    assert "beats are needed" in at_ferry.statusBar().currentMessage()  # type: ignore[union-attr]
    with qtbot.waitSignals([desk.finder.seen, desk.finder.followed], timeout=20000):
        desk.finder.look()
    at_ferry.studio.tape.edit_beats("Test", BeatMap((1.0, 1.4, 1.8, 2.2)))
    assert session.solo is not None
    written = next(note for note in session.solo.notes if note.onset == 0)
    desk.hearing.choose(1.0, 1.4)
    key(qtbot, at_ferry, Qt.Key.Key_W)
    qtbot.waitUntil(desk.doubt.isVisible)
    assert desk.doubt.verdict.text().startswith("A4 ")
    assert "written" not in [label.text() for label in desk.doubt.findChildren(QLabel)]
    next(b for b in desk.doubt.findChildren(QPushButton) if b.toolTip() == "Write A4 here").click()
    first = next(note for note in session.solo.notes if note.onset == 0)
    assert (first.pitch.midi, first.duration) == (69, 1)
    assert first.id != written.id


def test_the_lead_line_is_drawn_and_a_bends_peak_is_read_off(
    qtbot: QtBot, at_ferry: MainWindow, tmp_path: Path
) -> None:
    """Bar 1's first note, A4, is bent up by a whole tone."""
    count = np.arange(4 * RATE) / RATE
    midi = np.interp(count, [0.0, 1.2, 1.4, 4.0], [69.0, 69.0, 71.0, 71.0])
    phase = 2 * np.pi * np.cumsum(440 * 2 ** ((midi - 69) / 12)) / RATE
    sound = 0.1 * sum(np.sin(n * phase) / n for n in range(1, 9))
    soundfile.write(tmp_path / "bent.wav", np.stack([sound, sound], axis=1), RATE)
    attach(qtbot, at_ferry, tmp_path / "bent.wav", copy=False)
    desk = at_ferry.desks["listen"]
    at_ferry.studio.tape.edit_beats("Test", BeatMap((1.0, 1.4, 1.8, 2.2)))
    with qtbot.waitSignals([desk.finder.seen, desk.finder.followed], timeout=20000):
        desk.finder.look()
    words = desk.pitches.words_at(1.1, 69.0)
    assert words.startswith("A4 ")
    assert "peak is B4" in words
    with_line = desk.pitches.grab().toImage()
    desk.pitches.show_lead(None)
    assert desk.pitches.grab().toImage() != with_line
    assert "peak" not in desk.pitches.words_at(1.1, 69.0)


def test_the_edges_of_the_band_are_free(listening: MainWindow) -> None:
    bar, deck = listening.desks["listen"].bar, listening.studio.deck
    assert not bar.low.isVisible()
    bar.band.setCurrentIndex(bar.band.count() - 1)
    bar.band.activated.emit(bar.band.count() - 1)
    assert bar.low.isVisible()
    bar.low.setValue(440)
    bar.high.setValue(900)
    assert deck.settings.band == (440, 900)
    bar.high.setValue(100)
    assert deck.settings.band == (100, 440)
    bar.low.setValue(430)
    assert deck.settings.band == (430, pytest.approx(430 * 2 ** (1 / 3)))
    bar.band.setCurrentIndex(1)
    bar.band.activated.emit(1)
    assert (bar.low.value(), bar.high.value()) == deck.settings.band


def test_a_recording_deleted_while_it_is_open_plays_on_and_is_missed_later(
    qtbot: QtBot, open_window: OpenWindow, at_ferry: MainWindow, tmp_path: Path, demo_folder: Path
) -> None:
    path = write_recording(tmp_path / "outside.wav")
    attach(qtbot, at_ferry, path, copy=False)
    at_ferry.studio.tape.edit_beats("Test", BeatMap((1.0, 1.5)))
    path.unlink()
    key(qtbot, at_ferry, Qt.Key.Key_Space)
    assert np.abs(pass_seconds(at_ferry, 2.0)).max() > 0.1
    key(qtbot, at_ferry, Qt.Key.Key_Space)
    at_ferry.close()
    again = open_window(demo_folder)
    assert "missing" in again.desks["listen"]._why_title.text()
    assert again.studio.tape.beats.times == (1.0, 1.5)


def full_disk(*_: object) -> None:
    raise OSError(errno.ENOSPC, "No space left on device")


def test_a_disk_that_is_full_costs_nothing_but_the_copy(
    qtbot: QtBot, at_ferry: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = write_recording(tmp_path / "take.wav", 4.0)
    monkeypatch.setattr("gavotte.library.recordings.shutil.copyfile", full_disk)
    at_ferry.use_recording(path)
    assert at_ferry.studio.beginning.recording_dialog is not None
    with qtbot.waitSignal(at_ferry.studio.tape.failed):
        at_ferry.studio.beginning.recording_dialog.accept()
    assert "No space left" in at_ferry.notice.text.text()
    assert at_ferry.desks["listen"].has_recording, "it is used from where it is"


def test_a_disk_that_is_full_while_reading_is_explained(
    qtbot: QtBot, at_ferry: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = write_recording(tmp_path / "take.wav", 4.0)
    monkeypatch.setattr("gavotte.recording.decode._copy", full_disk)
    at_ferry.use_recording(path)
    assert at_ferry.studio.beginning.recording_dialog is not None
    with qtbot.waitSignal(at_ferry.studio.tape.failed):
        at_ferry.studio.beginning.recording_dialog.accept()
    assert "disk is full" in at_ferry.notice.text.text()
    assert not list((at_ferry.studio.library.folder / "decoded").glob("*")), "nothing half-written stays"
    assert at_ferry.studio.tape.recording is None
