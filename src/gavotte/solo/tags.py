"""Tags: a user's own words for a solo or lick, as values and as they are typed, with commas between."""

from __future__ import annotations

from collections.abc import Iterable


def read_tags(text: str) -> tuple[str, ...]:
    """The tags in a text with commas between, each once."""
    return tuple(dict.fromkeys(tag for part in text.split(",") if (tag := " ".join(part.split()))))


def written_tags(tags: Iterable[str]) -> str:
    """Tags as one text, for ``read_tags``."""
    return ", ".join(tags)
