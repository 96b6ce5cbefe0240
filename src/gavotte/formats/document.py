"""Versioned JSON documents, validated on reading: what the library keeps solos and licks in.

Times are exact fractions as strings ("3/2"); everything else follows the dataclasses it holds.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from fractions import Fraction
from typing import Any, Generic, TypeVar

import msgspec

from gavotte.formats.errors import FormatError
from gavotte.formats.numbers import exact
from gavotte.solo.bounds import within_bounds
from gavotte.solo.document import Solo

ValueT = TypeVar("ValueT")
Migration = Callable[[dict[str, Any]], dict[str, Any]]


def _as_it_is(value: ValueT) -> ValueT:
    return value


@dataclass(frozen=True)
class DocumentKind(Generic[ValueT]):
    """A kind of document: its format's name, its version, and the type of what it holds under ``member``.

    ``migrations`` holds, for each old version, what turns its document into the next version's; ``checked`` gives what
    was read back, or raises ValueError where it can't be.
    """

    format: str
    version: int
    member: str
    type: type[ValueT]
    migrations: Mapping[int, Migration] = field(default_factory=dict)
    checked: Callable[[ValueT], ValueT] = _as_it_is

    def write(self, value: ValueT) -> bytes:
        """A document of the current version."""
        document = {"format": self.format, "version": self.version, self.member: value}
        return msgspec.json.encode(document, enc_hook=_encode)

    def read(self, data: bytes) -> ValueT:
        """What a document of this or an older version holds.

        Raises FormatError for a damaged document, one of a newer version, or anything else.
        """
        try:
            raw = msgspec.json.decode(data)
            if not isinstance(raw, dict) or raw.get("format") != self.format:
                raise FormatError(f"This is no Gavotte {self.member}.")
            version = raw.get("version")
            if not isinstance(version, int) or version > self.version:
                raise FormatError(
                    f"This {self.member} was saved by a newer Gavotte (document version {version}). "
                    "Update Gavotte to open it."
                )
            while raw["version"] < self.version:
                raw = self.migrations[raw["version"]](raw)
            return self.checked(msgspec.convert(raw[self.member], self.type, dec_hook=_decode))
        except (msgspec.MsgspecError, KeyError, TypeError, ValueError, ArithmeticError, RecursionError) as error:
            if isinstance(error, FormatError):
                raise
            raise FormatError(f"The {self.member}'s document is damaged: {error}.") from error

    def with_members(self, data: bytes, changes: Mapping[str, object]) -> bytes:
        """A document with other values in some members of what it holds; the rest of it is not gone through.

        Raises FormatError for a document that can't be read.
        """
        try:
            whole = msgspec.json.decode(data, type=dict[str, msgspec.Raw])
            head = {name: msgspec.json.decode(whole[name]) for name in ("format", "version")}
            if head == {"format": self.format, "version": self.version}:
                held: dict[str, object] = {**msgspec.json.decode(whole[self.member], type=dict[str, msgspec.Raw])}
                return msgspec.json.encode({**head, self.member: {**held, **changes}}, enc_hook=_encode)
        except (msgspec.MsgspecError, KeyError):
            # What is wrong is said by reading all of it.
            pass
        return self.write(replace(self.read(data), **changes))  # type: ignore[type-var]


def _encode(value: Any) -> Any:
    if isinstance(value, Fraction):
        return str(value)
    raise TypeError(f"a document has no place for {type(value).__name__}")


def _decode(kind: type, value: Any) -> Any:
    if kind is Fraction and isinstance(value, str):
        return exact(value)
    raise TypeError(f"a {type(value).__name__} is no {kind.__name__}")


def with_version(version: int) -> Migration:
    """A migration for documents that only gained members whose defaults say what was so before."""
    return lambda raw: {**raw, "version": version}


SOLO_DOCUMENT = DocumentKind(
    "gavotte-solo", 9, "solo", Solo, {version: with_version(version + 1) for version in range(1, 9)}, within_bounds
)
