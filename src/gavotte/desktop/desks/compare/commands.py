"""What can be done at the Compare desk."""

from __future__ import annotations

from typing import TYPE_CHECKING

from gavotte.desktop.command import Command
from gavotte.desktop.translation import translate

if TYPE_CHECKING:
    from gavotte.desktop.desks.compare.desk import CompareDesk


def compare_commands(desk: CompareDesk) -> tuple[Command, ...]:
    """Swapping the sets, going to an example, taking the figures away."""
    menu, at = (translate("Gavotte", "&Compare"),), (desk.mirror, desk.page)
    rows = (
        (0, "swap", translate("Gavotte", "Swap the sets"), ("X",), desk.swap_sets, lambda: desk.found is not None,
         (desk.swap,), at),
        (0, "go", translate("Gavotte", "Go to the example"), ("G",), desk.heard.go_there, lambda: desk.laid is not None,
         (desk.go,), at),
        (1, "export", translate("Gavotte", "Export the figures…"), ("Ctrl+Shift+F",), desk.export_figures,
         lambda: desk.found is not None, (desk.export,), (desk,)),
    )  # fmt: skip
    own = tuple(
        Command(f"compare.{name}", words, run, keys, menu, part, where, enabled, buttons=buttons)
        for part, name, words, keys, run, enabled, buttons, where in rows
    )
    return (*own, *desk.views.commands("compare", menu, 2, desk, lambda: desk.found is not None))
