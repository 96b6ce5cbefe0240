"""Details of several solos at once, at the Shelf."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from gavotte.desktop.desks.shelf.desk import ShelfDesk
from gavotte.desktop.shell.window import MainWindow


@pytest.fixture
def shelf(window: MainWindow) -> ShelfDesk:
    window.show_desk("shelf")
    desk = window.desks["shelf"]
    assert isinstance(desk, ShelfDesk)
    return desk


def test_several_solos_gain_tags_and_a_source_in_one_step(qtbot: QtBot, window: MainWindow, shelf: ShelfDesk) -> None:
    library, session = window.studio.library, window.session
    before = {entry.id: entry for entry in library.solos()}
    shelf.solos.setCurrentRow(0)
    shelf.open_current()
    qtbot.waitUntil(lambda: session.solo is not None, timeout=20000)
    opened = session.solo_id
    window.show_desk("shelf")
    shelf.solos.setFocus()
    shelf.solos.setCurrentRow(0)
    qtbot.keyClick(shelf.solos, Qt.Key.Key_Down, Qt.KeyboardModifier.ShiftModifier)
    qtbot.keyClick(shelf.solos, Qt.Key.Key_Down, Qt.KeyboardModifier.ShiftModifier)
    chosen = shelf.chosen_solos
    assert len(chosen) == 3
    assert opened in chosen
    shelf.change_details()
    dialog = shelf.several
    assert dialog is not None
    dialog.add_tags.setText("northern,  school ")
    dialog.source.setText("Tin box, reel 4")
    dialog.year.setText("in 1950")
    assert not dialog.yes.isEnabled()
    dialog.year.setText("1954")
    dialog.accept()
    assert session.solo is not None
    assert (session.solo.tags, session.solo.source, session.solo.year) == (
        ("northern", "school"),
        "Tin box, reel 4",
        1954,
    )
    window.studio.saver.save()
    for entry in library.solos():
        if entry.id in chosen:
            assert (entry.tags, entry.source, entry.year) == ("northern, school", "Tin box, reel 4", 1954)
            assert library.solo(entry.id).tags == ("northern", "school")
            assert (entry.player, entry.album) == (before[entry.id].player, before[entry.id].album)
        else:
            assert (entry.tags, entry.source) == (before[entry.id].tags, before[entry.id].source)
    assert set(shelf.chosen_solos) == set(chosen)
    window.studio.edits.undo_stack.undo()
    window.studio.saver.save()
    assert {entry.id: (entry.tags, entry.source, entry.year) for entry in library.solos()} == {
        solo_id: (entry.tags, entry.source, entry.year) for solo_id, entry in before.items()
    }
    assert session.solo.tags == ()


def test_tags_are_taken_away_where_they_are(window: MainWindow, shelf: ShelfDesk) -> None:
    library = window.studio.library
    first, second = (entry.id for entry in library.solos()[:2])
    window.studio.edits.change_details({first: {"tags": ("slow", "late")}, second: {"tags": ("late",)}})
    shelf.solos.selectAll()
    shelf.change_details()
    assert shelf.several is not None
    assert {"late", "slow"} <= set(shelf.several.remove_tags.placeholderText().split(", "))
    shelf.several.remove_tags.setText("late")
    shelf.several.accept()
    tags = {entry.id: entry.tags for entry in library.solos()}
    assert (tags[first], tags[second]) == ("slow", "")


def test_several_solos_are_deleted_and_put_back_in_one_step(window: MainWindow, shelf: ShelfDesk) -> None:
    library = window.studio.library
    count = len(library.solos())
    shelf.solos.selectAll()
    shelf.delete_current()
    assert library.solos() == []
    window.studio.edits.undo_stack.undo()
    assert len(library.solos()) == count
