"""What is read out: notes, lengths, what the caret stands on, the loop."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import pytest
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot
from tests.conftest import make_solo

from gavotte.desktop.page.spoken import spoken_length, spoken_moment, spoken_note
from gavotte.desktop.shell.window import MainWindow
from gavotte.labelling.labeller import label_solo
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Function
from gavotte.solo.edits import with_decision


@pytest.mark.parametrize(
    ("duration", "words"),
    [
        ("1/2", "eighth"),
        ("3/4", "dotted eighth"),
        ("1/3", "triplet eighth"),
        ("2/3", "triplet quarter"),
        ("1/6", "triplet sixteenth"),
        ("1/5", "quintuplet sixteenth"),
        ("5/2", "half tied to eighth"),
        ("9/2", "whole note tied to eighth"),
    ],
)
def test_lengths_are_said_as_players_say_them(duration: str, words: str) -> None:
    assert spoken_length(Fraction(duration)) == words


def test_what_the_caret_stands_on_is_said_even_behind_a_barline() -> None:
    tied = make_solo([("C7", "r/2. C5/4~"), ("F7", "C5/4 r/2.")])
    assert spoken_moment(tied, Fraction(3)) == ""
    assert spoken_moment(tied, Fraction(4)) == "C5 goes on, tied"
    assert spoken_moment(tied, Fraction(5)) == "rest"


def test_own_decisions_and_readings_are_said() -> None:
    solo = make_solo([("C7", "C5/4 E5 G5 Bb5")])
    decided = with_decision(solo, "n1", Function.OUTSIDE, "unexplained")
    labels = {label.note: label for label in label_solo(decided)}
    assert "your decision" in spoken_note(decided.note("n1"), BarGrid(decided), labels["n1"])
    heard = replace(labels["n0"], heard="B♭ blues")
    assert "heard in B flat blues" in spoken_note(decided.note("n0"), BarGrid(decided), heard)


def test_the_write_desk_reads_what_comes_next_and_what_undo_led_to(qtbot: QtBot, at_ferry: MainWindow) -> None:
    at_ferry.activateWindow()
    at_ferry.show_desk("write")
    desk = at_ferry.desks["write"]
    page = desk.page
    desk.writer.go_to_end()
    desk.writer.choose_value(Fraction(1))
    assert page.accessibleDescription() == "Next: quarter"
    desk.writer.next_tuplet()
    assert page.accessibleDescription() == "Next: triplet quarter"
    desk.writer.write_letter("C")
    at_ferry.session.undo_stack.undo()
    assert "rest" in page.accessibleName()
    qtbot.keyClick(page, Qt.Key.Key_Home)
    qtbot.keyClick(page, Qt.Key.Key_Right)
    assert page.accessibleDescription() == "A letter is this note's pitch"
