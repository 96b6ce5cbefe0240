"""What tests of the Practice desk share."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from gavotte.desktop.desks.practice.desk import PracticeDesk
from gavotte.desktop.playback.outputs import ManualOutput
from gavotte.desktop.shell.window import MainWindow
from gavotte.practice.item import Kind


def settled(qtbot: QtBot, window: MainWindow) -> None:
    qtbot.waitUntil(lambda: window.studio.activities.is_idle, timeout=30000)


def opened(qtbot: QtBot, window: MainWindow) -> PracticeDesk:
    """The desk with the demo's practice, something on the stand."""
    window.show_desk("practice")
    shown = window.desks["practice"]
    assert isinstance(shown, PracticeDesk)
    settled(qtbot, window)
    qtbot.waitUntil(lambda: shown.made is not None, timeout=20000)
    return shown


def phrase(desk: PracticeDesk) -> str:
    """The id of the phrase in the demo's practice, put on the stand."""
    return next(name for name, item in desk.agenda.items.items() if item.kind is Kind.PHRASE)


def on_stand(qtbot: QtBot, desk: PracticeDesk, name: str) -> None:
    desk.agenda.choose(name, 0)
    settled(qtbot, desk.window())  # type: ignore[arg-type]
    qtbot.waitUntil(lambda: desk.page.is_complete, timeout=20000)
    desk.page.setFocus()


def pass_seconds(desk: PracticeDesk, seconds: float) -> None:
    output = desk.studio.transport.output
    assert isinstance(output, ManualOutput)
    output.pass_seconds(seconds)
    desk.studio.transport._look()


def played(qtbot: QtBot, desk: PracticeDesk) -> None:
    """The run was played to its end."""
    qtbot.keyClick(desk.page, Qt.Key.Key_Space)
    qtbot.waitUntil(lambda: desk.studio.transport.is_playing, timeout=10000)
    desk._spent += 60
    pass_seconds(desk, 400)
    assert not desk.studio.transport.is_playing
