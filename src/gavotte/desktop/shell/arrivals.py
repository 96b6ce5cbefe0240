"""What is said of a solo that has just been imported, and what is offered to do about it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from gavotte.desktop.shell.notice import Notice
from gavotte.desktop.solo.session import SoloSession
from gavotte.desktop.translation import translate
from gavotte.desktop.words import key_words
from gavotte.harmony.ground import ground_of
from gavotte.harmony.signature import contradicted

_REMARKS = 3
"""So many remarks are read; of the others only the number is told."""


class Arrivals:
    """Tells of what was imported and is open now: shortly by ``tell``, or in the notice where there is more to it."""

    def __init__(self, session: SoloSession, notice: Notice, tell: Callable[[str], None]) -> None:
        self._session, self._notice, self._tell = session, notice, tell

    def tell_of(self, title: str, remarks: tuple[str, ...]) -> None:
        """Say that a solo was imported, with the remarks on what could not be taken as it was."""
        if self._ask_for_key(title):
            return
        if not remarks:
            self._notice.hide()
            self._tell(translate("Gavotte", "{title} was imported").format(title=title))
            return
        more = (
            translate("Gavotte", " (and {number} more remarks)").format(number=len(remarks) - _REMARKS)
            if len(remarks) > _REMARKS
            else ""
        )
        self._notice.say(
            translate("Gavotte", "{title} was imported. ").format(title=title) + " ".join(remarks[:_REMARKS]) + more
        )

    def _ask_for_key(self, title: str) -> bool:
        """Where the signature of what was imported contradicts its chords, offer the key of the chords."""
        session, solo = self._session, self._session.solo
        region = contradicted(ground_of(solo)) if solo is not None else None
        if solo is None or region is None:
            return False

        def take() -> None:
            if session.solo is solo:
                session.edit(translate("Gavotte", "Change the key"), replace(solo, keys=(region,)))

        name = key_words(region)
        words = translate(
            "Gavotte",
            "{title} was imported. Its signature says {written}, but its chords are those of {heard} throughout.",
        ).format(title=title, written=key_words(solo.keys[0]), heard=name)
        self._notice.say(words, translate("Gavotte", "Take {heard}").format(heard=name), take)
        return True
