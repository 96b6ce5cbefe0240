"""What the Help menu shows: the keys, and what Gavotte is."""

from __future__ import annotations

from PyQt6.QtWidgets import QMessageBox, QWidget

from gavotte import __version__

KEYS = (
    ("F1, F2, F3", "Shelf, Label, Vocabulary"),
    ("← →", "Note before, next note"),
    ("↑ ↓", "Line above, line below"),
    ("Shift + arrows or click", "Select several notes"),
    ("Tab, Shift+Tab", "Next, previous note in doubt"),
    ("1 2 3 4 5", "Chord tone, extension, passing, approach, outside"),
    ("Backspace", "Take your decision back"),
    ("K", "Keep the selected notes as a lick"),
    ("F6", "From the page to the note card and back"),
    ("Ctrl+Z, Ctrl+Shift+Z", "Undo, redo"),
    ("Ctrl++, Ctrl+−, Ctrl+0", "Larger, smaller, fit the width"),
    ("Ctrl+T", "Written or concert pitch"),
    ("Ctrl+D", "Title, player, instrument and key of the open solo"),
    ("Ctrl+1, Ctrl+2", "A lick in its own key, in all twelve"),
    ("Delete", "Delete the solo or lick (can be undone)"),
    ("Ctrl+I, Ctrl+E", "Import a solo, export what is shown"),
)
"""Every shortcut with what it does."""


def show_keys(window: QWidget) -> None:
    """Show the table of shortcuts."""
    rows = "".join(
        f"<tr><td style='padding-right:24px'><b>{_unbroken(keys)}</b></td><td>{_unbroken(what)}</td></tr>"
        for keys, what in KEYS
    )
    _show(window, "Keys", f"<table cellpadding='3'>{rows}</table>")


def show_about(window: QWidget) -> None:
    """Say what Gavotte is and what it is built on."""
    _show(
        window,
        "About Gavotte",
        f"<b>Gavotte {__version__}</b><br>The function of every note of a transcribed solo, and the "
        "vocabulary that comes out of it.<br><br>GPL 3 or later. Text set in M PLUS 1p (OFL); "
        "music engraved by verovio (LGPL).",
    )


def _unbroken(text: str) -> str:
    """The text so that it stays on one line."""
    return text.replace(" ", "\u00a0").replace("−", "\u2011")


def _show(window: QWidget, title: str, text: str) -> None:
    QMessageBox(QMessageBox.Icon.NoIcon, title, text, QMessageBox.StandardButton.Close, window).open()
