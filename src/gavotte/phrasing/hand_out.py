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
    if not structure.phrases:
        return []
    lines = ["## Phrases", ""]
    for k in range(len(structure.phrases)):
        where, words = _phrase(structure, k)
        lines.append(f"{k + 1}. {where}: {words}")
    motifs = list(_motifs(structure))
    if motifs:
        lines += [
            "",
            "**What comes back:**",
            "",
            *(f"- {names} ({first}); {others}" for names, first, others in motifs),
        ]
    return [*lines, "", f"**The arc:** {_arc(structure)}"]


def phrase_texts(structure: Structure) -> list[tuple[str, str]]:
    """The same as headings with words under them, for paper."""
    if not structure.phrases:
        return []
    told = [_phrase(structure, k) for k in range(len(structure.phrases))]
    texts = [(f"Phrase {k} · {where}", words) for k, (where, words) in enumerate(told, 1)]
    motifs = [(f"Comes back · {names}", f"First {first}; {others}") for names, first, others in _motifs(structure)]
    return [*texts, *motifs, ("The arc", _arc(structure))]


def _phrase(structure: Structure, k: int) -> tuple[str, str]:
    """Where a phrase stands, and what it does, in the user's words where there are any, with what it is chosen from."""
    found, phrase = structure.found, structure.phrases[k]
    own = words_of(found.solo, found.solo.notes[phrase.first].id)
    words = own or sentence(found, structure.cards, k, structure.recalls[k])
    chosen = chosen_from(found, phrase)[:1]
    scale = "".join(f" Chosen from {known.name} ({chosen_words(found, known)})." for known in chosen)
    return bars_words(found, phrase.first, phrase.last), f"{words}{scale}"


def _motifs(structure: Structure) -> Iterator[tuple[str, str, str]]:
    """Of each motif its notes, where it stands first and how often, and how it comes back."""
    found = structure.found
    for motif, relations, pattern in zip(structure.motifs, structure.relations, structure.patterns, strict=True):
        head = motif.instances[0]
        notes = found.solo.notes[head.first : head.last + 1]
        names = " ".join(note.pitch.name.shown for note in notes if not note.grace)
        others = "; ".join(
            f"{bar_words(found, place.first)}: {how.words}"
            for place, how in zip(motif.instances[1:], relations, strict=True)
        )
        times = ", ".join(filter(None, (counted(len(motif.instances), "time"), pattern)))
        place = f"{bar_words(found, head.first)}, {found.frame.notes[head.first].place}"
        yield names, f"{place}; {times}", f"{others}."


def _arc(structure: Structure) -> str:
    """What is said of the whole: its climax, how its parts differ, what is leaned on."""
    parts = [f"{part.name}: {words}" for part in structure.arc.parts if (words := compared_words(structure.arc, part))]
    featured = featured_words(structure.found, structure.cards)
    told = filter(None, (structure.arc.climax_words, *parts, featured[:1].upper() + featured[1:]))
    return f"{'. '.join(told)}."
