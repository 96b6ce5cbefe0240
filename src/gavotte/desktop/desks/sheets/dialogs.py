"""What is asked before something is put on a sheet: which bars of which solo, which licks."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QFormLayout, QLabel, QListWidget, QListWidgetItem, QWidget

from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.choice import Choice
from gavotte.desktop.widgets.dialog import Dialog
from gavotte.desktop.widgets.line import Line
from gavotte.desktop.widgets.number import Number
from gavotte.library.reader import LickEntry, SoloEntry

_ID = Qt.ItemDataRole.UserRole


class BarsDialog(Dialog):
    """Asks for a solo, and unless all of it is meant for bars of it.

    ``first`` and ``last`` say which; they are not asked for where ``whole``.
    """

    def __init__(
        self,
        parent: QWidget,
        title: str,
        solos: Sequence[SoloEntry],
        open_solo: str,
        bars: tuple[int, int] | None,
        whole: bool = False,
    ) -> None:
        super().__init__(parent, title, translate("Gavotte", "Put it on"))
        self._solos = [entry for entry in solos if entry.notes]
        self.solo = Choice()
        for entry in self._solos:
            words = f"{entry.title}, {entry.player}" if entry.player else entry.title
            self.solo.addItem(words, entry.id)
        self.solo.setCurrentIndex(max(0, self.solo.findData(open_solo)))
        self.solo.setAccessibleName(translate("Gavotte", "Solo"))
        self._from, self._to = Number(0, 1, 1), Number(0, 1, 1)
        self._from.setAccessibleName(translate("Gavotte", "From bar"))
        self._to.setAccessibleName(translate("Gavotte", "To bar"))
        form = QFormLayout()
        form.setSpacing(8)
        form.addRow(translate("Gavotte", "Solo"), self.solo)
        if not whole:
            form.addRow(translate("Gavotte", "From bar"), self._from)
            form.addRow(translate("Gavotte", "To bar"), self._to)
        self.content.addLayout(form)
        self.yes.setEnabled(bool(self._solos))
        self.solo.currentIndexChanged.connect(lambda _: self._fit())
        self._fit()
        if bars is not None and self.solo_id == open_solo:
            self._from.setValue(bars[0])
            self._to.setValue(bars[1])

    def _fit(self) -> None:
        index = self.solo.currentIndex()
        most = self._solos[index].bars if 0 <= index < len(self._solos) else 1
        for field in (self._from, self._to):
            field.setRange(0, max(1, most))
        self._from.setValue(1)
        self._to.setValue(most)

    @property
    def solo_id(self) -> str:
        """The solo that is chosen."""
        return str(self.solo.currentData() or "")

    @property
    def first(self) -> int:
        """The first bar."""
        return int(min(self._from.value(), self._to.value()))

    @property
    def last(self) -> int:
        """The last bar."""
        return int(max(self._from.value(), self._to.value()))


class LicksDialog(Dialog):
    """Asks for one lick, or for several in the order in which they are ticked."""

    def __init__(self, parent: QWidget, title: str, yes: str, licks: Sequence[LickEntry], several: bool) -> None:
        super().__init__(parent, title, yes)
        self.setMinimumSize(560, 480)
        self._several = several
        self._ticked: list[str] = []
        self.search = Line()
        self.search.setPlaceholderText(translate("Gavotte", "Type to find a lick"))
        self.search.setAccessibleName(translate("Gavotte", "Find"))
        self.list = QListWidget()
        self.list.setAccessibleName(translate("Gavotte", "Licks"))
        for entry in licks:
            about = " · ".join(part for part in (entry.player, entry.context) if part)
            item = QListWidgetItem(f"{entry.name}\n{about}" if about else entry.name)
            item.setData(_ID, entry.id)
            if several:
                item.setFlags(item.flags() | Qt.ItemFlag.ItemIsUserCheckable)
                item.setCheckState(Qt.CheckState.Unchecked)
            self.list.addItem(item)
        self.told = QLabel()
        self.told.setObjectName("quiet")
        for widget in (self.search, self.list, self.told):
            self.content.addWidget(widget)
        self.search.textChanged.connect(lambda _: self._filter())
        self.list.itemChanged.connect(self._tick)
        self.list.currentRowChanged.connect(lambda _: self._tell())
        self.list.itemActivated.connect(lambda _: self.accept() if not several else None)
        if self.list.count() and not several:
            self.list.setCurrentRow(0)
        self._tell()

    def _filter(self) -> None:
        wanted = self.search.text().casefold().split()
        for item in self._items():
            item.setHidden(not all(word in item.text().casefold() for word in wanted))

    def _items(self) -> list[QListWidgetItem]:
        return [item for row in range(self.list.count()) if (item := self.list.item(row)) is not None]

    def _tick(self, item: QListWidgetItem) -> None:
        lick = str(item.data(_ID))
        if item.checkState() == Qt.CheckState.Checked:
            if lick not in self._ticked:
                self._ticked.append(lick)
        elif lick in self._ticked:
            self._ticked.remove(lick)
        self._tell()

    def _tell(self) -> None:
        self.yes.setEnabled(bool(self.chosen))
        words = translate("Gavotte", "{number} chosen").format(number=len(self._ticked)) if self._several else ""
        self.told.setText(words)

    @property
    def chosen(self) -> tuple[str, ...]:
        """The ids of the licks that are chosen."""
        if self._several:
            return tuple(self._ticked)
        item = self.list.currentItem()
        return () if item is None or item.isHidden() else (str(item.data(_ID)),)


class ChoiceDialog(Dialog):
    """Asks for one of several things, each with words; ``chosen`` is its number."""

    def __init__(self, parent: QWidget, title: str, yes: str, entries: Sequence[str]) -> None:
        super().__init__(parent, title, yes)
        self.list = QListWidget()
        self.list.setAccessibleName(title)
        self.list.setWordWrap(True)
        self.list.addItems(list(entries))
        self.list.setCurrentRow(0)
        self.list.itemActivated.connect(lambda _: self.accept())
        self.content.addWidget(self.list)

    @property
    def chosen(self) -> int:
        """The number of what is chosen, from 0."""
        return self.list.currentRow()
