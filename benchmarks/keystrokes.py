"""How many keys a few things take: .venv/bin/python benchmarks/keystrokes.py

Each story is carried out in the real window, offscreen, by keys alone, and what came of it is looked at: a story that
does not come out ends with an error.
"""

from __future__ import annotations

import os
import sys
import tempfile
from collections.abc import Callable
from fractions import Fraction
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
os.environ["GAVOTTE_AUDIO"] = "manual"
sys.path.insert(0, str(Path(__file__).parents[1]))

from PyQt6.QtCore import QSettings, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QFileDialog, QWidget

from gavotte.demo.build import build_demo
from gavotte.desktop.app import make_application
from gavotte.desktop.shell.window import MainWindow
from gavotte.library.store import Library
from gavotte.solo.document import Solo

_PLAIN, _SHIFT = Qt.KeyboardModifier.NoModifier, Qt.KeyboardModifier.ShiftModifier
_CONTROL, _ALT = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.AltModifier
Key = Qt.Key


class Typist:
    """Presses keys where the keys go, and counts them; a key with Ctrl or Shift held counts as one."""

    def __init__(self, window: MainWindow) -> None:
        self.window = window
        self.count = 0

    def press(self, key: Qt.Key, modifiers: Qt.KeyboardModifier = _PLAIN, times: int = 1) -> None:
        """Press a key so often."""
        for _ in range(times):
            QTest.keyClick(self._where, key, modifiers)
            self.rest()
            self.count += 1

    def type(self, text: str) -> None:
        """Type a text."""
        for sign in text:
            QTest.keyClick(self._where, sign)
            self.count += 1
        self.rest()

    @property
    def _where(self) -> QWidget:
        """Where the keys go."""
        return QApplication.activePopupWidget() or QApplication.focusWidget() or self.window

    @staticmethod
    def rest() -> None:
        """Let what was asked for happen."""
        for _ in range(5):
            QApplication.processEvents()


def solo_of(window: MainWindow) -> Solo:
    """The open solo."""
    assert window.session.solo is not None
    return window.session.solo


def wrong_note(typist: Typist) -> None:
    """A wrong note two bars before the caret is corrected."""
    window = typist.window
    writer = window.desks["write"].writer
    writer.go_to(Fraction(16))
    before = solo_of(window)
    typist.count = 0
    typist.press(Key.Key_Left, _CONTROL, 2)
    typist.type("a")
    changed = [note for note, old in zip(solo_of(window).notes, before.notes, strict=True) if note != old]
    assert [(note.onset, note.pitch.letter) for note in changed] == [(8, "A")]


def fourth_up(typist: Typist) -> None:
    """A bar is copied to the next one, a fourth up."""
    window = typist.window
    window.desks["write"].writer.go_to(Fraction(8))
    typist.count = 0
    typist.press(Key.Key_M)
    bar = [solo_of(window).note(note).pitch.midi for note in window.session.selection.notes()]
    typist.press(Key.Key_C, _CONTROL)
    typist.press(Key.Key_Right, _CONTROL)
    typist.press(Key.Key_V, _CONTROL | _SHIFT)
    typist.type("per")
    typist.press(Key.Key_Return)
    pasted = [solo_of(window).note(note).pitch.midi for note in window.session.selection.notes()]
    assert [new - old for new, old in zip(pasted, bar, strict=True)] == [5] * len(bar)


def two_chords(typist: Typist) -> None:
    """Two chords are put into a bar."""
    window = typist.window
    window.desks["write"].writer.go_to(Fraction(12))
    typist.count = 0
    typist.press(Key.Key_K, _CONTROL)
    typist.type("Dm7 G7")
    typist.press(Key.Key_Return)
    chords = [event.text for event in solo_of(window).chords if 12 <= event.onset < 16]
    assert chords == ["Dm7", "G7"]


def to_the_queue(typist: Typist) -> None:
    """From the page into the queue."""
    window = typist.window
    window.show_desk("label")
    typist.count = 0
    typist.press(Key.Key_2, _CONTROL)
    side = window.desks["label"].side
    assert side.page_shown == "queue"
    assert side.isAncestorOf(QApplication.focusWidget())


def sixty_percent(typist: Typist) -> None:
    """The page is heard at 60 %."""
    window = typist.window
    window.show_desk("label")
    typist.count = 0
    typist.press(Key.Key_6, _CONTROL | _ALT)
    assert window.studio.transport.rate == 0.6


def new_solo(typist: Typist) -> None:
    """A new solo is begun with all its fields but a recording."""
    window = typist.window
    typist.count = 0
    typist.press(Key.Key_N, _CONTROL)
    for text in ("Dusk", "Ana", "te", "f", "mi", "3", "1", "96", "mi", "2"):
        typist.type(text)
        if text != "2":
            typist.press(Key.Key_Tab)
    typist.press(Key.Key_Return)
    solo = solo_of(window)
    assert (solo.title, solo.player, solo.instrument.name) == ("Dusk", "Ana", "Tenor saxophone")
    assert (str(solo.keys[0].key), str(solo.meters[0].meter), solo.pickup) == ("F minor", "3/4", 1)
    assert solo.beats_a_minute == 96
    assert solo.chords


def another_format(typist: Typist) -> None:
    """The solo goes out as a MIDI file, where and called as is suggested."""
    asked: list[str] = []

    def answer(*args: object) -> tuple[str, str]:
        typist.count += 1  # Return in the file dialog.
        asked.append(str(args[2]))
        return "", ""

    usual, QFileDialog.getSaveFileName = QFileDialog.getSaveFileName, staticmethod(answer)  # type: ignore[assignment]
    typist.count = 0
    typist.press(Key.Key_F, _ALT)
    typist.type("xi")
    QFileDialog.getSaveFileName = usual  # type: ignore[method-assign]
    assert asked[0].endswith(".mid")


def seven_notes(typist: Typist) -> None:
    """Seven notes are read by the blues of the key."""
    window = typist.window
    window.session.selection.put("n8", "n8")
    typist.count = 0
    typist.press(Key.Key_Right, _SHIFT, 6)
    typist.press(Key.Key_R)
    typist.press(Key.Key_Return)
    (reading,) = solo_of(window).readings
    places = solo_of(window).places
    assert places[reading.last] - places[reading.first] == 6


STORIES: tuple[tuple[str, str, Callable[[Typist], None]], ...] = (
    ("a wrong note two bars back", "write", wrong_note),
    ("a bar copied a fourth up", "write", fourth_up),
    ("two chords into a bar", "write", two_chords),
    ("from the page to the queue", "label", to_the_queue),
    ("60 % speed", "label", sixty_percent),
    ("a new solo with all fields but a recording", "write", new_solo),
    ("another format", "label", another_format),
    ("a reading over seven notes", "label", seven_notes),
)


def main() -> None:
    """Print for each story how many keys it took."""
    app = make_application()
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        build_demo(folder / "demo")
        with Library(folder / "demo") as library:
            window = MainWindow(library, QSettings(str(folder / "s.ini"), QSettings.Format.IniFormat))
            window.show()
            ferry = next(entry.id for entry in library.solos() if "Ferry" in entry.title)
            typist = Typist(window)
            for words, desk, story in STORIES:
                window.open_solo(ferry)
                window.show_desk(desk)
                window.activateWindow()
                window.desk.focus().setFocus()
                typist.rest()
                story(typist)
                print(f"{words}: {typist.count} keys")
                while window.session.undo_stack.canUndo():
                    window.session.undo_stack.undo()
            window.close()
    app.quit()


if __name__ == "__main__":
    main()
