"""All keys as a table in Markdown: the chapter of the guide that lists them is made of the commands themselves."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from gavotte.desktop.command import Command
from gavotte.desktop.desk.desk import Hint


def key_table(everywhere: Iterable[Command], desks: Mapping[str, tuple[str, Iterable[Command], Iterable[Hint]]]) -> str:
    """The chapter: what works everywhere, then desk by desk (words, commands, hints)."""
    lines = ["# All keys", "", "Press <kbd>?</kbd> at a desk to see its keys, <kbd>F10</kbd> to find any command."]
    for words, commands, hints in (("Everywhere", everywhere, ()), *desks.values()):
        rows = [(keys, _plain(said)) for keys, said in hints]
        rows += [
            (" ".join(_kbd(key) for key in command.keys), _plain(command.said)) for command in commands if command.keys
        ]
        if rows:
            lines += ["", f"## {words}", "", "| keys | |", "|---|---|"]
            lines += [f"| {keys} | {said} |" for keys, said in rows]
    return "\n".join(lines) + "\n"


def _kbd(key: str) -> str:
    return f"<kbd>{key.replace('|', chr(92) + '|')}</kbd>"


def _plain(words: str) -> str:
    # An undo command says what it would undo.
    return words.split(":")[0] if words.startswith(("Undo", "Redo")) else words
