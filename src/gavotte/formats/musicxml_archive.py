"""Getting at the XML of a MusicXML file: plain or zipped (.mxl), with limits against files made to harm."""

from __future__ import annotations

import io
import re
import xml.etree.ElementTree as ET
import zipfile

from gavotte.formats.errors import FormatError
from gavotte.formats.zip_damage import damage_told
from gavotte.giving_way import give_way

MAX_XML_BYTES = 32 * 1024 * 1024
"""A score larger than this (unpacked) is refused; a 1,000-bar solo takes about 1 MB."""

_PIECE = 16 * 1024
"""Bytes of XML that are read in about a millisecond."""

_NOT_OPENED = "The packed file can't be opened ({error}). Export it again."

_ENTITY = re.compile(b"|".join(re.escape("<!ENTITY".encode(code)) for code in ("utf-8", "utf-16-le", "utf-16-be")))


def score_root(data: bytes) -> ET.Element:
    """The root element of a MusicXML file's score, tags without namespaces. Raises FormatError."""
    if data[:2] == b"PK":
        data = _unpacked(data)
    if not data.strip():
        raise FormatError("The file is empty.")
    if len(data) > MAX_XML_BYTES:
        raise FormatError("The file is larger than any solo; it was not read.")
    if _ENTITY.search(data):
        raise FormatError("The file defines XML entities, which no score needs; it was not read.")
    try:
        root = _parsed(data)
    except (ET.ParseError, LookupError, ValueError) as error:
        raise FormatError(_why_unreadable(data, error)) from error
    for element in root.iter():
        if isinstance(element.tag, str) and "}" in element.tag:
            element.tag = element.tag.rsplit("}", 1)[1]
    if root.tag not in ("score-partwise", "score-timewise"):
        raise FormatError(f"This XML holds <{root.tag}>, not a score. Export the solo as MusicXML.")
    return root


def _parsed(data: bytes) -> ET.Element:
    """The root element, read piece by piece: a long score in one go would keep everybody waiting.

    Raises ParseError, LookupError or ValueError.
    """
    parser = ET.XMLParser()
    for start in range(0, len(data), _PIECE):
        give_way()
        parser.feed(data[start : start + _PIECE])
    return parser.close()


def _why_unreadable(data: bytes, error: Exception) -> str:
    if b"encoding" not in data[:200] or re.search(rb"encoding=.utf-8", data[:200], re.IGNORECASE):
        try:
            data.decode("utf-8")
        except UnicodeDecodeError as place:
            if place.end < len(data):
                return (
                    f"The file says it is written in UTF-8, but byte {place.start + 1} is not. "
                    "Save it as UTF-8, or export it again as MusicXML."
                )
    return f"The file is no readable XML ({error}). It may be cut off; export it again as MusicXML."


def _unpacked(data: bytes) -> bytes:
    try:
        with damage_told(_NOT_OPENED), zipfile.ZipFile(io.BytesIO(data)) as archive:
            name = _score_name(archive)
            if archive.getinfo(name).file_size > MAX_XML_BYTES:
                raise FormatError("The packed score is larger than any solo; it was not unpacked.")
            with archive.open(name) as member:
                return member.read(MAX_XML_BYTES + 1)
    except KeyError as error:
        raise FormatError(_NOT_OPENED.format(error=error)) from error


def _score_name(archive: zipfile.ZipFile) -> str:
    names = archive.namelist()
    container = "META-INF/container.xml"
    if container in names and archive.getinfo(container).file_size < 65536:
        try:
            for element in ET.fromstring(archive.read(container)).iter():
                path = element.get("full-path")
                if isinstance(element.tag, str) and element.tag.endswith("rootfile") and path in names:
                    return str(path)
        except ET.ParseError:
            pass
    for name in names:
        if name.endswith((".musicxml", ".xml")) and not name.startswith("META-INF"):
            return name
    raise FormatError("The packed file holds no score.")
