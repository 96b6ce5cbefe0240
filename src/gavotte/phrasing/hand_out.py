"""The phrases as a text to hand out: what each does, which notes it is chosen from, and what comes back."""

from __future__ import annotations

from collections.abc import Iterator

from gavotte.phrasing.arc import compared_words
from gavotte.phrasing.decisions import words_of
from gavotte.phrasing.structure import Structure
from gavotte.phrasing.telling import (
    bar_words,
    bars_words,
    chosen_from,
    chosen_words,
    counted,
    featured_words,
    sentence,
)


def phrase_lines(structure: Structure) -> list[str]:
    """The section on phrases of a Markdown text, line by line; none where there is no phrase."""
    return list(_lines(structure)) if structure.phrases else []


def _lines(structure: Structure) -> Iterator[str]:
    found = structure.found
    yield "## Phrases"
    yield ""
    for k, phrase in enumerate(structure.phrases):
        own = words_of(found.solo, found.solo.notes[phrase.first].id)
        words = own or sentence(found, structure.cards, k, structure.recalls[k])
        chosen = chosen_from(found, phrase)[:1]
        scale = "".join(f" Chosen from {known.name} ({chosen_words(found, known)})." for known in chosen)
        yield f"{k + 1}. {bars_words(found, phrase.first, phrase.last)}: {words}{scale}"
    if structure.motifs:
        yield ""
        yield "**What comes back:**"
        yield ""
    for motif, relations, pattern in zip(structure.motifs, structure.relations, structure.patterns, strict=True):
        head = motif.instances[0]
        notes = found.solo.notes[head.first : head.last + 1]
        names = " ".join(note.pitch.name.shown for note in notes if not note.grace)
        others = "; ".join(
            f"{bar_words(found, place.first)}: {how.words}"
            for place, how in zip(motif.instances[1:], relations, strict=True)
        )
        place = f"{bar_words(found, head.first)}, {found.frame.notes[head.first].place}"
        times = ", ".join(filter(None, (counted(len(motif.instances), "time"), pattern)))
        yield f"- {names} ({place}; {times}); {others}."
    yield ""
    parts = [f"{part.name}: {words}" for part in structure.arc.parts if (words := compared_words(structure.arc, part))]
    featured = featured_words(found, structure.cards)
    told = filter(None, (structure.arc.climax_words, *parts, featured[:1].upper() + featured[1:]))
    yield f"**The arc:** {'. '.join(told)}."
