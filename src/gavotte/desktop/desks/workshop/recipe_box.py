"""The user's recipes: chains of steps kept under a name, used on other lines, deleted."""

from __future__ import annotations

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtWidgets import QWidget

from gavotte.desktop.asks import Asks
from gavotte.desktop.desks.workshop.bench import Bench
from gavotte.desktop.desks.workshop.small_dialogs import RecipeName
from gavotte.desktop.translation import said, translate
from gavotte.formats.errors import FormatError
from gavotte.library.bench import keep_recipes, own_recipes, with_recipe
from gavotte.library.errors import LibraryError
from gavotte.library.store import Library
from gavotte.workshop.operation import Recipe
from gavotte.workshop.operations import OPERATIONS


class RecipeBox(QObject):
    """``recipes`` are those there are. Signal: ``changed``."""

    changed = pyqtSignal()

    def __init__(self, library: Library, bench: Bench, asks: Asks, desk: QWidget) -> None:
        super().__init__(desk)
        self._library, self._bench, self._asks, self._desk = library, bench, asks, desk
        self.recipes: tuple[Recipe, ...] = ()
        self.dialog: RecipeName | None = None

    def read(self) -> None:
        """Look which recipes there are."""
        try:
            self.recipes = own_recipes(self._library)
        except (LibraryError, FormatError) as error:
            self._asks.notice(str(error))
        self.changed.emit()

    def keep(self) -> None:
        """Keep the steps on the bench as a recipe, under a name that is asked for."""
        steps = self._bench.there.steps
        if not steps:
            return
        first = OPERATIONS.get(steps[0].operation)
        proposed = said(first.words) if first is not None else steps[0].operation
        taken = [recipe.name for recipe in self.recipes]
        dialog = self.dialog = RecipeName(self._desk.window() or self._desk, proposed, taken)
        dialog.accepted.connect(lambda: self._put(with_recipe(self.recipes, Recipe(dialog.name.text().strip(), steps))))
        dialog.open()

    def forget(self, recipe: Recipe) -> None:
        """Delete a recipe; that can be undone for as long as it is said."""
        before = self.recipes
        self._put(tuple(own for own in before if own != recipe))
        self._asks.notice(
            translate("Gavotte", "The recipe “{name}” was deleted.").format(name=recipe.name),
            translate("Gavotte", "Undo"),
            lambda: self._put(before),
        )

    def _put(self, recipes: tuple[Recipe, ...]) -> None:
        try:
            keep_recipes(self._library, recipes)
        except LibraryError as error:
            self._asks.notice(str(error))
            return
        self.recipes = recipes
        self.changed.emit()
