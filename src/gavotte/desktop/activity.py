"""Work beside the interface: a function in another thread, or small steps between events in this one."""

from __future__ import annotations

import atexit
from collections.abc import Callable, Generator, Iterator
from contextlib import suppress
from typing import Any

from PyQt6.QtCore import QObject, QThreadPool, QTimer, pyqtSignal, pyqtSlot


class Job:
    """One piece of work. ``cancel`` keeps its result from being delivered."""

    def __init__(
        self, function: Callable[[], Any], on_done: Callable[[Any], None], on_failed: Callable[[Exception], None]
    ) -> None:
        self._function = function
        self._cancelled = False
        self._on_done, self._on_failed = on_done, on_failed

    def cancel(self) -> None:
        """Forget the work; what it finds is thrown away."""
        self._cancelled = True

    def run(self) -> None:
        """Do the work, in whatever thread this is."""
        result: Any = None
        failure: Exception | None = None
        try:
            result = self._function()
        except Exception as error:
            failure = error
        # With the application gone there is nobody left to hear of it.
        with suppress(RuntimeError):
            if not self._cancelled:
                _messenger.ended.emit(self, result, failure)

    def deliver(self, result: Any, error: Exception | None) -> None:
        """Hand on what came of it."""
        if self._cancelled:
            return
        if error is not None:
            self._on_failed(error)
        else:
            self._on_done(result)


class Walk(Job):
    """Work in steps, in another thread: each step tells the share that is done, and between two of them it can stop."""

    def __init__(
        self,
        steps: Callable[[], Generator[float, None, Any]],
        on_progress: Callable[[float], None],
        on_done: Callable[[Any], None],
        on_failed: Callable[[Exception], None],
    ) -> None:
        super().__init__(self._walk, on_done, on_failed)
        self._steps, self._on_progress = steps, on_progress

    def _walk(self) -> Any:
        steps = self._steps()
        while not self._cancelled:
            try:
                share = next(steps)
            except StopIteration as end:
                return end.value
            with suppress(RuntimeError):
                _messenger.walked.emit(self, share)
        steps.close()
        return None

    def tell(self, share: float) -> None:
        """Hand on how far it is."""
        if not self._cancelled:
            self._on_progress(share)


class _Messenger(QObject):
    """Brings results from the workers' threads to the interface's. It lives as long as the application: an object of
    each job's own could be freed by one thread while the other still uses it.
    """

    ended = pyqtSignal(object, object, object)
    walked = pyqtSignal(object, float)

    def __init__(self) -> None:
        super().__init__()
        self.ended.connect(self._deliver)
        self.walked.connect(self._tell)

    @pyqtSlot(object, float)
    def _tell(self, walk: Walk, share: float) -> None:
        walk.tell(share)

    @pyqtSlot(object, object, object)
    def _deliver(self, job: Job, result: Any, error: Exception | None) -> None:
        job.deliver(result, error)


_messenger = _Messenger()


def run_beside(
    function: Callable[[], Any], on_done: Callable[[Any], None], on_failed: Callable[[Exception], None]
) -> Job:
    """Start ``function`` in a worker thread; one of the two callbacks follows in the interface's thread."""
    job = Job(function, on_done, on_failed)
    pool = QThreadPool.globalInstance()
    assert pool is not None
    pool.start(job.run)
    return job


def walk_beside(
    steps: Callable[[], Generator[float, None, Any]],
    on_progress: Callable[[float], None],
    on_done: Callable[[Any], None],
    on_failed: Callable[[Exception], None],
) -> Walk:
    """Go through steps in a worker thread; the callbacks follow in the interface's thread."""
    walk = Walk(steps, on_progress, on_done, on_failed)
    pool = QThreadPool.globalInstance()
    assert pool is not None
    pool.start(walk.run)
    return walk


def wait_for_workers(milliseconds: int = 5000) -> bool:
    """Start nothing more, and wait for what is running; False where it takes too long.

    A thread that outlives the interpreter takes the whole process down with an error.
    """
    pool = QThreadPool.globalInstance()
    if pool is None:
        return True
    pool.clear()
    return pool.waitForDone(milliseconds)


atexit.register(wait_for_workers)


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
