"""The words of the Practice desk."""

from __future__ import annotations

from collections.abc import Callable
from datetime import timedelta
from fractions import Fraction

from gavotte.desktop.translation import QT_TRANSLATE_NOOP, said, translate
from gavotte.desktop.words import counted
from gavotte.practice.band import Ending, Intro
from gavotte.practice.climbing import When
from gavotte.practice.invented import Manner
from gavotte.practice.item import Kind, PracticeItem
from gavotte.practice.plan import Answer, Planned, Why
from gavotte.practice.run import Fading, Part, Way
from gavotte.solo.document import KeyRegion, Solo
from gavotte.sounding.backing import Feel, Intensity
from gavotte.sounding.click import Click
from gavotte.sounding.groove import Groove

ANSWERS = {
    Answer.NOT_YET: QT_TRANSLATE_NOOP("Gavotte", "Not yet"),
    Answer.WITH_EFFORT: QT_TRANSLATE_NOOP("Gavotte", "With effort"),
    Answer.WELL: QT_TRANSLATE_NOOP("Gavotte", "Well"),
    Answer.WITH_EASE: QT_TRANSLATE_NOOP("Gavotte", "With ease"),
}
WAYS = {
    Way.ALONG: QT_TRANSLATE_NOOP("Gavotte", "Play along"),
    Way.ANSWER: QT_TRANSLATE_NOOP("Gavotte", "Listen and answer"),
    Way.READ: QT_TRANSLATE_NOOP("Gavotte", "Read and answer"),
    Way.KEYS: QT_TRANSLATE_NOOP("Gavotte", "Through the keys"),
}
FADINGS = {
    Fading.ALL: QT_TRANSLATE_NOOP("Gavotte", "All notes shown"),
    Fading.HALF: QT_TRANSLATE_NOOP("Gavotte", "Every second bar shown"),
    Fading.SKELETON: QT_TRANSLATE_NOOP("Gavotte", "Only the skeleton shown"),
    Fading.LANE: QT_TRANSLATE_NOOP("Gavotte", "Only the lane shown"),
    Fading.CHORDS: QT_TRANSLATE_NOOP("Gavotte", "Only the chords shown"),
    Fading.FORM: QT_TRANSLATE_NOOP("Gavotte", "Only the form shown"),
    Fading.NOTHING: QT_TRANSLATE_NOOP("Gavotte", "Nothing shown"),
    Fading.STEP_BY_STEP: QT_TRANSLATE_NOOP("Gavotte", "Less at each pass"),
}
MANNERS = {
    Manner.CLEAN: QT_TRANSLATE_NOOP("Gavotte", "Invented take, clean"),
    Manner.RUSHED: QT_TRANSLATE_NOOP("Gavotte", "Invented take, rushed"),
    Manner.WRONG_NOTES: QT_TRANSLATE_NOOP("Gavotte", "Invented take, wrong notes"),
    Manner.STOPPED: QT_TRANSLATE_NOOP("Gavotte", "Invented take, stopped half-way"),
}
KINDS = {
    Kind.SOLO: QT_TRANSLATE_NOOP("Gavotte", "Solo"),
    Kind.PHRASE: QT_TRANSLATE_NOOP("Gavotte", "Phrase"),
    Kind.LICK: QT_TRANSLATE_NOOP("Gavotte", "Lick"),
    Kind.CHANGES: QT_TRANSLATE_NOOP("Gavotte", "Changes"),
    Kind.LESSON: QT_TRANSLATE_NOOP("Gavotte", "Lesson"),
    Kind.EXERCISE: QT_TRANSLATE_NOOP("Gavotte", "Exercise"),
}
CLICKS = {
    None: QT_TRANSLATE_NOOP("Gavotte", "No click"),
    Click.BEATS: QT_TRANSLATE_NOOP("Gavotte", "Click on every beat"),
    Click.TWO_AND_FOUR: QT_TRANSLATE_NOOP("Gavotte", "Click on 2 and 4"),
    Click.ONES: QT_TRANSLATE_NOOP("Gavotte", "Click on the ones"),
    Click.DROPPING_OUT: QT_TRANSLATE_NOOP("Gavotte", "Click for two bars of four"),
}
CARE = QT_TRANSLATE_NOOP(
    "Gavotte",
    "Keep headphones low enough to hear someone speak. Where playing hurts: stop, rest, and see a teacher or a doctor.",
)
CLIMBS = {
    When.PASSES: QT_TRANSLATE_NOOP("Gavotte", "at each pass"),
    When.CLEAN: QT_TRANSLATE_NOOP("Gavotte", "after clean passes:"),
    When.MINUTES: QT_TRANSLATE_NOOP("Gavotte", "after minutes:"),
}
GROOVES = {
    Groove.SWING: QT_TRANSLATE_NOOP("Gavotte", "Swing"),
    Groove.BALLAD: QT_TRANSLATE_NOOP("Gavotte", "Ballad"),
    Groove.BOSSA: QT_TRANSLATE_NOOP("Gavotte", "Bossa"),
    Groove.STRAIGHT: QT_TRANSLATE_NOOP("Gavotte", "Straight"),
    Groove.TWELVE_EIGHT: QT_TRANSLATE_NOOP("Gavotte", "12/8"),
    Groove.SIX_EIGHT: QT_TRANSLATE_NOOP("Gavotte", "6/8"),
    Groove.WALTZ: QT_TRANSLATE_NOOP("Gavotte", "Waltz"),
    Groove.FIVE_FOUR: QT_TRANSLATE_NOOP("Gavotte", "5/4"),
}
FEELS = {
    Feel.STYLE: QT_TRANSLATE_NOOP("Gavotte", "as the style goes"),
    Feel.IN_TWO: QT_TRANSLATE_NOOP("Gavotte", "in two"),
    Feel.PEDAL_FIFTH: QT_TRANSLATE_NOOP("Gavotte", "pedal on the fifth"),
    Feel.PEDAL_KEYNOTE: QT_TRANSLATE_NOOP("Gavotte", "pedal on the keynote"),
    Feel.DRONE: QT_TRANSLATE_NOOP("Gavotte", "a drone, no band"),
}
INTENSITIES = {
    Intensity.QUIET: QT_TRANSLATE_NOOP("Gavotte", "quiet"),
    Intensity.MIDDLE: QT_TRANSLATE_NOOP("Gavotte", "in the middle"),
    Intensity.DRIVING: QT_TRANSLATE_NOOP("Gavotte", "driving"),
    Intensity.GROWING: QT_TRANSLATE_NOOP("Gavotte", "growing to the end"),
}
PARTS = {
    Part.MUSIC: QT_TRANSLATE_NOOP("Gavotte", "Your turn"),
    Part.INTRO: QT_TRANSLATE_NOOP("Gavotte", "Intro"),
    Part.ENDING: QT_TRANSLATE_NOOP("Gavotte", "Ending"),
}
INTROS = {
    Intro.NONE: QT_TRANSLATE_NOOP("Gavotte", "no intro"),
    Intro.TURNAROUND: QT_TRANSLATE_NOOP("Gavotte", "turnaround, 4 bars"),
    Intro.DOMINANT: QT_TRANSLATE_NOOP("Gavotte", "dominant, 4 bars"),
}
ENDINGS = {
    Ending.NONE: QT_TRANSLATE_NOOP("Gavotte", "no ending"),
    Ending.HELD: QT_TRANSLATE_NOOP("Gavotte", "a held chord"),
    Ending.TAG: QT_TRANSLATE_NOOP("Gavotte", "tag and held chord"),
}
_WHYS = {
    Why.ASKED: QT_TRANSLATE_NOOP("Gavotte", "asked for"),
    Why.AGAIN: QT_TRANSLATE_NOOP("Gavotte", "once more today"),
    Why.NEW: QT_TRANSLATE_NOOP("Gavotte", "new"),
}


Read = Callable[[Solo], Solo]
"""Music as it is read: in concert pitch, or written for an instrument."""


def as_it_is(solo: Solo) -> Solo:
    """Music as it sounds."""
    return solo


def key_words(item: PracticeItem, number: int, read: Read = as_it_is) -> str:
    """The tonic of the key with a number among an item's, as it is read; "" for a lesson."""
    if item.kind is Kind.LESSON:
        return ""
    empty = Solo("", instrument=item.music.instrument, keys=(KeyRegion(Fraction(0), item.keys[number]),))
    return read(empty).keys[0].key.tonic.shown


def why_words(planned: Planned) -> str:
    """Why something is on the list of today."""
    if planned.why is not Why.DUE:
        return said(_WHYS[planned.why])
    if planned.days > 1:
        return translate("Gavotte", "due for {days}").format(days=counted(planned.days, "day"))
    return translate("Gavotte", "due")


def next_words(left: timedelta | None) -> str:
    """When something comes back."""
    if left is None:
        return ""
    if left <= timedelta(0):
        return translate("Gavotte", "due")
    days = round(left / timedelta(days=1))
    if days < 1:
        return translate("Gavotte", "comes back today")
    return translate("Gavotte", "comes back in {days}").format(days=counted(days, "day"))
