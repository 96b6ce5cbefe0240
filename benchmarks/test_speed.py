"""Speed of what a user waits for. Run with ``./run bench``; figures go to docs/measurements.md."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import music21
import pytest
from benchmarks.big_solo import long_solo
from PyQt6.QtCore import QEventLoop, QSettings, QThreadPool
from PyQt6.QtWidgets import QApplication
from pytest_benchmark.fixture import BenchmarkFixture

from gavotte.demo.ferry import ferry
from gavotte.desktop.app import make_application
from gavotte.desktop.page.page_view import PageView
from gavotte.desktop.paper.pages import SheetPages
from gavotte.desktop.paper.pdf import set_as_pdf
from gavotte.desktop.paper.setup import PageSetup
from gavotte.desktop.paper.sheet import Sheet
from gavotte.desktop.shell.window import MainWindow
from gavotte.engraving.engraver import Engraver
from gavotte.formats.document import SOLO_DOCUMENT
from gavotte.formats.midi_read import open_midi
from gavotte.formats.midi_write import write_midi
from gavotte.formats.musicxml import open_score
from gavotte.formats.musicxml_write import write_musicxml
from gavotte.labelling.labeller import label_solo, labelled
from gavotte.labelling.readings import proposals
from gavotte.labelling.slips import suspected_slips
from gavotte.library.store import Library
from gavotte.solo.document import Function, Solo
from gavotte.solo.edits import with_decision, with_notes_moved
from gavotte.sounding.engine import Engine
from gavotte.sounding.performance import perform
from gavotte.sounding.synth import FluidSynth, find_soundfont
from gavotte.theory.pitch import Pitch

SOLO = long_solo(200)
LABELS = {label.note: label for label in label_solo(SOLO)}


@pytest.fixture(scope="module")
def app() -> QApplication:
    return make_application()


@pytest.fixture(scope="module")
def page(app: QApplication) -> Iterator[PageView]:
    view = PageView(Engraver())
    view.resize(960, 720)
    view.show()
    yield view
    view.clear()
    view.close()


def finish(page: PageView) -> None:
    while not page.is_complete:
        QApplication.processEvents()


def test_label_1000_notes(benchmark: BenchmarkFixture) -> None:
    thousand = replace(SOLO, notes=SOLO.notes[:1000])
    assert len(benchmark(label_solo, thousand)) == 1000


def test_label_1000_notes_and_look_through_them(benchmark: BenchmarkFixture) -> None:
    thousand = replace(SOLO, notes=SOLO.notes[:1000])

    def everything() -> int:
        found = labelled(thousand)
        return len(suspected_slips(found)) + len(proposals(found))

    assert benchmark(everything) < 100


@pytest.mark.parametrize("kind", ["note moved", "note dropped", "chord changed", "label decided"])
def test_label_200_bars_anew_after_an_edit(benchmark: BenchmarkFixture, kind: str) -> None:
    known = labelled(SOLO)
    note, chord = SOLO.notes[700], SOLO.chords[150]
    edited = {
        "note moved": with_notes_moved(SOLO, [note.id], 1),
        "note dropped": replace(SOLO, notes=tuple(n for n in SOLO.notes if n is not note)),
        "chord changed": replace(
            SOLO, chords=tuple(replace(c, text="Dbmaj7") if c is chord else c for c in SOLO.chords)
        ),
        "label decided": with_decision(SOLO, note.id, Function.OUTSIDE, "unexplained"),
    }[kind]
    assert len(benchmark(labelled, edited, None, known).labels) == len(edited.notes)


def test_page_first_screen_of_200_bars(benchmark: BenchmarkFixture, page: PageView) -> None:
    def first_screen() -> None:
        page.show_solo(SOLO, LABELS)
        room = page.mapToScene(page.viewport().rect()).boundingRect().height()  # type: ignore[union-attr]
        while not page.lines or page.lines[-1].pos().y() + page.lines[-1].top + page.lines[-1].height < room:
            QApplication.processEvents()
        page.viewport().repaint()  # type: ignore[union-attr]

    benchmark.pedantic(first_screen, rounds=7, warmup_rounds=1)
    assert len(page.lines) >= 3


def test_page_all_of_200_bars(benchmark: BenchmarkFixture, page: PageView) -> None:
    def everything() -> None:
        page.show_solo(SOLO, LABELS)
        finish(page)

    benchmark.pedantic(everything, rounds=5, warmup_rounds=1)
    assert sum(item.line.last - item.line.first for item in page.lines) == 200


def test_page_shown_before_events_go_on(benchmark: BenchmarkFixture, page: PageView) -> None:
    """How long the interface is away when a solo is opened."""
    benchmark.pedantic(lambda: page.show_solo(SOLO, LABELS), rounds=7, warmup_rounds=1)
    finish(page)


def test_page_longest_step_while_setting(benchmark: BenchmarkFixture, page: PageView) -> None:
    """One line set between two events: how long the interface is away at a time."""
    page.show_solo(SOLO, LABELS)
    benchmark.pedantic(page._set_next, rounds=40)
    finish(page)


def test_page_edited_note(benchmark: BenchmarkFixture, page: PageView) -> None:
    page.show_solo(SOLO, LABELS)
    finish(page)
    middle = len(SOLO.notes) // 2
    values: list[Solo] = []
    for name in ("C5", "D5"):
        notes = list(SOLO.notes)
        notes[middle] = replace(notes[middle], pitch=Pitch.parse(name))
        values.append(replace(SOLO, notes=tuple(notes)))
    turn = iter(range(10_000))
    benchmark.pedantic(lambda: page.update_solo(values[next(turn) % 2], LABELS), rounds=30, warmup_rounds=2)


def test_page_edited_line_only(benchmark: BenchmarkFixture, page: PageView) -> None:
    """Setting one line anew, without looking which lines an edit touched."""
    page.show_solo(SOLO, LABELS)
    finish(page)

    def set_anew() -> None:
        row = page._rows[20]
        row.line = None
        page._set_row(row)

    benchmark.pedantic(set_anew, rounds=40, warmup_rounds=2)


def test_page_changed_label(benchmark: BenchmarkFixture, page: PageView) -> None:
    page.show_solo(SOLO, LABELS)
    finish(page)
    note = SOLO.notes[500].id
    decided = with_decision(SOLO, note, Function.OUTSIDE, "unexplained")
    labels = {label.note: label for label in label_solo(decided)}
    turn = iter(range(10_000))
    benchmark.pedantic(
        lambda: page.update_solo(*((decided, labels), (SOLO, LABELS))[next(turn) % 2]), rounds=30, warmup_rounds=2
    )


def test_page_scroll_one_frame(benchmark: BenchmarkFixture, page: PageView) -> None:
    page.show_solo(SOLO, LABELS)
    finish(page)
    bar = page.verticalScrollBar()
    assert bar is not None

    def frame() -> None:
        bar.setValue((bar.value() + 40) % bar.maximum())
        QApplication.processEvents()

    benchmark.pedantic(frame, rounds=120, warmup_rounds=5)


def test_import_lead_sheet(benchmark: BenchmarkFixture) -> None:
    data = (Path(music21.__file__).parent / "corpus/leadSheet/berlinAlexandersRagtime.mxl").read_bytes()
    assert benchmark(lambda: open_score(data).solo()).solo.notes


def test_document_round_trip_200_bars(benchmark: BenchmarkFixture) -> None:
    assert benchmark(lambda: SOLO_DOCUMENT.read(SOLO_DOCUMENT.write(SOLO))) == SOLO


def test_save_200_bars(benchmark: BenchmarkFixture, tmp_path: Path) -> None:
    with Library(tmp_path) as library:
        solo_id = library.add_solo(SOLO)
        benchmark(library.save_solo, solo_id, SOLO)


def test_import_200_bars_of_musicxml(benchmark: BenchmarkFixture) -> None:
    data = write_musicxml(SOLO)
    assert benchmark(lambda: label_solo(open_score(data).solo().solo))


def test_import_200_bars_of_midi(benchmark: BenchmarkFixture) -> None:
    data = write_midi(SOLO)
    assert benchmark(lambda: label_solo(open_midi(data).solo().solo))


def test_import_200_bars_into_the_window(
    benchmark: BenchmarkFixture, app: QApplication, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """From the file to its solo on the page: read, labelled, saved, the first screen set."""
    monkeypatch.setenv("GAVOTTE_AUDIO", "manual")
    path = tmp_path / "long.musicxml"
    path.write_bytes(write_musicxml(SOLO))
    with Library(tmp_path / "library") as library:
        window = MainWindow(library, QSettings(str(tmp_path / "s.ini"), QSettings.Format.IniFormat))
        window.resize(1280, 800)
        window.show()
        opened = QEventLoop()
        window.session.replaced.connect(opened.quit)

        def take() -> None:
            # The loop sleeps while the reader works, as that of a running application does.
            window.import_files([path])
            opened.exec()
            while not window.desks["label"].page.lines:
                QApplication.processEvents()

        def come_to_rest() -> None:
            finish(window.desks["label"].page)
            pool = QThreadPool.globalInstance()
            assert pool is not None
            while pool.activeThreadCount():
                QApplication.processEvents()

        benchmark.pedantic(take, setup=come_to_rest, rounds=7)
        window.close()


def test_perform_200_bars(benchmark: BenchmarkFixture) -> None:
    assert benchmark(lambda: perform(SOLO, Fraction(2))[0].sounds)


def test_first_sound(benchmark: BenchmarkFixture) -> None:
    """From the start of the engine to the first block with sound in it."""
    solo = ferry()
    performance, _ = perform(solo, Fraction(2))
    engine = Engine(FluidSynth(find_soundfont()))

    def first() -> None:
        engine.start(performance, 0.0, 60.0)
        while abs(engine.read(256)).max() < 0.001:
            pass

    benchmark(first)


def test_sheet_of_200_bars(benchmark: BenchmarkFixture, app: QApplication) -> None:
    """Pages laid out and painted as a PDF, all steps together."""
    engraver = Engraver()

    def sheet() -> int:
        found: list[bytes] = []
        for _ in set_as_pdf(SheetPages(Sheet(SOLO, LABELS, ""), PageSetup()), engraver, found.append):
            pass
        return len(found[0])

    assert benchmark.pedantic(sheet, rounds=3)
