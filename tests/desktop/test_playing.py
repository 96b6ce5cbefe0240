"""Playing from the window: keys, the playhead, loops, previews, settings, and a sound card that goes away."""

from __future__ import annotations

from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot
from tests.desktop.conftest import OpenWindow

from gavotte.desktop.playback.outputs import ManualOutput, SimulatedOutput
from gavotte.desktop.shell.window import MainWindow
from gavotte.sounding.engine import Engine
from gavotte.sounding.events import Voice
from gavotte.sounding.synth import SilentSynth


def start(qtbot: QtBot, window: MainWindow) -> ManualOutput:
    """Press the space bar on the page and wait until it plays."""
    qtbot.keyClick(window.desks["label"].page, Qt.Key.Key_Space)
    qtbot.waitUntil(lambda: window.studio.transport.is_playing)
    output = window.studio.transport.output
    assert isinstance(output, ManualOutput)
    return output


def listen(window: MainWindow, output: ManualOutput, seconds: float) -> None:
    """Let time pass for the sound and the eye."""
    output.pass_seconds(seconds)
    window.studio.transport._look()


def test_space_plays_from_the_selected_note_and_stops(qtbot: QtBot, at_ferry: MainWindow) -> None:
    page, session = at_ferry.desks["label"].page, at_ferry.session
    assert session.solo is not None
    fifth_bar = next(note for note in session.solo.notes if note.onset == 16)
    session.selection.select(fifth_bar.id, fifth_bar.id)
    output = start(qtbot, at_ferry)
    assert at_ferry.transport_bar.play.accessibleName() == "Stop"
    x = page.playhead_x
    assert at_ferry.transport_bar.place.text() == "Bar 5"
    listen(at_ferry, output, 60 / 148 * 5)
    assert at_ferry.transport_bar.place.text() == "Bar 6"
    assert page.playhead_x is not None
    assert x is not None
    assert page.playhead_x > x
    qtbot.keyClick(page, Qt.Key.Key_Space)
    assert not at_ferry.studio.transport.is_playing
    assert page.playhead_x is None


def test_several_notes_are_played_alone_and_in_a_loop_with_l(qtbot: QtBot, at_ferry: MainWindow) -> None:
    session = at_ferry.session
    assert session.solo is not None
    bar = [note for note in session.solo.notes if 16 <= note.onset < 20]
    session.selection.select(bar[0].id, bar[-1].id)
    output = start(qtbot, at_ferry)
    listen(at_ferry, output, 60 / 148 * 4 + 0.1)
    assert not at_ferry.studio.transport.is_playing
    qtbot.keyClick(at_ferry.desks["label"].page, Qt.Key.Key_L)
    start(qtbot, at_ferry)
    listen(at_ferry, output, 60 / 148 * 5)
    assert at_ferry.studio.transport.is_playing
    assert at_ferry.transport_bar.place.text() == "Bar 5"


def test_the_end_of_the_solo_ends_the_playing(qtbot: QtBot, at_ferry: MainWindow) -> None:
    qtbot.keyClick(at_ferry.desks["label"].page, Qt.Key.Key_End)
    output = start(qtbot, at_ferry)
    listen(at_ferry, output, 5)
    assert not at_ferry.studio.transport.is_playing


def test_brackets_change_the_tempo_within_its_bounds(qtbot: QtBot, at_ferry: MainWindow) -> None:
    page, bar = at_ferry.desks["label"].page, at_ferry.transport_bar
    qtbot.keyClick(page, Qt.Key.Key_BracketLeft)
    assert at_ferry.studio.transport.rate == pytest.approx(0.95)
    assert "95 %" in bar.tempo_words.text()
    for _ in range(30):
        qtbot.keyClick(page, Qt.Key.Key_BracketLeft)
    assert at_ferry.studio.transport.rate == pytest.approx(0.25)
    qtbot.keyClick(page, Qt.Key.Key_Equal)
    assert at_ferry.studio.transport.rate == 1


def test_the_count_in_says_so_before_the_first_note(qtbot: QtBot, at_ferry: MainWindow) -> None:
    at_ferry.transport_bar.count_in.click()
    assert at_ferry.session.solo is not None
    note = next(note for note in at_ferry.session.solo.notes if note.onset == 16)
    at_ferry.session.selection.select(note.id, note.id)
    output = start(qtbot, at_ferry)
    assert at_ferry.transport_bar.place.text() == "Counting in"
    listen(at_ferry, output, 60 / 148 * 4.5)
    assert at_ferry.transport_bar.place.text() == "Bar 5"


def test_a_note_moved_by_a_semitone_is_heard_relabelled_and_can_be_undone(qtbot: QtBot, at_ferry: MainWindow) -> None:
    session, page = at_ferry.session, at_ferry.desks["label"].page
    assert session.solo is not None
    note = next(note for note in session.solo.notes if note.onset == 16)
    session.selection.select(note.id, note.id)
    qtbot.keyClick(page, Qt.Key.Key_Up, Qt.KeyboardModifier.AltModifier)
    moved = session.solo.note(note.id)
    assert moved.pitch.midi == note.pitch.midi + 1
    assert session.labels[note.id].degree != "1"
    output = at_ferry.studio.transport.output
    assert isinstance(output, ManualOutput)
    assert abs(output.pass_seconds(0.2)).max() > 0.01
    qtbot.keyClick(page, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert session.solo.note(note.id) == note


def test_return_lets_a_note_sound(qtbot: QtBot, at_ferry: MainWindow) -> None:
    qtbot.keyClick(at_ferry.desks["label"].page, Qt.Key.Key_Home)
    qtbot.keyClick(at_ferry.desks["label"].page, Qt.Key.Key_Return)
    output = at_ferry.studio.transport.output
    assert isinstance(output, ManualOutput)
    assert output.is_running
    assert abs(output.pass_seconds(0.2)).max() > 0.01
    qtbot.waitUntil(lambda: not output.is_running)


def test_an_edit_stops_what_is_playing(qtbot: QtBot, at_ferry: MainWindow) -> None:
    start(qtbot, at_ferry)
    qtbot.keyClick(at_ferry.desks["label"].page, Qt.Key.Key_3)
    assert not at_ferry.studio.transport.is_playing


def test_licks_play_too_and_leaving_the_desk_stops_them(qtbot: QtBot, window: MainWindow) -> None:
    window.show_desk("vocabulary", window.desks["vocabulary"].licks.current_id() or "")
    qtbot.keyClick(window.desks["vocabulary"].licks, Qt.Key.Key_Space)
    qtbot.waitUntil(lambda: window.studio.transport.is_playing)
    qtbot.waitUntil(lambda: window.desks["vocabulary"].page.playhead_x is not None)
    window.show_desk("shelf")
    assert not window.studio.transport.is_playing
    assert not window.transport_bar.isVisible()


def test_tempo_levels_and_loop_are_there_again_next_time(open_window: OpenWindow, demo_folder: Path) -> None:
    window = open_window(demo_folder)
    window.transport_bar.level_sliders.sliders[Voice.BASS].setValue(20)
    window.transport_bar.tempo.setValue(60)
    window.transport_bar.loop.click()
    window.transport_bar.swing.setCurrentIndex(3)
    window.transport_bar.swing.activated.emit(3)
    window.close()
    again = open_window(demo_folder)
    assert again.studio.transport.levels[Voice.BASS] == pytest.approx(0.2)
    assert again.transport_bar.tempo.value() == 60
    assert again.transport_bar.loop.isChecked()
    assert again.studio.transport.swing == 2


def test_a_sound_card_that_goes_away_leaves_the_clock_running(qtbot: QtBot, at_ferry: MainWindow) -> None:
    output = start(qtbot, at_ferry)
    output.stopped.emit("The sound card has gone.")
    assert at_ferry.studio.transport.is_playing
    assert isinstance(at_ferry.studio.transport.output, SimulatedOutput)
    assert "gone" in at_ferry.notice.text.text()
    assert "silently" in at_ferry._sound.text()


def test_a_missing_soundfont_plays_silently_and_says_so(qtbot: QtBot, at_ferry: MainWindow) -> None:
    at_ferry.studio.transport.use_soundfont("/nowhere/grand.sf2")
    assert "grand.sf2 is not there" in at_ferry.notice.text.text()
    output = start(qtbot, at_ferry)
    assert abs(output.pass_seconds(0.5)).max() == 0
    at_ferry.studio.transport.use_soundfont("")
    assert "SoundFont" not in at_ferry.studio.transport.sound_words


def test_the_simulated_card_keeps_time(qtbot: QtBot) -> None:
    pulled: list[int] = []

    class Counting(Engine):
        def read(self, frames: int):  # type: ignore[no-untyped-def]
            pulled.append(frames)
            return super().read(frames)

    output = SimulatedOutput(Counting(SilentSynth()))
    output.start()
    qtbot.waitUntil(lambda: sum(pulled) > 4410)
    output.stop()
    assert sum(pulled) < 44100 * 5
