"""The two sets that are compared, each with the part of the solos that is meant, and what stands between them."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QGridLayout, QHBoxLayout, QLabel, QWidget

from gavotte.desktop.desks.compare.choose_dialog import ChooseDialog
from gavotte.desktop.desks.compare.words import part_words, set_words
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.choice import Choice
from gavotte.library.reader import SoloEntry, TakeEntry
from gavotte.library.solo_sets import SetKind, SoloSet, sets_of
from gavotte.profile.parts import WHOLE, Part

_CHOOSE = "choose"
_LONGEST = 24


class SetChoice(QWidget):
    """A set and the part of its solos. Signal: ``changed``."""

    changed = pyqtSignal()

    def __init__(self, name: str, usual: SoloSet) -> None:
        super().__init__()
        self.sets, self.parts = Choice(), Choice()
        self.sets.setAccessibleName(name)
        self.sets.setMinimumContentsLength(10)
        self.sets.setSizeAdjustPolicy(Choice.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.parts.setAccessibleName(translate("Gavotte", "{set}: which part").format(set=name))
        self.parts.setToolTip(translate("Gavotte", "Which part of the solos is compared"))
        self.parts.addItem(part_words(WHOLE), WHOLE)
        self.parts.setSizeAdjustPolicy(Choice.SizeAdjustPolicy.AdjustToContents)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(6)
        row.addWidget(self.sets, 1)
        row.addWidget(self.parts)
        self._usual, self._chosen, self._part = usual, usual, WHOLE
        self._entries: list[SoloEntry] = []
        self._takes: list[TakeEntry] = []
        self.dialog: ChooseDialog | None = None
        self.sets.activated.connect(lambda _: self._picked())
        self.parts.activated.connect(lambda _: self._part_picked())

    @property
    def chosen(self) -> SoloSet:
        """The set."""
        return self._chosen

    @property
    def part(self) -> Part:
        """The part of its solos."""
        return self._part

    def recall(self, code: str, part: str) -> None:
        """Choose what was chosen before, where it is still there."""
        self._chosen, self._part = SoloSet.of(code) or self._usual, Part.of(part) or WHOLE

    def choose(self, chosen: SoloSet, part: Part = WHOLE) -> None:
        """Choose a set and a part; nothing is told of it."""
        self._chosen, self._part = chosen, part
        self._show_sets()

    def offer(self, entries: Sequence[SoloEntry], takes: Sequence[TakeEntry], usual: SoloSet) -> None:
        """Offer what the library has; what was chosen and is gone gives way to the usual set."""
        self._entries, self._takes = list(entries), list(takes)
        if self._chosen == self._usual:
            self._chosen = usual
        self._usual = usual
        if self._chosen.kind is not SetKind.SEVERAL and self._chosen not in sets_of(entries, takes):
            self._chosen = usual
        self._show_sets()

    def _show_sets(self) -> None:
        sets = sets_of(self._entries, self._takes)
        if self._chosen.kind is SetKind.SEVERAL:
            sets.insert(2, self._chosen)
        self.sets.blockSignals(True)
        self.sets.clear()
        for one in sets:
            self.sets.addItem(set_words(one, self._entries), one)
        self.sets.addItem(translate("Gavotte", "Choose several…"), _CHOOSE)
        self.sets.setCurrentIndex(sets.index(self._chosen) if self._chosen in sets else 0)
        self.sets.setToolTip(set_words(self._chosen, self._entries))
        self.sets.blockSignals(False)

    def offer_parts(self, parts: Sequence[Part]) -> None:
        """Offer the parts the set's solos have."""
        self.parts.blockSignals(True)
        self.parts.clear()
        for part in [*parts, *([] if self._part in parts else [self._part])]:
            words = part_words(part)
            self.parts.addItem(words if len(words) <= _LONGEST else f"{words[: _LONGEST - 1]}…", part)
        self.parts.setCurrentIndex(max(0, self.parts.findData(self._part)))
        self.parts.setVisible(self.parts.count() > 1)
        self.parts.blockSignals(False)

    def _picked(self) -> None:
        picked = self.sets.currentData()
        if picked == _CHOOSE:
            self._show_sets()
            self.ask()
        elif picked != self._chosen:
            self._chosen = picked
            self.sets.setToolTip(self.sets.currentText())
            self.changed.emit()

    def _part_picked(self) -> None:
        self._part = self.parts.currentData()
        self.changed.emit()

    def ask(self) -> None:
        """Ask which solos make up the set."""
        dialog = self.dialog = ChooseDialog(self.window() or self, self._entries, self._chosen)
        dialog.accepted.connect(lambda: self._took(dialog.chosen))
        dialog.open()

    def _took(self, chosen: SoloSet) -> None:
        self.choose(chosen)
        self.changed.emit()


class SetsBar(QWidget):
    """``here`` and ``there`` are the sets, ``middle`` what is chosen between them; under each a few quiet words.

    Signal: ``changed``, another set or part was chosen.
    """

    changed = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.here = SetChoice(translate("Gavotte", "The first set"), SoloSet(SetKind.ALL))
        self.there = SetChoice(translate("Gavotte", "The other set"), SoloSet(SetKind.REST))
        self.middle = Choice()
        self.middle.setAccessibleName(translate("Gavotte", "Which figures"))
        self.here_words, self.verdict, self.there_words = QLabel(), QLabel(), QLabel()
        grid = QGridLayout(self)
        grid.setContentsMargins(16, 8, 16, 8)
        grid.setHorizontalSpacing(12)
        grid.setVerticalSpacing(2)
        parts = ((self.here, self.here_words), (self.middle, self.verdict), (self.there, self.there_words))
        for place, (widget, words) in enumerate(parts):
            words.setObjectName("quiet")
            words.setWordWrap(True)
            words.setAlignment(Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignTop)
            grid.addWidget(widget, 0, place)
            grid.addWidget(words, 1, place)
            grid.setColumnStretch(place, 1)
        for choice in (self.here, self.there):
            choice.changed.connect(self.changed)

    def show_other(self, is_shown: bool) -> None:
        """Show the other set, or not where only the first one counts."""
        self.there.setVisible(is_shown)
        self.there_words.setVisible(is_shown)

    def swap(self) -> None:
        """Let the sets change places."""
        here, there = (self.here.chosen, self.here.part), (self.there.chosen, self.there.part)
        self.here.choose(*there)
        self.there.choose(*here)
        self.changed.emit()
