"""What a new lick is called."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QLabel, QLineEdit, QWidget

from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.dialog import Dialog
from gavotte.desktop.words import counted
from gavotte.vocabulary.lick import Lick


class LickDialog(Dialog):
    """Shows the name proposed for a lick and lets the user change it."""

    def __init__(self, parent: QWidget, lick: Lick) -> None:
        super().__init__(parent, translate("Gavotte", "Keep as lick"), translate("Gavotte", "Keep lick"))
        self._lick = lick
        self.name = QLineEdit(lick.name)
        self.name.setAccessibleName(translate("Gavotte", "Name of the lick"))
        self.name.selectAll()
        self.name.textChanged.connect(lambda text: self.yes.setEnabled(bool(text.strip())))
        caption = QLabel(translate("Gavotte", "Name, from its harmony and functions"))
        caption.setObjectName("quiet")
        where = QLabel(
            translate("Gavotte", "{count} from {title}, {place}").format(
                count=counted(len(lick.solo.notes), "note"), title=lick.source.title, place=lick.source.place
            )
        )
        where.setObjectName("quietBody")
        where.setAlignment(Qt.AlignmentFlag.AlignLeft)
        self.content.addWidget(caption)
        self.content.addWidget(self.name)
        self.content.addWidget(where)
        self._there = QLabel()
        self._there.setWordWrap(True)
        self._there.setVisible(False)
        self.content.addWidget(self._there)

    def show_already_there(self, said: Sequence[str]) -> None:
        """Say what of it stands in the vocabulary already."""
        self._there.setText("\n".join(said))
        self._there.setVisible(bool(said))

    @property
    def already_there(self) -> str:
        """What is said of that."""
        return self._there.text()

    @property
    def lick(self) -> Lick:
        """The lick under the name in the field."""
        return self._lick.renamed(self.name.text().strip() or self._lick.name)
