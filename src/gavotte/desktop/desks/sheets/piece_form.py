"""What can be said of the piece that is worked on, or of the sheet as a whole."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from enum import StrEnum
from typing import TypeVar

import msgspec
from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QLabel, QPushButton, QVBoxLayout, QWidget

from gavotte.desktop.desks.sheets.field_form import FieldForm
from gavotte.desktop.desks.sheets.words import (
    ALIGN_WORDS,
    KIND_WORDS,
    ORDER_WORDS,
    SKELETON_WORDS,
    VERSION_WORDS,
)
from gavotte.desktop.translation import said, translate
from gavotte.sheets.pieces import (
    FEWEST_BARS,
    MOST_BARS,
    Bars,
    Keys,
    Licks,
    NewPage,
    Picture,
    Piece,
    Question,
    Returns,
    Scales,
    Words,
    kind_of,
)
from gavotte.sheets.sheet import LARGEST_STAFF, PAPERS, SMALLEST_STAFF, TeachingSheet, Version
from gavotte.sheets.templates import bars_of

_SHOWN, _VERSION = "shown.", "version."
ChoiceT = TypeVar("ChoiceT", bound=StrEnum)


class PieceForm(QWidget):
    """Shows the fields of a piece, or of the sheet where none is chosen.

    Signals: ``sheet_changed(words, sheet, typed)`` and ``piece_changed(words, piece, typed)``, another value is wanted,
    ``typed`` being the field where it grows letter by letter; ``renew_wanted``, the piece's solo as it is now.
    """

    sheet_changed = pyqtSignal(str, object, str)
    piece_changed = pyqtSignal(str, object, str)
    renew_wanted = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.form = FieldForm()
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.form)
        self._sheet: TeachingSheet | None = None
        self._piece: Piece | None = None
        self._shown_for: object = None
        self.stale: QLabel | None = None
        self.renew: QPushButton | None = None
        self.form.changed.connect(self._changed)

    def finish(self) -> None:
        """Have what was typed count now."""
        self.form.finish()

    def show_sheet(self, sheet: TeachingSheet | None, piece: Piece | None) -> None:
        """Show a piece of a sheet, or for None what belongs to the sheet as a whole."""
        what = None if sheet is None else ("", "") if piece is None else (piece.id, kind_of(piece))
        if what != self._shown_for:
            # What is waiting belongs to what was shown.
            self.form.finish()
        self._sheet, self._piece = sheet, piece
        if what != self._shown_for:
            self._shown_for = what
            self._make()
        if sheet is not None:
            self.form.show_values(_values_of_sheet(sheet) if piece is None else _values_of_piece(piece))

    def show_stale(self, is_stale: bool) -> None:
        """Say whether the piece's solo is another one by now."""
        if self.stale is not None and self.renew is not None:
            self.stale.setVisible(is_stale)
            self.renew.setVisible(is_stale)

    # -- making -------------------------------------------------------------------------------------

    def _make(self) -> None:
        self.form.begin()
        self.stale = self.renew = None
        if self._sheet is None:
            return
        if self._piece is None:
            self._make_for_sheet()
        else:
            self._make_for_piece(self._sheet, self._piece)
        self.form.column.addStretch(1)

    def _make_for_sheet(self) -> None:
        form = self.form
        form.heading(translate("Gavotte", "The sheet"))
        form.line("title", translate("Gavotte", "Title"), translate("Gavotte", "What stands over the first page"))
        form.line("subtitle", translate("Gavotte", "Under the title"), translate("Gavotte", "Who, what, for whom"))
        form.area(
            "rights",
            translate("Gavotte", "Source and use"),
            translate("Gavotte", "Where the music is from and what the sheet may be used for: the foot of every page"),
        )
        form.line(
            "header",
            translate("Gavotte", "Head of the pages"),
            translate("Gavotte", "What stands over every page; where it is empty, the title from page 2 on"),
        )
        form.heading(translate("Gavotte", "Paper"))
        form.choice("paper", translate("Gavotte", "Size"), translate("Gavotte", "Size of the paper"), _same(PAPERS))
        form.number(
            "staff",
            translate("Gavotte", "Staff"),
            translate("Gavotte", "Height of a staff; 7 mm and more can be read from a stand"),
            SMALLEST_STAFF, LARGEST_STAFF, 0.25, 2, "mm",
        )  # fmt: skip
        form.tick(
            "contents", translate("Gavotte", "Contents"), translate("Gavotte", "List the headings under the title")
        )
        form.heading(translate("Gavotte", "Written for"))
        for version in Version:
            form.tick(
                f"{_VERSION}{version}",
                said(VERSION_WORDS[version]),
                translate("Gavotte", "One file for these readers when the sheet is handed on"),
            )

    def _make_for_piece(self, sheet: TeachingSheet, piece: Piece) -> None:
        form = self.form
        form.heading(said(KIND_WORDS[kind_of(piece)]))
        if isinstance(piece, NewPage):
            form.quiet(translate("Gavotte", "What comes behind begins a page."))
            return
        form.line(
            "heading", translate("Gavotte", "Heading"), translate("Gavotte", "Stands over it, and in the contents")
        )
        if isinstance(piece, Words):
            form.area("words", translate("Gavotte", "Words"), _text_tip(), many=True)
            form.quiet(_markup_words())
            return
        if isinstance(piece, Question):
            form.area("words", translate("Gavotte", "Question"), _text_tip())
            form.area("answer", translate("Gavotte", "Answer"), translate("Gavotte", "Stands on the last page"))
        if isinstance(piece, Bars | Question | Scales) and piece.source:
            self._make_bars(sheet, piece.source)
        if isinstance(piece, Licks):
            self._make_licks(piece)
        if isinstance(piece, Keys):
            self._make_keys()
        if isinstance(piece, Bars | Returns | Licks | Keys) or (isinstance(piece, Question) and piece.source):
            self._make_shown(piece)
        if not isinstance(piece, Question):
            form.area("words", translate("Gavotte", "Words under it"), _text_tip())
        if isinstance(piece, Bars | Question | Scales | Returns) and piece.source:
            self._make_renewal()

    def _make_bars(self, sheet: TeachingSheet, source_id: str) -> None:
        first, last = bars_of(sheet.source(source_id).solo)
        form = self.form
        from_bar, to_bar = translate("Gavotte", "From bar"), translate("Gavotte", "To bar")
        form.beside_one_another(2)
        form.number("first", from_bar, translate("Gavotte", "The first bar; 0 is the pickup"), first, last)
        form.number("last", to_bar, translate("Gavotte", "The last bar"), first, last)

    def _make_licks(self, piece: Licks) -> None:
        form = self.form
        form.quiet(", ".join(lick.name for lick in piece.licks))
        form.tick(
            "in_one_key",
            translate("Gavotte", "In one key"),
            translate("Gavotte", "Bring all licks to the key, time and octave of the first"),
        )
        form.choice(
            "align",
            translate("Gavotte", "Under one another"),
            translate("Gavotte", "What stands under what, where they are in one key"),
            _words(ALIGN_WORDS),
        )

    def _make_keys(self) -> None:
        form = self.form
        tip = translate("Gavotte", "How the keys follow each other, from the lick’s own on")
        form.choice("order", translate("Gavotte", "Order"), tip, _words(ORDER_WORDS))
        form.number("count", translate("Gavotte", "Keys"), translate("Gavotte", "How many keys"), 1, 12)
        form.tick(
            "key_a_page", translate("Gavotte", "One key a page"), translate("Gavotte", "Begin a page for each key")
        )

    def _make_shown(self, piece: Piece) -> None:
        form = self.form
        form.heading(translate("Gavotte", "Shown"))
        if isinstance(piece, Question):
            form.quiet(translate("Gavotte", "The lane is left blank here, and filled in on the last page."))
        else:
            form.tick(
                f"{_SHOWN}lane",
                translate("Gavotte", "Function lane"),
                translate("Gavotte", "The marks under the staff, whose shapes tell the functions"),
            )
        form.tick(
            f"{_SHOWN}degrees",
            translate("Gavotte", "Degrees"),
            translate("Gavotte", "Each note’s degree against its chord"),
        )
        form.tick(
            f"{_SHOWN}chords", translate("Gavotte", "Chords"), translate("Gavotte", "Chord symbols over the staff")
        )
        form.tick(
            f"{_SHOWN}numerals",
            translate("Gavotte", "Roman numerals"),
            translate("Gavotte", "Under each chord symbol what it is in the key heard there"),
        )
        if isinstance(piece, Bars | Question):
            form.tick(
                f"{_SHOWN}phrases",
                translate("Gavotte", "Phrase brackets"),
                translate("Gavotte", "The line that breathes with the phrases, under the lane"),
            )
            form.tick(
                f"{_SHOWN}reasons",
                translate("Gavotte", "Reasons"),
                translate("Gavotte", "Numbers at all but chord tones, and under the bars why they are called so"),
            )
        form.tick(
            f"{_SHOWN}tablature",
            translate("Gavotte", "Tablature"),
            translate("Gavotte", "In concert pitch, for guitar and bass: the frets of notes that have a string"),
        )
        form.tick(
            f"{_SHOWN}fingering",
            translate("Gavotte", "Fingering"),
            translate("Gavotte", "Fingers, strings and picks where they are written"),
        )
        if isinstance(piece, Bars):
            form.choice(
                f"{_SHOWN}skeleton",
                translate("Gavotte", "Skeleton"),
                translate("Gavotte", "What is left of the line on its strong beats"),
                _words(SKELETON_WORDS),
            )
        tip = translate("Gavotte", "Bars on a line; a line too full for its width is divided")
        form.number(f"{_SHOWN}bars", translate("Gavotte", "Bars a line"), tip, FEWEST_BARS, MOST_BARS)

    def _make_renewal(self) -> None:
        self.form.column.addSpacing(10)
        self.stale = self.form.quiet(translate("Gavotte", "The solo was changed since it was put on the sheet."))
        self.renew = QPushButton(translate("Gavotte", "Take it as it is now"))
        self.renew.setToolTip(translate("Gavotte", "All pieces taken from this solo follow"))
        self.renew.clicked.connect(self.renew_wanted)
        self.form.column.addWidget(self.renew)
        self.show_stale(False)

    # -- telling ------------------------------------------------------------------------------------

    def _changed(self, name: str, value: object, typed: bool) -> None:
        sheet, piece = self._sheet, self._piece
        if sheet is None:
            return
        if piece is None:
            changed = _changed_sheet(sheet, name, value)
            if changed is None:
                # At least one version there is.
                self.form.show_values(_values_of_sheet(sheet))
                return
            self._sheet = changed
            self.sheet_changed.emit(translate("Gavotte", "Change the sheet"), changed, f"/{name}" if typed else "")
            return
        now = _changed_piece(piece, name, value)
        if now != piece:
            self._piece = now
            words = translate("Gavotte", "Change “{piece}”").format(piece=said(KIND_WORDS[kind_of(piece)]))
            self.piece_changed.emit(words, now, f"{piece.id}/{name}" if typed else "")


def _same(words: Sequence[str]) -> list[tuple[str, object]]:
    return [(word, word) for word in words]


def _words(table: dict[ChoiceT, str]) -> list[tuple[str, object]]:
    return [(said(words), value) for value, words in table.items()]


def _text_tip() -> str:
    return translate("Gavotte", "An empty line begins a new paragraph")


def _markup_words() -> str:
    return translate(
        "Gavotte",
        "An empty line begins a paragraph, **two stars** make words bold, notes and chords in {braces} are named for "
        "whoever reads: {G7} is A7 for B♭ instruments.",
    )


def _values_of_sheet(sheet: TeachingSheet) -> dict[str, object]:
    names = ("title", "subtitle", "rights", "header", "paper", "staff", "contents")
    values: dict[str, object] = {name: getattr(sheet, name) for name in names}
    return {**values, **{f"{_VERSION}{version}": version in sheet.versions for version in Version}}


def _changed_sheet(sheet: TeachingSheet, name: str, value: object) -> TeachingSheet | None:
    """The sheet with another value of a field; None where it can't be."""
    if not name.startswith(_VERSION):
        return replace(sheet, **{name: value})  # type: ignore[arg-type]
    wanted = {*sheet.versions, Version(name.removeprefix(_VERSION))}
    if not value:
        wanted.discard(Version(name.removeprefix(_VERSION)))
    return replace(sheet, versions=tuple(version for version in Version if version in wanted)) if wanted else None


def _values_of_piece(piece: Piece) -> dict[str, object]:
    values: dict[str, object] = {name: getattr(piece, name) for name in piece.__struct_fields__}
    shown = values.get("shown")
    if isinstance(shown, msgspec.Struct):
        values |= {f"{_SHOWN}{name}": getattr(shown, name) for name in shown.__struct_fields__}
    return values


def _changed_piece(piece: Piece, name: str, value: object) -> Piece:
    """The piece with another value of a field; first and last bar stay in order."""
    if name.startswith(_SHOWN):
        assert not isinstance(piece, Words | NewPage | Picture | Scales)
        shown = msgspec.structs.replace(piece.shown, **{name.removeprefix(_SHOWN): value})
        return msgspec.structs.replace(piece, shown=shown)
    changes: dict[str, object] = {name: value}
    if isinstance(piece, Bars | Question | Scales) and isinstance(value, int):
        if name == "first" and value > piece.last:
            changes["last"] = value
        if name == "last" and value < piece.first:
            changes["first"] = value
    return msgspec.structs.replace(piece, **changes)
