"""Asking for the files of practice: a take to judge, and where the log is written to."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QSettings
from PyQt6.QtWidgets import QFileDialog, QWidget

from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.save_dialog import ask_where
from gavotte.recording.decode import SUFFIXES


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
    plain = "".join(letter if letter.isalnum() or letter in " -_," else "-" for letter in name).strip() or "band"
    kinds = {
        translate("Gavotte", "Sound"): ".wav",
        translate("Gavotte", "Packed sound"): ".flac",
        translate("Gavotte", "MIDI"): ".mid",
    }
    return ask_where(parent, settings, translate("Gavotte", "Take the band away"), plain, kinds, (".midi",))


def ask_where_log_goes(parent: QWidget, settings: QSettings) -> Path | None:
    """Where the log is written to, as a table or a text by the file's ending; None where it is not."""
    kinds = {translate("Gavotte", "Table"): ".csv", translate("Gavotte", "Text"): ".md"}
    return ask_where(parent, settings, translate("Gavotte", "Export the log"), "practice-log", kinds)
