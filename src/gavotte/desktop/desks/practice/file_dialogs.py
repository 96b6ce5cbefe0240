"""Asking for the files of practice: a take to judge, and where the log is written to."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QSettings
from PyQt6.QtWidgets import QFileDialog, QWidget

from gavotte.desktop.translation import translate
from gavotte.recording.decode import SUFFIXES

LOG_SUFFIXES = (".csv", ".md")


def ask_for_sound(parent: QWidget, settings: QSettings) -> Path | None:
    """A sound file, None where none is chosen."""
    folder = str(settings.value("takes", str(Path.home())))
    endings = " ".join(f"*{suffix}" for suffix in SUFFIXES)
    filters = f"{translate('Gavotte', 'Recordings')} ({endings})"
    name, _ = QFileDialog.getOpenFileName(parent, translate("Gavotte", "Judge a take"), folder, filters)
    if not name:
        return None
    settings.setValue("takes", str(Path(name).parent))
    return Path(name)


def ask_where_log_goes(parent: QWidget, settings: QSettings) -> Path | None:
    """Where the log is written to, as a table or a text by the file's ending; None where it is not."""
    folder = Path(str(settings.value("folder", str(Path.home()))))
    table, text = translate("Gavotte", "Table (*.csv)"), translate("Gavotte", "Text (*.md)")
    name, chosen = QFileDialog.getSaveFileName(
        parent, translate("Gavotte", "Export the log"), str(folder / "practice-log.csv"), f"{table};;{text}"
    )
    if not name:
        return None
    path = Path(name)
    settings.setValue("folder", str(path.parent))
    return (
        path
        if path.suffix.lower() in LOG_SUFFIXES
        else path.with_name(path.name + (".md" if chosen == text else ".csv"))
    )
