from __future__ import annotations

import pytest

from gavotte.workshop.cell_text import CellTextError, played_word, read_cell


def test_a_line_is_read_with_values_octaves_rests_and_ties() -> None:
    notes = read_cell("E4/8 F F# G | A/4 r Bb~ Bb/8")
    assert [str(note.pitch) for note in notes] == ["E4", "F4", "F#4", "G4", "A4", "Bb4"]
    assert [float(note.onset) for note in notes] == [0, 0.5, 1, 1.5, 2, 4]
    assert float(notes[-1].duration) == 1.5


def test_without_an_octave_a_note_lies_nearest_to_the_one_before() -> None:
    assert [str(note.pitch) for note in read_cell("B4 C D c b a")] == ["B4", "C5", "D5", "C5", "B4", "A4"]


def test_triplets_and_dots() -> None:
    assert [str(note.duration) for note in read_cell("C5/8t D E F/4. G/16")] == ["1/3", "1/3", "1/3", "3/2", "1/4"]


@pytest.mark.parametrize(("text", "word"), [("E4 H5", "H5"), ("E4/7", "E4/7"), ("Cbb#4", "Cbb#4"), ("   ", "no note")])
def test_what_cannot_be_read_is_told(text: str, word: str) -> None:
    with pytest.raises(CellTextError, match=word):
        read_cell(text)


def test_a_line_has_its_limits() -> None:
    with pytest.raises(CellTextError, match="400"):
        read_cell("C4 " * 500)


def test_a_key_that_was_played_is_written_so_that_it_is_read_back() -> None:
    for midi in range(36, 96):
        assert read_cell(played_word(midi, -2))[0].pitch.midi == midi
