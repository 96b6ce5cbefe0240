"""What lies on the bench: a source and the steps that are taken with it, each change a step that can be undone."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtGui import QUndoCommand, QUndoStack

from gavotte.desktop.translation import translate
from gavotte.library.bench import OnBench
from gavotte.solo.document import Solo
from gavotte.workshop.operation import Recipe, Step, Value


@dataclass(frozen=True)
class _Known:
    """What lies there, and which step is looked at (its place, −1 for none)."""

    there: OnBench
    chosen: int = -1


class Bench(QObject):
    """``there`` is what lies on it, ``chosen`` the place of the step that is looked at, -1 for none.

    Signals: ``changed``, something else lies there; ``chosen_changed``, another step is looked at.
    """

    changed = pyqtSignal()
    chosen_changed = pyqtSignal()

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self.undo_stack = QUndoStack(self)
        self._now = _Known(OnBench())

    @property
    def there(self) -> OnBench:
        """What lies on the bench."""
        return self._now.there

    @property
    def chosen(self) -> int:
        """The place of the step that is looked at, −1 where there is none."""
        return self._now.chosen

    @property
    def step(self) -> Step | None:
        """The step that is looked at."""
        return self.there.steps[self.chosen] if 0 <= self.chosen < len(self.there.steps) else None

    def choose(self, place: int) -> None:
        """Look at another step."""
        if place != self.chosen and -1 <= place < len(self.there.steps):
            self._now = replace(self._now, chosen=place)
            self.chosen_changed.emit()

    def lay(self, there: OnBench) -> None:
        """Lay down what was there the last time; that is no step."""
        self.undo_stack.clear()
        self._put(_Known(there, len(there.steps) - 1))

    # -- steps that can be undone -------------------------------------------------------------------

    def take(self, source: Solo, name: str, comes: str) -> None:
        """Take another source; the steps stay, for they may be meant for it as well."""
        words = translate("Gavotte", "Take “{name}”").format(name=name)
        self._push(words, replace(self.there, source=source, name=name, comes=comes), self.chosen)

    def add(self, step: Step, words: str) -> None:
        """Add a step behind the one that is looked at."""
        place = self.chosen + 1
        steps = self.there.steps
        self._push(words, replace(self.there, steps=(*steps[:place], step, *steps[place:])), place)

    def add_all(self, recipe: Recipe) -> None:
        """Add the steps of a recipe behind those there are."""
        steps = (*self.there.steps, *recipe.steps)
        words = translate("Gavotte", "Use “{name}”").format(name=recipe.name)
        self._push(words, replace(self.there, steps=steps), len(steps) - 1)

    def add_steps(self, steps: tuple[Step, ...], words: str) -> None:
        """Add several steps at the end, in one."""
        together = (*self.there.steps, *steps)
        self._push(words, replace(self.there, steps=together), len(together) - 1)

    def set_value(self, name: str, value: Value, words: str) -> None:
        """Give the step that is looked at another value; changes of one value in a row are undone together."""
        step = self.step
        if step is not None and dict(step.values).get(name) != value:
            self._exchange(step.with_value(name, value), words, (self.chosen, name))

    def exchange(self, step: Step, words: str) -> None:
        """Put another step in the place of the one that is looked at."""
        if self.step is not None and step != self.step:
            self._exchange(step, words, None)

    def switch(self) -> None:
        """Switch the step that is looked at off, or on."""
        step = self.step
        if step is not None:
            words = (
                translate("Gavotte", "Switch a step off") if step.is_on else translate("Gavotte", "Switch a step on")
            )
            self._exchange(replace(step, is_on=not step.is_on), words, None)

    def move(self, by: int) -> None:
        """Move the step that is looked at earlier (−1) or later (1)."""
        place, steps = self.chosen, list(self.there.steps)
        if self.step is None or not 0 <= place + by < len(steps):
            return
        steps[place], steps[place + by] = steps[place + by], steps[place]
        self._push(translate("Gavotte", "Move a step"), replace(self.there, steps=tuple(steps)), place + by)

    def remove(self) -> None:
        """Take the step that is looked at out of the chain."""
        place, steps = self.chosen, self.there.steps
        if self.step is not None:
            left = (*steps[:place], *steps[place + 1 :])
            self._push(
                translate("Gavotte", "Remove a step"), replace(self.there, steps=left), min(place, len(left) - 1)
            )

    def clear(self) -> None:
        """Take all steps away."""
        if self.there.steps:
            self._push(translate("Gavotte", "Remove all steps"), replace(self.there, steps=()), -1)

    def _exchange(self, step: Step, words: str, of: tuple[int, str] | None) -> None:
        place, steps = self.chosen, self.there.steps
        self._push(words, replace(self.there, steps=(*steps[:place], step, *steps[place + 1 :])), place, of)

    def _push(self, words: str, there: OnBench, chosen: int, of: tuple[int, str] | None = None) -> None:
        self.undo_stack.push(_Change(self._put, words, self._now, _Known(there, chosen), of))

    def _put(self, known: _Known) -> None:
        self._now = known
        self.changed.emit()


class _Change(QUndoCommand):
    """From one bench to the next; ``of`` names the value that was changed, where one was."""

    def __init__(
        self, put: Callable[[_Known], None], words: str, before: _Known, after: _Known, of: tuple[int, str] | None
    ) -> None:
        super().__init__(words)
        self._put, self._before, self._after, self._of = put, before, after, of

    def id(self) -> int:
        return 1

    def mergeWith(self, other: QUndoCommand | None) -> bool:
        if not isinstance(other, _Change) or self._of is None or other._of != self._of:
            return False
        self._after = other._after
        return True

    def redo(self) -> None:
        self._put(self._after)

    def undo(self) -> None:
        self._put(self._before)
