"""``gavotte take SOLO AUDIO``: what became of a solo's notes in a take, without a window."""

from __future__ import annotations

import argparse
import json
import sys
import tempfile
from collections.abc import Sequence
from pathlib import Path

from gavotte.cli.parser import command_parser
from gavotte.cli.sources import DONE, INTERRUPTED, MISUSED, SOME_FAILED, Item, Sources, numbers_of
from gavotte.formats.errors import FormatError
from gavotte.formats.midi_played import played_keys
from gavotte.formats.opening import MAX_FILE_BYTES
from gavotte.practice.due import DueLine, due_line
from gavotte.practice.hearing import hear_take
from gavotte.practice.judging import take_of_notes
from gavotte.practice.report import is_like, told_of
from gavotte.practice.take import Take
from gavotte.recording.decode import decode
from gavotte.recording.errors import RecordingError
from gavotte.recording.line import DraftNote
from gavotte.regular_file import read_regular
from gavotte.steps import whole

_MIDI = (".mid", ".midi", ".kar")
_SLOWEST, _FASTEST = 20.0, 400.0


def take_command(given: list[str]) -> int:
    """Run the command. Gives the exit status: 1 where a file can't be used, 2 for misuse."""
    parser = command_parser(
        "take",
        "Tell what became of the notes of SOLO in AUDIO: right, wrong, missed and added notes, and "
        "how early or late each was. SOLO is what “gavotte label” reads; AUDIO a sound file, or a MIDI file as it was "
        "played.",
        ("solo.musicxml take.wav", "solo.musicxml take.mid --tempo 140 --json"),
        others="",
        also=", or a line that can't be understood",
    )
    parser.add_argument("solo", metavar="SOLO")
    parser.add_argument("audio", metavar="AUDIO")
    parser.add_argument("--tempo", type=float, metavar="N", help="quarter notes a minute at which it was to be played")
    parser.add_argument("--id", metavar="NAME", help="the passage that was played, where SOLO holds several")
    parser.add_argument("--json", action="store_true", help="as JSON, on standard output")
    options = parser.parse_args(given)
    if options.tempo is not None and not _SLOWEST <= options.tempo <= _FASTEST:
        print(
            f"gavotte take: the tempo is from {_SLOWEST:.0f} to {_FASTEST:.0f} quarter notes a minute", file=sys.stderr
        )
        return MISUSED
    try:
        return _run(options)
    except KeyboardInterrupt:
        print("gavotte: stopped", file=sys.stderr)
        return INTERRUPTED


def _run(options: argparse.Namespace) -> int:
    sources = Sources([options.solo])
    items = [item for _, items in sources.opened() for item in items]
    if sources.failed:
        return SOME_FAILED
    item = _chosen(items, options.id)
    if item is None:
        names = ", ".join(item.name for item in items[:5]) + (", …" if len(items) > 5 else "")
        print(
            f"gavotte take: {options.solo} holds {len(items)} passages; say with --id which ({names})", file=sys.stderr
        )
        return MISUSED
    line = due_line(item.solo)
    if not line.notes:
        sources.fail(options.solo, "there are no notes in it to be played")
        return SOME_FAILED
    try:
        take = _take(line, Path(options.audio), options.tempo)
    except OSError as error:
        sources.fail(options.audio, f"can't be read: {error.strerror or error}")
    except (FormatError, RecordingError) as error:
        sources.fail(options.audio, str(error))
    else:
        if not is_like(take):
            print(
                "gavotte: little of the take is like the solo; is it this solo, and can the line be heard?",
                file=sys.stderr,
            )
        numbers = _numbers(item, line)
        if options.json:
            sys.stdout.write(json.dumps(_members(take, numbers), indent=1) + "\n")
        else:
            told = (f"{where}: {words}" if where else words for where, words in told_of(line, take))
            sys.stdout.write("\n".join(told) + "\n")
        return DONE
    return SOME_FAILED


def _chosen(items: Sequence[Item], name: str | None) -> Item | None:
    if name is not None:
        return next((item for item in items if item.name == name), None)
    return items[0] if len(items) == 1 else None


def _take(line: DueLine, path: Path, tempo: float | None) -> Take:
    if path.suffix.lower() in _MIDI:
        keys = played_keys(read_regular(path, MAX_FILE_BYTES))
        return take_of_notes(line, [DraftNote(start, end, midi, 1.0) for start, end, midi in keys], tempo)
    with tempfile.TemporaryDirectory() as folder:
        decoded = whole(decode(path, Path(folder)))
        for remark in decoded.remarks:
            print(f"gavotte: {path}: {remark}", file=sys.stderr)
        return whole(hear_take(decoded.samples(), line, tempo))


def _numbers(item: Item, line: DueLine) -> dict[str, int]:
    numbers = dict(zip((note.id for note in item.solo.notes), numbers_of(item), strict=True))
    return {note.id: numbers[note.id] for note in line.notes}


def _members(take: Take, numbers: dict[str, int]) -> dict[str, object]:
    return {
        "tempo": round(take.tempo, 2),
        "notes": [
            {
                "index": numbers[note.note],
                "verdict": str(note.verdict),
                "heard": note.heard,
                "late_ms": None if note.late is None else round(1000 * note.late, 1),
                "sure": round(note.sure, 3),
                "cents": note.cents,
            }
            for note in take.notes
        ],
        "added": [
            {"seconds": round(note.seconds, 3), "pitch": note.midi, "sure": round(note.sure, 3)} for note in take.added
        ],
        "swing": take.swing,
        "drift": round(take.drift, 4),
        "sure": round(take.sure, 3),
    }
