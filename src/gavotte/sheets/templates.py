"""Templates: sheets to begin with, put together of a solo or of licks."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from fractions import Fraction

from gavotte.labelling.labeller import labelled
from gavotte.phrasing.structure import Structure
from gavotte.sheets.pieces import (
    Bars,
    Keys,
    Licks,
    NewPage,
    Picture,
    Piece,
    Question,
    Scales,
    Shown,
    Skeleton,
    Words,
)
from gavotte.sheets.proposing import words_on_bars, words_on_phrases
from gavotte.sheets.sheet import SheetSource, TeachingSheet, new_id
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Solo
from gavotte.vocabulary.lick import Lick

_NUMBERS = ("No", "One", "Two", "Three", "Four", "Five", "Six", "Seven", "Eight")
_FILL_IN = "Draw each note’s function into the lane, and write its degree under it."


def bars_of(solo: Solo) -> tuple[int, int]:
    """The numbers of a solo's first and last bar."""
    bars = BarGrid(solo).bars
    return bars[0].number, bars[-1].number


def credit_of(solo: Solo) -> str:
    """What is proposed as the line about source and use: the player, and where the solo was taken from."""
    year = str(solo.year) if solo.year else ""
    return _transcribed_from(solo.player, solo.title, solo.album, year, solo.source)


def credited(sheet: TeachingSheet, pieces: Sequence[Piece], sources: Sequence[SheetSource]) -> TeachingSheet:
    """The sheet with a line about source and use that is proposed for its first music, where it has neither yet."""
    if sheet.rights or any(not isinstance(piece, Words | NewPage) for piece in sheet.pieces):
        return sheet
    credits = [credit_of(source.solo) for source in sources]
    for piece in pieces:
        licks = piece.licks if isinstance(piece, Licks) else (piece.lick,) if isinstance(piece, Keys) else ()
        credits += [_credit(lick) for lick in licks]
    return replace(sheet, rights=next(filter(None, credits), ""))


def solo_with_analysis(structure: Structure, solo_id: str, arc: str = "") -> TeachingSheet:
    """The whole solo with its lane, then how it is built and what each phrase and bar does. ``arc`` is its landscape as
    SVG, "" for none.
    """
    found, solo = structure.found, structure.found.solo
    source = SheetSource(new_id(), solo_id, solo)
    first, last = bars_of(solo)
    phrases, bars = words_on_phrases(structure), words_on_bars(found, first, last)
    whole = Shown(numerals=True, phrases=bool(phrases))
    pieces: list[Piece] = [Bars(id=new_id(), heading="The solo", source=source.id, first=first, last=last, shown=whole)]
    if arc and phrases:
        pieces.append(Picture(id=new_id(), heading="The arc", svg=arc))
    if phrases:
        bare = Shown(degrees=True, lane=False, skeleton=Skeleton.ALONE)
        heading = "The skeleton: what is left on the strong beats"
        pieces.append(Bars(id=new_id(), heading=heading, source=source.id, first=first, last=last, shown=bare))
        pieces.append(Words(id=new_id(), heading="Phrase by phrase", words=phrases))
    if solo.chords:
        pieces.append(Scales(id=new_id(), heading="Chords and scales", source=source.id, first=first, last=last))
    if bars:
        pieces.append(Words(id=new_id(), heading="Bar by bar", words=bars))
    about = " · ".join(part for part in (solo.player, solo.instrument.name, solo.style) if part)
    return TeachingSheet(solo.title, about, credit_of(solo), "", tuple(pieces), (source,), contents=True)


def lick_of_the_week(lick: Lick) -> TeachingSheet:
    """One lick: what it does, its chords and scales, a blank lane to fill in, and all twelve keys."""
    source = SheetSource(new_id(), "", lick.solo)
    first, last = bars_of(lick.solo)
    told = words_on_bars(labelled(lick.solo), first, last)
    own = f"{lick.words.strip()}\n\n" if lick.words.strip() else ""
    pieces: list[Piece] = [
        Licks(id=new_id(), heading="The lick", licks=(lick,), words=_from(lick)),
        Words(id=new_id(), heading="What it does", words=f"{own}{told}"),
    ]
    if lick.solo.chords:
        pieces.append(Scales(id=new_id(), heading="Chords and scales", source=source.id, first=first, last=last))
    pieces.append(Question(id=new_id(), words=_FILL_IN, source=source.id, first=first, last=last))
    pieces.append(Keys(id=new_id(), heading="In all keys", lick=lick, shown=Shown(lane=False)))
    return TeachingSheet(
        f"Lick of the week: {lick.name}", _from(lick), _credit(lick), "", tuple(pieces), (source,), contents=False
    )


def players_over(licks: Sequence[Lick], context: str) -> TeachingSheet:
    """Licks of several players over the same changes, brought to one key, laid under one another and told one by one.

    Raises ValueError where there is none.
    """
    if not licks:
        raise ValueError("There is nothing to lay under one another.")
    first = licks[0]
    source = SheetSource(new_id(), "", first.solo)
    low, high = bars_of(first.solo)
    pieces: list[Piece] = [
        Licks(id=new_id(), heading="Under one another", licks=tuple(licks), in_one_key=True),
    ]
    if first.solo.chords:
        pieces.append(Scales(id=new_id(), heading="Chords and scales", source=source.id, first=low, last=high))
    for lick in licks:
        begin, end = bars_of(lick.solo)
        told = words_on_bars(labelled(lick.solo), begin, end)
        pieces.append(Words(id=new_id(), heading=lick.source.player or lick.name, words=f"{_from(lick)}.\n\n{told}"))
    words = "In your own words: what do these lines have in common, and where do they part ways?"
    pieces.append(Question(id=new_id(), words=words))
    count = _NUMBERS[len(licks)] if len(licks) < len(_NUMBERS) else str(len(licks))
    title = f"{count} players over one {context}"
    credits = dict.fromkeys(lick.source.title for lick in licks)
    return TeachingSheet(title, "", _transcribed_from(*credits), "", tuple(pieces), (source,))


def one_key_a_page(lick: Lick) -> TeachingSheet:
    """A lick in all twelve keys, each on a page to put on the stand."""
    shown = Shown(bars=2)
    piece = Keys(id=new_id(), lick=lick, key_a_page=True, shown=shown)
    return TeachingSheet(f"{lick.name} in all keys", _from(lick), _credit(lick), "", (piece,), staff=10.0)


def bars_piece(solo: Solo, solo_id: str, start: Fraction, end: Fraction) -> tuple[Bars, SheetSource]:
    """The bars of a solo that sound from ``start`` to ``end`` (quarter notes), as a piece with its source."""
    grid = BarGrid(solo)
    numbers = [grid.bars[index].number for index in grid.sounding(start, end - start)]
    source = SheetSource(new_id(), solo_id, solo)
    return Bars(id=new_id(), heading=solo.title, source=source.id, first=numbers[0], last=numbers[-1]), source


def _from(lick: Lick) -> str:
    """Where a lick comes from, in words."""
    source = lick.source
    return ", ".join(part for part in (source.player, source.title, source.place if source.title else "") if part)


def _credit(lick: Lick) -> str:
    return _transcribed_from(_from(lick)) if lick.source.title else ""


def _transcribed_from(*what: str) -> str:
    """The line about source and use: what is known of where music comes from; "" for nothing."""
    known = ", ".join(filter(None, what))
    return f"Transcribed from: {known}. For study." if known else ""
