"""Where players meet the same changes: for each harmonic context a stretch of a solo by each player who has one."""

from __future__ import annotations

from collections.abc import Generator, Mapping
from dataclasses import dataclass, replace
from fractions import Fraction

from gavotte.formats.errors import FormatError
from gavotte.giving_way import give_way
from gavotte.harmony.ground import ground_of
from gavotte.labelling.labeller import labelled
from gavotte.library.reader import LibraryReader
from gavotte.solo.document import Solo
from gavotte.vocabulary.contexts import CONTEXTS, ContextSpan, context_spans
from gavotte.vocabulary.lick import Lick, keep_lick

_FEWEST_NOTES, _MOST_BARS = 5, 4


@dataclass(frozen=True, slots=True)
class Stretch:
    """A stretch of a solo, by the ids of the solo and of its first and last note."""

    solo_id: str
    first: str
    last: str


ByPlayer = Mapping[str, Stretch]


def contexts_played(reader: LibraryReader) -> Generator[float, None, dict[str, ByPlayer]]:
    """For each context, in the usual order, the first stretch of each player that has enough notes, yielding the share
    that is done. Only contexts of two players and more. A solo that can't be read is passed over.
    """
    found: dict[str, dict[str, Stretch]] = {}
    entries = [entry for entry in reader.solos() if entry.is_solo and entry.player]
    for number, entry in enumerate(reversed(entries), 1):
        give_way()
        try:
            solo = reader.solo(entry.id)
        except FormatError:
            continue
        for span in context_spans(ground_of(solo)):
            players = found.setdefault(span.name, {})
            if entry.player not in players:
                stretch = _stretch(solo, entry.id, span)
                if stretch is not None:
                    players[entry.player] = stretch
        yield number / len(entries)
    return {name: found[name] for name in CONTEXTS if len(found.get(name, ())) > 1}


def licks_of(reader: LibraryReader, players: ByPlayer, most: int = 5) -> Generator[float, None, list[Lick]]:
    """The stretches of the first ``most`` players as licks, yielding the share that is done. Raises LibraryError."""
    licks = []
    chosen = list(players.values())[:most]
    for number, stretch in enumerate(chosen, 1):
        solo = reader.solo(stretch.solo_id)
        licks.append(lick_over(solo, stretch.solo_id, stretch.first, stretch.last))
        yield number / len(chosen)
    return licks


def lick_over(solo: Solo, solo_id: str, first: str, last: str) -> Lick:
    """A stretch of a solo over a context (its first and last note) as a lick, in the one key its changes arrive in."""
    lick = keep_lick(solo, solo_id, labelled(solo).labels, first, last)
    if not lick.solo.heard_keys:
        return lick
    home = replace(lick.solo.heard_keys[-1], onset=Fraction(0))
    return replace(lick, solo=replace(lick.solo, keys=(home,), heard_keys=()))


def stretch_over(solo: Solo, context: str) -> tuple[str, str] | None:
    """The first and last note (ids) of a solo's first stretch over a context that has enough notes."""
    for span in context_spans(ground_of(solo)):
        found = _stretch(solo, "", span) if span.name == context else None
        if found is not None:
            return found.first, found.last
    return None


def _stretch(solo: Solo, solo_id: str, span: ContextSpan) -> Stretch | None:
    bar = solo.meters[0].meter.bar_length
    end = min(span.end, span.onset + _MOST_BARS * bar)
    notes = [note for note in solo.notes if span.onset - Fraction(1, 2) < note.onset < end]
    if len(notes) < _FEWEST_NOTES:
        return None
    return Stretch(solo_id, notes[0].id, notes[-1].id)
