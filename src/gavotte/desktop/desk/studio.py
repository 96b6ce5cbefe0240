"""The studio: what all desks work with. There is one in a window; every desk is given it."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import QSettings

from gavotte.desktop.activity import Activities
from gavotte.desktop.asks import Asks
from gavotte.desktop.errands.beginning import Beginning
from gavotte.desktop.errands.exporting import Exporter
from gavotte.desktop.errands.importing import Importer
from gavotte.desktop.errands.indexer import Indexer
from gavotte.desktop.errands.keeping import Keeping
from gavotte.desktop.errands.library_edits import LibraryEdits
from gavotte.desktop.errands.open_sheet import OpenSheet
from gavotte.desktop.errands.to_practise import ToPractise
from gavotte.desktop.errands.to_the_bench import ToTheBench
from gavotte.desktop.playback.deck import Deck
from gavotte.desktop.playback.hearing import Hearing
from gavotte.desktop.playback.playing import Playing
from gavotte.desktop.playback.transport import Transport
from gavotte.desktop.solo.opening import Opening
from gavotte.desktop.solo.saver import Saver
from gavotte.desktop.solo.session import SoloSession
from gavotte.desktop.solo.tape import Tape
from gavotte.desktop.solo.view import View
from gavotte.engraving.engraver import Engraver
from gavotte.library.store import Library


@dataclass(frozen=True)
class Studio:
    """The library and what is open of it, what sounds, what can be asked for, and what is being worked out."""

    library: Library
    settings: QSettings
    engraver: Engraver
    activities: Activities
    asks: Asks
    view: View
    saver: Saver
    session: SoloSession
    opening: Opening
    tape: Tape
    deck: Deck
    hearing: Hearing
    transport: Transport
    playing: Playing
    beginning: Beginning
    importer: Importer
    exporter: Exporter
    edits: LibraryEdits
    keeping: Keeping
    bench: ToTheBench
    practice: ToPractise
    sheets: OpenSheet
    indexer: Indexer
