"""What became of each written note, from the notes that were heard.

A bend, scoop, fall or trill that is written may sound at any pitch it passes. A note that is told from another octave
only counts as right: an octave is what ears of this kind mistake most. So does one that begins a little beside its
pitch and then goes to it. Where a sound is there to be asked again, a wrong or missed note is held against what speaks
for the written one.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from fractions import Fraction

import numpy as np
from numpy.typing import NDArray

from gavotte.practice.alignment import pairs_of, voted
from gavotte.practice.due import DueLine
from gavotte.practice.pulse import Pulse, pulse_of
from gavotte.practice.take import AddedNote, Take, TakeNote, Verdict
from gavotte.recording.line import DraftNote
from gavotte.solo.document import Articulation, Note
from gavotte.sounding.timeline import DEFAULT_TEMPO


@dataclass(frozen=True, slots=True)
class Spoken:
    """What speaks for a pitch in a stretch: how likely it ``usually`` and at ``most`` sounds, how likely it ``begins``
    about the stretch's beginning, and when (``begun``, seconds).
    """

    usually: float = 0.0
    most: float = 0.0
    begins: float = 0.0
    begun: float = 0.0


Witness = Callable[[float, float, int], Spoken]
"""What speaks for a pitch (MIDI number) from one moment to another (seconds)."""

_SURE_ADDED = 0.7
_LEAST = 0.3
"""What is heard less surely than this is no wrong note."""

_ECHO, _ECHO_SURE = 0.16, 0.93
"""Seconds after which a note struck again can be one that was added, and how sure it must be."""

_SWINGS = tuple(Fraction(20 + k, 20) for k in range(41))
_FEWEST_PAIRS = 6
_AGREED = 0.3
"""Share of the written notes that must agree on where a take begins."""

_CLEARLY = 1.3

_ON_THE_WAY = 3
"""Semitones from which a note may be slid into."""

_HEARD_AFTER_ALL, _BEGUN_AFTER_ALL, _NEAR = 0.1, 0.06, 0.07
_SHAKY = 0.45
_OUTWEIGHS = 0.6
"""How likely the written pitch is beside the heard one where the heard one is not believed."""


@dataclass(frozen=True)
class Judged:
    """A take with its pulse and swing, to listen again by."""

    take: Take
    pulse: Pulse
    swing: Fraction | None


def take_of_notes(
    line: DueLine, notes: Sequence[DraftNote], tempo: float | None = None, start: float | None = None
) -> Take:
    """What became of a line in notes that are known, as those of a keyboard are; ``tempo`` in quarter notes a minute,
    and ``start`` the second at which bar 1 was to begin, where they are known.
    """
    found = judged(line, notes, tempo, start=start)
    return nothing_of(line, tempo) if found is None else found.take


def nothing_of(line: DueLine, tempo: float | None) -> Take:
    """A take in which nothing of the line was heard."""
    missed = tuple(TakeNote(note.id, Verdict.MISSED, sure=0.5) for note in line.notes)
    return Take(missed, (), tempo or _nominal_tempo(line))


def judged(
    line: DueLine,
    notes: Sequence[DraftNote],
    tempo: float | None,
    like: Judged | None = None,
    witness: Witness | None = None,
    start: float | None = None,
) -> Judged | None:
    """What became of the notes; ``like`` is what was found before, ``start`` the second of the take at which bar 1 was
    to begin, where that is known. None where nothing belongs together.
    """
    if not line.notes or not notes:
        return None
    heard = np.array([note.start for note in notes])
    pitches = np.array([note.midi for note in notes], np.int64)
    rate = None if tempo is None else _nominal_tempo(line) / tempo
    if like is None:
        nominal = line.seconds()
        place = voted(nominal, line.pitches, heard, pitches, rate, start)
        if place.share < _AGREED and (start is not None or rate is not None):
            # The player may have begun elsewhere, or played at another tempo than was asked for.
            elsewhere = voted(nominal, line.pitches, heard, pitches, None)
            if elsewhere.share > _CLEARLY * place.share:
                start, rate, place = None, None, elsewhere
        pairs = pairs_of(nominal, line.pitches, heard, pitches, place, start is not None)
        usual = place.rate
    else:
        pairs = pairs_of(like.pulse.due, line.pitches, heard, pitches, None)
        usual = like.pulse.rate
    if len(pairs) < min(2, len(line.notes)):
        return None
    like_written = _of_one_pitch(pairs, line, pitches)
    swing = _swing(line, like_written, heard, usual) if like is None else like.swing
    nominal = line.seconds(swing)
    times = [(index, float(heard[at])) for index, at in like_written]
    begun = float(np.median([time - usual * nominal[index] for index, time in times]))
    asked = rate if rate is not None and abs(rate / usual - 1) < 0.05 else usual
    pulse = pulse_of(nominal, times, begun, asked, rate is not None)
    return Judged(_Bench(line, notes, dict(pairs), pulse, witness).take(swing), pulse, swing)


def _nominal_tempo(line: DueLine) -> float:
    return float(line.solo.tempo or DEFAULT_TEMPO)


def _of_one_pitch(pairs: list[tuple[int, int]], line: DueLine, pitches: NDArray[np.int64]) -> list[tuple[int, int]]:
    """The pairs of one pitch, by which time is told; all of them where there are few."""
    same = [(index, at) for index, at in pairs if (line.pitches[index] - pitches[at]) % 12 == 0]
    return same if len(same) >= _FEWEST_PAIRS else pairs


def _swing(line: DueLine, pairs: list[tuple[int, int]], heard: NDArray[np.float64], rate: float) -> Fraction | None:
    """How many times as long the first of two eighths was as the second; None where too few tell."""
    index = np.array([index for index, _ in pairs])
    off = line.offbeats[index]
    if off.sum() < 4 or (~off).sum() < 4:
        return None
    times = heard[[at for _, at in pairs]]
    best, found = np.inf, None
    for swing in _SWINGS:
        nominal = line.seconds(swing)[index]
        away = times - rate * nominal
        # Slow drift belongs to the tempo: what is off the beat is held against the notes around it on the beat.
        level = np.interp(nominal[off], nominal[~off], away[~off])
        cost = float(np.minimum(np.abs(away[off] - level), 0.1).mean())
        if cost < best:
            best, found = cost, swing
    return found


class _Bench:
    """Where the verdicts on one take are passed."""

    def __init__(
        self,
        line: DueLine,
        notes: Sequence[DraftNote],
        partner: dict[int, int],
        pulse: Pulse,
        witness: Witness | None,
    ) -> None:
        self._line, self._notes, self._partner, self._pulse, self._witness = line, notes, partner, pulse, witness
        self._taken = set(partner.values())
        self._quarter = 60 / (_nominal_tempo(line) / pulse.rate)

    def take(self, swing: Fraction | None) -> Take:
        """All verdicts, and what was added."""
        judgements = tuple(self._verdict(index, written) for index, written in enumerate(self._line.notes))
        added = tuple(
            AddedNote(note.start, note.end, note.midi, note.confidence)
            for at, note in enumerate(self._notes)
            if at not in self._taken and note.confidence >= _SURE_ADDED and not self._is_part_of_another(at)
        )
        right = [note.sure for note in judgements if note.verdict is Verdict.RIGHT]
        met = len(self._partner)
        sure = sum(right) / met * min(1.0, 2 * met / len(judgements)) if met else 0.0
        told = None if swing is None else float(swing)
        tempo = _nominal_tempo(self._line) / self._pulse.rate
        return Take(judgements, added, tempo, told, self._pulse.drift, min(1.0, sure))

    def _verdict(self, index: int, written: Note) -> TakeNote:
        at = self._partner.get(index)
        if at is None:
            return self._missed(index, written)
        note = self._notes[at]
        if note.confidence < _LEAST and note.midi != written.pitch.midi:
            return self._missed(index, written)
        late = note.start - float(self._pulse.due[index])
        low, high = _reach(written)
        away = note.midi - written.pitch.midi
        if low <= away <= high or away % 12 == 0:
            sure = note.confidence * (1.0 if low <= away <= high else 0.6)
            return TakeNote(written.id, Verdict.RIGHT, written.pitch.midi, note.start, note.end, late, sure)
        into = self._slid_into(at, written)
        if into is not None:
            return TakeNote(
                written.id, Verdict.RIGHT, written.pitch.midi, note.start, into.end, late, 0.8 * into.confidence
            )
        if self._witness is not None:
            sounded = self._witness(note.start, note.end, written.pitch.midi).usually
            instead = self._witness(note.start, note.end, note.midi).usually
            if sounded > _OUTWEIGHS * instead:
                return TakeNote(written.id, Verdict.RIGHT, written.pitch.midi, note.start, note.end, late, _SHAKY)
        return TakeNote(written.id, Verdict.WRONG, note.midi, note.start, note.end, late, note.confidence)

    def _missed(self, index: int, written: Note) -> TakeNote:
        if self._witness is not None:
            due = float(self._pulse.due[index])
            end = due + max(0.06, 0.6 * float(written.duration) * self._quarter)
            spoken = self._witness(due, end, written.pitch.midi)
            if spoken.most > _HEARD_AFTER_ALL and spoken.begins > _BEGUN_AFTER_ALL:
                start = float(min(end, max(due - _NEAR, spoken.begun)))
                late = start - due
                return TakeNote(written.id, Verdict.RIGHT, written.pitch.midi, start, max(end, start), late, _SHAKY)
            return TakeNote(written.id, Verdict.MISSED, sure=1 - 0.5 * spoken.most)
        return TakeNote(written.id, Verdict.MISSED)

    def _slid_into(self, at: int, written: Note) -> DraftNote | None:
        """The note of the written pitch that follows at once and lasts longer, where it was slid into."""
        if at + 1 >= len(self._notes) or at + 1 in self._taken:
            return None
        note, after = self._notes[at], self._notes[at + 1]
        is_way = (
            after.midi == written.pitch.midi
            and abs(note.midi - after.midi) <= _ON_THE_WAY
            and after.start - note.end < 0.04
            and after.end - after.start >= note.end - note.start
        )
        if is_way:
            self._taken.add(at + 1)
        return after if is_way else None

    def _is_part_of_another(self, at: int) -> bool:
        """Whether a note that belongs to none is the rest of a bend, or the one before heard again."""
        note = self._notes[at]
        for index, partner in self._around(at):
            written, other = self._line.notes[index], self._notes[partner]
            low, high = _reach(written)
            away = note.midi - written.pitch.midi
            end = other.start + float(written.duration) * self._quarter + 0.1
            if other.start <= note.start <= end and (low or high) and low <= away <= high:
                return True
            if away == 0 and other.start <= note.start < end:
                return note.start - other.start < _ECHO or note.confidence < _ECHO_SURE
            # What slides into a note just before it.
            if 0 < other.start - note.start < 0.12 and abs(note.midi - other.midi) <= 2:
                return True
        return False

    def _around(self, at: int) -> list[tuple[int, int]]:
        """The pairs just before and after a heard note."""
        pairs = sorted(self._partner.items(), key=lambda pair: pair[1])
        before = [pair for pair in pairs if pair[1] < at][-1:]
        after = [pair for pair in pairs if pair[1] > at][:1]
        return before + after


def _reach(note: Note) -> tuple[int, int]:
    """How many semitones below and above its pitch a note may sound by what is written on it."""
    low = high = 0
    for mark in note.marks:
        if mark.articulation is Articulation.BEND:
            high = max(high, int(np.ceil(float(mark.semitones or 2))))
        elif mark.articulation in (Articulation.SCOOP, Articulation.FALL, Articulation.SLIDE):
            low = min(low, -2)
        elif mark.articulation is Articulation.TRILL:
            high = max(high, 2)
    return low, high
