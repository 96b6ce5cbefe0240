"""What is remembered of corrections: for each school and solo what they spoke for, and which offers were declined."""

from __future__ import annotations

import json
from collections.abc import Mapping
from contextlib import suppress
from pathlib import Path
from typing import Any

from gavotte.formats.whole_file import write_whole
from gavotte.labelling.learning import ENOUGH_FOR, Evidence

FILE_NAME = "corrections.json"


class Memory:
    """Kept in a small file of its own. A file that can't be read or written costs nothing but the memory."""

    def __init__(self, folder: Path) -> None:
        self._file = folder / FILE_NAME
        self._data: dict[str, Any] = {"evidence": {}, "declined": {}}
        with suppress(OSError, ValueError):
            read = json.loads(self._file.read_text(encoding="utf-8"))
            if isinstance(read, dict) and all(isinstance(read.get(part), dict) for part in self._data):
                self._data = read

    def evidence(self, school: str, but_not: str) -> dict[str, Evidence]:
        """What the corrections of all solos but one have said about each choice of a school."""
        total: dict[str, Evidence] = {}
        for solo, choices in self._data["evidence"].get(school, {}).items():
            if solo != but_not:
                for choice, (other_way, as_it_is) in choices.items():
                    total[choice] = total.get(choice, Evidence()) + Evidence(other_way, as_it_is)
        return total

    def keep(self, school: str, solo: str, evidence: Mapping[str, Evidence]) -> None:
        """Remember what a solo's corrections say."""
        known = self._data["evidence"].setdefault(school, {})
        fresh = {choice: [said.other_way, said.as_it_is] for choice, said in evidence.items()}
        if known.get(solo, {}) != fresh:
            if fresh:
                known[solo] = fresh
            else:
                known.pop(solo, None)
            self._write()

    def decline(self, school: str, choice: str, corrections: int) -> None:
        """Don't offer a choice again until clearly more corrections speak for it."""
        self._data["declined"].setdefault(school, {})[choice] = corrections
        self._write()

    def is_declined(self, school: str, choice: str, corrections: int) -> bool:
        """Whether an offer was declined, and not enough has come since."""
        before = self._data["declined"].get(school, {}).get(choice)
        return before is not None and corrections < before + ENOUGH_FOR

    def _write(self) -> None:
        with suppress(OSError):
            self._file.parent.mkdir(parents=True, exist_ok=True)
            write_whole(self._file, json.dumps(self._data, indent=1).encode("utf-8"))
