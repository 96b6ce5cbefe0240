"""What can be done at the Vocabulary desk."""

from __future__ import annotations

from typing import TYPE_CHECKING

from gavotte.desktop.command import Command
from gavotte.desktop.translation import translate

if TYPE_CHECKING:
    from gavotte.desktop.desks.vocabulary.desk import VocabularyDesk


def vocabulary_commands(desk: VocabularyDesk) -> tuple[Command, ...]:
    """The two ways to see a lick, and deleting it."""
    menu = (translate("Gavotte", "&Vocabulary"),)
    return (
        Command(
            "vocabulary.own_key",
            translate("Gavotte", "Own key"),
            desk.own_key.click,
            ("Ctrl+1",),
            menu,
            at=(desk,),
            enabled=lambda: desk.has_lick,
            buttons=(desk.own_key,),
        ),
        Command(
            "vocabulary.all_keys",
            translate("Gavotte", "All twelve keys"),
            desk.all_keys.click,
            ("Ctrl+2",),
            menu,
            at=(desk,),
            enabled=lambda: desk.has_lick,
            buttons=(desk.all_keys,),
        ),
        Command(
            "vocabulary.delete",
            translate("Gavotte", "Delete the lick"),
            desk.delete_current,
            ("Delete",),
            menu,
            part=1,
            at=(desk.licks,),
            enabled=lambda: desk.has_lick,
        ),
    )
