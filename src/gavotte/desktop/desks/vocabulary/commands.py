"""What can be done at the Vocabulary desk."""

from __future__ import annotations

from functools import partial
from typing import TYPE_CHECKING

from gavotte.desktop.command import Command
from gavotte.desktop.translation import translate

if TYPE_CHECKING:
    from gavotte.desktop.desks.vocabulary.desk import VocabularyDesk


def vocabulary_commands(desk: VocabularyDesk) -> tuple[Command, ...]:
    """Searching, the three ways to see a lick, its panels, its relatives, keeping and deleting."""
    menu = (translate("Gavotte", "&Vocabulary"),)
    view, panels = desk.view, desk.panels

    def has_lick() -> bool:
        return desk.has_lick

    def has_relative() -> bool:
        return desk.related.chosen is not None

    def views() -> tuple[Command, ...]:
        return tuple(
            Command(f"vocabulary.{name}", words, button.click, (keys,), menu, 1, (desk,), has_lick, buttons=(button,))
            for name, words, keys, button in (
                ("own_key", translate("Gavotte", "Own key"), "Ctrl+1", view.own_key),
                ("all_keys", translate("Gavotte", "All twelve keys"), "Ctrl+2", view.all_keys),
                ("laid", translate("Gavotte", "Under one another"), "Ctrl+3", view.laid),
            )
        )

    def pages() -> tuple[Command, ...]:
        return tuple(
            Command(
                f"vocabulary.page_{name}",
                words,
                partial(panels.go_to, name),
                (keys,),
                menu,
                2,
                (desk,),
                partial(desk.has_page, name),
                buttons=(panels.tabs[name],),
            )
            for name, words, keys in (
                ("about", translate("Gavotte", "About the lick"), "Ctrl+4"),
                ("relatives", translate("Gavotte", "Relatives"), "Ctrl+5"),
                ("places", translate("Gavotte", "Places of the cell"), "Ctrl+6"),
            )
        )

    def modes() -> tuple[Command, ...]:
        return tuple(
            Command(
                f"vocabulary.{name}",
                words,
                partial(desk.turn_to, name),
                (keys,),
                menu,
                0,
                (desk,),
                buttons=(desk.search.modes[name],),
            )
            for name, words, keys in (
                ("licks", translate("Gavotte", "Licks"), "Ctrl+7"),
                ("cells", translate("Gavotte", "Cells that recur"), "Ctrl+8"),
                ("players", translate("Gavotte", "Players’ dictionaries"), "Ctrl+9"),
            )
        )

    return (
        *modes(),
        Command(
            "vocabulary.search",
            translate("Gavotte", "Search licks and solos"),
            desk.start_search,
            ("Ctrl+F",),
            menu,
            at=(desk,),
        ),
        *views(),
        *pages(),
        Command(
            "vocabulary.original",
            translate("Gavotte", "Play the original"),
            desk.play_original,
            ("Ctrl+Space",),
            menu,
            3,
            (desk.licks, desk.page, desk.search.cells.cells, desk.places.places, desk.related.relatives),
            has_lick,
            buttons=(view.original,),
        ),
        Command(
            "vocabulary.play_relative",
            translate("Gavotte", "Play the lick, then its relative"),
            partial(desk.play_relative, at_once=False),
            ("Ctrl+Return",),
            menu,
            3,
            (desk,),
            has_relative,
            buttons=(desk.related.play,),
        ),
        Command(
            "vocabulary.play_both",
            translate("Gavotte", "Play the lick and its relative at once"),
            partial(desk.play_relative, at_once=True),
            ("Ctrl+Shift+Return",),
            menu,
            3,
            (desk,),
            has_relative,
            buttons=(desk.related.both,),
        ),
        Command(
            "vocabulary.go_to_relative",
            translate("Gavotte", "Go to the relative"),
            desk.go_to_relative,
            ("Ctrl+J",),
            menu,
            3,
            (desk,),
            has_relative,
            buttons=(desk.related.go,),
        ),
        Command(
            "vocabulary.keep",
            translate("Gavotte", "Keep the place as a lick"),
            desk.keep_place,
            ("K",),
            menu,
            4,
            (desk.licks, desk.page, desk.search.cells.cells, desk.places.places),
            enabled=lambda: desk.has_lick and not desk.is_kept,
            buttons=(view.keep,),
        ),
        Command(
            "vocabulary.keep_places",
            translate("Gavotte", "Keep the places that answer…"),
            desk.in_and_out.keep_places,
            ("Shift+K",),
            menu,
            4,
            (desk.licks, desk.page),
            enabled=lambda: bool(desk.search.places),
            buttons=(desk.search.keep_all,),
        ),
        Command(
            "vocabulary.book",
            translate("Gavotte", "Book of the listed licks…"),
            desk.in_and_out.export_book,
            ("Ctrl+Shift+B",),
            menu,
            5,
            (desk,),
            enabled=lambda: desk.search.mode == "licks" and desk.licks.count() > 0,
        ),
        Command(
            "vocabulary.book_in_key",
            translate("Gavotte", "The listed licks as a book in one key…"),
            desk.in_and_out.export_book_in_key,
            (),
            menu,
            5,
            (desk,),
            enabled=lambda: desk.search.mode == "licks" and desk.licks.count() > 0,
        ),
        Command(
            "vocabulary.export_licks",
            translate("Gavotte", "Export the listed licks…"),
            desk.in_and_out.export_licks,
            (),
            menu,
            5,
            (desk,),
            enabled=lambda: desk.search.mode == "licks" and desk.licks.count() > 0,
        ),
        Command(
            "vocabulary.import_licks",
            translate("Gavotte", "Import licks…"),
            desk.in_and_out.import_licks,
            (),
            menu,
            5,
            (desk,),
        ),
        Command(
            "vocabulary.import_folder",
            translate("Gavotte", "Import a folder of licks…"),
            desk.in_and_out.import_folder,
            (),
            menu,
            5,
            (desk,),
        ),
        Command(
            "vocabulary.work",
            translate("Gavotte", "Work on it at the Workshop"),
            desk.work_on,
            ("W",),
            menu,
            4,
            (desk.licks, desk.page, desk.search.cells.cells, desk.places.places),
            has_lick,
        ),
        Command(
            "vocabulary.delete",
            translate("Gavotte", "Delete the lick"),
            desk.delete_current,
            ("Delete",),
            menu,
            4,
            (desk.licks,),
            enabled=lambda: desk.is_kept,
        ),
    )
