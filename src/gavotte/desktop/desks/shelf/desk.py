"""The Shelf: which solo or lick next? Lists what is in the library; takes new solos in."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QKeySequence, QShortcut
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QStackedWidget, QVBoxLayout, QWidget

from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.rows import RowList
from gavotte.desktop.words import counted
from gavotte.library.store import Library
from gavotte.theory.key import Key


class ShelfDesk(QWidget):
    """Signals carry library ids: open and delete for solos and licks; ``import_wanted`` asks for a file,
    ``new_wanted`` to begin a solo.
    """

    solo_chosen = pyqtSignal(str)
    lick_chosen = pyqtSignal(str)
    solo_unwanted = pyqtSignal(str)
    lick_unwanted = pyqtSignal(str)
    import_wanted = pyqtSignal()
    new_wanted = pyqtSignal()

    def __init__(self, library: Library) -> None:
        super().__init__()
        self.setObjectName("desk")
        self._library = library
        self.solos = RowList(translate("Gavotte", "Solos"))
        self.licks = RowList(translate("Gavotte", "Licks"))
        layout = QVBoxLayout(self)
        layout.setContentsMargins(24, 20, 24, 24)
        layout.setSpacing(16)
        layout.addLayout(self._header())
        self._stack = QStackedWidget()
        self._stack.addWidget(self._lists())
        self._stack.addWidget(self._empty())
        layout.addWidget(self._stack, 1)
        self._connect()

    def _header(self) -> QHBoxLayout:
        title = QLabel(translate("Gavotte", "Shelf"))
        title.setObjectName("title")
        self._count = QLabel()
        self._count.setObjectName("quietBody")
        self.import_button = QPushButton(translate("Gavotte", "Import a solo…"))
        self.import_button.setToolTip(translate("Gavotte", "Take in a MusicXML or MIDI file (Ctrl+I)"))
        self.new_button = QPushButton(translate("Gavotte", "New solo…"))
        self.new_button.setToolTip(translate("Gavotte", "Begin one from a recording, a form or an empty page (Ctrl+N)"))
        self.open_button = QPushButton(translate("Gavotte", "Open"))
        self.open_button.setObjectName("primary")
        self.open_button.setToolTip(translate("Gavotte", "Open the chosen solo or lick (Enter)"))
        header = QHBoxLayout()
        header.setSpacing(12)
        header.addWidget(title)
        header.addWidget(self._count, 1, Qt.AlignmentFlag.AlignBottom)
        header.addWidget(self.new_button)
        header.addWidget(self.import_button)
        header.addWidget(self.open_button)
        return header

    def _lists(self) -> QWidget:
        box = QWidget()
        columns = QHBoxLayout(box)
        columns.setContentsMargins(0, 0, 0, 0)
        columns.setSpacing(24)
        self._no_licks = QLabel(
            translate("Gavotte", "No licks yet. Open a solo, select a few notes on the page and press K to keep them.")
        )
        self._no_licks.setObjectName("quietBody")
        self._no_licks.setWordWrap(True)
        self._no_licks.setAlignment(Qt.AlignmentFlag.AlignTop)
        for name, rows, extra in (
            (translate("Gavotte", "Solos"), self.solos, None),
            (translate("Gavotte", "Licks"), self.licks, self._no_licks),
        ):
            column = QVBoxLayout()
            column.setSpacing(8)
            heading = QLabel(name)
            heading.setObjectName("heading")
            column.addWidget(heading)
            column.addWidget(rows, 1)
            if extra is not None:
                column.addWidget(extra, 1)
            columns.addLayout(column, 3 if rows is self.solos else 2)
        return box

    def _empty(self) -> QWidget:
        box = QWidget()
        layout = QVBoxLayout(box)
        layout.setAlignment(Qt.AlignmentFlag.AlignCenter)
        layout.setSpacing(12)
        heading = QLabel(translate("Gavotte", "Your shelf is empty"))
        heading.setObjectName("title")
        heading.setAlignment(Qt.AlignmentFlag.AlignCenter)
        text = QLabel(
            translate(
                "Gavotte",
                "Import a transcribed solo with chord symbols as MusicXML (.musicxml, .xml, "
                ".mxl) or MIDI (.mid),\nor drop the file anywhere on this window. Gavotte names "
                "every note against its chord.",
            )
        )
        text.setObjectName("quietBody")
        text.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.first_import = QPushButton(translate("Gavotte", "Import your first solo…"))
        self.first_import.setObjectName("primary")
        self.first_import.setToolTip(translate("Gavotte", "Choose a MusicXML or MIDI file (Ctrl+I)"))
        layout.addWidget(heading)
        layout.addWidget(text)
        layout.addWidget(self.first_import, 0, Qt.AlignmentFlag.AlignCenter)
        return box

    def _connect(self) -> None:
        self.new_button.clicked.connect(self.new_wanted)
        self.import_button.clicked.connect(self.import_wanted)
        self.first_import.clicked.connect(self.import_wanted)
        self.open_button.clicked.connect(self._open_current)
        self.solos.itemSelectionChanged.connect(lambda: self._one_choice(self.solos))
        self.licks.itemSelectionChanged.connect(lambda: self._one_choice(self.licks))
        self.solos.itemActivated.connect(lambda _: self._emit(self.solo_chosen, self.solos))
        self.licks.itemActivated.connect(lambda _: self._emit(self.lick_chosen, self.licks))
        for rows, signal in ((self.solos, self.solo_unwanted), (self.licks, self.lick_unwanted)):
            shortcut = QShortcut(QKeySequence(Qt.Key.Key_Delete), rows)
            shortcut.setContext(Qt.ShortcutContext.WidgetShortcut)
            shortcut.activated.connect(lambda rows=rows, signal=signal: self._emit(signal, rows))

    def _one_choice(self, rows: RowList) -> None:
        """Only one row of the two lists is chosen at a time."""
        if rows.selectedItems():
            other = self.licks if rows is self.solos else self.solos
            other.clearSelection()

    def _chosen_list(self) -> RowList:
        return self.licks if self.licks.selectedItems() else self.solos

    def _open_current(self) -> None:
        rows = self._chosen_list()
        self._emit(self.lick_chosen if rows is self.licks else self.solo_chosen, rows)

    @staticmethod
    def _emit(signal: object, rows: RowList) -> None:
        row_id = rows.current_id()
        if row_id is not None:
            signal.emit(row_id)  # type: ignore[attr-defined]

    def delete_current(self) -> None:
        """Ask to delete the chosen solo or lick."""
        rows = self._chosen_list()
        self._emit(self.lick_unwanted if rows is self.licks else self.solo_unwanted, rows)

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self.solos.set_palette(palette)
        self.licks.set_palette(palette)

    def refresh(self) -> None:
        """Read the lists anew, keeping the current rows."""
        solos, licks = self._library.solos(), self._library.licks()
        here = self.solos.chosen_id(), self.licks.chosen_id()
        self.solos.clear()
        self.licks.clear()
        for solo in solos:
            doubt = counted(solo.in_doubt, "note in doubt") if solo.in_doubt else translate("Gavotte", "no doubts")
            detail = " · ".join(
                part
                for part in (
                    solo.player,
                    solo.style,
                    Key.parse(solo.key).shown,
                    counted(solo.bars, "bar"),
                    counted(solo.notes, "note"),
                )
                if part
            )
            self.solos.add_row(solo.id, solo.title, detail, doubt, urgent=solo.in_doubt > 0)
        for lick in licks:
            self.licks.add_row(lick.id, lick.name, f"{lick.source} · {Key.parse(lick.key).shown}")
        lick_was_chosen = here[1] is not None and here[0] is None
        for rows, row_id in zip((self.licks, self.solos), reversed(here), strict=True):
            if not rows.select_id(row_id) and rows.count():
                rows.setCurrentRow(0)
        if (lick_was_chosen or not solos) and licks:
            self.solos.clearSelection()
        self._count.setText(f"{counted(len(solos), 'solo')}, {counted(len(licks), 'lick')}")
        self._count.setVisible(bool(solos or licks))
        self.import_button.setVisible(bool(solos or licks))
        self.open_button.setVisible(bool(solos or licks))
        self.licks.setVisible(bool(licks))
        self._no_licks.setVisible(not licks)
        self._stack.setCurrentIndex(0 if solos or licks else 1)
