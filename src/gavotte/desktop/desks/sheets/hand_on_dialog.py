"""What a sheet is handed on as, and the reminder of whose the music is."""

from __future__ import annotations

from PyQt6.QtCore import QSettings
from PyQt6.QtWidgets import QLabel, QWidget

from gavotte.desktop.desks.sheets.words import VERSION_WORDS
from gavotte.desktop.paper.handing_on import SheetFormat
from gavotte.desktop.translation import QT_TRANSLATE_NOOP, said, translate
from gavotte.desktop.widgets.choice import Tick
from gavotte.desktop.widgets.dialog import Dialog
from gavotte.sheets.sheet import TeachingSheet

_WORDS = {
    SheetFormat.PDF: (
        QT_TRANSLATE_NOOP("Gavotte", "PDF for printing"),
        QT_TRANSLATE_NOOP("Gavotte", "In vectors, with bookmarks; its text can be searched"),
    ),
    SheetFormat.WEB: (
        QT_TRANSLATE_NOOP("Gavotte", "Web page"),
        QT_TRANSLATE_NOOP("Gavotte", "One file with everything in it; it can be read on a phone, without a network"),
    ),
    SheetFormat.MARKDOWN: (
        QT_TRANSLATE_NOOP("Gavotte", "Markdown with drawings"),
        QT_TRANSLATE_NOOP("Gavotte", "A text, and beside it an SVG file for each piece of music and each picture"),
    ),
    SheetFormat.MUSICXML: (
        QT_TRANSLATE_NOOP("Gavotte", "MusicXML"),
        QT_TRANSLATE_NOOP("Gavotte", "The music of all pieces as one score, with degrees as lyrics"),
    ),
    SheetFormat.MIDI: (
        QT_TRANSLATE_NOOP("Gavotte", "MIDI"),
        QT_TRANSLATE_NOOP("Gavotte", "The music of all pieces as it sounds, with chords and click"),
    ),
}
_FORMATS, _REMINDED = "sheets/formats", "sheets/reminded"


class HandOnDialog(Dialog):
    """``formats`` are those that are ticked; they are kept for the next time."""

    def __init__(self, parent: QWidget, sheet: TeachingSheet, settings: QSettings) -> None:
        super().__init__(parent, translate("Gavotte", "Hand the sheet on"), translate("Gavotte", "Where to…"))
        self._settings = settings
        kept = str(settings.value(_FORMATS, SheetFormat.PDF.value)).split()
        self.ticks: dict[SheetFormat, Tick] = {}
        for form, (words, tip) in _WORDS.items():
            tick = self.ticks[form] = Tick(said(words))
            tick.setToolTip(said(tip))
            tick.setAccessibleDescription(said(tip))
            tick.setChecked(form in kept)
            tick.toggled.connect(lambda _: self._tell())
            self.content.addWidget(tick)
        self.told = QLabel()
        self.told.setObjectName("quietBody")
        self.told.setWordWrap(True)
        self.content.addSpacing(8)
        self.content.addWidget(self.told)
        self._versions = ", ".join(said(VERSION_WORDS[version]) for version in sheet.versions)
        self.reminder = QLabel(
            translate(
                "Gavotte",
                "The recording and the tune belong to others. A transcription for study is one thing, a sheet for sale "
                "or on the open net another: ask those who own the rights. The line “Source and use” stands on every "
                "page.",
            )
        )
        self.reminder.setWordWrap(True)
        self.reminder.setVisible(not settings.value(_REMINDED, False, type=bool))
        self.content.addSpacing(8)
        self.content.addWidget(self.reminder)
        self.accepted.connect(self._keep)
        self._tell()

    @property
    def formats(self) -> tuple[SheetFormat, ...]:
        """What is ticked."""
        return tuple(form for form, tick in self.ticks.items() if tick.isChecked())

    def _tell(self) -> None:
        self.yes.setEnabled(bool(self.formats))
        self.told.setText(translate("Gavotte", "Written for: {versions}.").format(versions=self._versions))

    def _keep(self) -> None:
        self._settings.setValue(_FORMATS, " ".join(self.formats))
        self._settings.setValue(_REMINDED, True)


class ReplaceDialog(Dialog):
    """Asks whether files that are there already may be written over."""

    def __init__(self, parent: QWidget, names: list[str]) -> None:
        super().__init__(parent, translate("Gavotte", "Replace these files?"), translate("Gavotte", "Replace"))
        shown = "\n".join(names[:12]) + ("\n…" if len(names) > 12 else "")
        words = QLabel(translate("Gavotte", "They are there already:\n{names}").format(names=shown))
        words.setWordWrap(True)
        self.content.addWidget(words)
