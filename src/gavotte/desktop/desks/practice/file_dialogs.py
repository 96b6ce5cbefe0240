"""Asking for the files of practice: a take to judge, and where the log is written to."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QSettings
from PyQt6.QtWidgets import QFileDialog, QWidget

from gavotte.desktop.translation import translate
from gavotte.recording.decode import SUFFIXES

LOG_SUFFIXES = (".csv", ".md")
BAND_SUFFIXES = (".wav", ".flac", ".mid", ".midi")


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


def ask_where_band_goes(parent: QWidget, settings: QSettings, name: str) -> Path | None:
    """Where the band is written to, as a sound or a MIDI file by the file's ending; None where it is not."""
    folder = Path(str(settings.value("folder", str(Path.home()))))
    plain = "".join(letter if letter.isalnum() or letter in " -_," else "-" for letter in name).strip() or "band"
    kinds = {
        translate("Gavotte", "Sound (*.wav)"): ".wav",
        translate("Gavotte", "Packed sound (*.flac)"): ".flac",
        translate("Gavotte", "MIDI (*.mid)"): ".mid",
    }
    title = translate("Gavotte", "Take the band away")
    found, chosen = QFileDialog.getSaveFileName(parent, title, str(folder / f"{plain}.wav"), ";;".join(kinds))
    if not found:
        return None
    path = Path(found)
    settings.setValue("folder", str(path.parent))
    return path if path.suffix.lower() in BAND_SUFFIXES else path.with_name(path.name + kinds.get(chosen, ".wav"))


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
