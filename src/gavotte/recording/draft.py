"""A draft of the notes of a single line: onset, end, pitch, bend, and how likely each is right.

Three witnesses are heard: the lead line (``lead.py``), the note model (``note_model.py``) and the partials of every
pitch (``partials.py``). A trained ear (``ear.py``) says from them how likely the line sounds and begins at each pitch
and moment, and one search over time (``path.py``) finds the notes. The recording's tuning is measured first and
everything is heard in it.
"""

from __future__ import annotations

from collections.abc import Callable, Generator
from dataclasses import dataclass, replace

import numpy as np
import soxr
from numpy.typing import NDArray

from gavotte.giving_back import give_back
from gavotte.recording import ear, note_model
from gavotte.recording.filters import Side
from gavotte.recording.lead import FRAME_SECONDS, VOICED, Lead, find_lead
from gavotte.recording.line import DraftNote, Heard, notes_of
from gavotte.recording.partials import partial_levels
from gavotte.recording.path import best_path
from gavotte.recording.player import RATE, Samples
from gavotte.recording.sides import find_side, on_one_side
from gavotte.solo.document import Instrument
from gavotte.solo.instruments import struck
from gavotte.steps import scaled

Floats = NDArray[np.float32]

_MARGIN = 0.5
_IN_TUNE = 3.0
_BLOCK = 4 * RATE
_SPARE = 4096
_CHUNK = 700
"""Frames the ear takes at once."""

_OFTEN = 2
"""After so many chunks memory is handed back."""

_AROUND, _EVERY, _FEWEST = 172, 20, 20
"""Frames on either side that say where the line usually lies, how often that is looked at, and how many must sound."""

_EARLY = 0.05
"""An onset this many seconds before a stretch still belongs to it."""


@dataclass(frozen=True)
class Player:
    """Who is listened to: the MIDI numbers they may play, and how their notes begin.

    ``struck``: 1 for an instrument whose notes are struck or plucked, 0 for a blown or bowed one, 0.5 for either.
    """

    lowest: int
    highest: int
    struck: float = 0.5


_BEYOND, _LOWEST, _HIGHEST = 3, 31, 96
"""Semitones past the instrument's comfortable range that are listened to as well, and the farthest MIDI numbers."""


def player_of(instrument: Instrument) -> Player:
    """Who is listened to, by their instrument."""
    return Player(
        max(_LOWEST, instrument.lowest - _BEYOND), min(_HIGHEST, instrument.highest + _BEYOND), struck(instrument)
    )


@dataclass(frozen=True)
class Draft:
    """What was heard: the notes in order, the lead line, the tuning in cents above A 440, and on which side."""

    notes: tuple[DraftNote, ...]
    lead: Lead
    cents: float
    side: Side = Side.BOTH


Expected = Callable[[NDArray[np.float64], NDArray[np.int64]], NDArray[np.float64]]
"""What is expected of a line: for times (seconds) and pitches (MIDI numbers) the log odds that are added to a
beginning's.
"""


@dataclass(frozen=True)
class Listening:
    """What the witnesses said of a stretch: on frames at ``times`` (seconds of ``sound``, which is mono and in tune)
    that lie ``in_recording``; ``notes`` and ``onsets`` of the note model; the ``lead`` line, with its pitch, confidence
    and usual pitch on the frames (``followed``); the tuning in ``cents`` above A 440, 0 where it needed none; and the
    ``side`` listened to.
    """

    sound: NDArray[np.float16]
    times: NDArray[np.float64]
    in_recording: NDArray[np.float64]
    notes: NDArray[np.float16]
    onsets: NDArray[np.float16]
    lead: Lead
    followed: tuple[Floats, Floats, Floats]
    cents: float
    side: Side = Side.BOTH

    def heard(self, player: Player) -> Generator[float, None, tuple[Floats, Floats]]:
        """How likely the line sounds and begins, shape (frames, pitches), yielding the share that is done."""
        frames, width = len(self.times), player.highest - player.lowest + 1
        sounds, begins = np.empty((frames, width), np.float32), np.empty((frames, width), np.float32)
        for first in range(0, frames, _CHUNK):
            last = min(frames, first + _CHUNK)
            low = max(0, first - ear.MARGIN)
            both = ear.hear(testimony_of(self, player, slice(low, min(frames, last + ear.MARGIN))))
            for whole, part in zip((sounds, begins), both, strict=True):
                whole[first:last] = part[first - low : last - low]
            if first // _CHUNK % _OFTEN == 0:
                give_back()
            yield last / frames
        return sounds, begins


def find_draft(
    samples: Samples, player: Player, start: float = 0.0, end: float | None = None, expected: Expected | None = None
) -> Generator[float, None, Draft]:
    """Draft the notes of a player from ``start`` to ``end`` seconds, yielding the share that is done.

    What is ``expected`` decides where two pitches are about as likely.
    """
    listening = yield from scaled(listened(samples, player, start, end), 0.0, 0.7)
    cents = listening.lead.tuning()
    if not len(listening.times):
        return Draft((), listening.lead, cents, listening.side)
    sounds, begins = yield from scaled(listening.heard(player), 0.7, 0.95)
    if expected is not None:
        pitches = np.arange(player.lowest, player.highest + 1)
        begins = _with_expected(begins, expected(listening.in_recording, pitches))
    path = yield from scaled(best_path(sounds, begins), 0.95, 1.0)
    heard = Heard(listening.in_recording, sounds, begins, player.lowest)
    line = notes_of(path, heard, listening.lead, listening.cents)
    stop = len(samples) / RATE + _MARGIN if end is None else end
    yield 1.0
    found = (replace(note, start=max(0.0, note.start)) for note in line)
    notes = tuple(note for note in found if start <= note.start + _EARLY < stop)
    return Draft(notes, listening.lead, cents, listening.side)


def _with_expected(begins: Floats, odds: NDArray[np.float64]) -> Floats:
    """The shares with log odds added."""
    added = np.exp(odds) * begins
    return (added / (1 - begins + added)).astype(np.float32)


def listened(
    samples: Samples, player: Player, start: float = 0.0, end: float | None = None
) -> Generator[float, None, Listening]:
    """Have the witnesses listen from ``start`` to ``end`` seconds, yielding the share that is done."""
    length = len(samples) / RATE
    first, last = max(0.0, start - _MARGIN), min(length, (length if end is None else end) + _MARGIN)
    side = yield from scaled(find_side(samples, player.lowest, player.highest, first, last), 0.0, 0.1)
    samples = on_one_side(samples, side)
    lead = yield from scaled(find_lead(samples, player.lowest, player.highest, first, last), 0.1, 0.4)
    cents = lead.tuning()
    stretch = 2 ** (cents / 1200) if abs(cents) > _IN_TUNE else 1.0
    shift = cents if stretch != 1.0 else 0.0
    sound = yield from scaled(_sound(samples, first, last, stretch), 0.4, 0.5)
    give_back()
    times, notes, onsets = yield from scaled(note_model.activations(sound), 0.5, 1.0)
    in_recording = first + times / stretch
    followed = _lead_at(lead, in_recording, shift)
    return Listening(sound, times, in_recording, notes, onsets, lead, followed, shift, side)


def testimony_of(listening: Listening, player: Player, frames: slice) -> ear.Testimony:
    """What was said of some frames, for the ear."""
    centres = np.round(listening.times[frames] * note_model.RATE).astype(np.int64)
    pitch, confidence, around = (part[frames] for part in listening.followed)
    return ear.Testimony(
        listening.notes[frames].astype(np.float32),
        listening.onsets[frames].astype(np.float32),
        pitch,
        confidence,
        around,
        partial_levels(listening.sound, player.lowest, player.highest, centres),
        player.lowest,
        player.struck,
    )


def _sound(samples: Samples, first: float, last: float, stretch: float) -> Generator[float, None, NDArray[np.float16]]:
    """A stretch in mono at the note model's rate, its pitch brought to A 440 by reading it faster or slower.

    In half precision: it is the longest array there is, and its noise lies 66 dB below what sounds.
    """
    resampler = soxr.ResampleStream(RATE, note_model.RATE * stretch, 1, dtype="float32")
    begin, end = round(first * RATE), round(last * RATE)
    # A long recording has many frames: they are put where they belong at once.
    sound = np.zeros(int((end - begin) * note_model.RATE * stretch / RATE) + _SPARE, np.float16)
    filled = 0
    for start in range(begin, max(begin + 1, end), _BLOCK):
        stop = min(end, start + _BLOCK)
        block = np.asarray(samples[start:stop]).astype(np.float32).mean(axis=1) / 32768
        part = resampler.resample_chunk(block, last=stop == end)[: len(sound) - filled]
        sound[filled : filled + len(part)] = part
        filled += len(part)
        yield (stop - begin) / max(1, end - begin)
    return sound[:filled]


def _lead_at(lead: Lead, times: NDArray[np.float64], cents: float) -> tuple[Floats, Floats, Floats]:
    """The lead line's pitch and confidence at some times, and where it usually lies around them."""
    if not len(lead.midi):
        nowhere = np.zeros(len(times), np.float32)
        return nowhere + 60, nowhere, nowhere + 60
    index = np.clip(np.round((times - lead.start) / FRAME_SECONDS).astype(int), 0, len(lead.midi) - 1)
    pitch, confidence = lead.midi[index] - cents / 100, lead.confidence[index]
    voiced = confidence >= VOICED
    usual = float(np.median(pitch[voiced])) if voiced.any() else 60.0
    around = np.full(len(pitch), usual)
    for middle in range(0, len(pitch), _EVERY):
        near = slice(max(0, middle - _AROUND), middle + _AROUND)
        if int(voiced[near].sum()) > _FEWEST:
            around[middle : middle + _EVERY] = np.median(pitch[near][voiced[near]])
    return pitch.astype(np.float32), confidence.astype(np.float32), around.astype(np.float32)
