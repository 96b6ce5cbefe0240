"""What can be done at the Practice desk."""

from __future__ import annotations

from functools import partial
from typing import TYPE_CHECKING

from gavotte.desktop.command import Command
from gavotte.desktop.desks.practice.words import ANSWERS
from gavotte.desktop.translation import said, translate

if TYPE_CHECKING:
    from gavotte.desktop.desks.practice.desk import PracticeDesk


def practice_commands(desk: PracticeDesk) -> tuple[Command, ...]:
    """Playing, answering, takes, the log."""
    menu, controls, side = (translate("Gavotte", "P&ractice"),), desk.controls, desk.side
    hands = (desk.page, controls, desk.strip.list)

    def has_run() -> bool:
        return desk.made is not None

    def has_take() -> bool:
        return desk.takes.shown is not None

    rows = (
        (0, "record", translate("Gavotte", "Record a take, or stop"), ("R",), desk.record, has_run, (controls.record,),
         hands),
        (0, "next", translate("Gavotte", "What comes next today"), ("N",), desk.next, has_run, (controls.next,), hands),
        (0, "enough", translate("Gavotte", "Enough for today, or go on"), ("Ctrl+Shift+D",), desk.end_day,
         lambda: bool(desk.agenda.items), (desk.enough,), (desk,)),
        (0, "stand", translate("Gavotte", "On the stand"), ("T",), desk.toggle_stand, has_run, (desk.stand,), hands),
        (0, "clean", translate("Gavotte", "This pass is clean"), ("C",), desk.climber.was_clean,
         lambda: desk.climber.climbs, (controls.clean,), hands),
        (3, "work", translate("Gavotte", "Work on what the take says"), ("W",), desk.work_on_next, has_take,
         (side.take.loop,), hands),
        (3, "hear", translate("Gavotte", "Hear the take"), ("H",), desk.takes.hear, has_take, (side.take.hear,), hands),
        (3, "the_record", translate("Gavotte", "Hear the record"), ("D",), desk.hear_record, has_run,
         (side.take.record,), hands),
        (3, "delete", translate("Gavotte", "Delete the take"), ("Delete",), desk.takes.delete, has_take,
         (side.take.delete,), (side.take.takes,)),
        (3, "file", translate("Gavotte", "Judge a take from a file…"), ("Ctrl+Shift+J",), desk.choose_file, has_run,
         (side.take.file,), (desk,)),
        (2, "changes", translate("Gavotte", "Changes to play over…"), ("Ctrl+Shift+H",), desk.adding.changes,
         lambda: True, (side.changes, desk.begin_changes), (desk,)),
        (2, "scale", translate("Gavotte", "A scale exercise…"), ("Ctrl+Shift+Y",), desk.adding.scale,
         lambda: True, (side.scale,), (desk,)),
        (4, "band", translate("Gavotte", "Take the band away…"), ("Ctrl+Shift+B",), desk.export_band, has_run,
         (side.band.file,), (desk,)),
        (4, "another_band", translate("Gavotte", "Another band"), ("B",), side.band.draw, has_run,
         (side.band.another,), hands),
        (5, "over_time", translate("Gavotte", "How it has gone over time…"), ("O",), desk.show_over_time, has_run,
         (side.log.over_time,), (*hands, side.log)),
        (5, "lesson", translate("Gavotte", "Practise the lesson of the ears"), ("Ctrl+Shift+E",), desk.ears.practise,
         lambda: side.page_shown == "ears", (side.ears.keep,), (desk,)),
        (5, "setup", translate("Gavotte", "Set up to practise…"), ("Ctrl+Shift+U",), desk.hands.set_up,
         lambda: True, (), (desk,)),
        (5, "export", translate("Gavotte", "Export the log…"), ("Ctrl+Shift+L",), desk.export_log,
         lambda: bool(desk.agenda.log), (side.log.export,), (desk,)),
    )  # fmt: skip
    made = [
        Command(f"practice.{name}", words, run, keys, menu, part, at, enabled, buttons=buttons)
        for part, name, words, keys, run, enabled, buttons, at in rows
    ]
    made += [
        Command(
            f"practice.answer_{int(answer)}",
            said(words),
            partial(desk.answer, answer),
            (str(int(answer)),),
            menu,
            1,
            hands,
            lambda: desk.can_answer,
            buttons=(controls.answers[answer],),
        )
        for answer, words in ANSWERS.items()
    ]
    return (*made, *side.commands("practice", menu, 6, desk, lambda: bool(desk.agenda.items)))
