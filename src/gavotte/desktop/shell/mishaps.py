"""What happens when something unforeseen goes wrong: it is logged, the work is saved, and the user is told."""

from __future__ import annotations

import logging
import sys
from collections.abc import Callable
from logging.handlers import RotatingFileHandler
from pathlib import Path
from types import TracebackType

from PyQt6.QtCore import QMessageLogContext, QtMsgType, qInstallMessageHandler
from PyQt6.QtGui import QGuiApplication

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


class MishapHandler:
    """Catches what nobody else caught: logs it, has work kept safe, and tells the user, who can copy a report.

    ``keep_safe`` says what became of the work, ``report`` gives the report from what stands in the log.
    """

    def __init__(
        self,
        keep_safe: Callable[[], str],
        tell: Callable[[str, str, Callable[[], None]], None],
        report: Callable[[str], str],
        log_file: Path,
    ) -> None:
        self._keep_safe, self._tell, self._report, self._log_file = keep_safe, tell, report, log_file
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
            kept = self._keep_safe()
        except Exception:
            LOG.exception("Saving after a mishap failed")
            kept = translate("Gavotte", "Your work could not be saved; it was last saved before this.")
        finally:
            self._busy = False
        words = translate(
            "Gavotte",
            "Something went wrong that should not have ({name}: {error}). {kept} You can go on; "
            "details are in {log_file}.",
        ).format(name=kind.__name__, error=error, kept=kept, log_file=self._log_file)
        self._tell(words, translate("Gavotte", "Copy a report"), self._copy_report)

    def _copy_report(self) -> None:
        try:
            log = self._log_file.read_text(encoding="utf-8", errors="replace")
        except OSError:
            log = ""
        clipboard = QGuiApplication.clipboard()
        if clipboard is not None:
            clipboard.setText(self._report(log))
