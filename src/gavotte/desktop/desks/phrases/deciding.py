"""What the user decides at the Phrases desk: where phrases begin, what they do, how long a note stays."""

from __future__ import annotations

from gavotte.desktop.asks import Asks
from gavotte.desktop.desks.phrases.builder import Builder
from gavotte.desktop.desks.phrases.layers import layer_words
from gavotte.desktop.solo.session import SoloSession
from gavotte.desktop.translation import translate
from gavotte.phrasing.decisions import (
    with_phrase_start,
    with_reduction,
    with_start_moved,
    with_words,
    without_phrase_start,
)
from gavotte.phrasing.skeleton import Level


class Deciding:
    """Asks the session for edits about the phrase, and the note, where the user is."""

    def __init__(self, session: SoloSession, builder: Builder, asks: Asks) -> None:
        self._session, self._builder, self._asks = session, builder, asks

    def _first_of_phrase(self) -> str | None:
        """The first note (id) of the phrase that is looked at, None for the first phrase of all or where it is gone."""
        found, solo = self._builder.phrase(), self._session.solo
        if found is None or solo is None or found[1] == 0:
            return None
        note = found[0].found.solo.notes[found[0].phrases[found[1]].first].id
        return note if note in solo.places else None

    def split(self) -> None:
        """A phrase begins with the current note."""
        solo, current = self._session.solo, self._session.selection.current
        if solo is None or current is None:
            return
        if solo.places.get(current) == 0:
            self._asks.tell(translate("Gavotte", "The first phrase begins here anyway"))
            return
        self._session.edit(translate("Gavotte", "Begin a phrase"), with_phrase_start(solo, current, True))

    def join(self) -> None:
        """The phrase that is looked at goes on from the one before."""
        solo, first = self._session.solo, self._first_of_phrase()
        if solo is None or first is None:
            self._asks.tell(translate("Gavotte", "There is no phrase before this one"))
            return
        self._session.edit(translate("Gavotte", "Join two phrases"), with_phrase_start(solo, first, False))

    def shift(self, by: int) -> None:
        """The phrase that is looked at begins a note later (1) or earlier (-1)."""
        solo, first = self._session.solo, self._first_of_phrase()
        found = self._builder.phrase()
        if solo is None or first is None or found is None:
            self._asks.tell(translate("Gavotte", "The first phrase begins with the solo"))
            return
        structure, number = found
        place = solo.places[first] + by
        low = structure.phrases[number - 1].first
        if not low < place <= structure.phrases[number].last:
            self._asks.tell(translate("Gavotte", "Nothing would be left of the phrase; join them with J"))
            return
        self.move_start(first, solo.notes[place].id)

    def move_start(self, note: str, to: str) -> None:
        solo = self._session.solo
        if solo is None or note not in solo.places or to not in solo.places:
            return
        changed = with_start_moved(solo, note, to)
        self._session.edit(translate("Gavotte", "Move the beginning of a phrase"), changed, (to, to))

    def drop(self) -> None:
        """The current note, or where that says nothing the beginning of its phrase, is no more decided by hand."""
        solo, current = self._session.solo, self._session.selection.current
        if solo is None or current is None:
            return
        decided = {mark.note for mark in solo.phrase_starts}
        note = current if current in decided else self._first_of_phrase()
        if note is not None and note in decided:
            words = translate("Gavotte", "Drop the decision about a phrase")
            self._session.edit(words, without_phrase_start(solo, note))
        elif any(reduction.note == current for reduction in solo.reductions):
            self._session.edit(
                translate("Gavotte", "Drop the decision about a layer"), with_reduction(solo, current, None)
            )
        else:
            self._asks.tell(translate("Gavotte", "Nothing is decided by hand here"))

    def say(self, note: str, words: str) -> None:
        """Take the user's words for what the phrase does that begins with a note; "" takes them back."""
        solo = self._session.solo
        if solo is not None and note in solo.places:
            self._session.edit(translate("Gavotte", "Say what a phrase does"), with_words(solo, note, words))

    def hold(self, by: int) -> None:
        """The current note stays a layer longer (1), or goes a layer earlier (-1)."""
        structure, here, solo = self._builder.structure, self._builder.here(), self._session.solo
        current = self._session.selection.current
        if structure is None or here is None or solo is None or current is None or current not in solo.places:
            return
        level = int(structure.levels[here]) + by
        if not Level.ALL <= level <= Level.BARS:
            words = translate("Gavotte", "It stays to the last") if by > 0 else translate("Gavotte", "It goes first")
            self._asks.tell(words)
            return
        self._session.edit(translate("Gavotte", "Correct the skeleton"), with_reduction(solo, current, level))
        self._asks.tell(translate("Gavotte", "Stays up to: {layer}").format(layer=layer_words(Level(level))))
