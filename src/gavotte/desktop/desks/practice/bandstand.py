"""The band of what is on the stand: how it plays now, another one each time, and the band as a file."""

from __future__ import annotations

import random
from collections.abc import Callable, Generator
from dataclasses import replace
from pathlib import Path

from PyQt6.QtCore import QObject

from gavotte.desktop.desk.studio import Studio
from gavotte.desktop.desks.practice.agenda import Agenda
from gavotte.desktop.desks.practice.band_panel import HIGHEST_SEED, BandPanel
from gavotte.desktop.desks.practice.made import Made
from gavotte.desktop.translation import translate
from gavotte.formats.whole_file import whole_file, write_whole
from gavotte.sounding.backing import USUAL_BACKING, Backing
from gavotte.sounding.events import Performance, Voice
from gavotte.sounding.midi_out import midi_of
from gavotte.sounding.performance import perform
from gavotte.sounding.rendering import rendered
from gavotte.sounding.synth import SAMPLE_RATE, FluidSynth, find_soundfont
from gavotte.steps import scaled

_PLAYED = 0.95
_LOUDEST = 0.9


class Bandstand(QObject):
    """What the band of a run is, and where it is written to."""

    def __init__(
        self, studio: Studio, agenda: Agenda, panel: BandPanel, made: Callable[[], Made | None], parent: QObject
    ) -> None:
        super().__init__(parent)
        self._studio, self._agenda, self._panel, self._made = studio, agenda, panel, made
        self._drawn: int | None = None
        self._heard = USUAL_BACKING

    @property
    def backing(self) -> Backing:
        """How the band plays the run that is on the stand."""
        made = self._made()
        if made is None:
            return USUAL_BACKING
        item, held = self._agenda.item, made.run.backing.held_from
        backing = item.band.backing(held) if item is not None else made.run.backing
        return backing if self._drawn is None else replace(backing, seed=self._drawn)

    def show_item(self) -> None:
        """Show the band of what is on the stand, as its item has it."""
        item = self._agenda.item
        if item is None:
            return
        self._panel.show_item(item)
        if not item.band.is_new_each_time:
            self._drawn = None
        elif self._drawn is not None:
            self._panel.show_seed(self._drawn)
        if self._heard != self.backing:
            # It is heard from the next beginning on.
            self._heard = self.backing
            if self._panel.isVisible():
                self._studio.playing.refresh()

    def ended(self) -> None:
        """It has played: where that is wished another band comes next."""
        item = self._agenda.item
        if item is not None and item.band.is_new_each_time:
            self._drawn = random.randrange(1, HIGHEST_SEED + 1)
            self._panel.show_seed(self._drawn)
            self._studio.playing.refresh()

    def write(self, path: Path) -> None:
        """Write what is heard in the run as a sound (WAV, FLAC) or a MIDI file, by its ending."""
        made = self._made()
        if made is None:
            return
        transport, backing, solo = self._studio.transport, self.backing, made.run.heard
        swing, rate = transport.swing_used(solo), transport.rate
        levels: dict[Voice, float] = {
            voice: level for voice, level in transport.levels.items() if voice is not Voice.CLICK
        }

        def performance() -> Performance:
            return perform(solo, swing, backing=backing)[0]

        def steps() -> Generator[float, None, None]:
            import numpy as np
            import soundfile

            # The synthesiser that plays is not asked: it may be playing.
            playing = rendered(performance(), FluidSynth(find_soundfont()), levels, rate)
            sound = yield from scaled(playing, 0.0, _PLAYED)
            loudest = float(np.abs(sound).max())
            if loudest > _LOUDEST:
                sound *= _LOUDEST / loudest
            kind = "FLAC" if path.suffix.lower() == ".flac" else "WAV"
            with whole_file(path) as draft:
                soundfile.write(draft, sound, SAMPLE_RATE, format=kind, subtype="PCM_16")
            yield 1.0

        def done(_: object) -> None:
            self._studio.asks.tell(translate("Gavotte", "The band is written to {name}").format(name=path.name))

        def failed(error: Exception) -> None:
            words = translate("Gavotte", "The band can't be written to {name}: {error}")
            self._studio.asks.notice(words.format(name=path.name, error=error))

        activities = self._studio.activities
        if path.suffix.lower() in (".mid", ".midi"):
            activities.beside(
                self, lambda: write_whole(path, midi_of(performance(), solo, rate)), done, failed, apart=True
            )
        else:
            activities.walk(
                self, steps, done, failed, translate("Gavotte", "Playing the band into {name}").format(name=path.name),
                lambda: None, apart=True,
            )  # fmt: skip
