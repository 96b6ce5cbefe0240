"""What the Help menu says of Gavotte."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QMessageBox, QWidget

from gavotte import __version__
from gavotte.desktop.translation import translate


def show_care(window: QWidget) -> None:
    """Say a word on ears and hands, for those who want to read it again."""
    box = QMessageBox(
        QMessageBox.Icon.NoIcon,
        translate("Gavotte", "Ears and hands"),
        translate(
            "Gavotte",
            "<b>Ears.</b> Keep headphones low enough to hear someone speak beside you, and rest your ears after an "
            "hour. Loops are heard many times over: what is bearable once may be too loud.<br><br>"
            "<b>Hands, lips, back.</b> Warm up. Play slowly before you play fast. Take short breaks: Practice proposes "
            "them, after as many minutes as you set there.<br><br>"
            "<b>Pain.</b> Where playing hurts, stop and rest. Where it hurts again, see a teacher, and a doctor or "
            "therapist who knows musicians.",
        ),
        QMessageBox.StandardButton.Close,
        window,
    )
    box.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
    box.open()


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
