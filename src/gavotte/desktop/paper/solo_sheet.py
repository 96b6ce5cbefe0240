"""The open solo as a sheet: as it is shown, with its labels and the words under its title."""

from __future__ import annotations

from gavotte.desktop.paper.sheet import Sheet
from gavotte.desktop.solo.session import SoloSession
from gavotte.desktop.translation import translate


def sheet_of(session: SoloSession) -> Sheet | None:
    """What is exported and printed of the open solo; None where none is open."""
    solo, shown = session.solo, session.shown
    if solo is None or shown is None:
        return None
    parts = (shown.player, solo.instrument.name + pitch_words(session), shown.album, _year(shown.year), shown.style)
    concert = {label.note: label for label in session.concert_labels()} if session.shows_written else {}
    return Sheet(
        shown,
        dict(session.labels),
        " · ".join(part for part in parts if part),
        concert=(solo, concert) if session.shows_written else None,
        selected=session.selection.notes(),
    )


def _year(year: int | None) -> str:
    return "" if year is None else str(year)


def pitch_words(session: SoloSession) -> str:
    """For a transposing instrument, which pitch the page is in; where it is read for another one, for which."""
    solo, reader = session.solo, session.view.reader
    if solo is not None and session.shows_written and reader and reader != solo.instrument.name:
        return translate("Gavotte", ", written for {reader}").format(reader=reader.lower())
    if solo is None or not solo.instrument.transposition_semitones:
        return ""
    if session.shows_written:
        return translate("Gavotte", " in written pitch")
    return translate("Gavotte", " in concert pitch")
