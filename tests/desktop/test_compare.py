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
from gavotte.desktop.desks.compare.pictures import Picture
from gavotte.desktop.shell.window import MainWindow
from gavotte.library.practising import KeptTake, Practising
from gavotte.library.solo_sets import SetKind, SoloSet, members, sets_of
from gavotte.library.store import Library
from gavotte.practice.due import due_line
from gavotte.practice.take import Take, TakeNote, Verdict
from gavotte.profile.figures import FIGURES

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
    desk.bar.here.choose(here)
    desk.bar.there.choose(there)
    desk.bar.changed.emit()
    settled(qtbot, desk.window())  # type: ignore[arg-type]


def turn(qtbot: QtBot, desk: CompareDesk, view: str) -> None:
    """Go to a view by its command's key."""
    number = list(desk.views.tabs).index(view) + 1
    qtbot.keyClick(desk.focus(), getattr(Qt.Key, f"Key_{number}"), Qt.KeyboardModifier.ControlModifier)
    assert desk.views.page_shown == view
    settled(qtbot, desk.window())  # type: ignore[arg-type]


def pick(desk: CompareDesk, code: str) -> None:
    """Choose between the sets: figures of a family, or a picture."""
    middle = desk.bar.middle
    middle.setCurrentIndex(middle.findData(code))
    middle.activated.emit(middle.currentIndex())


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
    desk.heard.select(second, second)
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
    desk.heard.select(notes[0].id, notes[2].id)
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
    assert desk.bar.here.sets.currentText() == "Odo Vantongeren"
    pick(desk, "Rhythm")
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
    assert "Nothing differs" in desk.bar.verdict.text()
    assert desk.mirror.rows
    assert "Chance can bring as much" in desk.told.text() or "too little" in desk.told.text()


def test_a_set_without_solos_is_told(qtbot: QtBot, window: MainWindow, desk: CompareDesk) -> None:
    choose(qtbot, desk, SoloSet(SetKind.ALL), REST)
    assert "no solos" in desk.bar.verdict.text()


@pytest.mark.parametrize("suffix", [".csv", ".svg", ".png"])
def test_the_figures_are_taken_away(
    qtbot: QtBot, window: MainWindow, desk: CompareDesk, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, suffix: str
) -> None:
    path = tmp_path / f"figures{suffix}"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(path), ""))
    pick(desk, "Intervals")
    desk.export.click()
    settled(qtbot, window)
    if suffix == ".csv":
        rows = list(csv.DictReader(path.open()))
        assert len(rows) == len(desk.mirror.rows)
        assert rows[0]["family"] == "Intervals"
        assert 0 <= float(rows[0][desk.names[0]]) <= 1
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
    assert fresh.bar.here.sets.currentText() == "Ilka Rosenquill"
    assert fresh.bar.there.sets.currentText() == "Odo Vantongeren"
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


# -- pictures, what is shared, what is near, what changes -------------------------------------------------------


@pytest.mark.parametrize("picture", list(Picture))
def test_each_picture_is_shown_and_taken_away(
    qtbot: QtBot, window: MainWindow, desk: CompareDesk, tmp_path: Path, monkeypatch: pytest.MonkeyPatch,
    picture: Picture,
) -> None:  # fmt: skip
    choose(qtbot, desk, ODO, ILKA)
    turn(qtbot, desk, "pictures")
    pick(desk, str(picture))
    qtbot.waitUntil(lambda: bool(desk.pictures.spots), timeout=10000)
    assert {spot.figure for spot in desk.pictures.spots} <= {figure.name for figure in FIGURES}
    for suffix in (".svg", ".png", ".csv"):
        path = tmp_path / f"picture{suffix}"
        monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_, to=path: (str(to), ""))
        desk.export_figures()
        settled(qtbot, window)
        assert path.exists()
    assert "<polyline" in (tmp_path / "picture.svg").read_text() or picture is not Picture.FORM
    assert QImage(str(tmp_path / "picture.png")).width() == 1800
    rows = list(csv.reader((tmp_path / "picture.csv").open()))
    assert len(rows) > 4


def test_a_rung_of_a_ladder_is_heard_where_it_is_played(qtbot: QtBot, window: MainWindow, desk: CompareDesk) -> None:
    choose(qtbot, desk, ILKA, REST)
    turn(qtbot, desk, "pictures")
    pick(desk, str(Picture.LANDINGS))
    qtbot.waitUntil(lambda: bool(desk.pictures.spots), timeout=10000)
    assert "Click a part" in desk.told.text()
    spot = next(spot for spot in desk.pictures.spots if spot.figure == "ending on 1")
    qtbot.mouseClick(desk.pictures, Qt.MouseButton.LeftButton, pos=spot.area.center().toPoint())
    settled(qtbot, window)
    assert desk.told.text().startswith("Phrases that end on the root: ")
    assert desk.laid is not None
    qtbot.keyClick(desk.pictures, Qt.Key.Key_Up)
    assert desk.pictures.figure != "ending on 1"
    assert not desk.told.text().startswith("Phrases that end on the root: ")


def test_what_both_sets_have_in_common_is_laid_under_one_another(
    qtbot: QtBot, window: MainWindow, desk: CompareDesk
) -> None:
    choose(qtbot, desk, ODO, REST)
    turn(qtbot, desk, "common")
    qtbot.waitUntil(lambda: desk.in_common is not None, timeout=60000)
    settled(qtbot, window)
    assert desk.in_common is not None
    assert desk.common.rows.count() == len(desk.in_common.cells) > 0
    assert " times" in desk.told.text() or " once" in desk.told.text()
    assert desk.laid is not None
    owners = [owner for owner, _ in desk.laid.sources]
    assert desk.found is not None
    assert owners[0] in desk.found.here.ids
    assert owners[-1] in desk.found.there.ids


def test_the_solos_nearest_to_one_are_mostly_its_players(qtbot: QtBot, window: MainWindow, desk: CompareDesk) -> None:
    entries = {entry.title: entry for entry in window.studio.library.solos()}
    choose(qtbot, desk, SoloSet(SetKind.SOLO, entries["Twelve Umbrellas"].id), REST)
    turn(qtbot, desk, "nearest")
    qtbot.waitUntil(lambda: desk.near is not None, timeout=60000)
    settled(qtbot, window)
    assert desk.near
    first = next(entry for entry in entries.values() if entry.id == desk.near[0][0])
    assert first.player == "Odo Vantongeren"
    assert "alike in" in desk.told.text()
    assert not desk.bar.there.isVisible()
    desk.nearest.rows.setFocus()
    qtbot.keyClick(desk.nearest.rows, Qt.Key.Key_Down)
    assert desk.nearest.rows.current_id() == desk.near[1][0]


def test_changes_over_time_need_years_and_are_drawn(
    qtbot: QtBot, window: MainWindow, desk: CompareDesk, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    choose(qtbot, desk, SoloSet(SetKind.ALL), REST)
    turn(qtbot, desk, "time")
    qtbot.waitUntil(lambda: desk.over is not None, timeout=60000)
    settled(qtbot, window)
    assert desk.over is not None
    assert "1954" in desk.over.times
    assert desk.time.changes.count() > 10
    path = tmp_path / "change.svg"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(path), ""))
    desk.export_figures()
    settled(qtbot, window)
    assert "<ellipse" in path.read_text() or "<circle" in path.read_text()
    one = window.studio.library.solos()[0]
    choose(qtbot, desk, SoloSet(SetKind.SOLO, one.id), REST)
    qtbot.waitUntil(lambda: desk.over is None, timeout=60000)
    assert "needs 5 solos" in desk.time.message.text()
    assert not desk.time.changes.isVisible()


def test_several_are_ticked_together_and_kept(
    qtbot: QtBot, window: MainWindow, desk: CompareDesk, demo_folder: Path, open_window: OpenWindow
) -> None:
    bar = desk.bar
    bar.here.sets.setCurrentIndex(bar.here.sets.count() - 1)
    bar.here.sets.activated.emit(bar.here.sets.currentIndex())
    dialog = bar.here.dialog
    assert dialog is not None
    for item in dialog._items():
        if item.text(0) in ("Odo Vantongeren", "Perpetua Lindqvarn", "harbour school"):
            item.setCheckState(0, Qt.CheckState.Checked)
        elif item.text(0) == "Ilka Rosenquill":
            item.setCheckState(0, Qt.CheckState.Unchecked)
    assert dialog.told.text().startswith("5 solos")
    dialog.search.setText("odo")
    assert [item.text(0) for item in dialog._items() if not item.isHidden()] == ["Odo Vantongeren"]
    dialog.search.clear()
    perpetua = next(item for item in dialog._items() if item.text(0) == "Perpetua Lindqvarn")
    dialog.tree.setCurrentItem(perpetua)
    # By keyboard: Space ticks, Return takes what is ticked and leaves it so.
    qtbot.keyClick(dialog.tree, Qt.Key.Key_Space)
    assert dialog.told.text().startswith("3 solos")
    qtbot.keyClick(dialog.tree, Qt.Key.Key_Space)
    qtbot.keyClick(dialog.tree, Qt.Key.Key_Return)
    settled(qtbot, window)
    assert desk.found is not None
    assert len(desk.found.here.ids) == 5
    assert desk.names[0] == "Odo Vantongeren or Perpetua Lindqvarn; harbour school"
    named = desk.names[0]
    window.close()
    again = open_window(demo_folder)
    again.show_desk("compare")
    kept = again.desks["compare"]
    assert isinstance(kept, CompareDesk)
    qtbot.waitUntil(lambda: kept.found is not None, timeout=60000)
    assert kept.names[0] == named


def test_a_part_of_the_solos_is_compared(qtbot: QtBot, window: MainWindow, desk: CompareDesk) -> None:
    choose(qtbot, desk, ODO, ODO)
    assert desk.found is not None
    whole = desk.found.here.notes
    for choice, code in ((desk.bar.here, "first"), (desk.bar.there, "last")):
        wanted = next(k for k in range(choice.parts.count()) if choice.parts.itemData(k).code == code)
        choice.parts.setCurrentIndex(wanted)
        choice.parts.activated.emit(wanted)
        settled(qtbot, window)
    assert 0 < desk.found.here.notes < whole
    assert 0 < desk.found.there.notes < whole
    assert desk.found.here.notes != desk.found.there.notes


def test_own_takes_are_compared_as_they_were_played(qtbot: QtBot, window: MainWindow, desk: CompareDesk) -> None:
    library = window.studio.library
    solo = library.solo(library.solos()[0].id)
    notes = tuple(
        TakeNote(note.id, Verdict.RIGHT, note.pitch.midi, float(note.onset), float(note.end), 0.0)
        for note in due_line(solo).notes
    )
    choose(qtbot, desk, SoloSet(SetKind.TAKES), REST)
    assert desk.found is not None
    before = desk.found.here.notes
    practising = Practising(library)
    item = practising.items()[0][0]
    for _ in range(2):
        practising.add_take(KeptTake(item, 0, "2026-05-01T10:00:00+00:00", solo, Take(notes, tempo=120.0, sure=1.0)))
    desk.show_updates(desk.kind.follows)
    settled(qtbot, window)
    assert desk.bar.here.sets.currentText() == "All my takes"
    choose(qtbot, desk, SoloSet(SetKind.TAKES), REST)
    assert desk.found.here.notes == before + 2 * len(notes)
    assert desk.bar.here_words.text().startswith("3 takes")
    assert desk.laid is not None
    assert any(section.label.startswith("My take") for section in desk.laid.solo.sections)


def test_sets_of_several_fit_all_criteria_and_hold_single_solos(window: MainWindow) -> None:
    entries = window.studio.library.solos()
    by_title = {entry.title: entry.id for entry in entries}
    ferry = by_title["Chalk Harbour"]
    chosen = SoloSet.several(
        {SetKind.PLAYER: ("Odo Vantongeren",), SetKind.YEAR: ("1954", "1961"), SetKind.SOLO: (ferry,)}
    )
    assert SoloSet.of(chosen.code) == chosen
    found = set(members(chosen, REST, entries))
    assert found == {by_title["Copper Kettle Avenue"], by_title["Twelve Umbrellas"], ferry}
    assert SoloSet.of("several={}") is None
    assert SoloSet.of("several=[1") is None
    assert members(SoloSet.several({}), REST, entries) == []
