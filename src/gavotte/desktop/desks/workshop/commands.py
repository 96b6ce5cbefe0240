"""What can be done at the Workshop desk."""

from __future__ import annotations

from functools import partial
from typing import TYPE_CHECKING

from gavotte.desktop.command import Command, always
from gavotte.desktop.translation import translate

if TYPE_CHECKING:
    from gavotte.desktop.desks.workshop.desk import WorkshopDesk


def workshop_commands(desk: WorkshopDesk) -> tuple[Command, ...]:
    """Sources, steps, proposals, hearing, keeping."""
    menu, bench, chain = (translate("Gavotte", "Wor&kshop"),), desk.bench, desk.side.chain
    page, places = desk.view.page, (desk.view.page, desk.view.source, desk.side.chain.steps)

    def has_result() -> bool:
        return desk.view.concert is not None

    def has_step() -> bool:
        return bench.step is not None

    def has_proposal() -> bool:
        return desk.proposal is not None

    def has_bit() -> bool:
        return desk.side.bits.onset is not None

    rows = (
        (0, "selection", translate("Gavotte", "Take the selection of the open solo"), ("Ctrl+Shift+S",),
         desk.sources.take_selection, desk.sources.has_selection, (desk.from_selection,), (desk,)),
        (0, "lick", translate("Gavotte", "Take a lick…"), ("Ctrl+Shift+L",), desk.sources.choose_lick, desk.has_licks,
         (desk.from_lick,), (desk,)),
        (0, "line", translate("Gavotte", "Write a line…"), ("Ctrl+Shift+N",), desk.sources.write_line, always,
         (desk.from_line,), (desk,)),
        (0, "result", translate("Gavotte", "Work on with the result"), ("Ctrl+Shift+R",), desk.take_result, has_result,
         (), (desk,)),
        (1, "add", translate("Gavotte", "Add a step"), ("A",), chain.add.showMenu, has_result, (chain.add,), places),
        (1, "on", translate("Gavotte", "Switch the step off, or on"), ("O",), bench.switch, has_step, (chain.on,),
         places),
        (1, "earlier", translate("Gavotte", "Move the step up"), ("Alt+Up",), partial(bench.move, -1), has_step,
         (chain.earlier,), places),
        (1, "later", translate("Gavotte", "Move the step down"), ("Alt+Down",), partial(bench.move, 1), has_step,
         (chain.later,), places),
        (1, "remove", translate("Gavotte", "Remove the step"), ("Delete",), bench.remove, has_step, (chain.remove,),
         places),
        (1, "next_value", translate("Gavotte", "Next value of the step"), (".",), partial(desk.step_value, 1), has_step,
         (), places),
        (1, "previous_value", translate("Gavotte", "Value before of the step"), (",",), partial(desk.step_value, -1),
         has_step, (), places),
        (1, "recipe", translate("Gavotte", "Keep the steps as a recipe…"), ("Ctrl+Shift+K",), desk.recipes.keep,
         has_step, (), (desk,)),
        (2, "hear", translate("Gavotte", "Hear the proposal"), ("Return",), desk.hear_proposal, has_proposal,
         (desk.side.choices.hear, desk.side.variations.hear), (desk.side.choices.list, desk.side.variations.list)),
        (2, "take", translate("Gavotte", "Take the proposal"), ("Ctrl+Return",), desk.take_proposal, has_proposal,
         (desk.side.choices.take, desk.side.variations.take), (desk,)),
        (2, "more", translate("Gavotte", "Six more variations"), ("Ctrl+Shift+V",), desk.side.variations.make.click,
         has_result, (desk.side.variations.make,), (desk,)),
        (2, "hold", translate("Gavotte", "Hold the lick, or let it go"), ("H",), desk.side.bits.toggle_held,
         has_bit, (desk.side.bits.hold,), (desk.side.bits.rows,)),
        (2, "exchange", translate("Gavotte", "Exchange the lick of the étude"), ("X",), desk.side.bits.exchange_bit,
         has_bit, (desk.side.bits.exchange,), (desk.side.bits.rows,)),
        (3, "note", translate("Gavotte", "Hear the note"), ("Return",), desk.hear_note, has_result, (), (page,)),
        (3, "source", translate("Gavotte", "Hear the source"), ("S",), desk.hear_source, has_result,
         (desk.hear_a,), (*places, desk.side.choices.list, desk.side.variations.list)),
        (3, "alternate", translate("Gavotte", "Hear source and result in turn"), ("B",), desk.hear_both, has_result,
         (desk.hear_ab,), (*places, desk.side.choices.list, desk.side.variations.list)),
        (4, "keep", translate("Gavotte", "Keep as lick…"), ("K",), desk.results.keep_lick, has_result,
         (desk.keep,), places),
        (4, "keep_solo", translate("Gavotte", "Put it on the shelf as a solo"), ("Shift+K",),
         desk.results.keep_solo, has_result, (desk.keep_as_solo,), places),
        (4, "keep_variations", translate("Gavotte", "Put the variations on the shelf as a sheet"), ("Ctrl+Shift+U",),
         desk.keep_variations, lambda: bool(desk.side.variations.list.proposals), (desk.side.variations.sheet,),
         (desk,)),
        (4, "keep_sheet", translate("Gavotte", "Put a sheet in all keys on the shelf"), ("Ctrl+K",),
         desk.results.keep_sheet, has_result, (), (desk,)),
    )  # fmt: skip
    made = [
        Command(f"workshop.{name}", words, run, keys, menu, part, at, enabled, buttons=buttons)
        for part, name, words, keys, run, enabled, buttons, at in rows
    ]  # fmt: skip
    return (*made, *desk.side.commands("workshop", menu, 5, desk, has_result))
