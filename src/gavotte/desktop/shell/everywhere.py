"""What can be done at every desk."""

from __future__ import annotations

from functools import partial
from typing import TYPE_CHECKING

from gavotte.desktop.command import Command
from gavotte.desktop.errands.exporting import EXPORT_FORMATS
from gavotte.desktop.shell.help import show_about, show_care
from gavotte.desktop.theme.look import LOOKS
from gavotte.desktop.translation import said, translate
from gavotte.writing.waymarks import Waymark

if TYPE_CHECKING:
    from gavotte.desktop.shell.window import MainWindow


def commands_before(window: MainWindow) -> tuple[Command, ...]:
    """File and Edit: they stand before the menus of the desks."""
    studio, file, edit = window.studio, (translate("Gavotte", "&File"),), (translate("Gavotte", "&Edit"),)
    undo, selection = window.undo, studio.session.selection

    def is_open() -> bool:
        return studio.session.solo is not None

    def has_music() -> bool:
        return window.desk.has_sheet

    def has_pages() -> bool:
        return window.desk.has_sheet or window.desk.has_own_paper

    return (
        Command(
            "file.new",
            translate("Gavotte", "New solo…"),
            lambda: studio.beginning.new_solo(),
            ("Ctrl+N",),
            file,
        ),
        Command("file.import", translate("Gavotte", "Import a solo…"), studio.importer.choose, ("Ctrl+I",), file),
        Command(
            "file.recording",
            translate("Gavotte", "Open a recording…"),
            studio.beginning.choose_recording,
            ("Ctrl+R",),
            file,
            enabled=is_open,
        ),
        Command(
            "file.export",
            translate("Gavotte", "Export…"),
            lambda: window.choose_export(),
            ("Ctrl+E",),
            file,
            1,
            enabled=has_pages,
        ),
        *(
            Command(
                f"file.export_{number}",
                wanted.words,
                partial(window.choose_export, wanted),
                (),
                (*file, translate("Gavotte", "E&xport as")),
                enabled=has_music,
            )
            for number, wanted in enumerate(EXPORT_FORMATS)
        ),
        Command(
            "file.print",
            translate("Gavotte", "Page setup and print…"),
            window.show_paper,
            ("Ctrl+P",),
            file,
            1,
            enabled=has_pages,
        ),
        Command("file.library", translate("Gavotte", "The library…"), window.show_library, ("Ctrl+L",), file, 2),
        Command(
            "file.preferences", translate("Gavotte", "Preferences…"), window.show_preferences, ("Ctrl+,",), file, 2
        ),
        Command("file.quit", translate("Gavotte", "Quit"), window.close, ("Ctrl+Q",), file, 3),
        Command(
            "edit.undo",
            lambda: _with_step(translate("Gavotte", "Undo"), undo.undoText()),
            undo.undo,
            ("Ctrl+Z",),
            edit,
            enabled=undo.canUndo,
        ),
        Command(
            "edit.redo",
            lambda: _with_step(translate("Gavotte", "Redo"), undo.redoText()),
            undo.redo,
            ("Ctrl+Shift+Z", "Ctrl+Y"),
            edit,
            enabled=undo.canRedo,
        ),
        Command(
            "edit.keep_lick",
            translate("Gavotte", "Keep the selection as a lick…"),
            studio.keeping.keep,
            ("Ctrl+Alt+K",),
            edit,
            1,
            enabled=lambda: len(selection.notes()) > 1,
        ),
        Command(
            "edit.find_kind",
            translate("Gavotte", "Find all of this kind"),
            studio.keeping.find_kind,
            ("Ctrl+Alt+F",),
            edit,
            1,
            enabled=lambda: bool(selection.notes()),
        ),
        Command(
            "edit.find_relatives",
            translate("Gavotte", "Find what is like the selection"),
            studio.keeping.find_relatives,
            ("Ctrl+Alt+R",),
            edit,
            1,
            enabled=lambda: len(selection.notes()) > 2,
        ),
        Command(
            "edit.work",
            translate("Gavotte", "Work on the selection"),
            lambda: studio.asks.go("workshop", "", "selection"),
            ("Ctrl+Alt+W",),
            edit,
            1,
            enabled=lambda: len(selection.notes()) > 1,
        ),
        Command(
            "edit.practise",
            translate("Gavotte", "Practise it"),
            lambda: studio.practice.add(window.desk.to_practise()),
            ("Ctrl+Alt+P",),
            edit,
            1,
            enabled=lambda: window.desk.has_to_practise,
        ),
        Command(
            "edit.practise_changes",
            translate("Gavotte", "Play over its changes"),
            lambda: studio.practice.add(window.desk.changes_to_practise()),
            ("Ctrl+Alt+C",),
            edit,
            1,
            enabled=lambda: studio.session.solo is not None and bool(studio.session.solo.chords),
        ),
        Command(
            "edit.put_on_sheet",
            translate("Gavotte", "Put it on the sheet"),
            lambda: studio.sheets.put_on(window.desk.to_sheet()),
            ("Ctrl+Alt+S",),
            edit,
            1,
        ),
        Command(
            "edit.details",
            translate("Gavotte", "Details of the solo…"),
            window.change_details,
            ("Ctrl+D",),
            edit,
            1,
            enabled=is_open,
        ),
    )


def _with_step(word: str, step: str | None) -> str:
    return f"{word}: {step}" if step else word


def commands_after(window: MainWindow) -> tuple[Command, ...]:
    """Play, View, Go and Help: they stand behind the menus of the desks."""
    studio, bar = window.studio, window.transport_bar
    play, view = (translate("Gavotte", "&Play"),), (translate("Gavotte", "&View"),)
    go, about = (translate("Gavotte", "&Go"),), (translate("Gavotte", "&Help"),)
    played = [found for desk in window.desks.values() if (found := desk.played()) is not None]
    pages = tuple(found.page for found in played if found.page is not None)
    at = (*pages, *(widget for found in played for widget in found.keys_at))
    view_of = studio.view

    def can_play() -> bool:
        return studio.playing.can_play

    made = [
        Command(
            f"play.{name}",
            words,
            run,
            (keys,),
            play,
            at=at,
            enabled=can_play,
            buttons=() if button is None else (button,),
        )
        for name, words, keys, run, button in (
            ("toggle", translate("Gavotte", "Play or stop"), "Space", studio.playing.toggle, bar.play),
            ("loop", translate("Gavotte", "Loop"), "L", bar.loop.toggle, bar.loop),
            ("slower", translate("Gavotte", "Slower"), "[", bar.slower, None),
            ("faster", translate("Gavotte", "Faster"), "]", bar.faster, None),
            ("tempo", translate("Gavotte", "Tempo as it is"), "=", bar.as_it_is, None),
        )
    ]
    made += [
        Command(
            f"play.speed_{percent}",
            translate("Gavotte", "{percent} %").format(percent=percent),
            partial(window.set_speed, percent / 100),
            (f"Ctrl+Alt+{percent // 10 % 10}",),
            (*play, translate("Gavotte", "Speed")),
            at=tuple(page for desk in window.desks.values() for page in desk.pages()),
            enabled=lambda: bool(window.desk.pages()),
        )
        for percent in range(30, 101, 10)
    ]
    for name, words, keys, by in (
        ("larger", translate("Gavotte", "Larger"), ("Ctrl++", "Ctrl+="), 1),
        ("smaller", translate("Gavotte", "Smaller"), ("Ctrl+-",), -1),
        ("usual_size", translate("Gavotte", "The usual size"), ("Ctrl+0",), 0),
    ):
        made.append(Command(f"view.{name}", words, partial(window.zoom, by), keys, view))
    made += [
        Command(
            "view.written",
            lambda: (
                translate("Gavotte", "Written pitch for {reader}").format(reader=view_of.reader.lower())
                if view_of.reader
                else translate("Gavotte", "Written pitch")
            ),
            lambda: view_of.set_written(not view_of.written),
            ("Ctrl+T",),
            view,
            1,
            checked=lambda: view_of.written,
        ),
        Command("view.reader", translate("Gavotte", "Read for my instrument…"), window.choose_reader, (), view, 1),
        Command(
            "view.tablature",
            translate("Gavotte", "Tablature"),
            lambda: view_of.set_tablature(not view_of.tablature),
            ("Ctrl+Alt+T",),
            view,
            1,
            checked=lambda: view_of.tablature,
        ),
        Command(
            "view.numerals",
            translate("Gavotte", "Roman numerals"),
            lambda: view_of.set_numerals(not view_of.numerals),
            ("Ctrl+M",),
            view,
            1,
            checked=lambda: view_of.numerals,
        ),
    ]
    made += [
        Command(
            f"view.look_{name.lower()}",
            said(words),
            partial(window.set_look, name),
            menu=view,
            part=2,
            checked=partial(window.has_look, name),
        )
        for words, name in LOOKS
    ]
    made += [
        Command(
            f"go.{name}", said(desk.kind.words), partial(window.show_desk, name), (desk.kind.key,), go, in_short=True
        )
        for name, desk in window.desks.items()
    ]
    made += [
        Command(
            "go.beside",
            translate("Gavotte", "Beside the page, and back"),
            window.switch_focus,
            ("Ctrl+B",),
            go,
            1,
            enabled=lambda: window.desk.beside() is not None,
        ),
        *_walking(window),
        Command(
            "help.what",
            translate("Gavotte", "What is this?"),
            window.show_chapter,
            ("Shift+F1",),
            about,
            buttons=(window.what_button,),
        ),
        Command("help.guide", translate("Gavotte", "The guide"), window.show_guide, (), about),
        Command("help.steps", translate("Gavotte", "First steps"), window.first_steps.begin, (), about),
        Command("help.palette", translate("Gavotte", "Find a command"), window.show_palette, ("F10",), about),
        Command("help.keys", translate("Gavotte", "Map of the keys"), window.show_keys, ("?", "Ctrl+/"), about),
        Command("help.care", translate("Gavotte", "Ears and hands"), partial(show_care, window), menu=about, part=1),
        Command("help.about", translate("Gavotte", "About Gavotte"), partial(show_about, window), menu=about, part=1),
    ]
    return tuple(made)


def _walking(window: MainWindow) -> tuple[Command, ...]:
    """Through the music by bars, phrases, sections and choruses: the same keys on every page."""
    go = (translate("Gavotte", "&Go"),)
    pages = tuple(page for desk in window.desks.values() for page in desk.pages())
    walking = window.walking

    def can_walk() -> bool:
        return bool(window.desk.pages()) and window.desk.has_sheet

    made = [
        Command(
            "go.bar",
            translate("Gavotte", "Go to bar…"),
            walking.ask_for_bar,
            ("Ctrl+G",),
            go,
            2,
            pages,
            can_walk,
        )
    ]
    for kind, before, following, keys in (
        (
            Waymark.BAR,
            translate("Gavotte", "Bar before"),
            translate("Gavotte", "Next bar"),
            ("Ctrl+Left", "Ctrl+Right"),
        ),
        (
            Waymark.PHRASE,
            translate("Gavotte", "Phrase before"),
            translate("Gavotte", "Next phrase"),
            ("Ctrl+Up", "Ctrl+Down"),
        ),
        (
            Waymark.SECTION,
            translate("Gavotte", "Section before"),
            translate("Gavotte", "Next section"),
            ("Ctrl+PgUp", "Ctrl+PgDown"),
        ),
        (
            Waymark.CHORUS,
            translate("Gavotte", "Chorus before"),
            translate("Gavotte", "Next chorus"),
            ("Ctrl+Shift+PgUp", "Ctrl+Shift+PgDown"),
        ),
    ):
        for words, key, direction in ((before, keys[0], -1), (following, keys[1], 1)):
            made.append(
                Command(
                    f"go.{kind.value}_{'next' if direction > 0 else 'before'}",
                    words,
                    partial(walking.step, kind, direction),
                    (key,),
                    go,
                    2,
                    pages,
                    can_walk,
                )
            )
    return tuple(made)
