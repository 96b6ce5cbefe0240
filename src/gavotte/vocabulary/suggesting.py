"""What can be typed next in a query: words that begin as the one being written does, each with what it means."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from gavotte.vocabulary.contexts import CONTEXTS
from gavotte.vocabulary.corpus import QUALITIES
from gavotte.vocabulary.lick import MOST_STARS, STATUSES
from gavotte.vocabulary.query import DEGREE_WORDS, DEVICE_MEANINGS, EXAMPLES, MARKERS, WAY_MEANINGS, words_of

MOST = 12
"""As many suggestions at most."""
_NUMERALS = ("I", "ii", "iii", "IV", "V", "vi", "iiø", "i", "iv", "bVII", "bII", "VI", "II")
_RHYTHMS = ("8-8-4", "8-8-8-8", "8t-8t-8t-4", "4.-8", "16-16-8")
_LENGTHS = ("4", "4-8", "9-16")


@dataclass(frozen=True, slots=True)
class Suggestion:
    """A ``word`` and what it means, and the ``line`` with it in it."""

    word: str
    meaning: str
    line: str


def suggestions(line: str, players: Sequence[str] = (), tags: Sequence[str] = ()) -> tuple[Suggestion, ...]:
    """What the end of a line can become. Of an empty line whole examples are given."""
    if not line.strip():
        return tuple(Suggestion(example, "for instance", example) for example in EXAMPLES[:MOST])
    words = words_of(line)
    open_end = not line[-1].isspace()
    begun = words[-1].text if open_end and words else ""
    start = words[-1].start if open_end and words else len(line)
    marker = words[-2 if open_end else -1].text if len(words) > (1 if open_end else 0) else ""
    found = []
    for word, meaning in _candidates(marker if marker in MARKERS else "", players, tags):
        plain = word.replace("♭", "b").replace("♯", "#")
        if plain.casefold().startswith(begun.casefold()) and plain != begun:
            quoted = f'"{word}"' if " " in word and word not in EXAMPLES else word
            found.append(Suggestion(word, meaning, f"{line[:start]}{quoted} "))
    # Behind a finished word everything could follow: only behind a marker there is something to say.
    return tuple(found[:MOST]) if begun or marker in MARKERS else ()


def _candidates(marker: str, players: Sequence[str], tags: Sequence[str]) -> Iterable[tuple[str, str]]:
    match marker:
        case "from" | "to" | "of" | "highest":
            return [(word, "degree") for word in DEGREE_WORDS]
        case "on":
            return [*((word, "numeral") for word in _NUMERALS), *((word, "kind of chord") for word in QUALITIES)]
        case "in":
            return [(name, "harmonic context") for name in CONTEXTS]
        case "rhythm":
            return [(word, "note values") for word in _RHYTHMS]
        case "notes" | "bars":
            return [(word, marker) for word in _LENGTHS]
        case "by":
            return [(name, "player") for name in players]
        case "tag":
            return [(name, "tag") for name in tags]
        case "status":
            return [(word, "how far you are") for word in STATUSES]
        case "rated":
            return [(str(k), "stars at least") for k in range(1, MOST_STARS + 1)]
        case "over" | "named":
            return []
    return [
        *DEVICE_MEANINGS.items(),
        *((word, f"{meaning} follows") for word, meaning in MARKERS.items()),
        *WAY_MEANINGS,
    ]
