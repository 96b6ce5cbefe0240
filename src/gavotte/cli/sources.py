"""The solos in files named on a command line: opened one by one, with what is wrong told and the rest gone on with."""

from __future__ import annotations

import os
import sys
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from gavotte.formats.document import SOLO_DOCUMENT
from gavotte.formats.errors import FormatError
from gavotte.formats.opening import MAX_FILE_BYTES, open_source
from gavotte.formats.passage import read_passages
from gavotte.regular_file import read_regular
from gavotte.solo.document import Solo

DONE, SOME_FAILED, MISUSED, INTERRUPTED = 0, 1, 2, 130
"""Exit statuses."""


@dataclass(frozen=True)
class Item:
    """One solo of a file, with the members of the passage it came from, if it came from one."""

    name: str
    solo: Solo
    source: Mapping[str, Any] | None = None
    is_one_of_several: bool = False


class Sources:
    """Files that are opened one by one, so that only one is held at a time."""

    def __init__(self, files: list[str]) -> None:
        self.files = files
        self.done = 0
        self._failed: set[str] = set()

    @property
    def failed(self) -> int:
        """How many files failed, wholly or in part."""
        return len(self._failed)

    def opened(self) -> Iterator[tuple[str, list[Item]]]:
        """Each file that can be read, with the solos in it."""
        for number, file in enumerate(self.files, 1):
            self._tell(number, file)
            try:
                items = _open(file)
            except (OSError, UnicodeDecodeError) as error:
                self.fail(file, f"can't be read: {getattr(error, 'strerror', None) or error}")
            except FormatError as error:
                self.fail(file, str(error))
            except Exception as error:
                self.fail(file, f"can't be read: {error!r}")
            else:
                yield file, items
            self.done = number

    def fail(self, file: str, why: str) -> None:
        """Tell what is wrong with a file, and count it."""
        self._failed.add(file)
        print(f"gavotte: {file}: {why}", file=sys.stderr)

    def run(self, work: Callable[[], None], done: str) -> int:
        """Do the work and give the exit status; ``done`` says what became of the files ("labelled")."""
        try:
            work()
            sys.stdout.flush()
        except BrokenPipeError:
            # Whoever reads has seen enough (| head); Python would complain again while closing the stream.
            os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        except KeyboardInterrupt:
            print(f"gavotte: stopped after {self.done} of {len(self.files)} files", file=sys.stderr)
            return INTERRUPTED
        if len(self.files) > 1:
            failed = f", {self.failed} failed" if self.failed else ""
            print(f"{self.done - self.failed} of {len(self.files)} files {done}{failed}", file=sys.stderr)
        return SOME_FAILED if self.failed else DONE

    def _tell(self, number: int, file: str) -> None:
        if len(self.files) > 1 and sys.stderr.isatty():
            print(f"\r\033[K{number} of {len(self.files)}  {Path(file).name}", end="", file=sys.stderr, flush=True)
            if number == len(self.files):
                print(file=sys.stderr)


def _open(file: str) -> list[Item]:
    path = Path(file)
    if file == "-" or path.suffix.lower() == ".json":
        data = sys.stdin.buffer.read() if file == "-" else read_regular(path, MAX_FILE_BYTES)
        text = data.decode("utf-8-sig")
        if text.lstrip().startswith("{") and '"gavotte-solo"' in text[:200]:
            return [Item(path.stem, SOLO_DOCUMENT.read(data))]
        passages = read_passages(text)
        return [Item(passage.id, passage.solo, passage.source, len(passages) > 1) for passage in passages]
    imported = open_source(path).solo(fallback_title=path.stem)
    return [Item(path.stem, imported.solo)]


def numbers_of(item: Item) -> Sequence[int]:
    """The number of each note as ``gavotte label`` counts them: a grace note goes with the note it leads into."""
    if item.source is not None:
        return range(len(item.solo.notes))
    numbers, count = [], 0
    for note in item.solo.notes:
        numbers.append(count)
        count += not note.grace
    return [min(number, max(0, count - 1)) for number in numbers]
