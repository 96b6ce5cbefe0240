"""A run as it is read at the desk."""

from __future__ import annotations

from dataclasses import dataclass

from gavotte.practice.run import Run
from gavotte.solo.document import Solo
from gavotte.solo.label import Label


@dataclass(frozen=True)
class Made:
    """A run as it is to be read: the ``page`` while it is played, the ``whole`` of it, and the labels of its notes."""

    run: Run
    page: Solo
    whole: Solo
    labels: dict[str, Label]
