"""What the keys do alike at every desk: panels, Escape, messages that go, and what is undone."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QAbstractButton, QApplication, QLabel, QWidget
from pytestqt.qtbot import QtBot
from tests.desktop.conftest import OpenWindow

from gavotte.desktop.errands.exporting import EXPORT_FORMATS, NOTE_TABLE, PAPER, SCORE, SCORE_WITH_DEGREES, format_for
from gavotte.desktop.shell.window import MainWindow
from gavotte.desktop.widgets.by_word import found_by_word
from gavotte.solo.bars import BarGrid


def go(qtbot: QtBot, window: MainWindow, key: str) -> None:
    """Press Ctrl and a key where the keys go."""
    focus = QApplication.focusWidget() or window
    qtbot.keyClick(focus, getattr(Qt.Key, f"Key_{key}"), Qt.KeyboardModifier.ControlModifier)


def focused(window: MainWindow) -> object:
    return QApplication.focusWidget()


@pytest.mark.parametrize("desk", ["label", "write"])
def test_every_panel_is_one_key_away_and_back(qtbot: QtBot, at_ferry: MainWindow, desk: str) -> None:
    at_ferry.activateWindow()
    at_ferry.show_desk(desk)
    shown = at_ferry.desks[desk]
    panel = shown.side if desk == "label" else shown.panel
    for number, name in enumerate(panel.tabs, 1):
        shown.page.setFocus()
        go(qtbot, at_ferry, str(number))
        assert panel.page_shown == name
        assert panel.isAncestorOf(focused(at_ferry)), name
        go(qtbot, at_ferry, str(number))
        assert shown.page.hasFocus(), name
        go(qtbot, at_ferry, "B")
        assert panel.isAncestorOf(focused(at_ferry)), name
        go(qtbot, at_ferry, "B")
        assert shown.page.hasFocus(), name


def test_the_queue_takes_the_keys_where_nothing_is_left_in_it(qtbot: QtBot, at_ferry: MainWindow) -> None:
    label = at_ferry.desks["label"]
    at_ferry.activateWindow()
    label.review.questions = []
    label.side.show_page("queue")
    label.side.queue.refresh()
    assert not label.side.queue.rows.isVisible()
    label.page.setFocus()
    go(qtbot, at_ferry, "B")
    assert label.side.isAncestorOf(focused(at_ferry))


@pytest.mark.parametrize("desk", ["label", "write"])
def test_escape_lifts_a_selection_and_leads_back_to_the_page(qtbot: QtBot, at_ferry: MainWindow, desk: str) -> None:
    at_ferry.activateWindow()
    at_ferry.show_desk(desk)
    selection = at_ferry.session.selection
    selection.select("n2", "n6")
    at_ferry.notice.say("Something")
    qtbot.keyClick(at_ferry.desks[desk].page, Qt.Key.Key_Escape)
    assert not at_ferry.notice.isVisible()
    assert len(selection.notes()) == 5
    qtbot.keyClick(at_ferry.desks[desk].page, Qt.Key.Key_Escape)
    assert selection.notes() == ("n6",)
    go(qtbot, at_ferry, "1")
    qtbot.keyClick(focused(at_ferry), Qt.Key.Key_Escape)
    assert at_ferry.desks[desk].page.hasFocus()


def test_escape_lifts_the_selection_of_a_lick(qtbot: QtBot, window: MainWindow) -> None:
    window.activateWindow()
    window.show_desk("vocabulary")
    desk = window.desks["vocabulary"]
    qtbot.waitUntil(lambda: desk.page.is_complete)
    desk.page.setFocus()
    qtbot.keyClick(desk.page, Qt.Key.Key_Home)
    assert desk.selected()
    qtbot.keyClick(desk.page, Qt.Key.Key_Escape)
    assert desk.selected() == ()


def kept_licks(window: MainWindow) -> list[str]:
    return [entry.name for entry in window.studio.library.licks()]


def test_keeping_a_lick_is_undone_before_older_work(at_ferry: MainWindow) -> None:
    session, keeping = at_ferry.session, at_ferry.studio.keeping
    session.selection.select("n2", "n2")
    session.move(1)
    moved, before = session.solo, kept_licks(at_ferry)
    session.selection.select("n2", "n8")
    keeping.keep()
    assert keeping.dialog is not None
    keeping.dialog.accept()
    assert len(kept_licks(at_ferry)) == len(before) + 1
    assert "Kept" in at_ferry.notice.text.text()
    at_ferry.actions_of.action("edit.undo").trigger()
    assert kept_licks(at_ferry) == before
    assert session.solo is moved
    assert not at_ferry.notice.isVisible(), "it is no longer true"
    at_ferry.actions_of.action("edit.redo").trigger()
    assert len(kept_licks(at_ferry)) == len(before) + 1


def test_renaming_a_lick_is_undone_from_its_own_field(qtbot: QtBot, window: MainWindow) -> None:
    window.activateWindow()
    window.show_desk("vocabulary")
    desk = window.desks["vocabulary"]
    before = kept_licks(window)
    desk.name.setFocus()
    desk.name.selectAll()
    qtbot.keyClicks(desk.name, "Mine")
    go(qtbot, window, "Z")
    assert desk.name.text() != "Mine", "what is typed is undone first"
    desk.name.selectAll()
    qtbot.keyClicks(desk.name, "Mine")
    qtbot.keyClick(desk.name, Qt.Key.Key_Return)
    assert "Mine" in kept_licks(window)
    go(qtbot, window, "Z")
    assert kept_licks(window) == before


def test_a_message_goes_when_it_is_no_longer_true(at_ferry: MainWindow) -> None:
    bar = at_ferry.statusBar()
    assert bar is not None
    at_ferry.studio.asks.tell("5 notes copied")
    at_ferry.actions_of.action("view.larger").trigger()
    assert bar.currentMessage() == ""
    solo = at_ferry.studio.library.solos()[-1]
    at_ferry.show_desk("shelf")
    at_ferry.studio.edits.delete_solo(solo.id)
    assert "was deleted" in at_ferry.notice.text.text()
    at_ferry.studio.edits.undo_stack.undo()
    assert not at_ferry.notice.isVisible()


@pytest.mark.parametrize(
    ("name", "chosen", "wanted"),
    [
        ("a.csv", PAPER, NOTE_TABLE),
        ("a.musicxml", SCORE_WITH_DEGREES, SCORE_WITH_DEGREES),
        ("a.MusicXML", PAPER, SCORE),
        ("a", PAPER, PAPER),
        ("Op. 5", NOTE_TABLE, NOTE_TABLE),
    ],
)
def test_the_ending_that_was_typed_says_what_is_written(name: str, chosen: object, wanted: object) -> None:
    assert chosen in EXPORT_FORMATS
    assert format_for(Path(name), chosen) is wanted  # type: ignore[arg-type]


def test_an_export_says_where_it_is_and_offers_to_go_there(
    qtbot: QtBot, at_ferry: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    went: list[str] = []
    monkeypatch.setattr(
        "gavotte.desktop.shell.window.QDesktopServices.openUrl", lambda url: went.append(url.toLocalFile())
    )
    sheet = at_ferry.sheet()
    assert sheet is not None
    with qtbot.waitSignal(at_ferry.studio.exporter.exported):
        at_ferry.studio.exporter.export(sheet, tmp_path / "a.csv", NOTE_TABLE)
    assert at_ferry.notice.text.text() == f"Exported as a.csv in {tmp_path}"
    at_ferry.notice.action.click()
    assert went == [str(tmp_path)]


def test_the_speed_before_the_ladder_comes_back_and_no_speed_goes_on_to_another_solo(window: MainWindow) -> None:
    deck, transport = window.studio.deck, window.studio.transport
    first, second = [entry.id for entry in window.studio.library.solos()][:2]
    window.open_solo(first)
    deck.change(speed=0.8)
    deck.change(ladder=True)
    deck.settings.speed = 0.55
    deck.change(ladder=False)
    assert deck.settings.speed == 0.8
    transport.set_rate(0.6)
    window.open_solo(second)
    assert (deck.settings.speed, transport.rate) == (1.0, 1.0)
    assert window.transport_bar.tempo.value() == 100


@pytest.mark.parametrize("desk", ["label", "write"])
def test_bars_phrases_sections_and_choruses_are_gone_through_by_the_same_keys(
    qtbot: QtBot, at_ferry: MainWindow, desk: str
) -> None:
    at_ferry.activateWindow()
    at_ferry.show_desk(desk)
    shown = at_ferry.desks[desk]
    shown.page.setFocus()
    solo = at_ferry.session.solo
    assert solo is not None

    def place() -> object:
        walked = shown.walked()
        assert walked is not None
        return walked.place

    control = Qt.KeyboardModifier.ControlModifier
    qtbot.keyClick(shown.page, Qt.Key.Key_Home)
    for _ in range(3):
        qtbot.keyClick(shown.page, Qt.Key.Key_Right, control)
    grid = BarGrid(solo)
    third = next(bar.onset for bar in grid.bars if bar.number == 3)
    assert place() >= third
    assert place() < third + 4
    qtbot.keyClick(shown.page, Qt.Key.Key_G, control)
    dialog = at_ferry.walking.dialog
    assert dialog is not None
    qtbot.keyClicks(dialog.number, "20")
    assert dialog.yes.isDefault()
    dialog.yes.click()
    assert grid.at(place()).number == 20
    assert shown.page.hasFocus()
    qtbot.keyClick(shown.page, Qt.Key.Key_PageUp, control)
    assert place() in {next((n.onset for n in solo.notes if n.onset >= s.onset), None) for s in solo.sections} | {
        section.onset for section in solo.sections
    }
    before = place()
    qtbot.keyClick(shown.page, Qt.Key.Key_Down, control)
    assert place() > before
    qtbot.keyClick(shown.page, Qt.Key.Key_Up, control)
    assert place() <= before
    for _ in range(40):
        qtbot.keyClick(shown.page, Qt.Key.Key_Right, control)
    assert "last bar" in at_ferry.statusBar().currentMessage()  # type: ignore[union-attr]


def test_the_rows_of_a_lick_are_gone_through_by_sections(qtbot: QtBot, window: MainWindow) -> None:
    window.activateWindow()
    window.show_desk("vocabulary")
    desk = window.desks["vocabulary"]
    desk.all_keys.click()
    qtbot.waitUntil(lambda: desk.page.is_complete)
    desk.page.setFocus()
    for number in range(1, 4):
        qtbot.keyClick(desk.page, Qt.Key.Key_PageDown, Qt.KeyboardModifier.ControlModifier)
        assert desk.selected()[0].startswith(f"{number}:")


def test_a_restart_shows_the_same_panels_and_keys(open_window: OpenWindow, demo_folder: Path) -> None:
    window = open_window(demo_folder)
    window.open_solo(window.studio.library.solos()[0].id)
    window.desks["label"].side.show_page("harmony")
    window.desks["write"].panel.show_page("marks")
    window.show_desk("vocabulary")
    vocabulary = window.desks["vocabulary"]
    vocabulary.licks.setCurrentRow(2)
    vocabulary.all_keys.click()
    vocabulary.order.setCurrentIndex(1)
    lick = vocabulary.licks.current_id()
    window.close()
    again = open_window(demo_folder)
    assert again.desks["label"].side.page_shown == "harmony"
    assert again.desks["write"].panel.page_shown == "marks"
    vocabulary = again.desks["vocabulary"]
    assert again.desk is vocabulary
    assert vocabulary.licks.current_id() == lick
    assert vocabulary.all_keys.isChecked()
    assert vocabulary.order.currentIndex() == 1
    assert len(vocabulary.sheet().solo.sections) == 12


def test_an_empty_shelf_and_every_desk_without_a_solo_say_what_to_do_and_by_which_key(
    open_window: OpenWindow, tmp_path: Path
) -> None:
    window = open_window(tmp_path / "empty")
    for name, keys in (("shelf", "Ctrl+N"), ("label", "Ctrl+N"), ("write", "F1"), ("vocabulary", "F4")):
        window.show_desk(name)
        shown = [label.text() for label in window.desk.findChildren(QLabel) if label.isVisible()]
        assert any(keys in text for text in shown), (name, shown)
    window.show_desk("shelf")
    window.desks["shelf"].first_new.click()
    assert window.studio.beginning.new_dialog is not None
    assert window.studio.beginning.new_dialog.isVisible()
    window.studio.beginning.new_dialog.reject()


@pytest.mark.parametrize(
    ("typed", "place"),
    [("bl", 1), ("quick", 2), ("quick bl", 2), ("b", 1), ("w", 3), ("blues m", 4), ("zz", None), (" ", None)],
)
def test_entries_are_found_by_any_of_their_words(typed: str, place: int | None) -> None:
    entries = ["None yet", "Blues", "Quick-change quick blues", "Waltz", "Minor blues"]
    assert found_by_word(entries, typed) == place


def test_a_long_choice_is_searched_by_typing(qtbot: QtBot, window: MainWindow) -> None:
    window.studio.beginning.new_solo()
    dialog = window.studio.beginning.new_dialog
    assert dialog is not None
    entries = [dialog.form.itemText(index) for index in range(dialog.form.count())]
    wanted = next(entry for entry in entries if len(entry.split()) > 1 and "lues" in entry)
    word = wanted.split()[-1][:4].lower()
    first = wanted.split()[0].lower()
    qtbot.keyClicks(dialog.form, f"{first} {word}")
    assert dialog.form.currentText() == wanted
    dialog.reject()


def test_a_speed_is_one_key_at_every_desk(qtbot: QtBot, at_ferry: MainWindow) -> None:
    at_ferry.activateWindow()
    at_ferry.desks["label"].page.setFocus()
    both = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier
    qtbot.keyClick(at_ferry.desks["label"].page, Qt.Key.Key_6, both)
    assert at_ferry.studio.transport.rate == 0.6
    assert at_ferry.transport_bar.tempo.value() == 60
    qtbot.keyClick(at_ferry.desks["label"].page, Qt.Key.Key_0, both)
    assert at_ferry.studio.transport.rate == 1.0
    at_ferry.show_desk("listen")
    at_ferry.set_speed(0.7)
    assert at_ferry.studio.deck.settings.speed == 0.7
    assert at_ferry.studio.transport.rate == 1.0


def test_chords_are_written_at_the_caret(qtbot: QtBot, at_ferry: MainWindow) -> None:
    at_ferry.activateWindow()
    at_ferry.show_desk("write")
    desk, session = at_ferry.desks["write"], at_ferry.session
    desk.writer.go_to(Fraction(8))
    desk.page.setFocus()
    go(qtbot, at_ferry, "K")
    dialog = desk.chord_dialog
    assert dialog is not None
    qtbot.keyClicks(dialog.field, "Dm7 Hx")
    assert not dialog.yes.isEnabled()
    assert "Hx" in dialog.verdict.text()
    dialog.field.setText("Dm7 G7")
    dialog.yes.click()
    assert session.solo is not None
    assert [(event.onset, event.text) for event in session.solo.chords if 8 <= event.onset < 12] == [
        (8, "Dm7"),
        (10, "G7"),
    ]
    assert desk.page.hasFocus()
    assert session.undo_stack.count() == 1


def test_a_bar_is_copied_a_fourth_up_or_onto_the_chord_that_is_there(qtbot: QtBot, at_ferry: MainWindow) -> None:
    at_ferry.activateWindow()
    at_ferry.show_desk("write")
    desk, session = at_ferry.desks["write"], at_ferry.session
    desk.writer.go_to(Fraction(8))
    desk.page.setFocus()
    qtbot.keyClick(desk.page, Qt.Key.Key_M)
    bar = [session.solo.note(note) for note in session.selection.notes()]
    assert bar
    go(qtbot, at_ferry, "C")
    go(qtbot, at_ferry, "Right")
    qtbot.keyClick(desk.page, Qt.Key.Key_V, Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier)
    dialog = desk.interval_dialog
    assert dialog is not None
    assert dialog.interval.itemText(0).startswith("Onto ")
    qtbot.waitUntil(dialog.interval.hasFocus)
    qtbot.keyClicks(dialog.interval, "perfect fourth")
    assert dialog.interval.currentText() == "Perfect fourth up"
    dialog.yes.click()
    pasted = [session.solo.note(note) for note in session.selection.notes()]
    assert [new.pitch.midi - old.pitch.midi for new, old in zip(pasted, bar, strict=True)] == [5] * len(bar)
    assert session.undo_stack.count() == 1
    at_ferry.activateWindow()
    qtbot.waitUntil(desk.page.hasFocus)
    qtbot.keyClick(desk.page, Qt.Key.Key_M, Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier)
    dialog = desk.interval_dialog
    qtbot.waitUntil(dialog.interval.hasFocus)
    qtbot.keyClicks(dialog.interval, "octave down")
    dialog.yes.click()
    moved = [session.solo.note(note) for note in session.selection.notes()]
    assert [new.pitch.midi - old.pitch.midi for new, old in zip(moved, bar, strict=True)] == [-7] * len(bar)


def name_of(widget: QWidget) -> str:
    words = widget.text() if isinstance(widget, QAbstractButton) else ""
    return widget.accessibleName() or words


@pytest.mark.parametrize("desk", ["shelf", "listen", "write", "label", "vocabulary", "compare"])
def test_every_stop_on_the_way_by_tab_has_a_name_and_comes_once(qtbot: QtBot, at_ferry: MainWindow, desk: str) -> None:
    at_ferry.activateWindow()
    # A note that could be called something else shows buttons of its own.
    other = next(note for note, label in at_ferry.session.labels.items() if label.alternatives)
    at_ferry.session.selection.select(other, other)
    at_ferry.desks["label"].side.show_page("note")
    at_ferry.show_desk(desk)
    QApplication.processEvents()
    start = at_ferry.rail.findChildren(QAbstractButton)[0]
    start.setFocus()
    stops: list[QWidget] = []
    page = at_ferry.desk.focus()
    while True:
        here = QApplication.focusWidget()
        assert here is not None
        if here in stops:
            break
        assert here.isVisible()
        assert name_of(here), here
        stops.append(here)
        # On the page of the Label desk Tab goes to the next question: the way goes on behind it.
        at_ferry.focusNextPrevChild(True) if here is page else qtbot.keyClick(here, Qt.Key.Key_Tab)
    assert page in stops, [name_of(stop) for stop in stops]
    if desk == "label":
        names = [name_of(stop) for stop in stops]
        card = at_ferry.desks["label"].side.card
        alternative = names.index(card.alternative_buttons[0].text())
        assert names.index("How it does it") < alternative < names.index("Play")


def test_a_group_of_buttons_is_one_stop_with_arrows(qtbot: QtBot, at_ferry: MainWindow) -> None:
    at_ferry.activateWindow()
    side = at_ferry.desks["label"].side
    side.show_page("note")
    side.tabs["note"].setFocus()
    qtbot.keyClick(side.tabs["note"], Qt.Key.Key_Right)
    assert side.page_shown == "queue"
    assert side.tabs["queue"].hasFocus()


def test_the_keys_are_never_lost(qtbot: QtBot, at_ferry: MainWindow) -> None:
    at_ferry.activateWindow()
    label = at_ferry.desks["label"]
    label.side.show_page("queue")
    label.side.queue.rows.setFocus()
    label.side.queue.rows.hide()
    focus = QApplication.focusWidget()
    if focus is not None:
        focus.clearFocus()
    qtbot.waitUntil(lambda: QApplication.focusWidget() is not None)


def test_an_open_menu_keeps_the_letters(
    qtbot: QtBot, at_ferry: MainWindow, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    """Another format takes four keys, and none of them answers a question on the page behind."""
    asked = []

    def answer(*args: object) -> tuple[str, str]:
        asked.append(str(args[2]))
        return str(tmp_path / "out"), ""

    monkeypatch.setattr("gavotte.desktop.errands.exporting.QFileDialog.getSaveFileName", answer)
    at_ferry.activateWindow()
    label = at_ferry.desks["label"]
    label.page.setFocus()
    label.step_queue(1)
    before, asked_about = at_ferry.session.solo, label.review.current
    for letter in (Qt.Key.Key_X, Qt.Key.Key_A):
        qtbot.keyClick(label.page, Qt.Key.Key_F, Qt.KeyboardModifier.AltModifier)
        qtbot.waitUntil(lambda: QApplication.activePopupWidget() is not None)
        menu = QApplication.activePopupWidget()
        if letter is Qt.Key.Key_A:
            qtbot.keyClick(menu, letter)
            menu.close()
            continue
        qtbot.keyClick(menu, letter)
        qtbot.waitUntil(lambda: QApplication.activePopupWidget() is not menu)  # noqa: B023
        qtbot.keyClick(QApplication.activePopupWidget(), Qt.Key.Key_I)
    assert at_ferry.session.solo is before
    assert label.review.current is asked_about
    assert [Path(name).suffix for name in asked] == [".mid"]
    qtbot.waitUntil((tmp_path / "out.mid").exists)


def test_the_keys_go_through_lines_that_are_still_to_be_set_anew(qtbot: QtBot, at_ferry: MainWindow) -> None:
    session, page = at_ferry.session, at_ferry.desks["label"].page
    solo = session.solo
    assert solo is not None
    renamed = replace(
        solo, notes=tuple(replace(note, id=f"x{note.id}") for note in solo.notes), phrases=(), decisions=()
    )
    session.edit("Rename everything", renamed)
    last, grid = renamed.notes[-1], BarGrid(renamed)
    session.selection.select(last.id, last.id)
    qtbot.keyClick(page, Qt.Key.Key_Up)
    above = session.selection.current
    assert above is not None
    assert above != last.id
    assert grid.index_at(renamed.note(above).onset) < grid.index_at(last.onset)


def test_a_bar_is_gone_to_in_what_is_shown_by_then(qtbot: QtBot, window: MainWindow) -> None:
    window.show_desk("vocabulary")
    desk = window.desks["vocabulary"]
    desk.all_keys.click()
    qtbot.waitUntil(lambda: desk.page.is_complete)
    window.walking.ask_for_bar()
    dialog = window.walking.dialog
    assert dialog is not None
    dialog.number.setValue(dialog.number.maximum())
    desk.own_key.click()
    dialog.accept()
    sheet = desk.sheet()
    assert sheet is not None
    assert set(desk.selected()) <= set(sheet.solo.places)
