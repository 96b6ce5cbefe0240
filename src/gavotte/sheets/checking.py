"""What a sheet can be at all. A sheet from outside (a library, an archive) is held to it."""

from __future__ import annotations

from xml.etree import ElementTree

from gavotte.formats.document import DocumentKind
from gavotte.sheets.pieces import FEWEST_BARS, MOST_BARS, Keys, Licks, NewPage, Picture, Piece, Scales, Words
from gavotte.sheets.sheet import LARGEST_STAFF, PAPERS, SMALLEST_STAFF, TeachingSheet, source_of
from gavotte.solo.bounds import MAX_WORDS, within_bounds

MOST_PIECES = 1_000
MOST_WORDS = 10 * MAX_WORDS
MOST_SVG = 4_000_000
"""Characters of a drawing."""
_DRAWN = frozenset(
    ("svg", "title", "desc", "defs", "g", "path", "rect", "line", "polyline", "polygon", "circle", "ellipse", "text",
     "tspan", "clipPath", "linearGradient", "radialGradient", "stop", "pattern", "mask")
)  # fmt: skip
_SVG = "{http://www.w3.org/2000/svg}"


def checked(sheet: TeachingSheet) -> TeachingSheet:
    """The same sheet, once it is certain that everything in it is possible. Raises ValueError."""
    if sheet.paper not in PAPERS:
        raise ValueError(f"there is no paper {sheet.paper[:20]}")
    if not SMALLEST_STAFF <= sheet.staff <= LARGEST_STAFF:
        raise ValueError(f"a staff is {SMALLEST_STAFF:g} to {LARGEST_STAFF:g} mm high, not {sheet.staff:g}")
    if len(sheet.pieces) > MOST_PIECES:
        raise ValueError(f"there are {len(sheet.pieces)} pieces")
    if not sheet.versions or len(set(sheet.versions)) < len(sheet.versions):
        raise ValueError("its versions are none, or one of them twice")
    for text in (sheet.title, sheet.subtitle, sheet.rights, sheet.header):
        _check_words(text)
    sources = [source.id for source in sheet.sources]
    pieces = [piece.id for piece in sheet.pieces]
    for ids in (sources, pieces):
        if len(set(ids)) < len(ids):
            raise ValueError("two of its parts have the same id")
    for source in sheet.sources:
        within_bounds(source.solo)
    for piece in sheet.pieces:
        _check_piece(piece, frozenset(sources))
    return sheet


def _check_piece(piece: Piece, sources: frozenset[str]) -> None:
    _check_words(piece.heading)
    source = source_of(piece)
    if source and source not in sources:
        raise ValueError("a piece is taken from a solo that is not there")
    for name in ("words", "answer"):
        _check_words(getattr(piece, name, ""))
    if not isinstance(piece, Words | NewPage | Picture | Scales) and not FEWEST_BARS <= piece.shown.bars <= MOST_BARS:
        raise ValueError(f"a line holds {FEWEST_BARS} to {MOST_BARS} bars, not {piece.shown.bars}")
    if isinstance(piece, Keys):
        within_bounds(piece.lick.solo)
        if not 1 <= piece.count <= 12:
            raise ValueError(f"there are 12 keys, not {piece.count}")
    if isinstance(piece, Licks):
        for lick in piece.licks:
            within_bounds(lick.solo)
    if isinstance(piece, Picture):
        safe_drawing(piece.svg)


def _check_words(text: str) -> None:
    if len(text) > MOST_WORDS:
        raise ValueError(f"a text has {len(text)} characters")


def safe_drawing(svg: str) -> str:
    """The same drawing, once it is certain that it only draws: no script, nothing fetched. Raises ValueError."""
    if len(svg) > MOST_SVG:
        raise ValueError("a drawing is larger than any of ours")
    if "<!DOCTYPE" in svg.upper() or "<!ENTITY" in svg.upper():
        raise ValueError("a drawing declares more than it draws")
    try:
        root = ElementTree.fromstring(svg)
    except ElementTree.ParseError as error:
        raise ValueError(f"a drawing can't be read: {error}") from error
    for element in root.iter():
        name = element.tag.removeprefix(_SVG)
        if name not in _DRAWN:
            raise ValueError(f"a drawing holds {name[:40]}")
        for attribute, value in element.attrib.items():
            plain = attribute.rpartition("}")[2].lower()
            fetches = "url(" in value.replace("url(#", "") or "javascript:" in value.lower()
            if plain.startswith("on") or plain in ("href", "src") or fetches:
                raise ValueError(f"a drawing refers to something else ({plain[:40]})")
    return svg


SHEET_DOCUMENT = DocumentKind("gavotte-sheet", 1, "sheet", TeachingSheet, {}, checked)
"""What a library keeps a sheet in."""
