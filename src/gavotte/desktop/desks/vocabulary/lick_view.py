"""The chosen lick: its name, where it comes from, and its music in its own key, in all keys, or under its relatives."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from gavotte.desktop.page.line_item import LineParts
from gavotte.desktop.page.page_view import PageView
from gavotte.desktop.page.spoken import spoken_selection
from gavotte.desktop.paper.sheet import Sheet
from gavotte.desktop.solo.view import View
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.choice import Choice
from gavotte.desktop.widgets.elided import ElidedButton
from gavotte.desktop.widgets.header import rule
from gavotte.desktop.widgets.line import Line
from gavotte.desktop.widgets.number import Number
from gavotte.desktop.widgets.one_stop import OneStop
from gavotte.engraving.engraver import Engraver
from gavotte.sheets.pieces import Keys, Licks
from gavotte.sheets.sheet import new_id
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Solo
from gavotte.solo.label import Label
from gavotte.vocabulary.lick import Lick
from gavotte.workshop.keys import KeyOrder, in_one_of_all_keys
from gavotte.workshop.laid import AlignBy, laid_sheet
from gavotte.workshop.sheet import key_sheet, labels_in

Reading = Callable[[Solo], Solo]
"""What makes music as it is to be read of music as it sounds."""
_IN_C = 0
_SOURCE_WIDTH = 190


class LickView(QWidget):
    """Shows a lick on ``page``; ``lick`` is None where none is shown, ``concert`` its music as it sounds.

    Signals: ``music_changed``; ``renamed(name)``; ``source_wanted``; ``keep_wanted``, keep what is shown as a lick.
    """

    music_changed = pyqtSignal()
    renamed = pyqtSignal(str)
    source_wanted = pyqtSignal()
    keep_wanted = pyqtSignal()

    def __init__(self, engraver: Engraver, view: View) -> None:
        super().__init__()
        self._view = view
        self.lick: Lick | None = None
        self.is_kept = False
        self.concert: Solo | None = None
        self.selected: tuple[str, ...] = ()
        self.sheet: Sheet | None = None
        self._under: tuple[Lick, ...] = ()
        self._music: tuple[object, ...] = ()
        self.name = Line()
        self.name.setAccessibleName(translate("Gavotte", "Name of the lick"))
        self.name.setToolTip(translate("Gavotte", "The lick's name; change it as you like"))
        self.source = ElidedButton()
        self.source.setObjectName("link")
        self.source.setMaximumWidth(_SOURCE_WIDTH)
        self.keep = QPushButton(translate("Gavotte", "Keep as lick"))
        self.keep.setObjectName("primary")
        self.own_key = QPushButton(translate("Gavotte", "Own key"))
        self.all_keys = QPushButton(translate("Gavotte", "All keys"))
        self.laid = QPushButton(translate("Gavotte", "Under one another"))
        self._views = OneStop(self)
        for button, tip in (
            (self.own_key, translate("Gavotte", "The lick as it was played")),
            (self.all_keys, translate("Gavotte", "A sheet in all twelve keys")),
            (
                self.laid,
                translate("Gavotte", "The lick and its relatives, or those you select, in one key, register and time"),
            ),
        ):
            button.setCheckable(True)
            button.setToolTip(tip)
            self._views.addButton(button)
        self.own_key.setChecked(True)
        self.order = _choice(
            translate("Gavotte", "Order of the keys"),
            translate("Gavotte", "How the keys follow each other"),
            (
                (translate("Gavotte", "Circle of fifths"), KeyOrder.CIRCLE),
                (translate("Gavotte", "Chromatic"), KeyOrder.CHROMATIC),
                (translate("Gavotte", "Whole steps"), KeyOrder.WHOLE_STEPS),
                (translate("Gavotte", "Minor thirds"), KeyOrder.MINOR_THIRDS),
                (translate("Gavotte", "At random"), KeyOrder.RANDOM),
            ),
        )
        self.seed = Number(1, 9999, 1)
        self.seed.setFixedWidth(84)
        self.seed.setAccessibleName(translate("Gavotte", "Seed"))
        self.seed.setToolTip(translate("Gavotte", "The seed: the same number gives the same order"))
        self.key = _choice(
            translate("Gavotte", "Key to compare in"),
            translate("Gavotte", "Which key all are brought to"),
            ((translate("Gavotte", "In its key"), False), (translate("Gavotte", "In C"), True)),
        )
        self.align = _choice(
            translate("Gavotte", "What stands under one another"),
            translate("Gavotte", "Bars as they were played, or the bars in which they arrive"),
            (
                (translate("Gavotte", "By the beat"), AlignBy.BEAT),
                (translate("Gavotte", "By the goal"), AlignBy.TARGET),
            ),
        )
        self.page = PageView(engraver, parts=LineParts(bar_numbers=False))
        self.page.setAccessibleName(translate("Gavotte", "The lick"))
        self.original = QPushButton(translate("Gavotte", "Original"))
        self.original.setToolTip(translate("Gavotte", "Play it from the recording, as it was played"))
        self._lay_out()
        self._views.buttonClicked.connect(lambda _: self.show_again())
        for choice in (self.order, self.key, self.align):
            choice.currentIndexChanged.connect(lambda _: self.show_again())
        self.seed.valueChanged.connect(lambda _: self.show_again())
        self.name.editingFinished.connect(self._rename)
        self.source.clicked.connect(self.source_wanted)
        self.keep.clicked.connect(self.keep_wanted)
        self.page.selection_wanted.connect(self.select)

    def _lay_out(self) -> None:
        first = QHBoxLayout()
        first.setSpacing(8)
        first.addWidget(self.name, 1)
        first.addWidget(self.source)
        first.addWidget(self.keep)
        second = QHBoxLayout()
        second.setSpacing(8)
        for widget in (self.own_key, self.all_keys, self.laid, self.order, self.seed, self.key, self.align):
            second.addWidget(widget)
        second.addStretch(1)
        second.addWidget(self.original)
        head = QVBoxLayout()
        head.setContentsMargins(8, 16, 16, 10)
        head.setSpacing(8)
        head.addLayout(first)
        head.addLayout(second)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(head)
        column.addWidget(rule())
        column.addWidget(self.page, 1)

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self.page.set_palette(palette)

    # -- what is shown ------------------------------------------------------------------------------

    def show_lick(self, lick: Lick, is_kept: bool) -> None:
        """Show a lick; ``is_kept`` says that it is in the vocabulary, and no place of a solo."""
        if lick != self.lick:
            self._under = ()
        self.lick, self.is_kept = lick, is_kept
        self.name.setText(lick.name)
        self.name.setCursorPosition(0)
        self.name.setReadOnly(not is_kept)
        self.keep.setVisible(not is_kept)
        self.source.setText(translate("Gavotte", "Open {title}").format(title=lick.source.title))
        self.source.setToolTip(
            translate("Gavotte", "Open the solo it comes from: {place}").format(place=source_words(lick))
        )
        self.show_again()

    def show_under(self, others: Sequence[Lick], by_hand: bool = False) -> None:
        """What is laid under the lick where it is shown with others; with ``by_hand`` that is shown at once."""
        self._under = tuple(others)
        if by_hand:
            self.laid.setChecked(True)
        if self.laid.isChecked():
            self.show_again()

    @property
    def _seed(self) -> int:
        """What decides the order of keys at random."""
        return int(self.seed.value())

    def clear(self) -> None:
        """Show no lick."""
        self.lick, self.concert, self.sheet, self._under, self._music = None, None, None, (), ()
        self.page.clear()
        self.music_changed.emit()

    def show_again(self) -> None:
        """Show the lick as it is to be seen now: written or concert pitch, which view."""
        lick = self.lick
        if lick is None:
            return
        self.order.setVisible(self.all_keys.isChecked())
        at_random = self.order.currentData() == KeyOrder.RANDOM
        self.seed.setVisible(self.all_keys.isChecked() and at_random)
        # In a narrow window there is room for one of the two.
        self.original.setVisible(not (self.all_keys.isChecked() and at_random))
        self.key.setVisible(self.laid.isChecked())
        self.align.setVisible(self.laid.isChecked())
        view = self._view
        pitch = view.reader if view.written else None
        which = tuple(button.isChecked() for button in (self.own_key, self.all_keys, self.laid))
        choices = (self.order.currentData(), self._seed, self.key.currentData(), self.align.currentData())
        under = self._under if self.laid.isChecked() else ()
        music = (lick.solo, lick.labels, pitch, which, choices, lick.name, lick.source, under)
        if music == self._music:
            return
        self._music = music
        self.sheet = self._sheet_of(lick)
        self.page.show_solo(self.sheet.solo, self.sheet.labels)
        self.concert = self.sheet.as_data[0]
        self.lift()
        self.music_changed.emit()

    def _sheet_of(self, lick: Lick) -> Sheet:
        concert = self._laid_out(lick, _as_it_sounds)
        shown = self._laid_out(lick, self._view.shown) if self._view.written else concert
        words = translate("Gavotte", "From {place}").format(place=source_words(lick))
        if self.laid.isChecked() and self._under:
            words = translate("Gavotte", "Laid under one another, the first from {place}").format(
                place=source_words(lick)
            )
        return Sheet(*shown, words, numbered=False, concert=concert if self._view.written else None)

    def _laid_out(self, lick: Lick, read: Reading) -> tuple[Solo, dict[str, Label]]:
        """The music as it is to be read, with its labels."""
        if self.laid.isChecked():
            return self._compared(lick, read)
        music = read(lick.solo)
        if self.all_keys.isChecked():
            solo, labels = key_sheet(lick, KeyOrder(self.order.currentData()), music, self._seed)
        else:
            solo, labels = music, labels_in(lick, music)
        return replace(solo, title=lick.name), {label.note: label for label in labels}

    def _compared(self, lick: Lick, read: Reading) -> tuple[Solo, dict[str, Label]]:
        licks = [self._to_read(one, read) for one in (lick, *self._under)]
        tonic = _IN_C if self.key.currentData() else licks[0].solo.keys[0].key.tonic.pitch_class
        solo, labels = laid_sheet(licks, tonic, AlignBy(self.align.currentData()), lick.name)
        return solo, {label.note: label for label in labels}

    def as_piece(self) -> Keys | Licks | None:
        """What is shown as a piece of a teaching sheet; None where nothing is."""
        lick = self.lick
        if lick is None:
            return None
        if self.all_keys.isChecked():
            order = KeyOrder(self.order.currentData())
            return Keys(id=new_id(), heading=lick.name, lick=lick, order=order, seed=self._seed)
        under = self._under if self.laid.isChecked() else ()
        align = AlignBy(self.align.currentData())
        return Licks(id=new_id(), heading=lick.name, licks=(lick, *under), in_one_key=bool(under), align=align)

    def to_read(self, lick: Lick) -> Lick:
        """A lick as it is to be read now."""
        return self._to_read(lick, self._view.shown)

    @staticmethod
    def _to_read(lick: Lick, read: Reading) -> Lick:
        music = read(lick.solo)
        return replace(lick, solo=music, labels=labels_in(lick, music))

    # -- the selection ------------------------------------------------------------------------------

    def select(self, anchor: str, current: str) -> None:
        """Select the notes from one to another, by their ids on the page."""
        if self.concert is None:
            return
        low, high = sorted((self.concert.places[anchor], self.concert.places[current]))
        self.selected = tuple(note.id for note in self.concert.notes[low : high + 1])
        self.page.set_selection(anchor, current, frozenset(self.selected))
        self._speak(current)

    def lift(self) -> bool:
        """Select nothing; False where nothing was."""
        had, self.selected = bool(self.selected), ()
        self.page.set_selection(None, None, frozenset())
        self.page.setAccessibleName(translate("Gavotte", "The lick"))
        return had

    def _speak(self, current: str) -> None:
        """Read the note out as one of the lick, in the key of its row."""
        sheet, lick = self.sheet, self.lick
        if sheet is None or lick is None:
            return
        label = sheet.labels.get(current)
        number, _, note = current.rpartition(":")
        if number and self.all_keys.isChecked():
            order = KeyOrder(self.order.currentData())
            row = in_one_of_all_keys(self._view.shown(lick.solo), int(number), order, self._seed)
            labels = {} if label is None else {note: label}
            words = spoken_selection(row.solo, BarGrid(row.solo), labels, self.selected, note)
            words = translate("Gavotte", "{key}: {words}").format(key=row.key.shown, words=words)
        else:
            solo = sheet.solo
            words = spoken_selection(
                solo, BarGrid(solo), {} if label is None else {current: label}, self.selected, current
            )
        self.page.setAccessibleName(words)
        self.page.setAccessibleDescription("" if label is None else label.reason)

    def _rename(self) -> None:
        name = self.name.text().strip()
        if self.lick is None or not self.is_kept or name == self.lick.name:
            return
        if name:
            self.renamed.emit(name)
        else:
            self.name.setText(self.lick.name)


def _as_it_sounds(solo: Solo) -> Solo:
    return solo


def source_words(lick: Lick) -> str:
    """Where a lick comes from: "Cinder Lane, bars 3–4, by Moss Tarrant"."""
    player = translate("Gavotte", ", by {player}").format(player=lick.source.player) if lick.source.player else ""
    return f"{lick.source.title}, {lick.source.place}{player}"


def _choice(name: str, tip: str, entries: Sequence[tuple[str, object]]) -> Choice:
    choice = Choice()
    choice.setAccessibleName(name)
    choice.setToolTip(tip)
    for words, value in entries:
        choice.addItem(words, value)
    return choice
