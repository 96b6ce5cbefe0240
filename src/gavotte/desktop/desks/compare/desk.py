"""The Compare desk: how do these solos and players differ? Two sets, what sets them apart, and where that is heard."""

from __future__ import annotations

import json
from collections.abc import Callable, Generator, Sequence
from typing import Any

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QPushButton, QScrollArea, QSplitter, QVBoxLayout, QWidget

from gavotte.desktop.command import Command
from gavotte.desktop.desk.desk import Desk, DeskKind, Hint, page_hints
from gavotte.desktop.desk.studio import Studio
from gavotte.desktop.desk.updates import Update
from gavotte.desktop.desks.compare import export
from gavotte.desktop.desks.compare.commands import compare_commands
from gavotte.desktop.desks.compare.examples import ExamplePlace, Laid, places_of_cell, places_of_figure
from gavotte.desktop.desks.compare.heard import Heard
from gavotte.desktop.desks.compare.lists import ListView, common_rows, near_rows, nearness
from gavotte.desktop.desks.compare.looking import Met, Wanted, changing, met, neighbours, times_of
from gavotte.desktop.desks.compare.mirror import Mirror
from gavotte.desktop.desks.compare.picture_view import PictureView, picture_words
from gavotte.desktop.desks.compare.pictures import Picture, Shown
from gavotte.desktop.desks.compare.sets_bar import SetsBar
from gavotte.desktop.desks.compare.time_view import TimeView
from gavotte.desktop.desks.compare.words import (
    cell_words,
    change_words,
    row_words,
    set_said,
    set_words,
    side_words,
    verdict_words,
)
from gavotte.desktop.errands.open_sheet import ToBePutOn
from gavotte.desktop.paper.sheet import Sheet
from gavotte.desktop.playback.playing import Played
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import QT_TRANSLATE_NOOP, translate
from gavotte.desktop.widgets.header import Header, rule
from gavotte.desktop.widgets.nothing_here import NothingHere
from gavotte.desktop.widgets.tabbed import Tabbed
from gavotte.formats.whole_file import write_whole
from gavotte.library.reader import SoloEntry, TakeEntry
from gavotte.library.solo_sets import SetKind, SoloSet, members
from gavotte.profile.compared import Compared, Known, Row, Side, side_of
from gavotte.profile.figures import Figure
from gavotte.profile.form_curve import form_curves
from gavotte.profile.nearest import Near
from gavotte.profile.over_time import OverTime
from gavotte.profile.shared import InCommon, in_common
from gavotte.sheets.pieces import Licks, Piece, Words
from gavotte.sheets.pieces import Picture as PicturePiece
from gavotte.sheets.sheet import new_id
from gavotte.solo.document import Solo
from gavotte.vocabulary.corpus import LabelledLine

_APART = "apart"
_ZOOM, _FEWEST = 0.62, 16
_UPPER, _LOWER = 300, 280
"""Pixels of the views and of the examples, to begin with."""


class CompareDesk(Desk):
    """``found`` is what was compared, ``heard`` has the examples of what is looked at; ``in_common``, ``near`` and
    ``over`` are worked out when they are first looked at, None until then.
    """

    kind = DeskKind("compare", QT_TRANSLATE_NOOP("Gavotte", "Compare"), "F9", follows=Update.LIBRARY | Update.VIEW)

    def __init__(self, studio: Studio) -> None:
        super().__init__(studio)
        self.bar = SetsBar()
        self.swap = QPushButton(translate("Gavotte", "Swap"))
        self.export = QPushButton(translate("Gavotte", "Export…"))
        self.views = Tabbed(0)
        self.mirror = Mirror()
        self.pictures = PictureView()
        self.common = ListView(translate("Gavotte", "What both sets have in common"))
        self.nearest = ListView(translate("Gavotte", "Nearest solos"))
        self.time = TimeView()
        self.heard = Heard(studio)
        self.told, self.go, self.page = self.heard.told, self.heard.go, self.heard.page
        self._head = Header(self.swap, self.export)
        self._body = QWidget()
        self.to_shelf = QPushButton(translate("Gavotte", "Go to the shelf"))
        self._nothing = NothingHere(
            translate("Gavotte", "There is too little to compare yet."),
            translate("Gavotte", "Two solos with notes are needed, better ten by each player."),
            self.to_shelf,
        )
        self.found: Compared | None = None
        self.in_common: InCommon | None = None
        self.near: list[tuple[str, Near]] | None = None
        self.over: OverTime | None = None
        self._over_of: Compared | None = None
        self._entries: list[SoloEntry] = []
        self._takes: list[TakeEntry] = []
        self._known: Known = {}
        self._take_lines: dict[str, LabelledLine] = {}
        self._family, self._picture = _APART, Picture.LADDERS
        self._read_once = False
        self._looking = object()
        self._lay_out()
        self._connect()

    def _lay_out(self) -> None:
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setFrameShape(QScrollArea.Shape.NoFrame)
        scroll.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        scroll.setWidget(self.pictures)
        self.views.add_pages(
            (
                ("figures", translate("Gavotte", "Figures"), self.mirror),
                ("pictures", translate("Gavotte", "Pictures"), scroll),
                ("common", translate("Gavotte", "In common"), self.common),
                ("nearest", translate("Gavotte", "Nearest"), self.nearest),
                ("time", translate("Gavotte", "Over time"), self.time),
            )
        )
        split = QSplitter(Qt.Orientation.Vertical)
        split.addWidget(self.views)
        split.addWidget(self.heard)
        split.setChildrenCollapsible(False)
        split.setStretchFactor(0, 1)
        split.setStretchFactor(1, 1)
        split.setSizes([_UPPER, _LOWER])
        body = QVBoxLayout(self._body)
        body.setContentsMargins(0, 0, 0, 0)
        body.setSpacing(0)
        body.addWidget(self.bar)
        body.addWidget(rule())
        body.addWidget(split, 1)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(self._head)
        layout.addWidget(self._body, 1)
        layout.addWidget(self._nothing, 1)
        self._head.title.setText(translate("Gavotte", "Compare"))

    def _connect(self) -> None:
        self.bar.changed.connect(self._compare)
        self.bar.middle.activated.connect(lambda _: self._middle_chosen())
        self.views.turned.connect(self._show_view)
        self.swap.clicked.connect(lambda: self.swap_sets())
        self.export.clicked.connect(lambda: self.export_figures())
        self.mirror.currentRowChanged.connect(lambda _: self._show_row())
        self.pictures.figure_chosen.connect(lambda _: self._show_row())
        self.common.rows.currentRowChanged.connect(lambda _: self._show_cell())
        self.nearest.rows.currentRowChanged.connect(lambda _: self._show_near())
        self.time.chosen_changed.connect(self._show_change)
        self.heard.changed.connect(self._examples_changed)
        self.to_shelf.clicked.connect(lambda: self.studio.asks.go("shelf"))
        self.studio.indexer.changed.connect(self._indexed)

    # -- as a desk ----------------------------------------------------------------------------------

    def commands(self) -> tuple[Command, ...]:
        return compare_commands(self)

    def focus(self) -> QWidget:
        return self._places_for_keys[self.views.page_shown] if self._has_enough else self.to_shelf

    @property
    def _places_for_keys(self) -> dict[str, QWidget]:
        """What of each view is gone through by the arrows."""
        return {
            "figures": self.mirror, "pictures": self.pictures, "common": self.common.rows,
            "nearest": self.nearest.rows, "time": self.time.changes,
        }  # fmt: skip

    def beside(self) -> QWidget:
        return self.page

    def escape(self) -> bool:
        return self.heard.lift()

    def played(self) -> Played:
        return Played(self.page, self.music, lambda: self.heard.selected, tuple(self._places_for_keys.values()))

    def music(self) -> Solo | None:
        """The examples, as they sound."""
        return self.laid.solo if self.laid is not None else None

    def pages(self) -> tuple[QWidget, ...]:
        return (self.page,)

    def sheet(self) -> Sheet | None:
        return self.heard.sheet()

    @property
    def has_sheet(self) -> bool:
        return self.laid is not None

    @property
    def has_to_practise(self) -> bool:
        return False

    def to_sheet(self) -> ToBePutOn | None:
        """What is shown as a picture, what is said of it, and the examples under one another."""
        if self.found is None:
            return None
        view, title = self.views.page_shown, self.laid.solo.title if self.laid is not None else ""
        is_painted = view not in ("common", "nearest")
        svg = self._written(".svg") if is_painted else None
        name = picture_words(self._picture) if view == "pictures" else title
        told = self.told.text() if title else ""
        pieces: list[Piece] = []
        if svg is not None:
            words = translate("Gavotte", "{here} against {there}").format(here=self.names[0], there=self.names[1])
            pieces.append(PicturePiece(id=new_id(), heading=name or words, svg=svg.decode(), words=words))
        if told:
            pieces.append(Words(id=new_id(), words=told))
        if self.laid is not None:
            pieces.append(Licks(id=new_id(), heading=title if not svg or name != title else "", licks=self.laid.licks))
        return ToBePutOn(name or title or self.names[0], tuple(pieces)) if pieces else None

    def hints(self) -> tuple[str, tuple[Hint, ...]]:
        return page_hints()

    def zoom(self, by: int) -> None:
        self.studio.view.zoom_by(by)

    def set_palette(self, palette: Palette) -> None:
        for view in (self.page, self.mirror, self.pictures, self.common, self.nearest, self.time):
            view.set_palette(palette)

    def remembered(self) -> str:
        bar = self.bar
        sides = [text for side in (bar.here, bar.there) for text in (side.chosen.code, side.part.code)]
        return json.dumps([*sides, self.views.page_shown, self._family, str(self._picture)])

    def recall(self, remembered: str) -> None:
        try:
            kept = json.loads(remembered)
        except ValueError:
            return
        if not (isinstance(kept, list) and len(kept) == 7 and all(isinstance(part, str) for part in kept)):
            return
        self.bar.here.recall(*kept[:2])
        self.bar.there.recall(*kept[2:4])
        self._family = kept[5] or _APART
        if kept[6] in set(Picture):
            self._picture = Picture(kept[6])
        if kept[4] in self.views.tabs:
            self.views.show_page(kept[4])

    def enter(self) -> None:
        if not self._read_once:
            self._read()

    def show_updates(self, changes: Update) -> None:
        if changes & Update.LIBRARY or not self._read_once:
            self._read()
        if changes & Update.VIEW:
            self.heard.show_again()

    @property
    def laid(self) -> Laid | None:
        """The examples of what is looked at, None where there are none."""
        return self.heard.laid

    # -- the sets -----------------------------------------------------------------------------------

    def _read(self) -> None:
        """List what the library has, and have it gone through."""
        self._read_once = True
        self._entries, self._takes = self.studio.library.solos(), self.studio.library.take_entries()
        self.bar.here.offer(self._entries, self._takes, self._usual())
        self.bar.there.offer(self._entries, self._takes, SoloSet(SetKind.REST))
        self._body.setVisible(self._has_enough)
        self._nothing.setVisible(not self._has_enough)
        for button in (self.swap, self.export):
            button.setVisible(self._has_enough)
        if self._has_enough:
            self.studio.indexer.renew()

    @property
    def _has_enough(self) -> bool:
        return sum(entry.is_solo for entry in self._entries) > 1

    def _usual(self) -> SoloSet:
        """The set that is looked at first: the player with most solos."""
        names = [entry.player for entry in self._entries if entry.player]
        most = max(set(names), key=lambda name: (names.count(name), name), default="")
        return SoloSet(SetKind.PLAYER, most) if most else SoloSet(SetKind.ALL)

    def _indexed(self) -> None:
        if self.isVisible() and self._read_once:
            self._compare()

    def swap_sets(self) -> None:
        """The other set first."""
        self.bar.swap()

    @property
    def _lines(self) -> dict[str, LabelledLine]:
        index = self.studio.indexer.index.solos
        return dict(zip(index.ids, index.corpus.lines, strict=True))

    def _compare(self) -> None:
        """Compare the sets that are chosen, beside the interface."""
        lines = self._lines
        if not lines:
            return
        bar = self.bar
        here, there = bar.here.chosen, bar.there.chosen
        sets = tuple(members(one, other, self._entries, self._takes) for one, other in ((here, there), (there, here)))
        wanted = Wanted((tuple(sets[0]), tuple(sets[1])), (bar.here.part, bar.there.part))
        library, takes, known = self.studio.library, self._take_lines, self._known
        self.studio.activities.cancel(self)
        self.studio.activities.walk(
            self, lambda: met(library, wanted, lines, takes, known), self._take, self._failed,
            translate("Gavotte", "Comparing"), lambda: None,
        )  # fmt: skip

    def _failed(self, error: Exception) -> None:
        self.studio.asks.notice(str(error))

    def _take(self, taken: Met) -> None:
        found = self.found = taken.found
        self.in_common = self.near = None
        for choice, parts in zip((self.bar.here, self.bar.there), taken.parts, strict=True):
            choice.offer_parts(parts)
        self.bar.here_words.setText(side_words(found.here))
        self.bar.there_words.setText(side_words(found.there))
        self.bar.verdict.setText(verdict_words(found))
        self._show_view()
        self.state_changed.emit()

    @property
    def names(self) -> tuple[str, str]:
        """What the sets are called."""
        return self._words(self.bar.here.chosen), self._words(self.bar.there.chosen)

    def _words(self, chosen: SoloSet) -> str:
        return set_words(chosen, self._entries)

    @property
    def _said(self) -> tuple[str, str]:
        """The same within a sentence."""
        bar = self.bar
        return set_said(bar.here.chosen, self._entries), set_said(bar.there.chosen, self._entries)

    # -- the views ----------------------------------------------------------------------------------

    def _show_view(self) -> None:
        """Show what the chosen view is to show, and have it worked out where it was not yet."""
        found, view = self.found, self.views.page_shown
        self.studio.activities.cancel(self._looking)
        self._show_middle(view)
        self.bar.show_other(view not in ("nearest", "time"))
        if found is None:
            return
        self.export.setEnabled(True)
        if view == "figures":
            self._show_rows()
        elif view == "pictures":
            self.pictures.show_picture(self._picture, Shown(found, *self.names))
            self._show_row()
        elif view == "common":
            if self.in_common is None:
                self.common.show_rows((), translate("Gavotte", "Looking for what recurs in both sets …"))
                self._look_for(lambda: in_common(found.here.lines, found.there.lines), self._take_common)
            self._show_cell()
        elif view == "nearest":
            if self.near is None:
                self.nearest.show_rows((), translate("Gavotte", "Looking for what is near …"))
                self._look_for(lambda: neighbours(found.here, self._others(found.here), self._known), self._take_near)
            self._show_near()
        else:
            if self._over_of is not found:
                times = times_of(self._entries, self._takes, found.here.ids)
                self._look_for(
                    lambda: changing(found.here, times, self._known), lambda over: self._take_over(over, found)
                )
            self._show_change()

    def _look_for(self, steps: Callable[[], Generator[float, None, Any]], then: Callable[[Any], None]) -> None:
        self.studio.activities.walk(
            self._looking, steps, then, self._failed, translate("Gavotte", "Comparing"), lambda: None
        )

    def _others(self, own: Side) -> Side:
        """All solos that don't belong to a set."""
        solos = [entry.id for entry in self._entries if entry.is_solo and entry.id not in own.ids]
        return side_of(solos, self._lines)

    def _take_common(self, found: InCommon) -> None:
        self.in_common = found
        self.common.show_rows(*common_rows(found))
        self._show_cell()

    def _take_near(self, found: list[tuple[str, Near]]) -> None:
        self.near = found
        self.nearest.show_rows(*near_rows(found, self._entries, self._said[0]))
        self._show_near()

    def _take_over(self, over: OverTime | None, found: Compared) -> None:
        self.over, self._over_of = over, found
        self.time.show_over(over)

    def _show_middle(self, view: str) -> None:
        """Offer what is chosen between the sets: which figures, or which picture."""
        middle = self.bar.middle
        entries: list[tuple[str, str]] = []
        chosen = self._family
        if view == "figures" and self.found is not None:
            entries = [(translate("Gavotte", "The greatest differences"), _APART)]
            entries += [(family, family) for family in dict.fromkeys(row.figure.family for row in self.found.rows)]
            middle.setAccessibleName(translate("Gavotte", "Which figures"))
        elif view == "pictures":
            entries = [(picture_words(picture), str(picture)) for picture in Picture]
            chosen = str(self._picture)
            middle.setAccessibleName(translate("Gavotte", "Which picture"))
        middle.blockSignals(True)
        middle.clear()
        for words, code in entries:
            middle.addItem(words, code)
        middle.setCurrentIndex(max(0, middle.findData(chosen)))
        middle.blockSignals(False)
        middle.setVisible(bool(entries))
        self.bar.verdict.setVisible(bool(entries))

    def _middle_chosen(self) -> None:
        code = str(self.bar.middle.currentData())
        if self.views.page_shown == "pictures":
            self._picture = Picture(code)
        else:
            self._family = code
        self._show_view()

    @property
    def _rows(self) -> list[Row]:
        """The rows that are listed."""
        if self.found is None:
            return []
        rows = [row for row in self.found.rows if row.figure.family == self._family]
        return rows or self.found.farthest[: max(_FEWEST, len(self.found.apart))]

    def _show_rows(self) -> None:
        before = self.mirror.chosen
        self.mirror.show_rows(self._rows, before.figure.name if before is not None else "")
        self._show_row()

    # -- what is looked at ----------------------------------------------------------------------------

    @property
    def row(self) -> Row | None:
        """The figure that is looked at, in the list or in a picture."""
        if self.views.page_shown == "figures":
            return self.mirror.chosen
        rows = () if self.found is None else self.found.rows
        return next((row for row in rows if row.figure.name == self.pictures.figure), None)

    def _show_row(self) -> None:
        """Say what is to be said of the figure that is looked at, and lay out where it is heard."""
        row, found = self.row, self.found
        if row is None or found is None:
            hint = translate("Gavotte", "Click a part of the picture, or go through it by the arrows, to hear it.")
            self._look_at(hint if self.views.page_shown == "pictures" else "", "", None)
            return
        self._look_at_figure(row_words(row, *self._said), row.figure, (found.here, found.there))

    def _show_cell(self) -> None:
        found, number = self.found, self.common.rows.currentRow()
        if self.views.page_shown != "common":
            return
        if found is None or self.in_common is None or not 0 <= number < len(self.in_common.cells):
            self._look_at("", "", None)
            return
        cell, sides = self.in_common.cells[number], (found.here, found.there)
        self._look_at(cell_words(cell, *self._said), cell.degrees, lambda: places_of_cell(cell, sides))

    def _show_near(self) -> None:
        if self.views.page_shown != "nearest":
            return
        name = self.nearest.rows.current_id()
        near = next((near for solo_id, near in self.near or () if solo_id == name), None)
        if self.found is None or near is None or name is None or not near.alike:
            self._look_at("" if near is None else nearness(near.closeness), "", None)
            return
        title = next((entry.title for entry in self._entries if entry.id == name), "")
        words = translate("Gavotte", "{title} and {own} are alike in {figures}.").format(
            title=title, own=self._said[0], figures=", ".join(figure.words for figure in near.alike)
        )
        self._look_at_figure(words, near.alike[0], (self.found.here, side_of((name,), self._lines)))

    def _show_change(self) -> None:
        if self.views.page_shown != "time":
            return
        change, over, found = self.time.chosen, self.over, self.found
        if change is None or over is None or found is None:
            self._look_at("", "", None)
            return
        times = times_of(self._entries, self._takes, found.here.ids)
        lines = dict(zip(found.here.ids, found.here.lines, strict=True))
        ends = [
            side_of([name for name in found.here.ids if times.get(name) == time], lines)
            for time in (over.times[0], over.times[-1])
        ]
        self._look_at_figure(change_words(change, over), change.figure, ends)

    def _look_at_figure(self, told: str, figure: Figure, sides: Sequence[Side]) -> None:
        self._look_at(told, figure.words, lambda: places_of_figure(figure, sides))

    def _look_at(self, told: str, title: str, places: Callable[[], list[ExamplePlace]] | None) -> None:
        self.heard.look_at(told, title, places)

    def _examples_changed(self) -> None:
        if self.isVisible():
            self.studio.playing.music_changed()

    # -- taking it away -------------------------------------------------------------------------------

    def export_figures(self) -> None:
        """Write what is shown as a table or a picture."""
        if self.found is None:
            return
        is_painted = self.views.page_shown not in ("common", "nearest")
        path = export.ask_where_figures_go(self, self.studio.settings, is_painted)
        data = self._written(path.suffix.lower() if is_painted else ".csv") if path is not None else None
        if path is None or data is None:
            return
        words = translate("Gavotte", "The comparison can't be written to {name}: {error}")
        self.studio.activities.beside(
            self.export, lambda: write_whole(path, data),
            lambda _: self.studio.asks.tell(
                translate("Gavotte", "The comparison is written to {name}").format(name=path.name)
            ),
            lambda error: self.studio.asks.notice(words.format(name=path.name, error=error)), apart=True,
        )  # fmt: skip

    def _written(self, ending: str) -> bytes | None:
        """What is shown, as a file of this ending; None where nothing is."""
        assert self.found is not None
        view, is_table, vectors = self.views.page_shown, ending == ".csv", ending == ".svg"
        if view == "figures":
            return export.table(self._rows, *self.names) if is_table else export.picture(
                self._rows, *self.names, vectors
            )  # fmt: skip
        if view == "pictures":
            return self._written_picture(is_table, vectors)
        if view == "common":
            return export.common_table(self.in_common) if self.in_common is not None else None
        if view == "nearest":
            titles = {entry.id: (entry.title, entry.player) for entry in self._entries}
            return export.near_table(self.near, titles) if self.near is not None else None
        change = self.time.chosen
        if self.over is None or change is None:
            self.studio.asks.notice(self.time.message.text())
            return None
        return export.time_table(self.over) if is_table else export.picture_of_change(self.over, change, vectors)

    def _written_picture(self, is_table: bool, vectors: bool) -> bytes:
        assert self.found is not None
        found, names = self.found, self.names
        if not is_table:
            return export.picture_of(self._picture, Shown(found, *names), vectors)
        if self._picture is Picture.FORM:
            return export.form_table(form_curves(found.here.lines, found.there.lines), *names)
        there = {spot.figure for spot in self.pictures.spots}
        return export.table([row for row in found.rows if row.figure.name in there], *names)
