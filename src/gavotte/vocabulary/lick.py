"""A lick: a stretch of a solo worth keeping, with its chords, labels and where it comes from."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from fractions import Fraction

from gavotte.formats.document import DocumentKind, with_version
from gavotte.harmony.ground import ground_of
from gavotte.labelling.wording import degree_words, symbol_words
from gavotte.solo.bars import BarGrid
from gavotte.solo.bounds import BoundsError, within_bounds
from gavotte.solo.document import KeyRegion, Solo
from gavotte.solo.label import Label
from gavotte.solo.moving import excerpt, shifted
from gavotte.vocabulary.contexts import context_spans, contexts_between
from gavotte.vocabulary.harmony import context, home_key, into_words, is_numerals
from gavotte.vocabulary.naming import propose_name


@dataclass(frozen=True, slots=True)
class Source:
    """Where a lick was found: the solo's id in the library, its title and player, and the bars."""

    solo_id: str
    title: str
    player: str
    first_bar: int
    last_bar: int

    @property
    def place(self) -> str:
        """ "bars 3–4", "bar 7", "the pickup to bar 1"."""
        if self.first_bar == self.last_bar:
            return f"bar {self.first_bar}" if self.first_bar else "the pickup"
        if self.first_bar == 0:
            return f"the pickup to bar {self.last_bar}"
        return f"bars {self.first_bar}–{self.last_bar}"


@dataclass(frozen=True, slots=True)
class Goal:
    """The note behind a lick that its last note leads to: its name ("E♭"), its degree and chord in words."""

    pitch: str
    degree: str
    chord: str

    @property
    def words(self) -> str:
        """ "the 3 of Cmaj7"."""
        return f"the {self.degree} of {self.chord}" if self.chord else f"the {self.degree}"


STATUSES = ("new", "learning", "mine")
"""How far one is with a lick."""
MOST_STARS = 5


@dataclass(frozen=True, slots=True)
class Lick:
    """A kept lick. ``solo`` is its excerpt, bar 1 being the bar it starts in; ``labels`` are those it had there.

    ``contexts`` are the harmonic contexts it was played in, the fittest first; ``leads_to`` is what its last note leads
    to behind it, ``span`` where it sounds in its solo's recording (seconds). ``tags``, ``words``, ``rating`` (stars, 0
    for none) and ``status`` are the user's; ``places`` where it recurs, for a cell, in words.
    """

    name: str
    solo: Solo
    labels: tuple[Label, ...]
    source: Source
    contexts: tuple[str, ...] = ()
    leads_to: Goal | None = None
    span: tuple[float, float] | None = None
    tags: tuple[str, ...] = ()
    words: str = ""
    rating: int = 0
    status: str = "new"
    places: tuple[str, ...] = ()

    def renamed(self, name: str) -> Lick:
        """The lick under another name."""
        return replace(self, name=name)

    @property
    def proposed_name(self) -> str:
        """The name that is proposed for it."""
        return propose_name(self.solo, self.labels, form_of(self.solo, self.contexts))

    @property
    def goal(self) -> str:
        """What its last note is or leads to, for a cell over one chord: "into the 3rd of a dominant"; else ""."""
        return into_words(self.solo, self.labels)

    @property
    def landing(self) -> str:
        """What it ends on: "ends on the 3 of F△7"."""
        if not self.labels:
            return ""
        last = self.labels[-1]
        over = f" of {symbol_words(last.chord)}" if last.chord else ""
        return f"ends on the {degree_words(last.degree, last.shown_degree)}{over}"


def keep_lick(
    solo: Solo,
    solo_id: str,
    labels: tuple[Label, ...],
    first: str,
    last: str,
    span: tuple[float, float] | None = None,
) -> Lick:
    """The notes from ``first`` to ``last`` (ids, in either order) as a lick with a proposed name.

    ``labels`` are those of the whole solo. Raises KeyError for an unknown note.
    """
    part = excerpt(solo, first, last)
    heard = _keys_heard(solo, part)
    # A lick across a change of key keeps every key it goes through; else it is thought in the key its chords lead to.
    keys = part.keys if len(part.keys) > 1 or heard else (home_key(part),)
    part = replace(part, keys=keys, heard_keys=heard)
    ids = {note.id for note in part.notes}
    kept = tuple(label for label in labels if label.note in ids)
    grid = BarGrid(solo)
    ordered = [note for note in solo.notes if note.id in ids]
    last_note = ordered[-1]
    end = last_note.onset if last_note.grace else last_note.end
    last_bar = grid.at(end)
    if last_bar.onset == end and last_bar.number > grid.at(ordered[0].onset).number:
        last_bar = grid.bars[grid.index_at(end) - 1]
    source = Source(solo_id, solo.title, solo.player, grid.at(ordered[0].onset).number, last_bar.number)
    contexts = contexts_between(context_spans(ground_of(solo)), ordered[0].onset, end)
    contexts = tuple(dict.fromkeys((*contexts, *contexts_of(part))))
    name = propose_name(part, kept, form_of(part, contexts))
    return Lick(name, part, kept, source, contexts, _goal(solo, labels, kept), span)


def form_of(part: Solo, contexts: Sequence[str]) -> str:
    """What a lick is called after where its chords have no name together: the first of its contexts; else ""."""
    return contexts[0] if contexts and is_numerals(context(part)) else ""


def music_of(lick: Lick) -> tuple[object, ...]:
    """What makes a lick the same as another one: its notes and chords, and the place it comes from."""
    source = lick.source
    return lick.solo.notes, lick.solo.chords, lick.solo.keys, source.title, source.player, source.first_bar


def joined(first: Lick, second: Lick) -> Lick:
    """One lick with what is said of it in two libraries: all tags and words, the more stars, the further status.

    The name is the one that was given by hand, if one was.
    """
    words = [text for text in dict.fromkeys((first.words.strip(), second.words.strip())) if text]
    return replace(
        first,
        name=second.name if first.name == first.proposed_name else first.name,
        tags=tuple(dict.fromkeys((*first.tags, *second.tags))),
        words=words[0] if len(words) == 2 and words[1] in words[0] else "\n".join(words),
        rating=max(first.rating, second.rating),
        status=max(first.status, second.status, key=STATUSES.index),
        places=tuple(dict.fromkeys((*first.places, *second.places))),
    )


def contexts_of(part: Solo) -> tuple[str, ...]:
    """The contexts of a lick by its own chords, without the solo it comes from."""
    if not part.notes:
        return ()
    end = max(note.end for note in part.notes)
    return contexts_between(context_spans(ground_of(part)), part.notes[0].onset, end)


def _goal(solo: Solo, labels: tuple[Label, ...], kept: tuple[Label, ...]) -> Goal | None:
    """The note behind a lick that its last note leads to."""
    target = kept[-1].target if kept else None
    if target is None or target not in solo.places or any(label.note == target for label in kept):
        return None
    place = solo.places[target]
    label = next((label for label in labels if label.note == target), None)
    if label is None:
        return None
    chord = symbol_words(label.chord) if label.chord else ""
    return Goal(solo.notes[place].pitch.name.shown, label.shown_degree, chord)


def _keys_heard(solo: Solo, part: Solo) -> tuple[KeyRegion, ...]:
    """The keys its solo is heard in under a part of it, by the part's own time; none where it is one key throughout."""
    shift = solo.note(part.notes[0].id).onset - part.notes[0].onset
    start, end = part.notes[0].onset + shift, max(note.end for note in part.notes) + shift
    under = [heard for heard in ground_of(solo).keys if heard.onset < end and heard.end > start]
    if len(under) < 2:
        return ()
    first, *rest = (heard.region for heard in under)
    return (replace(first, onset=Fraction(0)), *(shifted(region, -shift) for region in rest))


def _checked(lick: Lick) -> Lick:
    """The lick, once it is certain that its labels are of its notes. Raises ValueError."""
    within_bounds(lick.solo)
    strange = [label.note for label in lick.labels if label.note not in lick.solo.places]
    if strange:
        raise BoundsError(f"there is a label of note {strange[0]!r}, which is not there")
    if lick.status not in STATUSES:
        raise BoundsError(f"its status {lick.status[:40]!r} is none of {', '.join(STATUSES)}")
    if not 0 <= lick.rating <= MOST_STARS:
        raise BoundsError(f"it has {lick.rating} stars, of {MOST_STARS}")
    if lick.span is not None and not 0.0 <= lick.span[0] <= lick.span[1] < _LONGEST:
        raise BoundsError("it sounds nowhere in a recording")
    return lick


_LONGEST = 1e6
"""Seconds of a recording, at most."""


LICK_DOCUMENT = DocumentKind(
    "gavotte-lick", 7, "lick", Lick, {version: with_version(version + 1) for version in range(1, 7)}, _checked
)
"""How the library keeps a lick."""
