"""Handing the open sheet on: what is asked, made in small steps, and written whole or not at all; or printed."""

from __future__ import annotations

from collections.abc import Generator, Sequence
from pathlib import Path

from PyQt6.QtCore import QObject
from PyQt6.QtPrintSupport import QPrintDialog, QPrinter
from PyQt6.QtWidgets import QWidget

from gavotte.desktop.desk.studio import Studio
from gavotte.desktop.desks.sheets.hand_on_dialog import HandOnDialog, ReplaceDialog
from gavotte.desktop.desks.sheets.showing import Showing
from gavotte.desktop.paper.handing_on import MadeFile, SheetFormat, base_name, handed_on
from gavotte.desktop.paper.painted import paint_on
from gavotte.desktop.paper.set_lines import LineSetter
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.save_dialog import ask_where
from gavotte.formats.whole_file import write_whole
from gavotte.sheets.composing import Composer
from gavotte.sheets.sheet import TeachingSheet


class Handing(QObject):
    """Writes and prints the open sheet. ``dialog`` and ``replacing`` are the dialogs opened last."""

    def __init__(self, studio: Studio, showing: Showing, window: QWidget) -> None:
        super().__init__(window)
        self._studio, self._showing, self._window = studio, showing, window
        self.dialog: HandOnDialog | None = None
        self.replacing: ReplaceDialog | None = None

    # -- files --------------------------------------------------------------------------------------

    def choose(self) -> None:
        """Ask what the sheet is handed on as and where to, and write it."""
        sheet = self._studio.sheets.sheet
        if sheet is None:
            return
        dialog = self.dialog = HandOnDialog(self._window, sheet, self._studio.settings)
        dialog.accepted.connect(lambda: self._ask_where(sheet, dialog.formats))
        dialog.open()

    def _ask_where(self, sheet: TeachingSheet, formats: Sequence[SheetFormat]) -> None:
        kinds = {translate("Gavotte", "Sheet"): f".{formats[0]}"}
        title = translate("Gavotte", "Hand the sheet on")
        path = ask_where(self._window, self._studio.settings, title, base_name(sheet), kinds)
        if path is not None:
            self.write(sheet, formats, path.parent, path.stem)

    def write(self, sheet: TeachingSheet, formats: Sequence[SheetFormat], folder: Path, base: str) -> None:
        """Make the files of a sheet, in small steps, and write them."""
        made: list[MadeFile] = []

        def steps() -> Generator[float, None, None]:
            # Of its own: the pages that are looked at may be laid out anew meanwhile.
            composer, setter = Composer(), LineSetter(self._studio.engraver)
            made.extend((yield from handed_on(sheet, base, formats, composer, setter)))

        words = translate("Gavotte", "Setting {name}").format(name=sheet.title)
        self._studio.activities.step(
            self, steps(), lambda: self._put(made, folder, f"{base}.{formats[0]}"), self._failed, words
        )

    def _put(self, made: Sequence[MadeFile], folder: Path, chosen: str) -> None:
        """Write files, unless some are there already that nobody agreed to write over."""
        if not made:
            self._studio.asks.notice(translate("Gavotte", "There is no music on this sheet that could be written."))
            return
        there = [file.name for file in made if file.name != chosen and (folder / file.name).exists()]
        if not there:
            self._write(made, folder)
            return
        dialog = self.replacing = ReplaceDialog(self._window, there)
        dialog.accepted.connect(lambda: self._write(made, folder))
        dialog.open()

    def _write(self, made: Sequence[MadeFile], folder: Path) -> None:
        def write() -> None:
            for file in made:
                write_whole(folder / file.name, file.data)

        def done(_: object) -> None:
            self._studio.exporter.tell_of(folder / made[0].name)

        words = translate("Gavotte", "Writing {name}").format(name=made[0].name)
        self._studio.activities.beside(self, write, done, self._failed, words, apart=True)

    def _failed(self, error: Exception) -> None:
        if isinstance(error, OSError):
            words = translate("Gavotte", "The sheet could not be written: {reason}. Choose another folder.")
        else:
            words = translate("Gavotte", "The sheet was not written: {reason}")
        reason = error.strerror if isinstance(error, OSError) and error.strerror else error
        self._studio.asks.notice(words.format(reason=reason))

    # -- printer ------------------------------------------------------------------------------------

    def choose_printer(self) -> None:
        """Ask which printer, and print the version that is looked at."""
        pages = self._showing.pages
        if pages is None:
            return
        printer = QPrinter(QPrinter.PrinterMode.HighResolution)
        printer.setPageLayout(pages.setup.page_layout)
        printer.setDocName(pages.title)
        dialog = QPrintDialog(printer, self._window)
        dialog.setOption(QPrintDialog.PrintDialogOption.PrintPageRange)
        dialog.setMinMax(1, len(pages.pages))
        dialog.accepted.connect(lambda: self.print_on(printer))
        dialog.open()

    def print_on(self, printer: QPrinter) -> None:
        """Print all pages, or those of the range that was chosen."""
        pages = self._showing.pages
        if pages is None:
            return
        chosen = range(len(pages.pages))
        if printer.printRange() is QPrinter.PrintRange.PageRange:
            chosen = range(max(1, printer.fromPage()) - 1, min(len(pages.pages), printer.toPage()))
        words = translate("Gavotte", "Printing {name}").format(name=pages.title)
        told = translate("Gavotte", "{title} was sent to the printer").format(title=pages.title)
        self._studio.activities.step(
            self, paint_on(printer, pages, chosen), lambda: self._studio.asks.tell(told), self._not_printed, words
        )

    def _not_printed(self, error: Exception) -> None:
        words = translate(
            "Gavotte", "It could not be printed: {error}. Look whether the printer is there, or save a PDF."
        )
        self._studio.asks.notice(words.format(error=error))
