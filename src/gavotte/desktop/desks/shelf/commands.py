"""What can be done at the Shelf."""

from __future__ import annotations

from typing import TYPE_CHECKING

from gavotte.desktop.command import Command
from gavotte.desktop.translation import translate

if TYPE_CHECKING:
    from gavotte.desktop.desks.shelf.desk import ShelfDesk


def shelf_commands(desk: ShelfDesk) -> tuple[Command, ...]:
    """Open and delete what is chosen."""
    menu = (translate("Gavotte", "&Shelf"),)
    return (
        Command(
            "shelf.open",
            translate("Gavotte", "Open"),
            desk.open_current,
            menu=menu,
            enabled=lambda: desk.has_choice,
            buttons=(desk.open_button,),
        ),
        Command(
            "shelf.details",
            translate("Gavotte", "Details of the chosen solos…"),
            desk.change_details,
            ("Ctrl+Shift+D",),
            menu,
            enabled=lambda: bool(desk.chosen_solos),
            at=(desk.solos,),
            buttons=(desk.details_button,),
        ),
        Command(
            "shelf.delete",
            translate("Gavotte", "Delete"),
            desk.delete_current,
            ("Delete",),
            menu,
            at=(desk.solos, desk.licks),
            enabled=lambda: desk.has_choice,
        ),
    )
