"""The Vocabulary desk: what is worth keeping, and where else does it occur? What answers a search, the chosen lick,
what is said of it, and its relatives.
"""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction
from functools import partial

from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from gavotte.desktop.command import Command, shown_keys
from gavotte.desktop.desk.desk import Desk, DeskKind, Hint, Walked, page_hints
from gavotte.desktop.desk.studio import Studio
from gavotte.desktop.desk.updates import Update
from gavotte.desktop.desks.vocabulary.about_panel import AboutPanel
from gavotte.desktop.desks.vocabulary.all_solos import AllSolos
from gavotte.desktop.desks.vocabulary.commands import vocabulary_commands
from gavotte.desktop.desks.vocabulary.in_and_out import InAndOut
from gavotte.desktop.desks.vocabulary.lick_list import Row, notes_of
from gavotte.desktop.desks.vocabulary.lick_view import LickView
from gavotte.desktop.desks.vocabulary.looking import Looking
from gavotte.desktop.desks.vocabulary.original import Original
from gavotte.desktop.desks.vocabulary.overview import Overview
from gavotte.desktop.desks.vocabulary.places_panel import PlacesPanel
from gavotte.desktop.desks.vocabulary.players_panel import PlayersPanel
from gavotte.desktop.desks.vocabulary.relatives_panel import RelativesPanel
from gavotte.desktop.desks.vocabulary.search_panel import SearchPanel, known_tags
from gavotte.desktop.errands.open_sheet import ToBePutOn
from gavotte.desktop.errands.to_practise import ToBePractised
from gavotte.desktop.paper.sheet import Sheet
from gavotte.desktop.playback.playing import Played
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import QT_TRANSLATE_NOOP, translate
from gavotte.desktop.widgets.header import rule
from gavotte.desktop.widgets.tabbed import Tabbed
from gavotte.desktop.words import counted
from gavotte.formats.errors import FormatError
from gavotte.library.errors import LibraryError
from gavotte.library.lines import EMPTY
from gavotte.library.reader import LickEntry, SoloEntry
from gavotte.library.relatives import Relative
from gavotte.library.searching import answers, every_lick
from gavotte.practice.item import Kind
from gavotte.solo.document import Solo
from gavotte.vocabulary.corpus import bars_words
from gavotte.vocabulary.following import Link
from gavotte.vocabulary.lick import Lick
from gavotte.vocabulary.query import EXAMPLES, Query
from gavotte.workshop.laid import together
from gavotte.workshop.stacked import Block, stacked
from gavotte.writing.placing import first_note_from

_PANEL_HEIGHT = 284
_FEW_LICKS, _MOMENT_MS = 3000, 70
_SEVERAL, _MOST_LAID = 2, 40
_NOTHING_ASKED = Query()
_FIND = "find:"
"""What a view begins with that is a query."""
_LIKE = "like"
"""The view of the selected notes with their relatives."""
_SETTLED_MS = 160
"""How long a lick is looked at before its relatives are looked for."""


class VocabularyDesk(Desk):
    """``search`` lists what answers, ``view`` shows the chosen one, ``about`` and ``related`` what there is to say."""

    kind = DeskKind(
        "vocabulary", QT_TRANSLATE_NOOP("Gavotte", "Vocabulary"), "F6", follows=Update.LIBRARY | Update.VIEW
    )

    def __init__(self, studio: Studio) -> None:
        super().__init__(studio)
        self._lick_id: str | None = None
        self._wanted: str | None = None
        self._wants_selection = False
        self._is_apart = False
        self._licks: dict[str, LickEntry] = {}
        self._solos: dict[str, SoloEntry] = {}
        self.search = SearchPanel()
        self.view = LickView(studio.engraver, studio.view)
        self.about, self.related, self.places = AboutPanel(), RelativesPanel(), PlacesPanel()
        self.panels = Tabbed(0)
        self.panels.setFixedHeight(_PANEL_HEIGHT)
        self.panels.add_pages(
            (
                ("about", translate("Gavotte", "About it"), self.about),
                ("relatives", translate("Gavotte", "Relatives"), self.related),
                ("places", translate("Gavotte", "Places"), self.places),
            )
        )
        self.panels.tabs["places"].setVisible(False)
        self.dictionary = PlayersPanel()
        self.overview = Overview(studio.activities, studio.indexer, self)
        self.indexer = studio.indexer
        self.looking = Looking(studio.library, studio.activities, self.indexer, self)
        self.in_and_out = InAndOut(studio, self.search, self.view, self.looking, self)
        self.all_solos = AllSolos(self.search, self.places, self.dictionary, self.overview, self.indexer, self)
        self.original = Original(studio.library, studio.settings, studio.activities, self)
        self._asked = QTimer(self)
        self._asked.setSingleShot(True)
        self._settled = QTimer(self)
        self._settled.setSingleShot(True)
        self._settled.setInterval(_SETTLED_MS)
        self._right = QWidget()
        right = QVBoxLayout(self._right)
        right.setContentsMargins(0, 0, 0, 0)
        right.setSpacing(0)
        right.addWidget(self.view, 1)
        right.addWidget(rule())
        right.addWidget(self.panels)
        layout = QHBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(self.search)
        layout.addWidget(self._right, 1)
        layout.addWidget(self._nothing_kept(), 1)
        layout.addWidget(self._blank, 1)
        layout.addWidget(self._nothing_found(), 1)
        layout.addWidget(self.dictionary, 1)
        # What the commands and the window know by these names.
        self.licks, self.page, self.name, self.source = (
            self.search.licks,
            self.view.page,
            self.view.name,
            self.view.source,
        )
        self.own_key, self.all_keys, self.order = self.view.own_key, self.view.all_keys, self.view.order
        self._connect()

    def _connect(self) -> None:
        view, about, related = self.view, self.about, self.related
        self.search.asked.connect(self._answer_soon)
        self._asked.timeout.connect(self._show_answers)
        self.search.keep_all.clicked.connect(self.in_and_out.keep_places)
        self.licks.row_chosen.connect(lambda _: self._choose())
        view.music_changed.connect(self._music_changed)
        view.renamed.connect(lambda name: self._change(translate("Gavotte", "Rename the lick"), name=name))
        view.source_wanted.connect(self._go_to_source)
        view.keep_wanted.connect(self.keep_place)
        view.page.zoom_wanted.connect(self.studio.view.zoom_by)
        about.status_wanted.connect(
            lambda status: self._change(translate("Gavotte", "Change the status"), status=status)
        )
        about.rating_wanted.connect(lambda rating: self._change(translate("Gavotte", "Give stars"), rating=rating))
        about.tags_wanted.connect(lambda tags: self._change(translate("Gavotte", "Change the tags"), tags=tags))
        about.words_wanted.connect(
            lambda words: self._change(translate("Gavotte", "Write about the lick"), words=words)
        )
        about.follow_wanted.connect(self.follow_solo)
        related.play_wanted.connect(partial(self.play_relative, at_once=False))
        related.both_wanted.connect(partial(self.play_relative, at_once=True))
        related.go_wanted.connect(self.go_to_relative)
        self.search.mode_changed.connect(self._show_mode)
        self.all_solos.row_wanted.connect(self._show_row)
        self.all_solos.nothing_wanted.connect(partial(self._show_nothing_of, False))
        self.all_solos.player_wanted.connect(partial(self._show_nothing_of, True))
        self.all_solos.query_wanted.connect(self._ask)
        self.overview.failed.connect(self.studio.asks.notice)
        self.places.keep_wanted.connect(self.keep_place)
        self.in_and_out.kept.connect(self._kept)
        self.search.played.heard.connect(self.studio.playing.hear_pitch)
        view.original.clicked.connect(self.play_original)
        self.original.failed.connect(self.studio.asks.notice)
        self._settled.timeout.connect(self._look)
        self.indexer.changed.connect(self._index_changed)
        self.indexer.failed.connect(self.studio.asks.notice)
        self.looking.relatives_found.connect(self._show_relatives)
        self.looking.link_found.connect(self._show_link)
        self.looking.under_found.connect(self._show_under)
        self.licks.selection_changed.connect(self._lay_selected)
        self.looking.failed.connect(self.studio.asks.notice)

    # -- as a desk ----------------------------------------------------------------------------------

    def commands(self) -> tuple[Command, ...]:
        return vocabulary_commands(self)

    def focus(self) -> QWidget:
        return self.search.focus_of_mode() if self._licks or self._solos else self

    def beside(self) -> QWidget:
        return self.page

    def escape(self) -> bool:
        if self.view.lift():
            return True
        if self._is_asked:
            self.search.line.clear()
            self.search.choose_context("")
            self.licks.setFocus()
            return True
        return False

    def pages(self) -> tuple[QWidget, ...]:
        return (self.page,)

    def walked(self) -> Walked | None:
        sheet = self.view.sheet
        if self.view.lick is None or sheet is None or not sheet.solo.notes:
            return None
        solo = sheet.solo
        current = next((note for note in self.view.selected if note in solo.places), solo.notes[0].id)
        return Walked(solo, solo.note(current).onset, partial(self._go_to, solo))

    def _go_to(self, solo: Solo, place: Fraction) -> None:
        note = first_note_from(solo, place)
        if note is not None:
            self.view.select(note.id, note.id)

    def played(self) -> Played:
        # The list of licks has no use for the space bar of its own.
        at = (self.licks, self.search.cells.cells, self.related.relatives, self.places.places)
        return Played(self.page, self.concert_solo, self.selected, at)

    def state(self) -> str:
        _, number = self.studio.library.counts()
        return counted(number, "lick") if number else ""

    def zoom(self, by: int) -> None:
        self.studio.view.zoom_by(by)

    @property
    def has_to_practise(self) -> bool:
        return self.view.lick is not None

    def to_practise(self) -> ToBePractised | None:
        lick = self.view.lick
        return None if lick is None else ToBePractised(lick.name, Kind.LICK, lick.solo, self._lick_id or "")

    def to_sheet(self) -> ToBePutOn | None:
        """The lick that is shown, as it is shown: by itself, with what is laid under it, or in its keys."""
        piece = self.view.as_piece()
        return None if piece is None else ToBePutOn(piece.heading, (piece,))

    def hints(self) -> tuple[str, tuple[Hint, ...]]:
        return page_hints()

    @property
    def has_sheet(self) -> bool:
        return self.has_lick

    def arrive(self, item: str, view: str) -> None:
        if item:
            self._wanted, self._is_apart = item, False
            if not self.licks.select_id(item):
                self.refresh()
        if view == "keys":
            self.all_keys.click()
        elif view.startswith(_FIND):
            self._ask(view.removeprefix(_FIND))
        elif view == _LIKE:
            self._wants_selection = True

    def remembered(self) -> str:
        lick = self.licks.current_id() or self._wanted or ""
        shown = "keys" if self.all_keys.isChecked() else "laid" if self.view.laid.isChecked() else "own"
        return " ".join((lick, shown, str(self.order.currentIndex()), self.panels.page_shown))

    def recall(self, remembered: str) -> None:
        parts = [*remembered.split(" "), "", "", "", ""]
        self._wanted = parts[0] or None
        button = {"keys": self.all_keys, "laid": self.view.laid}.get(parts[1], self.own_key)
        button.setChecked(True)
        if parts[2].isdigit() and int(parts[2]) < self.order.count():
            self.order.setCurrentIndex(int(parts[2]))
        if parts[3] in self.panels.tabs:
            self.panels.show_page(parts[3])

    def show_updates(self, changes: Update) -> None:
        if changes & Update.LIBRARY:
            self.refresh()
        if changes & Update.VIEW:
            self.page.set_zoom(self.studio.view.zoom)
            self.page.set_tablature(self.studio.view.tablature)
            self.view.show_again()

    def enter(self) -> None:
        if self._wants_selection:
            self._wants_selection = False
            self.show_selection()

    def leave(self) -> None:
        self.about.keep()
        self.original.stop()
        self.search.keys.setChecked(False)

    def close_down(self) -> None:
        self.original.stop()
        self.search.played.end()

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        for part in (self.search, self.view, self.related, self.places, self.dictionary):
            part.set_palette(palette)

    def _nothing_kept(self) -> QWidget:
        self._blank = QWidget()
        self._empty = QWidget()
        layout = QVBoxLayout(self._empty)
        layout.setAlignment(Qt.AlignmentFlag.AlignCenter)
        layout.setSpacing(12)
        title = QLabel(translate("Gavotte", "No licks kept yet"))
        title.setObjectName("title")
        text = QLabel(
            translate(
                "Gavotte",
                "At the Label desk ({label}), select a few notes (click the first, Shift-click the "
                "last;\nor Shift and the arrows) and press K. The lick is named by its functions and written out in "
                "all twelve keys here.",
            ).format(label=shown_keys("F4"))
        )
        text.setObjectName("quietBody")
        text.setAlignment(Qt.AlignmentFlag.AlignCenter)
        layout.addWidget(title, 0, Qt.AlignmentFlag.AlignCenter)
        layout.addWidget(text, 0, Qt.AlignmentFlag.AlignCenter)
        return self._empty

    def _nothing_found(self) -> QWidget:
        self._examples = QWidget()
        layout = QVBoxLayout(self._examples)
        layout.setAlignment(Qt.AlignmentFlag.AlignCenter)
        layout.setSpacing(12)
        title = QLabel(translate("Gavotte", "Ask for instance"))
        title.setObjectName("title")
        layout.addWidget(title, 0, Qt.AlignmentFlag.AlignCenter)
        for example in EXAMPLES:
            button = QPushButton(example)
            button.setObjectName("link")
            button.setToolTip(translate("Gavotte", "Ask for this"))
            button.clicked.connect(partial(self.search.line.setText, example))
            layout.addWidget(button, 0, Qt.AlignmentFlag.AlignCenter)
        return self._examples

    # -- what answers -------------------------------------------------------------------------------

    def refresh(self) -> None:
        """Read anew what there is; the lick that was asked for, or is there, stays the chosen one."""
        self._licks = {lick.id: lick for lick in self.studio.library.licks()}
        self._solos = {solo.id: solo for solo in self.studio.library.solos()}
        self.indexer.renew()
        self.search.show_library(tuple(self._licks.values()), tuple(self._solos.values()))
        self.all_solos.solos = self._solos
        there = bool(self._licks or self._solos)
        self.search.setVisible(there)
        self._show_answers()
        self.state_changed.emit()

    def _index_changed(self) -> None:
        if self._is_asked or self._wanted is not None:
            self._show_answers()
        else:
            # The same licks, whose lines are known now.
            index = self.indexer.index
            self.licks.notes_of = lambda row: notes_of(index, row)
            self.licks.paint_again()
        self._settled.start()
        if self.search.mode != "licks":
            self._show_mode()

    def _answer_soon(self) -> None:
        """Answer at once; with very many licks as soon as nothing more is typed for a moment."""
        if len(self._licks) <= _FEW_LICKS:
            self._show_answers()
        else:
            self._asked.start(_MOMENT_MS)

    def _show_answers(self) -> None:
        search = self.search
        if search.line.error:
            # What answered before stays until the line can be read.
            search.show_error()
            return
        query, context, index = search.line.query, search.context, self.indexer.index
        still_going = False
        if query is None and not context:
            found = every_lick(tuple(self._licks.values()))
        else:
            from_line = query or _NOTHING_ASKED
            asked = replace(from_line, context=context or from_line.context)
            words = self.studio.library.licks_with_words(asked.words) if asked.words else frozenset()
            found = answers(index, asked, self._licks, self._solos, words)
            some = found.licks or found.places
            still_going = not self.indexer.is_current and (index is EMPTY or not some)
        search.show_answers(found, index, self._licks, self._solos, still_going)
        # What was just kept is found by a search once the index knows it.
        if self._wanted is not None and (self.licks.select_id(self._wanted) or self.indexer.is_current):
            self._wanted = None
        if search.mode == "licks":
            self._show_current()

    # -- what is listed -----------------------------------------------------------------------------

    def _show_mode(self, _: str = "") -> None:
        """Show what belongs to what is listed now."""
        mode = self.search.mode
        self.panels.tabs["places"].setVisible(mode == "cells")
        if mode == "licks":
            if self.panels.page_shown == "places":
                self.panels.show_page("about")
            self._show_current()
            return
        if mode == "cells":
            self.panels.show_page("places")
        self.all_solos.show(mode)

    def _show_nothing_of(self, player: bool) -> None:
        """Show no lick: a player's dictionary in its stead, or nothing."""
        self._settled.stop()
        self.view.clear()
        self._show_side(self.dictionary if player else self._blank)

    def _ask(self, query: str) -> None:
        """List what answers a query."""
        self._is_apart = False
        self.search.choose_context("")
        self.search.line.setText(query)
        self.search.turn_to("licks")
        self.licks.setFocus()

    def _kept(self, lick_id: str) -> None:
        """A lick that was kept here is looked at."""
        self._wanted, self._is_apart = lick_id, False
        self.search.turn_to("licks")
        self.refresh()

    # -- the chosen one -----------------------------------------------------------------------------

    def _choose(self) -> None:
        """Another row was chosen: what was shown apart from the list is left."""
        self._is_apart = False
        self._show_current()

    def _show_current(self) -> None:
        if self._is_apart:
            # Notes from a page are looked at: what is listed beside them may change.
            self.licks.choose_none()
            return
        row = self.licks.current()
        if row is None:
            self._show_none(None)
        else:
            self._show_row(row)

    def show_selection(self) -> None:
        """Show the selected notes of the open solo as the lick they would be, with their relatives."""
        lick = self.studio.session.lick()
        if lick is None:
            return
        self._is_apart = True
        self.search.turn_to("licks")
        self.panels.show_page("relatives")
        self._show_lick(lick, None)

    def _show_row(self, row: Row) -> None:
        """Show a lick, or a place of a solo as the lick it would be."""
        try:
            if row.is_lick:
                self._show_lick(self.studio.library.lick(row.owner), row.owner)
            elif row.owner in self._solos:
                self.looking.lick_at(self._solos[row.owner], row.first, row.last, self._show_place)
        except (LibraryError, FormatError) as error:
            self._show_none(row.owner if row.is_lick else None)
            self.studio.asks.notice(str(error))

    def _show_place(self, lick: Lick) -> None:
        self._show_lick(lick, None)

    def _show_lick(self, lick: Lick, lick_id: str | None) -> None:
        """Show a lick; ``lick_id`` is None where it is not kept."""
        self._lick_id = lick_id
        is_kept = lick_id is not None
        self._show_side(self._right)
        is_other = lick != self.view.lick
        self.view.show_lick(lick, is_kept=is_kept)
        self.view.keep.setVisible(not is_kept and self.search.mode == "licks")
        self.about.show_lick(lick, known_tags(tuple(self._licks.values())), is_kept)
        if is_other:
            self.related.show_waiting()
        self._settled.start()
        self.state_changed.emit()

    def _show_none(self, lick_id: str | None) -> None:
        """Show no lick, where there is none or the chosen one (id) can't be read."""
        self._lick_id = lick_id
        self._settled.stop()
        self.about.show_lick(None)
        self._show_side(self._empty if not self._licks and not self._is_asked else self._examples)
        self.view.clear()
        self.state_changed.emit()

    @property
    def _is_asked(self) -> bool:
        return bool(self.search.line.text() or self.search.context)

    def _show_side(self, side: QWidget) -> None:
        """Show one of what can stand beside the list."""
        for widget in (self._right, self._empty, self._examples, self.dictionary, self._blank):
            widget.setVisible(widget is side)

    def _music_changed(self) -> None:
        self.studio.playing.music_changed()
        self.state_changed.emit()

    def _look(self) -> None:
        if self.view.lick is not None and self.isVisible():
            self.looking.look(self.view.lick, self._lick_id or "")

    def _show_relatives(self, relatives: tuple[Relative, ...]) -> None:
        line = self.looking.line
        if line is not None:
            self.related.show_relatives(line, relatives, self._named)
            self.panels.show_number("relatives", len(relatives))

    def _show_under(self, licks: tuple[Lick, ...]) -> None:
        """Lay the relatives that were found under the lick, unless others were selected for that."""
        if len(self.licks.selected_ids()) < _SEVERAL:
            self.view.show_under(licks)

    def _lay_selected(self) -> None:
        """Where several licks are selected, they are laid under one another in the relatives' stead."""
        chosen = self.licks.selected_ids()
        if len(chosen) < _SEVERAL or self.search.mode != "licks":
            return
        current = self.licks.current_id()
        others = [name for name in chosen if name != current][:_MOST_LAID]
        self.looking.read(others, lambda licks: self.view.show_under(licks, by_hand=True))

    def _named(self, relative: Relative) -> tuple[str, str]:
        """The name of a relative, and where it comes from."""
        if relative.is_lick and relative.owner in self._licks:
            lick = self._licks[relative.owner]
            return lick.name, lick.source
        solo = self._solos.get(relative.owner)
        bars = bars_words(relative.line.notes, 0, -1)
        if solo is not None and solo.is_head:
            return solo.title, translate("Gavotte", "its head, {bars}").format(bars=bars)
        where = translate("Gavotte", "{bars}, not kept").format(bars=bars)
        return (solo.title if solo is not None else "", ", ".join(filter(None, (solo.player if solo else "", where))))

    def _show_link(self, link: Link | None) -> None:
        words = {
            Link.SAME: translate("Gavotte", "as it stands there"),
            Link.CHANGED: translate("Gavotte", "corrected there since: its notes or chords are others now"),
            Link.GONE: translate("Gavotte", "its notes are no longer there"),
            None: translate("Gavotte", "no longer on the shelf"),
        }[link]
        self.about.show_link(words, link is Link.CHANGED)

    # -- what can be done ---------------------------------------------------------------------------

    def concert_solo(self) -> Solo | None:
        """The music that is shown, in concert pitch."""
        return self.view.concert

    def selected(self) -> tuple[str, ...]:
        """Ids of the selected notes."""
        return self.view.selected

    @property
    def has_lick(self) -> bool:
        """Whether a lick, or a place that could be one, is shown."""
        return self.view.lick is not None

    @property
    def is_kept(self) -> bool:
        """Whether the lick that is shown is in the vocabulary."""
        return self.view.lick is not None and self._lick_id is not None

    def sheet(self) -> Sheet | None:
        """The music as it is shown, for export."""
        sheet = self.view.sheet
        return None if sheet is None else replace(sheet, selected=self.view.selected)

    def turn_to(self, mode: str) -> None:
        """List licks, cells or players."""
        self.search.turn_to(mode)
        self.search.focus_of_mode().setFocus()

    def has_page(self, name: str) -> bool:
        """Whether a panel under the music is there."""
        return self.has_lick and (name != "places" or self.search.mode == "cells")

    def start_search(self) -> None:
        """Go to the line in which is asked for licks."""
        self.search.line.setFocus()
        self.search.line.selectAll()

    def delete_current(self) -> None:
        """Delete the chosen lick; can be undone."""
        if self._lick_id is not None:
            self.studio.edits.delete_lick(self._lick_id)

    def work_on(self) -> None:
        """Take the lick, or the place of a solo, that is shown to the Workshop."""
        if self.view.lick is not None:
            self.studio.bench.send(self.view.lick)

    def keep_place(self) -> None:
        """Keep the place of a solo that is shown as a lick."""
        lick = self.view.lick
        if lick is None or self._lick_id is not None:
            return
        lick = replace(lick, places=self.all_solos.places_of_cell)
        lick_id = self.studio.edits.keep_lick(lick, self.undo_stack)
        if lick_id is not None:
            self._kept(lick_id)
            self.studio.asks.tell(translate("Gavotte", "Kept “{name}”").format(name=lick.name))

    def _change(self, said: str, **values: object) -> None:
        if self._lick_id is not None:
            self.studio.edits.change_lick(self._lick_id, said, values)

    def follow_solo(self) -> None:
        """Take over what was corrected in the lick's solo."""
        lick_id, lick = self._lick_id, self.view.lick
        if lick_id is None or lick is None:
            return
        words = translate("Gavotte", "Follow the solo")
        self.looking.follow(lick, lambda now: self.studio.edits.put_lick(lick_id, words, now))

    def _go_to_source(self) -> None:
        lick = self.view.lick
        if lick is None:
            return
        if lick.source.solo_id in self._solos:
            self.studio.asks.open_solo(lick.source.solo_id)
        else:
            self.studio.asks.notice(translate("Gavotte", "The solo this lick comes from is no longer on the shelf."))

    def play_original(self) -> None:
        """Let the lick be heard as it was played, from the recording."""
        if self.view.lick is not None:
            self.studio.transport.stop()
            self.original.play(self.view.lick)

    def play_relative(self, at_once: bool) -> None:
        """Play the lick and the chosen relative: one after the other, or together."""
        relative, lick = self.related.chosen, self.view.lick
        if relative is None or lick is None:
            return

        def play(other: Lick) -> None:
            if at_once:
                music = together(lick.solo, other.solo)
            else:
                music, _ = stacked([Block(lick.solo, (), ""), Block(other.solo, (), "")], "")
            self.studio.playing.play_apart(music)

        try:
            if relative.is_lick:
                play(self.studio.library.lick(relative.owner))
            elif relative.owner in self._solos:
                self.looking.lick_at(self._solos[relative.owner], relative.first, relative.last, play)
        except (LibraryError, FormatError) as error:
            self.studio.asks.notice(str(error))

    def go_to_relative(self) -> None:
        """Show the chosen relative: the lick it is, or its solo."""
        relative = self.related.chosen
        if relative is None:
            return
        if relative.is_lick:
            self.search.line.clear()
            self.search.choose_context("")
            self.licks.select_id(relative.owner)
        else:
            self.studio.asks.open_solo(relative.owner)
