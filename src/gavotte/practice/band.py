"""The band a run is played with: its groove, how it plays, and what stands before and behind the music."""

from __future__ import annotations

from dataclasses import dataclass, replace
from enum import StrEnum
from fractions import Fraction

from gavotte.solo.document import Solo
from gavotte.sounding.backing import Backing, Feel, Intensity
from gavotte.sounding.groove import Groove, grooves_for
from gavotte.writing.chord_line import read_chord_line
from gavotte.writing.forms import Form, form_in_key


class Intro(StrEnum):
    """What the band plays before the music."""

    NONE = "none"
    TURNAROUND = "turnaround"
    DOMINANT = "dominant"


class Ending(StrEnum):
    """What the band plays behind the music."""

    NONE = "none"
    HELD = "held"
    TAG = "tag"


@dataclass(frozen=True, slots=True)
class BandWishes:
    """How the band of an item is wished. ``groove`` None is the one of the music's style; where ``is_new_each_time``
    the ``seed`` is another one whenever the band begins.
    """

    groove: Groove | None = None
    feel: Feel = Feel.STYLE
    intensity: Intensity = Intensity.MIDDLE
    seed: int = 0
    is_new_each_time: bool = False
    intro: Intro = Intro.NONE
    ending: Ending = Ending.NONE

    def backing(self, held_from: Fraction | None = None) -> Backing:
        """How it is played."""
        return Backing(self.feel, self.intensity, self.seed, held_from)

    @property
    def written(self) -> tuple[Groove | None, Intro, Ending]:
        """What of it stands on the page; the rest only sounds."""
        return self.groove, self.intro, self.ending

    def styled(self, solo: Solo) -> Solo:
        """A solo in the groove that is wished, as far as a band can play it in the solo's meter."""
        if self.groove is None or self.groove not in grooves_for(solo.meters[0].meter):
            return solo
        return replace(solo, style=str(self.groove), swing=None)


USUAL_BAND = BandWishes()

_INTROS = {
    (Intro.TURNAROUND, "major"): "| C6 | A7 | Dm7 | G7 |",
    (Intro.TURNAROUND, "minor"): "| Cm6 | Am7b5 | Dm7b5 | G7b9 |",
    (Intro.TURNAROUND, "blues"): "| C7 | A7 | Dm7 | G7 |",
    (Intro.DOMINANT, "major"): "| G7sus4 | % | % | % |",
    (Intro.DOMINANT, "minor"): "| G7sus4 | % | % | % |",
    (Intro.DOMINANT, "blues"): "| G7sus4 | % | % | % |",
}
_ENDINGS = {
    (Ending.HELD, "major"): "| C6 | % |",
    (Ending.HELD, "minor"): "| Cm6 | % |",
    (Ending.HELD, "blues"): "| C7 | % |",
    (Ending.TAG, "major"): "| Em7 | A7 | Dm7 | G7 | C6 | % |",
    (Ending.TAG, "minor"): "| Em7b5 | A7b9 | Dm7b5 | G7b9 | Cm6 | % |",
    (Ending.TAG, "blues"): "| Em7 | A7 | Dm7 | G7 | C7 | % |",
}
HELD_BARS = 2
"""So many bars the last chord of an ending is held."""


def intro_of(music: Solo, intro: Intro) -> Solo | None:
    """The bars before some music, in its first key and meter; None for none."""
    return _changes(music, _INTROS.get((intro, _side(music))), first=True)


def ending_of(music: Solo, ending: Ending) -> Solo | None:
    """The bars behind some music, in its last key and meter; None for none."""
    return _changes(music, _ENDINGS.get((ending, _side(music, last=True))), first=False)


def _side(music: Solo, last: bool = False) -> str:
    region = music.keys[-1 if last else 0]
    if region.blues:
        return "blues"
    return "minor" if region.key.is_minor else "major"


def _changes(music: Solo, text: str | None, first: bool) -> Solo | None:
    if text is None:
        return None
    key, meter = music.keys[0 if first else -1], music.meters[0 if first else -1]
    empty = Solo(
        "",
        instrument=music.instrument,
        style=music.style,
        swing=music.swing,
        school=music.school,
        keys=(replace(key, onset=Fraction(0)),),
        meters=(replace(meter, onset=Fraction(0)),),
        form_end=meter.meter.bar_length,
    )
    return read_chord_line(form_in_key(Form("", False, False, text), key.key), empty).solo
