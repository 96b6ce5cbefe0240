"""The Compare desk: how do these solos and players differ? Two sets, what sets them apart, and where that is heard."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QGridLayout, QHBoxLayout, QLabel, QPushButton, QSplitter, QVBoxLayout, QWidget

from gavotte.desktop.command import Command
from gavotte.desktop.desk.desk import Desk, DeskKind, Hint, page_hints
from gavotte.desktop.desk.studio import Studio
from gavotte.desktop.desk.updates import Update
from gavotte.desktop.desks.compare.commands import compare_commands
from gavotte.desktop.desks.compare.examples import Laid, laid_out
from gavotte.desktop.desks.compare.export import ask_where_figures_go, picture, table
from gavotte.desktop.desks.compare.mirror import Mirror
from gavotte.desktop.desks.compare.words import row_words, set_said, set_words, side_words, verdict_words
from gavotte.desktop.page.page_view import PageView
from gavotte.desktop.paper.sheet import Sheet
from gavotte.desktop.playback.playing import Played
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import QT_TRANSLATE_NOOP, translate
from gavotte.desktop.widgets.choice import Choice
from gavotte.desktop.widgets.header import Header, rule
from gavotte.desktop.widgets.nothing_here import NothingHere
from gavotte.formats.whole_file import write_whole
from gavotte.library.reader import SoloEntry
from gavotte.library.solo_sets import SetKind, SoloSet, members, sets_of
from gavotte.profile.compared import Compared, Known, Row, compared, lines_in
from gavotte.solo.document import Solo

_APART = "apart"
_ZOOM, _FEWEST = 0.62, 16


class CompareDesk(Desk):
    """``found`` is what was compared, ``laid`` the examples of the figure that is looked at."""

    kind = DeskKind("compare", QT_TRANSLATE_NOOP("Gavotte", "Compare"), "F9", follows=Update.LIBRARY | Update.VIEW)

    def __init__(self, studio: Studio) -> None:
        super().__init__(studio)
        self.here, self.there, self.family = Choice(), Choice(), Choice()
        self.here_words, self.there_words = QLabel(), QLabel()
        self.swap = QPushButton(translate("Gavotte", "Swap"))
        self.export = QPushButton(translate("Gavotte", "Export…"))
        self.mirror = Mirror()
        self.told, self.verdict = QLabel(), QLabel()
        self.go = QPushButton(translate("Gavotte", "Go there"))
        self.page = PageView(studio.engraver)
        self._head = Header(self.swap, self.export)
        self._body = QWidget()
        self.to_shelf = QPushButton(translate("Gavotte", "Go to the shelf"))
        self._nothing = NothingHere(
            translate("Gavotte", "There is too little to compare yet."),
            translate("Gavotte", "Two solos with notes are needed, better ten by each player."),
            self.to_shelf,
        )
        self.found: Compared | None = None
        self.laid: Laid | None = None
        self._entries: list[SoloEntry] = []
        self._known: Known = {}
        self._wanted: tuple[str, str, str] = ("", "", "")
        self._selected: tuple[str, ...] = ()
        self._read_once = False
        self._laying = object()
        self._lay_out()
        self._connect()

    def _lay_out(self) -> None:
        sets = QGridLayout()
        sets.setContentsMargins(16, 8, 16, 8)
        sets.setHorizontalSpacing(12)
        sets.setVerticalSpacing(2)
        for place, (choice, words, name) in enumerate(
            ((self.here, self.here_words, translate("Gavotte", "The first set")),
             (self.family, self.verdict, translate("Gavotte", "Which figures")),
             (self.there, self.there_words, translate("Gavotte", "The other set")))
        ):  # fmt: skip
            choice.setAccessibleName(name)
            words.setObjectName("quiet")
            words.setWordWrap(True)
            words.setAlignment(Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignTop)
            sets.addWidget(choice, 0, place)
            sets.addWidget(words, 1, place)
            sets.setColumnStretch(place, 1)
        below = QWidget()
        row = QHBoxLayout()
        row.setContentsMargins(16, 8, 16, 8)
        row.setSpacing(8)
        self.told.setWordWrap(True)
        row.addWidget(self.told, 1)
        row.addWidget(self.go)
        column = QVBoxLayout(below)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(row)
        column.addWidget(rule())
        column.addWidget(self.page, 1)
        split = QSplitter(Qt.Orientation.Vertical)
        split.addWidget(self.mirror)
        split.addWidget(below)
        split.setChildrenCollapsible(False)
        split.setStretchFactor(0, 3)
        split.setStretchFactor(1, 4)
        body = QVBoxLayout(self._body)
        body.setContentsMargins(0, 0, 0, 0)
        body.setSpacing(0)
        body.addLayout(sets)
        body.addWidget(rule())
        body.addWidget(split, 1)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(self._head)
        layout.addWidget(self._body, 1)
        layout.addWidget(self._nothing, 1)
        self._head.title.setText(translate("Gavotte", "Compare"))
        self.page.set_zoom(_ZOOM)

    def _connect(self) -> None:
        for choice in (self.here, self.there):
            choice.activated.connect(lambda _: self._compare())
        self.family.activated.connect(lambda _: self._show_rows())
        self.swap.clicked.connect(lambda: self.swap_sets())
        self.export.clicked.connect(lambda: self.export_figures())
        self.mirror.currentRowChanged.connect(lambda _: self._show_row())
        self.go.clicked.connect(lambda: self.go_there())
        self.to_shelf.clicked.connect(lambda: self.studio.asks.go("shelf"))
        self.page.selection_wanted.connect(self.select)
        self.page.zoom_wanted.connect(self.studio.view.zoom_by)
        self.studio.indexer.changed.connect(self._indexed)

    # -- as a desk ----------------------------------------------------------------------------------

    def commands(self) -> tuple[Command, ...]:
        return compare_commands(self)

    def focus(self) -> QWidget:
        return self.mirror if self._has_enough else self.to_shelf

    def beside(self) -> QWidget:
        return self.page

    def escape(self) -> bool:
        if self._selected:
            self._selected = ()
            self.page.set_selection(None, None, frozenset())
            return True
        return False

    def played(self) -> Played:
        return Played(self.page, self.music, lambda: self._selected, (self.mirror,))

    def music(self) -> Solo | None:
        """The examples, as they sound."""
        return self.laid.solo if self.laid is not None else None

    def pages(self) -> tuple[QWidget, ...]:
        return (self.page,)

    def sheet(self) -> Sheet | None:
        if self.laid is None:
            return None
        return Sheet(self.studio.view.shown(self.laid.solo), self.laid.labels, self.told.text(), numbered=False)

    @property
    def has_sheet(self) -> bool:
        return self.laid is not None

    @property
    def has_to_practise(self) -> bool:
        return False

    def hints(self) -> tuple[str, tuple[Hint, ...]]:
        return page_hints()

    def zoom(self, by: int) -> None:
        self.studio.view.zoom_by(by)

    def set_palette(self, palette: Palette) -> None:
        self.page.set_palette(palette)
        self.mirror.set_palette(palette)

    def remembered(self) -> str:
        return "|".join(self._chosen)

    def recall(self, remembered: str) -> None:
        parts = remembered.split("|")
        if len(parts) == 3:
            self._wanted = (parts[0], parts[1], parts[2])

    def enter(self) -> None:
        if not self._read_once:
            self._read()

    def show_updates(self, changes: Update) -> None:
        if changes & Update.LIBRARY or not self._read_once:
            self._read()
        if changes & Update.VIEW:
            self.page.set_zoom(_ZOOM * self.studio.view.zoom)
            self._show_laid()

    # -- the sets -----------------------------------------------------------------------------------

    def _read(self) -> None:
        """List what the library has, and have it gone through."""
        self._read_once = True
        self._entries = self.studio.library.solos()
        kept = self._chosen if self.here.count() else self._wanted
        sets = sets_of(self._entries)
        for choice, code, usual in ((self.here, kept[0], self._usual()), (self.there, kept[1], SoloSet(SetKind.REST))):
            choice.blockSignals(True)
            choice.clear()
            for one in sets:
                choice.addItem(set_words(one, self._entries), one)
            wanted = SoloSet.of(code) or usual
            row = next((k for k in range(choice.count()) if choice.itemData(k) == wanted), 0)
            choice.setCurrentIndex(row)
            choice.blockSignals(False)
        self._body.setVisible(self._has_enough)
        self._nothing.setVisible(not self._has_enough)
        for button in (self.swap, self.export):
            button.setVisible(self._has_enough)
        if self._has_enough:
            self.studio.indexer.renew()

    @property
    def _has_enough(self) -> bool:
        return sum(1 for entry in self._entries if entry.notes and not entry.is_head) > 1

    def _usual(self) -> SoloSet:
        """The set that is looked at first: the player with most solos."""
        names = [entry.player for entry in self._entries if entry.player]
        most = max(set(names), key=lambda name: (names.count(name), name), default="")
        return SoloSet(SetKind.PLAYER, most) if most else SoloSet(SetKind.ALL)

    @property
    def _chosen(self) -> tuple[str, str, str]:
        """What is chosen, as it is kept."""
        if not self.here.count():
            return self._wanted
        here, there = self.here.currentData(), self.there.currentData()
        return here.code, there.code, str(self.family.currentData() or "")

    def _indexed(self) -> None:
        if self.isVisible() and self._read_once:
            self._compare()

    def swap_sets(self) -> None:
        """The other set first."""
        one, other = self.here.currentIndex(), self.there.currentIndex()
        self.here.setCurrentIndex(other)
        self.there.setCurrentIndex(one)
        self._compare()

    def _compare(self) -> None:
        """Compare the sets that are chosen, beside the interface."""
        index = self.studio.indexer.index.solos
        here, there = self.here.currentData(), self.there.currentData()
        if here is None or there is None or not index.ids:
            return
        by_id = dict(zip(index.ids, index.corpus.lines, strict=True))
        first = lines_in(members(here, there, self._entries), by_id)
        other = lines_in(members(there, here, self._entries), by_id)
        known = self._known
        self.studio.activities.cancel(self)
        self.studio.activities.walk(
            self, lambda: compared(first, other, known), self._take,
            lambda error: self.studio.asks.notice(str(error)), translate("Gavotte", "Comparing"), lambda: None,
        )  # fmt: skip

    def _take(self, found: Compared) -> None:
        self.found = found
        self.here_words.setText(side_words(found.here))
        self.there_words.setText(side_words(found.there))
        self.verdict.setText(verdict_words(found))
        kept = str(self.family.currentData() or self._wanted[2] or _APART)
        self.family.clear()
        self.family.addItem(translate("Gavotte", "The greatest differences"), _APART)
        for family in dict.fromkeys(row.figure.family for row in found.rows):
            self.family.addItem(family, family)
        row = self.family.findData(kept)
        self.family.setCurrentIndex(row if row >= 0 else 0)
        self._show_rows()
        self.state_changed.emit()

    # -- what is shown ------------------------------------------------------------------------------

    @property
    def _rows(self) -> list[Row]:
        if self.found is None:
            return []
        family = self.family.currentData()
        if family == _APART:
            return self.found.farthest[: max(_FEWEST, len(self.found.apart))]
        return [row for row in self.found.rows if row.figure.family == family]

    def _show_rows(self) -> None:
        before = self.mirror.chosen
        self.mirror.show_rows(self._rows, before.figure.name if before is not None else "")
        self.export.setEnabled(self.found is not None)
        self._show_row()

    def _show_row(self) -> None:
        """Say what is to be said of the figure that is looked at, and lay out where it is heard."""
        row, found = self.mirror.chosen, self.found
        self.studio.activities.cancel(self._laying)
        if row is None or found is None:
            self.told.setText("")
            self._take_laid(None)
            return
        self.told.setText(
            row_words(row, *(set_said(choice.currentData(), self._entries) for choice in (self.here, self.there)))
        )
        library, figure, sides = self.studio.library, row.figure, (found.here, found.there)

        def work() -> Laid | None:
            with library.read_apart() as reader:
                return laid_out(reader, figure, sides)

        self.studio.activities.beside(
            self._laying, work, self._take_laid, lambda error: self.studio.asks.notice(str(error))
        )

    def _take_laid(self, laid: Laid | None) -> None:
        self.laid, self._selected = laid, ()
        self.go.setEnabled(laid is not None)
        self._show_laid()
        if self.isVisible():
            self.studio.playing.music_changed()

    def _show_laid(self) -> None:
        if self.laid is None:
            self.page.clear()
            return
        counted = self.laid.counted
        # What is not counted stands back.
        self.page.set_kept(counted if len(counted) < len(self.laid.solo.notes) else None)
        self.page.show_solo(self.studio.view.shown(self.laid.solo), self.laid.labels)
        self.page.set_selection(None, None, frozenset())

    def select(self, anchor: str, current: str) -> None:
        """Select notes of the examples (ids): they are played alone, and led to."""
        if self.laid is None:
            return
        places = self.laid.solo.places
        if anchor in places and current in places:
            low, high = sorted((places[anchor], places[current]))
            self._selected = tuple(note.id for note in self.laid.solo.notes[low : high + 1])
            self.page.set_selection(anchor, current, frozenset(self._selected))

    def go_there(self) -> None:
        """Open the solo of the example that is selected, or of the first."""
        if self.laid is not None:
            number = int(self._selected[0].partition(":")[0]) if self._selected else 0
            self.studio.asks.open_solo(self.laid.sources[number][0])

    def export_figures(self) -> None:
        """Write what is listed as a table or a picture."""
        if self.found is None:
            return
        path = ask_where_figures_go(self, self.studio.settings)
        if path is None:
            return
        rows, here, there = self._rows, self.here.currentText(), self.there.currentText()
        kind = path.suffix.lower()
        data = table(rows, here, there) if kind == ".csv" else picture(rows, here, there, kind == ".svg")
        words = translate("Gavotte", "The comparison can't be written to {name}: {error}")
        self.studio.activities.beside(
            self.export, lambda: write_whole(path, data),
            lambda _: self.studio.asks.tell(
                translate("Gavotte", "The comparison is written to {name}").format(name=path.name)
            ),
            lambda error: self.studio.asks.notice(words.format(name=path.name, error=error)), apart=True,
        )  # fmt: skip
