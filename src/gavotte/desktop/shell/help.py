"""What the Help menu says of Gavotte."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QMessageBox, QWidget

from gavotte import __version__
from gavotte.desktop.translation import translate


def show_about(window: QWidget) -> None:
    """Say what Gavotte is and what it is built on."""
    box = QMessageBox(
        QMessageBox.Icon.NoIcon,
        translate("Gavotte", "About Gavotte"),
        translate(
            "Gavotte",
            "<b>Gavotte {version}</b><br>The function of every note of a transcribed solo, "
            "and the vocabulary that comes out of it.<br><br>GPL 3 or later. Text set in M "
            "PLUS 1p (OFL); music engraved by verovio (LGPL).",
        ).format(version=__version__),
        QMessageBox.StandardButton.Close,
        window,
    )
    box.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
    box.open()
