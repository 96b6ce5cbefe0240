"""What a desk is. A desk is a folder of its own and an entry in the registry; the window does the rest."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from typing import ClassVar

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtGui import QUndoStack
from PyQt6.QtWidgets import QAbstractButton, QWidget

from gavotte.desktop.command import Command
from gavotte.desktop.desk.studio import Studio
from gavotte.desktop.desk.updates import NOTHING, Follower, Update
from gavotte.desktop.errands.open_sheet import ToBePutOn
from gavotte.desktop.errands.to_practise import ToBePractised
from gavotte.desktop.paper.sheet import Sheet
from gavotte.desktop.paper.solo_sheet import sheet_of
from gavotte.desktop.playback.playing import Played
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import translate
from gavotte.practice.item import Kind
from gavotte.sheets.templates import bars_piece
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Solo
from gavotte.solo.moving import excerpt
from gavotte.writing.choruses import with_choruses

Hint = tuple[str, str]
"""Keys or mouse, and what they do: what the map of keys tells beside the commands."""


def page_hints() -> tuple[str, tuple[Hint, ...]]:
    """The keys of a page on which notes are selected."""
    return translate("Gavotte", "On the page"), (
        ("← →", translate("Gavotte", "Note before, next note")),
        ("↑ ↓", translate("Gavotte", "Line above, line below")),
        (translate("Gavotte", "Shift + arrows or click"), translate("Gavotte", "Select several notes")),
        (translate("Gavotte", "Ctrl + wheel"), translate("Gavotte", "Larger, smaller")),
    )


@dataclass(frozen=True)
class DeskKind:
    """What is said of a desk before it is made: its ``name`` (which is its icon's too), its words and its key.

    ``needs_solo`` says that it is nothing without an open solo, ``uses_recording`` that the open solo's recording is
    taken up where it is shown, ``follows`` which changes it shows.
    """

    name: str
    words: str
    key: str
    needs_solo: bool = False
    uses_recording: bool = False
    follows: Update = NOTHING


@dataclass(frozen=True)
class Walked:
    """Music that is gone through: the ``solo`` as it is shown, the ``place`` where the user is (quarter notes), and
    what goes to another. ``phrases`` are where phrases begin, where the desk knows that better than the rests do.
    """

    solo: Solo
    place: Fraction
    go: Callable[[Fraction], None]
    phrases: Sequence[Fraction] = ()


class Desk(QWidget):
    """One place of work. Signal: ``state_changed``, its line in the rail or what can be done here is another one."""

    kind: ClassVar[DeskKind]

    state_changed = pyqtSignal()

    def __init__(self, studio: Studio) -> None:
        super().__init__()
        self.setObjectName("desk")
        self.studio = studio
        self._follower = Follower(self, self.show_updates)

    # -- what the window asks of every desk ---------------------------------------------------------

    def commands(self) -> tuple[Command, ...]:
        """What can be done here and nowhere else."""
        return ()

    def command_buttons(self) -> dict[str, tuple[QAbstractButton, ...]]:
        """Its buttons that do what a command that works everywhere does, by the command's id."""
        return {}

    def focus(self) -> QWidget:
        """Where the keys go when it is shown."""
        return self

    def beside(self) -> QWidget | None:
        """Where they go on "beside the page"; None where nothing stands there."""
        return None

    def escape(self) -> bool:
        """Lift a selection, or leave what was begun; False where there is neither."""
        return False

    @property
    def undo_stack(self) -> QUndoStack:
        """Whose steps are undone here."""
        return self.studio.edits.undo_stack

    def played(self) -> Played | None:
        """What is played here, None where nothing can be."""
        return None

    def pages(self) -> tuple[QWidget, ...]:
        """Where the keys of going through the music are heard."""
        return ()

    def walked(self) -> Walked | None:
        """What is gone through by bars and phrases here; None where nothing is."""
        return None

    def state(self) -> str:
        """How far it is, in a word or two for the rail."""
        return ""

    def sheet(self) -> Sheet | None:
        """What is exported and printed from here: the open solo, unless the desk has music of its own."""
        return sheet_of(self.studio.session)

    @property
    def has_sheet(self) -> bool:
        """Whether there is something to export."""
        return self.studio.session.solo is not None

    @property
    def has_own_paper(self) -> bool:
        """Whether it has pages of its own, which it hands on and prints itself."""
        return False

    def hand_on(self) -> bool:
        """Hand on its own pages; False where it has none, so that what ``sheet`` gives is exported."""
        return False

    def print_out(self) -> bool:
        """Print its own pages; False where it has none."""
        return False

    def to_sheet(self) -> ToBePutOn | None:
        """What of this desk is put on a teaching sheet: the bars of what is selected of the open solo, or all of it."""
        session = self.studio.session
        solo, chosen = session.solo, session.selection.notes()
        if solo is None or not solo.notes:
            return None
        notes = (solo.note(chosen[0]), solo.note(chosen[-1])) if chosen else (solo.notes[0], solo.notes[-1])
        piece, source = bars_piece(solo, session.solo_id or "", notes[0].onset, notes[1].end)
        return ToBePutOn(solo.title, (piece,), (source,))

    @property
    def has_to_practise(self) -> bool:
        """Whether there is something here to be practised."""
        solo = self.studio.session.solo
        return solo is not None and bool(solo.notes)

    def to_practise(self) -> ToBePractised | None:
        """What of this desk is taken to be practised: what is selected of the open solo, or all of it."""
        session = self.studio.session
        solo, chosen = session.solo, session.selection.notes()
        if solo is None or not solo.notes:
            return None
        if len(chosen) < 2:
            return ToBePractised(solo.title, Kind.SOLO, solo, session.solo_id or "")
        part = excerpt(solo, chosen[0], chosen[-1])
        grid = BarGrid(solo)
        first, last = (grid.locate(solo.note(note).onset)[0].number for note in (chosen[0], chosen[-1]))
        where = (
            translate("Gavotte", "bar {first}").format(first=first)
            if first == last
            else translate("Gavotte", "bars {first} to {last}").format(first=first, last=last)
        )
        name = translate("Gavotte", "{title}, {where}").format(title=solo.title, where=where)
        return ToBePractised(name, Kind.PHRASE, part, session.solo_id or "")

    def changes_to_practise(self) -> ToBePractised | None:
        """The changes of the open solo, to be played over."""
        solo = self.studio.session.solo
        if solo is None or not solo.chords:
            return None
        name = translate("Gavotte", "Over {title}").format(title=solo.title)
        first = solo.chorus or solo.end
        chords = tuple(event for event in solo.chords if event.onset >= 0)
        changes = with_choruses(replace(solo, notes=(), chords=chords, pickup=Fraction(0)), first, 1)
        music = replace(changes, chorus=Fraction(0), form_end=first, decisions=(), readings=(), texts=())
        return ToBePractised(name, Kind.CHANGES, music, self.studio.session.solo_id or "")

    def hints(self) -> tuple[str, tuple[Hint, ...]]:
        """A heading, and keys that are no commands."""
        return "", ()

    def zoom(self, by: int) -> None:
        """Larger (1), smaller (-1), or the usual size (0)."""

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""

    def arrive(self, item: str, view: str) -> None:
        """Show one of the desk's items (an id, "" for the one that is there) in one of its views."""

    def enter(self) -> None:
        """It is shown now."""

    def leave(self) -> None:
        """Another desk is shown now: what sounds or waits here comes to rest."""

    def finish(self) -> None:
        """Have what was typed and not taken over yet count now: the window is about to save and close."""

    def close_down(self) -> None:
        """The window is going: let go of devices."""

    def remembered(self) -> str:
        """What is kept of it until the next start."""
        return ""

    def recall(self, remembered: str) -> None:
        """Go back to what was kept at the last end."""

    # -- following changes --------------------------------------------------------------------------

    def note(self, change: Update) -> None:
        """Something changed; it is shown now, or when the desk is."""
        if change & self.kind.follows:
            self._follower.note(change & self.kind.follows)

    def show_updates(self, changes: Update) -> None:
        """Show what is another than before."""
