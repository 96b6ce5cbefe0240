"""What can be done at the Write desk: what every key of the writer writes."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from functools import partial
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QAbstractButton

from gavotte.desktop.command import Command
from gavotte.desktop.desks.write.key_pad import ROWS
from gavotte.desktop.desks.write.marks_panel import MARKS, PICKS
from gavotte.desktop.translation import said, translate
from gavotte.writing.entry import TUPLETS, Way

if TYPE_CHECKING:
    from gavotte.desktop.desks.write.desk import WriteDesk

_Row = tuple[str, str, str, Callable[[], object]]
"""(name, words, keys, what is done)."""


def write_commands(desk: WriteDesk) -> tuple[Command, ...]:
    """Values, pitches, marks, edits, the caret, ways of writing, and the pages beside the page."""
    menu = translate("Gavotte", "&Write")
    made: list[Command] = []

    def is_open() -> bool:
        return desk.studio.session.solo is not None

    panel, draft = desk.panel, desk.panel.draft
    buttons: dict[str, tuple[QAbstractButton, ...]] = {
        "insert": (panel.insert,),
        "way_notes": (panel.ways[Way.NOTES],),
        "way_rhythm": (panel.ways[Way.RHYTHM],),
        "way_pitches": (panel.ways[Way.PITCHES],),
        "tap": (panel.tap,),
        "hear_recording": (desk.recording,),
        "take_phrase": (draft.take,),
        "leave_phrase": (draft.leave,),
        "chord_later": (panel.chords.later,),
        "chord_earlier": (panel.chords.earlier,),
        "doubt": (panel.marks.buttons["doubt"],),
        **{f"mark_{mark.value}": (panel.marks.buttons[mark],) for mark, _, _ in MARKS},
        **{f"pick_{pick.value}": (panel.marks.buttons[pick],) for pick, _, _ in PICKS},
    }

    def add(part: int, rows: tuple[_Row, ...], submenu: str = "", in_short: bool = False) -> None:
        for name, words, keys, run in rows:
            path = (menu, submenu) if submenu else (menu,)
            made.append(
                Command(
                    f"write.{name}",
                    words,
                    run,
                    (keys,),
                    path,
                    part,
                    (desk.page,),
                    is_open,
                    buttons=buttons.get(name, ()),
                    in_short=in_short,
                )
            )

    _add_values(desk, add)
    _add_pitches(desk, add)
    _add_marks(desk, add)
    _add_edits(desk, add)
    _add_caret(desk, add)
    _add_ways(desk, add)
    chords = panel.chords
    made.append(
        Command(
            "write.use_chords",
            translate("Gavotte", "Use the chords that were typed"),
            chords.apply,
            ("Ctrl+Return",),
            (menu,),
            6,
            (chords.editor,),
            chords.use.isEnabled,
            buttons=(chords.use,),
        )
    )
    return (*made, *panel.commands("write", (menu,), 7, desk, is_open))


_Add = Callable[..., None]


def _add_values(desk: WriteDesk, add: _Add) -> None:
    writer, submenu = desk.writer, translate("Gavotte", "Values")
    values = tuple(
        (f"value_{cap.what}", said(cap.tip), cap.key, partial(writer.choose_value, Fraction(4, int(cap.what))))
        for cap in ROWS[0]
    )
    add(0, values, submenu, in_short=True)
    rows = (
        ("dot", translate("Gavotte", "Dot"), "V", writer.dot),
        ("triplet", translate("Gavotte", "Triplet"), "Z", partial(writer.tuplet, TUPLETS[0])),
        ("tuplets", translate("Gavotte", "Other tuplets"), "Shift+Z", writer.next_tuplet),
        ("rest", translate("Gavotte", "Rest"), "R", writer.write_rest),
        ("tie", translate("Gavotte", "Tie: hold the note before"), "T", writer.write_tie),
    )
    add(1, rows, submenu)


def _add_pitches(desk: WriteDesk, add: _Add) -> None:
    writer, submenu = desk.writer, translate("Gavotte", "Pitches")
    word = translate("Gavotte", "Write {letter}")
    letters = tuple(
        (f"letter_{letter}", word.format(letter=letter), letter, partial(desk.letter, letter)) for letter in "CDEFGAB"
    )
    add(0, letters, submenu, in_short=True)
    rows = (
        ("sharper", translate("Gavotte", "Sharper"), "S", partial(writer.accidental, 1)),
        ("flatter", translate("Gavotte", "Flatter"), "X", partial(writer.accidental, -1)),
        ("octave_up", translate("Gavotte", "An octave higher"), "W", partial(writer.octave, 1)),
        ("octave_down", translate("Gavotte", "An octave lower"), "Q", partial(writer.octave, -1)),
        ("semitone_up", translate("Gavotte", "A semitone up"), "Alt+Up", partial(writer.semitone, 1)),
        ("semitone_down", translate("Gavotte", "A semitone down"), "Alt+Down", partial(writer.semitone, -1)),
        ("step_up", translate("Gavotte", "A scale step up"), "Alt+Shift+Up", partial(writer.scale_step, 1)),
        ("step_down", translate("Gavotte", "A scale step down"), "Alt+Shift+Down", partial(writer.scale_step, -1)),
        ("respell", translate("Gavotte", "Spell otherwise"), "N", writer.respell),
    )
    add(1, rows, submenu)


def _add_marks(desk: WriteDesk, add: _Add) -> None:
    writer, submenu = desk.writer, translate("Gavotte", "Marks")
    add(
        0,
        tuple((f"mark_{mark.value}", said(words), keys, partial(writer.mark, mark)) for mark, words, keys in MARKS),
        submenu,
    )
    add(
        0,
        tuple((f"pick_{pick.value}", said(words), keys, partial(writer.pick, pick)) for pick, words, keys in PICKS),
        submenu,
    )
    add(0, (("doubt", translate("Gavotte", "Not sure of it"), "U", writer.doubt),), submenu)
    positions = translate("Gavotte", "Find positions on the strings, or the next ones")
    add(0, (("positions", positions, "Ctrl+Shift+P", desk.positions.find),), submenu)


def _add_edits(desk: WriteDesk, add: _Add) -> None:
    writer = desk.writer
    rows = (
        ("take_back", translate("Gavotte", "Take back what stands before"), "Backspace", writer.take_back),
        ("delete", translate("Gavotte", "Delete, leaving silence"), "Delete", writer.delete),
        ("close_up", translate("Gavotte", "Delete and close up"), "Shift+Delete", partial(writer.delete, True)),
        ("cut", translate("Gavotte", "Cut"), "Ctrl+X", writer.cut),
        ("copy", translate("Gavotte", "Copy"), "Ctrl+C", writer.copy),
        ("paste", translate("Gavotte", "Paste"), "Ctrl+V", writer.paste),
        ("paste_by", translate("Gavotte", "Paste by an interval…"), "Ctrl+Shift+V", desk.paste_by_interval),
        ("move_by", translate("Gavotte", "Move by an interval…"), "Ctrl+Shift+M", desk.move_by_interval),
        ("cut_in_two", translate("Gavotte", "Cut the note in two"), "K", writer.cut_in_two),
        ("join", translate("Gavotte", "Join the notes"), "J", writer.join),
        ("later", translate("Gavotte", "Later by the chosen value"), "Alt+Right", partial(writer.shift, 1)),
        ("earlier", translate("Gavotte", "Earlier by the chosen value"), "Alt+Left", partial(writer.shift, -1)),
    )
    add(1, rows)
    lengths = tuple(
        (f"length_{cap.what}", said(cap.tip), f"Alt+{cap.key}", partial(writer.set_length, Fraction(4, int(cap.what))))
        for cap in ROWS[0]
    )
    add(1, lengths, translate("Gavotte", "Length of the selected notes"), in_short=True)


def _add_caret(desk: WriteDesk, add: _Add) -> None:
    writer = desk.writer
    selecting = (
        ("select_bar", translate("Gavotte", "Select the bar"), "M", writer.select_bar),
        ("select_phrase", translate("Gavotte", "Select the phrase"), "P", writer.select_phrase),
        ("select_all", translate("Gavotte", "Select everything"), "Ctrl+A", writer.select_all),
    )
    add(2, selecting)
    extending = (
        ("more_right", translate("Gavotte", "One note more to the right"), "Shift+Right", partial(writer.extend, 1)),
        ("more_left", translate("Gavotte", "One note more to the left"), "Shift+Left", partial(writer.extend, -1)),
    )
    add(2, extending, in_short=True)
    moving = (
        ("on", translate("Gavotte", "On"), "Right", partial(writer.step, 1)),
        ("back", translate("Gavotte", "Back"), "Left", partial(writer.step, -1)),
        ("line_below", translate("Gavotte", "Line below"), "Down", partial(desk.change_line, 1)),
        ("line_above", translate("Gavotte", "Line above"), "Up", partial(desk.change_line, -1)),
        ("start", translate("Gavotte", "To the start"), "Home", writer.go_to_start),
        ("end", translate("Gavotte", "Behind the last note"), "End", writer.go_to_end),
    )
    add(3, moving, in_short=True)


def _add_ways(desk: WriteDesk, add: _Add) -> None:
    writer, chords = desk.writer, desk.panel.chords
    rows = (
        ("insert", translate("Gavotte", "Write before what is there"), "I", writer.toggle_insert),
        ("way_notes", translate("Gavotte", "Write notes"), "7", partial(writer.set_way, Way.NOTES)),
        ("way_rhythm", translate("Gavotte", "Write rhythm"), "8", partial(writer.set_way, Way.RHYTHM)),
        ("way_pitches", translate("Gavotte", "Write pitches"), "9", partial(writer.set_way, Way.PITCHES)),
        ("tap", translate("Gavotte", "Tap or play notes in time"), "Y", desk.tap),
        ("hear_recording", translate("Gavotte", "Hear the recording"), "H", desk.hear_recording),
        ("take_phrase", translate("Gavotte", "Take the drafted phrase"), "Ctrl+Return", desk.take_phrase),
        ("leave_phrase", translate("Gavotte", "Leave the drafted phrase"), "Ctrl+Backspace", desk.leave_phrase),
    )
    add(4, rows)
    moving = (
        ("chord_later", translate("Gavotte", "Chord a beat later"), "Ctrl+Alt+Right", partial(chords.move_chord, 1)),
        (
            "chord_earlier",
            translate("Gavotte", "Chord a beat earlier"),
            "Ctrl+Alt+Left",
            partial(chords.move_chord, -1),
        ),
    )
    add(5, (("chords_here", translate("Gavotte", "Chords here…"), "Ctrl+K", desk.write_chords),))
    add(5, moving)
    add(5, (("key_here", translate("Gavotte", "Key from this bar on…"), "Ctrl+Shift+K", desk.change_key),))
