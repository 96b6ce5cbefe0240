"""Writing MIDI: a solo with its chords and a click, on tracks of their own, exactly as written (no swing).

The first track holds tempo, meters, keys, section names as markers and chord symbols as texts.
"""

from __future__ import annotations

import io
from fractions import Fraction

import mido

from gavotte.notation.written import Notation
from gavotte.solo.document import Articulation, Solo
from gavotte.solo.instruments import GM_PROGRAMS
from gavotte.theory.chord import Chord
from gavotte.theory.key import Key
from gavotte.theory.voicing import voicings

TICKS = 960
"""Ticks of a quarter note."""

_SOLO_CHANNEL, _CHORD_CHANNEL, _DRUM_CHANNEL = 0, 1, 9
_GRACE = Fraction(1, 8)
_CLICK, _STRONG_CLICK = 76, 75

_Timed = list[tuple[Fraction, int, mido.Message]]


def write_midi(solo: Solo) -> bytes:
    """The solo as a MIDI file of type 1: tempo and texts, solo, chords, click."""
    notation = Notation(solo)
    # Nothing may start before 0 in a MIDI file: a pickup moves everything by a full bar.
    first = notation.grid.bars[0]
    shift = first.meter.bar_length if first.number == 0 else Fraction(0)
    file = mido.MidiFile(type=1, ticks_per_beat=TICKS)
    for name, timed in (
        (solo.title, _conductor(solo, -shift)),
        (solo.instrument.name, _solo(solo, -shift)),
        ("Chords", _chords(solo, -shift, notation.grid.bars[-1].end)),
        ("Click", _click(notation)),
    ):
        track = mido.MidiTrack([mido.MetaMessage("track_name", name=_latin(name), time=0)])
        now = 0
        for time, _, message in sorted(timed, key=lambda item: (item[0], item[1])):
            ticks = max(0, round((time + shift) * TICKS))
            track.append(message.copy(time=ticks - now))
            now = ticks
        file.tracks.append(track)
    out = io.BytesIO()
    file.save(file=out)
    return out.getvalue()


def _latin(text: str) -> str:
    """Text as MIDI files hold it: music signs as letters, anything else that does not fit as a question mark."""
    plain = text.replace("♭", "b").replace("♯", "#")
    return plain.encode("latin-1", "replace").decode("latin-1")


def _conductor(solo: Solo, start: Fraction) -> _Timed:
    tempos = [(start, solo.tempo or 120), *((change.onset, change.tempo) for change in solo.tempo_changes)]
    timed: _Timed = [(onset, 0, mido.MetaMessage("set_tempo", tempo=mido.bpm2tempo(float(t)))) for onset, t in tempos]
    for meter in solo.meters:
        signature = mido.MetaMessage("time_signature", numerator=meter.meter.count, denominator=meter.meter.unit)
        timed.append((meter.onset if meter.onset else start, 1, signature))
    for region in solo.keys:
        name = _key_name(region.key)
        timed.append((region.onset if region.onset else start, 2, mido.MetaMessage("key_signature", key=name)))
    timed += [(s.onset, 3, mido.MetaMessage("marker", text=_latin(s.label))) for s in solo.sections]
    timed += [(c.onset, 4, mido.MetaMessage("text", text=_latin(c.text))) for c in solo.chords]
    return timed


def _key_name(key: Key) -> str:
    """The major or minor key with the same signature, within the seven sharps or flats that MIDI knows."""
    fifths = max(-7, min(7, key.fifths))
    return f"{Key.from_fifths(fifths, 'minor').tonic}m" if key.mode == "minor" else str(Key.from_fifths(fifths).tonic)


def _solo(solo: Solo, start: Fraction) -> _Timed:
    program = GM_PROGRAMS.get(solo.instrument.name, 0)
    timed: _Timed = [(start, 0, mido.Message("program_change", channel=_SOLO_CHANNEL, program=program))]
    for note in solo.notes:
        loudness = 108 if note.has(Articulation.ACCENT) else 48 if note.has(Articulation.GHOST) else 88
        length = _GRACE if note.grace else note.duration
        struck = note.onset - _GRACE if note.grace else note.onset
        timed += _sound(_SOLO_CHANNEL, note.pitch.midi, struck, struck + length, loudness)
    return timed


def _chords(solo: Solo, begin: Fraction, end: Fraction) -> _Timed:
    timed: _Timed = [(begin, 0, mido.Message("program_change", channel=_CHORD_CHANNEL, program=0))]
    spans = [
        (event.onset, following, symbol)
        for event, following in zip(solo.chords, (*(c.onset for c in solo.chords[1:]), end), strict=False)
        if isinstance(symbol := event.symbol, Chord) and following > event.onset
    ]
    for (start, stop, _), notes in zip(spans, voicings(symbol for _, _, symbol in spans), strict=True):
        for note in notes:
            timed += _sound(_CHORD_CHANNEL, note, start, stop, 60)
    return timed


def _click(notation: Notation) -> _Timed:
    timed: _Timed = []
    for bar in notation.grid.bars:
        for beat in bar.meter.beats:
            time = bar.onset - bar.lead_in + beat.offset
            if bar.onset <= time < bar.end:
                key = _STRONG_CLICK if beat.strong else _CLICK
                timed += _sound(_DRUM_CHANNEL, key, time, time + Fraction(1, 8), 70)
    return timed


def _sound(channel: int, key: int, start: Fraction, stop: Fraction, loudness: int) -> _Timed:
    """A note's two messages; at the same time what ends comes before what begins."""
    return [
        (start, 6, mido.Message("note_on", channel=channel, note=key, velocity=loudness)),
        (stop, 5, mido.Message("note_off", channel=channel, note=key, velocity=0)),
    ]
