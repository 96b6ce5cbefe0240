"""Texts that are proposed for a sheet: what is said of a solo's phrases and bars, to be left or written anew."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from gavotte.labelling.hand_out import bar_texts, heading_of
from gavotte.labelling.labeller import Labelled, labelled
from gavotte.phrasing.arc import arc_of
from gavotte.phrasing.card import card_of
from gavotte.phrasing.hand_out import phrase_texts
from gavotte.phrasing.structure import Structure
from gavotte.sheets.names import braced
from gavotte.solo.document import Solo
from gavotte.solo.moving import transposed_simply
from gavotte.theory.interval import Interval

_ELSEWHERE = Interval(1, 2)
"""Names are found by saying the same a whole tone higher."""


def words_on_phrases(structure: Structure) -> str:
    """What each phrase does, what comes back, and the arc; "" where the solo is one phrase."""
    if len(structure.phrases) < 2:
        return ""
    there = _elsewhere(structure.found.solo)
    # The division and what comes back are the same in every key.
    cards = tuple(card_of(there, phrase) for phrase in structure.phrases)
    higher = replace(structure, found=there, cards=cards, arc=arc_of(there))
    return _joined(phrase_texts(structure), phrase_texts(higher))


def words_on_bars(found: Labelled, first: int, last: int) -> str:
    """What each bar does, from bar ``first`` to ``last`` by their numbers."""
    here = [text for text in bar_texts(found) if first <= text.number <= last]
    there = [text for text in bar_texts(_elsewhere(found.solo)) if first <= text.number <= last]
    return _joined(
        [(heading_of(text), text.words) for text in here], [(heading_of(text), text.words) for text in there]
    )


def _elsewhere(solo: Solo) -> Labelled:
    return labelled(replace(transposed_simply(solo, _ELSEWHERE), remarks=solo.remarks, phrase_words=solo.phrase_words))


def _joined(texts: Sequence[tuple[str, str]], others: Sequence[tuple[str, str]]) -> str:
    """Paragraphs with bold headings, their names in braces as far as both tell the same."""
    pairs = zip(texts, others, strict=True) if len(texts) == len(others) else ((text, text) for text in texts)
    paragraphs = []
    for (heading, words), (other_heading, other_words) in pairs:
        paragraphs.append(f"**{braced(heading, other_heading)}** {braced(words, other_words)}".strip())
    return "\n\n".join(paragraphs)
