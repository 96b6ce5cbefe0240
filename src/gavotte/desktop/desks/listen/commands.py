"""What can be done at the Listen desk."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING

from gavotte.desktop.command import Command
from gavotte.desktop.translation import translate

if TYPE_CHECKING:
    from gavotte.desktop.desks.listen.desk import ListenDesk


def listen_commands(desk: ListenDesk) -> tuple[Command, ...]:
    """Playing the recording, its loop, its beats, its tuning, and what sounds in it."""
    menu, bar = (translate("Gavotte", "L&isten"),), desk.bar
    hearing = desk.hearing
    groups: tuple[tuple[tuple[str, str, str, Callable[[], object]], ...], ...] = (
        (
            ("play", translate("Gavotte", "Play or stop"), "Space", desk.toggle),
            ("slower", translate("Gavotte", "Slower"), "[", bar.slower),
            ("faster", translate("Gavotte", "Faster"), "]", bar.faster),
            ("full_speed", translate("Gavotte", "Full speed"), "=", bar.full),
        ),
        (
            ("loop", translate("Gavotte", "Loop on or off"), "L", bar.loop.toggle),
            ("loop_bar", translate("Gavotte", "Loop this bar, then a bar more"), "B", desk.loop_bar),
            ("loop_on", translate("Gavotte", "Loop on by its length"), "Shift+Right", partial(desk.shift_loop, 1)),
            ("loop_back", translate("Gavotte", "Loop back by its length"), "Shift+Left", partial(desk.shift_loop, -1)),
            ("loop_longer", translate("Gavotte", "Loop longer"), "Alt+Right", partial(desk.grow_loop, 1)),
            ("loop_shorter", translate("Gavotte", "Loop shorter"), "Alt+Left", partial(desk.grow_loop, -1)),
            ("no_loop", translate("Gavotte", "No loop"), "N", hearing.choose_nothing),
        ),
        (
            ("pedal_again", translate("Gavotte", "Pedal: again from the start"), "7", hearing.again),
            ("pedal_play", translate("Gavotte", "Pedal: play or stop"), "8", desk.toggle),
            ("pedal_on", translate("Gavotte", "Pedal: on to the next stretch"), "9", partial(desk.shift_loop, 1)),
        ),
        (
            ("tap", translate("Gavotte", "Tap a beat"), "T", desk.tap),
            ("find_beats", translate("Gavotte", "Find the beats"), "F", desk.find_beats),
            ("begin_here", translate("Gavotte", "Begin bar 1 here"), "D", desk.begin_here),
            ("remove_beat", translate("Gavotte", "Delete the beat"), "Delete", desk.remove_beat),
            ("double_beats", translate("Gavotte", "Twice as many beats"), "", desk.double_beats),
            ("halve_beats", translate("Gavotte", "Half as many beats"), "", desk.halve_beats),
            ("carry_on", translate("Gavotte", "Carry the beats on to the end"), "E", desk.carry_on),
        ),
        (
            ("tuning", translate("Gavotte", "Measure the tuning"), "U", desk.finder.measure_tuning),
            ("weigh", translate("Gavotte", "What sounds in the chosen stretch"), "W", desk.weigh_stretch),
            ("no_recording", translate("Gavotte", "Take the recording away"), "", desk.studio.tape.remove),
        ),
    )
    buttons = {"play": (bar.play,), "loop": (bar.loop,), "tap": (bar.tap,)}
    made = [
        Command(
            f"listen.{name}",
            words,
            run,
            (keys,) if keys else (),
            menu,
            part,
            (desk,),
            lambda: desk.has_recording,
            buttons=buttons.get(name, ()),
        )
        for part, group in enumerate(groups)
        for name, words, keys, run in group
    ]
    # On the page the arrows go from note to note.
    for name, words, keys, by in (
        ("jump_on", translate("Gavotte", "Two seconds on"), "Right", 1),
        ("jump_back", translate("Gavotte", "Two seconds back"), "Left", -1),
    ):
        made.append(
            Command(
                f"listen.{name}",
                words,
                partial(desk.jump, by),
                (keys,),
                menu,
                len(groups),
                (desk.wave,),
                lambda: desk.has_recording,
            )
        )
    return tuple(made)
