"""The parser of a command: what it does, its options, examples, and what its exit status says."""

from __future__ import annotations

import argparse
import textwrap
from collections.abc import Sequence

_WIDTH = 79
_STATUS = "exit status: 0 all is well, 1 a file failed{others}, 2 misuse{also}, 130 interrupted"


def command_parser(
    name: str, description: str, examples: Sequence[str], others: str = " (the others are done)", also: str = ""
) -> argparse.ArgumentParser:
    """A parser for ``gavotte NAME`` whose help ends with examples and the exit statuses."""
    lines = "\n".join(f"  gavotte {name} {example}" for example in examples)
    status = textwrap.fill(_STATUS.format(others=others, also=also), _WIDTH)
    return argparse.ArgumentParser(
        prog=f"gavotte {name}",
        description=textwrap.fill(description, _WIDTH),
        epilog=f"examples:\n{lines}\n\n{status}",
        formatter_class=argparse.RawDescriptionHelpFormatter,
    )
