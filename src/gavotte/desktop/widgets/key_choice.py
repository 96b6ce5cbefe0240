"""Choices of a tonic and a mode, for every dialog that asks for a key."""

from __future__ import annotations

from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.choice import Choice
from gavotte.theory.key import MODES, Key
from gavotte.theory.pitch import PitchName

TONIC_NAMES = ["C", "Db", "D", "Eb", "E", "F", "F#", "Gb", "G", "Ab", "A", "Bb", "B", "C#", "D#", "G#", "A#", "Cb"]
MODE_NAMES = ("major", "minor", *sorted(MODES - {"major", "minor", "ionian", "aeolian"}))


def tonic_choice(current: PitchName | None = None) -> Choice:
    """All the tonics anybody writes, and the current one."""
    choice = Choice()
    for name in TONIC_NAMES:
        choice.addItem(PitchName.parse(name).shown, name)
    if current is not None:
        _choose(choice, current.shown, str(current))
    choice.setAccessibleName(translate("Gavotte", "Tonic"))
    return choice


def mode_choice(current: str = "major") -> Choice:
    """All modes, and the current one."""
    choice = Choice()
    for mode in MODE_NAMES:
        choice.addItem(mode, mode)
    _choose(choice, current, current)
    choice.setAccessibleName(translate("Gavotte", "Mode"))
    return choice


def chosen_key(tonic: Choice, mode: Choice) -> Key:
    """The key two choices stand at."""
    return Key(PitchName.parse(tonic.currentData()), mode.currentData())


def _choose(choice: Choice, text: str, value: str) -> None:
    """Make a value the current one, adding it where the usual ones do not hold it."""
    if choice.findData(value) < 0:
        choice.addItem(text, value)
    choice.setCurrentIndex(choice.findData(value))
