"""What the workshop keeps: recipes of the user's own, and what lies on the bench until the next time."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gavotte.formats.document import DocumentKind
from gavotte.library.store import Library
from gavotte.solo.bounds import within_bounds
from gavotte.solo.document import Solo
from gavotte.workshop.operation import Recipe, Step


@dataclass(frozen=True, slots=True)
class OwnRecipes:
    """The recipes a user has kept, in the order they were kept."""

    recipes: tuple[Recipe, ...] = ()


@dataclass(frozen=True, slots=True)
class OnBench:
    """What lies on the bench: the source (None for nothing) with its name and where it comes from, and the steps."""

    source: Solo | None = None
    name: str = ""
    comes: str = ""
    steps: tuple[Step, ...] = ()


def _checked(bench: OnBench) -> OnBench:
    if bench.source is not None:
        within_bounds(bench.source)
    return bench


RECIPES_DOCUMENT = DocumentKind("gavotte-recipes", 1, "recipes", OwnRecipes)
BENCH_DOCUMENT = DocumentKind("gavotte-bench", 1, "bench", OnBench, {}, _checked)


def own_recipes(library: Library) -> tuple[Recipe, ...]:
    """The recipes kept in a library. Raises LibraryError, or FormatError for a damaged document."""
    kept = library.kept(RECIPES_DOCUMENT)
    return kept.recipes if kept is not None else ()


def keep_recipes(library: Library, recipes: Sequence[Recipe]) -> None:
    """Write the user's recipes. Raises LibraryError."""
    library.keep(RECIPES_DOCUMENT, OwnRecipes(tuple(recipes)))


def with_recipe(recipes: Sequence[Recipe], recipe: Recipe) -> tuple[Recipe, ...]:
    """The recipes with another one, in place of one of the same name."""
    others = [own for own in recipes if own.name.casefold() != recipe.name.casefold()]
    return (*others, recipe)
