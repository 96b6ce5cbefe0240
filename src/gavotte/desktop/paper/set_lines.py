"""The music of a teaching sheet, set line by line. What was set once is kept for as long as its music is the same."""

from __future__ import annotations

from collections.abc import Generator
from dataclasses import dataclass

from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QPainter
from PyQt6.QtWidgets import QGraphicsScene

from gavotte.desktop.page.breath_item import Breaths, breaths_of
from gavotte.desktop.page.line_item import LineItem, LineParts
from gavotte.desktop.theme.palette import PRINT
from gavotte.engraving.engraver import EngravedLine, Engraver, LineFormat, line_breaks
from gavotte.engraving.mei import staff_for
from gavotte.notation.written import Notation
from gavotte.sheets.elements import Music
from gavotte.sheets.pieces import Shown, Skeleton
from gavotte.solo.label import Label
from gavotte.solo.strings import usual_tuning


@dataclass(frozen=True, eq=False)
class SetLine:
    """One line of music, which lives in a scene of its own; its height is in engraver units."""

    item: LineItem
    scene: QGraphicsScene

    @property
    def height(self) -> float:
        """The room it takes."""
        return self.item.height

    def paint(self, painter: QPainter, y: float, width: float) -> None:
        """Paint it at a height of a page that is so wide."""
        area = QRectF(0, 0, width, self.height)
        self.scene.render(painter, QRectF(0, y, width, self.height), area)


@dataclass(frozen=True)
class _Layer:
    """What is set: the solo or its skeleton, with its labels, what is shown of it, and what stands under its notes."""

    notation: Notation
    labels: dict[str, Label]
    parts: LineParts
    degrees: dict[str, str]


class LineSetter:
    """Sets the lines of music; what is no longer asked for is forgotten with ``forget_others``."""

    def __init__(self, engraver: Engraver) -> None:
        self._engraver = engraver
        self._known: dict[tuple[int, float, int], tuple[Music, tuple[SetLine, ...]]] = {}
        self._asked: set[tuple[int, float, int]] = set()

    def lines(
        self, music: Music, width: float, share: float, bars: int | None = None
    ) -> Generator[float, None, tuple[SetLine, ...]]:
        """The lines of some music on a page that is ``width`` wide, in small steps; ``share`` is what they yield.
        ``bars`` are those of a line where that is not what the music wants. Raises EngravingError.
        """
        per_line = bars or music.shown.bars
        key = (id(music), width, per_line)
        self._asked.add(key)
        known = self._known.get(key)
        if known is None:
            lines = yield from self._set(music, width, share, per_line)
            known = self._known[key] = music, tuple(lines)
        return known[1]

    def forget_others(self) -> None:
        """Let go of all that was not asked for since the last time."""
        self._known = {key: known for key, known in self._known.items() if key in self._asked}
        self._asked.clear()

    def _set(self, music: Music, width: float, share: float, per_line: int) -> Generator[float, None, list[SetLine]]:
        lines, layers = [], _layers(music)
        breaths = Breaths(breaths_of(music.division)) if music.division is not None else None
        for first, last in line_breaks(music.notation, per_line, music.first, music.last):
            for layer in layers:
                shape = LineFormat(width * _share(layer.notation, first, last, per_line), per_line)
                staff = staff_for(layer.notation.solo)
                # Whoever is given a few bars out of a solo must see what they are counted in.
                begins = first == music.first
                for line in self._engraver.line(layer.notation, first, last, layer.degrees, staff, shape, begins):
                    lines.append(_set_line(line, layer, music, breaths))
                    yield share
        return lines


def _share(notation: Notation, first: int, last: int, per_line: int) -> float:
    """How much of the width a line of few bars takes; the engraver itself sees to that at the end of a solo."""
    if last == len(notation):
        return 1.0
    length = float(sum(bar.length for bar in notation.grid.bars[first:last]))
    return min(1.0, 0.1 + 0.9 * length / (4 * per_line))


def _layers(music: Music) -> list[_Layer]:
    shown, layers = music.shown, []
    if shown.skeleton is not Skeleton.ALONE or music.skeleton is None:
        layers.append(_layer(music.notation, music.labels, line_parts(music)))
    if music.skeleton is not None:
        alone = shown.skeleton is Skeleton.ALONE
        parts = LineParts(
            lane=alone and shown.lane,
            degrees=shown.degrees,
            chords=alone and shown.chords,
            bar_numbers=alone,
            numerals=alone and shown.numerals,
        )
        layers.append(_layer(*music.skeleton, parts))
    return layers


def _layer(notation: Notation, labels: dict[str, Label], parts: LineParts) -> _Layer:
    wants = parts.degrees or parts.blank
    return _Layer(
        notation, labels, parts, {note: label.shown_degree for note, label in labels.items()} if wants else {}
    )


def line_parts(music: Music) -> LineParts:
    """What is shown of some music."""
    shown: Shown = music.shown
    return LineParts(
        lane=shown.lane and not music.blank,
        degrees=shown.degrees and not music.blank,
        chords=shown.chords,
        bar_numbers=music.numbered,
        footnotes=bool(music.numbers),
        numerals=shown.numerals,
        breaths=music.division is not None,
        blank=music.blank,
        tuning=usual_tuning(music.solo.instrument) if shown.tablature else None,
    )


def _set_line(line: EngravedLine, layer: _Layer, music: Music, breaths: Breaths | None) -> SetLine:
    item = LineItem(line, layer.labels, layer.notation.solo, PRINT, layer.parts)
    if layer.notation is music.notation:
        here = {placed.note.id for placed in line.notes}
        item.set_footnotes({note: number for note, number in music.numbers.items() if note in here})
        if item.breaths is not None and breaths is not None:
            item.breaths.show_breaths(breaths, music.solo.places)
    scene = QGraphicsScene()
    scene.addItem(item)
    item.setPos(0, -item.top)
    return SetLine(item, scene)
