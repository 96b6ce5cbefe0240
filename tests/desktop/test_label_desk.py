"""The Label desk worked by keyboard: queue, readings, keys, figures, filter, text and school."""

from __future__ import annotations

import random
from dataclasses import replace
from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, Qt
from pytestqt.qtbot import QtBot
from tests.conftest import make_solo
from tests.desktop.conftest import OpenWindow, in_doubt

from gavotte.desktop.desks.label.filter_choice import DOUBTS, EVERYTHING, SKELETON
from gavotte.desktop.desks.label.item_words import words_of
from gavotte.desktop.errands.exporting import ANALYSIS, PAPER
from gavotte.desktop.shell.window import MainWindow
from gavotte.desktop.solo.session import LABEL_AT_ONCE
from gavotte.engraving.shapes import STAFF_SPACE as SP
from gavotte.labelling.questions import Asked
from gavotte.library.schools import own_schools
from gavotte.library.store import Library
from gavotte.solo.document import Function, Instrument, ReadingKind, Solo
from gavotte.solo.edits import with_decision, with_notes_moved
from gavotte.solo.school import LINEAR, VERTICAL
from gavotte.theory.key import Key

BLUES_LINE = [("Cm7", "F5/8 Eb5 Db5 Bb4 Ab4 Bb4 Db5 Eb5"), ("F7", "E5/8 Eb5 Db5 Bb4 Ab4 Bb4 Db5 Bb4"), ("Bb6", "Bb4/1")]
WRONG = with_notes_moved(
    make_solo([("Dm7", "D5/8 E5 F5 A5 G5 F5 E5 D5"), ("G7", "B4/8 D5 F5 A5 G5 F5 D5 B4"), ("Cmaj7", "C5/1")]),
    ["n9"],
    -1,
)


def opened(open_window: OpenWindow, folder: Path, qtbot: QtBot, *solos: Solo) -> MainWindow:
    """A window at the Label desk with the first of some solos, everything looked through."""
    with Library(folder) as library:
        ids = [library.add_solo(solo, 0) for solo in solos]
    window = open_window(folder)
    window.open_solo(ids[0])
    looked_through(window, qtbot)
    window.activateWindow()
    window.desks["label"].page.setFocus()
    return window


def looked_through(window: MainWindow, qtbot: QtBot) -> None:
    qtbot.waitUntil(lambda: window.desks["label"].page.is_complete and window.desks["label"].review.is_complete)


def press(qtbot: QtBot, window: MainWindow, key: Qt.Key, modifier: Qt.KeyboardModifier | None = None) -> None:
    qtbot.keyClick(window.desks["label"].page, key, modifier or Qt.KeyboardModifier.NoModifier)


def test_the_queue_is_worked_through_by_keyboard(qtbot: QtBot, open_window: OpenWindow, tmp_path: Path) -> None:
    solo = replace(WRONG, notes=tuple(replace(n, uncertain=n.id == "n3") for n in WRONG.notes))
    window = opened(open_window, tmp_path / "lib", qtbot, solo)
    desk, session = window.desks["label"], window.session
    assert [(item.asked, item.first) for item in desk.review.questions] == [(Asked.DOUBT, "n3"), (Asked.SLIP, "n9")]
    assert "2 things to look at" in desk.doubts.text()

    press(qtbot, window, Qt.Key.Key_A)
    assert desk.side.page_shown == "queue"
    assert session.selection.current == "n3", "the first press only shows what there is"
    assert not session.labels["n3"].decided
    press(qtbot, window, Qt.Key.Key_A)
    assert session.labels["n3"].decided
    assert session.selection.current == "n9"
    assert "Make it D" in desk.side.queue.take.text()
    press(qtbot, window, Qt.Key.Key_A)
    assert session.solo is not None
    assert str(session.solo.note("n9").pitch) == "D5"
    looked_through(window, qtbot)
    assert desk.review.questions == []
    assert "Nothing is left" in desk.side.queue.count.text()

    session.undo_stack.undo()
    looked_through(window, qtbot)
    assert [item.first for item in desk.review.questions] == ["n9"]
    press(qtbot, window, Qt.Key.Key_Tab)
    press(qtbot, window, Qt.Key.Key_X)
    looked_through(window, qtbot)
    assert desk.review.questions == []
    assert str(session.solo.note("n9").pitch) == "C#5"


def test_passing_over_a_doubt_leaves_it_open_but_asks_no_more(
    qtbot: QtBot, open_window: OpenWindow, tmp_path: Path
) -> None:
    solo = replace(make_solo([("Cmaj7", "E4/4 G4/4 Bb4/4? G4/4")]), instrument=Instrument("Trumpet", -1, -2))
    window = opened(open_window, tmp_path / "lib", qtbot, with_decision(solo, "n0", Function.CHORD, "plain"))
    desk = window.desks["label"]
    kinds = [item.asked for item in desk.review.questions]
    press(qtbot, window, Qt.Key.Key_Tab)
    press(qtbot, window, Qt.Key.Key_X)
    looked_through(window, qtbot)
    assert len(desk.review.questions) == len(kinds) - 1
    # In the other pitch it is still the same doubt, left alone.
    for _ in range(2):
        press(qtbot, window, Qt.Key.Key_T, Qt.KeyboardModifier.ControlModifier)
        looked_through(window, qtbot)
        assert len(desk.review.questions) == len(kinds) - 1


def test_all_plain_labels_are_taken_at_once(qtbot: QtBot, at_ferry: MainWindow) -> None:
    at_ferry.activateWindow()
    at_ferry.desks["label"].page.setFocus()
    session = at_ferry.session
    press(qtbot, at_ferry, Qt.Key.Key_A, Qt.KeyboardModifier.ShiftModifier)
    decided = [label for label in session.labels.values() if label.decided]
    assert len(decided) > 100
    assert {label.function for label in decided} == {Function.CHORD, Function.PASSING}
    assert session.undo_stack.count() == 1


def test_a_reading_is_proposed_taken_and_taken_away(qtbot: QtBot, open_window: OpenWindow, tmp_path: Path) -> None:
    window = opened(open_window, tmp_path / "lib", qtbot, make_solo(BLUES_LINE, key="Bb major"))
    desk, session = window.desks["label"], window.session
    (item,) = desk.review.questions
    assert item.asked is Asked.READING
    press(qtbot, window, Qt.Key.Key_Tab)
    assert len(session.selection.notes()) > 10
    desk.side.show_page("queue")
    assert "notes lie in B♭" in desk.side.queue.words.text()
    press(qtbot, window, Qt.Key.Key_A)
    assert session.labels["n2"].heard.startswith("B♭")
    assert session.labels["n2"].other == "♭3"
    session.selection.select("n2", "n2")
    desk.side.show_page("note")
    assert "♭3" in desk.card.heard.text()
    qtbot.waitUntil(lambda: desk.page.is_complete)
    lane = desk.page.lines[0].lane
    assert lane is not None
    assert lane.boundingRect().height() > 4 * SP
    desk.side.show_page("harmony")
    assert "B♭" in desk.side.harmony.readings.text()
    qtbot.mouseClick(desk.side.harmony.by_changes, Qt.MouseButton.LeftButton)
    assert session.labels["n2"].heard == ""


@pytest.mark.parametrize("kind", list(ReadingKind))
def test_a_reading_is_set_by_hand_over_a_selection(
    kind: ReadingKind, qtbot: QtBot, open_window: OpenWindow, tmp_path: Path
) -> None:
    window = opened(open_window, tmp_path / "lib", qtbot, make_solo([("Dm7", "D5/4 F5 A5 C6"), ("Dm7", "A5/1")]))
    session = window.session
    session.selection.select("n1", "n3")
    press(qtbot, window, Qt.Key.Key_R)
    dialog = window.desks["label"].reading_dialog
    assert dialog is not None
    qtbot.mouseClick(dialog.kinds[kind], Qt.MouseButton.LeftButton)
    if kind is ReadingKind.KEY_CENTRE:
        dialog.collection.setCurrentText("minor pentatonic")
        assert "of 3 notes lie in C minor pentatonic" in dialog.figures.text()
    elif kind is ReadingKind.IMPLIED:
        dialog.chords.setText("H7")
        assert not dialog.yes.isEnabled()
        assert "root" in dialog.figures.text()
        dialog.chords.setText("Fmaj7 Am7")
        assert "3 of 3 notes are tones" in dialog.figures.text()
    qtbot.mouseClick(dialog.yes, Qt.MouseButton.LeftButton)
    assert session.solo is not None
    (reading,) = session.solo.readings
    assert (reading.kind, reading.first, reading.last) == (kind, "n1", "n3")
    if kind is ReadingKind.IMPLIED:
        assert [session.labels[f"n{k}"].chord for k in range(5)] == ["Dm7", "Fmaj7", "Am7", "Am7", "Dm7"]


def test_a_key_is_set_for_some_bars(qtbot: QtBot, open_window: OpenWindow, tmp_path: Path) -> None:
    bars = [("Cmaj7", "E5/1"), ("Fm7", "Ab5/1"), ("Bb7", "F5/1"), ("Ebmaj7", "G5/1"), ("Cmaj7", "E5/1")]
    window = opened(open_window, tmp_path / "lib", qtbot, make_solo(bars))
    session, harmony = window.session, window.desks["label"].side.harmony
    window.desks["label"].side.show_page("harmony")
    session.selection.select("n1", "n3")
    qtbot.mouseClick(harmony.key, Qt.MouseButton.LeftButton)
    dialog = window.desks["label"].key_dialog
    assert dialog is not None
    dialog.tonic.setCurrentIndex(dialog.tonic.findData("Eb"))
    qtbot.mouseClick(dialog.yes, Qt.MouseButton.LeftButton)
    assert session.solo is not None
    assert [str(region.key) for region in session.solo.heard_keys] == ["C major", "Eb major", "C major"]
    assert session.solo.keys[0].key == Key.parse("C major")
    assert "E♭ major: bars 2 to 4" in harmony.keys.text()
    assert "ii-V-I" in harmony.summary.text()
    qtbot.mouseClick(harmony.heard, Qt.MouseButton.LeftButton)
    assert session.solo.heard_keys == ()


def test_a_bracket_shows_its_figure_and_g_plays_it(qtbot: QtBot, at_ferry: MainWindow) -> None:
    desk, session = at_ferry.desks["label"], at_ferry.session
    page = desk.page
    label = next(label for label in session.labels.values() if label.device == "enclosure")
    assert label.group is not None
    line = next(line for line in page.lines if label.note in line.labels)
    assert line.lane is not None
    x = next(placed.x for placed in line.line.notes if placed.note.id == label.note)
    page.ensure_note_visible(label.note)
    place = page.mapFromScene(x, line.pos().y() + line.ground + 2.5 * SP)
    session.selection.select(None, None)
    qtbot.mouseClick(page.viewport(), Qt.MouseButton.LeftButton, pos=QPoint(place.x(), place.y()))
    assert label.note in session.selection.notes()
    assert desk.side.page_shown == "note"
    assert "Enclosure" in desk.card.figure.text()
    at_ferry.activateWindow()
    page.setFocus()
    session.selection.select(label.note, label.note)
    press(qtbot, at_ferry, Qt.Key.Key_G)
    assert session.selection.current == label.target
    qtbot.waitUntil(lambda: at_ferry.studio.transport.is_playing)
    at_ferry.studio.transport.stop()


def test_the_page_is_filtered(qtbot: QtBot, at_ferry: MainWindow) -> None:
    desk, session = at_ferry.desks["label"], at_ferry.session
    at_ferry.activateWindow()
    desk.page.setFocus()

    def kept() -> frozenset[str] | None:
        return desk.page._kept

    press(qtbot, at_ferry, Qt.Key.Key_V)
    assert desk.filter.wanted == SKELETON
    strong = kept()
    assert strong is not None
    assert 20 < len(strong) < len(session.labels) / 2
    desk.filter.choose("approach/enclosure")
    assert kept() == {n for n, label in session.labels.items() if label.device == "enclosure"}
    note = next(iter(kept() or ()))
    session.selection.select(note, note)
    session.decide(Function.CHORD, "plain")
    assert note not in (kept() or ())
    desk.filter.choose(DOUBTS)
    assert kept() == set(in_doubt(session))
    press(qtbot, at_ferry, Qt.Key.Key_V)
    press(qtbot, at_ferry, Qt.Key.Key_V)
    assert desk.filter.wanted == EVERYTHING
    assert kept() is None


def test_what_falls_on_the_changes_is_listed_and_leads_there(qtbot: QtBot, at_ferry: MainWindow) -> None:
    desk = at_ferry.desks["label"]
    desk.side.show_page("harmony")
    table = desk.side.harmony.table
    assert table.topLevelItemCount() > 20
    row = table.topLevelItem(3)
    assert row is not None
    table.itemClicked.emit(row, 0)
    assert at_ferry.session.selection.current == row.data(0, Qt.ItemDataRole.UserRole)
    assert row.text(2).split()[0]


def test_numerals_are_shown_under_the_chords(qtbot: QtBot, at_ferry: MainWindow) -> None:
    page = at_ferry.desks["label"].page
    height = page.lines[0].height
    at_ferry.actions_of.action("view.numerals").trigger()
    qtbot.waitUntil(lambda: page.is_complete)
    assert page.lines[0].height > height
    at_ferry.actions_of.action("view.numerals").trigger()
    qtbot.waitUntil(lambda: page.is_complete)
    assert page.lines[0].height == height


def test_the_text_of_a_bar_is_written_anew_and_goes_out(qtbot: QtBot, at_ferry: MainWindow, tmp_path: Path) -> None:
    desk, session = at_ferry.desks["label"], at_ferry.session
    session.selection.select("n8", "n8")
    desk.side.show_page("text")
    panel = desk.side.text
    assert panel.bar.text().startswith("Bar 2")
    assert session.selection.current == "n8", "looking does not move the selection"
    panel.field.setPlainText("A diminished arpeggio climbs over D7.")
    panel.keep()
    assert session.solo is not None
    assert [remark.words for remark in session.solo.remarks] == ["A diminished arpeggio climbs over D7."]
    assert panel.again.isEnabled()
    panel.rows.setCurrentRow(5)
    assert session.selection.current != "n8"
    sheet = desk.sheet()
    assert sheet is not None
    with qtbot.waitSignal(at_ferry.studio.exporter.exported):
        at_ferry.studio.exporter.export(sheet, tmp_path / "analysis", ANALYSIS)
    text = (tmp_path / "analysis.md").read_text(encoding="utf-8")
    assert text.startswith("# Lamplight on the Ferry")
    assert "A diminished arpeggio climbs over D7." in text
    panel.rows.setCurrentRow(2)
    qtbot.mouseClick(panel.again, Qt.MouseButton.LeftButton)
    assert session.solo.remarks == ()


def test_the_text_is_printed_after_the_music(qtbot: QtBot, at_ferry: MainWindow, tmp_path: Path) -> None:
    sizes = {}
    for with_text in (False, True):
        at_ferry.studio.exporter._settings.setValue("paper/text", with_text)
        sheet = at_ferry.desks["label"].sheet()
        assert sheet is not None
        path = tmp_path / f"{with_text}.pdf"
        with qtbot.waitSignal(at_ferry.studio.exporter.exported, timeout=20000):
            at_ferry.studio.exporter.export(sheet, path, PAPER)
        sizes[with_text] = path.read_bytes().count(b"/Type /Page\n")
    assert sizes[True] > sizes[False]


# -- schools --------------------------------------------------------------------------------------------


def test_the_school_panel_counts_what_each_choice_changes(qtbot: QtBot, at_ferry: MainWindow) -> None:
    desk, session = at_ferry.desks["label"], at_ferry.session
    panel = desk.side.school
    desk.side.show_page("school")
    qtbot.waitUntil(lambda: panel.is_complete)
    before = dict(session.labels)
    said = panel.counts["ninth_is_tone"].text()
    assert said.endswith("would change")
    panel.ticks["ninth_is_tone"].click()
    changed = sum(
        (before[n].function, before[n].device, before[n].target) != (x.function, x.device, x.target)
        for n, x in session.labels.items()
    )
    assert said.split()[0] == str(changed)
    assert session.solo is not None
    assert session.solo.school.ninth_is_tone
    assert session.solo.school.name != LINEAR.name
    session.undo_stack.undo()
    assert session.solo.school == LINEAR
    assert session.labels == before


def test_a_school_is_kept_under_a_name_and_used_for_other_solos(
    qtbot: QtBot, at_ferry: MainWindow, tmp_path: Path
) -> None:
    panel, session = at_ferry.desks["label"].side.school, at_ferry.session
    at_ferry.desks["label"].side.show_page("school")
    panel.ticks["leaps_are_colours"].click()
    panel.keep_named("Linear")
    assert "already" in at_ferry.notice.text.text()
    panel.keep_named("After the lesson")
    assert session.solo is not None
    assert session.solo.school.name == "After the lesson"
    assert [school.name for school in own_schools(at_ferry.studio.library)] == ["After the lesson"]
    panel.school.setCurrentIndex(panel.school.findText("Vertical"))
    panel.school.activated.emit(panel.school.currentIndex())
    assert session.solo.school == VERTICAL
    panel.school.setCurrentIndex(panel.school.findText("After the lesson"))
    panel.school.activated.emit(panel.school.currentIndex())
    qtbot.mouseClick(panel.drop, Qt.MouseButton.LeftButton)
    assert own_schools(at_ferry.studio.library) == ()
    assert session.solo.school.name == "After the lesson", "a solo keeps its school"


def test_degrees_are_written_as_the_school_has_it_at_once_everywhere(qtbot: QtBot, at_ferry: MainWindow) -> None:
    desk, session = at_ferry.desks["label"], at_ferry.session
    note = next(n for n, label in session.labels.items() if label.degree == "9")
    session.selection.select(note, note)
    desk.side.show_page("school")
    naming = desk.side.school.namings["compound"]
    naming.setCurrentIndex(1)
    naming.activated.emit(1)
    desk.side.show_page("note")
    assert session.labels[note].shown_degree == "2"
    assert desk.card.degree.text() == "2"
    sheet = desk.sheet()
    assert sheet is not None
    assert sheet.labels[note].shown_degree == "2"


def test_corrections_lead_to_an_offer_that_is_made_only_on_consent(
    qtbot: QtBot, open_window: OpenWindow, tmp_path: Path
) -> None:
    solo = make_solo([("Dm7", "E5/8 D5 F5 A4 r/2") for _ in range(6)])
    for k in range(4):
        solo = with_decision(solo, f"n{4 * k}", Function.EXTENSION, "natural")
    window = opened(open_window, tmp_path / "lib", qtbot, solo)
    desk, session = window.desks["label"], window.session
    offers = [item for item in desk.review.questions if item.asked is Asked.OFFER]
    assert {item.offer.choice for item in offers if item.offer} == {"accents_are_colours", "leaps_are_colours"}
    assert session.found is not None
    words = words_of(offers[0], session.found)
    assert words.take == "Change it"
    assert words.short.startswith("Change the school: ")
    assert "4 of 4" in words.words
    assert "2 labels here would change" in words.words
    desk.side.show_page("queue")
    desk.review.choose(offers[0])
    press(qtbot, window, Qt.Key.Key_A)
    assert session.solo is not None
    assert offers[0].offer is not None
    assert getattr(session.solo.school, offers[0].offer.choice)
    assert session.labels["n20"].function is Function.EXTENSION


def test_a_declined_offer_is_not_made_again(qtbot: QtBot, open_window: OpenWindow, tmp_path: Path) -> None:
    solo = make_solo([("Dm7", "E5/8 D5 F5 A4 r/2") for _ in range(6)])
    for k in range(4):
        solo = with_decision(solo, f"n{4 * k}", Function.EXTENSION, "natural")
    folder = tmp_path / "lib"
    window = opened(open_window, folder, qtbot, solo)
    review = window.desks["label"].review
    while any(item.asked is Asked.OFFER for item in review.questions):
        review.choose(next(item for item in review.questions if item.asked is Asked.OFFER))
        review.answer(False)
    assert window.session.solo is not None
    assert window.session.solo.school == LINEAR
    solo_id = window.session.solo_id
    again = open_window(folder)
    again.open_solo(solo_id or "")
    looked_through(again, qtbot)
    assert not [item for item in again.desks["label"].review.questions if item.asked is Asked.OFFER]


@pytest.mark.parametrize("answer", [Qt.Key.Key_A, Qt.Key.Key_X])
def test_a_blues_that_nobody_called_one_is_asked_about(
    answer: Qt.Key, qtbot: QtBot, open_window: OpenWindow, tmp_path: Path
) -> None:
    changes = ["C7", "F7", "C7", "C7", "F7", "F7", "C7", "C7", "G7", "F7", "C7", "G7"]
    solo = make_solo([(chord, "C5/4 Eb5 C5/2") for chord in changes])
    window = opened(open_window, tmp_path / "lib", qtbot, solo)
    desk, session = window.desks["label"], window.session
    assert Asked.BLUES in [item.asked for item in desk.review.questions]
    desk.side.show_page("queue")
    desk.review.choose(next(item for item in desk.review.questions if item.asked is Asked.BLUES))
    press(qtbot, window, answer)
    looked_through(window, qtbot)
    assert Asked.BLUES not in [item.asked for item in desk.review.questions]
    assert (session.labels["n1"].device == "blue") == (answer == Qt.Key.Key_A)


def test_without_chords_the_desk_asks(qtbot: QtBot, open_window: OpenWindow, tmp_path: Path) -> None:
    line = [("C", "C5/4 E5 G5 E5"), ("C", "D5/4 F5 A5 F5"), ("C", "B4/4 D5 F5 D5"), ("C", "C5/1")]
    window = opened(open_window, tmp_path / "lib", qtbot, replace(make_solo(line), chords=()))
    review, session = window.desks["label"].review, window.session
    assert review.questions[0].asked is Asked.NO_CHORDS
    desk = window.desks["label"]
    assert "degree in C major" in desk.about.text()
    assert desk.card.functions[Function.CHORD].text() == "Stable degree"
    assert "stable degree, 1 of the key" in desk.page.accessibleName()
    press(qtbot, window, Qt.Key.Key_Tab)
    window.desks["label"].side.show_page("queue")
    press(qtbot, window, Qt.Key.Key_A)
    assert session.solo is not None
    assert len(session.solo.chords) >= 3
    assert session.labels["n0"].chord
    assert desk.card.functions[Function.CHORD].text() == "Chord tone"
    session.undo_stack.undo()
    assert session.solo.chords == ()
    looked_through(window, qtbot)
    assert review.questions[0].asked is Asked.NO_CHORDS
    review.choose(review.questions[0])
    press(qtbot, window, Qt.Key.Key_X)
    assert {label.heard for label in session.labels.values()} == {"C major"}
    looked_through(window, qtbot)
    assert all(item.asked is not Asked.NO_CHORDS for item in review.questions)


def test_the_desk_is_whole_in_a_small_window_and_both_themes(at_ferry: MainWindow) -> None:
    at_ferry.resize(1024, 700)
    for look in ("Day", "Stage"):
        at_ferry.set_look(look)
        for name in at_ferry.desks["label"].side.tabs:
            at_ferry.desks["label"].side.show_page(name)
            side = at_ferry.desks["label"].side
            assert side.tabs["school"].geometry().right() <= side.width()
            assert not at_ferry.grab().isNull()


@pytest.mark.parametrize("seed", range(3))
def test_whatever_is_pressed_can_be_undone(seed: int, qtbot: QtBot, at_ferry: MainWindow) -> None:
    chance = random.Random(seed)
    session, side = at_ferry.session, at_ferry.desks["label"].side
    begun = session.solo
    keys = [
        *(Qt.Key.Key_Tab, Qt.Key.Key_A, Qt.Key.Key_X, Qt.Key.Key_V, Qt.Key.Key_Backspace, Qt.Key.Key_Right),
        *(Qt.Key.Key_1, Qt.Key.Key_2, Qt.Key.Key_3, Qt.Key.Key_4, Qt.Key.Key_5),
    ]
    for step in range(40):
        if step % 8 == 0:
            side.show_page(chance.choice(list(side.tabs)))
            looked_through(at_ferry, qtbot)
        at_ferry.desks["label"].page.setFocus()
        press(qtbot, at_ferry, chance.choice(keys))
    assert session.undo_stack.count() > 0
    while session.undo_stack.canUndo():
        session.undo_stack.undo()
    assert session.solo == begun


def test_what_an_edit_took_away_is_not_answered(qtbot: QtBot, open_window: OpenWindow, tmp_path: Path) -> None:
    plain = make_solo([("Dm7", "D5/8 E5 F5 G5 A5/4 F5/4"), ("G7", "F#5/4 D5 C#5 Ab5")] * 40)
    solo = replace(plain, notes=tuple(replace(note, uncertain=i % 50 == 0) for i, note in enumerate(plain.notes)))
    with Library(tmp_path / "long") as library:
        solo_id = library.add_solo(solo)
    window = open_window(tmp_path / "long")
    window.open_solo(solo_id)
    desk, session = window.desks["label"], window.session
    qtbot.waitUntil(lambda: desk.review.is_complete and bool(desk.review.questions), timeout=15_000)
    assert session.solo is not None
    assert len(session.solo.notes) > LABEL_AT_ONCE
    for take in (True, False):
        item = next(item for item in desk.review.questions if item.first)
        desk.review.choose(item)
        gone = {item.first, item.last}
        kept = tuple(note for note in session.solo.notes if note.id not in gone)
        session.edit("Take notes away", replace(session.solo, notes=kept))
        desk.review.answer(take)
        assert all(other.first not in gone for other in desk.review.questions)
        desk.review.step(1)
    qtbot.waitUntil(lambda: desk.review.is_complete, timeout=15_000)


def doubtful(uncertain: str = "n3") -> Solo:
    return replace(WRONG, notes=tuple(replace(n, uncertain=n.id == uncertain) for n in WRONG.notes))


def test_a_and_x_touch_nothing_that_is_not_selected(qtbot: QtBot, open_window: OpenWindow, tmp_path: Path) -> None:
    window = opened(open_window, tmp_path / "lib", qtbot, doubtful())
    desk, session = window.desks["label"], window.session
    press(qtbot, window, Qt.Key.Key_Tab)
    assert session.selection.current == "n3"
    assert desk.side.page_shown == "queue"
    press(qtbot, window, Qt.Key.Key_Home)
    before = session.solo
    press(qtbot, window, Qt.Key.Key_A)
    assert session.solo is before, "nothing is asked about the first note: the next question is only shown"
    assert session.selection.current == "n3"
    assert "A: Take it so" in window.statusBar().currentMessage()
    assert "A: Take it so. X: Pass." in desk.page.accessibleDescription()
    press(qtbot, window, Qt.Key.Key_Home)
    press(qtbot, window, Qt.Key.Key_X)
    assert session.solo is before
    press(qtbot, window, Qt.Key.Key_A)
    assert session.labels["n3"].decided
    assert "Bar 1, the and of 2: Take it so" in window.statusBar().currentMessage()


def test_a_label_that_was_passed_stays_so_after_a_restart_and_undo_asks_again(
    qtbot: QtBot, open_window: OpenWindow, tmp_path: Path
) -> None:
    window = opened(open_window, tmp_path / "lib", qtbot, doubtful())
    desk, session = window.desks["label"], window.session
    press(qtbot, window, Qt.Key.Key_Tab)
    press(qtbot, window, Qt.Key.Key_X)
    looked_through(window, qtbot)
    assert [item.first for item in desk.review.questions] == ["n9"]
    window.close()
    again = open_window(tmp_path / "lib")
    looked_through(again, qtbot)
    desk, session = again.desks["label"], again.session
    assert [item.first for item in desk.review.questions] == ["n9"]
    press(qtbot, again, Qt.Key.Key_A)
    press(qtbot, again, Qt.Key.Key_X)
    looked_through(again, qtbot)
    assert desk.review.questions == []
    session.undo_stack.undo()
    looked_through(again, qtbot)
    assert [item.first for item in desk.review.questions] == ["n9"]
    assert session.selection.current == "n9"
    assert desk.review.current is not None


def test_a_decision_taken_back_is_asked_about_again(qtbot: QtBot, open_window: OpenWindow, tmp_path: Path) -> None:
    window = opened(open_window, tmp_path / "lib", qtbot, doubtful())
    desk, session = window.desks["label"], window.session
    press(qtbot, window, Qt.Key.Key_Tab)
    press(qtbot, window, Qt.Key.Key_A)
    session.selection.select("n3", "n3")
    press(qtbot, window, Qt.Key.Key_Backspace)
    looked_through(window, qtbot)
    assert [item.first for item in desk.review.questions] == ["n3", "n9"]
    assert desk.review.current is desk.review.questions[0]
    session.undo_stack.undo()
    session.undo_stack.undo()
    looked_through(window, qtbot)
    assert [item.first for item in desk.review.questions] == ["n3", "n9"]
    assert session.selection.current == "n3"


def test_walking_down_the_list_of_the_queue_moves_the_page(
    qtbot: QtBot, open_window: OpenWindow, tmp_path: Path
) -> None:
    window = opened(open_window, tmp_path / "lib", qtbot, doubtful())
    desk, session = window.desks["label"], window.session
    press(qtbot, window, Qt.Key.Key_Tab)
    rows = desk.side.queue.rows
    rows.setFocus()
    qtbot.keyClick(rows, Qt.Key.Key_Down)
    assert session.selection.current == "n9"
    assert rows.hasFocus()
    qtbot.keyClick(rows, Qt.Key.Key_Up)
    assert session.selection.current == "n3"
