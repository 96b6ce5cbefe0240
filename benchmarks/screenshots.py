"""Make docs/screenshots from the demo library: one picture of each main view."""

from __future__ import annotations

import os
import tempfile
from collections.abc import Callable
from fractions import Fraction
from pathlib import Path

from PyQt6.QtCore import QSettings
from PyQt6.QtWidgets import QApplication

from gavotte.demo.build import build_demo
from gavotte.demo.recordings import record, to_be_recorded
from gavotte.desktop.app import make_application
from gavotte.desktop.shell.window import MainWindow
from gavotte.library.solo_sets import SetKind, SoloSet
from gavotte.library.store import Library
from gavotte.steps import whole

FOLDER = Path(__file__).parents[1] / "docs" / "screenshots"


def settle(window: MainWindow) -> None:
    """Let the window finish what it has begun."""
    for _ in range(20):
        QApplication.processEvents()
    pages = (
        window.desks["label"].page,
        window.desks["vocabulary"].page,
        window.desks["listen"].page,
        window.desks["write"].page,
    )
    review = window.desks["label"].review
    while not (all(page.is_complete for page in pages) and review.is_complete):
        QApplication.processEvents()
    for _ in range(5):
        QApplication.processEvents()


def select(window: MainWindow, device: str, last_step: int = 0) -> None:
    """Select the first note with a device, and ``last_step`` notes more."""
    session = window.session
    assert session.solo is not None
    ids = [note.id for note in session.solo.notes]
    first = next(i for i, note in enumerate(ids) if session.labels[note].device == device)
    session.selection.select(ids[first], ids[first + last_step])


def hear(window: MainWindow) -> None:
    """Wait until the recording has been read and listened to."""
    while window.studio.tape.is_loading or window.desks["listen"].finder.is_looking:
        QApplication.processEvents()


def analyse(window: MainWindow, solos: list[str], picture: Callable[..., None]) -> None:
    """The Label desk beside the note card: the queue, and harmony with numerals."""
    desk = window.desks["label"]
    window.open_solo(solos[4])
    window.show_desk("label")
    settle(window)
    while not desk.review.is_complete:
        QApplication.processEvents()
    desk.side.show_page("queue")
    desk.step_queue(1)
    picture("queue")
    window.studio.view.set_numerals(True)
    desk.side.show_page("harmony")
    picture("harmony")
    window.studio.view.set_numerals(False)
    window.open_solo(solos[0])
    window.session.selection.select("n22", "n22")
    desk.side.show_page("note")


def vocabulary(window: MainWindow, picture: Callable[..., None]) -> None:
    """The Vocabulary desk: a lick with its relatives, in all keys, and what recurs."""
    desk = window.desks["vocabulary"]

    def wait() -> None:
        settle(window)
        while desk._settled.isActive() or not window.activities.is_idle:
            QApplication.processEvents()

    wait()
    desk.panels.show_page("relatives")
    desk.licks.setCurrentRow(next(k for k, row in enumerate(desk.licks.rows) if "Varnholm" in row.detail))
    wait()
    picture("vocabulary")
    desk.panels.show_page("about")
    picture("keys", desk.all_keys.click)
    desk.own_key.click()
    desk.turn_to("licks")


def workshop(window: MainWindow, picture: Callable[..., None]) -> None:
    """The Workshop desk: a ii-V-I from the vocabulary through the circle of fifths, and where else it could begin."""
    window.show_desk("workshop")
    desk = window.desks["workshop"]
    lick = next(lick for lick in window.studio.library.licks() if lick.name.startswith("Short ii-V-I: ♭3 5 ♭7 9"))

    def wait() -> None:
        while not (window.activities.is_idle and desk.working.is_current and desk.view.page.is_complete):
            QApplication.processEvents()

    desk.sources.take_lick(lick.id)
    desk.add_step("over")
    desk.side.chain.form.changed.emit("progression", "ii-V-I round the circle of fifths")
    wait()
    note = desk.view.concert.notes[16].id
    desk.view.select(note, note)
    desk.side.show_page("choices")
    wait()
    picture("workshop")


def compare(window: MainWindow, picture: Callable[..., None]) -> None:
    """The Compare desk: a player and the others, and where they differ most."""
    window.show_desk("compare")
    desk = window.desks["compare"]
    settle(window)
    desk.bar.here.choose(SoloSet(SetKind.PLAYER, "Ilka Rosenquill"))
    desk.bar.changed.emit()
    settle(window)
    while not (window.activities.is_idle and desk.laid is not None and desk.page.is_complete):
        QApplication.processEvents()
    settle(window)
    picture("compare")


def practice(window: MainWindow, picture: Callable[..., None]) -> None:
    """The Practice desk: a take of the demo's phrase, judged."""
    window.show_desk("practice")
    desk = window.desks["practice"]

    def wait() -> None:
        settle(window)
        while not (window.activities.is_idle and desk.made is not None and desk.page.is_complete):
            QApplication.processEvents()

    wait()
    window.notice.hide()
    desk.agenda.choose(next(name for name, item in desk.agenda.items.items() if item.kind == "phrase"))
    wait()
    desk.side.show_page("take")
    desk.takes.choose(desk.takes.all[0][0])
    desk.controls.show_answers(True)
    wait()
    picture("practice")
    desk.escape()


def phrases(window: MainWindow, solos: list[str], picture: Callable[..., None]) -> None:
    """The Phrases desk: a phrase with its card, and a motif of a blues, peeled to its beats."""
    desk = window.desks["phrases"]

    def build(solo_id: str) -> None:
        window.open_solo(solo_id)
        window.show_desk("phrases")
        while not (desk.builder.is_current and desk.page.is_complete):
            QApplication.processEvents()

    build(solos[0])
    desk.step_phrase(1)
    desk.step_phrase(1)
    picture("phrases")
    build(solos[1])
    desk.side.show_page("motifs")
    desk.step_place(1)
    picture("motifs")
    desk.side.show_page("phrase")


def write(window: MainWindow, solos: list[str], picture: Callable[..., None]) -> None:
    """The Write desk: its keys, the chords of a guitarist's blues, and a draft of the unfinished solo."""
    desk = window.desks["write"]
    window.open_solo(solos[-1])
    window.show_desk("write")
    hear(window)
    desk.writer.go_to(Fraction(30))
    picture("write")
    window.open_solo(solos[1])
    window.show_desk("write")
    hear(window)
    desk.panel.show_page("chords")
    desk.writer.go_to(Fraction(14))
    picture("chords")
    window.open_solo(solos[-1])
    window.show_desk("write")
    hear(window)
    desk.panel.show_page("draft")
    window.desks["write"].drafts.draft(True)
    while window.desks["write"].drafts.drafter.is_drafting:
        QApplication.processEvents()
    settle(window)
    desk.panel.draft.rows.setCurrentRow(1)
    picture("draft")
    window.desks["write"].drafts.leave_all()
    desk.panel.show_page("keys")


def sheets(window: MainWindow, picture: Callable[..., None]) -> None:
    """The Sheets desk with a solo and its analysis."""
    window.show_desk("sheets")
    desk = window.desks["sheets"]
    desk.making.begin("analysis")
    settle(window)
    desk.making.dialog.accept()
    while desk.showing.pages is None or desk.showing.pages.title != desk.studio.sheets.sheet.title:
        settle(window)
        QApplication.processEvents()
    desk.choose(desk.studio.sheets.sheet.pieces[0].id)
    picture("sheets")


def main() -> None:
    """Drive the window through its views and save a picture of each."""
    # Time passes only when told to: the playhead stands where it is wanted.
    os.environ["GAVOTTE_AUDIO"] = "manual"
    app = make_application()
    FOLDER.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as folder:
        build_demo(Path(folder) / "demo")
        with Library(Path(folder) / "demo") as library:
            for solo_id, solo in to_be_recorded(library):
                print(f"Playing in {solo.title} …")
                library.save_recording(solo_id, whole(record(solo, library.folder)))
            settings = QSettings(str(Path(folder) / "settings.ini"), QSettings.Format.IniFormat)
            window = MainWindow(library, settings)
            window.set_look("Day")
            window.resize(1280, 800)
            window.show()

            def picture(name: str, prepare: Callable[[], object] | None = None) -> None:
                if prepare is not None:
                    prepare()
                settle(window)
                window.grab().save(str(FOLDER / f"{name}.png"))

            (FOLDER.parent / "guide" / "15-keys.md").write_text(window.keys_chapter(), encoding="utf-8")
            picture("shelf")
            first, second, slow, *_ = (entry.id for entry in library.solos())
            window.open_solo(first)
            window.show_desk("listen")
            desk = window.desks["listen"]
            hear(window)
            desk.hearing.choose(4.6, 7.9)
            desk.wave.show_stretch(3.4, 10.0)
            window.session.selection.select("n17", "n17")
            desk.pitches.note_chosen.emit("n17")
            while not desk.doubt.isVisible():
                QApplication.processEvents()
            picture("listen")
            window.show_desk("label")
            picture("label", lambda: select(window, "double-above"))
            window.open_solo(second)
            select(window, "blue", 6)
            settle(window)
            window.show_desk("vocabulary")
            vocabulary(window, picture)
            window.open_solo(slow)
            practice(window, picture)
            compare(window, picture)
            sheets(window, picture)
            window.show_chapter()
            assert window.guide is not None
            window.guide.search.clearFocus()
            settle(window)
            window.guide.grab().save(str(FOLDER / "guide.png"))
            window.guide.close()
            window.show_desk("label")
            window.open_solo(first)
            window.show_paper()
            paper = window.paper_dialog
            assert paper is not None
            paper.reasons.setCurrentIndex(1)
            while not paper.is_set:
                QApplication.processEvents()
            paper.grab().save(str(FOLDER / "paper.png"))
            paper.reject()
            analyse(window, [entry.id for entry in library.solos()], picture)
            workshop(window, picture)
            phrases(window, [entry.id for entry in library.solos()], picture)
            write(window, [entry.id for entry in library.solos()], picture)
            window.open_solo(first)
            window.set_look("Stage")
            picture("stage", lambda: select(window, "implied"))
            window.close()
    app.quit()


if __name__ == "__main__":
    main()
