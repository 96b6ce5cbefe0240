"""The Phrases desk worked in the real window: phrases, words, layers, what comes back, the arc."""

from __future__ import annotations

import gc
from fractions import Fraction
from pathlib import Path
from xml.etree import ElementTree

import pytest
from PyQt6.QtCore import QPoint, Qt
from pytestqt.qtbot import QtBot
from tests.conftest import make_solo
from tests.desktop.conftest import OpenWindow

from gavotte.desktop.desks.phrases.layers import GUIDE_TONES
from gavotte.desktop.errands.exporting import ANALYSIS
from gavotte.desktop.playback.outputs import ManualOutput
from gavotte.desktop.shell.window import MainWindow
from gavotte.engraving.shapes import STAFF_SPACE as SP
from gavotte.library.errors import LibraryError
from gavotte.library.store import Library
from gavotte.phrasing.relations import Kind
from gavotte.phrasing.skeleton import Level
from gavotte.phrasing.structure import structure_of
from gavotte.solo.document import Function, Solo

BARS = [("Dm7", "D4/8 F4 A4 C5 D5 C5 A4 F4"), ("G7", "G4/4 B4/4 r/2")]
UP = [("Em7", "E4/8 G4 B4 D5 E5 D5 B4 G4"), ("A7", "A4/4 C#5/4 r/2")]
LINE = make_solo([*BARS, *BARS, *UP])
NO_MODIFIER = Qt.KeyboardModifier.NoModifier


def opened(open_window: OpenWindow, folder: Path, qtbot: QtBot, *solos: Solo) -> MainWindow:
    """A window at the Phrases desk with the first of some solos, everything worked out."""
    with Library(folder) as library:
        ids = [library.add_solo(solo, 0) for solo in solos]
    window = open_window(folder)
    window.open_solo(ids[0])
    window.show_desk("phrases")
    built(window, qtbot)
    window.activateWindow()
    window.desks["phrases"].page.setFocus()
    return window


def built(window: MainWindow, qtbot: QtBot) -> None:
    desk = window.desks["phrases"]
    qtbot.waitUntil(lambda: desk.builder.is_current and desk.page.is_complete)


def press(qtbot: QtBot, window: MainWindow, key: Qt.Key, modifier: Qt.KeyboardModifier = NO_MODIFIER) -> None:
    qtbot.keyClick(window.desks["phrases"].page, key, modifier)


def firsts(window: MainWindow) -> list[int]:
    return [phrase.first for phrase in window.desks["phrases"].builder.structure.phrases]


@pytest.fixture
def at_line(qtbot: QtBot, open_window: OpenWindow, tmp_path: Path) -> MainWindow:
    return opened(open_window, tmp_path / "lib", qtbot, LINE)


def test_phrase_by_phrase(qtbot: QtBot, at_line: MainWindow) -> None:
    desk, session = at_line.desks["phrases"], at_line.session
    assert firsts(at_line) == [0, 10, 20]
    press(qtbot, at_line, Qt.Key.Key_Tab)
    assert session.selection.notes() == tuple(f"n{k}" for k in range(10))
    assert desk.side.card.heading.text() == "Phrase 1 of 3"
    press(qtbot, at_line, Qt.Key.Key_Tab)
    assert desk.side.card.heading.text() == "Phrase 2 of 3"
    assert desk.side.card.field.toPlainText().startswith("Says again what bar 1 said")
    press(qtbot, at_line, Qt.Key.Key_Backtab, Qt.KeyboardModifier.ShiftModifier)
    assert desk.side.card.heading.text() == "Phrase 1 of 3"
    assert desk.state() == "3 phrases"


def test_going_by_phrases_goes_by_those_that_are_shown(qtbot: QtBot, at_line: MainWindow) -> None:
    at_line.session.selection.select("n5", "n5")
    press(qtbot, at_line, Qt.Key.Key_B)
    built(at_line, qtbot)
    at_line.session.selection.select("n0", "n0")
    press(qtbot, at_line, Qt.Key.Key_Down, Qt.KeyboardModifier.ControlModifier)
    assert at_line.session.selection.current == "n5"


def test_phrases_are_decided_by_keys_and_undone(qtbot: QtBot, at_line: MainWindow) -> None:
    session = at_line.session
    session.selection.select("n5", "n5")
    press(qtbot, at_line, Qt.Key.Key_B)
    built(at_line, qtbot)
    assert firsts(at_line) == [0, 5, 10, 20]
    press(qtbot, at_line, Qt.Key.Key_Right, Qt.KeyboardModifier.AltModifier)
    built(at_line, qtbot)
    assert firsts(at_line) == [0, 6, 10, 20]
    assert session.selection.current == "n6"
    press(qtbot, at_line, Qt.Key.Key_J)
    built(at_line, qtbot)
    assert firsts(at_line) == [0, 10, 20]
    while session.undo_stack.canUndo():
        session.undo_stack.undo()
    built(at_line, qtbot)
    assert session.solo == LINE
    assert firsts(at_line) == [0, 10, 20]


def test_a_decision_is_dropped(qtbot: QtBot, at_line: MainWindow) -> None:
    at_line.session.selection.select("n12", "n12")
    press(qtbot, at_line, Qt.Key.Key_J)
    built(at_line, qtbot)
    assert firsts(at_line) == [0, 20]
    at_line.session.selection.select("n10", "n10")
    press(qtbot, at_line, Qt.Key.Key_Backspace)
    built(at_line, qtbot)
    assert firsts(at_line) == [0, 10, 20]


def test_where_nothing_can_be_decided_it_is_said(qtbot: QtBot, at_line: MainWindow) -> None:
    at_line.session.selection.select("n0", "n0")
    for key, said in ((Qt.Key.Key_J, "no phrase before"), (Qt.Key.Key_B, "begins here anyway")):
        press(qtbot, at_line, key)
        assert said in at_line.statusBar().currentMessage()
    assert not at_line.session.undo_stack.canUndo()


def test_a_beginning_is_dragged(qtbot: QtBot, at_line: MainWindow) -> None:
    page, viewport = at_line.desks["phrases"].page, at_line.desks["phrases"].page.viewport()

    def at(note: str, below: float) -> QPoint:
        item = page.line_with(note)
        x = next(placed.x for placed in item.line.notes if placed.note.id == note)
        return page.mapFromScene(item.breaths.mapToScene(x - 0.7 * SP, below))

    qtbot.mousePress(viewport, Qt.MouseButton.LeftButton, pos=at("n10", 0.8 * SP))
    qtbot.mouseMove(viewport, at("n8", 0.8 * SP))
    qtbot.mouseRelease(viewport, Qt.MouseButton.LeftButton, pos=at("n8", 0.8 * SP))
    built(at_line, qtbot)
    assert firsts(at_line) == [0, 8, 20]
    qtbot.mouseClick(viewport, Qt.MouseButton.LeftButton, pos=at("n12", 0.8 * SP))
    assert at_line.session.selection.notes() == tuple(f"n{k}" for k in range(8, 20))


def test_own_words_are_kept_and_taken_back(qtbot: QtBot, at_line: MainWindow) -> None:
    card, session = at_line.desks["phrases"].side.card, at_line.session
    press(qtbot, at_line, Qt.Key.Key_Tab)
    worked_out = card.field.toPlainText()
    card.field.setFocus()
    card.field.setPlainText("Asks.")
    at_line.desks["phrases"].page.setFocus()
    built(at_line, qtbot)
    assert [(said.note, said.words) for said in session.solo.phrase_words] == [("n0", "Asks.")]
    assert card.field.toPlainText() == "Asks."
    qtbot.mouseClick(card.again, Qt.MouseButton.LeftButton)
    built(at_line, qtbot)
    assert session.solo.phrase_words == ()
    assert card.field.toPlainText() == worked_out


def test_words_begun_go_to_their_own_phrase(qtbot: QtBot, at_line: MainWindow) -> None:
    desk, session = at_line.desks["phrases"], at_line.session
    press(qtbot, at_line, Qt.Key.Key_Tab)
    desk.side.card.field.setFocus()
    desk.side.card.field.setPlainText("Half a sent")
    desk.builder.changed.emit()
    assert desk.side.card.field.toPlainText() == "Half a sent", "what is being written stays"
    session.selection.select("n12", "n12")
    built(at_line, qtbot)
    assert [(said.note, said.words) for said in session.solo.phrase_words] == [("n0", "Half a sent")]
    assert desk.side.card.field.toPlainText().startswith("Says again")


def test_threads_are_there_when_what_comes_back_is(qtbot: QtBot, at_line: MainWindow) -> None:
    desk = at_line.desks["phrases"]
    assert desk.page._breaths.knots == ()
    qtbot.mouseClick(desk.side.tabs["motifs"], Qt.MouseButton.LeftButton)
    assert [knot.kind for knot in desk.page._breaths.knots] == [None, Kind.SAME, Kind.MOVED]
    qtbot.mouseClick(desk.side.tabs["phrase"], Qt.MouseButton.LeftButton)
    assert desk.page._breaths.knots == ()


def test_words_begun_go_to_their_own_solo(qtbot: QtBot, open_window: OpenWindow, tmp_path: Path) -> None:
    window = opened(open_window, tmp_path / "lib", qtbot, LINE, make_solo(UP))
    first, second = (entry.id for entry in sorted(window.studio.library.solos(), key=lambda e: e.id))
    other = second if window.session.solo_id == first else first
    mine = window.session.solo_id
    press(qtbot, window, Qt.Key.Key_Tab)
    window.desks["phrases"].side.card.field.setFocus()
    window.desks["phrases"].side.card.field.setPlainText("Mine.")
    window.open_solo(other)
    assert window.session.solo.phrase_words == ()
    window.studio.saver.save()
    assert [said.words for said in window.studio.library.solo(mine).phrase_words] == ["Mine."]


def test_the_line_is_peeled_and_played(qtbot: QtBot, at_line: MainWindow) -> None:
    desk = at_line.desks["phrases"]
    assert desk.music() is at_line.session.solo
    for level in (Level.PLAIN, Level.BEATS, Level.STRONG, Level.BARS):
        press(qtbot, at_line, Qt.Key.Key_V)
        assert desk.layers.level is level
    assert [note.id for note in desk.music().notes] == ["n0", "n8", "n10", "n18", "n20", "n28"]
    press(qtbot, at_line, Qt.Key.Key_V, Qt.KeyboardModifier.ShiftModifier)
    assert desk.layers.level is Level.STRONG
    assert at_line.studio.playing.can_play
    press(qtbot, at_line, Qt.Key.Key_T)
    assert desk.layers.wanted == GUIDE_TONES
    press(qtbot, at_line, Qt.Key.Key_T)
    assert desk.music() is at_line.session.solo


def test_the_skeleton_is_corrected_by_hand(qtbot: QtBot, at_line: MainWindow) -> None:
    desk, session = at_line.desks["phrases"], at_line.session
    session.selection.select("n1", "n1")
    before = desk.builder.structure.levels[1]
    press(qtbot, at_line, Qt.Key.Key_Period)
    built(at_line, qtbot)
    assert desk.builder.structure.levels[1] == before + 1
    press(qtbot, at_line, Qt.Key.Key_Comma)
    built(at_line, qtbot)
    assert desk.builder.structure.levels[1] == before
    press(qtbot, at_line, Qt.Key.Key_Backspace)
    assert session.solo.reductions == ()


def test_what_comes_back_is_gone_through_and_compared(qtbot: QtBot, at_line: MainWindow) -> None:
    desk, session = at_line.desks["phrases"], at_line.session
    desk.side.show_page("motifs")
    kinds = [how.kind for _, how in desk.theme.others]
    assert kinds == [Kind.SAME, Kind.MOVED]
    press(qtbot, at_line, Qt.Key.Key_M)
    place = desk.theme.places[1]
    assert session.selection.notes()[0] == LINE.notes[place.first].id
    assert desk.side.motifs.pair.isVisible()
    assert desk.side.motifs.places.currentRow() == 1
    press(qtbot, at_line, Qt.Key.Key_M, Qt.KeyboardModifier.ShiftModifier)
    assert desk.side.motifs.places.currentRow() == 0


def test_where_else_a_selection_is(qtbot: QtBot, at_line: MainWindow) -> None:
    desk = at_line.desks["phrases"]
    at_line.session.selection.select("n0", "n1")
    press(qtbot, at_line, Qt.Key.Key_W)
    assert "three notes or more" in at_line.statusBar().currentMessage()
    at_line.session.selection.select("n0", "n3")
    press(qtbot, at_line, Qt.Key.Key_W)
    assert desk.side.page_shown == "motifs"
    assert [place.first for place in desk.theme.places] == [0, 10, 20]
    assert "D F A C comes back 2 times." in desk.side.motifs.about.text()
    qtbot.mouseClick(desk.side.motifs.motifs, Qt.MouseButton.LeftButton)
    assert desk.side.motifs.themes.isVisible()


def test_two_places_are_played_in_turn(qtbot: QtBot, at_line: MainWindow) -> None:
    desk, transport = at_line.desks["phrases"], at_line.studio.transport
    desk.side.show_page("motifs")
    press(qtbot, at_line, Qt.Key.Key_M)
    press(qtbot, at_line, Qt.Key.Key_G)
    qtbot.waitUntil(lambda: transport.is_playing)
    first, second = desk.theme.places[0], desk.theme.places[1]
    assert at_line.session.selection.notes()[0] == LINE.notes[first.first].id
    assert desk.in_turn.waits
    output = transport.output
    assert isinstance(output, ManualOutput)

    def second_is_played() -> bool:
        if transport.is_playing:
            output.pass_seconds(0.03)
        return at_line.session.selection.notes()[0] == LINE.notes[second.first].id

    qtbot.waitUntil(second_is_played, timeout=8000)
    transport.stop()
    assert not desk.in_turn.waits


def test_the_arc_leads_to_a_bar(qtbot: QtBot, at_line: MainWindow) -> None:
    land = at_line.desks["phrases"].ridge.land
    x, _ = land.place(9.0)
    qtbot.mouseClick(land, Qt.MouseButton.LeftButton, pos=QPoint(round(x), 40))
    assert at_line.session.selection.current == "n10"


def test_changed_while_hidden_and_shown_again(qtbot: QtBot, at_line: MainWindow) -> None:
    desk, session = at_line.desks["phrases"], at_line.session
    at_line.show_desk("label")
    session.selection.select("n3", "n3")
    session.move(1)
    session.decide(Function.OUTSIDE)
    assert not desk.builder.is_current
    at_line.show_desk("phrases")
    built(at_line, qtbot)
    assert desk.builder.structure.found is session.found


def test_written_pitch(qtbot: QtBot, at_line: MainWindow) -> None:
    session = at_line.session
    session.put(session.solo)
    at_line.studio.view.set_written(True)
    built(at_line, qtbot)
    assert firsts(at_line) == [0, 10, 20]
    at_line.studio.view.set_written(False)
    built(at_line, qtbot)


def test_it_is_there_after_a_restart(qtbot: QtBot, open_window: OpenWindow, tmp_path: Path) -> None:
    window = opened(open_window, tmp_path / "lib", qtbot, LINE)
    window.session.selection.select("n5", "n5")
    press(qtbot, window, Qt.Key.Key_B)
    window.desks["phrases"].side.show_page("motifs")
    window.close()
    again = open_window(tmp_path / "lib")
    assert again.desk is again.desks["phrases"]
    built(again, qtbot)
    assert firsts(again) == [0, 5, 10, 20]
    assert again.desks["phrases"].side.page_shown == "motifs"


@pytest.mark.parametrize(
    "solo",
    [
        make_solo([("C", "r/1")]),
        make_solo([("C", "E4/1")]),
        make_solo([("", "C4/4 D4 E4 F4")]),
        make_solo([("Dm7", "D4/4 E4 F4 G4 A4"), ("Dm7", "A4/4 G4 F4 E4 D4")], meter="5/4", grouping="3+2"),
        make_solo([("C", "G4/4"), ("C", "C5/2 r/2")], pickup=Fraction(1)),
    ],
    ids=["no note", "one note", "no chords", "5/4", "pickup"],
)
def test_odd_solos(qtbot: QtBot, open_window: OpenWindow, tmp_path: Path, solo: Solo) -> None:
    window = opened(open_window, tmp_path / "lib", qtbot, solo)
    for key in (Qt.Key.Key_Tab, Qt.Key.Key_V, Qt.Key.Key_T, Qt.Key.Key_M, Qt.Key.Key_J, Qt.Key.Key_B, Qt.Key.Key_W):
        press(qtbot, window, key)
    built(window, qtbot)


def test_a_decision_that_cannot_be_saved_is_held(
    qtbot: QtBot, at_line: MainWindow, monkeypatch: pytest.MonkeyPatch
) -> None:
    def refuse(*_: object) -> None:
        raise LibraryError("The disk is full.")

    monkeypatch.setattr(Library, "save_solo_row", refuse)
    at_line.session.selection.select("n5", "n5")
    press(qtbot, at_line, Qt.Key.Key_B)
    at_line.studio.saver.save()
    assert "still open here" in at_line.notice.text.text()
    assert at_line.session.solo.phrase_starts
    monkeypatch.undo()
    assert at_line.studio.saver.save()


def test_the_analysis_goes_out_with_pictures(qtbot: QtBot, at_line: MainWindow, tmp_path: Path) -> None:
    exporter, sheet = at_line.studio.exporter, at_line.desks["phrases"].sheet()
    with qtbot.waitSignal(exporter.exported, timeout=10000):
        exporter.export(sheet, tmp_path / "My solo", ANALYSIS)
    text = (tmp_path / "My solo.md").read_text(encoding="utf-8")
    assert "## Phrases" in text
    for name in ("My solo-arc.svg", "My solo-skeleton.svg"):
        assert f"(<{name}>)" in text
        root = ElementTree.parse(tmp_path / name).getroot()
        assert root.tag.endswith("svg")
        assert not list(root.iter("{http://www.w3.org/2000/svg}text")), "text is drawn as outlines"
    with qtbot.waitSignal(exporter.exported, timeout=10000):
        exporter.export(sheet, tmp_path / "My solo", ANALYSIS)


def test_somebody_elses_picture_is_not_written_over(qtbot: QtBot, at_line: MainWindow, tmp_path: Path) -> None:
    other = tmp_path / "Solo-arc.svg"
    other.write_text("<svg>mine</svg>", encoding="utf-8")
    exporter = at_line.studio.exporter
    with qtbot.waitSignal(exporter.failed, timeout=10000) as told:
        exporter.export(at_line.desks["phrases"].sheet(), tmp_path / "Solo", ANALYSIS)
    assert "another file is called Solo-arc.svg" in told.args[0]
    assert other.read_text(encoding="utf-8") == "<svg>mine</svg>"
    assert not (tmp_path / "Solo.md").exists()


def test_a_long_solo_is_shown_at_once_and_its_motifs_follow(
    qtbot: QtBot, open_window: OpenWindow, tmp_path: Path
) -> None:
    window = opened(open_window, tmp_path / "lib", qtbot, make_solo([*BARS, *UP] * 24))
    builder = window.desks["phrases"].builder
    seen: list[bool] = []
    builder.changed.connect(lambda: seen.append(builder.is_current))
    window.session.selection.select("n3", "n3")
    window.session.move(1)
    built(window, qtbot)
    assert seen[-1]
    assert builder.structure.found is window.session.found
    fresh = structure_of(window.session.found)
    assert builder.structure.motifs == fresh.motifs
    assert builder.structure.phrases == fresh.phrases


def test_motifs_are_looked_for_though_a_phrase_is_decided_meanwhile(
    qtbot: QtBot, open_window: OpenWindow, tmp_path: Path
) -> None:
    window = opened(open_window, tmp_path / "lib", qtbot, make_solo([*BARS, *UP] * 24))
    builder, session = window.desks["phrases"].builder, window.session
    session.selection.select("n1", "n3")
    session.move(5)
    qtbot.waitUntil(lambda: builder.is_shown)
    assert builder.is_rough, "its motifs are still looked for"
    session.selection.select("n25", "n25")
    press(qtbot, window, Qt.Key.Key_B)
    built(window, qtbot)
    assert builder.structure.motifs == structure_of(session.found).motifs


def test_threads_outlive_lines_that_are_set_anew(qtbot: QtBot, open_window: OpenWindow, tmp_path: Path) -> None:
    window = opened(open_window, tmp_path / "lib", qtbot, make_solo([*BARS, *UP] * 6))
    desk, session = window.desks["phrases"], window.session
    press(qtbot, window, Qt.Key.Key_T)
    for note in ("n3", "n13", "n23", "n33"):
        session.selection.select(note, note)
        session.move(1)
        built(window, qtbot)
        gc.collect()
    press(qtbot, window, Qt.Key.Key_T)
    press(qtbot, window, Qt.Key.Key_T)
    assert desk.layers.wanted == GUIDE_TONES
