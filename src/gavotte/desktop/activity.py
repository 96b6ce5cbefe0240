"""Activities: what is worked out beside the interface, in another thread or in small steps between events.

Whoever works something out asks the window's ``Activities`` for it. An activity has an owner, words that say what it
does ("" where nobody need see it), how far it is, and can be cancelled; what fails is written to the log with its
traceback, whoever is told of it.
"""

from __future__ import annotations

import atexit
import logging
import threading
import weakref
from collections.abc import Callable, Generator, Iterator
from contextlib import suppress
from functools import partial
from typing import Any

from PyQt6.QtCore import QObject, QThreadPool, QTimer, pyqtSignal, pyqtSlot

from gavotte.desktop.undisturbed import Undisturbed, wait_for_interface
from gavotte.formats.errors import FormatError
from gavotte.giving_way import giving_way
from gavotte.library.errors import LibraryError
from gavotte.recording.errors import RecordingError
from gavotte.sounding.synth import SynthError

LOG = logging.getLogger("gavotte")


class _CancelledError(Exception):
    """Nobody wants the work any more."""


class Job:
    """One piece of work in a worker thread. ``cancel`` stops it where it gives way; nothing of it is delivered then."""

    def __init__(
        self, function: Callable[[], Any], on_done: Callable[[Any], None], on_failed: Callable[[Exception], None]
    ) -> None:
        self._function: Callable[[], Any] | None = function
        self._cancelled = False
        self._on_done, self._on_failed = on_done, on_failed

    def cancel(self) -> None:
        """Stop the work, and throw away what it finds."""
        self._cancelled = True

    def run(self) -> None:
        """Do the work, in whatever thread this is."""
        result: Any = None
        failure: Exception | None = None
        # What it works with is let go of as soon as it is done, and not when somebody looks for circles of values.
        function, self._function = self._function, None
        if self._cancelled or function is None:
            return
        try:
            with giving_way(self._give_way):
                result = function()
        except _CancelledError:
            return
        except Exception as error:
            failure = error
            _log(error)
        # With the application gone there is nobody left to hear of it.
        with suppress(RuntimeError):
            if not self._cancelled:
                _messenger.ended.emit(self, result, failure)

    def _give_way(self) -> None:
        if self._cancelled:
            raise _CancelledError
        wait_for_interface()

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
        super().__init__(lambda: self._walk(steps), on_done, on_failed)
        self._on_progress = on_progress

    def _walk(self, begin: Callable[[], Generator[float, None, Any]]) -> Any:
        steps = begin()
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
    @Undisturbed()
    def _deliver(self, job: Job, result: Any, error: Exception | None) -> None:
        job.deliver(result, error)


_messenger = _Messenger()


_apart: weakref.WeakSet[threading.Thread] = weakref.WeakSet()
"""The threads of what works apart from the others."""
_HANGING_SECONDS = 1.0


def wait_for_workers(milliseconds: int = 5000) -> bool:
    """Start nothing more, and wait for what is running; False where it takes too long.

    A thread of the pool that outlives the interpreter takes the whole process down with an error. One that hangs on a
    file ends with the process; it is waited for only a moment.
    """
    for thread in tuple(_apart):
        thread.join(_HANGING_SECONDS)
    pool = QThreadPool.globalInstance()
    if pool is None:
        return True
    pool.clear()
    return pool.waitForDone(milliseconds)


atexit.register(wait_for_workers)


_EXPECTED = (OSError, FormatError, LibraryError, RecordingError, SynthError)
"""Errors that say what is wrong with a file or a disk: no faults of the program."""


def _log(error: Exception) -> None:
    """Keep where an error came from."""
    level = logging.INFO if isinstance(error, _EXPECTED) else logging.ERROR
    LOG.log(level, "Beside the interface: %r", error, exc_info=error)


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
        self._cancelled = False
        self._timer.timeout.connect(self._step)
        self._timer.start(0)

    def cancel(self) -> None:
        """Stop, and clean up what was begun."""
        self._cancelled = True
        self._timer.stop()
        if isinstance(self._steps, Generator):
            # A step that stops its own work is still running.
            with suppress(ValueError):
                self._steps.close()
        self.deleteLater()

    @Undisturbed()
    def _step(self) -> None:
        try:
            share = next(self._steps, None)
        except Exception as error:
            if self._cancelled:
                return
            self._timer.stop()
            _log(error)
            self._on_failed(error)
            return
        if self._cancelled:
            # What waited for it went away while the step was running.
            return
        if share is None:
            self._timer.stop()
            self._on_done()
        else:
            self._on_progress(share)


class Activity:
    """One thing that is being worked out. ``share`` is how much of it is done, None where that is not known."""

    def __init__(self, owner: object, words: str, cancelled: Callable[[], None] | None) -> None:
        self.owner, self.words = owner, words
        self.share: float | None = None
        self._cancelled = cancelled
        self._work: Job | Steps | None = None
        self._activities: Activities | None = None

    @property
    def is_running(self) -> bool:
        """Whether it is still being worked out."""
        return self._activities is not None

    @property
    def said(self) -> str:
        """What it does and how far it is: "Reading a.flac: 40 %"."""
        if self.share is None:
            return f"{self.words} …"
        return f"{self.words}: {round(100 * self.share)} %"

    def cancel(self) -> None:
        """Stop it; its owner is told, and nothing comes of it."""
        if self._end() and self._cancelled is not None:
            self._cancelled()

    def _end(self) -> bool:
        """Take it off the list; False where it had ended before."""
        activities, self._activities = self._activities, None
        if activities is None:
            return False
        work, self._work = self._work, None
        if work is not None:
            work.cancel()
        activities.drop(self)
        return True


class Activities(QObject):
    """All that is being worked out in a window, in the order in which it began. Signal: ``changed``."""

    changed = pyqtSignal()

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._running: list[Activity] = []
        self._closed = False

    @property
    def is_idle(self) -> bool:
        """Whether nothing is being worked out."""
        return not self._running

    @property
    def shown(self) -> tuple[Activity, ...]:
        """Those that have words, which a user sees."""
        return tuple(activity for activity in self._running if activity.words)

    def of(self, owner: object) -> tuple[Activity, ...]:
        """What is being worked out for an owner."""
        return tuple(activity for activity in self._running if activity.owner is owner)

    def cancel(self, owner: object) -> None:
        """Stop all that is being worked out for an owner, without telling it."""
        for activity in self.of(owner):
            activity._end()

    def close(self) -> None:
        """Stop everything, and begin nothing more: the window is going."""
        self._closed = True
        for activity in tuple(self._running):
            activity._end()

    def drop(self, activity: Activity) -> None:
        """Take an activity that has ended off the list."""
        self._running.remove(activity)
        self.changed.emit()

    # -- beginning ----------------------------------------------------------------------------------

    def beside(
        self,
        owner: object,
        function: Callable[[], Any],
        then: Callable[[Any], None],
        otherwise: Callable[[Exception], None],
        words: str = "",
        cancelled: Callable[[], None] | None = None,
        apart: bool = False,
    ) -> Activity:
        """Work out ``function`` in a worker thread; ``then`` follows with its result, or ``otherwise`` its error.

        ``apart`` gives it a thread of its own. What reads or writes a file may hang for as long as a network does:
        nothing else shall wait for it, and once it is cancelled nobody does.
        """
        activity = Activity(owner, words, cancelled)
        job = Job(function, self._ending(activity, then), self._ending(activity, otherwise))
        return self._begin(activity, job, apart)

    def walk(
        self,
        owner: object,
        steps: Callable[[], Generator[float, None, Any]],
        then: Callable[[Any], None],
        otherwise: Callable[[Exception], None],
        words: str = "",
        cancelled: Callable[[], None] | None = None,
        apart: bool = False,
    ) -> Activity:
        """The same for work in steps, which tell the share that is done and between which it can be stopped."""
        activity = Activity(owner, words, cancelled)
        walk = Walk(
            steps, partial(self._go_on, activity), self._ending(activity, then), self._ending(activity, otherwise)
        )
        return self._begin(activity, walk, apart)

    def step(
        self,
        owner: object,
        steps: Iterator[float],
        then: Callable[[], None],
        otherwise: Callable[[Exception], None],
        words: str = "",
        cancelled: Callable[[], None] | None = None,
    ) -> Activity:
        """The same for small steps in the interface's own thread, between events: painting can't be done elsewhere."""
        activity = Activity(owner, words, cancelled)

        def done() -> None:
            activity._end()
            then()

        work = Steps(steps, partial(self._go_on, activity), done, self._ending(activity, otherwise), self)
        return self._begin(activity, work)

    def _begin(self, activity: Activity, work: Job | Steps, apart: bool = False) -> Activity:
        if self._closed:
            work.cancel()
            return activity
        activity._work, activity._activities = work, self
        self._running.append(activity)
        if isinstance(work, Job) and apart:
            thread = threading.Thread(target=work.run, daemon=True)
            _apart.add(thread)
            thread.start()
        elif isinstance(work, Job):
            pool = QThreadPool.globalInstance()
            assert pool is not None
            pool.start(work.run)
        self.changed.emit()
        return activity

    def _ending(self, activity: Activity, then: Callable[[Any], None]) -> Callable[[Any], None]:
        def end(found: Any) -> None:
            activity._end()
            then(found)

        return end

    def _go_on(self, activity: Activity, share: float) -> None:
        activity.share = share
        self.changed.emit()
