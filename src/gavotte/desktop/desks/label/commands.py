"""What can be done at the Label desk."""

from __future__ import annotations

from functools import partial
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QWidget

from gavotte.desktop.command import Command
from gavotte.desktop.translation import said, translate
from gavotte.desktop.words import FUNCTION_KEYS, FUNCTION_WORDS

if TYPE_CHECKING:
    from gavotte.desktop.desks.label.desk import LabelDesk


def label_commands(desk: LabelDesk) -> tuple[Command, ...]:
    """Calling notes what they are, the queue, figures and readings, the pages beside the page, keeping a lick."""
    menu, page, side = (translate("Gavotte", "&Label"),), desk.page, desk.side
    session = desk.studio.session
    selection = session.selection

    def is_open() -> bool:
        return session.solo is not None

    def has_note() -> bool:
        return selection.current is not None

    made = [
        Command(
            f"label.{function.value}",
            translate("Gavotte", "Call it {function}").format(function=said(word).lower()),
            partial(session.decide, function),
            (FUNCTION_KEYS[function],),
            menu,
            0,
            (desk,),
            has_note,
            buttons=(side.card.functions[function],),
        )
        for function, word in FUNCTION_WORDS.items()
    ]
    made.append(
        Command(
            "label.take_back",
            translate("Gavotte", "Drop the decision"),
            session.take_back,
            ("Backspace",),
            menu,
            0,
            (desk,),
            has_note,
            buttons=(side.card.take_back,),
        )
    )
    for part, name, words, keys, run in (
        (1, "next", translate("Gavotte", "Next thing to look at"), ("Tab",), partial(desk.step_queue, 1)),
        # Qt has a key of its own for Tab with Shift.
        (
            1,
            "previous",
            translate("Gavotte", "Previous thing to look at"),
            ("Shift+Tab", "Shift+Backtab"),
            partial(desk.step_queue, -1),
        ),
        (1, "take", translate("Gavotte", "Take the suggestion"), ("A",), partial(desk.answer, True)),
        (1, "leave", translate("Gavotte", "Leave it as it is"), ("X",), partial(desk.answer, False)),
        (1, "take_plain", translate("Gavotte", "Take all plain labels"), ("Shift+A",), desk.review.take_plain),
        (2, "figure", translate("Gavotte", "Play the figure"), ("G",), desk.play_figure),
        (2, "skeleton", translate("Gavotte", "Skeleton, or all notes"), ("V",), desk.toggle_skeleton),
        (2, "read", translate("Gavotte", "Read the selection…"), ("R",), desk.set_reading),
    ):
        buttons = {"figure": (side.card.figure,), "read": (side.harmony.reading,)}.get(name, ())
        at: tuple[QWidget, ...] = (page, side.queue) if name in ("take", "leave") else (page,)
        made.append(Command(f"label.{name}", words, run, keys, menu, part, at, is_open, buttons=buttons))
    for name, words, key, run in (
        ("hear", translate("Gavotte", "Hear the note"), "Return", desk.hear_note),
        ("semitone_up", translate("Gavotte", "A semitone up"), "Alt+Up", partial(desk.move_notes, 1)),
        ("semitone_down", translate("Gavotte", "A semitone down"), "Alt+Down", partial(desk.move_notes, -1)),
    ):
        made.append(Command(f"label.{name}", words, run, (key,), menu, 3, (page,), has_note))
    made.append(
        Command(
            "label.keep",
            translate("Gavotte", "Keep as lick…"),
            desk.studio.keeping.keep,
            ("K",),
            menu,
            4,
            (desk,),
            lambda: len(selection.notes()) > 1,
            buttons=(desk.keep,),
        )
    )
    return (*made, *side.commands("label", menu, 5, desk, is_open))
