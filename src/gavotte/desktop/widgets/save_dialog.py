"""Asking where a file is to be written to."""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path

from PyQt6.QtCore import QSettings
from PyQt6.QtWidgets import QFileDialog, QWidget

_FOLDER = "folder"


def ask_where(
    parent: QWidget, settings: QSettings, title: str, name: str, kinds: Mapping[str, str], also: tuple[str, ...] = ()
) -> Path | None:
    """A file in the folder that was used last, ``name`` being proposed; None where none is chosen.

    ``kinds`` are the words of each kind and its ending, the first the usual one; a name without one of them, or of
    those that are known ``also``, gets the ending of the kind that is chosen.
    """
    folder = Path(str(settings.value(_FOLDER, str(Path.home()))))
    usual = next(iter(kinds.values()))
    words = {f"{said} (*{suffix})": suffix for said, suffix in kinds.items()}
    found, chosen = QFileDialog.getSaveFileName(parent, title, str(folder / f"{name}{usual}"), ";;".join(words))
    if not found:
        return None
    path = Path(found)
    settings.setValue(_FOLDER, str(path.parent))
    if path.suffix.lower() in (*kinds.values(), *also):
        return path
    return path.with_name(path.name + words.get(chosen, usual))
