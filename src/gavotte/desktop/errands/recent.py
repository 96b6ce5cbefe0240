"""Which solos were opened last."""

from __future__ import annotations

from PyQt6.QtCore import QSettings

from gavotte.library.store import Library

MOST = 8
_KEY = "recent"


def remember(settings: QSettings, solo_id: str) -> None:
    """Put a solo first among the recent ones."""
    ids = [known for known in _ids(settings) if known != solo_id]
    settings.setValue(_KEY, " ".join([solo_id, *ids][: 2 * MOST]))


def recent_solos(settings: QSettings, library: Library) -> list[tuple[str, str]]:
    """(id, title) of the solos opened last that are still on the shelf, the latest first."""
    titles = {entry.id: entry.title for entry in library.solos()}
    return [(solo_id, titles[solo_id]) for solo_id in _ids(settings) if solo_id in titles][:MOST]


def _ids(settings: QSettings) -> list[str]:
    return str(settings.value(_KEY, "")).split()
