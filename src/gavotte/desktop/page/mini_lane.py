"""The mini lane: a stretch of music in one glance, its function lane a few pixels high and without a staff."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPen, QPolygonF

from gavotte.desktop.theme.palette import Palette
from gavotte.solo.document import Function
from gavotte.vocabulary.corpus import FUNCTIONS

HEIGHT = 18
"""Pixels a mini lane needs."""
_MOST_NOTES = 48
_WIDEST, _NARROWEST = 15.0, 5.0
"""Pixels from note to note where all are alike."""


def paint_mini_lane(
    painter: QPainter, rect: QRectF, notes: NDArray[np.void], palette: Palette, marked: frozenset[int] = frozenset()
) -> None:
    """Paint a stretch of a labelled line (see ``vocabulary.corpus.NOTE``): each note's function on the ground line of
    its chord, lifted as it is in the lane. ``marked`` notes stand on a bar of the accent colour.
    """
    shown = notes[:_MOST_NOTES]
    if not len(shown):
        return
    xs = _places(shown, rect)
    ground = rect.bottom() - 3
    painter.setPen(QPen(QColor(palette.rule), 1))
    painter.drawLine(QPointF(rect.left(), ground), QPointF(min(rect.right(), xs[-1] + 6), ground))
    chords = shown["chord"]
    for k, (x, note) in enumerate(zip(xs, shown, strict=True)):
        if k and chords[k] != chords[k - 1]:
            painter.setPen(QPen(QColor(palette.quiet_text), 1))
            painter.drawLine(QPointF(x - 4, ground - 2), QPointF(x - 4, ground + 3))
        if k in marked:
            painter.fillRect(QRectF(x - 3, ground + 1, 6, 2), QColor(palette.accent))
        target = int(note["target"])
        paint_function(painter, x, ground, FUNCTIONS[note["function"]], palette, target < 0 or target > k)


def _places(notes: NDArray[np.void], rect: QRectF) -> list[float]:
    """Where each note stands: in time, but never so near to another that they could not be told apart."""
    onsets = notes["onset"].astype(float)
    length = max(float(onsets[-1] - onsets[0]), 0.25)
    width = min(rect.width() - 8, _WIDEST * len(notes))
    least = min(_NARROWEST, width / max(1, len(notes)))
    xs = rect.left() + 4 + (onsets - onsets[0]) / length * (width - 8 if len(notes) > 1 else 0)
    for k in range(1, len(xs)):
        xs[k] = max(xs[k], xs[k - 1] + least)
    return [float(x) for x in xs]


def paint_function(
    painter: QPainter, x: float, ground: float, function: Function, palette: Palette, points_right: bool = True
) -> None:
    """Paint a function's mark in small: its shape is that of the lane."""
    colour = palette.function(function)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(colour)
    match function:
        case Function.CHORD:
            painter.drawRect(QRectF(x - 2.5, ground - 6, 5, 6))
        case Function.EXTENSION:
            painter.drawRect(QRectF(x - 2.5, ground - 12, 5, 5))
            painter.setPen(QPen(colour, 1))
            painter.drawLine(QPointF(x, ground), QPointF(x, ground - 7))
        case Function.PASSING:
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(colour, 1.2))
            painter.drawEllipse(QPointF(x, ground - 4.5), 2.4, 2.4)
        case Function.APPROACH:
            tip = 3.4 if points_right else -3.4
            painter.drawPolygon(
                QPolygonF([QPointF(x + tip, ground - 4.5), QPointF(x - tip, ground - 8), QPointF(x - tip, ground - 1)])
            )
        case Function.OUTSIDE:
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(colour, 1.2))
            painter.drawRect(QRectF(x - 2.5, ground - 15, 5, 5))
