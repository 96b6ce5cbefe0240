"""Words in other languages: every text of the interface goes through ``translate``.

Texts are extracted with pylupdate6; a finished ``gavotte_<language>.qm`` in the folder ``translations`` is used where
it fits the user's language. Constants are marked with QT_TRANSLATE_NOOP and translated where they are shown.
"""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QT_TRANSLATE_NOOP as QT_TRANSLATE_NOOP
from PyQt6.QtCore import QCoreApplication, QLibraryInfo, QLocale, QTranslator

CONTEXT = "Gavotte"
"""What all texts are filed under. Calls name it literally, where the extraction finds it."""

FOLDER = Path(__file__).parent / "translations"

translate = QCoreApplication.translate


def said(text: str) -> str:
    """A constant that was marked with QT_TRANSLATE_NOOP, in the user's language."""
    return translate(CONTEXT, text)


def install_translations(app: QCoreApplication, locale: QLocale, folder: Path = FOLDER) -> list[QTranslator]:
    """Use the translations that fit a language: Gavotte's, and Qt's for its own dialogs. Gives those found."""
    found = []
    for name, place in (
        ("qtbase", QLibraryInfo.path(QLibraryInfo.LibraryPath.TranslationsPath)),
        ("gavotte", str(folder)),
    ):
        translator = QTranslator(app)
        if translator.load(locale, name, "_", place):
            app.installTranslator(translator)
            found.append(translator)
    return found
