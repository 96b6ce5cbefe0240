"""The solo as a value: notes over chords in bars, with keys, form, phrases and the user's decisions.

Conventions
-----------
* Times are exact fractions in quarter notes from bar 1 beat 1; a pickup has negative onsets.
* Pitches are as sounding (concert); the instrument says how its part is written.
* A note is one sounding note. Where it is written as several tied ones, ``Note.written`` keeps their lengths.
* Everything is sorted by onset; notes with the same onset keep their order (grace notes stand first).
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from gavotte.solo.places import places_of
from gavotte.solo.school import LINEAR, School
from gavotte.theory.chord import ChordSymbol
from gavotte.theory.chord_symbol import read_or_keep
from gavotte.theory.key import Key
from gavotte.theory.meter import COMMON_TIME, Meter
from gavotte.theory.pitch import Pitch, PitchName


class Articulation(StrEnum):
    """How a note is played, beyond its pitch and length."""

    ACCENT = "accent"
    STACCATO = "staccato"
    TENUTO = "tenuto"
    MARCATO = "marcato"
    HAMMER_ON = "hammer-on"
    PULL_OFF = "pull-off"
    SLIDE = "slide"
    BEND = "bend"
    FALL = "fall"
    SCOOP = "scoop"
    TRILL = "trill"
    GHOST = "ghost"
    HARMONIC = "harmonic"


class Function(StrEnum):
    """The five functions a note can have against the chord under it."""

    CHORD = "chord"
    EXTENSION = "extension"
    PASSING = "passing"
    APPROACH = "approach"
    OUTSIDE = "outside"


class Pick(StrEnum):
    """Which way the pick strikes the string."""

    DOWN = "down"
    UP = "up"


@dataclass(frozen=True, slots=True)
class Mark:
    """One articulation of a note; ``semitones`` is how far a bend goes (2 is a whole tone, 1/2 a quarter tone)."""

    articulation: Articulation
    semitones: Fraction | None = None


@dataclass(frozen=True, slots=True)
class Tuplet:
    """``actual`` notes in the time of ``normal``, as written."""

    actual: int
    normal: int


@dataclass(frozen=True, slots=True)
class Note:
    """One sounding note. A grace note has length 0; ``uncertain`` is the transcriber's own doubt.

    ``string`` counts from the highest (1), 0 where none is given; ``finger`` is written as players do ("1", "T").
    """

    id: str
    onset: Fraction
    duration: Fraction
    pitch: Pitch
    written: tuple[Fraction, ...] = ()
    tuplet: Tuplet | None = None
    grace: bool = False
    marks: tuple[Mark, ...] = ()
    uncertain: bool = False
    finger: str = ""
    string: int = 0
    pick: Pick | None = None

    @property
    def end(self) -> Fraction:
        """Where the note stops, in quarter notes."""
        return self.onset + self.duration

    def has(self, articulation: Articulation) -> bool:
        """Whether the note carries this articulation."""
        return any(mark.articulation is articulation for mark in self.marks)


@dataclass(frozen=True, slots=True)
class ChordEvent:
    """A chord symbol (in normal form) from ``onset`` until the next one; text that is no symbol stays as it is."""

    id: str
    onset: Fraction
    text: str

    def __post_init__(self) -> None:
        read_or_keep(self.text)

    @property
    def symbol(self) -> ChordSymbol:
        """The chord, N.C., or what can't be read."""
        return read_or_keep(self.text)


@dataclass(frozen=True, slots=True)
class MeterRegion:
    """A meter from ``onset`` (a barline) on."""

    onset: Fraction
    meter: Meter


@dataclass(frozen=True, slots=True)
class KeyRegion:
    """A key from ``onset`` on. In a ``blues`` setting the key's ♭3, ♭5 and ♭7 are at home over every chord."""

    onset: Fraction
    key: Key
    blues: bool = False


@dataclass(frozen=True, slots=True)
class OddBar:
    """A bar that starts at ``onset`` and is not as long as its meter says."""

    onset: Fraction
    length: Fraction


@dataclass(frozen=True, slots=True)
class TempoChange:
    """From ``onset`` on, ``tempo`` quarter notes a minute."""

    onset: Fraction
    tempo: Fraction


@dataclass(frozen=True, slots=True)
class Section:
    """A part of the form from ``onset`` on: "A", "B", "2nd chorus"."""

    onset: Fraction
    label: str


@dataclass(frozen=True, slots=True)
class Text:
    """A few words over the staff at ``onset``."""

    onset: Fraction
    words: str


@dataclass(frozen=True, slots=True)
class Phrase:
    """A phrase, by its first and last note."""

    first: str
    last: str


@dataclass(frozen=True, slots=True)
class Decision:
    """What the user decided about a note's label: it stands, whatever the labeller would say."""

    note: str
    function: Function
    device: str


class ReadingKind(StrEnum):
    """What a stretch is heard against."""

    CHANGES = "changes"
    KEY_CENTRE = "key centre"
    IMPLIED = "implied"


@dataclass(frozen=True, slots=True)
class Reading:
    """How the user has a stretch of notes (ids, first and last) heard.

    By the key centre: against ``tonic`` and a ``collection`` (a name of SCALES). Implied: against ``chords``, whose
    first is in force at the first note. By the changes: as written, whatever else could be proposed.
    """

    first: str
    last: str
    kind: ReadingKind
    tonic: PitchName | None = None
    collection: str = ""
    chords: tuple[ChordEvent, ...] = ()


@dataclass(frozen=True, slots=True)
class Dismissed:
    """What the user does not want to be asked again: the note it is about and the pitch (MIDI) it had."""

    note: str
    midi: int


@dataclass(frozen=True, slots=True)
class Remark:
    """What the user wrote in place of the analysis of the bar at ``onset``."""

    onset: Fraction
    words: str


@dataclass(frozen=True, slots=True)
class PhraseStart:
    """The user's decision that a phrase ``begins`` with a note, or that none does."""

    note: str
    begins: bool


@dataclass(frozen=True, slots=True)
class PhraseWords:
    """What the user says the phrase does that begins with a note."""

    note: str
    words: str


@dataclass(frozen=True, slots=True)
class Reduction:
    """The user's decision how long a note stays while the line is reduced: up to which ``level`` of its skeleton."""

    note: str
    level: int


@dataclass(frozen=True, slots=True)
class Instrument:
    """An instrument: ``transposition`` is what written pitch must move by to sound (a B♭ trumpet: −2 semitones).

    ``lowest`` and ``highest`` bound its comfortable sounding range, as MIDI numbers. ``clef`` is its usual clef,
    shape and line ("G2" treble, "F4" bass, "C4" tenor, "C3" alto); ``chosen_clef`` the one its player prefers, ""
    where that is the usual one, with "-8" behind it for notes that sound an octave below where they stand.
    """

    name: str
    transposition_steps: int = 0
    transposition_semitones: int = 0
    clef: str = "G2"
    lowest: int = 52
    highest: int = 88
    chosen_clef: str = ""


TREBLE = Instrument("Concert instrument")


_LAST_ENDS = 64


def _rough_onset(region: KeyRegion) -> float:
    return region.onset.numerator / region.onset.denominator


def _rough_end(note: Note) -> float:
    onset, duration = note.onset, note.duration
    return onset.numerator / onset.denominator + duration.numerator / duration.denominator


@dataclass(frozen=True, slots=True)
class Solo:
    """A transcribed solo. See the module's conventions.

    ``tempo`` counts quarter notes a minute. ``swing`` is how many times as long the first of two eighths is as the
    second (1 is even, 2 a triplet's feel); None leaves it to the style. ``form_end`` is where the written form ends,
    even if nothing sounds or changes there; ``chorus`` is the length of one chorus, 0 where it is not known.
    ``heard_keys`` are the keys its user hears, where they differ from what the signatures and chords say. ``year``
    and ``album`` say where it was recorded, ``source`` what the transcription was made from ("LP, second side"); None
    and "" where that is not known. ``tags`` are the user's own words for it. ``is_head`` says that it is no solo but
    the tune itself.
    """

    title: str
    player: str = ""
    instrument: Instrument = TREBLE
    style: str = ""
    tempo: Fraction | None = None
    pickup: Fraction = Fraction(0)
    meters: tuple[MeterRegion, ...] = (MeterRegion(Fraction(0), COMMON_TIME),)
    keys: tuple[KeyRegion, ...] = (KeyRegion(Fraction(0), Key(PitchName("C"))),)
    odd_bars: tuple[OddBar, ...] = ()
    chords: tuple[ChordEvent, ...] = ()
    sections: tuple[Section, ...] = ()
    notes: tuple[Note, ...] = ()
    phrases: tuple[Phrase, ...] = ()
    decisions: tuple[Decision, ...] = ()
    tempo_changes: tuple[TempoChange, ...] = ()
    swing: Fraction | None = None
    texts: tuple[Text, ...] = ()
    form_end: Fraction = Fraction(0)
    chorus: Fraction = Fraction(0)
    school: School = LINEAR
    heard_keys: tuple[KeyRegion, ...] = ()
    readings: tuple[Reading, ...] = ()
    dismissed: tuple[Dismissed, ...] = ()
    passed: tuple[Dismissed, ...] = ()
    remarks: tuple[Remark, ...] = ()
    phrase_starts: tuple[PhraseStart, ...] = ()
    phrase_words: tuple[PhraseWords, ...] = ()
    reductions: tuple[Reduction, ...] = ()
    year: int | None = None
    album: str = ""
    is_head: bool = False
    source: str = ""
    tags: tuple[str, ...] = ()

    @property
    def end(self) -> Fraction:
        """Where the form, the last note or the last chord symbol ends, at least; in quarter notes."""
        ends = [self.form_end, *(chord.onset for chord in self.chords[-1:])]
        if self.notes:
            # Only the note that ends last needs its end worked out exactly; in a line it is one of the last.
            ends.append(max(self.notes[-_LAST_ENDS:], key=_rough_end).end)
        return max(ends)

    @property
    def beats_a_minute(self) -> float | None:
        """The tempo as it is counted, in beats of the first meter (dotted ones in 12/8)."""
        return float(self.tempo / self.meters[0].meter.beats[0].length) if self.tempo else None

    def note(self, note_id: str) -> Note:
        """The note with this id. Raises KeyError."""
        return self.notes[self.places[note_id]]

    @property
    def places(self) -> Mapping[str, int]:
        """Note id to its place in the line, in order."""
        return places_of(self.notes)

    def key_at(self, onset: Fraction) -> KeyRegion:
        """The key region in force."""
        if len(self.keys) == 1:
            return self.keys[0]
        # Binary fractions are quick.
        index = bisect_right(self.keys, onset.numerator / onset.denominator, key=_rough_onset)
        return self.keys[max(0, index - 1)]
