"""Stories: what a user does from the first start on, through the window's own keys and buttons."""

from __future__ import annotations

from pathlib import Path

import music21
import pytest
from PyQt6.QtCore import QMimeData, QPointF, Qt, QUrl
from PyQt6.QtGui import QDropEvent
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot
from tests.desktop.conftest import OpenWindow, in_doubt

from gavotte.desktop.shell.window import MainWindow
from gavotte.desktop.theme.look import LOOKS
from gavotte.labelling.questions import Asked
from gavotte.solo.document import Function

LEAD_SHEET = Path(music21.__file__).parent / "corpus" / "leadSheet" / "berlinAlexandersRagtime.mxl"
NO_MODIFIER, SHIFT, CONTROL = (
    Qt.KeyboardModifier.NoModifier,
    Qt.KeyboardModifier.ShiftModifier,
    Qt.KeyboardModifier.ControlModifier,
)


def press(qtbot: QtBot, widget: object, key: Qt.Key, modifier: Qt.KeyboardModifier = NO_MODIFIER) -> None:
    qtbot.keyClick(widget, key, modifier)


def go_through_a_solo(qtbot: QtBot, window: MainWindow) -> tuple[str, str]:
    """Step to a doubtful note, correct it, keep a lick and read it in twelve keys. Gives note and lick name."""
    page, session, review = window.desks["label"].page, window.session, window.desks["label"].review
    qtbot.waitUntil(lambda: page.is_complete and review.is_complete)
    page.setFocus()
    doubts = in_doubt(session)
    listed = [item.first for item in review.questions if item.asked is Asked.DOUBT]
    assert listed
    for _ in review.questions:
        press(qtbot, page, Qt.Key.Key_Tab)
        if session.selection.current in listed and len(session.selection.notes()) == 1:
            break
    note = session.selection.current
    assert note in doubts
    press(qtbot, page, Qt.Key.Key_3)
    assert session.labels[note].function is Function.PASSING
    assert session.labels[note].decided
    assert len(in_doubt(session)) == len(doubts) - 1

    press(qtbot, page, Qt.Key.Key_Home)
    for _ in range(7):
        press(qtbot, page, Qt.Key.Key_Right, SHIFT)
    assert len(session.selection.notes()) == 8
    press(qtbot, page, Qt.Key.Key_K)
    dialog = window.studio.keeping.dialog
    assert dialog is not None
    assert dialog.name.text()
    dialog.name.setText(f"{dialog.name.text()} (mine)")
    name = dialog.name.text()
    qtbot.mouseClick(dialog.yes, Qt.MouseButton.LeftButton)
    qtbot.mouseClick(window.notice.action, Qt.MouseButton.LeftButton)
    vocabulary = window.desks["vocabulary"]
    assert vocabulary.isVisible()
    assert vocabulary.name.text() == name
    qtbot.waitUntil(lambda: vocabulary.page.is_complete)
    assert len({item.line.source.bars[0].key for item in vocabulary.page.lines}) == 12
    return note, name


def find_it_again(qtbot: QtBot, window: MainWindow, title: str, note: str, name: str) -> None:
    window.show_desk("shelf")
    rows = window.desks["shelf"].solos
    index = next(i for i in range(rows.count()) if rows.item(i).text() == title)
    rows.setCurrentRow(index)
    press(qtbot, rows, Qt.Key.Key_Return)
    assert window.session.solo is not None
    assert window.session.solo.title == title
    label = window.session.labels[note]
    assert (label.function, label.decided) == (Function.PASSING, True)
    licks = [window.desks["shelf"].licks.item(i).text() for i in range(window.desks["shelf"].licks.count())]
    assert name in licks


def test_a_demo_solo_from_first_look_to_tomorrow(qtbot: QtBot, open_window: OpenWindow, demo_folder: Path) -> None:
    window = open_window(demo_folder)
    press(qtbot, window.desks["shelf"].solos, Qt.Key.Key_Return)
    assert window.session.solo is not None
    title = window.session.solo.title
    note, name = go_through_a_solo(qtbot, window)
    window.close()
    find_it_again(qtbot, open_window(demo_folder), title, note, name)


def test_a_lead_sheet_from_import_to_tomorrow(qtbot: QtBot, open_window: OpenWindow, tmp_path: Path) -> None:
    folder = tmp_path / "empty"
    window = open_window(folder)
    assert window.desks["shelf"].first_import.isVisible()
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(LEAD_SHEET))])
    window.dropEvent(
        QDropEvent(QPointF(50, 50), Qt.DropAction.CopyAction, data, Qt.MouseButton.LeftButton, NO_MODIFIER)
    )
    qtbot.waitUntil(lambda: window.session.solo is not None or window.studio.importer.dialog is not None, timeout=20000)
    if window.studio.importer.dialog is not None:
        window.studio.importer.dialog.accept()
        qtbot.waitUntil(lambda: window.session.solo is not None, timeout=20000)
        window.activateWindow()
    assert window.session.solo is not None
    title = window.session.solo.title
    qtbot.waitUntil(lambda: bool(window.session.labels), timeout=20000)
    note, name = go_through_a_solo(qtbot, window)
    window.close()
    find_it_again(qtbot, open_window(folder), title, note, name)


def test_corrections_can_be_undone_redone_and_taken_back(qtbot: QtBot, at_ferry: MainWindow) -> None:
    page, session = at_ferry.desks["label"].page, at_ferry.session
    page.setFocus()
    press(qtbot, page, Qt.Key.Key_Home)
    before = session.labels["n0"]
    press(qtbot, page, Qt.Key.Key_5)
    assert session.labels["n0"].function is Function.OUTSIDE
    press(qtbot, at_ferry, Qt.Key.Key_Z, CONTROL)
    assert session.labels["n0"] == before
    press(qtbot, at_ferry, Qt.Key.Key_Y, CONTROL)
    assert session.labels["n0"].function is Function.OUTSIDE
    press(qtbot, page, Qt.Key.Key_Backspace)
    assert session.labels["n0"] == before
    assert session.undo_stack.count() == 2


@pytest.mark.parametrize(
    ("key", "function"),
    list(
        zip(
            (Qt.Key.Key_1, Qt.Key.Key_2, Qt.Key.Key_3, Qt.Key.Key_4, Qt.Key.Key_5),
            Function,
            strict=True,
        )
    ),
)
def test_one_key_for_each_function(qtbot: QtBot, at_ferry: MainWindow, key: Qt.Key, function: Function) -> None:
    page, session = at_ferry.desks["label"].page, at_ferry.session
    page.setFocus()
    session.selection.select("n4", "n6")
    press(qtbot, page, key)
    assert {session.labels[note].function for note in ("n4", "n5", "n6")} == {function}
    assert at_ferry.desks["label"].card.functions[function].isChecked()


def test_every_edit_is_saved_by_itself(qtbot: QtBot, at_ferry: MainWindow) -> None:
    session = at_ferry.session
    with qtbot.waitSignal(at_ferry.studio.saver.saved, timeout=5000):
        session.selection.select("n9", "n9")
        session.decide(Function.OUTSIDE)
    assert session.solo_id is not None
    assert session.library.solo(session.solo_id) == session.solo


def test_the_whole_window_works_in_both_themes_and_small(at_ferry: MainWindow) -> None:
    at_ferry.resize(1024, 700)
    for action in (at_ferry.actions_of.action(f"view.look_{name.lower()}") for _, name in LOOKS):
        action.trigger()
        QApplication.processEvents()
        background = at_ferry.desks["label"].page.grab().toImage().pixelColor(300, 20)
        assert background.name() == at_ferry.palette_in_use.page
    assert at_ferry.desks["label"].card.isVisible()


def test_the_next_start_goes_on_where_the_last_ended(qtbot: QtBot, open_window: OpenWindow, demo_folder: Path) -> None:
    first = open_window(demo_folder)
    first.open_solo(first.desks["shelf"].solos.current_id() or "")
    qtbot.waitUntil(lambda: first.desks["label"].page.is_complete)
    first.session.selection.select("n26", "n30")
    first.zoom(1)
    zoom = first.desks["label"].page.zoom
    assert zoom > 1
    assert first.session.labels["n30"].reason == first.desks["label"].page.accessibleDescription()
    first.close()
    second = open_window(demo_folder)
    assert second.desks["label"].isVisible()
    assert second.session.solo == first.session.solo
    assert (second.session.selection.anchor, second.session.selection.current) == ("n26", "n30")
    assert second.desks["label"].page.zoom == pytest.approx(zoom)
    second.show_desk("vocabulary")
    second.desks["vocabulary"].licks.setCurrentRow(2)
    second.close()
    third = open_window(demo_folder)
    assert third.desks["vocabulary"].isVisible()
    assert third.desks["vocabulary"].licks.currentRow() == 2
    third.studio.edits.delete_solo(third.session.solo_id or "")
    third.close()
    assert open_window(demo_folder).session.solo is None


def test_a_killed_start_begins_at_the_shelf(open_window: OpenWindow, demo_folder: Path) -> None:
    window = open_window(demo_folder)
    window._settings.setValue("solo", "gone")
    window._settings.setValue("desk", "nowhere")
    window._settings.sync()
    assert open_window(demo_folder).desks["shelf"].isVisible()
