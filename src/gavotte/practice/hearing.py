"""From the sound of a take to what became of each note.

The ear of the draft listens (``recording/draft.py``). What it hears is aligned with what is written; then it listens
again with the written notes expected where the take's pulse puts them, so that a quiet or blurred note that was to be
played is heard rather than one that was not.
"""

from __future__ import annotations

from collections.abc import Generator, Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from gavotte.practice.due import DueLine
from gavotte.practice.judging import Spoken, judged, nothing_of
from gavotte.practice.pulse import Pulse
from gavotte.practice.take import Take, TakeNote
from gavotte.recording import note_model
from gavotte.recording.draft import Listening, Player, listened, player_of
from gavotte.recording.lead import FRAME_SECONDS, VOICED, Lead
from gavotte.recording.line import DraftNote, Heard, notes_of
from gavotte.recording.path import best_path
from gavotte.recording.player import RATE, Samples
from gavotte.steps import scaled

Floats = NDArray[np.float32]

_LOUDER, _AGAIN, _WITHIN, _OTHER = 2.0, 3.0, 0.07, 0.5
"""Log odds that an expected beginning gains at its time, those of one of the same pitch as before, how far that reaches
(seconds), and what others lose there.
"""

_SETTLED, _FRAMES, _FARTHEST = 0.04, 4, 60.0
"""Seconds after which a pitch has settled, frames (of 16 ms) that must say so, and cents beyond which it is another."""

_ABOUT = 0.07
"""Seconds about the beginning of a stretch in which a note can begin."""

PIECE_SECONDS = 15.0
"""A take is listened to in pieces of about this length."""

_LEVEL_WINDOW, _QUIET = 512, 36.0
"""Samples to either side by which loudness is measured, and how far (dB) below the loud moments nobody plays."""

_BEYOND = 12
_LOWEST, _HIGHEST = 31, 96


@dataclass(frozen=True)
class Piece:
    """What was heard of a stretch of a take: ``heard`` with its ``lead`` line, the tuning in ``cents`` above A 440, how
    loud each frame is (``levels``, dB), and the ``notes`` that are found where nothing is expected.
    """

    heard: Heard
    lead: Lead
    cents: float
    levels: NDArray[np.float64]
    notes: tuple[DraftNote, ...]


@dataclass(frozen=True)
class TakeEar:
    """What was heard of a whole take; ``unexpected`` are the notes found where nothing is expected."""

    heard: Heard
    lead: Lead
    cents: float
    unexpected: tuple[DraftNote, ...]

    def notes(self, begins: Floats) -> Generator[float, None, list[DraftNote]]:
        """The line on the best path through what was heard, its beginnings as they are given."""
        path = yield from best_path(self.heard.sounds, begins)
        return notes_of(path, self.heard, self.lead, self.cents)

    def witness(self, start: float, end: float, midi: int) -> Spoken:
        """What speaks for a pitch from ``start`` to ``end`` seconds."""
        pitch, times = midi - self.heard.lowest, self.heard.times
        if not 0 <= pitch < self.heard.sounds.shape[1]:
            return Spoken()
        first, last = np.searchsorted(times, (start, end))
        early, late = np.searchsorted(times, (start - _ABOUT, start + _ABOUT))
        sounds = self.heard.sounds[first : max(first + 1, last), pitch]
        begins = self.heard.begins[early : max(early + 1, late), pitch]
        if not len(sounds) or not len(begins):
            return Spoken()
        best = int(np.argmax(begins))
        begun = float(times[early + best])
        return Spoken(float(np.median(sounds)), float(sounds.max()), float(begins[best]), begun)


def taker_of(line: DueLine) -> Player:
    """Who is listened to: the instrument within an octave of what is written, and all that is written."""
    usual = player_of(line.solo.instrument)
    if not line.notes:
        return usual
    low, high = int(line.pitches.min()), int(line.pitches.max())
    return Player(
        max(_LOWEST, min(low - 3, max(usual.lowest, low - _BEYOND))),
        min(_HIGHEST, max(high + 3, min(usual.highest, high + _BEYOND))),
        usual.struck,
    )


def hear_take(samples: Samples, line: DueLine, tempo: float | None = None) -> Generator[float, None, Take]:
    """What became of the notes of a line in a take, yielding the share that is done.

    ``tempo``: quarter notes a minute that were asked for, None where the player chose.
    """
    seconds = len(samples) / RATE
    pieces = yield from scaled(hear_pieces(samples, taker_of(line), 0.0, seconds), 0.0, 0.9)
    return (yield from scaled(judged_by_ear(joined(pieces), line, tempo), 0.9, 1.0))


def hear_pieces(samples: Samples, player: Player, start: float, end: float) -> Generator[float, None, list[Piece]]:
    """What is heard from ``start`` up to ``end`` seconds in pieces of about PIECE_SECONDS, at least one; yields the
    share that is done.
    """
    count, pieces = max(1, round((end - start) / PIECE_SECONDS)), []
    for number in range(count):
        first, last = (start + (end - start) * k / count for k in (number, number + 1))
        heard = hear_piece(samples, player, first, last)
        pieces.append((yield from scaled(heard, number / count, (number + 1) / count)))
    return pieces


def hear_piece(samples: Samples, player: Player, start: float, end: float) -> Generator[float, None, Piece]:
    """What is heard from ``start`` up to ``end`` seconds, yielding the share that is done: so a take can be listened to
    while it is still played.
    """
    listening = yield from scaled(listened(samples, player, start, end), 0.0, 0.65)
    sounds, begins = yield from scaled(listening.heard(player), 0.65, 0.85)
    times = listening.in_recording
    whole = Heard(times, sounds, begins, player.lowest)
    path = yield from scaled(best_path(sounds, begins), 0.85, 1.0)
    found = notes_of(path, whole, listening.lead, listening.cents)
    notes = tuple(note for note in found if start <= note.start < end)
    own = slice(*np.searchsorted(times, (start, end)))
    heard = Heard(times[own], sounds[own], begins[own], player.lowest)
    return Piece(heard, listening.lead, listening.cents, _levels(listening)[own], notes)


def joined(pieces: Sequence[Piece]) -> TakeEar:
    """Pieces that follow each other as one take; where only the room is heard nothing sounds."""
    heard = [piece.heard for piece in pieces]
    levels = np.concatenate([piece.levels for piece in pieces])
    sounds = np.concatenate([part.sounds for part in heard])
    begins = np.concatenate([part.begins for part in heard])
    if len(levels):
        # A note that is expected must not be made out of noise.
        quiet = levels < np.percentile(levels, 95) - _QUIET
        sounds[quiet], begins[quiet] = 0.0, 0.0
    times = np.concatenate([part.times for part in heard])
    cents = float(np.mean([piece.cents for piece in pieces]))
    lead = _one_lead([piece.lead for piece in pieces])
    notes = tuple(note for piece in pieces for note in piece.notes)
    return TakeEar(Heard(times, sounds, begins, heard[0].lowest), lead, cents, notes)


def _one_lead(leads: Sequence[Lead]) -> Lead:
    """Lead lines of stretches that overlap a little as one."""
    first = min(lead.start for lead in leads)
    offsets = [round((lead.start - first) / FRAME_SECONDS) for lead in leads]
    length = max(offset + len(lead.midi) for offset, lead in zip(offsets, leads, strict=True))
    midi, confidence = np.zeros(length), np.zeros(length)
    for offset, lead in zip(offsets, leads, strict=True):
        midi[offset : offset + len(lead.midi)] = lead.midi
        confidence[offset : offset + len(lead.midi)] = lead.confidence
    return Lead(midi, confidence, first)


def _levels(listening: Listening) -> NDArray[np.float64]:
    """How loud each frame is, in decibels."""
    power = np.concatenate([[0.0], np.cumsum(listening.sound.astype(np.float32) ** 2, dtype=np.float64)])
    centres = np.round(listening.times * note_model.RATE).astype(np.int64)
    first, last = (np.clip(centres + by, 0, len(power) - 1) for by in (-_LEVEL_WINDOW, _LEVEL_WINDOW))
    return np.asarray(10 * np.log10((power[last] - power[first]) / np.maximum(1, last - first) + 1e-12), np.float64)


def judged_by_ear(
    ear: TakeEar, line: DueLine, tempo: float | None, start: float | None = None
) -> Generator[float, None, Take]:
    """What became of the notes in what was heard, yielding the share that is done; bar 1 was to begin at ``start``
    seconds, where that is known.
    """
    begins = ear.heard.begins
    if not len(begins):
        return nothing_of(line, tempo)
    found = judged(line, ear.unexpected, tempo, start=start)
    if found is not None:
        notes = yield from ear.notes(_expected(begins, line, found.pulse, ear.heard))
        found = judged(line, notes, tempo, found, ear.witness)
    yield 1.0
    return nothing_of(line, tempo) if found is None else _with_intonation(found.take, ear.lead)


def _with_intonation(take: Take, lead: Lead) -> Take:
    """The take with how far each note lay from its pitch, beside the tuning of the whole."""
    tuning = lead.tuning()
    return replace(take, notes=tuple(replace(note, cents=_cents(note, lead, tuning)) for note in take.notes))


def _cents(note: TakeNote, lead: Lead, tuning: float) -> float | None:
    """Cents above a note's pitch in the middle of it, where a voice is heard near it for long enough."""
    if note.heard is None or note.seconds is None or note.end is None:
        return None
    frames = lead.between(note.seconds + _SETTLED, note.end - _SETTLED / 2)
    away = 100 * (lead.midi[frames][lead.confidence[frames] >= VOICED] - note.heard) - tuning
    # What is read an octave off says as much of the tuning.
    away = away - 1200 * np.round(away / 1200)
    if len(away) < _FRAMES or abs(float(np.median(away))) > _FARTHEST:
        return None
    return round(float(np.median(away)), 1)


def _expected(begins: Floats, line: DueLine, pulse: Pulse, heard: Heard) -> Floats:
    """How likely notes begin where those that are written are expected."""
    odds = np.zeros_like(begins, dtype=np.float64)
    times = heard.times
    before = None
    for index, due in enumerate(pulse.due):
        pitch = int(line.pitches[index]) - heard.lowest
        louder = _AGAIN if pitch == before else _LOUDER
        before = pitch
        first, last = np.searchsorted(times, (due - 2.5 * _WITHIN, due + 2.5 * _WITHIN))
        if first == last:
            continue
        near = np.exp(-0.5 * ((times[first:last] - due) / _WITHIN) ** 2)
        for octave in (-12, 12):
            if 0 <= pitch + octave < begins.shape[1]:
                part = odds[first:last, pitch + octave]
                np.minimum(part, -_OTHER * near, out=part)
        if 0 <= pitch < begins.shape[1]:
            part = odds[first:last, pitch]
            np.maximum(part, louder * near, out=part)
    added = np.exp(odds) * begins
    return np.asarray(added / (1 - begins + added), np.float32)
