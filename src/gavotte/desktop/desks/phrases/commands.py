"""What can be done at the Phrases desk."""

from __future__ import annotations

from functools import partial
from typing import TYPE_CHECKING

from gavotte.desktop.command import Command
from gavotte.desktop.translation import translate

if TYPE_CHECKING:
    from gavotte.desktop.desks.phrases.desk import PhrasesDesk


def phrases_commands(desk: PhrasesDesk) -> tuple[Command, ...]:
    """Going through phrases, deciding where they begin, peeling the line, what comes back, keeping a lick."""
    menu, page, deciding = (translate("Gavotte", "Ph&rases"),), desk.page, desk.deciding
    selection = desk.studio.session.selection

    def is_built() -> bool:
        return desk.builder.structure is not None and bool(desk.builder.structure.phrases)

    def has_note() -> bool:
        return is_built() and selection.current is not None

    def has_theme() -> bool:
        return is_built() and desk.theme is not None

    made = [
        Command(f"phrases.{name}", words, run, keys, menu, part, (page,), enabled)
        for part, name, words, keys, run, enabled in (
            (0, "next", translate("Gavotte", "Next phrase"), ("Tab",), partial(desk.step_phrase, 1), is_built),
            (
                0,
                "previous",
                translate("Gavotte", "Phrase before"),
                ("Shift+Tab", "Shift+Backtab"),
                partial(desk.step_phrase, -1),
                is_built,
            ),
            (1, "split", translate("Gavotte", "A phrase begins here"), ("B",), deciding.split, has_note),
            (1, "join", translate("Gavotte", "Join with the phrase before"), ("J",), deciding.join, has_note),
            (1, "earlier", translate("Gavotte", "Begin a note earlier"), ("Alt+Left",),
             partial(deciding.shift, -1), has_note),
            (1, "later", translate("Gavotte", "Begin a note later"), ("Alt+Right",),
             partial(deciding.shift, 1), has_note),
            (1, "drop", translate("Gavotte", "Drop the decision"), ("Backspace",), deciding.drop, has_note),
            (2, "peel", translate("Gavotte", "Peel off a layer"), ("V",), partial(desk.peel, 1), is_built),
            (2, "lay_back", translate("Gavotte", "Lay a layer back"), ("Shift+V",), partial(desk.peel, -1), is_built),
            (2, "threads", translate("Gavotte", "Guide tones, or all notes"), ("T",), desk.toggle_threads, is_built),
            (2, "keep_longer", translate("Gavotte", "Keep the note a layer longer"), (".",),
             partial(deciding.hold, 1), has_note),
            (2, "keep_shorter", translate("Gavotte", "Take the note away a layer earlier"), (",",),
             partial(deciding.hold, -1), has_note),
            (3, "where", translate("Gavotte", "Where else?"), ("W",), desk.where_else, has_note),
            (3, "next_place", translate("Gavotte", "Next place of the motif"), ("M",),
             partial(desk.step_place, 1), has_theme),
            (3, "previous_place", translate("Gavotte", "Place before of the motif"), ("Shift+M",),
             partial(desk.step_place, -1), has_theme),
            (3, "pair", translate("Gavotte", "Play both places"), ("G",), desk.play_pair, has_theme),
            (4, "hear", translate("Gavotte", "Hear the note"), ("Return",), desk.hear_note, has_note),
        )
    ]  # fmt: skip
    made.append(
        Command(
            "phrases.sing",
            translate("Gavotte", "Fold octave leaps in what is left"),
            desk.toggle_folded,
            ("F",),
            menu,
            2,
            (page,),
            is_built,
            checked=lambda: desk.is_folded,
        )
    )
    made.append(
        Command(
            "phrases.keep",
            translate("Gavotte", "Keep as lick…"),
            desk.keep_lick,
            ("K",),
            menu,
            5,
            (desk,),
            has_note,
            buttons=(desk.keep,),
        )
    )
    return (*made, *desk.side.commands("phrases", menu, 6, desk, is_built))
