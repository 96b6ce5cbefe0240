"""What happens when something unforeseen goes wrong: it is logged, the work is saved, and the user is told."""

from __future__ import annotations

import logging
import sys
from collections.abc import Callable
from logging.handlers import RotatingFileHandler
from pathlib import Path
from types import TracebackType

from PyQt6.QtCore import QMessageLogContext, QtMsgType, qInstallMessageHandler

from gavotte.desktop.translation import translate

LOG = logging.getLogger("gavotte")

_LEVELS = {
    QtMsgType.QtDebugMsg: logging.DEBUG,
    QtMsgType.QtInfoMsg: logging.DEBUG,
    QtMsgType.QtWarningMsg: logging.INFO,
    QtMsgType.QtCriticalMsg: logging.ERROR,
    QtMsgType.QtFatalMsg: logging.CRITICAL,
}


def start_log(file: Path) -> None:
    """Write what happens to ``file`` (half a megabyte at most, and the one before), Qt's own messages too."""
    try:
        file.parent.mkdir(parents=True, exist_ok=True)
        handler: logging.Handler = RotatingFileHandler(file, maxBytes=500_000, backupCount=1, encoding="utf-8")
    except OSError:
        handler = logging.StreamHandler(sys.stderr)
    handler.setFormatter(logging.Formatter("%(asctime)s %(levelname)s %(message)s"))
    LOG.handlers[:] = [handler]
    LOG.setLevel(logging.INFO)
    LOG.propagate = False

    def take(kind: QtMsgType, _: QMessageLogContext, message: str | None) -> None:
        LOG.log(_LEVELS.get(kind, logging.INFO), "Qt: %s", message)

    qInstallMessageHandler(take)


class Rescue:
    """Catches what nobody else caught: logs it, calls ``save``, and ``tell``s the user once it is safe."""

    def __init__(self, save: Callable[[], None], tell: Callable[[str], None], log_file: Path) -> None:
        self._save, self._tell, self._log_file = save, tell, log_file
        self._busy = False

    def install(self) -> None:
        """Catch from now on."""
        sys.excepthook = self.catch

    def catch(self, kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
        """What to do with an error nobody caught."""
        if issubclass(kind, KeyboardInterrupt):
            sys.__excepthook__(kind, error, trace)
            return
        LOG.critical("Something went wrong", exc_info=(kind, error, trace))
        if self._busy:
            return
        self._busy = True
        try:
            self._save()
            saved = translate("Gavotte", "Your work was saved first.")
        except Exception:
            LOG.exception("Saving after a mishap failed")
            saved = translate("Gavotte", "Your work could not be saved; it was last saved before this.")
        finally:
            self._busy = False
        self._tell(
            translate(
                "Gavotte",
                "Something went wrong that should not have ({name}: {error}). {saved} You can go "
                "on; details are in {log_file}.",
            ).format(name=kind.__name__, error=error, saved=saved, log_file=self._log_file)
        )
