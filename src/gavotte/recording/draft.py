"""A draft of the notes of a single line: onset, end, pitch, bend, and how sure each is.

Three witnesses are heard: the lead line (``lead.py``), the note model (``note_model.py``) and the harmonic sum. Their
logarithms are added, and one search over time (Viterbi) finds the path through silence and pitches that explains most,
where changing costs. Onsets come from the note model, and where it is silent from the steepest rise of the pitch's
harmonics. The recording's tuning is measured first and everything is heard in it.
"""

from __future__ import annotations

import itertools
from collections.abc import Generator
from dataclasses import dataclass, replace

import numpy as np
import soxr
from numpy.typing import NDArray

from gavotte.recording import note_model
from gavotte.recording.lead import FRAME_SECONDS, VOICED, Lead, find_lead
from gavotte.recording.player import RATE, Samples
from gavotte.steps import scaled

Floats = NDArray[np.float64]

_MARGIN = 0.5
_IN_TUNE = 3.0
_SILENCE = 0.3
_CHANGE, _REST = 3.0, 1.8
_LEAST = 0.02
_LEAD_WIDTH, _NO_LEAD = 0.4, 0.12
_STRONG_ONSET, _WEAK_ONSET = 0.52, 0.15
_SHORTEST, _APART = 0.04, 0.06
_PARTIALS, _FADING = 8, 0.85
_HOP = 128
_BLOCK = 4 * RATE
_LATE = 0.008
"""The note model hears attacks this much late: struck strings hardly, blown notes twice as much."""

_EARLY = 0.05
"""An onset this many seconds before a stretch still belongs to it."""


@dataclass(frozen=True)
class DraftNote:
    """One note of a draft: ``start`` and ``end`` in seconds, its MIDI number, and its share of the evidence (0 to 1).

    ``bend`` is how far the pitch rises within the note, in semitones; 0 where it does not. ``others`` are the next
    likeliest MIDI numbers with their shares, ``attack`` how surely something was struck at its start,
    and ``loudness`` how loud its partials are together, in the recording's own unit.
    """

    start: float
    end: float
    midi: int
    confidence: float
    bend: float = 0.0
    others: tuple[tuple[int, float], ...] = ()
    attack: float = 1.0
    loudness: float = 1.0


@dataclass(frozen=True)
class Draft:
    """What was heard: the notes in order, the lead line, and the tuning in cents above A 440."""

    notes: tuple[DraftNote, ...]
    lead: Lead
    cents: float


def find_draft(
    samples: Samples, lowest: int, highest: int, start: float = 0.0, end: float | None = None
) -> Generator[float, None, Draft]:
    """Draft the notes between two MIDI numbers from ``start`` to ``end`` seconds, yielding the share that is done."""
    length = len(samples) / RATE
    first, last = max(0.0, start - _MARGIN), min(length, (length if end is None else end) + _MARGIN)
    lead = yield from scaled(find_lead(samples, lowest, highest, first, last), 0.0, 0.3)
    cents = lead.tuning()
    stretch = 2 ** (cents / 1200) if abs(cents) > _IN_TUNE else 1.0
    shift = cents if stretch != 1.0 else 0.0
    sound = yield from scaled(_sound(samples, first, last, stretch), 0.3, 0.35)
    times, notes, onsets = yield from scaled(note_model.activations(sound), 0.35, 0.75)
    if not len(times):
        return Draft((), lead, cents)
    columns = slice(lowest - note_model.LOWEST, highest - note_model.LOWEST + 1)
    energy = yield from scaled(_harmonics(sound, lowest, highest), 0.75, 0.95)
    witnesses = _Witnesses(
        times, notes[:, columns].astype(float), onsets[:, columns].astype(float), energy,
        _from_lead(lead, first + times / stretch, shift, lowest, highest), lowest,
    )  # fmt: skip
    heard = [
        replace(note, start=max(0.0, first + note.start / stretch - _LATE), end=first + note.end / stretch)
        for note in witnesses.notes()
    ]
    stop = length + _MARGIN if end is None else end
    line = _of_the_line(_with_bends(heard, lead, shift))
    notes_found = tuple(note for note in line if start <= note.start + _EARLY < stop)
    yield 1.0
    return Draft(notes_found, lead, cents)


def _sound(samples: Samples, first: float, last: float, stretch: float) -> Generator[float, None, NDArray[np.float32]]:
    """A stretch in mono at the note model's rate, its pitch brought to A 440 by reading it faster or slower."""
    resampler = soxr.ResampleStream(RATE, note_model.RATE * stretch, 1, dtype="float32")
    begin, end = round(first * RATE), round(last * RATE)
    parts: list[NDArray[np.float32]] = []
    for start in range(begin, max(begin + 1, end), _BLOCK):
        stop = min(end, start + _BLOCK)
        block = np.asarray(samples[start:stop]).astype(np.float32).mean(axis=1) / 32768
        parts.append(resampler.resample_chunk(block, last=stop == end))
        yield (stop - begin) / max(1, end - begin)
    return np.concatenate(parts)


def _from_lead(lead: Lead, times: Floats, cents: float, lowest: int, highest: int) -> Floats:
    """How well each pitch fits the lead line at some times, shape (times, pitches)."""
    if not len(lead.midi):
        return np.full((len(times), highest - lowest + 1), _NO_LEAD)
    index = np.clip(np.round((times - lead.start) / FRAME_SECONDS).astype(int), 0, len(lead.midi) - 1)
    away = (lead.midi[index] - cents / 100)[:, None] - np.arange(lowest, highest + 1)
    fit = np.exp(-0.5 * (away / _LEAD_WIDTH) ** 2) * lead.confidence[index][:, None]
    fit[lead.confidence[index] < VOICED] = _NO_LEAD
    return np.asarray(fit)


def _harmonics(sound: NDArray[np.float32], lowest: int, highest: int) -> Generator[float, None, Floats]:
    """How loud the partials of each pitch are together, shape (frames _HOP apart, pitches)."""
    window = 4096 if lowest < 40 else 2048
    shape = np.hanning(window).astype(np.float32)
    padded = np.pad(sound, (window // 2, window // 2))
    frames = 1 + (len(padded) - window) // _HOP
    view = np.lib.stride_tricks.sliding_window_view(padded, window)[::_HOP][:frames]
    bands = _bands(window, lowest, highest)
    energy = np.zeros((frames, highest - lowest + 1), np.float32)
    step = 1024
    for begin in range(0, frames, step):
        spectrum = np.abs(np.fft.rfft(view[begin : begin + step] * shape, axis=1)).astype(np.float32)
        for pitch, low, high, weight in bands:
            energy[begin : begin + step, pitch] += weight * spectrum[:, low:high].max(axis=1)
        yield min(1.0, (begin + step) / frames)
    return energy.astype(np.float64)


def _bands(window: int, lowest: int, highest: int) -> list[tuple[int, int, int, float]]:
    """For each pitch (counted from the lowest) and partial: the bins within 40 cents, and the partial's weight."""
    width = note_model.RATE / window
    bands = []
    for pitch in range(lowest, highest + 1):
        hertz = 440 * 2 ** ((pitch - 69) / 12)
        for partial in range(1, _PARTIALS + 1):
            low = int(np.floor(hertz * partial * 2 ** (-0.4 / 12) / width + 0.5))
            high = int(np.ceil(hertz * partial * 2 ** (0.4 / 12) / width + 0.5))
            if high >= window // 2 + 1:
                break
            bands.append((pitch - lowest, low, max(high, low + 1), _FADING ** (partial - 1)))
    return bands


@dataclass(frozen=True)
class _Witnesses:
    """All evidence on the note model's frames: its notes and onsets, the harmonic energy (on its own finer frames), and
    the lead line's fit. Shapes (frames, pitches).
    """

    times: Floats
    model: Floats
    onsets: Floats
    energy: Floats
    lead: Floats
    lowest: int

    def _evidence(self) -> Floats:
        """The mean log of the three witnesses."""
        rows = self.energy[np.clip(self._frame(self.times), 0, len(self.energy) - 1)]
        loudest = rows.max(axis=1, keepdims=True)
        usual = np.percentile(loudest, 90) or 1.0
        harmonic = (rows / (loudest + 1e-6)) ** 4 * np.clip(2 * loudest / usual, 0, 1)
        parts = (np.log(np.clip(part, _LEAST, 1)) for part in (self.model, self.lead, harmonic))
        return np.asarray(sum(parts) / 3)

    @staticmethod
    def _frame(times: Floats) -> NDArray[np.int64]:
        return np.asarray(times * note_model.RATE / _HOP).astype(np.int64)

    def notes(self) -> list[DraftNote]:
        """The notes on the best path, each cut where its pitch begins anew. Times on the witnesses' own clock."""
        evidence = self._evidence()
        states = np.concatenate([np.full((len(evidence), 1), np.log(_SILENCE)), evidence], axis=1)
        found: list[DraftNote] = []
        for first, last, state in _runs(_best_path(states)):
            found += self._cut(evidence, first, last, state - 1)
        return found

    def _cut(self, evidence: Floats, first: int, last: int, pitch: int) -> list[DraftNote]:
        onset, times = self.onsets[:, pitch], self.times
        near = slice(max(0, first - 5), first + 6)
        peak = near.start + int(np.argmax(onset[near]))
        start = float(times[peak]) if onset[peak] > _WEAK_ONSET else self._rise(first, pitch)
        cuts = [(start, first)]
        for frame in range(first + 4, last - 2):
            is_peak = onset[frame] == onset[max(0, frame - 3) : frame + 4].max()
            if onset[frame] > _STRONG_ONSET and is_peak and times[frame] - start > _APART:
                cuts.append((float(times[frame]), frame))
        cuts.append((float(times[min(last, len(times) - 1)]), last))
        notes = []
        for (begun, low), (ended, high) in itertools.pairwise(cuts):
            if ended - begun < _SHORTEST:
                continue
            logs = 3 * evidence[low : max(high, low + 1)].mean(axis=0)
            shares = np.exp(logs - logs.max())
            shares /= shares.sum()
            order = np.argsort(shares)[::-1][:4]
            others = tuple((self.lowest + int(k), float(shares[k])) for k in order if k != pitch)
            struck = float(onset[max(0, low - 5) : low + 6].max())
            loudness = self._loudness(begun, ended, pitch)
            share = float(shares[pitch])
            notes.append(DraftNote(begun, ended, self.lowest + pitch, share, 0.0, others, struck, loudness))
        return notes

    def _loudness(self, start: float, end: float, pitch: int) -> float:
        low, high = self._frame(np.array([start, end]))
        part = self.energy[max(0, low) : high + 1, pitch]
        return float(part.max()) if len(part) else 0.0

    def _rise(self, frame: int, pitch: int) -> float:
        """Where a pitch's harmonics rise most steeply around a frame."""
        seconds = float(self.times[frame])
        low, high = (int((seconds + side * _APART) * note_model.RATE / _HOP) for side in (-1, 1))
        step = max(1, round(0.02 * note_model.RATE / _HOP))
        low = max(step, low)
        level = 20 * np.log10(self.energy[low - step : high + 1, pitch] + 1e-4)
        rise = level[step:] - level[:-step]
        if not len(rise) or rise.max() <= 2:
            return seconds
        steepest = (low + int(np.argmax(rise))) * _HOP / note_model.RATE - 0.01
        return float(min(max(steepest, seconds - _APART, 0.0), seconds + _APART))


def _best_path(states: Floats) -> NDArray[np.int64]:
    """The path through silence (state 0) and pitches that explains most, where every change costs."""
    count, width = states.shape
    score = states[0].copy()
    came = np.zeros((count, width), np.int16)
    stay = np.arange(width)
    for frame in range(1, count):
        best = 1 + int(np.argmax(score[1:]))
        source, value = best, score[best] - _CHANGE
        if score[0] - _REST > value:
            source, value = 0, score[0] - _REST
        entered = np.full(width, value)
        entered[0] = score[best] - _REST
        moves = entered > score
        came[frame] = np.where(moves, np.where(stay == 0, best, source), stay)
        score = np.where(moves, entered, score) + states[frame]
    path = np.zeros(count, np.int64)
    path[-1] = int(np.argmax(score))
    for frame in range(count - 1, 0, -1):
        path[frame - 1] = came[frame, path[frame]]
    return path


def _runs(path: NDArray[np.int64]) -> list[tuple[int, int, int]]:
    """The stretches of one pitch, as (first frame, frame after the last, state)."""
    edges = np.flatnonzero(np.diff(path)) + 1
    bounds = [0, *edges.tolist(), len(path)]
    return [(low, high, int(path[low])) for low, high in itertools.pairwise(bounds) if high > low and path[low] > 0]


_LEAST_BEND, _MOST_BEND = 0.4, 4.0
_GLIDE_FRAMES, _GLIDE_WITHIN, _BREATH = 2, 0.15, 0.05
_STRUCK = 0.78
"""From this on a note of another pitch was struck; measured on rendered lines, where few that were lie below."""


_AROUND, _NEAR = 4.0, 1.5
_FAR_OFF, _OFF = 14, 9
_FAINT, _SOFT, _UNSTRUCK = 0.6, 0.7, 0.35


def _with_bends(notes: list[DraftNote], lead: Lead, cents: float) -> list[DraftNote]:
    """The notes with those joined into one that the pitch only glides through, and how far each is bent."""
    joined: list[DraftNote] = []
    sounding: list[int] = []
    for note in notes:
        before = joined[-1] if joined else None
        if before is not None and _glides(before, sounding[-1], note, lead, cents):
            joined[-1] = replace(before, end=note.end, bend=max(before.bend, float(note.midi - before.midi)))
            sounding[-1] = note.midi
        else:
            joined.append(note)
            sounding.append(note.midi)
    return [
        note if note.bend else replace(note, bend=_bend(lead, note.start, note.end, note.midi + cents / 100))
        for note in joined
    ]


def _of_the_line(notes: list[DraftNote]) -> list[DraftNote]:
    """The notes without those that the band rather than the soloist plays: far off the line, or faint beside it."""
    kept = []
    for note in notes:
        around = [other for other in notes if other is not note and abs(other.start - note.start) < _AROUND]
        near = [other.midi for other in around if abs(other.start - note.start) < _NEAR]
        away = abs(note.midi - float(np.median(near))) if near else 0.0
        usual = float(np.median([other.loudness for other in around])) if around else note.loudness
        loud = note.loudness / (usual or 1.0)
        is_far = away >= _FAR_OFF or (away > _OFF and loud < _FAINT)
        if not is_far and not (note.attack < _UNSTRUCK and loud < _SOFT):
            kept.append(note)
    return kept


def _glides(before: DraftNote, reached: int, note: DraftNote, lead: Lead, cents: float) -> bool:
    """Whether the line slides from the pitch it has reached to the next one with nothing struck between them."""
    if note.start - before.end > _BREATH or not 0 < abs(note.midi - reached) <= 2:
        return False
    if not 0 <= note.midi - before.midi <= _MOST_BEND or note.attack >= _STRUCK:
        return False
    frames = lead.between(note.start - _GLIDE_WITHIN, note.start + _GLIDE_WITHIN)
    pitches = lead.midi[frames] - cents / 100
    low, high = sorted((reached, note.midi))
    between = (pitches > low + 0.2) & (pitches < high - 0.2) & (lead.confidence[frames] >= VOICED)
    return int(between.sum()) >= _GLIDE_FRAMES


def _bend(lead: Lead, start: float, end: float, midi: float) -> float:
    """How far the line rises above a pitch and stays there, in semitones to a quarter tone; 0 for less than that."""
    frames = lead.between(start + 0.03, end - 0.01)
    voiced = lead.confidence[frames] >= VOICED
    pitches = lead.midi[frames][voiced] - midi
    if len(pitches) < 5:
        return 0.0
    high = float(np.percentile(pitches, 90))
    if not _LEAST_BEND <= high <= _MOST_BEND or abs(float(np.median(pitches[: max(2, len(pitches) // 4)]))) > 0.5:
        return 0.0
    return round(2 * high) / 2
