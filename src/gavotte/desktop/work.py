"""Work beside the interface: a function in another thread, or small steps between events in this one."""

from __future__ import annotations

from collections.abc import Callable, Generator, Iterator
from typing import Any

from PyQt6.QtCore import QObject, QRunnable, QThreadPool, QTimer, pyqtSignal


class _Signals(QObject):
    done = pyqtSignal(object)
    failed = pyqtSignal(Exception)


class Job(QRunnable):
    """One piece of work. ``cancel`` keeps its result from being delivered."""

    def __init__(
        self, function: Callable[[], Any], on_done: Callable[[Any], None], on_failed: Callable[[Exception], None]
    ) -> None:
        super().__init__()
        self.setAutoDelete(False)
        self._function = function
        self._cancelled = False
        self._on_done, self._on_failed = on_done, on_failed
        self._signals = _Signals()
        self._signals.done.connect(self._deliver)
        self._signals.failed.connect(self._fail)
        _running.add(self)

    def cancel(self) -> None:
        """Forget the work; what it finds is thrown away."""
        self._cancelled = True

    def run(self) -> None:
        try:
            result = self._function()
        except Exception as error:
            self._signals.failed.emit(error)
        else:
            self._signals.done.emit(result)

    def _deliver(self, result: Any) -> None:
        _running.discard(self)
        if not self._cancelled:
            self._on_done(result)

    def _fail(self, error: Exception) -> None:
        _running.discard(self)
        if not self._cancelled:
            self._on_failed(error)


_running: set[Job] = set()


def run_beside(
    function: Callable[[], Any], on_done: Callable[[Any], None], on_failed: Callable[[Exception], None]
) -> Job:
    """Start ``function`` in a worker thread; one of the two callbacks follows in the interface's thread."""
    job = Job(function, on_done, on_failed)
    pool = QThreadPool.globalInstance()
    assert pool is not None
    pool.start(job)
    return job


class Steps(QObject):
    """Work in this thread, in small steps between events. Each step yields the share that is done.

    ``cancel`` stops it; nothing more is heard of it then.
    """

    def __init__(
        self,
        steps: Iterator[float],
        on_progress: Callable[[float], None],
        on_done: Callable[[], None],
        on_failed: Callable[[Exception], None],
        parent: QObject,
    ) -> None:
        super().__init__(parent)
        self._steps = steps
        self._on_progress, self._on_done, self._on_failed = on_progress, on_done, on_failed
        self._timer = QTimer(self)
        self._timer.timeout.connect(self._step)
        self._timer.start(0)

    def cancel(self) -> None:
        """Stop, and clean up what was begun."""
        self._timer.stop()
        if isinstance(self._steps, Generator):
            self._steps.close()

    def _step(self) -> None:
        try:
            share = next(self._steps, None)
        except Exception as error:
            self._timer.stop()
            self._on_failed(error)
            return
        if share is None:
            self._timer.stop()
            self._on_done()
        else:
            self._on_progress(share)
