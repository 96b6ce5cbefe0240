"""What a panel tells of a labelled solo: worked out at once, or beside the interface where the solo is long."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import Generic, TypeVar

from gavotte.desktop.activity import Activities
from gavotte.desktop.solo.session import LABEL_AT_ONCE
from gavotte.labelling.labeller import Labelled

AnswerT = TypeVar("AnswerT")


class Told(Generic[AnswerT]):
    """Has something worked out of the solo an owner shows, once for each value. ``shown`` is the one it shows now."""

    def __init__(
        self,
        owner: object,
        activities: Activities,
        work: Callable[[Labelled], AnswerT],
        show: Callable[[AnswerT], None],
    ) -> None:
        self._owner, self._activities, self._work, self._show = owner, activities, work, show
        self._asked: Labelled | None = None
        self.shown: Labelled | None = None

    def ask(self, found: Labelled) -> None:
        """Show what is to be told of a solo, now or soon; what was shown stays until then."""
        if found is self._asked:
            return
        self._activities.cancel(self._owner)
        self._asked = found
        if len(found.labels) <= LABEL_AT_ONCE:
            self._take(found, self._work(found))
        else:
            self._activities.beside(self._owner, partial(self._work, found), partial(self._take, found), self._forget)

    def _take(self, found: Labelled, answer: AnswerT) -> None:
        self.shown = found
        self._show(answer)

    def _forget(self, _: Exception) -> None:
        # It is in the log, and tried again with the next change.
        self._asked = None
