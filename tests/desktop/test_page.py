from __future__ import annotations

from fractions import Fraction

import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QWheelEvent
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot
from tests.conftest import make_solo

from gavotte.desktop.page.caret_item import Caret
from gavotte.desktop.page.element_path import element_path
from gavotte.desktop.page.page_view import PageView
from gavotte.desktop.shell.window import MainWindow
from gavotte.desktop.theme.palette import THEMES, Palette
from gavotte.engraving.engraver import Engraver
from gavotte.engraving.shapes import Box, Drawing, Element, Glyph
from gavotte.labelling.labeller import label_solo
from gavotte.solo.document import Function, Solo
from gavotte.solo.edits import with_decision, with_notes_moved
from gavotte.solo.label import Label


@pytest.fixture(scope="module")
def engraver() -> Engraver:
    return Engraver()


def labels_of(solo: Solo) -> dict[str, Label]:
    return {label.note: label for label in label_solo(solo)}


@pytest.fixture
def view(qtbot: QtBot, engraver: Engraver) -> PageView:
    """A page with nothing on it."""
    made = PageView(engraver)
    qtbot.addWidget(made)
    made.resize(1000, 700)
    made.show()
    return made


@pytest.fixture
def page(qtbot: QtBot, view: PageView) -> PageView:
    solo = make_solo([("Dm7", "D5/8 E5 F5 G5 A5/4 F5/4"), ("G7", "B4/4 D5 F5 Ab5")] * 8)
    view.show_solo(solo, labels_of(solo))
    qtbot.waitUntil(lambda: view.is_complete)
    view.setFocus()
    return view


def head_of(page: PageView, note: str) -> QPoint:
    line = page.line_with(note)
    x, y = next(placed.head.centre for placed in line.line.notes if placed.note.id == note)
    return page.mapFromScene(line.mapToScene(x, y))


def test_an_edit_while_lines_are_still_to_come_lets_the_page_go_on(qtbot: QtBot, view: PageView) -> None:
    solo = make_solo([("Dm7", "D5/8 E5 F5 G5 A5/4 F5/4"), ("G7", "B4/4 D5 F5 Ab5")] * 8)
    view.show_solo(solo, labels_of(solo))
    while not view.lines:
        QApplication.processEvents()
    first = view.lines[0]
    last = solo.notes[-1].id
    edited = with_notes_moved(solo, [last], -1)
    view.update_solo(edited, labels_of(edited))
    assert view.lines[0] is first, "what is set stays"
    qtbot.waitUntil(lambda: view.is_complete)
    assert len(view.lines) == 4
    set_note = next(placed.note for placed in view.lines[-1].line.notes if placed.note.id == last)
    assert set_note.pitch.midi == solo.notes[-1].pitch.midi - 1


def test_clicking_a_notehead_or_its_mark_asks_for_the_note(qtbot: QtBot, page: PageView) -> None:
    with qtbot.waitSignal(page.selection_wanted) as heard:
        qtbot.mouseClick(page.viewport(), Qt.MouseButton.LeftButton, pos=head_of(page, "n2"))
    assert heard.args == ["n2", "n2"]
    line = page.line_with("n2")
    mark = page.mapFromScene(QPointF(line.line.notes[2].x, line.pos().y() + line.ground - 100))
    assert page.note_at(mark.x(), mark.y()) == "n2"
    assert page.note_at(3, 3) is None


def test_shift_click_extends_from_the_anchor(qtbot: QtBot, page: PageView) -> None:
    page.set_selection("n1", "n1", frozenset({"n1"}))
    with qtbot.waitSignal(page.selection_wanted) as heard:
        qtbot.mouseClick(
            page.viewport(), Qt.MouseButton.LeftButton, Qt.KeyboardModifier.ShiftModifier, head_of(page, "n4")
        )
    assert heard.args == ["n1", "n4"]


@pytest.mark.parametrize(
    ("key", "start", "expected"),
    [
        (Qt.Key.Key_Right, "n3", "n4"),
        (Qt.Key.Key_Left, "n3", "n2"),
        (Qt.Key.Key_Left, "n0", "n0"),
        (Qt.Key.Key_End, "n3", "n79"),
        (Qt.Key.Key_Home, "n3", "n0"),
        (Qt.Key.Key_Down, "n20", "n40"),
        (Qt.Key.Key_Up, "n40", "n20"),
        (Qt.Key.Key_Up, "n0", "n0"),
        (Qt.Key.Key_Down, "n79", "n79"),
    ],
)
def test_arrow_keys_walk(qtbot: QtBot, page: PageView, key: Qt.Key, start: str, expected: str) -> None:
    page.set_selection(start, start, frozenset({start}))
    with qtbot.waitSignal(page.selection_wanted) as heard:
        qtbot.keyClick(page, key)
    assert heard.args == [expected, expected]


def test_walking_far_scrolls_the_line_into_view(page: PageView) -> None:
    page.resize(1000, 300)
    page.set_selection("n79", "n79", frozenset({"n79"}))
    assert page.viewport().rect().contains(head_of(page, "n79"))


def test_a_label_edit_redraws_only_its_lane(page: PageView) -> None:
    before = list(page.lines)
    assert page._solo is not None
    lanes = [item.lane for item in before]
    changed = with_decision(page._solo, "n1", Function.EXTENSION, "natural")
    page.update_solo(changed, labels_of(changed))
    assert page.lines == before
    assert [item.lane is lane for item, lane in zip(page.lines, lanes, strict=True)] == [False, True, True, True]


def test_a_mark_that_stands_higher_gets_its_room(page: PageView) -> None:
    before = list(page.lines)
    assert page._solo is not None
    changed = with_decision(page._solo, "n1", Function.OUTSIDE, "unexplained")
    page.update_solo(changed, labels_of(changed))
    assert [a is b for a, b in zip(page.lines, before, strict=True)] == [False, True, True, True]
    item = page.lines[0]
    assert item.lane is not None
    assert item.ground - item.lane.above >= item.line.staff[1]
    tops = [line.pos().y() + line.top for line in page.lines]
    bottoms = [line.pos().y() + line.top + line.height for line in page.lines]
    assert all(bottom <= top for bottom, top in zip(bottoms, tops[1:], strict=False))
    page.update_solo(page._solo, labels_of(page._solo))
    assert page.lines[0] is item


def test_a_note_edit_sets_only_its_line_anew(page: PageView) -> None:
    from dataclasses import replace

    before = list(page.lines)
    solo = page._solo
    assert solo is not None
    notes = list(solo.notes)
    notes[22] = replace(notes[22], pitch=notes[22].pitch.parse("C6"))
    changed = replace(solo, notes=tuple(notes))
    page.update_solo(changed, labels_of(changed))
    assert [a is b for a, b in zip(page.lines, before, strict=True)] == [True, False, True, True]
    bottoms = [item.pos().y() + item.top + item.height for item in page.lines]
    tops = [item.pos().y() + item.top for item in page.lines]
    assert all(bottom <= top for bottom, top in zip(bottoms, tops[1:], strict=False))


def test_control_and_wheel_zoom(page: PageView) -> None:
    here = QPointF(100, 100)
    event = QWheelEvent(
        here,
        here,
        QPoint(),
        QPoint(0, 120),
        Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.ControlModifier,
        Qt.ScrollPhase.NoScrollPhase,
        False,
    )
    wanted: list[int] = []
    page.zoom_wanted.connect(wanted.append)
    page.wheelEvent(event)
    assert wanted == [1]


@pytest.mark.parametrize(("zoom", "most"), [(1.0, 4), (1.5, 3), (2.0, 2), (4.0, 1), (0.5, 8)])
def test_a_larger_page_has_fewer_bars_a_line_and_stays_within_its_view(
    qtbot: QtBot, page: PageView, zoom: float, most: int
) -> None:
    page.set_selection("n2", "n2", frozenset({"n2"}))
    page.set_zoom(zoom)
    qtbot.waitUntil(lambda: page.is_complete)
    assert max(sum(bar.bar.number > 0 for bar in item.line.source.bars) for item in page.lines) <= most
    right = max(item.line.barlines[-1] for item in page.lines)
    assert page.mapFromScene(right, 0.0).x() <= page.viewport().width()
    assert page.viewport().rect().contains(head_of(page, "n2"))


def test_selected_notes_take_the_accent_colour(page: PageView) -> None:
    page.set_selection("n2", "n2", frozenset({"n2"}))
    QApplication.processEvents()
    point = head_of(page, "n2")
    shown = page.viewport().grab().toImage().pixelColor(point)
    assert shown.name() == page.palette_in_use.accent


def test_page_keys_zoom_through_the_menu(qtbot: QtBot, at_ferry: MainWindow) -> None:
    page = at_ferry.desks["label"].page
    page.setFocus()
    qtbot.keyClick(at_ferry, Qt.Key.Key_Plus, Qt.KeyboardModifier.ControlModifier)
    assert page.zoom > 1
    qtbot.keyClick(at_ferry, Qt.Key.Key_0, Qt.KeyboardModifier.ControlModifier)
    assert page.zoom == 1


def luminance(colour: str) -> float:
    def linear(value: int) -> float:
        share = value / 255
        return share / 12.92 if share <= 0.04045 else ((share + 0.055) / 1.055) ** 2.4

    r, g, b = (linear(int(colour[i : i + 2], 16)) for i in (1, 3, 5))
    return 0.2126 * r + 0.7152 * g + 0.0722 * b


def contrast(a: str, b: str) -> float:
    """Contrast ratio as WCAG 2.2 defines it."""
    high, low = sorted((luminance(a), luminance(b)), reverse=True)
    return (high + 0.05) / (low + 0.05)


@pytest.mark.parametrize("palette", THEMES.values(), ids=lambda palette: palette.name)
def test_text_and_functions_stand_out_in_both_themes(palette: Palette) -> None:
    for colour in (*palette.functions.values(), palette.ink, palette.faint_ink, palette.accent, palette.warning):
        assert contrast(colour, palette.page) >= 4.5
    for ground in (palette.chrome, palette.well):
        for colour in (palette.text, palette.quiet_text, palette.warning):
            assert contrast(colour, ground) >= 4.5
    assert contrast(palette.text, palette.selection) >= 4.5
    assert contrast(palette.on_accent, palette.accent) >= 4.5


def test_ink_has_no_holes_where_its_parts_cross() -> None:
    one_way = [("M", (0.0, 0.0)), ("L", (0.0, 10.0)), ("L", (10.0, 10.0)), ("L", (10.0, 0.0)), ("Z", ())]
    other_way = [("M", (5.0, 5.0)), ("L", (15.0, 5.0)), ("L", (15.0, 15.0)), ("L", (5.0, 15.0)), ("Z", ())]
    ring = [*one_way, ("M", (2.0, 2.0)), ("L", (4.0, 2.0)), ("L", (4.0, 4.0)), ("L", (2.0, 4.0)), ("Z", ())]
    glyphs = [Glyph("ring", 0, 0, 1, 1), Glyph("ring", 0, 30, 1, -1)]
    element = Element("n", "note", glyphs=glyphs, rects=[Box(8, 8, 4, 4), Box(8, 22, 4, 4)], paths=[other_way])
    ink = element_path([element], Drawing([element], {"ring": ring}))
    assert ink.contains(QPointF(9, 9)), "where a glyph, a path and a rectangle cross"
    assert ink.contains(QPointF(9, 24)), "where a mirrored glyph and a rectangle cross"
    assert not ink.contains(QPointF(3, 3)), "a hole that belongs to a glyph stays one"
    assert not ink.contains(QPointF(3, 27))


def test_several_lines_changed_while_others_are_to_come_are_all_set_anew(qtbot: QtBot, view: PageView) -> None:
    solo = make_solo([("Dm7", "D5/8 E5 F5 G5 A5/4 F5/4"), ("G7", "B4/4 D5 F5 Ab5")] * 12)
    view.show_solo(solo, labels_of(solo))
    while len(view.lines) < 4:
        QApplication.processEvents()
    edited = with_notes_moved(solo, [note.id for note in solo.notes], -1)
    view.update_solo(edited, labels_of(edited))
    qtbot.waitUntil(lambda: view.is_complete)
    shown = [placed.note.pitch.midi for line in view.lines for placed in line.line.notes]
    assert shown == [note.pitch.midi for note in edited.notes]


LONG = make_solo([("Dm7", "D5/2 F5"), ("G7", "B4/2 D5")] * 240)


def shown_at(page: PageView, note: str) -> bool:
    """Whether a note's line is set and its head is in view."""
    return page.line_with(note) is not None and page.viewport().rect().contains(head_of(page, note))


@pytest.fixture
def long_page(qtbot: QtBot, view: PageView) -> PageView:
    """The first lines of 120."""
    view.show_solo(LONG, {})
    qtbot.waitUntil(lambda: view.is_complete)
    return view


def test_of_a_long_solo_what_is_looked_at_is_set(qtbot: QtBot, long_page: PageView) -> None:
    first, last = LONG.notes[0].id, LONG.notes[-1].id
    assert shown_at(long_page, first)
    assert long_page.line_with(last) is None
    assert len(long_page.lines) < 120
    bar = long_page.verticalScrollBar()
    assert bar is not None
    bar.setValue(bar.maximum())
    qtbot.waitUntil(lambda: long_page.is_complete)
    assert shown_at(long_page, last)
    tops = [line.pos().y() + line.top for line in long_page.lines]
    assert tops == sorted(tops)


def test_walking_to_the_end_of_a_long_solo_sets_its_line_first(qtbot: QtBot, long_page: PageView) -> None:
    before, last = len(long_page.lines), LONG.notes[-1].id
    long_page.set_selection(last, last, frozenset({last}))
    qtbot.waitUntil(lambda: shown_at(long_page, last))
    assert len(long_page.lines) <= before + 2
    with qtbot.waitSignal(long_page.selection_wanted) as heard:
        qtbot.keyClick(long_page, Qt.Key.Key_Up)
    above = LONG.note(heard.args[1])
    assert LONG.notes[-1].onset - above.onset == 16
    assert long_page.time_in_next_line(LONG.notes[0].onset, 1) == 16


def test_what_is_set_above_leaves_what_is_looked_at_in_its_place(qtbot: QtBot, long_page: PageView) -> None:
    middle = LONG.notes[700].id
    long_page.set_selection(middle, middle, frozenset({middle}))
    qtbot.waitUntil(lambda: shown_at(long_page, middle))
    place = head_of(long_page, middle).y()
    qtbot.waitUntil(lambda: long_page.is_complete)
    assert abs(head_of(long_page, middle).y() - place) <= 2
    long_page.set_palette(next(palette for palette in THEMES.values() if palette is not long_page.palette_in_use))
    qtbot.waitUntil(lambda: long_page.is_complete)
    assert abs(head_of(long_page, middle).y() - place) <= 2


def test_an_edit_where_nobody_looks_is_shown_when_somebody_does(qtbot: QtBot, long_page: PageView) -> None:
    last = LONG.notes[-1].id
    long_page.update_solo(with_notes_moved(LONG, [last], 1), {})
    qtbot.waitUntil(lambda: long_page.is_complete)
    assert long_page.line_with(last) is None
    long_page.ensure_note_visible(last)
    qtbot.waitUntil(lambda: shown_at(long_page, last))
    line = long_page.line_with(last)
    assert line is not None
    assert line.line.notes[-1].note.pitch.midi == LONG.notes[-1].pitch.midi + 1


def test_the_playhead_goes_where_no_line_was_set(qtbot: QtBot, long_page: PageView) -> None:
    long_page.show_playhead(1900.0)
    assert long_page.playhead_x is None
    qtbot.waitUntil(lambda: long_page.is_complete)
    long_page.show_playhead(1900.5)
    assert long_page.playhead_x is not None
    assert shown_at(long_page, next(note.id for note in LONG.notes if note.onset >= 1900))


def test_the_caret_goes_where_no_line_was_set(qtbot: QtBot, long_page: PageView) -> None:
    long_page.show_caret(Caret(LONG.notes[-1].onset, Fraction(1)))
    qtbot.waitUntil(lambda: long_page.caret is not None)
    assert shown_at(long_page, LONG.notes[-1].id)
