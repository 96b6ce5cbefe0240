"""A performance as a MIDI file, as it is played: swing, choruses and all, each voice on a track of its own."""

from __future__ import annotations

import io
from collections.abc import Iterable

import mido

from gavotte.solo.document import Solo
from gavotte.sounding.events import Performance, Sound, Voice
from gavotte.sounding.timeline import DEFAULT_TEMPO

TICKS = 960
"""Ticks of a quarter note."""

_NAMES = {Voice.SOLO: "Solo", Voice.BASS: "Bass", Voice.CHORDS: "Chords", Voice.DRUMS: "Drums"}
_BASS_PROGRAM = 32


def midi_of(performance: Performance, solo: Solo, rate: float = 1.0) -> bytes:
    """The voices of a performance as a MIDI file of type 1, at a share of its tempo.

    Its tempo is the first one of ``solo``; where that changes, the notes keep their times in seconds.
    """
    tempo = float(solo.tempo or DEFAULT_TEMPO)
    file = mido.MidiFile(type=1, ticks_per_beat=TICKS)
    meter = solo.meters[0].meter
    file.tracks.append(
        mido.MidiTrack(
            [
                mido.MetaMessage("set_tempo", tempo=mido.bpm2tempo(tempo * rate)),
                mido.MetaMessage("time_signature", numerator=meter.count, denominator=meter.unit),
            ]
        )
    )
    ticks_a_second = TICKS * tempo / 60
    programs = {Voice.SOLO: performance.program, Voice.BASS: _BASS_PROGRAM, Voice.CHORDS: performance.chords_program}
    for voice, name in _NAMES.items():
        sounds = [sound for sound in performance.sounds if sound.voice is voice]
        if sounds:
            track = mido.MidiTrack([mido.MetaMessage("track_name", name=name)])
            if voice in programs:
                track.append(mido.Message("program_change", channel=int(voice), program=programs[voice]))
            track.extend(_messages(sounds, performance.start, ticks_a_second))
            file.tracks.append(track)
    out = io.BytesIO()
    file.save(file=out)
    return out.getvalue()


def _messages(sounds: Iterable[Sound], start: float, ticks_a_second: float) -> list[mido.Message]:
    timed: list[tuple[int, int, mido.Message]] = []
    for sound in sounds:
        channel = int(sound.voice)
        first = round((sound.start - start) * ticks_a_second)
        last = max(first + 1, round((sound.end - start) * ticks_a_second))
        on = mido.Message("note_on", channel=channel, note=sound.key, velocity=sound.loudness)
        timed.append((first, 1, on))
        timed.append((last, 0, mido.Message("note_off", channel=channel, note=sound.key, velocity=0)))
    now, messages = 0, []
    for ticks, _, message in sorted(timed, key=lambda one: one[:2]):
        messages.append(message.copy(time=ticks - now))
        now = ticks
    return messages
