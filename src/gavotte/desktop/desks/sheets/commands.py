"""What can be done at the Sheets desk."""

from __future__ import annotations

from functools import partial
from typing import TYPE_CHECKING

from gavotte.desktop.command import Command
from gavotte.desktop.desks.sheets.making import PIECES, TEMPLATES
from gavotte.desktop.translation import said, translate

if TYPE_CHECKING:
    from gavotte.desktop.desks.sheets.desk import SheetsDesk


def sheets_commands(desk: SheetsDesk) -> tuple[Command, ...]:
    """Sheets, their pieces, and handing them on."""
    menu, at = (translate("Gavotte", "S&heets"),), (desk.outline, desk.view)
    begin, add = (*menu, translate("Gavotte", "&Begin")), (*menu, translate("Gavotte", "&Add"))
    sheets, making = desk.studio.sheets, desk.making

    def is_open() -> bool:
        return sheets.sheet is not None

    def has_piece() -> bool:
        return desk.piece is not None

    made = [
        Command(f"sheets.begin_{template.name}", f"{said(template.words)}…" if template.name != "empty" else
                said(template.words), partial(making.begin, template.name), (), begin)
        for template in TEMPLATES
    ]  # fmt: skip
    rows = (
        (0, "add", translate("Gavotte", "Add a piece…"), ("A",), desk.choose_what_to_add, is_open, (desk.add,), at),
        (0, "sheets", translate("Gavotte", "Another sheet…"), ("S",), desk.choose_sheet, lambda: True,
         (desk.sheets,), at),
        (1, "earlier", translate("Gavotte", "Earlier"), ("Alt+Up",), partial(desk.move_piece, -1), has_piece,
         (desk.earlier,), at),
        (1, "later", translate("Gavotte", "Later"), ("Alt+Down",), partial(desk.move_piece, 1), has_piece,
         (desk.later,), at),
        (1, "remove", translate("Gavotte", "Take the piece off"), ("Delete", "Backspace"), desk.remove, has_piece,
         (desk.off,), at),
        (2, "hand_on", translate("Gavotte", "Hand on…"), ("Ctrl+Shift+F",), desk.hand_on, is_open,
         (desk.hand,), (desk,)),
        (3, "duplicate", translate("Gavotte", "The same once more"), (), making.duplicate, is_open, (), at),
        (3, "delete", translate("Gavotte", "Delete the sheet"), (), sheets.delete, is_open, (), at),
    )  # fmt: skip
    made += [
        Command(f"sheets.{name}", words, run, keys, menu, part, where, enabled, buttons=buttons)
        for part, name, words, keys, run, enabled, buttons, where in rows
    ]
    made += [
        Command(f"sheets.add_{one.name}", one.words, one.run, (), add, number >= PIECES, enabled=is_open)
        for number, one in enumerate(making.additions())
    ]
    return tuple(made)
