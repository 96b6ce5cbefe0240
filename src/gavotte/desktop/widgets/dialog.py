"""A dialog with a heading, room for content, and two buttons."""

from __future__ import annotations

from PyQt6.QtWidgets import QDialog, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from gavotte.desktop.translation import translate


class Dialog(QDialog):
    """A dialog with a heading, room for content, and two buttons.

    It lasts until the next of its kind is opened: what it was told can be asked for until then.
    """

    def __init__(self, parent: QWidget, title: str, yes: str) -> None:
        super().__init__(parent)
        for before in parent.findChildren(type(self)):
            if before is not self and before.is_done():
                before.deleteLater()
        self.setWindowTitle(title)
        self.setMinimumWidth(520)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(24, 20, 24, 20)
        layout.setSpacing(12)
        heading = QLabel(title)
        heading.setObjectName("title")
        layout.addWidget(heading)
        self.content = QVBoxLayout()
        self.content.setSpacing(8)
        layout.addLayout(self.content, 1)
        row = QHBoxLayout()
        row.addStretch(1)
        self.no = QPushButton(translate("Gavotte", "Cancel"))
        self.no.setToolTip(translate("Gavotte", "Leave everything as it is (Esc)"))
        self.no.clicked.connect(self.reject)
        self.yes = QPushButton(yes)
        self.yes.setObjectName("primary")
        self.yes.setDefault(True)
        self.yes.setToolTip(translate("Gavotte", "{yes} (Enter)").format(yes=yes))
        self.yes.clicked.connect(self.accept)
        row.addWidget(self.no)
        row.addWidget(self.yes)
        layout.addLayout(row)

    def is_done(self) -> bool:
        """Whether nothing is done in it or for it any more."""
        return not self.isVisible()
