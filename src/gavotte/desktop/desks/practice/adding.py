"""Adding things to practise that come from no solo."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

from PyQt6.QtCore import QObject
from PyQt6.QtWidgets import QWidget

from gavotte.desktop.desk.studio import Studio
from gavotte.desktop.desks.practice.new_dialogs import ChangesDialog, ScaleDialog
from gavotte.desktop.errands.to_practise import ToBePractised
from gavotte.desktop.theme.palette import DAY, Palette
from gavotte.practice.item import Kind
from gavotte.solo.document import TREBLE, Instrument, Solo
from gavotte.solo.instruments import instrument_named


class Adding(QObject):
    """Asks in dialogs what is to be practised, and puts it among the rest. ``dialog`` is the last one."""

    def __init__(self, studio: Studio, window: QWidget) -> None:
        super().__init__(window)
        self._studio, self._window = studio, window
        self.palette: Palette = DAY
        self.dialog: ChangesDialog | ScaleDialog | None = None

    @property
    def _instrument(self) -> Instrument:
        """Who plays: the instrument everything is read for, else the open solo's."""
        solo = self._studio.session.solo
        reader = instrument_named(self._studio.view.reader) if self._studio.view.reader else None
        return reader or (solo.instrument if solo is not None else TREBLE)

    def changes(self) -> None:
        """Changes to play over: a form, or chords of one's own."""
        dialog = self.dialog = ChangesDialog(self._window, self._instrument, self.palette)
        dialog.accepted.connect(lambda: self._add(dialog.called, Kind.CHANGES, dialog.music, dialog.goal))
        dialog.open()

    def scale(self) -> None:
        """A scale in a pattern."""
        dialog = self.dialog = ScaleDialog(self._window, self._instrument)
        dialog.accepted.connect(lambda: self._add(dialog.called, Kind.EXERCISE, dialog.music, dialog.goal))
        dialog.open()

    def _add(self, name: str, kind: Kind, music: Solo | None, goal: int) -> None:
        if music is None:
            return
        tempo = Fraction(goal) * music.meters[0].meter.beats[0].length
        added = self._studio.practice.add(ToBePractised(name, kind, _at_tempo(music, tempo, name)))
        if added is not None:
            self._studio.asks.go("practice", added)


def _at_tempo(music: Solo, tempo: Fraction, name: str) -> Solo:
    return replace(music, tempo=tempo, title=name)
