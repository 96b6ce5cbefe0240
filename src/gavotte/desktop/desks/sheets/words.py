"""What the pieces of a sheet are called, and what is said of one in the outline."""

from __future__ import annotations

from gavotte.desktop.translation import QT_TRANSLATE_NOOP, said, translate
from gavotte.desktop.words import counted
from gavotte.sheets.names import named_for
from gavotte.sheets.pieces import (
    Bars,
    Keys,
    Licks,
    NewPage,
    Piece,
    PieceKind,
    Question,
    Returns,
    Scales,
    Skeleton,
    kind_of,
)
from gavotte.sheets.sheet import TeachingSheet, Version
from gavotte.workshop.keys import KeyOrder
from gavotte.workshop.laid import AlignBy

KIND_WORDS = {
    PieceKind.WORDS: QT_TRANSLATE_NOOP("Gavotte", "Words"),
    PieceKind.BARS: QT_TRANSLATE_NOOP("Gavotte", "Bars"),
    PieceKind.QUESTION: QT_TRANSLATE_NOOP("Gavotte", "Question"),
    PieceKind.RETURNS: QT_TRANSLATE_NOOP("Gavotte", "What comes back"),
    PieceKind.LICKS: QT_TRANSLATE_NOOP("Gavotte", "Licks"),
    PieceKind.KEYS: QT_TRANSLATE_NOOP("Gavotte", "Lick in keys"),
    PieceKind.SCALES: QT_TRANSLATE_NOOP("Gavotte", "Chords and scales"),
    PieceKind.PICTURE: QT_TRANSLATE_NOOP("Gavotte", "Picture"),
    PieceKind.NEW_PAGE: QT_TRANSLATE_NOOP("Gavotte", "New page"),
}
VERSION_WORDS = {
    Version.CONCERT: QT_TRANSLATE_NOOP("Gavotte", "Concert pitch"),
    Version.B_FLAT: QT_TRANSLATE_NOOP("Gavotte", "B♭ instruments"),
    Version.E_FLAT: QT_TRANSLATE_NOOP("Gavotte", "E♭ instruments"),
    Version.F: QT_TRANSLATE_NOOP("Gavotte", "F instruments"),
    Version.BASS_CLEF: QT_TRANSLATE_NOOP("Gavotte", "Bass clef"),
}
SKELETON_WORDS = {
    Skeleton.NONE: QT_TRANSLATE_NOOP("Gavotte", "Not shown"),
    Skeleton.UNDER: QT_TRANSLATE_NOOP("Gavotte", "Under each line"),
    Skeleton.ALONE: QT_TRANSLATE_NOOP("Gavotte", "In place of the notes"),
}
ALIGN_WORDS = {
    AlignBy.BEAT: QT_TRANSLATE_NOOP("Gavotte", "Bar under bar"),
    AlignBy.TARGET: QT_TRANSLATE_NOOP("Gavotte", "Goal under goal"),
}
ORDER_WORDS = {
    KeyOrder.CIRCLE: QT_TRANSLATE_NOOP("Gavotte", "In fifths"),
    KeyOrder.CHROMATIC: QT_TRANSLATE_NOOP("Gavotte", "In half steps"),
    KeyOrder.WHOLE_STEPS: QT_TRANSLATE_NOOP("Gavotte", "In whole steps"),
    KeyOrder.MINOR_THIRDS: QT_TRANSLATE_NOOP("Gavotte", "In minor thirds"),
    KeyOrder.RANDOM: QT_TRANSLATE_NOOP("Gavotte", "In no order"),
}
_SHORT = 80


def piece_name(piece: Piece) -> str:
    """What a piece is called in the outline: its heading, or what it is."""
    return named_for(piece.heading) or said(KIND_WORDS[kind_of(piece)])


def piece_detail(sheet: TeachingSheet, piece: Piece) -> str:
    """What stands under its name there: what it is of."""
    kind = said(KIND_WORDS[kind_of(piece)])
    about = _about(sheet, piece)
    if not piece.heading:
        return about
    return f"{kind} · {about}" if about else kind


def _about(sheet: TeachingSheet, piece: Piece) -> str:
    match piece:
        case Question() if not piece.source:
            return _first_words(piece.words)
        case Bars() | Scales() | Question():
            return f"{sheet.source(piece.source).solo.title}, {bars_words(piece.first, piece.last)}"
        case Returns():
            return f"{sheet.source(piece.source).solo.title}, {counted(len(piece.places), 'place')}"
        case Licks():
            return ", ".join(lick.name for lick in piece.licks)
        case Keys():
            return f"{piece.lick.name}, {counted(piece.count, 'key')}"
        case NewPage():
            return ""
        case _:
            return _first_words(piece.words)


def bars_words(first: int, last: int) -> str:
    """Which bars: "bar 3", "bars 3–6", "the pickup to bar 4"."""
    if first == last:
        return (
            translate("Gavotte", "bar {number}").format(number=first) if first else translate("Gavotte", "the pickup")
        )
    if not first:
        return translate("Gavotte", "the pickup to bar {last}").format(last=last)
    return translate("Gavotte", "bars {first}–{last}").format(first=first, last=last)


def _first_words(text: str) -> str:
    # What is shown stands at the beginning of a text that may be long.
    plain = " ".join(named_for(text[: 8 * _SHORT]).replace("**", "").split())
    return plain if len(plain) <= _SHORT else f"{plain[:_SHORT].rsplit(' ', 1)[0]} …"
