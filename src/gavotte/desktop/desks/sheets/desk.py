"""The Sheets desk: what do I hand on? The pieces of a sheet, what is said of the chosen one, and the sheet's pages."""

from __future__ import annotations

import json
from collections.abc import Callable
from functools import partial

from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QAction, QUndoStack
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QMenu, QPushButton, QSplitter, QToolButton, QVBoxLayout, QWidget

from gavotte.desktop.command import Command
from gavotte.desktop.desk.desk import Desk, DeskKind, Hint
from gavotte.desktop.desk.studio import Studio
from gavotte.desktop.desk.updates import Update
from gavotte.desktop.desks.sheets.commands import sheets_commands
from gavotte.desktop.desks.sheets.handing import Handing
from gavotte.desktop.desks.sheets.making import PIECES, TEMPLATES, Making
from gavotte.desktop.desks.sheets.outline import THE_SHEET, Outline
from gavotte.desktop.desks.sheets.pages_view import PagesView
from gavotte.desktop.desks.sheets.piece_form import PieceForm
from gavotte.desktop.desks.sheets.showing import Showing
from gavotte.desktop.desks.sheets.sounding import Sounding
from gavotte.desktop.desks.sheets.words import VERSION_WORDS, piece_name
from gavotte.desktop.errands.open_sheet import ToBePutOn
from gavotte.desktop.errands.to_practise import ToBePractised
from gavotte.desktop.paper.sheet import Sheet
from gavotte.desktop.playback.playing import Played
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import QT_TRANSLATE_NOOP, said, translate
from gavotte.desktop.widgets.choice import Choice
from gavotte.desktop.widgets.header import Header, rule
from gavotte.desktop.widgets.nothing_here import NothingHere
from gavotte.desktop.words import counted
from gavotte.formats.errors import FormatError
from gavotte.library.errors import LibraryError
from gavotte.sheets.pieces import Piece
from gavotte.sheets.sheet import SheetSource, TeachingSheet, Version, exchanged, moved, source_of, with_source, without
from gavotte.solo.document import Solo

_OUTLINE, _VIEW, _FORM = 250, 600, 300


class SheetsDesk(Desk):
    """``outline`` lists the pieces, ``form`` has what is said of the chosen one, ``view`` shows the pages."""

    kind = DeskKind("sheets", QT_TRANSLATE_NOOP("Gavotte", "Sheets"), "F11", follows=Update.LIBRARY)

    def __init__(self, studio: Studio) -> None:
        super().__init__(studio)
        self.outline, self.form, self.view = Outline(), PieceForm(), PagesView()
        self.showing = Showing(studio.engraver, studio.activities, self)
        self.sounding = Sounding(studio.activities, self)
        self.making = Making(studio, self._behind, self)
        self.handing = Handing(studio, self.showing, self)
        self.sheets = QPushButton(translate("Gavotte", "Sheets"))
        self.hand = QPushButton(translate("Gavotte", "Hand on…"))
        self.hand.setObjectName("primary")
        self.version = Choice()
        self.version.setAccessibleName(translate("Gavotte", "Looked at for"))
        self.version.setSizeAdjustPolicy(Choice.SizeAdjustPolicy.AdjustToContents)
        self.version.setToolTip(translate("Gavotte", "For whom the pages are shown"))
        self.add, self.off = QPushButton(translate("Gavotte", "Add…")), QPushButton(translate("Gavotte", "Take off"))
        self.earlier, self.later = QToolButton(), QToolButton()
        self.place = QLabel()
        self._head = Header(self.sheets, self.version, self.hand)
        self._body = QWidget()
        self._begin_buttons = [QPushButton(said(template.words)) for template in TEMPLATES]
        self._nothing = NothingHere(
            translate("Gavotte", "There is no sheet yet."),
            translate("Gavotte", "Put together what others play from and learn from. Begin with a template:"),
            *self._begin_buttons,
        )
        self._chosen = THE_SHEET
        self._wanted = ""
        self._sheet_before = ""
        self._checked: object = None
        self._is_open_once = False
        self._known_pieces: tuple[str, frozenset[str]] = ("", frozenset())
        self._reading = object()
        self._lay_out()
        self._connect()

    def _lay_out(self) -> None:
        for button, arrow, name in (
            (self.earlier, Qt.ArrowType.UpArrow, translate("Gavotte", "Earlier")),
            (self.later, Qt.ArrowType.DownArrow, translate("Gavotte", "Later")),
        ):
            button.setObjectName("transportButton")
            button.setArrowType(arrow)
            button.setAccessibleName(name)
        for begin, template in zip(self._begin_buttons, TEMPLATES, strict=True):
            begin.setToolTip(said(template.about))
        tools = QHBoxLayout()
        tools.setContentsMargins(12, 8, 12, 8)
        tools.setSpacing(6)
        tools.addWidget(self.add)
        tools.addStretch(1)
        tools.addWidget(self.earlier)
        tools.addWidget(self.later)
        tools.addWidget(self.off)
        left = QWidget()
        left.setObjectName("chrome")
        column = QVBoxLayout(left)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(tools)
        column.addWidget(rule())
        column.addWidget(self.outline, 1)
        middle = QWidget()
        pages = QVBoxLayout(middle)
        pages.setContentsMargins(0, 0, 0, 0)
        pages.setSpacing(0)
        pages.addWidget(self.view, 1)
        self.place.setObjectName("quietBody")
        self.place.setContentsMargins(16, 4, 16, 4)
        pages.addWidget(rule())
        pages.addWidget(self.place)
        split = QSplitter(Qt.Orientation.Horizontal)
        for part, stretch in ((left, 0), (middle, 1), (self.form, 0)):
            split.addWidget(part)
            split.setStretchFactor(split.count() - 1, stretch)
        split.setChildrenCollapsible(False)
        split.setSizes([_OUTLINE, _VIEW, _FORM])
        body = QVBoxLayout(self._body)
        body.setContentsMargins(0, 0, 0, 0)
        body.addWidget(split)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(self._head)
        layout.addWidget(rule())
        layout.addWidget(self._body, 1)
        layout.addWidget(self._nothing, 1)

    def _connect(self) -> None:
        sheets = self.studio.sheets
        sheets.changed.connect(self._sheet_changed)
        sheets.listed.connect(self.state_changed)
        self.outline.chosen.connect(self.choose)
        self.outline.entered.connect(self._into_fields)
        self.form.sheet_changed.connect(sheets.edit)
        self.form.piece_changed.connect(self._exchange)
        self.form.renew_wanted.connect(self.renew_source)
        self.view.pointed.connect(lambda number: self.choose(self.showing.piece_of(number), False))
        self.view.turned.connect(self._show_place)
        self.showing.shown.connect(self._pages_shown)
        self.showing.failed.connect(self.studio.asks.notice)
        self.sounding.changed.connect(self._music_changed)
        self.version.activated.connect(lambda _: self._lay_pages())
        self.sheets.clicked.connect(lambda: self.choose_sheet())
        self.hand.clicked.connect(lambda: self.hand_on())
        self.add.clicked.connect(lambda: self.choose_what_to_add())
        self.off.clicked.connect(lambda: self.remove())
        self.earlier.clicked.connect(lambda: self.move_piece(-1))
        self.later.clicked.connect(lambda: self.move_piece(1))
        for button, template in zip(self._begin_buttons, TEMPLATES, strict=True):
            button.clicked.connect(lambda _, name=template.name: self.making.begin(name))

    # -- as a desk ----------------------------------------------------------------------------------

    def commands(self) -> tuple[Command, ...]:
        return sheets_commands(self)

    def focus(self) -> QWidget:
        return self.outline if self.studio.sheets.sheet is not None else self._begin_buttons[0]

    def beside(self) -> QWidget | None:
        return next(iter(self.form.form.fields.values()), None)

    @property
    def undo_stack(self) -> QUndoStack:
        return self.studio.sheets.undo_stack

    def played(self) -> Played:
        return Played(None, lambda: self.sounding.music, tuple, (self.outline, self.view))

    def _music_changed(self) -> None:
        if self.isVisible():
            self.studio.playing.music_changed()
        self.state_changed.emit()

    def state(self) -> str:
        number = self.studio.library.sheet_count()
        return counted(number, "sheet") if number else ""

    def sheet(self) -> Sheet | None:
        return None

    @property
    def has_sheet(self) -> bool:
        return False

    def hand_on(self) -> bool:
        # What was typed last belongs to it.
        self.form.finish()
        self.handing.choose()
        return True

    def print_out(self) -> bool:
        self.form.finish()
        self.handing.choose_printer()
        return True

    @property
    def has_own_paper(self) -> bool:
        return self.studio.sheets.sheet is not None

    def to_sheet(self) -> ToBePutOn | None:
        return None

    @property
    def has_to_practise(self) -> bool:
        return False

    def to_practise(self) -> ToBePractised | None:
        return None

    def hints(self) -> tuple[str, tuple[Hint, ...]]:
        return translate("Gavotte", "At the sheet"), (
            ("↑ ↓", translate("Gavotte", "Piece above, piece below")),
            (translate("Gavotte", "Enter"), translate("Gavotte", "Into the fields of the piece")),
            ("← →", translate("Gavotte", "On the pages: page before, next page")),
            (translate("Gavotte", "Ctrl + wheel"), translate("Gavotte", "Larger, smaller")),
        )

    def zoom(self, by: int) -> None:
        self.view.set_zoom(by)

    def set_palette(self, palette: Palette) -> None:
        self.outline.set_palette(palette)
        self.view.set_palette(palette)

    def arrive(self, item: str, view: str) -> None:
        """Show a piece (its id) of the open sheet."""
        self.choose(item)

    def enter(self) -> None:
        if not self._is_open_once and self.studio.sheets.sheet is None:
            self.studio.sheets.open_latest(self._sheet_before)
        self._is_open_once = True
        self._show()

    def leave(self) -> None:
        self.form.finish()

    def finish(self) -> None:
        self.form.finish()

    def close_down(self) -> None:
        self.showing.stop()
        self.sounding.stop()

    def remembered(self) -> str:
        sheet_id = self.studio.sheets.sheet_id or self._sheet_before
        return json.dumps([sheet_id, self._chosen, str(self.showing.version)])

    def recall(self, remembered: str) -> None:
        try:
            kept = json.loads(remembered)
        except ValueError:
            return
        if isinstance(kept, list) and len(kept) == 3 and all(isinstance(part, str) for part in kept):
            self._sheet_before, self._chosen = kept[0], kept[1]
            if kept[2] in set(Version):
                self.showing.version = Version(kept[2])

    def show_updates(self, changes: Update) -> None:
        # Another library may have come in the place of the one before.
        sheets = self.studio.sheets
        if sheets.sheet is None and self.isVisible():
            sheets.open_latest()
        self._check_source(anew=True)
        self.state_changed.emit()

    # -- what is shown ------------------------------------------------------------------------------

    @property
    def piece(self) -> Piece | None:
        """The piece that is worked on, None where that is the sheet as a whole."""
        sheet = self.studio.sheets.sheet
        return None if sheet is None or self._chosen == THE_SHEET else sheet.piece(self._chosen)

    def _sheet_changed(self) -> None:
        if self.isVisible():
            self._show()
        self.state_changed.emit()

    def _show(self) -> None:
        """Show the sheet as it is now."""
        sheet = self.studio.sheets.sheet
        for part in (self._body, self.version, self.hand):
            part.setVisible(sheet is not None)
        self._nothing.setVisible(sheet is None)
        self._head.title.setText(sheet.title if sheet is not None else translate("Gavotte", "Sheets"))
        self._head.about.setText("")
        if sheet is None:
            self.form.show_sheet(None, None)
            self.showing.show(None, self.showing.version)
            self.sounding.show(None, "")
            return
        self._choose_new(sheet)
        self._chosen = self.outline.show_sheet(sheet, self._chosen)
        self._show_versions(sheet)
        self._show_piece()
        self._lay_pages()

    def _choose_new(self, sheet: TeachingSheet) -> None:
        """What has just been added is worked on."""
        before, known = self._known_pieces
        ids = [piece.id for piece in sheet.pieces]
        fresh = [piece_id for piece_id in ids if piece_id not in known]
        if before == self.studio.sheets.sheet_id and fresh:
            self._chosen = self._wanted = fresh[0]
        self._known_pieces = self.studio.sheets.sheet_id, frozenset(ids)

    def _show_versions(self, sheet: TeachingSheet) -> None:
        offered = sheet.versions
        now = [self.version.itemData(index) for index in range(self.version.count())]
        if now != list(offered):
            self.version.clear()
            for version in offered:
                self.version.addItem(said(VERSION_WORDS[version]), version)
        wanted = self.showing.version if self.showing.version in offered else offered[0]
        self.version.setCurrentIndex(self.version.findData(wanted))
        self.version.setVisible(len(offered) > 1)

    def _lay_pages(self) -> None:
        sheet = self.studio.sheets.sheet
        if sheet is not None:
            self.showing.show(sheet, Version(self.version.currentData()))

    def _pages_shown(self) -> None:
        self.view.show_pages(self.showing.pages)
        self.view.choose(self.showing.elements_of(self._chosen), bool(self._wanted))
        self._wanted = ""
        self.outline.show_places(self.showing.page_of)
        self._show_place()

    def _show_place(self) -> None:
        words = translate("Gavotte", "Page {page} of {count}")
        self.place.setText(words.format(page=self.view.index + 1, count=self.view.count) if self.view.count else "")

    def _show_piece(self) -> None:
        piece = self.piece
        self.form.show_sheet(self.studio.sheets.sheet, piece)
        self.sounding.show(self.studio.sheets.sheet, self._chosen)
        for button in (self.off, self.earlier, self.later):
            button.setEnabled(piece is not None)
        self._check_source()

    def choose(self, piece_id: str, into_sight: bool = True) -> None:
        """Work on a piece (by its id), or on the sheet as a whole for ""."""
        self.form.finish()
        self._chosen = piece_id
        self._wanted = piece_id if into_sight else ""
        sheet = self.studio.sheets.sheet
        if sheet is None or not self.isVisible():
            return
        self._chosen = self.outline.show_sheet(sheet, piece_id)
        self.outline.show_places(self.showing.page_of)
        self._show_piece()
        self.view.choose(self.showing.elements_of(self._chosen), into_sight)
        if self._chosen == THE_SHEET and into_sight:
            self.view.turn_to(0)
        self.state_changed.emit()

    def _into_fields(self) -> None:
        beside = self.beside()
        if beside is not None:
            beside.setFocus()

    def _behind(self) -> str:
        """Behind which piece something is added: behind the chosen one, else at the end."""
        return self._chosen

    # -- edits --------------------------------------------------------------------------------------

    def _exchange(self, words: str, piece: Piece, typed: str) -> None:
        sheet = self.studio.sheets.sheet
        if sheet is not None:
            self.studio.sheets.edit(words, exchanged(sheet, piece), typed)

    def move_piece(self, by: int) -> None:
        """The chosen piece earlier or later."""
        sheet, piece = self.studio.sheets.sheet, self.piece
        if sheet is not None and piece is not None:
            self._wanted = piece.id
            words = translate("Gavotte", "Move “{piece}”").format(piece=piece_name(piece))
            self.studio.sheets.edit(words, moved(sheet, piece.id, by))

    def remove(self) -> None:
        """Take the chosen piece off the sheet."""
        sheet, piece = self.studio.sheets.sheet, self.piece
        if sheet is None or piece is None:
            return
        self.form.finish()
        place = sheet.pieces.index(piece)
        others = [other.id for other in sheet.pieces if other.id != piece.id]
        self._chosen = others[min(place, len(others) - 1)] if others else THE_SHEET
        words = translate("Gavotte", "Take “{piece}” off").format(piece=piece_name(piece))
        self.studio.sheets.edit(words, without(sheet, piece.id))

    # -- sources ------------------------------------------------------------------------------------

    def _source(self) -> SheetSource | None:
        """The source of the chosen piece, where the library has its solo."""
        sheet, piece = self.studio.sheets.sheet, self.piece
        if sheet is None or piece is None or not source_of(piece):
            return None
        source = sheet.source(source_of(piece))
        return source if source.solo_id else None

    def _check_source(self, anew: bool = False) -> None:
        """Look, beside the work, whether the chosen piece's solo is another one by now."""
        source = self._source()
        if source is None or (source is self._checked and not anew):
            if source is None:
                self.form.show_stale(False)
            return
        self._checked = source
        self._with_solo_now(source, lambda now: self.form.show_stale(now is not None and now != source.solo))

    def renew_source(self) -> None:
        """Take the chosen piece's solo as it is now; all pieces taken from it follow."""
        source = self._source()
        if source is not None:
            self._with_solo_now(source, partial(self._take_anew, source))

    def _take_anew(self, source: SheetSource, now: Solo | None) -> None:
        sheet = self.studio.sheets.sheet
        if now is None:
            self.studio.asks.notice(translate("Gavotte", "The solo is no longer in the library; the sheet keeps it."))
        elif sheet is not None and source in sheet.sources:
            words = translate("Gavotte", "Take “{title}” as it is now").format(title=now.title)
            self.studio.sheets.edit(words, with_source(sheet, SheetSource(source.id, source.solo_id, now)))

    def _with_solo_now(self, source: SheetSource, then: Callable[[Solo | None], None]) -> None:
        """Read, beside the work, the solo a source was taken from; None where it is gone."""
        held = self.studio.opening.at_hand(source.solo_id)
        if held is not None:
            then(held)
            return
        library = self.studio.library

        def read() -> Solo | None:
            try:
                with library.read_apart() as reader:
                    return reader.solo(source.solo_id)
            except (LibraryError, FormatError):
                return None

        self.studio.activities.cancel(self._reading)
        self.studio.activities.beside(self._reading, read, then, lambda error: self.studio.asks.notice(str(error)))

    # -- menus --------------------------------------------------------------------------------------

    def choose_what_to_add(self) -> None:
        """Show what can be added."""
        menu = QMenu(self)
        for number, addition in enumerate(self.making.additions()):
            if number == PIECES:
                menu.addSeparator()
            self._entry(menu, addition.words, addition.run)
        self._pop_up(menu, self.add)

    def choose_sheet(self) -> None:
        """Show the sheets there are, and what a new one can begin with."""
        menu = QMenu(self)
        sheets = self.studio.sheets
        self.form.finish()
        try:
            entries = sheets.entries()
        except LibraryError as error:
            self.studio.asks.notice(str(error))
            return
        for entry in entries[:30]:
            action = self._entry(menu, entry.title.replace("&", "&&"), partial(sheets.open, entry.id))
            action.setCheckable(True)
            action.setChecked(entry.id == sheets.sheet_id)
        menu.addSeparator()
        for template in TEMPLATES:
            words = translate("Gavotte", "Begin: {template}").format(template=said(template.words))
            action = self._entry(menu, words, partial(self.making.begin, template.name))
            action.setToolTip(said(template.about))
        if sheets.sheet is not None:
            menu.addSeparator()
            self._entry(menu, translate("Gavotte", "The same once more"), self.making.duplicate)
            self._entry(menu, translate("Gavotte", "Delete this sheet"), sheets.delete)
        self._pop_up(menu, self.sheets)

    @staticmethod
    def _entry(menu: QMenu, words: str, run: Callable[[], object]) -> QAction:
        action = menu.addAction(words)
        assert action is not None
        action.triggered.connect(lambda _: run())
        return action

    def _pop_up(self, menu: QMenu, at: QWidget) -> None:
        menu.aboutToHide.connect(menu.deleteLater)
        menu.popup(at.mapToGlobal(QPoint(0, at.height())))
