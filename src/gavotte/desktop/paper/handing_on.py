"""Handing a sheet on: the files of every version in every format that is wanted, made one after another.

Files are named after the sheet; where there are several versions each has its name behind it: "Title (B♭).pdf".
"""

from __future__ import annotations

from collections.abc import Callable, Generator, Sequence
from dataclasses import dataclass
from enum import StrEnum

from gavotte.desktop.paper.drawn_lines import drawn_for_web, drawn_whole, outlined
from gavotte.desktop.paper.flow import FlowPages, setup_of
from gavotte.desktop.paper.pdf import flow_as_pdf
from gavotte.desktop.paper.set_lines import LineSetter
from gavotte.desktop.paper.worked_beside import worked_beside
from gavotte.formats.midi_write import write_midi
from gavotte.formats.musicxml_write import write_musicxml
from gavotte.formats.whole_file import plain_name
from gavotte.sheets.composing import Composer
from gavotte.sheets.elements import Composed
from gavotte.sheets.markdown import markdown_of
from gavotte.sheets.music_beside import as_read, music_of
from gavotte.sheets.sheet import TeachingSheet, Version
from gavotte.sheets.web_page import web_page
from gavotte.steps import scaled, whole


class SheetFormat(StrEnum):
    """What a sheet can be handed on as."""

    PDF = "pdf"
    WEB = "html"
    MARKDOWN = "md"
    MUSICXML = "musicxml"
    MIDI = "mid"


SHORT = {
    Version.CONCERT: "C",
    Version.B_FLAT: "B♭",
    Version.E_FLAT: "E♭",
    Version.F: "F",
    Version.BASS_CLEF: "bass clef",
}
"""What a version is called in the name of a file."""


@dataclass(frozen=True, slots=True)
class MadeFile:
    """A file by its name, and what is in it."""

    name: str
    data: bytes


def base_name(sheet: TeachingSheet) -> str:
    """A file name from the title."""
    return plain_name(sheet.title) or "Sheet"


def handed_on(
    sheet: TeachingSheet, base: str, formats: Sequence[SheetFormat], composer: Composer, setter: LineSetter
) -> Generator[float, None, tuple[MadeFile, ...]]:
    """Every file of a sheet, named after ``base``, yielding the share that is done.

    What is worked out goes on in a thread of its own; what is painted is painted in small steps. Raises EngravingError.
    """
    painted = [form for form in formats if form in _MAKERS]
    files: list[MadeFile] = []
    versions = sheet.versions if painted else ()
    wants_music = SheetFormat.MUSICXML in formats or SheetFormat.MIDI in formats
    jobs = len(versions) * len(painted) + wants_music
    done = 0
    for version in versions:
        name = _name_for(sheet, base, version)
        composed = yield from worked_beside(lambda v=version: whole(composer.composed(sheet, v)), done / jobs)  # type: ignore[misc]
        for form in painted:
            steps = _MAKERS[form](composed, sheet, name, setter)
            files += yield from scaled(steps, done / jobs, (done + 1) / jobs)
            done += 1
    if wants_music:
        files += yield from worked_beside(lambda: _music_files(sheet, base, formats, composer), done / jobs)
    yield 1.0
    return tuple(files)


def _name_for(sheet: TeachingSheet, base: str, version: Version) -> str:
    """What the files of a version are called."""
    return f"{base} ({SHORT[version]})" if len(sheet.versions) > 1 else base


def _pdf(
    composed: Composed, sheet: TeachingSheet, name: str, setter: LineSetter
) -> Generator[float, None, list[MadeFile]]:
    pages = FlowPages(composed, setup_of(sheet), setter)
    for share in pages.steps():
        yield 0.8 * share
    make = yield from scaled(flow_as_pdf(pages), 0.8, 0.95)
    data = yield from worked_beside(make, 0.95)
    return [MadeFile(f"{name}.pdf", data)]


def _web(
    composed: Composed, sheet: TeachingSheet, name: str, setter: LineSetter
) -> Generator[float, None, list[MadeFile]]:
    drawings = yield from scaled(drawn_for_web(composed, setter), 0.0, 0.8)

    def put_together() -> bytes:
        ready = {
            number: {width: tuple(outlined(svg) for svg in lines) for width, lines in widths.items()}
            for number, widths in drawings.items()
        }
        return web_page(composed, ready).encode()

    page = yield from worked_beside(put_together, 0.8)
    return [MadeFile(f"{name}.html", page)]


def _markdown(
    composed: Composed, sheet: TeachingSheet, name: str, setter: LineSetter
) -> Generator[float, None, list[MadeFile]]:
    drawings = yield from scaled(drawn_whole(composed, setter), 0.0, 0.8)
    names = {number: f"{name}-{k}.svg" for k, number in enumerate(drawings, 1)}

    def put_together() -> list[MadeFile]:
        text = markdown_of(composed, {number: (file,) for number, file in names.items()})
        pictures = [MadeFile(names[number], outlined(svg).encode()) for number, svg in drawings.items()]
        return [MadeFile(f"{name}.md", text.encode()), *pictures]

    return (yield from worked_beside(put_together, 0.8))


_Maker = Callable[[Composed, TeachingSheet, str, LineSetter], Generator[float, None, list[MadeFile]]]
_MAKERS: dict[SheetFormat, _Maker] = {
    SheetFormat.PDF: _pdf,
    SheetFormat.WEB: _web,
    SheetFormat.MARKDOWN: _markdown,
}


def _music_files(sheet: TeachingSheet, base: str, formats: Sequence[SheetFormat], composer: Composer) -> list[MadeFile]:
    """The music as scores, one for each version, and as sound, once."""
    found = music_of(whole(composer.composed(sheet, None)))
    if found is None:
        return []
    solo, labels = found
    degrees = {note: label.shown_degree for note, label in labels.items()}
    files = []
    if SheetFormat.MUSICXML in formats:
        for version in sheet.versions:
            name = _name_for(sheet, base, version)
            files.append(MadeFile(f"{name}.musicxml", write_musicxml(as_read(solo, version), degrees)))
    if SheetFormat.MIDI in formats:
        files.append(MadeFile(f"{base}.mid", write_midi(solo)))
    return files
