"""A sheet as Markdown; its music and drawings are files of their own beside it."""

from __future__ import annotations

import re
from collections.abc import Mapping

from gavotte.sheets.elements import Composed, Drawing, Heading, Music, PageEnd, Paragraph, Style
from gavotte.theory.chord_symbol import shown_chord

_SIGNS = re.compile(r"([\\`*_{}\[\]<>#|])")


def markdown_of(composed: Composed, pictures: Mapping[int, tuple[str, ...]]) -> str:
    """The text; ``pictures`` are the names of the files of each music and drawing, by its number among the elements."""
    lines = [f"# {_plain(composed.title)}", ""]
    if composed.about:
        lines += [_plain(composed.about), ""]
    if composed.contents:
        headings = [one.words for one in composed.elements if isinstance(one, Heading) and one.level == 1]
        lines += [f"{number}. {_plain(words)}" for number, words in enumerate(headings, 1)]
        lines.append("")
    for number, element in enumerate(composed.elements):
        match element:
            case Heading(words, level):
                lines += [f"{'#' * (level + 1)} {_plain(words)}", ""]
            case Paragraph(words, style):
                text = "**".join(_plain(run) for run in words.split("**"))
                lines += [f"*{text}*" if style is Style.CAPTION and "**" not in text else text, ""]
            case Music() | Drawing():
                said = described(element)
                for name in pictures.get(number, ()):
                    lines += [f"![{_plain(said)}](<{name}>)", ""]
            case PageEnd():
                lines += ["---", ""]
    if composed.rights:
        lines += ["---", "", _plain(composed.rights), ""]
    return "\n".join(lines).rstrip() + "\n"


def _plain(text: str) -> str:
    """A text without what Markdown would take for its own."""
    return _SIGNS.sub(r"\\\1", text)


def described(element: Music | Drawing) -> str:
    """Music or a drawing in words, for whoever does not see it."""
    if isinstance(element, Drawing):
        return element.words or "A picture"
    start, end = (element.solo_bars[0].onset, element.solo_bars[-1].end)
    chords = [shown_chord(event.symbol) for event in element.solo.chords if start <= event.onset < end]
    notes = sum(start <= note.onset < end for note in element.solo.notes)
    over = f" over {', '.join(chords[:12])}{' …' if len(chords) > 12 else ''}" if chords else ""
    bars = len(element.solo_bars)
    return f"{bars} {'bar' if bars == 1 else 'bars'} of music, {notes} notes{over}"
