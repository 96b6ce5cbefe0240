"""The pictures of two sets: ladders of degrees, functions by beat, the form, landings. Painted on any painter.

The first set stands on the left of a ladder's rail, or to the left in a pair, and is filled; the other is hatched. So
it is told apart in grey. ``paint_picture`` gives where each figure was painted, so that it can be pointed at.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum
from functools import cached_property

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QFontMetrics, QPainter, QPen, QPolygonF

from gavotte.desktop.desks.compare.fills import fill_function, fill_side
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.theme.type import SMALL, font
from gavotte.desktop.translation import said, translate
from gavotte.desktop.words import FUNCTION_WORDS
from gavotte.profile.compared import Compared, Row
from gavotte.profile.figures.kind import QUALITY_WORDS
from gavotte.profile.form_curve import Curve, FormCurves, form_curves
from gavotte.profile.telling import note_name
from gavotte.solo.document import Function
from gavotte.theory.chord import DEGREE_SEMITONES
from gavotte.theory.degrees import shown_degree
from gavotte.vocabulary.corpus import DEGREES


class Picture(StrEnum):
    """Which picture."""

    LADDERS = "ladders"
    BEATS = "beats"
    FORM = "form"
    LANDINGS = "landings"


@dataclass(frozen=True)
class Spot:
    """Where a figure was painted, its name, and what it says there."""

    area: QRectF
    figure: str
    words: str


@dataclass(frozen=True)
class Shown:
    """What a picture is painted of: both sets compared, with their names."""

    found: Compared
    here: str
    there: str

    @cached_property
    def rows(self) -> Mapping[str, Row]:
        """The rows by their figures."""
        return {row.figure.name: row for row in self.found.rows}

    @cached_property
    def curves(self) -> FormCurves | None:
        """The curves of both sets over the form."""
        return form_curves(self.found.here.lines, self.found.there.lines)


_HEAD, _GAP, _RUNG, _RAIL, _LOW = 24.0, 16.0, 15.0, 34.0, 20.0
_LEFT, _RIGHT, _MIDDLE = (
    side | Qt.AlignmentFlag.AlignVCenter
    for side in (Qt.AlignmentFlag.AlignLeft, Qt.AlignmentFlag.AlignRight, Qt.AlignmentFlag.AlignHCenter)
)


def paint_picture(painter: QPainter, area: QRectF, picture: Picture, shown: Shown, palette: Palette) -> list[Spot]:
    """Paint a picture with its legend into an area."""
    body = _legend(painter, area, picture, shown, palette)
    paint = {
        Picture.LADDERS: _ladders, Picture.BEATS: _beats, Picture.FORM: _form, Picture.LANDINGS: _landings,
    }[picture]  # fmt: skip
    return paint(painter, body, shown, palette)


def height_of(picture: Picture, shown: Shown, width: float) -> float:
    """How high a picture must be to be read at a width."""
    if picture is Picture.LADDERS:
        kinds = _kinds(shown)
        rows = max((len(rungs) for _, rungs in kinds), default=1)
        lines = -(-max(1, len(kinds)) // _columns(width, len(kinds)))
        return _HEAD + lines * (_HEAD + rows * _RUNG + _GAP)
    if picture is Picture.LANDINGS:
        return _HEAD + _HEAD + _RUNG * max((len(rungs) for _, rungs in _landing_ladders(shown)), default=1) + _GAP
    return 260.0


def _legend(painter: QPainter, area: QRectF, picture: Picture, shown: Shown, palette: Palette) -> QRectF:
    """Which filling is whose; gives what room is left."""
    painter.setFont(font(SMALL))
    metrics, x, y = QFontMetrics(font(SMALL)), area.left(), area.top() + 4
    for words, filling in _entries(picture, shown):
        box = QRectF(x, y + 3, 14, 10)
        if isinstance(filling, Function):
            fill_function(painter, box, filling, palette)
        elif filling is not None and picture is Picture.FORM:
            painter.setPen(_pen_of(filling, palette))
            painter.drawLine(QPointF(x - 6, y + 8), QPointF(x + 14, y + 8))
        elif filling is not None:
            fill_side(painter, box, filling, palette)
        painter.setPen(QColor(palette.text))
        width = min(metrics.horizontalAdvance(words), area.right() - x - 20) + 2
        text = metrics.elidedText(words, Qt.TextElideMode.ElideRight, int(width))
        painter.drawText(QRectF(x if filling is None else x + 20, y, width, 16), _LEFT, text)
        x += width + 44
    return area.adjusted(0, _HEAD + 4, 0, 0)


def _entries(picture: Picture, shown: Shown) -> list[tuple[str, Function | bool | None]]:
    """The words of the legend with what they stand for: a function, the first set or the other, or nothing."""
    if picture is Picture.BEATS:
        pair = translate("Gavotte", "In each pair left {here}, right {there}").format(
            here=shown.here, there=shown.there
        )
        return [*((said(FUNCTION_WORDS[function]), function) for function in Function), (pair, None)]
    entries: list[tuple[str, Function | bool | None]] = [(shown.here, True), (shown.there, False)]
    curves = shown.curves if picture is Picture.FORM else None
    return entries if curves is None else [*entries, (form_words(curves), None)]


def _pen_of(is_here: bool, palette: Palette) -> QPen:
    """What a set's line is drawn with: the first one's whole, the other's broken."""
    style = Qt.PenStyle.SolidLine if is_here else Qt.PenStyle.DashLine
    return QPen(QColor(palette.accent if is_here else palette.text), 2, style)


# -- ladders ---------------------------------------------------------------------------------------------------

Rung = tuple[str, str]
"""What is written on a rung, and its figure."""


def _columns(width: float, count: int) -> int:
    """How many ladders stand beside one another."""
    fits = max(1, int(width // 150))
    return max(1, min(count, fits, count if count <= fits else -(-count // 2)))


def _kinds(shown: Shown) -> list[tuple[str, list[Rung]]]:
    """A ladder for each kind of chord that is played over: the degrees either set has, the root at the foot."""
    rows = shown.rows
    ordered = sorted(DEGREES, key=lambda degree: (-DEGREE_SEMITONES[degree], DEGREES.index(degree)))
    found = []
    for quality, words in QUALITY_WORDS.items():
        names = [(shown_degree(degree), f"degree {degree} over {quality}") for degree in ordered]
        rungs = [(word, name) for word, name in names if name in rows]
        if rungs:
            found.append((words[:1].upper() + words[1:], rungs))
    return found


def _ladders(painter: QPainter, area: QRectF, shown: Shown, palette: Palette) -> list[Spot]:
    kinds = _kinds(shown)
    columns = _columns(area.width(), len(kinds))
    wide = (area.width() - _GAP * (columns - 1)) / columns
    high = _HEAD + _RUNG * max((len(rungs) for _, rungs in kinds), default=1) + _GAP
    most = _most(shown, [name for _, rungs in kinds for _, name in rungs])
    spots: list[Spot] = []
    for number, (title, rungs) in enumerate(kinds):
        box = QRectF(
            area.left() + number % columns * (wide + _GAP), area.top() + number // columns * high, wide, high - _GAP
        )
        spots += _ladder(painter, box, title, rungs, most, shown, palette)
    return spots


def _most(shown: Shown, names: Sequence[str]) -> float:
    """The greatest share among some figures: what a whole rung stands for."""
    rows = shown.rows
    values = [v.value for name in names if name in rows for v in (rows[name].here, rows[name].there) if v is not None]
    return max(values, default=1.0) or 1.0


def _ladder(
    painter: QPainter, area: QRectF, title: str, rungs: Sequence[Rung], most: float, shown: Shown, palette: Palette,
    rail: float = _RAIL,
) -> list[Spot]:  # fmt: skip
    """Paint a ladder: rungs to the left for the first set, to the right for the other."""
    painter.setFont(font(SMALL, 700))
    painter.setPen(QColor(palette.text))
    words = QFontMetrics(font(SMALL, 700)).elidedText(title, Qt.TextElideMode.ElideRight, int(area.width()))
    painter.drawText(QRectF(area.left(), area.top(), area.width(), _LOW), _MIDDLE, words)
    middle = area.center().x()
    room = area.width() / 2 - rail / 2 - 2
    foot = area.top() + _HEAD + _RUNG * len(rungs)
    painter.setPen(QPen(QColor(palette.rule), 1))
    for side in (-1, 1):
        x = middle + side * rail / 2
        painter.drawLine(QPointF(x, area.top() + _HEAD - 2), QPointF(x, foot + 2))
    spots = []
    for number, (word, name) in enumerate(rungs):
        line = QRectF(area.left(), area.top() + _HEAD + number * _RUNG, area.width(), _RUNG)
        row = shown.rows.get(name)
        strong = row is not None and row.stands_out
        painter.setFont(font(SMALL, 700 if strong else 400))
        painter.setPen(QColor(palette.text if row is not None else palette.quiet_text))
        painter.drawText(QRectF(middle - rail / 2, line.top(), rail, _RUNG), _MIDDLE, word)
        if row is None:
            continue
        for value, side in ((row.here, -1), (row.there, 1)):
            if value is not None and value.value > 0:
                length = max(1.0, room * value.value / most)
                start = middle + side * (rail / 2 + 1)
                box = QRectF(min(start, start + side * length), line.top() + 2.5, length, _RUNG - 5)
                fill_side(painter, box, side < 0, palette, strong or not shown.found.apart)
        spots.append(Spot(line, name, _spoken(row)))
    return spots


def _spoken(row: Row) -> str:
    shares = [f"{100 * value.value:.0f} %" if value is not None else "–" for value in (row.here, row.there)]
    return f"{row.figure.words}: {shares[0]} · {shares[1]}"


# -- landings --------------------------------------------------------------------------------------------------


def _landing_ladders(shown: Shown) -> list[tuple[str, list[Rung]]]:
    rows = shown.rows
    ordered = sorted(DEGREES, key=lambda degree: (-DEGREE_SEMITONES[degree], DEGREES.index(degree)))

    def of(prefix: str) -> list[Rung]:
        names = [(shown_degree(degree), f"{prefix} {degree}") for degree in ordered]
        return [(word, name) for word, name in names if name in rows]

    met = [
        (translate("Gavotte", "early"), "landing early"),
        (translate("Gavotte", "on time"), "landing on time"),
        (translate("Gavotte", "late"), "landing late"),
        (translate("Gavotte", "led to"), "landing prepared"),
        (translate("Gavotte", "from below"), "landing prepared below"),
        (translate("Gavotte", "from above"), "landing prepared above"),
        (translate("Gavotte", "enclosed"), "landing prepared enclosure"),
    ]
    return [
        (translate("Gavotte", "First note of a chord"), of("landing on")),
        (translate("Gavotte", "How changes are met"), met),
        (translate("Gavotte", "Last note of a phrase"), of("ending on")),
        (translate("Gavotte", "What approaches lead to"), of("approach to")),
    ]


def _landings(painter: QPainter, area: QRectF, shown: Shown, palette: Palette) -> list[Spot]:
    ladders = _landing_ladders(shown)
    wide = (area.width() - _GAP * (len(ladders) - 1)) / len(ladders)
    spots: list[Spot] = []
    for number, (title, rungs) in enumerate(ladders):
        box = QRectF(area.left() + number * (wide + _GAP), area.top(), wide, area.height())
        rail = 76.0 if any(len(word) > 4 for word, _ in rungs) else _RAIL
        names = [name for _, name in rungs]
        spots += _ladder(painter, box, title, rungs, _most(shown, names), shown, palette, rail)
    return spots


# -- beats -----------------------------------------------------------------------------------------------------


def _beats(painter: QPainter, area: QRectF, shown: Shown, palette: Palette) -> list[Spot]:
    places = [(translate("Gavotte", "Beat {number}").format(number=k), f"beat {k}") for k in range(1, 5)]
    places += [
        (translate("Gavotte", "Between beats"), "between beats"), (translate("Gavotte", "First note"), "first"),
        (translate("Gavotte", "Last note"), "last"),
    ]  # fmt: skip
    wide = area.width() / len(places)
    column = min(34.0, wide * 0.3)
    top, foot = area.top() + 2, min(area.bottom() - 22, area.top() + 320)
    spots: list[Spot] = []
    for number, (words, name) in enumerate(places):
        middle = area.left() + (number + 0.5) * wide
        painter.setFont(font(SMALL))
        painter.setPen(QColor(palette.text))
        painter.drawText(QRectF(middle - wide / 2, foot + 2, wide, 18), _MIDDLE, words)
        for is_here in (True, False):
            x = middle - column - 2 if is_here else middle + 2
            y = foot
            for function in Function:
                row = shown.rows.get(f"function {function} {name}")
                value = None if row is None else row.here if is_here else row.there
                if row is None or value is None or value.value <= 0:
                    continue
                height = (foot - top) * value.value
                box = QRectF(x, y - height, column, height)
                fill_function(painter, box, function, palette)
                spots.append(Spot(box, row.figure.name, _spoken(row)))
                y -= height
    return spots


# -- the form --------------------------------------------------------------------------------------------------


def _form(painter: QPainter, area: QRectF, shown: Shown, palette: Palette) -> list[Spot]:
    curves = shown.curves
    if curves is None:
        painter.setPen(QColor(palette.quiet_text))
        words = translate("Gavotte", "None of these solos has choruses. They are set at the Write desk, with the form.")
        painter.drawText(area, _MIDDLE, words)
        return []
    body = area.adjusted(44, 4, -8, -22)
    upper = QRectF(body.left(), body.top(), body.width(), body.height() * 0.62)
    lower = QRectF(body.left(), body.top() + body.height() * 0.7, body.width(), body.height() * 0.3)
    there = [curve for curve in (curves.here, curves.there) if curve is not None]
    low = min(float(np.nanmin(curve.low)) for curve in there if np.isfinite(curve.low).any())
    high = max(float(np.nanmax(curve.high)) for curve in there if np.isfinite(curve.high).any())
    densest = max(float(curve.density.max()) for curve in there) or 1.0
    _frame_of_form(painter, upper, lower, curves.bars, (low, high), densest, palette)
    for curve, is_here in ((curves.here, True), (curves.there, False)):
        if curve is not None:
            _curve(painter, upper, lower, curve, (low, high), densest, is_here, palette)
    wide = body.width() / 4
    return [
        Spot(QRectF(body.left() + k * wide, part.top(), wide, part.height()), f"{name} in quarter {k + 1}", "")
        for part, name in ((upper, "register"), (lower, "density"))
        for k in range(4)
    ]


def form_words(curves: FormCurves) -> str:
    """Of how many choruses the curves are."""
    told = translate("Gavotte", "{bars} bars; choruses: {here} and {there}")
    numbers = (0 if curve is None else curve.choruses for curve in (curves.here, curves.there))
    return told.format(bars=curves.bars, **dict(zip(("here", "there"), numbers, strict=True)))


def _frame_of_form(
    painter: QPainter, upper: QRectF, lower: QRectF, bars: int, pitches: tuple[float, float], densest: float,
    palette: Palette,
) -> None:  # fmt: skip
    painter.setFont(font(SMALL))
    step = 4 if bars > 8 else 1
    for bar in range(0, bars + 1, step):
        x = upper.left() + upper.width() * bar / bars
        painter.setPen(QPen(QColor(palette.rule), 1))
        painter.drawLine(QPointF(x, upper.top()), QPointF(x, lower.bottom()))
        if bar < bars:
            painter.setPen(QColor(palette.quiet_text))
            painter.drawText(QRectF(x + 2, lower.bottom() + 2, 40, 16), _LEFT, str(bar + 1))
    painter.setPen(QColor(palette.quiet_text))
    edge = upper.left() - 44
    for value, y in ((pitches[1], upper.top()), (pitches[0], upper.bottom())):
        painter.drawText(QRectF(edge, y - 8, 38, 16), _RIGHT, note_name(round(value)))
    painter.drawText(QRectF(edge, lower.top() - 8, 38, 16), _RIGHT, f"{densest:.1f}")
    painter.drawText(QRectF(edge, lower.bottom() - 8, 38, 16), _RIGHT, "0")
    painter.drawText(QRectF(upper.left() + 4, lower.top() - 17, 200, 16), _LEFT, translate("Gavotte", "notes a beat"))


def _curve(
    painter: QPainter, upper: QRectF, lower: QRectF, curve: Curve, pitches: tuple[float, float], densest: float,
    is_here: bool, palette: Palette,
) -> None:  # fmt: skip
    bars = len(curve.pitch)
    colour = QColor(palette.accent if is_here else palette.text)
    span = max(1e-6, pitches[1] - pitches[0])

    def at(bar: int, value: float) -> QPointF:
        x = upper.left() + upper.width() * (bar + 0.5) / bars
        return QPointF(x, upper.bottom() - upper.height() * (value - pitches[0]) / span)

    line = QPolygonF()
    for bar in range(bars):
        if not np.isfinite(curve.pitch[bar]):
            continue
        painter.setPen(QPen(colour, 1))
        shift = QPointF(-2 if is_here else 2, 0)
        painter.drawLine(at(bar, float(curve.low[bar])) + shift, at(bar, float(curve.high[bar])) + shift)
        line.append(at(bar, float(curve.pitch[bar])))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(_pen_of(is_here, palette))
    painter.drawPolyline(line)
    steps = QPolygonF()
    for bar in range(bars):
        y = lower.bottom() - lower.height() * float(curve.density[bar]) / densest
        for edge in (bar, bar + 1):
            steps.append(QPointF(lower.left() + lower.width() * edge / bars, y))
    painter.drawPolyline(steps)
