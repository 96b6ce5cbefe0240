"""Two small dialogs: which lick is to be worked on, and what a recipe is called."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PyQt6.QtWidgets import QLabel, QLineEdit, QWidget

from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.dialog import Dialog
from gavotte.desktop.widgets.line import Line
from gavotte.desktop.widgets.rows import RowList
from gavotte.library.reader import LickEntry

_MOST = 200


class LickChoice(Dialog):
    """Lists licks by what is typed; ``chosen`` is the id of the one that is to be taken."""

    def __init__(self, parent: QWidget, licks: Sequence[LickEntry], found: Callable[[str], frozenset[str]]) -> None:
        super().__init__(parent, translate("Gavotte", "Take a lick"), translate("Gavotte", "Take it"))
        self._licks, self._found = tuple(licks), found
        self.line = Line()
        self.line.setPlaceholderText(translate("Gavotte", "Name, player, tune or tag"))
        self.line.setAccessibleName(translate("Gavotte", "Search licks"))
        self.rows = RowList(translate("Gavotte", "Licks"))
        self.rows.setMinimumHeight(300)
        self.content.addWidget(self.line)
        self.content.addWidget(self.rows, 1)
        self.line.textChanged.connect(lambda _: self._list())
        self.rows.itemActivated.connect(lambda _: self.accept())
        self.rows.currentRowChanged.connect(lambda row: self.yes.setEnabled(row >= 0))
        self._list()
        self.line.setFocus()

    @property
    def chosen(self) -> str | None:
        """The id of the chosen lick."""
        return self.rows.current_id()

    def _list(self) -> None:
        words = self.line.text().strip()
        wanted = self._found(words) if words else None
        self.rows.clear()
        for lick in [lick for lick in self._licks if wanted is None or lick.id in wanted][:_MOST]:
            self.rows.add_row(lick.id, lick.name, ", ".join(filter(None, (lick.source, lick.player))))
        self.rows.setCurrentRow(0 if self.rows.count() else -1)
        self.yes.setEnabled(self.rows.count() > 0)


class RecipeName(Dialog):
    """Asks what a recipe is to be called."""

    def __init__(self, parent: QWidget, proposed: str, taken: Sequence[str]) -> None:
        super().__init__(parent, translate("Gavotte", "Keep as a recipe"), translate("Gavotte", "Keep recipe"))
        self._taken = {name.casefold() for name in taken}
        self.name = QLineEdit(proposed)
        self.name.setAccessibleName(translate("Gavotte", "Name of the recipe"))
        self.name.selectAll()
        self.said = QLabel()
        self.said.setObjectName("quietBody")
        self.content.addWidget(self.name)
        self.content.addWidget(self.said)
        self.name.textChanged.connect(lambda _: self._tell())
        self._tell()

    def _tell(self) -> None:
        name = self.name.text().strip()
        self.yes.setEnabled(bool(name))
        there = name.casefold() in self._taken
        self.said.setText(translate("Gavotte", "There is one of this name; it gives way.") if there else "")
