"""Putting pieces on the sheet, and beginning sheets from templates: what is asked, and what is worked out for it."""

from __future__ import annotations

from collections.abc import Callable, Generator, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import partial
from typing import TypeVar

from PyQt6.QtCore import QObject
from PyQt6.QtWidgets import QWidget

from gavotte.desktop.desk.studio import Studio
from gavotte.desktop.desks.sheets.dialogs import BarsDialog, ChoiceDialog, LicksDialog
from gavotte.desktop.translation import QT_TRANSLATE_NOOP, said, translate
from gavotte.desktop.words import counted
from gavotte.formats.errors import FormatError
from gavotte.labelling.labeller import labelled
from gavotte.library.contexts_played import ByPlayer, contexts_played, licks_of
from gavotte.library.errors import LibraryError
from gavotte.library.tables import SHEETS
from gavotte.phrasing.structure import Structure, structure_of
from gavotte.phrasing.telling import counted as times
from gavotte.sheets.pieces import (
    Bars,
    Keys,
    Licks,
    NewPage,
    Picture,
    Piece,
    PieceKind,
    Question,
    Returns,
    Scales,
    Words,
)
from gavotte.sheets.proposing import words_on_bars, words_on_phrases
from gavotte.sheets.sheet import SheetSource, TeachingSheet, new_id, source_for
from gavotte.sheets.templates import lick_of_the_week, one_key_a_page, players_over, solo_with_analysis
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Solo
from gavotte.vocabulary.lick import Lick

FoundT = TypeVar("FoundT")
_MOST_LICKS = 60


@dataclass(frozen=True)
class Template:
    """A template by its name, its words, and what it makes."""

    name: str
    words: str
    about: str


TEMPLATES = (
    Template(
        "analysis",
        QT_TRANSLATE_NOOP("Gavotte", "The solo with analysis"),
        QT_TRANSLATE_NOOP("Gavotte", "All of a solo with its lane, and what its phrases and bars do"),
    ),
    Template(
        "lick",
        QT_TRANSLATE_NOOP("Gavotte", "Lick of the week"),
        QT_TRANSLATE_NOOP("Gavotte", "One lick: what it does, a lane to fill in, and all its keys"),
    ),
    Template(
        "players",
        QT_TRANSLATE_NOOP("Gavotte", "Five players over one ii–V–I"),
        QT_TRANSLATE_NOOP("Gavotte", "How several players go over the same changes, laid under one another"),
    ),
    Template(
        "keys",
        QT_TRANSLATE_NOOP("Gavotte", "One key a page"),
        QT_TRANSLATE_NOOP("Gavotte", "A lick in twelve keys, large, each on a page for the stand"),
    ),
    Template(
        "empty",
        QT_TRANSLATE_NOOP("Gavotte", "An empty sheet"),
        QT_TRANSLATE_NOOP("Gavotte", "To be put together from nothing"),
    ),
)

_ADDED = (
    (PieceKind.WORDS, QT_TRANSLATE_NOOP("Gavotte", "Words")),
    (PieceKind.BARS, QT_TRANSLATE_NOOP("Gavotte", "Bars of a solo…")),
    (PieceKind.SCALES, QT_TRANSLATE_NOOP("Gavotte", "Chords and scales…")),
    (PieceKind.RETURNS, QT_TRANSLATE_NOOP("Gavotte", "What comes back in a solo…")),
    (PieceKind.QUESTION, QT_TRANSLATE_NOOP("Gavotte", "Question on bars…")),
    (PieceKind.LICKS, QT_TRANSLATE_NOOP("Gavotte", "Licks…")),
    (PieceKind.KEYS, QT_TRANSLATE_NOOP("Gavotte", "Lick in keys…")),
    (PieceKind.NEW_PAGE, QT_TRANSLATE_NOOP("Gavotte", "New page")),
)

PIECES = len(_ADDED)
"""So many of the additions are pieces of a kind; the others follow behind a rule."""


@dataclass(frozen=True)
class Addition:
    """Something that can be added: its name, its words in a menu, and what adds it."""

    name: str
    words: str
    run: Callable[[], object]


class Making(QObject):
    """Adds pieces behind the one that is chosen, which ``behind`` gives, and begins sheets.

    ``dialog`` is the one that was opened last.
    """

    def __init__(self, studio: Studio, behind: Callable[[], str], window: QWidget) -> None:
        super().__init__(window)
        self._studio, self._behind, self._window = studio, behind, window
        self._sheets = studio.sheets
        self.dialog: BarsDialog | LicksDialog | ChoiceDialog | None = None

    # -- sheets -------------------------------------------------------------------------------------

    def begin(self, template: str) -> None:
        """Begin a sheet from a template; what it is made of is asked for."""
        if template == "empty":
            self._sheets.begin(TeachingSheet(translate("Gavotte", "New sheet")))
        elif template == "analysis":
            title = translate("Gavotte", "The solo with analysis")
            self._ask_solo(title, lambda solo, solo_id, first, last: self._begin_analysis(solo, solo_id), whole=True)
        elif template == "players":
            self._begin_players()
        else:
            make = lick_of_the_week if template == "lick" else one_key_a_page
            words = next(said(known.words) for known in TEMPLATES if known.name == template)

            def then(licks: Sequence[Lick]) -> None:
                self._work(lambda: make(licks[0]), self._begin)

            self._ask_licks(words, translate("Gavotte", "Begin the sheet"), False, then)

    def _begin(self, sheet: TeachingSheet) -> None:
        """Keep a sheet and open it; a large one is put together for the library beside the work."""
        self._work(lambda: SHEETS.values(sheet), lambda row: self._keep(sheet, row))

    def _keep(self, sheet: TeachingSheet, row: Mapping[str, object]) -> None:
        self._sheets.begin(sheet, row)

    def _begin_analysis(self, solo: Solo, solo_id: str) -> None:
        # What paints is loaded when it is first wanted.
        from gavotte.desktop.paper.picture import arc_picture

        def work() -> TeachingSheet:
            structure = structure_of(labelled(solo))
            return solo_with_analysis(structure, solo_id, arc_picture(structure).decode())

        self._work(work, self._begin)

    def _begin_players(self) -> None:
        """Look where several players meet the same changes, ask which, and begin the sheet."""
        library = self._studio.library

        def look() -> Generator[float, None, dict[str, ByPlayer]]:
            with library.read_apart() as reader:
                found = yield from contexts_played(reader)
            return found

        def choose(found: dict[str, ByPlayer]) -> None:
            if not found:
                words = translate(
                    "Gavotte", "No two players in the library meet the same changes. Name the players in the details."
                )
                self._studio.asks.notice(words)
                return
            names = list(found)
            entries = [f"{name}\n{', '.join([*found[name]][:5])}" for name in names]
            title = translate("Gavotte", "Over which changes?")
            dialog = self.dialog = ChoiceDialog(self._window, title, translate("Gavotte", "Begin the sheet"), entries)
            dialog.accepted.connect(lambda: self._gather(names[dialog.chosen], found[names[dialog.chosen]]))
            dialog.open()

        words = translate("Gavotte", "Looking through the solos")
        self._studio.activities.walk(self, look, choose, self._failed, words)

    def _gather(self, context: str, players: ByPlayer) -> None:
        library = self._studio.library

        def gather() -> Generator[float, None, TeachingSheet]:
            with library.read_apart() as reader:
                licks = yield from licks_of(reader, players)
            return players_over(licks, context)

        words = translate("Gavotte", "Putting the sheet together")
        self._studio.activities.walk(self, gather, lambda sheet: self._begin(sheet), self._failed, words)

    def duplicate(self) -> None:
        """Begin a sheet that is the open one over again."""
        sheet = self._sheets.sheet
        if sheet is not None:
            self._begin(replace(sheet, title=translate("Gavotte", "{title}, copy").format(title=sheet.title)))

    # -- pieces -------------------------------------------------------------------------------------

    def additions(self) -> tuple[Addition, ...]:
        """All that can be added: pieces of each kind, and what is said or drawn of a solo."""
        kinds = [Addition(kind.name.lower(), said(words), partial(self.add, kind)) for kind, words in _ADDED]
        more = (
            ("told_phrases", translate("Gavotte", "What phrases do, in words…"), partial(self.add_told, True)),
            ("told_bars", translate("Gavotte", "What bars do, in words…"), partial(self.add_told, False)),
            ("arc", translate("Gavotte", "The arc of a solo…"), self.add_arc),
            ("plain_question", translate("Gavotte", "Question without music"), self.add_question),
            ("figures", translate("Gavotte", "Figures and pictures from Compare…"), self.go_to_compare),
        )
        return (*kinds, *(Addition(*one) for one in more))

    def go_to_compare(self) -> None:
        """Go where figures and pictures are, and say how they come here."""
        self._studio.asks.go("compare")
        self._studio.asks.tell(translate("Gavotte", "Choose a figure or a picture, then put it on the sheet"))

    def add(self, kind: PieceKind) -> None:
        """Add a piece of a kind; what it is of is asked for."""
        if self._sheets.sheet is None:
            return
        match kind:
            case PieceKind.WORDS:
                self._put([Words(id=new_id())])
            case PieceKind.NEW_PAGE:
                self._put([NewPage(id=new_id())])
            case PieceKind.LICKS:
                self._ask_licks(
                    translate("Gavotte", "Which licks?"), translate("Gavotte", "Put them on"), True, self._put_licks
                )
            case PieceKind.KEYS:
                self._ask_licks(
                    translate("Gavotte", "Which lick?"),
                    translate("Gavotte", "Put it on"),
                    False,
                    lambda licks: self._put([Keys(id=new_id(), heading=licks[0].name, lick=licks[0])]),
                )
            case PieceKind.RETURNS:
                self._ask_solo(translate("Gavotte", "What comes back in a solo"), self._look_for_returns, whole=True)
            case _:
                words = next(said(words).rstrip("…") for known, words in _ADDED if known is kind)
                self._ask_solo(words, partial(self._put_bars, kind))

    def add_question(self) -> None:
        """Add a question without music."""
        if self._sheets.sheet is not None:
            self._put([Question(id=new_id())])

    def add_told(self, phrases: bool) -> None:
        """Add what is said of a solo's phrases, or of bars of it, as words."""
        if self._sheets.sheet is None:
            return
        title = translate("Gavotte", "What phrases do") if phrases else translate("Gavotte", "What bars do")

        def then(solo: Solo, solo_id: str, first: int, last: int) -> None:
            def work() -> str:
                found = labelled(solo)
                return words_on_phrases(structure_of(found)) if phrases else words_on_bars(found, first, last)

            self._work(work, partial(self._put_told, title))

        self._ask_solo(title, then, whole=phrases)

    def _put_told(self, title: str, words: str) -> None:
        if words:
            self._put([Words(id=new_id(), heading=title, words=words)])
        else:
            self._studio.asks.notice(translate("Gavotte", "There is nothing to tell: the solo is one phrase."))

    def add_arc(self) -> None:
        """Add the picture of a whole solo."""
        if self._sheets.sheet is None:
            return

        from gavotte.desktop.paper.picture import arc_picture

        def then(solo: Solo, solo_id: str, first: int, last: int) -> None:
            heading = translate("Gavotte", "The arc of {title}").format(title=solo.title)
            self._work(
                lambda: arc_picture(structure_of(labelled(solo))).decode(),
                lambda svg: self._put([Picture(id=new_id(), heading=heading, svg=svg)]),
            )

        self._ask_solo(translate("Gavotte", "The arc of a solo"), then, whole=True)

    def _put(self, pieces: Sequence[Piece], sources: Sequence[SheetSource] = ()) -> None:
        words = translate("Gavotte", "Add {what}").format(what=counted(len(pieces), "piece"))
        self._sheets.add(words, pieces, sources, self._behind())

    def _put_licks(self, licks: Sequence[Lick]) -> None:
        heading = licks[0].name if len(licks) == 1 else translate("Gavotte", "Under one another")
        self._put([Licks(id=new_id(), heading=heading, licks=tuple(licks), in_one_key=len(licks) > 1)])

    def _put_bars(self, kind: PieceKind, solo: Solo, solo_id: str, first: int, last: int) -> None:
        sheet = self._sheets.sheet
        if sheet is None:
            return
        source = source_for(sheet, solo, solo_id)
        piece: Piece
        if kind is PieceKind.SCALES:
            heading = translate("Gavotte", "Chords and scales")
            piece = Scales(id=new_id(), heading=heading, source=source.id, first=first, last=last)
        elif kind is PieceKind.QUESTION:
            words = translate("Gavotte", "Draw each note’s function into the lane, and write its degree under it.")
            piece = Question(id=new_id(), words=words, source=source.id, first=first, last=last)
        else:
            piece = Bars(id=new_id(), heading=solo.title, source=source.id, first=first, last=last)
        self._put([piece], [source])

    def _look_for_returns(self, solo: Solo, solo_id: str, first: int, last: int) -> None:
        """Look for what comes back in a solo, and ask which of it."""

        def choose(structure: Structure) -> None:
            if not structure.motifs:
                self._studio.asks.notice(
                    translate("Gavotte", "Nothing comes back in “{title}”.").format(title=solo.title)
                )
                return
            entries = [_motif_words(structure, number) for number in range(len(structure.motifs))]
            title = translate("Gavotte", "Which of what comes back?")
            dialog = self.dialog = ChoiceDialog(self._window, title, translate("Gavotte", "Put it on"), entries)
            dialog.accepted.connect(lambda: self._put_returns(structure, dialog.chosen, solo, solo_id))
            dialog.open()

        self._work(lambda: structure_of(labelled(solo)), choose)

    def _put_returns(self, structure: Structure, number: int, solo: Solo, solo_id: str) -> None:
        sheet = self._sheets.sheet
        if sheet is None:
            return
        source = source_for(sheet, solo, solo_id)
        motif, relations = structure.motifs[number], structure.relations[number]
        said_of = ["", *(relation.words for relation in relations)]
        places = tuple(
            (solo.notes[place.first].id, solo.notes[place.last].id, words)
            for place, words in zip(motif.instances, said_of, strict=True)
        )
        heading = translate("Gavotte", "What comes back in {title}").format(title=solo.title)
        self._put([Returns(id=new_id(), heading=heading, source=source.id, places=places)], [source])

    # -- asking -------------------------------------------------------------------------------------

    def _ask_solo(self, title: str, then: Callable[[Solo, str, int, int], None], whole: bool = False) -> None:
        """Ask for a solo and bars of it; the open one with what is selected stands there."""
        session = self._studio.session
        bars = None
        if session.solo is not None and session.selection.notes():
            chosen, grid = session.selection.notes(), BarGrid(session.solo)
            bars = (
                grid.at(session.solo.note(chosen[0]).onset).number,
                grid.at(session.solo.note(chosen[-1]).onset).number,
            )
        solos = self._studio.library.solos()
        if not any(entry.notes for entry in solos):
            self._studio.asks.notice(translate("Gavotte", "There is no solo with notes in the library yet."))
            return
        dialog = self.dialog = BarsDialog(self._window, title, solos, session.solo_id or "", bars, whole)

        def accepted() -> None:
            self._read_solo(dialog.solo_id, lambda solo: then(solo, dialog.solo_id, dialog.first, dialog.last))

        dialog.accepted.connect(accepted)
        dialog.open()

    def _read_solo(self, solo_id: str, then: Callable[[Solo], None]) -> None:
        """Read a solo beside the work; the open one, or one that is not written yet, is there."""
        held = self._studio.opening.at_hand(solo_id)
        if held is not None:
            then(held)
            return
        library = self._studio.library

        def read() -> Solo:
            with library.read_apart() as reader:
                return reader.solo(solo_id)

        self._work(read, then)

    def _ask_licks(self, title: str, yes: str, several: bool, then: Callable[[Sequence[Lick]], None]) -> None:
        entries = self._studio.library.licks()
        if not entries:
            words = translate("Gavotte", "There are no licks yet: select notes of a solo and press K to keep them.")
            self._studio.asks.notice(words)
            return
        dialog = self.dialog = LicksDialog(self._window, title, yes, entries, several)

        def accepted() -> None:
            try:
                licks = [self._studio.library.lick(lick_id) for lick_id in dialog.chosen[:_MOST_LICKS]]
            except (LibraryError, FormatError) as error:
                self._failed(error)
                return
            if licks:
                then(licks)

        dialog.accepted.connect(accepted)
        dialog.open()

    def _work(self, work: Callable[[], FoundT], then: Callable[[FoundT], None]) -> None:
        words = translate("Gavotte", "Putting the sheet together")
        self._studio.activities.beside(self, work, then, self._failed, words)

    def _failed(self, error: Exception) -> None:
        self._studio.asks.notice(str(error))


def _motif_words(structure: Structure, number: int) -> str:
    """A motif by its notes, and how often it comes."""
    motif = structure.motifs[number]
    head, solo = motif.instances[0], structure.found.solo
    names = " ".join(note.pitch.name.shown for note in solo.notes[head.first : head.last + 1] if not note.grace)
    bar = BarGrid(solo).at(solo.notes[head.first].onset).number
    words = translate("Gavotte", "first in bar {bar}, {times}")
    return f"{names}\n{words.format(bar=bar, times=times(len(motif.instances), 'time'))}"
