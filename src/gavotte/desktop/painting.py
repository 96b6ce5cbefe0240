"""A painter on a widget or a picture, put down again even where painting fails.

Qt takes the program down when a painter is still at work where its paint event ends; the traceback of an error would
keep one so.
"""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

from PyQt6.QtGui import QPaintDevice, QPainter


@contextmanager
def painting(device: QPaintDevice) -> Iterator[QPainter]:
    """Paint on ``device`` as long as this lasts."""
    painter = QPainter(device)
    try:
        yield painter
    finally:
        painter.end()
