"""The library's own solo document: versioned JSON, validated on reading.

Times are exact fractions as strings ("3/2"); everything else follows the dataclasses of ``solo.document``.
"""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from typing import Any

import msgspec

from gavotte.formats.errors import FormatError
from gavotte.solo.document import Solo

FORMAT = "gavotte-solo"
VERSION = 1

_MIGRATIONS: dict[int, Callable[[dict[str, Any]], dict[str, Any]]] = {}
"""For each old version, what turns its document into the next version's."""


class _Envelope(msgspec.Struct, frozen=True):
    format: str
    version: int
    solo: Solo


def write_document(solo: Solo) -> bytes:
    """The solo as a document of the current version."""
    return msgspec.json.encode(_Envelope(FORMAT, VERSION, solo), enc_hook=encode_value)


def read_document(data: bytes) -> Solo:
    """The solo in a document of this or an older version.

    Raises FormatError for a damaged document, one of a newer version, or anything else.
    """
    try:
        raw = msgspec.json.decode(data)
        if not isinstance(raw, dict) or raw.get("format") != FORMAT:
            raise FormatError("This is no Gavotte solo.")
        version = raw.get("version")
        if not isinstance(version, int) or version > VERSION:
            raise FormatError(f"This solo was saved by a newer Gavotte (document version {version}).")
        while raw["version"] < VERSION:
            raw = _MIGRATIONS[raw["version"]](raw)
        return msgspec.convert(raw, _Envelope, dec_hook=decode_value).solo
    except (msgspec.MsgspecError, KeyError, ValueError) as error:
        if isinstance(error, FormatError):
            raise
        raise FormatError(f"The solo's document is damaged: {error}.") from error


def encode_value(value: Any) -> Any:
    """What a document writes for a value that JSON has no form for."""
    if isinstance(value, Fraction):
        return str(value)
    raise TypeError(f"a document has no place for {type(value).__name__}")


def decode_value(kind: type, value: Any) -> Any:
    """The value of ``kind`` that a document wrote as ``value``."""
    if kind is Fraction:
        return Fraction(value)
    raise TypeError(f"a document has no place for {kind.__name__}")
