"""The whole library as one archive of open formats, and back.

A zip file with ``library.json`` (what is in it), each solo as a versioned JSON document and as MusicXML with its
degrees as lyrics, each lick likewise, teaching sheets, and the user's schools and what is remembered of corrections.
Reading takes the JSON documents; the scores are there for other programs. Recordings that were copied into the library
come along.
"""

from __future__ import annotations

import json
import logging
import re
import shutil
import zipfile
from collections.abc import Callable, Iterator
from contextlib import suppress
from dataclasses import dataclass, field, replace
from datetime import UTC, datetime
from functools import partial
from pathlib import Path, PurePosixPath
from typing import Any

from gavotte.formats.document import SOLO_DOCUMENT, DocumentKind
from gavotte.formats.errors import FormatError
from gavotte.formats.musicxml_write import write_musicxml
from gavotte.formats.whole_file import whole_file
from gavotte.formats.zip_damage import damage_told
from gavotte.giving_way import give_way
from gavotte.labelling.labeller import label_solo
from gavotte.library.bench import RECIPES_DOCUMENT, OwnRecipes, keep_recipes, own_recipes
from gavotte.library.corrections import CORRECTIONS_DOCUMENT, Corrections, corrections_of
from gavotte.library.practising import KINDS, KeptTake
from gavotte.library.reader import LibraryReader
from gavotte.library.recordings import FOLDER, RECORDING_DOCUMENT, file_of, own_name
from gavotte.library.schools import SCHOOLS_DOCUMENT, OwnSchools, keep_schools, own_schools, school_named
from gavotte.library.store import Library
from gavotte.recording.recording import Recording
from gavotte.regular_file import is_regular
from gavotte.sheets.checking import SHEET_DOCUMENT
from gavotte.sheets.sheet import TeachingSheet
from gavotte.solo.document import Solo
from gavotte.solo.school import School
from gavotte.vocabulary.lick import LICK_DOCUMENT, Lick, joined, music_of
from gavotte.workshop.operation import Recipe

SUFFIX = ".gavotte.zip"
_FORMAT, _VERSION = "gavotte-library", 1
_MAX_DOCUMENT = 64 * 1024 * 1024
_MAX_MEMBERS = 200_000
_MAX_DOCUMENTS = 512 * 1024 * 1024
_MAX_SOUND = 3 * 1024 * 1024 * 1024
_MAX_SWOLLEN = 30
"""How many times as large a file becomes by unpacking, at most; documents and silence pack well."""
_MOST_TO_LOOK_AT = 1_000_000
_ROOM_LEFT = 200 * 1024 * 1024
_SOUND_BLOCK = 1 << 20
_NOT_AS_LISTED = "The archive does not hold what its listing says ({error})."
_ID = re.compile(r"[0-9a-f]{32}")
LOG = logging.getLogger("gavotte")
_KEPT: tuple[DocumentKind[Any], ...] = (SCHOOLS_DOCUMENT, CORRECTIONS_DOCUMENT, RECIPES_DOCUMENT)


@dataclass(frozen=True, slots=True)
class Contents:
    """What an archive holds: solos by the id they had, and licks."""

    solos: tuple[tuple[str, Solo, int | None], ...]
    """(id it had, the solo, how much of it wants a look or None)."""
    licks: tuple[Lick, ...]
    recordings: tuple[tuple[str, Recording, str], ...] = ()
    """(id of the solo, what is known of its recording, the file's name in the archive or "")."""
    schools: tuple[School, ...] = ()
    corrections: Corrections = field(default_factory=Corrections)
    archive: Path | None = None
    recipes: tuple[Recipe, ...] = ()
    practice: tuple[tuple[str, str, str, bytes], ...] = ()
    """(table, id, id of what it belongs to, document) of items, the log and takes; the sound of takes stays behind."""
    sheets: tuple[TeachingSheet, ...] = ()


def write_archive(library: LibraryReader, path: Path, left_out: list[str] | None = None) -> Iterator[float]:
    """Write the library to ``path``, whole or not at all, yielding the share that is done.

    A solo or lick that can't be read stays out; its name is put into ``left_out``. Raises LibraryError or OSError.
    """
    with whole_file(path) as draft, zipfile.ZipFile(draft, "w", zipfile.ZIP_DEFLATED) as archive:
        yield from _write_members(library, archive, [] if left_out is None else left_out)


def _write_members(library: LibraryReader, archive: zipfile.ZipFile, left_out: list[str]) -> Iterator[float]:
    solos, licks = library.solos(), library.licks()
    total = max(1, len(solos) + len(licks))
    listing: dict[str, object] = {
        "format": _FORMAT,
        "version": _VERSION,
        "written": datetime.now(UTC).isoformat(timespec="seconds"),
        "solos": (listed_solos := []),
        "licks": (listed_licks := []),
    }
    for number, entry in enumerate(reversed(solos), 1):
        name = f"solos/{number:04} {_plain(entry.title)}"
        if not _put(archive, name, entry.title, partial(_solo_files, library, entry.id), left_out):
            continue
        item: dict[str, object] = {"id": entry.id, "file": f"{name}.json", "to_look_at": entry.to_look_at}
        listed_solos.append(item)
        recording = _recording_of(library, entry.id)
        if recording is not None:
            yield from _write_recording(library.folder, archive, name, recording, item, number / total)
        yield number / total
    for number, lick_entry in enumerate(reversed(licks), 1):
        name = f"licks/{number:04} {_plain(lick_entry.name)}"
        if not _put(archive, name, lick_entry.name, partial(_lick_files, library, lick_entry.id), left_out):
            continue
        listed_licks.append({"file": f"{name}.json"})
        yield (len(solos) + number) / total
    _write_sheets(library, archive, listing, left_out)
    for kind in _KEPT:
        kept = library.kept(kind)
        if kept is not None:
            listing[kind.member] = f"{kind.member}.json"
            archive.writestr(f"{kind.member}.json", kind.write(kept))
    practice = [
        {"table": table, "id": row, "owner": owner, "document": json.loads(document)}
        for table in KINDS
        for row, owner, document in library.owned_documents(table)
    ]
    if practice:
        listing["practice"] = "practice.json"
        archive.writestr("practice.json", json.dumps(practice, ensure_ascii=False))
    archive.writestr("library.json", json.dumps(listing, indent=1, ensure_ascii=False))


def _write_sheets(
    library: LibraryReader, archive: zipfile.ZipFile, listing: dict[str, object], left_out: list[str]
) -> None:
    listed: list[dict[str, str]] = []
    for number, entry in enumerate(reversed(library.sheets()), 1):
        name = f"sheets/{number:04} {_plain(entry.title)}.json"
        try:
            archive.writestr(name, SHEET_DOCUMENT.write(library.sheet(entry.id)))
            listed.append({"file": name})
        except FormatError as error:
            LOG.warning("A sheet can't be exported: %s", error)
            left_out.append(entry.title)
    if listed:
        listing["sheets"] = listed


def _put(
    archive: zipfile.ZipFile, name: str, title: str, made: Callable[[], tuple[bytes, bytes]], left_out: list[str]
) -> bool:
    """Put a document and a score into an archive; what can't be read or written stays out, by its title."""
    try:
        document, score = made()
    except (FormatError, ValueError, ArithmeticError) as error:
        LOG.warning("Something can't be exported: %s", error)
        left_out.append(title)
        return False
    archive.writestr(f"{name}.json", document)
    archive.writestr(f"{name}.musicxml", score)
    return True


def _solo_files(library: LibraryReader, solo_id: str) -> tuple[bytes, bytes]:
    solo = library.solo(solo_id)
    degrees = {label.note: label.shown_degree for label in label_solo(solo)}
    return SOLO_DOCUMENT.write(solo), write_musicxml(solo, degrees)


def _lick_files(library: LibraryReader, lick_id: str) -> tuple[bytes, bytes]:
    lick = library.lick(lick_id)
    degrees = {label.note: label.shown_degree for label in lick.labels}
    return LICK_DOCUMENT.write(lick), write_musicxml(replace(lick.solo, title=lick.name), degrees)


def _recording_of(library: LibraryReader, solo_id: str) -> Recording | None:
    try:
        return library.recording(solo_id)
    except FormatError as error:
        LOG.warning("What is known of a recording can't be exported: %s", error)
        return None


def _write_recording(
    folder: Path,
    archive: zipfile.ZipFile,
    name: str,
    recording: Recording,
    item: dict[str, object],
    share: float,
) -> Iterator[float]:
    """What is known of a recording, and its file if it was copied into the library; what lies elsewhere stays there."""
    item["recording"] = f"{name} recording.json"
    archive.writestr(str(item["recording"]), RECORDING_DOCUMENT.write(recording))
    file = file_of(folder, recording)
    if not recording.copied or not is_regular(file):
        return
    item["sound"] = f"recordings/{file.name}"
    if item["sound"] in archive.namelist():
        return
    # Sound does not get smaller by packing.
    info = zipfile.ZipInfo(str(item["sound"]))
    with file.open("rb") as source, archive.open(info, "w", force_zip64=True) as out:
        while block := source.read(_SOUND_BLOCK):
            out.write(block)
            yield share


def _plain(text: str) -> str:
    """A text as part of a file name on any system."""
    kept = "".join(c if c.isalnum() or c in " -_" else "-" for c in text).strip(" -")
    return kept[:60] or "untitled"


def read_archive(path: Path) -> Contents:
    """Everything in an archive. Raises FormatError that says what is wrong with it, or OSError."""
    try:
        with damage_told("The archive is damaged: {error}."), zipfile.ZipFile(path) as archive:
            _check_size(archive)
            listing = json.loads(_member(archive, "library.json"))
            if not isinstance(listing, dict) or listing.get("format") != _FORMAT:
                raise FormatError("This zip file is no Gavotte library.")
            if listing.get("version", 0) > _VERSION:
                raise FormatError("This library was exported by a newer Gavotte; update Gavotte to read it.")
            solos = tuple(
                (str(item["id"]), SOLO_DOCUMENT.read(_member(archive, item["file"])), _count(item.get("to_look_at")))
                for item in listing["solos"]
            )
            recordings = tuple(
                (str(item["id"]), RECORDING_DOCUMENT.read(_member(archive, item["recording"])), _sound_of(item))
                for item in listing["solos"]
                if "recording" in item
            )
            licks = tuple(LICK_DOCUMENT.read(_member(archive, item["file"])) for item in listing["licks"])
            schools, corrections, recipes = (
                kind.read(_member(archive, listing[kind.member])) if kind.member in listing else None for kind in _KEPT
            )
            sheets = tuple(SHEET_DOCUMENT.read(_member(archive, item["file"])) for item in listing.get("sheets", ()))
            practice = _practice(_member(archive, listing["practice"])) if "practice" in listing else ()
    except (KeyError, TypeError, ValueError, AttributeError, RecursionError) as error:
        if isinstance(error, FormatError):
            raise
        raise FormatError(_NOT_AS_LISTED.format(error=error)) from error
    assert schools is None or isinstance(schools, OwnSchools)
    assert corrections is None or isinstance(corrections, Corrections)
    assert recipes is None or isinstance(recipes, OwnRecipes)
    return Contents(
        solos,
        licks,
        recordings,
        () if schools is None else schools.schools,
        corrections or Corrections(),
        path,
        () if recipes is None else recipes.recipes,
        practice,
        sheets,
    )


def _practice(data: bytes) -> tuple[tuple[str, str, str, bytes], ...]:
    """Items, log and takes, each held to what it can be. Raises FormatError, KeyError, TypeError or ValueError."""
    rows = []
    for item in json.loads(data):
        table, row, owner = str(item["table"]), str(item["id"]), str(item["owner"])
        if not _ID.fullmatch(row) or not _ID.fullmatch(owner or row):
            raise ValueError(f"{row[:40]} is no name of anything practised")
        value = KINDS[table].read(json.dumps(item["document"]).encode())
        if isinstance(value, KeptTake):
            value = replace(value, sound="")
        rows.append((table, row, owner, KINDS[table].write(value)))
    return tuple(rows)


def _check_size(archive: zipfile.ZipFile) -> None:
    """Refuse an archive that would unpack to what no library holds. Raises FormatError."""
    members = archive.infolist()
    if len(members) > _MAX_MEMBERS:
        raise FormatError("The archive holds more files than any library.")
    documents = sum(member.file_size for member in members if not member.filename.startswith(f"{FOLDER}/"))
    if documents > _MAX_DOCUMENTS:
        raise FormatError("The documents in the archive are larger than those of any library.")
    for member in members:
        swollen = member.file_size > _MAX_SWOLLEN * max(1, member.compress_size)
        if member.file_size > _MAX_SOUND or (swollen and member.file_size > _MAX_DOCUMENT):
            raise FormatError(f"{member.filename[:80]} in the archive would unpack to more than any recording.")


def _count(value: object) -> int | None:
    return value if isinstance(value, int) and 0 <= value <= _MOST_TO_LOOK_AT else None


def _member(archive: zipfile.ZipFile, name: str) -> bytes:
    give_way()
    if not isinstance(name, str):
        raise FormatError("The archive's listing names a file by something that is no name.")
    if archive.getinfo(name).file_size > _MAX_DOCUMENT:
        raise FormatError(f"{name} in the archive is larger than any solo.")
    with archive.open(name) as member:
        return member.read(_MAX_DOCUMENT + 1)


def _sound_of(item: dict[str, object]) -> str:
    """The member that holds a recording's file, "" where there is none. Raises ValueError for one that leads away."""
    sound = item.get("sound", "")
    if not sound:
        return ""
    name = PurePosixPath(sound).name if isinstance(sound, str) else ""
    if name in ("", ".", "..") or sound != f"{FOLDER}/{name}" or "\\" in name or "\0" in name:
        raise ValueError(f"{str(sound)[:80]} is no file of a recording")
    return sound


def extract_sounds(contents: Contents, library_folder: Path) -> list[Path]:
    """Copy the recordings' files out of the archive into a library's folder; gives those that are new there.

    Where it fails, or is stopped, none is left behind. Raises FormatError or OSError.
    """
    sounds = {sound for _, _, sound in contents.recordings if sound}
    if not sounds or contents.archive is None:
        return []
    folder = library_folder / FOLDER
    folder.mkdir(exist_ok=True)
    new: list[Path] = []
    try:
        with damage_told(_NOT_AS_LISTED), zipfile.ZipFile(contents.archive) as archive:
            wanted = {sound: folder / PurePosixPath(sound).name for sound in sorted(sounds)}
            missing = {sound: goal for sound, goal in wanted.items() if not goal.exists()}
            _check_room(sum(archive.getinfo(sound).file_size for sound in missing), folder)
            for sound, goal in missing.items():
                with whole_file(goal) as draft, archive.open(sound) as source, draft.open("wb") as out:
                    while block := source.read(_SOUND_BLOCK):
                        give_way()
                        out.write(block)
                new.append(goal)
    except BaseException as error:
        for goal in new:
            goal.unlink(missing_ok=True)
        if isinstance(error, KeyError):
            raise FormatError(_NOT_AS_LISTED.format(error=error)) from error
        raise
    return new


def _check_room(needed: int, folder: Path) -> None:
    """Refuse what would fill the disk. Raises FormatError."""
    free = shutil.disk_usage(folder).free
    if needed > free - _ROOM_LEFT:
        raise FormatError(
            f"Its recordings take {needed // 2**20} MB; the disk with {folder} has {free // 2**20} MB free. "
            "Nothing was added; make room and try again."
        )


def add_contents(library: Library, contents: Contents) -> None:
    """Put everything from an archive into the library, in one transaction, beside what is there and without doubles.

    A solo that is there just so is not put there twice; nor is a lick, but what is said of it in both is joined. Licks
    point to the solos that came with them; the recordings' files are extracted before. A school or recipe whose name is
    taken stays out. Raises LibraryError; then nothing was added.
    """
    with library.as_one_step():
        there = _same_solos(library, contents)
        ids = {old: there.get(old) or library.add_solo(solo, to_look_at) for old, solo, to_look_at in contents.solos}
        for old, recording, sound in contents.recordings:
            if old in there and library.recording(ids[old]) is not None:
                continue
            # Files that lay elsewhere lay on another computer: a path from outside leads to nothing here.
            path = f"{FOLDER}/{PurePosixPath(sound).name if sound else own_name(recording)}"
            here = replace(recording, path=path, copied=True)
            library.save_recording(ids[old], here)
        for table in KINDS:
            there_already = library.document_ids(table)
            for of, row, owner, document in contents.practice:
                if of == table and row not in there_already:
                    library.add_document(table, row, owner, document)
        known = _known_licks(library)
        for lick in contents.licks:
            source = replace(lick.source, solo_id=ids.get(lick.source.solo_id, lick.source.solo_id))
            came = replace(lick, source=source)
            same = known.get(music_of(came))
            if same is None:
                known[music_of(came)] = library.add_lick(came)
            else:
                library.save_lick(same, joined(library.lick(same), came))
        known_sheets = _known_sheets(library) if contents.sheets else []
        for sheet in contents.sheets:
            if sheet not in known_sheets:
                library.add_sheet(sheet)
        if contents.schools:
            own = own_schools(library)
            fresh = [school for school in contents.schools if school_named(school.name, own) is None]
            keep_schools(library, [*own, *fresh])
        if contents.recipes:
            own_ones = own_recipes(library)
            names = {recipe.name.casefold() for recipe in own_ones}
            came_in = [recipe for recipe in contents.recipes if recipe.name.casefold() not in names]
            keep_recipes(library, [*own_ones, *came_in])
        if contents.corrections.evidence:
            library.keep(CORRECTIONS_DOCUMENT, corrections_of(library).joined(contents.corrections, ids))


def _same_solos(library: Library, contents: Contents) -> dict[str, str]:
    """The solos of an archive that are in the library just so: the id each had, and that of the one that is there."""
    named: dict[tuple[str, str], list[str]] = {}
    for entry in library.solos():
        named.setdefault((entry.title, entry.player), []).append(entry.id)
    same = {}
    for old, solo, _ in contents.solos:
        for solo_id in named.get((solo.title, solo.player), ()):
            with suppress(FormatError):
                if library.solo(solo_id) == solo:
                    same[old] = solo_id
    return same


def _known_licks(library: Library) -> dict[tuple[object, ...], str]:
    known = {}
    for entry in library.licks():
        with suppress(FormatError):
            known[music_of(library.lick(entry.id))] = entry.id
    return known


def _known_sheets(library: Library) -> list[TeachingSheet]:
    known = []
    for entry in library.sheets():
        with suppress(FormatError):
            known.append(library.sheet(entry.id))
    return known
