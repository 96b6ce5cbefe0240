"""How long sheets take, and what is in their files: .venv/bin/python benchmarks/sheets.py

A sheet of 20 pages is made of the demo's solos as each goes; its PDF is looked through for text, fonts, bookmarks and
colours that a grey printer tells from the paper, its web page for valid HTML and for anything that would be fetched.
"""

from __future__ import annotations

import io
import os
import re
import sys
import time
from collections.abc import Mapping, Sequence
from dataclasses import replace
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
sys.path.insert(0, str(Path(__file__).parents[1]))

import html5lib
from benchmarks.big_solo import long_solo
from pypdf import PdfReader

from gavotte.demo.more_solos import MORE_SOLOS
from gavotte.demo.solos import DEMO_SOLOS
from gavotte.desktop.app import make_application
from gavotte.desktop.paper.handing_on import MadeFile, SheetFormat, handed_on
from gavotte.desktop.paper.set_lines import LineSetter
from gavotte.desktop.theme.palette import PRINT
from gavotte.engraving.engraver import Engraver
from gavotte.formats.passage import read_passages
from gavotte.labelling.hand_out import bar_texts, heading_of
from gavotte.labelling.labeller import labelled
from gavotte.phrasing.structure import structure_of
from gavotte.sheets.composing import Composer
from gavotte.sheets.names import named_for
from gavotte.sheets.proposing import words_on_bars
from gavotte.sheets.sheet import TeachingSheet, Version, with_pieces
from gavotte.sheets.templates import solo_with_analysis
from gavotte.sheets.versions import for_version, interval_of
from gavotte.solo.document import Solo
from gavotte.steps import whole

_PAGES = 20


def main() -> None:
    """Measure and print."""
    app = make_application()
    solos = [*(make() for make in DEMO_SOLOS), *(make() for make in MORE_SOLOS)]
    sheet = _of_pages(solos)
    files = [_timed(sheet, form) for form in SheetFormat]
    _look_at_pdf(files[0][0].data)
    _look_at_page(files[1][0].data.decode())
    _look_at_grey()
    _look_at_names({"demo": solos, "passages": _passages()})
    for bars in (200, 2000):
        solo = long_solo(bars)
        start = time.perf_counter()
        long = solo_with_analysis(structure_of(labelled(solo)), "")
        print(f"analysis of {bars} bars put together: {time.perf_counter() - start:.1f} s")
        _timed(long, SheetFormat.PDF)
    del app


def _of_pages(solos: Sequence[Solo]) -> TeachingSheet:
    """A sheet of so many pages, in three versions, with a contents page."""
    sheet = TeachingSheet("Twenty pages", "for measuring", "Invented tunes and players.", contents=True)
    for solo in solos:
        part = solo_with_analysis(structure_of(labelled(solo)), "")
        sheet = with_pieces(sheet, part.pieces, part.sources)
        if _pages_of(sheet) >= _PAGES:
            break
    return sheet


def _pages_of(sheet: TeachingSheet) -> int:
    (pdf,) = _made(sheet, SheetFormat.PDF)
    return len(PdfReader(io.BytesIO(pdf.data)).pages)


def _made(sheet: TeachingSheet, form: SheetFormat) -> tuple[MadeFile, ...]:
    return whole(handed_on(sheet, "sheet", [form], Composer(), LineSetter(Engraver())))


def _timed(sheet: TeachingSheet, form: SheetFormat) -> tuple[MadeFile, ...]:
    start = time.perf_counter()
    files = _made(sheet, form)
    seconds = time.perf_counter() - start
    size = sum(len(file.data) for file in files)
    pages = f", {len(PdfReader(io.BytesIO(files[0].data)).pages)} pages" if form is SheetFormat.PDF else ""
    print(f"{form}: {seconds:.1f} s from nothing, {size / 1000:.0f} kB{pages}")
    if form is SheetFormat.PDF and len(sheet.pieces) > 6:
        every = replace(sheet, versions=tuple(Version))
        start = time.perf_counter()
        _made(every, form)
        print(f"{form} for all five readers: {time.perf_counter() - start:.1f} s")
    return files


def _look_at_pdf(data: bytes) -> None:
    reader = PdfReader(io.BytesIO(data))
    text = "\n".join(page.extract_text() for page in reader.pages)
    fonts, embedded = set(), set()
    for page in reader.pages:
        for face in page["/Resources"].get_object().get("/Font", {}).values():
            font = face.get_object()
            descriptor = font["/DescendantFonts"].get_object()[0].get_object()["/FontDescriptor"].get_object()
            fonts.add(font["/BaseFont"])
            embedded |= {font["/BaseFont"]} if any(key.startswith("/FontFile") for key in descriptor) else set()
    images = sum(len(page.images) for page in reader.pages)
    print(f"PDF: {len(text.split())} words to extract, {len(embedded)} of {len(fonts)} fonts embedded, {images} images")
    print(f"     {len([item for item in reader.outline if not isinstance(item, list)])} bookmarks, {reader.metadata}")


def _look_at_page(page: str) -> None:
    parser = html5lib.HTMLParser(strict=True)
    parser.parse(page)
    addresses = set(re.findall(r"[a-z]+://[^\"'\s<>)]+", page))
    fetched = re.findall(r"<(?:script|link|img|iframe|audio|video|object)\b|@import|url\((?!#)", page)
    print(f"HTML: {len(parser.errors)} errors; addresses {addresses}; {len(fetched)} things fetched")


def _passages() -> list[Solo]:
    file = Path(__file__).parents[1] / "tests" / "data" / "passages.json"
    return [passage.solo for passage in read_passages(file.read_text(encoding="utf-8"))]


def _look_at_names(sets: Mapping[str, Sequence[Solo]]) -> None:
    """In how many bars the proposed text, its names moved, says what would be said in the readers' key itself."""
    for name, solos in sets.items():
        for version in (Version.E_FLAT, Version.F):
            same = bars = 0
            for solo in solos:
                text = named_for(words_on_bars(labelled(solo), 0, 9999), interval_of(solo, version)).split("\n\n")
                there = bar_texts(labelled(for_version(solo, version)))
                told = [f"**{heading_of(one)}** {one.words}".strip() for one in there]
                bars += len(told)
                same += sum(a == b for a, b in zip(text, told, strict=True))
            print(f"names: {name}, {version}: {same} of {bars} bars")


def _look_at_grey() -> None:
    """How far each colour of a printed function stands from white paper in grey (WCAG contrast)."""
    for function, colour in PRINT.functions.items():
        channels = [int(colour[k : k + 2], 16) / 255 for k in (1, 3, 5)]
        linear = [c / 12.92 if c <= 0.04045 else ((c + 0.055) / 1.055) ** 2.4 for c in channels]
        luminance = sum(share * c for share, c in zip((0.2126, 0.7152, 0.0722), linear, strict=True))
        print(f"grey: {function}: {1.05 / (luminance + 0.05):.1f} to 1")


if __name__ == "__main__":
    main()
