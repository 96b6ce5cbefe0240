"""Starting the desktop application."""

from __future__ import annotations

import os
import sys
from contextlib import suppress
from datetime import UTC, datetime
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QLocale, QSettings, Qt, QTimer
from PyQt6.QtGui import QGuiApplication
from PyQt6.QtWidgets import QApplication, QMessageBox

from gavotte.desktop.activity import wait_for_workers
from gavotte.desktop.garbage import GarbageCollector
from gavotte.desktop.shell.mishaps import LOG, MishapHandler, start_log
from gavotte.desktop.shell.report import report_on
from gavotte.desktop.shell.single import Answer, Doorman, hand_over
from gavotte.desktop.shell.window import MainWindow
from gavotte.desktop.theme.type import BODY, font, load_fonts
from gavotte.desktop.translation import install_translations, translate
from gavotte.desktop.words import counted
from gavotte.formats.errors import FormatError
from gavotte.library.backups import Backup, list_backups, put_in_place
from gavotte.library.errors import DamagedLibraryError, LibraryError, LibraryInUseError
from gavotte.library.reader import DATABASE
from gavotte.library.recordings import clear_decoded
from gavotte.library.store import Library

DESKTOP_ID = "org.gavotte.Gavotte"


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
        QGuiApplication.setHighDpiScaleFactorRoundingPolicy(Qt.HighDpiScaleFactorRoundingPolicy.PassThrough)
        app = QApplication(["gavotte"])
    app.setApplicationName("gavotte")
    app.setApplicationDisplayName("Gavotte")
    app.setDesktopFileName(DESKTOP_ID)
    # A worker that computes gives way to the interface at once; Python's usual 5 ms add up to a visible halt.
    sys.setswitchinterval(0.0005)
    load_fonts()
    app.setFont(font(BODY))
    app.setStyle("Fusion")
    install_translations(app, QLocale())
    return app


def run(library_folder: Path, settings_file: Path, files: list[Path], log_file: Path, demo: bool = False) -> int:
    """Open the window on a library, import ``files``, and stay until it is closed. Gives the exit status.

    Where a window has this library open already, the files go there. The recordings of a ``demo`` library are played in
    where they are missing.
    """
    app = make_application()
    start_log(log_file)
    library = _open_or_hand_over(library_folder, files)
    if library is None:
        return 0
    if isinstance(library, str):
        print(library, file=sys.stderr)
        QMessageBox.critical(None, "Gavotte", library)
        return 1
    with library:
        window = MainWindow(library, QSettings(str(settings_file), QSettings.Format.IniFormat))
        mishaps = MishapHandler(window.rescue.keep_safe, window.notice.say, partial(report_on, library), log_file)
        mishaps.install()
        doorman = Doorman(library, window)
        doorman.called.connect(window.welcome)
        doorman.failed.connect(window.notice.say)
        doorman.listen()
        window.show()
        window.greet()
        collector = GarbageCollector(window)
        collector.begin()
        if files:
            window.import_files(files)
        if demo:
            window.first_steps.offer()
            # What plays them in is loaded for nobody else: it would lengthen every start.
            from gavotte.desktop.demo_recordings import DemoRecordings

            recordings = DemoRecordings(library, window.studio.tape, window.activities, window)
            recordings.failed.connect(window.notice.say)
            recordings.begin()
        # The window comes first; by the time somebody presses Play the sound is ready.
        QTimer.singleShot(300, window.studio.transport.warm_up_beside)
        status = app.exec()
        collector.end()
        doorman.close()
        window.studio.saver.save()
        # What can't be cleared now is cleared the next time.
        with suppress(OSError, LibraryError, FormatError):
            clear_decoded(library.folder, library.recordings())
    if not wait_for_workers():
        # Everything is saved and closed; a reader that is still at it must not keep the process.
        os._exit(status)
    return status


def _open_or_hand_over(folder: Path, files: list[Path]) -> Library | str | None:
    """The open library, None where another window took the files, or what keeps it from being opened."""
    try:
        return Library(folder)
    except LibraryInUseError as error:
        answer = hand_over(folder, files)
        if answer is Answer.UNANSWERED:
            return translate(
                "Gavotte",
                "The window that has this library open does not answer. It was given the files, and takes them in as "
                "soon as it goes on.",
            )
        return None if answer is Answer.TAKEN else str(error)
    except DamagedLibraryError as error:
        LOG.error("%s", error)
        return _mended(folder, str(error))
    except LibraryError as error:
        return str(error)


def _mended(folder: Path, why: str) -> Library | str:
    """The library from its latest backup, if the user wants that."""
    backup = next(iter(list_backups(folder)), None)
    if backup is None:
        return translate(
            "Gavotte", "{why} There is no backup. Move the file away to start with an empty library."
        ).format(why=why)
    if not ask_for_backup(why, backup):
        return why
    try:
        put_in_place(folder, folder / DATABASE, backup.path, datetime.now(UTC))
        return Library(folder)
    except (OSError, LibraryError) as error:
        return translate("Gavotte", "The backup could not be put in place: {error}").format(error=error)


def ask_for_backup(why: str, backup: Backup) -> bool:
    """Ask whether a damaged library is to be replaced by a backup; the damaged file is kept in any case."""
    made = backup.made.astimezone().strftime("%d %B %Y, %H:%M")
    box = QMessageBox(
        QMessageBox.Icon.Warning,
        "Gavotte",
        translate(
            "Gavotte",
            "{why}\n\nThe latest backup is of {made} ({solos}, {licks}). The "
            "damaged file is kept beside it, whatever you choose.",
        ).format(why=why, made=made, solos=counted(backup.solos, "solo"), licks=counted(backup.licks, "lick")),
    )
    take = box.addButton(translate("Gavotte", "Go on with the backup"), QMessageBox.ButtonRole.AcceptRole)
    box.addButton(translate("Gavotte", "Leave everything"), QMessageBox.ButtonRole.RejectRole)
    with suppress(KeyboardInterrupt):
        box.exec()
    return box.clickedButton() is take
