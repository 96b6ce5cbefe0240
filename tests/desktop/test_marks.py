"""What the lane and the strips paint: shapes that differ without colour, and signs where they belong."""

from __future__ import annotations

import itertools
from dataclasses import replace
from fractions import Fraction

import pytest
from PyQt6.QtGui import QColor, QImage, QPainter
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot
from tests.conftest import make_solo

from gavotte.desktop.page.lane_item import room_above
from gavotte.desktop.page.lane_marks import mark_height, paint_mark
from gavotte.desktop.page.line_item import LineParts
from gavotte.desktop.page.page_view import PageView
from gavotte.desktop.theme.icons import icon
from gavotte.desktop.widgets.keyboard_strip import KeyboardStrip
from gavotte.engraving.engraver import Engraver
from gavotte.engraving.shapes import STAFF_SPACE
from gavotte.labelling.labeller import label_solo
from gavotte.solo.document import Articulation, Function, Mark
from gavotte.solo.label import Label

BLACK, WHITE = QColor("black"), QColor("white")


def label(function: Function, device: str = "plain", **more: object) -> Label:
    return Label("n", function, device, "1", "C", "C major", **more)  # type: ignore[arg-type]


def painted(what: Label, right: bool = True) -> QImage:
    """A mark in black on white, 20 pixels to a staff space... scaled to 100 × 100."""
    image = QImage(100, 100, QImage.Format.Format_Grayscale8)
    image.fill(WHITE)
    painter = QPainter(image)
    painter.scale(100 / (5 * STAFF_SPACE), 100 / (5 * STAFF_SPACE))
    paint_mark(painter, 2.5 * STAFF_SPACE, 4.5 * STAFF_SPACE, what, BLACK, WHITE, right)
    painter.end()
    return image


def ink(image: QImage) -> set[tuple[int, int]]:
    return {(x, y) for x in range(100) for y in range(100) if image.pixelColor(x, y).lightness() < 128}


MARKS = {
    "chord": label(Function.CHORD),
    "extension": label(Function.EXTENSION, "natural", tension=0.3),
    "passing": label(Function.PASSING, "passing"),
    "approach": label(Function.APPROACH, "enclosure"),
    "implied": label(Function.OUTSIDE, "implied"),
    "unexplained": label(Function.OUTSIDE, "unexplained", confidence=0.9),
}


@pytest.mark.parametrize(("one", "other"), list(itertools.combinations(MARKS, 2)))
def test_shapes_tell_functions_apart_without_colour(qapp: QApplication, one: str, other: str) -> None:
    a, b = ink(painted(MARKS[one])), ink(painted(MARKS[other]))
    assert len(a ^ b) > 0.3 * min(len(a), len(b))


def test_a_wedge_points_at_its_target(qapp: QApplication) -> None:
    right, left = ink(painted(MARKS["approach"])), ink(painted(MARKS["approach"], right=False))
    assert max(x for x, _ in right) - 50 > 50 - min(x for x, _ in right)
    assert {(99 - x, y) for x, y in left} & right
    assert right != left


def test_doubt_is_paler_and_a_decision_has_a_tick(qapp: QApplication) -> None:
    sure, doubtful = painted(MARKS["chord"]), painted(replace(MARKS["chord"], confidence=0.3))
    middle = (50, 80)
    assert doubtful.pixelColor(*middle).lightness() > sure.pixelColor(*middle).lightness() + 60
    assert len(ink(painted(replace(MARKS["chord"], decided=True)))) > len(ink(sure))


def test_the_more_it_rubs_the_higher_it_stands() -> None:
    heights = [mark_height(label(Function.EXTENSION, "altered", tension=t)) for t in (0.0, 0.4, 0.9)]
    assert heights == sorted(heights)
    assert heights[0] > mark_height(MARKS["chord"])
    assert mark_height(MARKS["implied"]) > heights[-1]
    assert room_above([MARKS["implied"]]) > room_above([MARKS["chord"]])


def test_the_keyboard_shows_tones_scale_and_note(qapp: QApplication, qtbot: QtBot) -> None:
    strip = KeyboardStrip()
    qtbot.addWidget(strip)
    strip.resize(280, 72)
    strip.show_chord(frozenset(), frozenset(), 60, "nothing")
    bare = strip.grab().toImage()
    strip.show_chord(frozenset({0, 4, 7}), frozenset({0, 2, 4, 5, 7, 9, 11}), 63, "C and its scale")
    shown = strip.grab().toImage()
    key = 279 / 14

    def changed(x: float, y: int) -> bool:
        return any(shown.pixelColor(int(x) + d, y + e) != bare.pixelColor(int(x) + d, y + e)
                   for d in (-7, -4, 0, 4, 7) for e in (-7, -4, 0, 4, 7))  # fmt: skip

    assert changed(0.5 * key, 58), "the root"
    assert changed(1.5 * key, 58), "the scale's second"
    assert changed(2 * key, 30), "the note itself, a black key"
    assert not changed(1 * key, 30), "a black key that is neither"
    assert strip.accessibleName() == "C and its scale"


@pytest.mark.parametrize("articulation", [
    Articulation.SLIDE, Articulation.BEND, Articulation.FALL, Articulation.SCOOP, Articulation.HAMMER_ON,
    Articulation.PULL_OFF, Articulation.TRILL, Articulation.HARMONIC, Articulation.ACCENT, Articulation.STACCATO,
    Articulation.GHOST, Articulation.TENUTO, Articulation.MARCATO,
])  # fmt: skip
def test_every_articulation_leaves_ink(qtbot: QtBot, articulation: Articulation) -> None:
    page = PageView(Engraver(), parts=LineParts(lane=False, degrees=False))
    qtbot.addWidget(page)
    page.resize(900, 300)
    page.show()
    plain = make_solo([("C7", "C5/4 E5 G5 E5")])
    marked = replace(
        plain,
        notes=(plain.notes[0], replace(plain.notes[1], marks=(Mark(articulation, Fraction(1)),)), *plain.notes[2:]),
    )
    pictures = []
    for solo in (plain, marked):
        page.show_solo(solo, {x.note: x for x in label_solo(solo)})
        qtbot.waitUntil(lambda: page.is_complete)
        pictures.append(page.grab().toImage())
    assert pictures[0] != pictures[1]


def test_icons_are_drawn_in_the_given_colour(qapp: QApplication) -> None:
    for name in ("shelf", "label", "vocabulary", "mark"):
        image = icon(name, "#ff0000", 24).pixmap(24, 24).toImage()
        colours = {image.pixelColor(x, y).name() for x in range(24) for y in range(24)
                   if image.pixelColor(x, y).alpha() == 255}  # fmt: skip
        assert colours == {"#ff0000"}


def test_a_bend_has_room_under_the_chord_symbol(qtbot: QtBot) -> None:
    page = PageView(Engraver())
    qtbot.addWidget(page)
    plain = make_solo([("C7", "A5/1")])
    bent = replace(plain, notes=(replace(plain.notes[0], marks=(Mark(Articulation.BEND, Fraction(2)),)),))
    rooms = []
    for solo in (plain, bent):
        page.show_solo(solo, {x.note: x for x in label_solo(solo)})
        qtbot.waitUntil(lambda: page.is_complete)
        rooms.append(page.lines[0].line.notes[0].head.y - page.lines[0].top)
    assert rooms[1] > rooms[0] + 150
