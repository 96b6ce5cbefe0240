"""Starting the desktop application."""

from __future__ import annotations

import os
import sys
from pathlib import Path

from PyQt6.QtCore import QSettings, QTimer
from PyQt6.QtWidgets import QApplication, QMessageBox

from gavotte.desktop.main_window import MainWindow
from gavotte.desktop.theme.type import BODY, font, load_fonts
from gavotte.library.errors import LibraryError
from gavotte.library.store import Library


def make_application() -> QApplication:
    """The Qt application with Gavotte's type; on a machine without a display it runs offscreen."""
    running = QApplication.instance()
    if isinstance(running, QApplication):
        app = running
    else:
        if sys.platform.startswith("linux") and not (
            os.environ.get("DISPLAY") or os.environ.get("WAYLAND_DISPLAY") or os.environ.get("QT_QPA_PLATFORM")
        ):
            print("There is no display here: Gavotte runs without a window.", file=sys.stderr)
            os.environ["QT_QPA_PLATFORM"] = "offscreen"
        app = QApplication(["gavotte"])
    app.setApplicationName("gavotte")
    app.setApplicationDisplayName("Gavotte")
    load_fonts()
    app.setFont(font(BODY))
    app.setStyle("Fusion")
    return app


def run(library_folder: Path, settings_file: Path, files: list[Path]) -> int:
    """Open the window on a library, import ``files``, and stay until it is closed. Gives the exit status."""
    app = make_application()
    try:
        library = Library(library_folder)
    except LibraryError as error:
        print(error, file=sys.stderr)
        QMessageBox.critical(None, "Gavotte", str(error))
        return 1
    with library:
        window = MainWindow(library, QSettings(str(settings_file), QSettings.Format.IniFormat))
        window.show()
        if files:
            window.import_files(files)
        # The window comes first; by the time somebody presses Play the sound is ready.
        QTimer.singleShot(300, window.transport.warm_up)
        status = app.exec()
        window.session.save()
        return status
