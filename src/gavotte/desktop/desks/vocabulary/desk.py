"""The Vocabulary desk: what is worth keeping? The kept licks, each in its own key or on a sheet in all twelve."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction
from functools import partial

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QFrame, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from gavotte.desktop.command import Command, shown_keys
from gavotte.desktop.desk.desk import Desk, DeskKind, Hint, Walked, page_hints
from gavotte.desktop.desk.studio import Studio
from gavotte.desktop.desk.updates import Update
from gavotte.desktop.desks.vocabulary.commands import vocabulary_commands
from gavotte.desktop.page.line_item import LineParts
from gavotte.desktop.page.page_view import PageView
from gavotte.desktop.page.spoken import spoken_selection
from gavotte.desktop.paper.sheet import Sheet
from gavotte.desktop.playback.playing import Played
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import QT_TRANSLATE_NOOP, translate
from gavotte.desktop.widgets.choice import Choice
from gavotte.desktop.widgets.elided import ElidedButton
from gavotte.desktop.widgets.line import Line
from gavotte.desktop.widgets.one_stop import OneStop
from gavotte.desktop.widgets.rows import RowList
from gavotte.desktop.words import counted
from gavotte.formats.errors import FormatError
from gavotte.library.errors import LibraryError
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Solo
from gavotte.solo.label import Label
from gavotte.theory.key import Key
from gavotte.vocabulary.lick import Lick
from gavotte.workshop.keys import KeyOrder, in_one_of_all_keys
from gavotte.workshop.sheet import key_sheet, labels_in
from gavotte.writing.placing import first_note_from


class VocabularyDesk(Desk):
    """The list ``licks``, and the chosen one on ``page``: in its own key, or on a sheet in all twelve."""

    kind = DeskKind(
        "vocabulary", QT_TRANSLATE_NOOP("Gavotte", "Vocabulary"), "F6", follows=Update.LIBRARY | Update.VIEW
    )

    def __init__(self, studio: Studio) -> None:
        super().__init__(studio)
        self._lick: Lick | None = None
        self._lick_id: str | None = None
        self._wanted: str | None = None
        self._concert: Solo | None = None
        self._selected: tuple[str, ...] = ()
        self._sheet: Sheet | None = None
        self._music: tuple[object, ...] = ()
        self.licks = RowList(translate("Gavotte", "Licks"))
        self.licks.setFixedWidth(300)
        self.page = PageView(studio.engraver, parts=LineParts(bar_numbers=False))
        self.page.setAccessibleName(translate("Gavotte", "The lick"))
        layout = QHBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(self._list_side())
        layout.addWidget(self._lick_side(), 1)
        layout.addWidget(self._nothing_kept(), 1)
        self._connect()

    # -- as a desk ----------------------------------------------------------------------------------

    def commands(self) -> tuple[Command, ...]:
        return vocabulary_commands(self)

    def focus(self) -> QWidget:
        return self.licks

    def beside(self) -> QWidget:
        return self.page

    def escape(self) -> bool:
        if not self._selected:
            return False
        self._selected = ()
        self.page.set_selection(None, None, frozenset())
        self.page.setAccessibleName(translate("Gavotte", "The page"))
        return True

    def pages(self) -> tuple[QWidget, ...]:
        return (self.page,)

    def walked(self) -> Walked | None:
        sheet = self._sheet
        if self._lick is None or sheet is None or not sheet.solo.notes:
            return None
        solo = sheet.solo
        current = next((note for note in self._selected if note in solo.places), solo.notes[0].id)
        return Walked(solo, solo.note(current).onset, partial(self._go_to, solo))

    def _go_to(self, solo: Solo, place: Fraction) -> None:
        note = first_note_from(solo, place)
        if note is not None:
            self._select(note.id, note.id)

    def played(self) -> Played:
        # The list of licks has no use for the space bar of its own.
        return Played(self.page, self.concert_solo, self.selected, (self.licks,))

    def state(self) -> str:
        _, number = self.studio.library.counts()
        return counted(number, "lick") if number else ""

    def zoom(self, by: int) -> None:
        self.studio.view.zoom_by(by)

    def hints(self) -> tuple[str, tuple[Hint, ...]]:
        return page_hints()

    @property
    def has_sheet(self) -> bool:
        return self.has_lick

    def arrive(self, item: str, view: str) -> None:
        if item:
            self._wanted = item
            if not self.licks.select_id(item):
                self.refresh()
        if view == "keys":
            self.all_keys.click()

    def remembered(self) -> str:
        lick = self.licks.current_id() or self._wanted or ""
        return " ".join((lick, "keys" if self.all_keys.isChecked() else "own", str(self.order.currentIndex())))

    def recall(self, remembered: str) -> None:
        lick, _, view = remembered.partition(" ")
        self._wanted = lick or None
        keys, _, order = view.partition(" ")
        self.all_keys.setChecked(keys == "keys")
        if order.isdigit() and int(order) < self.order.count():
            self.order.setCurrentIndex(int(order))

    def show_updates(self, changes: Update) -> None:
        if changes & Update.LIBRARY:
            self.refresh()
        if changes & Update.VIEW:
            self.page.set_zoom(self.studio.view.zoom)
            self._show_lick()

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
        self.name = Line()
        self.name.setAccessibleName(translate("Gavotte", "Name of the lick"))
        self.name.setToolTip(translate("Gavotte", "The lick's name; change it as you like"))
        self.source = ElidedButton()
        self.source.setObjectName("link")
        self.source.setToolTip(translate("Gavotte", "Open the solo it comes from"))
        self.own_key = QPushButton(translate("Gavotte", "Own key"))
        self.all_keys = QPushButton(translate("Gavotte", "All twelve keys"))
        self._views = OneStop(self)
        for button, tip in (
            (self.own_key, translate("Gavotte", "The lick as it was played")),
            (self.all_keys, translate("Gavotte", "A sheet in all twelve keys")),
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

    def _connect(self) -> None:
        self.licks.currentRowChanged.connect(lambda _: self._show_current())
        self._views.buttonClicked.connect(lambda _: self._show_lick())
        self.order.currentIndexChanged.connect(lambda _: self._show_lick())
        self.name.editingFinished.connect(self._rename)
        self.source.clicked.connect(self._go_to_source)
        self.page.selection_wanted.connect(self._select)
        self.page.zoom_wanted.connect(self.studio.view.zoom_by)

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self.licks.set_palette(palette)
        self.page.set_palette(palette)

    def delete_current(self) -> None:
        """Delete the chosen lick; can be undone."""
        if self._lick_id is not None:
            self.studio.edits.delete_lick(self._lick_id)

    def refresh(self) -> None:
        """Read the licks anew; the one that was asked for, or is there, stays the current one."""
        wanted, self._wanted = self._wanted or self.licks.current_id(), None
        self.licks.blockSignals(True)
        self.licks.clear()
        for entry in self.studio.library.licks():
            self.licks.add_row(entry.id, entry.name, f"{entry.source} · {Key.parse(entry.key).shown}")
        if not self.licks.select_id(wanted) and self.licks.count():
            self.licks.setCurrentRow(0)
        self.licks.blockSignals(False)
        kept = self.licks.count() > 0
        self._left.setVisible(kept)
        self._empty.setVisible(not kept)
        self._show_current()
        self.state_changed.emit()

    def _show_current(self) -> None:
        lick_id = self.licks.current_id()
        if lick_id is None:
            self._show_none(None)
            return
        try:
            lick = self.studio.library.lick(lick_id)
        except (LibraryError, FormatError) as error:
            self._show_none(lick_id)
            self.studio.asks.notice(str(error))
            return
        self._right.setVisible(True)
        if (lick_id, lick) != (self._lick_id, self._lick):
            self._lick, self._lick_id = lick, lick_id
            self._show_lick()

    def _show_none(self, lick_id: str | None) -> None:
        """Show no lick, where there is none or the chosen one (id) can't be read."""
        self._lick, self._lick_id, self._concert = None, lick_id, None
        self._music = ()
        self._right.setVisible(False)
        self.page.clear()
        self.studio.playing.music_changed()
        self.state_changed.emit()

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
        view = self.studio.view
        pitch = view.reader if view.written else None
        music = (lick.solo, pitch, self.all_keys.isChecked(), self.order.currentData(), lick.name)
        if music == self._music:
            return
        self._music = music
        sheet = self._sheet = self.sheet()
        if sheet is not None:
            self.page.show_solo(sheet.solo, sheet.labels)
            self._concert = sheet.as_data[0]
        self._selected = ()
        self.page.set_selection(None, None, frozenset())
        self.studio.playing.music_changed()
        self.state_changed.emit()

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
        concert = self._laid_out(lick, lick.solo)
        shown = self._laid_out(lick, self.studio.view.shown(lick.solo)) if self.studio.view.written else concert
        player = translate("Gavotte", ", by {player}").format(player=lick.source.player) if lick.source.player else ""
        return Sheet(
            *shown,
            translate("Gavotte", "From {title}, {place}{player}").format(
                title=lick.source.title, place=lick.source.place, player=player
            ),
            numbered=False,
            concert=concert if self.studio.view.written else None,
            selected=self._selected,
        )

    def _laid_out(self, lick: Lick, music: Solo) -> tuple[Solo, dict[str, Label]]:
        """The lick's music, as it is to be read, with its labels: in its own key or in all twelve."""
        if self.all_keys.isChecked():
            solo, labels = key_sheet(lick, KeyOrder(self.order.currentData()), music)
        else:
            solo, labels = music, labels_in(lick, music)
        return replace(solo, title=lick.name), {label.note: label for label in labels}

    def _select(self, anchor: str, current: str) -> None:
        if self._concert is None:
            return
        low, high = sorted((self._concert.places[anchor], self._concert.places[current]))
        self._selected = tuple(note.id for note in self._concert.notes[low : high + 1])
        self.page.set_selection(anchor, current, frozenset(self._selected))
        self._speak(current)

    def _speak(self, current: str) -> None:
        """Read the note out as one of the lick, in the key of its row."""
        sheet, lick = self._sheet, self._lick
        if sheet is None or lick is None:
            return
        music = self.studio.view.shown(lick.solo)
        number, _, note = current.rpartition(":")
        order = KeyOrder(self.order.currentData())
        row = in_one_of_all_keys(music, int(number), order) if number else None
        solo = music if row is None else row.solo
        label = sheet.labels.get(current)
        labels = {} if label is None else {note: label}
        words = spoken_selection(solo, BarGrid(solo), labels, self._selected, note)
        if row is not None:
            words = translate("Gavotte", "{key}: {words}").format(key=row.key.shown, words=words)
        self.page.setAccessibleName(words)
        self.page.setAccessibleDescription("" if label is None else label.reason)

    def _rename(self) -> None:
        name = self.name.text().strip()
        if self._lick is None or self._lick_id is None or name == self._lick.name:
            return
        if not name:
            self.name.setText(self._lick.name)
            return
        self.studio.edits.rename_lick(self._lick_id, name)

    def _go_to_source(self) -> None:
        if self._lick is None:
            return
        solo_id = self._lick.source.solo_id
        if any(entry.id == solo_id for entry in self.studio.library.solos()):
            self.studio.asks.open_solo(solo_id)
        else:
            self.studio.asks.notice(translate("Gavotte", "The solo this lick comes from is no longer on the shelf."))
