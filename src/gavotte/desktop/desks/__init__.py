"""The desks, one folder each, in the order of a transcriber's work. A new desk is its folder and a line here."""

from __future__ import annotations

from gavotte.desktop.desk.desk import Desk
from gavotte.desktop.desks.compare.desk import CompareDesk
from gavotte.desktop.desks.label.desk import LabelDesk
from gavotte.desktop.desks.listen.desk import ListenDesk
from gavotte.desktop.desks.phrases.desk import PhrasesDesk
from gavotte.desktop.desks.practice.desk import PracticeDesk
from gavotte.desktop.desks.sheets.desk import SheetsDesk
from gavotte.desktop.desks.shelf.desk import ShelfDesk
from gavotte.desktop.desks.vocabulary.desk import VocabularyDesk
from gavotte.desktop.desks.workshop.desk import WorkshopDesk
from gavotte.desktop.desks.write.desk import WriteDesk

DESKS: tuple[type[Desk], ...] = (
    ShelfDesk,
    ListenDesk,
    WriteDesk,
    LabelDesk,
    PhrasesDesk,
    VocabularyDesk,
    WorkshopDesk,
    PracticeDesk,
    CompareDesk,
    SheetsDesk,
)
"""The registry. Window, rail, menus, map of keys, palette and restoring all go through it."""
