"""Page setup, preview, PDF, printer and pictures."""

from __future__ import annotations

import itertools
import threading
from pathlib import Path
from xml.etree import ElementTree

import pytest
from PyQt6.QtCore import QBuffer, QSettings, Qt
from PyQt6.QtGui import QColor, QImage, QImageReader
from PyQt6.QtPrintSupport import QPrinter
from PyQt6.QtSvg import QSvgRenderer
from pytestqt.qtbot import QtBot
from tests.conftest import make_solo

from gavotte.desktop.errands.exporting import PAPER, PNG, SVG, ExportFormat
from gavotte.desktop.page.land import ROW, TOP, Land
from gavotte.desktop.paper.dialog import PaperDialog
from gavotte.desktop.paper.pages import SheetPages
from gavotte.desktop.paper.setup import PageSetup, Reasons, read_setup, write_setup
from gavotte.desktop.shell.window import MainWindow
from gavotte.engraving.engraver import Engraver
from gavotte.giving_way import give_way
from gavotte.labelling.labeller import labelled
from gavotte.phrasing.arc import arc_of
from gavotte.solo.document import Function

ENGRAVER = Engraver()


def laid_out(window: MainWindow, setup: PageSetup) -> SheetPages:
    sheet = window.sheet()
    assert sheet is not None
    pages = SheetPages(sheet, setup)
    for _ in pages.steps(ENGRAVER):
        pass
    return pages


def export(qtbot: QtBot, window: MainWindow, path: Path, wanted: ExportFormat) -> bytes:
    sheet = window.sheet()
    assert sheet is not None
    with qtbot.waitSignal(window.studio.exporter.exported, timeout=20000):
        window.studio.exporter.export(sheet, path, wanted)
    return path.read_bytes()


@pytest.fixture
def settings(tmp_path: Path) -> QSettings:
    return QSettings(str(tmp_path / "paper.ini"), QSettings.Format.IniFormat)


def test_a_setup_is_kept(settings: QSettings) -> None:
    setup = PageSetup("Letter", 7.5, 3, False, True, False, True, False, Reasons.ALL)
    write_setup(settings, setup)
    settings.sync()
    assert read_setup(QSettings(settings.fileName(), QSettings.Format.IniFormat)) == setup


@pytest.mark.parametrize(("key", "value"), [("staff", "tall"), ("staff", "90"), ("bars", "-2"), ("paper", "A0")])
def test_a_setup_out_of_range_is_as_usual(settings: QSettings, key: str, value: str) -> None:
    settings.setValue(f"paper/{key}", value)
    assert getattr(read_setup(settings), key) == getattr(PageSetup(), key)


def test_lines_have_the_bars_and_the_staff_its_height(at_ferry: MainWindow) -> None:
    for staff, bars in ((5.0, 4), (8.0, 2)):
        setup = PageSetup(staff=staff, bars=bars)
        pages = laid_out(at_ferry, setup)
        lines = [item for page in pages.pages for _, item in page.lines]
        assert max(item.line.last - item.line.first for item in lines) <= bars + 1
        top, bottom = lines[0].line.staff
        assert (bottom - top) * setup.mm_per_unit == pytest.approx(staff, rel=0.02)
        assert max(item.line.barlines[-1] for item in lines) == pytest.approx(pages.width, rel=0.02)


def test_larger_staves_take_more_pages_and_nothing_is_lost(at_ferry: MainWindow) -> None:
    small, large = (laid_out(at_ferry, PageSetup(staff=staff)) for staff in (5.0, 9.0))
    assert len(small.pages) < len(large.pages)
    solo = at_ferry.session.solo
    assert solo is not None
    for pages in (small, large):
        notes = [placed.note.id for page in pages.pages for _, item in page.lines for placed in item.line.notes]
        assert notes == [note.id for note in solo.notes]
        for page in pages.pages:
            assert page.lines[-1][0] + page.lines[-1][1].height + page.foot_height < pages.height


def test_reasons_are_footnotes_of_their_page_and_said_once(at_ferry: MainWindow) -> None:
    pages = laid_out(at_ferry, PageSetup(reasons=Reasons.NOT_CHORD))
    labels = at_ferry.session.labels
    for page in pages.pages:
        said = [text for _, text in page.footnotes]
        assert len(said) == len(set(said))
        wanted = {
            labels[placed.note.id].reason
            for _, item in page.lines
            for placed in item.line.notes
            if labels[placed.note.id].function is not Function.CHORD
        }
        assert set(said) == wanted
        assert [number for number, _ in page.footnotes] == list(range(1, len(said) + 1))
    assert (
        sum(len(page.footnotes) for page in laid_out(at_ferry, PageSetup(reasons=Reasons.ALL)).pages) > len(labels) / 2
    )


@pytest.fixture
def paper(qtbot: QtBot, at_ferry: MainWindow) -> PaperDialog:
    qtbot.keyClick(at_ferry, Qt.Key.Key_P, Qt.KeyboardModifier.ControlModifier)
    dialog = at_ferry.paper_dialog
    assert dialog is not None
    qtbot.waitUntil(lambda: dialog.is_set)
    return dialog


def ink(dialog: PaperDialog) -> int:
    picture = dialog.preview.grab().toImage().convertToFormat(QImage.Format.Format_Grayscale8)
    return sum(
        QColor(picture.pixel(x, y)).lightness() < 120
        for x in range(0, picture.width(), 2)
        for y in range(0, picture.height(), 2)
    )


def test_the_preview_shows_what_was_chosen(qtbot: QtBot, at_ferry: MainWindow, paper: PaperDialog) -> None:
    before = ink(paper)
    paper.parts["lane"].setChecked(False)
    paper.parts["degrees"].setChecked(False)
    qtbot.waitUntil(lambda: paper.is_set)
    assert ink(paper) != before
    paper.staff.setValue(9)
    qtbot.waitUntil(lambda: paper.is_set)
    count = paper.preview.count
    assert count > 2
    for _ in range(count + 2):
        qtbot.keyClick(paper.preview, Qt.Key.Key_PageDown)
    assert paper.place.text() == f"Page {count} of {count}"
    assert not paper.forward.isEnabled()
    paper.back.click()
    assert paper.place.text() == f"Page {count - 1} of {count}"
    paper.reject()
    assert read_setup(at_ferry._settings).staff == 9


def test_what_was_to_be_set_in_a_moment_goes_with_the_dialog(
    qtbot: QtBot, at_ferry: MainWindow, paper: PaperDialog
) -> None:
    qtbot.waitUntil(lambda: paper.is_set)
    pages = paper.pages
    paper.bars.setValue(paper.bars.value() + 1)
    assert not paper.is_set
    paper.reject()
    assert paper.is_set
    assert paper.pages is pages


def test_the_sheet_goes_to_the_printer(qtbot: QtBot, at_ferry: MainWindow, paper: PaperDialog, tmp_path: Path) -> None:
    printer = QPrinter(QPrinter.PrinterMode.HighResolution)
    printer.setPageLayout(paper.setup.page_layout)
    printer.setOutputFileName(str(tmp_path / "printed.pdf"))
    with qtbot.waitSignal(paper.told, timeout=20000):
        paper.print_on(printer)
    data = (tmp_path / "printed.pdf").read_bytes()
    assert data.count(b"/Type /Page\n") == paper.preview.count
    assert paper.isHidden()


def test_a_range_of_pages_can_be_printed(qtbot: QtBot, paper: PaperDialog, tmp_path: Path) -> None:
    paper.staff.setValue(9)
    qtbot.waitUntil(lambda: paper.is_set)
    assert paper.preview.count > 2
    printer = QPrinter(QPrinter.PrinterMode.HighResolution)
    printer.setPageLayout(paper.setup.page_layout)
    printer.setOutputFileName(str(tmp_path / "printed.pdf"))
    printer.setPrintRange(QPrinter.PrintRange.PageRange)
    printer.setFromTo(2, 99)
    with qtbot.waitSignal(paper.told, timeout=20000):
        paper.print_on(printer)
    assert (tmp_path / "printed.pdf").read_bytes().count(b"/Type /Page\n") == paper.preview.count - 1


def test_the_twelve_keys_of_a_lick_are_printed_as_shown(qtbot: QtBot, window: MainWindow) -> None:
    window.show_desk("vocabulary")
    window.desks["vocabulary"].all_keys.click()
    qtbot.keyClick(window, Qt.Key.Key_P, Qt.KeyboardModifier.ControlModifier)
    dialog = window.paper_dialog
    assert dialog is not None
    qtbot.waitUntil(lambda: dialog.is_set)
    assert dialog.pages is not None
    sections = [s.label for page in dialog.pages.pages for _, item in page.lines for _, s in item._sections]
    assert len(set(sections)) == 12


def test_paper_of_another_size_has_another_shape(qtbot: QtBot, at_ferry: MainWindow, tmp_path: Path) -> None:
    boxes = []
    for name in ("A4", "Letter"):
        write_setup(at_ferry._settings, PageSetup(paper=name))
        boxes.append(export(qtbot, at_ferry, tmp_path / f"{name}.pdf", PAPER).split(b"/MediaBox")[1][:40])
    assert boxes[0].startswith(b" [0 0 595")
    assert boxes[1].startswith(b" [0 0 612")


def size_of(data: bytes) -> tuple[int, int]:
    buffer = QBuffer()
    buffer.setData(data)
    size = QImageReader(buffer).size()
    return size.width(), size.height()


def test_pictures_show_the_selection(qtbot: QtBot, at_ferry: MainWindow, tmp_path: Path) -> None:
    at_ferry.session.selection.select("n3", "n6")
    few = size_of(export(qtbot, at_ferry, tmp_path / "few.png", PNG))
    at_ferry.session.selection.select("n3", "n60")
    many = size_of(export(qtbot, at_ferry, tmp_path / "many.png", PNG))
    assert few[0] < many[0]
    assert few[1] < many[1]


def test_drawings_carry_their_own_type(qtbot: QtBot, at_ferry: MainWindow, tmp_path: Path) -> None:
    at_ferry.session.selection.select("n3", "n20")
    data = export(qtbot, at_ferry, tmp_path / "few.svg", SVG)
    root = ElementTree.fromstring(data)
    tags = {element.tag.split("}")[1] for element in root.iter()}
    assert "text" not in tags
    assert "image" not in tags
    assert QSvgRenderer(data).isValid()
    width, height = (float(root.get(name, "").removesuffix("mm")) for name in ("width", "height"))
    assert 40 < width < 200
    assert 15 < height < 100


def test_the_text_tells_phrases_then_bars(at_ferry: MainWindow) -> None:
    pages = laid_out(at_ferry, PageSetup(text=True))
    headings = [heading for page in pages.pages for _, heading, _ in page.texts]
    assert headings[0].startswith("Phrase 1 · Pickup to bar")
    assert headings.index("The arc") < headings.index(next(name for name in headings if name.startswith("Bar 1 ")))


def test_pages_that_are_given_up_leave_nothing_at_work(at_ferry: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    begun, stopped = threading.Event(), threading.Event()

    def work(_: object) -> list[tuple[str, str]]:
        begun.set()
        try:
            while True:
                give_way()
        finally:
            stopped.set()

    monkeypatch.setattr("gavotte.desktop.paper.told.told_of", work)
    sheet = at_ferry.sheet()
    assert sheet is not None
    steps = SheetPages(sheet, PageSetup(text=True)).steps(ENGRAVER)
    while not begun.is_set():
        next(steps)
    steps.close()
    assert stopped.wait(5)


def test_arc_and_skeleton_stand_between_the_music_and_the_text(at_ferry: MainWindow) -> None:
    plain, told = laid_out(at_ferry, PageSetup()), laid_out(at_ferry, PageSetup(text=True))
    kinds = [
        (number, top, kind)
        for number, page in enumerate(told.pages)
        for kind, tops in (
            ("line", [top for top, _ in page.lines]),
            ("arc", [top for top, *_ in page.lands]),
            ("text", [place.top() for place, *_ in page.texts]),
        )
        for top in tops
    ]
    order = [kind for *_, kind in sorted(kinds)]
    music = sum(len(page.lines) for page in plain.pages)
    assert order[:music] == ["line"] * music
    assert order[music] == "arc"
    assert order[music + 1] == "line"
    assert set(order[order.index("text") :]) == {"text"}
    assert sum(len(page.headings) for page in told.pages) == 2
    assert not any(page.lands or page.headings for page in plain.pages)
    for page in told.pages:
        ends = [top + item.height for top, item in page.lines]
        assert max(ends, default=0.0) <= told.height


def test_a_long_arc_goes_on_from_page_to_page(at_ferry: MainWindow) -> None:
    land = Land()
    one = make_solo([("Dm7", "D4/1")] * 1500)
    land.show_arc(arc_of(labelled(one)), one.notes)
    parts = land.parts(200, 900)
    assert parts[0][0] == 0
    assert parts[-1][1] == land.height
    assert all(before[1] == after[0] for before, after in itertools.pairwise(parts))
    assert parts[0][1] <= 200
    assert all(0 < stop - start <= 900 for start, stop in parts)
    assert len(land.parts(5, 5)) == len(range(TOP, land.height, ROW))
