"""Random actions at all desks, and undo back to the beginning: .venv/bin/python benchmarks/actions.py [ACTIONS [SEED]]

Every tenth round tells how far it is, what memory and how many files are open; an error is told when it comes. An
action over 60 seconds, or a crash, prints where every thread stands.

In the real window, offscreen, on a demo library: commands and keys as they come, with dialogs left by Escape. After
each round of 200 actions everything is undone, and the open solo must be what it was when it was opened; whatever was
made of it on the way must be a solo the library would give back.
"""

from __future__ import annotations

import faulthandler
import logging
import os
import random
import sys
import tempfile
import time
import traceback
from dataclasses import fields
from pathlib import Path
from types import TracebackType

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
os.environ["GAVOTTE_AUDIO"] = "manual"

from PyQt6.QtCore import QEvent, QSettings, Qt, QTimer
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QDialog, QFileDialog, QMessageBox, QWidget

from gavotte.demo.build import build_demo
from gavotte.desktop.app import make_application
from gavotte.desktop.garbage import GarbageCollector
from gavotte.desktop.shell.window import MainWindow
from gavotte.library.store import Library
from gavotte.solo.bounds import within_bounds
from gavotte.solo.differences import not_shared
from gavotte.solo.document import Solo

_ROUND = 200
_KEYS = [
    *(getattr(Qt.Key, f"Key_{letter}") for letter in "ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789"),
    Qt.Key.Key_Left, Qt.Key.Key_Right, Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_Home, Qt.Key.Key_End,
    Qt.Key.Key_Return, Qt.Key.Key_Delete, Qt.Key.Key_Backspace, Qt.Key.Key_Space, Qt.Key.Key_Tab, Qt.Key.Key_Escape,
    Qt.Key.Key_Plus, Qt.Key.Key_Minus, Qt.Key.Key_Period, Qt.Key.Key_Comma, Qt.Key.Key_QuoteLeft,
]  # fmt: skip
_MODIFIERS = [Qt.KeyboardModifier.NoModifier] * 6 + [Qt.KeyboardModifier.ShiftModifier, Qt.KeyboardModifier.AltModifier]
_LEFT_OUT = {"file.quit"}


class Errors(logging.Handler):
    """Counts what was logged as an error."""

    def __init__(self) -> None:
        super().__init__(logging.ERROR)
        self.texts: list[str] = []

    def emit(self, record: logging.LogRecord) -> None:
        self.texts.append(logging.Formatter().format(record))
        print("logged:", self.texts[-1][-2000:], flush=True)


def leave_dialogs(window: QWidget) -> None:
    """Escape from whatever asks something."""
    for widget in QApplication.topLevelWidgets():
        if isinstance(widget, QDialog) and widget.isVisible() and widget is not window:
            widget.reject()
    popup = QApplication.activePopupWidget()
    if popup is not None:
        popup.close()


def main() -> None:
    """Print how much was done and what went wrong."""
    faulthandler.enable()
    wanted = int(sys.argv[1]) if len(sys.argv) > 1 else 2000
    chance = random.Random(int(sys.argv[2]) if len(sys.argv) > 2 else 1)
    app = make_application()
    errors = Errors()
    logging.getLogger("gavotte").addHandler(errors)
    caught: list[str] = []

    def catch(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
        caught.append(f"{kind.__name__}: {error}")
        traceback.print_exception(kind, error, trace)

    sys.excepthook = catch
    for name in ("getOpenFileName", "getSaveFileName", "getOpenFileNames"):
        setattr(QFileDialog, name, staticmethod(lambda *_: ("", "")))
    QMessageBox.exec = lambda *_: 0  # type: ignore[method-assign]
    with tempfile.TemporaryDirectory() as folder:
        build_demo(Path(folder) / "demo")
        with Library(Path(folder) / "demo") as library:
            window = MainWindow(library, QSettings(f"{folder}/s.ini", QSettings.Format.IniFormat))
            window.resize(1280, 800)
            window.show()
            collector = GarbageCollector(window)
            collector.begin()
            escaping = QTimer()
            escaping.timeout.connect(lambda: leave_dialogs(window))
            escaping.start(50)
            done = rounds = not_back = 0
            longest = 0.0
            while done < wanted:
                library_solos = [entry.id for entry in library.solos()]
                window.open_solo(chance.choice(library_solos))
                opened, opened_id = window.session.solo, window.session.solo_id
                for _ in range(_ROUND):
                    begun = time.perf_counter()
                    faulthandler.dump_traceback_later(60)
                    act(window, chance)
                    app.processEvents()
                    # Outside ``exec`` nobody else takes away what wants to be deleted.
                    app.sendPostedEvents(None, QEvent.Type.DeferredDelete)
                    longest = max(longest, time.perf_counter() - begun)
                    done += 1
                    leave_dialogs(window)
                    if window.session.solo_id != opened_id:
                        opened, opened_id = window.session.solo, window.session.solo_id
                    if window.session.solo is not None:
                        within_bounds(window.session.solo)
                # What is tapped and not yet written is written now, and goes with the rest.
                window.session.leaving.emit()
                stack = window.session.undo_stack
                steps = [stack.text(index) for index in range(stack.index())]
                while stack.canUndo():
                    stack.undo()
                if window.session.solo != opened:
                    not_back += 1
                    print("not led back:", difference(opened, window.session.solo), "by", steps, flush=True)
                while window.studio.edits.undo_stack.canUndo():
                    window.studio.edits.undo_stack.undo()
                rounds += 1
                if rounds % 10 == 0:
                    tell(done)
            window.rescue.ask = lambda *_: None  # type: ignore[assignment, return-value]
            window.close()
    print(
        f"{done} actions in {rounds} rounds: {len(caught)} exceptions, {len(errors.texts)} errors in the log, "
        f"{not_back} rounds that undo did not lead back; the longest action took {longest:.2f} s"
    )
    for text in sorted({*caught, *(text[-300:] for text in errors.texts)})[:20]:
        print("  ", text)
    app.quit()


def difference(before: Solo | None, after: Solo | None) -> str:
    """Which parts of two values of a solo are not alike."""
    if before is None or after is None:
        return f"{before and before.title} became {after and after.title}"
    parts = (field.name for field in fields(Solo))
    others = [name for name in parts if getattr(before, name) != getattr(after, name)]
    notes = not_shared(before.notes, after.notes)[:4]
    return f"{before.title}: {', '.join(others)} {notes}"


def tell(done: int) -> None:
    """How much is done, with the memory (MB) and the files open now."""
    pages = int(Path("/proc/self/statm").read_text().split()[1])
    memory = pages * os.sysconf("SC_PAGESIZE") // 2**20
    print(f"{done} actions, {memory} MB, {len(os.listdir('/proc/self/fd'))} files open", flush=True)


def act(window: MainWindow, chance: random.Random) -> None:
    """One thing a user may do: a command that is at hand, or a key where the keys go."""
    if chance.random() < 0.4:
        commands = [command for command in window.actions_of.at_hand() if command.id not in _LEFT_OUT]
        command = chance.choice(commands)
        action = window.actions_of.action(command.id)
        if action.isEnabled():
            action.trigger()
        return
    where = QApplication.focusWidget() if chance.random() < 0.3 else window.desk.focus()
    QTest.keyClick(where or window, chance.choice(_KEYS), chance.choice(_MODIFIERS))


if __name__ == "__main__":
    try:
        main()
    except Exception:
        # What Qt calls goes to the hook, which only counts.
        traceback.print_exc()
        sys.exit(1)
