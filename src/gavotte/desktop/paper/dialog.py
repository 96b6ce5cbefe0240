"""Page setup and print: what goes on paper and how, with the pages as they will come out."""

from __future__ import annotations

from dataclasses import replace

from PyQt6.QtCore import QSettings, QSize, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QKeySequence, QShortcut
from PyQt6.QtPrintSupport import QPrintDialog, QPrinter
from PyQt6.QtWidgets import (
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from gavotte.desktop.activity import Activities
from gavotte.desktop.paper.pages import SheetPages
from gavotte.desktop.paper.painted import paint_on
from gavotte.desktop.paper.preview import Preview
from gavotte.desktop.paper.setup import (
    FEWEST_BARS,
    LARGEST_STAFF,
    MOST_BARS,
    SMALLEST_STAFF,
    Reasons,
    read_setup,
    write_setup,
)
from gavotte.desktop.paper.sheet import Sheet
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import QT_TRANSLATE_NOOP, said, translate
from gavotte.desktop.widgets.choice import Choice, Tick
from gavotte.desktop.widgets.dialog import Dialog
from gavotte.desktop.widgets.number import Number
from gavotte.engraving.engraver import Engraver

_WAIT_MS = 200
_REASON_WORDS = (
    (QT_TRANSLATE_NOOP("Gavotte", "None"), Reasons.NONE),
    (QT_TRANSLATE_NOOP("Gavotte", "All but chord tones"), Reasons.NOT_CHORD),
    (QT_TRANSLATE_NOOP("Gavotte", "Every note"), Reasons.ALL),
)
_PARTS = (
    (
        "title",
        QT_TRANSLATE_NOOP("Gavotte", "Title"),
        QT_TRANSLATE_NOOP("Gavotte", "Title, player and instrument over the first page"),
    ),
    ("chords", QT_TRANSLATE_NOOP("Gavotte", "Chords"), QT_TRANSLATE_NOOP("Gavotte", "Chord symbols over the staff")),
    (
        "bar_numbers",
        QT_TRANSLATE_NOOP("Gavotte", "Bar numbers"),
        QT_TRANSLATE_NOOP("Gavotte", "The number of each line's first bar"),
    ),
    (
        "lane",
        QT_TRANSLATE_NOOP("Gavotte", "Function lane"),
        QT_TRANSLATE_NOOP("Gavotte", "The marks under the staff, whose shapes tell the functions"),
    ),
    (
        "degrees",
        QT_TRANSLATE_NOOP("Gavotte", "Degrees"),
        QT_TRANSLATE_NOOP("Gavotte", "Each note's degree against its chord"),
    ),
    (
        "numerals",
        QT_TRANSLATE_NOOP("Gavotte", "Roman numerals"),
        QT_TRANSLATE_NOOP("Gavotte", "Under each chord symbol what it is in the key heard there"),
    ),
    (
        "tablature",
        QT_TRANSLATE_NOOP("Gavotte", "Tablature"),
        QT_TRANSLATE_NOOP("Gavotte", "For guitar and bass: the frets of notes that have a string"),
    ),
    (
        "text",
        QT_TRANSLATE_NOOP("Gavotte", "Analysis as text"),
        QT_TRANSLATE_NOOP("Gavotte", "The arc, the skeleton, and what each phrase and bar does, after the music"),
    ),
)


class PaperDialog(Dialog):
    """The page setup beside the pages as they will come out.

    Signals: ``pdf_wanted`` (with the setup as it is kept now), ``told(message)``, ``failed(message)``.
    """

    pdf_wanted = pyqtSignal()
    told = pyqtSignal(str)
    failed = pyqtSignal(str)

    def __init__(
        self,
        parent: QWidget,
        sheet: Sheet,
        engraver: Engraver,
        settings: QSettings,
        activities: Activities,
        palette: Palette,
    ) -> None:
        super().__init__(parent, translate("Gavotte", "Page setup and print"), translate("Gavotte", "Print…"))
        self._sheet, self._engraver, self._settings, self._activities = sheet, engraver, settings, activities
        self.setup = read_setup(settings)
        self.pages: SheetPages | None = None
        self._going_on = ""
        self.preview = Preview(palette)
        self._fields()
        self._lay_out()
        self._connect()
        self.yes.setEnabled(False)
        self.pdf.setEnabled(False)
        activities.changed.connect(self._show_share)
        self._wait = QTimer(self)
        self._wait.setSingleShot(True)
        self._wait.timeout.connect(self._set)
        self._set()
        self.preview.setFocus()

    def _fields(self) -> None:
        setup = self.setup
        self.paper = Choice()
        for name in ("A4", "Letter"):
            self.paper.addItem(name, name)
        self.paper.setCurrentText(setup.paper)
        self.staff = Number(SMALLEST_STAFF, LARGEST_STAFF, 0.25, 2, "mm")
        self.staff.setValue(setup.staff)
        self.staff.setToolTip(translate("Gavotte", "Height of a staff; 7 mm and more can be read from a stand"))
        self.bars = Number(FEWEST_BARS, MOST_BARS, 1)
        self.bars.setValue(setup.bars)
        self.bars.setToolTip(translate("Gavotte", "Bars on a line; a line too full for its width is divided"))
        self.reasons = Choice()
        for words, reasons in _REASON_WORDS:
            self.reasons.addItem(said(words), reasons)
        self.reasons.setCurrentIndex(self.reasons.findData(setup.reasons))
        self.reasons.setToolTip(translate("Gavotte", "Why a note is called what it is called, at the foot of the page"))
        self.parts: dict[str, Tick] = {}
        for name, words, tip in _PARTS:
            box = self.parts[name] = Tick(said(words))
            box.setToolTip(said(tip))
            box.setChecked(getattr(setup, name))
        for widget, words in (
            (self.paper, translate("Gavotte", "Paper")),
            (self.staff, translate("Gavotte", "Staff")),
            (self.bars, translate("Gavotte", "Bars a line")),
            (self.reasons, translate("Gavotte", "Reasons")),
        ):
            widget.setAccessibleName(words)

    def _lay_out(self) -> None:
        form = QFormLayout()
        form.setSpacing(8)
        form.addRow(translate("Gavotte", "Paper"), self.paper)
        form.addRow(translate("Gavotte", "Staff"), self.staff)
        form.addRow(translate("Gavotte", "Bars a line"), self.bars)
        shown = QVBoxLayout()
        shown.setSpacing(6)
        for box in self.parts.values():
            shown.addWidget(box)
        form.addRow(translate("Gavotte", "Show"), shown)
        form.addRow(translate("Gavotte", "Reasons"), self.reasons)
        self.back, self.forward = QToolButton(), QToolButton()
        for button, arrow, tip in (
            (self.back, Qt.ArrowType.LeftArrow, translate("Gavotte", "Page before (Page Up)")),
            (self.forward, Qt.ArrowType.RightArrow, translate("Gavotte", "Next page (Page Down)")),
        ):
            button.setObjectName("transportButton")
            button.setArrowType(arrow)
            button.setToolTip(tip)
            button.setAccessibleName(tip)
        self.place = QLabel()
        self.place.setObjectName("quietBody")
        turn = QHBoxLayout()
        turn.setSpacing(8)
        turn.addWidget(self.back)
        turn.addWidget(self.forward)
        turn.addWidget(self.place, 1)
        self.pdf = QPushButton(translate("Gavotte", "Save as PDF…"))
        self.pdf.setToolTip(translate("Gavotte", "The same pages as a file, in vectors"))
        left = QVBoxLayout()
        left.setSpacing(12)
        left.addLayout(form)
        left.addStretch(1)
        left.addLayout(turn)
        left.addWidget(self.pdf)
        row = QHBoxLayout()
        row.setSpacing(24)
        row.addLayout(left)
        row.addWidget(self.preview, 1)
        self.content.addLayout(row, 1)
        room = self.parentWidget().size() if self.parentWidget() is not None else QSize(1000, 760)  # type: ignore[union-attr]
        self.resize(room.boundedTo(QSize(1080, 860)) - QSize(60, 40))

    def _connect(self) -> None:
        self.yes.clicked.disconnect()
        self.yes.clicked.connect(self.choose_printer)
        self.pdf.clicked.connect(self._want_pdf)
        self.paper.currentIndexChanged.connect(self._changed)
        self.staff.valueChanged.connect(self._changed)
        self.bars.valueChanged.connect(self._changed)
        self.reasons.currentIndexChanged.connect(self._changed)
        for box in self.parts.values():
            box.toggled.connect(self._changed)
        self.preview.turned.connect(self._show_place)
        self.back.clicked.connect(lambda: self.preview.turn_to(self.preview.index - 1))
        self.forward.clicked.connect(lambda: self.preview.turn_to(self.preview.index + 1))
        for key, step in ((Qt.Key.Key_PageUp, -1), (Qt.Key.Key_PageDown, 1)):
            shortcut = QShortcut(QKeySequence(key), self)
            shortcut.activated.connect(lambda step=step: self.preview.turn_to(self.preview.index + step))
        self.finished.connect(self._put_down)

    def _changed(self) -> None:
        self.setup = replace(
            self.setup,
            paper=self.paper.currentData(),
            staff=self.staff.value(),
            bars=round(self.bars.value()),
            reasons=self.reasons.currentData(),
            **{name: box.isChecked() for name, box in self.parts.items()},
        )
        write_setup(self._settings, self.setup)
        # Several steps of a spin box are set once.
        self._wait.start(_WAIT_MS)

    # -- setting ------------------------------------------------------------------------------------

    def _stop(self) -> None:
        self._activities.cancel(self)

    def _put_down(self) -> None:
        """Nobody looks any more: what was to be set in a moment isn't."""
        self._wait.stop()
        self._stop()

    def _set(self) -> None:
        """Lay the pages out anew; the old ones stay until the first new one is there."""
        self._stop()
        self.yes.setEnabled(False)
        self.pdf.setEnabled(False)
        self.pages = pages = SheetPages(self._sheet, self.setup)
        self._going_on = translate("Gavotte", "Setting")
        self._activities.step(self, pages.steps(self._engraver), lambda: self._is_set(pages), self._not_set)

    def _is_set(self, pages: SheetPages) -> None:
        self.yes.setEnabled(True)
        self.pdf.setEnabled(True)
        self.preview.show_pages(pages)

    def _not_set(self, error: Exception) -> None:
        self.place.setText(str(error))

    @property
    def is_set(self) -> bool:
        """Whether the preview shows the setup as it is."""
        return not self._activities.of(self) and not self._wait.isActive()

    def _show_place(self) -> None:
        index, count = self.preview.index, self.preview.count
        self.place.setText(translate("Gavotte", "Page {page} of {count}").format(page=index + 1, count=count))
        self.back.setEnabled(index > 0)
        self.forward.setEnabled(index + 1 < count)

    # -- out ----------------------------------------------------------------------------------------

    def _want_pdf(self) -> None:
        self.accept()
        self.pdf_wanted.emit()

    def choose_printer(self) -> None:
        """Ask which printer, and print."""
        printer = QPrinter(QPrinter.PrinterMode.HighResolution)
        printer.setPageLayout(self.setup.page_layout)
        printer.setDocName(self._sheet.solo.title)
        dialog = QPrintDialog(printer, self)
        dialog.setOption(QPrintDialog.PrintDialogOption.PrintPageRange)
        dialog.setMinMax(1, self.preview.count)
        dialog.accepted.connect(lambda: self.print_on(printer))
        dialog.open()

    def print_on(self, printer: QPrinter) -> None:
        """Print the pages, or those of the range that was chosen."""
        if self.pages is None:
            return
        self._going_on = translate("Gavotte", "Printing")
        painting = paint_on(printer, self.pages, self._chosen_pages(printer))
        self._activities.step(self, painting, self._printed, self._not_printed)

    def _show_share(self) -> None:
        """Say how far it is."""
        for activity in self._activities.of(self):
            self.place.setText(f"{self._going_on}: {round(100 * (activity.share or 0.0))} %")

    def _chosen_pages(self, printer: QPrinter) -> range:
        if printer.printRange() is not QPrinter.PrintRange.PageRange:
            return range(self.preview.count)
        return range(max(1, printer.fromPage()) - 1, min(self.preview.count, printer.toPage()))

    def _printed(self) -> None:
        self.told.emit(translate("Gavotte", "{title} was sent to the printer").format(title=self._sheet.solo.title))
        self.accept()

    def _not_printed(self, error: Exception) -> None:
        self.accept()
        self.failed.emit(
            translate(
                "Gavotte", "It could not be printed: {error}. Look whether the printer is there, or save a PDF."
            ).format(error=error)
        )
