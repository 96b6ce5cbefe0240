"""The longest the interface stands still while things are done.

    .venv/bin/python benchmarks/freezes.py [RUNS [BARS [SINCE]]]

Each row does something on the demo or on a solo of 200 bars (or as many as asked for) in the real window, offscreen,
and gives the longest time that passed between two turns of the event loop until everything had come to rest; with
SINCE ("go to Sheets") only from one row on. In the end it tells the memory.
"""

from __future__ import annotations

import os
import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from fractions import Fraction
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
os.environ["GAVOTTE_AUDIO"] = "manual"
sys.path.insert(0, str(Path(__file__).parents[1]))

from benchmarks.big_solo import long_solo
from PyQt6.QtCore import QSettings, QThreadPool, QTimer
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from gavotte.demo.build import build_demo
from gavotte.desktop.app import make_application
from gavotte.desktop.desks.sheets.desk import SheetsDesk
from gavotte.desktop.desks.workshop.desk import WorkshopDesk
from gavotte.desktop.errands.exporting import PAPER, PNG, SCORE
from gavotte.desktop.garbage import GarbageCollector
from gavotte.desktop.paper.handing_on import SheetFormat
from gavotte.desktop.shell.window import MainWindow
from gavotte.formats.musicxml_write import write_musicxml
from gavotte.library.store import Library
from gavotte.solo.document import Function
from gavotte.solo.school import VERTICAL
from gavotte.workshop.operations.chords import OPEN_SOLO

_REST_SECONDS = 0.6


def longest(window: MainWindow, do: Callable[[], object]) -> tuple[float, float]:
    """Seconds of the longest stand-still from ``do`` until nothing has happened for a while, and the most processor
    time the interface's thread took for one: what it would stand still on a machine that does nothing else.
    """
    worst = own = 0.0
    before, own_before = time.perf_counter(), time.thread_time()
    do()
    rest = None
    while True:
        QApplication.processEvents()
        now, own_now = time.perf_counter(), time.thread_time()
        worst, own = max(worst, now - before), max(own, own_now - own_before)
        before, own_before = now, own_now
        pool = QThreadPool.globalInstance()
        pages = (
            window.desks["label"].page,
            window.desks["vocabulary"].page,
            window.desks["workshop"].view.page,
        )
        busy = not all(page.is_complete for page in pages) or (pool is not None and pool.activeThreadCount() > 0)
        busy = busy or not window.activities.is_idle
        rest = None if busy else rest or now
        if rest is not None and now - rest > _REST_SECONDS:
            return worst, own


def plain_loop() -> float:
    """Seconds a loop over 300,000 squares takes, to tell a slow machine from a slow program."""
    begun = time.perf_counter()
    sum(number * number for number in range(300_000))
    return time.perf_counter() - begun


def main() -> None:
    """Do everything as often as asked (once) and print for each thing its best, usual and worst time, the usual one of
    the interface's own work, and beside them what a plain loop took just then: how fast the machine was.
    """
    runs = int(sys.argv[1]) if len(sys.argv) > 1 else 1
    bars = int(sys.argv[2]) if len(sys.argv) > 2 else 200
    since = sys.argv[3] if len(sys.argv) > 3 else ""
    app = make_application()
    found: dict[str, list[tuple[float, float, float]]] = {}
    for _ in range(runs):
        for words, (stood, own) in run(bars, since):
            found.setdefault(words, []).append((stood, own, plain_loop()))
    for words, times in found.items():
        stood, owns, loops = (sorted(column) for column in zip(*times, strict=True))
        best, usual, worst = (round(1000 * time) for time in (stood[0], stood[len(stood) // 2], stood[-1]))
        alone = round(1000 * owns[len(owns) // 2])
        speed = f"{1000 * loops[0]:.0f} to {1000 * loops[-1]:.0f}"
        print(f"{words}: {best} / {usual} / {worst} ms, own {alone} (a plain loop: {speed} ms)")
    pages = int(Path("/proc/self/statm").read_text().split()[1])
    print(f"memory in the end: {pages * os.sysconf('SC_PAGESIZE') // 2**20} MB")
    app.quit()


def run(bars: int, since: str = "") -> Iterator[tuple[str, tuple[float, float]]]:
    """Each thing that is done to a new window, in order, with the longest time it stood still; only those from one on
    where it is named.
    """
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        build_demo(folder / "demo")
        (folder / "long.musicxml").write_bytes(write_musicxml(long_solo(bars)))
        with Library(folder / "demo") as library:
            long = library.add_solo(long_solo(bars))
            ids = [entry.id for entry in library.solos()]
            window = MainWindow(library, QSettings(str(folder / "s.ini"), QSettings.Format.IniFormat))
            window.resize(1280, 800)
            window.show()
            GarbageCollector(window).begin()
            window.studio.transport.warm_up_beside()
            session, export = window.session, window.studio.exporter.export
            last = long_solo(bars).notes[-1].id
            shop, sheets = window.desks["workshop"], window.desks["sheets"]
            rows: list[tuple[str, Callable[[], object]]] = [
                ("come to rest", lambda: None),
                ("open a 32-bar solo", lambda: window.open_solo(ids[-5])),
                ("change the look, 32 bars", lambda: window.set_look("Stage")),
                ("written pitch, 32 bars", lambda: window.studio.view.set_written(True)),
                ("concert pitch, 32 bars", lambda: window.studio.view.set_written(False)),
                ("go to Vocabulary", lambda: window.show_desk("vocabulary")),
                ("a lick in twelve keys", window.desks["vocabulary"].all_keys.click),
                (f"open a {bars}-bar solo", lambda: window.open_solo(long)),
                (f"change the look, {bars} bars", lambda: window.set_look("Day")),
                ("decide a note", lambda: session.decide(Function.OUTSIDE)),
                ("the queue", lambda: window.desks["label"].side.show_page("queue")),
                ("next in the queue", lambda: window.desks["label"].step_queue(1)),
                ("answer in the queue", lambda: window.desks["label"].answer(True)),
                ("harmony", lambda: window.desks["label"].side.show_page("harmony")),
                ("the text", lambda: window.desks["label"].side.show_page("text")),
                ("the school", lambda: window.desks["label"].side.show_page("school")),
                ("another school", lambda: session.set_school(VERTICAL)),
                ("roman numerals", lambda: window.studio.view.set_numerals(True)),
                ("no numerals", lambda: window.studio.view.set_numerals(False)),
                ("the skeleton", window.desks["label"].toggle_skeleton),
                ("all notes", window.desks["label"].toggle_skeleton),
                ("take all plain labels", window.desks["label"].review.take_plain),
                ("the note card", lambda: window.desks["label"].side.show_page("note")),
                ("move a note", lambda: session.move(1)),
                ("select everything", lambda: session.selection.select("0.n2", last)),
                ("select a phrase", lambda: session.selection.select("0.n2", "0.n30")),
                (f"written pitch, {bars} bars", lambda: window.studio.view.set_written(True)),
                (f"concert pitch, {bars} bars", lambda: window.studio.view.set_written(False)),
                ("save", window.studio.saver.save),
                ("play", window.studio.playing.toggle),
                ("stop", window.studio.playing.toggle),
                (f"page setup, {bars} bars", window.show_paper),
                ("export a PDF", lambda: export(window.sheet(), folder / "a.pdf", PAPER)),
                ("export a picture", lambda: export(window.sheet(), folder / "a.png", PNG)),
                (
                    "export MusicXML",
                    lambda: export(window.sheet(), folder / "a.musicxml", SCORE),
                ),
                (f"import {bars} bars", lambda: window.import_files([folder / "long.musicxml"])),
                ("back up", library.back_up_now),
                ("go to Write", lambda: window.show_desk("write")),
                ("to the middle", lambda: go_to(window, Fraction(2 * bars))),
                ("write a note", lambda: write(window, "c")),
                ("the chords", window.desks["write"].panel.tabs["chords"].click),
                ("back to the page", lambda: go_to(window, Fraction(2 * bars + 4))),
                ("write another", lambda: write(window, "d")),
                ("the checks", window.desks["write"].panel.tabs["checks"].click),
                ("to the end", lambda: go_to(window, Fraction(4 * bars))),
                ("write at the end", lambda: write(window, "e")),
                ("undo everything", lambda: undo_all(window)),
                ("go to the shelf", lambda: window.show_desk("shelf")),
                ("go to the Workshop", lambda: window.show_desk("workshop")),
                ("take a lick", lambda: shop.sources.take_lick(library.licks()[4].id)),
                ("a step", lambda: shop.add_step("over")),
                ("through 24 bars", lambda: value(shop, "progression", "ii-V-I round the circle of fifths")),
                (f"chord by chord through {bars} bars", lambda: value(shop, "progression", OPEN_SOLO, "parts", True)),
                ("its choices", lambda: shop.side.show_page("choices")),
                ("take it", shop.take_proposal),
                ("an étude", lambda: shop.add_step("etude")),
                ("variations", lambda: shop.side.show_page("variations")),
                ("hear it", window.studio.playing.toggle),
                ("stop it", window.studio.playing.toggle),
                ("undo it all", lambda: undo_bench(shop)),
                ("leave the Workshop", lambda: window.show_desk("shelf")),
                ("go to Sheets", lambda: window.show_desk("sheets")),
                (f"a sheet of {bars} bars", lambda: analyse(sheets)),
                ("choose its words", lambda: sheets.choose(sheets.studio.sheets.sheet.pieces[-1].id)),
                ("choose its bars", lambda: sheets.choose(sheets.studio.sheets.sheet.pieces[0].id)),
                ("without the lane", lambda: sheets.form.form.fields["shown.lane"].toggle()),
                ("undo that", sheets.undo_stack.undo),
                ("a piece later", lambda: sheets.move_piece(1)),
                ("to the last page", lambda: sheets.view.turn_to(sheets.view.count - 1)),
                ("hand on a PDF", lambda: hand_on(sheets, SheetFormat.PDF, folder)),
                ("leave Sheets", lambda: window.show_desk("shelf")),
            ]
            if since:
                opened = next(row for row in rows if row[0] == f"open a {bars}-bar solo")
                rows = [opened, *rows[next(k for k, row in enumerate(rows) if row[0] == since) :]]
            for words, do in rows:
                yield words, longest(window, do)
            window.close()


def analyse(desk: SheetsDesk) -> None:
    """Begin a sheet of the open solo with its analysis."""
    desk.making.begin("analysis")
    desk.making.dialog.accept()


def hand_on(desk: SheetsDesk, form: SheetFormat, folder: Path) -> None:
    """Write the open sheet."""
    desk.handing.write(desk.studio.sheets.sheet, (form,), folder, "sheet")


def write(window: MainWindow, letter: str) -> None:
    """A pitch by its letter, or by the next one where it stands there already."""
    before, page = window.session.solo, window.desks["write"].page
    # A value chosen first: else the letter would only mend the pitch that is there.
    QTest.keyClick(page, "3")
    QTest.keyClick(page, letter)
    if window.session.solo is before:
        QTest.keyClick(page, "abcdefga"["abcdefg".index(letter) + 1])
    assert window.session.solo is not before


def go_to(window: MainWindow, time: Fraction) -> None:
    """The caret to a time, with the keys on the page."""
    page = window.desks["write"].page
    window.activateWindow()
    page.setFocus()
    window.desks["write"].writer.go_to(time)


def value(desk: WorkshopDesk, *pairs: str | bool) -> None:
    """Give the step that is looked at other values, as its controls do: names and values in turn."""
    for name, chosen in zip(pairs[::2], pairs[1::2], strict=True):
        desk.side.chain.form.changed.emit(str(name), chosen)


def undo_bench(desk: WorkshopDesk) -> None:
    """Undo what was done on the bench."""
    while desk.undo_stack.canUndo():
        desk.undo_stack.undo()


def undo_all(window: MainWindow) -> None:
    """Take every step back, as a user does: one after the other."""
    window.session.undo_stack.undo()
    if window.session.undo_stack.canUndo():
        QTimer.singleShot(50, lambda: undo_all(window))


if __name__ == "__main__":
    main()
