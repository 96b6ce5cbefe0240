"""What the user decides about phrases and skeleton, as edits of the solo."""

from __future__ import annotations

from dataclasses import replace

from gavotte.solo.document import PhraseStart, PhraseWords, Reduction, Solo


def with_phrase_start(solo: Solo, note: str, begins: bool) -> Solo:
    """A phrase begins with a note, or none does. Raises KeyError where there is no such note."""
    solo.note(note)
    others = (mark for mark in solo.phrase_starts if mark.note != note)
    return replace(solo, phrase_starts=(*others, PhraseStart(note, begins)))


def with_start_moved(solo: Solo, note: str, to: str) -> Solo:
    """The phrase that began with a note begins with another; what is said of it goes with it. Raises KeyError."""
    moved = with_phrase_start(with_phrase_start(solo, note, False), to, True)
    words = words_of(solo, note)
    return with_words(with_words(moved, note, ""), to, words) if words else moved


def without_phrase_start(solo: Solo, note: str) -> Solo:
    """Whether a phrase begins with a note is left to the rules again."""
    return replace(solo, phrase_starts=tuple(mark for mark in solo.phrase_starts if mark.note != note))


def words_of(solo: Solo, note: str) -> str:
    """What the user says of the phrase that begins with a note, "" where nothing is said."""
    return next((said.words for said in solo.phrase_words if said.note == note), "")


def with_words(solo: Solo, note: str, words: str) -> Solo:
    """The phrase that begins with a note is said to do something else; "" takes the user's words back."""
    others = tuple(said for said in solo.phrase_words if said.note != note)
    return replace(solo, phrase_words=(*others, PhraseWords(note, words)) if words else others)


def with_reduction(solo: Solo, note: str, level: int | None) -> Solo:
    """A note stays up to a level of the skeleton; None leaves that to the rules again. Raises KeyError."""
    solo.note(note)
    others = tuple(reduction for reduction in solo.reductions if reduction.note != note)
    return replace(solo, reductions=others if level is None else (*others, Reduction(note, level)))
