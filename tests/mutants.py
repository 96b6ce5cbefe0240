"""Files damaged at random, as trees and values: what is made of each must be a solo or a message, never anything else.

Each kind of file has a function that damages it by a seed and reads it; it says whether it was ``READ`` or ``REFUSED``.
"""

from __future__ import annotations

import copy
import io
import json
import random
import sqlite3
import zipfile
from collections.abc import Callable
from contextlib import closing
from dataclasses import replace
from pathlib import Path
from typing import Any
from xml.etree import ElementTree

import mido

from gavotte.demo.solos import DEMO_SOLOS
from gavotte.formats.document import SOLO_DOCUMENT
from gavotte.formats.errors import FormatError
from gavotte.formats.midi_read import open_midi
from gavotte.formats.midi_write import write_midi
from gavotte.formats.musicxml import open_score
from gavotte.formats.musicxml_write import write_musicxml
from gavotte.formats.passage import passage_members, read_passages
from gavotte.labelling.labeller import label_solo
from gavotte.library.archive import add_contents, extract_sounds, read_archive, write_archive
from gavotte.library.errors import LibraryError
from gavotte.library.reader import DATABASE
from gavotte.library.recordings import file_of
from gavotte.library.store import Library
from gavotte.recording.beat_map import BeatMap
from gavotte.recording.recording import Recording
from gavotte.solo.bounds import within_bounds
from gavotte.solo.document import Solo
from gavotte.solo.moving import excerpt
from gavotte.vocabulary.lick import keep_lick

READ, REFUSED = "read", "refused"

NUMBERS = ["0", "-1", "1", "3", "7/3", "1/0", "1e99999999", "3000000", "9" * 400, "0.1", "-0", "1e-9", "64", "128"]
TEXTS = ["", "x", "C", "Bb major", "major", "\ud800", "\x00", "a" * 30_000, "../../secret", "n1", "true", "4/4", "0/4"]
VALUES: list[Any] = [None, True, 0, -1, 10**30, 1.5, 1e308, [], {}, [[]], *NUMBERS, *TEXTS]

_WHOLE = DEMO_SOLOS[0]()
SOLO = replace(excerpt(_WHOLE, _WHOLE.notes[0].id, _WHOLE.notes[35].id), title="A part")
SCORE, MIDI, DOCUMENT = write_musicxml(SOLO), write_midi(SOLO), SOLO_DOCUMENT.write(SOLO)


def _used(solo: Solo) -> str:
    """What is done with every solo that was read: it holds together."""
    assert within_bounds(solo) == solo
    assert len(label_solo(solo)) == len(solo.notes)
    assert SOLO_DOCUMENT.read(SOLO_DOCUMENT.write(solo)) == solo
    return READ


# -- trees ----------------------------------------------------------------------------------------------


def damage_xml(root: ElementTree.Element, chance: random.Random, blows: int) -> None:
    """Drop, double, exchange and move elements, and give them other values; it stays a tree."""
    for _ in range(blows):
        parents = [element for element in root.iter() if len(element)]
        if not parents:
            return
        parent = chance.choice(parents)
        place = chance.randrange(len(parent))
        match chance.randrange(6):
            case 0:
                del parent[place]
            case 1:
                parent.insert(chance.randint(0, len(parent)), copy.deepcopy(parent[place]))
            case 2:
                other = chance.randrange(len(parent))
                parent[place], parent[other] = copy.deepcopy(parent[other]), copy.deepcopy(parent[place])
            case 3:
                chance.choice(parents).append(copy.deepcopy(parent[place]))
            case _:
                leaf = chance.choice([element for element in root.iter() if not len(element)])
                value = chance.choice([*NUMBERS, "C", "sharp", "start", "stop", "up", "x" * 3000, ""])
                if leaf.attrib and chance.random() < 0.3:
                    leaf.set(chance.choice(list(leaf.attrib)), value)
                else:
                    leaf.text = value


_LIKELY = 0.7


def damage_json(value: Any, chance: random.Random, blows: int) -> Any:
    """Drop, double, exchange and replace values anywhere in what JSON holds."""
    holder = [value]
    for _ in range(blows):
        places: list[tuple[Any, Any]] = [(holder, 0)]
        stack: list[Any] = [holder]
        while stack:
            node = stack.pop()
            for key in list(node) if isinstance(node, dict) else range(len(node)):
                places.append((node, key))
                if isinstance(node[key], (dict, list)):
                    stack.append(node[key])
        node, key = chance.choice(places)
        match chance.randrange(8):
            case 0 if node is not holder:
                del node[key]
            case 1 if isinstance(node, list) and node is not holder:
                node.insert(chance.randint(0, len(node)), copy.deepcopy(node[key]))
            case 2:
                other, place = chance.choice(places)
                node[key] = copy.deepcopy(other[place])
            case _ if chance.random() < _LIKELY:
                # A value that stands elsewhere under the same name: it is of the right type, as a rule.
                alike = [other[place] for other, place in places if place == key and other is not node]
                node[key] = copy.deepcopy(chance.choice(alike or VALUES))
            case _:
                node[key] = copy.deepcopy(chance.choice(VALUES))
    return holder[0]


# -- kinds of files -------------------------------------------------------------------------------------


def musicxml(seed: int, _: Path) -> str:
    """A damaged score."""
    chance = random.Random(seed)
    root = ElementTree.fromstring(SCORE)
    damage_xml(root, chance, chance.randint(1, 5))
    data = ElementTree.tostring(root, encoding="utf-8")
    if chance.random() < 0.1:
        place = chance.randrange(len(data))
        data = data[:place] + bytes([chance.randrange(256)]) + data[place + chance.randrange(3) :]
    try:
        score = open_score(data)
        return _used(score.solo(as_heard=chance.random() < 0.5).solo)
    except FormatError:
        return REFUSED


def midi(seed: int, _: Path) -> str:
    """A damaged MIDI file: other messages, times and headers, and sometimes other bytes."""
    chance = random.Random(seed)
    file = mido.MidiFile(file=io.BytesIO(MIDI))
    for _blow in range(chance.randint(1, 5)):
        track = chance.choice(file.tracks)
        place = chance.randrange(len(track))
        message = track[place]
        match chance.randrange(5):
            case 0:
                del track[place]
                if not track:
                    file.tracks.remove(track)
            case 1:
                track.insert(chance.randint(0, len(track)), message.copy())
            case 2:
                message.time = chance.choice([0, 1, 7, 10**5, 2**27])
            case 3 if hasattr(message, "note"):
                message.note = chance.randrange(128)
            case _:
                file.ticks_per_beat = chance.choice([1, 2, 3, 480, 32767])
        if not file.tracks:
            break
    out = io.BytesIO()
    file.save(file=out)
    data = bytearray(out.getvalue())
    for _blow in range(chance.randrange(3)):
        data[chance.randrange(len(data))] = chance.randrange(256)
    try:
        return _used(open_midi(bytes(data)).solo().solo)
    except FormatError:
        return REFUSED


def document(seed: int, _: Path) -> str:
    """A damaged document of a solo, or a damaged file of passages."""
    chance = random.Random(seed)
    is_passage = chance.random() < 0.4
    value = passage_members(SOLO, "a") if is_passage else json.loads(DOCUMENT)
    text = json.dumps(damage_json(value, chance, chance.randint(1, 4)))
    try:
        if is_passage:
            for passage in read_passages(text):
                _used(passage.solo)
            return READ
        return _used(SOLO_DOCUMENT.read(text.encode()))
    except FormatError:
        return REFUSED


TAKE = Recording("take.wav", "recordings/take.wav", True, "0" * 64, 44100, BeatMap((1.0, 1.5)))


def _filled(folder: Path) -> None:
    """A library with a solo, a lick and a recording."""
    (folder / "recordings").mkdir(parents=True)
    (folder / "recordings" / "take.wav").write_bytes(b"sound")
    with Library(folder) as library:
        solo_id = library.add_solo(SOLO)
        notes = [note.id for note in SOLO.notes]
        library.add_lick(keep_lick(SOLO, solo_id, label_solo(SOLO), notes[4], notes[9]))
        library.save_recording(solo_id, TAKE)


def archive(seed: int, folder: Path) -> str:
    """A damaged archive, brought into a library and exported from it again."""
    chance = random.Random(seed)
    whole = folder / "whole.zip"
    if not whole.exists():
        _filled(folder / "one")
        with Library(folder / "one") as library:
            list(write_archive(library, whole))
    with zipfile.ZipFile(whole) as source:
        members = {name: source.read(name) for name in source.namelist()}
    for _blow in range(chance.randint(0, 2)):
        name = chance.choice([name for name in members if name.endswith(".json")] or list(members))
        match chance.randrange(8):
            case 0:
                members[chance.choice([*TEXTS[:4], "../x", "recordings/../x"])] = members.pop(name)
            case 1:
                members.pop(name)
            case _:
                value = damage_json(json.loads(members[name]), chance, 1)
                members[name] = json.dumps(value).encode()
        if not members:
            break
    path = folder / "damaged.zip"
    with zipfile.ZipFile(path, "w") as out:
        for name, data in members.items():
            out.writestr(name or "x", data)
    data = bytearray(path.read_bytes())
    if chance.random() < 0.3:
        data[chance.randrange(len(data))] = chance.randrange(256)
        path.write_bytes(data)
    goal = folder / f"into{seed}"
    try:
        with Library(goal) as library:
            contents = read_archive(path)
            extract_sounds(contents, goal)
            add_contents(library, contents)
            for entry in library.solos():
                _used(library.solo(entry.id))
                recording = library.recording(entry.id)
                assert recording is None or file_of(goal, recording).parent == goal / "recordings"
            list(write_archive(library, folder / "again.zip"))
        return READ
    except (FormatError, LibraryError):
        return REFUSED


def database(seed: int, folder: Path) -> str:
    """A library with other values in its tables, opened, listed, read and exported."""
    chance = random.Random(seed)
    if not (folder / "whole" / DATABASE).exists():
        _filled(folder / "whole")
    goal = folder / f"base{seed}"
    goal.mkdir()
    (goal / DATABASE).write_bytes((folder / "whole" / DATABASE).read_bytes())
    with closing(sqlite3.connect(goal / DATABASE)) as connection:
        tables = {"solos": "id", "licks": "id", "recordings": "solo_id"}
        table = chance.choice(list(tables))
        columns = [row[1] for row in connection.execute(f"PRAGMA table_info({table})")]
        for column in chance.sample(columns, chance.randint(1, 2)):
            value: Any = chance.choice([*NUMBERS, "", "x", "\x00", 10**12, -1, 1.5, b"{", None])
            if column == "document":
                raw = json.loads(connection.execute(f"SELECT document FROM {table}").fetchone()[0])
                value = json.dumps(damage_json(raw, chance, chance.randint(1, 3))).encode()
            try:
                connection.execute(f"UPDATE {table} SET {column}=?", (value,))
            except (sqlite3.Error, OverflowError):
                continue
        connection.commit()
    bad = 0
    try:
        with Library(goal) as library:
            for entry in library.solos():
                try:
                    _used(library.solo(entry.id))
                    library.recording(entry.id)
                except FormatError:
                    bad += 1
            for lick in library.licks():
                try:
                    library.lick(lick.id)
                except FormatError:
                    bad += 1
            list(write_archive(library, folder / "out.zip"))
    except LibraryError:
        return REFUSED
    return REFUSED if bad else READ


KINDS: dict[str, Callable[[int, Path], str]] = {
    "MusicXML": musicxml,
    "MIDI": midi,
    "documents": document,
    "archives": archive,
    "databases": database,
}
