"""The solo as it sounds: articulations, bends, slides, ghosts and graces become lengths, loudness and pitch."""

from __future__ import annotations

from fractions import Fraction

from gavotte.giving_way import give_way
from gavotte.solo.document import Articulation, Note, Solo
from gavotte.sounding.events import Sound, Voice
from gavotte.sounding.timeline import Timeline

BEND_RANGE = 12
"""Semitones the soloist's pitch can be bent either way."""

_GRACE = 0.09
_PLAIN, _LIGHT, _ACCENTED, _GHOSTED = 84, 72, 112, 40
_GAP = 0.015
_STEPS = 8
_TRILL = 0.085
_JOINED = (Articulation.HAMMER_ON, Articulation.PULL_OFF, Articulation.SLIDE)


def solo_sounds(solo: Solo, timeline: Timeline) -> list[Sound]:
    """The solo's notes as they sound."""
    sounds: list[Sound] = []
    graces = _grace_places(solo.notes)
    for index, note in enumerate(solo.notes):
        give_way()
        before = solo.notes[index - 1] if index else None
        following = solo.notes[index + 1] if index + 1 < len(solo.notes) else None
        if note.grace:
            start = timeline.seconds(note.onset) - graces[index] * _GRACE
            sounds.append(Sound(Voice.SOLO, start, start + _GRACE, note.pitch.midi, _LIGHT))
        else:
            sounds += _note(note, before, following, timeline)
    return sounds


def _grace_places(notes: tuple[Note, ...]) -> dict[int, int]:
    """For each grace note, how many graces there are from it to the note it leans on."""
    places: dict[int, int] = {}
    run = 0
    for index in range(len(notes) - 1, -1, -1):
        run = run + 1 if notes[index].grace else 0
        if run:
            places[index] = run
    return places


def _note(note: Note, before: Note | None, following: Note | None, timeline: Timeline) -> list[Sound]:
    start, end = timeline.seconds(note.onset), timeline.seconds(note.end)
    length = end - start
    joined = following is not None and (
        following.has(Articulation.HAMMER_ON)
        or following.has(Articulation.PULL_OFF)
        or following.has(Articulation.SLIDE)
    )
    if note.has(Articulation.STACCATO):
        length = min(length, max(0.06, length * 0.5))
    elif note.has(Articulation.MARCATO):
        length = max(0.06, length * 0.7)
    elif not (joined or note.has(Articulation.TENUTO)):
        length = max(0.05, length - _GAP)
    if note.has(Articulation.TRILL):
        return _trill(note, start, length)
    bends = _bends(note, before, length)
    return [Sound(Voice.SOLO, start, start + length, note.pitch.midi, _loudness(note), tuple(bends))]


def _loudness(note: Note) -> int:
    if note.has(Articulation.GHOST):
        return _GHOSTED
    if note.has(Articulation.ACCENT) or note.has(Articulation.MARCATO):
        return _ACCENTED
    if note.has(Articulation.HAMMER_ON) or note.has(Articulation.PULL_OFF) or note.has(Articulation.HARMONIC):
        return _LIGHT
    return _PLAIN


def _bends(note: Note, before: Note | None, length: float) -> list[tuple[float, float]]:
    """The pitch's way through the note, in semitones from what is written."""
    bends: list[tuple[float, float]] = []
    if note.has(Articulation.SLIDE) and before is not None:
        away = max(-BEND_RANGE, min(BEND_RANGE, before.pitch.midi - note.pitch.midi))
        bends += _glide(0.0, min(0.12, length * 0.4), float(away or -2), 0.0)
    elif note.has(Articulation.SCOOP):
        bends += _glide(0.0, min(0.11, length * 0.5), -1.0, 0.0)
    for mark in note.marks:
        if mark.articulation is Articulation.BEND:
            # The written pitch is the one fretted; the string is pushed up in the first third.
            semitones = float(mark.semitones if mark.semitones is not None else Fraction(1))
            bends += _glide(min(0.05, length * 0.1), min(0.35, length * 0.45), 0.0, semitones)
    if note.has(Articulation.FALL):
        bends += _glide(length * 0.55, length, 0.0, -5.0)
    return bends


def _glide(start: float, end: float, low: float, high: float) -> list[tuple[float, float]]:
    """An even glide in small steps."""
    return [(start + (end - start) * step / _STEPS, low + (high - low) * step / _STEPS) for step in range(_STEPS + 1)]


def _trill(note: Note, start: float, length: float) -> list[Sound]:
    """The note and the one a whole tone above in turn, ending on the note."""
    count = max(1, int(length / _TRILL)) | 1
    step = length / count
    return [
        Sound(
            Voice.SOLO,
            start + index * step,
            start + (index + 1) * step,
            note.pitch.midi + 2 * (index % 2),
            _loudness(note) if index == 0 else _LIGHT,
        )
        for index in range(count)
    ]
