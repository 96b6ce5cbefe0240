"""The Sheets desk: put together, looked at, taken back, kept, handed on."""

from __future__ import annotations

import itertools
import re
from collections.abc import Callable
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import pytest
from pypdf import PdfReader
from pypdf.generic import DictionaryObject
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtPrintSupport import QPrinter
from PyQt6.QtWidgets import QFileDialog, QPlainTextEdit, QWidget
from pytestqt.qtbot import QtBot
from tests.conftest import make_solo, whole
from tests.desktop.conftest import OpenWindow
from tests.desktop.test_saving import a_full_disk
from tests.sheets.test_sheet import full_sheet

from gavotte.desktop.desks.sheets.desk import SheetsDesk
from gavotte.desktop.desks.sheets.making import TEMPLATES
from gavotte.desktop.paper.flow import FlowPages, setup_of
from gavotte.desktop.paper.handing_on import SheetFormat, handed_on
from gavotte.desktop.paper.set_lines import LineSetter
from gavotte.desktop.shell.rescue import Choice
from gavotte.desktop.shell.window import MainWindow
from gavotte.engraving.engraver import Engraver
from gavotte.labelling.labeller import labelled
from gavotte.phrasing.structure import structure_of
from gavotte.sheets.composing import Composer
from gavotte.sheets.pieces import Bars, Keys, Licks, Picture, PieceKind, Question, Returns, Scales, Words, kind_of
from gavotte.sheets.sheet import SheetSource, TeachingSheet, Version
from gavotte.sheets.templates import one_key_a_page, solo_with_analysis
from gavotte.solo.bars import BarGrid
from gavotte.theory.pitch import Pitch

Begin = Callable[[TeachingSheet], SheetsDesk]


def settled(qtbot: QtBot, desk: SheetsDesk) -> None:
    """Wait until nothing is worked out any more, and the pages are those of the sheet."""
    parts = (desk.showing, desk.sounding)
    idle = desk.studio.activities
    qtbot.waitUntil(lambda: idle.is_idle and all(part.is_current for part in parts), timeout=60000)


@pytest.fixture
def desk(qtbot: QtBot, window: MainWindow) -> SheetsDesk:
    """The desk with the demo's sheet."""
    window.show_desk("sheets")
    shown = window.desks["sheets"]
    assert isinstance(shown, SheetsDesk)
    settled(qtbot, shown)
    return shown


@pytest.fixture
def begin(qtbot: QtBot, desk: SheetsDesk) -> Begin:
    """Begins a sheet at the desk."""

    def begun(sheet: TeachingSheet) -> SheetsDesk:
        desk.studio.sheets.begin(sheet)
        settled(qtbot, desk)
        return desk

    return begun


def the_sheet(desk: SheetsDesk) -> TeachingSheet:
    sheet = desk.studio.sheets.sheet
    assert sheet is not None
    return sheet


def headings(desk: SheetsDesk) -> list[str]:
    assert desk.showing.pages is not None
    return [entry.words for entry in desk.showing.pages.outline]


def press(qtbot: QtBot, at: QWidget, key: Qt.Key, with_: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier) -> None:
    qtbot.keyClick(at, key, with_)


def answer(qtbot: QtBot, desk: SheetsDesk) -> None:
    """Take what the open dialog proposes."""
    qtbot.waitUntil(lambda: desk.making.dialog is not None and desk.making.dialog.isVisible(), timeout=60000)
    assert desk.making.dialog is not None
    desk.making.dialog.accept()
    settled(qtbot, desk)


def run(window: MainWindow, name: str) -> None:
    """Do a command by its id, as the menu does."""
    window.actions_of.action(name).trigger()


# -- templates and pieces --------------------------------------------------------------------------------------


def test_the_demo_begins_with_a_sheet_and_its_pages(desk: SheetsDesk) -> None:
    assert the_sheet(desk).title.startswith("Lick of the week")
    assert desk.view.count == desk.showing.pages.pages.__len__() if desk.showing.pages else False
    assert headings(desk)[:2] == ["The lick", "What it does"]
    assert desk.outline.count() == len(the_sheet(desk).pieces) + 1


@pytest.mark.parametrize(
    ("template", "kinds"),
    [
        ("analysis", ["BARS", "PICTURE", "BARS", "WORDS", "SCALES", "WORDS"]),
        ("lick", ["LICKS", "WORDS", "SCALES", "QUESTION", "KEYS"]),
        ("keys", ["KEYS"]),
        ("empty", []),
    ],
)
def test_a_template_asks_and_makes_a_sheet(qtbot: QtBot, desk: SheetsDesk, template: str, kinds: list[str]) -> None:
    before = len(desk.studio.library.sheets())
    run(desk.window(), f"sheets.begin_{template}")  # type: ignore[arg-type]
    if template != "empty":
        answer(qtbot, desk)
    settled(qtbot, desk)
    assert [kind_of(piece).name for piece in the_sheet(desk).pieces] == kinds
    assert len(desk.studio.library.sheets()) == before + 1
    desk.undo_stack.undo()
    assert len(desk.studio.library.sheets()) == before


def test_players_are_looked_for_and_laid_under_one_another(qtbot: QtBot, desk: SheetsDesk) -> None:
    desk.making.begin("players")
    answer(qtbot, desk)
    licks = the_sheet(desk).pieces[0]
    assert isinstance(licks, Licks)
    players = [lick.source.player for lick in licks.licks]
    assert len(players) == len(set(players)) > 1
    assert the_sheet(desk).title.endswith("long ii-V-I")


def test_every_template_can_be_begun_where_there_is_no_sheet(qtbot: QtBot, desk: SheetsDesk) -> None:
    desk.studio.sheets.delete()
    qtbot.waitUntil(lambda: desk.focus().isVisible())
    assert desk.focus().text() == TEMPLATES[0].words  # type: ignore[attr-defined]
    assert not desk.hand.isVisible()
    qtbot.keyClick(desk.focus(), Qt.Key.Key_Space)
    answer(qtbot, desk)
    assert desk.hand.isVisible()


@pytest.mark.parametrize(
    ("name", "kind"),
    [
        ("words", Words), ("bars", Bars), ("scales", Scales), ("question", Question), ("licks", Licks), ("keys", Keys),
        ("told_phrases", Words), ("told_bars", Words), ("arc", Picture), ("plain_question", Question),
    ],
)  # fmt: skip
def test_each_kind_of_piece_can_be_added(qtbot: QtBot, begin: Begin, name: str, kind: type) -> None:
    desk = begin(TeachingSheet("Mine"))
    run(desk.window(), f"sheets.add_{name}")  # type: ignore[arg-type]
    if name not in ("words", "plain_question"):
        if name == "licks":
            assert desk.making.dialog is not None
            for row in range(2):
                desk.making.dialog.list.item(row).setCheckState(Qt.CheckState.Checked)  # type: ignore[union-attr]
        answer(qtbot, desk)
    (piece,) = the_sheet(desk).pieces
    assert isinstance(piece, kind)
    assert desk.piece == piece
    settled(qtbot, desk)
    assert desk.showing.elements_of(piece.id) or name == "words"
    desk.undo_stack.undo()
    assert the_sheet(desk).pieces == ()


def test_what_comes_back_is_chosen_from_what_does(qtbot: QtBot, begin: Begin) -> None:
    desk = begin(TeachingSheet("Mine"))
    desk.making.add(PieceKind.RETURNS)
    answer(qtbot, desk)
    answer(qtbot, desk)
    (piece,) = the_sheet(desk).pieces
    assert isinstance(piece, Returns)
    assert len(piece.places) > 1
    assert piece.places[1][2]


def test_pieces_are_moved_and_taken_off_by_keys(qtbot: QtBot, begin: Begin) -> None:
    desk = begin(full_sheet())
    desk.choose("b")
    press(qtbot, desk.outline, Qt.Key.Key_Down, Qt.KeyboardModifier.AltModifier)
    assert [piece.id for piece in the_sheet(desk).pieces][:3] == ["w", "q", "b"]
    press(qtbot, desk.outline, Qt.Key.Key_Up, Qt.KeyboardModifier.AltModifier)
    press(qtbot, desk.outline, Qt.Key.Key_Delete)
    assert [piece.id for piece in the_sheet(desk).pieces][:2] == ["w", "q"]
    assert desk.piece is not None
    assert desk.piece.id == "q"
    for _ in range(3):
        desk.undo_stack.undo()
    assert the_sheet(desk) == full_sheet()


def test_added_pieces_come_behind_the_chosen_one(qtbot: QtBot, begin: Begin) -> None:
    desk = begin(full_sheet())
    desk.choose("w")
    desk.making.add(PieceKind.NEW_PAGE)
    assert [kind_of(piece).name for piece in the_sheet(desk).pieces][:3] == ["WORDS", "NEW_PAGE", "BARS"]


# -- fields ----------------------------------------------------------------------------------------------------


def test_words_typed_are_one_step_and_shown_on_the_page(qtbot: QtBot, begin: Begin) -> None:
    desk = begin(TeachingSheet("Mine", pieces=(Words(id="w"),)))
    desk.choose("w")
    field = desk.form.form.fields["words"]
    assert isinstance(field, QPlainTextEdit)
    steps = desk.undo_stack.count()
    for text in ("Listen", " to {G7}."):
        qtbot.keyClicks(field, text)
        desk.form.finish()
    assert desk.undo_stack.count() == steps + 1
    settled(qtbot, desk)
    assert the_sheet(desk).pieces == (Words(id="w", words="Listen to {G7}."),)
    desk.undo_stack.undo()
    assert the_sheet(desk).pieces == (Words(id="w"),)
    assert field.toPlainText() == ""


def test_what_was_typed_counts_when_another_piece_is_chosen_or_the_desk_left(
    qtbot: QtBot, begin: Begin, window: MainWindow
) -> None:
    desk = begin(TeachingSheet("Mine", pieces=(Words(id="a"), Words(id="b"))))
    desk.choose("a")
    qtbot.keyClicks(desk.form.form.fields["words"], "First")
    desk.choose("b")
    qtbot.keyClicks(desk.form.form.fields["words"], "Second")
    window.show_desk("shelf")
    assert [piece.words for piece in the_sheet(desk).pieces if isinstance(piece, Words)] == ["First", "Second"]


def test_fields_change_what_is_shown(qtbot: QtBot, begin: Begin) -> None:
    desk = begin(full_sheet())
    desk.choose("b")
    fields = desk.form.form.fields
    fields["shown.lane"].setChecked(False)  # type: ignore[attr-defined]
    fields["last"].setValue(1)  # type: ignore[attr-defined]
    piece = the_sheet(desk).piece("b")
    assert isinstance(piece, Bars)
    assert not piece.shown.lane
    assert (piece.first, piece.last) == (1, 1)
    fields["first"].setValue(3)  # type: ignore[attr-defined]
    piece = the_sheet(desk).piece("b")
    assert isinstance(piece, Bars)
    assert (piece.first, piece.last) == (3, 3)
    assert fields["last"].value() == 3  # type: ignore[attr-defined]


def test_every_piece_has_its_fields(begin: Begin) -> None:
    desk = begin(full_sheet())
    for piece in full_sheet().pieces:
        desk.choose(piece.id)
        fields = set(desk.form.form.fields)
        assert ("heading" in fields) == (piece.id != "n")
        assert ("shown.lane" in fields) == (piece.id in "brlk")


def test_one_version_is_left(begin: Begin) -> None:
    desk = begin(TeachingSheet("Mine"))
    desk.choose("")
    concert, e_flat = (desk.form.form.fields[f"version.{version}"] for version in (Version.CONCERT, Version.E_FLAT))
    concert.setChecked(False)  # type: ignore[attr-defined]
    assert the_sheet(desk).versions == (Version.CONCERT,)
    assert concert.isChecked()  # type: ignore[attr-defined]
    e_flat.setChecked(True)  # type: ignore[attr-defined]
    concert.setChecked(False)  # type: ignore[attr-defined]
    assert the_sheet(desk).versions == (Version.E_FLAT,)


def test_a_version_is_looked_at(qtbot: QtBot, begin: Begin) -> None:
    desk = begin(full_sheet())
    assert desk.version.isVisible()
    desk.version.setCurrentIndex(1)
    desk.version.activated.emit(1)
    settled(qtbot, desk)
    assert desk.showing.pages is not None
    assert desk.showing.pages.composed.version is Version.E_FLAT
    desk.studio.sheets.edit("Change", replace(the_sheet(desk), title="Still for E♭"))
    settled(qtbot, desk)
    assert desk.showing.pages.composed.version is Version.E_FLAT


def test_the_chosen_piece_is_heard_and_else_the_whole_sheet(qtbot: QtBot, begin: Begin, window: MainWindow) -> None:
    desk = begin(full_sheet())

    def heard(piece: str) -> int:
        desk.choose(piece)
        qtbot.waitUntil(lambda: desk.sounding.is_current, timeout=60000)
        return len(desk.sounding.music.notes) if desk.sounding.music is not None else 0

    whole_sheet = heard("")
    assert 0 < heard("q") < heard("b") < whole_sheet
    assert heard("w") == whole_sheet
    heard("l")
    window.studio.playing.toggle()
    qtbot.waitUntil(lambda: window.studio.transport.is_playing, timeout=60000)
    desk.choose("k")
    qtbot.waitUntil(lambda: not window.studio.transport.is_playing, timeout=60000)
    empty = begin(TeachingSheet("Words", pieces=(Words(id="w", words="None."),)))
    qtbot.waitUntil(lambda: empty.sounding.is_current, timeout=60000)
    assert empty.sounding.music is None
    assert not window.studio.playing.can_play


# -- what is put on it from elsewhere --------------------------------------------------------------------------


def test_the_selection_of_a_solo_is_put_on_the_sheet(qtbot: QtBot, at_ferry: MainWindow) -> None:
    solo = at_ferry.session.solo
    assert solo is not None
    at_ferry.session.selection.select("n20", "n30")
    run(at_ferry, "edit.put_on_sheet")
    sheets = at_ferry.studio.sheets
    assert sheets.sheet is not None
    piece = sheets.sheet.pieces[-1]
    assert isinstance(piece, Bars)
    grid = BarGrid(solo)
    assert piece.first == grid.at(solo.note("n20").onset).number
    assert piece.last == grid.at(solo.note("n30").end - Fraction(1, 100)).number
    assert sheets.sheet.source(piece.source).solo == solo
    assert "is on the sheet" in at_ferry.notice.text.text()
    at_ferry.notice.action.click()
    desk = at_ferry.desks["sheets"]
    assert isinstance(desk, SheetsDesk)
    settled(qtbot, desk)
    assert desk.piece == piece


def test_a_lick_a_result_and_a_comparison_are_put_on_the_sheet(qtbot: QtBot, window: MainWindow) -> None:
    def idle() -> None:
        qtbot.waitUntil(lambda: window.studio.activities.is_idle, timeout=60000)

    window.show_desk("vocabulary")
    idle()
    lick = window.desk.to_sheet()
    assert lick is not None
    assert isinstance(lick.pieces[0], Licks)
    window.desk.all_keys.click()  # type: ignore[attr-defined]
    keys = window.desk.to_sheet()
    assert keys is not None
    assert isinstance(keys.pieces[0], Keys)
    window.show_desk("workshop", window.studio.library.licks()[0].id)
    idle()
    made = window.desk.to_sheet()
    assert made is not None
    assert isinstance(made.pieces[0], Licks)
    assert made.pieces[0].words.startswith("Made of")
    window.show_desk("compare")
    qtbot.waitUntil(lambda: window.desk.found is not None, timeout=60000)  # type: ignore[attr-defined]
    idle()
    compared = window.desk.to_sheet()
    assert compared is not None
    assert [kind_of(piece).name for piece in compared.pieces] == ["PICTURE", "WORDS", "LICKS"]
    window.studio.sheets.put_on(compared)
    assert window.studio.sheets.sheet is not None
    assert window.studio.sheets.sheet.pieces[-3:] == compared.pieces
    window.show_desk("practice")
    assert window.desk.to_sheet() is None


def test_a_changed_solo_is_told_and_taken_as_it_is_now(qtbot: QtBot, at_ferry: MainWindow) -> None:
    run(at_ferry, "edit.put_on_sheet")
    session = at_ferry.session
    assert session.solo is not None
    session.edit("Rename", replace(session.solo, title="Another Ferry"))
    at_ferry.show_desk("sheets")
    desk = at_ferry.desk
    assert isinstance(desk, SheetsDesk)
    desk.choose(the_sheet(desk).pieces[-1].id)
    settled(qtbot, desk)
    assert desk.form.renew is not None
    qtbot.waitUntil(lambda: desk.form.renew is not None and desk.form.renew.isVisible())
    desk.form.renew.click()
    settled(qtbot, desk)
    assert the_sheet(desk).sources[-1].solo.title == "Another Ferry"
    assert not desk.form.renew.isVisible()


# -- keeping ---------------------------------------------------------------------------------------------------


def test_the_next_start_goes_on_with_the_sheet_and_piece(qtbot: QtBot, begin: Begin, open_window: OpenWindow) -> None:
    desk = begin(full_sheet())
    desk.choose("l")
    folder = desk.studio.library.folder
    desk.window().close()
    again = open_window(folder)
    shown = again.desk
    assert isinstance(shown, SheetsDesk)
    settled(qtbot, shown)
    assert the_sheet(shown) == full_sheet()
    assert shown.piece is not None
    assert shown.piece.id == "l"


def test_what_was_typed_last_is_kept_when_the_window_closes(
    qtbot: QtBot, begin: Begin, open_window: OpenWindow
) -> None:
    desk = begin(TeachingSheet("Mine", pieces=(Words(id="w"),)))
    desk.choose("w")
    qtbot.keyClicks(desk.form.form.fields["words"], "Last words")
    folder = desk.studio.library.folder
    desk.window().close()
    shown = open_window(folder).desk
    assert isinstance(shown, SheetsDesk)
    assert the_sheet(shown).pieces == (Words(id="w", words="Last words"),)


def test_undo_goes_back_over_sheets(qtbot: QtBot, begin: Begin) -> None:
    desk = begin(TeachingSheet("One"))
    desk.making.add(PieceKind.WORDS)
    begin(TeachingSheet("Two"))
    desk.making.add(PieceKind.NEW_PAGE)
    desk.making.duplicate()
    settled(qtbot, desk)
    assert the_sheet(desk).title == "Two, copy"
    desk.studio.sheets.delete()
    assert {entry.title for entry in desk.studio.library.sheets()} >= {"One", "Two"}
    for _ in range(6):
        desk.undo_stack.undo()
    settled(qtbot, desk)
    assert [entry.title.split(":")[0] for entry in desk.studio.library.sheets()] == ["Lick of the week"]
    for _ in range(6):
        desk.undo_stack.redo()
    assert {entry.title for entry in desk.studio.library.sheets()} >= {"One", "Two"}


def test_a_sheet_that_cant_be_saved_is_held_rescued_and_offered(
    qtbot: QtBot, begin: Begin, window: MainWindow, open_window: OpenWindow, monkeypatch: pytest.MonkeyPatch
) -> None:
    desk = begin(TeachingSheet("Mine"))
    folder = window.studio.library.folder
    asked = []
    with a_full_disk(monkeypatch):
        desk.making.add(PieceKind.WORDS)
        assert not window.studio.saver.save()
        assert "saved again every few seconds" in window.notice.text.text()
        window.rescue.ask = lambda _, words: asked.append(words) or Choice.CLOSE  # type: ignore[func-returns-value]
        window.close()
    assert "“Mine” could not be saved" in asked[0]
    again = open_window(folder)
    again.greet()
    assert "“Mine” could not be saved the last time" in again.notice.text.text()
    again.notice.action.click()
    kept = {entry.title: entry.pieces for entry in again.studio.library.sheets()}
    assert kept["Mine"] == 1


def test_a_sheet_that_cant_be_begun_is_said_and_nothing_is_left(
    desk: SheetsDesk, window: MainWindow, monkeypatch: pytest.MonkeyPatch
) -> None:
    before, steps = the_sheet(desk), desk.undo_stack.count()
    with a_full_disk(monkeypatch):
        desk.making.begin("empty")
    assert "The disk is full." in window.notice.text.text()
    assert the_sheet(desk) is before
    assert desk.undo_stack.count() == steps


# -- pages -----------------------------------------------------------------------------------------------------


def laid_out(sheet: TeachingSheet, version: Version = Version.CONCERT) -> FlowPages:
    composed = whole(Composer().composed(sheet, version))
    pages = FlowPages(composed, setup_of(sheet), LineSetter(Engraver()))
    shares = list(pages.steps())
    assert shares == sorted(shares)
    return pages


@pytest.mark.parametrize("paper", ["A4", "Letter"])
def test_nothing_is_cut_and_no_heading_stands_alone(qapp: object, at_ferry: MainWindow, paper: str) -> None:
    solo = at_ferry.session.solo
    assert solo is not None
    pages = laid_out(replace(solo_with_analysis(structure_of(labelled(solo)), ""), paper=paper, staff=9.0))
    assert len(pages.pages) > 5
    for number, page in enumerate(pages.pages):
        assert all(0 <= place.top < place.bottom <= pages.height for place in page.places)
        lines = sorted(
            (place.top, place.bottom) for place in page.places if not place.left and place.right == pages.width
        )
        assert all(above[1] <= below[0] for above, below in itertools.pairwise(lines))
        last = max((entry.y for entry in pages.outline if entry.page == number), default=-1.0)
        assert any(place.top > last for place in page.places)


def test_contents_lead_to_the_pages_where_things_stand(at_ferry: MainWindow) -> None:
    solo = at_ferry.session.solo
    assert solo is not None
    pages = laid_out(solo_with_analysis(structure_of(labelled(solo)), ""))
    listed = [(entry.words, entry.page) for _, _, entry in pages.contents()]
    assert [words for words, _ in listed] == [entry.words for entry in pages.outline]
    assert [page for _, page in listed] == sorted(page for _, page in listed)


def test_a_click_on_a_page_chooses_the_piece(qtbot: QtBot, begin: Begin) -> None:
    desk = begin(full_sheet())
    desk.choose("s")
    area = desk.view._page_area(0)
    assert desk.showing.pages is not None
    place = next(p for p in desk.showing.pages.pages[0].places if desk.showing.piece_of(p.element) == "w")
    unit = area.width() / (desk.showing.pages.width + 28 / desk.showing.pages.setup.mm_per_unit)
    x = area.left() + (14 / desk.showing.pages.setup.mm_per_unit + 50) * unit
    desk.view.turn_to(0)
    area = desk.view._page_area(0)
    y = area.top() + (14 / desk.showing.pages.setup.mm_per_unit + (place.top + place.bottom) / 2) * unit
    port = desk.view.viewport()
    assert port is not None
    qtbot.mouseClick(port, Qt.MouseButton.LeftButton, pos=QPoint(round(x), round(y)))
    assert desk.piece is not None
    assert desk.piece.id == "w"


def test_pages_are_gone_through_by_keys(qtbot: QtBot, begin: Begin) -> None:
    sheet = one_key_a_page(full_sheet().piece("k").lick)  # type: ignore[union-attr]
    desk = begin(sheet)
    assert desk.view.count == 12
    desk.view.setFocus()
    press(qtbot, desk.view, Qt.Key.Key_Right)
    assert desk.view.index == 1
    press(qtbot, desk.view, Qt.Key.Key_End)
    assert desk.view.index == 11
    assert desk.place.text() == "Page 12 of 12"
    assert "Page 12 of 12" in desk.view.accessibleDescription()


# -- handing on ------------------------------------------------------------------------------------------------


def made(sheet: TeachingSheet, *formats: SheetFormat) -> dict[str, bytes]:
    files = whole(handed_on(sheet, "Sheet", formats, Composer(), LineSetter(Engraver())))
    return {file.name: file.data for file in files}


def fonts_of(reader: PdfReader) -> list[DictionaryObject]:
    found = {}
    for page in reader.pages:
        for face in page["/Resources"].get_object().get("/Font", {}).values():  # type: ignore[union-attr]
            font = face.get_object()
            found[font["/BaseFont"]] = font
    return list(found.values())


def test_a_pdf_has_text_fonts_bookmarks_and_what_is_said_about_it(at_ferry: MainWindow, tmp_path: Path) -> None:
    solo = at_ferry.session.solo
    assert solo is not None
    sheet = replace(solo_with_analysis(structure_of(labelled(solo)), ""), rights="For our lessons.", header="Week 3")
    path = tmp_path / "sheet.pdf"
    path.write_bytes(made(sheet, SheetFormat.PDF)["Sheet.pdf"])
    reader = PdfReader(path)
    text = [page.extract_text() for page in reader.pages]
    assert text[0].startswith(solo.title)
    assert all("For our lessons." in page and "Week 3" in page for page in text)
    assert not any("\t" in page for page in text)
    assert any("Bar by bar" in page for page in text[1:])
    assert [item["/Title"] for item in reader.outline if not isinstance(item, list)] == [
        piece.heading for piece in sheet.pieces
    ]
    assert reader.metadata is not None
    assert reader.metadata.title == solo.title
    assert "For our lessons." in str(reader.metadata.subject)
    for font in fonts_of(reader):
        descendants = font["/DescendantFonts"].get_object()[0].get_object()  # type: ignore[index]
        assert re.search(r"/FontFile\d?", str(descendants["/FontDescriptor"].get_object()))
        assert "/ToUnicode" in font
    links = [link for page in reader.pages for link in (page.get("/Annots") or DictionaryObject()).get_object()]
    assert len(links) == len(sheet.pieces)


def test_each_version_gets_its_files_and_the_music_stands_beside_them(qapp: object) -> None:
    files = made(full_sheet(), *SheetFormat)
    endings = {name.removeprefix("Sheet") for name in files if not name.endswith(".svg")}
    assert endings == {
        " (C).pdf", " (E♭).pdf", " (C).html", " (E♭).html", " (C).md", " (E♭).md", " (C).musicxml", " (E♭).musicxml",
        ".mid",
    }  # fmt: skip
    assert b"Bm7" not in files["Sheet (C).html"]
    assert "E7" in files["Sheet (E♭).html"].decode()
    text = files["Sheet (C).md"].decode()
    named = re.findall(r"\]\(<([^>]+)>\)", text)
    assert set(named) == {name for name in files if name.startswith("Sheet (C)-")}
    assert b"<transpose>" in files["Sheet (E♭).musicxml"]


def test_a_page_for_the_browser_has_lines_for_wide_and_narrow_screens(qapp: object) -> None:
    sheet = replace(full_sheet(), versions=(Version.CONCERT,), pieces=(Bars(id="b", source="src", first=1, last=3),))
    page = made(sheet, SheetFormat.WEB)["Sheet.html"].decode()
    assert page.count('<figure class="wide">') == page.count('<figure class="narrow">') == 1
    assert "<text" not in page
    wide, narrow = (page.split(f'<figure class="{width}">')[1].split("</figure>")[0] for width in ("wide", "narrow"))
    assert narrow.count("<svg") > wide.count("<svg")


def test_a_sheet_is_handed_on_from_the_desk(
    qtbot: QtBot, begin: Begin, window: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    desk = begin(replace(full_sheet(), versions=(Version.CONCERT,)))
    target = tmp_path / "handed" / "Mine.pdf"
    target.parent.mkdir()
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(target), ""))
    for time in range(2):
        qtbot.keyClick(desk.outline, Qt.Key.Key_E, Qt.KeyboardModifier.ControlModifier)
        dialog = desk.handing.dialog
        assert dialog is not None
        # Whose the music is, is said once.
        assert dialog.reminder.isVisible() == (time == 0)
        dialog.ticks[SheetFormat.MIDI].setChecked(True)
        dialog.accept()
        qtbot.waitUntil(
            lambda: desk.handing.replacing is not None or (target.parent / "Mine.mid").exists(), timeout=60000
        )
        settled(qtbot, desk)
    assert sorted(path.name for path in target.parent.iterdir()) == ["Mine.mid", "Mine.pdf"]
    assert "Exported as Mine.pdf" in window.notice.text.text()
    replacing = desk.handing.replacing
    assert replacing is not None
    (target.parent / "Mine.mid").write_bytes(b"old")
    replacing.accept()
    settled(qtbot, desk)
    assert (target.parent / "Mine.mid").read_bytes() != b"old"


def test_a_folder_that_cant_be_written_is_said(qtbot: QtBot, begin: Begin, window: MainWindow, tmp_path: Path) -> None:
    desk = begin(replace(full_sheet(), versions=(Version.CONCERT,)))
    desk.handing.write(the_sheet(desk), (SheetFormat.MIDI,), tmp_path / "nowhere", "Mine")
    settled(qtbot, desk)
    assert "could not be written: No such file or directory" in window.notice.text.text()


def test_a_sheet_without_music_has_none_to_hand_on(
    qtbot: QtBot, begin: Begin, window: MainWindow, tmp_path: Path
) -> None:
    desk = begin(TeachingSheet("Words", pieces=(Words(id="w", words="Only these."),)))
    desk.handing.write(the_sheet(desk), (SheetFormat.MIDI,), tmp_path, "Words")
    settled(qtbot, desk)
    assert "There is no music on this sheet" in window.notice.text.text()


def test_the_pages_are_printed(qtbot: QtBot, begin: Begin, tmp_path: Path) -> None:
    desk = begin(full_sheet())
    printer = QPrinter(QPrinter.PrinterMode.HighResolution)
    printer.setOutputFileName(str(tmp_path / "printed.pdf"))
    printer.setPrintRange(QPrinter.PrintRange.PageRange)
    printer.setFromTo(2, 3)
    desk.handing.print_on(printer)
    settled(qtbot, desk)
    assert len(PdfReader(tmp_path / "printed.pdf").pages) == 2


def test_handing_on_can_be_cancelled(qtbot: QtBot, begin: Begin, window: MainWindow, tmp_path: Path) -> None:
    desk = begin(full_sheet())
    desk.handing.write(the_sheet(desk), tuple(SheetFormat), tmp_path, "Mine")
    (activity,) = window.studio.activities.of(desk.handing)
    activity.cancel()
    settled(qtbot, desk)
    assert list(tmp_path.glob("Mine*")) == []


def test_a_solo_without_chords_and_in_an_odd_meter_can_be_handed_on(qapp: object) -> None:
    bare = make_solo([("", "D5/8 F5 A5 C6 B5"), ("", "A5/8 G5 F5 E5 D5")], meter="5/8", grouping="3+2")
    high = replace(
        bare, notes=tuple(replace(n, pitch=Pitch(n.pitch.letter, 0, n.pitch.octave + 3)) for n in bare.notes)
    )
    for solo in (bare, high):
        sheet = replace(solo_with_analysis(structure_of(labelled(solo)), ""), versions=tuple(Version))
        assert len(made(sheet, *SheetFormat)) > 15
    empty = TeachingSheet("Empty", sources=(SheetSource("x", "", bare),))
    assert set(made(empty, SheetFormat.PDF, SheetFormat.MIDI)) == {"Sheet.pdf"}
