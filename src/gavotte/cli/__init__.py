"""The command line: ``gavotte [--demo] [FILE …]`` opens the window; ``gavotte label FILES…``, ``gavotte phrases
FILES…``, ``gavotte cells FILES…``, ``gavotte find QUERY FILES…``, ``gavotte profile FILES…``, ``gavotte sheet FILES…``
and ``gavotte take SOLO AUDIO`` work without one.
"""

from __future__ import annotations

import argparse
import sys
from pathlib import Path

import platformdirs

from gavotte import __version__
from gavotte.cli.cells import cells_command
from gavotte.cli.find import find_command
from gavotte.cli.label import label_command
from gavotte.cli.phrases import phrases_command
from gavotte.cli.profile import profile_command
from gavotte.cli.sheet import sheet_command
from gavotte.cli.take import take_command

APP = "gavotte"


def main(arguments: list[str] | None = None) -> int:
    """Run the command line. Gives the exit status."""
    given = sys.argv[1:] if arguments is None else arguments
    if given[:1] == ["label"]:
        return label_command(given[1:])
    if given[:1] == ["phrases"]:
        return phrases_command(given[1:])
    if given[:1] == ["cells"]:
        return cells_command(given[1:])
    if given[:1] == ["find"]:
        return find_command(given[1:])
    if given[:1] == ["profile"]:
        return profile_command(given[1:])
    if given[:1] == ["sheet"]:
        return sheet_command(given[1:])
    if given[:1] == ["take"]:
        return take_command(given[1:])
    return _window(given)


def _window(given: list[str]) -> int:
    parser = argparse.ArgumentParser(
        prog=APP,
        description="Name every note of a transcribed solo. "
        "“gavotte label FILES…” labels files without opening the window, “gavotte phrases FILES…” tells their phrases, "
        "“gavotte cells FILES…” what recurs in them, "
        "“gavotte find QUERY FILES…” where they have what is asked for, "
        "“gavotte profile FILES…” the figures of their players and what sets them apart, "
        "“gavotte sheet FILES…” makes teaching sheets of them, "
        "“gavotte take SOLO AUDIO” how a take of a solo went.",
    )
    parser.add_argument("files", nargs="*", type=Path, metavar="FILE", help="MusicXML or MIDI files to import and open")
    parser.add_argument("--demo", action="store_true", help="open the demo library")
    parser.add_argument("--fresh", action="store_true", help="with --demo: build the demo library anew")
    parser.add_argument("--library", type=Path, metavar="FOLDER", help="use the library in this folder")
    parser.add_argument("--version", action="version", version=f"Gavotte {__version__}")
    options = parser.parse_args(given)
    data = Path(platformdirs.user_data_dir(APP))
    folder = options.library or (data / "demo" if options.demo else data / "library")
    if options.demo:
        from gavotte.demo.build import build_demo
        from gavotte.library.errors import LibraryError

        try:
            build_demo(folder, options.fresh)
        except LibraryError as error:
            print(f"gavotte: {error}", file=sys.stderr)
            return 1
    from gavotte.desktop.app import run

    settings = Path(platformdirs.user_config_dir(APP)) / ("demo.ini" if options.demo else "gavotte.ini")
    log = Path(platformdirs.user_log_dir(APP)) / "gavotte.log"
    return run(folder, settings, options.files, log, options.demo)
