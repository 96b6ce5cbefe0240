"""The Compare desk: sets, figures on two sides of an axis, examples, and what is taken away."""

from __future__ import annotations

import csv
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QImage
from PyQt6.QtWidgets import QFileDialog
from pytestqt.qtbot import QtBot

from gavotte.desktop.desks.compare.desk import CompareDesk
from gavotte.desktop.shell.window import MainWindow
from gavotte.library.solo_sets import SetKind, SoloSet, members, sets_of
from gavotte.library.store import Library

OpenWindow = Callable[[Path], MainWindow]


def settled(qtbot: QtBot, window: MainWindow) -> None:
    qtbot.waitUntil(lambda: window.studio.activities.is_idle, timeout=60000)


@pytest.fixture
def desk(qtbot: QtBot, window: MainWindow) -> CompareDesk:
    window.show_desk("compare")
    shown = window.desks["compare"]
    assert isinstance(shown, CompareDesk)
    qtbot.waitUntil(lambda: shown.found is not None, timeout=60000)
    settled(qtbot, window)
    return shown


def choose(qtbot: QtBot, desk: CompareDesk, here: SoloSet, there: SoloSet) -> None:
    for choice, wanted in ((desk.here, here), (desk.there, there)):
        choice.setCurrentIndex(choice.findText(wanted.value) if wanted.value else choice.findText("All others"))
        choice.activated.emit(choice.currentIndex())
    settled(qtbot, desk.window())  # type: ignore[arg-type]


ILKA = SoloSet(SetKind.PLAYER, "Ilka Rosenquill")
ODO = SoloSet(SetKind.PLAYER, "Odo Vantongeren")
REST = SoloSet(SetKind.REST)


def test_a_players_habit_stands_out_and_is_shown_where_it_is_heard(
    qtbot: QtBot, window: MainWindow, desk: CompareDesk
) -> None:
    choose(qtbot, desk, ILKA, REST)
    assert desk.found is not None
    names = [row.figure.name for row in desk.mirror.rows]
    assert "ending on 1" in names[:3]
    desk.mirror.setCurrentRow(names.index("ending on 1"))
    settled(qtbot, window)
    row = desk.mirror.chosen
    assert row is not None
    assert row.stands_out
    assert desk.told.text().startswith("Phrases that end on the root: ")
    assert "more than chance" in desk.told.text()
    assert desk.laid is not None
    assert 2 <= len(desk.laid.sources) <= 6
    assert all("Ilka" in s.label for s in desk.laid.solo.sections[: len(desk.laid.sources) // 2])
    ends = {note.id.partition(":")[0]: note.id for note in desk.laid.solo.notes}
    assert desk.laid.counted <= set(ends.values())
    assert set(desk.page.lines[0].note_items) <= {note.id for note in desk.laid.solo.notes}


def test_examples_are_heard_and_led_to(qtbot: QtBot, window: MainWindow, desk: CompareDesk) -> None:
    choose(qtbot, desk, ILKA, REST)
    desk.mirror.setFocus()
    qtbot.keyClick(desk.mirror, Qt.Key.Key_Space)
    qtbot.waitUntil(lambda: window.studio.transport.is_playing, timeout=10000)
    qtbot.keyClick(desk.mirror, Qt.Key.Key_Space)
    assert desk.laid is not None
    second = next(note.id for note in desk.laid.solo.notes if note.id.startswith("1:"))
    desk.select(second, second)
    assert desk.played().selected() == (second,)
    qtbot.keyClick(desk.page, Qt.Key.Key_G)
    settled(qtbot, window)
    assert window.studio.session.solo_id == desk.laid.sources[1][0]


def test_escape_lifts_the_selection_and_leaves_the_examples(
    qtbot: QtBot, window: MainWindow, desk: CompareDesk
) -> None:
    choose(qtbot, desk, ILKA, REST)
    assert desk.laid is not None
    laid, notes = desk.laid, desk.laid.solo.notes
    desk.select(notes[0].id, notes[2].id)
    assert desk.played().selected() == tuple(note.id for note in notes[:3])
    qtbot.keyClick(desk.page, Qt.Key.Key_Escape)
    assert desk.played().selected() == ()
    assert desk.laid is laid


def test_sets_are_swapped_and_families_gone_through_by_keys(
    qtbot: QtBot, window: MainWindow, desk: CompareDesk
) -> None:
    choose(qtbot, desk, ILKA, ODO)
    assert desk.found is not None
    notes = desk.found.here.notes, desk.found.there.notes
    qtbot.keyClick(desk.mirror, Qt.Key.Key_X)
    settled(qtbot, window)
    assert (desk.found.here.notes, desk.found.there.notes) == notes[::-1]
    assert desk.here.currentText() == "Odo Vantongeren"
    desk.family.setCurrentIndex(desk.family.findData("Rhythm"))
    desk.family.activated.emit(0)
    assert {row.figure.family for row in desk.mirror.rows} == {"Rhythm"}
    desk.mirror.setCurrentRow(0)
    before = desk.told.text()
    qtbot.keyClick(desk.mirror, Qt.Key.Key_Down)
    assert desk.mirror.currentRow() == 1
    assert desk.told.text() != before
    item = desk.mirror.item(1)
    assert item is not None
    assert ": " in str(item.data(Qt.ItemDataRole.AccessibleTextRole))


def test_nothing_is_told_where_chance_could_bring_it(qtbot: QtBot, window: MainWindow, desk: CompareDesk) -> None:
    choose(qtbot, desk, ILKA, ILKA)
    assert desk.found is not None
    assert desk.found.apart == []
    assert "Nothing differs" in desk.verdict.text()
    assert desk.mirror.rows
    assert "Chance can bring as much" in desk.told.text() or "too little" in desk.told.text()


def test_a_set_without_solos_is_told(qtbot: QtBot, window: MainWindow, desk: CompareDesk) -> None:
    desk.here.setCurrentIndex(desk.here.findText("All solos"))
    desk.there.setCurrentIndex(desk.there.findText("All others"))
    desk.there.activated.emit(0)
    settled(qtbot, window)
    assert "no solos" in desk.verdict.text()


@pytest.mark.parametrize("suffix", [".csv", ".svg", ".png"])
def test_the_figures_are_taken_away(
    qtbot: QtBot, window: MainWindow, desk: CompareDesk, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, suffix: str
) -> None:
    path = tmp_path / f"figures{suffix}"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(path), ""))
    desk.family.setCurrentIndex(desk.family.findData("Intervals"))
    desk.family.activated.emit(0)
    desk.export.click()
    settled(qtbot, window)
    if suffix == ".csv":
        rows = list(csv.DictReader(path.open()))
        assert len(rows) == len(desk.mirror.rows)
        assert rows[0]["family"] == "Intervals"
        assert 0 <= float(rows[0][desk.here.currentText()]) <= 1
    elif suffix == ".svg":
        assert path.read_text().count("<rect") > len(desk.mirror.rows)
    else:
        assert QImage(str(path)).height() > 40 * len(desk.mirror.rows)


def test_figures_that_cant_be_written_are_told(
    qtbot: QtBot, window: MainWindow, desk: CompareDesk, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / "nowhere" / "figures.csv"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(path), ""))
    desk.export_figures()
    settled(qtbot, window)
    assert "figures.csv" in window.notice.text.text()


def test_it_keeps_up_with_the_library(qtbot: QtBot, window: MainWindow, desk: CompareDesk) -> None:
    choose(qtbot, desk, ILKA, REST)
    assert desk.found is not None
    before = len(desk.found.here.ids)
    library = window.studio.library
    solo = library.solo(desk.found.here.ids[0])
    window.show_desk("shelf")
    library.add_solo(replace(solo, title="Once more"))
    window.show_desk("compare")
    desk.show_updates(desk.kind.follows)
    settled(qtbot, window)
    assert len(desk.found.here.ids) == before + 1


def test_where_one_was_is_kept(qtbot: QtBot, window: MainWindow, desk: CompareDesk) -> None:
    choose(qtbot, desk, ILKA, ODO)
    kept = desk.remembered()
    fresh = CompareDesk(window.studio)
    fresh.recall(kept)
    fresh._read()
    assert fresh.here.currentText() == "Ilka Rosenquill"
    assert fresh.there.currentText() == "Odo Vantongeren"
    fresh.recall("nonsense")
    fresh.deleteLater()


def test_an_empty_library_leads_to_the_shelf(qtbot: QtBot, open_window: OpenWindow, tmp_path: Path) -> None:
    window = open_window(tmp_path / "empty")
    window.show_desk("compare")
    desk = window.desks["compare"]
    assert isinstance(desk, CompareDesk)
    assert desk._nothing.isVisible()
    assert not desk.mirror.isVisible()
    desk.to_shelf.click()
    assert window.desk is window.desks["shelf"]


def test_sets_are_what_holds_solos_together(window: MainWindow) -> None:
    library: Library = window.studio.library
    entries = library.solos()
    sets = sets_of(entries)
    assert {one.kind for one in sets} >= {SetKind.ALL, SetKind.REST, SetKind.PLAYER, SetKind.SOLO}
    everything = members(SoloSet(SetKind.ALL), REST, entries)
    for one in sets:
        mine, rest = members(one, REST, entries), members(REST, one, entries)
        if one.kind is not SetKind.REST:
            assert sorted([*mine, *rest]) == sorted(everything)
        assert SoloSet.of(one.code) == one
    assert SoloSet.of("nothing=x") is None
    heads = {entry.id for entry in entries if entry.is_head}
    assert heads.isdisjoint(everything)
