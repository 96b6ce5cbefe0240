"""The guide as texts: where it lies, its chapters in order, and what they say, ready to be shown."""

from __future__ import annotations

import re
import site
import sys
from dataclasses import dataclass
from pathlib import Path

import gavotte

INDEX = "index.md"
_CHAPTER = re.compile(r"^\d+\. \[(?P<title>[^\]]+)\]\((?P<file>[\w.-]+\.md)\)(?:: (?P<about>.+))?$", re.MULTILINE)
_KEY = re.compile(r"<kbd>(.+?)</kbd>")


@dataclass(frozen=True, slots=True)
class Chapter:
    """A chapter: its file's name, its title, and what it is about."""

    file: str
    title: str
    about: str = ""

    @property
    def desk(self) -> str:
        """The name of the desk it may be about: "label" for "05-label.md"."""
        return self.file.partition("-")[2].removesuffix(".md")


def guide_folder() -> Path | None:
    """Where the guide lies: beside the sources, or where it was installed; None where it is not there."""
    beside = Path(gavotte.__file__).parents[2] / "docs" / "guide"
    installed = (Path(base) / "share" / "gavotte" / "guide" for base in (sys.prefix, site.getuserbase()))
    for folder in (beside, *installed):
        if (folder / INDEX).is_file():
            return folder
    return None


def chapters(folder: Path) -> tuple[Chapter, ...]:
    """The chapters the guide's first page lists, in their order. Raises OSError."""
    index = (folder / INDEX).read_text(encoding="utf-8")
    found = (Chapter(m["file"], m["title"], m["about"] or "") for m in _CHAPTER.finditer(index))
    return tuple(found)


def page(folder: Path, file: str) -> str:
    """A page as Markdown, its keys set as code. Raises OSError, ValueError for a file outside the guide."""
    path = (folder / file).resolve()
    if path.parent != folder.resolve():
        raise ValueError(f"{file} is no page of the guide")
    return _KEY.sub(_as_code, path.read_text(encoding="utf-8"))


def _as_code(match: re.Match[str]) -> str:
    return "`` ` ``" if match[1] == "`" else f"`{match[1]}`"


def holding(folder: Path, words: str) -> tuple[Chapter, ...]:
    """The chapters in which all of some words stand, wherever. Raises OSError."""
    wanted = words.casefold().split()
    return tuple(
        chapter
        for chapter in chapters(folder)
        if all(word in f"{chapter.title}\n{page(folder, chapter.file)}".casefold() for word in wanted)
    )
