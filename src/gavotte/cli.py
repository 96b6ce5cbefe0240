"""The command line: ``gavotte [--demo] [FILE …]`` opens the window, ``gavotte label FILE`` prints labels."""

from __future__ import annotations

import argparse
import os
import sys
from pathlib import Path

import platformdirs

from gavotte import __version__
from gavotte.formats.errors import FormatError
from gavotte.formats.passage import read_passages, write_labelled
from gavotte.labelling.labeller import label_solo

APP = "gavotte"


def main(arguments: list[str] | None = None) -> int:
    """Run the command line. Gives the exit status."""
    given = sys.argv[1:] if arguments is None else arguments
    if given[:1] == ["label"]:
        return _label(given[1:])
    return _window(given)


def _window(given: list[str]) -> int:
    parser = argparse.ArgumentParser(
        prog=APP,
        description="Name every note of a transcribed solo. "
        "“gavotte label FILE” prints the labels of a passage file instead of opening the window.",
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
            build_demo(folder, options.fresh, lambda title: print(f"Recording {title} …", file=sys.stderr))
        except LibraryError as error:
            print(f"gavotte: {error}", file=sys.stderr)
            return 1
    from gavotte.desktop.app import run

    settings = Path(platformdirs.user_config_dir(APP)) / ("demo.ini" if options.demo else "gavotte.ini")
    return run(folder, settings, options.files, Path(platformdirs.user_log_dir(APP)) / "gavotte.log")


def _label(given: list[str]) -> int:
    parser = argparse.ArgumentParser(
        prog=f"{APP} label", description="Print a passage file (JSON) with the labels of every note filled in."
    )
    parser.add_argument("file", type=Path, metavar="FILE", help="a passage file, or - for standard input")
    options = parser.parse_args(given)
    try:
        text = sys.stdin.read() if str(options.file) == "-" else options.file.read_text(encoding="utf-8")
        passages = read_passages(text)
    except (OSError, UnicodeDecodeError) as error:
        print(f"gavotte: {options.file} can't be read: {error}", file=sys.stderr)
        return 1
    except FormatError as error:
        print(f"gavotte: {options.file}: {error}", file=sys.stderr)
        return 1
    try:
        print(write_labelled((passage, label_solo(passage.solo)) for passage in passages), flush=True)
    except BrokenPipeError:
        # Whoever reads has seen enough (| head); Python would complain again while closing the stream.
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
    return 0
