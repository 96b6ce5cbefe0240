"""The Vocabulary desk: what is worth keeping? The kept licks, each in its own key or on a sheet in all twelve."""

from __future__ import annotations

from dataclasses import replace

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QKeySequence, QShortcut, QShowEvent
from PyQt6.QtWidgets import (
    QButtonGroup,
    QFrame,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from gavotte.desktop.page.line_item import LineParts
from gavotte.desktop.page.page_view import PageView
from gavotte.desktop.page.spoken import spoken_selection
from gavotte.desktop.paper.sheet import Sheet
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.choice import Choice
from gavotte.desktop.widgets.rows import RowList
from gavotte.engraving.engraver import Engraver
from gavotte.formats.errors import FormatError
from gavotte.library.errors import LibraryError
from gavotte.library.store import Library
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Solo
from gavotte.solo.label import Label
from gavotte.theory.key import Key
from gavotte.vocabulary.lick import Lick
from gavotte.workshop.keys import KeyOrder
from gavotte.workshop.sheet import key_sheet
from gavotte.workshop.written import as_written


class VocabularyDesk(QWidget):
    """Signals: ``renamed(id, name)``, ``unwanted(id)``, ``source_wanted(solo id)``, ``failed(message)``,
    ``shown`` (other music is on the page now).
    """

    renamed = pyqtSignal(str, str)
    unwanted = pyqtSignal(str)
    source_wanted = pyqtSignal(str)
    failed = pyqtSignal(str)
    shown = pyqtSignal()

    def __init__(self, library: Library, engraver: Engraver) -> None:
        super().__init__()
        self.setObjectName("desk")
        self._library = library
        self._lick: Lick | None = None
        self._lick_id: str | None = None
        self._written = self._to_be_set = False
        self._concert: Solo | None = None
        self._selected: tuple[str, ...] = ()
        self.licks = RowList(translate("Gavotte", "Licks"))
        self.licks.setFixedWidth(300)
        self.page = PageView(engraver, parts=LineParts(bar_numbers=False))
        self.page.setAccessibleName(translate("Gavotte", "The lick"))
        layout = QHBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(self._list_side())
        layout.addWidget(self._lick_side(), 1)
        layout.addWidget(self._nothing_kept(), 1)
        self._connect()

    def _list_side(self) -> QWidget:
        self._left = QWidget()
        column = QVBoxLayout(self._left)
        column.setContentsMargins(24, 20, 16, 24)
        column.setSpacing(12)
        title = QLabel(translate("Gavotte", "Vocabulary"))
        title.setObjectName("title")
        column.addWidget(title)
        column.addWidget(self.licks, 1)
        return self._left

    def _lick_side(self) -> QWidget:
        self._right = QWidget()
        column = QVBoxLayout(self._right)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        self.name = QLineEdit()
        self.name.setAccessibleName(translate("Gavotte", "Name of the lick"))
        self.name.setToolTip(translate("Gavotte", "The lick's name; change it as you like"))
        self.source = QPushButton()
        self.source.setObjectName("link")
        self.source.setToolTip(translate("Gavotte", "Open the solo it comes from"))
        self.own_key = QPushButton(translate("Gavotte", "Own key"))
        self.all_keys = QPushButton(translate("Gavotte", "All twelve keys"))
        self._views = QButtonGroup(self)
        for button, tip in (
            (self.own_key, translate("Gavotte", "The lick as it was played (Ctrl+1)")),
            (self.all_keys, translate("Gavotte", "A sheet in all twelve keys (Ctrl+2)")),
        ):
            button.setCheckable(True)
            button.setToolTip(tip)
            self._views.addButton(button)
        self.own_key.setChecked(True)
        self.order = Choice()
        self.order.setAccessibleName(translate("Gavotte", "Order of the keys"))
        self.order.setToolTip(translate("Gavotte", "How the keys follow each other"))
        self.order.addItem(translate("Gavotte", "Circle of fifths"), KeyOrder.CIRCLE)
        self.order.addItem(translate("Gavotte", "Chromatic"), KeyOrder.CHROMATIC)
        second = QHBoxLayout()
        second.setSpacing(8)
        for widget in (self.own_key, self.all_keys, self.order):
            second.addWidget(widget)
        second.addStretch(1)
        second.addWidget(self.source)
        head = QVBoxLayout()
        head.setContentsMargins(8, 20, 16, 12)
        head.setSpacing(8)
        head.addWidget(self.name)
        head.addLayout(second)
        column.addLayout(head)
        line = QFrame()
        line.setObjectName("line")
        line.setFixedHeight(1)
        column.addWidget(line)
        column.addWidget(self.page, 1)
        return self._right

    def _nothing_kept(self) -> QWidget:
        self._empty = QWidget()
        layout = QVBoxLayout(self._empty)
        layout.setAlignment(Qt.AlignmentFlag.AlignCenter)
        layout.setSpacing(12)
        title = QLabel(translate("Gavotte", "No licks kept yet"))
        title.setObjectName("title")
        text = QLabel(
            translate(
                "Gavotte",
                "At the Label desk, select a few notes (click the first, Shift-click the "
                "last)\nand press K. The lick is named by its functions and written out in all "
                "twelve keys here.",
            )
        )
        text.setObjectName("quietBody")
        text.setAlignment(Qt.AlignmentFlag.AlignCenter)
        layout.addWidget(title, 0, Qt.AlignmentFlag.AlignCenter)
        layout.addWidget(text, 0, Qt.AlignmentFlag.AlignCenter)
        return self._empty

    def _connect(self) -> None:
        self.licks.currentRowChanged.connect(lambda _: self._show_current())
        self._views.buttonClicked.connect(lambda _: self._show_lick())
        self.order.currentIndexChanged.connect(lambda _: self._show_lick())
        self.name.editingFinished.connect(self._rename)
        self.source.clicked.connect(self._go_to_source)
        self.page.selection_wanted.connect(self._select)
        delete = QShortcut(QKeySequence(Qt.Key.Key_Delete), self.licks)
        delete.setContext(Qt.ShortcutContext.WidgetShortcut)
        delete.activated.connect(self.delete_current)
        for keys, button in (("Ctrl+1", self.own_key), ("Ctrl+2", self.all_keys)):
            shortcut = QShortcut(QKeySequence(keys), self)
            shortcut.setContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)
            shortcut.activated.connect(button.click)

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self.licks.set_palette(palette)
        self.page.set_palette(palette)

    def set_written(self, written: bool) -> None:
        """Show licks in written or in concert pitch."""
        self._written = written
        self._show_lick()

    def delete_current(self) -> None:
        """Ask to delete the current lick."""
        if self._lick_id is not None:
            self.unwanted.emit(self._lick_id)

    def refresh(self, lick_id: str | None = None) -> None:
        """Read the licks anew; make ``lick_id`` the current one, or keep the one that is."""
        wanted = lick_id or self.licks.current_id()
        self.licks.blockSignals(True)
        self.licks.clear()
        for entry in self._library.licks():
            self.licks.add_row(entry.id, entry.name, f"{entry.source} · {Key.parse(entry.key).shown}")
        if not self.licks.select_id(wanted) and self.licks.count():
            self.licks.setCurrentRow(0)
        self.licks.blockSignals(False)
        kept = self.licks.count() > 0
        self._left.setVisible(kept)
        self._right.setVisible(kept)
        self._empty.setVisible(not kept)
        self._show_current()

    def _show_current(self) -> None:
        lick_id = self.licks.current_id()
        if lick_id is None:
            self._lick = self._lick_id = None
            self.page.clear()
            self.shown.emit()
            return
        try:
            lick = self._library.lick(lick_id)
        except (LibraryError, FormatError) as error:
            self.failed.emit(str(error))
            return
        if (lick_id, lick) != (self._lick_id, self._lick):
            self._lick, self._lick_id = lick, lick_id
            self._show_lick()

    def _show_lick(self) -> None:
        lick = self._lick
        if lick is None:
            return
        self.name.setText(lick.name)
        self.name.setCursorPosition(0)
        player = translate("Gavotte", ", by {player}").format(player=lick.source.player) if lick.source.player else ""
        self.source.setText(translate("Gavotte", "Open {title}").format(title=lick.source.title))
        self.source.setToolTip(
            translate("Gavotte", "Open the solo it comes from: {title}, {place}{player}").format(
                title=lick.source.title, place=lick.source.place, player=player
            )
        )
        self.order.setVisible(self.all_keys.isChecked())
        self._to_be_set = not self.isVisible()
        if self._to_be_set:
            return
        sheet = self.sheet()
        if sheet is not None:
            self.page.show_solo(sheet.solo, sheet.labels)
            self._concert = sheet.as_data[0]
        self._selected = ()
        self.page.set_selection(None, None, frozenset())
        self.shown.emit()

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        # The page is set when somebody looks at it.
        if self._to_be_set:
            self._show_lick()

    def concert_solo(self) -> Solo | None:
        """The music that is shown, in concert pitch."""
        return self._concert if self._lick is not None else None

    def selected(self) -> tuple[str, ...]:
        """Ids of the selected notes."""
        return self._selected

    @property
    def has_lick(self) -> bool:
        """Whether a lick is shown."""
        return self._lick is not None

    def sheet(self) -> Sheet | None:
        """The lick as it is shown, in its own key or in all, for the page and for export."""
        lick = self._lick
        if lick is None:
            return None
        concert = self._laid_out(lick)
        shown = self._laid_out(replace(lick, solo=as_written(lick.solo))) if self._written else concert
        player = translate("Gavotte", ", by {player}").format(player=lick.source.player) if lick.source.player else ""
        return Sheet(
            *shown,
            translate("Gavotte", "From {title}, {place}{player}").format(
                title=lick.source.title, place=lick.source.place, player=player
            ),
            numbered=False,
            concert=concert if self._written else None,
            selected=self._selected,
        )

    def _laid_out(self, lick: Lick) -> tuple[Solo, dict[str, Label]]:
        """The lick's music and labels, in its own key or in all twelve."""
        solo, labels = lick.solo, lick.labels
        if self.all_keys.isChecked():
            solo, labels = key_sheet(lick, KeyOrder(self.order.currentData()))
        return replace(solo, title=lick.name), {label.note: label for label in labels}

    def _select(self, anchor: str, current: str) -> None:
        notes = [note.id for note in self._concert.notes] if self._concert is not None else []
        low, high = sorted((notes.index(anchor), notes.index(current)))
        self._selected = tuple(notes[low : high + 1])
        self.page.set_selection(anchor, current, frozenset(self._selected))
        sheet = self.sheet()
        if sheet is not None:
            grid = BarGrid(sheet.solo)
            self.page.setAccessibleName(spoken_selection(sheet.solo, grid, sheet.labels, self._selected, current))
            self.page.setAccessibleDescription(sheet.labels[current].reason if current in sheet.labels else "")

    def _rename(self) -> None:
        name = self.name.text().strip()
        if self._lick is None or self._lick_id is None or name == self._lick.name:
            return
        if not name:
            self.name.setText(self._lick.name)
            return
        self.renamed.emit(self._lick_id, name)

    def _go_to_source(self) -> None:
        if self._lick is not None:
            self.source_wanted.emit(self._lick.source.solo_id)
