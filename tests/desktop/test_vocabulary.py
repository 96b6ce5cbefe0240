"""The Vocabulary desk as its users meet it: asking, saying, comparing, keeping much at once, in and out."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtWidgets import QFileDialog
from pytestqt.qtbot import QtBot
from tests.desktop.conftest import OpenWindow

from gavotte.demo.players import HABITS
from gavotte.desktop.desks.vocabulary.desk import VocabularyDesk
from gavotte.desktop.playback.rhythm_taps import Press
from gavotte.desktop.shell.window import MainWindow
from gavotte.formats.musicxml_write import write_musicxml
from gavotte.library.lick_files import SUFFIX, licks_of_file, read_licks, write_licks
from gavotte.library.lines import EMPTY
from gavotte.theory.pitch import Pitch


@pytest.fixture
def desk(qtbot: QtBot, window: MainWindow) -> VocabularyDesk:
    window.show_desk("vocabulary")
    shown = window.desks["vocabulary"]
    assert isinstance(shown, VocabularyDesk)
    qtbot.waitUntil(lambda: shown.indexer.is_current and window.activities.is_idle, timeout=20000)
    return shown


def ask(qtbot: QtBot, desk: VocabularyDesk, text: str) -> None:
    desk.search.line.clear()
    qtbot.keyClicks(desk.search.line, text)


def settled(qtbot: QtBot, desk: VocabularyDesk) -> None:
    qtbot.waitUntil(lambda: not desk._settled.isActive() and desk.studio.activities.is_idle, timeout=20000)


def test_what_is_typed_is_answered_at_once_in_licks_and_in_solos(qtbot: QtBot, desk: VocabularyDesk) -> None:
    every = desk.licks.count()
    ask(qtbot, desk, "3 5 b7 b9")
    assert 0 < desk.licks.count() < every
    assert desk.search.places
    row = next(row for row in desk.licks.rows if row.is_lick)
    assert row.marked
    assert desk.search.places[0].name.startswith("3 5 ♭7 ♭9")
    ask(qtbot, desk, "by odo")
    assert desk.licks.count() == 7
    qtbot.keyClick(desk.search.line, Qt.Key.Key_Escape)
    assert desk.licks.count() == every
    assert desk.search.line.text() == ""


def test_what_cannot_be_read_is_told_and_takes_nothing_away(qtbot: QtBot, desk: VocabularyDesk) -> None:
    ask(qtbot, desk, "enclosure")
    before = desk.licks.rows
    qtbot.keyClicks(desk.search.line, " of")
    assert "the degree a note leads to is missing" in desk.search.message.text()
    assert desk.search.message.isVisible()
    assert desk.licks.rows == before
    qtbot.keyClicks(desk.search.line, " 3")
    assert not desk.search.message.isVisible()


def test_a_context_restricts_what_is_listed(qtbot: QtBot, desk: VocabularyDesk) -> None:
    choice = desk.search.contexts
    number = choice.findData("short ii-V-I")
    assert choice.itemText(number).endswith(")"), "how many there are is told"
    desk.search.choose_context("short ii-V-I")
    names = {lick.id: lick.contexts for lick in desk.studio.library.licks()}
    assert desk.licks.count()
    assert all("short ii-V-I" in names[row.owner] for row in desk.licks.rows if row.is_lick)
    assert desk.escape()
    assert desk.search.context == ""


def test_nothing_found_shows_what_can_be_asked(qtbot: QtBot, desk: VocabularyDesk) -> None:
    ask(qtbot, desk, "1 1 1 1 1 1 1 1 1")
    assert desk._examples.isVisible()
    assert "Nothing" in desk.search.message.text()
    assert not desk.has_lick


def test_what_is_not_gone_through_yet_is_not_said_to_be_missing(qtbot: QtBot, desk: VocabularyDesk) -> None:
    desk.indexer.index = EMPTY
    desk.indexer.renew()
    desk.search.line.setText("3 5 b7 b9")
    assert "more may answer" in desk.search.message.text()
    qtbot.waitUntil(lambda: desk.indexer.is_current, timeout=20000)
    assert desk.licks.count()
    assert not desk.search.message.isVisible()


def test_words_are_put_in_by_the_mouse(desk: VocabularyDesk) -> None:
    desk.search.menu.aboutToShow.emit()
    functions = desk.search.menu.actions()[0].menu()
    assert functions is not None
    next(action for action in functions.actions() if action.text().startswith("enclosure")).trigger()
    assert desk.search.line.text() == "enclosure "
    assert desk.search.line.query is not None


def test_what_is_said_of_a_lick_is_kept_and_undone(qtbot: QtBot, window: MainWindow, desk: VocabularyDesk) -> None:
    lick_id = desk.licks.current_id() or ""
    library = window.studio.library
    before = library.lick(lick_id)
    desk.about.status.setCurrentIndex(2)
    desk.about.status.activated.emit(2)
    desk.about.rating.setCurrentIndex(4)
    desk.about.rating.activated.emit(4)
    desk.about.tags.setText("slow,  evening , slow")
    qtbot.keyClick(desk.about.tags, Qt.Key.Key_Return)
    desk.panels.show_page("about")
    desk.about.words.setFocus()
    qtbot.keyClicks(desk.about.words, "Lean on the ninth.")
    window.show_desk("shelf")
    said = library.lick(lick_id)
    assert (said.status, said.rating, said.tags) == ("mine", 4, ("slow", "evening"))
    assert said.words == "Lean on the ninth."
    window.show_desk("vocabulary")
    assert desk.licks.rows[0].edge == "★★★★"
    for _ in range(4):
        window.undo.undo()
    assert library.lick(lick_id) == before


def test_relatives_are_laid_under_a_lick_and_heard(qtbot: QtBot, window: MainWindow, desk: VocabularyDesk) -> None:
    number = next(k for k, row in enumerate(desk.licks.rows) if "Umbrellas" in row.detail)
    desk.licks.setCurrentRow(number)
    settled(qtbot, desk)
    desk.panels.show_page("relatives")
    relative = desk.related.chosen
    assert relative is not None
    assert relative.likeness > 0.8
    assert desk.related.words.text().endswith(".")
    assert desk.related.laid.accessibleName()
    for play in (desk.related.play, desk.related.both):
        play.click()
        qtbot.waitUntil(lambda: window.studio.transport.is_playing)
        window.studio.transport.stop()
    desk.view.laid.click()
    qtbot.waitUntil(lambda: desk.page.is_complete)
    assert len({section.onset for section in desk.view.sheet.solo.sections}) > 1  # type: ignore[union-attr]
    in_own = desk.view.sheet.solo.keys[0].key.tonic.pitch_class  # type: ignore[union-attr]
    desk.view.key.setCurrentIndex(1)
    qtbot.waitUntil(lambda: desk.page.is_complete)
    tonics = {key.key.tonic.pitch_class for key in desk.view.sheet.solo.keys}  # type: ignore[union-attr]
    assert tonics == {0} != {in_own}
    desk.page.selection_wanted.emit("0:" + desk.view.lick.solo.notes[0].id, "0:" + desk.view.lick.solo.notes[0].id)  # type: ignore[union-attr]
    assert desk.page.accessibleName()
    relative_solo = relative.owner
    desk.go_to_relative()
    assert desk.licks.current_id() == relative_solo or window.session.solo_id == relative_solo


def test_a_place_is_kept_and_then_a_lick(qtbot: QtBot, window: MainWindow, desk: VocabularyDesk) -> None:
    ask(qtbot, desk, "enclosure of 3")
    place = next(k for k, row in enumerate(desk.licks.rows) if not row.is_lick and not row.is_heading)
    desk.licks.setCurrentRow(place)
    assert desk.view.keep.isVisible()
    assert not desk.is_kept
    number = len(window.studio.library.licks())
    qtbot.keyClick(desk.licks, Qt.Key.Key_K)
    assert len(window.studio.library.licks()) == number + 1
    qtbot.waitUntil(lambda: desk.is_kept)
    window.undo.undo()
    assert len(window.studio.library.licks()) == number


def test_all_of_a_kind_are_kept_as_ticked(qtbot: QtBot, window: MainWindow, desk: VocabularyDesk) -> None:
    number = len(window.studio.library.licks())
    ask(qtbot, desk, "enclosure of 3")
    rows = desk.search.places
    qtbot.keyClick(desk.licks, Qt.Key.Key_K, Qt.KeyboardModifier.ShiftModifier)
    dialog = desk.in_and_out.dialog
    assert dialog is not None
    assert dialog.ticked == rows
    item = dialog.places.item(0)
    assert item is not None
    item.setCheckState(Qt.CheckState.Unchecked)
    assert dialog.yes.text() == f"Keep {len(rows) - 1} licks"
    dialog.accept()
    qtbot.waitUntil(lambda: len(window.studio.library.licks()) == number + len(rows) - 1)
    window.undo.undo()
    assert len(window.studio.library.licks()) == number


def test_all_of_the_kind_of_a_selection_are_found_from_the_page(qtbot: QtBot, at_ferry: MainWindow) -> None:
    labels = at_ferry.session.labels
    note = next(label.note for label in labels.values() if label.device == "enclosure")
    at_ferry.session.selection.select(note, note)
    at_ferry.actions_of.action("edit.find_kind").trigger()
    assert at_ferry.desk is at_ferry.desks["vocabulary"]
    desk = at_ferry.desks["vocabulary"]
    assert desk.search.line.text().startswith("enclosure of")
    qtbot.waitUntil(lambda: bool(desk.licks.rows))


def test_what_is_kept_already_is_told_before_it_is_kept_again(qtbot: QtBot, at_ferry: MainWindow) -> None:
    lick = next(at_ferry.studio.library.lick(e.id) for e in at_ferry.studio.library.licks() if "Ferry" in e.source)
    at_ferry.session.selection.select(lick.solo.notes[0].id, lick.solo.notes[-1].id)
    at_ferry.actions_of.action("edit.keep_lick").trigger()
    dialog = at_ferry.studio.keeping.dialog
    assert dialog is not None
    qtbot.waitUntil(lambda: dialog.already_there == f"“{lick.name}” is the same place.")
    dialog.reject()


def test_a_corrected_solo_is_followed(qtbot: QtBot, window: MainWindow, desk: VocabularyDesk) -> None:
    library = window.studio.library
    lick_id = desk.licks.current_id() or ""
    lick = library.lick(lick_id)
    solo = library.solo(lick.source.solo_id)
    first = lick.solo.notes[0].id
    notes = tuple(replace(n, pitch=Pitch.parse("G5")) if n.id == first else n for n in solo.notes)
    library.save_solo(lick.source.solo_id, replace(solo, notes=notes))
    desk.refresh()
    settled(qtbot, desk)
    desk.panels.show_page("about")
    assert "corrected" in desk.about.link.text()
    desk.about.follow.click()
    qtbot.waitUntil(lambda: str(library.lick(lick_id).solo.note(first).pitch) == "G5")
    settled(qtbot, desk)
    assert not desk.about.follow.isVisible()
    window.undo.undo()
    assert library.lick(lick_id) == lick


def test_cells_are_listed_with_their_places_and_kept(qtbot: QtBot, window: MainWindow, desk: VocabularyDesk) -> None:
    desk.turn_to("cells")
    qtbot.waitUntil(lambda: bool(desk.overview.cells) and window.activities.is_idle, timeout=30000)
    assert len(desk.search.cells.cells.rows) == len(desk.overview.cells)
    number = next(k for k, cell in enumerate(desk.overview.cells) if len(cell.places) > 4)
    desk.search.cells.cells.setCurrentRow(number)
    cell = desk.overview.cells[number]
    assert desk.places.places.count() == len(cell.places)
    desk.places.places.setCurrentRow(1)
    assert desk.view.lick is not None
    assert desk.view.lick.source.solo_id == cell.places[1].solo_id
    qtbot.keyClick(desk.search.cells.cells, Qt.Key.Key_K)
    kept = window.studio.library.lick(desk.licks.current_id() or "")
    assert len(kept.places) == len(cell.places)
    assert desk.search.mode == "licks"


def test_a_players_dictionary_leads_to_the_places(qtbot: QtBot, window: MainWindow, desk: VocabularyDesk) -> None:
    desk.turn_to("players")
    assert {desk.search.players.item(k).text() for k in range(desk.search.players.count())} >= set(HABITS)
    desk.search.players.select_id("Perpetua Lindqvarn")
    qtbot.waitUntil(lambda: desk.dictionary.name.text() == "Perpetua Lindqvarn" and bool(desk.dictionary.entries.told))
    desk.dictionary.beside.setCurrentIndex(1)
    desk.dictionary.beside.activated.emit(1)
    qtbot.waitUntil(lambda: any(told.other is not None for told in desk.dictionary.entries.told))
    row = next(k for k, told in enumerate(desk.dictionary.entries.told) if told.words == "the 5" and told.mine)
    desk.dictionary.entries.itemActivated.emit(desk.dictionary.entries.item(row))
    assert desk.search.mode == "licks"
    assert desk.search.line.text().endswith('by "Perpetua Lindqvarn"')
    assert desk.search.line.error == ""


def test_licks_go_out_and_come_back_without_doubles(
    qtbot: QtBot, window: MainWindow, desk: VocabularyDesk, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    file = tmp_path / f"mine{SUFFIX}"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(file), ""))
    window.actions_of.action("vocabulary.export_licks").trigger()
    qtbot.waitUntil(file.exists)
    licks = read_licks(file.read_bytes())
    number = desk.licks.count()
    assert len(licks) == number
    assert licks_of_file(file) == licks
    gone = desk.licks.current_id() or ""
    window.studio.edits.delete_lick(gone)
    monkeypatch.setattr(QFileDialog, "getOpenFileNames", lambda *_: ([str(file)], ""))
    window.actions_of.action("vocabulary.import_licks").trigger()
    qtbot.waitUntil(lambda: len(window.studio.library.licks()) == number)


def test_scores_become_licks_and_what_is_none_is_told(
    qtbot: QtBot, window: MainWindow, desk: VocabularyDesk, tmp_path: Path
) -> None:
    lick = window.studio.library.lick(desk.licks.current_id() or "")
    (tmp_path / "one.musicxml").write_bytes(write_musicxml(replace(lick.solo, title="One")))
    (tmp_path / f"broken{SUFFIX}").write_text('{"format": "gavotte-licks", "version": 1, "licks": [{}]}')
    number = len(window.studio.library.licks())
    with qtbot.waitSignal(desk.in_and_out.files.failed) as told:
        desk.in_and_out.files.take([tmp_path])
    assert "Lick 1 of 1" in told.args[0]
    qtbot.waitUntil(lambda: len(window.studio.library.licks()) == number + 1)
    assert write_licks([]) != b""


def test_the_book_holds_every_lick_and_tells_its_page(qtbot: QtBot, window: MainWindow, desk: VocabularyDesk) -> None:
    from gavotte.desktop.paper.pages import SheetPages
    from gavotte.desktop.paper.setup import read_setup

    licks = [window.studio.library.lick(name) for name in desk.in_and_out.listed]
    window.actions_of.action("view.written").trigger()
    sheet = desk.in_and_out.book(licks)
    assert {entry.name for entry in sheet.contents} == {lick.name for lick in licks}
    pages = SheetPages(sheet, read_setup(window.studio.settings))
    for _ in pages.steps(window.studio.engraver):
        pass
    told = [row for page in pages.pages for row in page.contents if row[2]]
    assert len(told) == len(licks)
    numbers = [int(number) for *_, number in told]
    assert numbers == sorted(numbers)
    assert 1 < numbers[0] <= numbers[-1] <= len(pages.pages)


def test_a_save_that_fails_takes_nothing_away(
    qtbot: QtBot, window: MainWindow, desk: VocabularyDesk, monkeypatch: pytest.MonkeyPatch
) -> None:
    from gavotte.library.errors import LibraryError

    def fails(*_: object) -> None:
        raise LibraryError("The disk is full.")

    lick = window.studio.library.lick(desk.licks.current_id() or "")
    monkeypatch.setattr(window.studio.library, "save_lick", fails)
    desk.about.rating.setCurrentIndex(1)
    desk.about.rating.activated.emit(1)
    assert "The disk is full. Nothing was changed." in window.notice.text.text()
    assert window.studio.library.lick(desk.licks.current_id() or "") == lick


def test_where_one_was_is_remembered(open_window: OpenWindow, demo_folder: Path, qtbot: QtBot) -> None:
    first = open_window(demo_folder)
    first.show_desk("vocabulary")
    desk = first.desks["vocabulary"]
    desk.licks.setCurrentRow(5)
    desk.view.laid.click()
    desk.panels.show_page("relatives")
    lick = desk.licks.current_id()
    first.close()
    again = open_window(demo_folder).desks["vocabulary"]
    assert again.licks.current_id() == lick
    assert again.view.laid.isChecked()
    assert again.panels.page_shown == "relatives"


def test_a_line_is_played_and_a_rhythm_tapped_into_the_search(qtbot: QtBot, desk: VocabularyDesk) -> None:
    desk.search.keys.click()
    keys = desk.search.played.keys
    width = (keys.width() - 1) / 14
    qtbot.mouseClick(keys, Qt.MouseButton.LeftButton, pos=QPoint(int(0.5 * width), keys.height() - 8))
    assert desk.search.line.text() == ""
    qtbot.mouseClick(keys, Qt.MouseButton.LeftButton, pos=QPoint(int(2.5 * width), keys.height() - 8))
    qtbot.mouseClick(keys, Qt.MouseButton.LeftButton, pos=QPoint(int(2 * width), 10))
    assert desk.search.line.text().split() == ["+4", "-1"]
    desk.search.played.device.play(60)
    assert desk.search.line.query is not None
    assert desk.search.line.query.moves == (4, -1, -3)
    desk.search.line.clear()
    desk.search.played.taps.tapped.emit([Press(Fraction(k, 2)) for k in (0, 1, 2, 4)])
    assert desk.search.line.text().strip() == "rhythm 8-8-4-x"
    assert desk.licks.rows
    desk.search.keys.click()
    assert not desk.search.played.isVisible()


def test_what_is_like_a_selection_is_found_from_the_page(qtbot: QtBot, at_ferry: MainWindow) -> None:
    notes = at_ferry.session.solo.notes  # type: ignore[union-attr]
    at_ferry.session.selection.select(notes[3].id, notes[12].id)
    at_ferry.actions_of.action("edit.find_relatives").trigger()
    desk = at_ferry.desks["vocabulary"]
    assert at_ferry.desk is desk
    assert desk.view.lick.solo.notes[0].id == notes[3].id
    assert not desk.is_kept
    qtbot.waitUntil(lambda: desk.indexer.is_current and at_ferry.activities.is_idle, timeout=20000)
    assert desk.view.lick.solo.notes[0].id == notes[3].id, "the index has come since, the selection is still looked at"
    settled(qtbot, desk)
    assert desk.panels.page_shown == "relatives"
    assert desk.related.chosen is not None


@pytest.mark.mishap
def test_without_a_recording_the_original_is_asked_for(qtbot: QtBot, window: MainWindow, desk: VocabularyDesk) -> None:
    window.actions_of.action("vocabulary.original").trigger()
    qtbot.waitUntil(lambda: "There is no recording of this lick" in window.notice.text.text())


def test_any_licks_are_laid_under_one_another(qtbot: QtBot, desk: VocabularyDesk) -> None:
    desk.licks.setCurrentRow(0)
    for _ in range(2):
        qtbot.keyClick(desk.licks, Qt.Key.Key_Down, Qt.KeyboardModifier.ShiftModifier)
    assert len(desk.licks.selected_ids()) == 3
    qtbot.waitUntil(lambda: desk.view.sheet is not None and len(desk.view.sheet.solo.sections) == 3)
    assert desk.view.laid.isChecked()
    settled(qtbot, desk)
    assert len(desk.view.sheet.solo.sections) == 3, "relatives that were found since do not take their place"  # type: ignore[union-attr]
    qtbot.keyClick(desk.licks, Qt.Key.Key_Down)
    settled(qtbot, desk)
    assert len(desk.licks.selected_ids()) == 1


def test_a_folder_of_scores_is_taken_in(
    qtbot: QtBot, window: MainWindow, desk: VocabularyDesk, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    lick = window.studio.library.lick(desk.licks.current_id() or "")
    for number in range(3):
        solo = replace(lick.solo, title=f"Number {number}", notes=lick.solo.notes[number:])
        (tmp_path / f"{number}.musicxml").write_bytes(write_musicxml(solo))
    number = len(window.studio.library.licks())
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *_: str(tmp_path))
    window.actions_of.action("vocabulary.import_folder").trigger()
    qtbot.waitUntil(lambda: len(window.studio.library.licks()) == number + 3)
