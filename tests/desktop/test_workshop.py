"""The Workshop desk as its users meet it: taking a line, a chain of steps, choosing, hearing, keeping, coming back."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot
from tests.desktop.conftest import OpenWindow

from gavotte.desktop.desks.workshop.core_words import OPERATION_WORDS
from gavotte.desktop.desks.workshop.desk import WorkshopDesk
from gavotte.desktop.desks.workshop.line_dialog import LineDialog
from gavotte.desktop.desks.workshop.small_dialogs import LickChoice, RecipeName
from gavotte.desktop.errands.lick_dialog import LickDialog
from gavotte.desktop.shell.window import MainWindow
from gavotte.desktop.widgets.choice import Choice, Tick
from gavotte.library.bench import BENCH_DOCUMENT, own_recipes
from gavotte.library.errors import LibraryError
from gavotte.library.store import Library
from gavotte.workshop.operation import Step
from gavotte.workshop.operations import ALL

SHIFT_CONTROL = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier
CONTROL = Qt.KeyboardModifier.ControlModifier


@pytest.fixture
def desk(qtbot: QtBot, window: MainWindow) -> WorkshopDesk:
    window.show_desk("workshop")
    shown = window.desks["workshop"]
    assert isinstance(shown, WorkshopDesk)
    settled(qtbot, shown)
    return shown


@pytest.fixture
def with_lick(qtbot: QtBot, desk: WorkshopDesk) -> WorkshopDesk:
    """With a short ii-V-I on the bench."""
    lick = next(lick for lick in desk.studio.library.licks() if lick.name.startswith("Short ii-V-I: ♭3 5 ♭7 9"))
    desk.sources.take_lick(lick.id)
    settled(qtbot, desk)
    return desk


def settled(qtbot: QtBot, desk: WorkshopDesk) -> None:
    def is_settled() -> bool:
        there = desk.bench.there.source
        return desk.studio.activities.is_idle and (there is None or desk.working.is_current)

    qtbot.waitUntil(is_settled, timeout=20000)
    qtbot.waitUntil(lambda: desk.view.page.is_complete, timeout=20000)


def pitches(desk: WorkshopDesk) -> list[int]:
    assert desk.view.concert is not None
    return [note.pitch.midi for note in desk.view.concert.notes]


def add(qtbot: QtBot, desk: WorkshopDesk, name: str) -> None:
    desk.side.chain.wanted.emit(name)
    settled(qtbot, desk)
    desk.view.page.setFocus()


def choose(qtbot: QtBot, desk: WorkshopDesk, name: str, value: object) -> None:
    """Give an option of the step another value at its control."""
    control = desk.side.chain.form.control(name)
    if isinstance(control, Choice):
        control.setCurrentIndex(control.findData(value))
    elif isinstance(control, Tick):
        control.setChecked(bool(value))
    else:
        control.setValue(value)  # type: ignore[attr-defined]
    settled(qtbot, desk)


# -- sources ----------------------------------------------------------------------------------------


def test_an_empty_bench_offers_three_ways_to_begin(qtbot: QtBot, desk: WorkshopDesk) -> None:
    assert desk.from_lick.isVisible()
    assert desk.from_line.isVisible()
    qtbot.mouseClick(desk.from_lick, Qt.MouseButton.LeftButton)
    dialog = desk.sources.dialog
    assert isinstance(dialog, LickChoice)
    every = dialog.rows.count()
    qtbot.keyClicks(dialog.line, "twelve umbrellas")
    assert 0 < dialog.rows.count() < every
    qtbot.mouseClick(dialog.yes, Qt.MouseButton.LeftButton)
    settled(qtbot, desk)
    assert "Twelve Umbrellas" in desk._head.about.text()
    assert desk.view.concert is not None


def test_the_selection_of_a_solo_comes_by_a_key_from_any_desk(qtbot: QtBot, at_ferry: MainWindow) -> None:
    session = at_ferry.session
    session.selection.select("n3", "n9")
    qtbot.keyClick(
        at_ferry.desks["label"].page,
        Qt.Key.Key_W,
        Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier,
    )
    desk = at_ferry.desks["workshop"]
    assert isinstance(desk, WorkshopDesk)
    assert desk.isVisible()
    settled(qtbot, desk)
    assert desk.view.concert is not None
    assert len(desk.view.concert.notes) == 7


def test_a_lick_of_the_vocabulary_is_worked_on(qtbot: QtBot, window: MainWindow) -> None:
    window.show_desk("vocabulary")
    vocabulary = window.desks["vocabulary"]
    qtbot.waitUntil(lambda: vocabulary.indexer.is_current and window.activities.is_idle, timeout=20000)
    name = vocabulary.view.lick.name
    qtbot.keyClick(vocabulary.licks, Qt.Key.Key_W)
    desk = window.desks["workshop"]
    assert isinstance(desk, WorkshopDesk)
    settled(qtbot, desk)
    assert desk.bench.there.name == name


def test_a_place_that_is_not_kept_can_be_worked_on_too(qtbot: QtBot, window: MainWindow) -> None:
    window.show_desk("vocabulary")
    vocabulary = window.desks["vocabulary"]
    qtbot.waitUntil(lambda: vocabulary.indexer.is_current and window.activities.is_idle, timeout=20000)
    qtbot.keyClicks(vocabulary.search.line, "3 5 b7 b9")
    place = next(k for k, row in enumerate(vocabulary.licks.rows) if not row.is_lick and not row.is_heading)
    vocabulary.licks.setCurrentRow(place)
    qtbot.waitUntil(lambda: vocabulary.view.lick is not None and not vocabulary.is_kept)
    vocabulary.licks.setFocus()
    qtbot.keyClick(vocabulary.licks, Qt.Key.Key_W)
    desk = window.desks["workshop"]
    assert isinstance(desk, WorkshopDesk)
    settled(qtbot, desk)
    assert desk.bench.there.source is not None
    assert desk.bench.there.comes


def test_a_line_is_written_or_played(qtbot: QtBot, desk: WorkshopDesk) -> None:
    desk.sources.write_line()
    dialog = desk.sources.dialog
    assert isinstance(dialog, LineDialog)
    dialog.notes.setText("E4 H5")
    assert not dialog.yes.isEnabled()
    assert "H5" in dialog.said.text()
    dialog.notes.clear()
    for midi in (64, 65, 66, 67):
        dialog.strip.played.emit(midi)
    assert dialog.notes.text() == "E4 F4 F#4 G4"
    qtbot.mouseClick(dialog.yes, Qt.MouseButton.LeftButton)
    settled(qtbot, desk)
    assert pitches(desk) == [64, 65, 66, 67]


# -- steps ------------------------------------------------------------------------------------------


def test_a_chain_is_built_changed_switched_off_moved_and_undone(qtbot: QtBot, with_lick: WorkshopDesk) -> None:
    desk = with_lick
    source = pitches(desk)
    add(qtbot, desk, "octave")
    assert pitches(desk) == [pitch + 12 for pitch in source]
    choose(qtbot, desk, "way", "down")
    assert pitches(desk) == [pitch - 12 for pitch in source]
    add(qtbot, desk, "backwards")
    assert pitches(desk) == [pitch - 12 for pitch in reversed(source)]
    qtbot.keyClick(desk.view.page, Qt.Key.Key_O)
    settled(qtbot, desk)
    assert pitches(desk) == [pitch - 12 for pitch in source]
    qtbot.keyClick(desk.view.page, Qt.Key.Key_Up, Qt.KeyboardModifier.AltModifier)
    settled(qtbot, desk)
    assert [step.operation for step in desk.bench.there.steps] == ["backwards", "octave"]
    qtbot.keyClick(desk.view.page, Qt.Key.Key_Delete)
    settled(qtbot, desk)
    assert [step.operation for step in desk.bench.there.steps] == ["octave"]
    while desk.undo_stack.canUndo():
        desk.undo_stack.undo()
    settled(qtbot, desk)
    assert desk.bench.there.source is None
    while desk.undo_stack.canRedo():
        desk.undo_stack.redo()
    settled(qtbot, desk)
    assert pitches(desk) == [pitch - 12 for pitch in source]


def test_values_changed_in_a_row_are_one_step_back(qtbot: QtBot, with_lick: WorkshopDesk) -> None:
    desk = with_lick
    add(qtbot, desk, "part")
    for count in (2, 3, 4):
        choose(qtbot, desk, "count", count)
    desk.undo_stack.undo()
    settled(qtbot, desk)
    assert desk.bench.there.steps == (Step("part"),)


def test_a_key_goes_through_the_values_of_a_step(qtbot: QtBot, with_lick: WorkshopDesk) -> None:
    desk = with_lick
    add(qtbot, desk, "key")
    qtbot.keyClick(desk.view.page, Qt.Key.Key_Period)
    settled(qtbot, desk)
    assert desk.view.concert is not None
    assert str(desk.view.concert.keys[0].key.tonic) == "Db"
    qtbot.keyClick(desk.view.page, Qt.Key.Key_Comma)
    settled(qtbot, desk)
    assert str(desk.view.concert.keys[0].key.tonic) == "C"


@pytest.mark.parametrize("operation", ALL, ids=lambda operation: operation.name)
def test_every_step_has_its_controls_and_can_be_added(qtbot: QtBot, with_lick: WorkshopDesk, operation: object) -> None:
    desk = with_lick
    add(qtbot, desk, operation.name)  # type: ignore[attr-defined]
    form = desk.side.chain.form
    for option in operation.options:  # type: ignore[attr-defined]
        if not option.is_hidden:
            assert form.control(option.name).accessibleName()
    assert desk.side.chain.steps.count() == 1
    assert desk.working.made is not None


def test_what_a_step_cannot_do_is_told_on_it_and_the_line_goes_on(qtbot: QtBot, with_lick: WorkshopDesk) -> None:
    desk = with_lick
    source = pitches(desk)
    add(qtbot, desk, "positions")
    assert desk.working.made is not None
    assert "no strings" in desk.working.made.worked.stages[0].problem
    assert pitches(desk) == source


def test_the_cost_is_told_for_all_and_for_the_note_where_the_user_is(qtbot: QtBot, with_lick: WorkshopDesk) -> None:
    desk = with_lick
    add(qtbot, desk, "inversion")
    assert desk.view.words.text().startswith("0 of 13 degrees kept")
    assert desk.view.concert is not None
    first = desk.view.concert.notes[0].id
    desk.view.select(first, first)
    assert "was E♭, the ♭3" in desk.view.words.text()
    assert "another degree" in desk.view.page.accessibleName()
    assert desk.escape()
    assert desk.view.words.text().startswith("0 of 13 degrees kept")


# -- proposals --------------------------------------------------------------------------------------


def test_choices_are_heard_by_one_key_and_taken_by_another(qtbot: QtBot, with_lick: WorkshopDesk) -> None:
    desk = with_lick
    add(qtbot, desk, "inversion")
    desk.side.show_page("choices")
    qtbot.waitUntil(lambda: desk.side.choices.list.count() == 6)
    rows = desk.side.choices.list
    rows.setFocus()
    assert rows.currentRow() == 0
    rows.setCurrentRow(2)
    qtbot.keyClick(rows, Qt.Key.Key_Return)
    qtbot.waitUntil(lambda: desk.studio.transport.is_playing)
    desk.studio.transport.stop()
    wanted = [note.pitch.midi for note in rows.proposals[2].piece.solo.notes]
    qtbot.keyClick(rows, Qt.Key.Key_Return, CONTROL)
    settled(qtbot, desk)
    assert pitches(desk) == wanted


def test_variations_are_taken_as_steps_and_the_seed_is_shown(qtbot: QtBot, with_lick: WorkshopDesk) -> None:
    desk = with_lick
    desk.side.show_page("variations")
    panel = desk.side.variations
    qtbot.waitUntil(lambda: panel.list.count() == 6, timeout=20000)
    first = [proposal.steps for proposal in panel.list.proposals]
    panel.make.click()
    qtbot.waitUntil(lambda: [p.steps for p in panel.list.proposals] != first, timeout=20000)
    assert panel.seed.value() == 2
    wanted = [note.pitch.midi for note in panel.list.proposals[0].piece.solo.notes]
    desk.take_proposal()
    settled(qtbot, desk)
    assert pitches(desk) == wanted
    before = len(desk.studio.library.solos())
    qtbot.waitUntil(lambda: panel.list.count() > 0, timeout=20000)
    panel.sheet.click()
    assert len(desk.studio.library.solos()) == before + 1


# -- études -----------------------------------------------------------------------------------------


def test_an_etude_is_held_exchanged_and_left_empty(qtbot: QtBot, with_lick: WorkshopDesk) -> None:
    desk = with_lick
    add(qtbot, desk, "etude")
    choose(qtbot, desk, "progression", "A-A-B-A, bridge to IV")
    bits = desk.side.bits
    assert desk.side.tabs["bits"].isVisible()
    desk.side.show_page("bits")
    assert bits.rows.count() > 4
    bits.rows.setCurrentRow(1)
    onset, before = bits.onset, bits.bit
    assert before is not None
    assert onset is not None
    bits.exchange_bit()
    settled(qtbot, desk)
    assert bits.onset == onset
    assert bits.bit is not None
    assert bits.bit.id != before.id
    bits.toggle_held()
    settled(qtbot, desk)
    qtbot.mouseClick(bits.empty, Qt.MouseButton.LeftButton)
    settled(qtbot, desk)
    assert desk.view.concert is not None
    assert not [note for note in desk.view.concert.notes if onset <= note.onset < onset + Fraction(2)]
    desk.undo_stack.undo()
    settled(qtbot, desk)
    desk.bench.remove()
    settled(qtbot, desk)
    assert not desk.side.tabs["bits"].isVisible()
    assert desk.side.page_shown == "steps"


# -- hearing and keeping ----------------------------------------------------------------------------


@pytest.mark.parametrize("key", [Qt.Key.Key_S, Qt.Key.Key_B, Qt.Key.Key_Space])
def test_source_result_and_both_in_turn_are_heard_and_stopped_by_a_key(
    qtbot: QtBot, with_lick: WorkshopDesk, key: Qt.Key
) -> None:
    desk = with_lick
    add(qtbot, desk, "pairs")
    desk.view.page.setFocus()
    qtbot.keyClick(desk.view.page, key)
    qtbot.waitUntil(lambda: desk.studio.transport.is_playing)
    qtbot.keyClick(desk.view.page, key)
    qtbot.waitUntil(lambda: not desk.studio.transport.is_playing)


def test_the_result_is_kept_as_a_lick_with_what_was_done_to_it(qtbot: QtBot, with_lick: WorkshopDesk) -> None:
    desk = with_lick
    add(qtbot, desk, "pairs")
    before = {lick.id for lick in desk.studio.library.licks()}
    qtbot.keyClick(desk.view.page, Qt.Key.Key_K)
    dialog = desk.results.dialog
    assert isinstance(dialog, LickDialog)
    dialog.accept()
    (fresh,) = {lick.id for lick in desk.studio.library.licks()} - before
    lick = desk.studio.library.lick(fresh)
    assert "pairs exchanged" in lick.words
    assert [note.pitch.midi for note in lick.solo.notes] == pitches(desk)
    desk.undo_stack.undo()
    assert {lick.id for lick in desk.studio.library.licks()} == before


@pytest.mark.parametrize(
    ("key", "modifier", "sections"),
    [(Qt.Key.Key_K, Qt.KeyboardModifier.ShiftModifier, 0), (Qt.Key.Key_K, CONTROL, 12)],
)
def test_it_goes_on_the_shelf_as_a_solo_or_as_a_sheet_in_all_keys(
    qtbot: QtBot, with_lick: WorkshopDesk, key: Qt.Key, modifier: Qt.KeyboardModifier, sections: int
) -> None:
    desk = with_lick
    desk.view.page.setFocus()
    library = desk.studio.library
    before = {solo.id for solo in library.solos()}
    qtbot.keyClick(desk.view.page, key, modifier)
    (fresh,) = {solo.id for solo in library.solos()} - before
    assert len(library.solo(fresh).sections) == sections
    desk.undo_stack.undo()
    assert {solo.id for solo in library.solos()} == before


def test_working_on_with_the_result_takes_it_for_the_source(qtbot: QtBot, with_lick: WorkshopDesk) -> None:
    desk = with_lick
    add(qtbot, desk, "pairs")
    result = pitches(desk)
    qtbot.keyClick(desk.view.page, Qt.Key.Key_R, SHIFT_CONTROL)
    settled(qtbot, desk)
    assert desk.bench.there.steps == ()
    assert pitches(desk) == result
    desk.undo_stack.undo()
    settled(qtbot, desk)
    assert desk.bench.there.steps == (Step("pairs"),)


# -- recipes ----------------------------------------------------------------------------------------


def test_a_recipe_is_kept_used_on_another_lick_and_deleted(qtbot: QtBot, with_lick: WorkshopDesk) -> None:
    desk = with_lick
    add(qtbot, desk, "pairs")
    add(qtbot, desk, "octave")
    desk.recipes.keep()
    dialog = desk.recipes.dialog
    assert isinstance(dialog, RecipeName)
    dialog.name.setText("Up in pairs")
    dialog.accept()
    (recipe,) = own_recipes(desk.studio.library)
    assert [step.operation for step in recipe.steps] == ["pairs", "octave"]
    desk.bench.clear()
    desk.sources.take_lick(desk.studio.library.licks()[0].id)
    settled(qtbot, desk)
    source = pitches(desk)
    desk.side.chain.recipe_wanted.emit(recipe)
    settled(qtbot, desk)
    assert sorted(pitches(desk)) == sorted(pitch + 12 for pitch in source)
    desk.side.chain.forget_wanted.emit(recipe)
    assert own_recipes(desk.studio.library) == ()


# -- until the next time ----------------------------------------------------------------------------


def test_what_lies_on_the_bench_is_there_the_next_time(
    qtbot: QtBot, with_lick: WorkshopDesk, open_window: OpenWindow, demo_folder: Path
) -> None:
    add(qtbot, with_lick, "inversion")
    name, steps, sounding = with_lick.bench.there.name, with_lick.bench.there.steps, pitches(with_lick)
    with_lick.window().close()  # type: ignore[union-attr]
    again = open_window(demo_folder)
    again.show_desk("workshop")
    desk = again.desks["workshop"]
    assert isinstance(desk, WorkshopDesk)
    settled(qtbot, desk)
    assert (desk.bench.there.name, desk.bench.there.steps) == (name, steps)
    assert pitches(desk) == sounding
    assert not desk.undo_stack.canUndo()


def test_a_bench_that_cannot_be_saved_is_told_and_tried_again(
    qtbot: QtBot, with_lick: WorkshopDesk, monkeypatch: pytest.MonkeyPatch
) -> None:
    desk = with_lick
    said: list[str] = []
    desk.studio.asks.noticing.connect(lambda words, *_: said.append(words))

    def full(*_: object) -> None:
        raise LibraryError("The disk is full.")

    with monkeypatch.context() as broken:
        broken.setattr(Library, "keep", full)
        add(qtbot, desk, "pairs")
        desk.store.keep_now()
    assert any("The disk is full." in words for words in said)
    assert desk.store.is_waiting
    desk.leave()
    kept = desk.studio.library.kept(BENCH_DOCUMENT)
    assert kept is not None
    assert kept.steps == (Step("pairs"),)


def test_written_pitch_is_shown_and_what_sounds_stays(qtbot: QtBot, with_lick: WorkshopDesk) -> None:
    desk = with_lick
    sounding = pitches(desk)
    desk.studio.view.set_written(True)
    settled(qtbot, desk)
    made = desk.view.made
    assert made is not None
    shown = [note.pitch.midi for note in made.result.solo.notes]
    assert shown == [pitch + 2 for pitch in sounding]
    assert pitches(desk) == sounding
    sheet = desk.sheet()
    assert sheet is not None
    assert sheet.concert is not None


def test_what_changes_while_the_desk_is_hidden_is_shown_when_it_is_seen(
    qtbot: QtBot, with_lick: WorkshopDesk, window: MainWindow
) -> None:
    desk = with_lick
    window.show_desk("shelf")
    desk.studio.view.set_written(True)
    window.show_desk("workshop")
    settled(qtbot, desk)
    assert desk.view.made is not None
    assert desk.view.made.result.solo.notes[0].pitch.midi == pitches(desk)[0] + 2


def test_a_damaged_lick_is_told(qtbot: QtBot, desk: WorkshopDesk) -> None:
    said: list[str] = []
    desk.studio.asks.noticing.connect(lambda words, *_: said.append(words))
    desk.sources.take_lick("gone")
    assert said
    assert desk.bench.there.source is None


def test_every_word_of_the_steps_is_there_to_be_translated() -> None:
    there = set(OPERATION_WORDS)
    for operation in ALL:
        words = {operation.family, operation.words, operation.hint}
        for option in operation.options:
            if not option.is_hidden:
                words |= {option.words, option.hint, *(said for _, said in option.choices)}
        assert {word for word in words if any(letter.isalpha() for letter in word)} <= there
