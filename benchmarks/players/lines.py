"""Lines by chance, and how people play them: swing that lightens with the tempo, unevenness, slurs, scoops, bends.

What is known of a take afterwards is everything: the written solo, each note as it was played, the band, its beats, and
what somebody would have tapped. The swing of a line is lighter than the ride's and lessens as the tempo rises: A.
Friberg and A. Sundström, "Swing ratios and ensemble timing in jazz performance", Music Perception 19 (2002).
"""

from __future__ import annotations

import random
from dataclasses import dataclass, replace
from fractions import Fraction

from gavotte.solo.document import Articulation, ChordEvent, Instrument, Mark, Note, Solo
from gavotte.solo.instruments import instrument_named
from gavotte.sounding.events import Sound, Voice
from gavotte.sounding.performance import perform
from gavotte.theory.chord import Chord
from gavotte.theory.pitch import spell

CHANGES = (
    "Dm7", "G7", "Cmaj7", "A7b9", "Dm7", "G7", "Em7", "A7", "Fmaj7", "Fm6", "Cmaj7", "A7", "Dm7", "G7", "C6", "C6",
)  # fmt: skip
_UNEVEN = {Voice.SOLO: 0.013, Voice.BASS: 0.009, Voice.CHORDS: 0.012, Voice.DRUMS: 0.006}
_TAP_SPREAD = 0.02
_SIXTEENTH = Fraction(1, 4)
_SLURRED = 0.45


@dataclass(frozen=True)
class PlayedNote:
    """A note as somebody plays it: seconds, MIDI number, loudness 0 to 1, semitones it is ``bent`` up (and ``back``).

    ``slurred``: reached from the note before without a new attack. ``written`` is the note of the solo it is.
    """

    start: float
    end: float
    midi: int
    loudness: float
    slurred: bool
    written: Note
    bent: float = 0.0
    back: bool = False
    scooped: bool = False


@dataclass(frozen=True)
class Take:
    """A solo as it was played: its notes, the band's, the beats of the whole band and what a foot tapped (seconds)."""

    solo: Solo
    notes: tuple[PlayedNote, ...]
    band: tuple[Sound, ...]
    beats: tuple[float, ...]
    taps: tuple[float, ...]
    seconds: float


def composed(
    instrument: str | Instrument, tempo: int, seed: int, bends: bool = True, wide: int = 31, choruses: int = 1
) -> Solo:
    """Sixteen bars by chance, so many times: a line that mostly steps, aims at chord tones and rests now and then."""
    chance = random.Random(seed)
    player = instrument if isinstance(instrument, Instrument) else instrument_named(instrument)
    assert player is not None
    chords = tuple(ChordEvent(f"c{k}", Fraction(4 * k), text) for k, text in enumerate(CHANGES * choruses))
    low, high = player.lowest + 3, min(player.highest - 3, player.lowest + 3 + wide)
    pitch, now, notes = (low + high) // 2, Fraction(0), []
    end = Fraction(4 * len(chords))
    while now < end:
        roll = chance.random()
        lengths = (
            [Fraction(1, 3)] * 3 if roll < 0.15 else [Fraction(1, 2)] * 2 if roll < 0.75 else [Fraction(1)]
            if roll < 0.9 else [Fraction(2)]
        )  # fmt: skip
        if tempo <= 130 and chance.random() < 0.15:
            lengths = chance.choice(([_SIXTEENTH] * 4, [2 * _SIXTEENTH, _SIXTEENTH, _SIXTEENTH]))
        if chance.random() < 0.12:
            now += sum(lengths, Fraction(0))
            continue
        for length in lengths:
            symbol = chords[int(now // 4) % len(chords)].symbol
            assert isinstance(symbol, Chord)
            if chance.random() > 0.1:
                step = chance.choice((-5, -4, -3, -2, -2, -1, -1, 1, 1, 2, 2, 3, 4, 5))
                pitch = min(max(pitch + step, low), high)
                if chance.random() < 0.5:
                    pitch = min(
                        (p for p in range(low, high + 1) if p % 12 in symbol.tone_classes), key=lambda p: abs(p - pitch)
                    )
            bent = bends and length >= 1 and chance.random() < 0.25
            marks = (Mark(Articulation.BEND, Fraction(chance.choice((1, 2, 2, 3)))),) if bent else ()
            notes.append(Note(f"n{len(notes)}", now, length, spell(pitch, 0), marks=marks))
            now += length
    return Solo("By chance", instrument=player, tempo=Fraction(tempo), chords=chords, notes=tuple(notes), style="swing")


def swing_at(tempo: float) -> Fraction:
    """How many times as long a player's first eighth is as the second, at a tempo in quarter notes a minute."""
    return Fraction(round(20 * min(2.2, max(1.1, 2.2 - (tempo - 100) / 150))), 20)


def played(solo: Solo, seed: int, lead_in: float = 1.0) -> Take:
    """A solo as people play it, the first beat of bar 1 after ``lead_in`` seconds and a count-in of silence."""
    chance = random.Random(seed)
    tempo = float(solo.tempo or 120)
    performance, timeline = perform(solo, swing_at(tempo) if not solo.meters[0].meter.is_compound else None)
    offset = lead_in - performance.start
    laid_back = chance.uniform(0.0, 0.02)
    starts: list[float] = []
    written = [note for note in solo.notes if not note.grace]
    for note in written:
        uneven = min(0.035, max(-0.03, chance.gauss(0, _UNEVEN[Voice.SOLO])))
        starts.append(offset + timeline.seconds(note.onset) + laid_back + uneven)
    notes: list[PlayedNote] = []
    for index, note in enumerate(written):
        joins_on = index + 1 < len(written) and written[index + 1].onset == note.end
        length = timeline.seconds(note.end) - timeline.seconds(note.onset)
        until = starts[index + 1] if joins_on else starts[index] + length
        before = notes[-1] if notes else None
        can_slur = before is not None and written[index - 1].end == note.onset and before.midi != note.pitch.midi
        can_slur = can_slur and not (before is not None and before.bent)
        slurred = can_slur and chance.random() < _SLURRED
        if before is not None and slurred:
            notes[-1] = replace(before, end=starts[index])
        share = chance.uniform(0.72, 0.97) if note.duration <= 1 else chance.uniform(0.85, 0.98)
        bend = next((m.semitones for m in note.marks if m.articulation is Articulation.BEND), None)
        notes.append(
            PlayedNote(
                starts[index], starts[index] + max(0.05, share * (until - starts[index])), note.pitch.midi,
                chance.uniform(0.55, 1.0), slurred, note, float(bend or 0),
                bend is not None and chance.random() < 0.4,
                bend is None and not slurred and chance.random() < 0.08 and length > 0.2,
            )
        )  # fmt: skip
    people = {voice: chance.uniform(-0.006, 0.006) for voice in Voice}
    band = tuple(
        replace(sound, start=max(0.0, sound.start + offset + by), end=max(0.05, sound.end + offset + by))
        for sound in performance.sounds
        if sound.voice in (Voice.BASS, Voice.CHORDS, Voice.DRUMS)
        for by in (people[sound.voice] + chance.gauss(0, _UNEVEN[sound.voice]),)
    )
    grid = timeline.grid
    onsets = [
        bar.onset + beat.offset
        for bar in grid.bars if bar.number > 0
        for beat in bar.meter.beats if bar.onset + beat.offset < bar.end
    ]  # fmt: skip
    beats = tuple(offset + timeline.seconds(onset) for onset in onsets)
    early = chance.uniform(-0.015, 0.005)
    taps = tuple(beat + early + chance.gauss(0, _TAP_SPREAD) for beat in beats)
    seconds = offset + timeline.seconds(timeline.end) + 1.5
    return Take(solo, tuple(notes), band, beats, taps, seconds)
