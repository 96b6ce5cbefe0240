"""Synthesisers: FluidSynth with a General MIDI SoundFont, and silence where there is none.

A synthesiser takes notes, bends and levels on channels and gives blocks of stereo samples (float32, shape
(frames, 2), 44,100 Hz). The rest of the room only knows ``Synth``.
"""

from __future__ import annotations

import os
from pathlib import Path
from typing import TYPE_CHECKING, Protocol

from gavotte.sounding.events import Voice
from gavotte.sounding.soloist import BEND_RANGE

SAMPLE_RATE = 44100
"""Frames a second."""

# NumPy is loaded with the first sound: importing it would lengthen every start.
if TYPE_CHECKING:
    import numpy as np
    from numpy.typing import NDArray

    Block = NDArray[np.float32]

_FONT_FOLDERS = ("/usr/share/sounds/sf2", "/usr/share/soundfonts")
_FONTS = ("TimGM6mb.sf2", "default-GM.sf2", "FluidR3_GM.sf2", "default.sf2")
_ACOUSTIC_BASS, _PIANO, _DRUM_BANK = 32, 0, 128


class SynthError(RuntimeError):
    """The synthesiser can't be used. The message says what is missing."""


class Synth(Protocol):
    """What the engine plays on."""

    def program(self, program: int, voice: Voice = Voice.SOLO) -> None:
        """A voice's General MIDI program, from 0."""

    def note_on(self, voice: Voice, key: int, loudness: int) -> None:
        """A note begins."""

    def note_off(self, voice: Voice, key: int) -> None:
        """A note ends."""

    def bend(self, voice: Voice, semitones: float) -> None:
        """The voice's pitch moves by this much."""

    def level(self, voice: Voice, level: float) -> None:
        """The voice's level, 0 to 1."""

    def silence(self) -> None:
        """All notes end at once."""

    def render(self, frames: int) -> Block:
        """The next block of sound."""


class SilentSynth:
    """Plays nothing: for machines without a synthesiser."""

    def program(self, program: int, voice: Voice = Voice.SOLO) -> None: ...

    def note_on(self, voice: Voice, key: int, loudness: int) -> None: ...

    def note_off(self, voice: Voice, key: int) -> None: ...

    def bend(self, voice: Voice, semitones: float) -> None: ...

    def level(self, voice: Voice, level: float) -> None: ...

    def silence(self) -> None: ...

    def render(self, frames: int) -> Block:
        import numpy as np

        return np.zeros((frames, 2), np.float32)


def find_soundfont(chosen: str = "") -> Path:
    """The SoundFont to use: ``chosen``, the one named by GAVOTTE_SOUNDFONT, or an installed one. Raises SynthError."""
    for wanted in (chosen, os.environ.get("GAVOTTE_SOUNDFONT", "")):
        if wanted:
            if Path(wanted).is_file():
                return Path(wanted)
            raise SynthError(f"The SoundFont {wanted} is not there. Choose another in the preferences.")
    for folder in _FONT_FOLDERS:
        for name in _FONTS:
            if (Path(folder) / name).is_file():
                return Path(folder) / name
    raise SynthError("No SoundFont is installed. Install the package timgm6mb-soundfont, or choose a file.")


class FluidSynth:
    """FluidSynth through pyfluidsynth. Raises SynthError where library or font can't be loaded."""

    def __init__(self, font: Path) -> None:
        try:
            # Loaded here: importing it looks for the system's library and costs time.
            import fluidsynth
        except (ImportError, OSError, AttributeError) as error:
            raise SynthError("Sound needs FluidSynth. Install the package libfluidsynth3.") from error
        self._synth = fluidsynth.Synth(gain=0.6, samplerate=SAMPLE_RATE, channels=16)
        self._font = self._synth.sfload(str(font))
        if self._font < 0:
            self._synth.delete()
            raise SynthError(f"{font.name} is no SoundFont that can be read. Choose another in the preferences.")
        for channel, bank, program in (
            (Voice.SOLO, 0, 0),
            (Voice.BASS, 0, _ACOUSTIC_BASS),
            (Voice.CHORDS, 0, _PIANO),
            (Voice.DRUMS, _DRUM_BANK, 0),
            (Voice.CLICK, _DRUM_BANK, 0),
        ):
            self._synth.program_select(int(channel), self._font, bank, program)
        # Registered parameter 0 is the bend range in semitones.
        for controller, value in ((101, 0), (100, 0), (6, BEND_RANGE), (38, 0)):
            self._synth.cc(int(Voice.SOLO), controller, value)

    def program(self, program: int, voice: Voice = Voice.SOLO) -> None:
        self._synth.program_select(int(voice), self._font, 0, program)

    def note_on(self, voice: Voice, key: int, loudness: int) -> None:
        self._synth.noteon(int(voice), key, loudness)

    def note_off(self, voice: Voice, key: int) -> None:
        self._synth.noteoff(int(voice), key)

    def bend(self, voice: Voice, semitones: float) -> None:
        self._synth.pitch_bend(int(voice), max(-8192, min(8191, round(semitones / BEND_RANGE * 8192))))

    def level(self, voice: Voice, level: float) -> None:
        self._synth.cc(int(voice), 7, round(127 * max(0.0, min(1.0, level))))

    def silence(self) -> None:
        for voice in Voice:
            self._synth.all_notes_off(int(voice))
        self.bend(Voice.SOLO, 0)

    def render(self, frames: int) -> Block:
        import numpy as np

        samples = np.asarray(self._synth.get_samples(frames), np.int16)
        return (samples.reshape(-1, 2) / np.float32(32768)).astype(np.float32)

    def close(self) -> None:
        """Free the synthesiser."""
        self._synth.delete()
