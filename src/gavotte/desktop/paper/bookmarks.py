"""What Qt's PDFs lack: bookmarks, links in the contents, and what is said about the document. Written with pypdf."""

from __future__ import annotations

import io
from collections.abc import Sequence
from dataclasses import dataclass

from pypdf import PdfReader, PdfWriter
from pypdf.annotations import Link
from pypdf.generic import Fit, IndirectObject

Box = tuple[float, float, float, float]
"""Left, lower, right and upper edge in points, from the page's lower left corner."""


@dataclass(frozen=True, slots=True)
class About:
    """What is said about a document."""

    title: str
    subject: str = ""
    rights: str = ""


@dataclass(frozen=True, slots=True)
class Mark:
    """A bookmark: its words, its level (1 the highest), its page (from 0), and how far down it leads, in points."""

    words: str
    level: int
    page: int
    down: float


def with_bookmarks(
    pdf: bytes, about: About, marks: Sequence[Mark], links: Sequence[tuple[int, Box, int]] = ()
) -> bytes:
    """The PDF with bookmarks, and links from a box on one page to another page."""
    writer = PdfWriter(clone_from=PdfReader(io.BytesIO(pdf)))
    subject = ". ".join(part for part in (about.subject, about.rights) if part)
    said = {"/Title": about.title, "/Creator": "Gavotte", "/Subject": subject}
    writer.add_metadata({name: words for name, words in said.items() if words})
    _mend_spaces(writer)
    parents: dict[int, IndirectObject] = {}
    for mark in marks:
        if mark.page >= len(writer.pages):
            continue
        high = float(writer.pages[mark.page].mediabox.height)
        parent = parents.get(mark.level - 1)
        made = writer.add_outline_item(
            title=mark.words, page_number=mark.page, parent=parent, fit=Fit.xyz(left=0, top=high - mark.down)
        )
        parents = {level: known for level, known in parents.items() if level < mark.level}
        parents[mark.level] = made
    for page, box, goal in links:
        if page < len(writer.pages) and goal < len(writer.pages):
            writer.add_annotation(page, Link(rect=box, target_page_index=goal, border=[0, 0, 0]))
    out = io.BytesIO()
    writer.write(out)
    return out.getvalue()


_TAB, _SPACE = b"<0009>", b"<0020>"


def _mend_spaces(writer: PdfWriter) -> None:
    """Have spaces read as such: Qt says of the sign they are drawn with that it stands for a tab."""
    for page in writer.pages:
        resources = page.get("/Resources")
        fonts = None if resources is None else resources.get_object().get("/Font")
        for face in () if fonts is None else fonts.get_object().values():
            signs = face.get_object().get("/ToUnicode")
            if signs is None:
                continue
            stream = signs.get_object()
            data = stream.get_data()
            if _TAB in data:
                stream.set_data(data.replace(_TAB, _SPACE))
