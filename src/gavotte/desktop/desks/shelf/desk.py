"""The Shelf: which solo or lick next? Lists what is in the library; takes new solos in."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QAbstractButton, QHBoxLayout, QLabel, QPushButton, QStackedWidget, QVBoxLayout, QWidget

from gavotte.desktop.command import Command, shown_keys
from gavotte.desktop.desk.desk import Desk, DeskKind, Hint
from gavotte.desktop.desk.studio import Studio
from gavotte.desktop.desk.updates import Update
from gavotte.desktop.desks.shelf.commands import shelf_commands
from gavotte.desktop.errands.several_dialog import SeveralDialog
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import QT_TRANSLATE_NOOP, translate
from gavotte.desktop.widgets.rows import RowList
from gavotte.desktop.words import counted
from gavotte.theory.key import Key

_MOST_LICKS = 300
"""The latest licks that are listed here; the Vocabulary desk has them all."""


class ShelfDesk(Desk):
    """Two lists, ``solos`` and ``licks``, one row of which is chosen."""

    kind = DeskKind("shelf", QT_TRANSLATE_NOOP("Gavotte", "Shelf"), "F1", follows=Update.LIBRARY)

    def __init__(self, studio: Studio) -> None:
        super().__init__(studio)
        self.solos = RowList(translate("Gavotte", "Solos"))
        self.solos.setSelectionMode(RowList.SelectionMode.ExtendedSelection)
        self.licks = RowList(translate("Gavotte", "Licks"))
        self.several: SeveralDialog | None = None
        layout = QVBoxLayout(self)
        layout.setContentsMargins(24, 20, 24, 24)
        layout.setSpacing(16)
        layout.addLayout(self._header())
        self._stack = QStackedWidget()
        self._stack.addWidget(self._lists())
        self._stack.addWidget(self._empty())
        layout.addWidget(self._stack, 1)
        self._connect()

    # -- as a desk ----------------------------------------------------------------------------------

    def commands(self) -> tuple[Command, ...]:
        return shelf_commands(self)

    def command_buttons(self) -> dict[str, tuple[QAbstractButton, ...]]:
        return {"file.new": (self.new_button, self.first_new), "file.import": (self.import_button, self.first_import)}

    def focus(self) -> QWidget:
        return self.solos

    def state(self) -> str:
        number, _ = self.studio.library.counts()
        return counted(number, "solo") if number else ""

    def hints(self) -> tuple[str, tuple[Hint, ...]]:
        return translate("Gavotte", "In the lists"), (
            ("↑ ↓", translate("Gavotte", "Entry above, entry below")),
            (translate("Gavotte", "Enter"), translate("Gavotte", "Open it")),
        )

    def show_updates(self, changes: Update) -> None:
        self.refresh()

    def _header(self) -> QHBoxLayout:
        title = QLabel(translate("Gavotte", "Shelf"))
        title.setObjectName("title")
        self._count = QLabel()
        self._count.setObjectName("quietBody")
        self.import_button = QPushButton(translate("Gavotte", "Import a solo…"))
        self.import_button.setToolTip(translate("Gavotte", "Take in a MusicXML or MIDI file"))
        self.new_button = QPushButton(translate("Gavotte", "New solo…"))
        self.new_button.setToolTip(translate("Gavotte", "Begin one from a recording, a form or an empty page"))
        self.details_button = QPushButton(translate("Gavotte", "Details…"))
        self.details_button.setToolTip(translate("Gavotte", "Player, year, album, source, tags of all chosen solos"))
        self.open_button = QPushButton(translate("Gavotte", "Open"))
        self.open_button.setObjectName("primary")
        self.open_button.setToolTip(translate("Gavotte", "Open the chosen solo or lick (Enter)"))
        header = QHBoxLayout()
        header.setSpacing(12)
        header.addWidget(title)
        header.addWidget(self._count, 1, Qt.AlignmentFlag.AlignBottom)
        header.addWidget(self.new_button)
        header.addWidget(self.import_button)
        header.addWidget(self.details_button)
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
                "Import a transcribed solo with its chord symbols (MusicXML or MIDI), or drop the file on this "
                "window.\nOr begin a new solo, and write it from a recording or by ear. Gavotte names every note "
                "against its chord.",
            )
        )
        text.setObjectName("quietBody")
        text.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.first_import = QPushButton(translate("Gavotte", "Import your first solo…"))
        self.first_import.setObjectName("primary")
        self.first_import.setToolTip(translate("Gavotte", "Choose a MusicXML or MIDI file"))
        self.first_new = QPushButton(translate("Gavotte", "New solo…"))
        self.first_new.setToolTip(translate("Gavotte", "Begin one from a recording, a form or an empty page"))
        keys = QLabel(
            translate(
                "Gavotte", "{first} imports, {second} begins a new one, {third} finds anything else by its name"
            ).format(first=shown_keys("Ctrl+I"), second=shown_keys("Ctrl+N"), third=shown_keys("F10"))
        )
        keys.setObjectName("quiet")
        buttons = QHBoxLayout()
        buttons.setSpacing(12)
        buttons.addStretch(1)
        buttons.addWidget(self.first_import)
        buttons.addWidget(self.first_new)
        buttons.addStretch(1)
        layout.addWidget(heading)
        layout.addWidget(text)
        layout.addLayout(buttons)
        layout.addWidget(keys, 0, Qt.AlignmentFlag.AlignCenter)
        return box

    def _connect(self) -> None:
        studio = self.studio
        for button in (self.new_button, self.first_new):
            button.clicked.connect(lambda: studio.beginning.new_solo())
        for button in (self.import_button, self.first_import):
            button.clicked.connect(studio.importer.choose)
        self.open_button.clicked.connect(self.open_current)
        self.details_button.clicked.connect(lambda: self.change_details())
        self.solos.itemSelectionChanged.connect(lambda: self._one_choice(self.solos))
        self.licks.itemSelectionChanged.connect(lambda: self._one_choice(self.licks))
        for rows in (self.solos, self.licks):
            rows.itemActivated.connect(lambda _: self.open_current())

    def _one_choice(self, rows: RowList) -> None:
        """Only one row of the two lists is chosen at a time."""
        if rows.selectedItems():
            other = self.licks if rows is self.solos else self.solos
            other.clearSelection()

    def _chosen(self) -> tuple[RowList, str | None]:
        """The list with the chosen row, and the row's id."""
        rows = self.licks if self.licks.selectedItems() else self.solos
        return rows, rows.current_id()

    @property
    def has_choice(self) -> bool:
        """Whether a solo or a lick is chosen."""
        return self._chosen()[1] is not None

    def open_current(self) -> None:
        """Open the chosen solo, or go to the chosen lick."""
        rows, row_id = self._chosen()
        if row_id is None:
            return
        if rows is self.licks:
            self.studio.asks.go("vocabulary", row_id)
        else:
            self.studio.asks.open_solo(row_id)

    @property
    def chosen_solos(self) -> tuple[str, ...]:
        """The ids of the chosen solos, from the top down."""
        return self.solos.chosen_ids()

    def change_details(self) -> None:
        """Ask for details of all chosen solos."""
        chosen = set(self.chosen_solos)
        entries = [entry for entry in self.studio.library.solos() if entry.id in chosen]
        if not entries:
            return
        dialog = self.several = SeveralDialog(self, entries)
        dialog.accepted.connect(lambda: self.studio.edits.change_details(dialog.changes))
        dialog.open()

    def delete_current(self) -> None:
        """Delete the chosen solos or lick; can be undone."""
        rows, row_id = self._chosen()
        if row_id is None:
            return
        if len(self.chosen_solos) > 1:
            self.studio.edits.delete_solos(self.chosen_solos)
            return
        if rows is self.licks:
            self.studio.edits.delete_lick(row_id)
        else:
            self.studio.edits.delete_solo(row_id)

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self.solos.set_palette(palette)
        self.licks.set_palette(palette)

    def refresh(self) -> None:
        """Read the lists anew, keeping the current rows."""
        library = self.studio.library
        solos, licks = library.solos(), library.licks()
        here, chosen = (self.solos.chosen_id(), self.licks.chosen_id()), self.solos.chosen_ids()
        self.solos.clear()
        self.licks.clear()
        for solo in solos:
            number = solo.to_look_at
            look = (
                ""
                if number is None
                else translate("Gavotte", "{number} to look at").format(number=number)
                if number
                else translate("Gavotte", "all clear")
            )
            detail = " · ".join(
                part
                for part in (
                    translate("Gavotte", "the head") if solo.is_head else "",
                    solo.player,
                    "" if solo.year is None else str(solo.year),
                    solo.style,
                    solo.tags,
                    Key.parse(solo.key).shown,
                    counted(solo.bars, "bar"),
                    counted(solo.notes, "note"),
                )
                if part
            )
            self.solos.add_row(solo.id, solo.title, detail, look, urgent=bool(number))
        for lick in licks[:_MOST_LICKS]:
            self.licks.add_row(lick.id, lick.name, f"{lick.source} · {Key.parse(lick.key).shown}")
        lick_was_chosen = here[1] is not None and here[0] is None
        for rows, row_id in zip((self.licks, self.solos), reversed(here), strict=True):
            if not rows.select_id(row_id) and rows.count():
                rows.setCurrentRow(0)
        if (lick_was_chosen or not solos) and licks:
            self.solos.clearSelection()
        elif len(chosen) > 1:
            self.solos.also_choose(chosen)
        self._count.setText(f"{counted(len(solos), 'solo')}, {counted(len(licks), 'lick')}")
        self._count.setVisible(bool(solos or licks))
        # An empty shelf says itself how to begin.
        for button in (self.new_button, self.import_button, self.details_button, self.open_button):
            button.setVisible(bool(solos or licks))
        self.licks.setVisible(bool(licks))
        self._no_licks.setVisible(not licks)
        self._stack.setCurrentIndex(0 if solos or licks else 1)
        self.state_changed.emit()
