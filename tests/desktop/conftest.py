"""The real window on a demo library of its own, offscreen."""

from __future__ import annotations

import gc
import logging
import os
import shutil
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest
from PyQt6.QtCore import QSettings, QtMsgType
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot
from tests.desktop.watchdog import MOST_SECONDS, WatchedApplication

from gavotte.demo.build import build_demo
from gavotte.desktop.activity import LOG
from gavotte.desktop.app import make_application
from gavotte.desktop.shell.window import MainWindow
from gavotte.desktop.solo.saver import Saver
from gavotte.desktop.solo.session import SoloSession
from gavotte.library.store import Library
from gavotte.solo.bounds import within_bounds
from gavotte.solo.document import Solo

OpenWindow = Callable[[Path], MainWindow]


@pytest.fixture(scope="session")
def qapp() -> QApplication:
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    watched = WatchedApplication(["gavotte"])
    assert make_application() is watched
    return watched


@pytest.fixture(autouse=True)
def nothing_stands_still(qapp: WatchedApplication) -> Iterator[None]:
    """After each story: no event has kept the window waiting for more than a second."""
    qapp.forget()
    yield
    assert qapp.longest <= MOST_SECONDS, f"{qapp.longest_event} took {qapp.longest:.1f} s"


HARMLESS = (
    "This plugin does not support",
    "Couldn't ",
    "Mouse event ",
    "PulseAudio",
    "QObject::disconnect: wildcard call",
    "QItemSelectionModel: Selecting when no model",
)
"""What Qt says on a machine without a screen and a sound card, of clicks made by a test, of its own sockets, and of
lists that are taken down.
"""

QUIET = (QtMsgType.QtDebugMsg, QtMsgType.QtInfoMsg)


@pytest.fixture(autouse=True)
def nothing_went_wrong(request: pytest.FixtureRequest, qtlog: Any, monkeypatch: pytest.MonkeyPatch) -> Iterator[None]:
    """After each story: no error was logged with a traceback, and Qt had nothing to warn of.

    A test that provokes a mishap says so with the mark ``mishap``. Exceptions nobody caught are found by pytest-qt.
    """
    provoked = request.node.get_closest_marker("mishap") is not None
    errors: list[str] = []

    def take(record: logging.LogRecord) -> bool:
        if record.levelno >= logging.ERROR:
            errors.append(logging.Formatter().format(record))
        return True

    LOG.addFilter(take)
    try:
        yield
    finally:
        LOG.removeFilter(take)
    if provoked:
        return
    assert errors == []
    warned = [record.message for record in qtlog.records if record.type not in QUIET]
    assert [message for message in warned if not message.startswith(HARMLESS)] == []


@pytest.fixture(autouse=True)
def every_edit_can_be_opened_again(monkeypatch: pytest.MonkeyPatch) -> None:
    """Whatever a story makes of a solo, the library would give it back."""
    save = Saver.save_solo

    def checked(saver: Saver, solo_id: str, solo: Solo) -> None:
        save(saver, solo_id, within_bounds(solo))

    monkeypatch.setattr(Saver, "save_solo", checked)


@pytest.fixture(autouse=True)
def freed_in_this_thread() -> Iterator[None]:
    """As in the running application no worker's thread takes widgets away: they are freed between the tests."""
    gc.disable()
    yield
    gc.enable()


@pytest.fixture(autouse=True)
def manual_sound(monkeypatch: pytest.MonkeyPatch) -> None:
    """Time passes for the sound only when a test says so."""
    monkeypatch.setenv("GAVOTTE_AUDIO", "manual")


@pytest.fixture
def open_window(qtbot: QtBot, tmp_path: Path) -> Iterator[OpenWindow]:
    """Opens windows as a start of the application does: on a library folder, with kept settings."""
    opened: list[tuple[MainWindow, Library]] = []

    def opener(folder: Path) -> MainWindow:
        for _, before in opened:
            # One window at a time holds a library; the one before has ended.
            if before.folder == folder:
                before.close()
        library = Library(folder)
        settings = QSettings(str(tmp_path / "settings.ini"), QSettings.Format.IniFormat)
        window = MainWindow(library, settings)
        window.rescue.ask = lambda _, words: pytest.fail(f"A question nobody answers: {words}")
        qtbot.addWidget(window)
        opened.append((window, library))
        window.resize(1280, 800)
        window.show()
        qtbot.waitExposed(window)
        return window

    yield opener
    for window, library in opened:
        window.close()
        library.close()


@pytest.fixture(scope="session")
def built_demo(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A demo library, built once and copied for each test."""
    folder = tmp_path_factory.mktemp("built") / "demo"
    build_demo(folder)
    return folder


@pytest.fixture
def demo_folder(tmp_path: Path, built_demo: Path) -> Path:
    return Path(shutil.copytree(built_demo, tmp_path / "demo"))


@pytest.fixture
def window(open_window: OpenWindow, demo_folder: Path) -> MainWindow:
    return open_window(demo_folder)


@pytest.fixture
def at_ferry(window: MainWindow, qtbot: QtBot) -> MainWindow:
    """The window at the Label desk with the first demo solo, fully set."""
    window.open_solo(window.desks["shelf"].solos.current_id() or "")
    qtbot.waitUntil(lambda: window.desks["label"].page.is_complete)
    return window


def stop_what_goes_on(window: MainWindow) -> None:
    """Press every Cancel there is."""
    for activity in window.activities.shown:
        window.activity_bar.shown[activity].cancel.click()


def in_doubt(session: SoloSession) -> list[str]:
    """Ids of the notes whose labels want a look, in order."""
    assert session.solo is not None
    return [note.id for note in session.solo.notes if session.labels[note.id].in_doubt]
