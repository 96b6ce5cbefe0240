"""The checks panel: what looks wrong on the page, with a jump to each."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QLabel, QListWidget, QListWidgetItem, QVBoxLayout, QWidget

from gavotte.desktop.translation import translate
from gavotte.solo.checks import Finding


class ChecksPanel(QWidget):
    """Signal: ``jump_wanted(onset)``."""

    jump_wanted = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__()
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        column.setSpacing(8)
        self.about = QLabel()
        self.about.setObjectName("quietBody")
        self.about.setWordWrap(True)
        self.rows = QListWidget()
        self.rows.setWordWrap(True)
        self.rows.setVerticalScrollMode(QListWidget.ScrollMode.ScrollPerPixel)
        self.rows.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.rows.setAccessibleName(translate("Gavotte", "Checks"))
        self.rows.itemActivated.connect(self._jump)
        self.rows.itemClicked.connect(self._jump)
        column.addWidget(self.about)
        column.addWidget(self.rows, 1)

    def show_findings(self, findings: tuple[Finding, ...]) -> None:
        """List what was found."""
        self.rows.clear()
        for finding in findings:
            item = QListWidgetItem(finding.message)
            item.setData(Qt.ItemDataRole.UserRole, finding.onset)
            self.rows.addItem(item)
        self.rows.setVisible(bool(findings))
        self.about.setText(
            translate("Gavotte", "Click, or press Enter, to go there.")
            if findings
            else translate("Gavotte", "Every bar adds up, and nothing looks like a slip.")
        )

    def _jump(self, item: QListWidgetItem) -> None:
        self.jump_wanted.emit(item.data(Qt.ItemDataRole.UserRole))
