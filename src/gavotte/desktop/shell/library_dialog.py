"""The library itself: where it is, its backups, going back to one, and the whole of it out and in as an archive."""

from __future__ import annotations

from collections.abc import Generator
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QDateTime, QLocale, pyqtSignal
from PyQt6.QtWidgets import QFileDialog, QHBoxLayout, QLabel, QPushButton, QWidget

from gavotte.desktop.activity import Activities
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.dialog import Dialog
from gavotte.desktop.widgets.rows import RowList
from gavotte.desktop.words import counted
from gavotte.library.archive import SUFFIX, Contents, add_contents, extract_sounds, read_archive, write_archive
from gavotte.library.backups import Backup, list_backups
from gavotte.library.errors import LibraryError
from gavotte.library.store import Library


class LibraryDialog(Dialog):
    """Shows the library's backups. Signals: ``about_to_change`` (nothing may be open), ``changed`` (other
    contents), ``told(message)``, ``failed(message)``.
    """

    about_to_change = pyqtSignal()
    changed = pyqtSignal()
    told = pyqtSignal(str)
    failed = pyqtSignal(str)

    def __init__(self, parent: QWidget, library: Library, activities: Activities, palette: Palette) -> None:
        super().__init__(parent, translate("Gavotte", "The library"), translate("Gavotte", "Go back to this backup"))
        self._library, self._activities = library, activities
        self.setMinimumWidth(620)
        where = QLabel(
            translate("Gavotte", "{folder}\n{solos}, {licks}. A backup is made each day Gavotte is used.").format(
                folder=library.folder,
                solos=counted(len(library.solos()), "solo"),
                licks=counted(len(library.licks()), "lick"),
            )
        )
        where.setObjectName("quietBody")
        where.setWordWrap(True)
        self.backups = RowList(translate("Gavotte", "Backups"))
        self.backups.set_palette(palette)
        self.backups.setMinimumHeight(230)
        self.nothing = QLabel(
            translate("Gavotte", "There is no backup yet. The first one is made when Gavotte is started the next time.")
        )
        self.nothing.setObjectName("quietBody")
        self.back_up = QPushButton(translate("Gavotte", "Back up now"))
        self.back_up.setToolTip(translate("Gavotte", "Keep the library as it is at this moment"))
        self.export_all = QPushButton(translate("Gavotte", "Export the library…"))
        self.export_all.setToolTip(
            translate("Gavotte", "One zip file with every solo and lick, as JSON and as MusicXML")
        )
        self.bring_in = QPushButton(translate("Gavotte", "Bring in a library…"))
        self.bring_in.setToolTip(translate("Gavotte", "Add the solos and licks of an exported library to this one"))
        row = QHBoxLayout()
        row.setSpacing(8)
        for button in (self.back_up, self.export_all, self.bring_in):
            row.addWidget(button)
        row.addStretch(1)
        heading = QLabel(translate("Gavotte", "Backups"))
        heading.setObjectName("heading")
        self.content.addWidget(where)
        self.content.addLayout(row)
        self.content.addSpacing(8)
        self.content.addWidget(heading)
        self.content.addWidget(self.backups, 1)
        self.content.addWidget(self.nothing)
        self.yes.setToolTip(
            translate("Gavotte", "The library becomes what it was then; what it is now is backed up first")
        )
        self._connect()
        self._show_backups()

    def _connect(self) -> None:
        self.yes.clicked.disconnect()
        self.yes.clicked.connect(self.go_back)
        # Enter must not go back in time.
        self.yes.setObjectName("")
        self.yes.setAutoDefault(False)
        self.no.setText(translate("Gavotte", "Close"))
        self.no.setDefault(True)
        self.back_up.clicked.connect(self._back_up)
        self.export_all.clicked.connect(self.choose_export)
        self.bring_in.clicked.connect(self.choose_archive)

    def _show_backups(self) -> None:
        self._found: list[Backup] = list_backups(self._library.folder)
        self.backups.clear()
        for backup in self._found:
            self.backups.add_row(
                str(backup.path),
                QLocale().toString(
                    QDateTime.fromSecsSinceEpoch(int(backup.made.timestamp())), "dddd d MMMM yyyy, HH:mm"
                ),
                f"{counted(backup.solos, 'solo')}, {counted(backup.licks, 'lick')}",
            )
        self.backups.setCurrentRow(0)
        self.backups.setVisible(bool(self._found))
        self.nothing.setVisible(not self._found)
        self.yes.setEnabled(bool(self._found))

    def _back_up(self) -> None:
        try:
            self._library.back_up_now()
        except LibraryError as error:
            self.failed.emit(str(error))
            return
        self._show_backups()

    def go_back(self) -> None:
        """Make the chosen backup the library."""
        chosen = self.backups.current_id()
        if chosen is None:
            return
        self.accept()
        self.about_to_change.emit()
        try:
            self._library.go_back_to(Path(chosen))
        except LibraryError as error:
            self.failed.emit(str(error))
            return
        self.changed.emit()
        self.told.emit(
            translate("Gavotte", "The library is what it was then. What it was before is the latest backup.")
        )

    def is_done(self) -> bool:
        return super().is_done() and not self._activities.of(self)

    def choose_export(self) -> None:
        """Ask for a file and write the whole library to it."""
        name, _ = QFileDialog.getSaveFileName(
            self,
            translate("Gavotte", "Export the library"),
            str(Path.home() / f"{translate('Gavotte', 'Gavotte library')}{SUFFIX}"),
            f"{translate('Gavotte', 'Gavotte library')} (*{SUFFIX})",
        )
        if name:
            path = Path(name)
            self.export_to(path if path.name.endswith(".zip") else path.with_name(path.name + SUFFIX))

    def export_to(self, path: Path) -> None:
        """Write the whole library to a file, beside the interface."""
        left_out: list[str] = []
        library = self._library

        def steps() -> Generator[float, None, None]:
            with library.read_apart() as reader:
                yield from write_archive(reader, path, left_out)

        def done(_: None) -> None:
            words = translate("Gavotte", "The library was exported as {name}").format(name=path.name)
            if left_out:
                names = ", ".join(f"“{name}”" for name in left_out)
                without = translate("Gavotte", "{exported}, but without {names}: what is kept of it can't be read.")
                self.failed.emit(without.format(exported=words, names=names))
            else:
                self.told.emit(words)

        self._activities.walk(
            self,
            steps,
            done,
            partial(self._not_exported, path),
            translate("Gavotte", "Writing {name}").format(name=path.name),
            apart=True,
        )
        self.accept()

    def _not_exported(self, path: Path, error: Exception) -> None:
        words = translate("Gavotte", "{name} was not written: {error}")
        if isinstance(error, OSError):
            words = translate("Gavotte", "{name} could not be written: {error}. Choose another folder.")
            error = OSError(error.strerror or error)
        self.failed.emit(words.format(name=path.name, error=error))

    def choose_archive(self) -> None:
        """Ask for an exported library and add it to this one."""
        name, _ = QFileDialog.getOpenFileName(
            self,
            translate("Gavotte", "Bring in a library"),
            str(Path.home()),
            f"{translate('Gavotte', 'Gavotte library')} (*{SUFFIX} *.zip)",
        )
        if name:
            self.add_from(Path(name))

    def add_from(self, path: Path) -> None:
        """Add an exported library's contents to this one."""
        folder = self._library.folder

        def work() -> tuple[Contents, list[Path]]:
            contents = read_archive(path)
            return contents, extract_sounds(contents, folder)

        self._activities.beside(
            self,
            work,
            lambda found: self._add(*found),
            lambda error: self.failed.emit(f"{path.name}: {error}"),
            translate("Gavotte", "Reading {name}").format(name=path.name),
            apart=True,
        )
        self.accept()

    def _add(self, contents: Contents, new_files: list[Path]) -> None:
        try:
            add_contents(self._library, contents)
        except LibraryError as error:
            for file in new_files:
                file.unlink(missing_ok=True)
            self.failed.emit(translate("Gavotte", "{error} Nothing was added.").format(error=error))
            return
        self.changed.emit()
        solos, licks = len(contents.solos), len(contents.licks)
        self.told.emit(
            translate("Gavotte", "{solos} and {licks} were added").format(
                solos=counted(solos, "solo"), licks=counted(licks, "lick")
            )
        )
